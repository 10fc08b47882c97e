"""A log read against a build: what is believed, the lag, the split into causes, corrected cells, parts of a log, pulls, what is still to be driven, what its columns are."""

from __future__ import annotations

import math
import unittest
from typing import Any
from unittest import mock

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builds import document, edited
from tests.drives import TRUTHS, as_log, driven, flat, tern
from uphill_spark.core.given import apply_edit, parse
from uphill_spark.core.given.edit import put
from uphill_spark.core.logs import Log, stretches
from uphill_spark.core.plan import evaluated
from uphill_spark.core.road import cells, deeds
from uphill_spark.core.road.believed import believed
from uphill_spark.core.road.columns import Column, guess, log_of
from uphill_spark.core.road.correct import STEP, correction, smoothed
from uphill_spark.core.road.coverage import FULL, reachable
from uphill_spark.core.road.day import weather
from uphill_spark.core.road.lag import by_physics
from uphill_spark.core.road.pull import pulls, standard
from uphill_spark.core.road.reading import LogSaid, NotReadable, correct_again, read
from uphill_spark.core.road.samples import table_of, trim_factor
from uphill_spark.core.standin.drive import Drive, Leg, Truth, absolute
from uphill_spark.core.standin.drive import driven as car_of
from uphill_spark.core.worked import Worked

_SAID: dict[str, LogSaid] = {}


def said(name: str) -> LogSaid:
    if name not in _SAID:
        _SAID[name] = read(tern(), driven()[name])
    return _SAID[name]


def cause(name: str, key: str) -> Any:
    split = said(name).split
    assert split is not None
    return next(c for c in split.causes if c.key == key)


def took(log: Log) -> dict[str, int]:
    return {s.key: s.took for s in believed(log).funnel}


class Believing(unittest.TestCase):
    def test_a_log_that_stands_still_and_is_right_is_believed_whole(self) -> None:
        found = believed(flat())
        self.assertTrue(found.mask.all())
        self.assertEqual(sum(s.took for s in found.funnel), 0)
        self.assertIn("moved freely", found.sensor.words)

    def test_each_rule_takes_what_is_its_own(self) -> None:
        n = 1200
        t = np.arange(n)
        for rule, columns in {
            "cold": {"coolant": np.where(t < 400, 69.9, 70.1)}, "stands": {"speed": np.where(t < 400, 449.0, 2000.0)}, "over_run": {"throttle": np.where(t < 400, 1.4, 18.0)}, "fault": {"fault": np.where(t < 400, 1.0, 0.0)},
            "silent": {"lambda": np.where(t < 400, np.nan, 1.0)}, "moves": {"throttle": 18 + 6 * np.sin(t * 0.05 * 6)},
        }.items():  # fmt: skip
            with self.subTest(rule):
                found = took(flat(**columns))
                self.assertGreater(found[rule], 300 if rule != "moves" else 900)
                others = {k: v for k, v in found.items() if k not in (rule, "moves", "started")}
                self.assertEqual(sum(others.values()), 0, others)

    def test_a_foot_just_slow_enough_is_still_and_one_just_quicker_is_not(self) -> None:
        for rate, still in ((11.0, True), (13.5, False)):
            foot = 10 + np.minimum(np.arange(1200) * 0.05 * rate, 80)
            moved = took(flat(throttle=foot))["moves"]
            self.assertEqual(moved == 0, still, rate)

    def test_a_sensor_that_is_cold_at_first_is_told_with_its_seconds(self) -> None:
        lamda = np.where(np.arange(1200) < 300, 1.36, 1.0 + 0.01 * np.sin(np.arange(1200) * 0.3))
        found = believed(flat(**{"lambda": lamda}))
        self.assertAlmostEqual(found.sensor.hot_after_s or 0, 15.0, delta=0.2)
        self.assertFalse(found.mask[:300].any())
        self.assertTrue(found.mask[400:].any())

    def test_a_sensor_that_never_moves_while_the_foot_does_is_stuck_and_nothing_is_believed(self) -> None:
        foot = 20 + 8 * np.sin(np.arange(1200) * 0.002 * 6)
        found = believed(flat(throttle=foot, **{"lambda": 0.98}))
        self.assertTrue(found.sensor.stuck)
        self.assertFalse(found.mask.any())
        self.assertFalse(believed(flat(throttle=foot, **{"lambda": 0.98 + 0.01 * np.sin(np.arange(1200))})).sensor.stuck)

    def test_rows_at_the_end_of_what_the_sensor_says_are_left_out(self) -> None:
        noise = 1 + 0.005 * np.random.default_rng(1).normal(size=1200)
        lamda = np.where(np.arange(1200) % 40 < 10, 1.36, noise)
        found = believed(flat(**{"lambda": lamda}))
        self.assertEqual(found.sensor.lean_end, 1.36)
        self.assertEqual(int((~found.mask).sum()), 300)

    def test_no_mixture_is_told_as_such(self) -> None:
        log = flat()
        bare = Log(log.time, {k: v for k, v in log.columns.items() if k != "lambda"})
        self.assertIn("no mixture", believed(bare).sensor.words)
        answer = read(tern(), bare)
        self.assertIsNone(answer.split)
        self.assertIn("may be believed", answer.why_not)

    @given(st.lists(st.booleans(), max_size=60))
    def test_stretches_cover_what_is_so_and_nothing_else(self, so: list[bool]) -> None:
        mask = np.array(so, dtype=bool)
        found = np.zeros(len(so), dtype=bool)
        for a, b in stretches(mask):
            self.assertLess(a, b)
            found[a:b] = True
        self.assertTrue(np.array_equal(found, mask))


