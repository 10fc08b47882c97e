"""The plan as a whole: worked figures of the Tern, what figures rest on, ripple, the demo cars, purity."""

import ast
import contextlib
import copy
import json
import math
import pathlib
import subprocess
import sys
import unittest
from typing import Any, ClassVar

from tests import DEEP
from tests.builds import document, edited, plan
from tests.leaves import at, leaves, other_values, with_sections_of, with_value
from uphill_spark import demo
from uphill_spark.core.errors import BuildError
from uphill_spark.core.figures import Result
from uphill_spark.core.findings import AT_REST, CHECKS, SEVERITIES
from uphill_spark.core.given import apply_edit, parse
from uphill_spark.core.given.document import touches
from uphill_spark.core.given.fields import info_at
from uphill_spark.core.given.work import PartNote
from uphill_spark.core.plan import evaluate, holding
from uphill_spark.core.ripple import describe, differs, ripple
from uphill_spark.core.stations import OF_STAGE
from uphill_spark.core.worked import DEPENDS, SPECS, published, station_of, work_out

PUBLISHED = {
    "engine.ambient_pressure": "kPa",
    "engine.bmep": "bar",
    "engine.piston_speed": "m/s",
    "engine.fuel_mass_flow": "kg/h",
    "fuel.need": "L/h",
    **{
        f"fuel.pump.{what}.{p}": unit
        for p in ("full", "idle", "crank")
        for what, unit in (("flow", "L/h"), ("pressure", "kPa"), ("current", "A"), ("voltage", "V"))
    },
    "fuel.margin.full": "1",
    "fuel.supply.loss.full": "kPa",
    "fuel.supply.velocity.full": "m/s",
    "fuel.return.pressure.idle": "kPa",
    "injectors.need": "g/min",
    "injectors.flow.working": "g/min",
    "injectors.duty.full": "1",
    "injectors.pulse.idle": "ms",
    "injectors.nominal": "g/min",
    **{f"ignition.dwell.{v}V": "ms" for v in ("8", "10", "12", "13.8")},
    "ignition.duty.limit": "1",
    "tune.full_cylinder_pulse": "ms",
    "wiring.total_length": "m",
    "wiring.count": "1",
}


class Published(unittest.TestCase):
    def test_names_and_units_stay(self) -> None:
        figures = plan().figures
        self.assertEqual({name: figures[name].unit for name in PUBLISHED}, PUBLISHED)

    def test_worked_figures_of_the_tern(self) -> None:
        figures = plan().figures
        for name, value, places in [
            ("engine.ambient_pressure", 96.38, 2),
            ("engine.bmep", 10.49, 2),
            ("engine.fuel_mass_flow", 35.87, 2),
            ("fuel.need", 47.83, 2),
            ("fuel.margin.full", 3.82, 2),
            ("fuel.pump.flow.full", 182.5, 1),
            ("fuel.pump.pressure.full", 325.3, 1),
            ("fuel.pump.current.full", 7.24, 2),
            ("fuel.pump.voltage.full", 13.39, 2),
            ("fuel.pump.flow.crank", 101.0, 1),
            ("fuel.pump.pressure.crank", 313.8, 1),
            ("fuel.wire.resistance", 56.7, 1),
            ("injectors.need", 117.2, 1),
        ]:
            with self.subTest(name):
                self.assertAlmostEqual(figures[name].value or 0, value, delta=0.6 * 10**-places)

    def test_required_pulse_worked_figure(self) -> None:
        # 432.8 cc, E10, 3.0 g/s: 36.48 mg and 12.16 ms.
        p = plan("tern", {"/injectors/flow": "180 g/min", "/injectors/fluid": "working_fuel"})
        self.assertAlmostEqual(p.stages.tune.fuel_per_cycle_kg * 1e6, 36.48, delta=0.02)
        self.assertAlmostEqual(p.figures["tune.full_cylinder_pulse"].value or 0, 12.16, delta=0.01)

    def test_a_plan_is_json_of_finite_numbers_and_always_the_same(self) -> None:
        for name in demo.NAMES:
            first = plan(name).model_dump_json()
            self.assertEqual(first, plan(name).model_dump_json())
            json.loads(first, parse_constant=lambda c: self.fail(c))


