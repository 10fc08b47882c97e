"""The engine: compression from geometry, the health log, ways to tell the power."""

import math
import unittest
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import edited, plan, worked
from uphill_spark.core.errors import BuildError
from uphill_spark.core.physics.air import ambient_pressure
from uphill_spark.core.reference import engine_faults
from uphill_spark.core.stages.engine import dynamic_ratio, estimate
from uphill_spark.core.stages.engine.filling import full_load_filling
from uphill_spark.core.stages.engine.fitness import _weighed, signs
from uphill_spark.core.units import si


def left_at(degrees: float, stroke: float = 0.08) -> float:
    """Share of the stroke that is left when the inlet shuts, by the slider-crank with a usual rod."""
    crank, rod, angle = stroke / 2, 1.65 * stroke, math.radians(180 + degrees)
    return (crank * (1 - math.cos(angle)) + rod - math.sqrt(rod**2 - (crank * math.sin(angle)) ** 2)) / stroke


class Compression(unittest.TestCase):
    def test_a_valve_that_shuts_at_the_bottom_leaves_the_whole_ratio(self) -> None:
        self.assertAlmostEqual(dynamic_ratio(edited("tern", {"/engine/inlet_closing": "0 deg"}).engine) or 0, 9.2, places=9)
        self.assertIsNone(dynamic_ratio(edited("tern", {"/engine/inlet_closing": None, "/engine/cam_card": None}).engine))

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
        static = plan("tern", {"/engine/inlet_closing": None, "/engine/cam_card": None}).figures["engine.compression.expected"].value or 0
        self.assertNotEqual(plan("tern").figures["engine.compression.expected"].value or 0, static)
        usual = 1 + 8.2 * left_at(55.0)
        self.assertAlmostEqual(static, 0.9 * 96.38 * usual**1.30 - 96.38, delta=0.5)  # a touring cam shuts about 55 after bottom

    def test_a_share_is_read_as_a_share(self) -> None:
        self.assertEqual((si("12 %", "ratio"), si("7,5%", "ratio"), si("0.12", "ratio")), (0.12, 0.075, 0.12))
        with self.assertRaises(BuildError) as caught:
            edited("tern", {"/engine/compression/0/leak_down": "130 %"})
        problem = caught.exception.problems[0]
        self.assertEqual(problem.at, "/engine/compression/0/leak_down")
        self.assertIn("between 0 % and 100 %", problem.wants)


class Power(unittest.TestCase):
    def test_filling_is_best_no_lower_than_a_fifth_over_idle(self) -> None:
        build = edited("tern", {"/engine/power_speed": "1500 rpm", "/engine/idle_speed": "1000 rpm"})
        best, beside = full_load_filling(build, np.array([1200, 1140]) / 60), full_load_filling(build, np.array([1200, 1260]) / 60)
        self.assertAlmostEqual(float(best[0]), 0.83, places=12)
        self.assertLess(float(best[1]), 0.83 - 1e-3)
        self.assertLess(float(beside[1]), 0.83 - 1e-5)

    def test_from_air_by_hand(self) -> None:
        one = estimate(worked("tern").engine, "air")
        assert one is not None
        filling = float(full_load_filling(edited("tern"), np.array([5200 / 60]))[0])
        self.assertLess(filling, 0.83)  # past the speed of its best
        air = filling * 101325 / (287.05 * 293.15) * 2597e-6 * 5200 / 120
        fuel = air / (14.1 * edited("tern").tune.full_lambda)
        self.assertAlmostEqual(one.middle, fuel * 3600 / 0.304 * 1e3, delta=1)
        self.assertLess(one.low, one.middle)
        self.assertLess(one.middle, one.high or 0)

    def test_from_a_run_by_hand(self) -> None:
        bare = {"/engine/run": {"mass": "1320 kg", "to_speed": "100 km/h", "time": "7.4 s"}}
        one = estimate(worked("tern", bare).engine, "run")
        assert one is not None
        mean = 1.05 * 1320 * (100 / 3.6) ** 2 / (2 * 7.4)
        self.assertAlmostEqual(one.middle, mean / 0.50, places=3)
        self.assertAlmostEqual(one.low, mean / 0.58, places=3)
        figures = plan("tern", bare).figures
        self.assertAlmostEqual(figures["engine.power.from_run"].value or 0, one.middle / 1e3, places=6)
        self.assertEqual(figures["engine.power.from_run.p05"].unit, "kW")
        self.assertIsNone(plan("hollin").figures["engine.power.from_run"].value)

    def test_open_valves_draw_more_and_altitude_counts_where_the_power_is_told_for_here(self) -> None:
        def middle(changes: dict[str, object]) -> float:
            one = estimate(worked("tern", changes).engine, "air")
            return one.middle if one else 0.0

        here = middle({})
        self.assertAlmostEqual(middle({"/engine/altitude": "2000 m"}), here, places=6)
        thin = middle({"/engine/altitude": "2000 m", "/engine/power_basis": "here"})
        self.assertAlmostEqual(thin / here, ambient_pressure(2000.0) / 101325.0, places=6)
        self.assertGreater(middle({"/engine/valve_train": "four_valve"}), here)


