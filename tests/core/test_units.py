"""The edge between what a person writes and SI."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from uphill_spark.core.errors import UnitError
from uphill_spark.core.units import DASH_BORES, DIMENSIONS, Quantity, from_si, si


class Reading(unittest.TestCase):
    def test_what_people_write(self) -> None:
        cases = [
            ("43.5 psi", "pressure", 299921.94),
            ("3 bar", "pressure", 3e5),
            ("3/8 in", "length", 9.525e-3),
            ('3/8"', "length", 9.525e-3),
            ("1 1/4 in", "length", 31.75e-3),
            ("7,9 mm", "length", 7.9e-3),
            ("2,597 cc", "volume", 2597e-6),
            ("2.6 L", "volume", 2.6e-3),
            ("14 AWG", "wire size", 2.0809e-6),
            ("2.5 mm2", "wire size", 2.5e-6),
            ("5200 rpm", "speed", 5200 / 60),
            ("20 C", "temperature", 293.15),
            ("68 °F", "temperature", 293.15),
            ("0.304 kg/kWh", "specific consumption", 0.304 / 3.6e6),
            ("150 cc/min", "volume flow", 2.5e-6),
            ("15.51 lb/h", "mass flow", 15.51 * 0.45359237 / 3600),
            ("9.2:1", "ratio", 9.2),
            ("1:10.5", "ratio", 10.5),
            ("-6", "length", 7.9e-3),
            ("158 hp", "power", 117820.6),
            ("2.49 kohm", "resistance", 2490),
            ("0.9 ms", "time", 9e-4),
            ("60 deg", "angle", 60),
            ("5.529999999999999 mm", "length", 5.53e-3),
            ("-3 mm", "length", -3e-3),
            (".5 m", "length", 0.5),
        ]
        for text, dimension, wanted in cases:
            with self.subTest(text):
                self.assertAlmostEqual(si(text, dimension) / wanted, 1, places=4)

    def test_a_dash_size_is_sixteenths_of_an_inch_of_tube_less_its_wall(self) -> None:
        for dash, bore in DASH_BORES.items():
            wall = (dash * 25.4e-3 / 16 - bore) / 2
            self.assertTrue(0.7e-3 < wall < 1.7e-3, (dash, wall))

    def test_refusals_say_what_would_do(self) -> None:
        for text, dimension, word in [
            ("43 mm", "pressure", "does not measure pressure"),
            ("50 Hz", "speed", "not a speed of rotation"),
            ("nan kPa", "pressure", "no number"),
            ("9**9**9 kPa", "pressure", "not known"),
            ("5", "pressure", "unit is missing"),
            ("3 foo", "length", "not known"),
            ("5 kPa**2", "pressure", "does not measure"),
            ("1/0 in", "length", "over zero"),
            ("", "length", "no number"),
            ("1.2.3 mm", "length", "not a number"),
            ("-7", "length", "dash size"),
            ("x" * 80, "length", "too long"),
            ("9:2:1", "ratio", "not a ratio"),
        ]:
            with self.subTest(text), self.assertRaises(UnitError) as caught:
                si(text, dimension)
            self.assertIn(word, str(caught.exception))

    @given(st.floats(-1e6, 1e6, allow_nan=False), st.sampled_from(["kPa", "bar", "psi", "Pa", "inHg"]))
    def test_there_and_back(self, number: float, unit: str) -> None:
        value = si(f"{number:.6f} {unit}", "pressure")
        self.assertTrue(math.isclose(from_si(value, unit), round(number, 6), rel_tol=1e-9, abs_tol=1e-9))

    @given(st.text(max_size=80), st.sampled_from(sorted(DIMENSIONS)))
    def test_any_text_is_read_or_refused(self, text: str, dimension: str) -> None:
        try:
            self.assertTrue(math.isfinite(si(text, dimension)))
        except UnitError as error:
            self.assertTrue(str(error))

    def test_a_quantity_is_the_text_as_written(self) -> None:
        q = Quantity("43.5 psi", 299921.9)
        self.assertEqual(q, "43.5 psi")
        self.assertEqual(q.si, 299921.9)

    def test_examples_can_be_read(self) -> None:
        for name, dimension in DIMENSIONS.items():
            with self.subTest(name):
                self.assertTrue(math.isfinite(si(dimension.example, name)))


if __name__ == "__main__":
    unittest.main()
