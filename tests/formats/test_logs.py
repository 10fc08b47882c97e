"""Logs as files: text of any kind, MDF 4, packed columns, and what is no log."""

from __future__ import annotations

import gzip
import io
import pathlib
import subprocess
import sys
import tempfile
import unittest
import zipfile
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from uphill_spark import demo
from uphill_spark.core.errors import FormatError
from uphill_spark.formats import log_columns, log_csv, log_mdf, log_out
from uphill_spark.formats.raw_log import BROKEN_TOLD, RawLog, named_once
from uphill_spark.standin.frames import own

HEAD = ("Time", "Speed", "Lambda", "Coolant")
UNITS = ("s", "rpm", "", "°C")


def text(
    rows: int = 60,
    *,
    delimiter: str = ",",
    comma: bool = False,
    units: bool = False,
    header: bool = True,
    clock: str = "seconds",
    ending: str = "\n",
    insert: dict[int, str] | None = None,
) -> bytes:
    """A log as text; `insert` puts a line before a row."""
    lines = [delimiter.join(HEAD)] if header else []
    if units:
        lines.append(delimiter.join(UNITS))
    for i in range(rows):
        lines += [insert[i]] if insert and i in insert else []
        t = i * 0.1
        when = {
            "seconds": f"{t:.1f}",
            "ms": f"{i * 100}",
            "clock": f"23:59:{50 + t:06.3f}" if t < 10 else f"00:00:{t - 10:06.3f}",
            "minutes": f"{int(t // 60):02d}:{t % 60:04.1f}",
            "date": f"2027-05-02T09:{int(t // 60):02d}:{t % 60:06.3f}",
        }[clock]
        cells = [when, f"{800 + 10 * i}", f"{0.9 + 0.001 * i:.3f}", f"{70 + 0.5 * i:.1f}"]
        lines.append(delimiter.join(c.replace(".", ",") if comma else c for c in cells))
    return (ending.join(lines) + ending).encode()


