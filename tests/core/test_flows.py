"""What flows where, a wire followed end to end, the faces of plugs: each held by the solve that it is taken from."""

import unittest

from tests.builds import worked
from uphill_spark.core.circuit.faces import faces
from uphill_spark.core.circuit.flows import flows
from uphill_spark.core.circuit.netlist import PLUS
from uphill_spark.core.circuit.states import ORDER
from uphill_spark.core.circuit.trace import traced

CARS = ("tern", "hollin", "brindle")


class Flowing(unittest.TestCase):
    def test_what_goes_to_the_tank_is_the_pump(self) -> None:
        c = worked("tern").circuit
        tank = next(b for b in flows(c, "full").branches if b.key == "unit_tank")
        self.assertAlmostEqual(tank.out_a, c.drawn("pump", "full"), delta=0.01)
        self.assertAlmostEqual(tank.back_a, tank.out_a, delta=0.01)  # grounded at the battery: out and back are one current

    def test_what_comes_back_by_the_body_is_not_in_the_branch(self) -> None:
        c = worked("tern", {"/wiring/grounds": {"pump": {"lands": "body"}}}).circuit
        tank = next(b for b in flows(c, "full").branches if b.key == "unit_tank")
        self.assertGreater(tank.out_a, 6)
        self.assertEqual(tank.back_a, 0.0)

    def test_nothing_flows_with_the_key_off(self) -> None:
        for car in ("tern", "hollin"):
            found = flows(worked(car).circuit, "off")
            self.assertEqual({(b.out_a, b.back_a) for b in found.branches}, {(0.0, 0.0)}, car)
        always = [c.draws.si for c in worked("brindle").circuit.build.wiring.own.values() if c.fed == "battery"]  # what is fed past the key
        self.assertAlmostEqual(max(b.out_a for b in flows(worked("brindle").circuit, "off").branches), sum(always), delta=0.1)

    def test_parts_tell_what_is_across_them(self) -> None:
        for car in CARS:
            c = worked(car).circuit
            for state in ORDER:
                for part in flows(c, state).parts:
                    self.assertIn(part.place, c.build.wiring.nodes, part)
                    self.assertAlmostEqual(part.volts, c.across(part.part, state), delta=1e-3)
        self.assertEqual([p.part for p in flows(worked("tern").circuit, "crank").parts if p.part == "starter"], ["starter"])

    def test_all_injectors_count(self) -> None:
        c = worked("tern").circuit
        told = next(p for p in flows(c, "full").parts if p.part == "injector_1")
        self.assertAlmostEqual(told.amps, sum(c.drawn(f"injector_{k}", "full") for k in range(1, 7)), delta=0.01)


class Followed(unittest.TestCase):
    def test_the_pump_from_the_battery_and_back(self) -> None:
        found = traced(worked("tern").circuit, "pump_feed", "prime")
        self.assertEqual(
            [s.key for s in found.spots], [PLUS, "fuse.pump", "pump_relay.30", "pump_relay.87", "pump.plus", "pump.minus", "battery.minus"]
        )
        self.assertEqual([t.kind for t in found.ties], ["fuse", "wire", "contact", "wire", "load", "wire"])
        self.assertEqual(found.places[4], "tank")
        self.assertEqual(len({round(t.amps, 2) for t in found.ties}), 1)

    def test_a_signal_from_the_units_five_volts_to_its_ground(self) -> None:
        keys = [s.key for s in traced(worked("tern").circuit, "crank_signal", "run").spots]
        self.assertEqual(keys[0], PLUS)
        self.assertLess(keys.index("unit.inside.five_volt"), keys.index("crank.signal"))
        self.assertLess(keys.index("crank.signal"), keys.index("unit.inside.ground"))

    def test_every_wire_lies_on_its_own_way_in_every_state(self) -> None:
        for car in CARS:
            c = worked(car).circuit
            for wire in c.made:
                for state in ("off", "run", "full"):
                    found = traced(c, wire, state)
                    self.assertEqual([t.key for t in found.ties].count(wire), 1, (car, wire, state))
                    self.assertEqual(len(found.spots), len(found.ties) + 1)
                    self.assertEqual(len({s.key for s in found.spots}), len(found.spots), (car, wire))

    def test_a_relay_at_rest_is_open_on_the_way(self) -> None:
        self.assertTrue(next(t for t in traced(worked("tern").circuit, "pump_feed", "off").ties if t.kind == "contact").open)

    def test_one_that_is_not_there(self) -> None:
        with self.assertRaises(KeyError):
            traced(worked("tern").circuit, "moon", "run")


class Plugs(unittest.TestCase):
    def test_every_end_at_a_plug_is_in_a_hole_and_tells_its_volts(self) -> None:
        for car in CARS:
            c = worked(car).circuit
            holes = {h.terminal: h for f in faces(c, "run") for row in f.rows for h in row}
            for key, m in c.made.items():
                for end in (m.wire.start, m.wire.end):
                    if end.startswith("unit.") and end != "unit.none":
                        self.assertIn(key, holes[end].wires, (car, key))
            for pin in c.harness.pins:
                self.assertIn(f"unit.{pin.pin}", holes)

    def test_rows_are_counted_and_at_most_ten_wide(self) -> None:
        unit = faces(worked("tern").circuit, "run")[0]
        self.assertEqual(unit.part, "unit")
        self.assertLessEqual(max(len(row) for row in unit.rows), 10)
        self.assertEqual([h.pin for h in unit.rows[0]][:3], ["A1", "A2", "A3"])
        self.assertTrue(all(h.pin[0] == row[0].pin[0] for row in unit.rows for h in row))  # letters are not mixed in a row


if __name__ == "__main__":
    unittest.main()
