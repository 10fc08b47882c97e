"""The page's plain functions, run in the browser: pointers, the queue of edits, what moved, the path, the grade line."""

import functools
import json
import shutil
import subprocess
import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st
from playwright.sync_api import Page

from tests import examples
from tests.browser.served import ROOT, chromium
from tests.builds import document, edited, trial, worked
from uphill_spark.core.given import apply_edit
from uphill_spark.core.given.fields import fields, info_at
from uphill_spark.web import moved

TOKENS = st.lists(st.text(alphabet="ab/~0:. é", min_size=1, max_size=4), min_size=1, max_size=4)


@functools.cache
def bundle() -> str:
    """The functions as one module."""
    node = shutil.which("node")
    assert node is not None
    return subprocess.run([node, "scripts/plain.mjs"], cwd=ROOT / "frontend", capture_output=True, text=True, check=True).stdout


class Plain(unittest.TestCase):
    page: Page

    @classmethod
    def setUpClass(cls) -> None:
        cls.page = chromium()[1].new_page()
        cls.addClassCleanup(cls.page.close)
        cls.page.evaluate(
            "async (code) => { window.plain = await import(URL.createObjectURL(new Blob([code], { type: 'text/javascript' }))); }", bundle()
        )

    def call(self, function: str, *given: Any) -> Any:
        """Run a function of the page: "pointer.get" with arguments that are JSON."""
        text = self.page.evaluate(
            "([f, given]) => { const [m, n] = f.split('.'); return JSON.stringify({ it: window.plain[m][n](...JSON.parse(given)) }); }",
            [function, json.dumps(given)],
        )
        return json.loads(text).get("it")


class Pointers(Plain):
    @settings(max_examples=examples(60))
    @given(TOKENS, st.integers(-(2**53), 2**53))  # as far as a page can count by ones
    def test_what_was_put_at_a_pointer_is_found_there(self, tokens: list[str], value: int) -> None:
        document: Any = value
        for token in reversed(tokens):
            document = {token: document}
        pointer = "".join(f"/{self.call('pointer.escape', t)}" for t in tokens)
        self.assertEqual(self.call("pointer.get", document, pointer), value)
        self.assertIsNone(self.call("pointer.get", document, f"{pointer}/further"))

    def test_within_goes_by_whole_names(self) -> None:
        for pointer, prefix, inside in (("/a/b", "/a", True), ("/ab", "/a", False), ("/a", "/a", True), ("/a", "/a/b", False)):
            self.assertEqual(self.call("pointer.within", pointer, prefix), inside, (pointer, prefix))

    def test_patches_clash_where_one_writes_inside_the_other_and_marks_never_do(self) -> None:
        for mine, theirs, clash in (
            ("/fuel/pump", "/fuel/pump/name", True),
            ("/fuel/pump/name", "/fuel/pump", True),
            ("/fuel/pump", "/fuel/pumps", False),
            ("/marks/~1fuel", "/marks/~1fuel", False),
        ):
            self.assertEqual(self.call("pointer.clash", [{"path": mine}], [{"path": theirs}]), clash, (mine, theirs))

    def test_every_field_of_a_car_is_known_by_its_general_pointer_as_in_the_core(self) -> None:
        known = dict.fromkeys(fields(), 1)
        for pointer in ("/engine/power", "/wiring/fitted/pump_feed/size", "/fuel/parts/supply/fittings/2/count", "/injectors/bench/0/mark"):
            general = self.call("pointer.generic", pointer, known)
            self.assertIn(general, known)
            self.assertEqual(fields()[general], info_at(pointer))


class Queue(Plain):
    def waiting(self, *patch: dict[str, Any]) -> dict[str, Any]:
        return {"id": "x", "build": "b", "patch": list(patch), "reason": ""}

    def test_the_newest_that_waits_is_what_shows_as_it_was_typed(self) -> None:
        rows = [
            self.waiting({"op": "add", "path": "/engine/power", "typed": "120 kW"}),
            self.waiting({"op": "add", "path": "/engine/power", "typed": "130"}),
        ]
        self.assertEqual(self.call("queue.waitingAt", document(), rows, "/engine/power"), "130")
        self.assertEqual(self.call("queue.waitingAt", document(), [], "/engine/power"), document()["engine"]["power"])
        gone = [self.waiting({"op": "remove", "path": "/fuel/parts/filter"})]
        self.assertIsNone(self.call("queue.waitingAt", document(), gone, "/fuel/parts/filter/due"))

    def test_a_part_that_waits_shows_what_is_in_it(self) -> None:
        rows = [self.waiting({"op": "add", "path": "/air/throttle", "value": {"bore": "58 mm"}})]
        self.assertEqual(self.call("queue.waitingAt", document(), rows, "/air/throttle/bore"), "58 mm")

    def test_what_has_to_be_there_first_comes_first_so_that_the_core_takes_it(self) -> None:
        doc = document()
        doc["wiring"]["fitted"] = {}
        patch = [{"op": "add", "path": f"/wiring/fitted/pump_feed/{k}", "typed": v} for k, v in (("size", "2.5"), ("length", "3 m"))]
        sent = self.call("queue.complete", doc, patch)
        self.assertEqual([op["path"] for op in sent], ["/wiring/fitted/pump_feed", *(op["path"] for op in patch)])
        build = apply_edit(doc, sent)[2]
        self.assertEqual(build.wiring.fitted["pump_feed"].length and build.wiring.fitted["pump_feed"].length.si, 3.0)
        doc["start"] = {}
        self.assertEqual(
            self.call("queue.complete", doc, [{"op": "add", "path": "/start/overrules/-", "value": {}}])[0],
            {"op": "add", "path": "/start/overrules", "value": []},
        )


