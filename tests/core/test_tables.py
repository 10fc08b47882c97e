"""The tables that hold the house together: reference data, the registry of checks, the graph of figures."""

import unittest

from tests.builds import worked
from uphill_spark.core import reference
from uphill_spark.core.figures import Spec, pointers, show
from uphill_spark.core.findings import CHECKS, SEVERITIES, WORDS
from uphill_spark.core.findings.base import check, grade
from uphill_spark.core.given.document import touches
from uphill_spark.core.given.fuel import FittingKind, LineMaterial
from uphill_spark.core.given.wiring import ContactKind, ProfileName, Zone
from uphill_spark.core.plan import evaluate
from uphill_spark.core.worked import DEPENDS, SPECS


class Reference(unittest.TestCase):
    def test_every_choice_of_the_build_has_its_data_and_the_other_way_round(self) -> None:
        for choices, data in (
            (FittingKind, reference.fittings()),
            (ContactKind, reference.contacts()),
            (LineMaterial, reference.lines()),
            (Zone, reference.zones()),
            (ProfileName, reference.profiles()),
        ):
            self.assertEqual(set(choices.__args__), set(data))

    def test_sizes_and_fuses_rise(self) -> None:
        areas = [w.area for w in reference.wires()]
        outsides = [w.outside for w in reference.wires()]
        for row in (areas, outsides, reference.fuses()):
            self.assertEqual(row, sorted(set(row)))

    def test_carburettor_hose_is_never_for_the_pressure_side(self) -> None:
        for name in ("30R6", "30R7", "30R10", "soft_alloy_tube"):
            self.assertFalse(reference.lines()[name].pressure_side, name)

    def test_pins_of_a_control_unit_have_names_of_their_own(self) -> None:
        for unit in reference.profiles().values():
            names = [name for group in unit.pins for name in group.pins]
            self.assertEqual(len(names), len(set(names)), unit.label)

    def test_shelf_pumps_have_sheets_that_a_build_takes(self) -> None:
        for pump in reference.pumps():
            rows = pump.table()
            self.assertGreaterEqual(len(rows), 6)
            self.assertEqual(set(rows[0]), {"voltage", "pressure", "flow", "current"})


class Registry(unittest.TestCase):
    def test_codes_are_single_and_stand_in_the_order_of_work(self) -> None:
        codes = [c.code for c in CHECKS]
        self.assertEqual(len(codes), len(set(codes)))
        shown = [f.station for f in evaluate(worked("brindle").build).findings if f.severity == "stop"]
        self.assertEqual(
            list(dict.fromkeys(shown)), ["engine", "fuel", "injectors", "air", "sensors", "ignition", "wiring", "tune", "start"]
        )
        for c in CHECKS:
            self.assertTrue(c.figure is None or c.figure in SPECS, c.code)

    def test_a_code_cannot_be_taken_twice(self) -> None:
        with self.assertRaises(ValueError):
            check("FUEL-01", "/fuel", "again", source="none")(lambda w, say: iter(()))

    def test_grades(self) -> None:
        self.assertEqual([grade(v, 1, 2, 3) for v in (1, 1.5, 2.5, 3.5)], ["sound", "watch", "sort_out", "stop"])
        self.assertEqual(grade(9, 1, 2), "sort_out")

    def test_every_severity_has_a_word(self) -> None:
        self.assertEqual(set(WORDS), set(SEVERITIES))


class Graph(unittest.TestCase):
    def spec(self, name: str, *uses: str) -> Spec:
        return Spec(name, "1", name, uses, "test", lambda r: None)

    def test_causes_are_followed_through_other_figures(self) -> None:
        table = {s.name: s for s in (self.spec("a", "/x"), self.spec("b", "a", "/y"), self.spec("c", "b", "a"))}
        self.assertEqual(pointers(table), {"a": ("/x",), "b": ("/x", "/y"), "c": ("/x", "/y")})

    def test_a_ring_is_refused(self) -> None:
        table = {s.name: s for s in (self.spec("a", "b"), self.spec("b", "a"))}
        with self.assertRaises(ValueError) as caught:
            pointers(table)
        self.assertIn("a -> b -> a", str(caught.exception))

    def test_every_figure_rests_on_the_build(self) -> None:
        for name, places in DEPENDS.items():
            self.assertTrue(places, name)

    def test_places_that_touch(self) -> None:
        self.assertTrue(touches("/fuel/wire", "/fuel/wire/length") and touches("/fuel/wire/length", "/fuel/wire") and touches("/a", "/a"))
        self.assertFalse(touches("/fuel/wire", "/fuel/wires") or touches("/fuel", "/engine"))


class Reading(unittest.TestCase):
    def test_digits_that_matter(self) -> None:
        for value, unit, share, words in (
            (None, "V", False, "not known"),
            (0.5371, "1", False, "0.537"),
            (3.0, "1", False, "3"),
            (60.8, "L/h", False, "60.80 L/h"),
            (182.519, "L/h", False, "182.5 L/h"),
            (12345.6, "1", False, "12,346"),
            (56.6543, "mohm", False, "56.65 mΩ"),
            (8.4, "deg", False, "8.40°"),
            (0.6917, "1", True, "69 %"),
            (0.0398, "1", True, "4.0 %"),
            (0.0, "1", True, "0 %"),
            (2.336, "1", True, "234 %"),
        ):
            with self.subTest(value=value, unit=unit):
                self.assertEqual(show(value, unit, share), words)

    def test_figures_and_findings_carry_their_words(self) -> None:
        plan = evaluate(worked("brindle").build)
        self.assertEqual(plan.figures["injectors.duty.full"].shown, "86 %")
        duty = next(f for f in plan.findings if f.code == "INJ-01")
        self.assertEqual((duty.shown, duty.shown_limit), ("86 %", "85 %"))


class Circuits(unittest.TestCase):
    def test_each_wire_is_named_once_and_fused_where_it_leaves_the_battery(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            w = worked(car)
            wires = w.circuit.netlist.conductors
            self.assertEqual(len({x.key for x in wires}), len(wires))
            for x in wires:
                if x.start == "battery.plus":
                    self.assertIsNotNone(x.fuse, x.key)

    def test_what_is_chosen_brings_its_wires(self) -> None:
        def keys(car: str, changes: dict[str, object] | None = None) -> set[str]:
            return {x.key for x in worked(car, changes).wiring.wires}

        tern = keys("tern")
        self.assertIn("fan_feed", tern)
        self.assertNotIn("fan_feed", keys("tern", {"/wiring/extras": []}))
        self.assertNotIn("pump_relay_coil", keys("tern", {"/fuel/pump/control": "relay_with_cutout"}))
        self.assertNotIn("cam_signal", keys("tern", {"/sensors/decisions/cam": "struck"}))
        self.assertIn("crank_5v", tern)
        self.assertNotIn("crank_5v", keys("tern", {"/sensors/trigger/sensor": "variable_reluctance"}))
        self.assertEqual(len([k for k in tern if k.startswith("coil_") and k.endswith("_trigger")]), 3)
        self.assertIn("speed_signal", keys("brindle", {"/ignition/timed_by_unit": False}))
        self.assertFalse([k for k in keys("brindle") if k.startswith("injector_")])

    def test_several_injectors_on_a_driver_share_its_pin(self) -> None:
        w = worked("tern", {"/injectors/per_driver": 2}).wiring
        self.assertEqual(len({x.end for x in w.wires if x.key.endswith("_output")}), 3)


if __name__ == "__main__":
    unittest.main()
