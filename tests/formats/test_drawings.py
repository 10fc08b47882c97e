"""What the papers draw: on the sheet, inside its frame, in the person's units, in the letters of the screen."""

import itertools
import re
import subprocess
import tempfile
import unittest
from xml.etree import ElementTree

from hypothesis import given
from hypothesis import strategies as st

from tests import DEEP, golden
from tests.builds import document, plan
from uphill_spark.core.given import parse
from uphill_spark.core.plan import evaluate
from uphill_spark.core.units import UNITS
from uphill_spark.formats import engine_sheet, start_sheet, station_sheet
from uphill_spark.formats.drawings import DRAWINGS, Axis, round_numbers
from uphill_spark.formats.printing import Printed, font, to_pdf

_PLACE = re.compile(r"[ML]?(-?[\d.]+) (-?[\d.]+)")


def _kept(data: bytes, command: list[str]) -> str:
    with tempfile.NamedTemporaryFile(suffix=".pdf") as file:
        file.write(data)
        file.flush()
        return subprocess.run([command[0], *command[1:], file.name, *(["-"] if command[0] == "pdftotext" else [])], capture_output=True, text=True, check=True).stdout  # fmt: skip


class Drawn(unittest.TestCase):
    def test_everything_lies_inside_the_frame(self) -> None:
        seen = dict.fromkeys(DRAWINGS, 0)
        for car in golden.CARS:
            told = evaluate(parse(golden.document(car)))
            for name, draw in DRAWINGS.items():
                drawing = draw(told)
                if drawing is None:
                    continue
                seen[name] += 1
                root = ElementTree.fromstring(drawing)
                _, _, wide, tall = map(float, root.attrib["viewBox"].split(" "))
                places = [(float(t.attrib["x"]), float(t.attrib["y"])) for t in root.iter("text")]
                for path in root.iter("path"):
                    if "l" not in path.attrib["d"] and "v" not in path.attrib["d"]:
                        places += [(float(x), float(y)) for x, y in _PLACE.findall(path.attrib["d"])]
                with self.subTest(car, drawing=name):
                    self.assertGreater(len(places), 3)
                    self.assertEqual([p for p in places if not (-0.5 <= p[0] <= wide + 0.5 and -0.5 <= p[1] <= tall + 0.5)], [])
                    self.assertTrue(
                        all((t.text or "").strip() or len(t) for t in root.iter("text") if t.attrib.get("text-anchor") != "end")
                    )
        self.assertTrue(all(seen.values()), seen)

    def test_axes_are_in_the_persons_unit(self) -> None:
        for (name, kind), units in itertools.product((("engine", "compression"), ("fuel", "pressure"), ("sensors", "temperature")), UNITS):
            told = evaluate(parse(document("tern")), units)
            self.assertIn(told.scales[kind].unit, str(DRAWINGS[name](told)))  # type: ignore[index]

    def test_a_name_is_text_in_a_drawing(self) -> None:
        drawing = str(DRAWINGS["flow"](plan("tern", {"/injectors/bench/0/mark": "<b>&"})))
        self.assertIn("&lt;b&gt;&amp;", drawing)
        self.assertNotIn("<b>", drawing)

    def test_without_readings_there_is_no_drawing(self) -> None:
        told = plan("tern", {"/engine/compression": []})
        self.assertIsNone(DRAWINGS["engine"](told))
        self.assertNotIn("<svg", station_sheet.html(engine_sheet.sheet(told, parse(document("tern")), {}), told))

    @given(st.floats(-1e4, 1e4), st.floats(1e-2, 1e5), st.integers(2, 9))
    def test_ticks_are_round_and_inside(self, low: float, length: float, wanted: int) -> None:
        axis = Axis(low, low + length, 0.0, 100.0, wanted=wanted)
        ticks = axis.ticks
        self.assertLessEqual(len(ticks), wanted + 1)
        self.assertEqual(list(ticks), sorted(set(ticks)))
        for tick in ticks:
            self.assertTrue(-0.1 <= axis(tick) <= 100.1)
        steps = {f"{b - a:.3e}"[0] for a, b in itertools.pairwise(ticks)}
        self.assertLessEqual(steps, {"1", "2", "5", "9", "4"})  # 0.999... and 1.999... are such steps too

    def test_ticks_of_a_usual_axis(self) -> None:
        self.assertEqual(round_numbers(0.0, 325.0, 4), (0.0, 100.0, 200.0, 300.0))
        self.assertEqual(round_numbers(-0.21, 0.21, 4), (-0.2, 0.0, 0.2))


class Letters(unittest.TestCase):
    def test_papers_are_set_in_the_letters_of_the_screen(self) -> None:
        told = plan("tern")
        for html in (start_sheet.html(told), station_sheet.html(engine_sheet.sheet(told, parse(document("tern")), {}), told)):
            names = _kept(to_pdf(html).data, ["pdffonts"])
            self.assertRegex(names, r"\+Sheet\b.* yes")
            self.assertRegex(names, r"\+Head-Bold\b.* yes")

    def test_letters_beyond_the_plain_ones_have_their_face(self) -> None:
        html = start_sheet.html(plan("tern"))
        for text, has in (("plain", False), ("Łódź", True)):
            names = _kept(to_pdf(html.replace("First start:", text)).data, ["pdffonts"])
            self.assertEqual("Head-Ext" in names, has)
            self.assertRegex(names, r"\+Sheet\b.* yes")

    def test_a_drawing_is_lines_and_words_not_a_picture(self) -> None:
        told = plan("tern")
        paper = to_pdf(station_sheet.html(engine_sheet.sheet(told, parse(document("tern")), {}), told)).data
        self.assertIn("a thick stroke is the time before", " ".join(_kept(paper, ["pdftotext", "-layout"]).split()))
        self.assertEqual(_kept(paper, ["pdfimages", "-list"]).count("\n"), 2)  # the heading alone

    def test_letters_are_known_by_their_own_names_only(self) -> None:
        self.assertEqual((font("text-latin-400.woff2") or b"")[:4], b"wOF2")
        for name in ("../printing.py", "OFL-text.txt", "", "nothing.woff2"):
            self.assertIsNone(font(name))

    def test_the_first_start_of_a_tidy_car_is_three_pages(self) -> None:
        for name, units in itertools.product(("tern", "hollin"), UNITS) if DEEP else (("tern", "as_written"), ("hollin", "imperial")):
            papers: list[Printed] = []

            def kept(page: str, to: list[Printed] = papers) -> Printed:
                to.append(to_pdf(page))
                return to[-1]

            written = start_sheet.pdf(evaluate(parse(document(name)), units), "revision 3", "2026-04-01", kept)
            self.assertEqual((written, len(papers[-1].sheets)), (papers[-1].data, 3), f"{name} {units}")


if __name__ == "__main__":
    unittest.main()
