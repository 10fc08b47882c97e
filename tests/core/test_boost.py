"""Boost all the way through, and what goes with air: charge, mixture, speed of full power, altitude, idle, fuel's heat."""

import math
import re
import unittest
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import edited, plan, worked
from uphill_spark.core.physics.air import charge_temperature, density
from uphill_spark.core.physics.vapour import blend_vapour_pressure, gasoline_vapour_pressure
from uphill_spark.core.stages.engine import consumption, estimate
from uphill_spark.core.stages.engine.filling import filling
from uphill_spark.core.stages.engine.run import _POWERS, _power_for
from uphill_spark.core.stages.tune import manifold_by_throttle
from uphill_spark.core.units import both

#: A Tern with a blower: what the air is good for, by its own figures.
BLOWN: dict[str, Any] = {
    "/tune/kept": None,
    "/engine/boost": "60 kPa",
    "/engine/blower": {"efficiency": "65 %", "cooler": "60 %"},
    "/engine/bsfc": None,
    "/engine/power": "118 kW",
    "/tune/full_lambda": 0.80,
    "/injectors/flow": "220 g/min",
}


class Boost(unittest.TestCase):
    def test_consumption_rises_with_boost_and_mixture(self) -> None:
        usual = 0.32 * 14.7 / 14.1 / 3.6e6
        self.assertAlmostEqual(consumption(edited("tern", {"/engine/bsfc": None})), usual, places=12)
        for kpa, low, high in ((30, 0.36, 0.36), (60, 0.36, 0.43), (100, 0.43, 0.43), (150, 0.43, 0.43)):
            found = consumption(edited("tern", BLOWN | {"/engine/boost": f"{kpa} kPa"})) * 3.6e6 * 14.1 / 14.7
            self.assertTrue(low - 1e-9 <= found <= high + 1e-9, (kpa, found))
        richer = consumption(edited("tern", {"/tune/full_lambda": 0.80}))
        self.assertAlmostEqual(richer / consumption(edited("tern", {"/tune/full_lambda": 0.88})), 0.88 / 0.80, places=9)

    @settings(max_examples=examples(25), deadline=None)
    @given(st.floats(0.7, 1.0), st.booleans())
    def test_richer_never_makes_more_power_from_the_same_air(self, full: float, stated: bool) -> None:
        def power(lam: float) -> float:
            one = estimate(worked("tern", {"/tune/full_lambda": lam, **({} if stated else {"/engine/bsfc": None})}).engine, "air")
            return one.middle if one else 0.0

        self.assertLessEqual(power(full - 0.05), power(full) * (1 + 1e-9))

    def test_the_charge_is_hot_and_a_cooler_takes_its_share(self) -> None:
        bare = worked("tern", BLOWN | {"/engine/blower": {"efficiency": "65 %"}}).engine
        cooled = worked("tern", BLOWN).engine
        self.assertAlmostEqual(bare.charge_k, charge_temperature(293.15, 1 + 60e3 / 101325, 0.65), places=6)
        self.assertAlmostEqual(cooled.charge_k - 293.15, 0.4 * (bare.charge_k - 293.15), places=6)
        self.assertGreater(cooled.full_air_kg_s, bare.full_air_kg_s)
        none = worked("tern").engine
        ratio = density(161.325e3, cooled.charge_k) / density(101.325e3, 293.15)
        self.assertAlmostEqual(cooled.full_air_kg_s / none.full_air_kg_s, ratio, places=9)

    def test_injectors_tune_and_fuel_tell_one_story_where_the_target_is_what_the_air_gives(self) -> None:
        one = estimate(worked("tern", BLOWN).engine, "air")
        assert one is not None
        w = worked("tern", BLOWN | {"/engine/power": f"{one.middle / 1e3:.4f} kW"})
        self.assertAlmostEqual(w.in_use.fuel_full_kg_s, w.engine.fuel_mass_flow_kg_s, delta=1e-6)
        self.assertAlmostEqual(w.in_use.duty_full, w.injectors.duty_full, places=6)
        self.assertAlmostEqual(w.fuel.need_m3_s * 750.0, w.in_use.fuel_full_kg_s, delta=1e-6)
        grid = next(t for t in w.tune.tables if t.key == "ve")
        self.assertGreaterEqual(grid.y[-1], (w.engine.ambient_pressure_pa + 60e3) / 1e3)
        self.assertEqual(w.tune.fuel_cut_pa, w.engine.ambient_pressure_pa + 75e3)
        self.assertAlmostEqual(w.fuel.points["full"].rail_pressure_pa - w.fuel.points["prime"].rail_pressure_pa, 60e3, delta=1e3)

    def test_a_target_beyond_its_air_is_told_at_engine_and_tables(self) -> None:
        found = {f.code: f.severity for f in plan("tern", BLOWN | {"/engine/power": "190 kW"}).findings}
        self.assertEqual((found["ENG-10"], found["TUNE-02"], found["INJ-01"]), ("watch", "watch", "stop"))

    def test_spark_is_held_back_over_boost(self) -> None:
        grid = next(t for t in worked("tern", BLOWN).tune.tables if t.key == "advance")
        ambient = worked("tern").engine.ambient_pressure_pa / 1e3
        over = [(y, row[-1]) for y, row in zip(grid.y, grid.rows, strict=True) if y > ambient]
        self.assertGreaterEqual(len(over), 2)
        (a, first), (b, second) = over[0], over[-1]
        self.assertAlmostEqual((first - second) / (b - a), 1 / 7, delta=0.01)

    def test_octane_is_asked_twice_as_hard(self) -> None:
        base = {"/engine/octane": 98, "/engine/compression_ratio": "8.0:1", "/engine/blower": {"efficiency": "70 %", "cooler": "80 %"}}
        self.assertEqual({f.severity for f in plan("tern", base | {"/engine/boost": "50 kPa"}).findings if f.code == "ENG-08"}, {"sound"})
        self.assertEqual({f.severity for f in plan("tern", base | {"/engine/boost": "75 kPa"}).findings if f.code == "ENG-08"}, {"watch"})


