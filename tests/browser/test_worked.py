"""The engine worked from its measures, on screen: it comes while the person waits, says how sure it is, and a measure that is told makes it surer."""

import re
import unittest

from playwright.sync_api import expect

from tests.browser.served import WORKED_OUT, BrowserCase, type_in
from tests.browser.test_facts import choose


class WorkedEngine(BrowserCase):
    works = True

    def test_power_comes_with_its_band_and_a_measure_makes_it_surer(self) -> None:
        path = self.car("tern")
        page = self.open(f"{path}/engine/worked")
        worked = page.get_by_role("region", name="Worked from its measures")
        expect(worked).to_contain_text("being worked")
        expect(page.get_by_test_id("worked")).to_contain_text(re.compile(r"\d+ kW at \d+ rpm, ± \d"), timeout=WORKED_OUT)
        expect(worked).to_contain_text("less than is aimed at, more than the doubt explains")
        expect(page.get_by_role("img", name=re.compile("^Worked: .*are aimed at"))).to_be_visible()
        surer = page.get_by_role("region", name="What would make it surer")
        expect(surer.get_by_role("row", name=re.compile("^Inlet tract"))).to_be_visible()
        choose(page, "/engine/exhaust", "cast manifold")
        type_in(page, "/engine/tract", "340 mm")
        expect(surer.get_by_role("row", name=re.compile("^Inlet tract"))).to_have_count(0, timeout=WORKED_OUT)

    def test_the_grid_is_read_cell_by_cell_with_its_doubt(self) -> None:
        page = self.open(f"{self.car('tern')}/tune/worked")
        grid = page.get_by_role("group", name=re.compile("^Volumetric efficiency, worked"))
        expect(grid).to_contain_text(re.compile(r"rpm: \d+.*, ± \d+ %"), timeout=WORKED_OUT)
        page.get_by_role("group", name="Which table").get_by_role("button", name="Ignition advance").click()
        advance = page.get_by_role("group", name=re.compile("^Ignition advance, worked"))
        expect(advance).to_be_visible()
        expect(page.get_by_text(re.compile("cells are ruled by knock"))).to_be_visible()
        advance.focus()
        before = advance.inner_text()
        page.keyboard.press("ArrowRight")
        self.assertNotEqual(advance.inner_text(), before)


if __name__ == "__main__":
    unittest.main()
