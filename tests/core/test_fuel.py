"""The fuel system in depth: three schemes, the inlet, the surge tank."""

import unittest
from typing import ClassVar

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builds import document, edited, plan, worked
from uphill_spark.core.build import apply_edit, parse
from uphill_spark.core.physics.vapour import gasoline_vapour_pressure
from uphill_spark.core.plan import evaluate
from uphill_spark.core.stages.fuel.depth import FuelDepth, look_deeper
from uphill_spark.core.stages.fuel.doubt import margins_of
from uphill_spark.core.stages.fuel.plumbing import Plumbing, circuit_ohms, fitted
from uphill_spark.core.stages.fuel.shopping import shopping

LH = 3.6e6


class Schemes(unittest.TestCase):
    def test_only_demand_passes_a_line_behind_a_regulator_at_the_tank(self) -> None:
        back, tank = worked("tern").fuel, worked("tern", {"/fuel/scheme": "tank_regulator", "/fuel/regulator/reference": "open_air"}).fuel
        full = tank.points["full"]
        self.assertLess(full.velocity_m_s, back.points["full"].velocity_m_s / 3)
        self.assertAlmostEqual(full.rail_pressure_pa, 300e3 - full.line_loss_pa - full.head_pa, delta=1)
        self.assertGreater(tank.points["idle"].rail_pressure_pa, full.rail_pressure_pa)
        self.assertGreater(tank.margin_full, back.margin_full)  # the pump no longer pushes its whole flow to the front

    def test_a_dead_head_pump_runs_at_demand_against_its_own_curve(self) -> None:
        w = worked("tern", {"/fuel/scheme": "dead_head", "/fuel/regulator/reference": "open_air"})
        full, idle = w.fuel.points["full"], w.fuel.points["idle"]
        self.assertAlmostEqual(full.flow_m3_s, w.fuel.need_m3_s, places=12)
        self.assertEqual((full.return_pressure_pa, idle.return_velocity_m_s, w.fuel.warming_k_s), (0.0, 0.0, 0.0))
        self.assertEqual((full.pump_pressure_pa, idle.pump_pressure_pa), (600e3, 600e3))  # its relief valve
        free = worked("tern", {"/fuel/scheme": "dead_head", "/fuel/regulator/reference": "open_air", "/fuel/pump/relief": None})
        alone = free.fuel.points["full"]
        self.assertAlmostEqual(fitted(free.build).flow(alone.volts, alone.pump_pressure_pa), alone.flow_m3_s, places=12)
        self.assertAlmostEqual(full.rail_pressure_pa, 0.95 * 300e3, delta=1)
        self.assertGreater(idle.rail_pressure_pa, full.rail_pressure_pa)

    @settings(max_examples=30, deadline=None)
    @given(st.sampled_from(["return", "tank_regulator", "dead_head"]), st.floats(8, 15), st.floats(0.01, 0.9))
    def test_what_the_pump_must_make_rises_with_flow_and_the_solution_lies_on_both_curves(
        self, scheme: str, volts: float, share: float
    ) -> None:
        build = edited("tern", {"/fuel/scheme": scheme})
        demand = 48 / LH * share
        system = Plumbing(build, demand, 48 / LH, 0.0)
        flows = [q / LH for q in range(0, 240, 20)]
        outlets = [system.pump_outlet(q) for q in flows]
        self.assertEqual(outlets, sorted(outlets))
        fit, ohms = fitted(build), circuit_ohms(build)
        solved = system.solve(fit, volts, ohms)
        at = solved.point
        if solved.capacity > 0 and scheme != "dead_head":
            self.assertAlmostEqual(fit.flow(at.volts, at.pressure) * LH, at.flow * LH, places=5)
            self.assertAlmostEqual(system.pump_outlet(at.flow), at.pressure, delta=0.5)

    def test_the_three_agree_where_nothing_comes_back(self) -> None:
        capacity = []
        for scheme in ("return", "dead_head"):
            build = edited("tern", {"/fuel/scheme": scheme})
            capacity.append(Plumbing(build, 0.0, 48 / LH, 0.0).solve(fitted(build), 13.8, circuit_ohms(build)).capacity * LH)
        self.assertAlmostEqual(capacity[0], capacity[1], delta=1.0)


