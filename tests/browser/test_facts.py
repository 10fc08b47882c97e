"""What people have and can say: where fuel enters, one figure of a pump, what a unit can be set to, a temporary fit; each moves what is seen."""

import unittest

from playwright.sync_api import Page, expect

from tests.browser.served import BrowserCase, type_in
from uphill_spark import store
from uphill_spark.core import fresh

ANSWERS = {"name": "Plain four", "layout": "port_plenum", "cylinders": 4, "displacement": "1800 cc", "power": "80 kW", "fuel": "E10"}


def choose(page: Page, pointer: str, option: str) -> None:
    """Pick an option of a field with a list."""
    page.locator(f'[id="f{pointer}"]').click()
    page.get_by_role("option", name=option, exact=True).click()


class Facts(BrowserCase):
    def fresh(self) -> str:
        with self.database.work() as session:
            head = store.create(session, fresh.new_document({**ANSWERS, "arrangement": "inline", "distributor": "goes"}), "Ada", "New")
            return f"/b/{head.row.id}"

    def test_where_fuel_enters_turns_the_verdict_and_the_drawing(self) -> None:
        path = self.car("tern")
        page = self.open(f"{path}/injectors/enters")
        drawing = page.get_by_role("img", name="Injectors spray below the plate into the manifold")
        expect(drawing).to_be_visible()
        choose(page, "/injectors/enters", "above plates")
        expect(page.get_by_role("img", name="Injectors spray above the plate into the open air")).to_be_visible()
        snag = page.get_by_role("article", name="Sort out: Pressure across the injector")
        expect(snag).to_contain_text("Leave the regulator's spring side open to the air")
        choose(page, "/fuel/regulator/reference", "open air")
        expect(page.get_by_text("Nothing to mend", exact=False)).to_be_visible()

    def test_a_pump_known_by_one_figure_fills_its_table_in_pencil(self) -> None:
        path = self.fresh()
        page = self.open(f"{path}/fuel/pump")
        page.get_by_text("I know one figure only, or its label").click()
        type_in(page, "/fuel/pump/rated/flow", "190 L/h")
        expect(page.get_by_role("article", name="Watch: Pump table")).to_contain_text("known by one figure, 190 L/h")
        stored = self.stored(path)
        self.assertIn("/fuel/pump/curve", stored["marks"])
        self.assertTrue(any(row["flow"] == "190.0 L/h" for row in stored["fuel"]["pump"]["curve"]))
        page.reload()  # what is there stands open
        expect(page.locator('[id="f/fuel/pump/rated/flow"]')).to_have_value("190 L/h")

    def test_what_a_unit_cannot_be_set_to_is_a_stop_and_on_the_order_sheet(self) -> None:
        path = self.car("tern")
        page = self.open(f"{path}/wiring/sits")
        row = page.get_by_role("group", name="the trigger wheel's pattern")
        row.get_by_role("button", name="no").click()
        expect(page.get_by_role("article", name="Stop: What it can be set to")).to_contain_text("Another unit")
        row.get_by_role("button", name="yes").click()
        expect(page.get_by_role("article", name="Stop: What it can be set to")).to_have_count(0)
        page.goto(f"{self.address}{path}/wiring/papers")
        with page.expect_download() as told:
            page.get_by_role("link", name="Order sheet, PDF").click()
        self.assertEqual(told.value.path().read_bytes()[:5], b"%PDF-")

    def test_a_temporary_fit_bars_moving_until_it_is_undone(self) -> None:
        path = self.car("tern")
        page = self.open(f"{path}/start/temporary", width=390, height=844, touch=True)
        page.get_by_role("button", name="Add a temporary fit").tap()
        type_in(page, "/start/temporary/0/what", "return led into a can")
        choose(page, "/start/temporary/0/bars", "move")
        page.goto(f"{self.address}{path}/start")
        gate = page.get_by_role("region", name="Before it moves")
        expect(gate).to_contain_text("return led into a can")
        expect(page.get_by_text("Nothing holds the first start.")).to_be_visible()
        gate.get_by_role("button", name="Take me there").tap()
        type_in(page, "/start/temporary/0/undone", "2026-06-01")
        page.goto(f"{self.address}{path}/start")
        expect(page.get_by_role("region", name="Before it moves")).to_have_count(0)


if __name__ == "__main__":
    unittest.main()
