"""Kills in mid-edit, people with stale bases, half a request, hostile words: no word lost, none doubled, no plan of another document, no 5xx."""

import json
import random
import socket
import threading
import time
import unittest
from typing import Any
from unittest import mock

import jsonpatch
from sqlalchemy import select, text

from tests import DEEP, examples
from tests.builds import document
from tests.faults.running import ServedCase, WatchedCase
from uphill_spark import store
from uphill_spark.core.given import parse
from uphill_spark.core.plan import Plan, evaluate
from uphill_spark.core.worked import SPECS
from uphill_spark.provision.supervise import STARTS
from uphill_spark.store.tables import RevisionRow
from uphill_spark.web import patient


def sent(plan: Plan) -> dict[str, Any]:
    """The figures of a plan that a page is told: a row's quiet ones come with the result of their stage."""
    return {name: figure.value for name, figure in plan.figures.items() if name in SPECS and not SPECS[name].quiet}


class _Kills:
    """A person who edits, one who reads, and harm done in the middle of it."""

    KILLS = 0

    def test_no_edit_is_lost_or_doubled_and_every_plan_is_its_documents(self: Any) -> None:
        status, state = self.insist("POST", "/api/builds/import?who=Ada", document())
        self.assertEqual(status, 201)
        build, stop = state["id"], threading.Event()
        stored: list[tuple[int, str]] = []
        wrong: list[str] = []

        def person() -> None:
            base, k = 1, 0
            while not stop.is_set():
                k += 1
                power = f"{60 + k % 120}.{k} kW"
                body = {
                    "base": base,
                    "patch": [{"op": "replace", "path": "/engine/power", "value": power}],
                    "who": "Ada",
                    "edit_id": self.new_id(),
                }
                status, found = self.insist("PATCH", f"/api/builds/{build}", body)
                if status != 200:
                    wrong.append(f"{status} {found}")
                    return
                stored.append((found["revision"], power))
                base = found["head"]

        def reader() -> None:
            while not stop.is_set():
                status, found = self.ask("GET", f"/api/builds/{build}")
                if status == 200:
                    plan = evaluate(parse(found["build"]))
                    if sent(plan) != {n: f["value"] for n, f in found["plan"]["figures"].items()}:
                        wrong.append(f"revision {found['revision']} has the plan of another document")
                elif status not in (0, 503):
                    wrong.append(f"{status} {found}")

        people = [threading.Thread(target=person), threading.Thread(target=reader)]
        for p in people:
            p.start()
        rng = random.Random(7)
        for k in range(self.KILLS):
            so_far, ends = len(stored), time.monotonic() + STARTS + 30
            while len(stored) < so_far + 2 and not wrong:  # two edits later, somewhere in the middle of one
                self.assertLess(time.monotonic(), ends, "nothing is stored any more")
                time.sleep(0.01)
            time.sleep(rng.uniform(0.0, 0.05))
            self.harm(k, rng)
        time.sleep(1.0)
        stop.set()
        for p in people:
            p.join(STARTS + 60)
        self.assertEqual(wrong, [])
        self.assertGreater(len(stored), self.KILLS // 2)
        with self.database.work() as session:
            rows = list(session.scalars(select(RevisionRow).where(RevisionRow.build_id == build).order_by(RevisionRow.number)))
        self.assertEqual([r.number for r in rows], list(range(1, len(rows) + 1)))
        by_number = {r.number: r.document["engine"]["power"] for r in rows}
        for number, power in stored:
            self.assertEqual(by_number[number], power)
        self.assertEqual(len(rows), len(stored) + 1)  # each once, and nothing that nobody was told of
        replayed = rows[0].document
        for row in rows[1:]:
            replayed = jsonpatch.apply_patch(replayed, row.patch)
            self.assertEqual(replayed, row.document)


class Kills(_Kills, ServedCase):
    """Workers and backends."""

    KILLS = 1000 if DEEP else 10

    def harm(self, k: int, rng: random.Random) -> None:
        if k % 2:
            with self.database.work() as session:  # the backends of the application, not this one
                session.execute(
                    text(
                        "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()"
                    )
                )
        else:
            for pid in rng.sample(self.workers(), 1):
                self.kill(pid)


class WholeKills(_Kills, WatchedCase):
    """The whole web server and the whole database, under the watch that starts them again."""

    KILLS = 60 if DEEP else 3

    def harm(self, k: int, rng: random.Random) -> None:
        if k % 2:
            self.kill(self.masters[-1].pid)
        else:
            self.kill(int((self.cluster.data / "postmaster.pid").read_text().split()[0]))


class TwoPeople(ServedCase):
    SECONDS = 60.0 if DEEP else 3.0

    def test_two_with_stale_bases_end_with_the_document_that_the_journal_replays(self) -> None:
        build = self.insist("POST", "/api/builds/import?who=Ada", document())[1]["id"]
        ends = time.monotonic() + self.SECONDS
        taken: list[tuple[int, str, str]] = []
        lock = threading.Lock()

        def person(name: str, place: str, unit: str, least: int) -> None:
            base, k = 1, 0
            while time.monotonic() < ends:
                k += 1
                value = f"{least + k % 40}.{k % 10} {unit}"
                body: dict[str, Any] = {"patch": [{"op": "replace", "path": place, "value": value}], "who": name, "edit_id": self.new_id()}
                while True:
                    status, found = self.insist("PATCH", f"/api/builds/{build}", {**body, "base": base})
                    if status != 409:
                        break
                    base = found["head"]
                self.assertEqual(status, 200, found)
                with lock:
                    taken.append((found["revision"], place, value))  # its base is left stale on purpose, every second time
                base = found["head"] if k % 2 else base

        people = [
            threading.Thread(target=person, args=a)
            for a in (("Ada", "/engine/power", "kW", 100), ("Bo", "/engine/displacement", "cc", 2550))
        ]
        for p in people:
            p.start()
        for p in people:
            p.join(self.SECONDS + 60)
        with self.database.work() as session:
            rows = list(session.scalars(select(RevisionRow).where(RevisionRow.build_id == build).order_by(RevisionRow.number)))
        self.assertEqual(sorted(n for n, _, _ in taken), list(range(2, len(rows) + 1)))
        replayed = rows[0].document
        for row in rows[1:]:
            replayed = jsonpatch.apply_patch(replayed, row.patch)
        self.assertEqual(replayed, rows[-1].document)


class APressWithoutAServer(ServedCase):
    def test_a_worker_that_is_killed_leaves_no_press_behind(self) -> None:
        worker = self.workers()[0]
        press: list[int] = []
        ends = time.monotonic() + 60
        while not press:  # it is made ready soon after the start
            self.assertLess(time.monotonic(), ends, "no press was made ready")
            time.sleep(0.1)
            press = self.children(worker)
        self.kill(worker)
        while any(self.lives(pid) for pid in press):
            self.assertLess(time.monotonic(), ends, f"of {press} some live on without their worker")
            time.sleep(0.1)


#: s, of what takes less than one on a quiet machine, and a minute or for ever where somebody is waited for.
SECONDS = 15.0


class HalfARequest(ServedCase):
    def test_sixteen_half_uploads_keep_nobody_waiting(self) -> None:
        held = []
        for k in range(16):
            one = socket.create_connection(("127.0.0.1", self.port))
            self.addCleanup(one.close)
            one.sendall(
                b"POST /api/builds/import HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 5000\r\n\r\n{"
                if k % 2
                else b"POST /api/bui"
            )
            held.append(one)
        time.sleep(0.3)
        for _ in range(10):
            started = time.monotonic()
            self.assertEqual(self.ask("GET", "/api/health")[0], 200)
            self.assertLess(time.monotonic() - started, SECONDS)
        held[1].settimeout(patient.WHOLE + 10)
        self.assertIn(held[1].recv(100).split(b" ")[1:2], ([b"408"], [b"400"], []))  # told, or hung up on, but not waited for
        self.assertEqual(self.ask("GET", "/api/health")[0], 200)

    def test_pieces_that_drip_come_to_an_end(self) -> None:
        near, far = socket.socketpair()
        self.addCleanup(near.close)
        self.addCleanup(far.close)
        with mock.patch.multiple(patient, GAP=0.2, WHOLE=0.5):
            timed = patient.TimedSocket(near)
            timed.setblocking(True)
            started = time.monotonic()
            with self.assertRaises(TimeoutError):
                while True:
                    far.sendall(b"x")
                    timed.recv(1)
                    time.sleep(0.05)
            self.assertLess(time.monotonic() - started, SECONDS)
            timed.setblocking(True)  # the next request has its own time
            far.sendall(b"y")
            self.assertTrue(timed.recv(10).endswith(b"y"))
            with self.assertRaises(TimeoutError):
                timed.recv(1)


#: Words that have broken something somewhere, and their kin.
WORDS: tuple[Any, ...] = (
    "", " ", "\x00", "\ud800", "a\udfffb", "/" + "x" * 300, "x" * 70_000, "1 m^9^9^9", "1 m**9**9**9", "1e999999 mm", "9" * 400 + " mm", "-0 kPa", "NaN kPa", "((((((((", "1 mm*mm*mm*mm",
    "'; DROP TABLE build; --", "{{7*7}}", "%s%n%x", "../../etc/passwd", "\u202e", "=1+1", None, True, -1, 2**63, 10**400, 1e308, 0.1, [], {}, [[]] * 50, {"a": {"b": 1}}, [None] * 3,
)  # fmt: skip
PLACES = (
    "/engine/power", "/engine/cylinders", "/engine/firing_order", "/engine/compression/-", "/fuel/path", "/fuel/parts/x", "/fuel/parts/supply/bore", "/fuel/pump/curve/0/flow", "/wiring/nodes/dash/x",
    "/wiring/branches/unit_tank", "/wiring/fitted/pump_feed", "/sensors/trigger/teeth", "/sensors/decisions/cam", "/injectors/box", "/ignition/outputs", "/marks/~1x", "/name", "/notes", "/start/steps/0",
    "/version", "/format", "/", "//", "/~", "/engine/power/0", "/air/consumers/0/photos/0", "/tune/typed/displacement",
)  # fmt: skip


class Hostile(ServedCase):
    def hostile(self, rng: random.Random, build: str) -> tuple[str, str, bytes | None, str]:
        """A request that nobody means well with."""
        word, place = rng.choice(WORDS), rng.choice(PLACES)
        op = rng.choice(("add", "replace", "remove", "move", "copy", "test", "fly"))
        patch: list[Any] = [
            {"op": op, "path": place, rng.choice(("value", "typed", "from", "x")): word} for _ in range(rng.choice((1, 1, 2, 30)))
        ]
        if rng.random() < 0.1:
            patch = [{"op": "copy", "from": "/engine", "path": f"/engine/x{k}"} for k in range(16)]
        edit = {
            "base": rng.choice((1, 1, 1, 0, -1, 2**31, "1")),
            "patch": patch,
            "who": rng.choice(("Ada", "", "x" * 81, "\x00")),
            "edit_id": rng.choice((None, "12345678", "x", "\x00" * 9)),
        }
        bodies: list[Any] = [
            edit,
            {"base": 1, "patch": patch},
            {"dimension": rng.choice(("length", "luck")), "unit": word, "texts": [word] * 3},
            {"text": str(word) * 20},
            {"answers": {"name": word}},
            word,
        ]
        body = rng.choice(bodies)
        raw = json.dumps(body).encode()
        twist = rng.random()
        if twist < 0.05:
            raw = b"[" * 10_000
        elif twist < 0.1:
            raw = raw.replace(b"1", b"NaN", 1)
        elif twist < 0.15:
            raw = raw[: len(raw) // 2]
        elif twist < 0.2:
            raw = bytes(rng.randrange(256) for _ in range(60))
        method, path = rng.choice((
            ("PATCH", f"/api/builds/{build}"), ("PATCH", f"/api/builds/{build}"), ("PATCH", f"/api/builds/{build}"), ("POST", f"/api/builds/{build}/undo"), ("POST", f"/api/builds/{build}/fuel/trial"),
            ("POST", "/api/builds"), ("POST", "/api/builds/import"), ("POST", "/api/read"), ("POST", "/api/tables/pump"), ("POST", "/api/tables/injector-box"), ("POST", "/api/tables/" + "x" * 300),
            ("POST", "/api/photos"), ("GET", f"/api/builds/{build}?revision={rng.choice(('0', '-1', '99999999999', 'x', '1'))}"), ("GET", f"/api/builds/{build}/asked/luck"),
            ("GET", f"/api/builds?search={rng.choice(('%25', '_', '%00', '%5C', 'x' * 81))}&after={rng.choice(('0', '-1', '9' * 30))}"), ("GET", f"/api/builds/{build}/papers/tables/%2e%2e.csv"),
            ("GET", f"/api/builds/{build}/revisions?below={rng.choice(('0', '-5', '2'))}"), ("DELETE", f"/api/builds/{build}/for-good"), ("GET", f"/api/photos/{'0' * 64}"), ("GET", "/api/fields?stations=,,x"),
        ))  # fmt: skip
        kind = rng.choice(("application/json", "application/json", "application/json", "text/plain", "image/png"))
        return method, path, raw if method in ("PATCH", "POST") else None, kind

    def test_nothing_is_a_5xx_nothing_hangs_and_nothing_is_stored(self) -> None:
        build = self.insist("POST", "/api/builds/import?who=Ada", document())[1]["id"]
        rng = random.Random() if DEEP else random.Random(3)
        slow: list[str] = []
        seen: dict[int, int] = {}
        for _ in range(examples(500)):
            method, path, raw, kind = self.hostile(rng, build)
            started = time.monotonic()
            status, answer = self.ask(method, path, raw=raw, kind=kind)
            spent = time.monotonic() - started
            told = f"{method} {path[:90]} {kind} {(raw or b'')[:200]!r} -> {status} {str(answer)[:200]} in {spent:.1f} s"
            seen[status] = seen.get(status, 0) + 1
            if spent > SECONDS:
                slow.append(told)
            self.assertTrue(200 <= status < 500, told)
            self.assertNotIn("Traceback", str(answer), told)
        self.assertEqual(slow, [])
        self.assertGreater(seen.get(422, 0), 100, seen)
        status, found = self.ask("GET", f"/api/builds/{build}")
        self.assertEqual(status, 200)
        plan = evaluate(parse(found["build"]))
        self.assertEqual(sent(plan), {n: f["value"] for n, f in found["plan"]["figures"].items()})
        with self.database.work() as session:
            for row in session.scalars(select(RevisionRow)):
                parse(row.document)  # nothing was stored that is no build
            self.assertEqual(store.head(session, found["id"]).row.head, found["head"])

    def test_malformed_requests_are_4xx_or_hung_up_on(self) -> None:
        for data in (
            b"POST /api/read HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nTransfer-Encoding: chunked\r\n\r\nZZ\r\n{}\r\n0\r\n\r\n",
            b"POST /api/read HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nTransfer-Encoding: chunked\r\n\r\n5\r\n{}\r\n0\r\n\r\n",
            b"POST /api/read HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: -5\r\n\r\n",
            b"GET /api/health HTTP/1.1\r\nHost: \x00\r\n\r\n",
            b"GET " + b"/x" * 5000 + b" HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n",
            b"\x16\x03\x01\x02\x00\x01\x00\x01\xfc\x03\x03",
        ):
            with self.subTest(data[:60]), socket.create_connection(("127.0.0.1", self.port), timeout=15) as one:
                one.sendall(data)
                one.shutdown(socket.SHUT_WR)
                answer = one.recv(400)
                self.assertTrue(answer == b"" or answer.split(b" ")[1].startswith(b"4"), answer[:80])
        self.assertEqual(self.ask("GET", "/api/health")[0], 200)


if __name__ == "__main__":
    unittest.main()
