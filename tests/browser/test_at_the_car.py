"""The first start at the car, on the live stand-in: from key on to a signed sheet, thrown by a pulled plug that is found through the questions; and practice with a telephone."""

import re
import unittest
import urllib.request
from typing import Any

from playwright.sync_api import Page, expect

from tests.browser.served import WORKED_OUT, BrowserCase
from tests.core.test_car_faults import table
from tests.store.kept_answers import keep_faults
from uphill_spark.core.asked.practice import hide

#: What no bus tells, read by hand before.
BY_HAND = {
    "0": {"battery_rest": "12.7 V", "fuse_pump": "10 A", "fuse_unit": "3 A"}, "1": {"feed_drop": "0.1 V", "ignition_feed": "12.4 V", "ground_pin": "0.04 V"}, "2": {"coolant_signal": "2.5 V"},
    "3": {"pump_volts": "12.2 V", "loss_prime": "4 kPa"}, "4": {"light_locked": "10 deg"}, "8": {"loss_off": "5 kPa"},
}  # fmt: skip


def readings() -> dict[str, Any]:
    return {"steps": {n: {"readings": {key: {"typed": typed} for key, typed in rows.items()}} for n, rows in BY_HAND.items()}}


class AtTheCar(BrowserCase):
    def begin(self, page: Page, *, fault: str = "", warm: bool = False) -> None:
        switch = page.get_by_role("region", name="Stand-in")
        if fault:
            switch.get_by_role("combobox").focus()
            expect(switch.locator(f'option[value="{fault}"]')).to_be_attached()
            switch.get_by_role("combobox").select_option(fault)
        if warm:
            switch.get_by_label("warm already").check()
        switch.get_by_role("button", name="Begin it").click()
        expect(switch.get_by_role("button", name="Run", exact=True)).to_be_visible(timeout=WORKED_OUT)
        switch.get_by_role("button", name="Run", exact=True).click()

    def to(self, page: Page, step: int) -> None:
        """On to a step's first stop, by the big button."""
        for _ in range(50):
            if page.get_by_role("heading", level=2).first.inner_text().startswith(str(step)):
                return
            page.get_by_role("button", name="Next", exact=True).click()
        self.fail(f"no step {step}")

    def start(self, page: Page, seconds: float) -> None:
        """Hold the key at start. The half minute of rest between two tries is the person's; the stand-in's starter does not get hot."""
        button = page.get_by_role("button", name="Start, held")
        button.scroll_into_view_if_needed()
        button.dispatch_event("pointerdown")
        page.wait_for_timeout(int(seconds * 1000))
        button.dispatch_event("pointerup")

    def start_it(self, page: Page, car: str) -> None:
        """Start it by the other hand on the bus, which keeps no rest."""
        at = f"{self.address}/api/builds/{car.split('/')[2]}/live/hand"
        urllib.request.urlopen(urllib.request.Request(at, b'{"key":"start"}', {"Content-Type": "application/json"}, method="POST"))
        page.wait_for_timeout(2500)
        page.get_by_role("button", name="Run", exact=True).click()

    def taken(self, page: Page, *keys: str) -> None:
        """Wait until readings are in the document, taken off the bus by themselves."""
        car = page.url.split("//")[1].split("/", 1)[1]

        def there() -> bool:
            steps = self.stored(f"/{car}").get("start", {}).get("steps", {})
            held = {k: r.get("source") for s in steps.values() for k, r in s.get("readings", {}).items()}
            return all(held.get(k) == "bus" for k in keys)

        self.until(there, 45)

    def test_from_key_on_to_a_signed_sheet_and_a_pulled_plug_on_the_way(self) -> None:
        car = self.car("tern", start=readings())
        self.addCleanup(self.api, "DELETE", f"/api/builds/{car.split('/')[2]}/live")
        keep_faults(self.database)
        page = self.open(f"{car}/start/car")
        self.begin(page, fault="coolant_open")
        self.to(page, 2)
        page.get_by_role("button", name="Next", exact=True).click()
        live = page.get_by_test_id("live")
        expect(live).to_contain_text("55 K")
        expect(page.locator('[data-reading="agree"]')).to_contain_text("52 K over")
        page.get_by_role("link", name="It is off: what do you see?").click()
        search = page.get_by_label("Find a look")
        search.fill("coolant on the")
        page.get_by_role("button", name=re.compile("Coolant on the unit's screen")).click()
        box = page.get_by_role("group", name=re.compile("Coolant on the unit's screen")).get_by_role("textbox")
        box.fill("-40")
        box.press("Enter")
        causes = page.get_by_role("region", name="Likely causes")
        expect(causes.get_by_role("listitem").first).to_contain_text("Coolant sensor's circuit open")
        page.get_by_role("link", name=re.compile("Mended: back to step")).click()
        # The plug is on again.
        page.get_by_role("button", name="End it").click()
        expect(page.get_by_role("button", name="Begin it")).to_be_visible()
        self.begin(page)
        page.get_by_label("Take and go on by itself").check()
        self.to(page, 2)
        self.taken(page, "agree", "manifold_still", "throttle_up")
        page.get_by_role("slider", name="Pedal").fill("100")
        self.taken(page, "throttle_down")
        page.get_by_role("slider", name="Pedal").fill("0")
        self.taken(page, "speed_still")
        self.to(page, 3)
        page.get_by_role("button", name="Off", exact=True).click()
        page.wait_for_timeout(300)
        page.get_by_role("button", name="Run", exact=True).click()
        page.get_by_role("button", name="Next", exact=True).click()
        self.taken(page, "rail_prime")
        self.to(page, 4)
        page.get_by_label("Injectors off").check()
        page.get_by_role("button", name="Next", exact=True).click()
        self.start(page, 3)
        self.taken(page, "speed_crank", "oil_crank", "unit_crank", "teeth")
        expect(page.get_by_role("timer")).to_contain_text("of rest for the starter")
        page.get_by_label("Injectors off").uncheck()
        self.to(page, 5)
        page.get_by_role("button", name="Next", exact=True).click()
        self.start_it(page, car)
        self.taken(page, "catches", "oil_start", "pulse_first")
        self.to(page, 6)
        page.get_by_role("button", name="Next", exact=True).click()
        self.taken(page, "charging", "rail_first")
        page.get_by_role("button", name="End it").click()
        self.begin(page, warm=True)
        self.to(page, 7)
        page.get_by_role("button", name="Next", exact=True).click()
        self.start_it(page, car)
        self.taken(page, "speed_idle", "manifold_idle", "rail_idle", "lambda_idle")
        page.get_by_role("button", name="Stop: key off").click()
        expect(page.get_by_role("alert")).to_contain_text("Key off now, at the car too")
        page.goto(f"{self.address}{car}/start/steps#f/start/steps/0")
        for n in range(9):
            step = page.get_by_role("article", name=re.compile(f"^Step {n},"))
            if n == 7:
                step.get_by_label(re.compile("say why")).or_(step.get_by_label("Notes")).first.fill(
                    "Valve by the screw tomorrow, idles well"
                )
            step.get_by_label("Signed by").fill("Ada")
            step.get_by_role("button", name="Done, sign").click()
            self.quiet(page)
            expect(page.get_by_text(re.compile(f"{n + 1} of 9 steps signed"))).to_be_visible()
            if n < 8:
                page.goto(f"{self.address}{car}/start/steps#f/start/steps/{n + 1}")
        with urllib.request.urlopen(f"{self.address}/api/builds/{car.split('/')[2]}/papers/start-sheet.html") as sheet:
            told = sheet.read().decode()
        self.assertIn("Ada", told)
        self.assertIn("manifold", told.lower())

    def test_three_seeds_are_practised_with_a_telephone(self) -> None:
        car = self.car("tern")
        keep_faults(self.database)
        page = self.open(f"{car}/start/practice", width=390, height=844, touch=True)
        for seed, level in ((1, 1), (2, 2), (3, 3)):
            hidden = hide(table(), level, seed) if seed == 1 else None
            page.get_by_role("button", name=re.compile(f"^{level} ")).click()
            page.get_by_label("Seed, to meet the same again").fill(str(seed))
            page.get_by_role("button", name="Hide a fault").click()
            expect(page.get_by_role("region", name="The owner says")).to_be_visible()
            page.get_by_role("button", name=re.compile("Rail gauge, pump running")).click()
            expect(page.get_by_role("list", name="What you did")).to_contain_text("kPa")
            if hidden is None:
                page.get_by_role("button", name="Give up and see").click()
                expect(page.get_by_role("heading", name=re.compile("^It was:"))).to_be_visible()
                expect(page.get_by_test_id("score")).to_have_text("0")
            else:
                page.get_by_role("button", name="Name it").click()
                page.get_by_label("Find").fill(hidden.words[:18])
                page.get_by_role("button", name=hidden.words).click()
                expect(page.get_by_role("heading", name=re.compile("^Found:"))).to_be_visible()
            expect(page.get_by_role("img", name=re.compile("the short way: .* looks"))).to_be_visible()
            page.get_by_role("button", name="Another").click()
        path = page.get_by_role("region", name="Your path")
        expect(path.get_by_role("listitem")).to_have_count(3)
        page.reload()
        expect(path.get_by_role("listitem")).to_have_count(3)


if __name__ == "__main__":
    unittest.main()
