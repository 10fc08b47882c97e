"""Verdicts that real conversions found wrong, each with the right one and the right mend; and facts that people have, each with what it moves."""

import math
import unittest
from typing import Any

from tests.builds import document, edited, plan, severity, worked
from uphill_spark.core.carried import edited as carry
from uphill_spark.core.findings import barring, holding
from uphill_spark.core.given import parse
from uphill_spark.core.given.document import upgraded
from uphill_spark.core.given.fuel import RatedPoint
from uphill_spark.core.given.injectors import Donor
from uphill_spark.core.plan import evaluate
from uphill_spark.core.shaped import injector_flow, pump_curve
from uphill_spark.core.stages.sensors.keyon import manifold_band
from uphill_spark.core.stages.start.steps import AGREE

#: A throttle body on the Tern, spraying above its plates on a regulator that sees the open air.
ABOVE: dict[str, Any] = {"/injectors/enters": "above_plates", "/fuel/regulator/reference": "open_air"}


def said(code: str, car: str = "tern", changes: dict[str, Any] | None = None) -> str:
    return " ".join(f"{f.why} {f.do}" for f in plan(car, changes).findings if f.code == code)


class WhereFuelEnters(unittest.TestCase):
    def test_above_the_plates_open_air_is_right_and_a_hose_is_not(self) -> None:
        self.assertEqual(severity("INJ-06", "tern", ABOVE), {"sound"})
        self.assertEqual(severity("FUEL-12", "tern", ABOVE), {"sound"})
        hose = {**ABOVE, "/fuel/regulator/reference": "manifold"}
        self.assertEqual(severity("INJ-06", "tern", hose), {"sort_out"})
        self.assertIn("open to the air", said("INJ-06", "tern", hose))

    def test_a_hose_makes_it_as_lean_as_the_root_of_the_pressures(self) -> None:
        p = worked("tern", {**ABOVE, "/fuel/regulator/reference": "manifold"})
        vacuum = p.engine.ambient_pressure_pa - p.engine.idle_manifold_pressure_pa
        self.assertAlmostEqual(p.injectors.across_left, math.sqrt((300e3 - vacuum) / 300e3) - 1, places=3)

    def test_a_unit_that_scales_by_the_manifold_is_wrong_above_the_plates(self) -> None:
        found = {**ABOVE, "/injectors/unit_compensates": True}
        self.assertEqual(severity("INJ-06", "tern", found), {"sort_out"})
        self.assertIn("Switch that correction off", said("INJ-06", "tern", found))

    def test_the_gauge_and_the_flow_follow(self) -> None:
        above, below = worked("tern", ABOVE), worked("tern", {"/fuel/regulator/reference": "open_air"})
        self.assertAlmostEqual(above.fuel.points["idle"].held_across_pa, 300e3, delta=1e3)
        self.assertGreater(below.injectors.flow_idle_kg_s, 1.05 * above.injectors.flow_idle_kg_s)

    def test_a_blower_before_the_plates_presses_on_them_and_one_behind_does_not(self) -> None:
        boosted = {**ABOVE, "/engine/boost": "60 kPa"}
        self.assertEqual(severity("FUEL-12", "tern", boosted), {"sort_out"})
        self.assertIn("duct before the plates", said("FUEL-12", "tern", boosted))
        behind = {**boosted, "/engine/blower": {"sits": "after_throttle"}}
        self.assertEqual(severity("FUEL-12", "tern", behind), {"sound"})
        self.assertEqual(severity("INJ-06", "tern", {**boosted, "/fuel/regulator/reference": "duct"}), {"sound"})

    def test_an_old_file_says_it_by_its_layout_in_pencil(self) -> None:
        old = document("brindle") | {"version": 4}
        del old["injectors"]["enters"]
        new = upgraded(old)
        self.assertEqual(new["injectors"]["enters"], "above_plates")
        self.assertEqual(new["marks"]["/injectors/enters"], {"kind": "assumed"})
        old = document("tern") | {"version": 4}
        del old["injectors"]["enters"], old["wiring"]["unit"]
        new = upgraded(old)
        self.assertEqual((new["injectors"]["enters"], "/injectors/enters" in new["marks"]), ("below_plates", False))
        self.assertEqual(new["wiring"].get("unit"), None)  # its coil plugs are lettered: nobody said by what
        self.assertEqual(new["version"], 5)
        parse(new)


def letters(order: list[int]) -> list[dict[str, Any]]:
    """A loom whose plugs A, B, C ... hang on outputs 1, 2, 3 ... and are plugged to cylinders in this order."""
    return [{"letter": "ABCDEFGH"[k], "output": str(k + 1), "cylinders": [c]} for k, c in enumerate(order)]