#: A reading of a drive with all that one can have.
DROVE = {
    "log": "0" * 36, "name": "Sunday", "day": "2027-05-02", "ran": "0" * 16, "seconds": 300.0, "error": 0.03, "rest": 0.01, "coverage": 0.5, "lag": "0.14 s", "power": "95 kW", "power_speed": "5000 rpm", "power_doubt": 0.06, "outside": "96 kPa",
    "causes": {"scale": {"size": 0.02, "doubt": 0.004, "named": True}, "dead_time": {"size": 0.01, "doubt": 0.004}}, "snags": [{"key": "knock", "bad": "watch", "what": "A knock."}],
}  # fmt: skip


def moved_from(car: str) -> dict[str, Any]:
    """A demo car with what none of them has."""
    original = document(car)
    if "lift" in original["fuel"]:
        original["fuel"]["lift"] |= {"current": "4 A", "listed_at": "13.5 V"}
    if car == "tern":  # a battery that gives under load
        original["wiring"]["battery"] |= {"inner": "7 mohm"}
        original["road"] = {"drives": [DROVE]}
    if car == "hollin":  # a second set and a blower, which none of the demo cars has
        original["engine"] |= {"boost": "30 kPa", "blower": {"size": "900 cc", "drive": "1.6:1", "efficiency": "65 %", "cooler": "40 %"}}
        original["engine"]["rolling_road"] = {"power": "120 kW", "at": "wheels"}
        original["wiring"]["gearbox"] = {"kind": "manual", "pulses": 8, "axle": "4.1:1", "tyre": "290 mm", "typed_pulses": 18000}
        original["fuel"]["measured"] = {"caught": "900 mL", "caught_in": "15 s", "return_pressure": "9 kPa"}
        original["injectors"]["second"] = {
            "name": "upper",
            "count": 4,
            "flow": "330 g/min",
            "rated_at": "300 kPa",
            "resistance": "12.5 ohm",
        }
        original["sensors"]["coolant"]["shared"] = {"name": "gauge", "pull_up": "2 kohm", "supply": "5 V"}
        original["sensors"]["air"] = {
            "points": copy.deepcopy(original["sensors"]["coolant"]["points"]),
            "pull_up": "2490 ohm",
            "shared": {"name": "old box", "pull_up": "1 kohm", "supply": "5 V"},
        }
    if car == "brindle":
        original["sensors"]["trigger"] |= {"tooth_at_top": 7.25, "doubt": "3 deg", "stop_before": "-40 deg", "stop_after": "42 deg"}
    return original


