"""The web: what it answers, what it refuses and how, and that nothing makes it fall over."""

import hashlib
import io
import json
import threading
import time
import unittest
from collections.abc import Iterator
from typing import Any, get_args
from unittest import mock

import brotli
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import BaseModel
from sqlalchemy import func, select, update

from tests import examples
from tests.builds import document
from tests.database import DatabaseCase, Switch, elsewhere
from tests.formats.test_photo import telephone
from uphill_spark import generated
from uphill_spark.core.errors import NotConverged, WorkedTooLong
from uphill_spark.core.figures import Result
from uphill_spark.core.given.fields import fields
from uphill_spark.store.tables import PhotoRow, RevisionRow
from uphill_spark.web import create_app
from uphill_spark.web.models import Strict
from uphill_spark.web.standing import Remembered, _until


class WebCase(DatabaseCase):
    def setUp(self) -> None:
        self.app = create_app(self.url)
        self.addCleanup(self.app.extensions["database"].close)
        self.client = self.app.test_client()

    def tern(self) -> dict[str, Any]:
        answer = self.client.post("/api/builds/import?who=Ada", data=json.dumps(document()), content_type="application/json")
        self.assertEqual(answer.status_code, 201, answer.text[:300])
        return answer.get_json()

    def asked(self, state: dict[str, Any], subject: str, revision: int | None = None) -> Any:
        """What takes a while, waited for."""
        at = f"/api/builds/{state['id']}/asked/{subject}" + (f"?revision={revision}" if revision else "")
        for _ in range(40):
            found = self.client.get(at).get_json()
            if found["state"] != "running":
                break
        self.assertEqual(found["state"], "ready", found)
        return found["answer"]

    def edit(self, state: dict[str, Any], patch: Any, **more: Any) -> Any:
        return self.client.patch(f"/api/builds/{state['id']}", json={"base": state["revision"], "patch": patch, "who": "Ada", **more})


def with_change(state: dict[str, Any], changed: dict[str, Any]) -> dict[str, Any]:
    """The state that a page has after it took what moved."""

    def merged(old: dict[str, Any], new: dict[str, Any]) -> dict[str, Any]:
        return {key: value for key, value in (old | new).items() if value is not None}

    plan = state["plan"]
    return {
        **{key: changed[key] for key in ("id", "revision", "head", "can_undo", "can_redo")},
        "build": merged(state["build"], changed["sections"]),
        "read": merged(state["read"], changed["read"]),
        "plan": {
            "name": changed["sections"].get("name", plan["name"]),
            "verdict": changed["verdict"],
            "fitness": changed["fitness"],
            "figures": plan["figures"] | changed["figures"],
            "findings": [plan["findings"][i] if i >= 0 else changed["findings"][-1 - i] for i in changed["order"]],
            "pencil": changed["pencil"],
            "next": changed["next"],
            "stations": changed["stations"],
            "scales": changed["scales"] or plan["scales"],
        },
        "stages": {**{k: v for k, v in state["stages"].items() if k not in changed["stale"]}, **changed["stages"]},
    }


