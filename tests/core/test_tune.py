"""The tables besides the grids, what a cell does in the car, the warm-up walk, and tables made of the worked engine."""

from __future__ import annotations

import unittest

import numpy as np

from tests.builds import document, edited, worked
from uphill_spark.core.asked import Trial, cycle
from uphill_spark.core.given import parse
from uphill_spark.core.keeping import proposed
from uphill_spark.core.physics.air import R_AIR
from uphill_spark.core.plan import evaluated
from uphill_spark.core.stages.engine.measures import measures
from uphill_spark.core.stages.tune.axes import Axes, axes_of, load_axis
from uphill_spark.core.stages.tune.in_use import read, tables_in_use
from uphill_spark.core.stages.tune.landmarks import told
from uphill_spark.core.stages.tune.walk import walk
from uphill_spark.core.stages.tune.worked import rests_on
from uphill_spark.core.worked import Worked, work_out


def table(w: Worked, key: str) -> dict[float, float]:
    found = next(t for t in w.tune.tables if t.key == key)
    return dict(zip(found.x, found.rows[0], strict=True))


class Curves(unittest.TestCase):
    def test_what_is_cold_gets_more_and_what_is_hot_gets_what_it_is(self) -> None:
        w = worked("tern")
        for key in (
            "prime",
            "cranking",
            "after_start",
            "after_start_time",
            "warm_up",
            "tip_in_share",
            "tip_in_time",
            "idle_speed",
            "idle_air",
        ):
            values = list(table(w, key).values())
            self.assertEqual(values, sorted(values, reverse=True), key)
        self.assertEqual(table(w, "warm_up")[75.0], 1.0)
        self.assertEqual(table(w, "after_start")[-20.0], 35.0)
        self.assertEqual(table(w, "after_start")[80.0], 10.0)
        self.assertEqual(table(w, "idle_speed"), {-20.0: 1230.0, 0.0: 1080.0, 20.0: 980.0, 50.0: 860.0, 80.0: 780.0})
        self.assertEqual(table(w, "cranking")[20.0], 1.2)
        self.assertEqual(table(w, "prime")[20.0], 0.96)

    def test_a_wet_manifold_and_alcohol_ask_for_more(self) -> None:
        wet = {"/engine/layout": "throttle_body", "/injectors/enters": "above_plates", "/tune/kept": None}
        self.assertEqual(table(worked("tern", wet), "warm_up")[-20.0], 1.78)
        self.assertGreater(table(worked("tern", wet), "tip_in_share")[20.0], table(worked("tern"), "tip_in_share")[20.0])
        self.assertEqual(table(worked("tern", {"/engine/fuel": "E85"}), "cranking")[-20.0], 5.72)

    def test_air_counts_by_its_density_and_half_where_the_sensor_soaks(self) -> None:
        air = table(worked("tern"), "air_temperature")
        self.assertEqual(air[20.0], 1.0)
        self.assertAlmostEqual(air[-20.0], 293.15 / 253.15, places=3)
        self.assertAlmostEqual(air[80.0], 293.15 / (273.15 + 65.0), places=3)

    def test_a_throttle_knows_nothing_of_the_height_a_gauge_all_but_the_exhaust(self) -> None:
        self.assertAlmostEqual(table(worked("hollin"), "altitude")[80.0], 80.0 / 101.325, places=3)
        gauge = table(worked("tern"), "altitude")
        self.assertEqual(round(gauge[101.3], 2), 1.0)
        self.assertTrue(1.01 < gauge[80.0] < 1.03)

    def test_fan_and_limits_stand_in_order(self) -> None:
        fan = list(table(worked("tern"), "fan").items())
        self.assertEqual(fan, sorted(fan))
        c = {row.key: row.value for row in worked("tern").tune.constants}
        self.assertLess(c["soft_limit"], c["rev_limit"])
        self.assertLess(c["over_run_back"], c["over_run_cut"])
        self.assertEqual(c["rev_limit"], 5700)
        self.assertNotIn("boost_cut", c)
        blown = {row.key: row.value for row in worked("tern", {"/engine/boost": "60 kPa"}).tune.constants}
        self.assertAlmostEqual(blown["boost_cut"], (worked("tern").engine.ambient_pressure_pa + 75e3) / 1e3, delta=0.5)

    def test_where_a_distributor_keeps_the_advance_its_table_is_hidden_and_says_why(self) -> None:
        kept = {"/ignition/timed_by_unit": False, "/ignition/kind": "electronic_distributor", "/ignition/advance": "working"}
        hidden = {t.key for t in worked("tern", kept).tune.tables if t.hidden}
        self.assertEqual(hidden, {"advance", "idle_trim"})
        self.assertEqual({t.key for t in worked("tern").tune.tables if t.hidden}, set())

    def test_day_one_stays_two_degrees_more_on_the_safe_side_than_later(self) -> None:
        def full(step: str) -> float:
            w = worked("tern", {"/tune/step": step, "/tune/kept": None})
            return w.in_use.spark_full_deg

        self.assertAlmostEqual(full("later") - full("day_one"), 2.0, delta=0.05)


