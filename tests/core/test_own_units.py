"""In whose units a person is told, what a bare number means to him, and when he is asked."""

import itertools
import re
import unittest
from typing import Any

from tests import golden
from tests.builds import document, plan
from uphill_spark import demo
from uphill_spark.core.errors import BuildError, PatchError
from uphill_spark.core.given import apply_edit, parse
from uphill_spark.core.given.own import as_field
from uphill_spark.core.given.readings import readings
from uphill_spark.core.plan import evaluate, evaluated
from uphill_spark.core.scales import scale, span
from uphill_spark.core.units import UNITS, Quantity, Units, si, told_in

DIMENSION = {
    "pressure": "pressure", "loss": "pressure", "flow": "volume flow", "heat": "temperature", "length": "length", "gap": "length", "velocity": "velocity", "road": "velocity", "power": "power",
}  # fmt: skip


class Told(unittest.TestCase):
    def test_figures_in_each_way_are_the_same_figure(self) -> None:
        for name in demo.NAMES:
            plans = {u: evaluate(parse(document(name)), u) for u in UNITS}
            for key, plain in plans["metric"].figures.items():
                self.assertIsNone(plain.also, key)
                for u in UNITS:
                    f = plans[u].figures[key]
                    self.assertEqual((f.value, f.unit), (plain.value, plain.unit))
                    if f.also is not None:
                        self.assertEqual(f.also, plain.shown)
            self.assertEqual([f.code for f in plans["metric"].findings], [f.code for f in plans["imperial"].findings])

    def test_imperial_has_psi_and_horsepower_and_the_other_behind(self) -> None:
        figures = evaluate(parse(document("tern")), "imperial").figures
        for name, shown, also in (("fuel.gauge.key_on", r"43\.\d+ psi", r"300 kPa|299\.\d kPa"), ("engine.power.from_air", r"1\d\d\.\d hp", r"\d+\.\d+ kW"), ("fuel.hottest", r"\d+(\.\d)? °F", r"\d+(\.\d+)? °C"),
                                  ("fuel.need", r"12\.6\d gal/h", r"47\.83 L/h"), ("engine.vacuum", r"\d+\.\d+ inHg", r"\d+(\.\d+)? kPa")):  # fmt: skip
            with self.subTest(name):
                self.assertRegex(figures[name].shown, f"^({shown})$")
                self.assertRegex(figures[name].also or "", f"^({also})$")

    def test_as_written_the_nearest_field_tells(self) -> None:
        psi = plan("tern", {"/fuel/regulator/set_pressure": "43.5 PSI"})
        self.assertRegex(psi.figures["fuel.rail.pressure.idle"].shown, "psi$")
        self.assertRegex(psi.figures["engine.ambient_pressure"].shown, "kPa$")
        self.assertRegex(plan("tern").figures["fuel.rail.pressure.idle"].shown, "kPa$")
        self.assertRegex(plan("tern", {"/engine/power": "158 hp"}).figures["engine.power.from_air"].shown, "hp$")

    def test_sentences_tell_nothing_metric_alone_to_who_thinks_in_inches(self) -> None:
        """What was typed stands as it was typed, and so do parts that are sold by the millimetre."""
        seen = 0
        for name in golden.CARS:
            for f in evaluate(parse(golden.document(name)), "imperial").findings:
                for found in re.finditer(r"[\d.]+ (kPa|L/h|kW|°C|g/min|m/s|mm|cm|m)\b(?!²)", f"{f.why} {f.do}"):
                    seen += 1
                    with self.subTest(name, code=f.code, why=f.why, do=f.do):
                        self.assertRegex(f"{f.why} {f.do}"[: found.start()], r"\((\d[\d.]* to )?$")
        self.assertGreater(seen, 40)

    def test_a_scale_is_the_unit_of_the_figures_beside_it(self) -> None:
        for name, units in itertools.product(demo.NAMES, UNITS):
            found = evaluate(parse(document(name)), units)
            for kind, figure in (("pressure", "fuel.gauge.key_on"), ("flow", "fuel.need"), ("power", "engine.power.from_air"), ("compression", "engine.compression.expected"), ("injector", "injectors.nominal")):  # fmt: skip
                with self.subTest(name, units=units, kind=kind):
                    self.assertTrue(found.figures[figure].shown.endswith(f" {found.scales[kind].unit}"))  # type: ignore[index]

    def test_a_scale_tells_as_many_digits_as_are_worth_it(self) -> None:
        build = parse(document("tern"))
        for kind, si_value, metric, imperial in (
            ("pressure", 299922.0, "300 kPa", "43.5 psi"), ("loss", 1500.0, "1.5 kPa", "0.22 psi"), ("flow", 47.8 / 3.6e6, "48 L/h", "12.6 gal/h"), ("heat", 318.15, "45 °C", "113 °F"),
            ("length", 0.8, "800 mm", "31.50 in"), ("gap", 0.00087, "0.87 mm", "0.0343 in"), ("velocity", 2.5, "2.5 m/s", "8.2 ft/s"), ("road", 27.78, "100 km/h", "62 mph"), ("power", 118e3, "118 kW", "158 hp"),
        ):  # fmt: skip
            self.assertEqual([scale(build, u, kind).tell(si_value) for u in ("metric", "imperial")], [metric, imperial])  # type: ignore[arg-type]
            self.assertAlmostEqual(scale(build, "imperial", kind).of(si(imperial, DIMENSION[kind])), float(imperial.split(" ")[0]), 3)  # type: ignore[arg-type]

    def test_what_lies_between_is_told_with_the_other_behind(self) -> None:
        build = parse(document("tern"))
        self.assertEqual([span(build, u, "gap", 0.0005, 0.0015) for u in ("metric", "imperial")], ["0.50 to 1.50 mm", "0.0197 to 0.0591 in (0.50 to 1.50 mm)"])  # fmt: skip

    def test_an_edit_carried_on_is_told_as_from_nothing(self) -> None:
        """Another unit in one field changes how figures of other stations are told, though none of them moves."""
        before = parse(document("tern"))
        for units in UNITS:
            done = evaluated(before, units=units)
            for pointer, value in (
                ("/fuel/regulator/set_pressure", "43.5 psi"),
                ("/engine/power", "158.24 hp"),
                ("/fuel/tank/hottest", "113 degF"),
                ("/engine/health/0/vacuum", "16.3 inHg"),
            ):
                after = apply_edit(document("tern"), [{"op": "replace", "path": pointer, "value": value}])[2]
                with self.subTest(pointer, units=units):
                    self.assertEqual(evaluated(after, done, units=units).plan, evaluate(after, units))
            other: Units = "imperial" if units != "imperial" else "metric"
            self.assertEqual(evaluated(before, done, units=other).plan, evaluate(before, other))

    def test_a_field_shows_the_persons_unit_and_what_was_written_behind(self) -> None:
        q = Quantity("300 kPa", 3e5)
        self.assertEqual([as_field(q, u) for u in UNITS], [None, None, ("43.5 psi", "300 kPa")])
        q = Quantity("43.5 psi", si("43.5 psi", "pressure"))
        self.assertEqual([as_field(q, u) for u in UNITS], [("43.5 psi", "300 kPa"), ("300 kPa", "43.5 psi"), None])
        self.assertIsNone(as_field(Quantity("14 AWG", 2e-6), "metric"))
        self.assertIsNone(as_field(Quantity("9.2:1", 9.2), "imperial"))

    def test_what_a_field_shows_reads_back_as_nearly_the_same(self) -> None:
        for name, units in itertools.product(demo.NAMES, UNITS):
            for pointer, read in readings(parse(document(name)), units).items():
                if len(read) != 4:
                    continue
                with self.subTest(pointer, shown=read[2]):
                    for dimension in (
                        "pressure",
                        "length",
                        "power",
                        "temperature",
                        "volume",
                        "mass",
                        "volume flow",
                        "mass flow",
                        "velocity",
                        "specific consumption",
                        "torque",
                    ):
                        try:
                            self.assertLess(abs(si(read[2], dimension) - read.si), 0.006 * abs(read.si) + 0.3)
                            break
                        except Exception as error:
                            if isinstance(error, AssertionError):
                                raise
                    else:
                        self.fail(f"{read[2]} is not read")

    def test_told_in_three_digits(self) -> None:
        self.assertEqual(
            [told_in(v, u) for v, u in ((299922.0, "psi"), (0.0025, "in"), (1150.0, "lb"), (0.002597, "inch**3"))],
            ["43.5 psi", "0.0984 in", "2535 lb", "158 cu in"],
        )


