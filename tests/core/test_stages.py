"""Each stage's arithmetic: limits, properties, and what follows from what."""

import itertools
import math
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import plan, pump_wire, worked
from uphill_spark.core.physics.electric import dwell_time
from uphill_spark.core.stages.engine import companions
from uphill_spark.core.stages.ignition import SPARK_TIME, charge
from uphill_spark.core.stages.injectors.box import dead_time


class Engine(unittest.TestCase):
    def test_companions(self) -> None:
        self.assertEqual(companions([1, 5, 3, 6, 2, 4]), [[1, 6], [5, 2], [3, 4]])
        self.assertEqual(companions([1, 2, 4, 5, 3]), [[1], [2], [4], [5], [3]])

    def test_alcohol_takes_more_fuel_by_its_stoichiometric_ratio(self) -> None:
        petrol = worked("tern", {"/engine/bsfc": None, "/engine/fuel": "E0"}).engine.fuel_mass_flow_kg_s
        alcohol = worked("tern", {"/engine/bsfc": None, "/engine/fuel": "E85"}).engine.fuel_mass_flow_kg_s
        self.assertAlmostEqual(alcohol / petrol, 14.7 / 9.8, places=6)

    def test_stroke_follows_from_bore_when_it_is_missing(self) -> None:
        given_stroke = worked("tern").engine.piston_speed_m_s or 0
        from_bore = worked("tern", {"/engine/stroke": None}).engine.piston_speed_m_s or 0
        self.assertAlmostEqual(given_stroke, from_bore, delta=0.01)


