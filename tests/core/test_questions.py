"""Questions on which good people differ: every answer is a build of its own, does what it says, and can be gone back on."""

import re
import unittest
from typing import Any, ClassVar

from tests.builds import document, edited, plan, trial
from uphill_spark.core.asked import Questions, answer
from uphill_spark.core.asked.ways import Choice, Question
from uphill_spark.core.carried import edited as apply_edit
from uphill_spark.core.findings import AT_REST, SEVERITIES
from uphill_spark.core.plan import Plan, evaluate, holding
from uphill_spark.core.stations import StationKey

STATIONS: tuple[StationKey, ...] = ("engine", "fuel", "sensors", "ignition", "wiring")
CARS = ("tern", "hollin", "brindle")


def asked(station: StationKey, doc: dict[str, Any]) -> list[Question]:
    found = answer(f"ways-{station}", trial(doc))  # type: ignore[arg-type]
    assert isinstance(found, Questions)
    return found.questions


class Answers(unittest.TestCase):
    known: ClassVar[dict[tuple[str, str], list[Question]]] = {}

    def of(self, station: StationKey, car: str) -> list[Question]:
        if (station, car) not in self.known:
            self.known[station, car] = asked(station, document(car))
        return self.known[station, car]

    def answer(self, station: StationKey, car: str, question: str, key: str) -> Choice:
        return next(a for q in self.of(station, car) if q.key == question for a in q.answers if a.key == key)

    def test_each_question_has_one_answer_that_is_so_and_one_that_is_usual(self) -> None:
        for station in STATIONS:
            for car in CARS:
                for q in self.of(station, car):
                    with self.subTest(f"{car}: {q.title}"):
                        self.assertEqual((sum(a.now for a in q.answers), sum(a.usual for a in q.answers)), (1, 1))
                        self.assertEqual(len({a.key for a in q.answers}), len(q.answers))

    def test_every_answer_does_what_it_says(self) -> None:
        for station in STATIONS:
            for car in CARS:
                before = plan(car)
                for q in self.of(station, car):
                    for a in q.answers:
                        with self.subTest(f"{car}: {q.title} {a.title}"):
                            self.assertEqual(a.trouble, "")
                            if a.now:
                                self.assertEqual(a.patch, [])
                                continue
                            after = evaluate(apply_edit(document(car), a.patch)[2])
                            self.assertEqual(a.stops, len(holding(after.findings)))
                            self.told_as_it_is(a, before, after)

    def told_as_it_is(self, a: Choice, before: Plan, after: Plan) -> None:
        """Held against the two plans themselves: every fault that came or went is told, and nothing else; figures that are told read so; wires that came and went."""

        def faults(p: Plan) -> dict[str, int]:
            worst: dict[str, int] = {}
            for f in p.findings:
                if f.severity not in AT_REST:
                    worst[f.code] = min(worst.get(f.code, 99), SEVERITIES.index(f.severity))
            return worst

        was, now = faults(before), faults(after)
        raised = {re.findall(r"[A-Z]+-\d+", x)[0] for e in a.effects for x in e.raised}
        cleared = {re.findall(r"[A-Z]+-\d+", x)[0] for e in a.effects for x in e.cleared}
        self.assertLessEqual(now.keys() - was.keys(), raised)
        self.assertLessEqual(was.keys() - now.keys(), cleared)
        self.assertLessEqual(raised, {f.code for f in after.findings})
        self.assertLessEqual(cleared, {f.code for f in before.findings})
        for told in (x for e in a.effects for x in e.moves):
            label, _, shown = told.partition(" → ")
            self.assertTrue(
                any(f.shown == shown and label.startswith(f"{f.label[0].lower()}{f.label[1:]} ") for f in after.figures.values()), told
            )
        for e in a.effects:
            if e.station == "wiring" and not any("more" in x for x in (*e.adds, *e.drops)):
                old, new = ({f"{w.label} wire" for w in p.stages.wiring.wires} for p in (before, after))
                self.assertEqual((set(e.adds), set(e.drops)), (new - old, old - new))

    def test_an_answer_taken_is_the_one_that_is_so(self) -> None:
        for station in STATIONS:
            for q in self.of(station, "tern"):
                for a in q.answers:
                    if not a.now:
                        there = apply_edit(document("tern"), a.patch)[0]
                        again = next(x for x in asked(station, there) if x.key == q.key)
                        with self.subTest(f"{q.title} {a.title}"):
                            self.assertEqual([x.key for x in again.answers if x.now], [a.key])

    def test_a_pulse_at_idle_under_a_millisecond_asks_for_sequence(self) -> None:
        for flow, usual in (("485 g/min", "paired"), ("496 g/min", "sequential")):  # 1.012 and 0.989 ms
            doc = document("tern")
            doc["injectors"]["flow"] = flow
            q = next(q for q in asked("sensors", doc) if q.key == "sequence")
            self.assertEqual([a.key for a in q.answers if a.usual], [usual], flow)

    def test_what_is_invented_stands_in_pencil(self) -> None:
        patch = self.answer("engine", "tern", "layout", "throttle_body").patch
        build = apply_edit(document("tern"), patch)[2]
        for pointer in ("/injectors/flow", "/injectors/name", "/air/throttle"):
            self.assertEqual(build.marks[pointer].kind, "assumed", pointer)
        self.assertEqual((build.injectors.count, build.wiring.profile), (4, "throttle_body_unit"))

    def test_one_throttle_per_cylinder_is_carried_to_the_stations_after_it(self) -> None:
        by = {e.station: e for e in self.answer("engine", "tern", "layout", "individual_throttles").effects}
        self.assertIn("balance manifold", by["air"].adds)
        self.assertEqual(by["sensors"].drops, ["manifold pressure sensor"])
        self.assertIn("fuel by throttle", by["tune"].adds)

    def test_timing_by_the_distributor_drops_the_wheel_and_its_wires(self) -> None:
        by = {e.station: e for e in self.answer("engine", "tern", "timing", "distributor").effects}
        self.assertEqual(by["sensors"].drops, ["crank trigger sensor"])
        self.assertIn("coil 1 trigger wire", by["wiring"].drops)
        self.assertNotIn("IGN-03", " ".join(by["ignition"].raised))  # a module of its own charges the coil

    def test_an_injected_car_keeps_its_lines(self) -> None:
        choice = self.answer("engine", "tern", "layout", "already_injected")
        fuel = next(e for e in choice.effects if e.station == "fuel")
        self.assertTrue(all("supply" in d or "return line" in d or "more" in d for d in fuel.drops), fuel.drops)
        there = apply_edit(document("tern"), choice.patch)[2]
        self.assertEqual(
            [k.key for k in evaluate(there).stages.engine.kept if k.kept],
            ["fuel_tank", "fuel_lines", "injectors", "intake_manifold", "throttle"],
        )

    def test_an_answer_that_would_not_be_a_build_says_why(self) -> None:
        doc = document("tern")
        doc["ignition"] |= {"outputs": [], "letters": []}
        doc["engine"]["firing_order"] = [1, 2, 3]
        doc["engine"]["cylinders"] = 3
        doc["engine"]["compression"] = []
        doc["injectors"] |= {"count": 3, "outputs": []}
        shown = asked("engine", doc)
        for a in (a for q in shown for a in q.answers if a.trouble):
            self.assertEqual((a.patch, a.stops), ([], None))
        self.assertTrue(all(a.patch or a.now or a.trouble for q in shown for a in q.answers))


