"""The work as a person does it: a week that moves when a part slips, a better order taken, an evening by thumb on a telephone under the car, a calendar read, an archive put back."""

from __future__ import annotations

import io
import re
import unittest
import urllib.request

from PIL import Image
from playwright.sync_api import Page, expect

from tests.browser.served import WORKED_OUT, BrowserCase, to_bench, type_in
from tests.leaf import leaves

EVENING = "2027-01-12T18:00:00"


def picture() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (80, 60), (140, 90, 50)).save(out, "JPEG")
    return out.getvalue()


class OnAnEvening(BrowserCase):
    def on(self, path: str, width: int = 1280, height: int = 800, touch: bool = False) -> Page:
        """A page on that evening."""
        page = self.open("/", width, height, touch=touch)
        page.clock.set_fixed_time(EVENING)
        page.evaluate("localStorage.setItem('uphill-spark.who', 'Ada')")
        page.goto(self.address + path)
        expect(page.locator("h1")).to_be_visible()
        return page


class Winter(OnAnEvening):
    works = True

    def test_the_week_moves_when_a_part_slips(self) -> None:
        car = self.car()
        page = self.on(f"{car}/engine")
        page.locator("body").press("w")
        expect(page).to_have_url(re.compile("/work$"))
        evening = page.get_by_role("region", name="This evening")
        expect(evening).to_contain_text("Photograph and label every hose")
        expect(page.get_by_role("region", name="On its way")).to_contain_text("in-tank pump 190")
        stands = page.get_by_role("region", name="How it stands")
        before = stands.inner_text()
        link = page.get_by_role("link", name="The week as PDF").get_attribute("href") or ""
        with urllib.request.urlopen(self.address + link) as answer:
            self.assertEqual(answer.read()[:5], b"%PDF-")

        to_bench(page, "Parts")
        page.get_by_role("button", name=re.compile("^On its way")).click()
        page.get_by_text("in-tank pump 190").click()
        type_in(page, "/work/parts/fuel.pump/due", "2027-03-12")
        expect(page.get_by_test_id("ripple")).to_contain_text("done after, in nine of ten chances 53 days")
        self.assertEqual(self.stored(car)["work"]["parts"]["fuel.pump"]["due"], "2027-03-12")
        to_bench(page, "Today")
        expect(stands).not_to_contain_text("by Thursday, 11 February")
        self.assertNotEqual(stands.inner_text(), before)
        expect(page.get_by_role("article", name=re.compile("Parts in time"))).to_contain_text("too late")
        page.keyboard.press("Control+z")
        expect(stands).to_have_text(re.compile(re.escape(before.splitlines()[-1])))

    def test_a_task_is_ticked_and_follows_its_evidence(self) -> None:
        car = self.car()
        page = self.on(f"{car}/work/tasks")
        page.get_by_role("button", name="Order what the plan needs, the longest to come first: done").click()
        self.until(lambda: self.stored(car)["work"]["tasks"].get("order_parts", {}).get("state") == "done")
        self.assertEqual(self.stored(car)["work"]["tasks"]["order_parts"], {"state": "done", "done": "2027-01-12", "by": "Ada"})
        expect(page.get_by_role("article", name=re.compile("Done, and proven"))).to_contain_text("PLAN-11")
        page.get_by_label("What is to be done").fill("New tyres")
        page.get_by_role("button", name="Add it").click()
        self.until(lambda: "new_tyres" in self.stored(car)["work"]["own"])
        expect(page.get_by_text("New tyres").first).to_be_visible()
        page.locator("summary", has_text="Done").click()
        expect(page.get_by_role("button", name="Compression, leak-down, vacuum, oil: not done after all")).to_be_disabled()

    def test_a_better_order_is_offered_and_taken(self) -> None:
        car = self.car("brindle")
        page = self.on(f"{car}/work/path")
        offer = page.get_by_role("region", name="A better order")
        expect(offer.get_by_role("button", name="Take this order")).to_be_enabled(timeout=WORKED_OUT)
        offer.get_by_role("button", name="Take this order").click()
        self.until(lambda: len(self.stored(car)["work"].get("order", [])) > 10)
        expect(offer.get_by_role("button", name="Back to the usual order")).to_be_visible()
        task = page.get_by_role("button", name=re.compile("^First start, step by step"))
        task.focus()
        page.keyboard.press("Enter")
        expect(page.get_by_role("status").filter(has_text="What all of it was for.")).to_be_visible()

    def test_a_calendar_is_read_and_an_address_is_told_once(self) -> None:
        car = self.car()
        page = self.on(f"{car}/work/path")
        for key, name in (("ada", "Ada"), ("ben", "Ben")):
            with page.expect_download() as download:
                page.get_by_role("link", name=f"of {name}").click()
            page.get_by_label(f"Read a calendar of {name}").set_input_files(download.value.path())
            self.until(lambda key=key: self.stored(car)["work"]["people"][key].get("busy"))
        expect(page.get_by_text("3 events read: 6 times they take free hours away.")).to_be_visible()
        self.assertEqual(self.stored(car)["work"]["people"]["ada"]["busy"][0], "2027-01-19T19:00/2027-01-19T22:00")
        expect(page.get_by_text("Calendars to try with")).to_have_count(0)
        self.expect_failures = True
        page.get_by_label("Read a calendar of Ben").set_input_files({"name": "ben.ics", "mimeType": "text/calendar", "buffer": b"hello"})
        expect(page.get_by_role("alert").filter(has_text="an iCalendar file")).to_be_visible()
        page.get_by_role("button", name="Private address").first.click()
        address = page.locator("code").inner_text()
        with urllib.request.urlopen(address) as answer:
            self.assertIn(b"BEGIN:VEVENT", answer.read())

    def test_an_archive_is_put_back_from_the_garage(self) -> None:
        leaves(self)
        car = self.car("hollin")
        with urllib.request.urlopen(f"{self.address}/api/builds/{car.split('/')[2]}/archive.zip") as answer:
            data = answer.read()
        page = self.open("/")
        self.expect_failures = True
        page.get_by_label("Open a file").set_input_files({"name": "hollin.zip", "mimeType": "application/zip", "buffer": data[:900]})
        expect(page.get_by_role("alert")).to_contain_text("This is no archive. Nothing was stored.")
        page.get_by_label("Open a file").set_input_files({"name": "hollin.zip", "mimeType": "application/zip", "buffer": data})
        expect(page).to_have_url(re.compile("/work$"))
        self.assertNotIn(car, page.url)
        expect(page.get_by_role("heading", name="No day is set on which the work begins.")).to_be_visible()


