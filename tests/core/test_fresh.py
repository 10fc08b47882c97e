"""A new build from a few answers, what is usual for it, and what of it follows when an answer is said otherwise later."""

import json
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import document, plan
from uphill_spark.core import fresh
from uphill_spark.core.carried import edited
from uphill_spark.core.errors import BuildError
from uphill_spark.core.given import parse
from uphill_spark.core.plan import evaluate
from uphill_spark.core.reference import firing_orders
from uphill_spark.core.ripple import describe


class Fresh(unittest.TestCase):
    ANSWERS = {"name": "x", "layout": "port_plenum", "cylinders": 6, "displacement": "2597 cc", "power": "118 kW", "fuel": "E10"}

    def test_a_few_answers_make_a_build_with_everything_else_in_pencil(self) -> None:
        doc = fresh.new_document(self.ANSWERS)
        plan = evaluate(parse(doc))
        given = {"/engine/layout", "/engine/cylinders", "/engine/displacement", "/engine/power", "/engine/fuel"}
        self.assertFalse(given & set(doc["marks"]))
        self.assertGreater(len(doc["marks"]), 30)
        self.assertTrue(plan.figures["fuel.margin.full"].assumed)
        self.assertGreaterEqual(plan.figures["fuel.margin.full"].value or 0, 1.2)

    @settings(max_examples=examples(40), deadline=None)
    @given(
        st.sampled_from(["port_plenum", "throttle_body", "throttle_body_bank", "individual_throttles"]),
        st.integers(1, 12),
        st.integers(200, 7000),
        st.integers(10, 500),
        st.sampled_from(["E0", "E10", "E85"]),
    )
    def test_any_answers_give_a_plan(self, layout: str, cylinders: int, cc: int, kw: int, fuel: str) -> None:
        given_answers = {
            "name": "x",
            "layout": layout,
            "cylinders": cylinders,
            "displacement": f"{cc} cc",
            "power": f"{kw} kW",
            "fuel": fuel,
        }
        if not 40 <= cc / cylinders <= 2000:
            with self.assertRaises(BuildError):
                fresh.new_document(given_answers)
            return
        plan = evaluate(parse(fresh.new_document(given_answers)))
        self.assertEqual(len(plan.stages.start.steps), 9)
        json.loads(plan.model_dump_json())

    def test_bad_answers_are_named(self) -> None:
        with self.assertRaises(BuildError) as caught:
            fresh.new_document({**self.ANSWERS, "power": "much", "cylinders": 99, "layout": "rocket"})
        self.assertEqual({p.at for p in caught.exception.problems}, {"/power", "/cylinders", "/layout"})

    def test_questions_offer_every_answer_that_is_taken(self) -> None:
        asked = {q.key: q for step in fresh.questions().steps for q in step.questions}
        self.assertEqual(set(asked), set(fresh.Answers.model_fields))
        for key, q in asked.items():
            for option in q.options:
                self.assertTrue(fresh.new_document({**self.ANSWERS, key: option.value}), (key, option.value))
            if q.options:
                with self.assertRaises(BuildError):
                    fresh.new_document({**self.ANSWERS, key: "of another kind"})
            self.assertEqual(fresh.Answers.model_fields[key].is_required(), not q.may_skip)

    def test_nothing_of_it_is_found_wanting(self) -> None:
        """Every finding of a new car says that something is not known yet: none says that what we filled in will not do."""
        cars = (("throttle_body", 8, 5002, 150), ("throttle_body_bank", 4, 1285, 42), ("port_plenum", 4, 1285, 42), ("individual_throttles", 4, 1998, 90),
                ("port_plenum", 6, 2597, 98), ("port_plenum", 8, 5000, 200), ("throttle_body", 6, 4000, 100), ("port_plenum", 3, 900, 30), ("port_plenum", 5, 2100, 80))  # fmt: skip
        for layout, cylinders, cc, kw in cars:
            for distributor in ("stays", "stays_timed", "goes"):
                for fuel in ("E10", "E85"):
                    answers = {"name": "x", "layout": layout, "cylinders": cylinders, "displacement": f"{cc} cc", "power": f"{kw} kW", "fuel": fuel, "distributor": distributor}  # fmt: skip
                    with self.subTest(**answers):
                        p = evaluate(parse(fresh.new_document(answers)))
                        self.assertEqual([], [(f.code, f.at, f.why) for f in p.findings if f.severity in ("stop", "sort_out", "watch")])
                        self.assertTrue(any(f.severity == "unknown" for f in p.findings))
                        # Nothing that nobody chose or measured reads as sound: only what the answers themselves settle.
                        self.assertLessEqual({f.code for f in p.findings if f.severity == "sound"}, {"ENG-09", "AIR-08"})

    def test_twelve_on_one_coil_is_told_and_nothing_else(self) -> None:
        """No coil charges in the time that one has for twelve cylinders: that follows from the answer that the unit times it through one, not from what we filled in. A module of its own has no dwell of ours."""
        for distributor, told in (("goes", set()), ("stays", set()), ("stays_timed", {"IGN-03"})):
            for layout in ("port_plenum", "throttle_body"):
                p = evaluate(parse(fresh.new_document({"name": "x", "layout": layout, "arrangement": "vee", "cylinders": 12, "displacement": "4800 cc", "power": "192 kW", "fuel": "E10", "distributor": distributor})))  # fmt: skip
                self.assertEqual(
                    {f.code for f in p.findings if f.severity in ("stop", "sort_out", "watch")}, told, f"{distributor} {layout}"
                )

    def test_a_kit_brings_its_own_unit_injectors_and_ignition(self) -> None:
        truck = {**self.ANSWERS, "layout": "throttle_body", "cylinders": 8, "displacement": "5002 cc", "power": "150 kW"}
        b = parse(fresh.new_document({**truck, "arrangement": "vee", "distributor": "stays"}))
        self.assertEqual(
            (b.wiring.profile, b.injectors.count, b.ignition.timed_by_unit, b.sensors.trigger), ("throttle_body_unit", 4, False, None)
        )
        self.assertEqual(parse(fresh.new_document({**truck, "distributor": "goes"})).wiring.profile, "medium_8")
        flat = {
            **self.ANSWERS,
            "layout": "throttle_body_bank",
            "arrangement": "flat",
            "cylinders": 4,
            "displacement": "1285 cc",
            "power": "42 kW",
            "cooling": "air",
        }
        doc = fresh.new_document({**flat, "firing_order": "1-4-3-2", "carburettors": "two", "distributor": "goes"})
        b = parse(doc)
        self.assertEqual((b.air.manifolds, b.engine.banks, b.engine.firing_order), (2, [[1, 2], [3, 4]], [1, 4, 3, 2]))
        self.assertFalse({"/engine/firing_order", "/engine/arrangement", "/engine/cooling", "/ignition/timed_by_unit"} & set(doc["marks"]))
        self.assertIn("head temperature", [row.label for row in evaluate(b).stages.sensors.rows])
        self.assertIn("/engine/firing_order", fresh.new_document(flat)["marks"])
        with self.assertRaises(BuildError) as caught:
            fresh.new_document({**flat, "firing_order": "1-5-3-6-2-4"})
        self.assertEqual([p.at for p in caught.exception.problems], ["/firing_order"])


