"""Every check: a build that makes it fire at each severity, and one that does not."""

import functools
import unittest
from collections.abc import Callable
from dataclasses import replace
from typing import Any, ClassVar

from tests.builds import DEAD_HEAD, TANK_REGULATOR, document, kept_rows, plan, pump_wire, severity, strung
from uphill_spark.core.findings import CHECKS, judge
from uphill_spark.core.given import parse
from uphill_spark.core.given.pencil import pencilled
from uphill_spark.core.reads import Recall
from uphill_spark.core.units import si
from uphill_spark.core.worked import FiguresAsAsked, work_out

#: What no sentence says: a word twice, a gap left empty, two verbs, two points.
ILL_SAID = r"\b(\w+) \1\b|\bis (?:shares|are|has)\b|  |,,|\.\.|\bNone\b|\bnan\b| [,.;]"

ROWS = [{"cylinder": c, "dry": "1100 kPa"} for c in range(1, 7)]


def compression(**changed: str) -> list[dict[str, Any]]:
    return [{**row, "dry": changed.get(f"c{row['cylinder']}", row["dry"])} for row in ROWS]


def steps(number: int, key: str, typed: str, **more: Any) -> dict[str, Any]:
    """A reading at a step of the first start."""
    return {"/start": {"steps": {str(number): {"readings": {key: {"typed": typed}}, **more}}}}


FED = {"what": "ignition_feed", "do": "feed_from", "ohms": "0.2 ohm"}
LAMP = {"label": "Lamp", "start": "battery.plus", "end": "own_interior_lamp.plus", "carries": "2 A", "fused": True}


@functools.cache
def ran() -> str:
    """The sum of what the Tern's unit runs on."""
    return plan("tern").stages.road.ran_now


def drive(**more: Any) -> dict[str, Any]:
    """A reading of a drive in which nothing is off, but for what is told."""
    return {
        "log": "0" * 36,
        "name": "Sunday",
        "day": "2027-05-02",
        "ran": ran(),
        "seconds": 300.0,
        "error": 0.005,
        "coverage": 0.7,
        "lag": "0.14 s",
        **more,
    }


def road(*drives: dict[str, Any]) -> dict[str, Any]:
    return {"/road": {"drives": list(drives)}}


def off_by(key: str, size: float, *, named: bool = True, doubt: float = 0.004, **more: Any) -> dict[str, Any]:
    """A drive in which one cause is so large."""
    return road(drive(causes={key: {"size": size, "doubt": doubt, "share": 0.8, "named": named}}, **more))


