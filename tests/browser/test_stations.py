"""The stations in depth, as a person at the bench uses them."""

import re
import unittest

from playwright.sync_api import expect

from tests.browser.served import BrowserCase, to_bench, type_in


class FuelInDepth(BrowserCase):
    def test_advice_is_made_a_revision_by_one_press(self) -> None:
        car = self.car("brindle")
        page = self.open(f"{car}/fuel/mend")
        page.get_by_role("button", name="Make it so: Pump switched by the control unit").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("FUEL-14 has gone")
        self.assertEqual(self.stored(car)["fuel"]["pump"]["control"], "control_unit")
        expect(page.get_by_role("button", name="Make it so: Pump switched by the control unit")).to_have_count(0)
        page.get_by_role("button", name="Papers and more").click()
        page.get_by_role("menuitem", name="Revisions").click()
        expect(page.get_by_text("Because: Advice: Pump switched by the control unit")).to_be_visible()

    def test_a_path_is_strung_by_hand_and_a_wrong_one_says_why(self) -> None:
        self.expect_failures = True
        car = self.car()
        page = self.open(f"{car}/fuel/path")
        page.get_by_text("Where the pressure goes, part by part").click()
        page.get_by_role("button", name="Move or add at Supply").click()
        page.get_by_role("menuitem", name="Check valve after this").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("Check valve put on the path")
        expect(page.locator('[id="f/fuel/parts/check_valve/opens_at"]')).to_have_value("3 kPa")
        type_in(page, "/fuel/parts/check_valve/opens_at", "9 kPa")
        expect(page.get_by_test_id("ripple")).to_contain_text("3 kPa → 9 kPa")
        page.get_by_role("button", name="Move or add at Check valve").click()
        page.get_by_role("menuitem", name="Move earlier").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("in another order")
        self.assertEqual(self.stored(car)["fuel"]["path"][2:5], ["filter", "check_valve", "supply"])
        page.get_by_role("button", name="Move or add at Rail").click()
        page.get_by_role("menuitem", name="Pulse damper after this").click()
        expect(page.get_by_role("cell", name="damper")).to_be_visible()
        page.get_by_role("button", name="Move or add at Pump").click()
        page.get_by_role("menuitem", name="Move later").click()  # past the filter
        expect(page.get_by_test_id("ripple")).to_contain_text("in another order")
        page.get_by_role("button", name="Move or add at Return line").click()
        page.get_by_role("menuitem", name="Take it out").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("Return line taken off the path")
        page.get_by_role("button", name="Move or add at Rail").click()
        page.get_by_role("menuitem", name="Move earlier").click()  # past the supply line
        for _ in range(2):
            page.get_by_role("button", name="Move or add at Pump").click()
            page.get_by_role("menuitem", name="Move later").click()
        expect(page.get_by_role("alert").filter(has_text="The pump before rail and regulator")).to_be_visible()
        self.assertLess(self.stored(car)["fuel"]["path"].index("pump"), self.stored(car)["fuel"]["path"].index("rail"))

    def test_a_way_is_taken_and_its_parts_come_and_go(self) -> None:
        car = self.car()
        page = self.open(f"{car}/fuel/ways")
        page.get_by_text("Where does the pump sit?").click()
        answer = page.get_by_role("listitem").filter(has_text="Surge tank, filled by a lift pump")
        answer.get_by_text("What it brings").click()
        expect(answer).to_contain_text("surge tank, 1.5 L usable")
        page.get_by_role("button", name="Take this way: Surge tank, filled by a lift pump").click()
        expect(answer).to_contain_text("as it is")
        to_bench(page, "Path")
        expect(page.get_by_role("button", name="Move or add at Surge tank")).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("^Suction"))).to_be_visible()
        to_bench(page, "Ways")
        page.get_by_text("Return or not?").click()
        page.get_by_role("button", name="Take this way: Dead-head, no return").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("Return line taken off the path")
        to_bench(page, "Path")
        expect(page.get_by_role("button", name="Move or add at Surge tank")).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("^Return line"))).to_have_count(0)
        kept = self.stored(car)["fuel"]
        self.assertEqual(
            kept["path"], ["tank", "lift", "surge_tank", "strainer", "suction", "pump", "filter", "supply", "regulator", "rail"]
        )
        page.get_by_role("button", name="Papers and more").click()
        page.get_by_role("menuitem", name="Revisions").click()
        expect(page.get_by_text("Because: Return or not? Dead-head, no return")).to_be_visible()

    def test_a_pumps_sheet_is_pasted_or_read_from_a_file(self) -> None:
        self.expect_failures = True
        car = self.car()
        page = self.open(f"{car}/fuel#f/fuel/pump/name")
        page.get_by_text("Pump table, 12 rows from its sheet").click()
        page.get_by_text("Paste or read the whole sheet").first.click()
        page.get_by_label("Or paste the sheet").fill("V; kPa; L/h; A\n12; 300; 150; 7.1\n12; 400")
        page.get_by_role("button", name="Take these rows").click()
        expect(page.get_by_role("alert").filter(has_text="Line 3, flow")).to_be_visible()
        page.get_by_label("Or paste the sheet").fill("V; kPa; L/h; A\n12; 300; 150; 7.1")
        page.get_by_role("button", name="Take these rows").click()
        expect(page.get_by_role("alert").filter(has_text="2 to 200 rows")).to_be_visible()
        sheet = {
            "name": "sheet.csv",
            "mimeType": "text/csv",
            "buffer": b"volts,bar,flow (L/h),amps\n12,3,150,7.1\n12,4,120,8.4\n13.5,3,190,7.1\n",
        }
        page.get_by_label("Read a CSV file").set_input_files([sheet])
        expect(page.get_by_test_id("ripple")).to_contain_text("Pump table")
        self.assertEqual([row["pressure"] for row in self.stored(car)["fuel"]["pump"]["curve"]], ["3 bar", "4 bar", "3 bar"])

    def test_another_pump_stands_on_the_chart(self) -> None:
        car = self.car()
        page = self.open(f"{car}/fuel#f/fuel/pump/name")
        page.get_by_role("button", name="Add a pump").click()
        type_in(page, "/fuel/candidates/0/name", "spare pump")
        type_in(page, "/fuel/candidates/0/price", "60, second-hand")
        expect(page.get_by_text(re.compile(r"^spare pump \d\.\d×$"))).to_be_visible()
        page.get_by_role("button", name="Put spare pump back").click()
        expect(page.get_by_text(re.compile("^spare pump"))).to_have_count(0)
        self.assertEqual(self.stored(car)["fuel"]["candidates"], [])


