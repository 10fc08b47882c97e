"""Phones of the network: only who was paired comes in, each by a word of its own, and the machine itself walks in."""

import datetime as dt
import pathlib
import tempfile
import unittest
from typing import Any
from unittest import mock

from tests.database import DatabaseCase
from uphill_spark.provision.commands import _own_address
from uphill_spark.store.devices import offer, plain
from uphill_spark.web import gate, pairing
from uphill_spark.web.app import create_app

THERE = {"REMOTE_ADDR": "192.168.7.20"}
HOME = "http://192.168.7.4:8077"


class Paired(DatabaseCase):
    def setUp(self) -> None:
        made = tempfile.TemporaryDirectory()
        self.addCleanup(made.cleanup)
        (pathlib.Path(made.name) / "index.html").write_text("<!doctype html>the page")
        self.app = create_app(self.url, pathlib.Path(made.name), ("127.0.0.1", "localhost", "192.168.7.4"), listens=HOME)
        self.addCleanup(self.app.extensions["database"].close)
        self.machine = self.app.test_client()
        self.phone = self.app.test_client()

    def of_phone(self, method: str, path: str, **more: object) -> Any:
        return self.phone.open(path, method=method, base_url=HOME, environ_overrides=THERE, **more)  # type: ignore[arg-type]

    def pair(self, word: str, name: str = "phone in the garage", client: Any = None) -> Any:
        phone = client or self.phone
        return phone.post("/pair", data={"word": word, "name": name}, base_url=HOME, environ_overrides=THERE)

    def test_who_is_not_paired_sees_the_pairing_page_and_nothing_else(self) -> None:
        for method, path in (
            ("GET", "/api/builds"),
            ("GET", "/api/health"),
            ("POST", "/api/builds/demo"),
            ("GET", "/api/devices"),
            ("POST", "/api/devices"),
        ):
            answer = self.of_phone(method, path, json={} if method == "POST" else None)
            self.assertEqual((answer.status_code, answer.get_json()["code"]), (401, "not_paired"), path)
        page = self.of_phone("GET", "/b/x/fuel")
        self.assertEqual((page.status_code, "Pair this device" in page.text, "the page" in page.text), (401, True, False))
        for forged in ({"X-Forwarded-For": "127.0.0.1"}, {"Forwarded": "for=127.0.0.1"}, {"Host": "127.0.0.1"}):
            self.assertEqual(self.of_phone("GET", "/api/builds", headers=forged).status_code, 401)
        self.assertEqual(self.machine.get("/api/builds").status_code, 200)  # nothing to type at the machine itself

    def test_a_word_pairs_one_phone_and_no_other(self) -> None:
        offered = self.machine.post("/api/devices", json={}).get_json()
        self.assertEqual(offered["address"], f"{HOME}/pair#{offered['word']}")
        self.assertIn("<svg", offered["picture"])
        answer = self.pair(f"  {offered['word'].upper().replace('-', ' ')} ", "the only one")
        self.assertEqual((answer.status_code, answer.headers["Location"]), (303, "/"))
        self.assertEqual(self.of_phone("GET", "/api/builds").status_code, 200)
        other = self.app.test_client()
        self.assertEqual(self.pair(offered["word"], client=other).status_code, 403)
        listed = self.machine.get("/api/devices").get_json()
        self.assertEqual((listed["address"], [d["name"] for d in listed["devices"]].count("the only one")), (HOME, 1))

    def test_a_phone_pairs_and_forgets_nobody_and_one_that_was_forgotten_is_out(self) -> None:
        word = self.machine.post("/api/devices", json={}).get_json()["word"]
        self.pair(word)
        for method, path in (("GET", "/api/devices"), ("POST", "/api/devices")):
            self.assertEqual(self.of_phone(method, path, json={} if method == "POST" else None).status_code, 403)
        device = self.machine.get("/api/devices").get_json()["devices"][0]["id"]
        self.assertEqual(self.of_phone("DELETE", f"/api/devices/{device}").status_code, 403)
        self.assertEqual(self.machine.delete(f"/api/devices/{device}").status_code, 204)
        self.assertEqual(self.of_phone("GET", "/api/builds").status_code, 401)
        self.assertEqual(self.machine.delete(f"/api/devices/{device}").status_code, 404)

    def test_no_secret_is_kept_as_it_is(self) -> None:
        word = self.machine.post("/api/devices", json={}).get_json()["word"]
        token = self.pair(word).headers["Set-Cookie"].split("=")[1].split(";")[0]
        with self.app.extensions["database"].work() as session:
            kept = str([tuple(row) for row in session.connection().exec_driver_sql("SELECT * FROM device").all()])
            kept += str([tuple(row) for row in session.connection().exec_driver_sql("SELECT * FROM pairing_word").all()])
        for secret in (word, plain(word), token):
            self.assertNotIn(secret, kept)

    def test_a_word_grows_old_and_is_not_good_again_after_a_new_start(self) -> None:
        with self.app.extensions["database"].work() as session, mock.patch("uphill_spark.store.devices.WAITS", dt.timedelta(seconds=-1)):
            offer(session, "bada-keki")
        self.assertEqual(self.pair("bada-keki").status_code, 403)
        with self.app.extensions["database"].work() as session:
            offer(session, "nolo-fipi")
        self.assertEqual(self.pair("nolo-fipi").status_code, 303)
        with self.app.extensions["database"].work() as session:
            offer(session, "nolo-fipi")
        self.assertEqual(self.pair("nolo-fipi", client=self.app.test_client()).status_code, 403)

    def test_guessing_is_slow_and_nothing_written_comes_back_as_markup(self) -> None:
        codes = [self.pair(f"<script>{k}").status_code for k in range(gate.TRIES + 1)]
        self.assertEqual(codes, [403] * gate.TRIES + [429])
        self.assertNotIn("<script>0", self.pair("<script>0").text)
        self.machine.post("/api/devices", json={})

    def test_without_listening_nobody_is_offered_a_word(self) -> None:
        app = create_app(self.url)
        self.addCleanup(app.extensions["database"].close)
        client = app.test_client()
        self.assertEqual((client.get("/api/devices").get_json()["address"], client.post("/api/devices", json={}).status_code), (None, 404))

    def test_the_picture_holds_the_address(self) -> None:
        self.assertNotEqual(pairing.picture(f"{HOME}/pair#a"), pairing.picture(f"{HOME}/pair#b"))
        self.assertRegex(_own_address(), r"^\d+\.\d+\.\d+\.\d+$")


if __name__ == "__main__":
    unittest.main()