class Lettered(unittest.TestCase):
    #: A V8 with a coil for each plug.
    V8: dict[str, Any] = {
        "/engine/cylinders": 8, "/engine/arrangement": "vee", "/engine/firing_order": [1, 8, 4, 3, 6, 5, 7, 2], "/engine/banks": [[1, 3, 5, 7], [2, 4, 6, 8]],
        "/engine/displacement": "4.6 L", "/engine/compression": [], "/injectors/outputs": [], "/ignition/kind": "coil_per_plug", "/ignition/outputs": [],
    }  # fmt: skip

    def of(self, order: list[int], numbers: str) -> tuple[set[str], str]:
        changes = {**self.V8, "/ignition/letters": letters(order), "/wiring/unit/numbers": numbers}
        return severity("IGN-04", "tern", changes), said("IGN-04", "tern", changes)

    def test_letters_by_cylinder_are_right_where_the_unit_numbers_by_cylinder(self) -> None:
        by_cylinder, by_place = list(range(1, 9)), [1, 8, 4, 3, 6, 5, 7, 2]
        self.assertEqual(self.of(by_cylinder, "by_cylinder")[0], {"sound"})
        self.assertEqual(self.of(by_place, "by_place")[0], {"sound"})
        self.assertEqual(self.of(by_cylinder, "by_place")[0], {"stop"})
        self.assertEqual(self.of(by_place, "by_cylinder")[0], {"stop"})

    def test_where_the_sheet_was_not_read_it_is_asked(self) -> None:
        got, text = self.of(list(range(1, 9)), "not_read")
        self.assertEqual(got, {"unknown"})
        self.assertIn("numbers its outputs by cylinder", text)
        self.assertIn("sheet before a wire is moved", text)

    def test_both_mends_are_offered(self) -> None:
        got, text = self.of([9 - c for c in range(1, 9)], "by_cylinder")
        self.assertEqual(got, {"stop"})
        self.assertIn("the letters run from the other end", text)
        # As wired, output 9 - k reaches cylinder k: so they are typed in the order in which they fire.
        self.assertIn(", ".join(str(9 - c) for c in [1, 8, 4, 3, 6, 5, 7, 2]), text)
        self.assertIn("Wire 1: 1, 2: 2", text)

    def test_injectors_are_numbered_alike(self) -> None:
        outputs = [{"name": str(c), "cylinders": [c]} for c in range(1, 7)]
        by = {"/injectors/outputs": outputs, "/injectors/firing": "sequential"}
        self.assertEqual(severity("INJ-09", "tern", {**by, "/wiring/unit/numbers": "by_cylinder"}), {"sound"})
        self.assertEqual(severity("INJ-09", "tern", {**by, "/wiring/unit/numbers": "by_place"}), {"stop"})
        self.assertEqual(severity("INJ-09", "tern", {**by, "/wiring/unit/numbers": "not_read"}), {"unknown"})


