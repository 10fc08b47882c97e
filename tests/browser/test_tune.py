"""The tune on screen: kept, typed over as in a spreadsheet, compared, rolled back, read in, taken away, walked through; on a laptop and on a phone."""

import re
import unittest

from playwright.sync_api import Page, expect

from tests.browser.served import WORKED_OUT, BrowserCase, to_bench


def cell(page: Page, row: int, column: int) -> None:
    """Press a cell of the grid that is shown."""
    page.locator(f'[data-cell="{row} {column}"]').first.click()


class Tables(BrowserCase):
    def tables(self, page: Page) -> None:
        expect(page.get_by_role("group", name=re.compile("^Volumetric efficiency. Arrow keys.*with Shift a range"))).to_be_visible()

    def test_cells_are_typed_over_changed_in_a_range_and_taken_back(self) -> None:
        page = self.open(f"{self.car('tern')}/tune/tables")
        self.tables(page)
        cell(page, 9, 8)
        page.keyboard.type("81")
        page.keyboard.press("Enter")
        grid = page.get_by_role("group", name=re.compile("^Volumetric efficiency"))
        expect(grid).to_contain_text("rpm: 81")
        expect(page.get_by_role("region", name="What the cell held")).to_contain_text("81 from revision 2")
        cell(page, 9, 8)
        page.keyboard.press("Shift+ArrowRight")
        page.keyboard.press("Shift+ArrowUp")
        expect(page.get_by_text("4 cells that are chosen")).to_be_visible()
        box = page.get_by_label(re.compile("cells that are chosen"))
        box.fill("+10 %")
        box.press("Enter")
        expect(page.get_by_text(re.compile("4 cells, by up to")).first).to_be_visible()
        page.get_by_role("button", name="Undo").first.click()
        cell(page, 9, 8)
        expect(grid).to_contain_text("rpm: 81")

    def test_what_cannot_be_written_is_told_where_it_was_typed(self) -> None:
        page = self.open(f"{self.car('tern')}/tune/tables")
        self.tables(page)
        box = page.get_by_label("The cell that is chosen")
        for typed, told in (("lots", "A number, like 5 or -2.5"), ("900", "1 to 250")):
            self.expect_failures = True
            box.fill(typed)
            box.press("Enter")
            expect(page.get_by_role("alert").filter(has_text=told)).to_be_visible()
        box.fill("66")
        box.press("Enter")
        expect(page.get_by_role("alert")).to_have_count(0)

    def test_a_range_goes_to_a_spreadsheet_and_comes_back(self) -> None:
        page = self.open(f"{self.car('tern')}/tune/tables")
        self.tables(page)
        cell(page, 8, 6)
        page.keyboard.press("Shift+ArrowRight")
        copied = page.evaluate(
            """() => { const told = new DataTransfer(); const e = new ClipboardEvent('copy', {bubbles: true, clipboardData: told});
            document.activeElement.closest('[role=group]').dispatchEvent(e); return told.getData('text/plain'); }"""
        )
        self.assertRegex(copied, r"^\d+(\.\d)?\t\d+(\.\d)?$")
        page.evaluate(
            """() => { const told = new DataTransfer(); told.setData('text/plain', '61\\t62\\n63\\t64');
            document.activeElement.closest('[role=group]').dispatchEvent(new ClipboardEvent('paste', {bubbles: true, clipboardData: told})); }"""
        )
        expect(page.get_by_text(re.compile("4 cells, by up to")).first).to_be_visible()
        cell(page, 9, 7)
        expect(page.get_by_role("group", name=re.compile("^Volumetric efficiency"))).to_contain_text("rpm: 64")

    def test_a_curve_is_worked_on_like_a_grid(self) -> None:
        page = self.open(f"{self.car('tern')}/tune/tables")
        self.tables(page)
        page.get_by_label("Table", exact=True).select_option(label="Warm-up fuel")
        curve = page.get_by_role("group", name=re.compile("^Warm-up fuel"))
        curve.locator('[data-cell="0 2"]').click()
        curve.focus()
        page.keyboard.type("1.3")
        page.keyboard.press("Enter")
        expect(curve.locator('[data-cell="0 2"]')).to_have_text("1.3")
        page.get_by_label("Table", exact=True).select_option(label="Dwell")
        page.get_by_role("button", name="Keep this table too").click()
        expect(page.get_by_label("The cell that is chosen")).to_be_visible()

    def test_on_a_phone_a_cell_is_found_by_speed_and_load(self) -> None:
        page = self.open(f"{self.car('tern')}/tune", width=390, height=844, touch=True)
        page.get_by_label("rpm", exact=True).select_option(label="3220")
        page.get_by_label("manifold pressure, kPa", exact=True).select_option(label="88")
        expect(page.get_by_role("group", name=re.compile("^Volumetric efficiency"))).to_contain_text("88 kPa, 3,220 rpm")
        expect(page.get_by_role("region", name="The chosen cell")).to_contain_text("A hill in top")


