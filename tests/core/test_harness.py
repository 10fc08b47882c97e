"""The harness as people find and decide it: battery and alternator behind the posts, grounds, own circuits, old wires, a loom, the test sheet."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import document, plan, worked
from uphill_spark.core.circuit.joints import FIELD_OHM
from uphill_spark.core.circuit.netlist import BLOCK, BODY, LAMP_OHM, MINUS, PLUS
from uphill_spark.core.circuit.old_wire import LOOKS, kind_of, says
from uphill_spark.core.circuit.states import CHARGING_V, CRANK_V, ORDER, REST_V
from uphill_spark.core.circuit.supply import HEALTHY_OHM
from uphill_spark.core.errors import BuildError
from uphill_spark.core.given import parse
from uphill_spark.core.given.harness import KeyPosition
from uphill_spark.core.stages.wiring.balance import memory_days

BARE = {"/wiring/battery": {}, "/wiring/charging": {}, "/wiring/own": {}}


class Posts(unittest.TestCase):
    """What stands behind the posts."""

    def test_a_battery_of_which_nothing_is_told_is_planned_with(self) -> None:
        c = worked("tern", BARE).circuit
        self.assertEqual([c.volts(PLUS, k) for k in ("off", "crank", "idle")], [REST_V, CRANK_V, CHARGING_V])

    def test_rest_alone_moves_what_stands_still_and_not_the_starter(self) -> None:
        c = worked("tern", {**BARE, "/wiring/battery": {"rest": "12.7 V"}}).circuit
        self.assertAlmostEqual(c.volts(PLUS, "run"), 12.7, places=3)
        self.assertAlmostEqual(c.volts(PLUS, "crank"), CRANK_V, delta=0.005)

    def test_the_starter_takes_what_the_inner_resistance_makes_of_its_current(self) -> None:
        c = worked("tern", {**BARE, "/wiring/battery": {"rest": "12.6 V", "inner": "6 mohm", "starter": "180 A"}}).circuit
        drawn = c.drawn_a["crank"]
        self.assertGreater(drawn, 185)
        self.assertAlmostEqual(c.volts(PLUS, "crank"), 12.6 - 0.006 * drawn, delta=0.02)
        self.assertAlmostEqual(c.volts(BLOCK, "crank"), 0.144, delta=0.003)  # 180 A through a strap of 0.8 mohm, and the coils' share

    def test_a_spent_alternator_leaves_the_rest_to_the_battery(self) -> None:
        c = worked(
            "tern", {**BARE, "/wiring/battery": {"rest": "12.6 V", "inner": "6 mohm"}, "/wiring/charging": {"output_idle": "20 A"}}
        ).circuit
        over = c.drawn_a["idle"] - 20.0
        self.assertGreater(over, 5)
        self.assertAlmostEqual(c.volts(PLUS, "idle"), 12.6 - 0.006 * over, delta=0.02)
        self.assertAlmostEqual(c.volts(PLUS, "full"), CHARGING_V, delta=0.001)

    def test_an_alternator_that_gives_enough_holds_its_volts(self) -> None:
        for amps in ("31 A", "200 A"):
            c = worked("tern", {**BARE, "/wiring/charging": {"output_idle": amps}}).circuit
            self.assertEqual(c.volts(PLUS, "idle"), CHARGING_V)

    def test_a_unit_that_gets_too_little_sleeps_and_takes_all_with_it(self) -> None:
        w = worked("tern", {**BARE, "/wiring/battery": {"rest": "12.2 V", "inner": "45 mohm"}})
        crank = next(r for r in w.wiring.states if r.key == "crank")
        self.assertIn("main_relay.contact", crank.let_go)
        self.assertLess(w.circuit.across("coils", "crank"), 0.5)

    def test_balance_is_known_where_the_alternator_is(self) -> None:
        rows = {r.key: r for r in worked("tern", {**BARE, "/wiring/charging": {"output_full": "60 A"}}).wiring.states}
        self.assertIsNone(rows["idle"].balance_a)
        self.assertAlmostEqual(rows["full"].balance_a or 0, 60 - rows["full"].drawn_a, places=9)
        self.assertAlmostEqual(rows["run"].balance_a or 0, -rows["run"].drawn_a, places=9)

    def test_days_asleep(self) -> None:
        asleep = parse(document("tern") | {"wiring": document("tern")["wiring"] | {"battery": {"capacity": 60, "asleep": "25 mA"}}})
        self.assertAlmostEqual(memory_days(asleep) or 0, 60 * 0.5 / 0.025 / 24, places=9)  # 50 days
        self.assertIsNone(memory_days(parse(document("hollin"))))

    @settings(max_examples=examples(15))
    @given(st.floats(2, 30), st.floats(40, 400))
    def test_what_leaves_the_post_is_what_the_loads_take(self, inner: float, starter: float) -> None:
        battery = {"rest": "12.6 V", "inner": f"{inner:.2f} mohm", "starter": f"{starter:.0f} A"}
        c = worked("tern", {**BARE, "/wiring/battery": battery}).circuit
        self.assertAlmostEqual(c.volts(PLUS, "crank"), 12.6 - inner * 1e-3 * c.drawn_a["crank"], delta=0.05)
        self.assertLess(c.solution.residual, 1e-6)


class Grounds(unittest.TestCase):
    """Where grounds land moves the volts of what hangs on them."""

    def test_a_strap_of_eight_milliohm_lifts_the_block(self) -> None:
        c = worked("tern", {**BARE, "/wiring/grounds": {"block_strap": {"ohms": "8 mohm"}}}).circuit
        self.assertGreater(c.volts(BLOCK, "crank"), 1.3)

    def test_a_unit_on_the_head_rides_up_with_it(self) -> None:
        minus = worked("tern", {**BARE, "/wiring/grounds": {"unit": {"lands": "battery_minus"}}}).circuit
        head = worked("tern", {**BARE, "/wiring/grounds": {"unit": {"lands": "head"}}}).circuit
        self.assertEqual(head.made["unit_ground"].wire.end, BLOCK)
        self.assertLess(head.across("unit", "crank"), minus.across("unit", "crank") - 0.05)

    def test_both_at_once_send_the_starters_current_through_the_units_wires(self) -> None:
        both = worked("tern", {**BARE, "/wiring/grounds": {"unit": {"lands": "minus_and_head"}, "block_strap": {"ohms": "8 mohm"}}}).circuit
        self.assertGreater(both.amps("unit_ground", "crank"), 20)

    def test_a_pump_on_the_body_has_a_short_lead_and_the_straps_in_its_way(self) -> None:
        body = worked("tern", {**BARE, "/wiring/grounds": {"pump": {"lands": "body"}, "body_strap": {"ohms": "50 mohm"}}}).circuit
        self.assertEqual(body.made["pump_ground"].wire.end, BODY)
        self.assertGreater(body.volts(BODY, "full"), 0.3)

    def test_a_sensor_ground_tied_to_the_body_shifts_what_is_read(self) -> None:
        strap = {"block_strap": {"ohms": "8 mohm"}}
        alone = worked("tern", {**BARE, "/wiring/grounds": strap}).circuit
        looped = worked("tern", {**BARE, "/wiring/grounds": {**strap, "sensors": {"lands": "unit_and_body"}}}).circuit
        at = "coolant_temperature.ground"
        self.assertGreater(looped.volts(at, "crank"), alone.volts(at, "crank") + 0.1)


class OldWires(unittest.TestCase):
    """Old wires that are used on lie in the circuit."""

    def test_an_old_charging_lead_takes_its_share_of_the_posts(self) -> None:
        c = worked("tern", {**BARE, "/wiring/old": [{"what": "charging_lead", "do": "keep", "ohms": "20 mohm"}]}).circuit
        for state in ("idle", "full"):
            self.assertAlmostEqual(c.volts(PLUS, state), CHARGING_V - 0.02 * c.drawn_a[state], delta=0.05)
        self.assertAlmostEqual(c.volts(PLUS, "run"), REST_V, places=3)
        gone = worked("tern", {**BARE, "/wiring/old": [{"what": "charging_lead", "do": "take_out", "ohms": "20 mohm"}]}).circuit
        self.assertEqual(gone.volts(PLUS, "full"), CHARGING_V)

    def test_an_old_ignition_feed_lies_before_all_that_hangs_on_the_key(self) -> None:
        before = worked("tern", BARE).circuit.volts("ignition_switch.run", "run")
        c = worked("tern", {**BARE, "/wiring/old": [{"what": "ignition_feed", "do": "feed_from", "ohms": "0.4 ohm"}]}).circuit
        self.assertLess(c.volts("ignition_switch.run", "run"), before - 0.2)

    def test_an_old_pump_relay_that_stays_runs_the_pump_with_the_key(self) -> None:
        for old, runs in (({"what": "pump_relay"}, True), ({"what": "pump_relay", "do": "take_out", "done": "yes"}, False)):
            c = worked("tern", {**BARE, "/wiring/old": [old]}).circuit
            self.assertEqual(c.volts("pump.plus", "run") > 11, runs, old)

    def test_the_exciter_is_fed_through_what_was_said(self) -> None:
        volts = {}
        for told in ("lamp", "resistor", "both", "bare"):
            volts[told] = worked("tern", {**BARE, "/wiring/charging": {"exciter": told}}).circuit.volts("alternator.exciter", "run")
        self.assertEqual(sorted(volts, key=lambda k: volts[k]), ["both", "resistor", "lamp", "bare"])
        self.assertAlmostEqual(volts["lamp"], 12.4 * FIELD_OHM / (FIELD_OHM + LAMP_OHM), delta=0.1)
        self.assertNotIn("exciter", worked("tern", BARE).circuit.made)  # not looked at: nothing is said of it


class WhichWire(unittest.TestCase):
    """What an old wire is by its volts with a lamp on it; each limit on both sides."""

    def kind(self, off: float | None, accessory: float | None, run: float | None, crank: float | None) -> str:
        told: dict[KeyPosition, float | None] = {"off": off, "accessory": accessory, "run": run, "crank": crank}
        return kind_of({key: v for key, v in told.items() if v is not None})

    def test_kinds(self) -> None:
        for kind, volts in {
            "permanent": (12.4, 12.4, 12.3, 9.9), "ignition_lives": (0, 0, 12.2, 9.8), "ignition_dies": (0, 0, 12.2, 0), "accessory": (0, 12.3, 12.2, 0), "ballast": (0, 0, 6.5, 9.5),
            "starter_only": (0, 0, 0, 9.6), "dead": (0, 0, 0, 0), "fed_back": (3, 0, 12, 9.8),
        }.items():  # fmt: skip
            self.assertEqual(self.kind(*volts), kind)

    def test_the_card_says_what_is_worked_out(self) -> None:
        volts = {"live": 12.2, "dead": 0.2, "half": 6.0, "not dead": 3.0, "either": 0.0}
        for kind, looks in LOOKS.items():
            off, accessory, run, crank = (volts[word] for word in looks)
            self.assertEqual(self.kind(off, accessory, run, min(crank, 9.8)), kind, looks)

    def test_limits(self) -> None:
        self.assertEqual(self.kind(0, None, 9.0, 7.5), "ignition_lives")
        self.assertEqual(self.kind(0, None, 9.0, 7.4), "ignition_dies")
        self.assertEqual(self.kind(0, None, 8.9, 7.5), "ballast")
        self.assertEqual(self.kind(0, None, 3.9, 7.5), "starter_only")
        self.assertEqual(self.kind(0.9, None, 12, 9.8), "ignition_lives")
        self.assertEqual(self.kind(1.0, None, 12, 9.8), "fed_back")

    def test_what_was_not_read_is_not_told(self) -> None:
        self.assertEqual(self.kind(0, 0, 12, None), "not_told")
        self.assertEqual(self.kind(0, 0, 12.2, 12.0), "not_told")  # the starter did not turn
        self.assertEqual(self.kind(0, 0, 12.2, 11.8), "ignition_lives")

    @settings(max_examples=examples(50))
    @given(*[st.floats(0, 16)] * 4)
    def test_any_four_volts_are_a_kind_in_words(self, off: float, accessory: float, run: float, crank: float) -> None:
        self.assertTrue(says(kind_of({"off": off, "accessory": accessory, "run": run, "crank": crank})))


class OwnCircuits(unittest.TestCase):
    """A circuit of one's own has a fuse, two wires and a place in the balance."""

    LAMPS = {"label": "Driving lamps", "place": "front", "draws": "9 A", "fed": "battery", "ground": "body"}

    def test_it_gets_wires_a_fuse_and_draws(self) -> None:
        before = worked("tern", BARE)
        after = worked("tern", {**BARE, "/wiring/own": {"lamps": self.LAMPS}})
        self.assertEqual(len(after.wiring.wires) - len(before.wiring.wires), 2)
        fuse = next(f for f in after.wiring.fuses if f.key == "own_lamps")
        self.assertEqual((fuse.load_a, fuse.proposed_a), (9.0, 15.0))
        self.assertAlmostEqual(after.circuit.drawn_a["full"] - before.circuit.drawn_a["full"], 9.0, delta=0.05)

    def test_on_the_key_it_sleeps_with_it(self) -> None:
        c = worked("tern", {**BARE, "/wiring/own": {"lamps": self.LAMPS | {"fed": "key"}}}).circuit
        self.assertEqual(c.drawn("own_lamps", "off"), 0.0)
        self.assertGreater(c.drawn("own_lamps", "run"), 8.9)

    def test_a_fan_on_a_shared_feed_moves_the_pumps_flow(self) -> None:
        soft = {**BARE, "/wiring/battery": {"rest": "12.6 V", "inner": "30 mohm"}}
        a = worked("tern", soft).fuel.points["prime"].flow_m3_s
        b = worked("tern", {**soft, "/wiring/own": {"lamps": self.LAMPS}}).fuel.points["prime"].flow_m3_s
        self.assertLess(b, a)

    def test_one_that_the_unit_switches_takes_an_output_and_its_limit(self) -> None:
        purge = {"label": "Purge valve", "place": "engine", "draws": "0.4 A", "ground": "unit_output"}
        w = worked("tern", {**BARE, "/wiring/own": {"purge": purge}})
        self.assertTrue(next(r.end for r in w.wiring.wires if r.key == "own_purge_ground").startswith("unit.B"))
        self.assertGreater(w.circuit.drawn("own_purge", "run"), 0.39)
        heavy = plan("tern", {**BARE, "/wiring/own": {"purge": purge | {"draws": "4 A"}}}).findings
        self.assertIn("sort_out", [f.severity for f in heavy if f.code == "WIRE-06"])
        self.assertNotIn(
            "sort_out", [f.severity for f in plan("tern", {**BARE, "/wiring/own": {"purge": purge}}).findings if f.code == "WIRE-06"]
        )

    def test_a_place_that_is_not_there_is_named(self) -> None:
        with self.assertRaises(BuildError) as caught:
            worked("tern", {"/wiring/own": {"lamps": self.LAMPS | {"place": "moon"}}})
        self.assertIn("moon", str(caught.exception))


