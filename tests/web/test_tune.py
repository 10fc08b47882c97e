"""The kept tune over HTTP: kept, worked on, held against another, rolled back; what is refused, by name."""

from __future__ import annotations

import io
import json
import unittest
import uuid
from typing import Any
from unittest import mock

from openpyxl import load_workbook

from tests.builds import document, worked
from tests.web.test_api import WebCase
from uphill_spark.core.asked import Trial, cycle
from uphill_spark.core.given import parse
from uphill_spark.core.plan import evaluated
from uphill_spark.store import answers
from uphill_spark.web.asked import key_of
from uphill_spark.web.door import opened

CELL = "/tune/kept/tables/ve"


class Tune(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.head = 1
        self.at = f"/api/builds/{self.tern()['id']}"

    def get(self, path: str, status: int = 200) -> Any:
        answer = self.client.get(f"{self.at}/{path}")
        self.assertEqual(answer.status_code, status, answer.text[:300])
        return answer.get_json()

    def did(self, answer: Any, status: int = 200) -> Any:
        self.assertEqual(answer.status_code, status, answer.text[:400])
        found = answer.get_json()
        if status == 200:
            self.head = found["revision"]
        return found

    def edit(self, *patch: dict[str, Any], status: int = 200) -> Any:
        return self.did(self.client.patch(self.at, json={"base": self.head, "patch": list(patch), "who": "Ada"}), status)

    def keep(self, source: str, status: int = 200, **more: Any) -> Any:
        return self.did(self.client.post(f"{self.at}/tune/keep", json={"base": self.head, "source": source, "who": "Ada", **more}), status)

    def cells(self, **act: Any) -> dict[str, Any]:
        return {"op": "replace", "path": CELL, "cells": act}

    def document(self) -> Any:
        return json.loads(self.client.get(f"{self.at}/file").data)

    def test_a_tune_is_kept_worked_on_compared_and_rolled_back(self) -> None:
        self.edit({"op": "remove", "path": "/tune/kept"})
        kept = self.keep("quick", shown=["in_use"])
        first = self.head
        self.assertEqual(kept["summary"], "Tune kept, of the quick tables")
        self.assertEqual(kept["stages"]["in_use"]["source"], "kept")
        told = self.edit(self.cells(do="enter", typed="+10 %", **{"from": [3, 2], "to": [4, 3]}))
        self.assertIn("4 cells", told["summary"])
        found = self.get(f"tune/compare?before={first}")
        self.assertEqual((found["before"], found["after"]), (f"revision {first}", "the tables in use"))
        ve = found["tables"][0]
        self.assertEqual((ve["key"], ve["changed"]), ("ve", 4))
        self.assertAlmostEqual(ve["most"], max(ve["before"][i][j] for i in (3, 4) for j in (2, 3)) * 0.1, delta=0.06)
        self.assertEqual(self.get("tune/compare?before=quick&after=quick")["tables"][0]["changed"], 0)
        trail = self.get("tune/trail")
        self.assertEqual([(s["made"], s["cells"]) for s in trail["steps"]][:2], [("quick", 4), ("quick", 0)])
        self.did(self.client.post(f"{self.at}/tune/back", json={"base": self.head, "to": first, "who": "Bo"}))
        self.assertEqual(self.get(f"tune/compare?before={first}")["tables"][0]["changed"], 0)
        newest = self.get("tune/trail")["steps"][0]
        self.assertEqual((newest["who"], newest["reason"]), ("Bo", f"Rolled back to revision {first}"))

    def test_undo_takes_an_act_back_and_it_stands_in_the_trail(self) -> None:
        before = self.document()["tune"]["kept"]["tables"]["ve"]["rows"]
        self.edit(self.cells(do="set", typed="66", **{"from": [5, 5]}))
        self.did(self.client.post(f"{self.at}/undo", json={"base": self.head, "who": "Ada"}))
        self.assertEqual(self.document()["tune"]["kept"]["tables"]["ve"]["rows"], before)
        self.assertEqual(self.get("tune/trail")["steps"][0]["kind"], "undo")

    def test_a_cell_tells_what_it_does_and_what_it_held(self) -> None:
        table = self.document()["tune"]["kept"]["tables"]["ve"]
        held = table["rows"][5][5]
        for typed in ("61", "63"):
            self.edit(self.cells(do="set", typed=typed, **{"from": [5, 5]}))
        found = self.get("tune/cell?table=ve&row=5&column=5")
        self.assertEqual([h["value"] for h in found["history"]], [63.0, 61.0, held])
        self.assertEqual(found["history"][0]["who"], "Ada")
        self.assertAlmostEqual(found["told"]["ve"], 0.63, places=4)
        self.assertTrue(found["told"]["says"].endswith("."))
        curve = self.get("tune/cell?table=warm_up&row=0&column=1")
        self.assertIsNone(curve["told"])
        self.assertEqual(
            self.get("tune/cell?table=ve&row=5&column=5&revision=1")["history"], [h for h in found["history"] if h["value"] == held]
        )
        self.get("tune/cell?table=ve&row=12&column=5", 404)
        self.assertEqual(self.get("tune/cell?table=moon&row=0&column=0", 422)["problems"][0]["at"], "/table")

    def test_what_is_typed_wrong_is_told_and_nothing_is_stored(self) -> None:
        before = self.document()
        told = self.edit(self.cells(do="enter", typed="lots", **{"from": [0, 0]}), status=422)
        self.assertEqual(told["problems"][0]["wants"], "a number, like 5 or -2.5")
        self.assertIn("1 to 250", self.edit(self.cells(do="enter", typed="900", **{"from": [0, 0]}), status=422)["problems"][0]["wants"])
        self.edit({"op": "add", "path": "/tune/found/tables/ve/rows/0/0", "value": 3}, status=422)
        self.edit(self.cells(do="burn", **{"from": [0, 0]}), status=422)
        self.assertEqual(self.document(), before)

    def test_somebody_who_was_quicker_is_told(self) -> None:
        self.edit({"op": "replace", "path": "/notes", "value": "meanwhile"})
        answer = self.client.post(f"{self.at}/tune/keep", json={"base": 1, "source": "quick", "who": "Bo"})
        self.assertEqual(answer.status_code, 409)
        once = {"base": self.head, "source": "quick", "who": "Bo", "edit_id": "keep-it-once"}
        self.assertEqual(
            self.did(self.client.post(f"{self.at}/tune/keep", json=once))["revision"],
            self.did(self.client.post(f"{self.at}/tune/keep", json=once))["revision"],
        )

    def test_of_what_is_not_there_nothing_is_made(self) -> None:
        self.assertIn("not worked yet", self.keep("worked", 422)["message"])
        self.assertIn("nothing to go back to", self.keep("found", 422)["message"])
        self.assertIn("not worked yet", self.get("tune/compare?before=worked", 422)["message"])
        self.edit({"op": "remove", "path": "/tune/kept"})
        gone = self.client.post(f"{self.at}/tune/back", json={"base": self.head, "to": self.head, "who": "Bo"})
        self.assertIn("No tune was kept then", gone.get_json()["message"])
        self.assertEqual(self.client.post(f"{self.at}/tune/back", json={"base": self.head, "to": 99, "who": "Bo"}).status_code, 404)

    def test_the_worked_engine_becomes_the_kept_tune_and_ones_own_cells_are_told(self) -> None:
        doc = document("tern")
        doc["engine"] |= {"exhaust_valve": "35 mm", "tract": "340 mm", "exhaust": "tubular"}  # nothing to guess: one run
        depth = cycle.look_deeper(Trial(doc, evaluated(parse(doc))))
        with self.client.application.test_request_context():
            key = key_of(opened(uuid.UUID(self.at.rsplit("/", 1)[-1])), "cycle")
        with self.database.work() as session:
            answers.ask(session, key, "cycle")
            answers.finish(session, key, depth.model_dump_json())
        own = self.get("tune/proposal/worked")
        self.assertEqual(own["inked"], 18)
        self.assertTrue(all(a["table"] in ("ve", "lambda") for a in own["asks"]))
        self.keep("worked")
        kept = self.document()["tune"]["kept"]
        self.assertEqual((kept["made"], len(kept["tables"]["ve"]["ink"])), ("worked", 9))
        self.keep("worked", mine=False)
        self.assertEqual(self.document()["tune"]["kept"]["tables"]["ve"]["rows"], depth.grid.typed)
        self.assertEqual(self.get("tune/compare?before=worked")["tables"][0]["changed"], 0)

    def test_tables_read_in_are_shown_and_then_taken_as_found(self) -> None:
        text = "VE [%]; 800; 1600; 5700\n40; 42; 50; 58\n100; 68; 78; 85\n"
        found = self.client.post(f"{self.at}/tune/read", json={"text": text}).get_json()
        table = found["tables"][0]
        value = {"load": found["load"], "source": "read_out", "tables": {table["key"]: {k: table[k] for k in ("x", "y", "rows")}}}
        self.edit({"op": "add", "path": "/tune/found", "value": value})
        self.assertTrue(self.get("tune/trail")["found"])
        self.assertEqual(self.get("tune/compare?before=found")["tables"][0]["only"], "")
        self.keep("found")
        self.assertEqual(self.document()["tune"]["kept"]["tables"]["ve"]["rows"], table["rows"])
        bad = self.client.post(f"{self.at}/tune/read", json={"text": "VE; 1; 2\n3; x; 4"})
        self.assertEqual(bad.status_code, 422)
        self.assertEqual(self.client.post(f"{self.at}/tune/read", json={"text": text, "choices": {"0": "soup"}}).status_code, 422)

    def test_the_walk_and_the_papers(self) -> None:
        steps = self.get("tune/walk")["steps"]
        self.assertEqual((steps[0]["coolant"], len(steps)), (-20.0, 31))
        book = self.client.get(f"{self.at}/papers/tune.xlsx")
        self.assertIn("tune.xlsx", book.headers["Content-Disposition"])
        self.assertEqual(load_workbook(io.BytesIO(book.data)).sheetnames[0], "Figures")
        self.assertEqual(self.client.get(f"{self.at}/papers/sheets/tune.csv").status_code, 200)
        kept = self.document()["tune"]["kept"]["tables"]["advance"]
        told = self.client.get(f"{self.at}/papers/tables/advance.csv").text.splitlines()
        self.assertEqual(told[1].split(",")[1], f"{kept['rows'][0][0]}")
        self.assertNotEqual(kept["rows"], worked("tern", {"/tune/kept": None}).tune.tables[2].rows)

    def test_an_older_answer_is_not_taken_for_the_newest_engine(self) -> None:
        with mock.patch("uphill_spark.web.tune.key_of", return_value="nothing"):
            self.assertIn("not worked yet", self.keep("worked", 422)["message"])


if __name__ == "__main__":
    unittest.main()