class Text(unittest.TestCase):
    def right(self, found: RawLog, rows: int = 60) -> None:
        self.assertEqual(found.rows, rows)
        self.assertTrue(np.allclose(found.time, np.arange(rows) * 0.1, atol=1e-6))
        self.assertTrue(np.allclose(found.columns[0], 800 + 10 * np.arange(rows)))
        self.assertTrue(np.allclose(found.columns[1], 0.9 + 0.001 * np.arange(rows)))

    def test_any_delimiter_decimal_comma_and_units_are_seen_by_themselves(self) -> None:
        for options in (
            {}, {"delimiter": ";"}, {"delimiter": ";", "comma": True}, {"delimiter": "\t", "comma": True}, {"delimiter": "|"}, {"units": True}, {"delimiter": ";", "comma": True, "units": True}, {"ending": "\r\n"}, {"delimiter": ";", "comma": True, "ending": "\r\n", "units": True},
        ):  # fmt: skip
            with self.subTest(options):
                found = log_csv.read(text(**options))
                self.right(found)
                self.assertEqual(found.names, list(HEAD[1:]))
                self.assertEqual((found.broken_count, found.cells_lost), (0, 0))
                if options.get("units"):
                    self.assertEqual(found.units, list(UNITS[1:]))

    def test_clocks_of_every_kind_give_the_same_seconds(self) -> None:
        for clock in ("seconds", "ms", "minutes", "date"):
            with self.subTest(clock):
                self.right(log_csv.read(text(clock=clock)))
        self.right(log_csv.read(text(150, clock="clock")), 150)  # over midnight
        self.right(log_csv.read(text(delimiter=";", comma=True, clock="date")))

    def test_a_date_beside_a_clock_counts(self) -> None:
        rows = "\n".join(f"02.05.2027;09:00:{i:02d};{800 + i};0,98" for i in range(40))
        found = log_csv.read(f"Datum;Zeit;n;L\n{rows}\n".encode())
        self.assertTrue(np.allclose(found.time, np.arange(40)))

    def test_lines_of_words_headers_that_come_again_and_empty_ones_are_no_rows_and_told(self) -> None:
        found = log_csv.read(text(insert={20: "the passenger pressed the mark", 30: ",".join(HEAD), 40: "", 50: "1,2"}))
        self.right(found)
        self.assertEqual(found.broken_count, 2)
        self.assertEqual([(b.line, b.text) for b in found.broken], [(22, "the passenger pressed the mark"), (55, "1,2")])
        self.assertIn("The header comes again 1 time.", found.notes)
        self.assertIn("1 empty line.", found.notes)

    def test_a_cell_that_is_no_number_is_left_empty_and_its_row_kept(self) -> None:
        lines = text().decode().splitlines()
        lines[11] = lines[11].replace("0.910", "open")
        lines[12] = lines[12].replace("0.911", "")
        found = log_csv.read("\n".join(lines).encode())
        self.assertEqual((found.rows, found.broken_count, found.cells_lost), (60, 0, 1))
        self.assertEqual(np.flatnonzero(np.isnan(found.columns[1])).tolist(), [10, 11])
        self.assertIn("'open' is no number", found.broken[0].why)
        self.assertEqual(found.broken[0].line, 12)

    def test_of_very_many_broken_lines_the_first_are_told_and_all_counted(self) -> None:
        rows = text(300).decode().splitlines()
        mixed = [x for row in rows for x in (row, "words and more words, here")][:-1]
        found = log_csv.read("\n".join(mixed).encode())
        self.assertEqual(found.rows, 300)
        self.assertGreaterEqual(found.broken_count, 299)
        self.assertEqual(len(found.broken), BROKEN_TOLD)

    def test_units_stand_behind_names_too_and_twins_get_a_number(self) -> None:
        found = log_csv.read(b"t [s],n (rpm),n (rpm)\n" + b"".join(b"%.1f,%d,%d\n" % (i / 10, i, 2 * i) for i in range(30)))
        self.assertEqual((found.names, found.units), (["n", "n (2)"], ["rpm", "rpm"]))
        self.assertTrue(any("more than once" in n for n in found.notes))

    def test_lines_before_the_header_are_passed_over(self) -> None:
        found = log_csv.read(b"Log of a drive\nby hand, on Sunday\n\n" + text(units=True))
        self.right(found)
        self.assertEqual(found.units, list(UNITS[1:]))

    def test_other_letters_and_marks_are_read(self) -> None:
        for coding in ("utf-8-sig", "utf-16", "cp1252"):
            with self.subTest(coding):
                data = text(units=True).decode().encode(coding)
                found = log_csv.read(data)
                self.assertEqual(found.units[2], "°C")

    def test_without_a_clock_rows_are_counted_and_that_is_told(self) -> None:
        found = log_csv.read(b"n;L\n" + b"".join(b"%d;0.9%d\n" % (1000 - i, i % 9) for i in range(40)))
        self.assertAlmostEqual(float(found.time[10]), 1.0)
        self.assertTrue(any("No column is a clock" in n for n in found.notes))

    def test_a_clock_that_begins_again_is_carried_on_and_one_that_runs_backwards_is_refused(self) -> None:
        twice = text(100).decode().splitlines()
        found = log_csv.read("\n".join(twice + twice[1:]).encode())
        self.assertEqual(found.rows, 200)
        self.assertTrue((np.diff(found.time) > 0).all())
        self.assertTrue(any("begins again 1 time" in n for n in found.notes))
        with self.assertRaisesRegex(FormatError, r"Time runs backwards in 59 of 60 rows, first at line 3"):
            log_csv.read("\n".join([twice[0], *reversed(twice[1:61])]).encode())

    def test_packed_files_are_opened_and_traps_are_not(self) -> None:
        self.right(log_csv.read(gzip.compress(text())))
        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as z:
            z.writestr("drive.csv", text())
        self.right(log_csv.read(packed.getvalue()))
        with zipfile.ZipFile(packed, "a") as z:
            z.writestr("other.csv", text())
        with self.assertRaisesRegex(FormatError, "holds 2 files"):
            log_csv.read(packed.getvalue())
        with self.assertRaisesRegex(FormatError, "broken off"):
            log_csv.read(gzip.compress(text())[:-20])

    def test_what_is_no_log_is_told_in_words(self) -> None:
        for data, words in (
            (b"", "empty"), (b"\n\n  \n", "empty"), (b"\x89PNG\r\n\x1a\n" + b"\x00" * 50, "a picture"), (b"\xff\xd8\xff\xe0" + b"x" * 50, "a photograph"), (b"%PDF-1.7 ...", "a PDF"), (b"\x00\x01\x02" * 50, "no text"), (b"a,b,c\nred,green,blue\n" * 20, "No row of numbers"),
            (b"just words without any end", "No row of numbers"),
        ):  # fmt: skip
            with self.subTest(words), self.assertRaisesRegex(FormatError, words):
                log_csv.read(data)

    @settings(max_examples=60, deadline=None)
    @given(st.binary(max_size=400))
    def test_whatever_comes_in_is_a_log_or_refused_in_words(self, data: bytes) -> None:
        try:
            found = log_csv.read(data)
        except FormatError as error:
            self.assertTrue(str(error).endswith("."))
        else:
            self.assertTrue(all(len(c) == found.rows for c in found.columns))

    def test_somebody_who_gives_up_ends_it(self) -> None:
        class GivenUp(Exception):
            pass

        def told(share: float) -> None:
            raise GivenUp

        with self.assertRaises(GivenUp):
            log_csv.read(text(), told)

    def test_the_drives_that_ship_are_read_without_a_word_too_many(self) -> None:
        for name in demo.NAMES:
            file, data = demo.drive(name)
            self.assertLess(len(data), 3_000_000)
            found = log_mdf.read(data) if log_mdf.is_mdf(data) else log_csv.read(data)
            self.assertGreater(found.rows, 10_000, file)
            self.assertLessEqual(found.broken_count, 1)
            self.assertAlmostEqual(float(np.median(np.diff(found.time))), 0.05, delta=0.002)


