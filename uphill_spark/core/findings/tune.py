"""TUNE: constants that match the build, tables that pump and injectors can follow."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np

from ..given.injectors import flow_si
from ..stages.engine import boost_of
from ..stages.engine.filling import filling
from ..stages.tune import BACK_FOR_BOOST, FULL_ADVANCE, SAFE_SIDE, Table
from ..stages.tune.in_use import full_load, read, tables_in_use
from ..units import from_si
from ..worked import Worked
from . import owners
from .base import Finding, Say, check, grade

#: Share of fuel by which constants typed in may be off: watched, stopped.
TYPED_OFF = (0.02, 0.10)
#: Lambda at full load above which it is to be sorted out, and stopped (Heywood, ch. 15); above which it is lean under boost.
LEAN_FULL = (0.92, 1.0)
LEAN_BOOSTED = 0.85
AIR_APART = 0.10  # share by which the fuel for the air and for the target may differ
OPEN = 1.0  # of the time: an injector that never shuts


@check(
    "TUNE-01",
    "/tune/typed",
    "Constants typed in",
    source="the control unit must be told what is on the car",
    rests=(
        "/engine/displacement",
        "/engine/cylinders",
        "/engine/firing_order",
        "/ignition/kind",
        "injectors.nominal",
        "/fuel/regulator/set_pressure",
    ),
)
def constants(w: Worked, say: Say) -> Iterator[Finding]:
    typed, b = w.build.tune.typed, w.build
    flow, fluid = _typed_flow(w)
    rows: list[tuple[str, str, float | None, float, Callable[[float], str], Callable[[float], float]]] = [
        ("displacement", "displacement", typed.displacement.si if typed.displacement else None, b.engine.displacement.si, lambda v: f"{from_si(v, 'cc'):.4g} cc", lambda k: k - 1),
        ("cylinders", "cylinders", typed.cylinders, b.engine.cylinders, lambda v: f"{v:.0f}", lambda k: 1 / k - 1),
        ("injector_flow", "injector figure", flow, w.injectors.flow_nominal_kg_s, lambda v: owners.own(w, "injector", v, 1), lambda k: 1 / k - 1),
        ("base_pressure", "fuel pressure", typed.base_pressure.si if typed.base_pressure else None, b.fuel.regulator.set_pressure.si, lambda v: owners.pressure(w, v), lambda k: k**-0.5 - 1),
    ]  # fmt: skip
    missing = [name for _, name, given, *_ in rows if given is None]
    wrong = False
    for key, name, given, want, told, effect in rows:
        if given is None:
            continue
        off = effect(given / want)
        severity = grade(abs(off), *TYPED_OFF)
        if severity == "sound":
            continue
        wrong = True
        of = f", taken as {fluid}" if key == "injector_flow" and fluid else ""
        yield say("stop" if severity == "sort_out" else "watch",
                  f"{name.capitalize()} typed in is {told(given)}{of}; the build says {told(want)}: every cell would be {abs(off) * 100:.0f} % {'rich' if off > 0 else 'lean'}.",
                  f"Type {told(want)}.", at=f"/tune/typed/{key}")  # fmt: skip
    for finding in (*_order(w, say), *_spark(w, say), *_cam(w, say)):
        wrong = True
        yield finding
    if missing:
        yield say(
            "unknown",
            f"Not noted as typed in yet: {', '.join(missing)}.",
            "Type each constant into the control unit, then note here what you typed.",
            settle="a look at the unit's settings",
        )
    if not missing and not wrong:
        yield say("sound", f"All four constants agree with the build within {TYPED_OFF[0] * 100:.0f} % of fuel.")


def _order(w: Worked, say: Say) -> Iterator[Finding]:
    """The firing order as it was typed in: the same one begun elsewhere is the same."""
    typed, order = w.build.tune.typed.firing_order, w.build.engine.firing_order
    if typed is None or any(typed == order[k:] + order[:k] for k in range(len(order))):
        return
    wrong = sum(a != b for a, b in zip(typed, order, strict=False)) + abs(len(typed) - len(order))
    yield say("stop", f"The firing order typed in is {'-'.join(map(str, typed))}; the engine's is {'-'.join(map(str, order))}: {wrong} of {len(order)} cylinders get fuel and spark when another fires.",
              f"Type {'-'.join(map(str, order))}.", at="/tune/typed/firing_order")  # fmt: skip


#: What the control unit is told of the spark, by kind of ignition: untimed where it only reads the speed.
UNIT_SPARK = {"timed_distributor": "timed_distributor", "wasted_spark": "wasted_spark", "coil_per_plug": "coil_per_plug"}


def _spark(w: Worked, say: Say) -> Iterator[Finding]:
    """The kind of ignition as it was typed in."""
    typed, i = w.build.tune.typed.ignition, w.build.ignition
    right = UNIT_SPARK.get(i.kind, "untimed") if i.timed_by_unit else "untimed"
    if typed is None or typed == right:
        return
    what = (
        "sparks come at wrong times, or twice as often as they should"
        if i.timed_by_unit
        else "the unit charges a coil that it does not hold"
    )
    yield say("stop", f"The ignition typed in is {typed.replace('_', ' ')}; the build's is {right.replace('_', ' ')}: {what}.", f"Type {right.replace('_', ' ')}.", at="/tune/typed/ignition")  # fmt: skip


def _cam(w: Worked, say: Say) -> Iterator[Finding]:
    """The cam as it was typed in: what the unit takes an idling cylinder for."""
    typed, e = w.build.tune.typed.cam, w.build.engine
    if typed is None or typed == e.cam:
        return
    other = w.build.model_copy(update={"engine": e.model_copy(update={"cam": typed})})
    at = np.array([e.idle_speed.si]), np.array([w.engine.idle_manifold_pressure_pa]), w.engine.ambient_pressure_pa
    off = float(filling(other, *at)[0] / filling(w.build, *at)[0]) - 1
    yield say("watch", f"The cam typed in is {typed}; the build's is {e.cam}: the unit takes an idling cylinder for {abs(off) * 100:.0f} % {'fuller' if off > 0 else 'emptier'} than it is, and gives so much {'more' if off > 0 else 'less'} fuel.",
              f"Type {e.cam}.", at="/tune/typed/cam")  # fmt: skip


def _typed_flow(w: Worked) -> tuple[float | None, str]:
    """The injector figure that was typed in [kg/s], and the fluid that a volume was taken to be of."""
    text = w.build.tune.typed.injector_flow
    if text is None:
        return None, ""
    kind, value = flow_si(text, "")
    if kind == "mass flow":
        return value, ""
    fluid = w.build.injectors.fluid
    return value * w.injectors.rated_density_kg_m3, f"a volume of {fluid.replace('_', ' ')}"


@check(
    "TUNE-07",
    "/tune/full_lambda",
    "Mixture at full load",
    source="a lean engine at full load burns its valves and knocks; Heywood, ch. 15",
    rests=("/engine/boost", "/tune/kept"),
)
def lean(w: Worked, say: Say) -> Iterator[Finding]:
    full, boosted = round(w.in_use.lambda_full, 3), boost_of(w.build.engine) > 0
    severity = grade(full, LEAN_FULL[0], LEAN_FULL[0], LEAN_FULL[1])
    if severity != "sound":
        yield say(severity, f"Lambda {full:g} at full load{' under boost' if boosted else ''} is lean: hot valves and pistons, and it knocks.",
                  "0.78 to 0.82 under boost." if boosted else "0.86 to 0.90.")  # fmt: skip
    elif boosted and full > LEAN_BOOSTED:
        yield say("watch", f"Lambda {full:g} under boost is leaner than is usual there.", "0.78 to 0.82, and look for knock.")
    else:
        yield say("sound", f"Lambda {full:g} at full load.")


@check(
    "TUNE-03",
    "/sensors/pressure",
    "Table against the sensor's range",
    source="past the sensor's range every load reads as its highest",
    rests=("/engine/boost", "/engine/altitude", "/tune/load", "/engine/layout", "/tune/kept"),
)
def reaches(w: Worked, say: Say) -> Iterator[Finding]:
    ve = next(t for t in tables_in_use(w.tune.tables, w.in_use) if t.key == "ve")
    p = w.sensors.pressure
    if w.tune.load_signal != "manifold_pressure":
        return
    if p is None:
        yield say(
            "note",
            "The line of the manifold pressure sensor is not entered: how far its range goes is not known.",
            settle="two points from its sheet",
        )
        return
    most, last = w.engine.ambient_pressure_pa + boost_of(w.build.engine), ve.y[-1] * KPA
    if p.line.high < most:
        yield say("sort_out", f"The engine goes to {owners.manifold(w, most)}, the sensor to {owners.manifold(w, p.line.high)}: past that every load is the last row.", "A sensor of a larger range, and its line in the unit.")  # fmt: skip
    elif last < most:
        yield say("sort_out", f"The engine goes to {owners.manifold(w, most)}, the table's last row stands at {owners.manifold(w, last)}: above it every load reads as that row.", "A last row at the most that the manifold sees.", at="/tune/kept")  # fmt: skip
    elif p.line.high < last:
        yield say("watch", f"The table's last row stands at {owners.manifold(w, last)}, past the sensor's {owners.manifold(w, p.line.high)}: it is never read.", "Type the last row at the sensor's highest.")  # fmt: skip
    else:
        yield say("sound", f"The sensor reads to {owners.manifold(w, p.line.high)}, past the table's last row.")


KPA = 1e3  # Pa, of which a table's axis counts
OVER_GUIDE = 4.0  # deg over what such chambers usually take at full load, from which on it is to be sorted out
OCTANE_BACK = 0.5  # deg taken back for each octane number under USUAL
GUIDE_OCTANE = 95


@check(
    "TUNE-04",
    "/tune/typed/full_advance",
    "Advance at full load",
    source="usual full-load advance by chamber, less for octane and boost (Heywood, ch. 9 and 15)",
    rests=("/engine/chamber", "/engine/octane", "/engine/compression_ratio", "/engine/boost", "/tune/kept"),
)
def advance(w: Worked, say: Say) -> Iterator[Finding]:
    e, kept = w.build.engine, {t.key: t for t in w.in_use.kept}.get("advance")
    typed = w.build.tune.typed.full_advance
    if kept is not None and not kept.hidden:
        yield from _past(w, say, kept)
    if typed is None:
        return
    octane = min(e.octane if e.octane is not None else GUIDE_OCTANE, GUIDE_OCTANE)
    guide = FULL_ADVANCE[e.chamber] - OCTANE_BACK * (GUIDE_OCTANE - octane) - boost_of(e) * BACK_FOR_BOOST
    degrees = typed.si
    if degrees > guide:
        yield say("sort_out" if degrees > guide + OVER_GUIDE else "watch", f"{degrees:.0f} degrees at full load; such a chamber usually takes {guide:.0f} on this fuel.", f"Begin at {guide - SAFE_SIDE:.0f}, and go up only by ear, gauge and plugs.", limit=round(guide, 1))  # fmt: skip
    elif e.octane is None:
        yield say(
            "unknown",
            f"{degrees:.0f} degrees at full load suit such a chamber on fuel of {GUIDE_OCTANE} octane; what is bought is not told.",
            "Enter the octane of the fuel that is bought.",
            at="/engine/octane",
            settle="the figure on the pump",
            limit=round(guide, 1),
        )
    else:
        yield say(
            "sound", f"{degrees:.0f} degrees at full load, within the {guide:.0f} that such a chamber usually takes.", limit=round(guide, 1)
        )


WELL_PAST = 3.0  # deg past what such chambers take, from which on it is to be sorted out


def _past(w: Worked, say: Say, table: Table) -> Iterator[Finding]:
    """A kept table that goes past the advance that such chambers take at full load: by how much, and where."""
    most, e = w.engine.ambient_pressure_pa + boost_of(w.build.engine), w.build.engine
    guide = FULL_ADVANCE[e.chamber] - boost_of(e) * BACK_FOR_BOOST
    high = [read(table, rpm, full_load(table, most)) for rpm in table.x]
    worst = max(range(len(high)), key=lambda i: high[i])
    if high[worst] <= guide:
        return
    yield say(
        "sort_out" if high[worst] > guide + WELL_PAST else "watch", f"The table's advance at full load goes to {high[worst]:.0f} degrees at {table.x[worst]:,.0f} rpm; such a chamber usually takes {guide:.0f}.",
              f"At most {guide - SAFE_SIDE:.0f} to begin with, up only by ear, gauge and plugs.", at="/tune/kept", limit=round(guide, 1))  # fmt: skip


FAN_APART = 3.0  # K between on and off, under which a fan chatters
LATEST_FAN = 378.15  # K, past which it comes too late
IDLE_OFF = 0.25  # share by which an idle target may be another than the engine's


@check(
    "TUNE-05",
    "/tune/typed/rev_limit",
    "Limits, idle and fan as typed in",
    source="each figure before the next: idle, limit; fan off before fan on",
    rests=("/engine/rev_limit", "/engine/idle_speed", "/tune/typed/idle_speed", "/tune/typed/fan_on", "/tune/typed/fan_off"),
)
def in_order(w: Worked, say: Say) -> Iterator[Finding]:
    t, e, told = w.build.tune.typed, w.build.engine, False
    if t.rev_limit is not None and t.rev_limit.si > e.rev_limit.si:
        told = True
        yield say("sort_out", f"The limit typed in, {owners.typed(w, t.rev_limit)}, is over the engine's, {owners.typed(w, e.rev_limit)}.", f"Type {owners.typed(w, e.rev_limit)}.")  # fmt: skip
    if t.idle_speed is not None and abs(t.idle_speed.si / e.idle_speed.si - 1) > IDLE_OFF:
        told = True
        yield say("sort_out", f"The idle target typed in, {owners.typed(w, t.idle_speed)}, is far from the engine's {owners.typed(w, e.idle_speed)}.", f"Type {owners.typed(w, e.idle_speed)}.", at="/tune/typed/idle_speed")  # fmt: skip
    if t.fan_on is not None and t.fan_off is not None and t.fan_on.si - t.fan_off.si < FAN_APART:
        told = True
        yield say("sort_out", f"The fan goes on at {owners.typed(w, t.fan_on)} and off at {owners.typed(w, t.fan_off)}: it chatters, or never stops.", "Off four to six degrees under on.", at="/tune/typed/fan_off")  # fmt: skip
    if t.fan_on is not None and t.fan_on.si > LATEST_FAN:
        told = True
        yield say("sort_out", f"The fan goes on at {owners.typed(w, t.fan_on)}: that is late.", "Some five degrees over the thermostat.", at="/tune/typed/fan_on")  # fmt: skip
    if not told and any(v is not None for v in (t.rev_limit, t.idle_speed, t.fan_on, t.fan_off)):
        yield say("sound", "Limit, idle and fan as typed in stand in order.")


@check(
    "TUNE-02",
    "/tune",
    "Tables against pump and injectors",
    figure="tune.table_duty.full",
    source="fuel asked at full power against capacity",
    rests=("fuel.margin.full", "/tune/kept"),
)
def reach(w: Worked, say: Say) -> Iterator[Finding]:
    t, full = w.in_use, w.fuel.points["full"]
    asked = t.fuel_full_kg_s / (w.engine.fuel_mass_flow_kg_s / w.fuel.need_m3_s)
    if t.duty_full > OPEN:
        yield say(
            "stop",
            f"The table asks the injectors to be open {t.duty_full * 100:.0f} % of the time at full power.",
            "Fit larger injectors, or lower the rev limit and the filling at the top.",
            limit=OPEN,
        )
    elif asked > full.capacity_m3_s:
        yield say("stop", f"The table asks for {owners.flow(w, asked)} at full power, the pump gives {owners.flow(w, full.capacity_m3_s)}.", "Mend the pump, its wire or its line first.", at="/fuel/pump",
                  figure="fuel.pump.flow.full", limit=round(asked * 3.6e6, 3))  # fmt: skip
    elif abs(t.fuel_full_kg_s / w.engine.fuel_mass_flow_kg_s - 1) > AIR_APART:
        yield say(
            "watch",
            f"The table asks for {owners.flow(w, asked)}, the fuel for the air that it draws; the power target would take {owners.flow(w, w.fuel.need_m3_s)}.",
            "Power, speed or air is not what it is taken for: see how the power is told at the engine.",
            limit=OPEN,
        )
    else:
        yield say(
            "sound",
            f"The table asks for {owners.flow(w, asked)} and {t.duty_full * 100:.0f} % duty at full power; pump and injectors have it.",
            limit=OPEN,
        )
