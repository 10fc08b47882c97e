"""The fuel system in depth: three schemes, the inlet, the surge tank."""

import unittest

import numpy as np
from fluids.core import dP_from_K
from fluids.fittings import entrance_sharp, exit_normal
from fluids.friction import one_phase_dP
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import DEAD_HEAD, SCHEMES, TANK_REGULATOR, document, edited, plan, pump_wire, strung, worked
from uphill_spark.core.physics.pipe import MANY
from uphill_spark.core.physics.vapour import gasoline_vapour_pressure
from uphill_spark.core.reference import fittings
from uphill_spark.core.stages.fuel import STATES
from uphill_spark.core.stages.fuel.plumbing import Network, Plumbing, fitted

LH = 3.6e6
OHMS = 56.65e-3  # ohm, wire and contacts of the Tern's pump
DENSITY = {"tern": 750.0, "hollin": 785.0, "brindle": 745.0}  # kg/m3, on the fuel that each burns


class Schemes(unittest.TestCase):
    def test_only_demand_passes_a_line_behind_a_regulator_at_the_tank(self) -> None:
        back, tank = worked("tern").fuel, worked("tern", TANK_REGULATOR).fuel
        full = tank.points["full"]
        self.assertLess(full.velocity_m_s, back.points["full"].velocity_m_s / 3)
        self.assertAlmostEqual(full.rail_pressure_pa, 300e3 - full.line_loss_pa - full.head_pa, delta=1)
        self.assertGreater(tank.points["idle"].rail_pressure_pa, full.rail_pressure_pa)
        self.assertGreater(tank.margin_full, back.margin_full)  # the pump no longer pushes its whole flow to the front

    def test_a_dead_head_pump_runs_at_demand_against_its_own_curve(self) -> None:
        w = worked("tern", DEAD_HEAD)
        full, idle = w.fuel.points["full"], w.fuel.points["idle"]
        self.assertAlmostEqual(full.flow_m3_s, w.fuel.need_m3_s, places=12)
        self.assertEqual((full.return_pressure_pa, idle.return_velocity_m_s, w.fuel.warming_k_s), (0.0, 0.0, 0.0))
        self.assertEqual((full.pump_pressure_pa, idle.pump_pressure_pa), (600e3, 600e3))  # its relief valve
        free = worked("tern", DEAD_HEAD | {"/fuel/pump/relief": None})
        alone = free.fuel.points["full"]
        self.assertAlmostEqual(fitted(free.build).flow(alone.volts, alone.pump_pressure_pa), alone.flow_m3_s, places=12)
        self.assertAlmostEqual(full.rail_pressure_pa, 0.95 * 300e3, delta=1)
        self.assertGreater(idle.rail_pressure_pa, full.rail_pressure_pa)

    @settings(max_examples=examples(30), deadline=None)
    @given(st.sampled_from(["return", "tank_regulator", "dead_head"]), st.floats(8, 15), st.floats(0.01, 0.9))
    def test_what_the_pump_must_make_rises_with_flow_and_the_solution_lies_on_both_curves(
        self, scheme: str, volts: float, share: float
    ) -> None:
        build = edited("tern", SCHEMES[scheme])
        demand = 48 / LH * share
        system = Plumbing(Network(build), demand, 48 / LH, 0.0)
        flows = [q / LH for q in range(0, 240, 20)]
        outlets = [system.pump_outlet(q) for q in flows]
        self.assertEqual(outlets, sorted(outlets))
        fit, ohms = fitted(build), OHMS
        solved = system.solve(fit, volts, ohms)
        at = solved.point
        if solved.capacity > 0 and scheme != "dead_head":
            self.assertAlmostEqual(fit.flow(at.volts, at.pressure) * LH, at.flow * LH, places=5)
            self.assertAlmostEqual(system.pump_outlet(at.flow), at.pressure, delta=0.5)

    def test_the_three_agree_where_nothing_comes_back(self) -> None:
        capacity = []
        for scheme in ("return", "dead_head"):
            build = edited("tern", SCHEMES[scheme])
            capacity.append(Plumbing(Network(build), 0.0, 48 / LH, 0.0).solve(fitted(build), 13.8, OHMS).capacity * LH)
        self.assertAlmostEqual(capacity[0], capacity[1], delta=1.0)


