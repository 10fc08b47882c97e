"""The fuel's path: what it refuses and how it says so, its sections, and builds of the first version brought onto it."""

import json
import pathlib
import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import DEAD_HEAD, TANK_REGULATOR, document, edited, strung
from uphill_spark.core.errors import BuildError, Problem
from uphill_spark.core.given import VERSION, apply_edit, parse, upgraded
from uphill_spark.core.given.path import check_path, cut
from uphill_spark.core.plan import evaluate

OLD = pathlib.Path(__file__).parent.parent / "old_builds"
TERN = ["tank", "pump", "filter", "supply", "rail", "regulator", "return_line", "tank"]


class Refused(unittest.TestCase):
    def problem(self, changes: dict[str, Any], car: str = "tern") -> Problem:
        with self.assertRaises(BuildError) as caught:
            edited(car, changes)
        return caught.exception.problems[0]

    def test_each_wrong_path_is_told_by_its_own_words(self) -> None:
        for path, at, given_, wants in (
            ([], "/fuel/path", "nothing", "starts at the tank"),
            (TERN[1:], "/fuel/path", "pump", "starts at the tank"),
            ([p for p in TERN if p != "pump"], "/fuel/path", "no pump", "one pump on the path"),
            ([p for p in TERN if p != "rail"], "/fuel/path", "no rail", "one rail"),
            ([p for p in TERN if p != "regulator"], "/fuel/path", "no regulator", "one regulator"),
            ([*TERN[:3], "regulator", *TERN[3:]], "/fuel/path/6", "2 times regulator", "two regulators work against each other"),
            ([*TERN[:3], "pump", *TERN[3:]], "/fuel/path/3", "2 times pump", "lift pump"),
            ([*TERN[:4], "filter", *TERN[4:]], "/fuel/path/4", "filter", "makes a loop"),
            ([*TERN[:4], "tank", *TERN[4:]], "/fuel/path/4", "tank", "makes a loop"),
            (TERN[:-1], "/fuel/path", "return line", "the return leads nowhere"),
            ([*TERN[:6], "return_line", "hose"], "/fuel/path/7", "hose", "described under parts"),
            (
                ["tank", "filter", "supply", "rail", "pump", "regulator", "return_line", "tank"],
                "/fuel/path/4",
                "rail → pump",
                "the pump before rail",
            ),
            ([*TERN[:-1], "surge_tank"], "/fuel/path/7", "surge_tank", "has no surge tank"),
            (["tank", "lift", *TERN[1:]], "/fuel/path", "lift", "neither of them"),
            (["tank", "pump", "filter", "supply", "regulator", "rail", "return_line"], "/fuel/path", "return line", "leads nowhere"),
        ):
            with self.subTest(path=path):
                found = self.problem({"/fuel/path": path})
                self.assertEqual(found.at, at)
                self.assertIn(given_, found.given)
                self.assertIn(wants, found.wants)

    def test_a_regulator_at_the_end_has_nowhere_to_let_fuel_go(self) -> None:
        found = self.problem({"/fuel/path": TERN[:6], "/fuel/parts/return_line": None})
        self.assertIn("nowhere to let fuel go", found.wants)

    def test_a_part_that_is_joined_to_nothing(self) -> None:
        found = self.problem({"/fuel/path": [p for p in TERN if p != "filter"]})
        self.assertEqual((found.at, found.given), ("/fuel/parts/filter", "filter joined to nothing"))

    def test_names_that_stand_for_something_else_are_not_parts(self) -> None:
        self.assertIn("another name", self.problem({"/fuel/parts/rail": document()["fuel"]["parts"]["supply"]}).wants)
        self.assertEqual(self.problem({"/fuel/parts/My Hose": {}}).at, "/fuel/parts/My Hose")

    def test_no_bore_no_length_of_time_and_a_table_of_one_row(self) -> None:
        self.assertIn("between 1 mm and 60 mm", self.problem({"/fuel/parts/supply/bore": "0 mm"}).wants)
        banjo = {"kind": "banjo", "count": 1}
        self.assertIn("the unit is missing", self.problem({"/fuel/parts/supply/fittings": [{**banjo, "bore": "0"}]}).wants)
        self.assertIn("between 1 mm and 60 mm", self.problem({"/fuel/parts/supply/fittings": [{**banjo, "bore": "0 mm"}]}).wants)
        one = self.problem({"/fuel/pump/curve": document()["fuel"]["pump"]["curve"][:1]})
        self.assertEqual(one.at, "/fuel/pump/curve")
        self.assertIn("at least 2", one.wants)
        self.assertIn("between 1 L/h and 2000 L/h", self.problem({"/fuel/parts/filter/at_flow": "0 L/h"}).wants)
        kind = self.problem({"/fuel/parts/filter/kind": "sieve"})
        self.assertIn("run", kind.wants)

    def test_a_surge_tank_stands_between_lift_pump_and_pump(self) -> None:
        path = document("hollin")["fuel"]["path"]
        swapped = ["tank", "pick_up", "surge_tank", "lift", *path[4:]]
        self.assertIn("the lift pump, then the surge tank", self.problem({"/fuel/path": swapped}, "hollin").wants)
        self.assertIn("lift and surge_tank before the pump", self.problem({"/fuel/path": [p for p in path if p != "lift"]}, "hollin").wants)

    @settings(max_examples=examples(150), deadline=None)
    @given(st.lists(st.sampled_from([*TERN, "lift", "surge_tank", "hose"]), max_size=10), st.booleans())
    def test_whatever_is_strung_is_refused_with_a_place_or_can_be_cut(self, path: list[str], lift: bool) -> None:
        parts = {name for name in path if name in ("filter", "supply", "return_line", "hose")}
        try:
            check_path(path, parts, lift)
        except ValueError as error:
            self.assertEqual(str(error).count("|"), 2)
            self.assertTrue(str(error).startswith(("/path", "/parts")))
            return
        sections = cut(path)
        told = [*sections.lift, *sections.suction, *sections.forward, *sections.between, *sections.back]
        self.assertEqual(sorted(told), sorted(parts))


