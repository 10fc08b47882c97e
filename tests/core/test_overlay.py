"""What a person decides against the proposal: parts elsewhere, wires left out, called otherwise, added; what would hang in the air or short is refused."""

import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import worked
from uphill_spark.core.circuit.overlay import KEPT, where
from uphill_spark.core.errors import BuildError

LAMP = {"label": "Glove box lamp", "start": "battery.plus", "end": "own_interior_lamp.plus", "carries": "2 A", "fused": True}


def added(**changes: Any) -> dict[str, Any]:
    return {"/wiring/added": {"one": LAMP | changes}}


class Added(unittest.TestCase):
    def test_a_wire_is_routed_sized_fused_and_solved_like_another(self) -> None:
        w = worked("tern", added())
        wire = w.circuit.made["added_one"].wire
        self.assertEqual((wire.start_place, wire.end_place, wire.fuse), ("battery", "dash", "added_one"))
        self.assertEqual(next(f.load_a for f in w.wiring.fuses if f.key == "added_one"), 2.0)
        self.assertGreater(w.circuit.volts("own_interior_lamp.plus", "off"), 12)  # fed with the key off now
        self.assertLess(worked("tern").circuit.volts("own_interior_lamp.plus", "off"), 0.1)

    def test_a_second_feed_beside_a_thin_one_takes_its_share(self) -> None:
        before = worked("tern").circuit
        after = worked("tern", added(start="pump_relay.87", end="pump.plus", carries="10 A", fused=False)).circuit
        self.assertLess(after.amps("pump_feed", "full"), before.amps("pump_feed", "full"))
        self.assertGreater(after.volts("pump.plus", "full"), before.volts("pump.plus", "full"))

    def test_a_wire_to_a_free_pin_gets_what_that_pin_is_inside(self) -> None:
        free = next(p.pin for p in worked("tern").wiring.pins if p.kind == "low_side" and not p.wires)
        c = worked("tern", added(start="own_interior_lamp.plus", end=f"unit.{free}", carries="1 A", fused=False)).circuit
        self.assertLess(c.volts(f"unit.{free}", "run"), 13)
        self.assertIn(f"unit.{free}.driver", dict(c.branches))

    def test_what_will_not_do_is_refused_by_name(self) -> None:
        for changes, words in (
            ({"start": "battery.plus", "end": "battery.minus"}, ("shorts battery plus to ground", "Glove box lamp")),
            ({"end": "head.stud"}, ("shorts battery plus to ground", "block strap")),
            ({"end": "crank.5v"}, ("5 V", "crank trigger 5 V")),
            ({"start": "crank.5v", "end": "cam.ground", "fused": False}, ("5 V to ground", "cam phase sensor ground")),
            ({"start": "unit.Z9", "fused": False}, ("not there", "unit.Z9")),
            ({"end": "moon"}, ("not there", "moon")),
            ({"start": "pump.plus", "end": "pump.plus", "fused": False}, ("another terminal",)),
            ({"start": "pump.plus", "fused": True}, ("battery.plus",)),
            ({"carries": "-2 A"}, ("carries",)),
            ({"start": "Battery Plus"}, ("start",)),
        ):
            with self.assertRaises(BuildError, msg=str(changes)) as caught:
                worked("tern", added(**changes))
            self.assertIn("/wiring/added/one", caught.exception.problems[0].at)
            for word in words:
                self.assertIn(word, str(caught.exception), changes)

    def test_of_several_wires_the_one_that_shorts_is_named(self) -> None:
        sound = LAMP | {"label": "Sound"}
        with self.assertRaises(BuildError) as caught:
            worked("tern", {"/wiring/added": {"a": sound, "b": LAMP | {"end": "battery.minus"}}})
        self.assertEqual(caught.exception.problems[0].at, "/wiring/added/b")

    def test_behind_a_contact_it_is_no_short_of_the_battery(self) -> None:
        """A bypass of a relay joins two feeds, not a feed and its ground."""
        c = worked("tern", added(end="pump.plus", carries="10 A")).circuit
        self.assertGreater(c.volts("pump.plus", "off"), 12)