class Triggers(unittest.TestCase):
    def test_a_twelve_volt_sensor_is_fed_with_twelve_volts(self) -> None:
        five = {w.key for w in worked("tern").wiring.wires}
        self.assertIn("crank_5v", five)
        w = worked("tern", {"/sensors/trigger/wants": "12 V", "/sensors/trigger/given": "12 V"})
        wires = {x.key: x for x in w.wiring.wires}
        self.assertNotIn("crank_5v", wires)
        self.assertEqual(wires["crank_12v"].start, "ignition_switch.run")
        self.assertEqual(wires["crank_12v"].fuse, "ignition")
        self.assertGreater(w.circuit.volts("crank.12v", "run"), 11.5)
        spare = worked("tern", {"/sensors/trigger/wants": "12 V", "/wiring/unit/spare_12v": 1})
        self.assertEqual(next(x for x in spare.wiring.wires if x.key == "crank_12v").start, "unit.12V1")

    def test_the_bench_supply_is_judged_by_the_part(self) -> None:
        def of(volts: str, wants: str) -> set[str]:
            return severity("TRIG-02", "tern", {"/sensors/trigger/hand_turn/supply": volts, "/sensors/trigger/wants": wants})

        self.assertIn("stop", of("12.5 V", "5 V"))
        self.assertIn("stop", of("5.51 V", "5 V"))
        self.assertNotIn("stop", of("5.5 V", "5 V"))
        self.assertIn("sort_out", of("5 V", "12 V"))

    def test_an_output_without_a_pull_up_reads_nought_and_is_not_called_bad(self) -> None:
        levels = [{"over": "0.1 V", "between": "0.1 V"}] * 3
        t = {"/sensors/trigger/hand_turn": {"when": "2026-05-02", "supply": "5 V", "levels": levels}}
        self.assertEqual(severity("TRIG-02", "tern", t), {"unknown"})
        self.assertIn("1 to 5 kΩ", said("TRIG-02", "tern", t))
        fitted = {"/sensors/trigger/hand_turn": {**t["/sensors/trigger/hand_turn"], "pull_up": "for_the_test"}}
        self.assertEqual(severity("TRIG-02", "tern", fitted), {"stop"})

    def test_low_is_low_by_the_parts_own_sheet(self) -> None:
        over = {"/sensors/trigger/hand_turn/levels/4/over": "0.4 V"}
        self.assertEqual(severity("TRIG-02", "tern", over), {"sound"})
        self.assertEqual(severity("TRIG-02", "tern", {**over, "/sensors/trigger/low_most": "0.25 V"}), {"stop"})

    #: A window wheel in the Tern's distributor, the unit timing through the rotor, injection in sequence.
    @staticmethod
    def wheel(widths: list[int]) -> dict[str, Any]:
        windows = [{"opens": f"{60 * k} deg", "width": f"{w} deg"} for k, w in enumerate(widths)]
        return {
            "/sensors/trigger": {"pattern": "windows", "on": "distributor", "teeth": 6, "missing": 0, "sensor": "hall", "windows": windows},
            "/ignition/kind": "timed_distributor", "/ignition/letters": [], "/ignition/outputs": [], "/injectors/firing": "sequential",
        }  # fmt: skip

    def test_one_window_that_differs_gives_phase(self) -> None:
        odd, even = self.wheel([30, 30, 20, 30, 30, 30]), self.wheel([30] * 6)
        self.assertNotIn("cam", {r.kind for r in worked("tern", odd).sensors.rows})
        self.assertEqual(severity("TRIG-06", "tern", odd), {"sound"})
        self.assertIn("cam", {r.kind for r in worked("tern", even).sensors.rows})
        self.assertEqual(severity("TRIG-06", "tern", even), {"sort_out"})
        self.assertEqual(severity("TRIG-03", "tern", even), {"sound"})  # the rotor sends each spark: speed is enough
        self.assertNotIn("sort_out", severity("TRIG-06", "tern", {**even, "/injectors/firing": "every_turn"}))

    def test_one_window_more_gives_phase(self) -> None:
        sync = self.wheel([20] * 6)
        sync["/sensors/trigger"]["windows"].append({"opens": "30 deg", "width": "8 deg"})
        self.assertEqual(severity("TRIG-06", "tern", sync), {"sound"})

    def test_in_a_distributor_the_makers_figure_sets_the_angle(self) -> None:
        text = said("TRIG-05", "tern", self.wheel([30, 30, 20, 30, 30, 30]))
        self.assertIn("maker gives the phasing", text)
        self.assertNotIn("count teeth", text)

    def test_a_wheel_of_one_tooth_is_a_wheel(self) -> None:
        one = worked("tern", {"/sensors/trigger/teeth": 1, "/sensors/trigger/missing": 0, "/sensors/trigger/hand_turn": None})
        assert one.trigger is not None
        self.assertEqual((one.trigger.teeth_per_turn, one.trigger.same_places, one.trigger.tooth_angle_deg), (1, 1, 360.0))
        self.assertIsNotNone(one.trigger.angle_deg)

    def test_two_pull_ups_stand_where_the_resistors_say(self) -> None:
        w = worked("tern", {"/sensors/trigger/shared": {"name": "old box", "pull_up": "4700 ohm", "supply": "12 V", "powers": "unit"}})
        assert w.trigger is not None
        self.assertAlmostEqual(w.trigger.shared_high_v or 0, 8.5, places=6)  # two equal resistors to 5 and 12 V

    def test_a_gap_is_mended_with_what_there_is(self) -> None:
        wide = {f"/sensors/trigger/gaps/{k}": "2 mm" for k in range(4)}
        text = said("TRIG-01", "tern", wide)
        self.assertIn("say how much of either there is", text)
        self.assertIn("Take out 1", said("TRIG-01", "tern", {**wide, "/sensors/trigger/shims": "2 mm"}))
        self.assertIn(
            "slot the bracket", said("TRIG-01", "tern", {**wide, "/sensors/trigger/shims": "0 mm", "/sensors/trigger/travel": "0.2 mm"})
        )
        self.assertIn(
            "move the bracket in by",
            said("TRIG-01", "tern", {**wide, "/sensors/trigger/shims": "0.7 mm", "/sensors/trigger/travel": "0.5 mm"}),
        )

    def test_one_reading_of_a_gap_tells_no_runout(self) -> None:
        one = {"/sensors/trigger/gaps": ["0.9 mm", None, None, None]}
        self.assertEqual(severity("TRIG-01", "tern", one), {"unknown"})
        self.assertNotIn("runout,", said("TRIG-01", "tern", one))