def seconds_by_hand(changes: dict[str, Any], power: float, step: float = 0.002) -> float:
    """The same car, stepped through time instead of speed: Newton's second law, one gear after the other."""
    build = edited("tern", changes)
    run, e = build.engine.run, build.engine
    assert run is not None
    weight, v, t, gear = run.mass.si * 9.80665, 0.0, 0.0, 0
    best = float(full_load_filling(build, np.array([e.power_speed.si]))[0]) * e.power_speed.si

    def force(k: int) -> float:
        ratio = run.gears[k] * run.final_drive.si
        turns = v / (2 * math.pi * run.tyre.si) * ratio
        if turns > e.rev_limit.si:
            return 0.0
        held = max(turns, e.power_speed.si / 2) if k == 0 else turns
        made = power * float(full_load_filling(build, np.array([max(held, 1.0)]))[0]) * held / best
        return made / (2 * math.pi * held) * ratio * 0.88 / run.tyre.si if held else 0.0

    while v < run.to_speed.si and t < 60:
        usable = [
            k
            for k in range(len(run.gears))
            if k == 0 or v / (2 * math.pi * run.tyre.si) * run.gears[k] * run.final_drive.si >= e.power_speed.si / 2
        ]
        best_gear = max(usable, key=force)
        if best_gear > gear:
            t += run.shift.si * (best_gear - gear)
            gear = best_gear
        held = 0.6 * run.drag_area.si * v**2 + 0.014 * weight
        turning = 1.04 + 0.0025 * (run.gears[gear] * run.final_drive.si) ** 2
        # What turns with the engine is the engine's to turn; tyres at their limit push the car and the wheels that roll along.
        v += min((force(gear) - held) / turning, (run.grip * run.driven_share.si * weight - held) / 1.02) / run.mass.si * step
        t += step
    return t


CARD = {"inlet_duration": "254 deg", "exhaust_duration": "254 deg", "inlet_centre": "107 deg", "exhaust_centre": "107 deg"}