class AgainstALibrary(unittest.TestCase):
    """The whole path worked out a second time with another library's pipe flow, density and viscosity given by hand."""

    RHO, MU = 750.0, 0.58e-3

    def loss(self, bore: float, length: float, roughness: float, k: float, flow: float) -> float:
        speed = flow / (np.pi * bore**2 / 4)
        friction = one_phase_dP(flow * self.RHO, self.RHO, self.MU, bore, roughness, length, Method="Churchill_1977")
        return float(friction + dP_from_K(k, rho=self.RHO, V=speed))

    def test_the_loss_coefficients_of_plain_ends(self) -> None:
        self.assertEqual(fittings()["entry"], entrance_sharp(method="Swamee"))
        self.assertEqual(fittings()["exit"], exit_normal())

    def test_every_part_and_the_whole_path_at_every_state(self) -> None:
        supply_k = 0.5 + 1.0 + 0.9 + 3 * 0.2
        return_k = 0.5 + 1.0 + 2.5 + 5 * 0.2
        fuel = worked("tern").fuel
        for state in STATES:
            p = fuel.points[state]
            with self.subTest(state):
                line = self.loss(7.9e-3, 4.2, 1.5e-6, supply_k, p.flow_m3_s)
                back = self.loss(7.9e-3, 4.4, 1.5e-6, return_k, p.flow_m3_s - p.demand_m3_s)
                self.assertAlmostEqual(p.line_loss_pa / line, 1.0, delta=5e-3)
                self.assertAlmostEqual(p.return_pressure_pa / back, 1.0, delta=5e-3)
                outlet = p.rail_pressure_pa + line + self.RHO * 9.80665 * 0.4 + 12e3 * p.flow_m3_s * LH / 150
                self.assertAlmostEqual(p.pump_pressure_pa / outlet, 1.0, delta=5e-3)
                pump = 22 * p.volts - 0.16 * outlet / 1e3 - 60
                self.assertAlmostEqual(p.flow_m3_s * LH / pump, 1.0, delta=5e-3)

    def test_a_fitting_counts_on_its_own_bore(self) -> None:
        narrow = [{"kind": "banjo", "count": 1, "bore": "4 mm"}]
        plain = worked("tern", {"/fuel/parts/supply/fittings": []}).fuel.points["full"]
        drilled = worked("tern", {"/fuel/parts/supply/fittings": narrow}).fuel.points["full"]
        theirs = dP_from_K(2.5, rho=self.RHO, V=drilled.flow_m3_s / (np.pi * 4e-3**2 / 4))
        ours = drilled.line_loss_pa - self.loss(7.9e-3, 4.2, 1.5e-6, 0.0, drilled.flow_m3_s)
        self.assertAlmostEqual(ours / theirs, 1.0, delta=5e-3)
        self.assertGreater(drilled.line_loss_pa, plain.line_loss_pa)

    def test_two_runs_in_a_row_are_one_run_as_long(self) -> None:
        half = {"kind": "run", "material": "steel_tube", "bore": "7.9 mm", "length": "2.1 m", "rise": "0.2 m"}
        whole = worked("tern", {"/fuel/parts/supply/fittings": []}).fuel.points["full"]
        split = worked("tern", strung("tern", {"nearer": half, "farther": half}, out="supply")).fuel.points["full"]
        self.assertAlmostEqual(split.flow_m3_s, whole.flow_m3_s, places=12)
        self.assertAlmostEqual(split.pump_pressure_pa, whole.pump_pressure_pa, places=4)