class Wires(unittest.TestCase):
    def test_a_fan_among_lightly_loaded_wires_is_no_stop(self) -> None:
        fitted = {"fan_supply": {"size": "4 mm2"}, "fan_feed": {"size": "4 mm2"}, "fan_ground": {"size": "4 mm2"}}
        w = {"/wiring/fan_current": "18 A", **{f"/wiring/fitted/{k}": v for k, v in fitted.items()}, "/wiring/extras": ["fan"]}
        row = next(f for f in worked("tern", w).wiring.fuses if f.key == "fan")
        self.assertEqual((row.fitted_a, row.wanted_a), (25.0, 25.0))
        self.assertEqual(severity("WIRE-05", "tern", w), {"sound"})
        made = worked("tern", w).circuit.made
        self.assertTrue(all(made[key].limit_a > 25 and made[key].beside_k - made[key].ambient_k < 10 for key in fitted))
        self.assertNotIn("stop", {f.severity for f in plan("tern", w).findings if f.station == "wiring"})

    def test_a_starter_that_did_not_turn_is_not_known(self) -> None:
        for crank, wanted in (("12.2 V", "unknown"), ("11.95 V", "sound")):
            self.assertEqual(severity("WIRE-02", "tern", {"/wiring/feed/run": "12.4 V", "/wiring/feed/crank": crank}), {wanted})

    def test_a_wideband_has_feed_fuse_and_ground_for_its_heater(self) -> None:
        wires = {x.key: x for x in worked("tern").wiring.wires}
        self.assertEqual((wires["oxygen_supply"].fuse, wires["wideband_oxygen_heater"].end), ("oxygen", "head.stud"))
        self.assertNotIn("oxygen_feed", {x.key for x in worked("tern", {"/sensors/decisions/wideband_oxygen": "struck"}).wiring.wires})
        inside = worked("tern", {"/wiring/unit/oxygen": "inside"})
        self.assertEqual(next(x for x in inside.wiring.wires if x.key == "wideband_oxygen_heater").end, "unit.HEAT")
        self.assertGreater(inside.circuit.across("oxygen_heater", "idle"), 12.5)

    def test_a_unit_that_feeds_the_pump_itself_carries_it(self) -> None:
        before, after = worked("tern"), worked("tern", {"/wiring/unit/pump_output": "high_side"})
        wires = {x.key: x for x in after.wiring.wires}
        self.assertNotIn("pump_relay_coil", wires)
        self.assertNotIn("pump_supply", wires)
        unit = {x.key: x for x in before.wiring.wires}["unit_feed"]
        self.assertGreater(wires["unit_feed"].current_a, unit.current_a + 6)
        self.assertEqual(wires["pump_feed"].start, "unit.PUMP")
        self.assertGreater(after.fuel.points["full"].volts, 12.5)
        inside = {x.key: x for x in worked("tern", {"/wiring/unit/pump_output": "relay_inside"}).wiring.wires}
        self.assertEqual((inside["pump_supply"].end, inside["pump_supply"].fuse), ("unit.PUMP30", "pump"))

    def test_bare_coils_on_a_unit_draw_through_its_ground(self) -> None:
        bare = {"/ignition/coil/kind": "dumb", "/wiring/unit/coil_stage": "inside"}
        wires = {x.key: x for x in worked("tern", bare).wiring.wires}
        self.assertIn("coil_1_output", wires)
        self.assertNotIn("coil_1_trigger", wires)
        self.assertNotIn("coil_ground", wires)

    def test_speed_and_lock_of_the_gearbox_have_their_wires(self) -> None:
        box = {"kind": "manual", "pulses": 8, "axle": "4:1", "tyre": "0.31831 m", "reverse_lock": "by_unit"}
        w = worked("tern", {"/wiring/gearbox": box})
        self.assertAlmostEqual(w.wiring.pulses_per_km or 0, 16000, delta=1)  # a tyre of two metres round
        self.assertLessEqual({"vehicle_speed", "reverse_lock"}, {x.key for x in w.wiring.wires})


class Ignitions(unittest.TestCase):
    def test_what_the_unit_does_not_drive_has_no_dwell_of_ours(self) -> None:
        own = {
            "/ignition/kind": "capacitive_discharge",
            "/ignition/timed_by_unit": False,
            "/ignition/advance": "working",
            "/ignition/outputs": [],
            "/ignition/letters": [],
        }
        self.assertEqual(severity("IGN-03", "tern", own), set())
        self.assertIsNone(plan("tern", own).figures["ignition.duty.limit"].value)
        self.assertEqual(next(s.ruling for s in plan("tern", own).stations if s.key == "ignition"), "its own module")

    def test_a_coil_that_never_gets_there_charges_all_the_time(self) -> None:
        self.assertEqual(plan("tern", {"/ignition/coil/current": "29 A"}).figures["ignition.duty.limit"].value, 1.0)


