"""What nobody chose or measured: new rows are empty, usual values are pencil, what is sound on pencil says so, and what must be known holds the start."""

import os
import unittest
from typing import Any

import jsonpatch

from tests.builds import document, edited
from tests.leaves import NOT_VALUES, at, leaves, other_values, with_sections_of, with_value
from uphill_spark.core.asked import Trial
from uphill_spark.core.asked.turns import key, turns, with_turns
from uphill_spark.core.errors import BuildError, PatchError, SparkError
from uphill_spark.core.findings import AT_REST, CHECKS
from uphill_spark.core.fresh import new_document
from uphill_spark.core.given import Build, apply_edit, parse
from uphill_spark.core.given.document import touches, upgraded
from uphill_spark.core.given.fields import info_at
from uphill_spark.core.given.pencil import pencilled
from uphill_spark.core.plan import Evaluated, Plan, evaluate, evaluated, holding

EIGHT = {"name": "V8", "layout": "throttle_body", "cylinders": 8, "displacement": "5200 cc", "power": "150 kW", "fuel": "E0"}


def of(plan: Plan, code: str) -> set[str]:
    return {f.severity for f in plan.findings if f.code == code}


class NewRows(unittest.TestCase):
    """What the page brings when a row or a part is added, before anybody typed."""

    def judged(self, changes: dict[str, Any], *codes: str) -> None:
        plan = evaluate(edited("tern", changes))
        for code in codes:
            with self.subTest(code=code, changes=str(changes)[:80]):
                self.assertTrue(of(plan, code).isdisjoint({"sound", "sound_if"}), of(plan, code))

    def test_six_rows_without_a_reading_are_no_compression_test(self) -> None:
        rows = [{"cylinder": c, "when": "2026-11-26"} for c in range(1, 7)]
        self.judged({"/engine/compression": rows}, "ENG-01", "ENG-03")
        plan = evaluate(edited("tern", {"/engine/compression": rows}))
        self.assertEqual((of(plan, "ENG-01"), plan.fitness.word), ({"unknown"}, "not_known"))
        self.assertIn("ENG-01", [f.code for f in holding(plan.findings)])

    def test_a_day_of_the_health_log_on_which_nothing_was_noted_says_nothing(self) -> None:
        self.judged({"/engine/health": [{"when": "2026-11-26"}]}, "ENG-04", "ENG-11")

    def test_parts_that_were_only_opened(self) -> None:
        self.judged({"/air/throttle": {"name": "throttle body"}}, "AIR-01")
        self.judged({"/air/linkage": {}}, "AIR-02", "AIR-03", "AIR-06")
        self.judged({"/air/ports": {"a": {}, "b": {}}, "/air/consumers": []}, "AIR-04")
        self.judged({"/sensors/throttle": {}}, "SENS-09")
        self.judged({"/sensors/pressure": {"points": [{}, {}]}}, "SENS-07", "SENS-08")
        self.judged({"/sensors/coolant": {"points": [{}, {}, {}]}}, "SENS-03", "SENS-04")
        self.judged({"/sensors/oxygen": {"path": [{}, {"what": "merge"}, {}, {}]}}, "SENS-02")
        self.judged({"/sensors/trigger/gaps": [None] * 4}, "TRIG-01")
        self.judged(
            {"/sensors/trigger/sensor": "variable_reluctance", "/sensors/trigger/spin": {}, "/sensors/trigger/hand_turn": None}, "TRIG-02"
        )
        self.judged({"/sensors/trigger/phase": {"sensor": "hall"}}, "TRIG-06")
        self.judged({"/ignition/outputs": [{"name": f"output {k}", "cylinders": []} for k in range(3)], "/ignition/letters": []}, "IGN-04")
        self.judged({"/injectors/bench": [{"mark": m} for m in "ABCDEF"]}, "INJ-05")
        self.judged({"/injectors/dead_time": [{"voltage": "13.5 V"}]}, "INJ-07")

    def test_one_gap_is_no_runout(self) -> None:
        plan = evaluate(edited("tern", {"/sensors/trigger/gaps": ["0.8 mm"]}))
        self.assertEqual((of(plan, "TRIG-01"), plan.figures["trigger.gap.runout"].value), ({"unknown"}, None))

    def test_points_that_were_not_both_read_make_no_curve(self) -> None:
        three: list[dict[str, str]] = [
            {"temperature": f"{t} degC", "resistance": f"{r} ohm"} for t, r in ((0, 5900), (20, 2450), (100, 186))
        ]
        for points, known in ((three, True), (three[:2], False), ([*three[:2], {"temperature": "100 degC"}], False)):
            coolant = evaluate(edited("tern", {"/sensors/coolant/points": points})).stages.sensors.coolant
            self.assertEqual(coolant is not None, known, points)