class Builds(WebCase):
    def test_an_edit_answers_with_what_moved_and_the_page_then_has_the_whole(self) -> None:
        state = self.client.get(f"/api/builds/{self.tern()['id']}?shown=fuel,wiring").get_json()
        self.assertEqual(set(state["stages"]), {"fuel", "wiring"})
        for patch, moved in (
            ([{"op": "replace", "path": "/engine/power", "value": "140 kW"}], {"engine", "fuel", "injectors", "wiring"}),
            ([{"op": "replace", "path": "/name", "value": "Another name"}], set()),
            ([{"op": "remove", "path": "/sensors/trigger"}], {"sensors", "trigger"}),
            ([{"op": "replace", "path": "/wiring/nodes/dash/x", "value": 2.4}], {"wiring"}),
            ([{"op": "replace", "path": "/wiring/feed/crank", "value": "8.2 V"}], {"wiring"}),
        ):
            answer = self.edit(state, patch, shown=["fuel", "wiring"])
            body = answer.get_json()
            self.assertEqual((answer.status_code, body["against"], body["revision"]), (200, state["revision"], state["revision"] + 1))
            self.assertLessEqual(moved, set(body["stale"]))
            self.assertEqual(set(body["stages"]), {"fuel", "wiring"} & set(body["stale"]))
            state = with_change(state, body)
            self.assertEqual(state, self.client.get(f"/api/builds/{state['id']}?shown=fuel,wiring").get_json())
        self.assertEqual(self.client.get(f"/api/builds/{state['id']}/stages?shown=trigger,tune").get_json()["stages"]["trigger"], None)

    def test_an_edit_is_small_on_the_wire(self) -> None:
        state = self.tern()
        sizes = []
        for at, value in (
            ("/engine/power", "130 kW"),
            ("/fuel/parts/supply/bore", "6.3 mm"),
            ("/wiring/branches/unit_tank/length", "3 m"),
            ("/injectors/flow", "140 g/min"),
        ):
            body = {"base": state["revision"], "patch": [{"op": "replace", "path": at, "value": value}], "shown": ["fuel", "wiring"]}
            answer = self.client.patch(f"/api/builds/{state['id']}", json=body, headers={"Accept-Encoding": "br"})
            self.assertEqual(answer.headers["Content-Encoding"], "br")
            state["revision"] += 1
            sizes.append(len(answer.data))
        self.assertLessEqual(max(sizes), 20_000, sizes)

    def test_an_edit_says_what_it_moved_and_undo_goes_back(self) -> None:
        state = self.tern()
        body = self.edit(state, [{"op": "replace", "path": "/engine/power", "value": "140 kW"}]).get_json()
        self.assertEqual((body["revision"], body["can_undo"]), (2, True))
        self.assertEqual(body["sections"]["engine"]["power"], "140 kW")
        self.assertIn("wiring.fuse.injectors", [m["name"] for m in body["ripple"]["figures"]])
        self.assertAlmostEqual(body["figures"]["fuel.need"]["value"], 56.75, places=2)
        undone = self.client.post(f"/api/builds/{state['id']}/undo", json={"base": 2}).get_json()
        self.assertEqual((undone["sections"]["engine"]["power"], undone["can_redo"], undone["revision"]), ("118 kW", True, 3))
        earlier = self.client.get(f"/api/builds/{state['id']}?revision=2").get_json()
        self.assertEqual((earlier["build"]["engine"]["power"], earlier["revision"], earlier["head"]), ("140 kW", 2, 3))
        lines = self.client.get(f"/api/builds/{state['id']}/revisions").get_json()["revisions"]
        self.assertEqual([line["kind"] for line in lines], ["undo", "edit", "start"])

    def test_a_stale_edit_gets_409_with_what_came_between(self) -> None:
        state = self.tern()
        self.edit(state, [{"op": "replace", "path": "/engine/power", "value": "140 kW"}])
        answer = self.edit(state, [{"op": "replace", "path": "/engine/power", "value": "120 kW"}])
        body = answer.get_json()
        self.assertEqual((answer.status_code, body["code"], body["head"]), (409, "stale", 2))
        self.assertEqual(body["between"][0]["summary"], "Power target 118 kW → 140 kW")
        self.assertEqual(body["between"][0]["patch"][0]["path"], "/engine/power")

    def test_the_fuel_system_looked_at_longer(self) -> None:
        state = self.tern()
        depth = self.asked(state, "fuel")
        self.assertEqual(set(depth), {"cases", "shape", "doubts", "advice", "shelf", "shopping"})
        self.edit(state, [{"op": "replace", "path": "/wiring/fitted/pump_feed/size", "value": "0.75 mm2"}])
        thin = self.asked(state, "fuel")
        again = self.asked(state, "fuel", 1)
        self.assertLess(thin["shape"]["edges"][0], depth["shape"]["edges"][0])
        self.assertEqual(again, depth)
        self.assertTrue(any(a["title"].startswith("Wire to the pump") for a in thin["advice"]))
        self.assertEqual(self.client.get(f"/api/builds/{state['id']}/asked/fuel?revision=99").status_code, 404)

    def test_a_change_is_tried_without_being_stored(self) -> None:
        state = self.tern()
        at = f"/api/builds/{state['id']}/fuel/trial"
        narrow = [{"op": "add", "path": "/fuel/parts/supply/bore", "value": "4.8 mm"}]
        tried = self.client.post(at, json={"base": 1, "patch": narrow}).get_json()
        self.assertEqual(self.client.get(f"/api/builds/{state['id']}").get_json()["revision"], 1)
        stored = self.edit(state, narrow, shown=["fuel"]).get_json()["stages"]["fuel"]
        self.assertEqual(tried, stored)
        for body, status, word in (
            ({"base": 1, "patch": [{"op": "add", "path": "/fuel/parts/supply/bore", "value": "0 mm"}]}, 422, "/fuel/parts/supply/bore"),
            ({"base": 1, "patch": []}, 422, "patch"),
            ({"base": 9, "patch": narrow}, 404, "revision 9"),
        ):
            answer = self.client.post(at, json=body)
            self.assertEqual(answer.status_code, status)
            self.assertIn(word, answer.get_data(as_text=True))

    def test_a_pumps_sheet_is_read_and_written(self) -> None:
        state = self.tern()
        written = self.client.get(f"/api/builds/{state['id']}/papers/rows/pump.csv").get_data(as_text=True)
        rows = self.client.post("/api/tables/pump", json={"text": written}).get_json()["rows"]
        self.assertEqual(rows, state["build"]["fuel"]["pump"]["curve"])
        bad = self.client.post("/api/tables/pump", json={"text": "12, 300, 150, 7"})
        self.assertEqual((bad.status_code, bad.get_json()["problems"][0]["given"]), (422, "1 row of figures"))
        self.assertEqual(self.client.post("/api/tables/pump", json={"text": "x" * 50_000}).status_code, 422)
        self.assertEqual(self.client.post("/api/tables/gears", json={"text": "x"}).status_code, 404)

    def test_tables_of_the_injectors_go_out_and_come_back(self) -> None:
        state = self.tern()
        at = f"/api/builds/{state['id']}/papers"
        written = self.client.get(f"{at}/rows/flow-bench.csv").get_data(as_text=True)
        rows = self.client.post("/api/tables/flow-bench", json={"text": written}).get_json()["rows"]
        self.assertEqual(rows, state["build"]["injectors"]["bench"])
        self.assertEqual(self.edit(state, [{"op": "replace", "path": "/injectors/bench", "value": rows}]).status_code, 200)
        self.assertEqual(self.client.get(f"{at}/rows/injector-box.csv").get_data(as_text=True).splitlines()[0][:18], "name,pieces,flow,r")
        for key in ("engine", "flow", "air"):
            self.assertTrue(self.client.get(f"{at}/sheets/{key}.pdf").get_data().startswith(b"%PDF"))
        self.assertIn("engine, flow, air", self.client.get(f"{at}/sheets/moon.pdf").get_json()["message"])

    def test_photographs_are_kept_once_and_shown(self) -> None:
        def send(data: bytes, kind: str = "image/jpeg") -> Any:
            return self.client.post("/api/photos", data=data, content_type=kind)

        first = send(telephone())
        self.assertEqual(first.status_code, 201)
        key = first.get_json()["key"]
        self.assertEqual(send(telephone(), "application/octet-stream").get_json()["key"], key)
        with self.database.work() as session:
            self.assertEqual(session.scalar(select(func.count()).select_from(PhotoRow).where(PhotoRow.key == key)), 1)
        whole, small = self.client.get(f"/api/photos/{key}"), self.client.get(f"/api/photos/{key}/small")
        self.assertEqual(hashlib.sha256(whole.get_data()).hexdigest(), key)
        self.assertLess(len(small.get_data()), len(whole.get_data()))
        self.assertIn("immutable", whole.headers["Cache-Control"])
        state = self.tern()
        self.edit(state, [{"op": "add", "path": "/air/consumers/0/photos", "value": [key, "0" * 64]}])
        for paper in ("sheets/air.pdf", "hose-tags.pdf"):
            self.assertTrue(self.client.get(f"/api/builds/{state['id']}/papers/{paper}").get_data().startswith(b"%PDF"))

    def test_what_is_no_photograph_is_refused_by_name(self) -> None:
        for data, kind, status, word in (
            (b"only text", "image/jpeg", 422, "a text file"),
            (b"", "image/jpeg", 422, "empty"),
            (b"\xff" * 40_000_000, "image/jpeg", 413, "a photograph has at most 24 MB"),
            (telephone(), "text/plain", 415, "Send JSON, or a file where one is taken"),
            (telephone(), "multipart/form-data; boundary=x", 415, "Send JSON, or a file where one is taken"),
        ):
            with self.subTest(word):
                answer = self.client.post("/api/photos", data=data, content_type=kind)
                self.assertEqual(answer.status_code, status)
                self.assertIn(word, answer.get_data(as_text=True))
        self.assertEqual(self.client.get(f"/api/photos/{'0' * 64}").status_code, 404)
        self.assertEqual(self.client.get("/api/photos/nothing").status_code, 422)
        state = self.tern()
        bad = self.edit(state, [{"op": "add", "path": "/air/consumers/0/photos", "value": ["../etc"]}])
        self.assertEqual((bad.status_code, bad.get_json()["problems"][0]["at"]), (422, "/air/consumers/0/photos/0"))

    def test_the_trigger_on_the_scope_and_its_papers(self) -> None:
        state = self.tern()
        at = f"/api/builds/{state['id']}"
        depth = self.asked(state, "trigger")
        self.assertEqual(set(depth), {"signals", "cranking", "vr_speeds_rpm", "vr", "wheels"})
        written = self.client.get(f"{at}/papers/signals.csv").get_data(as_text=True).splitlines()
        self.assertEqual((written[0], len(written)), ("crank angle (deg),crank (V),phase (V)", 1441))
        self.assertEqual([float(x) for x in written[1].split(",")], [0.0, depth["signals"][0]["volts"][0], depth["signals"][1]["volts"][0]])
        table = self.client.get(f"{at}/papers/adc/coolant.csv").get_data(as_text=True).splitlines()
        self.assertEqual(table[0], "temperature (degC),resistance (ohm),signal (V),resolution (K)")
        self.assertEqual([row.rsplit(",", 1)[0] for row in table if row.startswith("20,")], ["20,2450,2.4798"])
        for key in ("sensors", "trigger", "timing"):
            self.assertTrue(self.client.get(f"{at}/papers/sheets/{key}.pdf").get_data().startswith(b"%PDF"), key)
        self.edit(state, [{"op": "remove", "path": "/sensors/trigger"}, {"op": "remove", "path": "/sensors/air"}])
        for path in ("papers/signals.csv", "papers/adc/air.csv", "papers/adc/moon.csv"):
            answer = self.client.get(f"{at}/{path}")
            self.assertEqual(answer.status_code, 404, path)
            self.assertTrue(answer.get_json()["message"])
        self.assertIsNone(self.asked(state, "trigger"))
        self.assertEqual(self.asked(state, "trigger", 1), depth)
        self.assertTrue(self.client.get(f"{at}/papers/sheets/trigger.pdf").get_data().startswith(b"%PDF"))

    def test_a_senders_points_go_out_and_come_back(self) -> None:
        state = self.tern()
        written = self.client.get(f"/api/builds/{state['id']}/papers/rows/air.csv").get_data(as_text=True)
        rows = self.client.post("/api/tables/air", json={"text": written}).get_json()["rows"]
        self.assertEqual(rows, state["build"]["sensors"]["air"]["points"])
        for text, at, wants in (
            ("20; 2450", "/table", "3 to 200 rows"),
            ("20 degC; 2450 ohm\n40 degC; lots\n80; 300", "/table/line 2/resistance", "no number found"),
        ):
            problem = self.client.post("/api/tables/coolant", json={"text": text}).get_json()["problems"][0]
            self.assertEqual(problem["at"], at)
            self.assertIn(wants, problem["wants"])
        fahrenheit = self.client.post(
            "/api/tables/coolant", json={"text": "temperature (degF),ohms\n32,5900\n68,2450\n212,186"}
        ).get_json()["rows"]
        self.assertEqual([row["temperature"] for row in fahrenheit], ["32 degF", "68 degF", "212 degF"])

    def test_questions_are_answered_for_a_revision(self) -> None:
        state = self.tern()
        found = self.asked(state, "ways-engine")
        self.assertEqual([q["key"] for q in found["questions"]], ["layout", "timing"])
        patch = next(a["patch"] for a in found["questions"][0]["answers"] if a["key"] == "individual_throttles")
        self.assertEqual(self.edit(state, patch).status_code, 200)
        self.assertEqual(self.asked(state, "ways-engine", 1), found)
        now = self.asked(state, "ways-engine")["questions"][0]["answers"]
        self.assertEqual([a["key"] for a in now if a["now"]], ["individual_throttles"])
        for odd in ("moon", "ways-road", "ways-engine?revision=99", "ways-engine?revision=9999999999"):
            self.assertIn(self.client.get(f"/api/builds/{state['id']}/asked/{odd}").status_code, (404, 422))

    def test_garage_demo_cars_and_putting_away(self) -> None:
        rows = self.client.post("/api/builds/demo", json={"who": "Ada"}).get_json()["builds"]
        self.assertEqual([r["demo"] for r in rows][-3:], ["tern", "hollin", "brindle"])
        self.assertEqual([s["beside"] for s in rows[-1]["stations"]], [False] * 10 + [True])
        self.assertEqual((rows[-3]["blocking"], len(rows[-1]["blocking"])), ([], 3))
        self.assertEqual(self.client.delete(f"/api/builds/{rows[-1]['id']}").status_code, 204)
        self.assertEqual(self.client.get(f"/api/builds/{rows[-1]['id']}").status_code, 404)

    def test_a_page_of_the_garage_has_at_most_200_rows(self) -> None:
        self.assertEqual(self.client.get("/api/builds?limit=200").status_code, 200)
        answer = self.client.get("/api/builds?limit=201")
        self.assertEqual((answer.status_code, answer.get_json()["problems"][0]["at"]), (422, "/limit"))

    def test_a_build_that_takes_too_long_is_given_up_and_not_stored(self) -> None:
        state = self.tern()
        patch = [{"op": "replace", "path": "/engine/power", "value": "121 kW"}]
        with mock.patch("uphill_spark.web.standing.WORKED_MOST", -1.0):
            answer = self.edit(state, patch)
        self.assertEqual((answer.status_code, answer.get_json()["code"]), (422, "worked_too_long"))
        self.assertEqual(self.client.get(f"/api/builds/{state['id']}").get_json()["revision"], state["revision"])
        self.assertEqual(self.edit(state, patch).status_code, 200)

    def test_time_in_which_nothing_was_worked_does_not_count(self) -> None:
        still = _until(0.05)
        time.sleep(0.1)  # as a machine that is held up by others
        still()
        busy = time.thread_time() + 0.1
        while time.thread_time() < busy:
            pass
        with self.assertRaises(WorkedTooLong):
            still()

    def test_five_answers(self) -> None:
        answers = {"name": "My car", "layout": "throttle_body", "cylinders": 8, "displacement": "305 cid", "power": "210 hp", "fuel": "E0"}
        answer = self.client.post("/api/builds", json={"answers": answers, "who": "Ada"})
        self.assertEqual(answer.status_code, 201)
        self.assertEqual(answer.get_json()["build"]["engine"]["displacement"], "305 cid")
        answer = self.client.post("/api/builds", json={"answers": {**answers, "power": "lots"}})
        self.assertEqual((answer.status_code, answer.get_json()["problems"][0]["at"]), (422, "/power"))

    def test_the_file_comes_back_as_it_went_in(self) -> None:
        state = self.tern()
        answer = self.client.get(f"/api/builds/{state['id']}/file")
        self.assertEqual(json.loads(answer.data), document())
        self.assertIn("marlow-tern-2600-estate.build.json", answer.headers["Content-Disposition"])

    def test_papers(self) -> None:
        base = f"/api/builds/{self.tern()['id']}/papers"
        pdf = self.client.get(f"{base}/start-sheet.pdf")
        self.assertTrue(pdf.data.startswith(b"%PDF"))
        self.assertIn(b"First start: Marlow Tern", self.client.get(f"{base}/start-sheet.html").data)
        self.assertEqual(self.client.get(f"{base}/wire-list.csv").text.count("\n"), 59)
        self.assertEqual(json.loads(self.client.get(f"{base}/tune.json").data)["format"], "uphill-spark-tune")
        self.assertIn("fuel.margin.full", self.client.get(f"{base}/figures.csv").text)
        self.assertTrue(self.client.get(f"{base}/tables/ve.csv").text.startswith('"Volumetric efficiency [%]'))
        self.assertTrue(self.client.get(f"{base}/fuel-sheet.pdf").data.startswith(b"%PDF"))
        self.assertIn("steel tube,4.62,m", self.client.get(f"{base}/fuel-parts.csv").text)
        missing = self.client.get(f"{base}/tables/nothing.csv")
        self.assertEqual((missing.status_code, "dead_time" in missing.get_json()["message"]), (404, True))


