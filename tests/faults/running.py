"""The application as it is served: its own processes on a port, a database of its own, and a person who does not give up."""

from __future__ import annotations

import contextlib
import http.client
import io
import json
import os
import pathlib
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
import unittest
import uuid
from typing import Any, ClassVar
from unittest import mock

from tests.database import DatabaseCase
from uphill_spark import store
from uphill_spark.provision import supervise
from uphill_spark.provision.cluster import Cluster
from uphill_spark.provision.machine import Places
from uphill_spark.provision.supervise import STARTS, Supervisor, speaks

ROOT = pathlib.Path(__file__).resolve().parents[2]


def free_port() -> int:
    with socket.create_server(("127.0.0.1", 0)) as found:
        return int(found.getsockname()[1])


class Asking:
    """How a person's page asks."""

    port: int

    @classmethod
    def until_it_answers(cls) -> None:
        ends = time.monotonic() + STARTS
        while cls.ask("GET", "/api/health")[0] != 200:
            if time.monotonic() > ends:
                raise TimeoutError("the application does not answer")
            time.sleep(0.1)

    @classmethod
    def ask(
        cls, method: str, path: str, body: Any = None, timeout: float = 20.0, raw: bytes | None = None, kind: str = "application/json"
    ) -> tuple[int, Any]:
        """Status and what was answered; 0 where there was no answer."""
        connection = http.client.HTTPConnection("127.0.0.1", cls.port, timeout=timeout)
        data = raw if raw is not None else None if body is None else json.dumps(body).encode()
        try:
            connection.request(method, path, data, {"Content-Type": kind} if data is not None else {})
            answer = connection.getresponse()
            text = answer.read()
        except (OSError, http.client.HTTPException):
            return 0, None
        finally:
            connection.close()
        try:
            return answer.status, json.loads(text)
        except ValueError:
            return answer.status, text

    def kill(self, pid: int) -> None:
        with contextlib.suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)

    def insist(self: Any, method: str, path: str, body: Any, seconds: float = STARTS + 30) -> tuple[int, Any]:
        """Ask again with the same words until there is an answer, as the page does."""
        ends = time.monotonic() + seconds
        while True:
            status, found = self.ask(method, path, body)
            if status not in (0, 502, 503, 504):
                return status, found
            self.assertLess(time.monotonic(), ends, f"no answer: {status} {found}")
            time.sleep(0.05)

    @staticmethod
    def new_id() -> str:
        return uuid.uuid4().hex


class ServedCase(Asking, DatabaseCase):
    """Base of tests that break things: two workers under a master."""

    master: subprocess.Popen[bytes]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.port = free_port()
        env = {**os.environ, "UPHILL_SPARK_DATABASE": cls.url, "UPHILL_SPARK_PORT": str(cls.port)}
        cls.master = subprocess.Popen(
            [sys.executable, "-m", "uphill_spark.web"], env=env, cwd=ROOT, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )
        cls.addClassCleanup(cls.stop)
        cls.until_it_answers()

    @classmethod
    def stop(cls) -> None:
        cls.master.terminate()
        try:
            cls.master.wait(15)
        except subprocess.TimeoutExpired:
            cls.master.kill()
            cls.master.wait()

    def workers(self) -> list[int]:
        """Process numbers of the workers."""
        return self.children(self.master.pid)

    @staticmethod
    def children(pid: int) -> list[int]:
        """Process numbers of those that a process has started."""
        return [int(child) for child in subprocess.run(["pgrep", "-P", str(pid)], capture_output=True, text=True).stdout.split()]

    @staticmethod
    def lives(pid: int) -> bool:
        """Whether there is such a process, and not only what is left of it."""
        try:
            return pathlib.Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
        except OSError:
            return False


class WatchedCase(Asking, unittest.TestCase):
    """The application as the start command keeps it up: a cluster of its own, a web server, and the watch over both."""

    cluster: Cluster
    masters: ClassVar[list[subprocess.Popen[bytes]]]

    @classmethod
    def setUpClass(cls) -> None:
        made = tempfile.TemporaryDirectory()
        cls.addClassCleanup(made.cleanup)
        os.chmod(made.name, 0o755)
        cls.cluster = Cluster(Places(ROOT, pathlib.Path(made.name)))
        out = io.StringIO()
        with contextlib.redirect_stdout(out):
            cls.cluster.start()
        cls.addClassCleanup(cls.cluster.stop)
        cls.cluster.ensure_database()
        cls.port, cls.masters = free_port(), []

        def serve() -> subprocess.Popen[bytes]:
            env = {**os.environ, "UPHILL_SPARK_DATABASE": cls.cluster.url(), "UPHILL_SPARK_PORT": str(cls.port)}
            command = [sys.executable, "-m", "uphill_spark.web"]
            cls.masters.append(subprocess.Popen(command, env=env, cwd=ROOT, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL))
            return cls.masters[-1]

        # What is tried is that they come back and lose nothing; how long the watch waits in between has a test of its own.
        shorter = mock.patch.object(supervise, "WAIT_MOST", 3.0)
        shorter.start()
        cls.addClassCleanup(shorter.stop)
        watch = Supervisor(cls.cluster, serve, lambda: speaks(cls.port))
        thread = threading.Thread(target=watch.run)
        with contextlib.redirect_stdout(out):
            thread.start()
        cls.addClassCleanup(thread.join, 30)
        cls.addClassCleanup(watch.stopping.set)
        cls.until_it_answers()

    @property
    def database(self) -> store.Database:
        found = store.Database(self.cluster.url())
        self.addCleanup(found.close)
        return found
