"""The garage in the store: pages, words, what is told by which rules, what was put away; ids that count once; waits that end."""

import datetime as dt
import os
import signal
import threading
import time
import unittest
import uuid

import psycopg
from sqlalchemy import text, update

from tests.builds import document
from tests.database import DatabaseCase, Switch, elsewhere
from uphill_spark import store
from uphill_spark.store.garage import KEPT
from uphill_spark.store.tables import RevisionRow

#: s, of what takes 5 on a quiet machine and for ever where nobody watches the time.
SECONDS = 20.0


class GarageCase(DatabaseCase):
    def setUp(self) -> None:
        with self.database.work() as session:
            session.execute(text("DELETE FROM revision; DELETE FROM build"))

    def car(self, name: str, **more: str) -> uuid.UUID:
        with self.database.work() as session:
            return store.create(session, {**document(), "name": name}, "Ada", "Read from a file", **more).row.id

    def shown(self, **asked: object) -> tuple[list[str], int]:
        with self.database.work() as session:
            found, many = store.entries(session, **asked)  # type: ignore[arg-type]
            return [e.row.name for e in found], many


class Pages(GarageCase):
    def test_a_page_at_a_time_in_the_order_they_came(self) -> None:
        for k in range(5):
            self.car(f"Car {k}")
        self.assertEqual(self.shown(limit=2), (["Car 0", "Car 1"], 5))
        with self.database.work() as session:
            place = store.entries(session, limit=2)[0][-1].row.place
        self.assertEqual(self.shown(limit=2, after=place), (["Car 2", "Car 3"], 5))
        self.assertEqual(self.shown(after=2**62), ([], 5))

    def test_words_are_looked_for_in_name_and_notes_as_they_are_written(self) -> None:
        for name in ("Red 100%", "Blue_car", "Back\\slash", "Plain"):
            self.car(name)
        with self.database.work() as session:
            plain = store.entries(session)[0][-1]
            store.tell(session, plain.row.id, 1, {"notes": "A red gearbox"}, "r1")
        for words, found in (
            ("red", ["Red 100%", "Plain"]),
            ("%", ["Red 100%"]),
            ("_", ["Blue_car"]),
            ("\\", ["Back\\slash"]),
            ("green", []),
            ("'; DROP TABLE build; --", []),
        ):
            self.assertEqual(self.shown(search=words), (found, len(found)), words)

    def test_what_other_rules_told_is_found_and_told_afresh(self) -> None:
        one, two = self.car("One"), self.car("Two")
        with self.database.work() as session:
            store.tell(session, one, 1, {"verdict": "old"}, "old")
            self.assertEqual(store.count_unworked(session, "new"), 2)
            self.assertEqual([x[0] for x in store.unworked(session, "new", 10)], [one, two])
            self.assertEqual(len(store.unworked(session, "new", 1)), 1)
            for build in (one, two):
                store.tell(session, build, 1, {"verdict": "new"}, "new")
            self.assertEqual(store.count_unworked(session, "new"), 0)
            self.assertEqual([e.told for e in store.entries(session)[0]], [{"verdict": "new"}] * 2)


class PutAway(GarageCase):
    def test_it_comes_back_as_it_was_and_goes_for_good_only_after_a_time(self) -> None:
        build = self.car("One")
        with self.database.work() as session:
            store.put_away(session, build)
        self.assertEqual((self.shown(), self.shown(away=True)), (([], 0), (["One"], 1)))
        with self.database.work() as session:
            for ask in (lambda: store.get(session, build), lambda: store.revisions(session, build), lambda: store.edit(session, build, 1, [], "Ada"), lambda: store.put_away(session, build)):  # fmt: skip
                with self.assertRaises(store.NotFound):
                    ask()
        now = dt.datetime.now(dt.UTC)
        with self.assertRaises(store.TooEarly), self.database.work() as session:
            store.remove(session, build, now + KEPT - dt.timedelta(minutes=1))
        with self.database.work() as session:
            store.bring_back(session, build)
        self.assertEqual(self.shown(), (["One"], 1))
        with self.assertRaises(store.NotFound), self.database.work() as session:
            store.remove(session, build, now + 2 * KEPT)  # it is in the garage
        with self.database.work() as session:
            store.put_away(session, build)
        with self.database.work() as session:
            store.remove(session, build, now + KEPT + dt.timedelta(minutes=1))
        self.assertEqual((self.shown(), self.shown(away=True)), (([], 0), ([], 0)))
        with self.assertRaises(store.NotFound), self.database.work() as session:
            store.bring_back(session, build)