class AirOfTheEngine(unittest.TestCase):
    def test_idle_fuel_comes_from_the_table(self) -> None:
        w = worked("tern")
        b, e = w.build, w.engine
        cell = float(filling(b, np.array([b.engine.idle_speed.si]), np.array([e.idle_manifold_pressure_pa]), e.ambient_pressure_pa)[0])
        self.assertEqual(e.idle_filling, cell)
        air = cell * density(e.idle_manifold_pressure_pa, 313.15) * 2597e-6 * b.engine.idle_speed.si / 2
        self.assertAlmostEqual(e.idle_fuel_mass_flow_kg_s, air / (14.1 * b.tune.idle_lambda), places=12)

    def test_an_engine_that_reads_1100_is_expected_near_it(self) -> None:
        expected = plan("tern").figures["engine.compression.expected"].value or 0
        self.assertAlmostEqual(expected, 1100, delta=100)

    def test_the_need_of_the_throttle_does_not_grow_with_a_power_target_or_with_altitude(self) -> None:
        here = worked("tern").air
        self.assertEqual(here.need_m3_s, worked("tern", {"/engine/power": "150 kW"}).air.need_m3_s)
        high = worked("tern", {"/engine/altitude": "2500 m"}).air
        self.assertAlmostEqual(high.need_m3_s, here.need_m3_s, places=9)
        self.assertLess(high.drop_full_pa or 1e9, here.drop_full_pa or 0)

    def test_throttle_tables_go_by_the_cars_own_plates(self) -> None:
        at = np.array([[5000 / 60]]), np.array([[0.15]])
        small = manifold_by_throttle(edited("hollin", {"/air/throttle/bore": "30 mm"}), *at, 80e3)
        large = manifold_by_throttle(edited("hollin", {"/air/throttle/bore": "50 mm"}), *at, 80e3)
        self.assertLess(float(small[0, 0]), float(large[0, 0]) * 0.95)

    def test_a_second_set_counts_in_the_tables(self) -> None:
        second = {"name": "upper", "count": 4, "flow": "330 g/min", "rated_at": "300 kPa", "resistance": "12.5 ohm"}
        self.assertLess(worked("hollin", {"/injectors/second": second}).in_use.duty_full, worked("hollin").in_use.duty_full * 0.8)

    @settings(max_examples=examples(60), deadline=None)
    @given(st.floats(3.0, 40.0), st.floats(0.0, 10.0), st.floats(0.5, 8.0))
    def test_the_least_power_of_a_tie_and_less_for_more_time(self, free: float, grip: float, seconds: float) -> None:
        took = np.maximum(free * 1e5 / _POWERS, grip)
        found = _power_for(took, grip + seconds)
        later = _power_for(took, grip + seconds * 1.1)
        if found is None:
            self.assertGreater(took.min(), grip + seconds)
            return
        self.assertLessEqual(later if later is not None else math.inf, found)
        at_grip = _power_for(took, float(took.min()))
        self.assertIsNotNone(at_grip)
        first = _POWERS[int(np.flatnonzero(took <= took.min())[0])]
        self.assertAlmostEqual(at_grip or 0, float(first), delta=first * 1e-9)