#: Sixty rounds of two messages, recorded as the stand-in's own command does it.
RECORDS = """
import sys, asammdf, can
from uphill_spark.standin.frames import own
logger = can.Logger(sys.argv[1])
for k in range(60):
    for name, signals in (("Turning", {"EngineSpeed": 900 + k}), ("Fuelling", {"Lambda": 1.0})):
        message = own().encoded(name, signals)
        message.timestamp = 1000 + k * 0.02
        logger(message)
logger.stop()
"""


def small() -> tuple[Any, list[str], list[str], list[Any]]:
    time = np.arange(200) * 0.05
    return (
        time,
        ["Engine speed", "Lambda", "=1+1"],
        ["rpm", "", "kPa"],
        [np.round(900 + time * 40), np.round(1 + 0.1 * np.sin(time), 3), np.where(time < 1, np.nan, 55.5)],
    )


class Measured(unittest.TestCase):
    def test_what_goes_out_comes_in_as_the_same_numbers(self) -> None:
        time, names, units, columns = small()
        for kind in log_out.KINDS:
            data = log_out.written(kind, time, names, units, columns)
            with self.subTest(kind):
                if kind == "parquet":
                    found = log_out.read_parquet(data)
                    self.assertTrue(np.array_equal(found[0], time))
                    back = found[1:]
                else:
                    raw = log_mdf.read(data) if kind == "mf4" else log_csv.read(data)
                    self.assertTrue(np.allclose(raw.time, time))
                    self.assertEqual(raw.names[:2], names[:2])
                    back = raw.columns
                for one, other in zip(columns, back, strict=True):
                    self.assertTrue(np.array_equal(one, other, equal_nan=True))

    def test_a_name_that_a_workbook_would_work_out_stays_a_text(self) -> None:
        head = log_out.written("csv", *small()).decode().splitlines()[0]
        self.assertIn("'=1+1", head)
        self.assertNotIn(",=1", head)

    def test_slower_signals_are_held_on_the_clock_of_the_fastest(self) -> None:
        import asammdf

        fast, slow = np.arange(100) * 0.1, np.arange(10) * 1.0
        with asammdf.MDF(version="4.10") as mdf:
            mdf.append([asammdf.Signal(samples=fast * 100, timestamps=fast, name="n", unit="rpm")])
            mdf.append([asammdf.Signal(samples=slow, timestamps=slow, name="T", unit="degC")])
            out = io.BytesIO()
            mdf.save(out)
        found = log_mdf.read(out.getvalue())
        self.assertEqual(found.rows, 100)
        self.assertTrue(np.array_equal(found.columns[found.names.index("T")], np.floor(fast + 1e-9)))
        self.assertTrue(any("Slower signals" in n for n in found.notes))

    def test_a_file_that_breaks_off_is_told_with_its_bytes_at_every_length(self) -> None:
        data = log_out.written("mf4", *small())
        for length in (10, 40, 63, 64, 100, 168, 400, len(data) // 2, len(data) - 50):
            with self.subTest(length):
                try:
                    found = log_mdf.read(data[:length])
                except FormatError as error:
                    self.assertRegex(str(error), r"broken off|breaks off|no rows|holds numbers")
                else:
                    self.assertTrue(found.broken or found.notes or found.rows <= 200)

    def test_frames_of_a_bus_are_read_by_its_file(self) -> None:
        frames = own()
        with tempfile.TemporaryDirectory() as folder:
            file = pathlib.Path(folder, "frames.mf4")
            subprocess.run(
                [sys.executable, "-c", RECORDS, str(file)], check=True
            )  # a process of its own: here the library was loaded without its recorder
            data = file.read_bytes()
        with self.assertRaisesRegex(FormatError, "DBC file"):
            log_mdf.read(data)
        found = log_mdf.read(data, frames)
        self.assertTrue(np.allclose(found.columns[found.names.index("EngineSpeed")][:60], 900 + np.arange(60), atol=1))

    def test_names_are_each_there_once(self) -> None:
        self.assertEqual(named_once(["a", " a ", "", "b"]), (["a", "a (2)", "column 3", "b"], ["a"]))

    def test_a_parquet_that_is_none_is_refused(self) -> None:
        with self.assertRaisesRegex(FormatError, "no Parquet"):
            log_out.read_parquet(b"PAR1 no more")


class Packed(unittest.TestCase):
    def same(self, column: Any) -> int:
        data = log_columns.packed(column)
        self.assertTrue(np.array_equal(log_columns.unpacked(data), column, equal_nan=True))
        return len(data)

    def test_numbers_come_back_to_the_last_bit(self) -> None:
        draw = np.random.default_rng(3)
        for column in (
            np.zeros(5),
            np.full(5, np.nan),
            np.array([1.5, np.nan, -2.25]),
            draw.normal(size=1000),
            np.array([1e300, -1e-300, 0.1]),
            np.array([]),
            np.round(draw.normal(80, 20, 5000), 2),
            np.array([2**29 + 0.5, 1.0]),
            np.arange(40_000.0),
        ):
            self.same(column)

    @settings(max_examples=80, deadline=None)
    @given(
        st.lists(
            st.one_of(st.floats(allow_infinity=False, width=64), st.floats(-500, 500).map(lambda v: round(v, 2)), st.just(float("nan"))),
            max_size=200,
        )
    )
    def test_any_numbers_do(self, values: list[float]) -> None:
        self.same(np.array(values, dtype=np.float64))

    def test_a_log_takes_a_quarter_of_its_text_at_most(self) -> None:
        _, data = demo.drive("tern")
        found = log_mdf.read(data)
        as_text = len(log_out.written("csv", found.time, found.names, found.units, found.columns))
        packed = sum(len(log_columns.packed(c)) for c in [found.time, *found.columns])
        self.assertLess(packed, 0.25 * as_text)

    def test_what_was_not_packed_here_is_refused(self) -> None:
        with self.assertRaises(ValueError):
            log_columns.unpacked(b"XX\x01\x00\x00\x00\x00\x00")


if __name__ == "__main__":
    unittest.main()