class Loads(unittest.TestCase):
    def test_loads_end_where_the_sensor_does_if_it_reads_all_that_the_engine_has(self) -> None:
        self.assertEqual(load_axis(96e3), load_axis(96e3, 121e3))
        self.assertEqual(load_axis(96e3)[-1], 105.0)
        self.assertEqual(load_axis(96e3, 101.4e3)[-1], 101.0)
        self.assertEqual(load_axis(96e3, 96e3)[-1], 96.0)
        self.assertEqual(load_axis(96e3, 95.9e3)[-1], 105.0, "a sensor that is too small is a finding, no axis")
        self.assertEqual(load_axis(160e3)[-1], 168.0)
        self.assertEqual(load_axis(160e3, 165e3)[-1], 165.0)
        for axis in (load_axis(96e3, 96e3), load_axis(160e3, 165e3)):
            self.assertEqual(axis, sorted(set(axis)))
        points = [{"volts": "0.5 V", "value": "20 kPa"}, {"volts": "4.5 V", "value": "98 kPa"}]
        w = worked("tern", {"/tune/kept": None, "/sensors/pressure/points": points})
        assert w.sensors.pressure is not None
        self.assertEqual(w.tune.tables[0].y[-1], float(int(w.sensors.pressure.line.high / 1e3)))