#: Code, demo car, changes, the severity that must be among what the check says; none for one that says nothing.
CASES: list[tuple[str, str, dict[str, Any], str]] = [
    ("LEARN-01", "tern", off_by("scale", 0.02), "watch"),
    ("LEARN-01", "tern", off_by("scale", 0.05), "sort_out"),
    ("LEARN-01", "tern", off_by("scale", 0.002, named=False), "sound"),
    ("LEARN-01", "tern", off_by("scale", 0.05, ran="0" * 16), "note"),
    ("LEARN-01", "tern", {}, ""),
    ("LEARN-02", "tern", off_by("dead_time", 0.04), "watch"),
    ("LEARN-02", "tern", off_by("dead_time", 0.09), "sort_out"),
    ("LEARN-02", "tern", off_by("dead_time", 0.003, named=False), "sound"),
    ("LEARN-02", "tern", off_by("dead_time", 0.09, ran="0" * 16), "note"),
    ("LEARN-02", "tern", {}, ""),
    ("LEARN-03", "tern", off_by("reference", 0.4), "watch"),
    ("LEARN-03", "tern", off_by("reference", 0.9), "sort_out"),
    ("LEARN-03", "tern", off_by("reference", 0.01, named=False), "sound"),
    ("LEARN-03", "tern", off_by("reference", 0.9, ran="0" * 16), "note"),
    ("LEARN-03", "tern", {}, ""),
    ("LEARN-04", "tern", off_by("high_flow", 0.03), "watch"),
    ("LEARN-04", "tern", off_by("high_flow", 0.08), "sort_out"),
    ("LEARN-04", "tern", off_by("high_flow", 0.002, named=False), "sound"),
    ("LEARN-04", "tern", off_by("high_flow", 0.08, ran="0" * 16), "note"),
    ("LEARN-04", "tern", {}, ""),
    ("LEARN-05", "tern", off_by("air", 0.06), "watch"),
    ("LEARN-05", "tern", off_by("air", 0.15), "sort_out"),
    ("LEARN-05", "tern", off_by("air", 0.004, named=False), "sound"),
    ("LEARN-05", "tern", off_by("air", 0.15, ran="0" * 16), "note"),
    ("LEARN-05", "tern", {}, ""),
    ("LEARN-06", "tern", off_by("tip_in", 0.05), "watch"),
    ("LEARN-06", "tern", off_by("tip_in", 0.12), "sort_out"),
    ("LEARN-06", "tern", off_by("tip_in", 0.003, named=False), "sound"),
    ("LEARN-06", "tern", off_by("tip_in", 0.12, ran="0" * 16), "note"),
    ("LEARN-06", "tern", {}, ""),
    ("LEARN-07", "tern", off_by("bank", 0.02), "watch"),
    ("LEARN-07", "tern", off_by("bank", 0.05), "sort_out"),
    ("LEARN-07", "tern", off_by("bank", 0.001, named=False), "sound"),
    ("LEARN-07", "tern", off_by("bank", 0.05, ran="0" * 16), "note"),
    ("LEARN-07", "tern", {}, ""),
    ("LEARN-08", "tern", road(drive(rest=0.02, rest_is=True)), "watch"),
    ("LEARN-08", "tern", road(drive(rest=0.05, rest_is=True)), "sort_out"),
    ("LEARN-08", "tern", road(drive()), "sound"),
    ("LEARN-08", "tern", road(drive(rest=0.05, rest_is=True, ran="0" * 16)), "note"),
    ("LEARN-09", "tern", road(drive(sensor="stuck")), "sort_out"),
    ("LEARN-09", "tern", road(drive(sensor="pegged")), "sort_out"),
    ("LEARN-09", "tern", road(drive(sensor="sound")), "sound"),
    ("LEARN-09", "tern", road(drive()), ""),
    ("LEARN-10", "tern", road(drive(apart=[["scale", "dead_time"]])), "watch"),
    ("LEARN-10", "tern", road(drive()), ""),
    ("LEARN-11", "tern", {}, ""),
    ("LEARN-11", "tern", road(drive(coverage=0.24)), "watch"),
    ("LEARN-11", "tern", road(drive(coverage=0.26)), "note"),
    ("LEARN-11", "tern", road(drive(coverage=0.6)), "sound"),
    ("LEARN-12", "tern", road(drive(power="99 kW", power_speed="5000 rpm", power_doubt=0.06)), "watch"),
    ("LEARN-12", "tern", road(drive(power="134 kW", power_speed="5000 rpm", power_doubt=0.06)), "watch"),
    ("LEARN-12", "tern", road(drive(power="110 kW", power_speed="5000 rpm", power_doubt=0.06, power_told=True)), "sound"),
    ("LEARN-12", "tern", road(drive(power="110 kW", power_speed="5000 rpm", power_doubt=0.06)), "note"),
    ("LEARN-12", "tern", road(drive()), ""),
    ("LEARN-13", "tern", road(drive(snags=[{"key": "knock", "bad": "stop", "what": "40 knocks counted."}])), "sort_out"),
    ("LEARN-13", "tern", road(drive(snags=[{"key": "idle_volts", "bad": "watch", "what": "12.5 V idling."}])), "watch"),
    ("LEARN-13", "tern", road(drive(looked=["heat", "lean"])), "sound"),
    ("LEARN-13", "tern", road(drive(looked=["heat", "volts", "knock"])), "note"),
    ("LEARN-13", "tern", road(drive()), "note"),
    ("LEARN-14", "tern", road(drive(error=0.05, ran="0" * 16), drive(error=0.01)), "sound"),
    ("LEARN-14", "tern", road(drive(error=0.01, ran="0" * 16), drive(error=0.03)), "watch"),
    ("LEARN-14", "tern", road(drive(error=0.02, ran="0" * 16), drive(error=0.018)), "note"),
    ("LEARN-14", "tern", road(drive(error=0.02, corrected=12, ran="0" * 16)), "note"),
    ("LEARN-14", "tern", road(drive()), ""),
    ("ENG-01", "tern", {"/engine/compression": compression(c2="970 kPa")}, "watch"),
    ("ENG-01", "tern", {"/engine/compression": compression(c2="800 kPa")}, "sort_out"),
    ("ENG-01", "tern", {"/engine/compression": compression(c2="700 kPa")}, "stop"),
    ("ENG-01", "tern", {"/engine/compression": [{**r, "dry": "590 kPa"} for r in ROWS]}, "stop"),
    ("ENG-01", "tern", {"/engine/compression": ROWS[:5]}, "unknown"),
    ("ENG-01", "tern", {"/engine/compression": [{**r, "dry": "1990 kPa"} for r in ROWS]}, "watch"),
    ("ENG-02", "tern", {"/engine/compression/6/leak_down": "15 %"}, "watch"),
    ("ENG-02", "tern", {"/engine/compression/6/leak_down": "25 %", "/engine/compression/6/escapes": "exhaust"}, "sort_out"),
    ("ENG-02", "tern", {"/engine/compression/6/leak_down": "0.32"}, "stop"),
    ("ENG-02", "tern", {"/engine/compression": compression()[:0]}, "note"),
    ("ENG-03", "tern", {"/engine/compression": compression(c2="800 kPa", c3="850 kPa")}, "sort_out"),
    ("ENG-03", "tern", {"/engine/compression": compression(c2="800 kPa", c4="850 kPa")}, "sound"),
    ("ENG-03", "tern", {"/engine/compression": []}, "unknown"),
    ("ENG-04", "tern", {"/engine/health/1/vacuum": "45 kPa"}, "watch"),
    ("ENG-04", "tern", {"/engine/health": []}, "note"),
    ("ENG-11", "tern", {"/engine/health/1/smoke": "blue"}, "sort_out"),
    ("ENG-11", "tern", {"/engine/health/1/uses_oil": True}, "sort_out"),
    ("ENG-11", "tern", {"/engine/health/1/smoke": "white"}, "sort_out"),
    ("ENG-11", "tern", {"/engine/health/1/loses_coolant": True}, "sort_out"),
    ("ENG-11", "tern", {"/engine/health/1/smoke": "black"}, "watch"),
    ("ENG-11", "tern", {"/engine/health/1/smoke": "white", "/engine/cooling": "air"}, "watch"),
    ("ENG-11", "tern", {"/engine/health/1/loses_coolant": True, "/engine/cooling": "air"}, "sort_out"),
    ("ENG-11", "tern", {"/engine/health": []}, "note"),
    ("ENG-11", "tern", {}, "sound"),
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
    ("FUEL-02", "tern", pump_wire("2.5 mm2"), "watch"),
    ("FUEL-02", "tern", pump_wire("0.75 mm2"), "sort_out"),
    ("FUEL-02", "tern", pump_wire("0.5 mm2") | {"/engine/power": "380 kW"}, "stop"),
    ("FUEL-04", "tern", {"/fuel/parts/supply/bore": "5.4 mm"}, "watch"),
    ("FUEL-04", "tern", {"/fuel/parts/supply/bore": "3.5 mm"}, "sort_out"),
    ("FUEL-06", "tern", {"/fuel/parts/return_line/bore": "6.3 mm"}, "watch"),
    ("FUEL-06", "tern", {"/fuel/parts/return_line/bore": "4.8 mm"}, "sort_out"),
    ("FUEL-09", "tern", {"/fuel/parts/supply/material": "30R7"}, "stop"),
    ("FUEL-09", "tern", {"/fuel/parts/supply/material": "soft_alloy_tube"}, "stop"),
    ("FUEL-09", "tern", {"/fuel/parts/supply/material": "30R9", "/fuel/regulator/set_pressure": "500 kPa"}, "stop"),
    ("FUEL-09", "hollin", {"/fuel/parts/return_line/material": "30R9"}, "stop"),
    ("FUEL-14", "tern", {"/fuel/pump/control": "key", "/fuel/crash_switch": False}, "stop"),
    ("FUEL-14", "tern", {"/fuel/pump/control": "key"}, "sort_out"),
    ("FUEL-19", "tern", {"/fuel/regulator/set_pressure": "480 kPa"}, "watch"),
    ("FUEL-19", "tern", {"/fuel/pump/curve/7/flow": "90 L/h"}, "watch"),
    ("FUEL-03", "tern", pump_wire("0.3 mm2", 7) | {"/engine/power": "135 kW"}, "watch"),
    ("FUEL-03", "tern", pump_wire("0.2 mm2", 25), "watch"),
    ("FUEL-05", "tern", {"/fuel/parts/supply/bore": "6.3 mm"}, "sort_out"),
    ("FUEL-05", "hollin", {"/fuel/parts/suction/bore": "9 mm"}, "sort_out"),
    ("FUEL-05", "tern", {"/fuel/pump/outlet_bore": None}, "unknown"),
    ("FUEL-15", "tern", {"/fuel/pump/relief": None}, "unknown"),
    ("FUEL-07", "hollin", {"/fuel/tank/hottest": "49 degC"}, "watch"),
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
    ("FUEL-17", "tern", {"/fuel/tank/volume": "48 L"}, "watch"),
    ("FUEL-17", "tern", {"/fuel/tank/volume": "20 L"}, "sort_out"),
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
    ("INJ-07", "tern", {"/injectors/dead_time": []}, "unknown"),
    ("AIR-01", "tern", {"/air/throttle": None}, "unknown"),
    ("AIR-01", "tern", {"/air/throttle/bore": "44 mm"}, "watch"),
    ("AIR-01", "tern", {"/air/throttle/bore": "40 mm"}, "sort_out"),
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
    ("SENS-02", "tern", {"/sensors/oxygen/distance": "1.15 m"}, "sound"),
    ("SENS-02", "tern", {"/sensors/oxygen/distance": "1.5 m"}, "sort_out"),
    ("SENS-02", "tern", {"/sensors/oxygen/distance": "670 mm"}, "sound"),
    ("SENS-02", "tern", {"/sensors/oxygen/distance": "590 mm"}, "watch"),
    ("SENS-02", "tern", {"/sensors/oxygen/clock": "85 deg"}, "watch"),
    ("SENS-02", "tern", {"/sensors/oxygen/leak": "leaks"}, "sort_out"),
    ("SENS-02", "tern", {"/sensors/oxygen/boss": "clamped"}, "unknown"),
    ("SENS-02", "tern", {"/sensors/oxygen/clock": "-20 deg"}, "sort_out"),
    ("SENS-02", "tern", {"/sensors/oxygen/clock": "5 deg"}, "watch"),
    ("SENS-02", "tern", {"/fuel/tank/leaded": True}, "sort_out"),
    ("SENS-02", "tern", {"/sensors/oxygen": None}, "note"),
    ("SENS-03", "tern", {"/sensors/coolant/place": "radiator"}, "sort_out"),
    ("SENS-03", "tern", {"/engine/cooling": "air"}, "sort_out"),
    ("SENS-03", "tern", {"/engine/cooling": "air", "/sensors/coolant/place": "head"}, "sound"),
    ("SENS-03", "tern", {"/sensors/coolant": None}, "note"),
    ("SENS-04", "tern", {"/sensors/coolant/wires": 1, "/sensors/coolant/seal": "thread_tape"}, "stop"),
    ("SENS-04", "tern", {"/sensors/coolant/wires": 1, "/sensors/coolant/body": "40 ohm"}, "stop"),
    ("SENS-04", "tern", {"/sensors/coolant/wires": 1}, "watch"),
    ("SENS-04", "tern", {"/sensors/coolant/wires": 1, "/sensors/coolant/body": "0.3 ohm"}, "sound"),
    ("SENS-05", "tern", {"/sensors/air/place": "metal_plenum"}, "watch"),
    ("SENS-05", "tern", {"/engine/boost": "50 kPa"}, "watch"),
    ("SENS-05", "tern", {"/engine/boost": "50 kPa", "/sensors/air/place": "after_blower"}, "sound"),
    ("SENS-06", "tern", {"/sensors/coolant/shared": {"name": "gauge", "pull_up": "1 kohm"}}, "sort_out"),
    ("SENS-06", "tern", {"/sensors/air/shared": {"name": "old box", "pull_up": "120 kohm", "supply": "5 V"}}, "watch"),
    ("SENS-06", "tern", {"/sensors/coolant/shared": {"name": "logger", "pull_up": "900 kohm", "supply": "5 V"}}, "sound"),
    ("SENS-07", "tern", {"/engine/boost": "60 kPa"}, "sort_out"),
    (
        "SENS-07",
        "tern",
        {"/sensors/pressure/typed": [{"volts": "0.5 V", "value": "10 kPa"}, {"volts": "4.5 V", "value": "250 kPa"}]},
        "sort_out",
    ),
    ("SENS-07", "tern", {"/sensors/pressure": None}, "note"),
    ("SENS-08", "tern", {"/air/consumers/3/port": "sensor"}, "sort_out"),
    ("SENS-08", "tern", {"/sensors/pressure/hose": "sags"}, "watch"),
    ("SENS-09", "tern", {"/sensors/throttle/pedal": "3.9 V"}, "sort_out"),
    ("SENS-09", "tern", {"/sensors/throttle/stop_turned": "2026-06-01"}, "sort_out"),
    ("SENS-09", "tern", {"/sensors/throttle/open": "0.9 V"}, "sort_out"),
    ("SENS-09", "tern", {"/sensors/throttle/pedal": None}, "watch"),
    ("SENS-09", "hollin", {}, "sound"),
    ("SENS-10", "tern", {"/sensors/key_on/coolant": "22 degC"}, "sort_out"),
    ("SENS-10", "tern", {"/sensors/key_on/manifold": "92 kPa"}, "sort_out"),
    ("SENS-10", "tern", {"/sensors/key_on/throttle": "-3 %"}, "sort_out"),
    ("SENS-10", "tern", {"/sensors/key_on/battery": "11.9 V"}, "sort_out"),
    ("SENS-10", "tern", {"/sensors/key_on": {}}, "unknown"),
    ("TRIG-01", "tern", {"/sensors/trigger/gaps": []}, "unknown"),
    ("TRIG-01", "tern", {"/sensors/trigger/gaps/2": "1.2 mm"}, "watch"),
    ("TRIG-01", "tern", {"/sensors/trigger/gaps/2": "1.45 mm"}, "sort_out"),
    ("TRIG-01", "tern", {"/sensors/trigger/gaps/2": "1.7 mm"}, "sort_out"),
    ("TRIG-01", "hollin", {"/sensors/trigger/threshold": "2 V"}, "sort_out"),
    ("TRIG-02", "tern", {"/sensors/trigger/hand_turn/levels/4/over": "1.2 V"}, "stop"),
    ("TRIG-02", "tern", {"/sensors/trigger/hand_turn/levels/4/between": "2 V"}, "stop"),
    ("TRIG-02", "tern", {"/sensors/trigger/missing": 2}, "stop"),
    ("TRIG-02", "tern", {"/sensors/trigger/teeth": 60}, "stop"),
    ("TRIG-02", "tern", {"/sensors/trigger/hand_turn/finished": False, "/sensors/trigger/teeth": 60}, "unknown"),
    ("TRIG-02", "tern", {"/sensors/trigger/hand_turn": None}, "unknown"),
    ("TRIG-02", "tern", {"/sensors/trigger/hand_turn": None, "/sensors/trigger/mount": "behind_pulley"}, "sort_out"),
    ("TRIG-02", "hollin", {"/sensors/trigger/spin": None}, "unknown"),
    ("TRIG-03", "tern", {"/sensors/trigger/diameter": "80 mm"}, "sort_out"),
    ("TRIG-03", "tern", {"/sensors/trigger/input_rate": "2 kHz"}, "sort_out"),
    ("TRIG-03", "tern", {"/sensors/trigger/missing": 0, "/sensors/trigger/phase": None}, "sort_out"),
    ("TRIG-04", "tern", {"/sensors/trigger/given": "12 V"}, "stop"),
    ("TRIG-04", "tern", {"/sensors/trigger/wants": "12 V"}, "stop"),
    ("TRIG-04", "tern", {"/sensors/trigger/input": "zero_crossing"}, "stop"),
    ("TRIG-04", "tern", {"/sensors/trigger/input": "logic_bare"}, "stop"),
    ("TRIG-04", "hollin", {"/sensors/trigger/given": "12 V"}, "stop"),
    ("TRIG-04", "hollin", {"/sensors/trigger/input": "logic_pull_up"}, "stop"),
    ("TRIG-04", "tern", {"/sensors/trigger/wants": "not_read"}, "unknown"),
    ("TRIG-06", "tern", {"/sensors/trigger/phase/at": "270 deg"}, "sort_out"),
    ("TRIG-06", "tern", {"/sensors/trigger/phase/at": "190 deg"}, "sort_out"),
    ("TRIG-06", "tern", {"/sensors/trigger/phase/events": 2}, "sort_out"),
    ("TRIG-06", "tern", {"/sensors/trigger/phase": None, "/sensors/decisions/cam": "struck"}, "sort_out"),
    ("TRIG-06", "tern", {"/sensors/trigger/phase": None}, "note"),
    ("TRIG-06", "tern", {"/sensors/trigger/angle": None}, "unknown"),
    ("TRIG-07", "hollin", {"/sensors/trigger/polarity": "swapped"}, "sort_out"),
    ("TRIG-07", "hollin", {"/sensors/trigger/polarity": "not_checked"}, "watch"),
    ("TRIG-07", "tern", {"/ignition/timing/2/observed": "14 deg"}, "sort_out"),
    ("TRIG-07", "tern", {"/ignition/timing/2/observed": "11.9 deg"}, "watch"),
    ("IGN-02", "tern", {"/ignition/coil/kind": "dumb"}, "unknown"),
    ("IGN-02", "tern", {"/ignition/coil/kind": "dumb", "/wiring/unit/coil_stage": "none"}, "stop"),
    ("IGN-02", "tern", {"/ignition/coil/kind": "dumb", "/wiring/unit/coil_stage": "inside"}, "sound"),
    ("IGN-02", "tern", {"/wiring/unit/coil_stage": "inside"}, "stop"),
    ("IGN-02", "tern", {"/ignition/edge": "rising"}, "stop"),
    ("IGN-02", "tern", {"/ignition/coil/kind": "dumb", "/ignition/igniter": {"limit": "6 A", "heat_sink": True}}, "stop"),
    ("IGN-02", "tern", {"/ignition/coil/kind": "dumb", "/ignition/igniter": {"limit": "10 A"}}, "sort_out"),
    ("IGN-02", "tern", {"/ignition/coil/kind": "dumb", "/ignition/igniter": {"limit": "10 A", "heat_sink": True}}, "sound"),
    ("IGN-04", "tern", {"/ignition/letters/0/output": "B", "/ignition/letters/1/output": "A"}, "stop"),
    ("IGN-05", "tern", {"/ignition/kind": "timed_distributor", "/ignition/outputs": [], "/ignition/letters": []}, "unknown"),
    ("IGN-05", "brindle", {"/ignition/distributor/rotor_tip": "26 deg", "/ignition/distributor/meets": "21.5 deg"}, "sound"),
    ("IGN-05", "brindle", {"/ignition/distributor/rotor_tip": "26 deg"}, "sort_out"),
    ("IGN-07", "tern", {"/ignition/suppressed_leads": "no"}, "sort_out"),
    ("IGN-07", "tern", {"/ignition/resistor_plugs": "not_looked_at"}, "note"),
    ("IGN-08", "tern", {"/ignition/tach/hangs_on": "coil_negative"}, "watch"),
    ("IGN-08", "tern", {"/ignition/tach/wants": "spike"}, "watch"),
    ("IGN-08", "tern", {"/ignition/tach/set_for": 4}, "watch"),
    ("TRIG-05", "tern", {"/sensors/trigger/stroke": "exhaust"}, "stop"),
    ("TRIG-05", "tern", {"/sensors/trigger/angle": None}, "unknown"),
    ("TRIG-05", "tern", {"/sensors/trigger/light_observed": "14 deg"}, "watch"),
    ("TRIG-05", "tern", {"/sensors/trigger/light_observed": "17 deg"}, "stop"),
    ("TRIG-05", "tern", {"/sensors/trigger/tooth_at_top": 8.0}, "watch"),
    ("TRIG-05", "tern", {"/sensors/trigger/tooth_at_top": 7.0}, "stop"),
    ("TRIG-05", "tern", {"/sensors/trigger/top_by": "mark"}, "watch"),
    ("TRIG-05", "tern", {"/sensors/trigger/light_observed": None}, "watch"),
    ("TRIG-05", "tern", {"/sensors/trigger": None}, "unknown"),
    ("TRIG-05", "hollin", {"/sensors/trigger/stroke": "not_checked"}, "unknown"),
    ("IGN-01", "tern", {"/ignition/kind": "contact_points", "/ignition/speed_signal": "coil_negative"}, "stop"),
    ("IGN-01", "tern", {"/ignition/ballast": True, "/ignition/speed_signal": "coil_negative"}, "stop"),
    ("IGN-01", "tern", {"/ignition/kind": "capacitive_discharge", "/ignition/speed_signal": "coil_negative"}, "stop"),
    ("IGN-01", "tern", {"/ignition/multi_spark": True, "/ignition/speed_signal": "tach_output"}, "stop"),
    (
        "IGN-03",
        "tern",
        {
            "/ignition/kind": "timed_distributor",
            "/ignition/outputs": [],
            "/engine/rev_limit": "5500 rpm",
            "/ignition/coil/current": "5.6 A",
        },
        "watch",
    ),
    ("IGN-03", "tern", {"/ignition/kind": "timed_distributor", "/ignition/outputs": [], "/ignition/coil/current": "10 A"}, "sort_out"),
    ("IGN-03", "tern", {"/ignition/coil/current": "29 A"}, "sort_out"),
    (
        "IGN-04",
        "tern",
        {
            "/ignition/letters": [],
            "/ignition/outputs": [
                {"name": "A", "cylinders": [3, 4]},
                {"name": "B", "cylinders": [5, 2]},
                {"name": "C", "cylinders": [1, 6]},
            ],
        },
        "stop",
    ),
    ("IGN-04", "tern", {"/ignition/outputs": [], "/ignition/letters": []}, "unknown"),
    ("IGN-06", "tern", {"/ignition/advance": "working"}, "stop"),
    ("IGN-06", "tern", {"/ignition/timed_by_unit": False}, "stop"),
    ("WIRE-01", "tern", {"/wiring/feed/taken_from": "alternator"}, "stop"),
    ("WIRE-01", "tern", {"/wiring/feed/fuse_distance": "40 cm"}, "stop"),
    ("WIRE-02", "tern", {"/wiring/feed/crank": "9.5 V"}, "watch"),
    ("WIRE-02", "tern", {"/wiring/feed/crank": "8 V"}, "stop"),
    ("WIRE-02", "tern", {"/wiring/feed/run": "11.4 V"}, "sort_out"),
    ("WIRE-02", "tern", {"/wiring/feed/off": "4 V"}, "sort_out"),
    ("WIRE-02", "tern", {"/wiring/feed/crank": None}, "unknown"),
    ("WIRE-03", "tern", pump_wire("2.5 mm2"), "watch"),
    (
        "WIRE-03",
        "tern",
        {"/wiring/fitted": {"unit_ground": {"size": "0.5 mm2"}}, "/wiring/branches/firewall_unit/length": "4 m"},
        "sort_out",
    ),
    ("WIRE-05", "tern", {"/wiring/fuses": {"coils": 40}}, "stop"),
    ("WIRE-05", "tern", {"/wiring/fuses": {"pump": 7.5}}, "sort_out"),
    ("WIRE-07", "tern", {"/wiring/profile": "small_4"}, "stop"),
    ("WIRE-07", "hollin", {"/wiring/extras": ["fan", "tachometer", "idle_valve", "warning_lamp"]}, "sort_out"),
    ("TUNE-01", "tern", {"/tune/typed/injector_flow": "180 g/min"}, "stop"),
    ("TUNE-01", "tern", {"/tune/typed/cylinders": 4}, "stop"),
    ("TUNE-01", "tern", {"/tune/typed": {}}, "unknown"),
    ("TUNE-01", "tern", {"/tune/typed/injector_flow": "157 g/min"}, "watch"),
    ("TUNE-03", "tern", {"/engine/boost": "80 kPa"}, "sort_out"),
    ("TUNE-03", "tern", {"/sensors/pressure": None}, "note"),
    (
        "TUNE-03",
        "tern",
        {"/sensors/pressure/points": [{"volts": "0.5 V", "value": "20 kPa"}, {"volts": "4.5 V", "value": "92 kPa"}]},
        "watch",
    ),
    (
        "TUNE-03",
        "tern",
        {"/sensors/pressure/points": [{"volts": "0.5 V", "value": "20 kPa"}, {"volts": "4.5 V", "value": "250 kPa"}]},
        "sound",
    ),
    ("TUNE-04", "tern", {"/tune/typed/full_advance": "36 deg"}, "sound"),
    ("TUNE-04", "tern", {"/tune/typed/full_advance": "36 deg", "/engine/octane": None}, "unknown"),
    ("TUNE-04", "tern", {"/tune/typed/full_advance": "37 deg"}, "watch"),
    ("TUNE-04", "tern", {"/tune/typed/full_advance": "40 deg"}, "watch"),
    ("TUNE-04", "tern", {"/tune/typed/full_advance": "41 deg"}, "sort_out"),
    ("TUNE-05", "tern", {"/tune/typed/rev_limit": "5800 rpm"}, "sort_out"),
    ("TUNE-05", "tern", {"/tune/typed/rev_limit": "5700 rpm"}, "sound"),
    ("TUNE-05", "tern", {"/tune/typed/idle_speed": "1200 rpm"}, "sort_out"),
    ("TUNE-05", "tern", {"/tune/typed/fan_on": "92 degC", "/tune/typed/fan_off": "90 degC"}, "sort_out"),
    ("TUNE-05", "tern", {"/tune/typed/fan_on": "94 degC", "/tune/typed/fan_off": "90 degC"}, "sound"),
    ("TUNE-05", "tern", {"/tune/typed/fan_on": "106 degC", "/tune/typed/fan_off": "90 degC"}, "sort_out"),
    ("TUNE-07", "tern", {"/tune/full_lambda": 0.93, "/tune/kept": None}, "sort_out"),
    ("TUNE-07", "tern", {"/tune/full_lambda": 1.01, "/tune/kept": None}, "stop"),
    ("TUNE-07", "tern", {"/tune/kept/tables/lambda/rows": kept_rows("lambda", 0.92)}, "sound"),
    ("TUNE-07", "tern", {"/tune/kept/tables/lambda/rows": kept_rows("lambda", 0.93)}, "sort_out"),
    ("TUNE-07", "tern", {"/tune/kept/tables/lambda/rows": kept_rows("lambda", 1.01)}, "stop"),
    ("TUNE-01", "tern", {"/tune/typed/firing_order": [3, 6, 2, 4, 1, 5]}, "sound"),
    ("TUNE-01", "tern", {"/tune/typed/firing_order": [1, 5, 3, 6, 4, 2]}, "stop"),
    ("TUNE-01", "tern", {"/tune/typed/cam": "touring"}, "sound"),
    ("TUNE-01", "tern", {"/tune/typed/cam": "competition"}, "watch"),
    ("TUNE-01", "tern", {"/tune/typed/ignition": "coil_per_plug"}, "stop"),
    ("TUNE-01", "tern", {"/tune/typed/ignition": "untimed"}, "stop"),
    (
        "TUNE-03",
        "tern",
        {
            "/engine/boost": "20 kPa",
            "/sensors/pressure/points": [{"volts": "0.5 V", "value": "20 kPa"}, {"volts": "4.5 V", "value": "250 kPa"}],
        },
        "sort_out",
    ),
    ("TUNE-04", "tern", {"/tune/kept/tables/advance/rows": kept_rows("advance", 36.0)}, "sound"),
    ("TUNE-04", "tern", {"/tune/kept/tables/advance/rows": kept_rows("advance", 38.9)}, "watch"),
    ("TUNE-04", "tern", {"/tune/kept/tables/advance/rows": kept_rows("advance", 39.1)}, "sort_out"),
    ("TUNE-06", "tern", {}, "sound"),
    ("TUNE-06", "tern", {"/tune/came_empty": False}, "watch"),
    ("TUNE-06", "tern", {"/tune/came_empty": False, "/tune/typed": {}}, "note"),
    ("TUNE-06", "tern", {"/tune/kept": None}, "watch"),
    ("TUNE-06", "tern", {"/tune/kept": None, "/tune/typed": {}}, "note"),
    ("TUNE-06", "tern", {"/tune/kept/in_unit": None}, "note"),
    ("TUNE-06", "tern", {"/tune/kept/in_unit": "0123456789abcdef"}, "watch"),
    ("TUNE-08", "tern", {"/tune/kept/came_of/power": "112 kW"}, "sound"),
    ("TUNE-08", "tern", {"/tune/kept/came_of/power": "104.9 kW"}, "sound"),
    ("TUNE-08", "tern", {"/tune/kept/came_of/power": "104.6 kW"}, "watch"),
    ("TUNE-08", "tern", {"/tune/kept/came_of/power": "119.6 kW"}, "sound"),
    ("TUNE-08", "tern", {"/tune/kept/came_of/power": "119.9 kW"}, "watch"),
    ("TUNE-08", "tern", {"/engine/compression_ratio": "8.4:1"}, "watch"),
    ("TUNE-07", "tern", {"/engine/boost": "50 kPa"}, "watch"),
    ("TUNE-02", "tern", {"/tune/kept": None}, "watch"),
    ("FUEL-20", "tern", {}, "note"),
    ("FUEL-20", "tern", {"/fuel/regulator/set_pressure": "150 kPa"}, "watch"),
    ("FUEL-20", "tern", {"/fuel/regulator/set_pressure": "80 kPa"}, "sort_out"),
    ("FUEL-18", "hollin", {"/fuel/seals": "not_fit"}, "stop"),
    ("FUEL-18", "hollin", {"/fuel/seals": "not_looked_at"}, "unknown"),
    ("FUEL-09", "tern", {"/fuel/parts/supply/material": "30R14T2", "/fuel/parts/supply/in_fuel": True}, "stop"),
    ("FUEL-09", "tern", {"/fuel/parts/supply/material": "30R10"}, "stop"),
    ("FUEL-08", "hollin", {"/fuel/parts/suction/length": "3 m"}, "sort_out"),
    ("AIR-07", "tern", {"/air/left_in": "rag_or_tape"}, "stop"),
    ("AIR-08", "brindle", {"/engine/carburettors": "two"}, "unknown"),
    ("AIR-08", "brindle", {"/engine/carburettors": "one_a_cylinder", "/air/manifolds": 6}, "stop"),
    ("AIR-07", "tern", {"/air/blanked": "open_hole"}, "sort_out"),
    ("AIR-07", "tern", {"/air/left_in": "not_looked_at"}, "note"),
    ("AIR-02", "tern", {"/air/linkage/cable_angle": "30 deg"}, "watch"),
    ("AIR-04", "tern", {"/air/ports/plenum rear/bore": "6 mm"}, "sort_out"),
    ("AIR-04", "tern", {"/air/ports/sensor/central": False}, "sort_out"),
    ("AIR-04", "tern", {"/air/manifolds": 2}, "sort_out"),
    ("AIR-04", "tern", {"/air/consumers/0/check_valve": None}, "unknown"),
    ("INJ-05", "tern", {"/injectors/bench/0/resistance": "11 ohm"}, "sort_out"),
    ("SENS-02", "tern", {"/sensors/oxygen/banks": "one_only"}, "watch"),
    (
        "SENS-02",
        "tern",
        {"/engine/arrangement": "vee", "/engine/banks": [[1, 2, 3], [4, 5, 6]], "/engine/firing_order": [1, 4, 2, 5, 3, 6]},
        "unknown",
    ),
    ("SENS-11", "tern", {"/sensors/fuel_pressure": {"sits": "return"}}, "sort_out"),
    ("SENS-11", "tern", {"/sensors/fuel_pressure": {"sits": "before_filter"}}, "watch"),
    ("SENS-11", "tern", {"/sensors/fuel_pressure": {}}, "note"),
    ("SENS-11", "tern", {"/sensors/fuel_pressure": {"sits": "after_filter"}}, "sound"),
    ("WIRE-02", "tern", {"/wiring/feed/crank": "12.3 V", "/wiring/feed/run": "12.4 V"}, "unknown"),
    ("TUNE-02", "tern", {"/injectors/flow": "70 g/min"}, "stop"),
    ("TUNE-02", "tern", pump_wire("0.2 mm2", 20), "stop"),
    ("ENG-12", "hollin", {"/engine/blower": {"size": "900 cc", "drive": "1.6:1"}, "/engine/boost": "60 kPa"}, "sound"),
    ("ENG-12", "hollin", {"/engine/blower": {"size": "900 cc", "drive": "1.6:1"}, "/engine/boost": "30 kPa"}, "watch"),
    ("ENG-06", "tern", {"/engine/rev_limit": "7600 rpm", "/engine/bottom_end": "forged"}, "sound"),
    ("ENG-05", "tern", {"/engine/power": "150 kW", "/engine/rolling_road": {"power": "147 kW", "at": "crank"}}, "sound"),
    ("FUEL-21", "tern", {"/fuel/users": [{"name": "cold-start jet", "flow": "6 L/h", "sized_at": "41 kPa"}]}, "sort_out"),
    ("FUEL-21", "tern", {"/fuel/users": [{"name": "heater", "flow": "1 L/h", "sized_at": "300 kPa"}]}, "sound"),
    ("FUEL-22", "tern", {"/fuel/rails": "split"}, "watch"),
    ("FUEL-22", "tern", {"/fuel/rails": "in_series"}, "sound"),
    ("FUEL-23", "brindle", {"/fuel/body": None}, "note"),
    ("FUEL-23", "brindle", {"/fuel/body": {"own_regulator": "used", "return_port": "plugged"}}, "stop"),
    ("FUEL-23", "brindle", {"/fuel/body": {"own_regulator": "taken_out", "return_port": "open"}}, "stop"),
    ("FUEL-23", "brindle", {"/fuel/body": {}}, "unknown"),
    ("FUEL-23", "brindle", {"/fuel/body": {"own_regulator": "taken_out", "return_port": "used"}}, "sound"),
    ("FUEL-24", "tern", {"/fuel/pump/arrow": "against"}, "stop"),
    ("FUEL-24", "tern", {"/fuel/parts/filter/arrow": "against"}, "sort_out"),
    ("FUEL-24", "tern", {"/fuel/parts/filter/arrow": "as_flow", "/fuel/pump/arrow": "none"}, "sound"),
    ("FUEL-25", "hollin", {"/fuel/measured": {"caught": "300 mL", "caught_in": "15 s"}}, "sort_out"),
    ("FUEL-25", "hollin", {"/fuel/measured": {"caught": "1.5 L", "caught_in": "15 s"}}, "sound"),
    ("FUEL-06", "tern", {"/fuel/measured": {"return_pressure": "35 kPa"}}, "sort_out"),
    ("FUEL-19", "tern", {"/fuel/pump/rated": {"flow": "190 L/h"}}, "watch"),
    ("AIR-09", "tern", {"/air/by_wire": {}}, "unknown"),
    ("AIR-09", "tern", {"/air/by_wire": {"limp_test": "stayed"}}, "stop"),
    ("AIR-09", "tern", {"/air/by_wire": {"limp": "25 %"}}, "sort_out"),
    ("AIR-10", "tern", {"/air/height": {"old": "160 mm", "room": "30 mm", "adapter": "20 mm", "new": "165 mm"}}, "sort_out"),
    ("AIR-10", "tern", {"/air/height": {"old": "160 mm", "room": "30 mm", "adapter": "20 mm", "new": "155 mm"}}, "sound"),
    ("AIR-10", "tern", {"/air/height": {"old": "160 mm"}}, "unknown"),
    ("AIR-11", "tern", {"/air/throttle/second_shaft": "held_open"}, "sort_out"),
    ("AIR-11", "tern", {"/air/throttle/second_shaft": "shut"}, "sound"),
    ("SENS-08", "tern", {"/sensors/pressure/sits": "in_unit", "/sensors/pressure/hose_length": "1.4 m"}, "watch"),
    ("SENS-09", "tern", {"/sensors/throttle/screen": "84 %"}, "sort_out"),
    ("SENS-09", "tern", {"/sensors/throttle/screen": "4.1 V"}, "unknown"),
    ("SENS-12", "tern", {"/sensors/meter": {"breather": "before", "other_air": "after"}}, "sort_out"),
    ("SENS-12", "tern", {"/sensors/meter": {}}, "unknown"),
    ("SENS-12", "tern", {"/sensors/meter": {"breather": "after", "other_air": "none", "most": "600 kg/h"}}, "sound"),
    ("SENS-13", "tern", {"/sensors/narrowband": {"lean": "0.4 V", "rich": "0.6 V"}}, "sort_out"),
    ("SENS-13", "tern", {"/sensors/narrowband": {"lean": "0.1 V", "rich": "0.85 V"}}, "sound"),
    ("SENS-13", "tern", {"/sensors/narrowband": {}}, "note"),
    ("SENS-14", "tern", {"/sensors/composition": {"blend": "50 %", "unit_follows": "no"}}, "sort_out"),
    ("SENS-14", "tern", {"/sensors/composition": {"blend": "10 %"}}, "sound"),
    ("SENS-14", "tern", {"/sensors/composition": {}}, "unknown"),
    ("TRIG-01", "tern", {"/sensors/trigger/overlap": "1 mm"}, "sort_out"),
    ("TRIG-02", "tern", {"/sensors/trigger/hand_turn/supply": "12.5 V"}, "stop"),
    ("TRIG-04", "tern", {"/sensors/trigger/shared": {"name": "old box", "pull_up": "2200 ohm", "powers": "unit"}}, "stop"),
    ("TRIG-04", "tern", {"/sensors/trigger/shared": {"name": "old box", "pull_up": "100 kohm"}}, "unknown"),
    ("TRIG-05", "tern", {"/sensors/trigger/figure_from": "maker", "/sensors/trigger/face": "turned_over"}, "stop"),
    ("TRIG-05", "tern", {"/sensors/trigger/figure_from": "maker", "/sensors/trigger/index_shift": "60 deg"}, "sort_out"),
    ("TRIG-08", "tern", {"/sensors/trigger/reach": "out_of_reach"}, "sort_out"),
    ("IGN-08", "tern", {"/ignition/tach": {"hangs_on": "unit_output", "terminal": "shared_with_unit", "wants": "square"}}, "watch"),
    ("INJ-06", "tern", {"/injectors/enters": "above_plates"}, "sort_out"),
    ("INJ-09", "tern", {"/wiring/unit/numbers": "not_read"}, "unknown"),
    ("WIRE-01", "tern", {"/wiring/feed/taken_from": "starter_stud"}, "sound"),
    ("WIRE-01", "tern", {"/wiring/feed/taken_from": "fuse_block", "/wiring/links": [{"feeds": "block", "distance": "40 cm"}]}, "stop"),
    ("WIRE-06", "tern", {"/wiring/unit/pump_output": "high_side"}, "sound"),
    ("WIRE-06", "tern", {"/wiring/unit/pump_output": "high_side", "/wiring/unit/pump_limit": "6 A"}, "stop"),
    ("WIRE-06", "tern", {"/wiring/unit/pump_output": "relay_inside", "/fuel/pump/control": "relay_with_cutout"}, "watch"),
    ("WIRE-04", "tern", {"/wiring/fitted/unit_ground": {"insulation": "pvc_85", "size": "0.5 mm2"}}, "stop"),
    ("WIRE-04", "tern", {"/wiring/fitted/oxygen_feed": {"insulation": "pvc_85"}}, "sort_out"),
    ("WIRE-04", "tern", {}, "sound"),
    ("WIRE-06", "tern", {"/wiring/relays/fan": 54.1}, "sound"),
    ("WIRE-06", "tern", {"/wiring/relays/fan": 53.9}, "sort_out"),
    ("WIRE-06", "tern", {"/wiring/relays": {}}, "note"),
    ("WIRE-06", "tern", {"/wiring/battery": {"rest": "12.2 V", "inner": "45 mohm"}}, "stop"),
    ("WIRE-08", "tern", {"/wiring/grounds/unit/surface": "paint"}, "sort_out"),
    ("WIRE-08", "tern", {"/wiring/grounds/unit/lands": "minus_and_head"}, "sort_out"),
    ("WIRE-08", "tern", {"/wiring/grounds/unit/lands": "sheet_metal"}, "sort_out"),
    ("WIRE-08", "tern", {"/wiring/grounds/sensors/lands": "unit_and_body"}, "sort_out"),
    ("WIRE-08", "tern", {"/wiring/grounds/sensors/lands": "head"}, "sort_out"),
    ("WIRE-08", "tern", {"/wiring/grounds/block_strap/ohms": "5.1 mohm"}, "sort_out"),
    ("WIRE-08", "tern", {"/wiring/grounds/block_strap/ohms": "1.6 mohm"}, "sound"),
    ("WIRE-08", "tern", {"/wiring/grounds/block_strap/ohms": "1.7 mohm"}, "sort_out"),
    ("WIRE-08", "tern", {"/wiring/grounds/block_strap/rise": "299 mV"}, "sound"),
    ("WIRE-08", "tern", {"/wiring/grounds/block_strap/rise": "301 mV"}, "sort_out"),
    ("WIRE-08", "tern", {"/wiring/grounds/unit/rise": "49 mV"}, "sound"),
    ("WIRE-08", "tern", {"/wiring/grounds/unit/rise": "51 mV"}, "sort_out"),
    ("WIRE-08", "tern", {"/wiring/grounds": {}}, "unknown"),
    ("WIRE-08", "tern", {"/wiring/grounds/unit/lands": "head"}, "note"),
    ("WIRE-09", "tern", {"/wiring/beside/firewall_engine/spark_leads": "101 mm"}, "sort_out"),
    ("WIRE-09", "tern", {"/wiring/beside/firewall_engine/spark_leads": "99 mm"}, "sound"),
    ("WIRE-09", "tern", {"/wiring/beside/firewall_engine": {"moves": "nothing"}}, "unknown"),
    ("WIRE-09", "tern", {"/wiring/fitted/crank_signal": {"twist": "twisted"}}, "watch"),
    ("WIRE-09", "tern", {"/wiring/pairs": "not_looked_at"}, "unknown"),
    ("WIRE-10", "tern", {"/wiring/beside/engine_exhaust/sleeve": "no"}, "sort_out"),
    ("WIRE-10", "tern", {"/wiring/beside/engine_exhaust/sleeve": "not_looked_at"}, "unknown"),
    ("WIRE-10", "tern", {"/wiring/beside/firewall_engine/clips": "no"}, "sort_out"),
    ("WIRE-10", "tern", {"/wiring/beside/firewall_engine/clips": "not_looked_at"}, "unknown"),
    ("WIRE-11", "tern", {"/wiring/holes/firewall/diameter": "18.6 mm"}, "sort_out"),
    (
        "WIRE-11",
        "tern",
        {"/wiring/holes/firewall": {"branch": "firewall_engine", "diameter": "18.9 mm", "way": "connector_after", "grommet": "yes"}},
        "sound",
    ),
    ("WIRE-11", "tern", {"/wiring/holes/firewall/connector": "32.1 mm"}, "sort_out"),
    ("WIRE-11", "tern", {"/wiring/holes/firewall/connector": "31.9 mm"}, "sound"),
    ("WIRE-11", "tern", {"/wiring/holes/firewall/connector": "45 mm", "/wiring/holes/firewall/way": "other_side"}, "sound"),
    ("WIRE-11", "tern", {"/wiring/holes/firewall/grommet": "no"}, "sort_out"),
    ("WIRE-11", "tern", {"/wiring/holes": {}}, "note"),
    ("WIRE-12", "tern", {"/wiring/loom": [{"label": "Red", "serves": "unit_feed", "length": "1 m", "ends": "in_use"}]}, "sort_out"),
    ("WIRE-12", "tern", {"/wiring/loom": [{"label": "Red", "serves": "unit_ground", "size": "0.5 mm2", "ends": "in_use"}]}, "sort_out"),
    ("WIRE-12", "tern", {"/wiring/loom": [{"label": "Boost", "ends": "open"}]}, "watch"),
    ("WIRE-12", "tern", {"/wiring/loom": [{"label": "Lift", "serves": "lift_feed", "ends": "in_use"}]}, "watch"),
    ("WIRE-13", "tern", {"/wiring/charging/output_idle": "31 A"}, "sound"),
    ("WIRE-13", "tern", {"/wiring/charging/output_idle": "30 A"}, "watch"),
    ("WIRE-13", "tern", {"/wiring/charging/output_full": "37 A"}, "sort_out"),
    ("WIRE-13", "tern", {"/wiring/charging/output_full": "38.5 A"}, "sound"),
    ("WIRE-13", "tern", {"/wiring/battery/master": "feed_only"}, "sort_out"),
    ("WIRE-13", "tern", {"/wiring/charging/output_full": None}, "unknown"),
    ("WIRE-15", "tern", {"/wiring/old/0/do": "keep"}, "sort_out"),
    ("WIRE-15", "tern", {"/wiring/old/0/do": "keep", "/fuel/pump/control": "relay_with_cutout"}, "sound"),
    ("WIRE-15", "tern", {"/wiring/old/1": {"what": "ballast", "do": "keep"}}, "sort_out"),
    ("WIRE-15", "tern", {"/wiring/old/1": {"what": "ignition_feed", "do": "feed_from", "ohms": "0.31 ohm"}}, "sort_out"),
    ("WIRE-15", "tern", {"/wiring/old/1": {"what": "ignition_feed", "do": "feed_from", "ohms": "0.29 ohm"}}, "sound"),
    ("WIRE-15", "tern", {"/wiring/old/1": {"what": "ignition_feed", "do": "feed_from"}}, "unknown"),
    ("WIRE-15", "tern", {"/wiring/old/1": {"what": "choke"}}, "watch"),
    ("WIRE-15", "tern", {"/wiring/old/1": FED | {"volts": {"off": "0 V", "run": "12.2 V", "crank": "0 V"}}}, "sort_out"),
    ("WIRE-15", "tern", {"/wiring/old/1": FED | {"volts": {"off": "0 V", "run": "12.2 V", "crank": "9.8 V"}}}, "sound"),
    (
        "WIRE-06",
        "tern",
        {"/wiring/own": {"purge": {"label": "Purge", "place": "engine", "draws": "3.1 A", "ground": "unit_output"}}},
        "sort_out",
    ),
    (
        "WIRE-06",
        "tern",
        {"/wiring/own": {"purge": {"label": "Purge", "place": "engine", "draws": "2.9 A", "ground": "unit_output"}}},
        "sound",
    ),
    ("WIRE-05", "tern", {"/wiring/added": {"one": LAMP | {"fused": False}}}, "stop"),
    ("WIRE-05", "tern", {"/wiring/added": {"one": LAMP}}, "sound"),
    ("WIRE-16", "tern", {"/wiring/joint_method": "tap"}, "sort_out"),
    ("WIRE-16", "tern", {"/wiring/fitted/pump_feed/method": "twist_tape"}, "sort_out"),
    ("WIRE-16", "tern", {"/wiring/joint_method": "not_noted"}, "note"),
    ("WIRE-16", "hollin", {}, "sound"),
    ("WIRE-17", "tern", {"/wiring/loose/0": {"label": "Green", "end": "open", "live": "yes"}}, "sort_out"),
    ("WIRE-17", "tern", {"/wiring/loose/0": {"label": "Green", "end": "taped"}}, "watch"),
    ("WIRE-17", "tern", {"/wiring/loose/0": {"label": "Green", "end": "cut"}}, "watch"),
    ("WIRE-17", "tern", {}, "sound"),
    ("WIRE-18", "tern", {}, "note"),
    ("WIRE-18", "tern", {"/wiring/tests/unit_feed/short": "to_ground"}, "stop"),
    ("WIRE-18", "tern", {"/wiring/tests/unit_feed/continuity": "0.51 ohm"}, "sort_out"),
    ("WIRE-18", "tern", {"/wiring/tests/unit_feed/continuity": "0.49 ohm"}, "note"),
    ("WIRE-18", "tern", {"/wiring/tests/unit_feed/volts/run": "11 V"}, "sort_out"),
    ("WIRE-18", "tern", {"/wiring/tests/pump_feed": {"stage": "hidden"}}, "sort_out"),
    ("WIRE-19", "tern", {"/wiring/bus": {"terminators": 2, "twisted": "yes", "ohms": "60 ohm"}}, "sound"),
    ("WIRE-19", "tern", {"/wiring/bus": {"terminators": 1, "twisted": "yes", "ohms": "60 ohm"}}, "sort_out"),
    ("WIRE-19", "tern", {"/wiring/bus": {"terminators": 2, "twisted": "no", "ohms": "60 ohm"}}, "sort_out"),
    ("WIRE-19", "tern", {"/wiring/bus": {"terminators": 2, "twisted": "yes", "ohms": "49 ohm"}}, "sort_out"),
    ("WIRE-19", "tern", {"/wiring/bus": {"terminators": 2, "twisted": "yes", "ohms": "76 ohm"}}, "sort_out"),
    ("WIRE-19", "tern", {"/wiring/bus": {"terminators": 2}}, "unknown"),
    ("WIRE-14", "tern", {"/wiring/charging/exciter": "bare"}, "sort_out"),
    ("WIRE-14", "tern", {"/wiring/charging/exciter": "both"}, "sort_out"),
    ("WIRE-14", "tern", {"/wiring/charging/sense": "alternator"}, "watch"),
    ("WIRE-14", "tern", {"/wiring/charging": {}}, "note"),
    ("UNIT-01", "tern", {"/wiring/unit/mounted": "near_exhaust"}, "sort_out"),
    ("UNIT-01", "tern", {"/wiring/unit/mounted": "wing"}, "unknown"),
    ("UNIT-01", "tern", {"/wiring/unit/reachable": "no"}, "watch"),
    ("UNIT-02", "tern", {"/wiring/unit/can_set/trigger_pattern": "no"}, "stop"),
    ("UNIT-02", "tern", {"/wiring/unit/can_set": {"rev_limit": "yes"}}, "unknown"),
    ("UNIT-02", "tern", {"/wiring/unit/can_set": {}}, "note"),
    ("UNIT-03", "tern", {"/wiring/unit/from_donor": "yes", "/wiring/unit/theft_lock": "active"}, "stop"),
    ("UNIT-03", "tern", {"/wiring/unit/from_donor": "yes"}, "unknown"),
    ("UNIT-03", "tern", {"/wiring/unit/software": "as_delivered"}, "watch"),
    ("GEAR-01", "brindle", {"/wiring/gearbox/typed_pulses": 16500}, "watch"),
    ("GEAR-01", "brindle", {"/wiring/gearbox/typed_pulses": 16500, "/wiring/gearbox/calibrated": "2026-06-01"}, "sound"),
    ("GEAR-01", "brindle", {}, "stop"),
    ("GEAR-01", "brindle", {"/wiring/gearbox/tyre": None}, "unknown"),
    ("GEAR-02", "tern", {"/wiring/gearbox/neutral_switch": "none"}, "watch"),
    ("GEAR-02", "tern", {"/wiring/gearbox": {"kind": "manual"}}, "note"),
    ("START-01", "tern", steps(1, "ground_pin", "0.4 V"), "sort_out"),
    ("START-01", "tern", steps(1, "ground_pin", "0.05 V"), "sound"),
    ("START-02", "tern", steps(2, "throttle_up", "14 %"), "sort_out"),
    ("START-02", "tern", steps(2, "throttle_up", "14 %", done=True, by="Ada", why="Stop screw turned, zeroed tomorrow"), "watch"),
    ("START-02", "tern", steps(2, "throttle_up", "0 %"), "sound"),
    ("START-03", "tern", steps(3, "loss_prime", "21 kPa"), "stop"),
    ("START-03", "tern", steps(3, "loss_prime", "20 kPa"), "sound"),
    ("START-03", "tern", steps(3, "rail_prime", "120 kPa"), "sort_out"),
    ("START-04", "tern", steps(4, "speed_crank", "119 rpm"), "sort_out"),
    ("START-04", "tern", steps(4, "speed_crank", "120 rpm"), "sound"),
    ("START-05", "tern", steps(5, "catches", "6 s"), "sort_out"),
    ("START-05", "tern", steps(5, "catches", "2 s"), "sound"),
    ("START-05", "tern", steps(5, "catches", "2 s", done=True, by="Ada"), "watch"),
    ("START-06", "tern", steps(6, "charging", "12.1 V"), "sort_out"),
    ("START-06", "tern", steps(6, "charging", "13.9 V"), "sound"),
    ("START-07", "tern", steps(7, "speed_idle", "1500 rpm"), "sort_out"),
    ("START-07", "tern", steps(7, "speed_idle", "800 rpm"), "sound"),
    ("START-08", "tern", steps(8, "loss_off", "90 kPa"), "sort_out"),
    ("START-08", "tern", steps(8, "loss_off", "5 kPa"), "sound"),
    ("START-09", "brindle", {}, "stop"),
    ("START-09", "brindle", {"/start/temporary/0/bars": "nothing"}, "watch"),
    ("START-09", "brindle", {"/start/temporary/0/undone": "2026-05-01"}, "sound"),
    ("PLAN-01", "tern", {}, "sound"),
    ("PLAN-01", "tern", {"/work/parts/fuel.pump/due": "2027-03-12"}, "watch"),
    ("PLAN-01", "tern", {"/work/parts/fuel.pump": {"state": "to_order", "lead": "60 day"}}, "watch"),
    ("PLAN-02", "tern", {}, "sound"),
    ("PLAN-02", "tern", {"/work/tasks/tank": {"after": ["lines"]}, "/work/tasks/lines": {"after": ["tank"]}}, "sort_out"),
    ("PLAN-03", "tern", {}, "sound"),
    ("PLAN-03", "tern", {"/work/tasks/tank": {"who": "uncle"}}, "sort_out"),
    ("PLAN-03", "tern", {"/work/people/ben": None}, "watch"),
    ("PLAN-03", "tern", {"/work/people": {}}, "unknown"),
    ("PLAN-04", "tern", {}, "note"),
    ("PLAN-04", "tern", {"/work/money/budget": "3000 EUR"}, "sort_out"),
    ("PLAN-04", "tern", {"/work/money/budget": "3097 EUR"}, "watch"),
    (
        "PLAN-04",
        "tern",
        {f"/work/parts/{key}": {"state": "arrived"} for key in ("tools.extinguisher", "fuel.tank_seal", "fuel.tank_hose")},
        "sound",
    ),
    ("PLAN-05", "tern", {}, "sound"),
    ("PLAN-05", "tern", {"/work/matters": "2027-03-05"}, "watch"),
    ("PLAN-05", "tern", {"/work/matters": "2027-02-20"}, "sort_out"),
    ("PLAN-06", "tern", {}, "sound"),
    ("PLAN-06", "tern", {"/work/parts/injectors.set/bought_as": "port injector 120"}, "sort_out"),
    ("PLAN-06", "tern", {"/work/parts/injectors.set/count": 4}, "watch"),
    ("PLAN-06", "tern", {"/work/parts/fuel.damper": {"state": "arrived"}}, "watch"),
    ("PLAN-07", "tern", {}, "sound"),
    ("PLAN-07", "tern", {"/work/parts/fuel.filter/price": "30 USD"}, "watch"),
    ("PLAN-08", "tern", {}, "sound"),
    ("PLAN-08", "tern", {"/work/parts/fuel.pump/due": "2027-01-10"}, "watch"),
    ("PLAN-08", "tern", {"/work/matters": "2027-01-10"}, "sort_out"),
    ("PLAN-09", "tern", {"/work/tasks/engine_out": {"state": "taken_in"}}, "note"),
    ("PLAN-09", "tern", {"/sensors/trigger/reach": "out_of_reach"}, "note"),
    ("PLAN-10", "tern", {}, "sound"),
    ("PLAN-10", "tern", {"/work/off/k7dm/state": "missing"}, "sort_out"),
    ("PLAN-10", "tern", {"/work/off/w9ta/state": "off"}, "watch"),
    ("PLAN-10", "tern", {"/work/off/k7dm/state": "off", "/work/tasks/first_start": {"state": "done"}}, "sort_out"),
    ("PLAN-11", "tern", {}, "sound"),
    ("PLAN-11", "tern", {"/work/tasks/grounds": {"state": "done"}}, "watch"),
]


