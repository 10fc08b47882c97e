"""A person at work in the real page."""

import re
import unittest
import uuid

from playwright.sync_api import Locator, Page, Route, expect

from tests.browser.served import WORKED_OUT, BrowserCase, to_bench, type_in
from tests.builds import plan
from uphill_spark import store


class FromTheFirstQuestionToTheSheet(BrowserCase):
    def test_a_new_car_from_its_questions_to_a_printed_start_sheet(self) -> None:
        page = self.open("/")
        expect(page.get_by_role("heading", name="No car in here yet")).to_be_visible()
        page.get_by_role("main").get_by_role("link", name="New build").click()
        page.get_by_role("button", name="Go on").click()
        expect(page.get_by_role("alert")).to_contain_text("What do you call the car? Where will the injectors sit?")
        page.get_by_label("What do you call the car?").fill("Wren 2.0 saloon")
        page.get_by_label("At each port, one throttle").check()
        page.get_by_role("button", name="Go on").click()
        expect(page.get_by_role("heading", name="What stands in the car today?")).to_be_focused()
        page.get_by_label("In line").check()
        page.get_by_label("4", exact=True).check()
        page.get_by_label("1-3-4-2").check()
        page.get_by_label("Displacement").fill("2098")
        page.reload()  # answers survive
        expect(page.get_by_label("1-3-4-2")).to_be_checked()
        expect(page.get_by_label("Displacement")).to_have_value("2098")
        page.get_by_role("button", name="Go on").click()
        page.get_by_label("Power wanted").fill("120 hp")
        page.get_by_label("E10").check()
        page.get_by_role("button", name="Fill in the rest").click()
        expect(page.get_by_role("heading", name="Is it fit, and what will it ask for?")).to_be_visible()
        ridge = page.get_by_role("navigation", name="Stations")
        expect(ridge).to_contain_text("compression?")
        to_bench(page, "Power")
        expect(page.get_by_text("in pencil, accept").first).to_be_visible()

        type_in(page, "/engine/power", "155")  # the unit that stands there is kept
        ripple = page.get_by_test_id("ripple")
        expect(ripple).to_contain_text("Power target 120 hp → 155 hp")
        page.get_by_role("button", name=re.compile(r"\d+ moved")).click()
        moved = page.get_by_role("region", name="Everything that moved")
        for words in ("Fuel needed at full power", "Pump capacity over need", "Open share at full power", "Fuse proposed, injectors"):
            expect(moved).to_contain_text(words)
        page.get_by_role("button", name=re.compile(r"\d+ moved")).click()

        page.keyboard.press("Escape")
        page.locator("body").press("9")
        expect(page.get_by_role("heading", name=re.compile("^First start"))).to_be_visible()
        holds = page.get_by_role("region", name="What holds the first start")
        expect(holds).to_contain_text("trigger angle is not set")
        expect(holds).to_contain_text("5 not known that must be")
        page.get_by_role("article", name="Not known yet: Trigger angle").get_by_role("button", name="Take me there").click()
        expect(page).to_have_url(re.compile("/sensors/top#"))
        expect(page.locator('[id="f/sensors/trigger/angle"]')).to_be_focused()
        type_in(page, "/sensors/trigger/angle", "80 deg")
        expect(ripple).to_contain_text("TRIG-05")
        page.get_by_role("link", name=re.compile("First start")).click()
        for _ in range(4):  # nothing was measured on this car: each is signed for, or there is no start
            left = int(re.search(r"(\d+) (?:not known|open)", holds.get_by_role("heading", level=2).inner_text())[1])  # type: ignore[index]
            holds.get_by_role("button", name="Go on anyway, because…").first.click()
            page.get_by_label("Why you go on").fill("Read on the old engine last week")
            page.get_by_label("Who decides").fill("Ada")
            page.get_by_role("button", name="Sign and go on").click()
            expect(holds.get_by_role("heading", level=2).or_(page.get_by_text("Nothing holds the first start."))).to_contain_text(
                re.compile(f"{left - 1} not known|Nothing holds")
            )
        expect(holds).to_have_count(0)
        to_bench(page, "Steps")
        page.get_by_label("Signed by").first.fill("Ada")
        page.get_by_role("button", name="Done, sign").first.click()
        expect(ridge).to_contain_text("1 of 9 steps")
        with page.expect_download(timeout=WORKED_OUT) as download:  # a paper is set while the other tests hold the machine
            page.get_by_role("link", name="Sheet as PDF").click(timeout=WORKED_OUT)
        self.assertEqual(download.value.suggested_filename, "wren-2-0-saloon.first-start.pdf")
        with open(download.value.path(), "rb") as file:
            self.assertEqual(file.read(4), b"%PDF")

    def test_answers_that_will_not_do_are_said_beside_them_and_kept(self) -> None:
        self.expect_failures = True
        page = self.open("/new")
        page.get_by_label("What do you call the car?").fill("x")
        page.get_by_label("One throttle per cylinder").check()
        page.get_by_role("link", name="The engine").click()
        page.get_by_label("4", exact=True).check()
        page.get_by_label("Displacement").fill("1998 psi")
        page.get_by_role("button", name="Go on").click()
        page.get_by_label("Power wanted").fill("120 hp")
        page.get_by_label("E10").check()
        page.get_by_role("button", name="Fill in the rest").click()
        expect(page.get_by_role("heading", name="What stands in the car today?")).to_be_visible()
        expect(page.get_by_text("does not measure volume")).to_be_visible()
        expect(page.get_by_label("Displacement")).to_have_value("1998 psi")
        expect(page.get_by_label("Displacement")).to_have_attribute("aria-invalid", "true")


