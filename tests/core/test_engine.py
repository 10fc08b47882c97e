"""The engine: compression from geometry, the health log, ways to tell the power."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.builds import edited, plan, worked
from uphill_spark.core.errors import BuildError
from uphill_spark.core.stages.engine import dynamic_ratio, estimate
from uphill_spark.core.units import si


class Compression(unittest.TestCase):
    def test_a_valve_that_shuts_at_the_bottom_leaves_the_whole_ratio(self) -> None:
        self.assertAlmostEqual(dynamic_ratio(edited("tern", {"/engine/inlet_closing": "0 deg"}).engine) or 0, 9.2, places=9)
        self.assertIsNone(dynamic_ratio(edited("tern", {"/engine/inlet_closing": None}).engine))

    def test_the_slider_crank_at_a_right_angle(self) -> None:
        # Inlet closing 90 deg after bottom: the piston stands r + l - sqrt(l^2 - r^2) below its top.
        engine = edited("tern", {"/engine/inlet_closing": "90 deg", "/engine/rod": "132 mm"}).engine
        left = (0.04 + 0.132 - math.sqrt(0.132**2 - 0.04**2)) / 0.08
        self.assertAlmostEqual(dynamic_ratio(engine) or 0, 1 + 8.2 * left, places=9)

    @given(st.integers(0, 109))
    def test_a_later_valve_leaves_less(self, degrees: int) -> None:
        early, late = (dynamic_ratio(edited("tern", {"/engine/inlet_closing": f"{d} deg"}).engine) or 0 for d in (degrees, degrees + 1))
        self.assertLess(late, early)

    def test_expected_compression_follows_it(self) -> None:
        static = plan("tern", {"/engine/inlet_closing": None}).figures["engine.compression.expected"].value or 0
        self.assertLess(plan("tern").figures["engine.compression.expected"].value or 0, static)
        self.assertAlmostEqual(static, (0.85 * 96.38 * 9.2**1.2) - 96.38, delta=0.1)

    def test_a_share_is_read_as_a_share(self) -> None:
        self.assertEqual((si("12 %", "ratio"), si("7,5%", "ratio"), si("0.12", "ratio")), (0.12, 0.075, 0.12))
        with self.assertRaises(BuildError) as caught:
            edited("tern", {"/engine/compression/0/leak_down": "130 %"})
        problem = caught.exception.problems[0]
        self.assertEqual(problem.at, "/engine/compression/0/leak_down")
        self.assertIn("between 0 % and 100 %", problem.wants)


class Power(unittest.TestCase):
    def test_from_air_by_hand(self) -> None:
        one = estimate(worked("tern").engine, "air")
        assert one is not None
        air = 0.83 * 101325 / (287.05 * 293.15) * 2597e-6 * 5200 / 120
        fuel = air / (14.1 * edited("tern").tune.full_lambda)
        self.assertAlmostEqual(one.middle, fuel * 3600 / 0.304 * 1e3, delta=60)
        self.assertLess(one.low, one.middle)
        self.assertLess(one.middle, one.high)

    def test_from_a_run_by_hand(self) -> None:
        one = estimate(worked("tern").engine, "run")
        assert one is not None
        mean = 1.05 * 1320 * (100 / 3.6) ** 2 / (2 * 7.4)
        self.assertAlmostEqual(one.middle, mean / 0.65, places=3)
        self.assertAlmostEqual(one.low, mean / 0.75, places=3)
        figures = plan("tern").figures
        self.assertAlmostEqual(figures["engine.power.from_run"].value or 0, one.middle / 1e3, places=6)
        self.assertEqual(figures["engine.power.from_run.p05"].unit, "kW")
        self.assertIsNone(plan("hollin").figures["engine.power.from_run"].value)

    def test_boost_and_open_tracts_draw_more_and_altitude_does_not_count(self) -> None:
        def middle(changes: dict[str, object]) -> float:
            one = estimate(worked("tern", changes).engine, "air")
            return one.middle if one else 0.0

        here = middle({})
        self.assertAlmostEqual(middle({"/engine/boost": "101.325 kPa"}) / here, 2.0, places=6)
        self.assertAlmostEqual(middle({"/engine/altitude": "2000 m"}), here, places=6)
        self.assertGreater(middle({"/engine/valve_train": "four_valve"}), here)


class Health(unittest.TestCase):
    def test_the_last_reading_counts_and_a_day_is_a_day(self) -> None:
        self.assertEqual(plan("tern").figures["engine.vacuum"].value, 55.0)
        swapped = {"/engine/health/0/when": "2026-09-01"}
        self.assertEqual(plan("tern", swapped).figures["engine.vacuum"].value, 49.0)
        with self.assertRaises(BuildError):
            edited("tern", {"/engine/health/0/when": "yesterday"})

    def test_what_escapes_where_names_the_part(self) -> None:
        why = next(f.why for f in plan("brindle").findings if f.code == "ENG-02")
        self.assertEqual(why, "Cylinder 3 loses 36%, past the rings.")


if __name__ == "__main__":
    unittest.main()
