"""The engine and the air side as a person works on them: readings by day, the verdict, ways to do it, photographs."""

import pathlib
import re
import tempfile
import unittest

from playwright.sync_api import expect

from tests.browser.served import BrowserCase, to_bench, type_in
from tests.formats.test_photo import telephone


class EngineByDays(BrowserCase):
    def test_read_again_after_the_rebuild_and_see_what_it_did(self) -> None:
        rows = [{"cylinder": c, "when": "2025-10-04", "dry": "1000 kPa" if c != 3 else "720 kPa"} for c in range(1, 5)]
        car = self.car("hollin", engine={**self.document("hollin")["engine"], "compression": rows})
        page = self.open(f"{car}/engine")
        card = page.get_by_role("region", name="Is the engine fit")
        expect(card).to_contain_text("Mend first")
        expect(card).to_contain_text("Test next")
        to_bench(page, "Compression")
        page.get_by_role("button", name="Read again today").click()
        for c in range(1, 5):
            page.get_by_role("button", name="Add reading").click()
            type_in(page, f"/engine/compression/{3 + c}/dry", "1010 kPa")
        kept = self.stored(car)["engine"]["compression"]
        self.assertEqual([r["cylinder"] for r in kept[4:]], [1, 2, 3, 4])
        self.assertTrue(all(re.fullmatch(r"\d{4}-\d\d-\d\d", r["when"]) and r["when"] > "2025-10-04" for r in kept[4:]))
        expect(page.get_by_role("img", name=re.compile("3 1010 kPa, before 720"))).to_be_visible()
        page.get_by_role("button", name="2025-10-04").click()
        expect(page.locator('[id="f/engine/compression/2/dry"]')).to_have_value("720 kPa")
        to_bench(page, "Overview")
        expect(card).to_contain_text("Fit for injection")

    def test_an_unfit_engine_is_seen_from_every_station(self) -> None:
        car = self.car("brindle")
        page = self.open(f"{car}/engine")
        causes = page.get_by_role("list", name="What is likely wrong")
        expect(causes.get_by_role("listitem").first).to_contain_text("head gasket between two bores")
        for station in ("fuel", "air", "tune"):
            page.goto(f"{self.address}{car}/{station}")
            expect(page.get_by_text("The engine is not fit yet.")).to_be_visible()
        page.get_by_role("link", name="To the engine").click()
        expect(page.get_by_role("region", name="Is the engine fit")).to_be_visible()

    def test_a_layout_shows_what_it_brings_before_it_is_taken_and_goes_back(self) -> None:
        car = self.car()
        page = self.open(f"{car}/engine/ways")
        ways = page.get_by_role("region", name="Ways to do it")
        ways.get_by_text("Where do injectors and throttles sit?").click()
        answer = ways.get_by_role("listitem").filter(has_text="One throttle for each cylinder")
        answer.get_by_text("What it brings").click()
        expect(answer).to_contain_text("balance manifold")
        expect(answer).to_contain_text("goes manifold pressure sensor")
        self.assertEqual(self.stored(car)["engine"]["layout"], "port_plenum")
        answer.get_by_role("button", name="Take this way").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("Injection layout")
        kept = self.stored(car)
        self.assertEqual(
            (kept["engine"]["layout"], kept["air"]["throttle"]["bores"], kept["air"]["balance"]), ("individual_throttles", 6, "joined")
        )
        self.assertEqual(kept["marks"]["/air/throttle"]["kind"], "assumed")
        page.get_by_role("button", name="Undo").first.click()
        to_bench(page, "The engine itself")
        expect(page.locator('[id="f/engine/layout"]')).to_contain_text("port plenum")
        self.assertEqual(self.stored(car)["air"], self.document("tern")["air"])

    def test_a_run_with_its_gears_and_what_is_carried_over(self) -> None:
        self.expect_failures = True
        car = self.car("hollin")
        page = self.open(f"{car}/engine/power")
        page.get_by_role("button", name="From rest to a speed, in a time").click()
        type_in(page, "/engine/run/gears", "2.9 1.9 1.4 1.0")
        expect(page.get_by_role("img", name=re.compile("after 10.0 s with changes of gear"))).to_be_visible()
        type_in(page, "/engine/run/gears", "2.9 3.1")
        expect(page.get_by_role("alert").filter(has_text="each smaller than the one before")).to_be_visible()
        to_bench(page, "Carried over")
        page.get_by_role("checkbox", name=re.compile("^Fuel lines")).check()
        expect(page.get_by_text("Look first: class of the hose")).to_be_visible()
        self.assertEqual(self.stored(car)["engine"]["carried_over"], ["fuel_lines"])
        to_bench(page, "Papers")
        with page.expect_download() as download:
            page.get_by_role("link", name="Engine sheet, PDF").click()
        self.assertIn("engine.pdf", download.value.suggested_filename)