class Editing(BrowserCase):
    def test_a_value_that_will_not_do_stays_and_says_what_would(self) -> None:
        self.expect_failures = True
        car = self.car()
        page = self.open(f"{car}/fuel#f/fuel/parts/supply/bore")
        type_in(page, "/fuel/parts/supply/bore", "7.9 psi")
        box = page.locator('[id="f/fuel/parts/supply/bore"]')
        expect(box).to_have_value("7.9 psi")
        expect(box).to_have_attribute("aria-invalid", "true")
        expect(page.get_by_text("does not measure length; write it like '3/8 in'")).to_be_visible()
        self.assertEqual(self.stored(car)["fuel"]["parts"]["supply"]["bore"], "7.9 mm")
        type_in(page, "/fuel/parts/supply/bore", "3/8 in")
        expect(page.get_by_test_id("ripple")).to_contain_text("Bore 7.9 mm → 3/8 in")
        self.assertEqual(self.stored(car)["fuel"]["parts"]["supply"]["bore"], "3/8 in")

    def test_choices_flags_rows_and_pencil(self) -> None:
        car = self.car()
        page = self.open(f"{car}/fuel/regulator")
        page.locator('[id="f/fuel/regulator/reference"]').click()
        page.get_by_role("option", name="open air").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("manifold → open air")
        to_bench(page, "Path")
        page.get_by_role("button", name="Open all").click()
        page.locator('[id="f/fuel/parts/filter/due"]').click()
        expect(page.get_by_test_id("ripple")).to_contain_text("Due for change")
        to_bench(page, "Its wire")
        page.get_by_role("button", name="Add contact").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("Contacts")
        page.get_by_role("button", name="Take out contact 2").click()
        expect(page.get_by_role("button", name="Take out contact 2")).to_have_count(0)
        expect(page.locator('[id="f/wiring/fitted/pump_feed/length"]')).to_have_class(re.compile("pencil"))
        page.get_by_role("button", name="in pencil, accept").first.click()
        expect(page.locator('[id="f/wiring/fitted/pump_feed/length"]')).not_to_have_class(re.compile("pencil"))
        kept = self.stored(car)
        self.assertEqual(
            (
                kept["fuel"]["regulator"]["reference"],
                kept["fuel"]["parts"]["filter"]["due"],
                len(kept["wiring"]["fitted"]["pump_feed"]["joints"]),
            ),
            ("open_air", True, 1),
        )
        self.assertNotIn("/wiring/fitted/pump_feed/length", kept["marks"])

    def test_undo_redo_by_key_and_looking_at_an_earlier_revision(self) -> None:
        car = self.car()
        page = self.open(f"{car}/engine/power")
        type_in(page, "/engine/power", "130 kW")
        expect(page.get_by_test_id("ripple")).to_contain_text("118 kW → 130 kW")
        page.locator("h1").click()
        page.keyboard.press("Control+z")
        expect(page.get_by_test_id("ripple")).to_contain_text("Undo: Power target 130 kW → 118 kW")
        expect(page.locator('[id="f/engine/power"]')).to_have_value("118 kW")
        page.keyboard.press("Control+Shift+z")
        expect(page.locator('[id="f/engine/power"]')).to_have_value("130 kW")
        page.get_by_role("button", name="Papers and more").click()
        page.get_by_role("menuitem", name="Revisions").click()
        expect(page.get_by_role("row")).to_have_count(5)
        page.get_by_role("link", name="Open revision 1").click()
        expect(page.get_by_text("This is revision 1 as it was")).to_be_visible()
        to_bench(page, "Power")
        expect(page.locator('[id="f/engine/power"]')).to_have_value("118 kW")
        self.assertFalse(page.locator('[id="f/engine/power"]').is_editable())
        page.get_by_role("link", name="Back to the newest").click()
        expect(page.locator('[id="f/engine/power"]')).to_have_value("130 kW")

    def test_a_reason_a_name_and_a_reading_are_kept_with_the_change(self) -> None:
        car = self.car()
        page = self.open(f"{car}/revisions")
        page.get_by_label("Changes are signed").fill("Bo")
        page.get_by_label("Reason noted with the next changes").fill("bigger cam")
        page.get_by_role("link", name=re.compile("^Wiring")).click()
        to_bench(page, "Routes")
        page.get_by_role("heading", name="Branches, measured with a string").locator("..").get_by_role(
            "button", name="measured today"
        ).click()
        expect(page.get_by_text(re.compile(r"Measured by Bo, \d{4}-"))).to_be_visible()
        self.assertEqual(self.stored(car)["marks"]["/wiring/branches"]["by"], "Bo")
        page.get_by_role("button", name="Papers and more").click()
        page.get_by_role("menuitem", name="Revisions").click()
        row = page.get_by_role("row").filter(has_text="Because: bigger cam")
        expect(row).to_contain_text("Bo")

    def test_a_stop_is_overruled_only_with_a_reason_which_the_sheet_prints(self) -> None:
        car = self.car("brindle")
        page = self.open(f"{car}/start")
        page.get_by_role("button", name=re.compile(r"^All \d+ that hold it")).click()
        stop = page.get_by_role("article", name="Stop: What stops the pump").first
        stop.get_by_role("button", name="Go on anyway, because…").click()
        sign = page.get_by_role("button", name="Sign and go on")
        expect(sign).to_be_disabled()
        page.get_by_label("Why you go on").fill("Bench test outdoors, wire pulled by hand")
        page.get_by_label("Who decides").fill("Ada")
        sign.click()
        expect(page.get_by_role("region", name="Signed for")).to_contain_text("Bench test outdoors")
        sheet = self.open(f"/api/builds/{car.split('/')[2]}/papers/start-sheet.html")
        expect(sheet.locator("body")).to_contain_text("Bench test outdoors, wire pulled by hand (Ada)")

    def test_sensors_struck_wires_traced_tables_turned(self) -> None:
        car = self.car()
        page = self.open(f"{car}/sensors/set")
        page.get_by_role("group", name="crank trigger").get_by_role("button", name="left out").click()
        expect(page.get_by_role("article", name="Stop: Required sensors").first).to_be_visible()
        page.get_by_role("link", name=re.compile("Wiring")).click()
        to_bench(page, "Wires")
        page.get_by_label("Search the wire list").fill("pump feed")
        page.get_by_role("button", name="pump feed").click()
        type_in(page, "/wiring/fitted/pump_feed/size", "0.75 mm2")
        expect(page.get_by_test_id("ripple")).to_contain_text("WIRE-")
        page.get_by_role("link", name=re.compile("^Tune")).click()
        page.get_by_role("button", name="Ignition advance").click()
        expect(page.get_by_role("group", name=re.compile("Ignition advance.*Arrow keys"))).to_be_visible()
        to_bench(page, "Take along")
        with page.expect_download() as download:
            page.get_by_role("link", name="Ignition advance").click()
        self.assertIn("advance.csv", download.value.suggested_filename)