class Pencil(unittest.TestCase):
    def test_a_usual_value_is_pencil_until_it_is_written(self) -> None:
        doc = document("tern")
        del doc["fuel"]["tank"]["leaded"], doc["sensors"]["trigger"]["turns"]
        self.assertLessEqual({"/fuel/tank/leaded", "/sensors/trigger/turns"}, set(pencilled(parse(doc))))
        self.assertTrue({"/fuel/tank/leaded", "/sensors/trigger/turns"}.isdisjoint(pencilled(parse(document("tern")))))

    def test_words_that_say_that_nothing_is_known_and_wishes_are_no_pencil(self) -> None:
        doc = document("tern")
        del doc["ignition"]["resistor_plugs"]
        doc["fuel"].pop("design_margin", None)
        self.assertTrue({"/ignition/resistor_plugs", "/fuel/design_margin"}.isdisjoint(pencilled(parse(doc))))

    def test_the_usual_value_made_ones_own(self) -> None:
        doc = document("hollin")
        for place, value in (("/injectors/fed", "fused_supply"), ("/fuel/tank/leaded", False), ("/fuel/tank/vent_drop", "0.5 kPa")):
            doc.get("fuel", {}).get("tank", {}).pop(place.rsplit("/", 1)[1], None)
            doc["injectors"].pop("fed", None)
            self.assertIn(place, pencilled(parse(doc)))
            after, full, build = apply_edit(doc, [{"op": "add", "path": place, "usual": True}])
            self.assertEqual((at(after, place), full[0]["value"]), (value, value))
            self.assertNotIn(place, pencilled(build))

    def test_what_has_no_usual_value_is_refused(self) -> None:
        for path in ("/engine/power", "/engine/nothing"):
            with self.assertRaises(BuildError):
                apply_edit(document("tern"), [{"op": "add", "path": path, "usual": True}])
        for op in ({"op": "replace", "usual": True}, {"op": "add", "usual": False}, {"op": "add", "usual": True, "value": 1}):
            with self.assertRaises(PatchError):
                apply_edit(document("tern"), [{"path": "/injectors/fed", **op}])

    def test_marks_go_with_the_entries_of_a_list(self) -> None:
        doc = document("tern")
        row = {"name": "x", "flow": "150 g/min", "rated_at": "300 kPa", "resistance": "14 ohm"}
        doc["injectors"]["box"] = [{**row, "name": n} for n in "abc"]
        doc["marks"] = {
            "/injectors/box/1": {"kind": "assumed"},
            "/injectors/box/2/flow": {"kind": "measured"},
            "/engine/bsfc": {"kind": "assumed"},
        }
        gone = apply_edit(doc, [{"op": "remove", "path": "/injectors/box/0"}])[0]["marks"]
        self.assertEqual(set(gone), {"/injectors/box/0", "/injectors/box/1/flow", "/engine/bsfc"})
        came = apply_edit(doc, [{"op": "add", "path": "/injectors/box/1", "value": row}])[0]["marks"]
        self.assertEqual(set(came), {"/injectors/box/2", "/injectors/box/3/flow", "/engine/bsfc"})
        out = apply_edit(doc, [{"op": "remove", "path": "/injectors/box/1"}])[0]["marks"]
        self.assertEqual(set(out), {"/injectors/box/1/flow", "/engine/bsfc"})
        moved = apply_edit(doc, [{"op": "move", "from": "/injectors/box/0", "path": "/injectors/box/2"}])[0]["marks"]
        self.assertEqual(set(moved), {"/injectors/box/0", "/injectors/box/1/flow", "/engine/bsfc"})
        last = apply_edit(doc, [{"op": "add", "path": "/injectors/box/-", "value": row}])[0]["marks"]
        self.assertEqual(last, doc["marks"])


