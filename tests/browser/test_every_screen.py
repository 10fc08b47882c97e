"""Every screen: accessible by axe in both themes, nothing wider than the phone, reachable by keyboard, printable."""

import re
import unittest
from typing import Any

from playwright.sync_api import Page, expect

from tests import DEEP
from tests.browser.served import ROOT, BrowserCase, type_in

AXE = (ROOT / "frontend" / "node_modules" / "axe-core" / "axe.min.js").read_text()
STATIONS = ("engine", "fuel", "injectors", "air", "sensors", "ignition", "wiring", "tune", "start", "road")
#: Fingers' targets on a phone, and lettering of drawings against frame and each other: what is wrong, in words.
MEASURED = (ROOT / "tests" / "browser" / "measure.js").read_text()
EVERY_RULE = {"type": "tag", "values": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]}
#: Once the screen has been drawn at its new size.
WIDTH_DRAWN = "new Promise(done => requestAnimationFrame(() => requestAnimationFrame(() => done(document.documentElement.scrollWidth))))"
#: Screens of the desk and of the telephone that a bench may be long.
LONGEST = {(1280, 800): 1.6, (390, 844): 3.5}
#: The car with most to say; the others in the deep run.
CARS = ("brindle", "tern", "hollin") if DEEP else ("brindle",)
COLOUR_RULES = ["color-contrast", "link-in-text-block"]


class Screens(BrowserCase):
    """Base: how a screen is judged."""

    def axe(self, page: Page, where: str, only: dict[str, Any] | None = None, within: str = "html") -> None:
        if not page.evaluate("'axe' in window"):
            page.evaluate(AXE)
        found = page.evaluate(
            "([only, within]) => axe.run(document.querySelector(within), {runOnly: only, resultTypes: ['violations'], preload: within === 'html'})",
            [only or EVERY_RULE, within],
        )
        self.assertGreater(len(found["passes"]), 0 if only else 5)
        told = [
            f"{where}: {v['id']} {v['help']}: {v['nodes'][0]['html'][:120]} {v['nodes'][0].get('failureSummary', '')[:200]}"
            for v in found["violations"]
        ]
        self.assertEqual(told, [])

    def settle(self, page: Page) -> None:
        expect(page.locator("h1")).to_be_visible()
        expect(page.locator("[aria-busy=true]")).to_have_count(0)

    def judge(self, page: Page, where: str, *, night: bool = True, within: str = "html") -> None:
        """Accessible by day; by night too, where only what hangs on colours can differ; and on a phone nothing is wider than the screen."""
        self.settle(page)
        with self.subTest(where=where, theme="day"):
            self.axe(page, f"{where} by day", within=within)
        if night:
            with self.subTest(where=where, theme="night"):
                page.evaluate("document.documentElement.dataset.theme = 'night'")
                self.axe(page, f"{where} by night", {"type": "rule", "values": COLOUR_RULES})
                page.evaluate("document.documentElement.dataset.theme = 'day'")
        with self.subTest(where=where, width=390):
            page.set_viewport_size({"width": 390, "height": 844})
            self.assertLessEqual(page.evaluate(WIDTH_DRAWN), 390)
            page.set_viewport_size({"width": 1280, "height": 800})

    def judge_stations(self, car: str, stations: tuple[str, ...]) -> None:
        """Every bench of some stations: accessible, and no longer than a person cares to scroll."""
        page = self.open(f"{self.car(car)}/{stations[0]}")
        for station in stations:
            self.settle(page)
            page.locator("body").press("w" if station == "work" else str((STATIONS.index(station) + 1) % 10))
            expect(page).to_have_url(re.compile(f"/{station}$"))
            for link in page.get_by_role("navigation", name="Benches").get_by_role("link").all() or [None]:
                if link is not None:
                    link.click()
                    expect(link).to_have_attribute("aria-current", "location")
                where = "/".join(page.url.split("/")[5:])
                # In the standing run the first bench of each station by night and with all that stands round it; the others by day, themselves.
                first = DEEP or "/" not in where
                if DEEP or not where.endswith(("/ways", "/papers")):  # alike at every station: one is judged among the other screens
                    self.judge(page, f"{car} {where}", night=first, within="html" if first else "main")
                for (width, height), screens in LONGEST.items():
                    with self.subTest(where=f"{car} {where}", width=width):
                        page.set_viewport_size({"width": width, "height": height})
                        page.evaluate(WIDTH_DRAWN)
                        self.assertEqual(page.evaluate(MEASURED), [])
                        self.assertLessEqual(page.evaluate("document.querySelector('main').offsetHeight"), screens * height)
                        if width == 390 and first:
                            self.axe(page, f"{car} {where} on a telephone")
                page.set_viewport_size({"width": 1280, "height": 800})