class Together(BrowserCase):
    cuts = True

    def test_what_is_being_typed_stays_when_somebody_elses_change_comes_in(self) -> None:
        self.expect_failures = True
        car = self.car()
        page = self.open(f"{car}/engine/power")
        held: list[Route] = []
        page.route(
            "**/api/builds/**", lambda route: held.append(route) if route.request.method == "PATCH" and not held else route.continue_()
        )
        type_in(page, "/engine/octane", "97")
        with self.database.work() as session:
            store.edit(session, uuid.UUID(car.split("/")[2]), 1, [{"op": "replace", "path": "/engine/power", "value": "140 kW"}], "Bea")
        box = page.locator('[id="f/engine/power"]')
        box.fill("125 kW")
        self.until(lambda: len(held) == 1)
        held[0].continue_()  # refused as stale; the page loads Bea's revision and sends it again
        expect(page.get_by_test_id("ripple")).to_contain_text("Octane")
        expect(page.get_by_role("navigation", name="Benches")).to_contain_text("12.4")
        expect(box).to_have_value("125 kW")
        box.press("Enter")
        self.assertEqual((self.stored(car)["engine"]["power"], self.stored(car)["engine"]["octane"]), ("125 kW", 97))

    def test_a_part_that_waits_to_be_stored_shows_its_values(self) -> None:
        car = self.car("tern", air={})
        page = self.open(f"{car}/air/body")
        held: list[Route] = []
        page.route(
            "**/api/builds/**", lambda route: held.append(route) if route.request.method == "PATCH" and not held else route.continue_()
        )
        page.get_by_role("button", name="Describe the throttle body").click()
        box = page.locator('[id="f/air/throttle/bore"]')
        expect(box).to_have_value("")
        self.until(lambda: len(held) == 1)
        box.fill("58 mm")
        box.press("Enter")
        held[0].continue_()
        expect(page.get_by_test_id("ripple")).to_contain_text("58 mm")
        self.assertEqual(self.stored(car)["air"]["throttle"]["bore"], "58 mm")

    def test_two_people_elsewhere_in_the_build_do_not_meet(self) -> None:
        self.expect_failures = True
        car = self.car()
        ada, bo = self.open(f"{car}/engine/power"), self.open(f"{car}/fuel#f/wiring/fitted/pump_feed/size")
        expect(bo.locator('[id="f/wiring/fitted/pump_feed/size"]')).to_have_value("4 mm2")
        type_in(ada, "/engine/power", "125 kW")
        expect(ada.get_by_test_id("ripple")).to_contain_text("125 kW")
        type_in(bo, "/wiring/fitted/pump_feed/size", "6 mm2")
        expect(bo.get_by_test_id("ripple")).to_contain_text("4 mm2 → 6 mm2")
        kept = self.stored(car)
        self.assertEqual((kept["engine"]["power"], kept["wiring"]["fitted"]["pump_feed"]["size"]), ("125 kW", "6 mm2"))

    def test_in_the_same_place_the_second_is_asked_and_nothing_typed_is_lost(self) -> None:
        self.expect_failures = True
        car = self.car()
        ada, bo = self.open(f"{car}/engine/power"), self.open(f"{car}/engine/power")
        expect(bo.locator('[id="f/engine/power"]')).to_have_value("118 kW")
        type_in(ada, "/engine/power", "125 kW")
        expect(ada.get_by_test_id("ripple")).to_contain_text("125 kW")
        type_in(bo, "/engine/power", "99 kW")
        dialog = bo.get_by_role("dialog")
        expect(dialog).to_contain_text("Power target 118 kW → 125 kW")
        expect(dialog).to_contain_text("99 kW")
        bo.get_by_role("button", name="Keep mine").click()
        expect(bo.get_by_test_id("ripple")).to_contain_text("125 kW → 99 kW")
        self.assertEqual(self.stored(car)["engine"]["power"], "99 kW")

    def test_a_store_that_is_down_keeps_what_was_typed_and_takes_it_when_it_is_back(self) -> None:
        self.expect_failures = True
        car = self.car()
        page = self.open(f"{car}/engine/power")
        expect(page.locator('[id="f/engine/power"]')).to_have_value("118 kW")
        self.switch.cut()
        type_in(page, "/engine/power", "126 kW")
        expect(page.get_by_text("The store does not answer.")).to_contain_text("1 change waits")
        expect(page.locator('[id="f/engine/power"]')).to_have_value("126 kW")
        page.reload()  # walking away loses nothing either
        self.switch.join()
        expect(page.locator('[id="f/engine/power"]')).to_have_value("126 kW")
        expect(page.get_by_text("The store does not answer.")).to_have_count(0)
        expect(page.get_by_text(re.compile(r"Revision 2$"))).to_be_visible()
        self.assertEqual(self.stored(car)["engine"]["power"], "126 kW")

    def test_two_changes_that_wait_do_not_wipe_each_other_out(self) -> None:
        self.expect_failures = True
        car = self.car()
        page = self.open(f"{car}/start/steps")
        signed = page.get_by_label("Signed by")
        expect(signed.first).to_be_visible()
        self.switch.cut()
        for step in (0, 1):
            page.get_by_role("list", name="All steps").get_by_role("link").nth(step).click()
            signed.first.fill("Ada")
            page.get_by_role("button", name="Done, sign").first.click()
        expect(page.get_by_text("The store does not answer.")).to_contain_text("2 changes wait")
        self.switch.join()
        expect(page.get_by_role("navigation", name="Stations")).to_contain_text("2 of 9 steps")
        self.assertEqual({n: s["by"] for n, s in self.stored(car)["start"]["steps"].items()}, {"0": "Ada", "1": "Ada"})