class Fuel(unittest.TestCase):
    def test_a_referenced_rail_falls_with_the_manifold_at_idle(self) -> None:
        w = worked("tern")
        fall = w.engine.ambient_pressure_pa - w.engine.idle_manifold_pressure_pa
        self.assertAlmostEqual(w.fuel.points["prime"].rail_pressure_pa - w.fuel.points["idle"].rail_pressure_pa, fall, delta=1)
        self.assertAlmostEqual(
            worked("tern", {"/fuel/regulator/reference": "open_air"}).fuel.points["idle"].rail_pressure_pa, 300e3, delta=1
        )

    def test_a_small_return_makes_the_rail_creep(self) -> None:
        self.assertEqual(worked("tern").fuel.idle_rail_creep_pa, 0.0)
        self.assertGreater(worked("tern", {"/fuel/parts/return_line/bore": "3 mm"}).fuel.idle_rail_creep_pa, 20e3)

    def test_pressures_add_up_from_rail_to_pump(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            for p in worked(car).fuel.points.values():
                total = p.rail_pressure_pa + p.filter_drop_pa + p.line_loss_pa + p.head_pa
                self.assertAlmostEqual(p.pump_pressure_pa, total, delta=1e-3)
                alone = p.supply_volts - p.current_a * worked(car).fuel.wire_ohms
                if car == "brindle":  # its pump is grounded on the body, by straps that the starter and others load too
                    self.assertLess(p.volts, alone + 1e-6)
                else:
                    self.assertAlmostEqual(p.volts, alone, places=6)

    @settings(max_examples=examples(25), deadline=None)
    @given(st.floats(3.5, 15), st.floats(0.5, 10), st.floats(0, 12))
    def test_wider_thicker_shorter_never_lowers_the_margin(self, bore: float, mm2: float, metres: float) -> None:
        def margin(b: float, s: float, length: float) -> float:
            return worked(
                "tern",
                {"/fuel/parts/supply/bore": f"{b:.3f} mm", **pump_wire(f"{s:.3f} mm2", length)},
            ).fuel.margin_full

        here = margin(bore, mm2, metres)
        self.assertLessEqual(here, margin(bore * 1.1, mm2, metres) + 1e-9)
        self.assertLessEqual(here, margin(bore, mm2 * 1.1, metres) + 1e-9)
        self.assertGreaterEqual(here, margin(bore, mm2, metres + 1) - 1e-9)

    def test_the_curves_cross_at_the_operating_point(self) -> None:
        f = worked("tern").fuel
        crossing = [(a, b) for a, b in zip(f.curves["full"], f.curves["full"][1:], strict=False) if a[1] >= a[2] and b[1] < b[2]]
        self.assertEqual(len(crossing), 1)
        self.assertTrue(crossing[0][0][0] <= f.points["full"].flow_m3_s <= crossing[0][1][0])


class Injectors(unittest.TestCase):
    def test_the_window_is_where_the_limits_are_met(self) -> None:
        w = worked("tern", {"/injectors/fluid": "working_fuel"})
        low, high = w.injectors.window_low_kg_s * 6e4, w.injectors.window_high_kg_s * 6e4
        at_low = worked("tern", {"/injectors/fluid": "working_fuel", "/injectors/flow": f"{low:.6f} g/min"}).injectors
        at_high = worked("tern", {"/injectors/fluid": "working_fuel", "/injectors/flow": f"{high:.6f} g/min"}).injectors
        self.assertAlmostEqual(at_low.duty_full, 0.85, delta=5e-4)
        self.assertAlmostEqual(at_high.pulse_idle_s, 1.5e-3, places=8)

    def test_flow_goes_with_the_square_root_of_pressure(self) -> None:
        a = worked("tern").injectors.flow_nominal_kg_s
        b = worked("tern", {"/fuel/regulator/set_pressure": "400 kPa"}).injectors.flow_nominal_kg_s
        self.assertAlmostEqual(b / a, math.sqrt(4 / 3), places=9)

    def test_volume_ratings_turn_to_mass_with_the_rating_fluid(self) -> None:
        cc = worked("tern", {"/injectors/flow": "200 cc/min", "/injectors/fluid": "n_heptane"}).injectors.flow_rated_kg_s
        self.assertAlmostEqual(cc * 6e4, 200 * 0.684, places=6)

    def test_every_turn_pays_dead_time_twice(self) -> None:
        one, two = worked("tern").injectors, worked("tern", {"/injectors/firing": "every_turn"}).injectors
        self.assertAlmostEqual(two.duty_full - one.duty_full, one.dead_time_full_s / one.period_full_s, places=3)
        self.assertAlmostEqual(one.pulse_idle_s / two.pulse_idle_s, 2, places=9)

    def test_assumed_dead_time(self) -> None:
        build = worked("tern", {"/injectors/dead_time": []}).build
        self.assertAlmostEqual(dead_time(build.injectors, build.injectors.driver, 13.5) * 1e3, 0.9, places=3)
        self.assertTrue(2.3 <= dead_time(build.injectors, build.injectors.driver, 8.0) * 1e3 <= 2.8)
        slope = dead_time(build.injectors, build.injectors.driver, 14.0) - dead_time(build.injectors, build.injectors.driver, 13.0)
        self.assertAlmostEqual(slope * 1e3, -0.12, delta=0.001)
        for low, high in ((4.0, 5.0), (6.0, 8.0), (8.0, 16.0)):  # it never turns round, whatever the volts
            self.assertGreaterEqual(dead_time(build.injectors, "peak_and_hold", low), dead_time(build.injectors, "peak_and_hold", high))


class Sensors(unittest.TestCase):
    def test_the_set_follows_layout_and_strategy(self) -> None:
        def needs(car: str, changes: dict[str, object] | None = None) -> dict[str, str]:
            return {row.kind: row.need for row in worked(car, changes).sensors.rows}

        self.assertEqual(needs("tern")["manifold_pressure"], "required")
        self.assertEqual(needs("hollin")["manifold_pressure"], "optional")
        self.assertNotIn("cam", needs("tern", {"/injectors/firing": "every_turn"}))
        self.assertNotIn("crank", needs("brindle", {"/ignition/timed_by_unit": False, "/sensors/trigger": None}))

    def test_the_tooth_at_top(self) -> None:
        self.assertAlmostEqual(plan().figures["trigger.tooth_at_top"].value or 0, 8.4)
        self.assertAlmostEqual(plan("tern", {"/sensors/trigger/angle": "-60 deg"}).figures["trigger.tooth_at_top"].value or 0, 30.0)

    def test_a_throttle_body_unit_carries_three_of_them_inside(self) -> None:
        rows = {row.kind: row.inside_unit for row in worked("brindle").sensors.rows}
        self.assertEqual({k for k, inside in rows.items() if inside}, {"intake_air_temperature", "throttle_position", "manifold_pressure"})
        self.assertFalse(any(row.inside_unit for row in worked("tern").sensors.rows))

    def test_three_points_of_the_coolant_sender_are_met(self) -> None:
        curve = worked("tern").sensors.coolant
        assert curve is not None
        ohms = dict(zip((round(t - 273.15) for t in curve.temperature_k), curve.resistance_ohm, strict=True))
        for celsius, resistance in ((-10, 9120), (20, 2450), (100, 186)):
            self.assertAlmostEqual(ohms[celsius], resistance, delta=resistance * 1e-6)
        self.assertEqual(curve.volts, sorted(curve.volts, reverse=True))


class Ignition(unittest.TestCase):
    def test_six_on_one_coil_worked_figure(self) -> None:
        w = worked("tern", {"/ignition/kind": "timed_distributor", "/ignition/outputs": [], "/engine/rev_limit": "5500 rpm"})
        self.assertAlmostEqual(w.ignition.period_limit_s * 1e3, 3.64, places=2)
        left = w.ignition.period_limit_s - (charge.dwell(w.build, 13.8) or 0) - SPARK_TIME  # at a coil that loses nothing on its way
        self.assertAlmostEqual(left * 1e3, 3.636 - 2.835 - 1.2, places=2)  # a hot coil behind a power stage: it does not fit
        self.assertAlmostEqual((dwell_time(13.8, 0.55, 3.6e-3, 7.5) or 0) * 1e3, 2.324, places=3)  # the coil alone, cold
        self.assertAlmostEqual(
            charge.dwell(w.build, 13.8) or 0, dwell_time(13.8 - 1.5, 0.55 * (1 + 0.00393 * 60), 3.6e-3, 7.5) or 1, places=9
        )
        self.assertLess(w.ignition.gap_limit_s or 0, left)
        wasted = worked("tern", {"/engine/rev_limit": "5500 rpm"})
        self.assertAlmostEqual(wasted.ignition.period_limit_s * 1e3, 10.9, places=1)

    def test_outputs_fire_evenly_over_two_turns(self) -> None:
        fires = sorted(d for row in worked("tern").ignition.outputs for d in row.fires_deg)
        self.assertEqual(fires, [0, 120, 240, 360, 480, 600])


class Wiring(unittest.TestCase):
    def test_every_wire_has_two_ends_a_way_and_a_size_that_carries_its_fuse(self) -> None:
        for car in ("tern", "hollin"):
            w = worked(car).wiring
            fuse = {f.key: f for f in w.fuses}
            self.assertEqual(len({x.key for x in w.wires}), len(w.wires))
            for x in w.wires:
                self.assertNotIn("?", x.start + x.end)
                self.assertGreater(x.length_m, 0.2)
                self.assertGreaterEqual(x.limit_a, x.current_a)
                if x.fuse and not x.fitted:
                    self.assertGreaterEqual(x.limit_a * 1.001, fuse[x.fuse].proposed_a or 0)

    def test_pump_circuit_agrees_with_the_fuel_station(self) -> None:
        w = worked("tern")
        pump = [x for x in w.wiring.wires if x.circuit == "pump"]
        self.assertAlmostEqual(sum(x.length_m for x in pump), 2 * 4.6, places=9)
        contacts = 5e-3 + 8e-3  # fuse holder and relay, which no wire counts as its own
        most = max(p.current_a for p in w.fuel.points.values())
        self.assertAlmostEqual(sum(x.drop_v for x in pump), most * (w.fuel.wire_ohms - contacts), places=6)
        circuit = next(c for c in w.wiring.circuits if c.key == "pump")
        self.assertAlmostEqual(circuit.drop_v, most * w.fuel.wire_ohms, places=6)

    def test_pins_follow_the_sheet_and_are_not_used_twice(self) -> None:
        w = worked("tern").wiring
        outputs = [x.end for x in w.wires if x.key.startswith("injector_") and x.key.endswith("_output")]
        self.assertEqual(outputs, [f"unit.B{k}" for k in range(1, 7)])
        shared = {"five_volt", "sensor_ground"}
        for pin in w.pins:
            self.assertTrue(len(pin.wires) <= 1 or pin.kind in shared, pin)

    def test_a_short_control_unit_drops_the_later_signals(self) -> None:
        self.assertEqual(worked("brindle").wiring.pins_short, ["tachometer", "idle valve", "vehicle speed", "reverse lock"])
        hollin = worked("hollin", {"/wiring/extras": ["fan", "tachometer", "idle_valve"]}).wiring
        self.assertEqual(hollin.pins_short, ["tachometer", "idle valve"])

    def test_a_longer_branch_lengthens_its_wires_and_thicker_follows_drop(self) -> None:
        before, after = worked("tern").wiring, worked("tern", {"/wiring/branches/firewall_unit/length": "6 m"}).wiring
        self.assertGreater(after.total_length_m, before.total_length_m)
        area = {x.key: x.area_m2 for x in before.wires}
        self.assertTrue(any(x.area_m2 > area[x.key] for x in after.wires))
        for c in after.circuits:
            if not c.fitted:
                self.assertLessEqual(c.drop_v, c.allowed_v * 1.0001, c.key)


class Tune(unittest.TestCase):
    def test_tables_have_sound_axes_and_believable_values(self) -> None:
        bounds = {"ve": (2, 115), "lambda": (0.8, 1.1), "advance": (4, 46)}
        for car in ("tern", "hollin", "brindle"):
            for t in worked(car).tune.tables:
                self.assertEqual(t.x, sorted(set(t.x)))
                self.assertEqual([len(r) for r in t.rows], [len(t.x)] * max(len(t.y), 1))
                if t.key in bounds:
                    low, high = bounds[t.key]
                    self.assertTrue(all(low <= v <= high for row in t.rows for v in row), (car, t.key))

    def test_filling_rises_with_load_and_falls_with_overlap_at_idle(self) -> None:
        calm, wild = (worked("tern", {"/engine/cam": c}).tune.tables[0] for c in ("standard", "competition"))
        for table in (calm, wild):
            for j in range(len(table.x)):
                column = [row[j] for row in table.rows]
                self.assertEqual(column, sorted(column))
        self.assertLess(wild.rows[2][2], calm.rows[2][2])

    def test_throttle_table_fills_towards_wide_open(self) -> None:
        table = worked("hollin").tune.tables[0]
        self.assertEqual((table.y[0], table.y[-1]), (0.0, 100.0))
        for j in range(len(table.x)):
            column = [row[j] for row in table.rows]
            self.assertTrue(all(b >= a - 0.11 for a, b in itertools.pairwise(column)), column)

    def test_alcohol_cranks_richer_in_the_cold(self) -> None:
        def crank(fuel: str) -> list[float]:
            return next(t.rows[0] for t in worked("tern", {"/engine/fuel": fuel}).tune.tables if t.key == "cranking")

        self.assertGreater(crank("E85")[0], crank("E10")[0])
        self.assertEqual(crank("E85")[4], crank("E10")[4])


class Start(unittest.TestCase):
    def test_nine_steps_each_with_a_caution_and_something_to_expect(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            steps = plan(car).stages.start.steps
            self.assertEqual([s.number for s in steps], list(range(9)))
            for s in steps:
                self.assertTrue(s.cautions and s.do and s.expect and s.if_off, s.title)

    def test_expected_figures_are_this_builds(self) -> None:
        def bands(changes: dict[str, object] | None = None) -> str:
            return " ".join(e.shown for s in plan("tern", changes).stages.start.steps for e in s.expect)

        self.assertIn("285 to 315 kPa (41.3 to 45.7 psi)", bands())
        self.assertIn("95 to 99 kPa absolute", bands())
        self.assertIn("380 to 420 kPa (55.1 to 60.9 psi)", bands({"/fuel/regulator/set_pressure": "400 kPa"}))
        self.assertNotIn("95 to 99 kPa absolute", bands({"/sensors/decisions/manifold_pressure": "struck"}))

    def test_a_reading_to_expect_is_a_band(self) -> None:
        rows = {e.what: e for s in plan("tern").stages.start.steps for e in s.expect}
        gauge = rows["Rail gauge, pump running, engine off"].band
        assert gauge is not None
        self.assertEqual((gauge.low, gauge.high, gauge.unit), (285, 315, "kPa"))
        self.assertTrue(285 in gauge and 315 in gauge and 284.9 not in gauge and 315.1 not in gauge)
        least = rows["Battery, at rest, charger on"].band
        assert least is not None
        self.assertTrue(12.4 in least and 14.8 in least and 12.39 not in least)
        self.assertEqual({what for what, e in rows.items() if e.band is None}, {"Temperatures", "Pump after key off"})


if __name__ == "__main__":
    unittest.main()