class Kept(BrowserCase):
    def test_a_tune_is_kept_changed_compared_and_rolled_back_by_one_press(self) -> None:
        page = self.open(f"{self.car('hollin')}/tune/tables")
        page.get_by_role("button", name="Keep these tables").click()
        expect(page.get_by_label("The cell that is chosen")).to_be_visible()
        cell(page, 8, 8)
        page.keyboard.type("55")
        page.keyboard.press("Enter")
        expect(page.get_by_role("group", name=re.compile("^Fuel by throttle"))).to_contain_text("rpm: 55")
        to_bench(page, "Kept")
        expect(page.get_by_role("group", name="Tables that differ")).to_contain_text("Fuel by throttle: 1 cells")
        page.get_by_role("button", name="Roll back to this: revision 2").click()
        expect(page.get_by_text("No cell differs between the quick tables and the tables in use")).to_be_visible()
        page.get_by_role("button", name="Stands in the unit").click()
        expect(page.get_by_text("It stands in the unit as it is.")).to_be_visible()
        trail = page.get_by_role("region", name="Trail")
        expect(trail.get_by_role("listitem").first).to_contain_text("The kept tune stands in the unit")

    def test_ones_own_cells_are_asked_about_before_a_tune_is_made_anew(self) -> None:
        page = self.open(f"{self.car('tern')}/tune/kept")
        page.get_by_role("button", name="Make it anew of the quick tables").click()
        own = page.get_by_role("region", name="Your own cells")
        expect(own).to_contain_text("18 cells are your own")
        own.get_by_role("button", name="Keep mine, the rest anew").click()
        expect(page.get_by_text(re.compile("Made of the quick tables; 18 cells are your own"))).to_be_visible()
        page.get_by_role("button", name="Make it anew of the quick tables").click()
        own.get_by_role("button", name="All anew").click()
        expect(page.get_by_text(re.compile("Made of the quick tables; 0 cells are your own"))).to_be_visible()

    def test_what_stands_in_the_unit_is_read_in_and_kept_as_found(self) -> None:
        page = self.open(f"{self.car('brindle')}/tune/read")
        text = ";600;1200;2400;4800\n40;15;28;34;36\n100;10;20;27;30\n\nWarm up\n-20;1,6\n75;1,0\n"
        page.get_by_label(re.compile("^Tables as text")).fill(text)
        page.get_by_role("button", name="Read", exact=True).click()
        asked = page.get_by_role("group", name="What are these cells?")
        asked.get_by_role("button", name=re.compile("^advance in degrees")).click()
        expect(page.get_by_role("region", name="Ignition advance")).to_contain_text("is it another engine's table?")
        page.get_by_role("button", name="Take as found").click()
        expect(page.get_by_text("Kept as found.")).to_be_visible()
        to_bench(page, "Kept")
        expect(page.get_by_text(re.compile("2 tables.*Nobody writes in them"))).to_be_visible()
        page.get_by_role("button", name="Go back to as found").click()
        expect(page.get_by_text(re.compile("Made of what was found in the unit"))).to_be_visible()

    def test_a_table_that_is_not_whole_is_named_by_its_line(self) -> None:
        page = self.open(f"{self.car('tern')}/tune/read")
        self.expect_failures = True
        page.get_by_label(re.compile("^Tables as text")).fill("VE [%]; 800; 1600; 3200\n40; 42; ; 58\n100; 68; 78; 85\n")
        page.get_by_role("button", name="Read", exact=True).click()
        expect(page.get_by_role("alert")).to_contain_text("line 2")
        expect(page.get_by_role("alert")).to_contain_text("nothing in column 3")

    def test_the_workbook_is_taken_away(self) -> None:
        page = self.open(f"{self.car('tern')}/tune/papers")
        with page.expect_download() as got:
            page.get_by_role("link", name="All, as a workbook").click()
        self.assertTrue(got.value.suggested_filename.endswith("tune.xlsx"))

    def test_from_frost_to_hot(self) -> None:
        page = self.open(f"{self.car('tern')}/tune/warmth")
        slide = page.get_by_role("slider", name=re.compile("^Coolant"))
        slide.focus()
        row = page.get_by_role("row", name=re.compile("^Idle target"))
        before = row.inner_text()
        for _ in range(8):
            page.keyboard.press("ArrowLeft")
        self.until(lambda: row.inner_text() != before)
        expect(row).to_contain_text("1,")


class Worked(BrowserCase):
    works = True

    def test_the_worked_engine_is_given_up_begun_again_and_becomes_the_kept_tune(self) -> None:
        page = self.open(f"{self.car('brindle')}/tune/worked")
        page.get_by_role("button", name="Give it up").click(timeout=WORKED_OUT)
        page.get_by_role("button", name="Work it out").click(timeout=WORKED_OUT)
        expect(page.get_by_role("progressbar", name="The engine")).to_be_visible(timeout=WORKED_OUT)
        page.reload()
        page.get_by_role("button", name="Make the kept tune of this").click(timeout=WORKED_OUT)
        expect(page.get_by_text(re.compile("Tune kept, of the worked engine")).first).to_be_visible()
        expect(page.get_by_role("region", name="The chosen cell")).to_contain_text("best")
        to_bench(page, "Kept")
        expect(page.get_by_text(re.compile("Made of the worked engine"))).to_be_visible()


if __name__ == "__main__":
    unittest.main()
