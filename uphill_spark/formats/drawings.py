"""Drawings of the papers: ink on white, in millimetres, as SVG. They show what a stage worked out, on the person's own scales, for a wall and a pencil.

Each takes a plan and gives a drawing, or None where there is nothing to draw yet. What a person wrote is escaped by the templates.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any

from markupsafe import Markup

from ..core.plan import Plan
from .start_sheet import environment

WIDTH, HEIGHT = 104.0, 44.0  # mm
PAPER = 182.0  # mm, what a sheet has from edge to edge
LEFT, RIGHT, TOP, BOTTOM = 12.0, 3.0, 5.0, 8.0  # mm round the plot


@dataclass(frozen=True, slots=True)
class Axis:
    """Numbers from `low` to `high` laid out from `begins` to `ends` [mm], with ticks at round numbers and what they count."""

    low: float
    high: float
    begins: float
    ends: float
    label: str = ""
    wanted: int = 4
    ticks: tuple[float, ...] = field(init=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "ticks", round_numbers(self.low, self.high, self.wanted))

    def __call__(self, value: float) -> float:
        """The place of a number [mm]."""
        return round(self.begins + (value - self.low) / (self.high - self.low) * (self.ends - self.begins), 2)


def round_numbers(low: float, high: float, wanted: int) -> tuple[float, ...]:
    """Multiples of 1, 2 or 5 times a power of ten within a range, about as many as wanted."""
    rough = (high - low) / wanted
    power = 10.0 ** math.floor(math.log10(rough))
    step = next(power * k for k in (1, 2, 5, 10) if power * k >= rough * 0.999)
    return tuple(round(k * step, 10) for k in range(math.ceil(low / step - 1e-9), math.floor(high / step + 1e-9) + 1))


def across(low: float, high: float, label: str = "", width: float = WIDTH) -> Axis:
    """An axis from left to right over the plot."""
    return Axis(low, high, LEFT, width - RIGHT, label)


def upwards(low: float, high: float, label: str = "", height: float = HEIGHT) -> Axis:
    """An axis from the plot's bottom to its top."""
    return Axis(low, high, height - BOTTOM, TOP, label)


def drawn(name: str, words: str, width: float = WIDTH, height: float = HEIGHT, **what: Any) -> Markup:
    """A drawing by its template. `words` tell it to who does not see it."""
    page = environment().get_template(f"drawings/{name}.svg")
    return Markup(page.render(w=width, h=height, words=words, **what))  # the template escapes what is put in


def line(points: Sequence[tuple[float, float]]) -> str:
    """A path through places [mm]."""
    return "M" + "L".join(f"{x:.2f} {y:.2f}" for x, y in points)


def compression(plan: Plan) -> Markup | None:
    """Cylinders as bars, the time before as a stroke, and what to expect."""
    engine, scale = plan.stages.engine, plan.scales["compression"]
    bars = [b for b in engine.compression if b.dry_pa is not None]
    if not bars:
        return None
    highest = max(b.dry_pa or 0.0 for b in bars)
    y = upwards(0.0, scale.of(max(highest, engine.compression_expected_pa)) * 1.15, f"{scale.unit}, gauge")
    x = across(0.4, len(bars) + 0.6)
    rows = [(x(i + 1), y(scale.of(b.dry_pa or 0.0)), scale.bare(b.dry_pa or 0.0), str(b.cylinder), b.before_pa and y(scale.of(b.before_pa))) for i, b in enumerate(bars)]  # fmt: skip
    return drawn("compression", "Compression by cylinder", y=y, x=x, rows=rows, wide=min(9.0, 60.0 / len(bars)), expected=y(scale.of(engine.compression_expected_pa)), tenth=y(scale.of(highest * 0.9)))  # fmt: skip


def grade(plan: Plan) -> Markup | None:
    """The pressure from tank to rail and back, at full power."""
    way, pressure, distance = plan.stages.fuel.grades["full"], plan.scales["pressure"], plan.scales["distance"]
    every = [*way.forth, *way.back]
    y = upwards(pressure.of(min(-20e3, *(p[3] for p in every))), pressure.of(max(p[3] for p in every)) * 1.18, pressure.unit, 34.0)
    x = across(0.0, distance.of(max(max(p[1] for p in every), 0.5)), f"{distance.unit} of line", PAPER)
    forth, back = ([(x(distance.of(p[1])), y(pressure.of(p[3]))) for p in part] for part in (way.forth, way.back))
    named: list[tuple[float, float, str]] = []
    for name in ("pump", "rail"):
        place = [p for p in way.forth if p[0] == name][-1]
        named.append((x(distance.of(place[1])), y(pressure.of(place[3])), f"{name} {pressure.bare(place[3])}"))
    return drawn(
        "grade",
        "Pressure along the way at full power",
        PAPER,
        34.0,
        y=y,
        x=x,
        forth=line(forth),
        back=line(back) if len(back) > 1 else "",
        named=named,
    )


def flows(plan: Plan) -> Markup | None:
    """Each injector against the set's mean, with the spread that goes together."""
    bench = plan.stages.injectors.bench
    rows = [r for r in bench.rows if r.deviation is not None]
    if len(rows) < 2:
        return window(plan)
    most = max(0.05, *(abs(r.deviation or 0.0) for r in rows)) * 1.2
    y = upwards(-100 * most, 100 * most, "% against the set")
    x = across(0.4, len(rows) + 0.6)
    half = 50 * bench.spread_sound
    bars = [(x(i + 1), y(100 * (r.deviation or 0.0)), r.mark[:8], f"{r.cylinder}" if r.cylinder else "out") for i, r in enumerate(rows)]
    return drawn(
        "flows",
        "Injectors against their set",
        y=y,
        x=x,
        rows=bars,
        wide=min(8.0, 60.0 / len(rows)),
        zero=y(0.0),
        low=y(-half),
        high=y(half),
    )