class Ids(GarageCase):
    def power(self, kw: int) -> list[dict[str, object]]:
        return [{"op": "replace", "path": "/engine/power", "value": f"{kw} kW"}]

    def test_an_id_with_another_patch_is_refused_and_stores_nothing(self) -> None:
        build = self.car("One")
        with self.database.work() as session:
            store.edit(session, build, 1, self.power(120), "Ada", edit_id="12345678")
        with self.assertRaises(store.IdTaken), self.database.work() as session:
            store.edit(session, build, 2, self.power(130), "Ada", edit_id="12345678")
        with self.database.work() as session:
            store.edit(session, build, 2, self.power(140), "Ada")
        with self.database.work() as session:
            again = store.edit(session, build, 1, self.power(120), "Ada", edit_id="12345678")
            self.assertEqual((again.after.number, again.head), (2, 3))  # where the build stands now

    def test_a_new_build_sent_twice_is_one(self) -> None:
        first = self.car("One", edit_id="abcdefgh")
        with self.database.work() as session:
            store.edit(session, first, 1, self.power(120), "Ada")
        self.assertEqual(self.car("One", edit_id="abcdefgh"), first)
        self.assertEqual(self.shown(), (["One"], 1))
        with self.assertRaises(store.IdTaken):
            self.car("Another", edit_id="abcdefgh")

    def test_a_new_build_sent_twice_at_once_is_one(self) -> None:
        found: list[object] = []

        def send() -> None:
            for _ in range(5):
                try:
                    found.append(self.car("One", edit_id="at-the-same-time"))
                    return
                except Exception as error:  # one of them may come a moment too early
                    failed = error
            found.append(failed)

        threads = [threading.Thread(target=send) for _ in range(4)]
        for t in threads:
            t.start()
        for t in threads:
            t.join(30)
        self.assertEqual(len(set(found)), 1, found)
        self.assertEqual(self.shown()[1], 1)

    def test_what_came_between_is_bounded(self) -> None:
        build = self.car("One")
        with self.database.work() as session:
            row = store.revision(session, build, 1)
            for n in range(2, 400):
                session.add(
                    RevisionRow(
                        build_id=build,
                        number=n,
                        kind="edit",
                        document=row.document,
                        patch=[{"op": "add", "path": "/notes", "value": "x" * 3000}],
                        summary="s",
                        who="Bo",
                    )
                )
            store.get(session, build).head = 399
        with self.assertRaises(store.Stale) as caught, self.database.work() as session:
            store.edit(session, build, 1, self.power(1), "Ada")
        self.assertFalse(caught.exception.whole)
        self.assertEqual(caught.exception.between[-1].number, 399)
        self.assertLessEqual(sum(len(str(c.patch)) for c in caught.exception.between), 110_000)
        with self.assertRaises(store.Stale) as caught, self.database.work() as session:
            store.edit(session, build, 397, self.power(1), "Ada")
        self.assertEqual(([c.number for c in caught.exception.between], caught.exception.whole), ([398, 399], True))


class Waits(GarageCase):
    patient = False

    def test_somebody_who_is_saving_is_told_apart_from_a_store_that_is_away(self) -> None:
        build = self.car("One")
        with psycopg.connect(self.url.replace("+psycopg", "")) as other:
            other.execute("SELECT * FROM build WHERE id = %s FOR UPDATE", (build,))
            started = time.monotonic()
            with self.assertRaises(store.Busy), self.database.work() as session:
                store.edit(session, build, 1, [], "Ada")
            self.assertLess(time.monotonic() - started, SECONDS)
        with self.database.work() as session:
            self.assertEqual(store.head(session, build).row.head, 1)

    def test_a_server_that_has_frozen_is_away_within_seconds_and_comes_back(self) -> None:
        switch = Switch(self.url)
        self.addCleanup(switch.close)
        database = store.Database(elsewhere(self.url, switch.port))
        self.addCleanup(database.close)
        with database.work() as session:
            session.execute(text("SELECT 1"))
        switch.frozen = True
        for _ in range(2):  # the first finds that its connection is dead, and tries another
            started = time.monotonic()
            with self.assertRaises(store.StoreDown), database.work() as session:
                session.execute(text("SELECT 1"))
            self.assertLess(time.monotonic() - started, SECONDS)
        switch.frozen = False
        with database.work() as session:
            self.assertEqual(session.execute(text("SELECT 1")).scalar_one(), 1)

    def test_one_session_that_has_frozen_is_left_for_another(self) -> None:
        database = store.Database(self.url)
        self.addCleanup(database.close)
        with database.work() as session:
            server = session.execute(text("SELECT pg_backend_pid()")).scalar_one()
        os.kill(server, signal.SIGSTOP)
        try:
            with database.work() as session:
                self.assertNotEqual(session.execute(text("SELECT pg_backend_pid()")).scalar_one(), server)
        finally:
            os.kill(server, signal.SIGCONT)


class Rules(GarageCase):
    def test_what_is_told_is_the_one_thing_that_is_written_again(self) -> None:
        build = self.car("One")
        with self.database.work() as session:
            session.execute(update(RevisionRow).values(rules="x"))
            before = store.revision(session, build, 1)
            kept = (before.document, before.patch, before.who, before.written)
        with self.database.work() as session:
            store.tell(session, build, 1, {"verdict": "v"}, "y")
        with self.database.work() as session:
            after = store.revision(session, build, 1)
            self.assertEqual((after.document, after.patch, after.who, after.written), kept)
            self.assertEqual((after.told, after.rules), ({"verdict": "v"}, "y"))


if __name__ == "__main__":
    unittest.main()
