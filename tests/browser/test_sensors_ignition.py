"""Under the car with a telephone: a bare wheel and sensor to a known trigger angle and a passed bench test; and the ignition on the bench."""

import re
import unittest
from typing import Any

from playwright.sync_api import Page, expect

from tests.browser.served import BrowserCase, to_bench, type_in


def bare(document: dict[str, Any]) -> dict[str, Any]:
    """Sensors of which only the wheel is known: twelve teeth less one, nothing measured."""
    return {**document["sensors"], "trigger": {"teeth": 12, "missing": 1, "sensor": "hall"}}


class UnderTheCar(BrowserCase):
    def car_with_a_bare_wheel(self) -> str:
        return self.car("tern", sensors=bare(self.document("tern")), ignition={**self.document("tern")["ignition"], "timing": []})

    def meter(self, page: Page) -> None:
        """What the meter shows, typed once: before that nothing can be pressed."""
        expect(page.get_by_role("button", name="Low, over the tooth")).to_be_disabled()
        page.get_by_label("Supply", exact=True).fill("5 V")
        page.get_by_label("the meter shows").first.fill("0.2 V")
        page.get_by_label("the meter shows").last.fill("4.9 V")

    def tooth(self, page: Page, low: str | None = None) -> None:
        if low:
            page.get_by_label("the meter shows").first.fill(low)
        page.get_by_role("button", name="Low, over the tooth").click()
        page.get_by_role("button", name="High, after it").click()

    def test_from_a_bare_wheel_to_an_angle_and_a_passed_test_on_a_telephone(self) -> None:
        car = self.car_with_a_bare_wheel()
        page = self.open(f"{car}/sensors/hand", 390, 844)
        test = page.get_by_role("region", name="Hand-turn test", exact=True)
        self.meter(page)
        for k in range(1, 5):
            expect(test).to_contain_text(f"tooth {k} of 11")
            self.tooth(page)
        page.get_by_role("button", name="Low, over the tooth").click()
        page.reload()  # a call comes in
        test = page.get_by_role("region", name="Hand-turn test", exact=True)
        expect(test).to_contain_text("tooth 5 of 11")
        page.get_by_role("button", name="High, after it").click()
        for _ in range(6):
            self.tooth(page)
        expect(page.get_by_role("button", name="Low, over the tooth")).to_be_disabled()
        page.get_by_role("button", name="Back at the gap").click()
        expect(test).to_contain_text("Passed: All 11 teeth show")
        kept = self.stored(car)["sensors"]["trigger"]["hand_turn"]
        self.assertEqual((len(kept["levels"]), kept["finished"]), (11, True))
        to_bench(page, "Top of number one")
        page.get_by_role("button", name="At top now: tap the tooth").click()
        page.get_by_role("button", name="Tooth 3 is under the sensor").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("Tooth under the sensor at top")
        expect(page.get_by_text("Tooth 3.0 from the gap under the sensor")).to_be_visible()
        self.assertEqual(self.stored(car)["sensors"]["trigger"]["tooth_at_top"], 3)
        to_bench(page, "Overview")
        expect(page.locator("#g-trigger\\.angle")).to_contain_text("90")

    def test_the_tooth_that_fails_is_named_and_what_is_read_can_be_kept(self) -> None:
        car = self.car_with_a_bare_wheel()
        page = self.open(f"{car}/sensors/hand", 390, 844)
        test = page.get_by_role("region", name="Hand-turn test", exact=True)
        self.meter(page)
        self.tooth(page)
        self.tooth(page, "1.6 V")
        expect(test.get_by_role("alert")).to_contain_text("Tooth 2: 1.6 V over it")
        page.get_by_role("button", name="Keep so far").click()
        expect(test).to_contain_text("Failed: Tooth 2 stays at 1.6 V over the tooth")
        page.get_by_role("button", name="Go on from tooth 2").click()
        page.get_by_role("button", name="One back").click()
        expect(test).to_contain_text("tooth 2 of 11")
        page.get_by_role("button", name="Start again").click()
        expect(test).to_contain_text("tooth 1 of 11")

    def test_the_wheel_is_seen_from_the_other_side(self) -> None:
        car = self.car()
        page = self.open(f"{car}/sensors/top")
        expect(page.get_by_role("group", name=re.compile("seen from the front, turning clockwise"))).to_be_visible()
        page.locator('[id="f/sensors/trigger/seen_from"]').click()
        page.get_by_role("option", name="rear").click()
        expect(page.get_by_role("group", name=re.compile("seen from the rear, turning anticlockwise"))).to_be_visible()

    def test_another_wheel_is_taken_and_what_was_counted_on_the_old_one_goes(self) -> None:
        car = self.car()
        page = self.open(f"{car}/sensors/scope")
        wheels = page.get_by_role("region", name="Other wheels")
        expect(wheels.get_by_role("row").filter(has_text="36-1")).to_contain_text("as it is")
        wheels.get_by_role("button", name="Take it: a wheel of 60 less 2").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("TRIG-05")
        kept = self.stored(car)["sensors"]["trigger"]
        self.assertEqual((kept["teeth"], kept["missing"], "angle" in kept, "hand_turn" in kept), (60, 2, False, False))