class _Moves:
    """No figure moves without its declared cause: every value of a build is changed, and what moved is held against the table."""

    CAR: str
    #: Other values of a place that are tried: the first is near, the second elsewhere in its range.
    ENOUGH = 99 if DEEP else 2
    #: Figures that no single value of this car moves: a rev counter counts cylinders, a doubt wants stops, a count wants a port to open.
    STILL: ClassVar[set[str]] = set()
    #: Counts and kinds that hang together with what else there is of them, so that no other value is taken by itself.
    NOT_ALONE: ClassVar[set[str]] = {"cylinder", "cylinders", "kind", "falls", "pattern"}
    #: Lists and names that another place has to agree with: where one cannot be written alone, nothing is tried.
    TOGETHER = ("text", "order", "numbers", "list")

    def others(self, pointer: str, value: object) -> list[Any]:
        """Other values for a place: every other choice, a quantity a little less, and one elsewhere in its range."""
        info = info_at(pointer)
        if pointer == "/engine/firing_order":
            return [[1, 4, 2, 6, 3, 5]]
        if isinstance(value, list) and value and isinstance(value[0], str) and info is not None and info.kind != "text":
            return [[less, *value[1:]] for less in self.others(f"{pointer}/0", value[0])] + other_values(info, value)
        a_little: list[Any] = []
        if isinstance(value, str) and info is not None and info.kind == "quantity":
            number, _, unit = value.partition(" ")
            with contextlib.suppress(ValueError):
                a_little = [f"{float(number.removesuffix(':1')) * 0.985:.6g} {unit}".strip()]
        return a_little + other_values(info, value)

    def move_everything(self: Any, car: str) -> tuple[int, set[str]]:
        """Change every value of a car by a little, one at a time: how many were taken, and which figures moved."""
        original = moved_from(car)
        moved: set[str] = set()
        alone: list[str] = []
        changed = 0
        worked = work_out(parse(original))
        before = published(worked, ()).figures
        for pointer in leaves(original):
            if pointer.startswith(("/marks", "/format", "/version", "/name", "/notes", "/start")):
                continue
            taken = 0
            for other in self.others(pointer, at(original, pointer)):
                if taken == self.ENOUGH:
                    break
                doc = with_value(original, pointer, other)
                if pointer == "/ignition/kind":
                    doc = with_value(doc, "/ignition/outputs", [])
                try:
                    after = published(work_out(with_sections_of(worked.build, doc, pointer), worked), ()).figures
                except BuildError:  # a neighbour rule may forbid one value; that none at all is taken is seen below
                    continue
                taken += 1
                for name in after:
                    if differs(before[name].value, after[name].value):
                        moved.add(name)
                        with self.subTest(car=car, figure=name, changed=pointer):
                            self.assertTrue(
                                any(touches(pointer, p) and len(pointer.split("/")) >= len(p.split("/")) for p in DEPENDS[name]),
                                f"{name} moved with {pointer}; it declares {SPECS[name].uses}",
                            )
            info = info_at(pointer)
            if not taken and info is not None and info.kind not in self.TOGETHER:
                alone.append(pointer)
            changed += bool(taken)
        self.assertLessEqual({pointer.rpartition("/")[2] for pointer in alone}, self.NOT_ALONE)
        return changed, moved

    def test_no_figure_moves_without_its_declared_cause(self: Any) -> None:
        changed, moved = self.move_everything(self.CAR)
        self.assertGreater(changed, 80)
        known = {name for name, figure in published(work_out(parse(moved_from(self.CAR))), ()).figures.items() if figure.value is not None}
        self.assertEqual(known - moved, self.STILL)


#: Nothing reaches these with the key off, whatever is changed.
#: A doubt is a list of rows: turned round it is as large as it was.
TURNED = {"tune.doubt.median", "tune.doubt.worst"}
ASLEEP = {f"wiring.{device}.volts.{state}" for device in ("coils", "pump") for state in ("off", "accessory")}


class TernMoves(_Moves, unittest.TestCase):
    CAR, STILL = "tern", {"ignition.tach.pulses", "trigger.angle.doubt", "engine.charge", *ASLEEP, *TURNED}


@unittest.skipUnless(DEEP, "what the Tern holds it holds again: in the deep run")
class HollinMoves(_Moves, unittest.TestCase):
    CAR, STILL = "hollin", {"ignition.tach.pulses", "trigger.angle.doubt", "air.ports.open", *ASLEEP}


@unittest.skipUnless(DEEP, "what the two others hold it holds again: in the deep run")
class BrindleMoves(_Moves, unittest.TestCase):
    CAR, STILL = "brindle", {"ignition.tach.pulses", "air.ports.open", "engine.charge", *ASLEEP}


class Rests(unittest.TestCase):
    def test_every_figure_is_known_on_one_of_the_cars_whose_places_are_moved(self) -> None:
        known = {
            name
            for car in ("tern", "hollin", "brindle")
            for name, figure in published(work_out(parse(moved_from(car))), ()).figures.items()
            if figure.value is not None
        }
        known |= {name for name, figure in plan("tern").figures.items() if name.startswith("work.") and figure.value is not None}
        self.assertEqual(known, set(SPECS))

    def test_every_use_is_a_figure_or_a_place(self) -> None:
        for name, spec in SPECS.items():
            self.assertEqual(OF_STAGE[name.partition(".")[0]], station_of(name), name)  # named after a stage of its station
            for use in spec.uses:
                self.assertTrue(use.startswith("/") or use in SPECS, f"{name} uses {use}")

    def test_assumed_values_show_on_every_figure_that_rests_on_them(self) -> None:
        figures = plan().figures
        self.assertEqual(figures["engine.fuel_mass_flow"].assumed, ["/engine/bsfc", "/tune/full_lambda"])
        self.assertIn("/engine/bsfc", figures["fuel.margin.full"].assumed)
        self.assertIn("/wiring/fitted/pump_feed/length", figures["fuel.margin.full"].assumed)
        self.assertEqual(figures["engine.bmep"].assumed, [])


