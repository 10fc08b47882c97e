"""The order sheet: one page, what is fitted and left out, pins, and what must be proven before it is paid for."""

import unittest

from tests.builds import document
from uphill_spark import demo
from uphill_spark.core.given import parse
from uphill_spark.core.plan import evaluate
from uphill_spark.formats import order_sheet, station_sheet
from uphill_spark.formats.printing import Printed, to_pdf


class OrderSheet(unittest.TestCase):
    def told(self, name: str, **wiring: object) -> str:
        doc = document(name)
        doc["wiring"] |= wiring
        build = parse(doc)
        plan = evaluate(build)
        return station_sheet.html(order_sheet.sheet(plan, build, {}), plan)

    def test_it_is_one_page_for_each_car(self) -> None:
        for name in demo.NAMES:
            build = parse(document(name))
            plan = evaluate(build)
            papers: list[Printed] = []

            def kept(page: str, to: list[Printed] = papers) -> Printed:
                to.append(to_pdf(page))
                return to[-1]

            station_sheet.pdf(order_sheet.sheet(plan, build, {}), plan, "revision 1", "2026-05-01", kept)
            self.assertEqual(len(papers[-1].sheets), 1, name)

    def test_it_says_what_is_fitted_and_where(self) -> None:
        tern, brindle = self.told("tern"), self.told("brindle")
        for text in (
            "fuel enters below plates",
            "hall, 36-1 on the crank, wants 5 V",
            "<td>distributor</td>",
            "injector 1 output",
            "fuel pressure, not confirmed",
            "sensor ground, 7 wires",
        ):
            self.assertIn(text, tern)
        for text in ("fuel enters above plates", "<td>coolant temperature</td>", "8 pulses a turn, 4.1:1 axle, 315 mm tyre", "no pin"):
            self.assertIn(text, brindle)

    def test_what_is_proven_leaves_the_list(self) -> None:
        tern, brindle = self.told("tern"), self.told("brindle")
        self.assertNotIn("That it can be set to", tern)
        self.assertNotIn("theft lock", tern)
        self.assertIn("That the pump stops by itself", tern)
        self.assertIn("That its theft lock is out", brindle)
        self.assertIn("the trigger wheel&#39;s pattern", brindle)
        self.assertIn("Whether it numbers outputs by cylinder", self.told("tern", unit={}))


if __name__ == "__main__":
    unittest.main()