class FirstStations(Screens):
    def test_the_first_five_stations(self) -> None:
        for car in CARS:
            self.judge_stations(car, STATIONS[:5])


class LastStations(Screens):
    def test_the_last_five_stations(self) -> None:
        for car in CARS:
            self.judge_stations(car, STATIONS[5:])


class TheWork(Screens):
    def test_the_work_beside_the_climb(self) -> None:
        for car in CARS:
            self.judge_stations(car, ("work",))


class OnABench(Screens):
    def test_brackets_walk_along_the_benches_and_on_to_the_next_station(self) -> None:
        page = self.open(f"{self.car()}/engine/papers")
        self.settle(page)
        page.locator("body").press("[")
        expect(page).to_have_url(re.compile("/engine/ways$"))
        for bench in ("engine/papers", "fuel", "fuel/path"):
            page.locator("body").press("]")
            expect(page).to_have_url(re.compile(f"/{bench}$"))
            station = "Papers" if bench.startswith("engine") else "Its wire"  # the row of the station that is open
            expect(page.get_by_role("navigation", name="Benches").get_by_role("link").filter(has_text=station)).to_be_visible()
        page.locator('[id="f/fuel/parts/supply"] button').first.click()
        page.locator('[id="f/fuel/parts/supply/bore"]').press("]")  # what is typed is typed
        expect(page).to_have_url(re.compile("/fuel/path$"))

    def test_addresses_from_before_lead_to_the_bench_where_the_thing_stands(self) -> None:
        car = self.car()
        for old, new, focused in (
            ("fuel#f/fuel/pump/name", "/fuel/pump#", "f/fuel/pump/name"),
            ("fuel#f/wiring/fitted/pump_feed/size", "/fuel/wire#", "f/wiring/fitted/pump_feed/size"),
            ("engine#f/engine/octane", "/engine/power#", "f/engine/octane"),
            ("injectors#b-dead_time", "/injectors/injector#", None),
            ("wiring#w-pump_feed", "/wiring/wires#", None),
            ("fuel/nothing", "/fuel/nothing", None),
        ):
            page = self.open(f"{car}/{old}")
            with self.subTest(old):
                expect(page).to_have_url(re.compile(re.escape(new)))
                self.settle(page)
                if focused:
                    expect(page.locator(f'[id="{focused}"]')).to_be_focused()
            page.close()

    def test_on_a_telephone_the_drawing_stays_while_its_fields_are_typed(self) -> None:
        page = self.open(f"{self.car()}/fuel/pump", 390, 844)
        self.settle(page)
        box = page.locator('[id="f/fuel/pump/outlet_bore"]')
        box.focus()
        box.scroll_into_view_if_needed()
        page.mouse.wheel(0, 300)
        page.wait_for_timeout(200)
        drawing = page.locator(".bench-drawing").bounding_box()
        assert drawing is not None
        self.assertLess(abs(drawing["y"]), 2)
        self.assertLess(drawing["height"], 844 * 0.31)

    def test_the_next_act_is_told_everywhere_and_leads_there(self) -> None:
        page = self.open(f"{self.car('brindle')}/tune")
        self.settle(page)
        line = page.get_by_role("region", name="Next", exact=True)
        expect(line).to_contain_text("Mend what leaks before injection is fitted.")
        line.get_by_role("link", name="Go there: Engine").click()
        expect(page).to_have_url(re.compile("/engine/compression#f/engine/compression"))
        page.goto(f"{self.address}{self.car('tern')}/start/steps")
        line.get_by_role("button", name="What comes after that").click()
        acts = page.get_by_role("list", name="Next acts")
        expect(acts.get_by_role("listitem")).to_have_count(9)  # eight, and the list of all guesses
        self.axe(page, "next acts")
        acts.get_by_role("link").filter(has_text="Fuel used per unit of work").click()
        expect(page.locator('[id="f/engine/bsfc"]')).to_be_focused()
        type_in(page, "/engine/bsfc", "300 g/kWh")
        expect(page.get_by_test_id("ripple")).to_contain_text("300 g/kWh")
        expect(acts).to_have_count(0)
        line.get_by_role("button", name="What comes after that").click()
        expect(acts.get_by_role("listitem").first).to_be_visible()
        expect(acts).not_to_contain_text("Fuel used per unit of work")

    def test_the_worst_three_and_then_all(self) -> None:
        page = self.open(f"{self.car('brindle')}/fuel")
        self.settle(page)
        cards = page.get_by_role("article")
        expect(cards).to_have_count(3)
        page.get_by_role("button", name=re.compile(r"^All \d+$")).click()
        self.assertGreater(cards.count(), 8)
        page.get_by_role("button", name="The worst three").click()
        expect(cards).to_have_count(3)


