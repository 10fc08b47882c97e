"""The trigger: wheels, where number one is, cranking, the coil's volts, the scope, and what was tested by hand."""

import itertools
import math
import unittest
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import edited, plan, worked
from uphill_spark.core.asked import trigger as scope
from uphill_spark.core.errors import BuildError
from uphill_spark.core.given.trigger import Trigger
from uphill_spark.core.stages.trigger.cranking import Cranking, crank, missed, timing_error
from uphill_spark.core.stages.trigger.reluctance import no_start_speed, peak, strength
from uphill_spark.core.stages.trigger.wheel import (
    Tooth,
    gap_after,
    least_pitch_m,
    phase_allowed,
    pitch_m,
    same_places,
    sync_cases,
    teeth_of,
)

T = "/sensors/trigger"


def wheel(**more: Any) -> Trigger:
    return Trigger.model_validate({"teeth": 36, "missing": 1, "sensor": "hall", **more})


class Wheels(unittest.TestCase):
    def test_teeth_and_rates_by_hand(self) -> None:
        figures = plan("tern").figures
        self.assertEqual(figures["trigger.degrees_per_tooth"].value, 10.0)
        self.assertAlmostEqual(figures["trigger.rate.limit"].value or 0, 36 * 5700 / 60)
        self.assertAlmostEqual(pitch_m(wheel(diameter="172 mm")) or 0, math.pi * 0.172 / 36)
        self.assertEqual((least_pitch_m(wheel()), least_pitch_m(wheel(sensor="variable_reluctance", tip="6 mm"))), (8e-3, 12e-3))

    def test_the_gap_is_where_teeth_are_missing(self) -> None:
        for n, m in ((36, 1), (60, 2), (12, 1)):
            start, end = gap_after(wheel(teeth=n, missing=m))
            pitch = 360 / n
            self.assertAlmostEqual(end - start, (m + 0.5) * pitch, places=9)
            self.assertAlmostEqual(end, 360 - pitch / 4, places=9)
        self.assertEqual(gap_after(wheel(missing=0)), (0.0, 0.0))

    def test_one_tooth_more_sits_half_way(self) -> None:
        rows = teeth_of(wheel(pattern="added", teeth=4, missing=0))
        middles = [(r.begins + r.ends) / 2 for r in rows]
        self.assertEqual(middles, [0.0, 45.0, 90.0, 180.0, 270.0])

    def test_windows_of_a_distributor_count_at_half_speed(self) -> None:
        six = [{"opens": f"{60 * k + 10} deg", "width": f"{40 if k == 2 else 25} deg"} for k in range(6)]
        t = wheel(pattern="windows", windows=six, on="distributor", teeth=6, missing=0)
        rows = teeth_of(t)
        self.assertEqual([r.begins for r in rows], [0.0, 120.0, 240.0, 360.0, 480.0, 600.0])
        self.assertEqual(rows[2].ends - rows[2].begins, 80.0)
        self.assertEqual(same_places(t), 1)
        even = [{**row, "width": "25 deg"} for row in six]
        self.assertEqual(same_places(wheel(pattern="windows", windows=even, on="distributor", teeth=6, missing=0)), 6)

    @settings(max_examples=examples(60), deadline=None)
    @given(st.integers(4, 120), st.integers(0, 4))
    def test_a_wheel_is_told_by_its_missing_teeth_and_its_teeth_fill_the_turn(self, n: int, m: int) -> None:
        if 2 * m >= n:
            with self.assertRaises(ValueError):
                wheel(teeth=n, missing=m)
            return
        t = wheel(teeth=n, missing=m)
        self.assertEqual(same_places(t), 1 if m else n)
        rows = teeth_of(t)
        self.assertEqual(len(rows), n - m)
        self.assertTrue(all(a.ends < b.begins for a, b in itertools.pairwise(rows)))

    def test_bad_input_is_named(self) -> None:
        windows = [{"opens": "0 deg", "width": "100 deg"}, {"opens": "90 deg", "width": "30 deg"}]
        for changes, at, wants in (
            ({f"{T}/teeth": 0}, f"{T}/teeth", "1 or more"),
            ({f"{T}/missing": 36}, f"{T}/missing", "4 at most"),
            ({f"{T}/teeth": 6, f"{T}/missing": 3}, f"{T}/missing", "fewer than half"),
            ({f"{T}/angle": "900 deg"}, f"{T}/angle", "between -360 deg"),
            ({f"{T}/pattern": "added"}, f"{T}/missing", "none missing"),
            ({f"{T}/pattern": "windows", f"{T}/windows": windows}, f"{T}/windows/0/width", "end before the next"),
            ({f"{T}/pattern": "windows"}, f"{T}/windows", "two windows at least"),
            ({f"{T}/gap_least": "2 mm"}, f"{T}/gap_most", "at least 2 mm"),
            ({f"{T}/hand_turn/levels/3/over": "40 V"}, f"{T}/hand_turn/levels/3/over", "between 0 V"),
        ):
            with self.subTest(at + wants), self.assertRaises(BuildError) as caught:
                edited("tern", changes)
            self.assertEqual(caught.exception.problems[0].at, at)
            self.assertIn(wants, caught.exception.problems[0].wants)


