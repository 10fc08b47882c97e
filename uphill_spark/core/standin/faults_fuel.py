"""Faults of fuel and air, as pressures that the solved system then holds, and openings beside the throttle."""

from __future__ import annotations

from ..given.edit import Patch
from .case import Case, Made, registry

FAULTS, _a = registry()
BLOCKED, PINCHED = 6.0, 40.0  # times the loss
BACKWARDS, BARE = 0.05, 0.2  # of the pressure, from a pump that turns the wrong way, that draws at the wrong tube
MM2 = 1e-6
MOST_KPA, SHOWS = 290.0, 0.97  # that a filter is told to lose; share of the pressure from which on a gauge does not show it


def _all(share: float) -> dict[str, float]:
    return {"crank_pa": share, "idle_pa": share, "full_pa": share}


@_a
def filter_backwards(c: Case) -> Made:
    """A pleated filter that is pressed from inside loses three times as much."""
    c.needs(bool(c.b.fuel.filters(c.b.fuel.sections.forward)), "no filter is told after its pump")
    return c.off({"filter_arrow": "against"}, **_filtered(c, BLOCKED / 2))


@_a
def filter_due(c: Case) -> Made:
    """Six times the loss."""
    c.needs(bool(c.b.fuel.filters(c.b.fuel.sections.forward)), "no filter is told after its pump")
    return c.off(**_filtered(c, BLOCKED))


def _filtered(c: Case, times: float) -> dict[str, float]:
    """Pressures with so many times the loss. Raises Impossible where the pump has so much in hand that nothing of it shows."""
    found = c.pressures(
        [
            {
                "op": "replace",
                "path": f"/fuel/parts/{name}/pressure_drop",
                "value": f"{min(part.pressure_drop.si * times / 1e3, MOST_KPA):.1f} kPa",
            }
            for name, part in c.b.fuel.filters(c.b.fuel.sections.forward).items()
        ]
    )
    c.needs(found["full_pa"] < SHOWS, "its pump has so much in hand that the rail does not feel it")
    return found


@_a
def reference_off(c: Case) -> Made:
    """The regulator holds its set pressure against the air, the manifold's suction comes on top."""
    c.needs(c.b.fuel.regulator.reference == "manifold", "its regulator has no hose to the manifold")
    return c.off(**c.pressures([{"op": "replace", "path": "/fuel/regulator/reference", "value": "open_air"}]))


@_a
def return_pinched(c: Case) -> Made:
    """Forty times the loss in the return."""
    f = c.b.fuel
    c.needs(f.scheme != "dead_head", "it has no return line")
    runs = f.runs(f.sections.back)
    c.needs(bool(runs), "no run of its return is told")
    by = PINCHED ** (-1 / 4.75)  # turbulent loss goes with the bore to that power
    patch: Patch = [
        {"op": "replace", "path": f"/fuel/parts/{name}/bore", "value": f"{max(part.bore.si * by * 1e3, 1.6):.2f} mm"}
        for name, part in runs.items()
    ]
    found = c.pressures(patch)
    c.needs(found["idle_pa"] > 2 - SHOWS, "its return is so wide that a pinch does not lift the rail")
    return c.off({"return_can": "falls"}, **found)


@_a
def pump_reversed(c: Case) -> Made:
    """A roller or turbine pump that turns backwards makes next to nothing."""
    return c.off({"pump_sign": "minus"}, **_all(BACKWARDS))


@_a
def lines_swapped(c: Case) -> Made:
    """The pump draws at the drop tube."""
    c.needs(c.b.fuel.scheme != "dead_head", "it has no return line")
    return c.off({"line_trace": "swapped"}, **_all(BARE))


@_a
def suction_air(c: Case) -> Made:
    """Bubbles: the pressure flutters where much is asked."""
    return c.off({"clear_hose": "bubbles"}, crank_pa=0.95, idle_pa=0.93, full_pa=0.6)


@_a
def vapour(c: Case) -> Made:
    """Hot fuel boils where the pump sucks."""
    c.needs(c.b.fuel.pump.place == "external", "its pump lies in the fuel")
    return c.off({"cool_pump": "cures", "hot": "hard"})


@_a
def check_valve(c: Case) -> Made:
    """The line is empty again within a minute."""
    return c.off({"loss_prime": _set_kpa(c) * 0.95}, empties_s=2.0, fills_s=3.5)


@_a
def injector_drips(c: Case) -> Made:
    """The rail falls slowly, one cylinder is wet after standing."""
    return c.off({"rail_watch": "drips", "hot": "hard", "loss_prime": 85.0}, fuel=c.one(1.12), empties_s=30.0)


def _set_kpa(c: Case) -> float:
    return c.b.fuel.regulator.set_pressure.si / 1e3