class Cut(unittest.TestCase):
    def test_the_regulator_decides_the_scheme(self) -> None:
        self.assertEqual(edited("tern").fuel.scheme, "return")
        self.assertEqual(edited("tern", TANK_REGULATOR).fuel.scheme, "tank_regulator")
        self.assertEqual(edited("tern", DEAD_HEAD).fuel.scheme, "dead_head")

    def test_sections_of_a_long_path(self) -> None:
        found = edited("hollin", strung("hollin", {"first": document("hollin")["fuel"]["parts"]["suction"]}, before="lift")).fuel.sections
        self.assertEqual((found.lift, found.suction, found.forward), (("pick_up", "first"), ("strainer", "suction"), ("filter", "supply")))
        self.assertEqual((found.between, found.back, found.ends), ((), ("return_line",), "surge_tank"))


class Marks(unittest.TestCase):
    def test_a_part_that_is_taken_out_takes_its_marks_along(self) -> None:
        doc = document("tern")
        doc["marks"]["/fuel/parts/return_line/bore"] = {"kind": "measured", "by": "A", "when": "2026-11-01", "how": "drill"}
        patch = [{"op": "replace", "path": "/fuel/path", "value": ["tank", "pump", "filter", "supply", "regulator", "rail"]},
                 {"op": "remove", "path": "/fuel/parts/return_line"}]  # fmt: skip
        edited_doc, full, _ = apply_edit(doc, patch)
        self.assertNotIn("/fuel/parts/return_line/bore", edited_doc["marks"])
        self.assertIn({"op": "remove", "path": "/marks/~1fuel~1parts~1return_line~1bore"}, full)

    def test_moving_a_part_keeps_its_marks(self) -> None:
        moved = [{"op": "replace", "path": "/fuel/path", "value": ["tank", "filter", "pump", *TERN[3:]]}]
        edited_doc, _, _ = apply_edit(document("tern"), moved)
        self.assertIn("/fuel/parts/filter", edited_doc["marks"])


