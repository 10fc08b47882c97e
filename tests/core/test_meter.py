"""The meter: the same volts as the balance, faults as edits, an open wire that reads nothing, ohms of windings."""

import unittest

from tests.builds import worked
from uphill_spark.core.circuit.live import METER_OHM, Change, Live
from uphill_spark.core.circuit.meter import read, resistance, terminals
from uphill_spark.core.circuit.netlist import BLOCK, MINUS, PLUS
from uphill_spark.core.circuit.states import ORDER, STATES
from uphill_spark.core.errors import NotConverged
from uphill_spark.core.physics.network import LEAST_OHMS


class SameVolts(unittest.TestCase):
    def test_the_meter_reads_what_the_balance_found(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            c = worked(car).circuit
            for state in ORDER:
                live = Live(c, state)
                u = live.potentials()
                still = {
                    n for load in c.netlist.loads if load.key in c.loads and not c.drawn(load.key, state) for n in (load.plus, load.minus)
                }
                hung = still | {f"{relay}.87" for relay in ("pump_relay", "lift_relay", "fan_relay", "oxygen_relay")}
                for name in c.solution.nodes:
                    if (
                        name in hung
                    ):  # what is off conducts for a meter, and hangs in the air for the balance: less than a tenth of a volt apart
                        self.assertAlmostEqual(float(u[live.nodes[name]]), c.solution.potential(name, ORDER.index(state)), delta=0.1)
                        continue
                    self.assertAlmostEqual(
                        float(u[live.nodes[name]]), c.solution.potential(name, ORDER.index(state)), delta=2e-5, msg=f"{car} {state} {name}"
                    )

    def test_a_voltmeter_between_two_driven_terminals_reads_their_difference(self) -> None:
        c = worked("tern").circuit
        self.assertAlmostEqual(Live(c, "full").volts("pump.plus", "pump.minus"), c.across("pump", "full"), delta=1e-4)
        self.assertAlmostEqual(Live(c, "run").volts(PLUS, MINUS), c.volts(PLUS, "run"), places=6)

    def test_a_wire_in_the_air_reads_nothing(self) -> None:
        c = worked("tern").circuit
        self.assertLess(abs(Live(c, "run", plugged=False).volts("coolant_temperature.signal", BLOCK)), 0.2)
        self.assertGreater(Live(c, "run").volts("coolant_temperature.signal", MINUS), 1.0)

    def test_a_terminal_that_is_not_there_is_named(self) -> None:
        with self.assertRaises(KeyError):
            Live(worked("tern").circuit, "run").volts("unit.Z9", MINUS)

    def test_every_terminal_can_be_read(self) -> None:
        c = worked("brindle").circuit
        live = Live(c, "idle")
        for name in terminals(c):
            self.assertLessEqual(abs(live.volts(name, MINUS)), STATES["idle"].posts_v + 1e-6, name)


class Faults(unittest.TestCase):
    def open(self, car: str, wire: str) -> tuple[Live, Change]:
        live = Live(worked(car).circuit, "full")
        a, b = live.ends[wire]
        return live, Change(a, b, -1 / live.ohms[wire] * (1 - 1e-9))

    def test_an_open_feed_takes_the_volts_away(self) -> None:
        live, fault = self.open("tern", "pump_feed")
        self.assertLess(abs(live.volts("pump.plus", "pump.minus", [fault])), 0.01)
        self.assertAlmostEqual(live.volts("pump_relay.87", MINUS, [fault]), STATES["full"].posts_v, delta=0.02)

    def test_an_open_ground_lifts_both_ends(self) -> None:
        live, fault = self.open("tern", "pump_ground")
        self.assertGreater(live.volts("pump.minus", MINUS, [fault]), 12)

    def test_a_change_is_the_same_as_a_harness_built_with_it(self) -> None:
        thin = worked("tern", {"/wiring/fitted/coil_ground": {"joints": [{"kind": "aged_crimp", "count": 40}]}}).circuit
        live = Live(worked("tern").circuit, "run")
        before, after = live.ohms["coil_ground"], thin.made["coil_ground"].ohms
        change = Change(*live.ends["coil_ground"], 1 / max(after, LEAST_OHMS) - 1 / before)
        there = Live(thin, "run")
        for name in ("coils.plus", "coils.minus", "pump.plus", "unit.A1"):
            self.assertAlmostEqual(live.volts(name, MINUS, [change]), there.volts(name, MINUS), places=4, msg=name)

    def test_changes_that_short_the_battery_do_not_lie(self) -> None:
        live = Live(worked("tern").circuit, "run")
        try:
            self.assertLess(live.volts("pump_relay.30", MINUS, [Change("pump_relay.30", MINUS, 1e4)]), 1.0)
        except NotConverged:
            self.fail("a short behind a fuse is a circuit like another")


class Amps(unittest.TestCase):
    def test_a_bridge_over_a_relay_shows_what_the_pump_draws(self) -> None:
        c = worked("tern").circuit
        found = read(c, "fuse.pump", "pump_relay.87", "run", "amps")
        self.assertAlmostEqual(found.value or 0, c.drawn("pump", "prime"), delta=0.2)
        self.assertIn("through the meter", found.says)

    def test_across_the_battery_its_fuse_goes(self) -> None:
        found = read(worked("tern").circuit, PLUS, MINUS, "off", "amps")
        self.assertIsNone(found.value)
        self.assertIn("its own fuse goes", found.says)

    def test_between_two_dead_ends_nothing_flows(self) -> None:
        self.assertAlmostEqual(read(worked("tern").circuit, "pump.plus", "pump.minus", "off", "amps").value or 0, 0, places=3)


class Ohms(unittest.TestCase):
    def test_windings_and_wires(self) -> None:
        c = worked("tern").circuit
        i = c.build.injectors.resistance.si
        self.assertAlmostEqual(resistance(c, "injector_1.1", "injector_1.2") or 0, i, delta=0.2)
        self.assertAlmostEqual(resistance(c, "pump_relay.87", "pump.plus") or 0, c.made["pump_feed"].ohms, delta=1e-3)
        self.assertIsNone(resistance(c, "pump_relay.30", "pump_relay.87"))  # a relay at rest
        self.assertAlmostEqual(resistance(c, BLOCK, MINUS) or 0, 0.0008, delta=1e-4)

    def test_a_buzzer_proves_a_path_and_nothing_more(self) -> None:
        found = read(worked("tern").circuit, "injector_1.1", "injector_1.2", "off", "ohms", plugged=False)
        self.assertIn("The buzzer sounds", found.says)
        self.assertIn("nothing of what it can carry", found.proves)
        self.assertIn("open", read(worked("tern").circuit, "pump_relay.30", "pump_relay.87", "off", "ohms", plugged=False).says)
        self.assertEqual(METER_OHM, 10e6)


if __name__ == "__main__":
    unittest.main()
