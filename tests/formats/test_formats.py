"""What goes in and comes out as a file, and the command line."""

import contextlib
import csv
import io
import json
import pathlib
import subprocess
import sys
import tempfile
import unittest
from typing import ClassVar

from hypothesis import given
from hypothesis import strategies as st
from weasyprint.urls import FatalURLFetchingError

from tests import DEEP
from tests.builds import document, edited, plan, trial
from tests.formats.test_photo import telephone
from uphill_spark import cli
from uphill_spark.core.asked.fuel import look_deeper
from uphill_spark.core.errors import BuildError, FormatError, TableError
from uphill_spark.core.given import parse
from uphill_spark.core.plan import holding
from uphill_spark.formats import (
    air_sheet,
    build_file,
    engine_sheet,
    flow_sheet,
    fuel_sheet,
    hose_tags,
    photo,
    sensor_card,
    start_sheet,
    station_sheet,
    timing_card,
    trigger_card,
    tune_tables,
    wire_list,
)
from uphill_spark.formats.csv_table import FLOW_BENCH, INJECTOR_BOX, PUMP, THERMISTOR
from uphill_spark.formats.printing import Printed, to_pdf

ROOT = pathlib.Path(__file__).resolve().parents[2]


class BuildFile(unittest.TestCase):
    def test_written_and_read_it_is_the_same(self) -> None:
        data = build_file.write(document())
        again, build = build_file.read(data)
        self.assertEqual((again, build.name, build_file.write(again)), (document(), "Marlow Tern 2600 estate", data))
        self.assertEqual(build_file.read(b"\xef\xbb\xbf" + data)[0], document())

    def test_depth_counts_brackets_not_those_in_text(self) -> None:
        doc = {**document(), "notes": "[{" * 500}
        self.assertEqual(build_file.read(build_file.write(doc))[1].notes, "[{" * 500)
        with self.assertRaises(FormatError):
            build_file.read(b'{"a":"\\"",' + b'"b":' + b"[" * 50)


class Tables(unittest.TestCase):
    def test_wire_list_has_every_wire(self) -> None:
        rows = list(csv.DictReader(io.StringIO(wire_list.write(plan()))))
        self.assertEqual(len(rows), plan().figures["wiring.count"].value)
        pump = next(r for r in rows if r["wire"] == "pump_feed")
        self.assertEqual(
            (pump["from"], pump["to"], pump["colour (IEC 60757)"], pump["size mm2"], pump["size is"]),
            ("pump relay, pin 87", "pump plus", "RD/BN", "4", "fitted"),
        )
        self.assertAlmostEqual(sum(float(r["length m"]) for r in rows), plan().figures["wiring.total_length"].value or 0, delta=0.3)

    def test_a_table_as_csv_and_all_as_json_say_the_same(self) -> None:
        p = plan()
        for table in p.stages.tune.tables:
            rows = list(csv.reader(io.StringIO(tune_tables.table_csv(table))))
            self.assertIn(f"[{table.unit}]", " ".join(rows[0]))
            if table.y_label:
                self.assertEqual([float(v) for v in rows[1][1:]], table.rows[0])
                self.assertEqual([float(r[0]) for r in rows[1:]], table.y)
            else:
                self.assertEqual(
                    [[float(a), float(b)] for a, b in rows[1:]], [list(pair) for pair in zip(table.x, table.rows[0], strict=True)]
                )
        everything = json.loads(tune_tables.all_json(p))
        self.assertEqual([t["key"] for t in everything["tables"]], [t.key for t in p.stages.tune.tables])
        self.assertAlmostEqual(everything["constants"]["injectors.nominal"]["value"], 151.52, places=2)


