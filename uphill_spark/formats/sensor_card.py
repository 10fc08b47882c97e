"""The sensor card: each sensor with its place, its wiring and its table, for the door of the garage and for typing in."""

from __future__ import annotations

from collections.abc import Mapping

from ..core.given import Build
from ..core.plan import Plan
from ..core.scales import Scale
from ..core.stages.sensors.scaling import Line, ThermistorCurve
from .station_sheet import Block, Sheet, words

_FIGURES = (
    "sensors.coolant_temperature.at_20C", "sensors.intake_air_temperature.at_20C", "sensors.throttle.pedal", "sensors.pressure.most", "sensors.share_error.coolant_temperature",
)  # fmt: skip


def sheet(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """The sensors' card."""
    s, given = plan.stages.sensors, build.sensors
    rows = [
        (row.label, row.place, "inside the body" if row.inside_unit else _pins(plan, row.label)) for row in s.rows if row.state != "struck"
    ]  # fmt: skip
    blocks = [Block("Sensors and their wires", rows, ("Sensor", "place", "wires"), tick=True)]
    for title, curve in (("Coolant sender", s.coolant), ("Intake air sender", s.air)):
        if curve is not None:
            blocks.append(_curve(title, curve, plan.scales["temperature"]))
    lines = [
        (title, found, scale)
        for title, found, scale in (
            ("Manifold pressure", s.pressure.line if s.pressure else None, plan.scales["manifold"]),
            ("Fuel pressure", s.fuel_pressure, plan.scales["pressure"]),
        )
        if found
    ]
    if lines:
        blocks.append(
            Block(
                "Straight lines",
                [_line(title, found, scale) for title, found, scale in lines],
                ("Sensor", "at 0.5 V", "at 4.5 V", "points miss by"),
            )
        )
    measured = []
    if given.throttle is not None:
        t = given.throttle
        measured.append(
            (
                "Throttle",
                f"shut {t.closed}, its own stop {t.open}, pedal {words(t.pedal) or 'not read'}, zeroed {words(t.zeroed) or 'never'}",
            )
        )
    if s.exhaust is not None and s.exhaust.allowed_m:
        along = plan.scales["length"]
        bands = "; ".join(f"{along.bare(a)} to {along.tell(b)}" for a, b in s.exhaust.allowed_m)
        measured.append(("Oxygen sensor", f"allowed {bands} from the ports, 10 to 90 degrees above level"))
    if s.oxygen is not None:
        told = [(s.oxygen.offset + s.oxygen.slope * v, v) for v in (0.0, 5.0)]
        measured.append(("Lambda", "; ".join(f"{v:g} V is {value:.3f}" for value, v in told)))
    blocks.append(Block("Measured", measured))
    return Sheet(
        station="sensors", title="Sensors", lead=f"{len(rows)} sensors",
        cautions=["Never guess a supply: 12 V kill a 5 V sensor. The oxygen sensor runs at several hundred degrees; weld with it out and the battery off. Cooling system cold and open before a sender comes out."],
        figures=_FIGURES, blocks=blocks, photos=photos, drawing="sensors", codes="SENS", most=2,
    )  # fmt: skip


def _pins(plan: Plan, label: str) -> str:
    """The control unit's pins of a sensor's wires: "signal A8, sensor ground A5"."""
    found = []
    for wire in plan.stages.wiring.wires:
        if wire.label.startswith(f"{label} "):
            end = next((e for e in (wire.start, wire.end) if e.startswith("unit.")), "")
            found.append(f"{wire.label.removeprefix(label).strip()} {end.removeprefix('unit.')}".strip())
    return ", ".join(found)


def _curve(title: str, c: ThermistorCurve, scale: Scale) -> Block:
    note = f"A {c.a:.5e}, B {c.b:.5e}, C {c.c:.5e}; fault below {c.short_below_v:.2f} V or above {c.open_above_v:.2f} V"
    cells = [f"{scale.tell(t)}: {v:.3f} V" for t, v in zip(c.temperature_k, c.volts, strict=True)]
    return Block(title, [cells[i : i + 5] + [""] * (5 - len(cells[i : i + 5])) for i in range(0, len(cells), 5)], note=note)


def _line(title: str, line: Line, scale: Scale) -> tuple[str, ...]:
    missed = line.residual / (scale.one - scale.zero)
    return (title, *(scale.tell(line.offset + line.slope * v, 1) for v in (0.5, 4.5)), f"{missed:.{scale.digits + 2}f} {scale.unit}")
