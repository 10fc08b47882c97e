"""Retake docs/screenshots from the demo cars: `python -m tests.shots [name ...]`."""

from __future__ import annotations

import re
import sys
from collections.abc import Callable

from playwright.sync_api import Page

from tests.browser.served import ROOT, BrowserCase
from tests.store.kept_answers import keep_faults
from uphill_spark import demo

FOLDER = ROOT / "docs" / "screenshots"


def _nothing(page: Page) -> None:
    pass


def _power(page: Page) -> None:
    box = page.locator('[id="f/engine/power"]')
    box.fill("140 kW")
    box.press("Enter")
    page.get_by_test_id("ripple").wait_for()
    page.get_by_role("button", name="moved").click()


def _off(page: Page) -> None:
    page.get_by_role("button", name="turns, not a sound of firing").first.click()
    page.get_by_text("Something else that you see or can try").click()
    page.get_by_label("Find a look").fill("plugs after")
    page.get_by_role("button", name=re.compile("^Plugs after a try")).click()
    page.get_by_role("button", name="dry", exact=True).click()
    page.get_by_role("group", name="Plugs after a try").first.wait_for()


def _at_a_reading(page: Page) -> None:
    for _ in range(14):
        page.get_by_role("button", name="Next", exact=True).click()


def _trace(page: Page) -> None:
    page.get_by_label("Search the wire list").fill("pump")
    page.get_by_role("button", name="pump feed").click()


def _own_cells(page: Page) -> None:
    page.locator('[data-cell="5 4"]').first.click()
    page.keyboard.press("Shift+ArrowLeft")
    page.keyboard.press("Shift+ArrowDown")
    page.get_by_role("region", name="The chosen cell").get_by_text("Worked engine").wait_for(timeout=120_000)


def _road(page: Page) -> None:
    file, data = demo.drive("tern")
    page.get_by_label("Bring a log").set_input_files({"name": file, "mimeType": "application/octet-stream", "buffer": data})
    page.get_by_role("button", name=re.compile(r"^Take \d+ columns so")).click(timeout=30_000)
    page.get_by_text(re.compile("off in the middle")).first.wait_for(timeout=30_000)
    page.get_by_role("navigation", name="Benches").get_by_role("link", name="What is off").click()
    page.get_by_role("img", name=re.compile("Shares: ")).wait_for()


def _path(page: Page) -> None:
    page.get_by_role("button", name="Take this order").wait_for(timeout=60_000)


def _off_the_car(page: Page) -> None:
    page.evaluate("window.scrollTo(0, 150)")


#: The evening of the demo car's winter on which its work is looked at.
EVENING = "2027-01-12T18:00:00"
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
    ("first-start", "tern", "start", DESK, "day", _nothing),
    ("ripple-night", "changed", "engine/power", DESK, "night", _power),
    ("it-is-off", "tern", "start/off", (1280, 1000), "day", _off),
    ("road", "tern", "road", (1280, 1000), "day", _road),
    ("meter", "tern", "wiring/meter", (1280, 1000), "day", _nothing),
    ("work", "tern", "work", (1280, 1000), "day", _nothing),
    ("work-path", "tern", "work/path", (1280, 1000), "day", _path),
    ("phone-off", "tern", "work/off", PHONE, "day", _off_the_car),
    ("phone-start-night", "tern", "start/car", PHONE, "night", _at_a_reading),
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
        keep_faults(taker.database)
        cars = {name: taker.car(name) for name in ("tern", "hollin", "brindle")}
        for name, car, path, (width, height), theme, act in SHOTS:
            if only and name not in only:
                continue
            if car == "changed" and car not in cars:  # made when it is wanted, so that the garage shows three cars
                cars[car] = taker.car("tern")
            page = taker.open("/" if path.startswith("work") else f"{cars[car]}/{path}" if car else f"/{path}", width, height, theme)
            if path.startswith("work"):
                page.clock.set_fixed_time(EVENING)
                page.goto(f"{taker.address}{cars[car]}/{path}")
            rests = "load" if path == "start/car" else "networkidle"  # it listens to the bus all the time
            page.wait_for_load_state(rests)
            page.get_by_role("heading", level=1).wait_for(state="attached")
            act(page)
            page.wait_for_load_state(rests)
            page.wait_for_timeout(300)
            if path == "start/off":
                page.evaluate("window.scrollTo(0, 0)")
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