class Late(unittest.TestCase):
    def test_by_physics_it_is_longer_where_less_flows(self) -> None:
        slow, fast = (float(by_physics(tern().build, flat(2, speed=rpm, manifold=kpa))[0]) for rpm, kpa in ((800.0, 35.0), (5000.0, 95.0)))
        self.assertGreater(slow, fast)
        self.assertTrue(0.05 < fast < slow < 0.6)

    def test_a_target_that_never_moves_says_nothing_of_a_lag(self) -> None:
        told = read(tern(), flat(40, **{"lambda": 1 + 0.01 * np.random.default_rng(2).normal(size=800)})).lag
        self.assertIsNone(told.data_s)
        self.assertEqual(told.used_s, told.physics_s)


class Splitting(unittest.TestCase):
    """All that is asked of the drives, which are driven once for it. What is put in by the stand-in is what is found, and nothing is found where nothing was put in."""

    def named(self, name: str) -> set[str]:
        split = said(name).split
        assert split is not None
        return {c.key for c in split.causes if c.named} | ({"table"} if split.rest_is else set())

    def test_nothing_is_named_where_nothing_is_off(self) -> None:
        self.assertEqual(self.named("nothing"), set())
        split = said("nothing").split
        assert split is not None
        self.assertLess(split.error, 0.006)
        self.assertIn("Leave it", split.words)

    def test_each_error_alone_is_named_and_no_other(self) -> None:
        for name in ("scale", "dead_time", "reference", "air", "high_flow", "bank", "tip_in", "table"):
            with self.subTest(name):
                self.assertEqual(self.named(name), {name})

    def test_two_at_once_are_named_both(self) -> None:
        self.assertEqual(self.named("two"), {"scale", "air"})

    def test_the_rails_gauge_tells_whether_it_is_the_pressure(self) -> None:
        for name, words in (
            ("scale", "so it is not the pressure"),
            ("high_flow", "so it is the pressure"),
            ("reference", "so it is the pressure"),
            ("air", None),
        ):
            with self.subTest(name):
                told = cause(name, name).words
                if words is None:
                    self.assertNotIn("gauge", told)
                else:
                    self.assertIn(words, told)
        log = driven()["high_flow"]
        bare = read(tern(), Log(log.time, {k: v for k, v in log.columns.items() if k != "rail"})).split
        assert bare is not None
        self.assertNotIn("gauge", " ".join(c.words for c in bare.causes))

    def test_sizes_lie_within_the_told_doubt(self) -> None:
        for name, key, true in (
            ("scale", "scale", -math.log(0.93)), ("dead_time", "dead_time", 0.11), ("reference", "reference", 1.0), ("air", "air", 0.18), ("bank", "bank", 0.035), ("tip_in", "tip_in", 0.12), ("two", "scale", -math.log(1.06)), ("two", "air", -0.16),
        ):  # fmt: skip
            with self.subTest(name=name, key=key):
                found = cause(name, key)
                self.assertLessEqual(abs(found.size - true), 2 * found.doubt)
                self.assertLess(2 * found.doubt, abs(true), "a doubt that says nothing")

    def test_shares_are_shares(self) -> None:
        for name in TRUTHS:
            split = said(name).split
            assert split is not None
            whole = sum(c.share for c in split.causes) + split.rest_share + split.chance
            self.assertAlmostEqual(whole, 1.0, delta=0.02)
        self.assertGreater(cause("scale", "scale").share, 0.9)

    def test_the_deed_is_in_the_persons_figures(self) -> None:
        self.assertRegex(cause("scale", "scale").do, r"Fix the injector figure: 151\.5 to 14\d\.\d g/min")
        self.assertTrue(cause("scale", "scale").patched)
        self.assertFalse(cause("bank", "bank").patched)
        self.assertIn("bank 2", cause("bank", "bank").do)
        self.assertIn("solved margin", cause("high_flow", "high_flow").do)

    def test_a_log_of_another_car_is_told_as_such(self) -> None:
        log = driven()["nothing"]
        other = Log(log.time, {**log.columns, "pulse": np.asarray(log.columns["pulse"]) * 1.7})
        with self.assertRaisesRegex(NotReadable, "another car"):
            read(tern(), other)

    def test_a_log_without_speed_or_that_never_runs_is_refused_in_words(self) -> None:
        log = flat()
        with self.assertRaisesRegex(NotReadable, "no engine speed"):
            read(tern(), Log(log.time, {"lambda": log.columns["lambda"]}))
        with self.assertRaisesRegex(NotReadable, "does not run"):
            read(tern(), flat(speed=200.0))
        with self.assertRaisesRegex(NotReadable, "fewer than 20"):
            read(tern(), flat(0.5))

    def test_too_little_that_may_be_believed_is_told_with_what_took_it(self) -> None:
        answer = read(tern(), flat(60, coolant=30.0))
        self.assertIsNone(answer.split)
        self.assertIn("'Cold'", answer.why_not)
        self.assertIsNone(answer.correction)

    def test_the_data_find_a_lag_that_was_put_in(self) -> None:
        plain, late = said("nothing").lag, said("two").lag
        self.assertIsNotNone(plain.data_s)
        self.assertAlmostEqual((late.data_s or 0) - (plain.data_s or 0), 0.1, delta=0.06)

    def test_cells_that_were_driven_are_put_right_by_what_they_were_off(self) -> None:
        found = said("table").correction
        assert found is not None
        self.assertGreater(found.moved, 10)
        self.assertLess(found.after, 0.4 * found.before)
        for cell in found.cells:
            if cell.what == "corrected" and cell.off is not None:
                self.assertAlmostEqual(math.log(cell.new / cell.old), cell.off, delta=0.004)

    def test_nothing_off_corrects_next_to_nothing(self) -> None:
        found = said("nothing").correction
        assert found is not None
        self.assertLessEqual(found.moved, 3)

    def test_correcting_once_more_is_the_same_correction(self) -> None:
        first = said("table").correction
        again = correct_again(tern(), said("table"), signed=False, fill=True)
        assert first is not None
        self.assertEqual([c.new for c in first.cells], [c.new for c in again.cells])

    def put_right(self, name: str, key: str) -> Worked:
        found = cause(name, key)
        patch = deeds.cause_patch(tern(), found.key, found.size, said(name).tip_ins.proposed)
        return evaluated(apply_edit(document(), patch)[2]).worked

    def test_the_injector_figure_follows_and_so_does_what_was_typed_in(self) -> None:
        w = self.put_right("scale", "scale")
        self.assertAlmostEqual(w.injectors.flow_nominal_kg_s / tern().injectors.flow_nominal_kg_s, 0.93, delta=0.03)
        if w.build.tune.typed.injector_flow:
            self.assertIn("g/min", w.build.tune.typed.injector_flow)

    def test_dead_time_moves_at_every_voltage_and_in_the_kept_table(self) -> None:
        w = self.put_right("dead_time", "dead_time")
        size = cause("dead_time", "dead_time").size / 1e3
        for volts, time in w.injectors.dead_time.items():
            self.assertAlmostEqual(time - tern().injectors.dead_time[volts], size, delta=2e-5)
        kept = w.build.tune.kept
        assert kept is not None
        before = tern().build.tune.kept
        assert before is not None
        if "dead_time" in before.tables:
            moved = np.array(kept.tables["dead_time"].rows) - np.array(before.tables["dead_time"].rows)
            self.assertTrue(np.allclose(moved, size * 1e3, atol=0.002))

    def test_the_air_table_is_turned_about_twenty_degrees_and_in_ink(self) -> None:
        w = self.put_right("air", "air")
        table = next(t for t in w.in_use.kept if t.key == "air_temperature")
        old = next(t for t in tern().tune.tables if t.key == "air_temperature")
        at = {x: new / was for x, new, was in zip(table.x, table.rows[0], old.rows[0], strict=True)}
        self.assertAlmostEqual(at[20.0], 1.0, delta=0.001)
        self.assertGreater(at[60.0], 1.03)
        self.assertTrue(table.ink)

    def test_a_reading_is_put_behind_the_others_and_the_same_log_replaces_itself(self) -> None:
        drive = said("scale").drive
        assert drive is not None
        one = {**drive, "log": "a" * 36}
        doc, _, build = apply_edit(document(), deeds.drive_patch(document(), one))
        self.assertEqual(len(build.road.drives), 1)
        doc, _, build = apply_edit(doc, deeds.drive_patch(doc, {**one, "corrected": 4}))
        self.assertEqual([d.corrected for d in build.road.drives], [4])
        doc, _, build = apply_edit(doc, deeds.drive_patch(doc, {**one, "log": "b" * 36}))
        self.assertEqual(len(build.road.drives), 2)

    def test_the_drives_own_pull_is_found(self) -> None:
        found = said("nothing").pulls
        self.assertEqual(len(found), 1)
        self.assertIn("gear 3", found[0].words)

    def test_what_was_driven_is_not_asked_for_again(self) -> None:
        self.assertGreater(said("nothing").where.coverage, read(tern(), flat(60)).where.coverage)
        self.assertNotIn("at once", " ".join(leg.what for leg in said("nothing").to_drive if said("nothing").tip_ins.many >= 6))

    def test_a_trim_counts_as_fuel_whether_it_is_a_factor_or_per_cent(self) -> None:
        self.assertTrue(np.allclose(trim_factor(flat(2, trim=1.05)), 1.05))
        self.assertTrue(np.allclose(trim_factor(flat(2, trim=-4.0)), 0.96))
        self.assertTrue(np.allclose(trim_factor(flat(2)), 1.0))


