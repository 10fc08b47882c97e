"""Tables read in: whichever way round they stand, in whichever words; asked where they can be read in two ways; and what was written is read in as it was."""

from __future__ import annotations

import csv
import io
import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st
from openpyxl import load_workbook

from tests.builds import document, worked
from uphill_spark.core.errors import BuildError
from uphill_spark.core.given import parse
from uphill_spark.core.plan import evaluate
from uphill_spark.formats import tune_book, tune_tables
from uphill_spark.formats.station_sheet import html
from uphill_spark.formats.tune_read import ReadTables, read_tables
from uphill_spark.formats.tune_sheet import sheet

PLAIN = "VE [%]; 800; 1600; 3200; 4800; 5700\n40; 42; 50; 58; 60; 55\n70; 55; 65; 74; 76; 70\n100; 68; 78; 85; 86; 80\n"
ROWS = [[42.0, 50.0, 58.0, 60.0, 55.0], [55.0, 65.0, 74.0, 76.0, 70.0], [68.0, 78.0, 85.0, 86.0, 80.0]]


def read(text: str, **choices: Any) -> ReadTables:
    return read_tables(text, worked("tern"), {int(k[1:]): v for k, v in choices.items()})


class Read(unittest.TestCase):
    def test_however_it_stands_it_is_the_same_table(self) -> None:
        turned = "VE [%]; 40; 70; 100\n" + "\n".join(
            f"{x}; {a}; {b}; {c}" for x, a, b, c in zip((800, 1600, 3200, 4800, 5700), *ROWS, strict=True)
        )
        falling = "VE [%]; 800; 1600; 3200; 4800; 5700\n100; 68; 78; 85; 86; 80\n70; 55; 65; 74; 76; 70\n40; 42; 50; 58; 60; 55\n"
        fraction = "VE; 800; 1600; 3200; 4800; 5700\n40; 0,42; 0,5; 0,58; 0,6; 0,55\n70; 0,55; 0,65; 0,74; 0,76; 0,7\n100; 0,68; 0,78; 0,85; 0,86; 0,8\n"
        bare = "VE\n800 1600 3200 4800 5700\n40 42 50 58 60 55\n70 55 65 74 76 70\n100 68 78 85 86 80"
        for text in (
            PLAIN,
            PLAIN.replace(";", "\t"),
            PLAIN.replace("; ", ","),
            PLAIN.replace("\n", "\r\n"),
            turned,
            falling,
            fraction,
            bare,
        ):
            with self.subTest(text[:60]):
                found = read(text).tables[0]
                self.assertEqual((found.key, found.x, found.y), ("ve", [800.0, 1600.0, 3200.0, 4800.0, 5700.0], [40.0, 70.0, 100.0]))
                self.assertEqual(found.rows, ROWS)
                self.assertEqual(found.asks, "")

    def test_what_was_guessed_is_told(self) -> None:
        turned = "VE [%]; 40; 100\n800; 42; 68\n4800; 60; 86\n5700; 55; 80"
        self.assertTrue(any("turned round" in g for g in read(turned).tables[0].guesses))
        bar = read("VE [%], MAP bar; 800; 1600\n0,4; 42; 50\n1,0; 68; 78")
        self.assertEqual(bar.tables[0].y, [40.0, 100.0])
        throttle = read("VE [%]; 800; 1600; 5700\n0; 20; 22; 24\n100; 68; 78; 80")
        self.assertEqual((throttle.load, throttle.tables[0].y_label), ("throttle", "throttle, %"))

    def test_what_can_be_read_in_two_ways_is_asked_with_what_each_would_mean(self) -> None:
        text = ";800;1600;3200;5700\n40;15;28;34;36\n100;10;20;27;30\n"
        found = read(text).tables[0]
        self.assertIsNone(found.key)
        self.assertEqual([o.key for o in found.options], ["percent", "advance"])
        self.assertIn("fills to 27 %", found.options[0].means)
        self.assertIn("spark 27 degrees before top", found.options[1].means)
        self.assertEqual(read(text, _0="advance").tables[0].key, "advance")
        self.assertIsNone(read(text, _0="skip").tables[0].key)
        mixture = "mixture;800;1600;5700\n40;0,95;1,0;1,0\n100;0,88;0,86;0,86\n"
        self.assertEqual(read(mixture).tables[0].key, "lambda")
        both = ";800;1600;5700\n40;0,95;1,0;1,0\n100;0,88;0,86;0,86\n"
        self.assertEqual({o.key for o in read(both).tables[0].options}, {"fraction", "lambda"})
        self.assertEqual(read(both, _0="fraction").tables[0].rows[0][0], 95.0)

    def test_an_air_fuel_ratio_becomes_lambda_by_this_fuel(self) -> None:
        found = read("AFR;800;1600;5700\n40;14,1;14,1;14,1\n100;12,69;12,4;12,4\n").tables[0]
        self.assertEqual((found.key, found.rows[0][0], found.rows[1][0]), ("lambda", 1.0, 0.9))

    def test_curves_go_by_their_heading_and_without_one_are_asked_about(self) -> None:
        found = read(
            "Warm-up\n-20;1,6\n20;1,2\n75;1,0\n\nDwell ms\n8;5,1\n12;3,2\n14;2,6\n\nInjector dead time\n8,10,14\n2,1,1,3,0,9\n"
        ).tables
        self.assertEqual([t.key for t in found[:2]], ["warm_up", "dwell"])
        self.assertEqual((found[0].x, found[0].rows), ([-20.0, 20.0, 75.0], [[1.6, 1.2, 1.0]]))
        self.assertIn("Which curve", read("-20;1,6\n20;1,2\n75;1,0\n").tables[0].asks)
        level = read("Cranking\n-20;0;40;80\n2,6;1,8;0,9;0,55\n").tables[0]
        self.assertEqual((level.key, level.x, level.rows), ("cranking", [-20.0, 0.0, 40.0, 80.0], [[2.6, 1.8, 0.9, 0.55]]))

    def test_another_engines_table_is_doubted(self) -> None:
        far = read("VE [%];1000;4000;9000\n40;42;50;55\n100;68;78;80\n").tables[0].doubts
        self.assertTrue(any("another engine" in d for d in far), far)
        self.assertEqual(read(PLAIN).tables[0].doubts, [])
        low = read("VE [%];1000;4000;5700\n20;42;50;55\n60;68;78;80\n").tables[0].doubts
        self.assertTrue(any("60 kPa" in d for d in low))

    def refused(self, text: str) -> Any:
        with self.assertRaises(BuildError) as raised:
            read(text)
        return raised.exception.problems[0]

    def test_what_cannot_be_read_is_named_by_its_line(self) -> None:
        gap = self.refused("VE [%]; 800; 1600; 3200\n40; 42; ; 58\n100; 68; 78; 85\n")
        self.assertEqual((gap.at, gap.given), ("/text/line 2", "nothing in column 3"))
        short = self.refused("VE [%]; 800; 1600; 3200\n40; 42; 50; 58\n100; 68; 78\n")
        self.assertEqual(short.at, "/text/line 3")
        self.assertIn("more than the one before", self.refused("VE [%]; 800; 3200; 1600\n40; 42; 50; 58\n100; 68; 78; 85\n").wants)
        word = self.refused("VE [%]; 800; 1600; 3200\n40; 42; NaN; 58\n100; 68; 78; 85\n")
        self.assertEqual((word.at, word.given), ("/text/line 2", "NaN"))
        wide = "\n".join(";".join(str(100 + k) for k in range(201)) for _ in range(200))
        self.assertIn("at most 40", self.refused(wide).wants)
        for text in ("", "no numbers here", "7", "x\n" * 2000):
            self.assertTrue(self.refused(text).wants)

    @given(st.text(max_size=300))
    def test_no_text_brings_it_down(self, text: str) -> None:
        try:
            found = read(text)
        except BuildError as error:
            self.assertTrue(error.problems)
        else:
            for table in found.tables:
                self.assertEqual(len(table.rows), max(len(table.y), 1))

    def test_our_own_file_that_is_none_is_named_by_its_place(self) -> None:
        for text, at in (
            ("{}", "/format"),
            ('{"format": "other"}', "/format"),
            ('{"format": "uphill-spark-tune"}', "/load_signal"),
            ('{"format": "uphill-spark-tune", "load_signal": "throttle", "tables": 3}', "/tables"),
            ('{"format": "uphill-spark-tune", "load_signal": "throttle", "tables": [{"key": "moon"}]}', "/tables/0/key"),
            ('{"format": "uphill-spark-tune", "load_signal": "throttle", "tables": [{"key": "ve", "x": ["a"], "rows": []}]}', "/tables/0"),
            (
                '{"format": "uphill-spark-tune", "load_signal": "throttle", "tables": [{"key": "ve", "x": [2, 1], "y": [1], "rows": [[1, 2]]}]}',
                "/tables/0",
            ),
        ):
            with self.subTest(text):
                self.assertEqual(self.refused(text).at, at)