class OtherScreens(Screens):
    def test_garage_new_build_and_revisions(self) -> None:
        car = self.car("brindle")
        page = self.open("/")
        for path in ("/", "/new", f"{car}/revisions", f"{car}/fuel/ways", f"{car}/fuel/papers"):
            page.goto(self.address + path)
            self.judge(page, path.rsplit("/", 1)[-1] or "garage")


class Dialogs(Screens):
    def test_dialogs_are_clean_too(self) -> None:
        page = self.open(f"{self.car('brindle')}/fuel")
        self.settle(page)
        page.get_by_role("button", name=re.compile("snags")).click()
        expect(page.get_by_role("heading", name="Snags", exact=True)).to_be_visible()
        self.axe(page, "snags")
        page.keyboard.press("Escape")
        page.keyboard.press("Control+k")
        page.get_by_role("combobox").fill("return bore")
        expect(page.get_by_role("option").first).to_contain_text("Return line: Bore")
        self.axe(page, "palette")
        page.keyboard.press("Enter")
        expect(page.locator('[id="f/fuel/parts/return_line/bore"]')).to_be_focused()
        page.locator("h1").click()
        page.keyboard.press("?")
        expect(page.get_by_role("heading", name="Keys", exact=True)).to_be_visible()
        self.axe(page, "keys")

    def test_the_palette_finds_figures_fields_wires_snags_and_stations(self) -> None:
        page = self.open(f"{self.car('brindle')}/engine")
        self.settle(page)
        for words, kind, goes in (
            ("fuel.margin.full", "figure", "/fuel#g-"),
            ("wiring station", "station", "/wiring"),
            ("dead time bench", "bench", "/injectors/injector#b-dead_time"),
            ("fan relay coil", "wire", "/wiring/wires#w-"),
            ("ENG-06", "snag", "#f/engine"),
        ):
            page.keyboard.press("Control+k")
            page.get_by_role("combobox").fill(words)
            expect(page.get_by_role("option").first).to_contain_text(kind)
            page.keyboard.press("Enter")
            expect(page).to_have_url(re.compile(re.escape(goes)))