class InTheCar(unittest.TestCase):
    def test_a_cell_is_told_as_it_is_worked_by_hand(self) -> None:
        w = worked("tern")
        ve = next(t for t in tables_in_use(w.tune.tables, w.in_use) if t.key == "ve")
        row, column = 9, 12
        found = told(w.build, w.engine, w.injectors, w.tune.landmarks, ve, (row, column), 0.9, 28.0)
        each = ve.rows[row][column] / 100 * ve.y[row] * 1e3 * 2597e-6 / 6 / (R_AIR * w.engine.charge_k)
        self.assertAlmostEqual(found.air_mg, each * 1e6, delta=0.06)
        self.assertAlmostEqual(found.fuel_mg, each * 1e6 / (0.9 * 14.1), delta=0.006)
        flow = each / (0.9 * 14.1) * 6 * ve.x[column] / 120 / w.injectors.together_kg_s
        period = w.injectors.period_full_s * 5200 / ve.x[column]
        self.assertAlmostEqual(found.duty, flow + w.injectors.dead_time_full_s / period, places=3)
        self.assertAlmostEqual(found.open_ms + found.left_ms, period * 1e3, delta=0.01)

    def test_cells_at_the_landmarks_are_called_by_them(self) -> None:
        for car in ("tern", "hollin"):
            w = worked(car)
            ve = next(t for t in tables_in_use(w.tune.tables, w.in_use) if t.key == "ve")
            for mark in w.tune.landmarks:
                at = (int(np.argmin(np.abs(np.array(ve.y) - mark.load))), int(np.argmin(np.abs(np.array(ve.x) - mark.rpm))))
                self.assertEqual(told(w.build, w.engine, w.injectors, w.tune.landmarks, ve, at, 0.95, None).place, mark.word, (car, mark))

    def test_the_walk_reads_the_tables_in_use(self) -> None:
        w = worked("tern")
        steps = walk(w.build, w.tune, w.injectors, tables_in_use(w.tune.tables, w.in_use), w.engine.idle_manifold_pressure_pa / 1e3)
        self.assertEqual((steps[0].coolant, steps[-1].coolant), (-20.0, 100.0))
        cold = next(s for s in steps if s.coolant == 20.0)
        dead = w.injectors.dead_time_full_s * 1e3
        self.assertAlmostEqual(cold.crank_ms, 1.2 * w.tune.full_cylinder_pulse_s * 1e3 + dead, delta=0.06)
        self.assertAlmostEqual(cold.idle_ms, w.injectors.pulse_idle_s * 1e3 * 1.2 + dead, delta=0.006)
        self.assertEqual([s.idle_rpm for s in steps], sorted((s.idle_rpm for s in steps), reverse=True))
        self.assertEqual(steps[-1].fan, 100.0)
        kept = {"/ignition/timed_by_unit": False, "/ignition/kind": "electronic_distributor", "/ignition/advance": "working"}
        other = worked("tern", kept)
        self.assertIsNone(
            walk(other.build, other.tune, other.injectors, tables_in_use(other.tune.tables, other.in_use), 41.0)[0].idle_advance
        )


