"""Equations against worked figures, an independent library, and physical limits."""

import doctest
import importlib
import math
import pkgutil
import unittest

import fluids
import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st

import uphill_spark.core
from uphill_spark.core.errors import NotConverged
from uphill_spark.core.physics import air, electric, pipe, pump, thermistor

LH = 3.6e6
E10 = pipe.Liquid(750.0, 0.58e-3)
SUPPLY = pipe.Run(7.9e-3, 4.2, 1.5e-6, 0.4, 3.0)
PUMP = pump.PumpFit(22 / LH, 0.16 / LH / 1e3, 60 / LH, 2.2, 0.0155e-3, 0.0, 4e5, False)


def outlet(flow: float) -> float:
    return 300e3 + pipe.line_loss(SUPPLY, flow, E10) + pipe.filter_loss(12e3, 150 / LH, flow, 1.0) + pipe.head(E10, 0.4)


class Examples(unittest.TestCase):
    def test_every_example_in_the_core_runs(self) -> None:
        ran = 0
        for info in pkgutil.walk_packages(uphill_spark.core.__path__, "uphill_spark.core."):
            result = doctest.testmod(importlib.import_module(info.name))
            self.assertEqual(result.failed, 0, info.name)
            ran += result.attempted
        self.assertGreater(ran, 12)


class Pipes(unittest.TestCase):
    def test_line_loss_worked_figures(self) -> None:
        self.assertAlmostEqual(pipe.line_loss(SUPPLY, 150 / LH, E10) / 1e3, 5.50, places=2)
        narrow = pipe.Run(6.0e-3, 4.2, 1.5e-6, 0.4, 3.0)
        self.assertAlmostEqual(pipe.line_loss(narrow, 150 / LH, E10) / 1e3, 19.7, places=1)
        for bore, kpa in ((6.3e-3, 24.8), (7.9e-3, 8.8), (4.8e-3, 87.6)):
            back = pipe.Run(bore, 4.4, 1.5e-6, 0.0, 5.0)
            self.assertAlmostEqual(pipe.line_loss(back, 181 / LH, E10) / 1e3, kpa, delta=0.06)

    @given(st.floats(20, 1e7), st.floats(0, 0.05))
    def test_friction_agrees_with_an_independent_library(self, reynolds: float, roughness: float) -> None:
        theirs = fluids.friction.Churchill_1977(reynolds, roughness)
        self.assertTrue(math.isclose(pipe.friction_factor(reynolds, roughness), theirs, rel_tol=5e-3))

    @given(st.floats(2e-3, 20e-3), st.floats(0.1, 20), st.floats(0, 20), st.floats(1e-6, 2e-4), st.floats(1e-6, 2e-4))
    def test_loss_rises_with_flow(self, bore: float, length: float, k: float, a: float, b: float) -> None:
        assume(abs(a - b) > 1e-7)
        run = pipe.Run(bore, length, 1.5e-6, 0, k)
        low, high = sorted((a, b))
        self.assertLess(pipe.line_loss(run, low, E10), pipe.line_loss(run, high, E10))

    def test_nothing_flows_nothing_is_lost(self) -> None:
        self.assertEqual(pipe.line_loss(SUPPLY, 0.0, E10), 0.0)
        self.assertEqual(pipe.filter_loss(12e3, 150 / LH, 1e-5, 1.0, due=True), 3 * pipe.filter_loss(12e3, 150 / LH, 1e-5, 1.0))


