"""The air sheet: throttle, pedal, every hose and port, to be ticked off at the car."""

from __future__ import annotations

from collections.abc import Mapping

from ..core.findings.air import CLEARANCE
from ..core.given import Build
from ..core.given.own import told
from ..core.plan import Plan
from .station_sheet import Block, Pictures, Sheet, words

_FIGURES = (
    "air.need", "air.throttle.drop.full", "air.throttle.loss.full", "air.throttle.area", "air.throttle.speed", "air.pedal.full", "air.pedal.half", "air.ports.open",
    "air.reservoir.applications",
)  # fmt: skip


def sheet(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """The air side's sheet."""
    a, stage = build.air, plan.stages.air
    hoses = [
        (
            words(c.kind),
            words(c.was) or "not noted",
            words(c.port) or "left off",
            words(h.proposed) or "nothing here suits it",
            words(h.wrong),
        )
        for c, h in zip(a.consumers, stage.hoses, strict=True)
    ]
    state = {**{name: "capped" for name, p in a.ports.items() if p.capped}, **dict.fromkeys(stage.open_ports, "open: cap it or use it")}
    ports = [
        (name, words(p.source), told(p.bore, plan.units) if p.bore else "", state.get(name, "a hose on it")) for name, p in a.ports.items()
    ]
    throttle = (
        f"{a.throttle.bores} × {told(a.throttle.bore, plan.units) if a.throttle.bore else 'bore not measured'}"
        if a.throttle
        else "throttle not described"
    )
    return Sheet(
        station="air", title="Air", lead=f"{a.throttle.name}, {throttle}" if a.throttle else throttle,
        cautions=[
            "Engine off, key out, while a hand is in the linkage. Full travel by hand and by the pedal, bonnet shut, before the first start: a throttle that sticks "
            "open drives the car.",
            "Carburettor off: catch the fuel, plug the manifold with a rag, and take it out again.",
        ],
        figures=_FIGURES,
        blocks=[
            Block("Hoses", hoses, ("Hose of", "was on", "is on", "belongs on", "wrong"), tick=True),
            Block("Ports", ports, ("Port", "gives", "bore", "now"), tick=True),
            Block(
                "By hand", [("Full pedal", "plate square to its stop, no strain on the cable"), ("Foot off", "shuts by itself from anywhere, each spring alone"),
                            ("Bonnet shut", f"{plan.scales['length'].tell(CLEARANCE)} clear over the whole travel"), ("Gearbox cable", "its own geometry, set by the gearbox maker's figures")], tick=True,
            ),
        ],
        pictures=[Pictures("Before it came off", [(key, f"{words(c.kind)}, {words(c.was) or 'place not noted'}") for c in a.consumers for key in c.photos])],
        photos=photos, drawing="air",
    )  # fmt: skip
