"""The flow sheet: what each injector gave, which are fitted where, with which trim, and the figure to type in."""

from __future__ import annotations

from collections.abc import Mapping

from ..core.given import Build
from ..core.given.own import told
from ..core.plan import Plan
from .station_sheet import Block, Pictures, Sheet, words

_FIGURES = (
    "injectors.nominal", "injectors.duty.full", "injectors.pulse.idle", "injectors.spread", "injectors.imbalance.bank", "injectors.current.driver",
)  # fmt: skip


def sheet(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """The injectors' sheet."""
    i, bench = build.injectors, plan.stages.injectors.bench
    scale = plan.scales["injector"]
    rows = [
        (
            words(r.cylinder or "left out"), r.mark, scale.bare(r.flow_kg_s, 1), "" if r.deviation is None else f"{r.deviation * 100:+.1f} %",
            "" if r.trim is None else f"{r.trim:.3f}", "" if r.gain is None else f"{r.gain * 100:+.1f} %", words(r.drops), words(r.spray),
        )
        for r in bench.rows
    ]  # fmt: skip
    return Sheet(
        station="injectors", title="Injectors", lead=f"{i.name}, {i.count} of {i.flow} at {told(i.rated_at, plan.units)}",
        cautions=[
            "Flow test outdoors, no flame, extinguisher within reach, eye protection: fuel mist and solvent burn. Short pulses when cleaning. "
            "Release the pressure before a rail comes off."
        ],
        figures=_FIGURES,
        blocks=[
            Block(
                f"Flow bench, at {told(i.rated_at, plan.units)} on the rating fluid", rows,
                ("Cylinder", "Mark", scale.unit, "against the set", "trim", "by cleaning", "drops in a minute", "spray"), tick=True,
            ),
            Block("Outputs, in the order in which they fire", [(o.name, f"cylinder {', '.join(map(str, o.cylinders))}") for o in i.outputs]),
            Block("The box", [(str(c.rank), c.name, "; ".join(c.fails + c.costs) or "fits") for c in plan.stages.injectors.box[:8]]),
        ],
        pictures=[Pictures("Spray", [(key, f"{t.mark}{', cleaned' if t.cleaned else ''}") for t in i.bench for key in t.photos])],
        photos=photos, drawing="flow",
    )  # fmt: skip