class Correcting(unittest.TestCase):
    def visited(self, off: float, rows: slice, columns: slice, error: float = 0.003) -> cells.Visited:
        table = table_of(tern())
        seconds, mean, doubt = np.zeros(table.shape), np.full(table.shape, np.nan), np.full(table.shape, np.nan)
        seconds[rows, columns], mean[rows, columns], doubt[rows, columns] = 20.0, off, error
        return cells.Visited(seconds, seconds, mean, doubt)

    def test_a_step_is_a_tenth_at_most_and_marked(self) -> None:
        found = correction(tern(), table_of(tern()), self.visited(0.25, slice(3, 7), slice(5, 9)))
        inside = [c for c in found.cells if c.what == "limited"]
        self.assertEqual(len(inside), 16)
        for cell in inside:
            self.assertAlmostEqual(math.log(cell.new / cell.old), STEP, delta=0.002)

    def test_at_high_load_nothing_is_made_leaner_without_a_name(self) -> None:
        seen = self.visited(-0.05, slice(9, 11), slice(5, 9))
        held = correction(tern(), table_of(tern()), seen)
        self.assertEqual((held.moved, held.held), (0, 8))
        signed = correction(tern(), table_of(tern()), seen, signed=True)
        self.assertEqual((signed.moved, signed.held), (8, 0))
        richer = correction(tern(), table_of(tern()), self.visited(0.05, slice(9, 11), slice(5, 9)))
        self.assertEqual(richer.moved, 8)

    def test_just_below_high_load_it_may_be(self) -> None:
        table = table_of(tern())
        row = int(np.flatnonzero(table.grid.y < 0.85 * table.full)[-1])
        self.assertEqual(correction(tern(), table, self.visited(-0.05, slice(row, row + 1), slice(5, 9))).held, 0)
        self.assertEqual(correction(tern(), table, self.visited(-0.05, slice(row + 1, row + 2), slice(5, 9))).held, 4)

    def test_an_error_within_its_doubt_is_left(self) -> None:
        found = correction(tern(), table_of(tern()), self.visited(0.02, slice(5, 6), slice(5, 6), error=0.05), fill=False)
        self.assertEqual(found.moved, 0)
        self.assertEqual({c.what for c in found.cells}, {"kept", "not_visited"})

    def test_cells_that_nobody_visited_follow_and_are_marked_or_stay(self) -> None:
        seen = self.visited(0.08, slice(3, 9), slice(4, 12))
        filled, left = (correction(tern(), table_of(tern()), seen, fill=f) for f in (True, False))
        self.assertGreater(filled.filled, 0)
        self.assertEqual(left.filled, 0)
        ink = {tuple(c) for c in next(t for t in tern().in_use.kept if t.key == "ve").ink}
        for cell in filled.cells:
            if (cell.row, cell.column) in ink and cell.what not in ("corrected", "limited", "kept", "held"):
                self.assertEqual(cell.new, cell.old)

    def test_a_bend_is_weighed_against_the_doubt_of_its_cells(self) -> None:
        """Least squares by hand: of (0, 1, 0) each doubted by half of what a filling bends, the middle keeps 1 - 4 / (6 + 4)."""
        found, doubt = smoothed(np.tile([0.0, 0.05, 0.0], (3, 1)), np.full((3, 3), 0.006))
        self.assertTrue(np.allclose(found, np.tile([0.01, 0.03, 0.01], (3, 1)), atol=1e-4), found)
        self.assertTrue((doubt < 0.006).all(), "each is helped by those beside it")

    def test_smoothing_leaves_what_is_sure_and_bends_what_is_not(self) -> None:
        mean = np.zeros((5, 5))
        mean[2, 2] = 0.1
        sure, _ = smoothed(mean, np.full((5, 5), 1e-4))
        vague, doubt = smoothed(mean, np.where(mean > 0, 0.1, 0.002))
        self.assertAlmostEqual(float(sure[2, 2]), 0.1, delta=0.001)
        self.assertLess(abs(float(vague[2, 2])), 0.03)
        self.assertGreater(float(doubt[2, 2]), float(doubt[0, 0]))

    @settings(max_examples=40, deadline=None)
    @given(st.floats(400, 7000), st.floats(5, 130))
    def test_a_sample_is_shared_out_whole(self, rpm: float, load: float) -> None:
        found = cells.weights(table_of(tern()), np.array([rpm]), np.array([load]))
        self.assertAlmostEqual(float(found.share.sum()), 1.0)
        self.assertGreaterEqual(float(found.share.min()), 0.0)