class Refusals(WebCase):
    def test_bad_files_get_a_clear_4xx_and_store_nothing(self) -> None:
        before = len(self.client.get("/api/builds").get_json()["builds"])
        deep = b'{"format":' + b"[" * 100_000 + b"]" * 100_000 + b"}"
        good = document()
        cases: list[tuple[bytes, int, str]] = [
            (b"hello", 422, "not JSON"),
            (b"\xff\xfe\x00", 422, "not text"),
            (b"[]", 422, "one JSON object"),
            (b"{}", 422, "not a build file"),
            (deep, 422, "nested"),
            (b"x" * 50_000_000, 413, "2 MB"),
            (b'{"format": "uphill-spark-build", "version": 7}', 422, "version"),
            (json.dumps({**good, "x": 1}).encode(), 422, "cannot be taken"),
            (b'{"a":1,"a":2}', 422, "twice"),
            (json.dumps(good).replace('"1.0"', "NaN").replace("0.97", "NaN").encode(), 422, "not one"),
            (json.dumps(good).replace("0.97", "1e999").encode(), 422, "too large"),
            (json.dumps(good).replace("0.97", "9" * 5000).encode(), 422, "too large"),
            (b'{"name": "\\ud800"}', 422, "no text"),
            (b'{"name": "\\u0000"}', 422, "no text"),
            (b"", 422, "not JSON"),
        ]
        for data, status, word in cases:
            with self.subTest(data[:40]):
                answer = self.client.post(
                    "/api/builds/import", input_stream=io.BytesIO(data), content_length=len(data), content_type="application/json"
                )
                body = answer.get_json()
                self.assertEqual(answer.status_code, status, body)
                told = body["message"] + " ".join(p["given"] + p["wants"] for p in body["problems"])
                self.assertIn(word, told)
        self.assertEqual(len(self.client.get("/api/builds").get_json()["builds"]), before)

    def test_a_bad_edit_names_the_field_and_stores_nothing(self) -> None:
        state = self.tern()
        for value, word in (("140 mm", "does not measure power"), ("-3 kW", "between 3 kW"), (None, "a text"), ("", "no number")):
            answer = self.edit(state, [{"op": "replace", "path": "/engine/power", "value": value}])
            problem = answer.get_json()["problems"][0]
            self.assertEqual((answer.status_code, problem["at"]), (422, "/engine/power"))
            self.assertIn(word, problem["wants"])
        self.assertEqual(self.client.get(f"/api/builds/{state['id']}").get_json()["revision"], 1)

    def test_a_firing_order_that_repeats_a_cylinder_and_an_empty_pump_table(self) -> None:
        state = self.tern()
        for path, value, word in (
            ("/engine/firing_order", [1, 1, 2, 3, 4, 5], "each of the cylinders 1 to 6 once"),
            ("/fuel/pump/curve", [], "at least 2 entries"),
        ):
            answer = self.edit(state, [{"op": "replace", "path": path, "value": value}])
            self.assertEqual((answer.status_code, answer.get_json()["problems"][0]["at"]), (422, path))
            self.assertIn(word, answer.get_json()["problems"][0]["wants"])

    def test_requests_that_are_none(self) -> None:
        state = self.tern()
        url = f"/api/builds/{state['id']}"
        for answer, status in [
            (self.client.patch(url, data="{", content_type="application/json"), 422),
            (self.client.patch(url, data="x", content_type="text/plain"), 415),
            (self.client.patch(url, json={"base": 1, "patch": [], "extra": 1}), 422),
            (self.client.patch(url, json={"base": 2**40, "patch": [{}]}), 422),
            (self.client.patch(url, json={"base": 1, "patch": [{"op": "replace", "path": "/name", "value": "a\x00"}]}), 422),
            (self.client.patch(url, json={"base": 1, "patch": [{}], "who": "a\x00"}), 422),
            (self.client.get("/api/builds/not-an-id"), 404),
            (self.client.get("/api/builds/00000000-0000-0000-0000-000000000000"), 404),
            (self.client.get(f"{url}?revision=0"), 422),
            (self.client.get(f"{url}?revision=99999999999999999999"), 422),
            (self.client.get(f"{url}/revisions/1"), 404),
            (self.client.get(f"{url}/stages?shown=../x"), 422),
            (self.client.post("/api/read", json={"dimension": "length", "texts": ["x" * 200]}), 422),
            (self.client.get(f"{url}/revisions?below=abc"), 422),
            (self.client.get("/api/nothing"), 404),
            (self.client.put(url, json={}), 405),
            (self.client.post(f"{url}/undo", json={"base": 1}), 409),
            (self.client.post(f"{url}/undo", json=[]), 422),
            (self.client.get(f"{url}/papers/start-sheet.pdf?revision=x"), 422),
        ]:
            with self.subTest(answer.request.path, status=status):
                self.assertEqual(answer.status_code, status, answer.text[:200])
                self.assertTrue(answer.get_json())

    def test_other_names_for_this_machine_are_refused(self) -> None:
        self.assertEqual(self.client.get("/api/health", headers={"Host": "elsewhere.example"}).status_code, 421)
        answer = self.client.get("/api/health")
        self.assertEqual(answer.status_code, 200)
        self.assertIn("default-src 'none'", answer.headers["Content-Security-Policy"])

    @settings(
        max_examples=examples(40),
        deadline=None,
        suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.differing_executors],
    )
    @given(st.data())
    def test_no_edit_makes_a_500(self, data: st.DataObject) -> None:
        if not hasattr(self, "state"):
            self.state = self.tern()
        junk = st.recursive(
            st.none() | st.booleans() | st.integers() | st.floats(allow_nan=False, allow_infinity=False) | st.text(),
            lambda x: st.lists(x) | st.dictionaries(st.text(), x),
            max_leaves=6,
        )
        path = data.draw(st.sampled_from(sorted(fields())) | st.text())
        op = data.draw(st.sampled_from(["add", "remove", "replace", "move", "copy", "test"]))
        patch = [{"op": op, "path": path.replace("*", "0"), "from": data.draw(st.sampled_from(sorted(fields()))), "value": data.draw(junk)}]
        answer = self.edit(self.state, patch)
        self.assertIn(answer.status_code, (200, 409, 422), answer.text[:300])
        if answer.status_code == 200:
            self.state["revision"] = answer.get_json()["revision"]


