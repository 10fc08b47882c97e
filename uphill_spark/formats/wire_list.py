"""The wire list as CSV (RFC 4180): every wire from pin to pin."""

from __future__ import annotations

from ..core.plan import Plan
from .cells import written

HEADER = (
    "wire",
    "label",
    "circuit",
    "from",
    "to",
    "colour (IEC 60757)",
    "size mm2",
    "length m",
    "current A",
    "drop V",
    "fuse",
    "route",
    "size is",
)


def write(plan: Plan) -> str:
    """One row a wire, header with units."""
    rows = (
        (
            w.key,
            w.label,
            w.circuit,
            w.starts_at,
            w.ends_at,
            w.colour,
            f"{w.area_m2 * 1e6:.3g}",
            f"{w.length_m:.2f}",
            f"{w.current_a:.3g}",
            f"{w.drop_v:.3f}",
            w.fuse or "",
            ", ".join(branch.replace("_", " to ") for branch in w.path),
            "fitted" if w.fitted else "proposed",
        )
        for w in plan.stages.wiring.wires
    )
    return written((HEADER, *rows))


def figures(plan: Plan) -> str:
    """All figures as CSV: name, value, unit, label, whether it rests on assumptions."""
    rows = (
        (name, "" if f.value is None else f.value, f.unit, f.label, f.shown, "yes" if f.assumed else "no")
        for name, f in plan.figures.items()
    )
    return written((("figure", "value", "unit", "label", "for reading", "rests on assumptions"), *rows))
