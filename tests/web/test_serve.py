"""What happens around the requests: first loading, remembered plans, the page's files."""

import json
import os
import pathlib
import signal
import tempfile
import threading
import unittest
from unittest import mock

from tests.builds import document
from tests.database import DatabaseCase
from uphill_spark import store
from uphill_spark.core.given import parse
from uphill_spark.core.plan import evaluate, evaluated
from uphill_spark.formats.printing import to_pdf
from uphill_spark.web import create_app, gate
from uphill_spark.web.moved import joined
from uphill_spark.web.printing import Press, TooLong
from uphill_spark.web.serve import prepare
from uphill_spark.web.standing import Remembered


class FirstLoading(DatabaseCase):
    def names(self) -> list[str | None]:
        with self.database.work() as session:
            return [e.row.demo for e in store.entries(session)[0]]

    def test_demo_cars_are_put_into_a_garage_that_was_never_used_and_never_again(self) -> None:
        prepare(self.url)
        self.assertEqual(self.names(), ["tern", "hollin", "brindle"])
        prepare(self.url)
        self.assertEqual(len(self.names()), 3)
        with self.database.work() as session:
            for head in store.entries(session)[0]:
                store.put_away(session, head.row.id)
        prepare(self.url)
        self.assertEqual(self.names(), [])


class RememberedBuilds(unittest.TestCase):
    def test_a_document_is_worked_out_once_whatever_the_order_of_its_keys(self) -> None:
        remembered = Remembered()
        first = remembered.of(document())
        turned = dict(reversed(list(document().items())))
        self.assertIs(remembered.of(turned), first)
        self.assertIsNot(remembered.of({**document(), "name": "another"}), first)

    def test_many_who_ask_at_once_wait_for_one(self) -> None:
        remembered, found = Remembered(), []
        with mock.patch("uphill_spark.web.standing.evaluated", wraps=evaluated) as worked_out:
            people = [threading.Thread(target=lambda: found.append(remembered.of(document("hollin")))) for _ in range(6)]
            for person in people:
                person.start()
            for person in people:
                person.join()
        self.assertEqual((worked_out.call_count, len({id(s) for s in found})), (1, 1))

    def test_no_more_is_kept_than_there_is_room_for(self) -> None:
        with mock.patch("uphill_spark.web.standing.BUILDS_MOST", 3_000_000):
            remembered = Remembered()
        first = remembered.of(document())
        for n in range(4):
            remembered.of({**document(), "name": f"car {n}"})
        self.assertIsNot(remembered.of(document()), first)

    def test_the_plan_answered_is_that_of_the_document_answered(self) -> None:
        remembered = Remembered()
        before = remembered.of(document())
        for power in ("90 kW", "140 kW"):
            doc = document()
            doc["engine"]["power"] = power
            self.assertEqual(remembered.of(doc, before).plan, evaluate(parse(doc)))

    def test_an_answer_joined_from_parts_is_json(self) -> None:
        plan = Remembered().of(document()).plan
        found = json.loads(joined(name='a "quoted" name', plan=plan, figures=plan.figures, findings=plan.findings, number=None))
        self.assertEqual((found["name"], found["plan"]["name"], found["number"]), ('a "quoted" name', "Marlow Tern 2600 estate", None))
        self.assertEqual((len(found["figures"]), len(found["findings"])), (len(plan.figures), len(plan.findings)))


class Papers(unittest.TestCase):
    def test_the_same_page_is_printed_once(self) -> None:
        press = Press(apart=False)
        with mock.patch("uphill_spark.web.printing.to_pdf", wraps=to_pdf) as printed:
            first, second = press("<p>one"), press("<p>one")
            press("<p>two")
        self.assertIs(first, second)
        self.assertEqual(printed.call_count, 2)

    def test_a_press_apart_comes_back_when_it_was_killed_and_is_stopped_when_it_hangs(self) -> None:
        press = Press(apart=True)
        self.addCleanup(lambda: press._pool and press._stop(press._pool))
        self.assertTrue(press('<p id="x">one').data.startswith(b"%PDF"))
        self.assertEqual(press('<p id="x">one').sheets, (frozenset({"x"}),))
        assert press._pool is not None
        for pid in press._pool._processes or {}:
            os.kill(pid, signal.SIGKILL)
        self.assertTrue(press("<p>two").data.startswith(b"%PDF"))
        with mock.patch("uphill_spark.web.printing.LONGEST", 0.3), self.assertRaises(TooLong):
            press("<p>" + "<div>words " * 3000)
        self.assertTrue(press("<p>three").data.startswith(b"%PDF"))