class ReadByTheCore(WebCase):
    """Every text of a field is read by the core, whatever it looks like."""

    def typed(self, pointer: str, text: str) -> Any:
        state = self.tern()
        answer = self.edit(state, [{"op": "add", "path": pointer, "typed": text}])
        if answer.status_code != 200:
            return answer.get_json()["problems"][0]
        return self.client.get(f"/api/builds/{state['id']}").get_json()

    def test_what_is_typed_is_read_as_people_write_it(self) -> None:
        for pointer, text, written, si in (
            ("/fuel/parts/supply/bore", "-6", "-6", 0.0079),
            ("/fuel/parts/supply/bore", "1 1/4 in", "1 1/4 in", 0.03175),
            ("/fuel/parts/supply/bore", "7,9", "7,9 mm", 0.0079),
            ("/fuel/parts/supply/rise", "-1", "-1 m", -1.0),
            ("/injectors/duty_limit", "85 %", "85 %", 0.85),
            ("/engine/power", "150", "150 kW", 150e3),
            ("/wiring/fitted/pump_feed/size", "14 AWG", "14 AWG", 2.081e-6),
        ):
            with self.subTest(text):
                state = self.typed(pointer, text)
                value: Any = state["build"]
                for token in pointer.split("/")[1:]:
                    value = value[token]
                self.assertEqual(value, written)
                self.assertAlmostEqual(state["read"][pointer][0] / si, 1.0, places=3)

    def test_numbers_orders_and_counts(self) -> None:
        for pointer, text, value in (
            ("/engine/firing_order", "1 5 3 6 2 4", [1, 5, 3, 6, 2, 4]),
            ("/tune/idle_lambda", "0,95", 0.95),
            ("/wiring/nodes/dash/x", "2,2", 2.2),
            ("/injectors/count", "6", 6),
            ("/name", "  Tern  ", "Tern"),
        ):
            with self.subTest(pointer):
                found: Any = self.typed(pointer, text)["build"]
                for token in pointer.split("/")[1:]:
                    found = found[token]
                self.assertEqual(found, value)

    def test_what_cannot_be_read_names_the_field_and_what_would_do(self) -> None:
        for pointer, text, wants in (
            ("/injectors/count", "6.5", "a whole number"),
            ("/tune/idle_lambda", "rich", "a number"),
            ("/engine/firing_order", "as before", "whole numbers"),
            ("/engine/power", "lots", "no number found"),
            ("/engine/nothing", "1", "a place in the build that takes a value"),
        ):
            with self.subTest(pointer):
                problem = self.typed(pointer, text)
                self.assertEqual(problem["at"], pointer)
                self.assertIn(wants, problem["wants"])

    def test_quantities_that_stand_in_no_build(self) -> None:
        texts = ["200 mV", "0,2", "4.9 V", "much", "12 kPa"]
        found = self.client.post("/api/read", json={"dimension": "voltage", "unit": "V", "texts": texts}).get_json()["read"]
        self.assertEqual([r["si"] for r in found], [0.2, 0.2, 4.9, None, None])
        self.assertEqual([r["written"] for r in found[:3]], ["200 mV", "0,2 V", "4.9 V"])
        self.assertTrue(all(r["wants"] for r in found[3:]))
        odd = self.client.post("/api/read", json={"dimension": "luck", "texts": ["1"]}).get_json()["read"]
        self.assertIn("not measured here", odd[0]["wants"])

    def test_an_operation_with_a_key_that_none_has_is_refused(self) -> None:
        answer = self.edit(self.tern(), [{"op": "add", "path": "/name", "value": "x", "\ud800": 1}])
        self.assertEqual(answer.status_code, 422)