class BadInput(unittest.TestCase):
    def test_names_that_lead_nowhere(self) -> None:
        for changes in (
            {"/wiring/holes": {"a": {"branch": "nowhere", "diameter": "20 mm"}}},
            {"/wiring/beside": {"nowhere": {}}},
            {"/wiring/tests": {"no_wire": {}}},
            {"/wiring/loom": [{"label": "x", "serves": "no_wire"}]},
            {"/wiring/fuses": {"own_lamps": 10}},
            {"/wiring/grounds": {"moon": {}}},
            {"/wiring/tests": {"unit_feed": {"volts": {"flying": "12 V"}}}},
            {"/wiring/battery": {"rest": "-3 V"}},
        ):
            with self.assertRaises(BuildError, msg=str(changes)) as caught:
                worked("tern", changes)
            self.assertTrue(caught.exception.problems, changes)
            self.assertIn("/wiring/", caught.exception.problems[0].at)


class PinTable(unittest.TestCase):
    """A control unit by its own sheet, and pins put by hand."""

    TABLE = [
        {"pin": p, "kind": k}
        for p, k in (
            ("1", "feed"), ("2", "ignition_feed"), ("3", "power_ground"), ("4", "sensor_ground"), ("5", "five_volt"), ("6", "thermistor"), ("7", "thermistor"), ("8", "analogue"),
            ("9", "analogue"), ("10", "analogue"), ("11", "crank_input"), ("12", "cam_input"), *((f"I{k}", "injector") for k in range(1, 7)), *((f"C{k}", "coil_logic") for k in range(1, 4)),
            *((f"L{k}", "low_side") for k in range(1, 6)),
        )
    ]  # fmt: skip

    def on(self, changes: dict[str, object]) -> dict[str, list[str]]:
        return {p.pin: p.wires for p in worked("tern", changes).wiring.pins}

    def test_its_own_table_stands_in_place_of_the_generic_one(self) -> None:
        found = self.on({"/wiring/unit/pins": self.TABLE})
        self.assertEqual(found["1"], ["unit_feed"])
        self.assertEqual(found["I6"], ["injector_6_output"])
        self.assertNotIn("A1", found)
        short = [row for row in self.TABLE if row["pin"] != "C3"]
        self.assertEqual(worked("tern", {"/wiring/unit/pins": short}).wiring.pins_short, ["coil 3 trigger"])

    def test_a_pin_put_by_hand_is_held_and_the_others_give_way(self) -> None:
        found = self.on({"/wiring/unit/chosen": {"injector_1_output": "B4"}})
        self.assertEqual(found["B4"], ["injector_1_output"])
        self.assertEqual(len({w for wires in found.values() for w in wires if w.startswith("injector_")}), 6)

    def test_one_of_another_kind_is_not_held_and_is_told(self) -> None:
        told = [f for f in plan("tern", {"/wiring/unit/chosen": {"injector_1_output": "A8"}}).findings if f.code == "WIRE-07"]
        self.assertIn("sort_out", [f.severity for f in told])
        self.assertIn("A8", told[0].why)

    def test_what_will_not_do_is_named(self) -> None:
        for changes in (
            {"/wiring/unit/pins": [{"pin": "1", "kind": "magic"}]},
            {"/wiring/unit/pins": [{"pin": "1", "kind": "feed"}, {"pin": "1", "kind": "feed"}]},
            {"/wiring/unit/chosen": {"injector_1_output": "Q7"}},
            {"/wiring/unit/chosen": {"no_wire": "A1"}},
            {"/wiring/unit/pins": [{"pin": str(k), "kind": "low_side"} for k in range(201)]},
        ):
            with self.assertRaises(BuildError, msg=str(changes)[:60]) as caught:
                worked("tern", changes)
            self.assertIn("/wiring/unit/", caught.exception.problems[0].at)