class AtTheDoor(DatabaseCase):
    def setUp(self) -> None:
        made = tempfile.TemporaryDirectory()
        self.addCleanup(made.cleanup)
        (pathlib.Path(made.name) / "index.html").write_text("<!doctype html>the page")
        self.door = gate.Door("bada-keki", "a-long-key")
        app = create_app(self.url, pathlib.Path(made.name), door=self.door)
        self.addCleanup(app.extensions["database"].close)
        self.client = app.test_client()

    def test_nobody_comes_in_without_the_word(self) -> None:
        for method, path in (
            ("GET", "/api/builds"),
            ("POST", "/api/builds/demo"),
            ("GET", "/api/catalogue"),
            ("GET", "/api/builds/00000000-0000-0000-0000-000000000000/file"),
        ):
            answer = self.client.open(path, method=method, json={} if method == "POST" else None)
            self.assertEqual((answer.status_code, answer.get_json()["code"]), (401, "door"))
        page = self.client.get("/b/x/fuel")
        self.assertEqual((page.status_code, "has a door" in page.text, "the page" in page.text), (401, True, False))
        self.assertEqual(self.client.get("/api/health").status_code, 200)
        for cookie in ("", "bada-keki", "a-long-key", "0" * 64, "\u00e9"):
            self.client.set_cookie(gate.COOKIE, cookie)
            self.assertEqual(self.client.get("/api/builds").status_code, 401)
        for told in ("", "Bearer ", "Bearer bada-keki", "Basic a-long-key"):
            self.assertEqual(self.client.get("/api/builds", headers={"Authorization": told}).status_code, 401)

    def test_the_word_opens_for_a_browser_and_the_key_for_a_script(self) -> None:
        answer = self.client.post("/door", data={"word": " Bada-Keki ", "to": "/b/x/fuel"})
        self.assertEqual((answer.status_code, answer.headers["Location"]), (303, "/b/x/fuel"))
        cookie = answer.headers["Set-Cookie"]
        for word in ("HttpOnly", "SameSite=Strict"):
            self.assertIn(word, cookie)
        for secret in ("bada-keki", "a-long-key"):
            self.assertNotIn(secret, cookie)
        self.assertEqual(self.client.get("/api/builds").status_code, 200)
        page = self.client.get("/b/x/fuel")
        self.assertEqual(page.text, "<!doctype html>the page")
        page.close()
        self.client.delete_cookie(gate.COOKIE)
        self.assertEqual(self.client.get("/api/builds", headers={"Authorization": "Bearer a-long-key"}).status_code, 200)

    def test_it_leads_nowhere_else_and_shows_nothing_of_what_was_written(self) -> None:
        for to in ("//elsewhere", "http://elsewhere", "/\\elsewhere", "javascript:alert(1)", "/door"):
            self.assertEqual(self.client.post("/door", data={"word": "bada-keki", "to": to}).headers["Location"], "/")
        shown = self.client.post("/door", data={"word": "<script>", "to": '/"><script>alert(1)</script>'})
        self.assertEqual((shown.status_code, "<script>" in shown.text), (403, False))

    def test_guessing_is_slow(self) -> None:
        codes = [self.client.post("/door", data={"word": f"guess {k}"}).status_code for k in range(gate.TRIES + 2)]
        self.assertEqual(codes, [403] * gate.TRIES + [429] * 2)
        self.assertEqual(self.client.post("/door", data={"word": "bada-keki"}).status_code, 429)  # nor is the right one told apart


class Page(DatabaseCase):
    def setUp(self) -> None:
        made = tempfile.TemporaryDirectory()
        self.addCleanup(made.cleanup)
        self.place = made.name
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

    def test_a_packed_file_is_sent_to_who_takes_it(self) -> None:
        place = pathlib.Path(self.place)
        (place / "assets" / "x-1.js.br").write_bytes(b"packed")
        answer = self.client.get("/assets/x-1.js", headers={"Accept-Encoding": "gzip, br"})
        self.assertEqual((answer.data, answer.headers["Content-Encoding"], answer.mimetype), (b"packed", "br", "text/javascript"))
        answer.close()
        plain = self.client.get("/assets/x-1.js", headers={"Accept-Encoding": "identity"})
        self.assertEqual((plain.data, plain.headers.get("Content-Encoding")), (b"1", None))
        plain.close()

    def test_nothing_outside_the_page_is_served(self) -> None:
        for path in ("/../outside.txt", "/%2e%2e/outside.txt", "/assets/../../outside.txt"):
            answer = self.client.get(path)
            self.assertNotIn("secret", answer.text)
            answer.close()


if __name__ == "__main__":
    unittest.main()