class CannotBeWorkedOut(WebCase):
    """A build that the rules stumble over stays out of the store, and one that is there bricks nothing."""

    def broken(self) -> Any:
        return mock.patch("uphill_spark.web.standing.evaluated", side_effect=KeyError("no such part"))

    def test_no_way_in_stores_what_cannot_be_worked_out(self) -> None:
        before = len(self.client.get("/api/builds").get_json()["builds"])
        state = self.tern()
        self.edit(state, [{"op": "replace", "path": "/engine/power", "value": "131 kW"}])
        answers = {"name": "My car", "layout": "throttle_body", "cylinders": 4, "displacement": "1285 cc", "power": "40 kW", "fuel": "E0"}
        self.app.extensions["remembered"] = Remembered()
        with self.broken(), self.assertLogs("uphill_spark", "ERROR"):
            for answer in (
                self.client.post("/api/builds/import", data=json.dumps(document("hollin")), content_type="application/json"),
                self.client.post("/api/builds", json={"answers": answers}),
                self.client.post("/api/builds/demo", json={}),
                self.edit({**state, "revision": 2}, [{"op": "replace", "path": "/engine/power", "value": "132 kW"}]),
                self.client.post(f"/api/builds/{state['id']}/undo", json={"base": 2}),
                self.client.post(f"/api/builds/{state['id']}/redo", json={"base": 2}),
                self.client.get(f"/api/builds/{state['id']}"),
            ):
                self.assertIn(answer.status_code, (409, 422), answer.text[:200])
        rows = self.client.get("/api/builds").get_json()["builds"]
        self.assertEqual((len(rows), self.client.get(f"/api/builds/{state['id']}").get_json()["revision"]), (before + 1, 2))

    def test_the_garage_says_which_and_shows_the_rest(self) -> None:
        state = self.tern()
        self.app.extensions["remembered"] = Remembered()
        with self.database.work() as session:  # as after an update that brought other rules
            session.execute(update(RevisionRow).values(rules="other"))
        with self.broken(), mock.patch.object(self.app.extensions["afresh"], "begin"):
            rows = self.client.get("/api/builds").get_json()["builds"]
            row = next(r for r in rows if r["id"] == state["id"])
            self.assertIn("cannot be worked out", row["trouble"])
            self.assertEqual(self.client.get(f"/api/builds/{state['id']}/file").status_code, 200)

    def test_the_path_that_bricked_the_garage_is_refused_by_its_place(self) -> None:
        doc = document()
        doc["fuel"]["path"] = ["tank", "pump", "regulator", "surge_tank", "rail"]
        doc["fuel"]["parts"] = {}
        answer = self.client.post("/api/builds/import", data=json.dumps(doc), content_type="application/json")
        self.assertEqual((answer.status_code, answer.get_json()["problems"][0]["at"]), (422, "/fuel/path/3"))
        self.assertEqual(self.client.get("/api/builds").status_code, 200)


