"""The order sheet: one page for whoever sets the control unit up, sells the loom or cuts the adapter; and what must be proven before it is paid for."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from ..core.given import Build
from ..core.given.own import told
from ..core.given.trigger import Trigger
from ..core.plan import Plan
from .station_sheet import Block, Sheet, words

NONE, OPEN = "none", "not known"
_MANY = 3  # wires on a pin, from which on they are counted
_TYPED = (
    "injectors.nominal", "fuel.gauge.key_on", "trigger.angle", "ignition.dwell.12V", "ignition.dwell.13.8V", "ignition.tach.pulses", "wiring.pulses_per_km", "tune.full_cylinder_pulse",
)  # fmt: skip


def sheet(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """The sheet to order by."""
    e = build.engine
    return Sheet(
        station="wiring", title="Order sheet",
        lead=f"{e.cylinders} cylinders {e.arrangement}, {told(e.displacement, plan.units)}, fires {'-'.join(map(str, e.firing_order))}, {told(e.power, plan.units)} at {told(e.power_speed, plan.units)}, {e.fuel}",
        cautions=["The parts' own sheets come before this one. Nothing here says that the car may be driven on the road: local rules do."],
        figures=_TYPED,
        blocks=[
            Block("What is fitted", _pairs(_fitted(plan, build), 2)),
            Block("What stays, and what is left out", _left_out(plan, build)),
            Block("Pins", _pairs(_pins(plan), 3), note="As proposed: the unit's own sheet wins. Not listed is free."),
            Block("To be proven before it is paid for", [(row,) for row in _proven(plan, build)], tick=True),
        ],
        photos=photos, most=0,
    )  # fmt: skip


def _pairs(rows: Sequence[tuple[str, str]], many: int) -> list[tuple[str, ...]]:
    """Pairs set side by side, so many in a row, down the columns."""
    height = -(-len(rows) // many)
    columns = [list(rows[k * height : (k + 1) * height]) for k in range(many)]
    filled = [column + [("", "")] * (height - len(column)) for column in columns]
    return [tuple(cell for pair in row for cell in pair) for row in zip(*filled, strict=True)]


def _fitted(plan: Plan, build: Build) -> list[tuple[str, str]]:
    """What is fitted, by what it is called."""
    i, g, w, s, t = build.injectors, build.ignition, build.wiring, build.sensors, build.sensors.trigger
    box, own = w.gearbox, plan.stages.ignition
    volts = ", ".join(f"{v} V {ms * 1e3:.2f} ms" for v, ms in plan.stages.injectors.dead_time.items())
    found = [
        ("Control unit", words(w.profile)),
        ("Numbers its outputs", OPEN if w.unit.numbers == "not_read" else words(w.unit.numbers)),
        ("Layout", f"{words(build.engine.layout)}, fuel enters {words(i.enters)}"),
        ("Throttle", "by wire" if build.air.by_wire else "by cable" if build.air.linkage else OPEN),
        ("Injectors", f"{i.count} of {i.name}, {i.flow} at {told(i.rated_at, plan.units)}, {i.resistance}"),
        ("Fired", f"{words(i.firing)}, {words(i.driver)} driver"),
        ("Dead time", f"{volts}{'' if i.dead_times else ', assumed'}"),
        ("Pressure", f"{told(build.fuel.regulator.set_pressure, plan.units)}, regulator sees {words(build.fuel.regulator.reference)}"),
        ("Pump", f"{build.fuel.pump.name}, {words(build.fuel.pump.control)}"),
        ("Ignition", f"{words(g.kind)}, {own.coils} {'coil' if own.coils == 1 else 'coils'}, {'timed by the unit' if g.timed_by_unit else 'keeps its own advance'}"),
        ("Coil", f"{words(g.coil.kind)}, {g.coil.resistance}, {g.coil.current}, fires as its signal goes {words(g.coil.fires_on)}"),
        ("Trigger", f"{words(t.sensor)}, {_wheel(t)} on the {t.on}, wants {words(t.wants)}" if t else f"speed from {words(g.speed_signal)}"),
        ("Phase", "from the wheel" if plan.stages.trigger and plan.stages.trigger.gives_phase else "a sensor of its own" if t and t.phase else NONE),
        ("Sensors", "; ".join(row.label + ("" if row.state == "fitted" else ", not confirmed") for row in plan.stages.sensors.rows if row.state != "struck")),
        ("Pressure sensor", words(s.pressure.sits) if s.pressure else OPEN),
        ("Fans and extras", ", ".join(words(x) for x in w.extras) or NONE),
        ("Rev counter", words(g.tach.hangs_on) if g.tach else OPEN),
        ("Limits", f"{told(build.engine.rev_limit, plan.units)}, idle {told(build.engine.idle_speed, plan.units)}"),
        ("Gearbox", words(box.kind) if box else OPEN),
        ("Speed", f"{box.pulses:g} pulses a turn, {box.axle or OPEN} axle, {told(box.tyre, plan.units) if box.tyre else OPEN} tyre" if box and box.pulses else OPEN),
        ("Reverse lock, neutral", f"{words(box.reverse_lock)}, {words(box.neutral_switch)}" if box else OPEN),
        ("Unit sits", words(w.unit.mounted)),
    ]  # fmt: skip
    return [(label, value) for label, value in found if value]


def _wheel(t: Trigger) -> str:
    """A wheel as people say it."""
    return f"{len(t.windows)} windows" if t.pattern == "windows" else f"{t.teeth}+1" if t.pattern == "added" else f"{t.teeth}-{t.missing}"


def _left_out(plan: Plan, build: Build) -> list[tuple[str, str]]:
    """What of the old car stays, and what of the new set is left out."""
    stays = ", ".join(words(x) for x in build.engine.carried_over)
    out = [row.label for row in plan.stages.sensors.rows if row.state == "struck"]
    if build.ignition.kind in ("wasted_spark", "coil_per_plug"):
        out.append("distributor")
    return [("Stays", stays or NONE), ("Left out or taken off", ", ".join(out))]


def _pins(plan: Plan) -> list[tuple[str, str]]:
    """Pins that are used, each with its wires."""
    label = {w.key: w.label for w in plan.stages.wiring.wires}

    def on(keys: list[str], kind: str) -> str:
        return ", ".join(label.get(key, key) for key in keys) if len(keys) < _MANY else f"{words(kind)}, {len(keys)} wires"

    used = [(p.pin, on(p.wires, p.kind)) for p in plan.stages.wiring.pins if p.wires]
    return used + [("no pin", text) for text in plan.stages.wiring.pins_short]


def _proven(plan: Plan, build: Build) -> list[str]:
    """What nobody has proven yet of what this order rests on."""
    u, g = build.wiring.unit, build.ignition
    settings = [row.label for row in plan.stages.wiring.settings if row.wanted and row.can != "yes"]
    found = [f"That it can be set to {', '.join(settings)}"] if settings else []
    asked = (
        (u.numbers == "not_read" and (g.timed_by_unit or build.injectors.firing == "sequential"), "Whether it numbers outputs by cylinder or by place in the firing order"),
        (u.coil_stage == "not_read" and g.timed_by_unit, "Whether a power stage for the coils is inside"),
        (u.pump_output == "not_read" and build.fuel.pump.control == "control_unit", "Whether it pulls a pump relay in or feeds the pump itself"),
        (u.oxygen == "not_read", "Whether the oxygen sensor's controller is inside"),
        (u.link_proven is None, "Its link to the computer, unit and computer on a table"),
        (u.software != "renewed", "That its software is renewed before anything is set"),
        (u.from_donor == "yes" and u.theft_lock != "removed", "That its theft lock is out"),
        (True, "That the pump stops by itself without a speed signal"),
        (build.engine.layout == "throttle_body" and (build.air.height is None or build.air.height.left is None), "Height of carburettor, adapter and body under the bonnet"),
        (bool(plan.stages.wiring.pins_short), "A pin for every signal"),
    )  # fmt: skip
    return found + [text for open_, text in asked if open_]
