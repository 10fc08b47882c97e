"""What a person waits for at the fuel station: the states solved, the band, advice, the shelf, and a drag that is solved under the hand."""

from __future__ import annotations

import statistics
from collections.abc import Callable
from typing import Any, Protocol

from playwright.sync_api import sync_playwright

from tests.browser.served import CHROMIUM, FLAGS
from tests.builds import document, trial
from uphill_spark.core.asked.advice import advice_on
from uphill_spark.core.asked.fuel import cases, look_deeper
from uphill_spark.core.asked.trial import under_the_hand
from uphill_spark.core.stages.fuel.demand import KEY_STATE, StateName
from uphill_spark.core.stages.fuel.doubt import DRAWS, margins

SECONDS = 2.0
FUEL_STATES: tuple[StateName, ...] = ("full", "cruise", "idle", "hot_idle", "prime", "crank")


class Rows(Protocol):
    def row(self, what: str, goal: float | None, found: float, unit: str = "ms") -> None: ...


def core(table: Rows, milliseconds: Callable[[Callable[[], Any], int], list[float]]) -> None:
    """In the core, on the Tern and on the Brindle, which has most wrong with it."""
    stands, worst = trial(document("tern")), trial(document("brindle"))
    w, circuit = stands.worked, stands.worked.circuit
    feeds = {name: circuit.feed("pump", KEY_STATE[name]) for name in FUEL_STATES}

    def states() -> None:
        for name, feed in feeds.items():
            circuit.hydraulics[name][0].solve(circuit.fit, feed.volts, feed.ohms)

    def median(work: Callable[[], Any], times: int) -> float:
        return statistics.median(milliseconds(work, times))

    table.row("fuel: six states solved, Tern, median", 3.0, median(states, 40))
    table.row("fuel: every state, battery and filter, Tern, median", None, median(lambda: cases(w), 20))
    band = margins(w.build, w.engine, circuit, w.fuel)
    table.row(f"fuel: band of {DRAWS:,} draws, Tern, median", 60.0, median(band.drawn, 30))
    patch = [{"op": "add", "path": "/fuel/parts/supply/bore", "value": "6.3 mm"}]
    table.row("fuel: a change under the hand, Tern, median", None, median(lambda: under_the_hand(document("tern"), w, patch), 20))
    table.row("fuel: advice, every candidate a whole build, Brindle, median", 300.0, median(lambda: advice_on(worst), 5))
    table.row("fuel: all that is worked out on asking, Brindle, median", None, median(lambda: look_deeper(worst), 5))


def drag(table: Rows, port: int) -> None:
    """In the browser: how often a second the drawing shows a new solution while the rail is dragged."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 1000})
        page.goto(f"http://127.0.0.1:{port}/")
        address = page.get_by_role("link", name="Marlow Tern").first.get_attribute("href") or "/"
        page.goto(f"http://127.0.0.1:{port}{'/'.join(address.split('/')[:3])}/fuel")
        page.wait_for_load_state("networkidle")
        box = page.get_by_role("slider", name="Height of the rail").bounding_box()
        assert box is not None
        page.evaluate(
            """() => {
              window.shown = 0;
              const line = document.querySelector('figure svg path[stroke="var(--good)"][stroke-width="2.6"]');
              new MutationObserver(() => window.shown++).observe(line, { attributes: true, attributeFilter: ["d"] });
            }"""
        )
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        # A hand that moves with every frame: the tool's own mouse waits for the page between two moves.
        rate = page.evaluate(
            """(seconds) => new Promise((done) => {
              const handle = document.querySelector('[role=slider][aria-label="Height of the rail"]');
              const from = handle.getBoundingClientRect().y;
              const started = performance.now();
              let k = 0;
              const move = () => {
                const spent = (performance.now() - started) / 1000;
                if (spent > seconds) return done(window.shown / spent);
                handle.dispatchEvent(new PointerEvent("pointermove", { clientY: from - 40 + 2 * (++k % 40), bubbles: true }));
                requestAnimationFrame(move);
              };
              requestAnimationFrame(move);
            })""",
            SECONDS,
        )
        page.mouse.up()
        table.row("fuel: new solutions drawn a second while dragging (at least 50)", None, rate, "/s")
        browser.close()