class Deeds(unittest.TestCase):
    def test_a_figure_is_scaled_in_the_words_it_was_typed_in(self) -> None:
        for text, times, wanted in (
            ("150 g/min", 1.08, "162 g/min"),
            ("210 cc/min", 0.93, "195.3 cc/min"),
            ("24 lb/h", 1.1, "26.4 lb/h"),
            ("151,5 g/min", 1.0, "151.5 g/min"),
        ):
            self.assertEqual(deeds.scaled_text(text, times), wanted)

    def test_without_a_kept_tune_one_is_kept_with_the_change_in_it(self) -> None:
        w = evaluated(edited(changes={"/tune/kept": None})).worked
        patch = deeds.table_patch(w, "warm_up", lambda x, v: v + 0.05 if x < 0 else v)
        self.assertEqual([op["path"] for op in patch], ["/tune/kept", "/tune/kept/tables/warm_up/rows", "/tune/kept/tables/warm_up/ink"])
        doc = document()
        del doc["tune"]["kept"]
        self.assertIsNotNone(apply_edit(doc, patch)[2].tune.kept)

    def test_a_kept_tune_that_lacks_the_table_gets_it_whole(self) -> None:
        doc = document()
        del doc["tune"]["kept"]["tables"]["ve"]
        w = evaluated(parse(doc)).worked
        found = correction(w, table_of(w), Correcting.visited(Correcting(), 0.05, slice(3, 7), slice(5, 9)), fill=False)
        after = apply_edit(doc, deeds.cells_patch(w, found))[2].tune.kept
        assert after is not None
        self.assertEqual(len(after.tables["ve"].ink), found.moved)

    def test_a_bank_or_a_pump_is_mended_with_a_spanner(self) -> None:
        for key in ("bank", "high_flow"):
            self.assertEqual(deeds.cause_patch(tern(), key, 0.05, None), [])


