"""Faults put into a harness and found again by what a meter shows; what the ranking may and may not say."""

import unittest
from unittest.mock import patch

from tests.builds import worked
from uphill_spark.core.circuit import live as live_module
from uphill_spark.core.circuit.faults import MOST_TOLD, Explained, Fault, Taken, Tester
from uphill_spark.core.circuit.live import Change
from uphill_spark.core.circuit.netlist import BLOCK, MINUS
from uphill_spark.core.circuit.states import ORDER, KeyState


class WhatIsShown(unittest.TestCase):
    """What a fault does, as a person would see it."""

    def setUp(self) -> None:
        self.tester = Tester(worked("tern").circuit)

    def volts(self, fault: str, state: KeyState, red: str, black: str = MINUS) -> float:
        found = next(f for f in self.tester.faults if f.key == fault)
        shown = self.tester.shows(found, Taken(red=red, black=black, state=state, volts=0))
        assert shown is not None
        return shown

    def test_a_unit_without_its_feed_pulls_no_relay_in(self) -> None:
        for fault in ("unit_feed.open", "ignition_feed.open", "fuse.unit.blown", "fuse.ignition.blown"):
            self.assertLess(self.volts(fault, "prime", "pump.plus"), 0.5, fault)
        self.assertGreater(self.volts("unit_feed.open", "prime", "pump_relay.30"), 12)

    def test_a_relay_whose_coil_is_cut_drops_out_and_the_others_do_not(self) -> None:
        self.assertLess(self.volts("pump_relay_coil.open", "prime", "pump.plus"), 0.5)
        self.assertGreater(self.volts("pump_relay_coil.open", "prime", "coils.plus"), 11)

    def test_a_stuck_relay_runs_the_pump_with_the_key_off(self) -> None:
        self.assertGreater(self.volts("pump_relay.contact.stuck", "off", "pump.plus"), 11)
        self.assertLess(self.volts("sound", "off", "pump.plus"), 0.5)

    def test_a_painted_strap_lifts_the_block_while_cranking(self) -> None:
        self.assertGreater(self.volts("block_strap.poor", "crank", BLOCK), 1.0)
        self.assertLess(self.volts("sound", "crank", BLOCK), 0.2)

    def test_a_chafed_five_volts_takes_every_sensor_on_it_down(self) -> None:
        for sensor in ("throttle_position", "manifold_pressure"):
            self.assertLess(self.volts("throttle_position_5v.chafed", "run", f"{sensor}.5v"), 1.0)
        self.assertGreater(self.volts("sound", "run", "throttle_position.5v"), 4.8)

    def test_a_fault_that_changes_nothing_in_a_state_shows_nothing_there(self) -> None:
        self.assertEqual(self.volts("fuse.fan.blown", "off", "fan.plus"), self.volts("sound", "off", "fan.plus"))

    def test_without_its_lamp_the_alternator_never_begins_to_charge(self) -> None:
        for fault in ("charge_lamp.blown", "exciter.open", "alternator.dead"):
            self.assertLess(self.volts(fault, "idle", "battery.plus"), 12, fault)
            self.assertEqual(self.volts(fault, "run", "battery.plus"), self.volts("sound", "run", "battery.plus"), fault)
        self.assertGreater(self.volts("sound", "run", "alternator.exciter"), 1)  # the lamp over the field
        self.assertLess(self.volts("charge_lamp.blown", "run", "alternator.exciter"), 0.1)

    def test_pins_in_each_others_place_turn_the_pump_round(self) -> None:
        key = next(f.key for f in self.tester.faults if f.kind == "swapped_pins" and f.key.endswith(".pump"))
        self.assertGreater(self.volts(key, "prime", "pump.minus"), 11)
        self.assertLess(self.volts(key, "prime", "pump.plus"), 0.5)

    def test_a_five_volt_pin_and_its_signal_in_each_others_place(self) -> None:
        key = next(
            f.key
            for f in self.tester.faults
            if f.kind == "swapped_pins" and f.key.endswith("throttle_position_signal.throttle_position") and "5v" in f.key
        )
        self.assertGreater(self.volts(key, "run", "throttle_position.signal"), self.volts("sound", "run", "throttle_position.signal") + 1)

    def test_a_diode_the_wrong_way_round_takes_the_coils_volts(self) -> None:
        across = self.volts("pump_relay.diode", "prime", "pump_relay.86", "pump_relay.85")
        self.assertLess(across, 4)
        self.assertGreater(self.volts("sound", "prime", "pump_relay.86", "pump_relay.85"), 11)

    def test_an_old_relay_feeds_the_pump_when_the_unit_does_not(self) -> None:
        self.assertGreater(self.volts("old_pump_relay", "run", "pump.plus"), 11)
        self.assertLess(self.volts("sound", "run", "pump.plus"), 0.5)


