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

    def test_capitals_and_other_spellings(self) -> None:
        """As people write it, whatever the key for capitals does: each line is one quantity."""
        for dimension, *texts in (
            ("pressure", "58 psi", "58 PSI", "58 Psi", "58 psig"), ("pressure", "3 bar", "3 Bar", "3 BAR", "300 kpa", "300 KPA"), ("pressure", "18 inHg", "18 INHG", "18 in hg"),
            ("power", "158 hp", "158 HP", "158 BHP", "158 bhp"), ("power", "160 PS", "160 ps", "160 Ps"), ("power", "118 kW", "118 KW", "118 kw"), ("speed", "5200 rpm", "5200 RPM", "5200 r/min"),
            ("voltage", "12.4 V", "12.4 v", "12,4 Volt"), ("length", "85 mm", "85 MM", "8.5 CM"), ("volume", "350 ci", "350 CID", "350 cu in", "350 cid"), ("volume", "1285 cc", "1285 ccm", "1285 CCM", "1.285 l"),
            ("length", "-6", "-6 AN", "AN6", "AN-6", "#6", "6 an", "dash -6"), ("wire size", "16 AWG", "16 ga", "AWG16", "#16", "16 gauge", "AWG 16"), ("wire size", "2.5 mm2", "2,5 mm²", "2.5 sq mm", "2.5 MM2"),
            ("length", "13 ft", "13'", "13 Ft"), ("length", "5.5 ft", "5' 6\"", "5 ft 6 in"), ("ratio", "7.5:1", "7,5 to 1", "7.5", "1 to 7.5"), ("temperature", "20 degC", "20 C", "20 °c", "20 celsius", "293.15 K"),
            ("inductance", "3.6 mH", "3.6 MH"), ("resistance", "2.2 kohm", "2.2 K", "2.2 kΩ", "2200 OHM"), ("mass flow", "24 lb/h", "24 LB/HR", "24 lbs/hr"), ("time", "0.9 ms", "0.9 MS", "900 us"),
        ):  # fmt: skip
            wanted = si(texts[0], dimension)
            for text in texts[1:]:
                with self.subTest(text):
                    self.assertAlmostEqual(si(text, dimension) / wanted, 1, places=5)
        self.assertNotAlmostEqual(si("3 mV", "voltage"), si("3 V", "voltage"))  # what is written right is taken as it is written

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
