"""A circuit by itself: every wire of it, what feeds it, nothing of its neighbours, Kirchhoff's law at its terminals."""

import unittest

from tests.builds import worked
from uphill_spark.core.circuit.diagram import diagram, names
from uphill_spark.core.circuit.netlist import MINUS, PLUS
from uphill_spark.core.circuit.states import ORDER


class Drawn(unittest.TestCase):
    def test_every_circuit_of_every_car_can_be_drawn_in_every_state(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            c = worked(car).circuit
            for name in names(c):
                for state in (ORDER[0], ORDER[4], ORDER[6]):
                    found = diagram(c, name.key, state)
                    there = {s.key for s in found.spots}
                    self.assertTrue(found.ties, name.key)
                    for tie in found.ties:
                        self.assertLessEqual({tie.start, tie.end}, there)
                    wires = {w.key for circuit in c.netlist.circuits if circuit.key == name.key for w in circuit.wires}
                    self.assertEqual(wires, {t.key for t in found.ties if t.kind == "wire"})

    def test_the_pump_from_the_battery_to_its_ground(self) -> None:
        found = diagram(worked("tern").circuit, "pump", "prime")
        self.assertEqual(
            [(t.kind, t.start, t.end) for t in sorted(found.ties, key=lambda t: -next(s.volts for s in found.spots if s.key == t.start))],
            [
                ("fuse", PLUS, "fuse.pump"), ("wire", "fuse.pump", "pump_relay.30"), ("contact", "pump_relay.30", "pump_relay.87"),
                ("wire", "pump_relay.87", "pump.plus"), ("load", "pump.plus", "pump.minus"), ("wire", "pump.minus", MINUS),
            ],
        )  # fmt: skip
        self.assertEqual(len({round(t.amps, 2) for t in found.ties}), 1)  # in series, one current

    def test_a_relay_at_rest_is_open(self) -> None:
        found = diagram(worked("tern").circuit, "pump", "off")
        self.assertTrue(next(t for t in found.ties if t.kind == "contact").open)
        self.assertEqual(next(t for t in found.ties if t.key == "pump_feed").amps, 0.0)

    def test_power_stands_above_ground(self) -> None:
        for state in ORDER:
            found = diagram(worked("hollin").circuit, "coil_feed", state)
            order = {t.key: (t.start, t.end) for t in found.ties}
            self.assertEqual(order["coil_feed"], ("coil_relay.87", "coils.plus"))

    def test_one_that_is_not_there_is_refused(self) -> None:
        with self.assertRaises(KeyError):
            diagram(worked("tern").circuit, "moon", "run")


if __name__ == "__main__":
    unittest.main()