@_a
def injector_gummed(c: Case) -> Made:
    """One gives 40 %."""
    share = 0.4 if c.b.injectors.count == c.cylinders else 0.6
    return c.off({"injector_bench": "one"}, fuel=c.one(share, many=max(c.cylinders // c.b.injectors.count, 1)))


@_a
def injectors_swapped(c: Case) -> Made:
    """Fuel waits on a shut valve: smell, and nothing that a figure shows."""
    c.needs(
        c.b.injectors.firing == "sequential" and c.b.injectors.count > 1, "its injectors do not fire in turn: crossed, they do the same"
    )
    return c.off({"injector_test": "crossed"})


@_a
def low_ohm_driver(c: Case) -> Made:
    """The driver gives up in the heat."""
    c.needs(c.b.injectors.driver == "saturated", "its drivers are made for low-ohm injectors")
    return c.off({"injector_ohms": "low", "hot": "dies"})


@_a
def pump_not_driven(c: Case) -> Made:
    """Nothing pulls the relay in."""
    c.needs(c.b.fuel.pump.control == "control_unit", "its pump does not hang on the unit")
    return c.wired([c.fault("relay", "pump_relay.contact")], {"relay_coil_volts": "nothing"}, pump="silent")


@_a
def water(c: Case) -> Made:
    """Runs until the water comes."""
    return c.off({"jar": "layers"}, dies_s=1.5)


@_a
def tank_empty(c: Case) -> Made:
    """Nothing to pump."""
    return c.off({"dip_stick": "dry"}, **_all(0.0))


@_a
def crash_switch(c: Case) -> Made:
    """No feed of the pump, all else being right."""
    c.needs(c.b.fuel.crash_switch is True, "no crash switch is fitted")
    return c.wired([c.fault("crash", "pump_feed")], {"crash_press": "out"}, pump="silent")


@_a
def gasket_leak(c: Case) -> Made:
    """Air past the plates, most of it into one cylinder."""
    return c.off({"smoke": "joint"}, leak_m2=40 * MM2, air=c.one(1.25))


@_a
def port_open(c: Case) -> Made:
    """Air through an open port."""
    return c.off({"caps": "open"}, leak_m2=36 * MM2)


@_a
def booster_off(c: Case) -> Made:
    """Air through the booster's port."""
    c.needs(any(x.kind == "brake_booster" for x in c.b.air.consumers), "no brake booster hangs on its manifold")
    return c.off({"booster_look": "hard"}, leak_m2=60 * MM2)


@_a
def cable_tight(c: Case) -> Made:
    """The plate does not come to its stop."""
    c.needs(c.b.air.by_wire is None, "no cable pulls its throttle")
    return c.off({"pedal_slack": "tight"}, held=0.03)


@_a
def stop_moved(c: Case) -> Made:
    """Its zero is off by 3 %."""
    c.needs(c.has("throttle_position"), "it has no throttle sensor")
    return c.off(throttle_off=3.0)


def _valve(c: Case) -> None:
    c.needs("idle_valve" in c.joints, "no idle valve is wired on it")


@_a
def idle_valve_stuck(c: Case) -> Made:
    """Open, whatever it is told."""
    _valve(c)
    return c.off({"valve_duty": "stuck"}, valve=0.6)


@_a
def idle_valve_shut(c: Case) -> Made:
    """Shut, whatever it is told."""
    _valve(c)
    return c.off({"valve_duty": "stuck"}, valve=0.0)


@_a
def out_of_balance(c: Case) -> Made:
    """One takes more air than its fuel is for."""
    c.needs(c.b.engine.layout == "individual_throttles", "it has one throttle for all")
    return c.off({"plate_flow": "one"}, air=c.one(1.55, 1 - 0.55 / (c.cylinders - 1)), held=0.003)


@_a
def crankcase_swapped(c: Case) -> Made:
    """The breather's hose leaks into the manifold."""
    c.needs(any(x.kind == "crankcase_valve" for x in c.b.air.consumers), "it has no crankcase valve")
    return c.off({"hose_trace": "swapped"}, leak_m2=28 * MM2)


@_a
def second_plates(c: Case) -> Made:
    """A second shaft that does not shut."""
    t = c.b.air.throttle
    c.needs(t is not None and t.second_shaft not in ("none", "not_looked_at"), "its throttle has one shaft")
    return c.off({"second_screw": "open"}, leak_m2=55 * MM2)


@_a
def rag(c: Case) -> Made:
    """One or two cylinders get next to no air."""
    return c.off({"borescope": "rag"}, air=c.one(0.12, many=2 if c.cylinders > 4 else 1))


@_a
def exhaust_blocked(c: Case) -> Made:
    """What is burned cannot leave."""
    return c.off({"back_pressure": "high"}, back=0.85)
