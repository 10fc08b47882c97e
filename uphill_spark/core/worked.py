"""Everything worked out from a build, stage by stage: what findings, papers and the plan look at."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import groupby
from operator import attrgetter
from typing import Any, cast

from . import equilibrium
from .circuit import harness
from .circuit.electric import Electric
from .figures import Figure, Result, Spec, pointers, told
from .given import Build
from .given.document import touches
from .given.own import unit_of_figure, units_of_figures
from .graph import Stage, in_order
from .stages import air, engine, fuel, ignition, injectors, road, sensors, trigger, tune, wiring
from .stages import work as work_stage
from .stages.fuel import doubt
from .stages.tune import in_use
from .stations import OF_STAGE, StationKey
from .units import Units

#: The stages, each after those whose results it takes.
STAGES: tuple[Stage, ...] = in_order(
    (
        Stage.of("engine", engine),
        Stage.of("sensors", sensors),
        Stage.of("harness", harness),
        Stage.of("circuit", equilibrium),
        Stage.of("fuel", fuel),
        Stage.of("doubt", doubt),
        Stage.of("injectors", injectors),
        Stage.of("air", air),
        Stage.of("trigger", trigger),
        Stage.of("ignition", ignition),
        Stage.of("wiring", wiring),
        Stage.of("tune", tune),
        Stage.of("in_use", in_use),
        Stage.of("road", road),
    )
)
#: Every published figure, by name, with the stage that it is taken from, in the order of the climb.
SPECS: dict[str, Spec] = {}
STAGE_OF: dict[str, str] = {}
#: What is made of a build once it is judged, and its figures: it comes after every check but its own.
JUDGED_FIRST: dict[str, tuple[Spec, ...]] = {"work": work_stage.FIGURES}
for _name, _figures in sorted([*((s.name, s.figures) for s in STAGES), *JUDGED_FIRST.items()], key=lambda s: list(OF_STAGE).index(s[0])):
    for _spec in _figures:
        if _spec.name in SPECS:
            raise ValueError(f"figure {_spec.name} is defined twice")
        SPECS[_spec.name] = _spec
        STAGE_OF[_spec.name] = _name

#: The places in the build that each figure depends on, worked out once from the table above.
DEPENDS: dict[str, tuple[str, ...]] = pointers(SPECS)
_OF_BUILD = tuple(name for name, stage in STAGE_OF.items() if stage not in JUDGED_FIRST)
_OF_WORK = tuple(name for name, stage in STAGE_OF.items() if stage in JUDGED_FIRST)
_BY_STAGE = tuple((stage, tuple(SPECS[name] for name in names)) for stage, names in groupby(_OF_BUILD, STAGE_OF.__getitem__))
_UNITS = tuple((name, spec.unit) for name, spec in SPECS.items())
USES: dict[str, list[str]] = {name: list(spec.uses) for name, spec in SPECS.items()}


@dataclass(frozen=True, slots=True)
class Worked:
    """A build and the result of every stage by its name. `drawn` tells whether it is to be shown to somebody: what no finding rests on, and what only words rest on, was worked out too; `units` in whose it is told."""

    build: Build
    results: dict[str, Any]
    drawn: bool
    units: Units = "as_written"

    def result(self, stage: str) -> Result | None:
        """The result of a stage."""
        found: Result | None = self.results[stage]
        return found

    # The stages by name, so that what reads them is checked by type.
    @property
    def engine(self) -> engine.EngineResult:
        """What the engine asks for."""
        return cast(engine.EngineResult, self.results["engine"])

    @property
    def circuit(self) -> Electric:
        """The harness in balance."""
        return cast(Electric, self.results["circuit"])

    @property
    def fuel(self) -> fuel.FuelResult:
        """Where pump and system meet."""
        return cast(fuel.FuelResult, self.results["fuel"])

    @property
    def doubt(self) -> doubt.MarginBand:
        """The band of the fuel margin."""
        return cast(doubt.MarginBand, self.results["doubt"])

    @property
    def injectors(self) -> injectors.InjectorsResult:
        """Both ends of the injector's range."""
        return cast(injectors.InjectorsResult, self.results["injectors"])

    @property
    def air(self) -> air.AirResult:
        """Throttle, pedal, hoses."""
        return cast(air.AirResult, self.results["air"])

    @property
    def sensors(self) -> sensors.SensorsResult:
        """The set, and how each reads."""
        return cast(sensors.SensorsResult, self.results["sensors"])

    @property
    def trigger(self) -> trigger.TriggerResult | None:
        """The wheel; None without one."""
        return cast("trigger.TriggerResult | None", self.results["trigger"])

    @property
    def ignition(self) -> ignition.IgnitionResult:
        """Coil and order."""
        return cast(ignition.IgnitionResult, self.results["ignition"])

    @property
    def wiring(self) -> wiring.WiringResult:
        """Wires, fuses, pins."""
        return cast(wiring.WiringResult, self.results["wiring"])

    @property
    def tune(self) -> tune.TuneResult:
        """Quick tables."""
        return cast(tune.TuneResult, self.results["tune"])

    @property
    def in_use(self) -> in_use.InUse:
        """The tables in use."""
        return cast(in_use.InUse, self.results["in_use"])

    @property
    def road(self) -> road.RoadResult:
        """What the road has said."""
        return cast(road.RoadResult, self.results["road"])

    @property
    def work(self) -> work_stage.WorkResult:
        """The work, of a build that was judged."""
        return cast(work_stage.WorkResult, self.results["work"])

    def with_work(self, found: work_stage.WorkResult) -> Worked:
        """The same once it was judged, with its work."""
        return replace(self, results={**self.results, "work": found})