class Pumps(unittest.TestCase):
    def test_operating_points_worked_figures(self) -> None:
        for volts, ohms, flow, pressure, current, at_pump in (
            (13.8, 0.0567, 182.5, 325.3, 7.24, 13.39),
            (13.8, 0.3455, 138.3, 318.8, 7.14, 11.33),
            (10.0, 0.0567, 101.0, 313.8, 7.06, 9.60),
            (10.0, 0.3455, 57.6, 308.6, 6.98, 7.59),
        ):
            point = pump.operating_point(PUMP, volts, ohms, outlet)
            with self.subTest(volts=volts, ohms=ohms):
                self.assertAlmostEqual(point.flow * LH, flow, delta=0.06)
                self.assertAlmostEqual(point.pressure / 1e3, pressure, delta=0.06)
                self.assertAlmostEqual(point.current, current, delta=0.006)
                self.assertAlmostEqual(point.volts, at_pump, delta=0.006)
                self.assertLess(abs(point.misfit), 1e-10)

    def test_fit_finds_the_coefficients_again(self) -> None:
        rows = [(v, p * 1e3, (22 * v - 0.16 * p - 60) / LH, 2.2 + 0.0155 * p) for v in (10.0, 12.0, 13.5) for p in (0.0, 200.0, 400.0)]
        fit = pump.fit_pump(rows)
        for name in ("a", "b", "c", "d", "e"):
            self.assertTrue(math.isclose(getattr(fit, name), getattr(PUMP, name), rel_tol=1e-8), name)
        self.assertLess(fit.residual, 1e-9)

    def test_one_voltage_gives_an_assumed_slope_that_is_nothing_at_four_volts(self) -> None:
        fit = pump.fit_pump([(12.0, 0.0, 100 / LH, 3.0), (12.0, 3e5, 60 / LH, 6.0)])
        self.assertTrue(fit.assumed_voltage_slope)
        self.assertAlmostEqual(fit.flow(4.0, 0.0) * LH, 0.0, places=9)
        self.assertAlmostEqual(fit.flow(12.0, 3e5) * LH, 60.0, places=6)

    def test_rows_that_say_less_flow_for_more_volts_are_not_believed(self) -> None:
        fit = pump.fit_pump([(12.0, 0.0, 92 / LH, 3.0), (12.0, 1e5, 79 / LH, 4.0), (11.8, 6e5, 66 / LH, 5.0)])
        self.assertTrue(fit.assumed_voltage_slope and fit.a > 0)
        self.assertGreater(fit.residual, 0.05)

    def test_a_sheet_at_the_dead_voltage_is_still_a_number(self) -> None:
        fit = pump.fit_pump([(4.0, 0.0, 20 / LH, 3.0), (4.0, 3e5, 10 / LH, 5.0)])
        self.assertTrue(math.isfinite(fit.flow(13.8, 3e5)))

    def test_a_crooked_table_shows_its_misfit(self) -> None:
        rows = [(12.0, 0.0, 100 / LH, 3.0), (12.0, 2e5, 95 / LH, 5.0), (12.0, 4e5, 40 / LH, 7.0), (13.5, 0.0, 115 / LH, 3.0)]
        self.assertGreater(pump.fit_pump(rows).residual, 0.05)

    def test_a_line_that_runs_downhill_pulls_more_than_the_free_flow(self) -> None:
        point = pump.operating_point(PUMP, 12.0, 0.05, lambda q: -30e3 + 1e8 * q)
        self.assertGreater(point.flow, PUMP.flow(12.0, 0.0))
        self.assertLess(abs(point.misfit), 1e-9)
        with self.assertRaises(NotConverged):
            pump.operating_point(PUMP, 12.0, 0.0, lambda q: -1e30 * q - 1.0)

    def test_a_pump_that_cannot_hold_the_pressure_gives_nothing(self) -> None:
        point = pump.operating_point(PUMP, 6.0, 0.05, lambda q: 900e3)
        self.assertEqual(point.flow, 0.0)

    @given(st.floats(8, 16), st.floats(0, 1), st.floats(50e3, 600e3))
    def test_more_wire_never_gives_more_flow(self, volts: float, ohms: float, rail: float) -> None:
        short = pump.operating_point(PUMP, volts, ohms, lambda q: rail + 1e9 * q)
        long = pump.operating_point(PUMP, volts, ohms + 0.1, lambda q: rail + 1e9 * q)
        self.assertLessEqual(long.flow, short.flow + 1e-12)


