"""Logs over the web: sent, read in beside, taken, read against the build, put right, drawn, handed out; and what nobody means well with."""

from __future__ import annotations

import gzip
import io
import json
import unittest
import uuid
import zipfile
from typing import Any
from unittest import mock

import numpy as np
from pypdf import PdfReader
from sqlalchemy import func, select

from tests.formats.test_logs import text
from tests.web.test_api import WebCase
from tests.web.test_archive import Empty, picture
from uphill_spark import demo
from uphill_spark.core.given import apply_edit
from uphill_spark.formats import log_csv, log_out
from uphill_spark.jobs import logging_in
from uphill_spark.jobs.working import work_on
from uphill_spark.store import logs as kept_logs
from uphill_spark.store.tables import AnswerRow, LogChunkRow, LogPieceRow, LogRow
from uphill_spark.web import app as web_app
from uphill_spark.web import archives as web_archives
from uphill_spark.web import log_said
from uphill_spark.web.app import create_app

FILE = {"content_type": "application/octet-stream"}


class Logs(WebCase):
    def setUp(self) -> None:
        super().setUp()
        patience = mock.patch.object(log_said, "PATIENCE", 0.0)
        patience.start()
        self.addCleanup(patience.stop)

    def car(self, name: str = "tern") -> str:
        made = self.client.post("/api/builds/demo", json={"who": "Ada"}).get_json()["builds"]
        word = {"tern": "Tern", "hollin": "Hollin", "brindle": "Brindle"}[name]
        return f"/api/builds/{next(b['id'] for b in reversed(made) if word in b['name'])}"

    def send(self, at: str, data: bytes, name: str = "sunday.csv", **more: Any) -> Any:
        return self.client.post(f"{at}/logs", query_string={"name": name, "day": "2027-05-02", "who": "Ada", **more}, data=data, **FILE)

    def read_in(self, at: str, data: bytes, **more: Any) -> dict[str, Any]:
        """A log sent and read in, as the worker does."""
        answer = self.send(at, data, **more)
        self.assertEqual(answer.status_code, 201, answer.text[:300])
        return self.worked(at, answer.get_json()["line"]["id"])

    def worked(self, at: str, log: str) -> dict[str, Any]:
        logging_in.take_in(self.database, uuid.UUID(log))
        return self.client.get(f"{at}/logs/{log}").get_json()

    def take(self, at: str, told: dict[str, Any]) -> Any:
        taken = [{k: t[k] for k in ("column", "quantity", "factor", "offset")} for t in told["taken"] if not t["asks"]]
        return self.client.put(f"{at}/logs/{told['line']['id']}/columns", json={"taken": taken})

    def shipped(self, at: str) -> dict[str, Any]:
        log = str(uuid.uuid4())
        self.assertEqual(self.client.post(f"{at}/logs/drive", json={"what": "shipped", "id": log}).status_code, 201)
        told = self.worked(at, log)
        if told["line"]["state"] == "asks":
            self.assertEqual(self.take(at, told).status_code, 200)
        return told

    def said(self, at: str, log: str) -> dict[str, Any]:
        address = f"{at}/logs/{log}/said"
        first = self.client.get(address).get_json()
        if first["state"] == "running":
            with self.database.work() as session:
                keys = list(session.scalars(select(AnswerRow.key).where(AnswerRow.subject == "road", AnswerRow.state == "waiting")))
            for key in keys:
                work_on(self.database, key, "road", uuid.UUID(at.rsplit("/", 1)[1]), first["revision"], 0, uuid.UUID(log))  # type: ignore[arg-type]
        return self.client.get(address).get_json()

    def edit(self, at: str, told: dict[str, Any]) -> Any:
        head = self.client.get(at).get_json()["revision"]
        return self.client.patch(
            at, json={"base": head, "patch": told["patch"], "who": "Ada", "reason": told["reason"], "edit_id": str(uuid.uuid4())}
        )

    # Sent and read in
    def test_a_log_from_a_spreadsheet_is_read_in_with_its_guess_and_taken_with_one_press(self) -> None:
        at = self.car("brindle")
        _, data = demo.drive("brindle")
        told = self.read_in(at, gzip.decompress(data), name="drive.csv")
        self.assertEqual(told["line"]["state"], "asks")
        self.assertEqual(told["line"]["name"], "drive")
        self.assertEqual(told["broken_count"], 1)
        self.assertEqual(told["broken"][0]["text"], "the passenger pressed the mark")
        self.assertIn("speed", [t["quantity"] for t in told["taken"]])
        self.assertTrue(all(not t["asks"] for t in told["taken"]))
        self.assertTrue(all(len(c["strip_low"]) > 50 for c in told["columns"]))
        self.assertEqual(self.take(at, told).get_json()["line"]["state"], "kept")
        again = self.read_in(at, gzip.decompress(data), name="again.csv")
        self.assertEqual(again["line"]["state"], "kept", "the source is remembered")

    def test_logs_of_one_name_are_told_apart_by_a_number(self) -> None:
        at, long = self.car(), "x" * 120
        names = [
            self.send(at, text(30), name=name).get_json()["line"]["name"]
            for name in ("sunday.csv", "sunday.csv", "sunday, 2.csv", "sunday.csv", long, long)
        ]
        self.assertEqual(names, ["sunday", "sunday, 2", "sunday, 2, 2", "sunday, 3", "x" * 120, "x" * 115 + ", 2"])
        self.assertEqual(self.send(self.car("hollin"), text(30)).get_json()["line"]["name"], "sunday", "another car's logs are its own")

    def test_its_file_is_let_go_of_once_its_columns_are_kept(self) -> None:
        at = self.car()
        told = self.read_in(at, text(3000))
        with self.database.work() as session:
            log = uuid.UUID(told["line"]["id"])
            self.assertEqual(session.scalar(select(func.count()).select_from(LogPieceRow).where(LogPieceRow.log_id == log)), 0)
            self.assertEqual(session.scalar(select(func.count()).select_from(LogChunkRow).where(LogChunkRow.log_id == log)), 4)

    def test_bad_files_are_told_in_words_and_nothing_of_them_is_kept(self) -> None:
        at = self.car()
        for data, words in ((b"\x89PNG\r\n\x1a\n" + b"\x00" * 99, "a picture"), (b"a;b\nred;green\n" * 30, "No row of numbers"), (b"MDF     4.10" + b"\x00" * 20, "broken off"), ("\n".join(reversed(text().decode().splitlines()[1:])).encode(), "Time runs backwards|No column is a clock")):  # fmt: skip
            with self.subTest(words):
                told = self.read_in(at, data)
                if told["line"]["state"] == "failed":
                    self.assertRegex(told["line"]["why"], words)
                else:
                    self.assertRegex(" ".join(told["notes"]), words)
                with self.database.work() as session:
                    left = session.scalar(
                        select(func.count()).select_from(LogPieceRow).where(LogPieceRow.log_id == uuid.UUID(told["line"]["id"]))
                    )
                self.assertEqual(left, 0)

    def test_an_empty_file_and_one_too_large_are_refused_at_once(self) -> None:
        at = self.car()
        self.assertIn("empty", self.send(at, b"").get_json()["message"])
        with mock.patch.object(web_app, "limit", lambda path: 1000):
            answer = self.send(at, text(200))
        self.assertEqual(answer.status_code, 413)
        self.assertIn("a log has at most 600 MB", json.dumps(answer.get_json()))
        self.assertEqual(self.client.get(f"{at}/logs").get_json()["logs"], [])

    def test_sent_twice_under_one_id_it_is_refused_the_second_time(self) -> None:
        at, log = self.car(), str(uuid.uuid4())
        self.assertEqual(self.send(at, text(), id=log).status_code, 201)
        answer = self.send(at, text(), id=log)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("under this id before", answer.get_json()["message"])

    def test_given_up_while_it_is_read_nothing_is_left(self) -> None:
        at = self.car()
        log = self.send(at, text()).get_json()["line"]["id"]
        found = self.client.delete(f"{at}/logs/{log}").get_json()["logs"]
        self.assertEqual([x["state"] for x in found], ["cancelled"])
        logging_in.take_in(self.database, uuid.UUID(log))
        self.assertEqual(self.client.get(f"{at}/logs/{log}").get_json()["line"]["state"], "cancelled")
        self.assertEqual(self.client.delete(f"{at}/logs/{log}").get_json()["logs"], [])

    def test_given_up_in_the_middle_of_it_too(self) -> None:
        at = self.car()
        log = self.send(at, text()).get_json()["line"]["id"]

        found = log_csv.read(text())

        def read(*_: Any) -> Any:
            self.client.delete(f"{at}/logs/{log}")
            return found

        with mock.patch.object(logging_in.log_csv, "read", read), mock.patch.object(logging_in, "TELLS", 0.0):
            logging_in.take_in(self.database, uuid.UUID(log))
        told = self.client.get(f"{at}/logs/{log}").get_json()["line"]
        self.assertEqual((told["state"], told["rows"]), ("cancelled", 0))

    def test_a_worker_that_died_in_it_leaves_it_to_the_next_and_after_three_times_to_nobody(self) -> None:
        at = self.car()
        log = self.send(at, text()).get_json()["line"]["id"]
        with mock.patch.object(logging_in, "_keep", side_effect=KeyboardInterrupt), self.assertRaises(KeyboardInterrupt):
            logging_in.take_in(self.database, uuid.UUID(log))
        self.assertEqual(self.client.get(f"{at}/logs/{log}").get_json()["line"]["state"], "reading")
        self.assertEqual(self.worked(at, log)["line"]["state"], "asks")
        other = self.send(at, text()).get_json()["line"]["id"]
        for _ in range(3):
            with mock.patch.object(logging_in, "_keep", side_effect=KeyboardInterrupt), self.assertRaises(KeyboardInterrupt):
                logging_in.take_in(self.database, uuid.UUID(other))
        told = self.worked(at, other)["line"]
        self.assertEqual(told["state"], "failed")
        self.assertIn("three times", told["why"])

    def test_a_fault_in_reading_is_told_without_its_traceback(self) -> None:
        at = self.car()
        log = self.send(at, text()).get_json()["line"]["id"]
        with mock.patch.object(logging_in.log_csv, "read", side_effect=ZeroDivisionError("secret")), self.assertLogs("uphill_spark"):
            told = self.worked(at, log)
        self.assertNotIn("secret", json.dumps(told))
        self.assertEqual(told["line"]["state"], "failed")

    # Columns
    def test_columns_are_refused_by_name_where_they_cannot_be(self) -> None:
        at = self.car()
        told = self.read_in(at, text())
        address = f"{at}/logs/{told['line']['id']}/columns"
        speed = {"column": "Speed", "quantity": "speed"}
        for taken, words in (
            ([{"column": "Nowhere", "quantity": "speed"}], "not in this log"), ([{"column": "Lambda", "quantity": "lambda"}], "no engine speed"), ([speed, {"column": "Lambda", "quantity": "speed"}], "twice"), ([{**speed, "factor": 0}], "not 0"), ([{**speed, "factor": "two"}], "a number"),
            ([{**speed, "quantity": "happiness"}], "one of"), ([{**speed, "factor": 1e400}], "number"),
        ):  # fmt: skip
            with self.subTest(words):
                answer = self.client.put(address, data=json.dumps({"taken": taken}), content_type="application/json")
                self.assertIn(answer.status_code, (400, 422))
                self.assertIn(words, json.dumps(answer.get_json()))
        kept = self.client.put(address, json={"taken": [{**speed, "factor": "0,5"}]}).get_json()
        self.assertEqual(kept["taken"][0]["factor"], 0.5)

    def test_what_a_person_notes_of_the_day_is_kept(self) -> None:
        at = self.car()
        log = self.read_in(at, text())["line"]["id"]
        key = self.client.post("/api/photos", data=picture(), **FILE).get_json()["key"]
        told = self.client.patch(
            f"{at}/logs/{log}", json={"name": "Over the pass", "note": "Wet, 14 °C <b>", "day": "2027-05-03", "photos": [key]}
        ).get_json()["line"]
        self.assertEqual(
            (told["name"], told["note"], told["day"], told["photos"]), ("Over the pass", "Wet, 14 °C <b>", "2027-05-03", [key])
        )
        self.assertEqual(self.client.patch(f"{at}/logs/{log}", json={"revision": 99}).status_code, 404)
        self.assertEqual(self.client.patch(f"{at}/logs/{log}", json={"name": "a\x01"}).status_code, 422)

    # What it says, and what is put right
    def test_a_drive_is_split_put_right_and_told_once(self) -> None:
        at = self.car()
        log = self.shipped(at)["line"]["id"]
        found = self.said(at, log)
        self.assertEqual((found["state"], found["same"], found["in_build"]), ("ready", True, False))
        split = found["answer"]["split"]
        named = {c["key"] for c in split["causes"] if c["named"]}
        self.assertEqual(named, {"scale", "tip_in"})
        told = self.client.post(f"{at}/logs/{log}/deeds", json={"causes": ["scale", "tip_in"], "cells": True}).get_json()
        self.assertIn("151.5 g/min → 16", told["ripple"]["sentence"])
        self.assertIn("injector figure", told["reason"])
        self.assertEqual(self.edit(at, told).status_code, 200)
        state = self.client.get(f"{at}?shown=road").get_json()
        codes = {f["code"]: f["severity"] for f in state["plan"]["findings"] if f["station"] == "road"}
        self.assertEqual(codes["LEARN-14"], "note")
        self.assertIn("cells were corrected", next(f["why"] for f in state["plan"]["findings"] if f["code"] == "LEARN-14"))
        self.assertAlmostEqual(state["stages"]["road"]["scale"], 1.08, delta=0.03)
        after = self.said(at, log)
        self.assertEqual((after["same"], after["in_build"], after["did"]), (True, True, ["scale", "tip_in", "cells"]))
        twice = self.client.post(f"{at}/logs/{log}/deeds", json={"causes": ["scale"]})
        self.assertEqual(twice.status_code, 422)
        self.assertIn("by this log already", twice.get_json()["message"])
        head = self.client.get(at).get_json()["revision"]
        other = [{"op": "add", "path": "/injectors/flow", "value": "180 g/min"}]
        self.client.patch(at, json={"base": head, "patch": other, "who": "Ada", "edit_id": str(uuid.uuid4())})
        self.assertFalse(self.said(at, log)["same"])
        moved = self.client.post(f"{at}/logs/{log}/deeds", json={"curves": ["warm_up"]})
        self.assertIn("has changed since this drive", moved.get_json()["message"])

    def test_a_reading_alone_is_taken_and_moves_its_own_figures_and_the_work_it_proves(self) -> None:
        at = self.car("hollin")
        log = self.shipped(at)["line"]["id"]
        self.said(at, log)
        told = self.client.post(f"{at}/logs/{log}/deeds", json={}).get_json()
        moved = {f["name"]: f for f in told["ripple"]["figures"]}
        self.assertEqual({name for name in moved if not name.startswith("road.")}, {"work.hours"})
        self.assertLess(moved["work.hours"]["after"], moved["work.hours"]["before"], "a drive that is read is an evening less to go")
        document = self.client.get(f"{at}/file").get_json()
        build = apply_edit(document, told["patch"])[2]
        self.assertEqual(build.road.drives[0].log, log)

    def test_deeds_that_are_none_are_refused_in_words(self) -> None:
        at = self.car("brindle")
        log = self.shipped(at)["line"]["id"]
        address = f"{at}/logs/{log}/deeds"
        self.assertIn("still being read", self.client.post(address, json={}).get_json()["message"])
        self.said(at, log)
        for body, words in (
            ({"causes": ["bank"]}, "not put right by typing"),
            ({"causes": ["air"]}, "not put right by typing"),
            ({"curves": ["idle_air"]}, "proposes nothing"),
            ({"cells": True, "signed_by": "Ada", "signed_why": "no"}, "needs a reason"),
        ):
            with self.subTest(words):
                answer = self.client.post(address, json=body)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, answer.get_json()["message"])

    def test_a_log_without_a_mixture_or_of_another_car_says_so(self) -> None:
        at = self.car()
        bare = self.read_in(at, b"Time;RPM;TPS\n" + b"".join(b"%.2f;%d;20\n" % (i * 0.05, 2000 + i % 3) for i in range(2000)))
        self.take(at, bare)
        self.assertIsNone(self.said(at, bare["line"]["id"])["answer"]["split"])
        _, data = demo.drive("hollin")
        other = self.read_in(at, data)
        self.take(at, other)
        found = self.said(at, other["line"]["id"])
        self.assertEqual(found["state"], "failed")
        self.assertIn("another car", found["why"])

    def test_papers_of_a_log_say_what_the_screen_says(self) -> None:
        at = self.car()
        log = self.shipped(at)["line"]["id"]
        self.said(at, log)
        for name, words in (("plan.pdf", "A passenger reads this out"), ("reading.pdf", "Injector figure")):
            answer = self.client.get(f"{at}/logs/{log}/{name}")
            self.assertEqual(answer.status_code, 200)
            pages = " ".join(" ".join(p.extract_text().split()) for p in PdfReader(io.BytesIO(answer.data)).pages)
            self.assertIn(words, pages)

    # Rows
    def test_the_strip_is_the_rows_least_and_most_however_close_one_looks(self) -> None:
        at = self.car()
        n = 60_000
        rng = np.random.default_rng(1)
        data = log_out.written(
            "mf4",
            np.arange(n) * 0.05,
            ["RPM", "Lambda"],
            ["rpm", ""],
            [2000 + np.round(rng.normal(0, 50, n)), np.round(1 + rng.normal(0, 0.02, n), 3)],
        )
        told = self.read_in(at, data, name="x.mf4")
        address = f"{at}/logs/{told['line']['id']}/strip"
        whole = self.client.get(f"{address}?columns=1,2&points=500").get_json()
        self.assertLessEqual(len(whole["time"]), 500)
        column = 2000 + np.round(np.random.default_rng(1).normal(0, 50, n))
        self.assertEqual(max(whole["columns"][0]["high"]), column.max())
        self.assertEqual(min(whole["columns"][0]["low"]), column.min())
        close = self.client.get(f"{address}?columns=1&begin=2600&end=2601&points=500").get_json()
        self.assertEqual(close["rows_each"], 1.0)
        inside = (np.arange(n) * 0.05 >= 2600) & (np.arange(n) * 0.05 <= 2601 + 1e-9)
        self.assertEqual(close["columns"][0]["low"], column[inside].tolist())
        for query, words in (("columns=7", "numbers from 1 to 2"), ("columns=a", "columns"), ("columns=1&points=5", "points")):
            answer = self.client.get(f"{address}?{query}")
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, json.dumps(answer.get_json()))

    def test_a_log_goes_out_as_every_open_format(self) -> None:
        at = self.car()
        told = self.read_in(at, text(500))
        for kind in log_out.KINDS:
            answer = self.client.get(f"{at}/logs/{told['line']['id']}/file?kind={kind}")
            self.assertEqual(answer.status_code, 200)
            self.assertIn(f'sunday-2027-05-02.{kind}"', answer.headers["Content-Disposition"])
        self.assertEqual(self.client.get(f"{at}/logs/{told['line']['id']}/file?kind=exe").status_code, 422)

    def test_logs_go_with_the_archive_and_come_back_equal(self) -> None:
        at = self.car("hollin")
        told = self.shipped(at)
        self.client.patch(f"{at}/logs/{told['line']['id']}", json={"note": "Dry road"})
        with mock.patch.object(web_archives, "_book", lambda found: b"%PDF-1.7 a book"):
            archive = self.client.get(f"{at}/archive.zip").data
        self.assertIn(f"logs/{told['line']['id']}.parquet", zipfile.ZipFile(io.BytesIO(archive)).namelist())
        Empty.setUpClass()
        self.addCleanup(Empty.doClassCleanups)
        other = create_app(Empty.url)
        self.addCleanup(other.extensions["database"].close)
        answer = other.test_client().post("/api/archives", data=archive, **FILE)
        self.assertEqual(answer.status_code, 201, answer.text[:300])
        there = answer.get_json()["id"]

        def rows(database: Any, log: str) -> list[Any]:
            with database.work() as session:
                row = session.get(LogRow, uuid.UUID(log))
                return kept_logs.columns_of(session, row, list(range(len(row.columns) + 1)))

        for one, two in zip(rows(self.database, told["line"]["id"]), rows(Empty.database, told["line"]["id"]), strict=True):
            self.assertTrue(np.array_equal(one, two, equal_nan=True))
        line = other.test_client().get(f"/api/builds/{there}/logs").get_json()["logs"][0]
        self.assertEqual((line["note"], line["state"], line["rows"]), ("Dry road", "kept", told["line"]["rows"]))

    def test_a_stranger_log_or_build_is_not_found(self) -> None:
        at, other = self.car(), self.car("hollin")
        log = self.read_in(at, text())["line"]["id"]
        for way in ("", "/said", "/strip?columns=1", "/file", "/plan.pdf"):
            self.assertEqual(self.client.get(f"{other}/logs/{log}{way}").status_code, 404, way)
        self.assertEqual(self.client.post(f"{at}/logs/drive", json={"what": "standin", "id": log}).status_code, 422)

    def test_a_build_of_ones_own_has_no_drive_that_ships_and_the_stand_in_drives_it(self) -> None:
        made = self.client.post("/api/builds/import?who=Ada", json=demo.document("tern")).get_json()
        at = f"/api/builds/{made['id']}"
        self.assertEqual(self.client.post(f"{at}/logs/drive", json={"what": "shipped", "id": str(uuid.uuid4())}).status_code, 404)
        log = str(uuid.uuid4())
        self.client.post(f"{at}/logs/drive", json={"what": "standin", "id": log})
        short = mock.patch.object(logging_in, "set_cycle", lambda seed: logging_in_cycle(seed))
        with short:
            told = self.worked(at, log)
        self.assertEqual(told["line"]["state"], "kept")
        self.assertGreater(told["line"]["rows"], 1000)


def logging_in_cycle(seed: int) -> list[Any]:
    from uphill_spark.core.standin.drive import set_cycle

    return set_cycle(seed, cold=False)[:14]


if __name__ == "__main__":
    unittest.main()