class CamByItsCard(unittest.TestCase):
    def test_events_by_hand(self) -> None:
        # 254 round 107: opens 20 before top, shuts 54 after bottom; the exhaust shuts 20 after top.
        engine = worked("tern", {"/engine/inlet_closing": None, "/engine/cam_card": CARD}).engine
        self.assertEqual((engine.inlet_closing_deg, engine.overlap_deg), (54.0, 40.0))
        told = worked("tern", {"/engine/inlet_closing": "60 deg", "/engine/cam_card": CARD}).engine
        self.assertEqual(told.inlet_closing_deg, 60.0)
        self.assertIsNone(worked("hollin").engine.overlap_deg)

    def test_moving_a_cam_later_moves_closing_and_leaves_overlap_where_both_move(self) -> None:
        later = {**CARD, "inlet_centre": "111 deg", "exhaust_centre": "103 deg"}
        engine = worked("tern", {"/engine/inlet_closing": None, "/engine/cam_card": later}).engine
        self.assertEqual((engine.inlet_closing_deg, engine.overlap_deg), (58.0, 40.0))

    def test_a_card_of_another_class_is_told(self) -> None:
        wild = {**CARD, "inlet_duration": "300 deg", "exhaust_duration": "300 deg"}
        notes = [f for f in plan("tern", {"/engine/cam_card": wild}).findings if f.code == "ENG-04" and f.severity == "note"]
        self.assertEqual([(f.at, f.value) for f in notes], [("/engine/cam", 86.0)])
        self.assertIn("competition", notes[0].why)
        self.assertFalse([f for f in plan("tern").findings if f.code == "ENG-04" and f.severity == "note"])

    def test_small_valves_choke(self) -> None:
        figures = plan("tern").figures
        self.assertAlmostEqual(figures["engine.inlet.mach"].value or 0, (83 / 42) ** 2 * 2 * 0.08 * 5200 / 60 / (0.35 * 343), places=6)
        found = next(f for f in plan("tern", {"/engine/inlet_valve": "33 mm"}).findings if f.code == "ENG-10")
        self.assertEqual(found.severity, "watch")
        self.assertIn("choke", found.why)
        two = plan("tern", {"/engine/inlet_valve": "33 mm", "/engine/inlet_valves": 2}).figures["engine.inlet.mach"].value or 0
        self.assertLess(two, 0.6)


class Run(unittest.TestCase):
    def test_the_power_found_does_the_run_when_it_is_stepped_through_time(self) -> None:
        for changes in (
            {},
            {"/engine/run/mass": "900 kg", "/engine/run/to_speed": "120 km/h"},
            {"/engine/run/gears": [3.6, 2.1, 1.5, 1.2, 1.0], "/engine/run/time": "11 s"},
        ):
            run = worked("tern", changes).engine.run
            assert run is not None and run.middle is not None
            asked = edited("tern", changes).engine.run
            self.assertAlmostEqual(seconds_by_hand(changes, run.middle) / (asked.time.si if asked else 1), 1.0, delta=0.02)
            self.assertAlmostEqual(run.points[-1].time_s / (asked.time.si if asked else 1), 1.0, delta=0.01)

    def test_where_the_tyres_cannot_no_power_is_told(self) -> None:
        run = worked("tern", {"/engine/run/time": "5 s"}).engine.run
        assert run is not None
        self.assertEqual((run.middle, run.grip_limits), (None, True))
        self.assertAlmostEqual(run.grip_time_s, 100 / 3.6 * 1.02 / (0.9 * 0.53 * 9.80665), places=6)
        found = next(f for f in plan("tern", {"/engine/run/time": "5 s"}).findings if f.code == "ENG-10")
        self.assertEqual(found.severity, "watch")
        self.assertIn("beyond the tyres", found.why)

    @settings(max_examples=examples(40), deadline=None)
    @given(st.floats(800, 2000), st.floats(9, 25), st.floats(0.4, 1.2))
    def test_more_car_less_time_and_more_drag_take_more_power(self, mass: float, seconds: float, drag: float) -> None:
        base = {"/engine/run/mass": f"{mass:.1f} kg", "/engine/run/time": f"{seconds:.2f} s", "/engine/run/drag_area": f"{drag:.3f} m2"}

        def power(**more: str) -> float:
            run = worked("tern", base | {f"/engine/run/{k}": v for k, v in more.items()}).engine.run
            assert run is not None and run.low is not None
            return run.middle if run.middle is not None else math.inf

        here = power()
        if math.isfinite(here):
            self.assertGreater(power(mass=f"{mass * 1.1:.1f} kg"), here)
            self.assertGreater(power(drag_area=f"{drag * 1.3:.3f} m2"), here)
            self.assertLess(power(time=f"{seconds * 1.1:.2f} s"), here)

    def test_gears_that_do_not_fall_are_refused_by_name(self) -> None:
        for gears, wants in (
            ([3.2, 3.2, 1.0], "each smaller than the one before"),
            ([0.1], "0.4 or more"),
            ([3.0] * 9, "at most 8"),
        ):
            with self.assertRaises(BuildError) as caught:
                edited("tern", {"/engine/run/gears": gears})
            self.assertTrue(caught.exception.problems[0].at.startswith("/engine/run/gears"))
            self.assertIn(wants, caught.exception.problems[0].wants)