class InjectorsAsTheyAre(unittest.TestCase):
    def test_opened_up_injectors_go_by_the_bench(self) -> None:
        tests = [{"mark": f"i{k}", "volume": "250 mL", "time": "30 s", "pressure": "300 kPa", "drops": 0, "spray": "jet"} for k in range(6)]
        rated = {"/injectors/bench": tests, "/injectors/bench_fluid": "n_heptane"}
        self.assertIn("sort_out", severity("INJ-05", "tern", rated))  # jets are left out, and none is left
        own = {**rated, "/injectors/altered": True}
        w = worked("tern", own)
        self.assertAlmostEqual(
            w.injectors.flow_rated_kg_s * 6e4, 500 * 0.684 * math.sqrt(735 / 684), places=2
        )  # 250 mL in half a minute, told for the rating fluid
        self.assertIn("Measured on the flow bench", said("INJ-03", "tern", own))
        self.assertLessEqual(severity("INJ-05", "tern", own), {"sound", "note"})
        typed = {**own, "/tune/typed/injector_flow": f"{w.injectors.flow_nominal_kg_s * 6e4:.1f} g/min"}
        self.assertEqual(severity("TUNE-01", "tern", typed), {"sound"})

    def test_without_a_sheet_the_donor_says_what_they_give(self) -> None:
        donor = Donor.model_validate({"power": "96 kW", "injectors": 4, "pressure": "300 kPa"})
        self.assertEqual(injector_flow(donor), f"{96 * 0.32 / 4 / 0.8 / 60 * 1000:.0f} g/min")
        doc = document() | {}
        doc["marks"]["/injectors/flow"] = {"kind": "assumed"}
        patch = [{"op": "add", "path": "/injectors/donor", "value": {"power": "96 kW", "injectors": 4, "pressure": "300 kPa"}}]
        after, full, build = carry(doc, patch)
        self.assertEqual((after["injectors"]["flow"], after["marks"]["/injectors/flow"]), ("160 g/min", {"kind": "assumed"}))
        self.assertGreater(len(full), 1)
        self.assertEqual(str(build.injectors.rated_at), "300 kPa")
        stated, _, _ = carry(document(), patch)
        self.assertEqual(stated["injectors"]["flow"], document()["injectors"]["flow"])  # what somebody stated stands