class DrivenAgain(unittest.TestCase):
    def test_errors_are_of_the_car_and_what_was_put_right_is_off_no_more(self) -> None:
        hidden = Truth(flow=1.08, dead_s=0.1e-3)
        w = evaluated(apply_edit(document(), [put("/injectors/flow", "162 g/min")])[2]).worked
        now, table = absolute(w, tern(), hidden)
        self.assertAlmostEqual(now.flow, 1.0, delta=0.001)
        self.assertAlmostEqual(now.dead_s, 0.1e-3, delta=1e-6)
        self.assertEqual(table.rows, next(t for t in tern().in_use.kept if t.key == "ve").rows)

    def test_a_cold_drive_starts_warms_up_and_has_all_its_parts(self) -> None:
        legs = [Leg("off", 2), Leg("start", 6), Leg("idle", 40), Leg("warm", 20, 0.25, 0.5, 3), Leg("lift", 3, 0.3, 0.0, 3), Leg("idle", 8)]
        log = as_log(Drive(tern(), [Truth()], legs, seed=2).run()[0])
        self.assertEqual(log.columns["speed"][0], 0)
        self.assertGreater(log.columns["speed"].max(), 1200)
        self.assertGreater(log.columns["coolant"][-1], log.columns["coolant"][0] + 5)
        self.assertTrue((log.columns["lambda"][:100] == 1.36).all(), "a cold sensor")
        found = read(tern(), log)
        self.assertEqual(len(found.cold.starts), 1)
        self.assertIn("°C", found.cold.starts[0].label)


