"""What is typed: refused and kept, asked about when it is far, in the person's own units; undone as often as it was pressed; a tab that was left open."""

import re
import unittest

from playwright.sync_api import Locator, Page, expect

from tests.browser.served import BrowserCase, type_in
from uphill_spark import store


def field(page: Page, pointer: str) -> Locator:
    return page.locator(f'[id="f{pointer}"]')


class Typing(BrowserCase):
    def test_what_was_refused_stays_with_its_complaint_through_a_reload(self) -> None:
        self.expect_failures = True
        page = self.open(f"{self.car()}/engine/power")
        type_in(page, "/engine/power", "118 mm")
        box = field(page, "/engine/power")
        expect(box).to_have_attribute("aria-invalid", "true")
        page.reload()
        expect(box).to_have_value("118 mm")
        expect(box).to_have_attribute("aria-invalid", "true")
        expect(page.locator(f'[id="{box.get_attribute("aria-describedby")}"]')).to_contain_text("does not measure power")
        box.press("Escape")
        expect(box).to_have_value("118 kW")
        page.reload()
        expect(box).to_have_value("118 kW")

    def test_a_bare_number_far_from_what_stood_there_is_asked_about(self) -> None:
        self.expect_failures = True
        car = self.car()
        page = self.open(f"{car}/engine/itself")
        type_in(page, "/engine/bore", "8.3")
        box = field(page, "/engine/bore")
        expect(page.get_by_text("of the 83 mm that stood there: enter it once more if it is meant")).to_be_visible()
        self.assertEqual(self.stored(car)["engine"]["bore"], "83 mm")
        type_in(page, "/engine/displacement", "9500")
        asked = page.get_by_text("times the 2597 cc that stood there")
        expect(asked).to_be_visible()
        field(page, "/engine/displacement").press("Enter")
        expect(asked).to_have_count(0)
        self.assertEqual(self.stored(car)["engine"]["displacement"], "9500 cc")
        expect(box).to_have_value("8.3")

    def test_imperial_shows_psi_with_what_was_written_behind_and_takes_bare_numbers_so(self) -> None:
        car = self.car()
        page = self.open(f"{car}/fuel/regulator")
        box = field(page, "/fuel/regulator/set_pressure")
        expect(box).to_have_value("300 kPa")
        page.get_by_role("button", name="Papers and more").click()
        page.get_by_role("menuitem", name="imperial").click()
        expect(box).to_have_value("43.5 psi")
        expect(page.locator("label", has_text="Set pressure")).to_contain_text("300 kPa")
        expect(page.get_by_role("navigation", name="Benches")).to_contain_text("psi")
        type_in(page, "/fuel/regulator/set_pressure", "45")
        expect(page.get_by_test_id("ripple")).to_contain_text("Set pressure 300 kPa → 45 psi")
        self.assertEqual(self.stored(car)["fuel"]["regulator"]["set_pressure"], "45 psi")
        page.reload()
        expect(page.get_by_role("navigation", name="Benches")).to_contain_text("psi")
        page.get_by_role("button", name="Papers and more").click()
        page.get_by_role("menuitem", name="metric").click()
        expect(box).to_have_value("310 kPa")
        page.get_by_role("button", name="Papers and more").click()
        page.get_by_role("menuitem", name="as written").click()
        expect(box).to_have_value("45 psi")


