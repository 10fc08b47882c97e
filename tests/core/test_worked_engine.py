"""The engine of a build worked from its measures: what was told is taken, what was not is guessed and said, and what would sharpen it is ranked."""

import math
import unittest
from functools import cache
from typing import Any

import numpy as np

from tests.builds import document, edited
from uphill_spark.core.asked import CycleDepth, Trial, answer
from uphill_spark.core.plan import evaluated
from uphill_spark.core.stages.engine.measures import HEAD_OVER_BORE, measures

TOLD = {
    "/engine/rod": "140 mm", "/engine/exhaust_valve": "36 mm", "/engine/tract": "340 mm", "/engine/exhaust": "cast_manifold",
    "/engine/cam_card": {"inlet_duration": "256 deg", "exhaust_duration": "256 deg", "inlet_centre": "108 deg", "exhaust_centre": "110 deg", "lift": "9.6 mm"},
}  # fmt: skip


@cache
def worked(car: str = "tern", told: bool = False) -> CycleDepth:
    changes: dict[str, Any] = TOLD if told else {}
    found = answer("cycle", Trial(document(car), evaluated(edited(car, changes))))
    assert isinstance(found, CycleDepth)
    return found


class Measured(unittest.TestCase):
    def test_what_is_told_is_taken(self) -> None:
        m = measures(edited("tern", TOLD))
        e = edited("tern", TOLD).engine
        self.assertAlmostEqual(m.cylinder.rod, 0.140)
        self.assertAlmostEqual(m.cylinder.exhaust.head, 0.036)
        self.assertAlmostEqual(m.cylinder.inlet.lift, 0.0096)
        self.assertAlmostEqual(m.cylinder.swept, e.displacement.si / e.cylinders, places=12)
        self.assertEqual(m.guesses, ())

    def test_what_is_not_told_is_guessed_by_its_class_and_said(self) -> None:
        b = edited("brindle", {"/engine/bore": None, "/engine/stroke": None} if edited("brindle").engine.bore else {})
        m = measures(b)
        places = {g.place for g in m.guesses}
        self.assertTrue({"/engine/stroke", "/engine/inlet_valve", "/engine/tract"} <= places, places)
        self.assertAlmostEqual(m.cylinder.inlet.head / m.cylinder.bore, HEAD_OVER_BORE[b.engine.chamber], delta=0.01)
        self.assertAlmostEqual(m.cylinder.swept, b.engine.displacement.si / b.engine.cylinders, places=12)

    def test_bore_or_stroke_follows_from_the_other(self) -> None:
        e = edited("tern").engine
        for gone in ("/engine/bore", "/engine/stroke"):
            if getattr(e, gone.split("/")[-1]) is None:
                continue
            c = measures(edited("tern", {gone: None})).cylinder
            self.assertAlmostEqual(c.swept, e.displacement.si / e.cylinders, places=12)

    def test_a_guess_can_be_moved_and_a_told_measure_cannot(self) -> None:
        b = edited("brindle")
        self.assertAlmostEqual(measures(b, {"/engine/tract": 1.5}).cylinder.tract_length, 1.5 * measures(b).cylinder.tract_length)
        self.assertEqual(measures(edited("tern", TOLD), {"/engine/rod": 2.0}).cylinder.rod, 0.140)


class Worked(unittest.TestCase):
    def test_power_lies_by_the_way_that_counts_the_air(self) -> None:
        trial = evaluated(edited("tern"))
        air = next(p for p in trial.worked.engine.power if p.key == "air")
        here = trial.worked.engine.ambient_pressure_pa / 101325.0
        found = worked("tern")
        assert air.high is not None
        self.assertTrue(
            air.low * here * (1 - 2 * found.doubt) <= found.power_w <= air.high * here * (1 + 2 * found.doubt),
            (air, found.power_w, found.doubt),
        )

    def test_curve_grid_and_band_fit_together(self) -> None:
        for car in ("tern", "brindle"):
            c = worked(car)
            self.assertAlmostEqual(c.power_w, max(c.curve.power_w), delta=1)
            self.assertAlmostEqual(
                c.curve.power_w[5], c.curve.torque_nm[5] * c.curve.rpm[5] / 60 * 2 * math.pi, delta=0.01 * c.curve.power_w[5]
            )
            self.assertTrue(all(low < p < high for low, p, high in zip(c.curve.low_w, c.curve.power_w, c.curve.high_w, strict=True)))
            shape = (len(c.grid.load), len(c.grid.rpm))
            for rows in (c.grid.filling, c.grid.doubt, c.grid.advance_deg, c.grid.residual):
                self.assertEqual(np.array(rows).shape, shape)
            self.assertTrue(np.all(np.array(c.grid.filling) > 0.1) and np.all(np.array(c.grid.filling) < 1.2))
            self.assertTrue(np.all(np.isfinite(np.array(c.grid.advance_deg))))

    def test_advance_stays_before_best_and_before_knock(self) -> None:
        c = worked("tern")
        top = next(i for i, k in enumerate(c.grid.load) if k > 95)
        self.assertIn("k", c.grid.ruled[top])
        self.assertLessEqual(set(c.grid.ruled[0]), set("bhi"))
        self.assertLess(np.mean(c.grid.advance_deg[top]), np.mean(c.grid.advance_deg[2]))

    def test_what_is_measured_sharpens(self) -> None:
        self.assertGreater(len(worked("tern").sharpens), 0)
        self.assertEqual(worked("tern", True).sharpens, [])
        self.assertLess(worked("tern", True).doubt, worked("tern").doubt)
        order = [max(s.full, s.driven, s.power) for s in worked("brindle").sharpens]
        self.assertEqual(order, sorted(order, reverse=True))

    def test_residual_is_highest_at_idle_speed_and_low_load(self) -> None:
        rows = np.array(worked("tern").grid.residual)
        self.assertGreater(rows[1, 0], rows[-2, 0] + 0.03)
        self.assertGreater(rows[1, 0], rows[1, -1])

    def test_valves_are_drawn_over_both_tops_of_their_lift(self) -> None:
        v = worked("tern").valves
        self.assertGreater(max(v.inlet_lift_m), 0.008)
        self.assertEqual(len(v.degrees), len(v.exhaust_m2))
        both = [d for d, a, b in zip(v.degrees, v.inlet_lift_m, v.exhaust_lift_m, strict=True) if a > 0 and b > 0]
        self.assertTrue(both and min(both) < 0 < max(both))  # overlap, about top


if __name__ == "__main__":
    unittest.main()
