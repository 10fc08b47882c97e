"""Stages as a graph, stations as records: nothing is stale, nothing is forgotten, adding one costs what the guide says."""

import ast
import pathlib
import re
import types
import unittest
from typing import Any

from tests import DEEP
from tests.builds import document, edited
from tests.leaves import another, leaves
from uphill_spark.core import stations
from uphill_spark.core.findings import _MODULES, CHECKS
from uphill_spark.core.given import Build, parse
from uphill_spark.core.graph import Stage, in_order
from uphill_spark.core.plan import Stages, evaluate, evaluated
from uphill_spark.core.stations import OF_SECTION, OF_STAGE, STATIONS, of_place
from uphill_spark.core.worked import JUDGED_FIRST, STAGE_OF, STAGES, resting_on, work_out


class _Incremental:
    """One car, every place of it in turn: a class each, so that they run side by side."""

    CAR, EVERY = "", 1

    def test_what_is_taken_over_is_what_would_be_worked_out(self: Any) -> None:
        doc = document(self.CAR)
        before = evaluated(parse(doc))
        tried = 0
        for pointer in leaves(doc)[:: self.EVERY]:
            build = another(doc, pointer, before.worked.build)
            if build is None:
                continue
            tried += 1
            after, anew = evaluated(build, before), evaluated(build)
            for stage in STAGES:
                a, b = after.worked.results[stage.name], anew.worked.results[stage.name]
                with self.subTest(stage=stage.name, changed=pointer):
                    if stage.name == "circuit":
                        self.assertEqual(a.made, b.made)
                        self.assertLess(abs(a.solution.u - b.solution.u).max(), 1e-9)
                    else:
                        self.assertEqual(a, b)
            with self.subTest("plan", changed=pointer):
                self.assertEqual(after.plan, anew.plan)
        self.assertGreater(tried, 60)


class OfTern(_Incremental, unittest.TestCase):
    CAR, EVERY = "tern", 1 if DEEP else 8


@unittest.skipUnless(DEEP, "what the Tern holds it holds again: in the deep run")
class OfHollin(_Incremental, unittest.TestCase):
    CAR, EVERY = "hollin", 3


@unittest.skipUnless(DEEP, "what the two others hold it holds again: in the deep run")
class OfBrindle(_Incremental, unittest.TestCase):
    CAR, EVERY = "brindle", 3


class Incremental(unittest.TestCase):
    def test_a_check_is_asked_again_only_where_something_it_looks_at_has_changed(self) -> None:
        before = evaluated(edited("tern"))
        after = evaluated(edited("tern", {"/sensors/coolant/place": "radiator"}), before)
        kept = before.kept.pieces
        again = {name[0] for name, said in after.kept.pieces.items() if said is not kept.get(name)}
        self.assertIn("SENS-03", again)
        self.assertFalse(again & {"FUEL-01", "ENG-01", "WIRE-03", "IGN-03"}, again)
        steps = zip(after.plan.stages.start.steps, before.plan.stages.start.steps, strict=True)
        self.assertEqual([a.number for a, b in steps if a is not b], [], "no step reads where that sensor sits")

    def test_an_edit_of_one_place_leaves_the_rest_alone(self) -> None:
        before = work_out(edited("tern"))
        for pointer, value, same in (
            ("/sensors/coolant/place", "radiator", {"engine", "circuit", "fuel", "wiring", "tune", "ignition"}),
            ("/wiring/nodes/dash/x", 2.3, {"engine", "sensors", "harness", "circuit", "fuel", "injectors", "tune"}),
            ("/engine/compression/0/dry", "1149 kPa", {"circuit", "fuel", "injectors", "wiring"}),
            ("/fuel/tank/volume", "70 L", {"engine", "harness", "circuit", "injectors", "wiring"}),
        ):
            changes = {pointer: value}
            after = work_out(edited("tern", changes), before)
            for stage in same:
                self.assertIs(after.results[stage], before.results[stage], f"{pointer} {stage}")

    def test_currents_follow_the_flow_bench_of_an_altered_set_and_of_no_other(self) -> None:
        for altered in (False, True):
            before = work_out(edited("tern", {"/injectors/altered": altered}))
            build = edited("tern", {"/injectors/altered": altered, "/injectors/bench/0/volume": "50 mL"})
            after, anew = work_out(build, before), work_out(build)
            self.assertEqual(after.circuit is before.circuit, not altered)
            self.assertLess(abs(after.circuit.solution.u - anew.circuit.solution.u).max(), 1e-9)
        banks = {"engine.banks", "engine.firing_order"}
        self.assertLess(banks, set(next(s for s in STAGES if s.name == "circuit").reads), "the best of an altered set are chosen by bank")

    def test_only_what_is_asked_for_is_worked_out(self) -> None:
        w = work_out(edited("tern"), only=resting_on("fuel"))
        self.assertEqual(set(w.results), {"engine", "sensors", "harness", "circuit", "fuel"})