class FuelsHeat(unittest.TestCase):
    def test_where_a_tank_settles_by_hand(self) -> None:
        # 60 L and 100 W of pump, 180 L/h back at 2 K: about 14 K over the air.
        watts = 100 + 180 / 3.6e6 * 750 * 2100 * 2
        self.assertAlmostEqual(watts / (20 * 6 * 0.06 ** (2 / 3)), 14.0, delta=0.3)
        w = worked("tern", {"/engine/altitude": "0 m"})
        at = w.fuel.points["cruise"]
        heat = at.volts * at.current_a + (at.flow_m3_s - at.demand_m3_s) * 750 * 2100 * 2
        volume = w.build.fuel.tank.volume.si
        self.assertAlmostEqual((w.fuel.settles_k or 0) - 308.15, heat / (120 * volume ** (2 / 3)), places=6)

    def test_a_rail_that_keeps_its_pressure_stays_liquid_longer(self) -> None:
        w = worked("tern")
        self.assertAlmostEqual(
            gasoline_vapour_pressure(reid.si if (reid := w.build.fuel.tank.reid) else 62e3, w.fuel.soak_liquid_k),
            w.engine.ambient_pressure_pa + 300e3,
            delta=200,
        )
        self.assertLess(w.fuel.soak_open_k + 40, w.fuel.soak_liquid_k)

    def test_a_blend_rises_faster_in_heat_than_petrols_law(self) -> None:
        self.assertAlmostEqual(blend_vapour_pressure(45e3, 310.93, 0.85), gasoline_vapour_pressure(45e3, 310.93), delta=1)
        for celsius, more in ((50, 1.07), (60, 1.13)):
            ratio = blend_vapour_pressure(45e3, 273.15 + celsius, 0.85) / gasoline_vapour_pressure(45e3, 273.15 + celsius)
            self.assertAlmostEqual(ratio, more, delta=0.015)

    def test_an_open_relief_valve_caps_what_the_system_gets(self) -> None:
        full = worked("tern").fuel.points["full"]
        low = worked("tern", {"/fuel/pump/relief": "310 kPa"}).fuel.points["full"]
        self.assertAlmostEqual(low.pump_pressure_pa, 310e3, delta=1.0)
        self.assertLess(low.capacity_m3_s, full.capacity_m3_s)
        high = worked("tern", {"/fuel/pump/relief": "600 kPa"}).fuel.points["full"]
        self.assertEqual(high.capacity_m3_s, full.capacity_m3_s)

    def test_a_lift_pump_has_an_inlet_of_its_own(self) -> None:
        self.assertGreater(worked("hollin").fuel.lift_margin_m or 0, 1.5)
        steep = worked("hollin", {"/fuel/parts/pick_up/rise": "2 m"}).fuel.lift_margin_m
        self.assertLess(steep or 0, (worked("hollin").fuel.lift_margin_m or 0) - 1.9)

    def test_a_lift_pump_runs_on_the_volts_that_its_own_wires_leave_it(self) -> None:
        w = worked("hollin")
        self.assertAlmostEqual(w.fuel.lift_volts or 0, w.circuit.across("lift", "full"), places=9)
        lift = w.build.fuel.lift
        assert lift is not None and w.fuel.lift_volts is not None
        gives = lift.flow.si * (w.fuel.lift_volts - 4) / (13.5 - 4)  # speed goes with the volts past those that only turn the rotor
        self.assertAlmostEqual(w.fuel.lift_margin or 0, gives / w.fuel.need_m3_s, places=9)
        thin = worked("hollin", {"/wiring/fitted/lift_feed": {"size": "0.5 mm2"}, "/fuel/lift/current": "9 A"})
        self.assertLess(thin.fuel.lift_volts or 0, w.fuel.lift_volts - 0.5)
        self.assertLess(thin.fuel.lift_margin or 0, (w.fuel.lift_margin or 0) * 0.95)
        self.assertEqual({"lift_supply", "lift_feed", "lift_ground"} - set(w.circuit.made), set())
        self.assertIn("lift", w.circuit.fuse_loads)
        self.assertNotIn("lift", worked("tern").circuit.fuse_loads)  # nobody fuses a pump that is not there

    def test_one_output_pulls_in_the_relays_of_both_pumps(self) -> None:
        w = worked("hollin")
        self.assertAlmostEqual(
            w.circuit.amps("pump_relay_coil", "idle"), 2 * worked("tern").circuit.amps("pump_relay_coil", "idle"), delta=0.01
        )


