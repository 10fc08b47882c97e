"""Currents as they are: average, effective and peak of pulses; fuses and wires by the right one of them; insulation; names that are known."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import document, edited, plan, worked
from tests.golden import CARS
from tests.golden import document as golden
from uphill_spark.core.circuit.conductors import next_fuse
from uphill_spark.core.circuit.pulsed import Draw, ramps, squares
from uphill_spark.core.errors import BuildError
from uphill_spark.core.given import parse
from uphill_spark.core.given.wiring import FUSES, WIRE_NAMES
from uphill_spark.core.physics.electric import bundle_rise
from uphill_spark.core.worked import work_out

STEPS = 20_000


def sampled(waves: np.ndarray) -> Draw:
    """Average, effective and peak of currents by (device, time), added."""
    whole = waves.sum(axis=0)
    return Draw(float(whole.mean()), float(np.sqrt((whole**2).mean())), float(whole.max()))


class Pulses(unittest.TestCase):
    """Held against the waves themselves, sampled over one period."""

    def near(self, found: Draw, want: Draw) -> None:
        for name in ("average", "effective", "peak"):
            a, b = getattr(found, name), getattr(want, name)
            self.assertAlmostEqual(a, b, delta=0.004 * max(b, 1e-3), msg=f"{name}: {found} {want}")

    @settings(max_examples=examples(60), deadline=None)
    @given(st.floats(0.01, 0.99), st.integers(1, 8), st.floats(1.0, 12.0))
    def test_coils_that_charge_in_turn(self, share: float, many: int, amps: float) -> None:
        t = (np.arange(STEPS) + 0.5) / STEPS
        lag = (t[None, :] - np.arange(many)[:, None] / many) % 1.0
        self.near(ramps(amps, share, many), sampled(np.where(lag < share, amps * lag / share, 0.0)))

    @settings(max_examples=examples(60), deadline=None)
    @given(st.floats(0.01, 0.99), st.integers(1, 8), st.booleans())
    def test_injectors_in_turn_and_together(self, share: float, many: int, together: bool) -> None:
        share = round(share * STEPS) / STEPS
        if abs(many * share - round(many * share)) < 0.01:
            return  # whether a pulse just touches the next one is the samples' chance
        t = (np.arange(STEPS) + 0.5) / STEPS
        lag = (t[None, :] - (0.0 if together else np.arange(many)[:, None] / many)) % 1.0 * np.ones((many, 1))
        self.near(squares(1.5, share, many, together=together), sampled(np.where(lag < share, 1.5, 0.0)))

    def test_nothing_is_nothing_and_all_the_time_is_steady(self) -> None:
        self.assertEqual(ramps(7.0, 0.0, 3), Draw(0.0, 0.0, 0.0))
        self.assertEqual(squares(2.0, 1.0, 3, together=False), Draw.steady(6.0))


class Harness(unittest.TestCase):
    def test_a_fuse_of_the_coils_goes_by_the_effective_current_and_the_drop_by_the_peak(self) -> None:
        w = worked("tern")
        coils = w.circuit.most["coils"]
        self.assertLess(coils.average * 1.15, coils.effective)
        self.assertEqual(round(coils.peak, 6), 7.5)
        fuse = next(f for f in w.wiring.fuses if f.key == "coils")
        self.assertAlmostEqual(fuse.load_a, coils.effective, places=9)
        self.assertEqual(fuse.proposed_a, next_fuse(coils.effective))
        feed = next(x for x in w.wiring.wires if x.key == "coil_feed")
        self.assertGreater(feed.peak_a, feed.current_a)
        self.assertAlmostEqual(feed.drop_v, feed.peak_a * w.circuit.made["coil_feed"].ohms, places=9)

    def test_six_peak_and_hold_injectors_take_about_eight_amperes_and_not_what_ohms_law_says(self) -> None:
        low = {
            "/injectors/resistance": "2 ohm",
            "/injectors/driver": "peak_and_hold",
            "/injectors/driver_limit": "5 A",
            "/injectors/firing": "every_turn",
        }
        w = worked("tern", low)
        self.assertTrue(5.0 <= w.circuit.most["injectors"].average <= 9.0, w.circuit.most["injectors"])
        self.assertLess(w.circuit.most["injectors"].average, 0.35 * 6 * 13.8 / 2)
        self.assertAlmostEqual(w.circuit.most["injectors"].peak, 6 * 4.0, places=6)
        self.assertAlmostEqual(w.injectors.driver_current_a, 4.0)
        more = worked("tern", low | {"/injectors/peak_hold": {"peak": "6 A", "hold": "2 A", "peak_time": "2 ms"}})
        self.assertGreater(more.circuit.most["injectors"].average, w.circuit.most["injectors"].average * 1.5)

    def test_fan_and_unit_draw_what_is_entered(self) -> None:
        usual, own = worked("tern").circuit, worked("tern", {"/wiring/fan_current": "9 A", "/wiring/unit_current": "5 A"}).circuit
        self.assertAlmostEqual(usual.drawn("fan", "full"), 18.0, places=3)
        self.assertAlmostEqual(own.drawn("fan", "full"), 9.0, places=3)
        self.assertAlmostEqual(own.drawn("unit", "run"), 5.0, places=3)

    def test_insulation_decides_what_a_wire_bears_and_each_may_have_its_own(self) -> None:
        limit = {}
        for kind in ("pvc_85", "pvc_105", "cross_linked_125"):
            limit[kind] = worked("tern", {"/wiring/insulation": kind}).circuit.made["coil_feed"].limit_a
        self.assertLess(limit["pvc_85"], limit["pvc_105"])
        self.assertLess(limit["pvc_105"], limit["cross_linked_125"])
        one = worked("tern", {"/wiring/fitted/pump_feed/insulation": "pvc_85"}).circuit.made
        self.assertLess(one["pump_feed"].limit_a, worked("tern").circuit.made["pump_feed"].limit_a)
        self.assertEqual(one["coil_feed"].limit_a, limit["cross_linked_125"])

    def test_a_bundle_is_warmed_by_the_heat_that_is_really_made(self) -> None:
        cool, warm = (
            worked("tern", {"/wiring/fan_current": "1 A"}).circuit.made,
            worked("tern", {"/wiring/fan_current": "25 A"}).circuit.made,
        )
        far = "coil_ground"
        self.assertTrue(all(m.beside_k >= m.ambient_k - 1e-9 for m in warm.values()))
        self.assertEqual((warm[far].route, warm[far].beside_k), ((), warm[far].ambient_k))  # alone at its place
        shares = [
            key
            for key, m in warm.items()
            if set(m.route) & set(warm["fan_feed"].route) and key not in ("fan_feed", "fan_supply", "fan_ground")
        ]
        self.assertTrue(shares)
        for key in shares:
            self.assertGreaterEqual(warm[key].beside_k, cool[key].beside_k)
        self.assertLess(max(m.beside_k - m.ambient_k for m in warm.values()), 25.0)
        self.assertAlmostEqual(bundle_rise(5.0, 12.6e-3), 10.5, places=1)
        self.assertEqual(bundle_rise(0.0, 12.6e-3), 0.0)

    def test_signal_wires_beside_do_not_make_a_power_wire_thicker(self) -> None:
        many = worked("tern", {"/wiring/extras": ["fan", "tachometer", "idle_valve", "warning_lamp"]}).circuit.made
        few = worked("tern", {"/wiring/extras": ["fan"]}).circuit.made
        self.assertEqual(many["fan_feed"].area_m2, few["fan_feed"].area_m2)
        thinner = worked("tern", {"/wiring/fitted/fan_feed": {"size": "4 mm2"}}).circuit.made["fan_feed"]
        self.assertGreater(thinner.limit_a, 25.0)  # a fan's 18 A, and the fuse for them

    def test_no_fuse_is_proposed_over_what_its_wire_carries(self) -> None:
        for car in CARS:
            for kind in ("pvc_85", "cross_linked_125"):
                doc = golden(car)
                doc.setdefault("wiring", {})["insulation"] = kind
                for f in work_out(parse(doc)).wiring.fuses:
                    if f.proposed_a is not None:
                        self.assertLessEqual(f.proposed_a, f.wire_limit_a * 1.005, f"{car} {f.key}")
        thin = {"/wiring/fitted/pump_feed/size": "0.5 mm2", "/wiring/insulation": "pvc_85", "/wiring/fuses": {}}
        row = next(f for f in worked("tern", thin).wiring.fuses if f.key == "pump")
        self.assertEqual(row.proposed_a, None)
        said = next(f for f in plan("tern", thin).findings if f.code == "WIRE-05" and f.at == "/wiring/fitted/pump_feed/size")
        self.assertIn("no fuse suits both", said.why)
        self.assertIn(f"{row.wanted_area_m2 * 1e6:g} mm²", said.do)

    def test_names_of_fuses_and_wires_are_known(self) -> None:
        for place, name, changes in (
            ("/wiring/fuses/pmp", "pmp", {"/wiring/fuses": {"pmp": 10}}),
            ("/wiring/fitted/pump_fed", "pump_fed", {"/wiring/fitted/pump_fed": {"size": "4 mm2"}}),
        ):
            with self.assertRaises(BuildError) as caught:
                edited("tern", changes)
            self.assertEqual((caught.exception.problems[0].at, caught.exception.problems[0].given), (place, name))
        for car in CARS:
            made = work_out(parse(golden(car))).wiring
            for wire in made.wires:
                self.assertTrue(WIRE_NAMES.fullmatch(wire.key), wire.key)
            self.assertLessEqual({f.key for f in made.fuses if not f.key.startswith("own_")}, set(FUSES))
        doc = document("tern")
        doc["wiring"]["extras"] = ["fan", "tachometer", "idle_valve", "warning_lamp"]
        doc["ignition"] |= {"timed_by_unit": False, "speed_signal": "tach_output", "advance": "working"}
        doc["sensors"]["decisions"] = dict.fromkeys(("fuel_pressure", "wideband_oxygen", "cam"), "fitted")
        for wire in work_out(parse(doc)).wiring.wires:
            self.assertTrue(WIRE_NAMES.fullmatch(wire.key), wire.key)


if __name__ == "__main__":
    unittest.main()
