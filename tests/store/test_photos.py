"""Photographs in the store: kept once, also when many bring the same one at once; older stores come along."""

import datetime as dt
import json
import threading
import unittest
import uuid
from unittest import mock

from alembic import command
from alembic.config import Config
from sqlalchemy import func, inspect, select, text

from tests.builds import document
from tests.database import DatabaseCase
from tests.formats.test_photo import picture
from uphill_spark import store
from uphill_spark.formats import photo
from uphill_spark.store import database as store_database
from uphill_spark.store.photos import UNSHOWN
from uphill_spark.store.tables import BuildRow, PhotoRow


class Kept(DatabaseCase):
    def count(self) -> int:
        with self.database.work() as session:
            return session.scalar(select(func.count()).select_from(PhotoRow)) or 0

    def test_many_at_once_bring_the_same_and_it_is_there_once(self) -> None:
        before = self.count()
        shot = photo.read(picture(320, 200))
        failures: list[Exception] = []

        def bring() -> None:
            try:
                with self.database.work() as session:
                    store.keep_photo(session, shot)
            except Exception as error:
                failures.append(error)

        threads = [threading.Thread(target=bring) for _ in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual((failures, self.count()), ([], before + 1))

    def test_it_comes_back_to_the_letter_and_the_small_one_apart(self) -> None:
        shot = photo.read(picture(800, 600))
        with self.database.work() as session:
            store.keep_photo(session, shot)
        with self.database.work() as session:
            whole = store.photo(session, shot.key)
            self.assertEqual((bytes(whole.data), whole.media_type, whole.width, whole.height), (shot.data, "image/jpeg", 800, 600))
        with self.database.work() as session:
            self.assertEqual(bytes(store.photo(session, shot.key, small=True).small), shot.small)
            self.assertEqual(store.small_photos(session, [shot.key, "0" * 64]), {shot.key: shot.small})

    def test_one_that_is_not_there(self) -> None:
        with self.database.work() as session, self.assertRaises(store.NotFound):
            store.photo(session, "f" * 64)

    def test_an_undo_brings_a_photograph_back(self) -> None:
        shot = photo.read(picture(300, 200))
        with self.database.work() as session:
            store.keep_photo(session, shot)
            build = store.create(session, document(), "Ada", "Read from a file").row.id
        at = "/air/consumers/0/photos"
        with self.database.work() as session:
            store.edit(session, build, 1, [{"op": "add", "path": at, "value": [shot.key]}], "Ada")
        with self.database.work() as session:
            store.edit(session, build, 2, [{"op": "replace", "path": at, "value": []}], "Ada")
        with self.database.work() as session:
            store.undo(session, build, 3, "Ada")
        with self.database.work() as session:
            keys = store.head(session, build).revision.document["air"]["consumers"][0]["photos"]
            self.assertEqual(bytes(store.photo(session, keys[0]).data), shot.data)


class Cleared(DatabaseCase):
    def test_what_no_revision_shows_goes_after_a_time_and_what_an_undo_can_reach_stays(self) -> None:
        kept, shown, undone = (photo.read(picture(40 + k, 30)) for k in range(3))
        with self.database.work() as session:
            for one in (kept, shown, undone):
                store.keep_photo(session, one)
            doc = document()
            doc["air"]["consumers"][0]["photos"] = [shown.key, undone.key]
            build = store.create(session, doc, "Ada", "Read from a file").row.id
            store.edit(session, build, 1, [{"op": "replace", "path": "/air/consumers/0/photos", "value": [shown.key]}], "Ada")
        now = dt.datetime.now(dt.UTC)
        with self.database.work() as session:
            self.assertEqual(store.clear_unshown(session, now + UNSHOWN - dt.timedelta(minutes=1)), 0)
            self.assertGreaterEqual(store.clear_unshown(session, now + UNSHOWN + dt.timedelta(minutes=1)), 1)
        with self.database.work() as session:
            for one in (shown, undone):
                self.assertEqual(bytes(store.photo(session, one.key).data), one.data)
            with self.assertRaises(store.NotFound):
                store.photo(session, kept.key)

    def test_there_is_an_end_to_what_a_store_takes(self) -> None:
        with self.database.work() as session:
            store.keep_photo(session, photo.read(picture(60, 60)))
            held = session.scalar(select(func.sum(func.octet_length(PhotoRow.data))))
            with mock.patch("uphill_spark.store.photos.PHOTOS_MOST", held + 10):
                store.room_for_photo(session, 10)
                with self.assertRaises(store.Full):
                    store.room_for_photo(session, 11)
            builds = session.scalar(select(func.count()).select_from(BuildRow))
            with mock.patch("uphill_spark.store.photos.BUILDS_MOST", builds + 1):
                store.room_for_build(session)
            with mock.patch("uphill_spark.store.photos.BUILDS_MOST", builds), self.assertRaises(store.Full):
                store.room_for_build(session)


class OlderStore(DatabaseCase):
    def test_a_store_from_before_photographs_comes_along_with_its_builds(self) -> None:
        config = Config()
        config.set_main_option("script_location", str(store_database.Path(store_database.__file__).parent / "migrations"))
        with self.database.engine.begin() as connection:
            config.attributes["connection"] = connection
            command.downgrade(config, "0001")
        self.assertNotIn("photo", inspect(self.database.engine).get_table_names())
        build = uuid.uuid4()
        with self.database.work() as session:
            session.execute(text("INSERT INTO build (id, name, head) VALUES (:id, :name, 1)"), {"id": build, "name": document()["name"]})
            session.execute(
                text(
                    "INSERT INTO revision (build_id, number, kind, document, patch, summary, who) VALUES (:id, 1, 'start', :document, '[]', 'Read from a file', 'Ada')"
                ),
                {"id": build, "document": json.dumps(document())},
            )
        self.database.migrate()
        self.assertIn("photo", inspect(self.database.engine).get_table_names())
        with self.database.work() as session:
            self.assertEqual(store.head(session, build).row.name, document()["name"])
            self.assertEqual(store.entries(session)[0][0].rules, None)  # nothing is told of it yet
            self.assertEqual(session.scalar(text("SELECT version_num FROM alembic_version")), "0008")


if __name__ == "__main__":
    unittest.main()
