"""FUEL: will it hold the pressure."""

from __future__ import annotations

from collections.abc import Iterator

from ..reference import fuels, lines
from ..worked import Worked
from . import owners
from .base import Finding, Say, Severity, above, check, grade, worse

NEED = 1.0  # of the need: below it the engine goes lean
WIRE_LOSS = (0.06, 0.15)  # of the flow lost to volts dropped on the way
SUPPLY_LOSS = (30e3, 60e3)  # Pa from pump to rail
SUPPLY_SPEED = (2.5, 5.0)  # m/s, guide for a pressure line
RETURN_PRESSURE = (15.0, 30.0)  # kPa in the return at idle
RAIL_CREEP = 1e3  # Pa above its set value
WORKING = 1.5  # by which a line's working pressure is above the highest that it sees
EXTRAPOLATED = 1.2  # by which a working point may lie past the highest pressure of a pump's table
FIT = 0.05  # of its flow, by which a table may be off a straight pump


@check(
    "FUEL-01",
    "/fuel/pump",
    "Pump capacity at full power",
    figure="fuel.margin.full",
    source="operating point of pump and system",
    rests=("/fuel/design_margin", "fuel.injector.pressure.full"),
)
def capacity(w: Worked, say: Say) -> Iterator[Finding]:
    f, wanted = w.fuel, w.build.fuel.design_margin.si
    full = f.points["full"]
    kept = full.held_across_pa + full.rail_pressure_pa - full.across_pa
    got = f"{owners.flow(w, full.capacity_m3_s)} at {owners.pressure(w, kept)} against {owners.flow(w, f.need_m3_s)} needed"
    if f.margin_full >= wanted:
        yield say("sound", f"The pump gives {got}.", limit=wanted)
        return
    wire = f.margin_no_wire_loss >= wanted
    do = (
        "Thicker wire or a relay near the pump is enough: the pump itself would do."
        if wire
        else "Fit a larger pump, or lower what the engine is asked for."
    )
    if f.margin_full < NEED:
        sag = f"the rail sags to {owners.pressure(w, full.rail_pressure_pa)} and the engine goes lean at full power"
        yield say("stop", f"The pump gives {got}: {sag}.", do, limit=NEED)
    else:
        yield say("watch", f"The pump gives {got}: little is left for a dirty filter or a tired battery.", do, limit=wanted)


@check(
    "FUEL-02",
    "/wiring/fitted/pump_feed",
    "Flow lost in the pump's wire",
    figure="fuel.wire.flow_lost",
    source="ohmic drop; IEC 60028",
    rests=("/wiring/fitted", "/wiring/branches", "fuel.margin.full"),
)
def wiring(w: Worked, say: Say) -> Iterator[Finding]:
    full, lost = w.fuel.points["full"], w.fuel.wire_loss_share
    why = f"{full.volts:.1f} V of {full.supply_volts:.1f} V reach the pump; {lost * 100:.0f} % of its flow is lost to {w.fuel.wire_ohms * 1e3:.0f} mΩ of wire and contacts."
    if lost <= WIRE_LOSS[0]:
        yield say("sound", why, limit=WIRE_LOSS[0])
    else:
        severity: Severity = "stop" if w.fuel.margin_full < NEED <= w.fuel.margin_no_wire_loss else grade(lost, *WIRE_LOSS)
        yield say(
            severity,
            why,
            "Feed the pump through a relay from the battery, with wire a size or two up and a ground of its own.",
            limit=WIRE_LOSS[0],
        )


@check(
    "FUEL-04",
    "/fuel/parts",
    "Supply line",
    figure="fuel.supply.velocity.full",
    source="Darcy-Weisbach, Churchill (1977)",
    rests=("fuel.supply.loss.full",),
)
def supply(w: Worked, say: Say) -> Iterator[Finding]:
    full = w.fuel.points["full"]
    loss, v = full.line_loss_pa, full.velocity_m_s
    why = f"Fuel runs at {owners.velocity(w, v)} and loses {owners.pressure(w, loss)} on the way to the rail."
    severity = worse(grade(loss, *SUPPLY_LOSS), grade(v, *SUPPLY_SPEED))
    yield say(severity, why, "" if severity == "sound" else "Fit a line a size up, with bends in place of elbows.", limit=SUPPLY_SPEED[0],
              at=f"/fuel/parts/{w.fuel.steepest_part}" if w.fuel.steepest_part else "/fuel/parts")  # fmt: skip


@check(
    "FUEL-06",
    "/fuel/parts",
    "Return line at idle",
    figure="fuel.return.pressure.idle",
    source="Darcy-Weisbach, Churchill (1977)",
    rests=("/fuel/path", "fuel.rail.creep.idle", "/fuel/measured"),
)
def back(w: Worked, say: Say) -> Iterator[Finding]:
    idle = w.fuel.points["idle"]
    measured = w.build.fuel.measured.return_pressure if w.build.fuel.measured else None
    pa = measured.si if measured is not None else idle.return_pressure_pa
    kpa, read = pa / 1e3, f"{owners.pressure(w, pa)} {'measured ' if measured is not None else ''}in the return at idle"
    beside = f" {owners.pressure(w, idle.return_pressure_pa)} were worked out from its bore and length." if measured is not None else ""
    back_runs = list(w.build.fuel.runs(w.build.fuel.sections.from_rail))
    at = f"/fuel/parts/{back_runs[0]}" if back_runs else "/fuel/path"
    creep = w.fuel.idle_rail_creep_pa if measured is None else 0.0
    severity: Severity = "sort_out" if creep > RAIL_CREEP else grade(kpa, *RETURN_PRESSURE)
    if severity == "sound":
        yield say(
            severity,
            f"{read}, nearly all of the pump's flow: the regulator stays in charge.{beside}",
            limit=RETURN_PRESSURE[0],
            at=at,
        )
        return
    more = (
        f" The rail stands {owners.pressure(w, creep)} above its set value and idles rich."
        if creep > RAIL_CREEP
        else " The rail follows the return rather than the regulator."
    )
    yield say(
        severity,
        f"{read}.{more}{beside}",
        "Fit a larger return line, with fewer elbows and banjos, entering below the fuel.",
        limit=above(severity, *RETURN_PRESSURE),
        at=at,
    )