class Verdict(unittest.TestCase):
    def test_every_engine_gets_a_verdict_and_the_others_see_whether_to_go_on(self) -> None:
        for changes, word, go in (
            ({}, "fit", True),
            ({"/engine/health/1/vacuum": "45 kPa"}, "with_care", True),
            ({"/engine/compression/6/dry": "860 kPa"}, "mend_first", False),
            ({"/engine/compression/6/leak_down": "35 %"}, "not_fit", False),
            ({"/engine/compression": []}, "not_known", False),
        ):
            found = plan("tern", changes).fitness
            with self.subTest(word):
                self.assertEqual((found.word, found.go), (word, go))
                self.assertTrue(found.reason)

    def test_each_escape_points_at_its_part(self) -> None:
        for place, key in (
            ("oil_filler", "rings"),
            ("exhaust", "exhaust_valve"),
            ("throttle", "inlet_valve"),
            ("radiator", "gasket_water"),
            ("neighbour", "gasket_between"),
        ):
            changes = {
                "/engine/compression/6/leak_down": "26 %",
                "/engine/compression/6/escapes": place,
                "/engine/compression/6/dry": "800 kPa",
            }
            causes = plan("tern", changes).fitness.causes
            self.assertEqual(causes[0].key, key, place)
            self.assertGreater(causes[0].chance, 0.6, place)

    def test_one_sign_by_hand(self) -> None:
        # Oil pressure low: only bearings show it, or it comes anyway; Bayes on those two.
        data = engine_faults()
        causes, _ = _weighed((("oil_pressure_low", True),))
        before, shows, anyway = (
            data.fault["bearings"].before,
            data.fault["bearings"].shows["oil_pressure_low"],
            data.anyway["oil_pressure_low"],
        )
        there = 1 - (1 - shows) * (1 - anyway)
        by_hand = before * there / (before * there + (1 - before) * anyway)
        self.assertAlmostEqual(next(c.chance for c in causes if c.key == "bearings"), by_hand, places=9)
        self.assertAlmostEqual(next(c.chance for c in causes if c.key == "rings"), data.fault["rings"].before, places=9)

    def test_a_spoon_of_oil_points_at_the_rings_when_it_lifts_by_a_tenth(self) -> None:
        for wet, rings in (("870 kPa", False), ("890 kPa", True)):  # dry 800
            rows = [{"cylinder": c, "dry": "800 kPa" if c == 3 else "1100 kPa"} for c in range(1, 7)]
            rows[2]["wet"] = wet
            changes = {"/engine/compression": rows, "/engine/health": []}
            told = next(f for f in plan("tern", changes).findings if f.code == "ENG-01")
            self.assertEqual("rings" in told.do and "oil lifts" in told.do, rings, told.do)
            self.assertEqual(signs(edited("tern", changes), worked("tern", changes).engine)["wet_rises"], rings)

    def test_the_next_test_is_one_that_was_not_done_and_takes_doubt_away(self) -> None:
        data = engine_faults()
        self.assertEqual(plan("tern", {"/engine/compression": [], "/engine/health": []}).fitness.next_test.key, "compression")  # type: ignore[union-attr]
        low = {
            "/engine/compression": [{"cylinder": c, "dry": "800 kPa" if c == 3 else "1100 kPa"} for c in range(1, 7)],
            "/engine/health": [],
        }
        seen = signs(edited("tern", low), worked("tern", low).engine)
        found = plan("tern", low).fitness.next_test
        assert found is not None
        self.assertIn(found.key, ("wet", "leak_down", "running"))
        self.assertFalse(set(data.test[found.key].signs) & set(seen))
        self.assertGreater(found.bits, 0)
        heard = {
            **low,
            "/engine/compression": [{**r, "leak_down": "25 %" if r["cylinder"] == 3 else "5 %"} for r in low["/engine/compression"]],
        }  # type: ignore[union-attr]
        self.assertNotIn("air_at_exhaust", signs(edited("tern", heard), worked("tern", heard).engine))  # it leaks, and nobody has listened

    def test_the_table_of_faults_is_whole(self) -> None:
        data = engine_faults()
        named = {s for f in data.fault.values() for s in f.shows}
        self.assertEqual(named, set(data.anyway))
        self.assertEqual({s for t in data.test.values() for s in t.signs}, named)
        self.assertTrue(all(0 < p < 1 for f in data.fault.values() for p in (f.before, *f.shows.values())))