class Steps(BrowserCase):
    cuts = True

    def test_undo_pressed_as_fast_as_a_hand_goes_that_many_steps(self) -> None:
        page = self.open(f"{self.car()}/engine/power")
        box = field(page, "/engine/power")
        for kw in (120, 122, 124, 126):
            type_in(page, "/engine/power", f"{kw} kW")
        expect(page.get_by_test_id("ripple")).to_contain_text("→ 126 kW")
        page.locator("h1").click()
        for _ in range(4):
            page.keyboard.press("Control+z")
        expect(box).to_have_value("118 kW")
        for _ in range(2):
            page.keyboard.press("Control+Shift+z")
        expect(box).to_have_value("122 kW")

    def test_in_the_field_that_was_just_taken_undo_means_the_change(self) -> None:
        page = self.open(f"{self.car()}/engine/power")
        type_in(page, "/engine/power", "130 kW")
        expect(page.get_by_test_id("ripple")).to_contain_text("→ 130 kW")
        field(page, "/engine/power").press("Control+z")
        expect(field(page, "/engine/power")).to_have_value("118 kW")

    def test_undo_while_the_store_is_away_waits_and_is_not_lost(self) -> None:
        self.expect_failures = True
        car = self.car()
        page = self.open(f"{car}/engine/power")
        type_in(page, "/engine/power", "130 kW")
        expect(page.get_by_test_id("ripple")).to_contain_text("→ 130 kW")
        self.switch.cut()
        page.locator("h1").click()
        page.keyboard.press("Control+z")
        expect(page.get_by_text("1 change waits")).to_be_visible()
        self.switch.join()
        expect(field(page, "/engine/power")).to_have_value("118 kW")
        self.assertEqual(self.stored(car)["engine"]["power"], "118 kW")

    def test_a_tab_that_comes_back_shows_the_build_as_it_stands_and_says_so(self) -> None:
        car = self.car()
        here = self.open(f"{car}/engine/power")
        expect(field(here, "/engine/power")).to_have_value("118 kW")
        there = self.open(f"{car}/engine/power")
        type_in(there, "/engine/power", "130 kW")
        expect(there.get_by_test_id("ripple")).to_contain_text("→ 130 kW")
        here.evaluate("document.dispatchEvent(new Event('visibilitychange'))")
        expect(here.get_by_text("The build has moved on elsewhere by 1 revision")).to_be_visible()
        expect(field(here, "/engine/power")).to_have_value("130 kW")

    def test_single_letters_can_be_switched_off_and_titles_carry_car_and_station(self) -> None:
        page = self.open(f"{self.car()}/engine")
        expect(page).to_have_title(re.compile("^Engine · Marlow Tern 2600 estate"))
        page.locator("body").press("2")
        expect(page).to_have_url(re.compile("/fuel$"))
        expect(page).to_have_title(re.compile("^Fuel · Marlow Tern"))
        page.locator("body").press("?")
        page.get_by_label("Single letters and figures are keys").uncheck()
        page.get_by_role("button", name="Close").click()
        page.locator("body").press("3")
        page.locator("body").press("?")
        expect(page.get_by_role("dialog")).to_have_count(0)
        expect(page).to_have_url(re.compile("/fuel$"))

    def test_the_keyboard_arrives_at_the_heading_and_nothing_hides_behind_the_last_change(self) -> None:
        page = self.open(f"{self.car()}/engine")
        page.get_by_role("navigation", name="Stations").get_by_role("link", name=re.compile("^Fuel")).click()
        expect(page.locator("main h1")).to_be_focused()
        page.goto(page.url.replace("/fuel", "/engine/itself"))
        type_in(page, "/engine/bore", "84 mm")
        bar = page.get_by_label("What the last change moved")
        expect(bar).to_be_visible()
        page.set_viewport_size({"width": 1280, "height": 420})
        for _ in range(40):
            page.keyboard.press("Tab")
            hidden = page.evaluate("""() => {
              const e = document.activeElement, bar = document.querySelector("[aria-label='What the last change moved']").getBoundingClientRect();
              if (!e.closest("main")) return false;
              const r = e.getBoundingClientRect();
              return r.top > bar.top - 2;
            }""")
            self.assertFalse(hidden, page.evaluate("document.activeElement.outerHTML.slice(0, 120)"))

    def test_a_name_of_eighty_letters_without_a_break_or_with_pictures_breaks_nothing(self) -> None:
        for name in ("W" * 80, "\U0001f697\u200d\U0001f527" * 20, "Ääöü" * 20):
            with self.database.work() as session:
                car = f"/b/{store.create(session, {**self.document('tern'), 'name': name}, 'Ada', 'Read from a file').row.id}"
            for path in ("/", f"{car}/engine", f"{car}/start", f"{car}/revisions"):
                page = self.open(path, width=390, height=844)
                expect(page.get_by_role("heading").first).to_be_visible()
                with self.subTest(path=path.rsplit("/", 1)[1], name=name[:4]):
                    self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)
                page.close()

    def test_guesses_stand_those_first_that_could_change_a_verdict_and_are_accepted(self) -> None:
        car = self.car("hollin")
        page = self.open(f"{car}/guesses")
        rows = page.get_by_role("list", name="In pencil").get_by_role("listitem")
        expect(rows.first).to_contain_text("Could change")
        first = rows.first.locator("p").first.inner_text()
        rows.first.get_by_role("button", name=re.compile("^Accept")).click()
        expect(rows.first).not_to_contain_text(first)
        rows.first.get_by_role("link", name=re.compile("^Replace")).click()
        expect(page.get_by_role("navigation", name="Benches")).to_be_visible()


if __name__ == "__main__":
    unittest.main()
