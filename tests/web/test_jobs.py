"""What takes seconds, worked out beside the web process: asked, given up, begun again, kept by what it rests on, and a worker that dies in it."""

from __future__ import annotations

import asyncio
import os
import pathlib
import subprocess
import sys
import threading
import time
import unittest
import uuid
from typing import Any
from unittest import mock

from sqlalchemy import func, select, text

from tests.builds import document
from tests.database import DatabaseCase
from uphill_spark import store
from uphill_spark.core.asked import LONG, Long
from uphill_spark.core.asked.guesses import Guesses
from uphill_spark.core.errors import NoEngine
from uphill_spark.core.given.edit import put
from uphill_spark.jobs.worker import take_up_again, worker
from uphill_spark.jobs.working import TRIES, work_on
from uphill_spark.store import answers
from uphill_spark.store.tables import AnswerRow
from uphill_spark.web import create_app

ROOT = pathlib.Path(__file__).resolve().parents[2]


def quick(*, fails: Exception | None = None, tells: int = 0) -> dict[str, Long]:
    """The worked engine in place of which something quick is worked: so many words how far it is, then an answer or a failure."""

    def work(trial: Any, told: Any) -> Guesses:
        for k in range(tells):
            told(k / tells)
        if fails is not None:
            raise fails
        return Guesses(guesses=[])

    return {"cycle": Long(LONG["cycle"].rests_on, work)}