class Power(unittest.TestCase):
    RUN: dict[str, Any] = {"mass": "1590 kg", "to_speed": "60 mph"}

    def test_a_known_car_comes_out_where_it_is_known(self) -> None:
        run = {**self.RUN, "time": "6.6 s"}
        p = worked("tern", {"/engine/run": run}).engine.run
        assert p is not None and p.low is not None and p.high is not None
        self.assertLess(p.low, 183e3)
        self.assertGreater(p.high, 183e3)
        self.assertAlmostEqual((p.middle or 0) / 1e3, 183, delta=6)

    def test_a_known_car_comes_out_step_by_step_too(self) -> None:
        """183 kW, 1,590 kg, driven at the rear on good tyres, 6.6 s: turning parts are the engine's to turn, not the tyres'."""
        run = {
            **self.RUN,
            "time": "6.6 s",
            "gears": [2.95, 1.94, 1.34, 1.0],
            "final_drive": "3.27:1",
            "tyre": "320 mm",
            "grip": 0.95,
            "driven_share": "50 %",
            "driven": "rear",
            "shift": "0.3 s",
        }
        own = {
            "/engine/displacement": "4.95 L",
            "/engine/power_speed": "5250 rpm",
            "/engine/rev_limit": "5800 rpm",
            "/engine/power": "183 kW",
            "/engine/run": run,
        }
        p = worked("tern", own).engine.run
        assert p is not None and p.low is not None and p.high is not None and p.seconds is not None
        self.assertLess(p.low, 183e3)
        self.assertGreater(p.high, 183e3)
        self.assertAlmostEqual(p.seconds[1], 6.6, delta=0.3)

    def test_tyres_let_go_where_the_weight_on_them_says(self) -> None:
        def grip_s(driven: str) -> float:
            run = worked("tern", {"/engine/run": {**self.RUN, "grip": 0.8, "driven_share": "50 %", "driven": driven}}).engine.run
            assert run is not None
            return run.grip_time_s

        v = 60 * 1609.344 / 3600
        self.assertAlmostEqual(grip_s("all"), 1.02 * v / (0.8 * 9.80665), places=6)
        self.assertAlmostEqual(grip_s("not_noted"), 1.02 * v / (0.4 * 9.80665), places=6)
        self.assertAlmostEqual(grip_s("rear"), 1.02 * v * (1 - 0.8 * 0.22) / (0.4 * 9.80665), places=6)
        self.assertGreater(grip_s("front"), grip_s("not_noted"))

    def test_power_mass_and_gears_give_seconds(self) -> None:
        for more in ({}, {"gears": [3.35, 1.99, 1.33, 1.0], "final_drive": "3.27:1", "tyre": "320 mm"}):
            with self.subTest(gears=bool(more)):
                quick = worked("tern", {"/engine/run": {**self.RUN, **more}, "/engine/power": "130 kW"}).engine.run
                slow = worked("tern", {"/engine/run": {**self.RUN, **more}, "/engine/power": "65 kW"}).engine.run
                assert quick is not None and quick.seconds is not None and slow is not None and slow.seconds is not None
                self.assertIsNone(quick.middle)  # no time was asked for
                self.assertLess(quick.seconds[1], slow.seconds[1])
                self.assertEqual(sorted(quick.seconds), list(quick.seconds))

    def test_seconds_and_power_are_each_others_answer(self) -> None:
        gears = {"gears": [3.35, 1.99, 1.33, 1.0], "final_drive": "3.27:1", "tyre": "320 mm"}
        forward = worked("tern", {"/engine/run": {**self.RUN, **gears}}).engine.run
        assert forward is not None and forward.seconds is not None
        back = worked("tern", {"/engine/run": {**self.RUN, **gears, "time": f"{forward.seconds[1]:.4f} s"}}).engine.run
        assert back is not None and back.middle is not None
        self.assertAlmostEqual(back.middle / 118e3, 1.0, delta=0.01)

    def test_a_head_has_limits_of_its_own_and_a_rolling_road_wins(self) -> None:
        bar = 118e3 * 120 / (2597e-6 * 5200) / 1e5  # of the Tern's target
        self.assertAlmostEqual(plan("tern").figures["engine.bmep"].value or 0, bar, places=3)
        for train, layout, kw, wanted in (
            ("two_valve_pushrod", "port_plenum", "126 kW", "sort_out"), ("two_valve_overhead_cam", "port_plenum", "126 kW", "watch"), ("four_valve", "port_plenum", "126 kW", "sound"),
            ("two_valve_overhead_cam", "individual_throttles", "140 kW", "watch"),
        ):  # fmt: skip
            changes = {"/engine/valve_train": train, "/engine/layout": layout, "/engine/power": kw}
            self.assertEqual(severity("ENG-05", "tern", changes), {wanted}, (train, layout))
        road = {"/engine/power": "150 kW", "/engine/rolling_road": {"power": "127 kW", "at": "wheels"}}
        self.assertEqual(severity("ENG-05", "tern", road), {"sound"})
        self.assertEqual(severity("ENG-05", "tern", {**road, "/engine/power": "160 kW"}), {"stop"})

    def test_a_limit_in_pencil_gives_way_to_a_speed_that_is_stated(self) -> None:
        doc = document()
        doc["marks"]["/engine/rev_limit"] = {"kind": "assumed"}
        after, _, _ = carry(doc, [{"op": "add", "path": "/engine/power_speed", "typed": "6400"}])
        self.assertEqual((after["engine"]["rev_limit"], after["marks"]["/engine/rev_limit"]), ("7040 rpm", {"kind": "assumed"}))
        with self.assertRaises(Exception) as refused:
            carry(document(), [{"op": "add", "path": "/engine/power_speed", "typed": "6400"}])
        self.assertIn("/engine/rev_limit", str(getattr(refused.exception, "problems", "")))

    def test_a_blower_by_its_size_makes_what_it_moves_over_what_is_swallowed(self) -> None:
        w = worked("tern", {"/engine/blower": {"size": "2 L", "drive": "1:1"}})
        swallowed = 2597e-6 / 2 * w.engine.full_filling
        self.assertAlmostEqual(w.engine.blower_boost_pa or 0, (2e-3 * 0.85 / swallowed - 1) * 101325, delta=1)


class OxygenPlace(unittest.TestCase):
    #: 900 mm of pipe to where the pipes join, and enough behind it.
    LONG: dict[str, Any] = {"/sensors/oxygen/path": [{"length": "900 mm"}, {"length": "200 mm", "what": "merge"}, {"length": "2.5 m"}]}

    def test_long_pipes_cool_the_gas_before_the_collector(self) -> None:
        near = {**self.LONG, "/sensors/oxygen/distance": "1.16 m"}  # 60 mm past it
        self.assertEqual(severity("SENS-02", "tern", near), {"sound"})
        self.assertEqual(severity("SENS-02", "tern", {**self.LONG, "/sensors/oxygen/distance": "1.14 m"}), {"watch"})

    def test_the_parts_own_sheet_wins(self) -> None:
        near = {**self.LONG, "/sensors/oxygen/distance": "1.16 m"}
        self.assertEqual(severity("SENS-02", "tern", {**near, "/sensors/oxygen/nearest": "1.3 m"}), {"watch"})
        self.assertIn("by its own sheet", said("SENS-02", "tern", {**near, "/sensors/oxygen/nearest": "1.3 m"}))
        self.assertEqual(severity("SENS-02", "tern", {**near, "/sensors/oxygen/clock": "85 deg"}), {"watch"})
        self.assertEqual(
            severity("SENS-02", "tern", {**near, "/sensors/oxygen/clock": "85 deg", "/sensors/oxygen/clock_most": "90 deg"}), {"sound"}
        )