class FuelAnswers(unittest.TestCase):
    def test_there_and_back_again_keeps_the_scheme_and_the_parts_that_have_a_place_in_it(self) -> None:
        for first in ("tank_regulator", "dead_head"):
            away = next(a for a in asked("fuel", document("tern"))[0].answers if a.key == first)
            there, _, build = apply_edit(document("tern"), away.patch)
            self.assertEqual(build.fuel.scheme, first)
            home = next(a for a in asked("fuel", there)[0].answers if a.key == "return")
            again = apply_edit(there, home.patch)[2]
            self.assertEqual(again.fuel.path, edited("tern").fuel.path)
            self.assertEqual(again.fuel.parts["supply"], edited("tern").fuel.parts["supply"])

    def test_a_surge_tank_comes_with_what_it_needs(self) -> None:
        place = next(a for a in asked("fuel", document("tern"))[1].answers if a.key == "surge_tank")
        adds = next(e.adds for e in place.effects if e.station == "fuel")
        self.assertTrue(any("surge tank" in x for x in adds) and any("lift pump" in x for x in adds), adds)
        there, _, build = apply_edit(document("tern"), place.patch)
        self.assertEqual(build.fuel.path[:6], ["tank", "lift", "surge_tank", "strainer", "suction", "pump"])
        self.assertEqual(build.fuel.path[-1], "surge_tank")
        inside = apply_edit(there, next(a.patch for a in asked("fuel", there)[1].answers if a.key == "in_tank"))[2]
        self.assertIsNone(inside.fuel.lift)
        self.assertEqual((inside.fuel.path[-1], inside.fuel.pump.place), ("tank", "in_tank"))


class WiringAnswers(unittest.TestCase):
    def test_a_unit_on_the_head_rides_up_and_the_answer_says_so(self) -> None:
        ground = next(q for q in asked("wiring", document("tern")) if q.key == "unit_ground")
        head = next(a for a in ground.answers if a.key == "head")
        after = evaluate(apply_edit(document("tern"), head.patch)[2])
        name = "wiring.unit.volts.crank"
        self.assertLess(after.figures[name].value or 0, (plan("tern").figures[name].value or 0) - 0.05)

    def test_a_pump_on_the_body_needs_less_wire(self) -> None:
        q = next(q for q in asked("wiring", document("hollin")) if q.key == "pump_ground")
        body = next(a for a in q.answers if a.key == "body")
        after = evaluate(apply_edit(document("hollin"), body.patch)[2])
        row = next(w for w in after.stages.wiring.wires if w.key == "pump_ground")
        self.assertEqual(row.end, "body.boss")


if __name__ == "__main__":
    unittest.main()