class Jobs(DatabaseCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        app = create_app(cls.url)
        cls.addClassCleanup(app.extensions["database"].close)
        cls.addClassCleanup(app.extensions["queue"].close)
        cls.client = app.test_client()

    def setUp(self) -> None:
        self.build = self.new_build()
        with self.database.work() as session:
            session.execute(text("SET LOCAL search_path TO queue"))
            session.execute(text("DELETE FROM procrastinate_jobs"))
        patience = mock.patch("uphill_spark.web.asked.PATIENCE", 0.0)
        patience.start()
        self.addCleanup(patience.stop)

    def new_build(self, name: str = "tern") -> uuid.UUID:
        with self.database.work() as session:
            return store.create(session, {**document(name), "notes": uuid.uuid4().hex}, "Ada", "Read from a file").row.id

    def edit(self, path: str, value: Any) -> None:
        with self.database.work() as session:
            row = store.get(session, self.build)
            store.edit(session, self.build, row.head, [put(path, value)], "Ada")

    def asked(self, method: str = "get", subject: str = "cycle") -> dict[str, Any]:
        answer = getattr(self.client, method)(f"/api/builds/{self.build}/asked/{subject}", json={} if method == "post" else None)
        return {"status": answer.status_code, **answer.get_json()}

    def works(self, long: dict[str, Long]) -> None:
        """The worker does all that waits, then ends."""
        with mock.patch.dict("uphill_spark.jobs.working.LONG", long):
            app = worker(self.database)

            async def once() -> None:
                async with app.open_async():
                    await app.run_worker_async(queues=["asked"], wait=False, delete_jobs="always", install_signal_handlers=False)

            # in a thread of its own: this one may have a browser's loop running in it
            done = threading.Thread(target=lambda: asyncio.run(once()))
            done.start()
            done.join()

    def waiting(self) -> int:
        with self.database.work() as session:
            return int(session.execute(text("SELECT count(*) FROM queue.procrastinate_jobs")).scalar_one())

    def by_rules(self, word: str) -> None:
        rules = mock.patch("uphill_spark.web.asked.rules", lambda: word)
        rules.start()
        self.addCleanup(rules.stop)

    def test_what_many_ask_is_worked_once_and_answered_at_once_after(self) -> None:
        self.by_rules("many")
        self.assertEqual([self.asked()["state"] for _ in range(4)], ["running"] * 4)
        self.assertEqual(self.waiting(), 1)
        self.works(quick())
        self.assertEqual(self.waiting(), 0)
        self.assertEqual(self.asked()["state"], "ready")

    def test_what_it_does_not_rest_on_leaves_it_what_it_rests_on_does_not(self) -> None:
        self.by_rules("rests")
        self.asked()
        self.works(quick())
        self.edit("/notes", "Another note.")
        self.assertEqual(self.asked()["state"], "ready")
        self.edit("/engine/compression_ratio", "8.1")
        self.assertEqual(self.asked()["state"], "running")

    def test_another_build_with_the_same_engine_has_the_same_answer(self) -> None:
        self.by_rules("other")
        self.asked()
        self.works(quick())
        self.build = self.new_build()
        self.assertEqual(self.asked()["state"], "ready")
        self.assertEqual(self.waiting(), 0)

    def test_other_rules_have_another_answer(self) -> None:
        self.by_rules("old")
        self.asked()
        self.works(quick())
        self.by_rules("new")
        self.assertEqual(self.asked()["state"], "running")

    def test_given_up_it_stays_so_until_it_is_asked_for_again(self) -> None:
        self.by_rules("given up")
        self.asked()
        self.assertEqual(self.asked("delete")["state"], "cancelled")
        self.works(quick())
        self.assertEqual(self.asked()["state"], "cancelled")
        self.assertEqual(self.asked("post")["state"], "running")
        self.works(quick())
        self.assertEqual(self.asked()["state"], "ready")
        self.assertEqual(self.asked("delete")["state"], "ready", "what is there is not given up")

    def test_given_up_in_the_midst_it_ends_at_its_next_word(self) -> None:
        self.by_rules("midst")
        self.asked()
        words: list[float] = []

        def work(trial: Any, told: Any) -> Guesses:
            for k in range(5):
                words.append(k / 5)
                if k == 2:
                    self.asked("delete")
                told(k / 5)
            raise AssertionError("went on to its end")

        with mock.patch("uphill_spark.jobs.working.TELLS", 0.0):
            self.works({"cycle": Long(LONG["cycle"].rests_on, work)})
        self.assertEqual(words, [0.0, 0.2, 0.4])
        self.assertEqual(self.asked()["state"], "cancelled")

    def test_how_far_it_is_is_told(self) -> None:
        self.by_rules("far")
        self.assertIsNone(self.asked()["progress"])
        seen: list[float | None] = []

        def work(trial: Any, told: Any) -> Guesses:
            told(0.25)
            seen.append(self.asked()["progress"])
            raise NoEngine("A rod of 20 mm.")

        with mock.patch("uphill_spark.jobs.working.TELLS", 0.0):
            self.works({"cycle": Long(LONG["cycle"].rests_on, work)})
        self.assertEqual(seen, [0.25])

    def test_a_failure_says_why_and_what_nobody_meant_says_so_without_a_traceback(self) -> None:
        for word, error, why in (
            ("no engine", NoEngine("A rod of 20 mm."), "A rod of 20 mm."),
            ("broken", ZeroDivisionError("x"), "Something went wrong"),
        ):
            self.by_rules(word)
            self.asked()
            if word == "broken":
                with self.assertLogs("uphill_spark", "ERROR"):
                    self.works(quick(fails=error))
            else:
                self.works(quick(fails=error))
            found = self.asked()
            self.assertEqual((found["status"], found["state"]), (200, "failed"))
            self.assertIn(why, found["why"])

    def test_what_has_killed_its_worker_three_times_is_left_alone(self) -> None:
        self.by_rules("kills")
        self.asked()
        with self.database.work() as session:
            key = session.scalars(select(AnswerRow.key).order_by(AnswerRow.asked.desc())).first()
        assert key is not None
        work_on(self.database, key, "cycle", self.build, 1, TRIES)
        found = self.asked()
        self.assertEqual(found["state"], "failed")
        self.assertIn("three times", found["why"])

    def test_work_that_the_store_was_away_from_is_begun_again(self) -> None:
        self.by_rules("away")
        self.asked()
        begun: list[int] = []

        def work(trial: Any, told: Any) -> Guesses:
            begun.append(1)
            if len(begun) == 1:
                raise store.StoreDown("away")
            return Guesses(guesses=[])

        with mock.patch("uphill_spark.jobs.worker.AGAIN", 0):
            self.works({"cycle": Long(LONG["cycle"].rests_on, work)})
        self.assertEqual((len(begun), self.asked()["state"]), (2, "ready"))

    def test_work_that_the_store_is_always_away_from_is_said_to_have_failed(self) -> None:
        self.by_rules("always away")
        self.asked()
        with mock.patch("uphill_spark.jobs.worker.AGAIN", 0):
            self.works(quick(fails=store.StoreDown("away")))
        found = self.asked()
        self.assertEqual(found["state"], "failed")
        self.assertIn("three times", found["why"])

    def test_what_a_dead_worker_left_is_taken_up_though_it_was_asked_for_once_more(self) -> None:
        """The one that was asked for meanwhile waits behind the dead one's, under the same lock: neither may wait for ever."""
        for twice in (False, True):
            with self.subTest(twice=twice):
                self.by_rules(f"left {twice}")
                self.asked()
                with self.database.work() as session:
                    session.execute(text("SET LOCAL search_path TO queue"))
                    session.execute(text("UPDATE procrastinate_jobs SET status = 'doing'"))
                if twice:
                    self.asked()
                self.assertEqual(self.waiting(), 2 if twice else 1)
                self.works(quick())
                self.assertEqual(self.waiting(), 2 if twice else 1, "while the dead one has it, nobody begins it")

                async def look() -> None:
                    app = worker(self.database)
                    async with app.open_async():
                        await take_up_again(app)

                done = threading.Thread(target=lambda look=look: asyncio.run(look()))
                done.start()
                done.join()
                self.works(quick())
                self.assertEqual((self.asked()["state"], self.waiting()), ("ready", 0))

    def test_a_build_that_is_gone_leaves_nobody_waiting(self) -> None:
        self.by_rules("gone")
        self.asked()
        with mock.patch("uphill_spark.jobs.working.store.revision", side_effect=store.NotFound("There is no revision 1.")):
            self.works(quick())
        self.assertEqual(self.asked()["state"], "cancelled")

    def test_what_is_worked_out_at_once_has_nothing_to_give_up(self) -> None:
        for method in ("delete", "post"):
            self.assertEqual(self.asked(method, "turns")["status"], 404)

    def test_old_answers_make_room(self) -> None:
        self.by_rules("room")
        with mock.patch("uphill_spark.store.answers.KEPT_MOST", 3), self.database.work() as session:
            for k in range(6):
                answers.ask(session, f"room {k}", "cycle")
            session.flush()
            self.assertIsNotNone(answers.answer_row(session, "room 5"))
            self.assertLessEqual(session.scalar(select(func.count()).select_from(AnswerRow)), 4)

    def test_an_engine_that_is_none_is_told_in_words(self) -> None:
        with mock.patch("uphill_spark.core.stages.tune.worked.measures", side_effect=NoEngine("A connecting rod of 30 mm.")):
            found = self.asked()
        self.assertEqual((found["status"], found["state"]), (200, "failed"))
        self.assertIn("30 mm", found["why"])


class KilledWorker(DatabaseCase):
    def begun(self) -> subprocess.Popen[bytes]:
        return subprocess.Popen(
            [sys.executable, "-m", "uphill_spark.jobs"], env={**os.environ, "UPHILL_SPARK_DATABASE": self.url}, cwd=ROOT
        )

    def test_what_it_was_at_is_taken_up_by_the_next(self) -> None:
        app = create_app(self.url)
        self.addCleanup(app.extensions["database"].close)
        self.addCleanup(app.extensions["queue"].close)
        client = app.test_client()
        told = document("tern")
        told["engine"] |= {"exhaust_valve": "35 mm", "tract": "340 mm", "exhaust": "tubular"}  # nothing to guess: one run
        with self.database.work() as session:
            build = store.create(session, told, "Ada", "Read from a file").row.id

        def until(*states: str) -> dict[str, Any]:
            ends = time.monotonic() + 400  # twenty seconds of work on a machine that may be ten times busier
            while time.monotonic() < ends:
                found: dict[str, Any] = client.get(f"/api/builds/{build}/asked/cycle").get_json()
                if found["state"] in states and (found["state"] != "running" or found["progress"]):
                    return found
            raise TimeoutError(f"never {states}")

        first = self.begun()
        until("running")
        first.kill()
        first.wait()
        second = self.begun()
        self.addCleanup(second.wait)
        self.addCleanup(second.kill)
        found = until("ready", "failed")
        self.assertEqual(found["state"], "ready", found["why"])
        self.assertGreater(found["answer"]["power_w"], 50e3)


if __name__ == "__main__":
    unittest.main()
