"""The flow sheet: what each injector gave, which are fitted where, with which trim, and the figure to type in."""

from __future__ import annotations

from collections.abc import Mapping

from ..core.given import Build
from ..core.plan import Plan
from .station_sheet import Block, Pictures, Sheet, words

_FIGURES = (
    "injectors.nominal", "injectors.duty.full", "injectors.pulse.idle", "injectors.spread", "injectors.imbalance.bank", "injectors.current.driver",
)  # fmt: skip


def sheet(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """The injectors' sheet."""
    i, bench = build.injectors, plan.stages.injectors.bench
    rows = [
        (
            words(r.cylinder or "left out"), r.mark, f"{r.flow_kg_s * 6e4:.1f}", "" if r.deviation is None else f"{r.deviation * 100:+.1f} %",
            "" if r.trim is None else f"{r.trim:.3f}", "" if r.gain is None else f"{r.gain * 100:+.1f} %", words(r.drops), words(r.spray),
        )
        for r in bench.rows
    ]  # fmt: skip
    return Sheet(
        station="injectors", title="Injectors", lead=f"{i.name}, {i.count} of {i.flow} at {i.rated_at}",
        cautions=[
            "Flow test outdoors, no flame, extinguisher within reach, eye protection: fuel mist and solvent burn. Short pulses when cleaning. "
            "Release the pressure before a rail comes off."
        ],
        figures=_FIGURES,
        blocks=[
            Block(
                f"Flow bench, at {i.rated_at} on the rating fluid", rows,
                ("Cylinder", "Mark", "g/min", "against the set", "trim", "by cleaning", "drops in a minute", "spray"), tick=True,
            ),
            Block("Outputs, in the order in which they fire", [(o.name, f"cylinder {', '.join(map(str, o.cylinders))}") for o in i.outputs]),
            Block("The box", [(str(c.rank), c.name, "; ".join(c.fails + c.costs) or "fits") for c in plan.stages.injectors.box[:8]]),
        ],
        pictures=[Pictures("Spray", [(key, f"{t.mark}{', cleaned' if t.cleaned else ''}") for t in i.bench for key in t.photos])],
        photos=photos,
    )  # fmt: skip