class LeftOut(unittest.TestCase):
    def test_a_ground_may_go_where_another_stands(self) -> None:
        changes = {"/wiring/left_out": ["coil_ground"], **added(start="coils.minus", end="body.boss", carries="15 A", fused=False)}
        w = worked("tern", changes)
        self.assertNotIn("coil_ground", [r.key for r in w.wiring.wires])
        self.assertGreater(w.circuit.volts("coils.minus", "full"), 0.01)
        self.assertGreater(w.circuit.drawn("coils", "full"), 1)

    def test_what_would_hang_in_the_air_is_named(self) -> None:
        for key, part in (
            ("coil_ground", "Coils minus"),
            ("fan_feed", "Fan relay"),
            ("crank_signal", "Crank signal"),
            ("own_interior_lamp_ground", "Interior lamp minus"),
        ):
            with self.assertRaises(BuildError, msg=key) as caught:
                worked("tern", {"/wiring/left_out": [key]})
            self.assertIn(part, caught.exception.message)
            self.assertEqual(caught.exception.problems[0].at, "/wiring/left_out/0")

    def test_another_wire_that_leads_to_nothing_is_no_ground(self) -> None:
        changes = {"/wiring/left_out": ["fan_ground"], **added(start="fan.minus", end="crank.signal", carries="15 A", fused=False)}
        with self.assertRaises(BuildError) as caught:
            worked("tern", changes)
        self.assertIn("fan would hang in the air", caught.exception.message)

    def test_what_pump_and_unit_run_by_stays(self) -> None:
        for key in KEPT:
            with self.assertRaises(BuildError, msg=key):
                worked("tern", {"/wiring/left_out": [key]})

    def test_a_part_goes_with_all_its_wires(self) -> None:
        lamp = {"/wiring/left_out": [f"own_interior_lamp_{end}" for end in ("feed", "ground")]}
        w = worked("tern", lamp)
        self.assertNotIn("own_interior_lamp_feed", [r.key for r in w.wiring.wires])
        self.assertNotIn("own_interior_lamp", w.circuit.loads)
        alone = worked("tern", {"/wiring/left_out": ["tachometer"]}).circuit
        self.assertNotIn("load.tachometer", dict(alone.branches))


class Placed(unittest.TestCase):
    def test_a_part_that_sits_elsewhere_moves_its_wires(self) -> None:
        near, far = (worked("tern", c).circuit.made["crank_signal"] for c in ({}, {"/wiring/sits": {"crank": "exhaust"}}))
        self.assertEqual((near.wire.start_place, far.wire.start_place), ("front", "exhaust"))
        self.assertNotEqual(near.length_m, far.length_m)

    def test_a_name_is_the_persons_own(self) -> None:
        w = worked("tern", {"/wiring/names": {"crank_signal": "Tooth wire"}})
        self.assertEqual(next(r.label for r in w.wiring.wires if r.key == "crank_signal"), "Tooth wire")

    def test_parts_and_places_that_are_not_there(self) -> None:
        for sits in ({"moon": "dash"}, {"pump": "moon"}):
            with self.assertRaises(BuildError) as caught:
                worked("tern", {"/wiring/sits": sits})
            self.assertIn("/wiring/sits/", caught.exception.problems[0].at)

    def test_every_terminal_is_somewhere(self) -> None:
        for car in ("tern", "hollin", "brindle"):
            c = worked(car).circuit
            self.assertLessEqual(set(where(c.netlist).values()), set(c.build.wiring.nodes), car)


class Tree(unittest.TestCase):
    def test_a_ring_of_branches_is_refused_by_the_one_that_closes_it(self) -> None:
        with self.assertRaises(BuildError) as caught:
            worked("tern", {"/wiring/branches/again": {"start": "dash", "end": "engine", "length": "1 m", "zone": "cabin"}})
        self.assertEqual(caught.exception.problems[0].at, "/wiring/branches/again")

    @settings(max_examples=examples(10))
    @given(
        st.sampled_from(["fan.plus", "coils.plus", "pump.minus", "crank.ground", "body.boss", "unit.A5"]),
        st.sampled_from(["fan.minus", "head.stud", "cam.signal", "pump.plus", "unit.B1"]),
    )
    def test_any_two_terminals_give_a_plan_or_a_reason(self, start: str, end: str) -> None:
        try:
            w = worked("tern", added(start=start, end=end, carries="3 A", fused=False))
        except BuildError as refused:
            self.assertIn("/wiring/added", refused.problems[0].at)
        else:
            self.assertLess(w.circuit.solution.residual, 1e-6)


if __name__ == "__main__":
    unittest.main()
