"""The door, for who starts the application with one: every browser is asked once for the word that was printed at start, scripts send the key.

Without a door the application answers to everybody on this machine: it listens on loopback only.
"""

from __future__ import annotations

import hmac
import html
import os
import threading
import time
from collections import deque
from dataclasses import dataclass, field
from urllib.parse import urlsplit

from flask import Response, redirect, request
from flask_openapi3 import OpenAPI

from . import errors

COOKIE = "uphill-spark-door"
ADDRESS = "/door"
#: Where calendars read, with what stands in the address for a pass.
FEEDS = "/feeds/"
#: Wrong words that are heard out in so many seconds, from everybody together.
TRIES, WITHIN = 10, 60.0
_LONGEST = 200
STYLE = (
    "body{font:18px/1.5 sans-serif;background:#f2ede0;color:#1b1a17;max-width:28rem;margin:15vh auto;padding:0 1rem}"
    "input,button{font:inherit;padding:.5rem;border:2px solid #1b1a17;background:#fff;color:#1b1a17}button{background:#1b1a17;color:#fff}[role=alert]{color:#a32117;font-weight:600}"
)


@dataclass
class Tries:
    """Wrong words of late, from everybody together."""

    _wrong: deque[float] = field(default_factory=deque)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def left(self) -> bool:
        """Whether another word is heard out."""
        with self._lock:
            while self._wrong and time.monotonic() - self._wrong[0] > WITHIN:
                self._wrong.popleft()
            return len(self._wrong) < TRIES

    def wrong(self) -> None:
        """One more was wrong."""
        with self._lock:
            self._wrong.append(time.monotonic())


@dataclass
class Door:
    """The word and the key of this start. `key` signs what a browser is given, and is what a script sends."""

    word: str
    key: str
    tries: Tries = field(default_factory=Tries)

    @property
    def pass_(self) -> str:
        """What a browser keeps once it knew the word: good for this start, tells neither word nor key."""
        return hmac.new(self.key.encode(), self.word.encode(), "sha256").hexdigest()

    def known(self) -> bool:
        """Whether the request comes from who knows word or key."""
        told = request.headers.get("Authorization", "")
        if told.startswith("Bearer "):
            return hmac.compare_digest(told[7:].encode(), self.key.encode())
        return hmac.compare_digest(request.cookies.get(COOKIE, "").encode(), self.pass_.encode())

    def heard(self, word: str) -> bool | None:
        """Whether it is the word; None when there were too many wrong ones of late."""
        if not self.tries.left():
            return None
        right = hmac.compare_digest(word.strip().lower().encode(), self.word.encode())
        if not right:
            self.tries.wrong()
        return right


def from_environment() -> Door | None:
    """The door as the start command set it up; None without one."""
    word = os.environ.get("UPHILL_SPARK_DOOR", "")
    return Door(word, os.environ["UPHILL_SPARK_KEY"]) if word else None


def hang(app: OpenAPI, door: Door) -> None:
    """Hang the door in front of everything but itself and the question whether the store answers."""

    @app.before_request
    def ask() -> Response | None:
        if request.path in (ADDRESS, "/api/health") or request.path.startswith(FEEDS) or door.known():
            return None
        if request.path.startswith("/api/"):
            return errors.answer(401, errors.ErrorBody(code="door", message="This application has a door: open its page and give the word that was printed when it was started."))  # fmt: skip
        return _page(_goal(request.full_path), "", 401)

    def at_the_door() -> Response:
        goal = _goal(request.values.get("to", "/"))
        if request.method != "POST":
            return _page(goal, "")
        heard = door.heard(request.form.get("word", "")[:_LONGEST])
        if not heard:
            told = (
                "Too many wrong words. Wait a minute."
                if heard is None
                else "That is not the word. It stands where the application was started."
            )
            return _page(goal, told, 429 if heard is None else 403)
        response = redirect(goal, 303)
        response.set_cookie(COOKIE, door.pass_, httponly=True, samesite="Strict", max_age=90 * 86400)
        return response  # type: ignore[return-value]

    app.add_url_rule(ADDRESS, "door", at_the_door, methods=["GET", "POST"])


def _goal(path: str) -> str:
    """An address of this application, never of another."""
    parts = urlsplit(path)
    safe = path.startswith("/") and not path.startswith(("//", "/\\")) and not parts.netloc and not parts.path.startswith(ADDRESS)
    return path.rstrip("?") if safe else "/"


def _page(goal: str, trouble: str, status: int = 200) -> Response:
    told = f'<p role="alert">{html.escape(trouble)}</p>' if trouble else ""
    page = (
        f'<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Door</title><style>{STYLE}</style>'
        f"<main><h1>Uphill Spark has a door</h1>{told}"
        f'<form method="post" action="{ADDRESS}"><input type="hidden" name="to" value="{html.escape(goal)}"><p><label>The word that was printed when it was started<br>'
        '<input name="word" autocomplete="off" autocapitalize="none" autofocus required></label></p><button>Go in</button></form></main></html>'
    )
    return Response(page, status, mimetype="text/html", headers={"Cache-Control": "no-store"})