class Gates(unittest.TestCase):
    """What nobody should turn the key without."""

    def test_five_answers_hold_the_start(self) -> None:
        plan = evaluate(parse(new_document(EIGHT)))
        self.assertEqual({f.code for f in holding(plan.findings)}, {"ENG-01", "FUEL-09", "IGN-04", "WIRE-02"})
        self.assertEqual({f.severity for f in holding(plan.findings)}, {"unknown"})
        counts = {s: sum(f.severity == s for f in plan.findings) for s in ("sound", "sound_if")}
        self.assertLess(counts["sound"], 3)
        self.assertGreater(counts["sound_if"], 20)
        self.assertIn("4 of them before the key is turned", plan.verdict)
        start = next(s for s in plan.stations if s.key == "start")
        self.assertEqual((start.ruling, start.severity), ("4 not known", "stop"))

    def test_they_can_be_signed_for_like_a_stop(self) -> None:
        doc = new_document(EIGHT)
        held = holding(evaluate(parse(doc)).findings)
        doc["start"] = {
            "overrules": [{"code": f.code, "at": f.at, "reason": "Read on the old ignition last week", "by": "Ada"} for f in held[:1]]
        }
        plan = evaluate(parse(doc))
        self.assertEqual(len(holding(plan.findings)), len(held) - 1)
        self.assertIn("1 signed for", plan.verdict)

    def test_material_in_pencil_is_not_known_and_stated_it_is_judged(self) -> None:
        doc = new_document(EIGHT)
        self.assertEqual(of(evaluate(parse(doc)), "FUEL-09"), {"unknown"})
        for name, part in doc["fuel"]["parts"].items():
            if part["kind"] == "run":
                doc = apply_edit(doc, [{"op": "replace", "path": f"/fuel/parts/{name}/material", "value": "steel_tube"}])[0]
        self.assertEqual(of(evaluate(parse(doc)), "FUEL-09"), {"sound_if"})

    def test_the_tidy_car_is_held_by_nothing(self) -> None:
        self.assertEqual(holding(evaluate(parse(document("tern"))).findings), [])


class Turning(unittest.TestCase):
    def trial(self, doc: dict[str, Any]) -> tuple[Evaluated, dict[str, list[str]]]:
        stands = evaluated(parse(doc))
        return stands, turns(Trial(doc, stands)).turns

    def test_each_that_is_sound_in_pencil_is_asked_and_says_only_what_it_rests_on(self) -> None:
        stands, told = self.trial(document("tern"))
        resting = {key(f): f.rests_on for f in stands.findings if f.severity == "sound_if"}
        self.assertEqual(set(told), set(resting))
        for one, places in told.items():
            self.assertLessEqual(set(places), set(resting[one]), one)

    def test_a_margin_of_nearly_four_is_not_turned_by_a_tenth_of_the_fuel_and_one_near_its_limit_is(self) -> None:
        doc = document("tern")
        self.assertNotIn("/engine/bsfc", self.trial(doc)[1]["FUEL-01 /fuel/pump"])
        margin = evaluate(parse(doc)).figures["fuel.margin.full"].value or 0
        doc["fuel"]["design_margin"] = f"{margin * 0.97:.3f}"
        self.assertIn("/engine/bsfc", self.trial(doc)[1]["FUEL-01 /fuel/pump"])

    def test_the_plan_says_it(self) -> None:
        doc = document("tern")
        stands = evaluated(parse(doc))
        plan = with_turns(stands.plan, turns(Trial(doc, stands)))
        for f in plan.findings:
            self.assertEqual(f.could_turn is not None, f.severity == "sound_if", f.code)


class Rests(unittest.TestCase):
    """A value that turns what is sound is among the places that the check says it hangs on."""

    CARS = ("tern", "hollin", "brindle")
    EVERY = 1 if os.environ.get("UPHILL_SPARK_DEEP") else 9

    def test_nothing_turns_a_check_that_does_not_say_so(self) -> None:
        places = {c.code: c.places for c in CHECKS}
        tried = 0
        for n, name in enumerate(self.CARS):
            doc = {**upgraded(document(name)), "marks": {}}
            base = evaluated(parse(doc))
            before = {f.code for f in base.plan.findings if f.severity in AT_REST[1:]}
            spots = [
                p for p in (*leaves(doc), *pencilled(parse(doc))) if not p.startswith((*NOT_VALUES, "/start")) and p.split("/")[1] in doc
            ]
            for place in spots[n :: self.EVERY]:
                for changed in self.others(base.worked.build, doc, place)[:2]:
                    tried += 1
                    after = evaluated(changed, base).plan
                    still = {f.code for f in after.findings if f.severity in AT_REST[1:]}
                    said = {f.code for f in after.findings}
                    for code in (before - still) & said:
                        with self.subTest(car=name, code=code, place=place):
                            self.assertTrue(any(touches(place, p) for p in places[code]))
        self.assertGreater(tried, 150)

    def others(self, build: Build, doc: dict[str, Any], place: str) -> list[Build]:
        info = info_at(place)
        found = []
        try:
            old = at(doc, place)
        except (KeyError, IndexError):
            old = None if info is None else info.usual
        for value in [not old] if isinstance(old, bool) else other_values(info, old):
            try:
                try:
                    changed = with_value(doc, place, value)
                except (KeyError, IndexError):
                    changed = jsonpatch.apply_patch(doc, [{"op": "add", "path": place, "value": value}])
                found.append(with_sections_of(build, changed, place))
            except SparkError:
                continue
        return found


if __name__ == "__main__":
    unittest.main()
