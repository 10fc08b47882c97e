"""The harness as one electrical model: the same volts at every station, limits and properties of the balance."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import edited, plan, pump_wire, worked
from tests.golden import CARS, document
from uphill_spark.core.circuit.netlist import MINUS, PLUS
from uphill_spark.core.circuit.states import ORDER, STATES
from uphill_spark.core.given import parse
from uphill_spark.core.reference import contacts
from uphill_spark.core.stages.fuel.demand import KEY_STATE
from uphill_spark.core.worked import work_out

CAR = st.sampled_from(["tern", "hollin", "brindle"])


class OneModel(unittest.TestCase):
    def test_a_thin_wire_at_wiring_moves_the_volts_at_fuel(self) -> None:
        thick, thin = plan("tern"), plan("tern", {"/wiring/fitted/pump_feed/size": "0.75 mm2"})
        lost = {name: thick.figures[name].value - thin.figures[name].value for name in ("fuel.pump.voltage.full", "fuel.margin.full")}  # type: ignore[operator]
        self.assertGreater(lost["fuel.pump.voltage.full"], 0.4)
        self.assertGreater(lost["fuel.margin.full"], 0.1)
        self.assertIn(
            "WIRE-03", {f.code for f in thin.findings if not f.severity.startswith("sound") and f.at == "/wiring/fitted/pump_feed/size"}
        )

    def test_pump_volts_are_the_posts_less_what_its_circuit_loses(self) -> None:
        for car in CARS:
            w = work_out(parse(document(car)))
            for name, key in KEY_STATE.items():
                point, feed = w.fuel.points[name], w.circuit.feed("pump", key)
                self.assertAlmostEqual(point.volts, feed.volts - feed.ohms * point.current_a, places=6)
                if name not in ("hot_idle",):
                    self.assertAlmostEqual(point.volts, w.circuit.across("pump", key), places=4, msg=f"{car} {name}")

    def test_what_wiring_says_a_circuit_loses_is_what_the_thing_does_not_get(self) -> None:
        w = worked("tern")
        drops = {c.key: c.drop_v for c in w.wiring.circuits}
        most = max(STATES[k].posts_v - w.circuit.across("pump", k) for k in ("prime", "crank", "idle", "full", "night"))
        self.assertAlmostEqual(drops["pump"], most, places=6)
        coil = STATES["full"].posts_v - w.circuit.across("coils", "full")
        strap = w.circuit.volts("head.stud", "full")
        made, links = w.circuit.made, {x.key: x.ohms for x in w.circuit.netlist.links}
        over = made["coil_feed"].most.peak - made["coil_feed"].most.average  # a drop counts at the peak of the ramp
        ohms = sum(made[c.key].ohms for circuit in w.circuit.netlist.circuits if circuit.key == "coil_feed" for c in circuit.wires)
        joints = links["fuse.coils"] + links["coil_relay.contact"]
        self.assertAlmostEqual(drops["coil_feed"] + strap, coil + over * (ohms + joints), places=4)

    def test_injectors_and_coils_open_and_charge_by_the_volts_that_they_see(self) -> None:
        near, far = (
            worked("tern"),
            worked(
                "tern",
                {
                    "/wiring/fitted": {
                        **edited("tern").model_dump()["wiring"]["fitted"],
                        "injector_feed": {"size": "0.5 mm2", "length": "9 m"},
                    }
                },
            ),
        )
        self.assertLess(far.injectors.volts_full, near.injectors.volts_full - 0.5)
        self.assertGreater(far.injectors.dead_time_full_s, near.injectors.dead_time_full_s)
        self.assertGreater(far.injectors.duty_full, near.injectors.duty_full)
        weak = worked(
            "tern", {"/wiring/fitted/pump_ground/size": "4 mm2", "/wiring/fitted": {"coil_feed": {"size": "0.5 mm2", "length": "12 m"}}}
        )
        self.assertLess(weak.ignition.coil_volts, worked("tern").ignition.coil_volts - 0.3)
        self.assertGreater(weak.ignition.duty_limit or 0, worked("tern").ignition.duty_limit or 0)

    def test_crimps_count_and_aged_ones_more(self) -> None:
        def ohms(*joints: tuple[str, int]) -> float:
            return worked("tern", pump_wire(joints=[{"kind": k, "count": n} for k, n in joints])).fuel.wire_ohms

        self.assertAlmostEqual(ohms(("crimp", 4)) - ohms(), 4 * contacts()["crimp"], places=9)
        self.assertAlmostEqual(ohms(("aged_crimp", 3)) - ohms(), 3 * contacts()["aged_crimp"], places=9)

    def test_a_wire_without_a_word_has_a_crimp_at_each_end(self) -> None:
        made = worked("tern").circuit.made["unit_feed"]
        self.assertAlmostEqual(made.joints_ohm, 2 * contacts()["crimp"], places=12)


class States(unittest.TestCase):
    def test_posts_are_held_and_the_key_decides_what_lives(self) -> None:
        for car in CARS:
            doc = document(car)
            doc["wiring"] |= {"battery": {}, "charging": {}, "own": {}}
            c = work_out(parse(doc)).circuit
            for key in ORDER:
                self.assertEqual(c.volts(PLUS, key), STATES[key].posts_v)
                self.assertEqual(c.volts(MINUS, key), 0.0)
            for key in ("off", "accessory"):
                for load in c.loads:
                    self.assertEqual(c.drawn(load, key), 0.0, f"{car} {load}")
            self.assertEqual(c.drawn("pump", "run"), 0.0 if parse(document(car)).fuel.pump.control != "key" else c.drawn("pump", "run"))
            self.assertGreater(c.drawn("pump", "prime"), 1.0)
            self.assertGreater(c.drawn("starter", "crank"), 100.0)
            self.assertLess(c.solution.residual, 1e-6)

    def test_the_block_rises_while_the_starter_turns(self) -> None:
        c = worked("tern").circuit
        self.assertAlmostEqual(c.volts("head.stud", "crank"), 0.144, delta=0.02)
        self.assertLess(c.volts("head.stud", "idle"), 0.01)

    def test_a_pump_fed_from_the_key_runs_as_long_as_it_is_on(self) -> None:
        self.assertGreater(worked("tern", {"/fuel/pump/control": "key"}).circuit.drawn("pump", "run"), 1.0)

    def test_sensors_live_on_five_volts_of_the_unit(self) -> None:
        c = worked("tern").circuit
        pin = next(x.start for x in c.netlist.conductors if x.key == "throttle_position_5v")
        ground = next(x.end for x in c.netlist.conductors if x.key == "throttle_position_ground")
        self.assertAlmostEqual(c.volts(pin, "run", ground), 5.0, delta=0.05)
        self.assertAlmostEqual(c.volts(pin, "off", ground), 0.0, delta=0.01)


class Balance(unittest.TestCase):
    @settings(max_examples=examples(25))
    @given(CAR, st.floats(0.5, 8.0), st.floats(1.05, 3.0))
    def test_more_copper_never_costs_volts(self, car: str, mm2: float, factor: float) -> None:
        here, there = (worked(car, pump_wire(f"{a:.4f} mm2")).circuit for a in (mm2, mm2 * factor))
        for key in ("prime", "full", "idle"):
            self.assertGreaterEqual(there.across("pump", key) + 1e-9, here.across("pump", key))

    @settings(max_examples=examples(25))
    @given(CAR, st.floats(0.2, 3.0), st.floats(1.0, 25.0))
    def test_nothing_gets_more_than_the_posts_hold_and_the_balance_is_met(self, car: str, mm2: float, metres: float) -> None:
        w = worked(car, pump_wire(f"{mm2:.3f} mm2", metres))
        for key in ORDER:
            for load in w.circuit.loads:
                self.assertLessEqual(w.circuit.across(load, key), w.circuit.volts(PLUS, key) + 1e-6)
        again = work_out(w.build).circuit
        self.assertLess(abs(again.solution.amps - w.circuit.solution.amps).max(), 1e-4)

    def test_proposed_wires_keep_every_circuit_within_its_drop(self) -> None:
        for car in ("flat_four", "truck"):
            doc = document(car)
            doc["fuel"].pop("wire", None)
            w = work_out(parse({**doc, "version": 3, "wiring": {k: v for k, v in doc["wiring"].items() if k != "overrides"}}))
            for c in w.wiring.circuits:
                self.assertLessEqual(c.drop_v, c.allowed_v * 1.005, f"{car} {c.key}")

    def test_a_bigger_target_reaches_the_injectors_fuse(self) -> None:
        small, large = worked("tern"), worked("tern", {"/engine/power": "150 kW"})
        self.assertGreater(large.circuit.fuse_loads["injectors"], small.circuit.fuse_loads["injectors"] * 1.1)


if __name__ == "__main__":
    unittest.main()