class Hands(BrowserCase):
    """Drawings that answer to a mouse and to keys."""

    def test_rail_and_bores_are_dragged_and_solved_meanwhile(self) -> None:
        car = self.car()
        page = self.open(f"{car}/fuel")
        rail = page.get_by_role("slider", name="Height of the rail")
        rail.focus()
        page.keyboard.press("ArrowUp")
        expect(page.get_by_test_id("ripple")).to_contain_text("Rise 0.4 m → 0.45 m")
        expect(rail).to_have_attribute("aria-valuenow", "0.45")
        self.drag(page, rail, -25)
        expect(page.get_by_text(re.compile(r"^\d+ at the pump$"))).not_to_have_text("326 at the pump")
        self.assertEqual(self.stored(car)["fuel"]["parts"]["supply"]["rise"], "0.45 m")  # the hand has not let go
        page.mouse.up()
        expect(page.get_by_test_id("ripple")).to_contain_text("Rise 0.45 m →")
        self.assertGreater(float(self.stored(car)["fuel"]["parts"]["supply"]["rise"].split()[0]), 0.5)
        margin = page.locator('[id="g-fuel.margin.full"]').first
        before = margin.inner_text()
        bore = page.get_by_role("slider", name="Bore of supply")
        self.drag(page, bore, 45)
        expect(bore).to_have_attribute("aria-valuetext", "3.2 mm")
        expect(margin).not_to_have_text(before)
        page.mouse.up()
        expect(page.get_by_test_id("ripple")).to_contain_text("Bore 7.9 mm → 3.2 mm")
        bore.focus()
        page.keyboard.press("ArrowUp")
        expect(page.get_by_test_id("ripple")).to_contain_text("Bore 3.2 mm → 4.8 mm")

    def drag(self, page: Page, what: Locator, down: int) -> None:
        """Take hold in the middle and pull; the hand stays on it."""
        what.scroll_into_view_if_needed()
        box = what.bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x, y + down, steps=4)

    def test_sizes_slide_and_the_drawings_follow(self) -> None:
        car = self.car()
        page = self.open(f"{car}/fuel#f/wiring/fitted/pump_feed/size")
        volts = page.locator('[id="g-fuel.pump.voltage.full"]').first
        expect(volts).to_contain_text("13.39")
        page.get_by_label("Slide the feed through the sizes").focus()
        page.keyboard.press("ArrowLeft")
        expect(page.get_by_test_id("ripple")).to_contain_text("Wire size 4 mm2 → 2.5 mm2")
        expect(volts).not_to_contain_text("13.39")

    def test_states_switch_on_both_drawings(self) -> None:
        page = self.open(f"{self.car()}/fuel")
        page.get_by_role("group", name="State of the engine").get_by_role("button", name="cranking").click()
        expect(page.get_by_role("group", name=re.compile("^At cranking: 314 kPa at the pump"))).to_be_visible()
        to_bench(page, "Pump")
        expect(page.get_by_role("img", name=re.compile("^Pump against system at cranking: they meet at 101 L"))).to_be_visible()
        to_bench(page, "Regulator")
        expect(page.get_by_role("region", name="Every state").get_by_role("row")).to_have_count(33)

    def test_the_wheel_and_the_table_turn_by_key(self) -> None:
        page = self.open(f"{self.car()}/sensors/wheel")
        wheel = page.get_by_label(re.compile("Turn the engine: at top dead centre"))
        wheel.focus()
        page.keyboard.press("ArrowLeft")
        expect(page.get_by_text("Turn the engine: 1° before top")).to_be_visible()
        page.locator("h1").click()
        page.keyboard.press("8")
        grid = page.get_by_role("group", name=re.compile("Volumetric efficiency.*Arrow keys"))
        before = grid.inner_text()
        grid.focus()
        page.keyboard.press("ArrowUp")
        page.keyboard.press("ArrowRight")
        self.assertNotEqual(grid.inner_text(), before)

    def test_the_night_theme_stays(self) -> None:
        page = self.open(f"{self.car()}/engine")
        page.get_by_role("button", name="Papers and more").click()
        page.get_by_role("menuitem", name="Night theme").click()
        expect(page.locator("html")).to_have_attribute("data-theme", "night")
        self.assertEqual(page.evaluate("localStorage.getItem('uphill-spark.theme')"), "night")

    def test_snags_are_chosen_by_kind(self) -> None:
        page = self.open(f"{self.car('brindle')}/engine")
        page.get_by_role("button", name=re.compile("snags")).click()
        snags = page.get_by_role("region", name="Findings, worst first")
        stops = snags.get_by_role("article", name=re.compile("^Stop"))
        expect(stops).to_have_count(sum(f.severity == "stop" for f in plan("brindle").findings))
        page.get_by_role("group", name="Which to show").get_by_role("button", name=re.compile("^Stop")).click()
        expect(stops).to_have_count(0)
        expect(snags.get_by_role("article", name=re.compile("^Sort out")).first).to_be_visible()