class Moved(Plain):
    def test_a_page_that_takes_what_moved_has_what_it_would_have_fetched(self) -> None:
        """The difference of the server, put together by the page, is the whole of the new revision."""
        from uphill_spark.core.given.readings import readings

        class Stands:
            def __init__(self, doc: dict[str, Any]) -> None:
                stands = trial(doc)
                self.document, self.plan, self.read = doc, stands.plan, readings(stands.build)

        shown = ["fuel", "wiring"]
        for patch in (
            [{"op": "add", "path": "/engine/power", "typed": "140 kW"}],
            [{"op": "add", "path": "/wiring/fitted/pump_feed/size", "typed": "0.75 mm2"}],
            [{"op": "remove", "path": "/sensors/trigger"}],
            [{"op": "add", "path": "/fuel/regulator/set_pressure", "typed": "45 psi"}],  # the scales move with it
        ):
            before = Stands(document())
            after = Stands(apply_edit(document(), patch)[0])
            old, new = (json.loads(moved.joined(**moved.whole(s, shown))) for s in (before, after))  # type: ignore[arg-type]
            changed = json.loads(moved.joined(**moved.difference(before, after, shown, "x")))  # type: ignore[arg-type]
            found = self.call("changes.withChange", old, changed)
            with self.subTest(patch[0]["path"]):
                self.assertEqual(found["plan"], new["plan"])
                self.assertEqual({k: v for k, v in found["build"].items() if v is not None}, new["build"])
                self.assertEqual(found["read"], new["read"])
                self.assertEqual(found["stages"], new["stages"])


class Path(Plain):
    def test_parts_put_in_moved_and_taken_out_are_taken_by_the_core(self) -> None:
        doc = document()
        path, parts = doc["fuel"]["path"], doc["fuel"]["parts"]
        for kind in ("run", "filter", "check_valve", "damper"):
            put = self.call("path.putAfter", path, parts, 2, kind)
            there, _, build = apply_edit(doc, put["patch"])
            self.assertEqual(build.fuel.path[3], put["name"])
            out = apply_edit(there, self.call("path.takenOut", there["fuel"]["path"], put["name"]))[2]
            self.assertEqual(out.fuel, edited().fuel)
        swapped = apply_edit(doc, self.call("path.moved", path, 2, 1))[2]
        self.assertEqual(swapped.fuel.path[2:4], [path[3], path[2]])

    def test_a_second_of_a_kind_gets_a_name_of_its_own(self) -> None:
        doc = document()
        self.assertEqual(self.call("path.putAfter", doc["fuel"]["path"], doc["fuel"]["parts"], 2, "filter")["name"], "filter_2")

    def test_the_row_in_which_a_place_is_entered(self) -> None:
        for pointer, row in (
            ("/fuel/parts/supply/bore", "supply"),
            ("/fuel/tank/return_enters", "end"),
            ("/fuel/lift/usable", "surge_tank"),
            ("/fuel/lift/flow", "lift"),
            ("/wiring/fitted/pump_feed/size", "pump"),
            ("/wiring/fitted/coil_1/size", None),
            ("/engine/power", None),
        ):
            self.assertEqual(self.call("path.rowOf", pointer), row, pointer)


class Grade(Plain):
    def test_runs_have_their_ends_and_the_biggest_losses_are_told_on_the_way(self) -> None:
        fuel = worked("tern").fuel
        grade = json.loads(fuel.model_dump_json())["grades"]["full"]
        self.assertEqual([(s["name"], s["back"]) for s in self.call("grade.segmentsOf", grade)], [("supply", False), ("return_line", True)])
        told = self.call("grade.toldOf", grade, fuel.points["full"].pump_pressure_pa)
        self.assertEqual([t["part"] for t in told], ["filter", "supply"])
        self.assertEqual([t["run"] for t in told], sorted(t["run"] for t in told))
        self.assertEqual(self.call("grade.toldOf", grade, 1e9), [])


class Words(Plain):
    def test_a_figure_in_two_and_a_quantity_as_a_person_writes_it(self) -> None:
        self.assertEqual(self.call("format.split", "13.39 V"), {"number": "13.39", "unit": "V"})
        self.assertEqual(self.call("format.split", "not known"), {"number": "–", "unit": ""})
        self.assertEqual(self.call("format.written", "4 mm2 at 20 degC, 10 um"), "4 mm² at 20 °C, 10 µm")


if __name__ == "__main__":
    unittest.main()