class AV6FromCarburettorToPorts(BrowserCase):
    def test_twelve_second_hand_injectors_a_bench_log_a_throttle_body_and_every_hose(self) -> None:
        car = self.car("brindle")
        page = self.open(f"{car}/engine/ways")
        ways = page.get_by_role("region", name="Ways to do it")
        ways.get_by_text("Where do injectors and throttles sit?").click()
        ways.get_by_role("button", name="Take this way: One injector at each port, one plenum").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("Injection layout")
        page.goto(f"{self.address}{car}/injectors/box")
        page.get_by_text("A whole list at once").click()
        page.get_by_label(re.compile("^With a heading: name")).fill(
            "name,pieces,flow (cc/min),rated at (bar),resistance\nsecond-hand,12,330,3,14.5\nlarge,6,900,3,12\n"
        )
        page.get_by_role("button", name="Take these rows").first.click()
        best = page.get_by_label("The box, best first")
        expect(best.get_by_role("listitem").first).to_contain_text("1. second-hand")
        best.get_by_role("button", name="Fit these: second-hand").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("second-hand")
        volumes = (160, 163.5, 152, 162.1, 171, 162.9, 163, 149, 161.8, 162.6, 157, 163.3)
        rows = ["mark,volume (mL),time (s),pressure (bar),drops", *(f"{k},{v},30,3,{3 if k == 7 else 0}" for k, v in enumerate(volumes, 1))]
        to_bench(page, "Flow bench")
        page.get_by_text("A whole log at once").click()
        page.get_by_label(re.compile("^With a heading: mark")).fill("\n".join(rows))
        page.get_by_role("button", name="Take these rows").last.click()
        expect(page.get_by_text(re.compile(r"^Fit them in this order: spread"))).to_be_visible()
        table = page.get_by_role("region", name="Flow tests").get_by_role("row")
        expect(table.filter(has_text="left out")).to_have_count(6)
        expect(table.filter(has_text=re.compile(r"^7|left out.*\b7\b")).first).to_contain_text("left out")
        page.goto(f"{self.address}{car}/air/body")
        type_in(page, "/air/throttle/bore", "44 mm")
        type_in(page, "/air/throttle/bores", "2")
        expect(page.get_by_role("navigation", name="Benches").get_by_role("link").filter(has_text="Throttle body")).to_contain_text("kPa")
        to_bench(page, "Ports and hoses")
        page.get_by_label("Name of a port").fill("valve port")
        page.get_by_role("button", name="Add port").click()
        page.locator('[id="f/air/ports/valve port"] summary').click()
        type_in(page, "/air/ports/valve port/bore", "9 mm")
        page.locator('[id="f/air/ports/valve port/source"]').click()
        page.get_by_role("option", name="full manifold").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("Gives")
        page.get_by_role("button", name="Put every hose where it belongs").click()
        expect(page.get_by_test_id("ripple")).to_contain_text("AIR-0")
        kept = self.stored(car)["air"]
        self.assertEqual({c["kind"]: c.get("port") for c in kept["consumers"]},
                         {"brake_booster": "rear", "crankcase_valve": "valve port", "crankcase_breather": "filter", "pressure_sensor": "front"})  # fmt: skip
        self.assertTrue(kept["ports"]["side"]["capped"])
        to_bench(page, "Papers")
        for name in ("Air sheet, PDF", "Tags for the hoses, PDF"):
            with page.expect_download() as download:
                page.get_by_role("link", name=name).click()
            self.assertTrue(download.value.suggested_filename.endswith(".pdf"))


class Photographs(BrowserCase):
    def test_a_hose_is_photographed_shown_and_taken_off(self) -> None:
        self.expect_failures = True
        car = self.car("brindle")
        page = self.open(f"{car}/air/hoses", 390, 844)
        add = page.get_by_label("Add a photograph of the hose of the brake booster")
        add.set_input_files([{"name": "note.jpg", "mimeType": "image/jpeg", "buffer": b"only words in here\n"}])
        expect(page.get_by_role("alert").filter(has_text="This is not a photograph")).to_contain_text("a text file")
        with tempfile.TemporaryDirectory() as folder:
            huge = pathlib.Path(folder) / "huge.jpg"
            huge.write_bytes(b"\xff" * 40_000_000)
            add.set_input_files([huge])
            expect(page.get_by_role("alert").filter(has_text="huge.jpg holds 40 MB")).to_contain_text("at most 24 MB")
        add.set_input_files([{"name": "hose.jpg", "mimeType": "image/jpeg", "buffer": telephone()}])
        page.get_by_role("button", name="Photograph 1 of the hose of the brake booster").click()
        whole = page.get_by_role("dialog").get_by_role("img")
        expect(whole).to_be_visible()
        self.assertGreater(whole.evaluate("i => i.naturalWidth"), 300)
        keys = self.stored(car)["air"]["consumers"][0]["photos"]
        self.assertEqual(len(keys), 1)
        page.get_by_role("button", name="Take it off").click()
        expect(page.get_by_role("button", name=re.compile("^Photograph 1"))).to_have_count(0)
        self.assertEqual(self.stored(car)["air"]["consumers"][0]["photos"], [])

    def test_a_photograph_that_is_not_kept_here_says_so(self) -> None:
        self.expect_failures = True
        doc = self.document("brindle")["air"]
        doc["consumers"][0]["photos"] = ["0" * 64]
        page = self.open(f"{self.car('brindle', air=doc)}/air/hoses")
        expect(page.get_by_text("not kept here")).to_be_visible()
        page.get_by_role("button", name="Photograph 1 of the hose of the brake booster").click()
        expect(page.get_by_role("dialog")).to_contain_text("the build came from elsewhere")


if __name__ == "__main__":
    unittest.main()