class Measured(unittest.TestCase):
    def test_an_old_wire_loses_what_was_measured_of_it(self) -> None:
        made = worked("tern", {**BARE, "/wiring/fitted/pump_feed": {"measured": "120 mohm"}}).circuit.made["pump_feed"]
        self.assertAlmostEqual(made.ohms, 0.120, places=9)


class Loom(unittest.TestCase):
    def test_each_circuit_is_judged_and_what_is_missing_is_told(self) -> None:
        rows = [
            {"label": "Red", "serves": "unit_feed", "length": "9 m", "ends": "in_use"},
            {"label": "Boost", "ends": "capped"},
            {"label": "Lift", "serves": "lift_feed"},
        ]
        loom = worked("tern", {"/wiring/loom": rows}).wiring.loom
        assert loom is not None
        self.assertEqual([r.verdict for r in loom.rows], ["needed", "not_needed", "no_such_wire"])
        self.assertGreater(loom.rows[0].over_m or 0, 1)
        self.assertIn("pump_feed", loom.missing)
        self.assertNotIn("unit_feed", loom.missing)


class TestSheet(unittest.TestCase):
    def rows(self, tests: dict[str, object]) -> dict[str, str]:
        return {r.wire: r.verdict for r in worked("tern", {"/wiring/tests": tests}).wiring.tests}

    def test_a_wire_passes_with_ends_no_short_and_volts_as_solved(self) -> None:
        good = {"stage": "tested", "continuity": "0.2 ohm", "short": "none"}
        self.assertEqual(self.rows({"pump_feed": good})["pump_feed"], "pass")
        self.assertEqual(self.rows({"pump_feed": {"continuity": "0.2 ohm"}})["pump_feed"], "open")
        self.assertEqual(self.rows({"pump_feed": good | {"short": "to_another"}})["pump_feed"], "fail")

    def test_readings_are_held_against_the_solve_on_both_sides(self) -> None:
        row = next(v for r in worked("tern").wiring.tests if r.wire == "pump_feed" for v in r.volts if v.state == "prime")
        for share, verdict in ((0.95, "pass"), (1.05, "fail")):
            for sign in (-1, 1):
                volts = f"{row.expected_v + sign * share * row.off_v:.4f} V"
                self.assertEqual(
                    self.rows({"pump_feed": {"continuity": "0.2 ohm", "short": "none", "volts": {"prime": volts}}})["pump_feed"], verdict
                )

    def test_signals_have_no_steady_volts(self) -> None:
        for r in worked("tern").wiring.tests:
            if r.wire.endswith(("_signal", "_output", "_trigger")):
                self.assertEqual(r.volts, [], r.wire)

    def test_what_fails_names_its_likeliest_cause(self) -> None:
        tests = {"pump_feed": {"continuity": "0.2 ohm", "short": "none", "volts": {"prime": "0 V"}}}
        found = next(f for f in plan("tern", {"/wiring/tests": tests}).findings if f.code == "WIRE-18")
        self.assertRegex(found.do, r"Likeliest: .*(pump|fuse)")


class Figures(unittest.TestCase):
    def test_every_state_has_its_volts_published(self) -> None:
        figures = plan("tern").figures
        for state in ORDER:
            for device in ("unit", "pump", "coils", "injectors", "battery"):
                self.assertIsNotNone(figures[f"wiring.{device}.volts.{state}"].value, (device, state))
        self.assertAlmostEqual(figures["wiring.block.rise.crank"].value or 0, 145, delta=3)
        self.assertAlmostEqual(figures["wiring.memory.days"].value or 0, 62.5, places=3)
        self.assertEqual(HEALTHY_OHM, 0.006)
        self.assertEqual(figures["wiring.battery.volts.off"].value, 12.6)
        self.assertGreater(plan("tern").figures["wiring.bundle.firewall"].value or 0, 10)
        self.assertLess(worked("tern").circuit.volts(MINUS, "crank"), 1e-9)


if __name__ == "__main__":
    unittest.main()