class EachCheck(unittest.TestCase):
    def test_fires_when_it_should(self) -> None:
        for code, car, changes, wanted in CASES:
            with self.subTest(code=code, changes=str(changes)[:70], wanted=wanted):
                found = plan(car, changes).findings
                said = {"sound" if f.severity == "sound_if" else f.severity for f in found if f.code == code}
                self.assertIn(wanted, said or {""})
                for f in found:
                    for text in filter(None, (f.why, f.do)):
                        self.assertRegex(text, r"^[A-Z0-9Éμ−-].*[.?!]$", f.code)
                        self.assertNotRegex(text, ILL_SAID, f.code)

    def test_the_ways_to_tell_the_power_say_what_to_aim_at(self) -> None:
        def do(power: str) -> str:
            return next(f.do for f in plan("tern", {"/engine/power": power}).findings if f.code == "ENG-10")

        self.assertIn("size pump, injectors and wire for the air", do("70 kW"))  # the air exceeds it
        self.assertIn("takes more than the target", do("85 kW"))  # the run does
        self.assertIn("have that in hand", do("118 kW"))  # the air falls short
        self.assertEqual(do("110 kW"), "")

    def test_is_quiet_on_the_tidy_car(self) -> None:
        for check in CHECKS:
            self.assertLessEqual(
                severity(check.code),
                {"sound", "note"} | ({"watch"} if check.code in ("ENG-10", "TUNE-08") else set()),
                check.code,
            )

    def test_no_check_is_without_a_case(self) -> None:
        self.assertEqual({code for code, *_ in CASES}, {c.code for c in CHECKS})

    def test_a_usual_cap_may_start_at_any_post(self) -> None:
        posts = [{"name": f"post {i}", "cylinders": [c]} for i, c in enumerate((3, 6, 2, 4, 1, 5), 1)]
        self.assertEqual(
            severity("IGN-04", "tern", {"/ignition/kind": "timed_distributor", "/ignition/outputs": posts, "/ignition/letters": []}),
            {"sound"},
        )

    def test_rich_or_lean_is_told_the_right_way_round(self) -> None:
        def why(flow: str) -> str:
            return next(f.why for f in plan("tern", {"/tune/typed/injector_flow": flow}).findings if f.code == "TUNE-01")

        self.assertIn("rich", why("120 g/min"))  # told smaller than they are: opened longer
        self.assertIn("lean", why("190 g/min"))

    def test_what_to_do_about_a_driver_is_a_ballast_that_works(self) -> None:
        found = next(f for f in plan("tern", {"/injectors/resistance": "2.2 ohm"}).findings if f.code == "INJ-04")
        self.assertIn("ballast of 2.4 Ω", found.do)
        self.assertIn("sound", severity("INJ-04", "tern", {"/injectors/resistance": "2.2 ohm", "/injectors/ballast": "2.5 ohm"}))


