"""The application served for a browser: own database behind a wire that can be cut, headless Chromium, and a page that reports every error."""

from __future__ import annotations

import atexit
import json
import logging
import os
import pathlib
import subprocess
import sys
import threading
import time
import urllib.request
from collections.abc import Callable
from functools import cache
from typing import Any

from playwright.sync_api import Browser, Page, Playwright, Request, expect, sync_playwright
from werkzeug.serving import make_server

from tests.builds import document
from tests.database import DatabaseCase, Switch, elsewhere
from uphill_spark import store
from uphill_spark.web import create_app

logging.getLogger("werkzeug").setLevel(logging.ERROR)
CHROMIUM = os.environ.get("UPHILL_SPARK_CHROMIUM", "/usr/bin/chromium-headless-shell")
FLAGS = [
    "--no-sandbox",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--disable-quic",
]
#: ms that a page may take to show something, and that something may take that is worked out: two cores serve several browsers at once here, and waiting costs nothing but where a test fails.
SHOWN, WORKED_OUT = 45_000, 300_000
expect.set_options(timeout=SHOWN)
ROOT = pathlib.Path(__file__).resolve().parents[2]


@cache
def chromium() -> tuple[Playwright, Browser]:
    """The browser of this process: every test has a context of its own in it."""
    playwright = sync_playwright().start()
    browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
    atexit.register(playwright.stop)
    return playwright, browser


def type_in(page: Page, pointer: str, text: str) -> None:
    """Type into the field of a place in the build, and leave it."""
    box = page.locator(f'[id="f{pointer}"]')
    box.fill(text)
    box.press("Enter")


def to_bench(page: Page, name: str) -> None:
    """Go to a bench of the station that is open, by its name in the row."""
    benches = page.get_by_role("navigation", name="Benches")
    benches.get_by_role("link").filter(has=page.get_by_text(name, exact=True)).click()
    expect(benches.locator("[aria-current]")).to_contain_text(name)


class BrowserCase(DatabaseCase):
    """Base of tests that do what a person does. Every page is checked for script errors and for requests that leave the machine."""

    playwright: Playwright
    browser: Browser
    switch: Switch
    address: str
    works = False  # whether the worker runs beside, for what takes seconds
    cuts = False  # whether the wire to the database can be cut
    ahead = False  # whether all stations are fetched once the first is drawn, or data saved

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        if cls.works:
            env = {**os.environ, "UPHILL_SPARK_DATABASE": cls.url}
            worker = subprocess.Popen([sys.executable, "-m", "uphill_spark.jobs"], env=env, cwd=ROOT)
            cls.addClassCleanup(worker.wait)
            cls.addClassCleanup(worker.kill)
        url = cls.url
        if cls.cuts:
            cls.switch = Switch(cls.url)
            cls.addClassCleanup(cls.switch.close)
            url = elsewhere(cls.url, cls.switch.port)
        app = create_app(url, pathlib.Path(os.environ.get("UPHILL_SPARK_PAGE", ROOT / "frontend" / "dist")))
        cls.addClassCleanup(app.extensions["database"].close)
        cls.addClassCleanup(app.extensions["queue"].close)
        server = make_server("127.0.0.1", 0, app, threaded=True)
        threading.Thread(target=server.serve_forever, daemon=True).start()
        cls.addClassCleanup(server.server_close)
        cls.addClassCleanup(server.shutdown)
        cls.address = f"http://127.0.0.1:{server.server_port}"
        cls.playwright, cls.browser = chromium()

    def setUp(self) -> None:
        self.troubles: list[str] = []
        self.pages: list[Page] = []
        self.expect_failures = False

    def car(self, name: str = "tern", **changes: Any) -> str:
        """A demo car in the store; its address."""
        with self.database.work() as session:
            head = store.create(session, {**document(name), **changes}, "Ada", "Read from a file")
        return f"/b/{head.row.id}"

    def document(self, name: str) -> dict[str, Any]:
        """A demo car's document."""
        return document(name)

    def open(self, path: str = "/", width: int = 1280, height: int = 800, theme: str = "day", touch: bool = False) -> Page:
        context = self.browser.new_context(
            viewport={"width": width, "height": height}, accept_downloads=True, reduced_motion="reduce", has_touch=touch
        )
        self.addCleanup(context.close)
        if not self.ahead:
            context.add_init_script("Object.defineProperty(NetworkInformation.prototype, 'saveData', {get: () => true})")
        context.add_init_script(f"localStorage.setItem('uphill-spark.theme', '{theme}')")
        page = context.new_page()
        self.pages.append(page)
        page.set_default_timeout(SHOWN)
        page.on("pageerror", lambda error: self.troubles.append(str(error)))
        page.on("console", lambda message: self.troubles.append(message.text) if message.type == "error" else None)
        page.on("request", self._stays_here)
        page.goto(self.address + path)
        return page

    def _stays_here(self, request: Request) -> None:
        if not request.url.startswith((self.address, "data:", "blob:")):
            self.troubles.append(f"left the machine: {request.url}")

    def tearDown(self) -> None:
        if self.cuts:
            self.switch.join()
        told = [t for t in self.troubles if not (self.expect_failures and "Failed to load resource" in t)]
        self.assertEqual(told, [])

    def api(self, method: str, path: str) -> Any:
        """An answer of the application, as the page would get it."""
        with urllib.request.urlopen(urllib.request.Request(self.address + path, method=method)) as answer:
            return json.load(answer)

    @staticmethod
    def quiet(page: Page) -> None:
        """Wait until an open page has no change that waits to be stored."""
        for _ in range(1200):
            if page.is_closed() or page.evaluate("JSON.parse(localStorage.getItem('uphill-spark.waiting') || '[]').length") == 0:
                break
            page.wait_for_timeout(50)

    def until(self, there: Callable[[], bool], seconds: float = 60.0) -> None:
        """Wait until something is so; fails where it does not come about."""
        end = time.monotonic() + seconds
        while not there():
            self.assertLess(time.monotonic(), end, "it did not come about")
            self.pages[-1].wait_for_timeout(100)

    def stored(self, path: str) -> dict[str, Any]:
        """The document as it is in the store, once no open page has a change that waits to be sent."""
        for page in self.pages:
            self.quiet(page)
        with self.database.work() as session:
            import uuid

            return store.head(session, uuid.UUID(path.split("/")[2])).revision.document