#: Nobody has turned a key yet.
NOT_BEGUN = {f"START-0{n}" for n in range(1, 9)} | {f"LEARN-{n:02d}" for n in range(1, 15)}


class DemoCars(unittest.TestCase):
    def test_the_tern_ends_with_no_stop_and_every_check_speaks(self) -> None:
        found = plan("tern").findings
        self.assertEqual(holding(found), [])
        absent = {  # it has none of what they are about
            "FUEL-08", "FUEL-13", "AIR-06", "AIR-08", "IGN-05", "SENS-04", "SENS-06", "ENG-12", "FUEL-21", "FUEL-22", "FUEL-23", "FUEL-25", "PLAN-09", "AIR-09", "AIR-10", "AIR-11", "SENS-12", "SENS-13",
            "SENS-14", "WIRE-12", "WIRE-19", "GEAR-01", "START-09", *NOT_BEGUN,
        }  # fmt: skip
        self.assertEqual({c.code for c in CHECKS} - {f.code for f in found}, absent)
        # The target is more than its air, which shows at the tables too.
        self.assertEqual({f.code for f in found if f.severity not in AT_REST}, {"ENG-10", "TUNE-08"})

    def test_the_brindle_shows_each_finding(self) -> None:
        shown = {f.code for f in plan("brindle").findings if not f.severity.startswith("sound")}
        self.assertEqual(
            shown,
            {c.code for c in CHECKS}
            - {
                "INJ-09",
                "TUNE-03",  # its tables are read by the throttle: no sensor's range bounds them
                "FUEL-17",
                "TUNE-07",
                "SENS-11",
                "AIR-08",
                "PLAN-02",  # a ring would leave no day to be late for
            }  # a throttle body's injectors feed all cylinders alike, and so did its one carburettor
            - {
                "ENG-12",
                "FUEL-22",
                "AIR-09",
                "SENS-12",
                "SENS-13",
                "SENS-14",
                *NOT_BEGUN,
            },  # it has no blower, no rails, no throttle by wire, none of those sensors
        )

    def test_the_hollin_reads_load_from_the_throttle(self) -> None:
        p = plan("hollin")
        self.assertEqual(p.stages.tune.load_signal, "throttle")
        self.assertEqual(p.stages.tune.tables[0].y_label, "throttle, %")
        self.assertAlmostEqual(p.figures["engine.ambient_pressure"].value or 0, 80.49, places=1)

    def test_findings_are_complete_and_worst_first(self) -> None:
        for name in demo.NAMES:
            p = plan(name)
            order = [SEVERITIES.index(f.severity) for f in p.findings]
            self.assertEqual(order, sorted(order))
            for f in p.findings:
                self.assertTrue(f.why and f.source and f.at.startswith("/"), f.code)
                if f.severity in ("stop", "sort_out", "watch"):
                    self.assertTrue(f.do, f.code)
                if f.severity == "unknown":
                    self.assertTrue(f.settle, f.code)
                if f.figure:
                    self.assertEqual((f.value, f.unit), (p.figures[f.figure].value, p.figures[f.figure].unit))

    def test_a_stop_is_signed_for_only_where_it_stands(self) -> None:
        overrule = {"code": "FUEL-14", "at": "/fuel/pump/control", "reason": "Bench test outdoors, pump wire pulled by hand", "by": "Ada"}
        p = plan("brindle", {"/start": {"overrules": [overrule, {**overrule, "code": "WIRE-01", "at": "/elsewhere"}]}})
        self.assertEqual({f.code for f in p.findings if f.overruled}, {"FUEL-14"})
        stops = sum(f.severity == "stop" and f.bars == "start" for f in p.findings)
        self.assertEqual(len([f for f in holding(p.findings) if f.severity == "stop"]), stops - 1)
        self.assertIn(f"{stops - 1} Stops, 1 signed for", p.verdict)