#: Figures that have another name since.
RENAMED = {
    "sensors.coolant.volts_20C": "sensors.coolant_temperature.at_20C",
    "sensors.coolant.volts_90C": "sensors.coolant_temperature.at_90C",
    "sensors.trigger.tooth_angle": "trigger.degrees_per_tooth",
    "sensors.trigger.rate_limit": "trigger.rate.limit",
    "sensors.trigger.tooth_at_tdc": "trigger.tooth_at_top",
}


class Upgraded(unittest.TestCase):
    """Builds as the first version stored them."""

    def old(self, name: str) -> dict[str, Any]:
        found: dict[str, Any] = json.loads((OLD / f"{name}_1.json").read_text())
        return found

    def test_an_old_build_means_what_it_meant(self) -> None:
        for name in ("tern", "hollin", "brindle"):
            self.assertEqual(self.old(name)["version"], 1)
            before = json.loads((OLD / f"{name}_1.figures.json").read_text())
            now = evaluate(parse(self.old(name))).figures
            for old, value in before.items():
                figure = RENAMED.get(old, old)
                with self.subTest(name, figure=figure):
                    if value is None:
                        self.assertIsNone(now[figure].value)
                    else:
                        self.assertAlmostEqual(now[figure].value or 0, value, delta=1e-6 * max(abs(value), 1e-6))

    def test_names_that_the_harness_has_not_are_kept_in_the_notes(self) -> None:
        doc = {**document("tern"), "version": 3, "notes": "Red car"}
        doc["wiring"] |= {"fuses": {"pump": 15, "horn": 20}, "fitted": {**doc["wiring"]["fitted"], "horn_feed": {"size": "1 mm2"}}}
        found = upgraded(doc)
        self.assertEqual((found["wiring"]["fuses"], "horn_feed" in found["wiring"]["fitted"]), ({"pump": 15}, False))
        self.assertRegex(found["notes"], r"^Red car\nA fuse horn .*20\nA wire horn_feed .*1 mm2")
        parse(doc)
        self.assertEqual(upgraded({**document("tern"), "version": 3}), document("tern"))

    def test_marks_and_signed_stops_follow(self) -> None:
        doc = self.old("tern")
        doc["marks"] |= {
            "/fuel/supply/bore": {"kind": "measured"},
            "/fuel/scheme": {"kind": "assumed"},
            "/fuel/strainer": {"kind": "assumed"},
        }
        doc["start"] = {"overrules": [{"code": "FUEL-16", "at": "/fuel/return_line/route", "reason": "only for the show hall", "by": "A"}]}
        found = upgraded(doc)
        self.assertEqual(found["version"], VERSION)
        self.assertEqual(found["marks"]["/fuel/parts/supply/bore"], {"kind": "measured"})
        self.assertIn("/fuel/path", found["marks"])
        self.assertFalse([m for m in found["marks"] if "strainer" in m])
        self.assertEqual(found["start"]["overrules"][0]["at"], "/fuel/parts/return_line/route")
        self.assertEqual(doc["version"], 1)  # what was handed in is as it was
        self.assertEqual(parse(doc).fuel.path, TERN)

    def test_every_scheme_and_a_pump_that_sat_high(self) -> None:
        doc = self.old("hollin")
        doc["fuel"] |= {"scheme": "tank_regulator"}
        self.assertEqual(parse(doc).fuel.scheme, "tank_regulator")
        doc["fuel"]["scheme"] = "dead_head"
        self.assertEqual((parse(doc).fuel.scheme, "return_line" in parse(doc).fuel.parts), ("dead_head", False))
        doc["fuel"]["suction"]["rise"] = "0.3 m"
        self.assertEqual(parse(doc).fuel.lift.head, "0.45 m")  # type: ignore[union-attr]

    @settings(max_examples=examples(60), deadline=None)
    @given(
        st.sampled_from(["fuel", "supply", "filter", "lift", "tank", "marks", "start", "suction"]), st.sampled_from([None, 5, "x", [], {}])
    )
    def test_an_old_build_that_is_broken_names_its_field(self, key: str, junk: object) -> None:
        doc = self.old("hollin")
        (doc if key in ("fuel", "marks", "start") else doc["fuel"])[key] = junk
        try:
            parse(doc)
        except BuildError as error:
            self.assertTrue(error.problems[0].at.startswith("/"))


if __name__ == "__main__":
    unittest.main()