class InjectorsInDepth(BrowserCase):
    def test_from_a_box_and_a_bench_log_to_six_chosen_in_their_places(self) -> None:
        self.expect_failures = True
        car = self.car()
        page = self.open(f"{car}/injectors/box")
        page.get_by_text("A whole list at once").click()
        list_ = "name,pieces,flow (cc/min),rated at (bar),resistance\nred,12,215,3,15\ntiny,6,90,3,15\n"
        page.get_by_label(re.compile("^With a heading: name")).fill(list_)
        page.get_by_role("button", name="Take these rows").first.click()
        best = page.get_by_label("The box, best first")
        expect(best.get_by_role("listitem").first).to_contain_text("1. red")
        expect(best).to_contain_text("of the time at full power, 85 % wanted at most")
        best.get_by_role("button", name="Fit these: red").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("port injector 150 → red")
        self.assertEqual(self.stored(car)["injectors"]["flow"], "215 cc/min")
        log = ["mark,volume (mL),time (s),pressure (bar),drops"]
        volumes = (104, 106.2, 99, 105.5, 110, 105.9, 106, 97, 105.1, 105.7, 102, 106.1)
        log += [f"{k},{v},30,3,{2 if k == 7 else 0}" for k, v in enumerate(volumes, 1)]
        to_bench(page, "Flow bench")
        page.get_by_text("A whole log at once").click()
        page.get_by_label(re.compile("^With a heading: mark")).fill("mark,volume\n1,100")
        page.get_by_role("button", name="Take these rows").last.click()
        expect(page.get_by_role("alert").filter(has_text="heading with time and pressure")).to_be_visible()
        page.get_by_label(re.compile("^With a heading: mark")).fill("\n".join(log))
        page.get_by_role("button", name="Take these rows").last.click()
        expect(page.get_by_text(re.compile(r"^Fit them in this order: spread 1\.0 %"))).to_be_visible()
        rows = page.get_by_role("region", name="Flow tests").get_by_role("row")
        expect(rows).to_have_count(13)
        expect(rows.filter(has_text="left out")).to_have_count(6)
        page.get_by_label("Compare 5").check()
        page.get_by_label("Compare 8").check()
        expect(page.get_by_role("status").filter(has_text="They do not go together")).to_be_visible()
        to_bench(page, "Papers")
        with page.expect_download() as download:
            page.get_by_role("link", name="Flow sheet, PDF").click()
        self.assertIn("flow.pdf", download.value.suggested_filename)

    def test_a_second_set_comes_and_goes(self) -> None:
        page = self.open(f"{self.car()}/injectors/second")
        page.get_by_role("button", name="A second set, staged").click()
        page.get_by_text(re.compile(r"^All \d figures")).click()
        expect(page.get_by_text("Share of full-power fuel at which the second set joins")).to_be_visible()
        page.get_by_role("button", name="No second set").click()
        expect(page.get_by_text("Share of full-power fuel at which the second set joins")).to_have_count(0)