class Limits(unittest.TestCase):
    def test_a_very_long_line_leaves_nothing_and_no_line_loses_nothing(self) -> None:
        long = worked("tern", {"/fuel/parts/supply/length": "30 m", "/fuel/parts/supply/bore": "1 mm"}).fuel
        self.assertLess(long.margin_full, 0.2)
        self.assertLess(long.points["full"].rail_pressure_pa, 30e3)
        none = worked("tern", strung("tern", out="supply")).fuel.points["full"]
        self.assertEqual((none.line_loss_pa, none.head_pa, none.velocity_m_s), (0.0, 0.0, 0.0))

    def test_slow_flow_is_laminar_and_linear(self) -> None:
        build = edited("tern", {"/fuel/parts/supply/fittings": [], "/fuel/parts/supply/rise": "0 m"})
        forward = Network(build).forward
        slow = 0.2 / LH  # Reynolds number about 12
        line = forward.loss(slow) - forward.in_filters(slow)
        poiseuille = 128 * 0.58e-3 * 4.2 * slow / (np.pi * 7.9e-3**4)
        self.assertAlmostEqual(line / poiseuille, 1.0, delta=2e-3)

    def test_a_wire_of_no_length_and_an_endless_one(self) -> None:
        bare = worked("tern", pump_wire(metres=1e-9, joints=[])).fuel
        self.assertAlmostEqual(bare.wire_ohms, 13e-3, delta=1e-4)  # fuse holder and relay are left
        starved = worked("tern", pump_wire("0.2 mm2", 30)).fuel.points["full"]
        self.assertEqual((starved.capacity_m3_s, starved.holds), (0.0, False))

    def test_a_valve_and_a_damper_cost_what_their_sheets_say(self) -> None:
        at = {"pressure_drop": "5 kPa", "at_flow": "100 L/h"}
        parts = {"valve": {"kind": "check_valve", "opens_at": "3 kPa", **at}, "damper": {"kind": "damper", **at}}
        plain, fitted_out = worked("tern").fuel.points["full"], worked("tern", strung("tern", parts)).fuel.points["full"]
        extra = fitted_out.line_loss_pa - plain.line_loss_pa * (fitted_out.flow_m3_s / plain.flow_m3_s) ** 1.85
        self.assertAlmostEqual(extra, 3e3 + 2 * 5e3 * (fitted_out.flow_m3_s * LH / 100) ** 2, delta=120)

    def test_a_filter_behind_the_rail_raises_the_rail_over_the_regulator(self) -> None:
        late = {"late": {"kind": "filter", "pressure_drop": "12 kPa", "at_flow": "150 L/h", "fluid": "working_fuel"}}
        full = worked("tern", strung("tern", late, before="regulator")).fuel.points["full"]
        spare = (full.flow_m3_s - full.demand_m3_s) * LH
        self.assertAlmostEqual(full.rail_pressure_pa, 300e3 + 12e3 * spare / 150, delta=1)

    def test_a_pump_that_falls_short_lets_the_rail_sag_until_the_injectors_pass_what_it_gives(self) -> None:
        full = worked("brindle").fuel.points["full"]
        self.assertFalse(full.holds)
        self.assertTrue(0 < full.rail_pressure_pa < 300e3)
        self.assertAlmostEqual(full.flow_m3_s / full.demand_m3_s, (full.across_pa / full.held_across_pa) ** 0.5, places=6)
        self.assertGreater(full.flow_m3_s, full.capacity_m3_s)  # less pressure to push against

    def test_boost_is_held_by_a_referenced_regulator_only(self) -> None:
        follows = worked("tern", {"/engine/boost": "60 kPa"}).fuel
        stays = worked("tern", {"/engine/boost": "60 kPa", "/fuel/regulator/reference": "open_air"}).fuel
        self.assertAlmostEqual(follows.points["full"].across_pa, 300e3, delta=1)
        self.assertAlmostEqual(stays.points["full"].across_pa, 240e3, delta=1)
        self.assertLess(follows.margin_full, stays.margin_full)  # the pump works against the boost

    def test_the_grade_line_starts_and_ends_at_the_tank_and_steps_add_up(self) -> None:
        for car, changes in (("tern", {}), ("tern", TANK_REGULATOR), ("tern", DEAD_HEAD), ("hollin", {}), ("brindle", {})):
            fuel = worked(car, changes).fuel
            for state in STATES:
                g, p = fuel.grades[state], fuel.points[state]
                with self.subTest(car=car, state=state, scheme=fuel.scheme):
                    by_part = {name: (run, height, pressure) for name, run, height, pressure in g.forth}
                    self.assertAlmostEqual(by_part["pump"][2], p.pump_pressure_pa, delta=0.051)  # drawn to 0.1 Pa
                    self.assertEqual([r for _, r, _, _ in g.forth], sorted(r for _, r, _, _ in g.forth))
                    if p.holds and fuel.scheme != "dead_head":
                        self.assertAlmostEqual(by_part["rail"][2], p.rail_pressure_pa, delta=1)
                    inlet = next(pressure for name, _, _, pressure in g.forth if name == "pump")
                    ambient = worked(car, changes).engine.ambient_pressure_pa
                    if state == "full":
                        self.assertLess(inlet, by_part["pump"][2])
                        self.assertAlmostEqual(
                            (inlet + ambient - fuel.inlet.vapour_pa) / (9.80665 * DENSITY[car]), p.inlet_margin_m, delta=0.02
                        )
                    if g.back:
                        self.assertAlmostEqual(g.back[-1][3], 0.0, delta=1e-6)

    def test_many_flows_at_once_are_the_same_as_one_at_a_time(self) -> None:
        flows = np.linspace(0, 240 / LH, 9)
        for scheme, changes in SCHEMES.items():
            network = Network(edited("tern", changes))
            one, many = Plumbing(network, 48 / LH, 48 / LH, 0.0), Plumbing(network, 48 / LH, 48 / LH, 0.0, MANY)
            np.testing.assert_allclose(many.pump_outlet(flows), [one.pump_outlet(q) for q in flows.tolist()], rtol=1e-12, err_msg=scheme)


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
        hottest = plan("hollin").figures["fuel.hottest"].value or 0
        at_it = plan("hollin", {"/fuel/tank/hottest": f"{hottest:.3f} degC"}).figures["fuel.inlet.margin"].value or 0
        self.assertAlmostEqual(at_it, 0.0, delta=0.01)

    def test_height_altitude_and_a_narrow_line_cost_margin(self) -> None:
        def margin(changes: dict[str, object]) -> float:
            return worked("hollin", changes).fuel.inlet.margin_m

        here = margin({})
        self.assertAlmostEqual(margin({"/fuel/lift/head": "-0.85 m"}), here - 1.0, places=6)
        self.assertLess(margin({"/engine/altitude": "3000 m"}), here)
        self.assertLess(margin({"/fuel/parts/suction/bore": "6 mm"}), here)

    def test_a_strainer_costs_margin_and_a_pump_in_the_tank_needs_no_suction_line(self) -> None:
        clean = worked("hollin").fuel.inlet
        blocked = worked("hollin", {"/fuel/parts/strainer/pressure_drop": "20 kPa"}).fuel.inlet
        self.assertGreater(blocked.suction_loss_pa, clean.suction_loss_pa + 15e3)
        self.assertLess(blocked.margin_m, clean.margin_m - 2)
        inside = worked("tern").fuel.inlet
        self.assertEqual((inside.known, inside.suction_loss_pa, inside.suction_velocity_m_s), (True, 0.0, 0.0))


class Surge(unittest.TestCase):
    def test_the_lift_pump_fills_demand_or_the_whole_flow(self) -> None:
        to_surge, to_main = worked("hollin").fuel, worked("hollin", {"/fuel/path": [*document("hollin")["fuel"]["path"][:-1], "tank"]}).fuel
        self.assertAlmostEqual(
            (to_surge.lift_margin or 0) / (to_main.lift_margin or 1), to_main.points["full"].flow_m3_s / to_main.need_m3_s, places=6
        )
        self.assertAlmostEqual(to_surge.surge_s or 0, 1.6e-3 / to_surge.need_m3_s, places=6)
