"""Everything worked out from a build, stage by stage: what findings, papers and the plan look at."""

from __future__ import annotations

from dataclasses import dataclass, fields
from functools import lru_cache

from .figures import Figure, Result, Spec, pointers, show
from .given import Build
from .given.document import touches
from .stages import air, engine, fuel, ignition, injectors, sensors, trigger, tune, wiring


@dataclass(frozen=True, slots=True)
class Worked:
    """A build and the result of every stage. The order of the fields is the order of work."""

    build: Build
    engine: engine.EngineResult
    fuel: fuel.FuelResult
    injectors: injectors.InjectorsResult
    air: air.AirResult
    sensors: sensors.SensorsResult
    trigger: trigger.TriggerResult | None
    ignition: ignition.IgnitionResult
    wiring: wiring.WiringResult
    tune: tune.TuneResult

    def result(self, stage: str) -> Result | None:
        found: Result | None = getattr(self, stage)
        return found


def work_out(build: Build, *, drawn: bool = True) -> Worked:
    """All stages in order, each from the build and the stages before it. What is for drawings only can be left out."""
    e = engine.work_out(build)
    f = fuel.work_out(build, e, drawn=drawn)
    i = injectors.work_out(build, e, f)
    a = air.work_out(build, e)
    s = sensors.work_out(build)
    r = trigger.work_out(build)
    g = ignition.work_out(build, e)
    w = wiring.work_out(build, f, i, s, g)
    t = tune.work_out(build, e, f, i, g)
    return Worked(build, e, f, i, a, s, r, g, w, t)


#: The stages in the order of work.
STAGE_ORDER = tuple(f.name for f in fields(Worked) if f.name != "build")
#: Every published figure, by name, with the stage that it is taken from.
SPECS: dict[str, Spec] = {}
STAGE_OF: dict[str, str] = {}
for _stage, _module in (
    ("engine", engine),
    ("fuel", fuel),
    ("injectors", injectors),
    ("air", air),
    ("sensors", sensors),
    ("trigger", trigger),
    ("ignition", ignition),
    ("wiring", wiring),
    ("tune", tune),
):
    for _spec in _module.FIGURES:
        if _spec.name in SPECS:
            raise ValueError(f"figure {_spec.name} is defined twice")
        SPECS[_spec.name] = _spec
        STAGE_OF[_spec.name] = _stage

#: The station at which a stage is seen, where that is not one of its own.
STATION_OF = {"trigger": "sensors"}
#: The places in the build that each figure depends on, worked out once from the table above.
DEPENDS: dict[str, tuple[str, ...]] = pointers(SPECS)


USES: dict[str, list[str]] = {name: list(spec.uses) for name, spec in SPECS.items()}


@lru_cache(maxsize=256)
def _resting(assumed: tuple[str, ...]) -> dict[str, list[str]]:
    """For every figure the assumed places that it rests on. Depends on the marks alone, which seldom change."""
    return {name: sorted({m for m in assumed if any(touches(m, place) for place in places)}) for name, places in DEPENDS.items()}


def figures(worked: Worked) -> dict[str, Figure]:
    """Every published figure of a build, with the assumptions it rests on."""
    assumed = tuple(m for m, mark in worked.build.marks.items() if mark.kind == "assumed")
    resting = _resting(assumed)
    return {name: _figure(worked, name, resting[name]) for name in SPECS}


class FiguresAsAsked(dict[str, Figure]):
    """The figures of a build, each made when it is first looked at, without what it rests on: for judging a change that is only tried."""

    def __init__(self, worked: Worked) -> None:
        super().__init__()
        self.worked = worked

    def __missing__(self, name: str) -> Figure:
        found = self[name] = _figure(self.worked, name, [])
        return found


def _figure(worked: Worked, name: str, resting: list[str]) -> Figure:
    return _as_published(name, SPECS[name].value(worked.result(STAGE_OF[name])), tuple(resting))


@lru_cache(maxsize=8192)
def _as_published(name: str, value: float | None, resting: tuple[str, ...]) -> Figure:
    """A figure put in words. Frozen, and most do not move from one edit to the next: the same one is handed out again."""
    spec = SPECS[name]
    return Figure(
        value=value, unit=spec.unit, shown=show(value, spec.unit, spec.share), label=spec.label, assumed=list(resting), uses=USES[name], source=spec.source
    )  # fmt: skip