class AirSide(BrowserCase):
    def test_every_hose_is_placed_and_the_pedal_pressed(self) -> None:
        car = self.car("brindle")
        page = self.open(f"{car}/air/hoses")
        page.get_by_role("button", name="Put every hose where it belongs").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("AIR-04")
        kept = self.stored(car)["air"]
        self.assertEqual(next(c for c in kept["consumers"] if c["kind"] == "brake_booster")["port"], "rear")
        self.assertTrue(kept["ports"]["side"]["capped"])
        expect(page.get_by_text("The hose of the brake booster is left off")).to_have_count(0)
        to_bench(page, "Throttle body")
        slider = page.get_by_role("slider")
        slider.focus()
        page.keyboard.press("End")
        expect(page.get_by_text("Press the pedal: 100 %")).to_be_visible()
        to_bench(page, "Pedal and linkage")
        type_in(page, "/air/linkage/lever", "12 mm")
        expect(page.get_by_test_id("ripple")).to_contain_text("30 mm → 12 mm")
        to_bench(page, "Papers")
        with page.expect_download() as download:
            page.get_by_role("link", name="Tags for the hoses, PDF").click()
        self.assertIn("hose-tags.pdf", download.value.suggested_filename)

    def test_from_nothing_to_a_port_and_a_hose(self) -> None:
        car = self.car("tern", air={})
        page = self.open(f"{car}/air")
        expect(page.get_by_text("Nothing of the air side is described yet")).to_be_visible()
        to_bench(page, "Throttle body")
        page.get_by_role("button", name="Describe the throttle body").click()
        type_in(page, "/air/throttle/bore", "58 mm")
        to_bench(page, "Pedal and linkage")
        page.get_by_role("button", name="Describe pedal and linkage").click()
        to_bench(page, "Ports and hoses")
        page.get_by_label("Name of a port").fill("plenum rear")
        page.get_by_role("button", name="Add port").click()
        expect(page.locator('[id="f/air/ports/plenum rear"]')).to_be_visible()  # what stands below it has moved down
        page.get_by_role("button", name="brake booster", exact=True).click()
        page.get_by_label("Goes to port").select_option("plenum rear")
        expect(page.get_by_test_id("ripple")).to_contain_text("plenum rear")
        kept = self.stored(car)["air"]
        self.assertEqual((kept["throttle"]["bore"], kept["consumers"]), ("58 mm", [{"kind": "brake_booster", "port": "plenum rear"}]))


if __name__ == "__main__":
    unittest.main()
