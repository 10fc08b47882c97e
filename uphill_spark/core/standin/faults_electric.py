"""Faults of feed, ground and control unit, as changes of the harness or of what the unit can do."""

from __future__ import annotations

from dataclasses import replace

from .case import Case, Impossible, Made, registry

FAULTS, _a = registry()
OLD_BOX_OHM, PAINT_OHM, CRIMP_OHM, WAY_OHM = 0.25, 0.15, 0.4, 0.02
NO_SIGNAL = -12.0  # % that a throttle sensor without volts reads: under its shut stop
LOW_V, LOW_STARTER, LOW_CRANK_V = 11.9, 0.72, 8.7  # a battery at a third of its charge


@_a
def feed_dies_cranking(c: Case) -> Made:
    """Dead in START: open while the starter turns."""
    return c.wired({"crank": [c.fault("feed", "ignition_feed")]}, wakes=False)


@_a
def feed_sags(c: Case) -> Made:
    """More ohms in the unit's feed."""
    return c.wired([c.fault("sags", "unit_feed", OLD_BOX_OHM)])


@_a
def battery_low(c: Case) -> Made:
    """Less behind the posts."""
    return c.off(rested_v=LOW_V, starter=LOW_STARTER, crank_v=LOW_CRANK_V)


@_a
def unit_ground_paint(c: Case) -> Made:
    """More ohms in the unit's ground."""
    made = c.wired([c.fault("paint", "unit_ground", PAINT_OHM)])
    c.needs(
        made.volts["ground_pin"] > c.sound.volts["ground_pin"] + 0.1,
        "its unit is grounded in a second place: paint under one does not show",
    )
    return made


@_a
def strap_missing(c: Case) -> Made:
    """The starter's way back is through what else is there."""
    return c.wired({"crank": [c.fault("strap", "block_strap")]})


@_a
def sensor_ground_body(c: Case) -> Made:
    """Sensor ground at two places."""
    key = next((k for k in c.harness.electric.made if k.endswith("_ground") and k.split("_ground")[0] in SENSORS), None)
    if key is None:
        raise Impossible("no sensor of it has a ground wire of its own")
    return c.off({"ground_ohms": "tied"})


SENSORS = ("coolant_temperature", "intake_air_temperature", "throttle_position", "manifold_pressure", "crank", "cam", "wideband_oxygen")


@_a
def pump_crimp(c: Case) -> Made:
    """More ohms in the pump's feed."""
    return c.wired([c.fault("crimp", "pump_feed", CRIMP_OHM)])


@_a
def relay_diode_reversed(c: Case) -> Made:
    """The relay's coil is shorted by its own diode: it does not pull in."""
    c.needs("pump_relay.contact" in c.joints and "pump_relay_coil" in c.joints, "no relay with a coil of its own drives its pump")
    return c.wired([c.fault("diode", "pump_relay.contact")], {"relay_ohms": "shorted", "relay_coil_volts": "nothing"})


@_a
def relay_87a(c: Case) -> Made:
    """The pump runs while the relay rests."""
    c.needs("pump_relay.contact" in c.joints, "no relay drives its pump")
    return c.wired([c.fault("87a", "pump_relay.contact")], {"relay_feel": "rests"}, pump="stays")


@_a
def injector_fuse(c: Case) -> Made:
    """No feed at the injectors."""
    return c.wired([c.fault("fuse", "fuse.injectors")])


@_a
def old_relay_left(c: Case) -> Made:
    """A second feed of the pump, from the ignition."""
    c.needs("old_pump_relay.contact" not in c.joints, "its old relay is drawn in the harness: the findings speak of it")
    c.needs("ignition_switch.run" in c.harness.electric.solution.nodes, "its key has no switched terminal")
    return c.wired([c.fault("old", None, WAY_OHM, ("ignition_switch.run", "pump.plus"))], {"pump_output_pull": "runs"}, pump="on")


@_a
def no_exciter_lamp(c: Case) -> Made:
    """Nothing begins the alternator's field."""
    c.needs("exciter" in c.joints, "its alternator is not excited through a lamp")
    volts = {"charging": 11.9}
    made = c.off(charges=False, run_v=11.7)
    return Made(made.ails, made.finds, made.volts | volts)


@_a
def exciter_backfeed(c: Case) -> Made:
    """The alternator feeds the ignition after the key."""
    c.needs("exciter" in c.joints, "its alternator has no exciter wire")
    return c.off({"off_feed": "fed"}, runs_on=True)


@_a
def pin_pushed_back(c: Case) -> Made:
    """Open over bumps."""
    return c.off({"bumps": "cuts", "tug": "cuts"})


@_a
def chafed_5v(c: Case) -> Made:
    """5 V at the body: sensors with three wires read nothing."""
    places = c.harness.places
    c.needs("five_volts" in places, "no sensor of it has a 5 V wire")
    node = places["five_volts"][0]
    made = c.wired([c.fault("chafed", None, 0.05, (node, places["block_volts"][0]))])
    hall = c.b.sensors.trigger is not None and c.b.sensors.trigger.sensor == "hall" and c.b.sensors.trigger.given == "5 V"
    return replace(made, ails=replace(made.ails, throttle=NO_SIGNAL, manifold=5.0, seen_from=1e9 if hall else 0.0))


@_a
def output_dead(c: Case) -> Made:
    """One output does not switch: its cylinder has no spark, or no fuel."""
    if c.b.ignition.kind in ("coil_per_plug", "wasted_spark"):
        n = c.cylinders
        pair = 2 if c.b.ignition.kind == "wasted_spark" else 1
        order = c.b.engine.firing_order
        dead = {order[0], *([order[n // 2]] if pair == 2 else [])}
        return c.off({"swap_outputs": "moves"}, lit=tuple(0.0 if k + 1 in dead else 1.0 for k in range(n)))
    c.needs(c.b.injectors.count > 1, "one output drives all of it: then nothing runs")
    return c.off({"swap_outputs": "moves"}, fuel=c.one(0.15, which=0, many=max(c.cylinders // c.b.injectors.count, 1)))


@_a
def five_on_thermistor(c: Case) -> Made:
    """The signal is pinned at its top: the coldest that it can read."""
    c.needs(c.has("coolant_temperature"), "it has no coolant sensor")
    return c.off({"plug_volts": "wrong"}, coolant=-40.0)


@_a
def speed_count(c: Case) -> Made:
    """Only the speed shown is off."""
    c.needs(c.b.wiring.gearbox is not None and "vehicle_speed" in c.joints, "nothing on it tells the road speed")
    return c.off({"satellite": "off"})


@_a
def immobiliser_left(c: Case) -> Made:
    """Fuel ends after two seconds."""
    c.needs(c.b.wiring.unit.from_donor != "no", "its unit comes from no other car")
    return c.off({"lock_lamp": "locked"}, dies_s=2.0)


@_a
def two_regulators(c: Case) -> Made:
    """The lower of two pressures holds."""
    c.needs(c.b.injectors.enters == "above_plates" or c.b.engine.layout == "throttle_body", "no regulator can sit in its throttle body")
    return c.off({"return_flow": "two"}, crank_pa=0.72, idle_pa=0.72, full_pa=0.72)
