"""Senders and lines, the oxygen sensor's place, the key-on check; coil edges, lettered harnesses, rotor, timing light, rev counter."""

import math
import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import document, edited, plan, worked
from uphill_spark.core.errors import BuildError
from uphill_spark.core.given import parse
from uphill_spark.core.given.sensors import OxygenSensor, Thermistor
from uphill_spark.core.physics.thermistor import SteinhartHart, fit_thermistor
from uphill_spark.core.plan import evaluate
from uphill_spark.core.stages.sensors import exhaust
from uphill_spark.core.stages.sensors.scaling import line, thermistor_curve

POINTS = [(263.15, 9120.0), (293.15, 2450.0), (373.15, 186.0)]


def sender(**more: Any) -> Thermistor:
    points = [{"temperature": f"{k - 273.15:g} degC", "resistance": f"{r:g} ohm"} for k, r in POINTS]
    return Thermistor.model_validate({"points": points, "pull_up": "2490 ohm", **more})


class Senders(unittest.TestCase):
    def test_the_worked_constants_and_readings(self) -> None:
        fit = fit_thermistor(POINTS)
        for found, wanted in ((fit.a, 1.27269e-3), (fit.b, 2.65417e-4), (fit.c, 1.41528e-7)):
            self.assertAlmostEqual(found / wanted, 1.0, places=5)
        self.assertAlmostEqual(fit.temperature(1000.0) - 273.15, 44.03, places=2)
        self.assertAlmostEqual(5 * 1000 / (1000 + 2490), 1.433, places=3)
        curve = thermistor_curve("coolant", sender())
        self.assertLess(curve.residual_k, 1e-6)

    @settings(max_examples=examples(60), deadline=None)
    @given(
        st.floats(1e-3, 1.5e-3),
        st.floats(2e-4, 3e-4),
        st.floats(5e-8, 2e-7),
        st.lists(st.integers(-30, 120), min_size=4, max_size=10, unique=True),
    )
    def test_more_points_of_a_true_sender_give_it_back(self, a: float, b: float, c: float, celsius: list[int]) -> None:
        true = SteinhartHart(a, b, c)
        if max(celsius) - min(celsius) < 30:
            return
        fit = fit_thermistor([(t + 273.15, true.resistance(t + 273.15)) for t in celsius])
        for t in celsius:
            self.assertAlmostEqual(fit.temperature(true.resistance(t + 273.15)), t + 273.15, delta=0.05)

    def test_a_noisy_point_shows_as_residual(self) -> None:
        true = fit_thermistor(POINTS)
        rows = [
            {"temperature": f"{t} degC", "resistance": f"{true.resistance(t + 273.15) * (1.1 if t == 40 else 1):.2f} ohm"}
            for t in (0, 20, 40, 60, 80)
        ]
        self.assertGreater(thermistor_curve("x", sender(points=rows)).residual_k, 1.0)

    def test_the_best_pull_up_is_better_and_near_the_geometric_mean(self) -> None:
        curve = thermistor_curve("coolant", sender())
        self.assertLess(curve.best_step_k, curve.worst_step_k)
        ends = math.sqrt(curve.resistance_ohm[0] * curve.resistance_ohm[-1])
        self.assertTrue(ends / 3 < curve.best_pull_up_ohm < ends * 3)
        again = thermistor_curve("coolant", sender(pull_up=f"{curve.best_pull_up_ohm:.1f} ohm"))
        self.assertAlmostEqual(again.worst_step_k / curve.best_step_k, 1.0, places=2)

    def test_a_sender_that_rises(self) -> None:
        rows = [{"temperature": f"{t} degC", "resistance": f"{100 * 1.004**t:.3f} ohm"} for t in (0, 25, 50, 100)]
        curve = thermistor_curve("x", sender(points=rows, falls=False, pull_up="150 ohm", coldest="0 degC", hottest="100 degC"))
        self.assertEqual(curve.volts, sorted(curve.volts))
        self.assertLess(curve.residual_k, 5.0)  # a straight line in these coordinates; what it misses is shown

    def test_two_readers_by_hand(self) -> None:
        # Two pull-ups of 2,490 to 5 V act as one of 1,245; the unit takes the volts for its own alone.
        shared = {"name": "old box", "pull_up": "2490 ohm", "supply": "5 V"}
        curve, fit = thermistor_curve("x", sender(shared=shared, coldest="20 degC", hottest="30 degC")), fit_thermistor(POINTS)
        ohms = fit.resistance(curve.share_error_at_k or 0)
        volts = 5 * ohms / (ohms + 1245)
        believed = 2490 * volts / (5 - volts)
        self.assertAlmostEqual(curve.share_error_k or 0, fit.temperature(believed) - (curve.share_error_at_k or 0), places=6)
        self.assertLess(curve.share_error_k or 0, 0)  # fed twice it reads colder
        self.assertIsNone(thermistor_curve("x", sender()).share_error_k)

    def test_bad_points_are_named(self) -> None:
        same = [
            {"temperature": "0 degC", "resistance": "5900 ohm"},
            {"temperature": "20 degC", "resistance": "5900 ohm"},
            {"temperature": "90 degC", "resistance": "240 ohm"},
        ]
        twice = [*same[:1], {"temperature": "0 degC", "resistance": "2450 ohm"}, same[2]]
        rising = [same[0], {"temperature": "20 degC", "resistance": "7000 ohm"}, same[2]]
        for points, wants in (
            (same, "falls as it gets hotter"),
            (twice, "different temperatures"),
            (rising, "falls as it gets hotter"),
        ):
            with self.subTest(wants), self.assertRaises(BuildError) as caught:
                edited("tern", {"/sensors/coolant/points": points})
            self.assertEqual(caught.exception.problems[0].at, "/sensors/coolant/points")
            self.assertIn(wants, caught.exception.problems[0].wants)
        with self.assertRaises(BuildError) as caught:
            edited("tern", {"/sensors/coolant/falls": False})
        self.assertIn("rises as it gets hotter", caught.exception.problems[0].wants)