class Typed(unittest.TestCase):
    def type(self, pointer: str, text: str, units: Units = "as_written", doc: dict[str, Any] | None = None, **more: Any) -> str:
        after, _, _ = apply_edit(doc or document("tern"), [{"op": "add", "path": pointer, "typed": text, **more}], units=units)
        here: Any = after
        for token in pointer.split("/")[1:]:
            here = here[int(token)] if isinstance(here, list) else here[token]
        return str(here)

    def test_a_bare_number_takes_the_unit_that_the_field_shows(self) -> None:
        at = "/fuel/regulator/set_pressure"
        self.assertEqual(self.type(at, "310"), "310 kPa")
        self.assertEqual(self.type(at, "45", "imperial"), "45 psi")
        psi = document("tern")
        psi["fuel"]["regulator"]["set_pressure"] = "43.5 psi"
        self.assertEqual((self.type(at, "45", doc=psi), self.type(at, "310", "metric", doc=psi)), ("45 psi", "310 kPa"))

    def test_in_an_empty_field_the_persons_own_never_a_silent_other(self) -> None:
        psi = document("tern")
        psi["fuel"]["regulator"]["set_pressure"] = "43.5 psi"
        psi["engine"]["compression"] = [{"cylinder": 1}]
        at = "/engine/compression/0/dry"
        self.assertEqual(
            (self.type(at, "117", doc=psi), self.type(at, "117", "imperial", doc=psi), self.type(at, "810", "metric", doc=psi)),
            ("117 psi", "117 psi", "810 kPa"),
        )

    def test_fractions_of_a_length_are_inches(self) -> None:
        for text, units in (("1/2", "as_written"), ("3/8", "metric"), ("1 1/4", "imperial")):
            self.assertEqual(self.type("/fuel/parts/supply/bore", text, units), f"{text} in")

    def test_counts_with_the_words_of_their_title(self) -> None:
        self.assertEqual((self.type("/engine/octane", "95 RON"), self.type("/sensors/trigger/teeth", "60 teeth")), ("95", "60"))
        with self.assertRaises(BuildError):
            self.type("/engine/octane", "95 MON")

    def test_sure_says_nothing_without_what_was_typed(self) -> None:
        for op in ({"sure": True}, {"value": "310 kPa", "sure": True}, {"typed": "310", "sure": "yes"}):
            with self.assertRaises(PatchError):
                apply_edit(document("tern"), [{"op": "add", "path": "/fuel/regulator/set_pressure", **op}])

    def test_far_from_what_stood_there_it_is_asked_and_taken_when_it_is_meant(self) -> None:
        at = "/fuel/regulator/set_pressure"  # 300 kPa
        for text in ("43.5", "1060"):
            with self.assertRaises(BuildError) as caught:
                self.type(at, text)
            self.assertIn("the 300 kPa that stood there", caught.exception.problems[0].wants)
        self.assertEqual(
            (self.type(at, "1000", sure=True), self.type(at, "90"), self.type(at, "43.5 psi")), ("1000 kPa", "90 kPa", "43.5 psi")
        )
        self.assertEqual(self.type("/fuel/tank/hottest", "8"), "8 degC")  # a temperature has no such ratio

    def test_a_bare_number_for_a_wire_may_be_a_gauge_and_is_asked_about(self) -> None:
        doc = document("tern")
        doc.setdefault("wiring", {}).setdefault("fitted", {})["pump_feed"] = {"size": "2.5 mm2"}
        at = "/wiring/fitted/pump_feed/size"
        with self.assertRaises(BuildError) as caught:
            self.type(at, "14", doc=doc)
        self.assertIn("the 2.5 mm2 that stood there", caught.exception.problems[0].wants)
        self.assertEqual((self.type(at, "4", doc=doc), self.type(at, "14 AWG", doc=doc), self.type(at, "14", doc=doc, sure=True)), ("4 mm2", "14 AWG", "14 mm2"))  # fmt: skip


if __name__ == "__main__":
    unittest.main()
