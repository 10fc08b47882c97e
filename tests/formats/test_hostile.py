"""No text of a person becomes anything but text in a paper: no style, no markup, no formula of a spreadsheet."""

import copy
import csv
import io
import json
import subprocess
import tempfile
import unittest
from html.parser import HTMLParser
from typing import Any

from hypothesis import example, given, settings
from hypothesis import strategies as st
from weasyprint.urls import FatalURLFetchingError

from tests import examples
from tests.builds import document
from tests.leaves import at, leaves, put
from tests.web.test_api import WebCase
from uphill_spark.core.errors import SparkError
from uphill_spark.core.given import parse
from uphill_spark.core.given.fields import info_at
from uphill_spark.core.plan import evaluate
from uphill_spark.formats import start_sheet
from uphill_spark.formats.cells import as_text, from_text, written
from uphill_spark.formats.csv_table import TABLES
from uphill_spark.formats.printing import Printed, to_pdf
from uphill_spark.web.papers import SHEETS

NAMES = (
    '"}}.stop,.caution{display:none}',
    '"; } * { display: none } a { content: "',
    "</style><h1>All clear</h1>",
    "</title><script>alert(1)</script>",
    "<img src=http://127.0.0.1:9/x.png>",
    "{{ 7 * 7 }}{% raw %}",
    "*/ .stop { visibility: hidden } /*",
    "\\22 } .stop { display: none }",
    "]]><!-- ",
    "&lt;b&gt; & \u202egnorw\u202c '\"",
    "@import url(file:///etc/passwd);",
)
PAPERS = ("start-sheet.pdf", "start-sheet.html", "fuel-sheet.pdf", "hose-tags.pdf", *(f"sheets/{key}.pdf" for key in SHEETS))


def together(names: tuple[str, ...], most: int = 80) -> list[str]:
    """The same in fewer names, as many in each as a name may be long."""
    found = [""]
    for name in names:
        if len(found[-1]) + len(name) > most:
            found.append("")
        found[-1] += name
    return found


class Seen(HTMLParser):
    """Tags of a page in order, its text, and what stands in its styles."""

    def __init__(self, page: str) -> None:
        super().__init__()
        self.tags: list[tuple[str, tuple[str, ...]]] = []
        self.text, self.style = "", ""
        self._in_style = False
        self.feed(page)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.tags.append((tag, tuple(name for name, _ in attrs)))
        self._in_style = tag == "style"

    def handle_endtag(self, tag: str) -> None:
        self._in_style = False

    def handle_data(self, data: str) -> None:
        if self._in_style:
            self.style += data
        else:
            self.text += data


def written_by_people(doc: dict[str, Any], text: str) -> dict[str, Any]:
    """A document with a text wherever a person may write one freely."""
    hostile = copy.deepcopy(doc)
    for pointer in leaves(doc):
        info = info_at(pointer)
        if info is None or info.kind != "text" or not isinstance(at(doc, pointer), str):
            continue
        trial = copy.deepcopy(hostile)
        put(trial, pointer, text)
        try:
            parse(trial)
        except SparkError:  # a place that takes words of its own only
            continue
        hostile = trial
    return hostile