class Pulls(unittest.TestCase):
    def pulled(self, watts: float, seconds: float = 9.0) -> Log:
        """A pull with so much power at the wheels' side of the engine, worked step by step."""
        car, gear = car_of(tern()), 3
        rev, t, every = 2000 / 60, 0.0, 0.05
        rows = []
        while t < seconds and rev < 90:
            force_nm, inertia = car.road(np.array([rev]), gear)
            torque = watts * 0.88 / (2 * math.pi * rev)
            rows.append((t, rev * 60, float(car.speed(np.array([rev]), gear)[0]) * 3.6))
            rev += (torque - float(force_nm[0])) / inertia / (2 * math.pi) * every
            t += every
        table = np.array(rows).T
        lead = np.arange(40) * every
        time = np.concatenate([lead, table[0] + 2.0])
        flat2 = np.full(40, 2000.0)
        return Log(
            time,
            {
                "speed": np.concatenate([flat2, table[1]]),
                "road_speed": np.concatenate([np.full(40, table[2][0]), table[2]]),
                "throttle": np.concatenate([np.full(40, 20.0), np.full(len(rows), 100.0)]),
                "air": np.full(len(time), 25.0),
            },
        )

    def test_power_that_was_put_in_comes_out(self) -> None:
        w = tern()
        for watts in (60e3, 110e3):
            found = pulls(w, self.pulled(watts), 99.0 + 1.2)
            self.assertEqual(len(found), 1)
            middle = [p.power_w for p in found[0].points[4:-4]]
            self.assertAlmostEqual(float(np.median(middle)) / watts, 1.0, delta=0.04)
            self.assertEqual(found[0].gear, 3)
            self.assertAlmostEqual(found[0].factor, 1.0, delta=0.002)
            self.assertLess(found[0].doubt, 0.12)
            self.assertTrue(found[0].told)

    def test_a_gear_that_nobody_knows_is_no_told_car(self) -> None:
        log = self.pulled(110e3)
        found = pulls(tern(), Log(log.time, {k: v for k, v in log.columns.items() if k != "road_speed"}), 100.2)
        self.assertEqual([(p.gear, p.told) for p in found], [(None, False)])

    def test_of_very_many_those_over_the_widest_span_are_kept_in_their_order(self) -> None:
        one = self.pulled(110e3)
        many = 6
        log = Log(
            np.concatenate([one.time + k * (one.time[-1] + 5.0) for k in range(many)]),
            {key: np.concatenate([c if k % 2 or key != "throttle" else np.where(np.arange(one.rows) > one.rows - 40, 20.0, c) for k in range(many)]) for key, c in one.columns.items()},
        )  # fmt: skip
        whole = pulls(tern(), log, 100.2)
        self.assertEqual(len(whole), many)
        with mock.patch("uphill_spark.core.road.pull.PULLS_MOST", 3):
            kept = pulls(tern(), log, 100.2)
        self.assertEqual([p.from_s for p in kept], [p.from_s for p in whole[1::2]])

    def test_standard_air_is_as_iso_1585_has_it(self) -> None:
        log = flat(5, air=25.0)
        self.assertAlmostEqual(standard(tern(), log, 0, 100, 100.2)[0], 1.0, delta=0.001)
        hot, holds = standard(tern(), flat(5, air=45.0), 0, 100, 100.2)
        self.assertAlmostEqual(hot, (318.15 / 298) ** 0.6, delta=0.001)
        self.assertTrue(holds)
        high, holds = standard(tern(), log, 0, 100, 80.0)
        self.assertAlmostEqual(high, (99 / 78.8) ** 1.2, delta=0.001)
        self.assertFalse(holds)

    def test_wheels_that_spin_or_a_foot_that_is_not_flat_make_no_pull(self) -> None:
        log = self.pulled(110e3)
        spins = np.asarray(log.columns["road_speed"]) * np.linspace(1.0, 0.5, log.rows)
        self.assertEqual(pulls(tern(), Log(log.time, {**log.columns, "road_speed": spins}), 100.0), [])
        half = np.minimum(np.asarray(log.columns["throttle"]), 70.0)
        self.assertEqual(pulls(tern(), Log(log.time, {**log.columns, "throttle": half}), 100.0), [])