class Asked(WebCase):
    def test_running_then_failed_is_told(self) -> None:
        state = self.tern()
        at = f"/api/builds/{state['id']}/asked/fuel"
        gate = threading.Event()

        def slow(subject: str, trial: object) -> None:
            gate.wait(10)
            raise NotConverged("the wire is too long")

        with mock.patch("uphill_spark.web.standing.answer", slow), mock.patch.object(Remembered.asked, "__defaults__", (0.05,)):
            self.assertEqual(self.client.get(at).get_json()["state"], "running")
            gate.set()
            for _ in range(100):
                found = self.client.get(at).get_json()
                if found["state"] != "running":
                    break
            self.assertEqual((found["state"], found["why"]), ("failed", "the wire is too long"))


class Catalogue(WebCase):
    def test_words_of_the_program_come_from_the_core(self) -> None:
        found = self.client.get("/api/catalogue").get_json()
        self.assertEqual([s["key"] for s in found["stations"]][:2], ["engine", "fuel"])
        self.assertEqual(found["severities"][0], {"key": "stop", "word": "Stop", "at_rest": False})
        self.assertAlmostEqual(found["zones"]["bay"], 353.15)

    def test_fields_of_one_station_and_of_all(self) -> None:
        fuel = self.client.get("/api/fields?stations=fuel").get_json()["fields"]
        self.assertTrue(all(at.startswith("/fuel") for at in fuel))
        self.assertEqual([s["written"] for s in fuel["/fuel/parts/*/bore"]["sizes"]][:2], ["3.2 mm", "4.8 mm"])
        everything = self.client.get("/api/fields")
        by_cells = [at for at in fields() if at.startswith(("/tune/kept/tables/", "/tune/kept/came_of/", "/tune/found/"))]
        self.assertEqual(everything.get_json()["fields"].keys(), fields().keys() - set(by_cells))
        self.assertGreater(len(by_cells), 10)
        again = self.client.get("/api/fields", headers={"If-None-Match": everything.headers["ETag"]})
        self.assertEqual(again.status_code, 304)

    def test_what_never_changes_comes_as_small_as_it_gets_to_whoever_takes_it_so(self) -> None:
        for path in ("/api/catalogue", "/api/fields?stations=wiring", "/api/fields"):
            bare = self.client.get(path)
            packed = self.client.get(path, headers={"Accept-Encoding": "br"})
            with self.subTest(path):
                self.assertNotIn("Content-Encoding", bare.headers)
                self.assertEqual(packed.headers["Content-Encoding"], "br")
                self.assertEqual(packed.headers["Vary"], "Accept-Encoding")
                self.assertEqual(brotli.decompress(packed.data), bare.data)
                again = self.client.get(path, headers={"Accept-Encoding": "br", "If-None-Match": packed.headers["ETag"]})
                self.assertEqual((again.status_code, again.data), (304, b""))