def window(plan: Plan) -> Markup | None:
    """Which rated flow passes both ends, and the one that is fitted."""
    i, scale = plan.stages.injectors, plan.scales["injector"]
    low, high, most, mine = (scale.of(v) for v in (i.window_low_kg_s, i.window_high_kg_s, i.window_watch_kg_s, i.flow_rated_kg_s))
    x = across(0.0, max(low, high, most, mine) * 1.15, f"rated flow, {scale.unit} each")
    return drawn("window", "Which rated flow passes both ends", height=30.0, x=x, low=x(low), high=x(high), mine=x(mine), told=[scale.bare(v) for v in (i.window_low_kg_s, i.window_high_kg_s, i.flow_rated_kg_s)])  # fmt: skip


def hoses(plan: Plan) -> Markup | None:
    """Hoses at the left, ports at the right: as they are, and where they belong."""
    found = plan.stages.air.hoses
    if not found:
        return None
    ports = list(dict.fromkeys(p for h in found for p in (h.now, h.proposed) if p))
    tall = max(len(found), len(ports), 2) * 5.2 + 4.0
    left = {i: 4.5 + i * (tall - 5.0) / max(len(found) - 1, 1) for i in range(len(found))}
    right = {p: 4.5 + i * (tall - 5.0) / max(len(ports) - 1, 1) for i, p in enumerate(ports)}
    rows = [(left[i], h.kind.replace("_", " "), h.now and right[h.now], h.proposed and right[h.proposed], bool(h.wrong)) for i, h in enumerate(found)]  # fmt: skip
    return drawn("hoses", "Which hose goes to which port", height=tall, rows=rows, ports=[(y, name[:22]) for name, y in right.items()])


def senders(plan: Plan) -> Markup | None:
    """Volts of the temperature senders over temperature."""
    s, scale = plan.stages.sensors, plan.scales["temperature"]
    curves = [(name, c) for name, c in (("coolant", s.coolant), ("air", s.air)) if c is not None]
    if not curves:
        return None
    every = [scale.of(t) for _, c in curves for t in c.temperature_k]
    x, y = across(min(every), max(every), scale.unit), upwards(0.0, 5.0, "V")
    lines = [(name, line([(x(scale.of(t)), y(v)) for t, v in zip(c.temperature_k, c.volts, strict=True)]), x(scale.of(c.temperature_k[k])), y(c.volts[k])) for (name, c), k in zip(curves, (3, 6), strict=False)]  # fmt: skip
    return drawn("senders", "Volts of the senders over temperature", y=y, x=x, lines=lines)


def wheel(plan: Plan) -> Markup | None:
    """The trigger wheel at top dead centre of number one, its teeth counted from the gap."""
    t = plan.stages.trigger
    if t is None:
        return None
    size, radius = 62.0, 22.0
    gear, way, offset = 360.0 / t.cycle_deg, 1 if t.clockwise == t.from_front else -1, t.angle_deg or 0.0

    def at(deg: float, r: float) -> tuple[float, float]:
        angle = math.radians(way * (offset - deg) * gear - 90)
        return size / 2 + r * math.cos(angle), size / 2 + 2 + r * math.sin(angle)

    teeth, numbers = [], []
    every = 1 if t.teeth_per_turn <= 14 else 2 if t.teeth_per_turn <= 26 else 5
    for k, (begins, ends) in enumerate(t.edges_deg):
        steps = max(1, round((ends - begins) * gear / 6))
        outer = [at(begins + (ends - begins) * i / steps, radius) for i in range(steps + 1)]
        teeth.append(line([at(begins, radius - 3.5), *outer, at(ends, radius - 3.5)]) + "Z")
        if k == 0 or (k + 1) % every == 0:
            numbers.append((*at((begins + ends) / 2, radius - 6.5), k + 1))
    told = "the trigger angle is not set" if t.angle_deg is None else f"top of number one: tooth {t.tooth_at_tdc or 0:.1f} under the sensor"
    return drawn("wheel", "The trigger wheel at top of number one", size, size + 5, teeth=teeth, numbers=numbers, middle=(size / 2, size / 2 + 2), radius=radius, told=told, side=f"seen from the {'front' if t.from_front else 'rear'}")  # fmt: skip


def firing(plan: Plan) -> Markup | None:
    """Two turns of the crank from left to right: which cylinder fires when, and by which output."""
    g = plan.stages.ignition
    if not g.outputs:
        return None
    rows = [(i, o.name[:10], [(d, c) for d, c in zip(o.fires_deg, o.proposed, strict=True)]) for i, o in enumerate(g.outputs)]
    pitch = min(5.0, 26.0 / len(rows))
    tall = len(rows) * pitch + 12.0
    x = Axis(0.0, 720.0, 22.0, PAPER - 8.0, "degrees of the crank after number one", 8)
    marks = [(3.0 + i * pitch, name, [(x(d), str(c)) for d, c in fires]) for i, name, fires in rows]
    return drawn("firing", "Who fires when, over two turns of the crank", PAPER, tall, x=x, rows=marks, bottom=tall - 10.0)


#: The drawing of each sheet, by the sheet's key.
DRAWINGS: dict[str, Callable[[Plan], Markup | None]] = {
    "engine": compression, "fuel": grade, "flow": flows, "air": hoses, "sensors": senders, "trigger": wheel, "timing": firing,
}  # fmt: skip

#: Those as wide as the paper.
WIDE = ("fuel", "timing")