class TheDay(unittest.TestCase):
    def snags(self, **columns: Any) -> dict[str, str]:
        return {s.key: s.bad for s in read(tern(), flat(90, **columns)).snags}

    def test_a_quiet_day_has_none(self) -> None:
        self.assertEqual(self.snags(), {})

    def test_what_nobody_could_have_seen_is_not_told_as_looked_for(self) -> None:
        for columns, seen in (
            ({}, ["heat", "volts"]),
            ({"coolant": np.nan, "volts": np.nan}, []),
            ({"speed": 1200.0}, ["heat"]),
            ({"speed": 1400.0}, ["heat", "volts"]),
            ({"manifold": 95.0, "target": 0.88, "lambda": 0.88}, ["heat", "volts", "lean"]),
            ({"knock": 0.0, "rail": 258.6}, ["knock", "heat", "volts", "rail"]),
            ({"oil": 300.0}, ["heat", "volts"]),
            ({"oil": 300.0, "speed": 2100.0}, ["heat", "volts", "oil"]),
            ({"knock": np.where(np.arange(1800) < 18, 0.0, np.nan)}, ["heat", "volts"]),
            ({"knock": np.where(np.arange(1800) < 22, 0.0, np.nan)}, ["knock", "heat", "volts"]),
        ):
            with self.subTest(columns=list(columns)):
                self.assertEqual(read(tern(), flat(90, **columns)).looked, seen)
        words = read(tern(), flat(90)).day_words
        self.assertIn("not there: heat, low volts.", words)
        self.assertIn("Not to be seen in this log: knock, a lean full load, a rail that sags, low oil pressure.", words)
        self.assertNotIn("not there", read(tern(), flat(90, coolant=113.0)).day_words)

    def test_each_is_told_on_both_sides_of_its_limit(self) -> None:
        n = 1800
        t = np.arange(n)
        after = (t > 900).astype(float)
        for key, worse, bad, fine in (
            ("heat", {"coolant": 104.5}, "sort_out", {"coolant": 102.5}), ("heat", {"coolant": 113.0}, "stop", {"coolant": 102.5}), ("charging", {"volts": 12.9}, "watch", {"volts": 13.1}), ("charging", {"volts": 12.3}, "sort_out", {"volts": 13.1}),
            ("over_volts", {"volts": 15.0}, "watch", {"volts": 14.8}), ("knock", {"knock": np.minimum(t / 200, 8).round()}, "sort_out", {"knock": 3.0}), ("knock", {"knock": np.minimum(t / 40, 40).round()}, "stop", {"knock": 3.0}),
            ("oil", {"oil": 70.0, "speed": 2600.0}, "stop", {"oil": 90.0, "speed": 2600.0}), ("fault", {"fault": after}, "watch", {"fault": 0.0}),
            ("lean", {"manifold": 95.0, "target": 0.88, "lambda": 0.88 * 1.08}, "sort_out", {"manifold": 95.0, "target": 0.88, "lambda": 0.88 * 1.04}), ("lean", {"manifold": 95.0, "target": 0.88, "lambda": 0.88 * 1.2}, "stop", {"manifold": 50.0, "target": 0.88, "lambda": 0.88 * 1.2}),
            ("rail", {"rail": 300 + 55 - 96.4 - 25}, "watch", {"rail": 300 + 55 - 96.4 - 10}), ("rail", {"rail": 300 + 55 - 96.4 - 40}, "sort_out", {"rail": 300 + 55 - 96.4 - 10}),
        ):  # fmt: skip
            with self.subTest(key=key, bad=bad):
                self.assertEqual(self.snags(**worse).get(key), bad)
                self.assertNotIn(key, self.snags(**fine))

    def test_the_pressure_outside_is_read_off_the_log(self) -> None:
        self.assertEqual(weather(tern(), flat(10, outside=96.1)).outside_kpa, 96.1)
        before = np.where(np.arange(1200) < 100, 0.0, 2000.0)
        manifold = np.where(np.arange(1200) < 100, 94.0, 50.0)
        self.assertEqual(weather(tern(), flat(60, speed=before, manifold=manifold)).outside_kpa, 94.0)
        self.assertIsNone(weather(tern(), flat(10)).outside_kpa)
        self.assertAlmostEqual(weather(tern(), flat(10, outside=89.87)).height_m or 0, 1000, delta=15)


class ToDrive(unittest.TestCase):
    def test_what_is_missing_is_told_in_words_with_the_caution_at_its_place(self) -> None:
        bare = read(tern(), flat(60))
        words = " ".join(leg.what for leg in bare.to_drive)
        for word in ("Idle", "gear", "foot down to half at once", "foot flat", "stand still five minutes", "cold start"):
            self.assertIn(word, words)
        self.assertEqual([leg.caution for leg in bare.to_drive if "foot flat" in leg.what], [FULL])
        self.assertNotRegex(words, r"\d\.\d rpm")
        for leg in bare.to_drive:
            self.assertLessEqual(max(leg.km_h, default=0), 130)

    def test_cells_of_a_road_are_idle_cruise_and_full_load_and_not_the_corners(self) -> None:
        table = table_of(tern())
        so = reachable(tern(), table)
        self.assertFalse(so[0].any(), "a closed throttle")
        self.assertFalse(so[-2, 0], "full load at standstill")
        self.assertTrue(so[5, 8])