class Ripples(unittest.TestCase):
    def test_more_power_reaches_pump_injectors_and_fuse(self) -> None:
        before = document()
        patch = [{"op": "replace", "path": "/engine/power", "value": "140 kW"}]
        _after, full, build = apply_edit(before, patch)
        moved = ripple(evaluate(parse(before)), evaluate(build), describe(before, full))
        names = {m.name: m for m in moved.figures}
        for wanted in ("fuel.need", "fuel.margin.full", "injectors.duty.full", "injectors.need", "wiring.fuse.injectors"):
            self.assertIn(wanted, names)
        self.assertEqual((names["wiring.fuse.injectors"].shown_before, names["wiring.fuse.injectors"].shown_after), ("5 A", "7.50 A"))
        self.assertTrue(math.isclose(names["fuel.need"].change or 0, 140 / 118 - 1, rel_tol=1e-6))
        self.assertTrue(moved.sentence.startswith("Power target 118 kW → 140 kW: fuel needed at full power 47.83 L/h → 56.75 L/h"))
        self.assertTrue({"fuel", "injectors", "wiring"} <= set(moved.stations))

    def test_findings_appear_worsen_ease_and_go(self) -> None:
        def moves(a: dict[str, object], b: dict[str, object]) -> dict[str, str]:
            return {m.code: m.move for m in ripple(plan("tern", a), plan("tern", b)).findings}

        small, smaller = {"/injectors/flow": "128 g/min"}, {"/injectors/flow": "90 g/min"}
        self.assertEqual(moves({}, {"/injectors/flow": "120 g/min"})["INJ-01"], "appeared")
        self.assertEqual(moves({"/injectors/flow": "119 g/min"}, smaller)["INJ-01"], "worsened")
        self.assertEqual(moves(smaller, {"/injectors/flow": "119 g/min"})["INJ-01"], "eased")
        self.assertEqual(moves(smaller, small)["INJ-01"], "went")

    def test_no_change_moves_nothing(self) -> None:
        still = ripple(plan(), plan(), "Notes")
        self.assertEqual((still.figures, still.findings, still.stations, still.sentence), ([], [], [], "Notes: nothing else moved."))

    def test_a_change_of_the_path_in_words(self) -> None:
        doc = document()
        path = doc["fuel"]["path"]
        put = [{"op": "add", "path": "/fuel/parts/hose_2", "value": {}}, {"op": "add", "path": "/fuel/path/2", "value": "hose_2"}]
        self.assertEqual(describe(doc, put), "Hose 2 put on the path")
        out = [{"op": "replace", "path": "/fuel/path", "value": path[1:]}, {"op": "remove", "path": "/fuel/parts/filter"}]
        self.assertEqual(describe(doc, out), "Filter taken off the path")
        order = [{"op": "replace", "path": "/fuel/path", "value": path[::-1]}]
        self.assertEqual(describe(doc, order), "The fuel's path in another order")
        anew = [{"op": "replace", "path": "/fuel/path", "value": path[1:]}, {"op": "add", "path": "/fuel/pump/place", "value": "external"}]
        self.assertEqual(describe(doc, anew), "The fuel's path strung anew and 1 more")

    def test_an_edit_in_a_few_words(self) -> None:
        doc = document()
        for patch, words in [
            ([{"op": "replace", "path": "/engine/power", "value": "140 kW"}], "Power target 118 kW → 140 kW"),
            ([{"op": "replace", "path": "/engine/firing_order", "value": [1, 4, 2, 6, 3, 5]}], "Firing order 1-5-3-6-2-4 → 1-4-2-6-3-5"),
            ([{"op": "remove", "path": "/engine/bsfc"}], "Fuel used per unit of work removed"),
            ([{"op": "remove", "path": "/marks/~1engine~1bsfc"}], "Marked as sure"),
            ([{"op": "replace", "path": "/fuel/parts/filter/due", "value": True}], "Due for change no → yes"),
            ([{"op": "add", "path": "/engine/compression/-", "value": {}}], "Compression log empty → 0 entries"),
        ]:
            with self.subTest(words):
                self.assertEqual(describe(doc, patch), words)