class NumberOne(unittest.TestCase):
    def test_from_the_tooth_that_was_counted(self) -> None:
        counted = {f"{T}/angle": None, f"{T}/tooth_at_top": 8.5, f"{T}/stop_before": None, f"{T}/stop_after": None}
        r = worked("tern", counted).trigger
        assert r is not None
        self.assertEqual((r.angle_deg, r.angle_doubt_deg, r.tooth_at_tdc), (85.0, 2.5, 8.5))
        told = worked("tern", counted | {f"{T}/angle": "84 deg"}).trigger
        assert told is not None
        self.assertEqual((told.angle_deg, told.angle_doubt_deg), (84.0, 1.0))

    def test_true_top_is_half_way_between_the_stops(self) -> None:
        r = worked(
            "tern", {f"{T}/angle": None, f"{T}/tooth_at_top": 8.5, f"{T}/stop_before": "40 deg", f"{T}/stop_after": "44 deg"}
        ).trigger
        assert r is not None
        # Stopped 40 before the mark and 44 after it: true top lies 2 after the mark, and the sensor sees its tooth so much sooner.
        self.assertEqual((r.top_off_deg, r.angle_deg), (2.0, 87.0))

    def test_on_a_distributor_a_turn_is_two_of_the_crank(self) -> None:
        six = [{"opens": f"{60 * k} deg", "width": f"{35 if k else 25} deg"} for k in range(6)]
        changes = {
            f"{T}/pattern": "windows",
            f"{T}/windows": six,
            f"{T}/on": "distributor",
            f"{T}/angle": None,
            f"{T}/tooth_at_top": 1,
            f"{T}/stop_before": None,
        }
        r = worked("tern", changes).trigger
        assert r is not None
        self.assertEqual((r.tooth_angle_deg, r.angle_deg, r.cycle_deg), (120.0, 120.0, 720.0))


class Phase(unittest.TestCase):
    def test_where_it_may_come_by_hand(self) -> None:
        # 36-1, first tooth 84 degrees before top: the gap begins at 342.5 - 84 and lasts 15; a tooth is left free on either side.
        t = wheel(phase={"sensor": "hall", "at": "10 deg"})
        bands = [(round(a, 6), round(b, 6)) for a, b in phase_allowed(t, 84.0)]
        self.assertEqual(bands, [(283.5, 608.5), (643.5, 248.5)])

    @settings(max_examples=examples(80), deadline=None)
    @given(st.floats(0, 719), st.integers(1, 8), st.floats(-180, 180))
    def test_an_odd_number_of_events_tells_the_turns_apart(self, at: float, events: int, angle: float) -> None:
        cases = sync_cases(wheel(phase={"sensor": "hall", "at": f"{at:.3f} deg", "width": "5 deg", "events": events}), angle)
        self.assertEqual(len(cases), 2)
        self.assertEqual(sum(c.phase_events or 0 for c in cases), events)
        self.assertEqual(max(c.alike for c in cases), 1 if events % 2 else 2)

    def test_without_a_phase_the_turns_look_alike(self) -> None:
        self.assertEqual([(c.phase_events, c.alike) for c in sync_cases(wheel(), 60.0)], [(None, 2), (None, 2)])