class Sheet(unittest.TestCase):
    def text(self, data: bytes) -> str:
        with tempfile.NamedTemporaryFile(suffix=".pdf") as file:
            file.write(data)
            file.flush()
            return " ".join(
                subprocess.run(["pdftotext", "-layout", file.name, "-"], capture_output=True, text=True, check=True).stdout.split()
            )

    def test_pdf_of_the_tidy_car(self) -> None:
        told = self.text(start_sheet.pdf(plan(), "revision 3", "2026-04-01"))
        for words in (
            "First start: Marlow Tern 2600 estate",
            "No Stop",
            "revision 3",
            "285 to 315 kPa",
            "Shut down",
            "done by",
            "Fuel under pressure",
        ):
            self.assertIn(words, told)
        self.assertNotIn("Do not start", told)

    def test_open_stops_stand_on_top_and_a_reason_is_printed(self) -> None:
        overrule = {"code": "FUEL-14", "at": "/fuel/pump/control", "reason": "Bench test <outdoors>, pump wire pulled by hand", "by": "Ada"}
        signed = plan("brindle", {"/start": {"overrules": [overrule]}})
        html = start_sheet.html(signed)
        self.assertLess(
            html.index(f"Do not start: {len([f for f in holding(signed.findings) if f.severity == 'stop'])} open Stops"),
            html.index("Go or no-go"),
        )
        self.assertIn("Bench test &lt;outdoors&gt;, pump wire pulled by hand (Ada)", html)
        self.assertNotIn("http", html)


