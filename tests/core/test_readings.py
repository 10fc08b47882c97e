"""Readings at the steps of the first start: kept as they were typed, judged at once, and a step that is off stands only with a reason."""

from __future__ import annotations

import unittest
from typing import Any

from tests.builds import document, plan
from uphill_spark.core.errors import BuildError, UnitError
from uphill_spark.core.given import apply_edit, parse
from uphill_spark.core.given.readings_start import READINGS, read, with_unit
from uphill_spark.core.plan import evaluate
from uphill_spark.core.ripple import describe


def step(number: int, changes: dict[str, Any] | None = None, **readings: str) -> Any:
    """A step of the Tern with these readings."""
    taken = {key: {"typed": text} for key, text in readings.items()}
    return plan("tern", {"/start": {"steps": {str(number): {"readings": taken}}}, **(changes or {})}).stages.start.steps[number]


def verdicts(found: Any) -> dict[str, tuple[str, str]]:
    return {e.key: (e.verdict, e.off) for e in found.expect if e.verdict != "open"}


class Taken(unittest.TestCase):
    def test_every_reading_that_is_expected_has_a_name_of_its_own(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            keys = [e.key for s in plan(car).stages.start.steps for e in s.expect if e.key]
            self.assertEqual(len(keys), len(set(keys)), car)
            self.assertLessEqual(set(keys), set(READINGS))
            for s in plan(car).stages.start.steps:
                for e in s.expect:
                    self.assertEqual(e.band is not None and not e.key, False, (car, e.what))

    def test_a_reading_is_told_under_over_or_within_by_how_much(self) -> None:
        band = next(e.band for e in step(3).expect if e.key == "rail_prime")
        self.assertEqual((band.low, band.high, band.unit), (285, 315, "kPa"))
        for text, verdict, off in (
            ("120 kPa", "low", "165 kPa under"), ("285 kPa", "in", ""), ("315 kPa", "in", ""), ("43.5 psi", "in", ""), ("284.9 kPa", "low", "0.1 kPa under"), ("3.16 bar", "high", "1 kPa over"),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(verdicts(step(3, rail_prime=text)), {"rail_prime": (verdict, off)})

    def test_an_open_end_is_open(self) -> None:
        self.assertEqual(verdicts(step(0, battery_rest="12.39 V"))["battery_rest"][0], "low")
        self.assertEqual(verdicts(step(0, battery_rest="13.2 V"))["battery_rest"], ("in", ""))
        self.assertEqual(verdicts(step(1, ground_pin="0.1 V"))["ground_pin"], ("in", ""))
        self.assertEqual(verdicts(step(1, ground_pin="110 mV"))["ground_pin"], ("high", "0.01 V over"))

    def test_a_single_figure_has_its_own_nearness(self) -> None:
        self.assertEqual(verdicts(step(7, speed_idle="840 rpm"))["speed_idle"][0], "in")
        self.assertEqual(verdicts(step(7, speed_idle="845 rpm"))["speed_idle"][0], "high")
        self.assertEqual(verdicts(step(7, speed_idle="718 rpm"))["speed_idle"][0], "in")
        self.assertEqual(verdicts(step(7, speed_idle="717 rpm"))["speed_idle"][0], "low")
        teeth = next(e.band.low for e in step(4).expect if e.key == "teeth")
        self.assertEqual(verdicts(step(4, teeth=f"{teeth:.0f}"))["teeth"][0], "in")
        self.assertEqual(verdicts(step(4, teeth=f"{teeth - 1:.0f}"))["teeth"][0], "low")
        self.assertEqual(verdicts(step(2, speed_still="0 rpm"))["speed_still"][0], "in")

    def test_a_bare_number_takes_the_persons_unit(self) -> None:
        self.assertEqual(with_unit("rail_prime", "300", "kPa"), "300 kPa")
        self.assertEqual(with_unit("rail_prime", "3 bar", "kPa"), "3 bar")
        self.assertEqual(with_unit("throttle_up", "1,5", "whatever"), "1,5 %")
        self.assertEqual(with_unit("lambda_idle", "0.97", "x"), "0.97")
        self.assertEqual(with_unit("light_locked", "-2", "deg"), "-2 deg")

        def typed(text: str, units: Any) -> str:
            doc = document("tern")
            doc["start"] = {"steps": {"3": {"readings": {"rail_prime": {"typed": "300 kPa"}}}}}
            patch = [{"op": "replace", "path": "/start/steps/3/readings/rail_prime/typed", "typed": text}]
            return str(apply_edit(doc, patch, units=units)[0]["start"]["steps"]["3"]["readings"]["rail_prime"]["typed"])

        self.assertEqual(typed("295", "metric"), "295 kPa")
        self.assertEqual(typed("43", "imperial"), "43 psi")
        self.assertEqual(typed("2,95 bar", "imperial"), "2,95 bar")

    def test_what_is_no_reading_is_refused_by_its_place(self) -> None:
        for key, text in (
            ("rail_prime", "about three"),
            ("rail_prime", "12 V"),
            ("rail_prime", "9000 kPa"),
            ("throttle_up", "200"),
            ("teeth", "many"),
            ("lambda_idle", "0.1"),
        ):
            with self.subTest(key=key, text=text), self.assertRaises(BuildError) as raised:
                doc = document("tern")
                doc["start"] = {"steps": {"3": {"readings": {key: {"typed": text}}}}}
                parse(doc)
            self.assertEqual(raised.exception.problems[0].at, f"/start/steps/3/readings/{key}/typed")
        with self.assertRaises(BuildError) as raised:
            apply_edit(document("tern"), [{"op": "add", "path": "/start/steps/3/readings/moon/typed", "typed": "3"}])
        self.assertIn("one of battery_rest", raised.exception.problems[0].wants)

    def test_the_ends_of_what_is_believed_are_taken(self) -> None:
        for key, kind in READINGS.items():
            for end in (kind.low, kind.high):
                text = f"{end:g} {kind.unit}" if kind.unit != "1" else f"{end:g}"
                self.assertIsInstance(read(key, text), float, (key, text))
            beyond = f"{kind.high * 1.01 + 1:g} {kind.unit}" if kind.unit != "1" else f"{kind.high * 1.01 + 1:g}"
            with self.assertRaises(UnitError):
                read(key, beyond)


class InWords(unittest.TestCase):
    def test_readings_and_signatures_are_told_as_what_they_are(self) -> None:
        doc = document("tern")

        def said(*patch: dict[str, Any]) -> str:
            return describe(doc, apply_edit(doc, list(patch))[1])

        at = "/start/steps/3"
        reading = {"op": "add", "path": f"{at}/readings/rail_prime/typed", "typed": "300"}
        parents = [
            {"op": "add", "path": p, "value": {}} for p in ("/start", "/start/steps", at, f"{at}/readings", f"{at}/readings/rail_prime")
        ]
        when = {"op": "add", "path": f"{at}/readings/rail_prime/when", "value": "2026-11-27 10:00"}
        self.assertEqual(said(*parents, when, reading), "Step 3, rail prime: 300 kPa")
        sign = [{"op": "add", "path": f"{at}/{key}", "value": value} for key, value in (("by", "Ada"), ("done", True))]
        self.assertEqual(said(*parents[:3], *sign), "Step 3 signed by Ada")
        self.assertEqual(said(*parents[:3], {"op": "add", "path": f"{at}/done", "value": False}), "Step 3: signature taken back")


class Signed(unittest.TestCase):
    def signed(self, why: str = "", **readings: str) -> Any:
        taken = {key: {"typed": text} for key, text in readings.items()}
        doc = document("tern")
        doc["start"] = {"steps": {"3": {"done": True, "by": "Ada", "why": why, "readings": taken}}}
        return evaluate(parse(doc)).stages.start

    def test_a_step_that_is_off_stands_only_with_a_reason(self) -> None:
        self.assertTrue(self.signed(rail_prime="300 kPa").steps[3].done)
        off = self.signed(rail_prime="120 kPa")
        self.assertEqual((off.steps[3].done, off.steps[3].signed, off.done), (False, True, 0))
        self.assertEqual(off.steps[3].off, ["Rail gauge, pump running, engine off: 165 kPa under"])
        self.assertFalse(self.signed("too short", rail_prime="120 kPa").steps[3].done)
        self.assertFalse(self.signed("           .", rail_prime="120 kPa").steps[3].done)
        self.assertTrue(self.signed("Gauge reads low", rail_prime="120 kPa").steps[3].done)

    def test_without_readings_it_is_the_persons_word(self) -> None:
        self.assertTrue(self.signed().steps[3].done)


if __name__ == "__main__":
    unittest.main()