class Words(unittest.TestCase):
    def test_the_owners_units_stand_first(self) -> None:
        found = next(f for f in plan("tern", {"/fuel/regulator/set_pressure": "43.5 psi"}).findings if f.code == "FUEL-12")
        self.assertIn("psi (", found.why)
        self.assertEqual((both(3e5, "kPa", "bar"), both(3e5, "kPa", "")), ("3 bar (300 kPa)", "300 kPa"))

    def test_no_sentence_of_the_fuel_system_leaves_the_owner_to_convert(self) -> None:
        changes = {
            "/fuel/regulator/set_pressure": "43.5 psi", "/injectors/rated_at": "43.5 psi", "/fuel/tank/hottest": "113 degF", "/fuel/pump/curve/0/flow": "34 gal/h",
            "/fuel/pump/relief": "95 psi",
        }  # fmt: skip
        for more in (
            {},
            {"/fuel/parts/return_line/bore": "3 mm"},
            {"/fuel/regulator/set_pressure": "87 psi"},
            {"/fuel/tank/hottest": "140 degF"},
        ):
            told = [f for f in plan("tern", changes | more).findings if f.station == "fuel"]
            self.assertTrue(
                any("psi (" in f.why for f in told) and any("°F (" in f.why for f in told) and any("gal/h (" in f.why for f in told)
            )
            for f in told:
                alone = re.findall(r"(?<!\()\b[\d.]+ (?:kPa|L/h|°C)", f"{f.why} {f.do}")
                self.assertEqual(alone, [], f"{f.code}: {f.why} {f.do}")

    def test_a_range_is_told_in_the_unit_that_was_typed(self) -> None:
        from uphill_spark.core.errors import BuildError

        for text, wants in (
            ("900 psi", "between 0 psi and 290.1 psi"),
            ("3 bar", ""),
            ("40 bar", "between 0 bar and 20 bar"),
            ("-5 kPa", "between 0 kPa"),
        ):
            if not wants:
                edited("tern", {"/fuel/pump/relief": text})
                continue
            with self.assertRaises(BuildError) as caught:
                edited("tern", {"/fuel/pump/relief": text})
            self.assertIn(wants, caught.exception.problems[0].wants, text)

    def test_half_the_flow_typed_is_twice_the_fuel(self) -> None:
        w = worked("tern")
        half = f"{w.injectors.flow_nominal_kg_s * 6e4 / 2:.4f} g/min"
        found = next(f for f in plan("tern", {"/tune/typed/injector_flow": half}).findings if f.code == "TUNE-01")
        self.assertEqual(found.severity, "stop")
        self.assertIn("100 % rich", found.why)

    def test_what_is_typed_as_volume_is_taken_with_the_fluid_it_is_rated_with_and_says_so(self) -> None:
        w = worked("tern")
        volume = w.injectors.flow_nominal_kg_s / w.injectors.rated_density_kg_m3 * 6e7
        self.assertEqual(
            {f.severity for f in plan("tern", {"/tune/typed/injector_flow": f"{volume:.3f} cc/min"}).findings if f.code == "TUNE-01"},
            {"sound"},
        )
        off = next(f for f in plan("tern", {"/tune/typed/injector_flow": f"{volume * 1.05:.3f} cc/min"}).findings if f.code == "TUNE-01")
        self.assertIn("a volume of", off.why)

    def test_the_worst_injector_is_named_with_its_place(self) -> None:
        found = next(f for f in plan("tern").findings if f.code == "INJ-05" and f.at == "/injectors/bench")
        self.assertRegex(found.why, r"Farthest off is \w+, for cylinder \d, [+-]\d")


class Holes(unittest.TestCase):
    """Hoses: what is offered, and what never is."""

    def test_its_own_port_is_offered_even_when_it_is_capped(self) -> None:
        left_off = {"/air/consumers/0/port": None, "/air/ports/plenum rear/capped": True}
        hose = worked("tern", left_off).air.hoses[0]
        self.assertEqual((hose.kind, hose.now, hose.proposed), ("brake_booster", None, "plenum rear"))

    def test_anothers_port_is_never_offered(self) -> None:
        ports = {"plenum front": {"source": "full_manifold", "bore": "9 mm", "central": True}}
        changes = {"/air/ports": ports, "/air/consumers": [{"kind": "crankcase_valve", "port": "plenum front"}, {"kind": "brake_booster"}]}
        offered = {h.kind: h.proposed for h in worked("tern", changes).air.hoses}
        self.assertEqual(offered, {"crankcase_valve": "plenum front", "brake_booster": None})

    def test_advance_goes_on_the_kind_of_port_that_it_was_on(self) -> None:
        changes = {
            "/ignition/timed_by_unit": False,
            "/ignition/distributor": {"vacuum": "ported"},
            "/air/consumers/0": {"kind": "distributor_advance", "port": "plenum rear"},
        }
        self.assertIn("it was on ported", worked("tern", changes).air.hoses[0].wrong or "")


if __name__ == "__main__":
    unittest.main()