class Inlet(unittest.TestCase):
    def test_vapour_pressure_worked_figures(self) -> None:
        for celsius, kpa in ((20, 37.1), (38, 66.5), (50, 94.6)):
            self.assertAlmostEqual(gasoline_vapour_pressure(62e3, 273.15 + celsius) / 1e3, kpa, delta=0.06)

    @given(st.floats(35e3, 100e3), st.floats(260, 340))
    def test_vapour_pressure_rises_with_heat_and_volatility(self, reid: float, kelvin: float) -> None:
        here = gasoline_vapour_pressure(reid, kelvin)
        self.assertLess(here, gasoline_vapour_pressure(reid, kelvin + 1))
        self.assertLess(here, gasoline_vapour_pressure(reid * 1.02, kelvin))

    def test_the_hottest_fuel_is_where_the_margin_ends(self) -> None:
        hottest = plan("hollin").figures["fuel.inlet.hottest"].value or 0
        at_it = plan("hollin", {"/fuel/tank/hottest": f"{hottest:.3f} degC"}).figures["fuel.inlet.margin"].value or 0
        self.assertAlmostEqual(at_it, 0.0, delta=0.01)

    def test_height_altitude_and_a_narrow_line_cost_margin(self) -> None:
        def margin(changes: dict[str, object]) -> float:
            return worked("hollin", changes).fuel.inlet.margin_m

        here = margin({})
        self.assertAlmostEqual(margin({"/fuel/tank/head": "-0.85 m"}), here - 1.0, places=6)
        self.assertLess(margin({"/engine/altitude": "3000 m"}), here)
        self.assertLess(margin({"/fuel/suction/bore": "6 mm"}), here)

    def test_a_strainer_costs_margin_and_a_pump_in_the_tank_needs_no_suction_line(self) -> None:
        clean = worked("hollin").fuel.inlet
        blocked = worked("hollin", {"/fuel/strainer/pressure_drop": "20 kPa"}).fuel.inlet
        self.assertGreater(blocked.suction_loss_pa, clean.suction_loss_pa + 15e3)
        self.assertLess(blocked.margin_m, clean.margin_m - 2)
        inside = worked("tern").fuel.inlet
        self.assertEqual((inside.known, inside.suction_loss_pa, inside.suction_velocity_m_s), (True, 0.0, 0.0))


class Surge(unittest.TestCase):
    def test_the_lift_pump_fills_demand_or_the_whole_flow(self) -> None:
        to_surge, to_main = worked("hollin").fuel, worked("hollin", {"/fuel/lift/return_to": "main_tank"}).fuel
        self.assertAlmostEqual(
            (to_surge.lift_margin or 0) / (to_main.lift_margin or 1), to_main.points["full"].flow_m3_s / to_main.need_m3_s, places=6
        )
        self.assertAlmostEqual(to_surge.surge_s or 0, 1.6e-3 / to_surge.need_m3_s, places=6)


class Depth(unittest.TestCase):
    depths: ClassVar[dict[str, FuelDepth]] = {}

    def depth(self, car: str) -> FuelDepth:
        if car not in self.depths:
            self.depths[car] = look_deeper(document(car), edited(car))
        return self.depths[car]

    def test_the_charging_clean_case_is_the_operating_point(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            points = worked(car).fuel.points
            due = edited(car).fuel.filter.due
            for state in ("full", "idle"):
                case = next(c for c in self.depth(car).cases if (c.state, c.volts, c.filter_due) == (state, 13.8, due))
                self.assertAlmostEqual(case.flow_m3_s, points[state].flow_m3_s, places=12)
                self.assertAlmostEqual(case.rail_pressure_pa, points[state].rail_pressure_pa, places=3)

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
            w = worked(car)
            margins = margins_of(w)
            one = float(margins({"bsfc": np.ones(1)})[0])
            self.assertAlmostEqual(one / w.fuel.margin_full, 1.0, delta=5e-3)
        w = worked("tern")
        thick = float(margins_of(w)({"length": np.array([1.3])})[0])
        self.assertAlmostEqual(thick / worked("tern", {"/fuel/wire/length": f"{4.6 * 1.3:.4f} m"}).fuel.margin_full, 1.0, delta=2e-3)
        narrow = float(margins_of(w)({"bore": np.array([0.7])})[0])
        self.assertAlmostEqual(narrow / worked("tern", {"/fuel/supply/bore": f"{7.9 * 0.7:.4f} mm"}).fuel.margin_full, 1.0, delta=2e-3)

    def test_the_band_holds_the_margin_and_is_the_same_each_time(self) -> None:
        band = self.depth("tern").band
        self.assertTrue(band.low < (plan("tern").figures["fuel.margin.full"].value or 0) < band.high)
        self.assertEqual((band.enough, band.draws), (1.0, 2000))
        self.assertEqual(band, look_deeper(document("tern"), edited("tern")).band)

    def test_measuring_an_assumed_value_narrows_the_band(self) -> None:
        doc = document("tern")
        del doc["marks"]["/engine/bsfc"]
        sure = look_deeper(doc, parse(doc)).band
        wide = self.depth("tern").band
        self.assertLess(sure.high - sure.low, 0.75 * (wide.high - wide.low))

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

    def test_the_shopping_list_follows_the_build(self) -> None:
        def what(car: str, changes: dict[str, object] | None = None) -> dict[str, float]:
            return {f"{x.what}|{x.note.split(',')[0]}": x.quantity for x in shopping(edited(car, changes))}

        tern = what("tern")
        self.assertEqual((tern["steel tube|supply"], tern["elbow 90|supply"], tern["banjo|return"]), (4.62, 1, 1))
        self.assertFalse([k for k in tern if "clamp" in k])
        self.assertIn("rolled-edge injection clamp|supply", what("hollin"))
        self.assertFalse([k for k in what("tern", {"/fuel/scheme": "dead_head"}) if k.endswith("|return")])


if __name__ == "__main__":
    unittest.main()