@check(
    "FUEL-09",
    "/fuel/parts",
    "Hose and tube class",
    source="SAE J30; working pressure 1.5 times the highest seen",
    rests=("/fuel/path", "/engine/fuel", "fuel.pump.pressure.idle"),
    gate=("/fuel/parts/*/material",),
)
def materials(w: Worked, say: Say) -> Iterator[Finding]:
    needed = WORKING * w.fuel.highest_pressure_pa
    alcohol = fuels()[w.build.engine.fuel].alcohol
    bad = False
    f = w.build.fuel
    for name, line in f.runs((*f.sections.under_pressure, *f.sections.back)).items():
        at, pressurised = f"/fuel/parts/{name}/material", name in f.sections.under_pressure
        data = lines()[line.material]
        why = ""
        if line.in_fuel != (line.material == "30R10") and line.material.startswith("30R"):
            why = (
                f"{data.label} lies in the fuel: made for outside, it softens and bursts."
                if line.in_fuel
                else f"{data.label} is made to lie in fuel, not outside."
            )
        elif pressurised and not data.pressure_side:
            why = f"{data.label} on the pressure side: {data.why}."
        elif pressurised and data.working_pressure is not None and data.working_pressure < needed:
            why = f"{data.label} is good for {owners.pressure(w, data.working_pressure)}; {owners.pressure(w, needed)} is {WORKING:g} times what it sees."
        elif data.alcohol < alcohol:
            why = f"{data.label} is made for up to {data.alcohol * 100:.0f} % alcohol; {w.build.engine.fuel} holds {alcohol * 100:.0f} %."
        if why:
            bad = True
            yield say(
                "stop",
                f"{why[0].upper()}{why[1:]} A burst here sprays fuel on a hot engine.",
                "Replace it with steel or copper-nickel tube and 30R14T2 hose on crimped or rolled-edge clamped ends.",
                at=at,
            )
    if not bad:
        yield say(
            "sound", f"All lines stand {WORKING:g} times the highest pressure, {owners.pressure(w, needed)}, and {w.build.engine.fuel}."
        )


@check(
    "FUEL-14",
    "/fuel/pump/control",
    "What stops the pump",
    source="fire after a crash: the pump must stop by itself without a trigger signal",
)
def control(w: Worked, say: Say) -> Iterator[Finding]:
    switch = w.build.fuel.crash_switch
    if w.build.fuel.pump.control == "key" and switch:
        yield say("sort_out", "The pump is fed straight from the key; a crash switch stops it after a crash, nothing does when the engine stalls.",
                  "Switch it from the control unit, or through a relay with a cut-out, and keep the switch.")  # fmt: skip
    elif w.build.fuel.pump.control == "key":
        yield say("stop", "The pump is fed straight from the key: after a crash it goes on pumping fuel.",
                  "Switch it from the control unit, or through a relay with a cut-out, and add a roll-over switch.")  # fmt: skip
    else:
        yield say(
            "sound",
            "The pump stops by itself when the engine stops turning"
            + (", and by a crash switch besides." if switch else "; a crash switch is advised besides."),
        )


@check(
    "FUEL-19",
    "/fuel/pump/curve",
    "Pump table",
    figure="fuel.pump.fit_residual",
    source="least squares of Q = a V - b P - c",
    rests=("fuel.pump.pressure.full", "/fuel/pump/rated"),
)
def table(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.fuel
    told: list[str] = []
    if f.extrapolated > EXTRAPOLATED:
        told.append(
            f"the working point, {owners.pressure(w, f.points['full'].pump_pressure_pa)}, lies past the table's highest, {owners.pressure(w, f.highest_listed_pa)}"
        )
    rated = w.build.fuel.pump.rated
    if rated is not None:
        gives = (w.circuit.fit.flow(rated.voltage.si, rated.pressure.si) / rated.flow.si - 1) if rated.flow.si else 0.0
        told.append(
            f"the pump is known by one figure, {owners.flow(w, rated.flow.si)} at {owners.typed(w, rated.pressure)} on {rated.voltage}, the rest goes by the usual shape"
            if abs(gives) <= FIT
            else f"its one figure, {owners.flow(w, rated.flow.si)} at {owners.typed(w, rated.pressure)}, and its table are {abs(gives) * 100:.0f} % apart"
        )
    if f.fit_residual > FIT:
        told.append(f"the table fits a straight pump only to {f.fit_residual * 100:.0f} % of its flow")
    if f.fit_assumed_slope:
        told.append("all rows are at one voltage, so the loss with falling volts is assumed, none at 4 V")
    if told:
        why = "; ".join(told)
        yield say("watch", f"{why[0].upper()}{why[1:]}.", "Get figures at two voltages and up to the working pressure, or measure flow into a can.",
                  limit=0.05, settle="flow into a measuring can at working pressure")  # fmt: skip
    else:
        yield say("sound", f"The table covers the working point and fits to {f.fit_residual * 100:.1f} %.", limit=0.05)