class OfTheWorkedEngine(unittest.TestCase):
    depth: cycle.CycleDepth
    trial: Trial

    @classmethod
    def setUpClass(cls) -> None:
        doc = document("tern")
        del doc["tune"]["kept"]
        doc["engine"] |= {"exhaust_valve": "35 mm", "tract": "340 mm", "exhaust": "tubular"}  # nothing to guess: one run
        cls.trial = Trial(doc, evaluated(parse(doc)))
        cls.words: list[float] = []
        cls.depth = cycle.look_deeper(cls.trial, cls.words.append)

    def test_how_far_it_is_only_grows_and_ends(self) -> None:
        self.assertEqual(self.words, sorted(self.words))
        self.assertTrue(0 < self.words[0] < self.words[-1] <= 1.0)

    def test_no_cell_goes_past_the_best_spark_less_two_or_the_knock_less_three(self) -> None:
        g = self.depth.grid
        for i, row in enumerate(g.advance_deg):
            for j, advance in enumerate(row):
                knock = g.knock_deg[i][j]
                if g.ruled[i][j] == "h" or advance == 5.0:
                    continue
                limit = min(g.best_deg[i][j] - 2, (knock if knock is not None else 99.0) - 3)
                self.assertLessEqual(advance, limit - (4.0 if g.ruled[i][j] in "bk" else 0.0) + 0.11, (i, j, g.ruled[i][j]))
        self.assertEqual({letter for row in g.ruled for letter in row} - set("bkih"), set())

    def test_idle_keeps_its_advance_back(self) -> None:
        g = self.depth.grid
        column = min(range(len(g.rpm)), key=lambda j: abs(g.rpm[j] - 780))
        self.assertEqual(g.ruled[3][column], "i")
        self.assertEqual(g.advance_deg[3][column], 13.0)

    def test_the_tune_made_of_it_says_what_it_came_of_and_stands_until_the_engine_changes(self) -> None:
        found = proposed(self.trial.worked, "worked", self.depth).value
        doc = {**self.trial.document, "tune": {**self.trial.document["tune"], "kept": found}}
        w = work_out(parse(doc))
        self.assertEqual((w.in_use.made, w.in_use.stale), ("worked", False))
        self.assertAlmostEqual((w.in_use.power_w or 0) / self.depth.power_w, 1.0, delta=1e-3)
        self.assertAlmostEqual((w.in_use.torque_nm or 0) / self.depth.torque_nm, 1.0, delta=1e-3)
        self.assertTrue(0.05 < (w.in_use.residual_idle or 0) < 0.5)
        self.assertEqual(w.in_use.doubt_worst, max(map(max, self.depth.grid.doubt)))
        for place, value, stale in (
            ("/notes", "x", False),
            ("/engine/compression_ratio", "8.2:1", True),
            ("/engine/octane", 99, True),
            ("/tune/cruise_lambda", 1.02, True),
        ):
            other = {**doc, "engine": dict(doc["engine"]), "tune": dict(doc["tune"])}
            section, _, name = place[1:].partition("/")
            if name:
                other[section] = {**other[section], name: value}
            else:
                other[section] = value
            self.assertEqual(work_out(parse(other)).in_use.stale, stale, place)

    def test_what_it_rests_on_is_the_same_on_another_day(self) -> None:
        w = self.trial.worked
        self.assertEqual(self.depth.rests_on, rests_on(w.build, w.engine, w.air))
        self.assertEqual(len(self.depth.rests_on), 16)

    def test_every_cell_has_its_trace_and_it_peaks_after_top(self) -> None:
        t, g = self.depth.traces, self.depth.grid
        self.assertEqual((len(t.kpa), len(t.kpa[0]), len(t.kpa[0][0])), (len(g.load), len(g.rpm), len(t.degrees)))
        row = t.kpa[-1][10]
        self.assertTrue(0 < t.degrees[row.index(max(row))] < 40)
        self.assertGreater(max(row), 2500)

    def test_figures_come_from_the_kept_tune(self) -> None:
        p = evaluated(edited("tern")).plan
        use = p.stages.in_use
        self.assertEqual(p.figures["tune.power.worked"].value, round((use.power_w or 0) / 1e3, 9))
        quick = evaluated(edited("tern", {"/tune/kept": None})).plan
        self.assertIsNone(quick.figures["tune.power.worked"].value)
        self.assertNotEqual(quick.figures["tune.ve.full.peak"].value, p.figures["tune.ve.full.peak"].value)
        full = next(t for t in use.kept if t.key == "ve")
        self.assertAlmostEqual(use.ve_idle, read(full, 780, p.stages.engine.idle_manifold_pressure_pa / 1e3) / 100, places=6)


class BehindPlates(unittest.TestCase):
    def test_fuel_by_throttle_rises_with_the_opening_and_ends_at_what_the_plenum_gives(self) -> None:
        doc = document("hollin")
        build = parse(doc)
        w = work_out(build)
        axes = axes_of(build, w.engine)
        few = Axes(axes.rpm[4::5], axes.load[3::4], axes.by, axes.manifold_pa[3::4, 4::5])
        found = measures(build)
        shape = few.manifold_pa.shape
        behind = cycle._behind_plates(w, found, few)
        fuel = (behind.filling * behind.behind_pa).reshape(shape)
        for j in range(shape[1]):
            self.assertTrue(np.all(np.diff(fuel[:, j]) > -0.01 * fuel[-1, j]), fuel[:, j])
        self.assertTrue(np.all(behind.behind_pa <= w.engine.ambient_pressure_pa * 1.02))
        top = cycle._top(w)
        plenum = cycle._at(w, found, (few.rpm, top))[0]
        open_ = fuel[-1] / (top[0] * 1e3)
        self.assertTrue(np.all(np.abs(open_ / plenum.filling - 1) < 0.12), open_ / plenum.filling)
        self.assertLess(float(np.max(behind.mass_open[behind.runs])), 0.01)


if __name__ == "__main__":
    unittest.main()