class SensorsInTheirPlaces(BrowserCase):
    def test_a_place_is_pressed_on_the_drawing(self) -> None:
        car = self.car("brindle")
        page = self.open(f"{car}/sensors/set")
        page.get_by_role("button", name="coolant sensor: engine side of the thermostat").click()
        expect(
            page.get_by_role("group", name=re.compile("coolant sensor sits engine side of the thermostat, which is right"))
        ).to_be_visible()
        place = page.get_by_role("button", name="air sensor: after the filter")
        place.focus()
        page.keyboard.press("Enter")
        expect(page.get_by_role("group", name=re.compile("air sensor sits after the filter, which is right"))).to_be_visible()
        kept = self.stored(car)["sensors"]
        self.assertEqual((kept["coolant"]["place"], kept["air"]["place"]), ("before_thermostat", "after_filter"))

    def test_the_oxygen_sensor_is_slid_to_where_it_may_sit(self) -> None:
        car = self.car("brindle")
        page = self.open(f"{car}/sensors/oxygen")
        expect(page.get_by_role("img", name=re.compile("Exhaust of 1.35 m.*which is wrong"))).to_be_visible()
        expect(page.get_by_role("article").filter(has_text="in a bend")).to_be_visible()
        type_in(page, "/sensors/oxygen/path/3/length", "1.5 m")
        slider = page.get_by_label("Slide it along the pipe")
        slider.fill("880")
        page.get_by_label("Turn it round the pipe").fill("45")
        expect(page.get_by_role("img", name=re.compile("It sits at 880 mm, which is allowed"))).to_be_visible()
        kept = self.stored(car)["sensors"]["oxygen"]
        self.assertEqual((kept["distance"], kept["clock"]), ("880 mm", "45 deg"))

    def test_a_sender_from_points_to_a_table(self) -> None:
        self.expect_failures = True
        car = self.car("tern", sensors={**self.document("tern")["sensors"], "air": None})
        page = self.open(f"{car}/sensors/air")
        group = page.get_by_role("region", name="Air sensor: fields")
        group.get_by_role("button", name="Enter its points").click()
        expect(page.locator('[id="f/sensors/air/points/0/resistance"]')).to_have_value("")
        type_in(page, "/sensors/air/points/0/temperature", "0")
        type_in(page, "/sensors/air/points/0/resistance", "5900")
        type_in(page, "/sensors/air/points/1/temperature", "20")
        type_in(page, "/sensors/air/points/1/resistance", "5900 ohm")
        expect(page.get_by_role("alert").filter(has_text="falls as it gets hotter")).to_be_visible()
        type_in(page, "/sensors/air/points/1/resistance", "2500 ohm")
        type_in(page, "/sensors/air/pull_up", "2490")
        group.get_by_text("All points at once").click()
        group.get_by_label("Temperature and ohms, a line each").fill("0; 5890\n20; 2500\n40; 1175\n80; 322")
        group.get_by_role("button", name="Take these rows").click()
        expect(page.locator('[id="f/sensors/air/points/3/resistance"]')).to_have_value("322 ohm")
        expect(page.get_by_role("img", name=re.compile("Intake air sensor: volts"))).to_be_visible()
        self.assertEqual(len(self.stored(car)["sensors"]["air"]["points"]), 4)
        group.get_by_role("button", name="Somebody else reads it").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("Shared sender")
        expect(page.locator('[id="f/sensors/air/shared/name"]')).to_have_value("temperature gauge")
        to_bench(page, "Papers")
        with page.expect_download() as download:
            page.get_by_role("link", name="Air table, CSV").click()
        self.assertIn("resolution (K)", download.value.path().read_text())

    def test_cards_are_printed_and_a_way_is_taken(self) -> None:
        car = self.car()
        page = self.open(f"{car}/sensors/scope")
        with page.expect_download() as download:
            page.get_by_role("link", name="Signals, CSV").click()
        self.assertIn("signals.csv", download.value.suggested_filename)
        to_bench(page, "Papers")
        for name, ending in (("Sensor card, PDF", "sensors.pdf"), ("Trigger bench test, PDF", "trigger.pdf")):
            with page.expect_download() as download:
                page.get_by_role("link", name=name).click()
            self.assertIn(ending, download.value.suggested_filename)
        to_bench(page, "Ways")
        page.get_by_text("Sequential or paired?").click()
        page.get_by_role("button", name="Take this way: Paired, every turn").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("Fires")
        self.assertEqual(self.stored(car)["injectors"]["firing"], "every_turn")


class OnTheIgnition(BrowserCase):
    def test_crossed_plugs_are_named_and_mended(self) -> None:
        car = self.car()
        page = self.open(f"{car}/ignition/order")
        type_in(page, "/ignition/letters/0/output", "B")
        type_in(page, "/ignition/letters/1/output", "A")
        expect(page.get_by_text("As wired A and B are changed over: 2 of 6 cylinders get their spark on time.")).to_be_visible()
        page.get_by_role("button", name="Undo").first.click()
        page.get_by_role("button", name="Undo").first.click()
        expect(page.get_by_text("As wired A and B are changed over")).to_have_count(0)

    def test_the_light_the_rotor_and_the_card(self) -> None:
        car = self.car("brindle")
        page = self.open(f"{car}/ignition/light")
        expect(page.get_by_role("img", name=re.compile("drifts -2.50 degrees in 1,000 rpm"))).to_be_visible()
        to_bench(page, "Distributor")
        type_in(page, "/ignition/distributor/rotor_tip", "24 deg")
        type_in(page, "/ignition/distributor/meets", "21.5 deg")
        expect(page.get_by_role("img", name=re.compile("The tip 24 degrees wide"))).to_be_visible()
        expect(page.get_by_text("the spark leaves the tip")).to_have_count(0)
        to_bench(page, "Coil and driver")
        page.get_by_role("button", name="Describe the igniter").click()
        expect(page.get_by_text("The igniter has no heat sink", exact=False)).to_be_visible()
        to_bench(page, "Papers")
        with page.expect_download() as download:
            page.get_by_role("link", name="Timing card, PDF").click()
        self.assertIn("timing.pdf", download.value.suggested_filename)


if __name__ == "__main__":
    unittest.main()
