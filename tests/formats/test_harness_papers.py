"""Papers of the harness: the test sheet, the card of fuses, connectors, labels, the form board at true length, the cut list."""

import csv
import io
import math
import re
import unittest

from tests.builds import document, edited, plan
from uphill_spark import demo
from uphill_spark.core.given import parse
from uphill_spark.core.plan import evaluate
from uphill_spark.formats import form_board, harness_sheets, station_sheet, wire_labels
from uphill_spark.formats.printing import to_pdf


class TestSheets(unittest.TestCase):
    def test_each_wire_stands_on_it_with_what_was_read_and_what_is_to_be(self) -> None:
        page = station_sheet.html(harness_sheets.tests(plan("tern"), edited("tern"), {}), plan("tern"))
        for row in plan("tern").stages.wiring.tests:
            self.assertIn(row.label, page)
        self.assertIn("12.6 / 12.6", page)  # expected, read
        self.assertIn("12.4 / 12.5", page)
        self.assertIn("____", page)
        self.assertIn("coil unplugged", page)
        self.assertIn("FAILS", station_sheet.html(harness_sheets.tests(plan("brindle"), edited("brindle"), {}), plan("brindle")))

    def test_as_csv_it_has_a_row_for_each_wire_and_position(self) -> None:
        rows = list(csv.DictReader(io.StringIO(harness_sheets.tests_csv(plan("tern")))))
        self.assertEqual({r["wire"] for r in rows}, {w.key for w in plan("tern").stages.wiring.wires})
        feed = next(r for r in rows if (r["wire"], r["position"]) == ("unit_feed", "run"))
        self.assertEqual((feed["read V"], feed["verdict"]), ("12.500", "pass"))

    def test_what_a_person_wrote_is_escaped(self) -> None:
        doc = document("tern")
        doc["wiring"]["own"]["interior_lamp"]["label"] = "<script>x</script>=1+1"
        told = evaluate(parse(doc))
        for page in (
            station_sheet.html(harness_sheets.tests(told, parse(doc), {}), told),
            station_sheet.html(harness_sheets.connectors(told, parse(doc), {}), told),
            wire_labels.html(told, "http://192.0.2.1:8000/b/x"),
        ):
            self.assertNotIn("<script>", page)
        self.assertNotIn("\n=", harness_sheets.cut_list(told))


class Cards(unittest.TestCase):
    def test_fuses_and_relays_fit_one_page_on_each_car(self) -> None:
        for name in demo.NAMES:
            page = station_sheet.html(harness_sheets.fuses(plan(name), edited(name), {}), plan(name))
            self.assertEqual(len(to_pdf(page).sheets), 1, name)
            for fuse in plan(name).stages.wiring.fuses:
                self.assertIn(f">{fuse.key.replace('_', ' ')}<", page)

    def test_every_pin_with_a_wire_is_on_its_connector(self) -> None:
        page = station_sheet.html(harness_sheets.connectors(plan("tern"), edited("tern"), {}), plan("tern"))
        for pin in plan("tern").stages.wiring.pins:
            if pin.wires:
                self.assertIn(f'<td class="num">{pin.pin}</td>', page)
        self.assertLess(page.index(">A2<"), page.index(">A11<"))


class HandOver(unittest.TestCase):
    def test_it_names_places_spares_and_what_differs(self) -> None:
        build = edited(
            "tern",
            {
                "/wiring/added": {"one": {"label": "<b>Horn</b>", "start": "pump_relay.87", "end": "pump.plus", "carries": "2 A"}},
                "/wiring/left_out": ["tachometer"],
            },
        )
        told = evaluate(build)
        page = station_sheet.html(harness_sheets.hand_over(told, build, {}), told)
        for fuse in told.stages.wiring.fuses:
            self.assertIn(f"fuse {fuse.fitted_a:g} A", page)
        for words in ("10.60 V", "left out", "&lt;b&gt;Horn", "from pump relay, pin 87 to pump plus", "To carry"):
            self.assertIn(words, page)
        self.assertNotIn("<b>Horn", page)

    def test_the_card_for_an_unknown_wire_tells_what_it_is_and_leaves_room(self) -> None:
        volts = {"off": "0 V", "accessory": "0 V", "run": "12.1 V", "crank": "9.7 V"}
        build = edited("tern", {"/wiring/old/0": {"what": "not_known", "label": "Green and black", "volts": volts}})
        page = station_sheet.html(harness_sheets.which_wire(evaluate(build), build, {}), evaluate(build))
        self.assertIn("Green and black", page)
        self.assertIn("lives while cranking: what a control unit wants", page)
        self.assertGreaterEqual(page.count("______________"), 4)
        self.assertEqual(len(to_pdf(page).sheets), 1)


class Labels(unittest.TestCase):
    def test_two_a_wire_each_told_from_its_own_end(self) -> None:
        page = wire_labels.html(plan("tern"), "http://192.0.2.1:8000/b/x")
        self.assertEqual(page.count('class="label"'), 2 * len(plan("tern").stages.wiring.wires))
        self.assertEqual(page.count("here: pump plus"), 1)
        self.assertEqual(page.count("to: pump plus"), 1)
        self.assertEqual(page.count("data:image/svg+xml"), 2 * len(plan("tern").stages.wiring.wires))


class FormBoard(unittest.TestCase):
    def test_branches_lie_at_their_true_length(self) -> None:
        for name in demo.NAMES:
            board = form_board.laid(plan(name))
            for b in board.branches:
                (x1, y1), (x2, y2) = board.places[b.start], board.places[b.end]
                self.assertAlmostEqual(math.hypot(x2 - x1, y2 - y1), b.length_m * 1e3, places=6, msg=f"{name} {b.key}")
            self.assertEqual(len(board.branches), len(plan(name).stages.wiring.branches))

    def test_the_drawing_is_to_full_size(self) -> None:
        text = form_board.svg(plan("tern"))
        width, box = re.search(r'width="([\d.]+)mm"', text), re.search(r'viewBox="0 0 ([\d.]+)', text)
        assert width and box
        self.assertEqual(width[1], box[1])

    def test_sheets_cover_every_branch_and_lap(self) -> None:
        told = plan("hollin")
        board = form_board.laid(told)
        for paper in form_board.PAPERS:
            sheets = form_board.tiles(board, paper)
            for b in board.branches:
                (x1, y1), (x2, y2) = board.places[b.start], board.places[b.end]
                for k in range(41):
                    x, y = x1 + (x2 - x1) * k / 40, y1 + (y2 - y1) * k / 40
                    self.assertTrue(any(t.x <= x <= t.x + t.width and t.y <= y <= t.y + t.height for t in sheets), f"{paper} {b.key}")
        self.assertLess(len(form_board.tiles(board, "a3")), len(form_board.tiles(board, "a4")))

    def test_names_are_escaped(self) -> None:
        doc = document("tern")
        doc["wiring"]["nodes"]["dash"]["name"] = "<b>dash</b>"
        self.assertNotIn("<b>dash", form_board.svg(evaluate(parse(doc))))


class CutList(unittest.TestCase):
    def test_its_metres_are_those_of_the_harness(self) -> None:
        rows = list(csv.DictReader(io.StringIO(harness_sheets.cut_list(plan("tern")))))
        self.assertAlmostEqual(sum(float(r["metres"]) for r in rows), plan("tern").figures["wiring.total_length"].value or 0, delta=0.2)
        self.assertEqual(sum(int(r["pieces"]) for r in rows), len(plan("tern").stages.wiring.wires))


if __name__ == "__main__":
    unittest.main()
