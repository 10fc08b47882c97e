"""Every check: a build that makes it fire at each severity, and one that does not."""

import unittest
from typing import Any

from tests.builds import DEAD_HEAD, TANK_REGULATOR, document, plan, severity, strung
from uphill_spark.core.findings import CHECKS

ROWS = [{"cylinder": c, "dry": "1100 kPa"} for c in range(1, 7)]


def compression(**changed: str) -> list[dict[str, Any]]:
    return [{**row, "dry": changed.get(f"c{row['cylinder']}", row["dry"])} for row in ROWS]


#: Code, demo car, changes, the severities that must be among what the check says.
CASES: list[tuple[str, str, dict[str, Any], str]] = [
    ("ENG-01", "tern", {"/engine/compression": compression(c2="970 kPa")}, "watch"),
    ("ENG-01", "tern", {"/engine/compression": compression(c2="800 kPa")}, "sort_out"),
    ("ENG-01", "tern", {"/engine/compression": compression(c2="700 kPa")}, "stop"),
    ("ENG-01", "tern", {"/engine/compression": [{**r, "dry": "590 kPa"} for r in ROWS]}, "stop"),
    ("ENG-01", "tern", {"/engine/compression": ROWS[:5]}, "unknown"),
    ("ENG-01", "tern", {"/engine/compression": [{**r, "dry": "1900 kPa"} for r in ROWS]}, "watch"),
    ("ENG-02", "tern", {"/engine/compression/6/leak_down": "15 %"}, "watch"),
    ("ENG-02", "tern", {"/engine/compression/6/leak_down": "25 %", "/engine/compression/6/escapes": "exhaust"}, "sort_out"),
    ("ENG-02", "tern", {"/engine/compression/6/leak_down": "0.32"}, "stop"),
    ("ENG-02", "tern", {"/engine/compression": compression()[:0]}, "note"),
    ("ENG-03", "tern", {"/engine/compression": compression(c2="800 kPa", c3="850 kPa")}, "sort_out"),
    ("ENG-03", "tern", {"/engine/compression": compression(c2="800 kPa", c4="850 kPa")}, "sound"),
    ("ENG-03", "tern", {"/engine/compression": []}, "unknown"),
    ("ENG-04", "tern", {"/engine/health/1/vacuum": "45 kPa"}, "watch"),
    ("ENG-04", "tern", {"/engine/health": []}, "note"),
    ("ENG-08", "tern", {"/engine/octane": 91}, "watch"),
    ("ENG-08", "tern", {"/engine/octane": 87}, "sort_out"),
    ("ENG-08", "tern", {"/engine/octane": None}, "note"),
    ("ENG-08", "tern", {"/engine/boost": "80 kPa"}, "sort_out"),
    ("AIR-04", "hollin", {"/air/reservoir": "0.5 L"}, "watch"),
    ("ENG-10", "tern", {"/engine/run/time": "5 s"}, "watch"),
    ("ENG-09", "tern", {"/tune/load": "throttle"}, "sort_out"),
    ("ENG-09", "hollin", {"/tune/load": "manifold_pressure"}, "sort_out"),
    ("ENG-09", "hollin", {}, "sound"),
    ("ENG-10", "tern", {"/engine/power": "135 kW"}, "watch"),
    ("ENG-10", "tern", {"/engine/run/time": "4.5 s"}, "watch"),
    ("ENG-05", "tern", {"/engine/power": "119 kW"}, "watch"),
    ("ENG-05", "tern", {"/engine/power": "135 kW"}, "sort_out"),
    ("ENG-05", "tern", {"/engine/power": "150 kW"}, "stop"),
    ("ENG-06", "tern", {"/engine/rev_limit": "7600 rpm"}, "watch"),
    ("ENG-06", "tern", {"/engine/rev_limit": "9500 rpm"}, "stop"),
    ("ENG-06", "tern", {"/engine/stroke": None, "/engine/bore": None}, "unknown"),
    ("ENG-07", "tern", {"/engine/firing_order": [1, 2, 3, 4, 5, 6], "/ignition/outputs": []}, "stop"),
    ("ENG-07", "tern", {"/engine/arrangement": "vee", "/engine/banks": [[1, 3, 5], [2, 4, 6]]}, "stop"),
    ("FUEL-01", "tern", {"/engine/power": "500 kW"}, "stop"),
    ("FUEL-01", "tern", {"/fuel/design_margin": "4"}, "watch"),
    ("FUEL-02", "tern", {"/fuel/wire/size": "2.5 mm2"}, "watch"),
    ("FUEL-02", "tern", {"/fuel/wire/size": "0.75 mm2"}, "sort_out"),
    ("FUEL-02", "tern", {"/fuel/wire/size": "0.5 mm2", "/engine/power": "380 kW"}, "stop"),
    ("FUEL-04", "tern", {"/fuel/parts/supply/bore": "5.4 mm"}, "watch"),
    ("FUEL-04", "tern", {"/fuel/parts/supply/bore": "3.5 mm"}, "sort_out"),
    ("FUEL-06", "tern", {"/fuel/parts/return_line/bore": "6.3 mm"}, "watch"),
    ("FUEL-06", "tern", {"/fuel/parts/return_line/bore": "4.8 mm"}, "sort_out"),
    ("FUEL-09", "tern", {"/fuel/parts/supply/material": "30R7"}, "stop"),
    ("FUEL-09", "tern", {"/fuel/parts/supply/material": "soft_alloy_tube"}, "stop"),
    ("FUEL-09", "tern", {"/fuel/parts/supply/material": "30R9", "/fuel/regulator/set_pressure": "500 kPa"}, "stop"),
    ("FUEL-09", "hollin", {"/fuel/parts/return_line/material": "30R9"}, "stop"),
    ("FUEL-14", "tern", {"/fuel/pump/control": "key"}, "stop"),
    ("FUEL-19", "tern", {"/fuel/regulator/set_pressure": "480 kPa"}, "watch"),
    ("FUEL-19", "tern", {"/fuel/pump/curve/7/flow": "90 L/h"}, "watch"),
    ("FUEL-03", "tern", {"/fuel/wire/size": "0.3 mm2", "/fuel/wire/length": "7 m", "/engine/power": "135 kW"}, "watch"),
    ("FUEL-03", "tern", {"/fuel/wire/size": "0.2 mm2", "/fuel/wire/length": "25 m"}, "watch"),
    ("FUEL-05", "tern", {"/fuel/parts/supply/bore": "6.3 mm"}, "sort_out"),
    ("FUEL-05", "hollin", {"/fuel/parts/suction/bore": "9 mm"}, "sort_out"),
    ("FUEL-05", "tern", {"/fuel/pump/outlet_bore": None}, "unknown"),
    ("FUEL-15", "tern", {"/fuel/pump/relief": None}, "unknown"),
    ("FUEL-07", "hollin", {"/fuel/tank/hottest": "52 degC"}, "watch"),
    ("FUEL-07", "hollin", {"/fuel/tank/hottest": "60 degC"}, "stop"),
    ("FUEL-07", "hollin", strung("hollin", out="suction"), "unknown"),
    ("FUEL-08", "hollin", {"/fuel/lift/head": "-0.2 m"}, "sort_out"),
    ("FUEL-08", "hollin", {"/fuel/parts/suction/fittings": [{"kind": "elbow_90", "count": 1}]}, "sort_out"),
    ("FUEL-08", "hollin", {"/fuel/parts/suction/rise": "0.3 m"}, "sort_out"),
    ("FUEL-08", "hollin", {"/fuel/parts/strainer/fineness": "30 um"}, "sort_out"),
    ("FUEL-08", "hollin", {"/fuel/parts/suction/bore": "7 mm"}, "sort_out"),
    ("FUEL-10", "tern", {"/fuel/tank/return_enters": "above_fuel"}, "sort_out"),
    ("FUEL-11", "tern", {"/fuel/parts/filter/due": True}, "sort_out"),
    ("FUEL-11", "tern", {"/fuel/parts/filter/fineness": "60 um"}, "sort_out"),
    ("FUEL-11", "hollin", strung("hollin", out="strainer"), "sort_out"),
    ("FUEL-11", "tern", strung("tern", out="filter"), "sort_out"),
    ("FUEL-12", "tern", TANK_REGULATOR | {"/fuel/regulator/reference": "manifold"}, "sort_out"),
    ("FUEL-12", "tern", {"/fuel/regulator/set_pressure": "500 kPa"}, "sort_out"),
    ("FUEL-12", "tern", {"/fuel/regulator/set_pressure": "150 kPa"}, "stop"),
    ("FUEL-12", "tern", {"/engine/boost": "60 kPa", "/fuel/regulator/reference": "open_air"}, "sort_out"),
    ("FUEL-12", "tern", {"/engine/boost": "140 kPa", "/fuel/regulator/reference": "open_air"}, "stop"),
    ("FUEL-12", "tern", {"/engine/boost": "60 kPa"}, "sound"),
    ("FUEL-13", "hollin", {"/fuel/path": [*document("hollin")["fuel"]["path"][:-1], "tank"]}, "sort_out"),
    ("FUEL-13", "hollin", {"/fuel/lift/flow": "60 L/h"}, "sort_out"),
    ("FUEL-13", "hollin", {"/fuel/lift/usable": "0.15 L"}, "watch"),
    ("FUEL-15", "tern", {"/fuel/pump/relief": "340 kPa"}, "sort_out"),
    ("FUEL-15", "tern", DEAD_HEAD | {"/fuel/pump/relief": None}, "sort_out"),
    ("FUEL-15", "hollin", {"/fuel/pump/relief": "800 kPa"}, "sort_out"),
    ("FUEL-16", "tern", {"/fuel/parts/supply/exhaust_distance": "30 mm"}, "stop"),
    ("FUEL-16", "tern", {"/fuel/parts/supply/exhaust_distance": "70 mm"}, "sort_out"),
    ("FUEL-16", "tern", {"/fuel/parts/supply/exhaust_distance": "70 mm", "/fuel/parts/supply/shielded": True}, "watch"),
    ("FUEL-16", "tern", {"/fuel/parts/supply/exhaust_distance": None}, "unknown"),
    ("FUEL-16", "tern", {"/fuel/parts/return_line/route": "cabin_with_joints"}, "stop"),
    ("FUEL-16", "tern", {"/fuel/parts/supply/clamps": "slotted_band"}, "sort_out"),
    ("FUEL-16", "tern", {"/fuel/parts/supply/clips": "450 mm"}, "watch"),
    ("FUEL-16", "tern", {"/fuel/parts/supply/clips": "1 m"}, "sort_out"),
    ("FUEL-16", "hollin", {"/fuel/parts/supply/route": "cabin_continuous"}, "stop"),
    ("FUEL-16", "tern", {"/fuel/parts/supply/route": "cabin_continuous"}, "sound"),
    ("FUEL-17", "tern", {"/fuel/tank/volume": "20 L"}, "watch"),
    ("FUEL-17", "tern", {"/fuel/tank/volume": "200 L"}, "sound"),
    ("FUEL-18", "tern", {"/fuel/tank/leaded": True}, "stop"),
    ("INJ-01", "tern", {"/injectors/flow": "125 g/min", "/injectors/duty_limit": "0.8"}, "watch"),
    ("INJ-01", "tern", {"/injectors/flow": "115 g/min"}, "sort_out"),
    ("INJ-01", "tern", {"/injectors/flow": "95 g/min"}, "stop"),
    ("INJ-02", "tern", {"/injectors/flow": "450 g/min"}, "watch"),
    ("INJ-02", "tern", {"/injectors/flow": "700 g/min"}, "sort_out"),
    ("INJ-03", "tern", {"/fuel/regulator/set_pressure": "350 kPa"}, "note"),
    ("INJ-03", "tern", {"/injectors/fluid": "working_fuel"}, "sound"),
    ("INJ-04", "tern", {"/injectors/resistance": "2.2 ohm"}, "stop"),
    ("INJ-04", "tern", {"/injectors/driver": "peak_and_hold"}, "watch"),
    ("INJ-05", "tern", {"/injectors/bench/0/volume": "102.5 mL"}, "watch"),
    ("INJ-05", "tern", {"/injectors/bench/0/volume": "98 mL"}, "sort_out"),
    ("INJ-05", "tern", {"/injectors/bench/0/drops": 1}, "sort_out"),
    ("INJ-05", "tern", {"/injectors/bench/0/drops": 2}, "stop"),
    ("INJ-05", "tern", {"/injectors/bench/0/spray": "streaky"}, "watch"),
    ("INJ-05", "tern", {"/injectors/bench/0/spray": "jet"}, "sort_out"),
    ("INJ-05", "tern", {"/injectors/flow": "180 g/min"}, "watch"),
    ("INJ-05", "tern", {"/injectors/bench": []}, "note"),
    ("INJ-06", "tern", {"/fuel/regulator/reference": "open_air"}, "sort_out"),
    ("INJ-06", "tern", {"/fuel/regulator/reference": "open_air", "/engine/cam": "competition"}, "watch"),
    ("INJ-06", "tern", {"/fuel/regulator/reference": "open_air", "/injectors/unit_compensates": True}, "sound"),
    ("INJ-08", "tern", {"/injectors/fed": "constant_ground"}, "stop"),
    ("INJ-09", "tern", {"/injectors/outputs/0/cylinders": [5], "/injectors/outputs/1/cylinders": [1]}, "stop"),
    ("INJ-09", "tern", {"/injectors/outputs/0/cylinders": [2]}, "stop"),
    ("INJ-09", "tern", {"/injectors/outputs": []}, "unknown"),
    ("INJ-09", "tern", {"/injectors/outputs": [], "/injectors/firing": "every_turn"}, "note"),
    ("INJ-07", "tern", {"/injectors/dead_time": []}, "watch"),
    ("AIR-01", "tern", {"/air/throttle": None}, "unknown"),
    ("AIR-01", "tern", {"/air/throttle/bore": "49 mm"}, "watch"),
    ("AIR-01", "tern", {"/air/throttle/bore": "44 mm"}, "sort_out"),
    ("AIR-01", "tern", {"/air/throttle/bore": "85 mm"}, "watch"),
    ("AIR-01", "hollin", {"/air/linkage/lever": "60 mm", "/air/throttle/bore": "34 mm"}, "watch"),
    ("AIR-02", "tern", {"/air/linkage": None}, "unknown"),
    ("AIR-02", "tern", {"/air/linkage/moves": "binds"}, "stop"),
    ("AIR-02", "tern", {"/air/linkage/moves": "not_tried"}, "unknown"),
    ("AIR-02", "tern", {"/air/linkage/lever": "30 mm"}, "sort_out"),
    ("AIR-02", "tern", {"/air/linkage/lever": "20 mm"}, "sort_out"),
    ("AIR-02", "tern", {"/air/linkage/slack": "8 mm"}, "watch"),
    ("AIR-02", "tern", {"/air/linkage/clearance": "2 mm"}, "sort_out"),
    ("AIR-02", "tern", {"/air/linkage/clearance": None}, "unknown"),
    ("AIR-03", "tern", {"/air/linkage": None}, "unknown"),
    ("AIR-03", "tern", {"/air/linkage/springs": 1}, "sort_out"),
    ("AIR-03", "tern", {"/air/linkage/springs": 0}, "stop"),
    ("AIR-03", "tern", {"/air/linkage/springs": 1, "/air/linkage/body_spring_shuts": True}, "sound"),
    ("AIR-04", "tern", {"/air": {}}, "unknown"),
    ("AIR-04", "tern", {"/air/ports/runner 3/capped": False}, "sort_out"),
    ("AIR-04", "tern", {"/air/consumers/0/port": None}, "stop"),
    ("AIR-04", "tern", {"/air/consumers/0/check_valve": False}, "sort_out"),
    ("AIR-04", "tern", {"/air/consumers/1/port": "air box"}, "sort_out"),
    ("AIR-04", "tern", {"/air/consumers/2/port": "sensor"}, "sort_out"),
    ("AIR-05", "tern", {"/air": {}}, "unknown"),
    ("AIR-05", "tern", {"/air/consumers/3/port": "air box", "/air/consumers/4/port": "plenum front"}, "sort_out"),
    ("AIR-05", "tern", {"/air/consumers/4": None}, "sort_out"),
    ("AIR-06", "tern", {"/air/linkage": None}, "unknown"),
    ("AIR-06", "tern", {"/air/linkage/gearbox_cable": "not_set"}, "stop"),
    ("AIR-06", "tern", {"/air/linkage/gearbox_cable": "set"}, "sound"),
    ("SENS-01", "tern", {"/sensors/decisions/crank": "struck"}, "stop"),
    ("SENS-01", "tern", {"/sensors/decisions/crank": None}, "unknown"),
    ("TRIG-05", "tern", {"/sensors/trigger/stroke": "exhaust"}, "stop"),
    ("TRIG-05", "tern", {"/sensors/trigger/angle": None}, "stop"),
    ("TRIG-05", "tern", {"/sensors/trigger/light_observed": "14 deg"}, "stop"),
    ("TRIG-05", "tern", {"/sensors/trigger/light_observed": None}, "watch"),
    ("TRIG-05", "tern", {"/sensors/trigger": None}, "unknown"),
    ("TRIG-05", "hollin", {"/sensors/trigger/stroke": "not_checked"}, "unknown"),
    ("IGN-01", "tern", {"/ignition/kind": "contact_points", "/ignition/speed_signal": "coil_negative"}, "stop"),
    ("IGN-01", "tern", {"/ignition/ballast": True, "/ignition/speed_signal": "coil_negative"}, "stop"),
    ("IGN-01", "tern", {"/ignition/kind": "capacitive_discharge", "/ignition/speed_signal": "coil_negative"}, "stop"),
    ("IGN-01", "tern", {"/ignition/multi_spark": True, "/ignition/speed_signal": "tach_output"}, "stop"),
    ("IGN-03", "tern", {"/ignition/kind": "timed_distributor", "/ignition/outputs": [], "/engine/rev_limit": "5500 rpm"}, "watch"),
    ("IGN-03", "tern", {"/ignition/kind": "timed_distributor", "/ignition/outputs": [], "/ignition/coil/current": "10 A"}, "sort_out"),
    ("IGN-03", "tern", {"/ignition/coil/current": "29 A"}, "sort_out"),
    (
        "IGN-04",
        "tern",
        {"/ignition/outputs": [{"name": "A", "cylinders": [3, 4]}, {"name": "B", "cylinders": [5, 2]}, {"name": "C", "cylinders": [1, 6]}]},
        "stop",
    ),
    ("IGN-04", "tern", {"/ignition/outputs": []}, "unknown"),
    ("IGN-06", "tern", {"/ignition/advance": "working"}, "stop"),
    ("IGN-06", "tern", {"/ignition/timed_by_unit": False}, "stop"),
    ("WIRE-01", "tern", {"/wiring/feed/taken_from": "alternator"}, "stop"),
    ("WIRE-01", "tern", {"/wiring/feed/fuse_distance": "40 cm"}, "stop"),
    ("WIRE-02", "tern", {"/wiring/feed/crank": "9.5 V"}, "watch"),
    ("WIRE-02", "tern", {"/wiring/feed/crank": "8 V"}, "stop"),
    ("WIRE-02", "tern", {"/wiring/feed/run": "11.4 V"}, "sort_out"),
    ("WIRE-02", "tern", {"/wiring/feed/off": "4 V"}, "sort_out"),
    ("WIRE-02", "tern", {"/wiring/feed/crank": None}, "unknown"),
    ("WIRE-03", "tern", {"/fuel/wire/size": "2.5 mm2"}, "watch"),
    (
        "WIRE-03",
        "tern",
        {"/wiring/overrides": {"unit_ground": {"size": "0.5 mm2"}}, "/wiring/branches/firewall_unit/length": "4 m"},
        "sort_out",
    ),
    ("WIRE-05", "tern", {"/wiring/fuses": {"coils": 30}}, "stop"),
    ("WIRE-05", "tern", {"/wiring/fuses": {"pump": 7.5}}, "sort_out"),
    ("WIRE-07", "tern", {"/wiring/profile": "small_4"}, "stop"),
    ("WIRE-07", "hollin", {"/wiring/extras": ["fan", "tachometer", "idle_valve", "warning_lamp"]}, "stop"),
    ("TUNE-01", "tern", {"/tune/typed/injector_flow": "180 g/min"}, "stop"),
    ("TUNE-01", "tern", {"/tune/typed/cylinders": 4}, "stop"),
    ("TUNE-01", "tern", {"/tune/typed": {}}, "unknown"),
    ("TUNE-02", "tern", {"/injectors/flow": "70 g/min"}, "stop"),
    ("TUNE-02", "tern", {"/fuel/wire/size": "0.2 mm2", "/fuel/wire/length": "20 m"}, "stop"),
]