class Purity(unittest.TestCase):
    #: What the core may import besides itself: arithmetic, data and words, nothing that reaches a file, a clock, the network or a screen.
    ALLOWED: ClassVar[set[str]] = {
        "__future__", "collections", "copy", "dataclasses", "enum", "functools", "graphlib", "hashlib", "importlib", "inspect", "itertools", "math", "operator", "re",
        "bisect", "datetime", "decimal", "random", "string", "tomllib", "types", "typing",
        "jsonpatch", "jsonpointer", "networkx", "numpy", "pint", "pydantic", "pydantic_core", "scipy", "threading", "zlib", "cachetools", "ortools",
    }  # fmt: skip

    def test_the_core_imports_nothing_above_it(self) -> None:
        root = pathlib.Path(__file__).resolve().parents[2] / "uphill_spark" / "core"
        files = list(root.rglob("*.py"))
        self.assertGreater(len(files), 30)
        for path in files:
            for node in ast.walk(ast.parse(path.read_text())):
                names: list[str] = []
                if isinstance(node, ast.Import):
                    names = [a.name for a in node.names]
                elif isinstance(node, ast.ImportFrom) and node.level:
                    self.assertLessEqual(node.level, len(path.relative_to(root).parts), f"{path.name} reaches out of the core")
                elif isinstance(node, ast.ImportFrom):
                    names = [node.module or ""]
                for name in names:
                    self.assertIn(name.partition(".")[0], self.ALLOWED, f"{path} imports {name}")

    def test_nothing_of_the_house_around_it_is_there_when_the_core_is(self) -> None:
        told = (
            "import pkgutil, sys, importlib, uphill_spark.core as core\n"
            "for m in pkgutil.walk_packages(core.__path__, 'uphill_spark.core.'): importlib.import_module(m.name)\n"
            "print(*sorted(n for n in sys.modules if n.split('.')[0] in ('flask', 'werkzeug', 'sqlalchemy', 'psycopg')"
            " or n.startswith('uphill_spark.') and not n.startswith('uphill_spark.core')))"
        )
        ran = subprocess.run([sys.executable, "-c", told], capture_output=True, text=True, check=True)
        self.assertEqual(ran.stdout.strip(), "")

    def test_evaluating_leaves_the_build_alone(self) -> None:
        build = edited()
        before = build.model_dump_json()
        evaluate(build)
        self.assertEqual(build.model_dump_json(), before)


class Records(unittest.TestCase):
    class Row(Result):
        name: str
        rows: list[int] = []
        word: str | None = None

    def test_a_result_takes_usual_values_in_their_order_each_its_own(self) -> None:
        one, other = self.Row(name="a", word="w"), self.Row(name="a", word="w")
        self.assertEqual(list(one.__dict__), ["name", "rows", "word"])
        self.assertEqual(one.model_dump(), {"name": "a", "rows": [], "word": "w"})
        self.assertIsNot(one.rows, other.rows)

    def test_a_name_that_is_unknown_or_missing_is_refused(self) -> None:
        for given, told in (({}, "name"), ({"name": "a", "nmae": "b"}, "nmae"), ({"rows": []}, "name")):
            with self.assertRaisesRegex(TypeError, f"Row: {told} unknown or missing"):
                self.Row(**given)

    def test_what_holds_the_same_is_equal_and_of_one_hash_and_nothing_of_another_kind_is(self) -> None:
        class Other(Result):
            name: str
            rows: list[int] = []
            word: str | None = None

        self.assertEqual(self.Row(name="a"), self.Row(name="a"))
        self.assertNotEqual(self.Row(name="a"), self.Row(name="b"))
        self.assertNotEqual(self.Row(name="a"), Other(name="a"))
        self.assertEqual(hash(PartNote(state="have")), hash(PartNote(state="have")))
        self.assertNotEqual(PartNote(state="have"), PartNote(state="ordered"))


if __name__ == "__main__":
    unittest.main()