class Lines(unittest.TestCase):
    def test_two_points_and_least_squares(self) -> None:
        two = line([(0.5, 20e3), (4.5, 115e3)])
        self.assertAlmostEqual(two.slope, 23750.0)
        self.assertAlmostEqual(two.high, 20e3 + 4.25 * 23750.0)
        three = line([(0.5, 20e3), (2.5, 68e3), (4.5, 115e3)])
        self.assertTrue(0 < three.residual < 500)

    def test_lambda_from_volts(self) -> None:
        found = worked("tern").sensors.oxygen
        assert found is not None
        self.assertAlmostEqual(found.offset + found.slope * 2.5, 1.02, places=9)
        with self.assertRaises(BuildError) as caught:
            edited("tern", {"/sensors/oxygen/points": [{"volts": "1 V", "value": 0.7}, {"volts": "1 V", "value": 1.3}]})
        self.assertIn("different voltages", caught.exception.problems[0].wants)

    def test_bad_lines_are_named(self) -> None:
        for points, at, wants in (
            (
                [{"volts": "1 V", "value": "20 kPa"}, {"volts": "1 V", "value": "90 kPa"}],
                "/sensors/pressure/points",
                "two different voltages",
            ),
            (
                [{"volts": "1 V", "value": "20 kPa"}, {"volts": "4 V", "value": "20 kPa"}],
                "/sensors/pressure/points",
                "two different pressures",
            ),
            ([{"volts": "1 V", "value": "20 mm"}, {"volts": "4 V", "value": "90 kPa"}], "/sensors/pressure/points/0/value", "pressure"),
        ):
            with self.subTest(wants), self.assertRaises(BuildError) as caught:
                edited("tern", {"/sensors/pressure/points": points})
            self.assertEqual(caught.exception.problems[0].at, at)
            self.assertIn(wants, caught.exception.problems[0].wants)

    def test_a_gauge_sensor_reads_from_ambient(self) -> None:
        r = worked("tern", {"/sensors/pressure/reads": "gauge"}).sensors.pressure
        own = worked("tern").sensors.pressure
        assert r is not None and own is not None
        self.assertAlmostEqual(r.line.high - own.line.high, 101325.0, places=6)