class Keys(Screens):
    def test_buttons_on_a_phone_can_be_hit_with_a_glove(self) -> None:
        page = self.open(f"{self.car()}/start", width=390, height=844)
        self.settle(page)
        small = page.evaluate(
            "[...document.querySelectorAll('button, a.btn, input')].filter(e => e.offsetParent && e.getBoundingClientRect().height < 35.5).map(e => e.outerHTML.slice(0, 80))"
        )
        self.assertEqual(small, [])

    def test_every_station_by_its_number(self) -> None:
        page = self.open(f"{self.car()}/engine")
        self.settle(page)
        for n, station in enumerate(STATIONS, 1):
            page.locator("body").press(str(n % 10))
            expect(page).to_have_url(re.compile(f"/{station}$"))
            expect(page.get_by_role("link", name=re.compile(r".")).and_(page.locator("[aria-current=page]"))).to_have_count(1)

    def test_on_paper_there_are_no_buttons_and_no_bars(self) -> None:
        page = self.open(f"{self.car('brindle')}/start")
        self.settle(page)
        page.emulate_media(media="print")
        self.assertFalse(page.get_by_role("navigation", name="Stations").is_visible())
        self.assertFalse(page.get_by_role("button", name="Done, sign").first.is_visible())
        self.assertTrue(page.get_by_role("heading", name=re.compile("Do not start")).is_visible())

    def test_a_lost_address_and_a_lost_build(self) -> None:
        self.expect_failures = True
        page = self.open("/nothing/here")
        expect(page.get_by_role("heading", name="There is nothing at this address")).to_be_visible()
        page.goto(self.address + "/b/00000000-0000-0000-0000-000000000000/fuel")
        expect(page.get_by_role("heading", name="This build cannot be shown")).to_be_visible()


class OverTheWire(Screens):
    """How much comes over the wire: what a person on a telephone in a yard waits for."""

    ahead = True

    MOST, REQUESTS, AN_EDIT = 180_000, 15, 20_000  # bytes, bytes

    def counted(self, page: Page) -> list[float]:
        """Bytes of each answer from now on, headers and all, as they come packed; not of what is fetched ahead at ease, which begins with the words."""
        wire = page.context.new_cdp_session(page)
        wire.send("Network.enable")
        sizes: list[float] = []
        first: set[str] = set()
        ahead: list[str] = []

        def asked(event: dict[str, Any]) -> None:
            if event["request"]["url"].endswith("/api/words"):
                ahead.append(event["requestId"])
            if not ahead:
                first.add(event["requestId"])

        wire.on("Network.requestWillBeSent", asked)
        wire.on("Network.loadingFinished", lambda event: sizes.append(event["encodedDataLength"]) if event["requestId"] in first else None)
        return sizes

    def test_a_first_view_of_a_station_and_an_edit_there(self) -> None:
        car = self.car("tern")
        for station in STATIONS[:-1]:
            page = self.browser.new_page()
            self.addCleanup(page.close)
            sizes = self.counted(page)
            page.goto(f"{self.address}{car}/{station}")
            page.wait_for_load_state("networkidle")
            with self.subTest(station):
                self.assertLessEqual(sum(sizes), self.MOST)
                self.assertLessEqual(len(sizes), self.REQUESTS)
                self.assertGreater(sum(sizes), 50_000)  # the page did come
            if station == "fuel":
                page.close()
                page = self.browser.new_page()
                self.addCleanup(page.close)
                page.goto(f"{self.address}{car}/fuel")
                page.wait_for_load_state("networkidle")
                sizes = self.counted(page)
                page.goto(f"{self.address}{car}/fuel#f/fuel/parts/supply/bore")
                type_in(page, "/fuel/parts/supply/bore", "6.3 mm")
                expect(page.get_by_test_id("ripple")).to_contain_text("6.3 mm")
                self.assertLessEqual(max(sizes), self.AN_EDIT)

    def test_what_comes_ahead_at_ease_does_not_where_data_are_saved(self) -> None:
        car = self.car("tern")
        for saves in (False, True):
            self.ahead = not saves
            page = self.open()
            with page.expect_response("**/api/words") as words:
                page.goto(f"{self.address}{car}/fuel")
            asked: list[str] = []
            page.on("request", lambda request, asked=asked: asked.append(request.url.rsplit("/", 1)[1]))
            words.value.finished()
            if saves:
                page.wait_for_timeout(1500)
                self.assertEqual([name for name in asked if "Station" in name], [])
                page.locator("body").press("7")  # gone to, it comes
            self.until(lambda asked=asked: any(name.startswith("WiringStation") for name in asked))  # type: ignore[misc]
            page.close()


if __name__ == "__main__":
    unittest.main()