class OfTheRoad(unittest.TestCase):
    """Both sides of every limit of the road, a hundredth apart."""

    #: By code the cause, from where on it is looked for in vain, and from where on it is to be sorted out, in its own unit.
    CAUSES: ClassVar = {
        "LEARN-01": ("scale", 0.008, 0.03), "LEARN-02": ("dead_time", 0.02, 0.06), "LEARN-03": ("reference", 0.25, 0.5), "LEARN-04": ("high_flow", 0.02, 0.05),
        "LEARN-05": ("air", 0.03, 0.10), "LEARN-06": ("tip_in", 0.03, 0.08), "LEARN-07": ("bank", 0.01, 0.03),
    }  # fmt: skip

    def sides(self, code: str, limit: float, changes: Callable[[float], dict[str, Any]], under: str, over: str) -> None:
        for value, wanted in ((limit * 0.99, under), (limit * 1.01, over)):
            with self.subTest(code, value=value):
                self.assertEqual({"sound" if x == "sound_if" else x for x in severity(code, "tern", changes(value))}, {wanted} - {""})

    def test_a_cause_is_sorted_out_from_its_own_size_on(self) -> None:
        for code, (key, _, most) in self.CAUSES.items():
            self.sides(code, most, lambda size, key=key: off_by(key, size), "watch", "sort_out")  # type: ignore[misc]

    def test_a_cause_counts_as_looked_for_while_its_doubt_is_small_enough(self) -> None:
        for code, (key, watch, _) in self.CAUSES.items():
            self.sides(code, 1.5 * watch, lambda doubt, key=key: off_by(key, 0.0, named=False, doubt=doubt), "sound", "")  # type: ignore[misc]

    def test_the_table_the_cells_the_pull_and_whether_it_worked(self) -> None:
        self.sides("LEARN-08", 0.03, lambda rest: road(drive(rest=rest, rest_is=True)), "watch", "sort_out")
        self.sides("LEARN-11", 0.25, lambda share: road(drive(coverage=share)), "watch", "note")
        self.sides("LEARN-11", 0.6, lambda share: road(drive(coverage=share)), "note", "sound")
        aim = si(document()["engine"]["power"], "power") / 1e3
        for limit, under, over in ((aim * 0.89, "watch", "note"), (aim * 1.11, "note", "watch")):
            self.sides(
                "LEARN-12", limit, lambda kw: road(drive(power=f"{kw:.6g} kW", power_speed="5000 rpm", power_doubt=0.06)), under, over
            )
        for limit, under, over in ((0.016, "sound", "note"), (0.025, "note", "watch")):
            self.sides("LEARN-14", limit, lambda error: road(drive(error=0.02, ran="0" * 16), drive(error=error)), under, over)


