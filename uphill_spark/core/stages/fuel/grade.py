"""The path unrolled for drawing: metres run, height and gauge pressure at every place, losses as steps where they happen."""

from __future__ import annotations

from ...figures import Result
from ...given.fuel import Filter, FuelSystem
from ...physics import pipe
from .inlet import Suction
from .plumbing import Element, Plumbing, Solved

SHORT = 0.06  # m, drawn length of a part that has none of its own


#: A place along the way: the part that it lies in, metres run, height over the pick-up, gauge pressure there [Pa].
GradePoint = tuple[str, float, float, float]


class PathLoss(Result):
    """What one part of the path does at one state: flow through it, speed, pressure lost, height climbed."""

    part: str
    kind: str
    flow_m3_s: float
    velocity_m_s: float | None
    loss_pa: float
    lift_pa: float


class Grade(Result):
    """The pressure grade line of one state: forth from the tank to the rail, back to the tank, and the loss of every part."""

    forth: list[GradePoint]
    back: list[GradePoint]
    losses: list[PathLoss]


class _Pen:
    """Walks the path and notes what it finds."""

    def __init__(self, liquid: pipe.Liquid, run: float, height: float, pressure: float) -> None:
        self.liquid, self.run, self.height, self.pressure = liquid, run, height, pressure
        self.points: list[GradePoint] = []
        self.losses: list[PathLoss] = []

    def mark(self, part: str) -> None:
        """Put down where the way has come to: run [m], height [m], pressure [Pa gauge]."""
        # As fine as any drawing shows, 0.1 mm and 0.1 Pa: what is left out would be most of what goes over the wire.
        self.points.append((part, round(self.run, 4), round(self.height, 4), round(self.pressure, 1)))

    def jump(self, part: str, pressure: float) -> None:
        """Pump or regulator: another pressure [Pa gauge] at the same place."""
        self.mark(part)
        self.pressure = pressure
        self.mark(part)

    def along(self, parts: tuple[Element, ...], flow: float) -> None:
        """Go on through some parts at a flow [m3/s]."""
        for e in parts:
            loss, lift = float(e.loss(flow, self.liquid)), pipe.head(self.liquid, e.rise)
            self.mark(e.name)
            if e.run is None or e.run.k_sum == 0.0 or loss <= 0.0:
                self._step(e.length or (SHORT if isinstance(e.part, Filter) else SHORT / 2), e.rise, loss + lift)
            else:
                self._fittings(e, loss, lift, flow)
            self.mark(e.name)
            self.losses.append(
                PathLoss(part=e.name, kind=e.part.kind, flow_m3_s=flow, velocity_m_s=e.run.velocity(flow) if e.run else None, loss_pa=loss, lift_pa=lift)
            )  # fmt: skip

    def _fittings(self, e: Element, loss: float, lift: float, flow: float) -> None:
        """A run whose fittings take their share in steps, spread evenly along it."""
        assert e.run is not None
        in_fittings = e.run.k_sum * self.liquid.density * e.run.velocity(flow) ** 2 / 2
        steps = min(max(sum(f.count for f in getattr(e.part, "fittings", ())), 1), 6)
        for i in range(steps + 1):
            share = (1 if 0 < i < steps else 0.5) / steps
            self._step(e.length * share, e.rise * share, (loss - in_fittings + lift) * share)
            if i < steps:
                self.mark(e.name)
                self.pressure -= in_fittings / steps
                self.mark(e.name)

    def _step(self, run: float, rise: float, drop: float) -> None:
        self.run += run
        self.height += rise
        self.pressure -= drop


def grade(fuel: FuelSystem, system: Plumbing, solved: Solved, suction: Suction, ambient_pa: float) -> Grade:
    """The grade line of a solved state."""
    net, flow = system.net, solved.point.flow
    pen = _Pen(net.liquid, 0.0, 0.0, suction.surface_pa - ambient_pa + pipe.head(net.liquid, suction.surface_m))
    pen.mark("surge_tank" if fuel.lift else "tank")
    pen.along(suction.section.parts, flow)
    pen.jump("pump", solved.point.pressure)
    pen.along(net.forward.parts, flow)
    holds = flow >= system.demand
    regulated = float(system.regulated(flow)) if holds else pen.pressure
    if net.regulator_first:
        pen.jump("regulator", regulated)
    else:
        pen.mark("rail")
    turn = (pen.run, pen.height)
    pen.along(net.between.parts, float(system.onward(flow)))
    if net.regulator_first:
        pen.mark("rail")
    else:
        turn = (pen.run, pen.height)
    back: list[GradePoint] = []
    losses = pen.losses
    if net.scheme != "dead_head":
        way = _Pen(net.liquid, *turn, regulated if net.regulator_first else pen.pressure)
        way.jump("regulator", float(system.return_pressure(flow)))
        way.along(net.back.parts, float(system.spare(flow)))
        way.mark(fuel.path[-1])
        back, losses = way.points, [*losses, *way.losses]
    return Grade(forth=pen.points, back=back, losses=losses)
