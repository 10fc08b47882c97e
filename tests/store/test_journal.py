"""The journal: every change a revision, undo and redo, stale changes, changes sent twice, several people at once."""

import json
import threading
import unittest
import uuid

from sqlalchemy import text

from tests.builds import document
from tests.database import DatabaseCase, Switch, elsewhere
from uphill_spark import store
from uphill_spark.core.errors import BuildError, PatchError
from uphill_spark.store.tables import Base


def power(kw: int) -> list[dict[str, object]]:
    return [{"op": "replace", "path": "/engine/power", "value": f"{kw} kW"}]


class Journal(DatabaseCase):
    def setUp(self) -> None:
        with self.database.work() as session:
            self.id = store.create(session, document(), "Ada", "Read from a file").row.id

    def edit(self, base: int, patch: object, **more: str) -> store.Change:
        with self.database.work() as session:
            return store.edit(session, self.id, base, patch, "Ada", **more)

    def step(self, kind: str, base: int) -> store.Change:
        with self.database.work() as session:
            return (store.undo if kind == "undo" else store.redo)(session, self.id, base, "Ada")

    def now(self) -> tuple[int, str]:
        with self.database.work() as session:
            head = store.head(session, self.id)
            return head.row.head, head.revision.document["engine"]["power"]

    def test_a_document_is_kept_to_the_letter(self) -> None:
        with self.database.work() as session:
            kept = store.head(session, self.id).revision.document
        self.assertEqual(json.dumps(kept), json.dumps(document()))

    def test_each_change_is_a_revision_with_who_when_what_and_why(self) -> None:
        change = self.edit(1, power(125), reason="bigger cam")
        self.assertEqual((change.before.number, change.after.number), (1, 2))
        with self.database.work() as session:
            lines = store.revisions(session, self.id)
        self.assertEqual(
            [(r.number, r.kind, r.summary, r.reason) for r in lines],
            [(2, "edit", "Power target 118 kW → 125 kW", "bigger cam"), (1, "start", "Read from a file", "")],
        )
        self.assertTrue(all(r.written.tzinfo for r in lines))

    def test_the_journal_is_read_in_pages(self) -> None:
        for n in range(1, 6):
            self.edit(n, power(120 + n))
        with self.database.work() as session:
            self.assertEqual([r.number for r in store.revisions(session, self.id, limit=2)], [6, 5])
            self.assertEqual([r.number for r in store.revisions(session, self.id, below=5, limit=2)], [4, 3])

    def test_undo_and_redo_are_new_revisions_and_walk_the_whole_way(self) -> None:
        self.edit(1, power(125))
        self.edit(2, power(130))
        self.step("undo", 3)
        self.assertEqual(self.now(), (4, "125 kW"))
        self.step("undo", 4)
        self.assertEqual(self.now(), (5, "118 kW"))
        with self.assertRaises(store.NothingToDo):
            self.step("undo", 5)
        self.step("redo", 5)
        self.step("redo", 6)
        self.assertEqual(self.now(), (7, "130 kW"))
        with self.assertRaises(store.NothingToDo):
            self.step("redo", 7)
        self.step("undo", 7)
        self.assertEqual(self.now(), (8, "125 kW"))
        self.edit(8, power(140))
        with self.assertRaises(store.NothingToDo):
            self.step("redo", 9)
        with self.database.work() as session:
            self.assertEqual(
                [store.revision(session, self.id, n).document["engine"]["power"] for n in range(1, 10)],
                ["118 kW", "125 kW", "130 kW", "125 kW", "118 kW", "125 kW", "130 kW", "125 kW", "140 kW"],
            )

    def test_a_stale_change_is_refused_with_what_came_between(self) -> None:
        self.edit(1, power(125))
        self.edit(2, power(130))
        with self.assertRaises(store.Stale) as caught:
            self.edit(1, power(99))
        self.assertEqual(caught.exception.head, 3)
        self.assertEqual([(c.number, c.patch[0]["value"]) for c in caught.exception.between], [(2, "125 kW"), (3, "130 kW")])
        self.assertEqual(self.now(), (3, "130 kW"))

    def test_a_change_sent_twice_counts_once(self) -> None:
        first = self.edit(1, power(125), edit_id="11111111-aaaa")
        again = self.edit(1, power(125), edit_id="11111111-aaaa")
        self.assertEqual((first.after.number, again.after.number, again.head), (2, 2, 2))
        self.assertEqual(self.now()[0], 2)

    def test_a_refused_change_stores_nothing(self) -> None:
        for patch, kind in ((power(-5), BuildError), ([{"op": "remove", "path": "/nothing"}], PatchError)):
            with self.assertRaises(kind):
                self.edit(1, patch)
        self.assertEqual(self.now(), (1, "118 kW"))

    def test_ten_people_at_once_lose_nothing(self) -> None:
        self.edit(1, power(119))
        taken: list[int] = []
        lock = threading.Lock()

        def person(k: int) -> None:
            base = 2
            while True:
                try:
                    change = self.edit(
                        base, [{"op": "add", "path": f"/wiring/nodes/extra_{k}", "value": {"name": f"place {k}", "x": 1, "y": 0}}]
                    )
                except store.Stale as stale:
                    base = stale.head
                else:
                    with lock:
                        taken.append(change.after.number)
                    return

        people = [threading.Thread(target=person, args=(k,)) for k in range(10)]
        for p in people:
            p.start()
        for p in people:
            p.join(30)
        self.assertEqual(sorted(taken), list(range(3, 13)))
        with self.database.work() as session:
            self.assertLessEqual({f"extra_{k}" for k in range(10)}, set(store.head(session, self.id).revision.document["wiring"]["nodes"]))

    def test_what_is_not_there(self) -> None:
        with self.database.work() as session:
            for ask in (
                lambda: store.head(session, uuid.uuid4()),
                lambda: store.revision(session, self.id, 99),
                lambda: store.revision(session, self.id, 2**40),
            ):
                with self.assertRaises(store.NotFound):
                    ask()

    def test_put_away_is_gone_from_the_garage_and_kept_in_the_journal(self) -> None:
        with self.database.work() as session:
            store.put_away(session, self.id)
        with self.database.work() as session:
            self.assertNotIn(self.id, [e.row.id for e in store.entries(session)[0]])
            self.assertEqual(store.revision(session, self.id, 1).number, 1)
            self.assertTrue(store.ever_used(session))
            with self.assertRaises(store.NotFound):
                store.head(session, self.id)