class OfTheLine(unittest.TestCase):
    def test_a_line_is_watched_and_sorted_out_by_the_worse_of_speed_and_loss(self) -> None:
        """Both sides of both limits of each, the other well under its own."""
        stands = work_out(parse(document()))
        for moved, limits, still in (
            ("velocity_m_s", (2.5, 5.0), {"line_loss_pa": 1e3}),
            ("line_loss_pa", (30e3, 60e3), {"velocity_m_s": 1.0}),
        ):
            for limit, under, over in zip(limits, ("sound", "watch"), ("watch", "sort_out"), strict=True):
                for value, wanted in ((limit * 0.99, under), (limit * 1.01, over)):
                    full = stands.fuel.points["full"].model_copy(update={moved: value, **still})
                    fuel = stands.fuel.model_copy(update={"points": {**stands.fuel.points, "full": full}})
                    w = replace(stands, results={**stands.results, "fuel": fuel})
                    found = {f.severity for f in judge(Recall(w), FiguresAsAsked(w), ()) if f.code == "FUEL-04"}
                    with self.subTest(moved, value=value):
                        self.assertEqual({"sound" if x == "sound_if" else x for x in found}, {wanted})


class OnlyTried(unittest.TestCase):
    def test_what_is_only_tried_is_judged_alike_and_but_for_likely_causes_in_the_same_words(self) -> None:
        build = parse(document("brindle"))  # with wires whose volts are not what they should be
        pencil = pencilled(build)
        told, tried = (judge(Recall(w), FiguresAsAsked(w), pencil) for w in (work_out(build), work_out(build, drawn=False)))
        self.assertEqual([(f.code, f.at, f.severity, f.why) for f in told], [(f.code, f.at, f.severity, f.why) for f in tried])
        other = {a.code for a, b in zip(told, tried, strict=True) if a.do != b.do}
        self.assertEqual(other, {"WIRE-18"})


if __name__ == "__main__":
    unittest.main()