class Air(unittest.TestCase):
    def test_ambient_pressure(self) -> None:
        self.assertAlmostEqual(air.ambient_pressure(420) / 1e3, 96.38, places=2)
        self.assertAlmostEqual(air.ambient_pressure(1900) / 1e3, 80.49, places=2)
        self.assertEqual(air.ambient_pressure(0), 101325.0)

    def test_part_load_filling(self) -> None:
        found = air.part_load_filling(np.array([1.0, 2.0, 3.0, 4.0]), 9.0)
        np.testing.assert_allclose(found, [1.0, 0.907, 0.815, 0.722], atol=5e-4)

    def test_throttle_chokes(self) -> None:
        area = np.array([1e-4])
        flows = [float(air.orifice_flow(area, 1e5, 293.15, np.array([r]))[0]) for r in (0.1, 0.5, 0.528, 0.8, 0.99, 1.0)]
        self.assertEqual(flows[0], flows[1])
        self.assertGreater(flows[2], flows[3])
        self.assertEqual(flows[5], 0.0)
        # Choked flux of air, p0 / sqrt(T0) * 0.0404 (SI), discharge coefficient 0.8.
        self.assertAlmostEqual(flows[0], 0.8 * 1e-4 * 1e5 / math.sqrt(293.15) * 0.040415, places=4)


class Electric(unittest.TestCase):
    def test_wire_worked_figures(self) -> None:
        for mm2, mohm in ((0.75, 22.99), (1.5, 11.49), (2.5, 6.90), (4, 4.31), (6, 2.87)):
            self.assertAlmostEqual(electric.resistance_per_metre(mm2 * 1e-6) * 1e3, mohm, places=2)
        self.assertAlmostEqual(electric.wire_current_limit(2.5e-6, 3.3e-3, 333.15, 363.15), 20.6, places=1)
        self.assertAlmostEqual(electric.bundle_diameter([(18, 2.4e-3), (6, 3.0e-3), (3, 4.2e-3)], 0) * 1e3, 17.4, places=1)

    @given(st.floats(0.5e-6, 25e-6), st.floats(290, 360), st.floats(5, 80))
    def test_limit_and_temperature_are_each_others_inverse(self, area: float, ambient: float, rise: float) -> None:
        limit = electric.wire_current_limit(area, 3e-3, ambient, ambient + rise)
        self.assertAlmostEqual(electric.wire_temperature(limit, area, 3e-3, ambient), ambient + rise, places=6)

    def test_dwell_worked_figures(self) -> None:
        for volts, ms in ((8, 4.745), (10, 3.481), (12, 2.757), (13.8, 2.324)):
            self.assertAlmostEqual((electric.dwell_time(volts, 0.55, 3.6e-3, 7.5) or 0) * 1e3, ms, places=3)
        self.assertIsNone(electric.dwell_time(4.0, 0.55, 3.6e-3, 7.5))


class Thermistors(unittest.TestCase):
    FIT = thermistor.fit_thermistor([(263.15, 9120.0), (293.15, 2450.0), (373.15, 186.0)])

    def test_worked_figures(self) -> None:
        self.assertAlmostEqual(self.FIT.a, 1.27269e-3, places=8)
        self.assertAlmostEqual(self.FIT.b, 2.65417e-4, places=9)
        self.assertAlmostEqual(self.FIT.c, 1.41528e-7, places=12)
        self.assertAlmostEqual(self.FIT.temperature(1000) - 273.15, 44.03, places=2)
        self.assertAlmostEqual(thermistor.divider_volts(1000, 2490), 1.433, places=3)

    @given(st.floats(240, 400))
    def test_resistance_is_the_inverse(self, kelvin: float) -> None:
        self.assertAlmostEqual(self.FIT.temperature(self.FIT.resistance(kelvin)), kelvin, places=6)


if __name__ == "__main__":
    unittest.main()