class Garage(BrowserCase):
    def test_demo_cars_a_file_in_a_file_out_and_a_bad_file(self) -> None:
        self.expect_failures = True
        page = self.open("/")
        page.get_by_role("button", name="Put the demo cars in").click()
        expect(page.get_by_role("heading", level=2)).to_have_count(3)
        expect(page.get_by_text("Blocked by")).to_have_count(1)
        page.get_by_role("button", name="More for Marlow Tern 2600 estate").click()
        with page.expect_download() as download:
            page.get_by_role("menuitem", name="Build file, JSON").click()
        page.get_by_label("Open a file").set_input_files(
            {"name": "bad.json", "mimeType": "application/json", "buffer": b'{"format": "uphill-spark-build", "version": 1}'}
        )
        expect(page.get_by_role("alert")).to_contain_text("/engine")
        page.get_by_label("Open a file").set_input_files(str(download.value.path()))
        expect(page).to_have_url(re.compile(r"/b/.*/engine"))
        page.goto(self.address)
        expect(page.get_by_role("heading", level=2)).to_have_count(4)
        page.get_by_role("button", name="More for Brindle 3.3 camper van").click()
        page.get_by_role("menuitem", name="Put away…").click()
        page.get_by_role("button", name="Put away", exact=True).click()
        expect(page.get_by_role("heading", level=2)).to_have_count(3)


if __name__ == "__main__":
    unittest.main()
