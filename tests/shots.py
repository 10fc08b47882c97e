"""Retake docs/screenshots from the demo cars: `python -m tests.shots [name ...]`."""

from __future__ import annotations

import sys
from collections.abc import Callable

from playwright.sync_api import Page

from tests.browser.served import ROOT, BrowserCase

FOLDER = ROOT / "docs" / "screenshots"


def _nothing(page: Page) -> None:
    pass


def _power(page: Page) -> None:
    box = page.locator('[id="f/engine/power"]')
    box.fill("140 kW")
    box.press("Enter")
    page.get_by_test_id("ripple").wait_for()
    page.get_by_role("button", name="moved").click()


def _snags(page: Page) -> None:
    page.get_by_role("button", name="snags").click()


def _trace(page: Page) -> None:
    page.get_by_label("Search the wire list").fill("pump")
    page.get_by_role("button", name="pump feed").click()


def _hand_turn(page: Page) -> None:
    page.get_by_role("region", name="Hand-turn test", exact=True).evaluate(
        "e => { e.scrollIntoView({ block: 'start' }); window.scrollBy(0, -8); }"
    )


def _own_cells(page: Page) -> None:
    page.locator('[data-cell="5 4"]').first.click()
    page.keyboard.press("Shift+ArrowLeft")
    page.keyboard.press("Shift+ArrowDown")
    page.get_by_role("region", name="The chosen cell").get_by_text("Worked engine").wait_for(timeout=120_000)


Shot = tuple[str, str, str, tuple[int, int], str, Callable[[Page], None]]
DESK, PHONE = (1280, 800), (390, 844)
SHOTS: list[Shot] = [
    ("garage", "", "", DESK, "day", _nothing),
    ("new-build", "", "new", DESK, "day", _nothing),
    ("engine", "brindle", "engine", DESK, "day", _nothing),
    ("fuel", "tern", "fuel/path", (1280, 1000), "day", _nothing),
    ("injectors", "hollin", "injectors", (1280, 1000), "day", _nothing),
    ("air", "brindle", "air/hoses", (1280, 1000), "day", _nothing),
    ("sensors", "tern", "sensors/wheel", (1280, 860), "day", _nothing),
    ("ignition", "brindle", "ignition", (1280, 1000), "day", _nothing),
    ("wiring", "tern", "wiring/wires", (1280, 1000), "day", _trace),
    ("tune", "tern", "tune/tables", (1280, 1000), "day", _own_cells),
    ("tune-kept", "tern", "tune/kept", (1280, 1000), "day", _nothing),
    ("first-start", "tern", "start", DESK, "day", _nothing),
    ("first-start-stopped", "brindle", "start", DESK, "day", _nothing),
    ("ripple-night", "changed", "engine/power", DESK, "night", _power),
    ("snags", "brindle", "fuel", DESK, "day", _snags),
    ("meter", "tern", "wiring/meter", (1280, 1000), "day", _nothing),
    ("phone-fuel", "tern", "fuel/wire", PHONE, "day", _nothing),
    ("phone-hand-turn", "brindle", "sensors/hand", PHONE, "day", _hand_turn),
    ("phone-start-night", "tern", "start/steps", PHONE, "night", _nothing),
]


class Taker(BrowserCase):
    """The browser and the served application, without being a test."""

    works = True

    def runTest(self) -> None:  # a TestCase must have one
        pass


def main(only: list[str]) -> int:
    FOLDER.mkdir(parents=True, exist_ok=True)
    Taker.setUpClass()
    taker = Taker()
    taker.setUp()
    try:
        cars = {name: taker.car(name) for name in ("tern", "hollin", "brindle")}
        for name, car, path, (width, height), theme, act in SHOTS:
            if only and name not in only:
                continue
            if car == "changed" and car not in cars:  # made when it is wanted, so that the garage shows three cars
                cars[car] = taker.car("tern")
            page = taker.open(f"{cars[car]}/{path}" if car else f"/{path}", width, height, theme)
            page.wait_for_load_state("networkidle")
            act(page)
            page.wait_for_load_state("networkidle")
            page.wait_for_timeout(300)
            page.screenshot(path=str(FOLDER / f"{name}.png"))
            page.context.close()
            print(f"  {name}.png", flush=True)
        if taker.troubles:
            print("\n".join(taker.troubles), file=sys.stderr)
        return 1 if taker.troubles else 0
    finally:
        taker.doCleanups()
        Taker.doClassCleanups()


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