class FuelSheet(unittest.TestCase):
    def test_it_tells_the_gauge_every_state_the_cautions_and_what_to_buy(self) -> None:
        html = fuel_sheet.html(plan("brindle"), look_deeper(trial(document("brindle"))), "revision 2", "2026-04-01")
        for words in (
            "Gauge with the key on",
            "release it and take the battery off",
            "hot idle",
            "short",
            "FUEL-09",
            "30R7 carburettor and vapour hose",
            "revision 2",
        ):
            self.assertIn(words, html)
        self.assertNotIn("None", html)

    def test_it_is_one_page_however_much_is_wrong(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            papers: list[Printed] = []

            def kept(page: str, to: list[Printed] = papers) -> Printed:
                to.append(to_pdf(page))
                return to[-1]

            written = fuel_sheet.pdf(plan(car), look_deeper(trial(document(car))), printer=kept)
            self.assertEqual((written, len(papers[-1].sheets)), (papers[-1].data, 1), car)
            self.assertLessEqual(len(papers), 3, car)

    def test_the_list_as_csv(self) -> None:
        rows = list(csv.DictReader(io.StringIO(fuel_sheet.shopping_csv(look_deeper(trial(document("hollin")))))))
        self.assertIn({"what": "surge tank", "quantity": "1", "unit": "piece", "note": "1.6 L usable, overflow to the main tank"}, rows)


class PumpTable(unittest.TestCase):
    ROW: ClassVar[dict[str, str]] = {"voltage": "12 V", "pressure": "300 kPa", "flow": "150 L/h", "current": "7.1 A"}

    def test_figures_in_any_unit_and_order(self) -> None:
        plain = PUMP.read("12, 300, 150, 7.1\n13.5, 300, 190, 7.1")
        self.assertEqual(plain[0], self.ROW)
        german = PUMP.read("Strom (A);flow L/h;V;bar\n7,1;150;12;3,0\n7,1;190;13,5;3,0\n".replace("Strom", "current"))
        self.assertEqual(german[0], {"voltage": "12 V", "pressure": "3,0 bar", "flow": "150 L/h", "current": "7,1 A"})
        self.assertEqual(PUMP.read("12 300 150 7.1\n12 400 120 8.4")[0], self.ROW)
        self.assertEqual(PUMP.read("12\t43.5 psi\t150\t7.1\n12\t58 psi\t120\t8.4")[1]["pressure"], "58 psi")

    def test_each_line_that_cannot_be_read_is_named(self) -> None:
        for text, at, given_ in (
            ("", "/table", "0 rows"),
            ("12, 300, 150, 7.1", "/table", "1 row "),
            ("volts,kPa,amps\n12,300,7\n12,400,8", "/table/line 1", "volts"),
            ("12, 300, 150, 7.1\n12, 400, 120", "/table/line 2/current", "nothing"),
            ("12, 300, 150, 7.1\n12, 400 L, 120, 7", "/table/line 2/pressure", "400 L"),
            ("\n".join(["12, 300, 150, 7.1"] * 201), "/table", "201 rows"),
        ):
            with self.subTest(text=text[:40]), self.assertRaises(BuildError) as caught:
                PUMP.read(text)
            problem = caught.exception.problems[0]
            self.assertEqual(problem.at, at)
            self.assertIn(given_, problem.given)

    @given(st.text(max_size=200))
    def test_any_text_is_rows_or_a_clear_answer(self, text: str) -> None:
        try:
            rows = PUMP.read(text)
        except BuildError as error:
            self.assertTrue(error.problems[0].wants)
        else:
            self.assertGreaterEqual(len(rows), 2)

    def test_what_is_written_reads_back(self) -> None:
        curve = edited("tern").fuel.pump.curve
        self.assertEqual(PUMP.read(PUMP.write(curve)), [row.model_dump() for row in curve])


class TablesOfOthers(unittest.TestCase):
    """Tables as they come out of other people's sheets: titles, blank rows, other words, points that may mean two things."""

    def test_titles_and_blank_rows_are_passed_over(self) -> None:
        for text in (
            "Sender from the green car\n\ntemperature;resistance\n0;5900\n;\n20;2500\n80;320\n",
            "measured in March,,\n,,\ntemperature,resistance,by\n0,5900,A\n20,2500,A\n80,320,A\n",
            "sender\n0 5900\n20 2500\n\n80 320\n",
        ):
            with self.subTest(text[:20]):
                self.assertEqual(
                    [(r["temperature"], r["resistance"]) for r in THERMISTOR.read(text)],
                    [("0 degC", "5900 ohm"), ("20 degC", "2500 ohm"), ("80 degC", "320 ohm")],
                )
        with self.assertRaises(BuildError) as caught:
            THERMISTOR.read("a title\n\ntemperature,resistance\n0,5900\n20,25 mm\n80,320")
        self.assertEqual([p.at for p in caught.exception.problems], ["/table/line 5/resistance"])  # by the line of the text

    def test_other_headings_are_named_by_hand(self) -> None:
        text = "Grad,Widerstand\n0,5900\n20,2500\n80,320"
        with self.assertRaises(TableError) as caught:
            THERMISTOR.read(text)
        self.assertEqual((caught.exception.heading, caught.exception.wanted), (("Grad", "Widerstand"), ("temperature", "resistance")))
        rows = THERMISTOR.read(text, {"temperature": 0, "resistance": 1})
        self.assertEqual((rows[1]["temperature"], rows[1]["resistance"]), ("20 degC", "2500 ohm"))
        for said, word in (({"temperature": 0}, "which column is resistance"), ({"colour": 0}, "one of temperature, resistance")):
            with self.assertRaises(BuildError) as refused:
                THERMISTOR.read(text, said)
            self.assertIn(word, refused.exception.problems[0].wants)

    def test_a_point_before_three_digits_is_asked_about_where_nothing_tells(self) -> None:
        text = "temperature;resistance\n0;5.900\n20;2.500\n80;1.320"
        with self.assertRaises(TableError) as caught:
            THERMISTOR.read(text)
        self.assertEqual((caught.exception.heading, caught.exception.problems[0].wants), ((), "whether that is 5.9 or 5,900"))
        self.assertEqual([r["resistance"] for r in THERMISTOR.read(text, points="thousands")], ["5900 ohm", "2500 ohm", "1320 ohm"])
        self.assertEqual(THERMISTOR.read(text, points="decimal")[0]["resistance"], "5.900 ohm")
        self.assertEqual(
            THERMISTOR.read("temperature;resistance\n0;5.900\n20;2.5\n80;1.320")[0]["resistance"], "5.900 ohm"
        )  # 2.5 tells that it is a decimal point
        self.assertEqual(
            THERMISTOR.read("temperature;resistance\n0,5;5.900\n20;2.500\n80;320")[0], {"temperature": "0,5 degC", "resistance": "5900 ohm"}
        )  # 0,5 that it is not


class InjectorTables(unittest.TestCase):
    def test_a_box_in_any_units(self) -> None:
        rows = INJECTOR_BOX.read("name;flow (cc/min);rated at (bar);resistance;pieces\nred;210;3;14,5;6\nblue;24 lb/h;43.5 psi;2.2 ohm;")
        self.assertEqual(rows[0], {"name": "red", "flow": "210 cc/min", "rated_at": "3 bar", "resistance": "14,5 ohm", "pieces": 6})
        self.assertEqual((rows[1]["flow"], rows[1]["rated_at"]), ("24 lb/h", "43.5 psi"))
        self.assertNotIn("pieces", rows[1])

    def test_what_is_written_reads_back(self) -> None:
        injectors = edited("hollin").injectors
        again = INJECTOR_BOX.read(INJECTOR_BOX.write(injectors.box))
        self.assertEqual([r["flow"] for r in again], [c.flow for c in injectors.box])
        self.assertEqual([r.get("price") for r in again], [c.price for c in injectors.box])

    def test_lines_that_cannot_be_read(self) -> None:
        for table, text, at, wants in (
            (FLOW_BENCH, "mark,volume,time\nA,100,30", "/table/line 1", "pressure"),
            (FLOW_BENCH, "mark,volume,time,pressure,drops\nA,100 mL,30 s,300 kPa,few", "/table/line 2/drops", "whole number"),
            (FLOW_BENCH, "mark,volume,time,pressure\n,100,30,300", "/table/line 2/mark", "a word"),
            (INJECTOR_BOX, "name,flow,rated_at,resistance\nred,5 V,3 bar,14", "/table/line 2/flow", "does not measure"),
            (INJECTOR_BOX, "name,flow,rated_at,resistance", "/table", "1 to 200 rows"),
        ):
            with self.subTest(text=text), self.assertRaises(BuildError) as caught:
                table.read(text)
            self.assertEqual(caught.exception.problems[0].at, at)
            self.assertIn(wants, caught.exception.problems[0].wants)

    def test_station_sheets_are_one_page_and_tell_what_matters(self) -> None:
        for make, words in (
            (engine_sheet.sheet, ("Not fit as it is", "nearly certain", "ENG-02", "790 kPa", "turns the engine")),
            (flow_sheet.sheet, ("fuel mist", "left out", "INJ-")),
            (sensor_card.sheet, ("coolant temperature", "SENS-", "12 V kill")),
            (trigger_card.sheet, ("Tooth by tooth", "1.70 / 4.80 V !", "gear in neutral")),
            (timing_card.sheet, ("post 2", "2500 rpm", "-8.5°", "IGN-02")),
            (air_sheet.sheet, ("belongs on", "brake booster", "AIR-02", "catch the fuel")),
        ):
            page = station_sheet.html(make(plan("brindle"), edited("brindle"), {}), plan("brindle"), "revision 2", "2026-04-01")
            for word in words:
                self.assertIn(word, page)
            for car in ("tern", "hollin", "brindle") if DEEP else ("tern", "brindle"):
                paper = to_pdf(station_sheet.html(make(plan(car), edited(car), {}), plan(car)))
                self.assertEqual((paper.data[:4], len(paper.sheets)), (b"%PDF", 1), f"{make.__module__} {car}")

    def test_photographs_stand_on_sheet_and_tag(self) -> None:
        shot = photo.read(telephone())
        doc = document("tern")
        doc["air"]["consumers"][0]["photos"] = [shot.key, "0" * 64]
        build = parse(doc)
        shown = station_sheet.html(air_sheet.sheet(plan("tern"), build, {shot.key: shot.small}), plan("tern"))
        self.assertEqual((shown.count("<img "), shown.count("not kept here")), (1, 1))
        self.assertEqual(hose_tags.html(plan("tern"), build, {shot.key: shot.small}).count("<img "), 2)
        self.assertIn(b"/Subtype /Image", to_pdf(shown).data)
        self.assertNotIn(b"/Subtype /Image", to_pdf(shown.replace("<img ", "<i ")).data)

    def test_a_sheet_fetches_nothing_from_elsewhere(self) -> None:
        with self.assertRaises(FatalURLFetchingError) as caught:
            to_pdf('<img src="http://127.0.0.1:9/x.png">')
        self.assertIn("127.0.0.1:9", str(caught.exception))

    def test_the_flow_sheet_tells_places_trims_and_cautions(self) -> None:
        html = station_sheet.html(flow_sheet.sheet(plan("tern"), edited("tern"), {}), plan("tern"), "revision 4", "2026-04-01")
        for words in ("151.5 g/min", "no flame", "cylinder 5", "1.006", "revision 4"):
            self.assertIn(words, html)
        self.assertIn("left out", station_sheet.html(flow_sheet.sheet(plan("brindle"), edited("brindle"), {}), plan("brindle")))


class HoseTags(unittest.TestCase):
    def test_two_tags_a_hose_and_one_for_each_cap(self) -> None:
        html = hose_tags.html(plan("brindle"), edited("brindle"))
        self.assertEqual(html.count('class="tag"'), 2 * 4 + 1)
        for words in ("nothing here suits it", "was on: manifold", "port: <strong>side</strong>", "catch it"):
            self.assertIn(words, html)
        self.assertTrue(hose_tags.pdf(plan("tern"), edited("tern")).startswith(b"%PDF"))


class CommandLine(unittest.TestCase):
    def run_plan(self, *arguments: str) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            code = cli.main(list(arguments))
        return code, out.getvalue(), err.getvalue()

    def test_json_is_the_plan_and_exit_is_0_whatever_the_findings(self) -> None:
        code, out, _ = self.run_plan(str(ROOT / "uphill_spark/demo/brindle.json"), "--json")
        found = json.loads(out)
        self.assertEqual((code, set(found) >= {"figures", "findings", "stages"}), (0, True))
        self.assertEqual(found["findings"][0]["severity"], "stop")

    def test_for_reading(self) -> None:
        code, out, _ = self.run_plan(str(ROOT / "uphill_spark/demo/tern.json"))
        self.assertEqual(code, 0)
        for words in ("No Stop", "3.8× need", "fuel.margin.full", "Pump capacity"):
            self.assertIn(words, out)

    def test_a_bad_file_is_exit_2_and_one_clear_answer(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            bad = pathlib.Path(folder, "bad.json")
            bad.write_text(json.dumps({**document(), "name": 5}))
            for name, word in ((str(bad), "/name"), (str(pathlib.Path(folder, "none.json")), "No such file"), (folder, "Is a directory")):
                code, out, err = self.run_plan(name, "--json")
                self.assertEqual((code, out), (2, ""))
                self.assertIn(word, err)
                self.assertNotIn("Traceback", err)

    def test_the_command_needs_no_database(self) -> None:
        done = subprocess.run(
            [sys.executable, "-m", "uphill_spark.cli", "-", "--json"],
            input=build_file.write(document()),
            capture_output=True,
            cwd=ROOT,
            env={"PATH": "/usr/bin"},
        )
        self.assertEqual(done.returncode, 0, done.stderr[-500:])
        self.assertAlmostEqual(json.loads(done.stdout)["figures"]["fuel.need"]["value"], 47.83, places=2)


if __name__ == "__main__":
    unittest.main()