class Throttle(unittest.TestCase):
    def test_the_body_and_the_unit_are_two_figures(self) -> None:
        self.assertEqual(severity("SENS-09", "tern", {"/sensors/throttle/screen": "96 %"}), {"sound"})
        low = {"/sensors/throttle/screen": "88 %", "/sensors/throttle/screen_least": "90 %"}
        self.assertEqual(severity("SENS-09", "tern", low), {"sort_out"})
        self.assertIn("Teach the unit its two ends", said("SENS-09", "tern", low))
        volts = {"/sensors/throttle/screen": "4.3 V", "/sensors/throttle/screen_least": "4.1 V"}
        self.assertEqual(severity("SENS-09", "tern", volts), {"sound"})

    def test_bands_of_ambient_are_one(self) -> None:
        for car in ("tern", "hollin"):
            shown = next((e for s in plan(car).stages.start.steps for e in s.expect if e.what == "Manifold pressure, engine still"), None)
            if shown is not None and shown.band is not None:
                band = manifold_band(edited(car))
                self.assertEqual((shown.band.low, shown.band.high), (round(band.low or 0), round(band.high or 0)))
        self.assertEqual(AGREE.high, 3.0)

    def test_a_throttle_by_wire_has_no_cable(self) -> None:
        tracks = {
            f"{t}_{a}": f"{v} V"
            for t, k in (("first", 1.0), ("second", 0.5))
            for a, v in (("rest", 1.0 * k), ("half", 2.5 * k), ("full", 4.0 * k))
        }
        wire = {
            "/air/by_wire": {"pedal": tracks, "plate": tracks, "brake": "wired", "limp": "8 %", "limp_test": "went_limp"},
            "/wiring/unit/bridge": "inside",
            "/wiring/extras": ["fan"],
        }
        codes = {f.code for f in plan("tern", wire).findings}
        self.assertFalse(codes & {"AIR-02", "AIR-03", "SENS-09"})
        self.assertEqual(severity("AIR-09", "tern", wire), {"sound"})
        wires = {w.key for w in worked("tern", wire).wiring.wires}
        self.assertLessEqual(
            {
                "throttle_motor_plus",
                "throttle_motor_minus",
                "throttle_pedal_1_signal",
                "throttle_pedal_2_signal",
                "throttle_plate_2_signal",
                "throttle_brake",
            },
            wires,
        )
        self.assertIn("goes limp each time", " ".join(d for s in plan("tern", wire).stages.start.steps for d in s.do))
        apart = {**wire, "/air/by_wire": {**wire["/air/by_wire"], "pedal": {**tracks, "second_half": "1.4 V"}}}
        self.assertEqual(severity("AIR-09", "tern", apart), {"stop"})
        none = {**wire, "/wiring/unit/bridge": "none"}
        self.assertIn("stop", severity("WIRE-07", "tern", none))  # no motor output