class OnTheStarter(unittest.TestCase):
    def test_it_turns_at_the_speed_told_and_repeats(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            for rpm in (180, 220):
                run = crank(edited(car, {f"{T}/cranking": f"{rpm} rpm"}))
                self.assertTrue(run.settled, car)
                mean = len(run.speed) / float(np.sum(1 / run.speed)) * 60
                self.assertAlmostEqual(mean / rpm, 1.0, delta=0.004)
                self.assertAlmostEqual(run.speed[0] / run.speed[-1], 1.0, delta=0.003)

    def test_where_it_does_not_settle_nothing_is_told(self) -> None:
        slow = {f"{T}/cranking": "60 rpm", "/engine/compression_ratio": "13:1"}
        self.assertFalse(crank(edited("hollin", slow)).settled)
        self.assertIsNone(plan("hollin", slow).figures["trigger.error.cranking"].value)
        depth = scope.look_deeper(edited("hollin", slow))
        assert depth is not None
        self.assertIsNone(depth.cranking)

    def test_it_slows_once_for_every_compression(self) -> None:
        for car, n in (("tern", 6), ("hollin", 4)):
            speed = crank(edited(car)).speed[:-1]
            lows = sum(speed[i] < speed[i - 1] and speed[i] <= speed[(i + 1) % len(speed)] for i in range(len(speed)))
            self.assertEqual(lows, n, car)

    def test_an_even_speed_misses_nothing(self) -> None:
        angle = np.arange(0.0, 722.0, 2.0)
        even = Cranking(angle, angle / 360 / 3.0, np.full(angle.shape, 3.0), 0.0, True)
        late = missed(even, teeth_of(wheel()), 360.0, 84.0, [0.0, 120.0], 10.0)
        self.assertLess(late.worst, 1e-9)

    def test_a_steady_slowing_by_hand(self) -> None:
        # Time goes with the square of the angle: t = a + b a^2. Reckoned ahead from teeth at 0 and 10 to 15 degrees.
        b = 1e-3
        angle = np.arange(0.0, 722.0, 2.0)
        run = Cranking(angle, angle + b * angle**2, np.ones(angle.shape), 0.0, True)
        late = missed(run, [Tooth(10.0 * k, 10.0 * k + 5) for k in range(36)], 360.0, 0.0, [0.0], 10.0)
        when = 110 + b * 110**2 + 0.5 * ((110 + b * 110**2) - (100 + b * 100**2))  # wanted 115, from the teeth at 100 and 110
        real = (-1 + math.sqrt(1 + 4 * b * when)) / (2 * b)
        index = int(np.argmin(np.abs(late.angle - 114.0)))
        self.assertAlmostEqual(float(np.interp(115.0, late.angle, late.error)), real - 115.0, delta=0.02)
        self.assertLess(late.error[index], 0)  # it slows, so the spark comes early

    def test_more_teeth_miss_less(self) -> None:
        build = edited("hollin")
        worst = [
            timing_error(build, teeth_of(wheel(teeth=n, missing=m)), 360.0, 60.0).worst for n, m in ((12, 1), (24, 1), (36, 1), (60, 2))
        ]
        self.assertEqual(worst, sorted(worst, reverse=True))
        self.assertLess(worst[-1], worst[0] / 5)


class Coil(unittest.TestCase):
    def test_volts_go_with_speed_and_fall_with_the_gap(self) -> None:
        t = wheel(sensor="variable_reluctance", spin={"coil": "850 ohm", "volts": "1 V", "speed": "300 rpm"}, gaps=["0.8 mm"])
        self.assertAlmostEqual(peak(t, 5.0, 0.8e-3), math.sqrt(2), places=9)
        self.assertAlmostEqual(peak(t, 10.0, 0.8e-3), 2 * math.sqrt(2), places=9)
        self.assertAlmostEqual(peak(t, 5.0, 0.8e-3 + 0.75e-3), math.sqrt(2) / math.e, places=9)
        self.assertAlmostEqual(no_start_speed(t), 0.3 / (math.sqrt(2) / 5), places=9)
        wide = wheel(sensor="variable_reluctance", spin={"coil": "850 ohm", "volts": "1 V", "speed": "300 rpm"}, gaps=["0.6 mm", "1.0 mm"])
        self.assertGreater(no_start_speed(wide), no_start_speed(t))

    def test_no_start_is_told(self) -> None:
        found = [f for f in plan("hollin", {f"{T}/threshold": "2 V"}).findings if f.code == "TRIG-01"]
        self.assertIn("It will not start", found[0].why)
        self.assertEqual(found[0].figure, "trigger.vr.no_start")


class UsualCoil(unittest.TestCase):
    def test_an_untested_coil_gives_what_is_usual(self) -> None:
        """0.55 V a rev/s over 36 teeth at no gap, a third of it (1/e) at 0.75 mm, more with more teeth; 0.8 mm where nobody measured."""

        def usual(teeth: int, gaps: list[str]) -> float:
            return strength(wheel(sensor="variable_reluctance", gaps=gaps, teeth=teeth))

        self.assertAlmostEqual(usual(36, ["0.75 mm"] * 4), 0.55 / math.e, places=9)
        self.assertAlmostEqual(usual(60, ["0.75 mm"] * 4), 0.55 * 60 / 36 / math.e, places=9)
        self.assertAlmostEqual(usual(36, []), 0.55 * math.exp(-0.8 / 0.75), places=9)


class Scope(unittest.TestCase):
    def test_a_hall_signal_is_low_over_each_tooth_and_counts_them(self) -> None:
        depth = scope.look_deeper(edited("tern"))
        assert depth is not None and depth.cranking is not None
        crank_signal, phase = (s.volts for s in depth.signals)
        self.assertEqual((len(crank_signal), set(crank_signal)), (1440, {0.2, 5.0}))
        falls = sum(a == 5.0 and b == 0.2 for a, b in zip(crank_signal, [*crank_signal[1:], crank_signal[0]], strict=True))
        self.assertEqual(falls, 70)
        low = [k / 2 for k, v in enumerate(phase) if v == 0.2]
        self.assertEqual((low[0], low[-1]), (385.0, 464.5))

    def test_a_coil_crosses_at_the_tooth_and_swapping_its_wires_turns_it_over(self) -> None:
        as_drawn = scope.signals(edited("hollin").sensors.trigger, 60.0)[0].volts  # type: ignore[arg-type]
        swapped = scope.signals(edited("hollin", {f"{T}/polarity": "swapped"}).sensors.trigger, 60.0)[0].volts  # type: ignore[arg-type]
        np.testing.assert_allclose(as_drawn, [-v for v in swapped], atol=1e-12)
        at_tooth = (720 - 60) * 2  # the first tooth, 60 degrees before top
        self.assertLess(abs(as_drawn[at_tooth]), 0.1)
        self.assertGreater(as_drawn[at_tooth - 4], 0.5)
        self.assertLess(as_drawn[at_tooth + 4], -0.5)

    def test_nothing_without_a_wheel_and_no_signals_without_an_angle(self) -> None:
        self.assertIsNone(scope.look_deeper(edited("tern", {T: None})))
        depth = scope.look_deeper(edited("tern", {f"{T}/angle": None}))
        assert depth is not None
        self.assertEqual(depth.signals, [])


class OtherWheels(unittest.TestCase):
    def test_each_is_what_the_build_would_show_with_it(self) -> None:
        depth = scope.look_deeper(edited("tern"))
        assert depth is not None
        self.assertEqual([(w.teeth, w.missing, w.mine) for w in depth.wheels if w.mine], [(36, 1, True)])
        for w in depth.wheels:
            figures = plan("tern", {f"{T}/teeth": w.teeth, f"{T}/missing": w.missing, f"{T}/hand_turn": None}).figures
            self.assertAlmostEqual(figures["trigger.rate.limit"].value or 0, w.rate_hz, places=6)
            self.assertLessEqual(figures["trigger.error.cranking"].value or 0, w.miss_deg or 0)
            self.assertAlmostEqual(w.pitch_m or 0, math.pi * 0.172 / w.teeth)
        assert depth.cranking is not None
        self.assertEqual([w.miss_deg for w in depth.wheels if w.mine], [depth.cranking.worst_deg])
        fine = {w.teeth: w.fits for w in depth.wheels}
        self.assertTrue(fine[36] and fine[60])
        small = scope.look_deeper(edited("tern", {f"{T}/diameter": "100 mm"}))
        assert small is not None
        self.assertEqual({w.teeth: w.fits for w in small.wheels}, {12: True, 24: True, 36: True, 60: False})


class ByHand(unittest.TestCase):
    def levels(self, n: int, **odd: str) -> list[dict[str, str]]:
        return [{"over": odd.get(f"o{k}", "0.2 V"), "between": odd.get(f"b{k}", "4.8 V")} for k in range(1, n + 1)]

    def test_it_names_the_tooth_that_failed(self) -> None:
        for levels, finished, passed, told in (
            (self.levels(35), True, True, "All 35 teeth show"),
            (self.levels(12), False, None, "12 of 35 teeth so far"),
            (self.levels(34), True, False, "Back at the gap after 34"),
            (self.levels(36), True, False, "36 teeth were counted"),
            (self.levels(35, o17="1.4 V"), True, False, "Tooth 17 stays at 1.4 V"),
            (self.levels(9, b3="2.2 V", b4="2.1 V"), False, False, "Tooth 3 comes only to 2.2 V"),
        ):
            changes = {f"{T}/hand_turn": {"when": "2026-05-02", "supply": "5 V", "levels": levels, "finished": finished}}
            r = worked("tern", changes).trigger
            assert r is not None and r.hand is not None
            with self.subTest(told):
                self.assertEqual(r.hand.passed, passed)
                self.assertTrue(r.hand.told.startswith(told), r.hand.told)

    def test_shims_bring_the_gap_to_the_middle_of_its_range(self) -> None:
        gaps = {f"{T}/gaps": ["1.6 mm", "1.7 mm"], f"{T}/gap_least": "0.5 mm", f"{T}/gap_most": "1.5 mm"}
        r = worked("tern", gaps).trigger
        assert r is not None and r.gap is not None
        self.assertAlmostEqual(r.gap.shim_m, -0.65e-3)
        self.assertIn(
            "Take out 0.65 mm of shim", next(f.do for f in plan("tern", {**gaps, f"{T}/shims": "1 mm"}).findings if f.code == "TRIG-01")
        )
        self.assertIn("Bring it in by 0.65 mm", next(f.do for f in plan("tern", gaps).findings if f.code == "TRIG-01"))


if __name__ == "__main__":
    unittest.main()