class FiringOrders(unittest.TestCase):
    def test_each_agrees_with_its_crank(self) -> None:
        """In line the first and the last rise together, and so on inwards; flat, a pair on one throw; in a vee both banks stand the same angle apart at every pin."""
        for o in firing_orders():
            n, at = len(o.order), {c: i for i, c in enumerate(o.order)}
            with self.subTest(order=o.order, arrangement=o.arrangement):
                self.assertEqual(sorted(o.order), list(range(1, n + 1)))
                self.assertEqual(o.banks is None, o.arrangement == "inline")
                if o.banks is not None:
                    self.assertEqual(sorted(c for bank in o.banks for c in bank), sorted(o.order))
                if n < 4:
                    continue
                if o.banks is not None:
                    apart = {(at[b] - at[a]) % (n // 2) for a, b in zip(*o.banks, strict=True)}
                    self.assertEqual(len(apart), 1)
                    self.assertEqual(apart == {0}, o.arrangement == "flat")
                elif n % 2 == 0:
                    self.assertEqual({(at[n + 1 - c] - at[c]) % n for c in range(1, n // 2 + 1)}, {n // 2})


class Carried(unittest.TestCase):
    ANSWERS = {"name": "x", "layout": "port_plenum", "cylinders": 4, "displacement": "1600 cc", "power": "60 kW", "fuel": "E10"}

    def say(self, doc: dict, **engine: object) -> tuple[dict, list, str]:  # type: ignore[type-arg]
        after, full, _ = edited(doc, [{"op": "add", "path": f"/engine/{key}", "value": value} for key, value in engine.items()])
        return after, full, describe(doc, full)

    def test_what_was_worked_from_it_follows_in_pencil(self) -> None:
        doc = fresh.new_document(self.ANSWERS)
        after, _, told = self.say(doc, cylinders=6)
        whole = fresh.new_document({**self.ANSWERS, "cylinders": 6})
        self.assertEqual({k: v for k, v in after.items() if k != "marks"}, {k: v for k, v in whole.items() if k != "marks"})
        self.assertEqual(set(after["marks"]), set(whole["marks"]))
        self.assertTrue(told.startswith("Cylinders 4 → 6; in pencil after it: Firing order, "), told)

    @settings(max_examples=examples(25), deadline=None)
    @given(st.sampled_from(["port_plenum", "throttle_body", "individual_throttles"]), st.sampled_from(["inline", "vee", "flat"]), st.sampled_from([2, 4, 6, 8]),
           st.sampled_from(["air", "water"]))  # fmt: skip
    def test_an_answer_said_later_is_as_good_as_one_said_first(self, layout: str, arrangement: str, cylinders: int, cooling: str) -> None:
        said = {"layout": layout, "arrangement": arrangement, "cylinders": cylinders, "cooling": cooling}
        ask = {**self.ANSWERS, "displacement": "2400 cc", "distributor": "goes"}
        after, _, _ = self.say(fresh.new_document(ask), **said)
        first = fresh.new_document({**ask, **said})
        for section in ("fuel", "injectors", "sensors", "ignition", "wiring", "tune"):
            self.assertEqual(after[section], first[section], section)
        stays = ("valve_train", "chamber")
        self.assertEqual(
            {k: v for k, v in after["engine"].items() if k not in stays}, {k: v for k, v in first["engine"].items() if k not in stays}
        )

    def test_what_somebody_said_or_chose_stays(self) -> None:
        doc = fresh.new_document(self.ANSWERS)
        doc, _, _ = edited(
            doc, [{"op": "add", "path": "/injectors/flow", "value": "200 g/min"}, {"op": "add", "path": "/engine/stroke", "value": "77 mm"}]
        )
        after, _, _ = self.say(doc, cylinders=6)
        self.assertEqual((after["injectors"]["flow"], after["engine"]["stroke"]), ("200 g/min", "77 mm"))
        self.assertNotIn("/injectors/flow", after["marks"])

    def test_ink_that_cannot_stay_gives_way_and_is_told(self) -> None:
        after, _, told = self.say(document("tern"), cylinders=8)
        self.assertEqual(after["engine"]["firing_order"], [1, 6, 2, 5, 8, 3, 7, 4])
        self.assertEqual(after["marks"]["/engine/firing_order"], {"kind": "assumed"})
        self.assertEqual(told, "Cylinders 6 → 8; Firing order 1-5-3-6-2-4 could not stay")
        self.assertEqual(after["injectors"]["count"], 6)  # it was stated: what it now contradicts is a finding
        self.assertIn("INJ-09", [f.code for f in evaluate(parse(after)).findings if f.severity == "stop"])

    def test_records_of_cylinders_that_would_be_gone_are_all_named_and_nothing_is_lost(self) -> None:
        doc = document("tern")
        with self.assertRaises(BuildError) as caught:
            self.say(doc, cylinders=4)
        places = {p.at.rsplit("/", 2)[0] for p in caught.exception.problems}
        self.assertEqual(places, {"/engine/compression", "/ignition/outputs", "/ignition/letters", "/injectors/outputs"})
        self.assertEqual(doc, document("tern"))

    def test_a_number_that_no_engine_has_is_told_as_before(self) -> None:
        for bad in (0, 99, "six", None):
            with self.assertRaises(BuildError):
                self.say(document("tern"), cylinders=bad)

    def test_a_manifold_of_which_nothing_was_noted_is_not_judged(self) -> None:
        self.assertEqual([], [f.code for f in plan("brindle").findings if f.code == "AIR-08"])


if __name__ == "__main__":
    unittest.main()