class Found(unittest.TestCase):
    """A fault put in, three readings typed: it is among what is told."""

    def readings(self, tester: Tester, fault: Fault, at: list[tuple[str, KeyState]]) -> list[Taken]:
        found = []
        for red, state in at:
            volts = tester.shows(fault, Taken(red=red, black=MINUS, state=state, volts=0.0))
            assert volts is not None, fault.key
            found.append(Taken(red=red, black=MINUS, state=state, volts=round(volts, 1)))
        return found

    def asked(self, car: str, key: str, at: list[tuple[str, KeyState]]) -> Explained:
        tester = Tester(worked(car).circuit)
        fault = next(f for f in tester.faults if f.key == key)
        return tester.explain(self.readings(tester, fault, at))

    def test_three_readings_find_what_was_put_in(self) -> None:
        for key, at in (
            ("pump_feed.open", [("pump.plus", "prime"), ("pump_relay.87", "prime"), ("pump_relay.30", "prime")]),
            ("fuse.injectors.blown", [("injector_1.1", "run"), ("main_relay.30", "run"), ("main_relay.87", "run")]),
            ("block_strap.poor", [(BLOCK, "crank"), ("coils.minus", "crank"), ("battery.plus", "crank")]),
            ("coil_ground.poor", [("coils.minus", "full"), ("coils.plus", "full"), (BLOCK, "full")]),
            ("charge_lamp.blown", [("battery.plus", "idle"), ("alternator.exciter", "run"), ("charge_lamp.out", "run")]),
            ("pump_feed.swapped.pump_ground.pump", [("pump.plus", "prime"), ("pump.minus", "prime"), ("pump_relay.87", "prime")]),
            ("pump_ground.poor", [("pump.minus", "full"), ("pump.plus", "full"), ("unit.A1", "full")]),
        ):
            found = self.asked("tern", key, at)
            self.assertIn(key, [s.key for s in found.suspects[:2]], [(s.key, round(s.chance, 2)) for s in found.suspects])
            self.assertGreater(next(s.chance for s in found.suspects if s.key == key), 0.3, key)

    def test_what_is_measured_next_tells_the_two_likeliest_apart(self) -> None:
        found = self.asked("tern", "pump_supply.open", [("pump.plus", "prime")])
        self.assertGreater(len(found.suspects), 3)  # one reading of nought volts has many causes, and says so
        self.assertLess(found.suspects[0].chance, 0.5)
        assert found.next is not None
        self.assertGreater(max(v for _, v in found.next.shows) - min(v for _, v in found.next.shows), 1.0)

    def test_following_the_advice_ends_at_the_fault(self) -> None:
        for car, key in (("tern", "unit_feed.open"), ("hollin", "pump_feed.open"), ("brindle", "fuse.coils.blown")):
            tester = Tester(worked(car).circuit)
            fault = next(f for f in tester.faults if f.key == key)
            start = "coils.plus" if "coils" in key else "pump.plus"
            at: list[tuple[str, KeyState]] = [(start, "prime")]
            found = tester.explain(self.readings(tester, fault, at))
            while found.next is not None and len(at) < 8:
                at.append((found.next.red, found.next.state))
                found = tester.explain(self.readings(tester, fault, at))
            self.assertIn(key, [s.key for s in found.suspects[:3]], (car, [(s.key, round(s.chance, 2)) for s in found.suspects], at))

    def test_readings_of_a_sound_harness_are_called_sound(self) -> None:
        tester = Tester(worked("tern").circuit)
        sound = tester.faults[0]
        found = tester.explain(self.readings(tester, sound, [("pump.plus", "prime"), ("unit.A1", "run"), (BLOCK, "crank")]))
        self.assertEqual(found.suspects[0].key, "sound")
        self.assertGreater(found.suspects[0].chance, 0.5)

    def test_chances_add_up_to_one_at_most_and_fall(self) -> None:
        found = self.asked("brindle", "pump_feed.poor", [("pump.plus", "full")])
        chances = [s.chance for s in found.suspects]
        self.assertEqual(chances, sorted(chances, reverse=True))
        self.assertLessEqual(sum(chances), 1 + 1e-9)
        self.assertLessEqual(len(chances), MOST_TOLD)
        self.assertIn("One fault at a time", found.assumes)

    def test_every_fault_of_every_car_settles_in_every_state(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            tester = Tester(worked(car).circuit)
            unsettled = [(f.key, state) for state in ORDER for f in tester.faults if tester.shown(f, state) is None]
            self.assertEqual(unsettled, [], car)


class HangingInTheAir(unittest.TestCase):
    """Terminals to which next to nothing leads, and a change on them: what it does is left over of very large numbers."""

    STATES: tuple[KeyState, ...] = ("off", "run", "full")

    def test_with_the_key_off_pins_that_are_swapped_carry_nothing_to_the_ignition(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            tester = Tester(worked(car).circuit)
            fault = next(f for f in tester.faults if f.key == "unit_feed.swapped.ignition_feed.unit")
            for at in ("ignition_switch.run", "main_relay.86"):
                shown = tester.shows(fault, Taken(red=at, black=MINUS, state="off", volts=0.0))
                assert shown is not None
                self.assertLess(abs(shown), 0.05, f"{car} {at}")

    def test_every_fault_reads_as_if_the_harness_had_been_built_with_it(self) -> None:
        circuit = worked("tern").circuit
        as_told = Tester(circuit)
        with patch.object(live_module, "_LOST", -1.0):
            as_built = Tester(circuit)
            as_built.explain([Taken(red="pump.plus", black=MINUS, state=state, volts=9.0) for state in self.STATES])
        for state in self.STATES:
            for fault in as_told.faults:
                a, b = as_told.shown(fault, state), as_built.shown(fault, state)
                assert a is not None and b is not None
                self.assertLess(float(abs(a - b).max()), 1e-4, f"{fault.key} {state}")


class LettingGo(unittest.TestCase):
    def test_a_relay_in_the_plan_itself_lets_go_and_the_pump_stands(self) -> None:
        """A feed that loses most of its volts: the solve finds it, nobody assumes it."""
        thin = {"/wiring/fitted/pump_relay_coil": {"joints": [{"kind": "aged_crimp", "count": 60}], "size": "0.2 mm2", "length": "30 m"}}
        self.assertNotIn("pump_relay.contact", worked("tern", thin).circuit.gone["prime"])
        live = worked("tern").circuit
        self.assertEqual({k for k, gone in live.gone.items() if gone}, set())

    def test_under_a_change_contacts_open_only(self) -> None:
        tester = Tester(worked("tern").circuit)
        live = tester.live("prime")
        a, b = live.ends["unit_ground"]
        u = live.potentials([Change(a, b, -1 / live.ohms["unit_ground"] * (1 - 1e-9), "unit_ground")])
        self.assertLess(abs(float(u[live.nodes["pump.plus"]])), 0.5)


if __name__ == "__main__":
    unittest.main()
