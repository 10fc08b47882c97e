"""The fuel system on asking: every case, the band and its doubts, advice, the shelf, the shopping list."""

import unittest
from typing import ClassVar

import numpy as np

from tests.builds import DEAD_HEAD, SCHEMES, document, edited, plan, pump_wire, trial, worked
from uphill_spark.core.asked.fuel import FuelDepth, look_deeper
from uphill_spark.core.errors import BuildError, NotConverged
from uphill_spark.core.given import apply_edit, parse
from uphill_spark.core.physics.pump import operating_flows
from uphill_spark.core.plan import evaluate
from uphill_spark.core.stages.fuel.doubt import DRAWS, Margins, margins
from uphill_spark.core.stages.fuel.shopping import shopping
from uphill_spark.core.worked import Worked


def margins_of(w: Worked) -> Margins:
    return margins(w.build, w.engine, w.circuit, w.fuel)


class Depth(unittest.TestCase):
    depths: ClassVar[dict[str, FuelDepth]] = {}

    def depth(self, car: str) -> FuelDepth:
        if car not in self.depths:
            self.depths[car] = look_deeper(trial(document(car)))
        return self.depths[car]

    def test_the_charging_clean_case_is_the_operating_point(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            points = worked(car).fuel.points
            due = edited(car).fuel.parts["filter"].due
            for state in ("full", "idle"):
                case = next(c for c in self.depth(car).cases if (c.state, c.volts, c.filter_due) == (state, 13.8, due))
                self.assertAlmostEqual(case.flow_m3_s / points[state].flow_m3_s, 1, delta=2e-4)
                self.assertAlmostEqual(case.rail_pressure_pa / points[state].rail_pressure_pa, 1, delta=2e-4)

    def test_less_voltage_and_a_due_filter_never_give_more(self) -> None:
        cases = {(c.state, c.volts, c.filter_due): c for c in self.depth("tern").cases}
        self.assertEqual(len(cases), 2 * (5 * 3 + 1))
        for (state, volts, due), c in cases.items():
            if not due:
                self.assertLessEqual(cases[state, volts, True].capacity_m3_s, c.capacity_m3_s)
            if volts == 12.4:
                self.assertLess(c.capacity_m3_s, cases[state, 13.8, due].capacity_m3_s)
        self.assertEqual(cases["prime", 12.4, False].demand_m3_s, 0.0)

    def test_all_draws_at_once_agree_with_one_solve_at_a_time(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            for scheme, changes in SCHEMES.items() if car == "tern" else [("as it is", {})]:
                w = worked(car, changes)
                one = float(margins_of(w).of({"bsfc": np.ones(1)})[0])
                self.assertAlmostEqual(one / w.fuel.margin_full, 1.0, places=5, msg=f"{car} {scheme}")
        alone = margins_of(worked("tern"))
        for key, factor, changes in (
            ("length", 1.3, pump_wire(metres=4.6 * 1.3)),
            ("bore", 0.7, {"/fuel/parts/supply/bore": f"{7.9 * 0.7:.4f} mm"}),
            ("filter", 2.0, {"/fuel/parts/filter/pressure_drop": "24 kPa"}),
            ("set", 1.1, {"/fuel/regulator/set_pressure": "330 kPa"}),
            ("bsfc", 1.2, {"/engine/bsfc": "0.3648 kg/kWh"}),
        ):
            found = float(alone.of({key: np.array([factor])})[0])
            self.assertAlmostEqual(found / worked("tern", changes).fuel.margin_full, 1.0, delta=1e-5, msg=key)

    def test_the_band_holds_the_margin_and_is_the_same_each_time(self) -> None:
        band, figures = worked("tern").doubt, plan("tern").figures
        self.assertTrue(band.low < (figures["fuel.margin.full"].value or 0) < band.high)
        self.assertEqual((band.enough, band.draws), (1.0, DRAWS))
        self.assertEqual(
            (figures["fuel.margin.full.p05"].value, figures["fuel.margin.full.p95"].value), (round(band.low, 9), round(band.high, 9))
        )
        self.assertEqual(band, worked("tern").doubt)
        self.assertEqual(max(self.depth("tern").shape.heights), 1.0)

    def test_measuring_an_assumed_value_narrows_the_band(self) -> None:
        doc = document("tern")
        del doc["marks"]["/engine/bsfc"]
        sure, wide = evaluate(parse(doc)).stages.doubt, worked("tern").doubt
        self.assertLess(sure.high - sure.low, 0.75 * (wide.high - wide.low))

    def test_draws_that_do_not_settle_by_secants_are_halved_down_and_a_hopeless_one_is_told(self) -> None:
        draws = np.array([1.0, 2.0, 3.0])
        np.testing.assert_allclose(operating_flows(lambda q: 2e-5 * draws - q, 5e-5, 6e-5, 3), 2e-5 * draws, rtol=1e-6)
        kinked = operating_flows(lambda q: np.where(q < 3e-5, 3e-5 - q, -1e3 * (q - 3e-5)), 5e-5, 6e-5, 3)
        np.testing.assert_allclose(kinked, 3e-5, rtol=1e-5)
        np.testing.assert_array_equal(operating_flows(lambda q: -1e-6 - q, 5e-5, 6e-5, 3), 0.0)
        with self.assertRaises(NotConverged):
            operating_flows(lambda q: np.where(q < 3e-5, 1e-3, -1e-3), 5e-5, 6e-5, 3)  # a jump crosses nothing

    def test_doubts_stand_in_the_order_of_their_reach(self) -> None:
        doubts = self.depth("tern").doubts
        reach = [d.margin_high - d.margin_low for d in doubts]
        self.assertEqual(reach, sorted(reach, reverse=True))
        self.assertEqual((doubts[0].pointer, doubts[0].assumed), ("/engine/bsfc", True))

    def test_every_advice_is_a_change_that_does_what_it_says(self) -> None:
        advice = self.depth("brindle").advice
        self.assertGreater(len(advice), 8)
        before = {f.code for f in plan("brindle").findings if f.severity in ("stop", "sort_out", "watch")}
        for a in advice:
            after = evaluate(apply_edit(document("brindle"), a.patch)[2])
            self.assertAlmostEqual(after.figures["fuel.margin.full"].value or 0, a.margin, places=6, msg=a.title)
            still = {f.code for f in after.findings if f.severity in ("stop", "sort_out", "watch")}
            self.assertTrue(set(a.cleared) <= before - still, a.title)
        self.assertTrue(any("FUEL-01" in a.cleared for a in advice))
        self.assertEqual([a.stops for a in advice], sorted(a.stops for a in advice))

    def test_a_car_that_needs_nothing_gets_little_advice(self) -> None:
        self.assertLessEqual(len(self.depth("tern").advice), 1)

    def test_pumps_are_held_side_by_side_on_this_cars_system(self) -> None:
        shelf = self.depth("tern").shelf
        self.assertEqual([p.mine for p in shelf], [True, False, False, False, False])
        self.assertAlmostEqual(shelf[0].margin, worked("tern").fuel.margin_full, places=9)
        self.assertEqual([p.margin for p in shelf[1:]], sorted(p.margin for p in shelf[1:]))

    def test_another_pump_is_held_beside_and_tried_with_its_price(self) -> None:
        doc = document("brindle")
        strong = [
            {"voltage": v, "pressure": p, "flow": q, "current": "8 A"}
            for v, p, q in (("12 V", "200 kPa", "260 L/h"), ("13.5 V", "200 kPa", "310 L/h"), ("13.5 V", "400 kPa", "240 L/h"))
        ]
        doc["fuel"]["candidates"] = [{"name": "second-hand pump", "curve": strong, "price": "60 from a friend"}]
        depth = look_deeper(trial(doc))
        self.assertEqual([p.name for p in depth.shelf[:2]], ["old in-line pump", "second-hand pump"])
        self.assertGreater(depth.shelf[1].margin, 2 * depth.shelf[0].margin)
        tried = next(a for a in depth.advice if a.title == "Pump to compare: second-hand pump, 60 from a friend")
        fitted_now = apply_edit(doc, tried.patch)[2].fuel.pump
        self.assertEqual((fitted_now.name, fitted_now.place, len(fitted_now.curve)), ("second-hand pump", "in_tank", 3))
        doc["fuel"]["candidates"][0]["curve"] = strong[:1]
        with self.assertRaises(BuildError):
            parse(doc)

    def test_the_shopping_list_follows_the_build(self) -> None:
        def what(car: str, changes: dict[str, object] | None = None) -> dict[str, float]:
            return {f"{x.what}|{x.note.split(',')[0]}": x.quantity for x in shopping(edited(car, changes))}

        tern = what("tern")
        self.assertEqual((tern["steel tube|supply"], tern["elbow 90|supply"], tern["banjo|return line"]), (4.62, 1, 1))
        self.assertEqual(tern["clip|supply"], 13)  # 14 spaces of 300 mm in 4.2 m
        self.assertFalse([k for k in tern if "clamp" in k])
        self.assertTrue([k for k in what("brindle") if "not this" in k and k.endswith("|supply")])
        self.assertIn("rolled-edge injection clamp|supply", what("hollin"))
        self.assertFalse([k for k in what("tern", DEAD_HEAD) if "return" in k])


if __name__ == "__main__":
    unittest.main()
