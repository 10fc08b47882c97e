"""Under the dash with a meter: volts of every pin by the key, what is wrong when it reads otherwise, a test sheet filled and printed."""

import re
import unittest

from playwright.sync_api import expect

from tests.browser.served import WORKED_OUT, BrowserCase, type_in
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
        with page.expect_download(timeout=WORKED_OUT) as sheet:
            page.get_by_role("link", name="Test sheet, PDF").tap(timeout=WORKED_OUT)
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

    def test_the_plan_of_the_car_tells_volts_and_amps_and_its_words_keep_clear(self) -> None:
        page = self.open(f"{self.car('tern')}/wiring/routes")
        plan = page.get_by_role("group", name=re.compile("^Harness from above"))
        expect(plan).to_contain_text("10 wires")
        page.get_by_role("group", name="What is shown on it").get_by_role("button", name="full").click()
        expect(plan).to_contain_text("7.2 A out, 7.2 A back")
        expect(plan).to_contain_text("pump 13.4 V")
        boxes = page.evaluate(
            "[...document.querySelectorAll('[data-label]')].map(t => t.getBBox()).map(b => [b.x, b.y, b.x + b.width, b.y + b.height])"
        )
        self.assertGreater(len(boxes), 12)
        laid_over = [
            (a, b)
            for i, a in enumerate(boxes)
            for b in boxes[i + 1 :]
            if a[0] < b[2] - 1 and b[0] < a[2] - 1 and a[1] < b[3] - 1 and b[1] < a[3] - 1
        ]
        self.assertEqual(laid_over, [])

    def test_a_place_and_a_bend_are_moved_by_hand_and_by_keys(self) -> None:
        path = self.car("tern")
        page = self.open(f"{path}/wiring/routes")
        grip = page.get_by_role("button", name=re.compile("^tank and pump: move"))
        before = self.stored(path)["wiring"]["nodes"]["tank"]
        box = grip.bounding_box()
        assert box
        page.mouse.move(box["x"] + 15, box["y"] + 15)
        page.mouse.down()
        page.mouse.move(box["x"] - 60, box["y"] - 30, steps=4)
        page.mouse.up()
        self.until(lambda: self.stored(path)["wiring"]["nodes"]["tank"]["x"] < before["x"] - 0.2)
        length = self.stored(path)["wiring"]["branches"]["unit_tank"]["length"]
        self.assertEqual(length, "2.6 m")  # the string's, whatever the drawing
        page.get_by_role("button", name="control unit to tank and pump", exact=True).click()
        expect(page.get_by_role("region", name=re.compile("^In control unit to tank"))).to_contain_text("pump feed")
        bend = page.get_by_role("button", name=re.compile("^Bend of this branch"))
        bend.focus()
        for _ in range(3):
            page.keyboard.press("ArrowUp")
        self.until(lambda: "bend" in self.stored(path)["wiring"]["branches"]["unit_tank"])
        bend.focus()
        page.keyboard.press("Delete")
        self.until(lambda: not self.stored(path)["wiring"]["branches"]["unit_tank"].get("bend"))

    def test_a_place_of_ones_own_and_a_part_that_sits_elsewhere(self) -> None:
        path = self.car("tern")
        page = self.open(f"{path}/wiring/routes")
        page.get_by_role("button", name="control unit to tank and pump", exact=True).click()
        page.get_by_role("button", name=re.compile("A place on control unit to tank")).click()
        expect(page.get_by_role("button", name="Place 1 to tank and pump", exact=True)).to_be_visible()
        page.get_by_label("A part that sits elsewhere").select_option("pump")
        page.get_by_label("pump sits at").select_option("place_1")
        self.until(lambda: self.stored(path)["wiring"].get("sits") == {"pump": "place_1"})
        page.get_by_role("button", name="As usual").click()
        page.get_by_role("button", name="Take out").click()
        expect(page.get_by_role("button", name="control unit to tank and pump", exact=True)).to_be_visible()

    def test_a_wire_of_ones_own_that_shorts_is_refused_beside_it(self) -> None:
        self.expect_failures = True
        path = self.car("tern")
        page = self.open(f"{path}/wiring/wires")
        page.get_by_role("button", name="Add wire").click()
        page.get_by_text("Wire 1", exact=True).first.click()
        page.get_by_label("To, Wire 1").select_option("battery.minus")
        expect(page.get_by_role("alert").first).to_contain_text("Wire 1")
        self.assertEqual(self.stored(path)["wiring"]["added"]["wire_1"]["end"], "coils.plus")
        page.get_by_label("To, Wire 1").select_option("own_interior_lamp.plus")
        self.until(lambda: self.stored(path)["wiring"]["added"]["wire_1"]["end"] == "own_interior_lamp.plus")
        expect(page.locator("table").first).to_contain_text("Wire 1")

    def test_which_wire_is_hot_while_cranking_held_on_the_telephone_until_it_is_sent(self) -> None:
        path = self.car("hollin")
        page = self.open(f"{path}/wiring/feeds", width=390, height=844, touch=True)
        for key, volts in (("Off", "0,1"), ("Run", "12.3"), ("Crank", "10.4")):
            page.get_by_label("The meter shows").fill(volts)
            page.get_by_role("button", name=re.compile(f"^{key}")).tap()
        page.reload()
        expect(page.get_by_text("3 on this telephone, not sent yet: off, run, crank.")).to_be_visible()
        page.get_by_role("button", name="Send them").tap()
        self.until(lambda: self.stored(path)["wiring"]["feed"]["crank"] == "10.4 V")
        expect(page.get_by_text("not sent yet")).to_have_count(0)

    def test_an_unknown_wire_is_told_by_four_positions_of_the_key(self) -> None:
        path = self.car("hollin")
        page = self.open(f"{path}/wiring/met")
        page.get_by_role("button", name="Add old wire").click()
        row = page.locator("#f\\/wiring\\/old details").last
        row.locator("summary").click()
        at = f"/wiring/old/{len(self.stored(path)['wiring'].get('old', [])) - 1}"
        for key, volts in (("off", "0 V"), ("run", "12.2 V"), ("crank", "0.2 V")):
            type_in(page, f"{at}/volts/{key}", volts)
        expect(row.get_by_role("status")).to_contain_text("dies while cranking")

    def test_a_label_opens_its_wire_where_it_goes_and_what_it_should_read(self) -> None:
        path = self.car("tern")
        page = self.open(f"{path}/wiring/tests#f/wiring/tests/pump_feed", width=390, height=844, touch=True)
        way = page.get_by_role("region", name="Where it goes")
        expect(way).to_contain_text("pump relay, pin 30")
        expect(way.get_by_role("listitem").first).to_contain_text("12.60 V")
        way.get_by_role("button", name="off").tap()
        expect(way).to_contain_text("open")

    def test_a_plug_by_its_face_from_both_sides(self) -> None:
        page = self.open(f"{self.car('tern')}/wiring/plugs")
        face = page.get_by_role("region", name="Face of the control unit")
        expect(face.get_by_role("button").first).to_contain_text("A1")
        page.get_by_role("button", name="mating side").click()
        expect(face.get_by_role("button").first).to_contain_text("A9")
        face.get_by_role("button", name=re.compile("^A1 ")).click()
        expect(page.get_by_role("region", name="What is in this place")).to_contain_text("Goes to battery plus")

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