class Exhaust(unittest.TestCase):
    PATH = [
        {"length": "400 mm", "bend": "60 deg"},
        {"length": "200 mm", "what": "merge"},
        {"length": "1 m", "bend": "30 deg"},
        {"length": "1.5 m"},
    ]

    def at(self, distance: str, clock: str = "45 deg", **more: Any) -> list[str]:
        found = exhaust.work_out(OxygenSensor.model_validate({"path": self.PATH, "distance": distance, "clock": clock, **more}))
        return [place.told("{:.3g} m".format) for place in found.wrong]

    def test_the_allowed_stretches_by_hand(self) -> None:
        found = exhaust.work_out(OxygenSensor.model_validate({"path": self.PATH}))
        self.assertEqual((found.length_m, found.merge_m), (3.1, 0.6000000000000001))
        self.assertEqual(
            [(round(a, 3), round(b, 3)) for a, b in found.allowed_m], [(0.65, 1.25)]
        )  # 600 mm of pipe have cooled the gas: from 50 mm after the merge on, 600 mm farther at most

    def test_each_rule(self) -> None:
        self.assertEqual(self.at("1.2 m"), [])
        for distance, clock, word in (
            ("300 mm", "45 deg", "before all pipes"), ("630 mm", "45 deg", "has mixed"), ("2.5 m", "45 deg", "late and cool"), ("1.58 m", "45 deg", "in a bend"),
            ("2.9 m", "45 deg", "outside air"), ("5 m", "45 deg", "beyond the tail"), ("1.2 m", "-10 deg", "below level"), ("1.2 m", "4 deg", "10° at least"), ("1.2 m", "81 deg", "80° at most"),
        ):  # fmt: skip
            with self.subTest(word):
                self.assertTrue(any(word in w for w in self.at(distance, clock)), self.at(distance, clock))
        self.assertEqual(self.at("620 mm"), ["it sits 0.02 m after the merge, before what the pipes bring has mixed; 0.05 m at least"])
        self.assertEqual(self.at("700 mm", nearest="900 mm"), ["only 0.7 m of pipe from the ports cool the gas: too hot; 0.9 m at least"])
        after = [*self.PATH[:3], {"length": "300 mm", "what": "catalyst"}, {"length": "1.5 m"}]
        self.assertTrue(any("catalyst" in w for w in self.at("2 m", path=after)))

    @settings(max_examples=examples(80), deadline=None)
    @given(
        st.lists(
            st.tuples(st.integers(50, 1500), st.integers(0, 120), st.sampled_from(["pipe", "pipe", "merge", "silencer", "catalyst"])),
            min_size=1,
            max_size=8,
        )
    )
    def test_what_is_allowed_is_allowed_everywhere_in_it(self, rows: list[tuple[int, int, str]]) -> None:
        path = [{"length": f"{mm} mm", "bend": f"{deg} deg", "what": what} for mm, deg, what in rows]
        found = exhaust.work_out(OxygenSensor.model_validate({"path": path}))
        for a, b in found.allowed_m:
            for share in (0.01, 0.5, 0.99):
                here = {"path": path, "distance": f"{(a + (b - a) * share) * 1e3:.4f} mm", "clock": "45 deg"}
                self.assertEqual(exhaust.work_out(OxygenSensor.model_validate(here)).wrong, [])