class OrderOfTheStart(unittest.TestCase):
    def steps(self, car: str = "tern", changes: dict[str, Any] | None = None) -> list[str]:
        return [
            " ".join((*s.cautions, *s.do, *s.if_off, *(f"{e.what} {e.shown}" for e in s.expect)))
            for s in plan(car, changes).stages.start.steps
        ]

    def test_fuses_stay_out_until_their_step(self) -> None:
        steps = self.steps()
        self.assertIn("Fuses out until their own step: pump, coils and injectors.", steps[0])
        self.assertIn("return led into a can", steps[0])
        self.assertIn("still out: nothing primes", steps[1])
        self.assertIn("Fuse in: pump.", steps[3])
        self.assertIn("Fuse in: coils. That of the injectors stays out.", steps[4])
        self.assertIn("Fuse of the injectors in.", steps[5])
        self.assertIn("Oil pressure within 15 s of cranking 100 kPa or more", steps[4])
        body = self.steps("brindle")
        self.assertIn("injectors off in the unit", body[0])
        self.assertIn("Injectors on.", body[5])
        self.assertIn("Unplugged: the pump at its plug", self.steps("tern", {"/wiring/unit/pump_output": "high_side"})[0])

    def test_a_missing_booster_hose_bars_moving_and_not_starting(self) -> None:
        p = plan("tern", {"/air/consumers/0/port": None})
        self.assertEqual(holding(p.findings), [])
        self.assertEqual([f.code for f in barring(p.findings, "move")], ["AIR-04"])
        self.assertEqual(barring(plan("tern").findings, "move"), [])
        self.assertEqual([f.code for f in barring(plan("tern", {"/fuel/tank/leaded": True}).findings, "road")], ["FUEL-18"])

    def test_what_bars_moving_can_be_signed_for(self) -> None:
        at = next(f.at for f in plan("tern", {"/air/consumers/0/port": None}).findings if f.severity == "stop")
        overrule = {"code": "AIR-04", "at": at, "reason": "Rolled by hand in the yard only", "by": "Ada"}
        p = plan("tern", {"/air/consumers/0/port": None, "/start": {"overrules": [overrule]}})
        self.assertEqual(barring(p.findings, "move"), [])

    def test_temporary_fits_are_listed_until_they_are_undone(self) -> None:
        fit = {"what": "pump fed by a clip", "bars": "move"}
        self.assertIn("pump fed by a clip", self.steps("tern", {"/start": {"temporary": [fit]}})[0])
        self.assertNotIn("pump fed by a clip", self.steps("tern", {"/start": {"temporary": [{**fit, "undone": "2026-06-01"}]}})[0])

    def test_on_a_stand_there_is_no_charging_and_no_wheel_to_chock(self) -> None:
        steps = self.steps("tern", {"/engine/stands": "on_stand"})
        self.assertIn("switch-off in reach", steps[0])
        self.assertNotIn("chocked", steps[0])
        self.assertIn("30 s", steps[6])
        self.assertNotIn("Charging", steps[6])


class OneFigure(unittest.TestCase):
    def test_a_pump_known_by_one_figure_goes_through_it(self) -> None:
        curve = pump_curve(RatedPoint.model_validate({"flow": "190 L/h", "pressure": "300 kPa", "voltage": "13 V", "current": "7 A"}))
        row = next(r for r in curve if r["voltage"] == "13 V" and r["pressure"] == "300 kPa")
        self.assertEqual((row["flow"], row["current"]), ("190.0 L/h", "7.000 A"))
        doc = document()
        doc["marks"]["/fuel/pump"] = {"kind": "assumed"}
        after, _, _ = carry(doc, [{"op": "add", "path": "/fuel/pump/rated", "value": {"flow": "190 L/h"}}])
        self.assertNotEqual(after["fuel"]["pump"]["curve"], document()["fuel"]["pump"]["curve"])
        self.assertIn("/fuel/pump/curve", after["marks"])
        p = evaluate(parse(after))
        self.assertIn("known by one figure", " ".join(f.why for f in p.findings if f.code == "FUEL-19"))
        stated, _, _ = carry(document(), [{"op": "add", "path": "/fuel/pump/rated", "value": {"flow": "190 L/h"}}])
        self.assertEqual(stated["fuel"]["pump"]["curve"], document()["fuel"]["pump"]["curve"])

    def test_second_users_are_in_the_need(self) -> None:
        jet = {"name": "oxidiser plate", "flow": "10 L/h", "sized_at": "75 kPa", "runs": "full_power"}
        before, after = worked("tern").fuel, worked("tern", {"/fuel/users": [jet]}).fuel
        self.assertAlmostEqual((after.need_m3_s - before.need_m3_s) * 3.6e6, 20.0, places=6)  # four times the pressure
        self.assertLess(after.margin_full, before.margin_full)
        self.assertAlmostEqual(after.points["idle"].demand_m3_s, before.points["idle"].demand_m3_s, places=12)

    def test_a_measured_return_wins(self) -> None:
        self.assertEqual(severity("FUEL-06", "tern", {"/fuel/measured": {"return_pressure": "20 kPa"}}), {"watch"})
        self.assertIn("measured", said("FUEL-06", "tern", {"/fuel/measured": {"return_pressure": "20 kPa"}}))

    def test_a_short_wide_hose_lets_as_much_run_as_its_height_gives(self) -> None:
        hose = {"/fuel/parts/suction": {"kind": "run", "material": "30R9", "bore": "9.5 mm", "length": "0.3 m", "fittings": [{"kind": "entry", "count": 1}, {"kind": "exit", "count": 1}]},
                "/fuel/parts/strainer": None, "/fuel/lift/head": "0.1 m", "/fuel/tank/vent_drop": "0 kPa", "/engine/fuel": "E10"}  # fmt: skip
        w = worked("hollin", {**hose, "/fuel/path": [n for n in document("hollin")["fuel"]["path"] if n != "strainer"]})
        self.assertAlmostEqual((w.fuel.gravity_expected_m3_s or 0) * 3.6e6, 230, delta=25)


if __name__ == "__main__":
    unittest.main()