class UnderTheCar(OnAnEvening):
    cuts = True

    def test_an_evening_is_kept_by_thumb_with_and_without_signal(self) -> None:
        car = self.car()
        page = self.on(f"{car}/work/diary", 390, 844, touch=True)
        self.expect_failures = True
        page.get_by_role("button", name="Problem", exact=True).click()
        page.get_by_label("What is wrong").fill("Rust in the tank, behind the sender")
        page.get_by_label("Hours").fill("1:30")
        page.locator("form select").select_option("tank")
        page.get_by_label("Add a photograph to the entry").set_input_files(
            {"name": "film.mp4", "mimeType": "video/mp4", "buffer": b"0" * 25_000_000},
            timeout=WORKED_OUT,  # 25 MB go through the driver's pipe, which a busy machine takes long for.
        )
        expect(page.get_by_role("alert")).to_contain_text("film.mp4 holds 25 MB; a photograph has at most 24 MB.")
        page.get_by_label("Add a photograph to the entry").set_input_files(
            {"name": "tank.jpg", "mimeType": "image/jpeg", "buffer": picture()}
        )
        expect(page.locator("form img")).to_have_count(1)
        page.get_by_role("button", name="A reading").click()
        page.get_by_label("What was measured, 1").fill("sender, full")
        page.get_by_label("How much, 1").fill("34 ohm")
        page.get_by_role("button", name="Keep it", exact=True).click()
        entry = page.locator("article")
        expect(entry).to_contain_text("Rust in the tank")
        expect(entry).to_contain_text("34 ohm")
        expect(entry.locator("img")).to_have_count(1)

        self.switch.cut()
        for words in ("Tank brushed out", "Rinsed twice"):
            page.get_by_label("What is wrong").fill(words)
            page.get_by_role("button", name="Keep it", exact=True).click()
            expect(page.get_by_text(f"Waits on this device until the server answers: {words}")).to_be_visible()
        page.reload()
        self.assertEqual(page.evaluate("JSON.parse(localStorage.getItem('uphill-spark.diary')).length"), 2)
        self.switch.join()
        expect(page.locator("article")).to_have_count(3)
        expect(page.locator("article").first).to_contain_text("Rinsed twice")
        page.get_by_label("Search the diary").fill("rinse")
        expect(page.locator("article")).to_have_count(1)
        page.get_by_role("button", name="Strike it out").click()
        expect(page.get_by_text("Nothing that was written has these words.")).to_be_visible()

    def test_what_comes_off_is_labelled_photographed_and_found_by_its_code(self) -> None:
        car = self.car()
        page = self.on(f"{car}/work/off", 390, 844, touch=True)
        page.get_by_role("button", name=re.compile("^bulkhead")).click()
        page.get_by_label("What comes off").fill("Throttle rod with its clip")
        page.get_by_role("button", name="Label it").click()
        self.until(lambda: len(self.stored(car)["work"]["off"]) == 5)
        code, thing = next((c, x) for c, x in self.stored(car)["work"]["off"].items() if x["what"].startswith("Throttle rod"))
        self.assertEqual(thing["place"], "bulkhead")
        page.get_by_label("Add a photograph of Throttle rod with its clip").set_input_files(
            {"name": "rod.jpg", "mimeType": "image/jpeg", "buffer": picture()}
        )
        type_in(page, f"/work/off/{code}/goes", "Lever on the pedal shaft, clip outside")
        page.get_by_role("button", name="Came off").first.click()
        self.until(lambda: self.stored(car)["work"]["off"][code].get("state") == "off")
        self.assertEqual(self.stored(car)["work"]["off"][code]["off"], "2027-01-12")
        # The square on its tag leads here, and so do its four signs.
        page.goto(f"{self.address}{car}/work/off#f/work/off/{code}")
        expect(page.locator(f'[id="f/work/off/{code}/goes"]')).to_have_value("Lever on the pedal shaft, clip outside")
        page.get_by_label("Code on a tag, or words").fill(code.upper())
        expect(page.locator('[id="f/work/off"]')).to_contain_text("Throttle rod with its clip")
        expect(page.get_by_text("Brake servo hose")).to_have_count(0)
        page.get_by_role("button", name="Back on").click()
        self.until(lambda: self.stored(car)["work"]["off"][code]["state"] == "back")


if __name__ == "__main__":
    unittest.main()
