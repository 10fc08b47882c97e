"""What happens around the requests: first loading, remembered plans, the page's files."""

import json
import pathlib
import tempfile
import unittest
import uuid

from tests.builds import document
from tests.database import DatabaseCase
from uphill_spark import store
from uphill_spark.store.tables import RevisionRow
from uphill_spark.web import create_app
from uphill_spark.web.plans import _KEPT, Plans, joined
from uphill_spark.web.serve import prepare


class FirstLoading(DatabaseCase):
    def names(self) -> list[str | None]:
        with self.database.work() as session:
            return [h.row.demo for h in store.listing(session)]

    def test_demo_cars_are_put_into_a_garage_that_was_never_used_and_never_again(self) -> None:
        prepare(self.url)
        self.assertEqual(self.names(), ["tern", "hollin", "brindle"])
        prepare(self.url)
        self.assertEqual(len(self.names()), 3)
        with self.database.work() as session:
            for head in store.listing(session):
                store.put_away(session, head.row.id)
        prepare(self.url)
        self.assertEqual(self.names(), [])


class Remembered(unittest.TestCase):
    def revision(self, number: int = 1) -> RevisionRow:
        return RevisionRow(build_id=uuid.UUID(int=1), number=number, document=document())

    def test_a_revision_is_worked_out_once(self) -> None:
        plans = Plans()
        self.assertIs(plans.of(self.revision()), plans.of(self.revision()))
        self.assertIsNot(plans.of(self.revision(1)), plans.of(self.revision(2)))

    def test_only_the_last_ones_are_kept(self) -> None:
        plans = Plans()
        first = plans.of(self.revision(1))
        for n in range(2, _KEPT + 2):
            plans.of(self.revision(n))
        self.assertEqual(len(plans._plans), _KEPT)
        self.assertIsNot(plans.of(self.revision(1)), first)

    def test_an_answer_joined_from_parts_is_json(self) -> None:
        plan = Plans().of(self.revision())
        found = json.loads(joined(name='a "quoted" name', plan=plan, number=None))
        self.assertEqual((found["name"], found["plan"]["name"], found["number"]), ('a "quoted" name', "Marlow Tern 2600 estate", None))


class Page(DatabaseCase):
    def setUp(self) -> None:
        made = tempfile.TemporaryDirectory()
        self.addCleanup(made.cleanup)
        place = pathlib.Path(made.name)
        (place / "assets").mkdir()
        (place / "index.html").write_text("<!doctype html>the page")
        (place / "assets" / "x-1.js").write_text("1")
        (place.parent / "outside.txt").write_text("secret")
        self.addCleanup((place.parent / "outside.txt").unlink)
        app = create_app(self.url, place)
        self.addCleanup(app.extensions["database"].close)
        self.client = app.test_client()

    def test_every_address_of_the_page_is_the_page(self) -> None:
        for path in ("/", "/new", "/b/anything/fuel"):
            answer = self.client.get(path)
            self.assertEqual((answer.status_code, answer.text), (200, "<!doctype html>the page"))
            self.assertEqual(answer.headers["Cache-Control"], "no-cache")
            answer.close()

    def test_assets_are_kept_by_the_browser_and_missing_ones_are_missing(self) -> None:
        answer = self.client.get("/assets/x-1.js")
        self.assertIn("immutable", answer.headers["Cache-Control"])
        answer.close()
        self.assertEqual(self.client.get("/assets/x-2.js").status_code, 404)
        self.assertEqual(self.client.get("/api/nothing").get_json()["code"], "not_found")

    def test_nothing_outside_the_page_is_served(self) -> None:
        for path in ("/../outside.txt", "/%2e%2e/outside.txt", "/assets/../../outside.txt"):
            answer = self.client.get(path)
            self.assertNotIn("secret", answer.text)
            answer.close()


if __name__ == "__main__":
    unittest.main()