class Ignition(unittest.TestCase):
    def outputs(self, *cylinders: list[int]) -> dict[str, Any]:
        return {"/ignition/letters": [], "/ignition/outputs": [{"name": n, "cylinders": c} for n, c in zip("ABC", cylinders, strict=True)]}

    def test_the_usual_mistakes_are_told_by_name(self) -> None:
        for cylinders, fault, on_time in (
            (([1, 6], [2, 5], [4, 3]), "", 6),
            (([2, 5], [1, 6], [3, 4]), "A and B are changed over", 2),
            (([3, 4], [5, 2], [1, 6]), "the outputs run backwards through the firing order", 2),
            (([5, 2], [3, 4], [1, 6]), "every output is 1 late: each spark comes 120 degrees off", 0),
            (([1, 6], [5, 2], [3, 1]), "cylinder 4 has no spark", 5),
        ):
            r = worked("tern", self.outputs(*cylinders)).ignition
            with self.subTest(fault):
                self.assertEqual((r.order_fault, r.cylinders_on_time), (fault, on_time))

    def test_letters_from_the_other_end(self) -> None:
        doc = document("hollin")
        doc["ignition"] |= {"outputs": [{"name": str(c), "cylinders": [c]} for c in (4, 2, 1, 3)], "letters": []}
        self.assertEqual(
            worked("hollin", {"/ignition/outputs": doc["ignition"]["outputs"]}).ignition.order_fault,
            "the letters run from the other end of the engine",
        )
        self.assertIn(
            "other end",
            next(f.why for f in plan("hollin", {"/ignition/outputs": doc["ignition"]["outputs"]}).findings if f.code == "IGN-04"),
        )

    def test_the_harness_counts_before_what_was_said(self) -> None:
        crossed = {"/ignition/letters/0/output": "B", "/ignition/letters/1/output": "A"}
        r = worked("tern", crossed).ignition
        self.assertEqual((r.outputs_in_order, r.order_fault), (False, "A and B are changed over"))
        self.assertEqual([row.wired for row in r.outputs], [[5, 2], [1, 6], [3, 4]])

    def test_the_rotor_by_hand(self) -> None:
        changes = {"/ignition/distributor": {"rotor_tip": "22 deg", "meets": "20 deg", "advance_least": "4 deg", "advance_most": "40 deg"}}
        r = worked("brindle", changes).ignition
        assert r.rotor is not None
        self.assertEqual((r.rotor.least_deg, r.rotor.most_deg, r.rotor.best_meets_deg, r.rotor_span_deg), (8.0, -10.0, 22.0, 18.0))
        self.assertEqual(r.fit_deg, 22.0)
        keeps = worked("brindle", {**changes, "/ignition/timed_by_unit": False}).ignition
        self.assertEqual((keeps.rotor, keeps.fit_deg), (None, 4.0))
        self.assertIsNone(worked("tern").ignition.fit_deg)
        self.assertFalse(r.rotor.covered)  # 10 and 1.5 to spare is more than 11
        best = worked("brindle", {"/ignition/distributor": {**changes["/ignition/distributor"], "meets": "22 deg"}}).ignition
        assert best.rotor is not None
        self.assertTrue(best.rotor.covered)

    @given(st.floats(-3, 3), st.floats(-2, 2))
    def test_a_delay_is_found_from_the_light(self, off: float, drift: float) -> None:
        rows = [
            {"speed": f"{rpm} rpm", "commanded": "10 deg", "observed": f"{10 + off + drift * rpm / 1000:.6f} deg"}
            for rpm in (200, 1000, 2000, 3500)
        ]
        r = worked("tern", {"/ignition/timing": rows}).ignition
        self.assertAlmostEqual(r.drift_deg or 0.0, drift, places=4)
        self.assertAlmostEqual(r.offset_deg or 0.0, off + drift * 0.2, places=4)

    def test_no_drift_from_looks_at_one_speed(self) -> None:
        rows = [
            {"speed": "900 rpm", "commanded": "10 deg", "observed": "11 deg"},
            {"speed": "1100 rpm", "commanded": "15 deg", "observed": "16 deg"},
        ]
        r = worked("tern", {"/ignition/timing": rows}).ignition
        self.assertEqual((r.drift_deg, r.offset_deg), (None, 1.0))

    def test_the_ramp_is_an_exponential_that_ends_where_it_should(self) -> None:
        r = worked("tern").ignition
        for point in r.ramp:
            hot = 0.55 * (1 + 0.00393 * 60)
            self.assertAlmostEqual(point.amps[1], 10.5 / hot * (1 - math.exp(-point.time_s * hot / 3.6e-3)), places=9)
        self.assertAlmostEqual(plan("tern").figures["ignition.energy"].value or 0, 3.6e-3 * 7.5**2 / 2 * 1e3, places=6)
        self.assertEqual(plan("tern").figures["ignition.tach.pulses"].value, 3.0)
        duty = plan("tern").figures["ignition.duty.limit"].value or 0
        self.assertAlmostEqual(plan("tern").figures["ignition.driver.heat"].value or 0, 1.5 * 7.5 / 2 * duty, places=6)

    def test_two_points_at_one_voltage_are_no_line_yet(self) -> None:
        one = {"volts": "0.5 V", "value": "20 kPa"}
        for typed in ([one], [one, one]):
            found = worked("tern", {"/sensors/pressure/typed": typed}).sensors.pressure
            self.assertIsNone(found and found.typed_off_pa)

    def test_bad_input_is_named(self) -> None:
        for changes, at, wants in (
            ({"/ignition/coil/resistance": "0 ohm"}, "/ignition/coil/resistance", "between 0.1 ohm"),
            ({"/ignition/letters/1/letter": "A"}, "/ignition/letters", "each letter once"),
            ({"/ignition/letters/1/cylinders": [9]}, "/ignition/letters/1/cylinders", "cylinders that the engine has"),
            (
                {"/ignition/distributor": {"advance_least": "30 deg", "advance_most": "20 deg"}},
                "/ignition/distributor/advance_most",
                "more than the least advance",
            ),
            ({"/engine/firing_order": [1, 5, 3]}, "/engine/firing_order", "each of the cylinders"),
            ({"/sensors/pressure/typed": [{"volts": "1 V", "value": "20 kPa x"}]}, "/sensors/pressure/typed/0/value", "write it like"),
        ):
            with self.subTest(at), self.assertRaises(BuildError) as caught:
                edited("tern", changes)
            self.assertEqual(caught.exception.problems[0].at, at)
            self.assertIn(wants, caught.exception.problems[0].wants)


class Whole(unittest.TestCase):
    def test_a_build_that_says_nothing_of_its_sensors_is_whole(self) -> None:
        doc = document()
        doc["sensors"], doc["marks"] = {}, {}
        build = parse(doc)
        self.assertEqual((build.sensors.trigger, build.sensors.coolant, build.sensors.decisions), (None, None, {}))
        found = [f for f in evaluate(build).findings if f.code.startswith(("SENS", "TRIG"))]
        self.assertEqual({f.severity for f in found if f.code not in ("SENS-01", "TRIG-05")}, {"note"})


if __name__ == "__main__":
    unittest.main()