class Days(unittest.TestCase):
    def test_the_newest_reading_counts_and_the_one_before_stands_beside_it(self) -> None:
        bars = worked("tern").engine.compression
        self.assertEqual([round((b.before_pa or 0) / 1e3) for b in bars], [980, 1090, 1075, 990, 1105, 930])
        self.assertEqual(plan("tern").figures["engine.compression.spread"].value, round(45 / 1130, 9))
        first = {f"/engine/compression/{i}/when": "2025-01-01" for i in range(6, 12)}
        self.assertEqual(plan("tern", first).figures["engine.compression.spread"].value, round(175 / 1105, 9))

    def test_one_reading_a_day_for_a_cylinder(self) -> None:
        with self.assertRaises(BuildError) as caught:
            edited("tern", {"/engine/compression/7/cylinder": 1})
        self.assertIn("one reading a day", caught.exception.problems[0].wants)
        for day in ("2026-13-01", "2026-02-40", "soon", "26"):
            with self.assertRaises(BuildError):
                edited("tern", {"/engine/compression/0/when": day})


class Health(unittest.TestCase):
    def test_the_last_reading_counts_and_a_day_is_a_day(self) -> None:
        self.assertEqual(plan("tern").figures["engine.vacuum"].value, 55.0)
        swapped = {"/engine/health/0/when": "2026-09-01"}
        self.assertEqual(plan("tern", swapped).figures["engine.vacuum"].value, 49.0)
        with self.assertRaises(BuildError):
            edited("tern", {"/engine/health/0/when": "yesterday"})

    def test_what_escapes_where_names_the_part(self) -> None:
        why = next(f.why for f in plan("brindle").findings if f.code == "ENG-02")
        self.assertEqual(why, "Cylinder 3 loses 36 %, past the rings.")


class UsualClosing(unittest.TestCase):
    def test_the_effective_ratio_by_cam_is_that_of_a_slider_crank_at_the_usual_angle(self) -> None:
        """Where neither angle nor card is known: 48, 55, 64, 72 degrees after bottom."""
        for cam, after_bottom in (("standard", 48.0), ("touring", 55.0), ("sport", 64.0), ("competition", 72.0)):
            e = edited("tern", {"/engine/cam": cam}).engine.model_copy(update={"inlet_closing": None, "cam_card": None, "rod": None})
            with self.subTest(cam):
                self.assertAlmostEqual(
                    dynamic_ratio(e, usual=True) or 0, 1 + (e.compression_ratio.si - 1) * left_at(after_bottom), delta=0.02
                )


class TypedFlow(unittest.TestCase):
    def test_a_flow_that_no_injector_has_is_refused_on_both_sides(self) -> None:
        for text, taken in (
            ("4.9 g/min", True),
            ("4.7 g/min", False),
            ("5900 g/min", True),
            ("6100 g/min", False),
            ("4.9 cc/min", True),
            ("4.7 cc/min", False),
        ):
            with self.subTest(text):
                if taken:
                    edited("tern", {"/tune/typed/injector_flow": text})
                else:
                    with self.assertRaises(BuildError):
                        edited("tern", {"/tune/typed/injector_flow": text})


if __name__ == "__main__":
    unittest.main()