class EachCheck(unittest.TestCase):
    def test_fires_when_it_should(self) -> None:
        for code, car, changes, wanted in CASES:
            with self.subTest(code=code, changes=str(changes)[:70], wanted=wanted):
                self.assertIn(wanted, severity(code, car, changes))

    def test_is_quiet_on_the_tidy_car(self) -> None:
        for check in CHECKS:
            self.assertLessEqual(severity(check.code), {"sound", "note"} | ({"watch"} if check.code == "FUEL-17" else set()), check.code)

    def test_no_check_is_without_a_case(self) -> None:
        self.assertEqual({code for code, *_ in CASES}, {c.code for c in CHECKS})

    def test_a_usual_cap_may_start_at_any_post(self) -> None:
        posts = [{"name": f"post {i}", "cylinders": [c]} for i, c in enumerate((3, 6, 2, 4, 1, 5), 1)]
        self.assertEqual(severity("IGN-04", "tern", {"/ignition/kind": "timed_distributor", "/ignition/outputs": posts}), {"sound"})

    def test_rich_or_lean_is_told_the_right_way_round(self) -> None:
        def why(flow: str) -> str:
            return next(f.why for f in plan("tern", {"/tune/typed/injector_flow": flow}).findings if f.code == "TUNE-01")

        self.assertIn("rich", why("120 g/min"))  # told smaller than they are: opened longer
        self.assertIn("lean", why("190 g/min"))

    def test_what_to_do_about_a_driver_is_a_ballast_that_works(self) -> None:
        found = next(f for f in plan("tern", {"/injectors/resistance": "2.2 ohm"}).findings if f.code == "INJ-04")
        self.assertIn("ballast of 2.4 Ω", found.do)
        self.assertIn("sound", severity("INJ-04", "tern", {"/injectors/resistance": "2.2 ohm", "/injectors/ballast": "2.5 ohm"}))


if __name__ == "__main__":
    unittest.main()