class ThereAndBack(unittest.TestCase):
    def test_every_table_comes_back_as_it_went(self) -> None:
        for car in ("tern", "hollin"):
            plan = evaluate(parse(document(car)))
            w = worked(car)
            for table in tune_tables.typed_in(plan):
                with self.subTest(car=car, table=table.key):
                    found = read_tables(tune_tables.table_csv(table), w).tables[0]
                    self.assertEqual((found.key, found.x, found.y), (table.key, table.x, table.y))
                    for a, b in zip(found.rows, table.rows, strict=True):
                        for x, y in zip(a, b, strict=True):
                            self.assertAlmostEqual(x, y, places=6)

    def test_our_own_file_comes_back_whole(self) -> None:
        plan = evaluate(parse(document("tern")))
        found = read_tables(tune_tables.all_json(plan), worked("tern"))
        self.assertEqual([t.key for t in found.tables], [t.key for t in tune_tables.typed_in(plan)])
        for a, b in zip(found.tables, tune_tables.typed_in(plan), strict=True):
            self.assertEqual((a.x, a.y, a.rows), (b.x, b.y, b.rows), a.key)

    def test_the_workbook_holds_every_table_on_a_sheet_of_its_own(self) -> None:
        plan = evaluate(parse({**document("tern"), "name": "=HYPERLINK(1)"}))
        found = load_workbook(io.BytesIO(tune_book.book(plan, "revision 1", "2026-11-27")))
        tables = tune_tables.typed_in(plan)
        self.assertEqual(len(found.sheetnames), len(tables) + 1)
        self.assertEqual(len(set(found.sheetnames)), len(found.sheetnames))
        self.assertEqual(found["Figures"]["A1"].value, "'=HYPERLINK(1)")
        ve = found[found.sheetnames[1]]
        self.assertEqual([c.value for c in ve[1]][1:], tables[0].x)
        self.assertEqual([c.value for c in ve[2]], [tables[0].y[0], *tables[0].rows[0]])
        row, column = tables[0].ink[0]
        self.assertTrue(ve.cell(row + 2, column + 2).font.bold)
        self.assertFalse(ve.cell(2, 2).font.bold)

    def test_a_workbooks_sheet_copied_is_read_in(self) -> None:
        plan = evaluate(parse(document("tern")))
        book = load_workbook(io.BytesIO(tune_book.book(plan, "revision 1", "2026-11-27")))
        out = io.StringIO()
        csv.writer(out, delimiter="\t").writerows([[c.value for c in row] for row in book[book.sheetnames[1]].iter_rows()])
        found = read(out.getvalue()).tables[0]
        self.assertEqual(found.rows, tune_tables.typed_in(plan)[0].rows)

    def test_the_paper_has_every_table_and_the_caution(self) -> None:
        doc = document("tern")
        doc["tune"]["kept"]["label"] = "<b>x</b>"
        build = parse(doc)
        plan = evaluate(build)
        text = html(sheet(plan, build, {}), plan)
        self.assertIn("Laptop on mains", text)
        for table in tune_tables.typed_in(plan):
            self.assertIn(table.title.replace("'", "&#39;"), text)
        self.assertNotIn("<b>x</b>", text)

    def test_what_a_distributor_keeps_is_not_taken_along(self) -> None:
        doc = document("tern")
        doc["ignition"] |= {"timed_by_unit": False, "kind": "electronic_distributor", "advance": "working"}
        keys = {t.key for t in tune_tables.typed_in(evaluate(parse(doc)))}
        self.assertNotIn("advance", keys)
        self.assertIn("ve", keys)


if __name__ == "__main__":
    unittest.main()