class Columns(unittest.TestCase):
    def taken(self, *columns: tuple[str, str, Any], car: str = "tern") -> dict[str, tuple[str, float, float, str]]:
        n = 400
        rows = [Column(name, unit, np.broadcast_to(np.asarray(values, dtype=np.float64), n).copy()) for name, unit, values in columns]
        return {t.quantity: (t.column, t.factor, t.offset, t.asks) for t in guess(parse(document(car)), rows, 98.0)}

    def test_units_and_numbers_tell_what_a_column_is(self) -> None:
        wave = np.linspace(0, 1, 400)
        found = self.taken(
            ("RPM", "", 800 + 3000 * wave), ("MAP", "psi", -9 + 9 * wave), ("Coolant", "°F", 60 + 130 * wave), ("AFR", "", 12 + 3 * wave), ("AFR target", "", 12.5 + 2 * wave), ("Vehicle speed", "mph", 60 * wave), ("PW", "", 2000 + 8000 * wave), ("Battery", "mV", 13800.0),
            ("TPS", "", wave),
        )  # fmt: skip
        self.assertEqual(found["speed"][0], "RPM")
        self.assertAlmostEqual(found["manifold"][1], 6.894757)
        self.assertAlmostEqual(found["manifold"][2], 98.0)
        self.assertAlmostEqual(found["coolant"][1], 5 / 9)
        self.assertAlmostEqual(1 / found["lambda"][1], 14.1, delta=0.7)
        self.assertEqual(found["target"][0], "AFR target")
        self.assertAlmostEqual(found["road_speed"][1], 1.609344)
        self.assertAlmostEqual(found["pulse"][1], 1e-3)
        self.assertAlmostEqual(found["volts"][1], 1e-3)
        self.assertEqual(found["throttle"][1], 100.0)

    def test_a_bare_number_that_only_fahrenheit_can_be_is_that(self) -> None:
        _, factor, offset, _ = self.taken(("Coolant", "", np.linspace(170, 212, 400)))["coolant"]
        self.assertAlmostEqual(212 * factor + offset, 100.0)
        self.assertAlmostEqual(32 * factor + offset, 0.0)

    def test_an_absolute_pressure_stays_and_bar_becomes_kilopascal(self) -> None:
        wave = np.linspace(0, 1, 400)
        self.assertEqual(self.taken(("MAP", "kPa", 30 + 70 * wave))["manifold"][1:3], (1.0, 0.0))
        self.assertEqual(self.taken(("MAP", "", 0.3 + 0.7 * wave))["manifold"][1:3], (100.0, 0.0))

    def test_lambda_as_volts_is_read_by_the_sensors_own_line_else_asked_for(self) -> None:
        wave = np.linspace(0.4, 4.6, 400)
        column, factor, offset, asks = self.taken(("O2 lambda", "V", wave))["lambda"]
        self.assertEqual((column, asks), ("O2 lambda", ""))
        self.assertAlmostEqual(2.5 * factor + offset, 1.02)
        self.assertIn("0 V and at 5 V", self.taken(("O2 lambda", "V", wave), car="hollin")["lambda"][3])
        self.assertIn("rich and lean", self.taken(("O2 lambda", "V", np.where(wave > 2, 0.9, 0.1)))["lambda"][3])
        for low, high, narrow in ((-0.099, 0.9, True), (-0.101, 0.9, False), (0.1, 1.149, True), (0.1, 1.151, False)):
            with self.subTest(low=low, high=high):
                asks = self.taken(("O2 lambda", "V", np.where(wave > 2, high, low)))["lambda"][3]
                self.assertEqual("rich and lean" in asks, narrow)

    def test_what_is_asked_for_is_kept_out_until_it_is_told(self) -> None:
        rows = [Column("n", "", np.full(10, 2000.0)), Column("O2 lambda", "V", np.linspace(0.4, 4.6, 10))]
        log = log_of(np.arange(10.0), rows, guess(parse(document("hollin")), rows))
        self.assertNotIn("lambda", log)

    def test_a_pressure_well_under_nothing_is_against_the_air_outside(self) -> None:
        for least, added in ((-5.1, 98.0), (-4.9, 0.0)):
            with self.subTest(least=least):
                self.assertEqual(self.taken(("MAP", "kPa", np.maximum(np.linspace(-40, 60, 400), least)))["manifold"][2], added)

    def test_numbers_that_no_quantity_can_have_are_not_taken_for_it(self) -> None:
        self.assertNotIn("coolant", self.taken(("Coolant", "°C", 4000.0)))
        self.assertNotIn("lambda", self.taken(("Lambda", "", 55.0)))

    def test_an_engines_speed_is_known_by_its_numbers_if_by_nothing_else(self) -> None:
        wave = 900 + 2500 * (np.sin(np.arange(400) * 0.02) + 1)
        self.assertEqual(self.taken(("channel 7", "", wave), ("channel 8", "", 3.0))["speed"][0], "channel 7")
        self.assertNotIn("speed", self.taken(("channel 7", "", wave), ("channel 8", "", wave + 5)))

    def test_what_was_taken_before_is_taken_again(self) -> None:
        from uphill_spark.core.live import SignalTaken

        rows = [Column("x1", "", np.full(10, 33.0))]
        found = guess(parse(document()), rows, 98.0, [SignalTaken(signal="x1", quantity="speed", factor=60.0)])
        self.assertEqual([(t.quantity, t.factor, t.remembered) for t in found], [("speed", 60.0, True)])


if __name__ == "__main__":
    unittest.main()
