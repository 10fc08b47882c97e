"""Under the dash with a meter: volts of every pin by the key, what is wrong when it reads otherwise, a test sheet filled and printed."""

import re
import unittest

from playwright.sync_api import expect

from tests.browser.served import BrowserCase, type_in
from tests.browser.test_facts import choose


class UnderTheDash(BrowserCase):
    def test_a_meter_on_any_two_pins_in_any_position_of_the_key(self) -> None:
        page = self.open(f"{self.car('tern')}/wiring/meter")
        shows = page.get_by_test_id("meter")
        expect(shows).to_have_text(re.compile(r"^12\.3\d V$"))  # pump plus, priming
        page.get_by_label("Key and engine").select_option("off")
        expect(shows).to_have_text(re.compile(r"^0\.0\d+ V$"))
        page.get_by_label("Key and engine").select_option("crank")
        page.get_by_role("button", name=re.compile(r"^control unit A1 ")).click()
        expect(shows).to_have_text(re.compile(r"^9\.[78]\d V$"))
        page.get_by_role("button", name=re.compile(r"^engine block stud")).click()  # black goes there
        expect(page.get_by_label("black lead on")).to_have_value("head.stud")
        page.get_by_role("group", name="What is measured").get_by_role("button", name="ohms").click()
        expect(page.get_by_role("status").first).to_have_text(re.compile("Ω|open"))

    def test_what_i_read_leads_to_the_fault_and_says_what_to_measure_next(self) -> None:
        page = self.open(f"{self.car('tern')}/wiring/meter")
        expect(page.get_by_test_id("meter")).to_contain_text("V")
        page.get_by_role("button", name="A reading where the leads are").click()
        page.get_by_label("Read, pump plus, key just turned on, pump priming").fill("0,1")
        page.get_by_role("button", name="What would show that?").click()
        told = page.get_by_role("region", name="I read")
        expect(told).to_contain_text("Measure next")
        expect(told).to_contain_text("One fault at a time")
        told.get_by_role("button", name="Leads there, and a line for it").click()
        expect(told.get_by_role("textbox")).to_have_count(2)
        page.reload()  # what was read is not lost under the car
        expect(page.get_by_role("region", name="I read").get_by_role("textbox")).to_have_count(2)

    def test_a_reading_that_is_none_is_said_beside_it(self) -> None:
        self.expect_failures = True
        page = self.open(f"{self.car('tern')}/wiring/meter")
        expect(page.get_by_test_id("meter")).to_contain_text("V")
        page.get_by_role("button", name="A reading where the leads are").click()
        box = page.get_by_role("region", name="I read").get_by_role("textbox")
        box.fill("plenty")
        box.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("number")
        expect(box).to_have_value("plenty")

    def test_a_test_sheet_is_filled_under_the_dash_judged_at_once_and_printed(self) -> None:
        path = self.car("hollin")
        page = self.open(f"{path}/wiring/tests", width=390, height=844, touch=True)
        page.get_by_role("button", name="permanent feed", exact=True).tap()
        page.get_by_role("button", name="Begin to test it").tap()
        type_in(page, "/wiring/tests/unit_feed/continuity", "0.2 ohm")
        choose(page, "/wiring/tests/unit_feed/short", "none")
        type_in(page, "/wiring/tests/unit_feed/volts/run", "12.3 V")
        expect(page.get_by_text("passes").first).to_be_visible()
        expect(page.get_by_text(re.compile(r"^1 of \d+ pass"))).to_be_visible()
        type_in(page, "/wiring/tests/unit_feed/volts/crank", "6.1 V")
        snag = page.get_by_role("article", name="Sort out: The test sheet")
        expect(snag).to_contain_text("Likeliest:")
        self.assertEqual(self.stored(path)["wiring"]["tests"]["unit_feed"]["volts"]["crank"], "6.1 V")
        page.goto(f"{self.address}{path}/wiring/papers")
        with page.expect_download(timeout=60_000) as sheet:
            page.get_by_role("link", name="Test sheet, PDF").tap(timeout=60_000)
        self.assertEqual(sheet.value.path().read_bytes()[:5], b"%PDF-")

    def test_a_weak_battery_is_carried_from_its_field_to_the_volts_while_cranking(self) -> None:
        page = self.open(f"{self.car('tern')}/wiring/power")
        crank = page.get_by_role("row", name=re.compile("^starter turning"))
        expect(crank).to_contain_text("10.00 V")
        type_in(page, "/wiring/battery/inner", "12 mohm")
        expect(crank).to_contain_text(re.compile(r"10\.2\d V"))
        type_in(page, "/wiring/battery/inner", "45 mohm")
        page.get_by_role("link", name=re.compile("Fuses and relays")).first.click()
        expect(page.get_by_role("article", name="Stop: Relays and outputs under load")).to_contain_text("goes to sleep, starter turning")

    def test_a_circuit_is_drawn_from_battery_to_ground(self) -> None:
        page = self.open(f"{self.car('tern')}/wiring/circuits")
        drawing = page.get_by_role("img", name=re.compile("^pump relay supply|pump fuse, from battery.plus"))
        expect(drawing).to_be_visible()
        page.get_by_role("group", name="Key and engine").get_by_role("button", name="off").click()
        expect(page.get_by_role("img", name=re.compile("pump relay, from .* open"))).to_be_visible()
        page.get_by_label("Circuit", exact=True).select_option("coil_feed")
        expect(page.get_by_role("region", name="Circuit of coil feed and ground")).to_be_visible()

    def test_old_wires_holes_and_a_circuit_of_ones_own(self) -> None:
        path = self.car("tern")
        page = self.open(f"{path}/wiring/wires")
        page.get_by_role("button", name="Add circuit").click()
        expect(page.locator("table").first).to_contain_text("Circuit 1 feed")
        page.goto(f"{self.address}{path}/wiring/met")
        page.get_by_role("button", name="Add old wire").click()
        expect(page.get_by_role("article", name="Watch: Old relays and feeds still in circuit")).to_be_visible()
        page.goto(f"{self.address}{path}/wiring/passes")
        page.get_by_text("firewall", exact=True).first.click()
        type_in(page, "/wiring/holes/firewall/diameter", "12 mm")
        expect(page.get_by_role("article", name="Sort out: Bundles through their holes").first).to_contain_text("does not pass")


if __name__ == "__main__":
    unittest.main()