#: Asked between two pieces of work: it raises WorkedTooLong once there is no more time for them.
Still = Callable[[], None]


def no_limit() -> None:
    """As long as it takes."""


def work_out(
    build: Build,
    before: Worked | None = None,
    *,
    drawn: bool = True,
    only: frozenset[str] | None = None,
    still: Still = no_limit,
    units: Units | None = None,
) -> Worked:
    """All stages in order, each from the build and the stages it takes.

    What has not changed since `before` is taken from there: a stage that reads and looks at the same has the same result.
    With `only`, the stages named and those that they rest on. Without `drawn`, what no finding rests on is left out.
    """
    results: dict[str, Any] = {}
    usable = before if before is not None and (before.drawn or not drawn) else None
    same: dict[str, bool] = {}
    for stage in STAGES:
        if (only is not None and stage.name not in only) or (stage.beside and not drawn):
            continue
        if usable is not None and stage.name in usable.results and _unchanged(stage, build, usable, results, same):
            results[stage.name] = usable.results[stage.name]
            continue
        still()
        found = stage.work_out(build, results, drawn=drawn)
        if usable is not None and isinstance(found, (Result, harness.Harness)) and found == usable.results.get(stage.name):
            found = usable.results[stage.name]  # came out the same: what takes it stays as well
        results[stage.name] = found
    return Worked(build, results, drawn, units or (before.units if before else "as_written"))


def _unchanged(stage: Stage, build: Build, before: Worked, results: dict[str, Any], same: dict[str, bool]) -> bool:
    """Whether all that a stage reads and looks at is as it was. `same` holds what was compared already."""
    for place in stage.reads:
        if place not in same:
            there = attrgetter(place)
            now, then = there(build), there(before.build)
            same[place] = now is then or now == then
        if not same[place]:
            return False
    for name in stage.takes:
        now, then = results[name], before.results.get(name)
        if now is not then and not (name in stage.looks and all(getattr(now, x) == getattr(then, x) for x in stage.looks[name])):
            return False
    return True


def resting_on(*names: str) -> frozenset[str]:
    """The stages named and all that they rest on."""
    by_name = {s.name: s for s in STAGES}
    found: set[str] = set()

    def take(name: str) -> None:
        if name not in found:
            found.add(name)
            for other in by_name[name].takes:
                take(other)

    for name in names:
        take(name)
    return frozenset(found)


def station_of(figure: str) -> StationKey:
    """The station at which a figure is seen."""
    return OF_STAGE[STAGE_OF[figure]]


@lru_cache(maxsize=8192)
def _moved_by(place: str) -> tuple[str, ...]:
    """The figures that a place in the build moves."""
    return tuple(name for name, places in DEPENDS.items() if any(touches(place, p) for p in places))


@lru_cache(maxsize=256)
def _resting(pencil: tuple[str, ...]) -> dict[str, tuple[str, ...]]:
    """For every figure the places in pencil that it rests on."""
    found: dict[str, list[str]] = {name: [] for name in DEPENDS}
    for place in pencil:
        for name in _moved_by(place):
            found[name].append(place)
    return {name: tuple(places) for name, places in found.items()}


@dataclass(frozen=True, slots=True)
class Published:
    """The figures of a build but those of its work, and what they were told from: in which units, resting on which places in pencil."""

    worked: Worked
    own: Mapping[str, str]
    resting: Mapping[str, tuple[str, ...]]
    figures: dict[str, Figure]


def published(worked: Worked, pencil: tuple[str, ...], before: Published | None = None) -> Published:
    """Every published figure of a build but those of its work, with the places in `pencil` that each rests on. Those of a stage that came out as `before` are taken from there."""
    own, resting = units_of_figures(worked.build, worked.units, _UNITS), _resting(pencil)
    same: set[str] = set()
    if before is not None and before.own is own and before.resting is resting:
        same = {stage for stage, result in worked.results.items() if result is before.worked.results.get(stage)}
    found: dict[str, Figure] = {}
    for stage, specs in _BY_STAGE:
        if before is not None and stage in same:
            found |= {spec.name: before.figures[spec.name] for spec in specs}
        else:
            found |= {spec.name: _figure(worked, spec.name, resting[spec.name], own[spec.name]) for spec in specs}
    return Published(worked, own, resting, found)


def figures_of_work(worked: Worked) -> dict[str, Figure]:
    """Those of the work, of a build that was judged. What is in pencil under them are usual hours and days, which the tasks and parts say of themselves."""
    own = units_of_figures(worked.build, worked.units, _UNITS)
    return {name: _figure(worked, name, (), own[name]) for name in _OF_WORK}


class FiguresAsAsked(dict[str, Figure]):
    """The figures of a build, each made when it is first looked at, without what it rests on: for judging a change that is only tried."""

    def __init__(self, worked: Worked) -> None:
        super().__init__()
        self.worked = worked

    def __missing__(self, name: str) -> Figure:
        found = self[name] = _figure(self.worked, name, (), unit_of_figure(self.worked.build, self.worked.units, name, SPECS[name].unit))
        return found


def _figure(worked: Worked, name: str, resting: tuple[str, ...], own: str) -> Figure:
    return _as_published(name, SPECS[name].value(worked.result(STAGE_OF[name])), resting, own)


@lru_cache(maxsize=8192)
def _as_published(name: str, value: float | None, resting: tuple[str, ...], own: str) -> Figure:
    """A figure put in words. Frozen, and most do not move from one edit to the next: the same one is handed out again."""
    spec = SPECS[name]
    shown, also = told(value, spec, own)
    return Figure(
        value=value, unit=spec.unit, shown=shown, also=also, label=spec.label, station=station_of(name), assumed=list(resting), uses=USES[name], source=spec.source
    )  # fmt: skip