class Graph(unittest.TestCase):
    def stage(self, name: str, *takes: str) -> Stage:
        return Stage(name, (), takes, {}, lambda build: None, False, False, ())

    def test_each_stage_comes_after_those_it_takes(self) -> None:
        names = [s.name for s in STAGES]
        for stage in STAGES:
            for other in stage.takes:
                self.assertLess(names.index(other), names.index(stage.name))
        found = in_order((self.stage("c", "b"), self.stage("b", "a"), self.stage("a")))
        self.assertEqual([s.name for s in found], ["a", "b", "c"])

    def test_a_ring_is_refused(self) -> None:
        with self.assertRaises(ValueError):
            in_order((self.stage("a", "b"), self.stage("b", "a")))

    def test_a_stage_says_in_its_own_module_what_it_takes(self) -> None:
        def work_out(build: Build, fuel: object, *, drawn: bool = True) -> None: ...

        module = types.SimpleNamespace(work_out=work_out, READS=("engine",), LOOKS={"fuel": ("points",)})
        stage = Stage.of("x", module)  # type: ignore[arg-type]
        self.assertEqual((stage.takes, stage.drawn, stage.looks), (("fuel",), True, {"fuel": ("points",)}))


class Stations(unittest.TestCase):
    def test_every_stage_finding_and_section_has_one_station(self) -> None:
        self.assertEqual(set(OF_STAGE), {s.name for s in STAGES} | JUDGED_FIRST.keys())
        self.assertEqual(set(stations.OF_FINDINGS), {m.__name__.rsplit(".", 1)[-1] for m in _MODULES})
        self.assertEqual(set(OF_SECTION) | {"format", "version", "name", "notes", "marks"}, set(Build.model_fields))
        self.assertLessEqual(set(Stages.model_fields) - {"start"}, set(OF_STAGE))
        self.assertEqual([s.key for s in STATIONS], list(stations.ORDER))

    def test_places_lead_to_their_station(self) -> None:
        self.assertEqual(
            [of_place(p) for p in ("/sensors/trigger/angle", "/wiring/fitted/pump_feed/size", "/name", "")],
            ["sensors", "wiring", "engine", "engine"],
        )

    def test_figures_and_findings_know_their_station(self) -> None:
        plan = evaluate(edited("brindle"))
        self.assertEqual({f.station for n, f in plan.figures.items() if n.startswith("trigger.")}, {"sensors"})
        self.assertEqual({f.station for f in plan.findings if f.code in ("FUEL-02", "FUEL-03")}, {"fuel"})
        for name, figure in plan.figures.items():
            self.assertEqual(figure.station, OF_STAGE[STAGE_OF[name]] if name in STAGE_OF else "start")
        self.assertEqual({c.station for c in CHECKS}, {s.key for s in STATIONS if s.findings})

    def test_a_station_is_entered_in_five_places_outside_its_own_files(self) -> None:
        """A place is a file that names every station with stages of its own, by import, key or field: another one would have to be written there too."""
        root = pathlib.Path(__file__).resolve().parents[2]
        keys = {s.key for s in STATIONS if s.stages}
        files = [
            *(root / "uphill_spark").rglob("*.py"),
            *(root / "frontend" / "src").rglob("*.ts"),
            *(root / "frontend" / "src").rglob("*.vue"),
        ]

        def named(file: pathlib.Path) -> set[str]:
            text = file.read_text()
            if file.suffix != ".py":
                return {k for k in keys if re.search(rf'key: "{k}"', text)}
            found: set[str] = set()
            for node in ast.walk(ast.parse(text)):
                if isinstance(node, ast.ImportFrom):
                    found |= {(node.module or "").rpartition(".")[2], *(a.name for a in node.names)} if node.level else set()
                elif isinstance(node, ast.Constant) and isinstance(node.value, str):
                    found.add(node.value)
            return found & keys

        places = {str(f.relative_to(root)) for f in files if f.name != "schema.d.ts" and named(f) == keys}
        self.assertEqual(
            places,
            {
                "uphill_spark/core/stations.py",
                "uphill_spark/core/worked.py",
                "uphill_spark/core/plan.py",
                "uphill_spark/core/given/document.py",
                "frontend/src/shell/stations.ts",
            },
        )

    def test_ruling_words(self) -> None:
        by = {s.key: s.ruling for s in evaluate(edited("tern")).stations}
        self.assertEqual((by["fuel"], by["sensors"], by["road"]), ("3.8× need", "all confirmed", "no reading yet"))


if __name__ == "__main__":
    unittest.main()
