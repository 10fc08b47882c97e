"""The garage as a person uses it: looked through, put away and brought back, told how the store is kept."""

import datetime as dt
import json
import os
import tempfile
import unittest
from unittest import mock

from playwright.sync_api import Locator, expect
from sqlalchemy import text

from tests.browser.test_every_screen import Screens
from tests.builds import document
from uphill_spark import store
from uphill_spark.rules import rules


class Garage(Screens):
    def cars(self, many: int) -> None:
        with self.database.work() as session:
            session.execute(text("DELETE FROM revision; DELETE FROM build"))
            told = {"notes": "", "verdict": "No Stop.", "stations": [], "blocking": [], "trouble": ""}
            for k in range(many):
                build = store.create(session, {**document("tern"), "name": f"Car {k:02}"}, "Ada", "Read from a file").row.id
                store.tell(session, build, 1, told, rules())

    def test_one_of_many_is_found_put_away_and_brought_back(self) -> None:
        self.cars(70)
        page = self.open("/")
        expect(page.get_by_role("heading", name="Car 59")).to_be_visible()
        self.assertEqual(page.get_by_role("heading", name="Car 60").count(), 0)
        page.get_by_role("button", name="Show more").click()
        expect(page.get_by_role("heading", name="Car 69")).to_be_visible()
        page.get_by_label("Find").fill("car 6")
        expect(page.get_by_text("10 builds with “car 6”")).to_be_visible()
        page.get_by_label("More for Car 63").click()
        page.get_by_text("Put away…").click()
        page.get_by_role("button", name="Put away", exact=True).click()
        expect(page.get_by_text("9 builds with")).to_be_visible()
        page.get_by_role("button", name="What was put away").click()
        expect(page.get_by_text("put away today")).to_be_visible()
        self.assertEqual(page.get_by_role("button", name="Remove for good…").count(), 0)
        page.get_by_role("button", name="Bring back").click()
        expect(page.get_by_text("Nothing was put away.")).to_be_visible()
        page.get_by_role("button", name="Back to the garage").click()
        expect(page.get_by_text("70 builds")).to_be_visible()

    def test_what_was_put_away_long_ago_is_asked_about_and_goes_for_good(self) -> None:
        self.cars(2)
        with self.database.work() as session:
            session.execute(text("UPDATE build SET put_away = now() - interval '40 days' WHERE name = 'Car 01'"))
        page = self.open("/")
        page.get_by_role("button", name="What was put away").click()
        expect(page.get_by_text("put away 40 days ago: keep it or let it go?")).to_be_visible()
        page.get_by_role("button", name="Remove for good…").click()
        page.get_by_role("button", name="Remove for good", exact=True).click()
        expect(page.get_by_text("Nothing was put away.")).to_be_visible()
        with self.database.work() as session:
            self.assertEqual(session.execute(text("SELECT count(*) FROM build")).scalar(), 1)

    def test_how_the_store_is_kept_is_told(self) -> None:
        self.cars(1)
        with tempfile.NamedTemporaryFile("w") as file:
            three = dt.datetime.now(dt.UTC) - dt.timedelta(hours=3)
            json.dump({"low_disk": True, "backup": three.isoformat(), "backup_trouble": "disk full"}, file)
            file.flush()
            with mock.patch.dict(os.environ, UPHILL_SPARK_NOTICES=file.name):
                page = self.open("/")
                expect(page.get_by_text("3 hours ago")).to_be_visible()
                expect(page.get_by_text("Disk is short where the store is")).to_be_visible()
                expect(page.get_by_text("could not be made: disk full")).to_be_visible()
                self.judge(page, "garage")

    def test_one_is_found_put_away_and_brought_back_by_keys_alone(self) -> None:
        self.cars(12)
        page = self.open("/")
        self.settle(page)

        def reach(button: Locator) -> None:
            for _ in range(40):
                page.keyboard.press("Tab")
                if button.evaluate("b => b === document.activeElement"):
                    return
            self.fail(f"{button} is not reached by Tab")

        reach(page.get_by_label("Find"))
        page.keyboard.type("car 07")
        expect(page.get_by_text("1 build with “car 07”")).to_be_visible()
        reach(page.get_by_label("More for Car 07"))
        page.keyboard.press("Enter")
        expect(page.get_by_role("menuitem", name="Put away…")).to_be_visible()
        page.keyboard.press("End")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_be_visible()
        reach(page.get_by_role("button", name="Put away", exact=True))
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_have_count(0)
        reach(page.get_by_role("button", name="What was put away"))
        page.keyboard.press("Enter")
        expect(page.get_by_text("put away today")).to_be_visible()
        page.wait_for_load_state("networkidle")  # the list is asked once more, and its buttons are new then
        reach(page.get_by_role("button", name="Bring back"))
        page.keyboard.press("Enter")
        expect(page.get_by_text("Nothing was put away.")).to_be_visible()

    def test_what_was_put_away_and_what_is_found_are_judged_like_every_screen(self) -> None:
        self.cars(12)
        with self.database.work() as session:
            session.execute(text("UPDATE build SET put_away = now() - interval '40 days' WHERE name < 'Car 03'"))
        page = self.open("/")
        page.get_by_label("Find").fill("car 0")
        expect(page.get_by_text("7 builds with")).to_be_visible()
        self.judge(page, "found")
        page.get_by_role("button", name="What was put away").click()
        expect(page.get_by_text("put away 40 days ago").first).to_be_visible()
        self.judge(page, "put away")


if __name__ == "__main__":
    unittest.main()