class Tables(DatabaseCase):
    def test_migrations_make_the_tables_that_the_code_has(self) -> None:
        self.database.migrate()  # a second time changes nothing
        from alembic.autogenerate import compare_metadata
        from alembic.migration import MigrationContext

        with self.database.engine.connect() as connection:
            self.assertEqual(compare_metadata(MigrationContext.configure(connection), Base.metadata), [])

    def test_a_failed_piece_of_work_leaves_nothing(self) -> None:
        with self.assertRaises(ZeroDivisionError), self.database.work() as session:
            store.create(session, document(), "Ada", "x")
            raise ZeroDivisionError
        with self.database.work() as session:
            self.assertEqual(session.execute(text("SELECT count(*) FROM build")).scalar(), 0)

    def test_a_store_that_is_down_says_so_and_comes_back(self) -> None:
        switch = Switch(self.url)
        self.addCleanup(switch.close)
        database = store.Database(elsewhere(self.url, switch.port))
        self.addCleanup(database.close)
        with database.work() as session:
            store.entries(session)
        switch.cut()
        with self.assertRaises(store.StoreDown), database.work() as session:
            store.entries(session)
        switch.join()
        with database.work() as session:
            self.assertEqual(store.entries(session), ([], 0))


if __name__ == "__main__":
    unittest.main()
