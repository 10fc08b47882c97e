"""A database of its own for every test class, made in the running cluster and dropped again. No cluster is a failure, never a skip."""

from __future__ import annotations

import contextlib
import os
import socket
import threading
import time
import unittest
import uuid
from functools import cache
from unittest import mock
from urllib.parse import urlsplit, urlunsplit

import psycopg

from uphill_spark.store import Database


def _cluster() -> str:
    url = os.environ.get("UPHILL_SPARK_CLUSTER")
    if not url:
        raise RuntimeError("no PostgreSQL cluster: run the tests with ./spark test")
    return url


def _execute(statement: str) -> None:
    with psycopg.connect(_cluster().replace("+psycopg", ""), autocommit=True) as connection:
        connection.execute(statement)  # type: ignore[arg-type]


@cache
def _migrated(process: int) -> str:
    """A database that all migrations have gone over, of which each class of a process has a copy."""
    name = f"spark_migrated_{process}"
    _execute(f'CREATE DATABASE "{name}"')
    database = Database(urlunsplit(urlsplit(_cluster())._replace(path=f"/{name}")))
    database.migrate()
    database.close()
    return name


def elsewhere(url: str, port: int) -> str:
    """The same address at another port."""
    parts = urlsplit(url)
    return urlunsplit(parts._replace(netloc=f"{parts.username}:{parts.password}@127.0.0.1:{port}"))


#: Until a store that does not answer counts as away, and one that is slow is left [s, ms]: what a person waits for is tested by itself, and a machine that is held up for some
#: seconds is no store that is away.
PATIENT = {"CONNECT": 30, "POOL": 30.0, "ANSWER": 30.0, "STATEMENT": 30_000, "LOCK": 30_000}


class DatabaseCase(unittest.TestCase):
    """Base of tests that store things. `url` and `database` are the class's own. `patient` is False where it is asked how long anybody waits."""

    url: str
    database: Database
    patient = True

    @classmethod
    def setUpClass(cls) -> None:
        if cls.patient:
            patience = mock.patch.multiple("uphill_spark.store.database", **PATIENT)
            patience.start()
            cls.addClassCleanup(patience.stop)
        name = f"spark_test_{uuid.uuid4().hex[:12]}"
        _execute(f'CREATE DATABASE "{name}" TEMPLATE "{_migrated(os.getpid())}"')
        cls.addClassCleanup(_execute, f'DROP DATABASE "{name}" WITH (FORCE)')
        cls.url = urlunsplit(urlsplit(_cluster())._replace(path=f"/{name}"))
        cls.database = Database(cls.url)
        cls.addClassCleanup(cls.database.close)


class Switch:
    """A wire to the database that can be cut and joined: a TCP relay on a port of its own."""

    def __init__(self, url: str) -> None:
        self._goal = ("127.0.0.1", urlsplit(url).port or 5432)
        self._pairs: list[socket.socket] = []
        self.joined = True
        self.frozen = False  # takes what it is sent, and passes nothing on
        self._listener = socket.create_server(("127.0.0.1", 0))
        self.port = self._listener.getsockname()[1]
        threading.Thread(target=self._accept, daemon=True).start()

    def _accept(self) -> None:
        while True:
            try:
                near, _ = self._listener.accept()
            except OSError:
                return
            if not self.joined:
                near.close()
                continue
            far = socket.create_connection(self._goal)
            self._pairs += [near, far]
            for a, b in ((near, far), (far, near)):
                threading.Thread(target=self._carry, args=(a, b), daemon=True).start()

    def _carry(self, a: socket.socket, b: socket.socket) -> None:
        try:
            while data := a.recv(65536):
                while self.frozen and self.joined:
                    time.sleep(0.02)
                b.sendall(data)
        except OSError:
            pass
        finally:
            for end in (a, b):
                with contextlib.suppress(OSError):
                    end.shutdown(socket.SHUT_RDWR)
                end.close()

    def cut(self) -> None:
        self.joined = False
        for end in self._pairs:
            with contextlib.suppress(OSError):
                end.shutdown(socket.SHUT_RDWR)
        self._pairs.clear()

    def join(self) -> None:
        self.joined = True

    def close(self) -> None:
        self.cut()
        self._listener.close()
