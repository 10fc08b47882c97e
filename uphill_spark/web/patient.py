"""A gunicorn worker that does not wait for ever on somebody who sends half a request: each piece has to come in time, and the whole of it."""

from __future__ import annotations

import socket
import time
from typing import Any

from gunicorn.workers.gthread import TConn, ThreadWorker

GAP = 5.0  # s between two pieces of a request
WHOLE = 20.0  # s for all of it


class TimedSocket:
    """A socket whose reads end: each within `GAP`, all that belong to one request within `WHOLE`. For the rest it is the socket that it holds."""

    def __init__(self, held: socket.socket) -> None:
        self._held = held
        self._ends = time.monotonic() + WHOLE

    def setblocking(self, flag: bool) -> None:
        """The server's word that a request is read now: its time begins."""
        if flag:
            self._held.settimeout(GAP)
            self._ends = time.monotonic() + WHOLE
        else:
            self._held.setblocking(False)

    def recv(self, *arguments: Any) -> bytes:
        """A piece. Raises TimeoutError."""
        if time.monotonic() > self._ends:
            raise TimeoutError("the request did not come to its end")
        return self._held.recv(*arguments)

    def __getattr__(self, name: str) -> Any:
        return getattr(self._held, name)


class PatientWorker(ThreadWorker):  # type: ignore[misc]
    """Threads, each with a request whose sender has a limited time."""

    def handle(self, conn: TConn) -> Any:
        """As the library's own, over a socket that keeps time."""
        if not isinstance(conn.sock, TimedSocket):
            conn.sock = TimedSocket(conn.sock)
        return super().handle(conn)