class StoreDown(WebCase):
    def test_503_then_the_same_edit_goes_in(self) -> None:
        state = self.tern()
        switch = Switch(self.url)
        self.addCleanup(switch.close)
        app = create_app(elsewhere(self.url, switch.port))
        self.addCleanup(app.extensions["database"].close)
        client = app.test_client()
        request = {"base": 1, "patch": [{"op": "replace", "path": "/engine/power", "value": "120 kW"}], "edit_id": "one-and-the-same"}
        switch.cut()
        answer = client.patch(f"/api/builds/{state['id']}", json=request)
        self.assertEqual((answer.status_code, answer.get_json()["code"], answer.headers["Retry-After"]), (503, "store_down", "2"))
        self.assertEqual(client.get("/api/health").status_code, 503)
        switch.join()
        self.assertEqual(client.patch(f"/api/builds/{state['id']}", json=request).get_json()["revision"], 2)


class Bodies(unittest.TestCase):
    def test_nothing_that_is_asked_is_taken_as_it_comes(self) -> None:
        """A result of the core checks nothing of what it is made of: it is no part of a body that somebody sends."""

        def below(kind: type) -> Iterator[type]:
            for one in kind.__subclasses__():
                yield one
                yield from below(one)

        def inside(hint: Any, seen: set[type]) -> Iterator[type]:
            if isinstance(hint, type) and issubclass(hint, BaseModel) and hint not in seen:
                seen.add(hint)
                yield hint
                for field in hint.model_fields.values():
                    yield from inside(field.annotation, seen)
            for part in get_args(hint):
                yield from inside(part, seen)

        bodies = set(below(Strict))
        self.assertGreater(len(bodies), 20)
        for body in bodies:
            with self.subTest(body=body.__name__):
                self.assertEqual([kind.__name__ for kind in inside(body, set()) if issubclass(kind, Result)], [])


class Generated(unittest.TestCase):
    def test_schema_figures_and_api_description_are_up_to_date(self) -> None:
        self.assertEqual(generated.stale(), [], "run ./spark generate")


if __name__ == "__main__":
    unittest.main()
