"""Putting work into the queue, from the web process."""

from __future__ import annotations

import threading
import uuid

import procrastinate
from procrastinate.exceptions import AlreadyEnqueued, ConnectorException

from ..store import database
from ..store.database import Bounded, StoreDown

TASK, TAKE_IN, NAME = "work_on", "take_in", "asked"


class Queue:
    """The queue's end in a web process. Its connections are opened when something is first put in."""

    def __init__(self, url: str) -> None:
        self._url = url.replace("+psycopg", "", 1)
        self._lock = threading.Lock()
        self._app: procrastinate.App | None = None

    def put(self, key: str, subject: str, build: uuid.UUID, revision: int, log: uuid.UUID | None = None) -> None:
        """Have an answer worked out, of a log where one is named; what waits already is not put in twice. Raises StoreDown."""
        self._defer(TASK, key, key=key, subject=subject, build=str(build), revision=revision, log=str(log or ""))

    def take_in(self, log: uuid.UUID) -> None:
        """Have a log read in that waits. Raises StoreDown."""
        self._defer(TAKE_IN, str(log), log=str(log))

    def _defer(self, task: str, lock: str, **told: str | int) -> None:
        try:
            self._opened().configure_task(task, queue=NAME, lock=lock, queueing_lock=lock, allow_unknown=True).defer(**told)
        except AlreadyEnqueued:
            pass
        except ConnectorException as error:
            raise StoreDown("The store does not answer.") from error

    def _opened(self) -> procrastinate.App:
        with self._lock:
            if self._app is None:
                connector = procrastinate.SyncPsycopgConnector(
                    conninfo=self._url,
                    kwargs={"connect_timeout": database.CONNECT, "options": f"-c search_path=queue {database.bounds()}"},
                    connection_class=Bounded,
                    min_size=1,
                    max_size=2,
                    timeout=database.POOL,
                )
                app = procrastinate.App(connector=connector)
                app.open()
                self._app = app
            return self._app

    def close(self) -> None:
        """Give back its connections."""
        with self._lock:
            if self._app is not None:
                self._app.close()
                self._app = None