class Papers(WebCase):
    def pages(self, doc: dict[str, Any]) -> dict[str, str]:
        """Every paper as the page that it is printed from."""
        state = self.client.post("/api/builds/import", data=json.dumps(doc), content_type="application/json")
        self.assertEqual(state.status_code, 201, state.text[:300])
        found: dict[str, str] = {}
        for paper in PAPERS:
            caught: list[str] = []

            def kept(page: str, to: list[str] = caught) -> Printed:
                to.append(page)
                return Printed(b"%PDF", (frozenset(),))

            self.app.extensions["press"] = kept
            answer = self.client.get(f"/api/builds/{state.get_json()['id']}/papers/{paper}")
            self.assertEqual(answer.status_code, 200, paper)
            found[paper] = caught[0] if caught else answer.text
        return found

    def test_a_hostile_name_or_note_stays_text(self) -> None:
        doc = document("brindle")
        tame = {paper: Seen(page) for paper, page in self.pages(written_by_people(doc, "Tame name")).items()}
        self.assertGreater(sum("Tame name" in seen.text for seen in tame.values()), 8)
        for name in together(NAMES):
            for paper, page in self.pages(written_by_people(doc, name)).items():
                seen = Seen(page)
                with self.subTest(paper, name=name):
                    self.assertEqual(seen.style, tame[paper].style)
                    self.assertEqual(seen.tags, tame[paper].tags)
                    self.assertEqual(name in seen.text, "Tame name" in tame[paper].text)  # as it was written, every sign of it

    def test_do_not_start_is_printed_whatever_the_car_is_called(self) -> None:
        for name in (NAMES[0], NAMES[2]):
            plan = evaluate(parse(document("brindle") | {"name": name}))
            with tempfile.NamedTemporaryFile(suffix=".pdf") as file:
                file.write(start_sheet.pdf(plan, "revision 3"))
                file.flush()
                told = subprocess.run(["pdftotext", file.name, "-"], capture_output=True, text=True, check=True).stdout
            pages = [" ".join(page.split()) for page in told.split("\f") if page.strip()]
            self.assertIn("Do not start", " ".join(pages))
            self.assertIn("Extinguisher in the helper", " ".join(pages))  # a caution at its step
            for page in pages:
                self.assertIn("revision 3", page)  # the footer, on every sheet

    def test_a_paper_may_fetch_nothing(self) -> None:
        for page in (
            '<link rel="stylesheet" href="file:///etc/hostname">',
            '<img src="http://127.0.0.1:9/x">',
            "<style>@import url(file:///etc/hostname)</style>",
        ):
            with self.subTest(page), self.assertRaises(FatalURLFetchingError):
                to_pdf(page)


class Cells(unittest.TestCase):
    FORMULAS = ("=1+1", "+cmd|' /C x'!A0", "-2+3", "@SUM(A1)", "\t=1", "\r=1", '=HYPERLINK("http://x","y")', "'=1", "''+a", "-x")

    def test_what_a_spreadsheet_would_work_out_is_text(self) -> None:
        for cell in self.FORMULAS:
            self.assertTrue(str(as_text(cell)).startswith("'"), cell)

    def test_numbers_stay_numbers(self) -> None:
        for cell in ("-40 degC", "-0.5", "+3", "-1e-3", "-12 °C", -3.5, 7, None, "", "plain", "it's", "'quoted'", "-5 mm²"):
            self.assertEqual(as_text(cell), cell)

    @settings(max_examples=examples(200))
    @given(st.text(max_size=12) | st.text(alphabet="'=+-@\t 1ab", max_size=6))
    @example("'=")
    @example("''=")
    def test_it_reads_back_the_same(self, text: str) -> None:
        self.assertEqual(from_text(as_text(text)), text)

    def test_a_list_of_a_persons_names_goes_out_safe_and_comes_back(self) -> None:
        doc = document("tern")
        for i, formula in enumerate(self.FORMULAS[:4]):
            doc["injectors"]["box"] = [
                *doc["injectors"].get("box", [])[:i],
                {"name": formula, "flow": "150 g/min", "rated_at": "300 kPa", "resistance": "15 ohm"},
            ]
        box = parse(doc).injectors.box
        out = TABLES["injector-box"].write(box)
        for row in list(csv.reader(io.StringIO(out)))[1:]:
            self.assertFalse(row[0].startswith(("=", "+", "-", "@")), row)
        self.assertEqual([row["name"] for row in TABLES["injector-box"].read(out)], [x.name for x in box])

    def test_every_list_that_goes_out_is_written_by_one_hand(self) -> None:
        self.assertEqual(written([("=a", "b")]), "'=a,b\r\n")


if __name__ == "__main__":
    unittest.main()
