"""evaluate(build) -> Plan: figures, findings, stages and the climb. A pure function of the build."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from .figures import Figure, Result
from .findings import OF_WORK, SEVERITIES, Finding, Severity, holding, judge, worst_first
from .given import Build
from .given.fields import called
from .given.pencil import pencilled
from .next import Act, acts
from .reads import Kept, Recall
from .scales import Kind, Scale, scales
from .stages import start as start_stage
from .stages import work as work_stage
from .stages.air import AirResult
from .stages.engine import EngineResult
from .stages.engine.fitness import Fitness, fitness
from .stages.fuel import FuelResult
from .stages.fuel.doubt import MarginBand
from .stages.ignition import IgnitionResult
from .stages.injectors import InjectorsResult
from .stages.road import RoadResult
from .stages.sensors import SensorsResult
from .stages.start import SheetStep, StartResult
from .stages.trigger import TriggerResult
from .stages.tune import TuneResult
from .stages.tune.in_use import InUse
from .stages.wiring import WiringResult
from .stages.work import WorkResult
from .stations import STATIONS, Ruling, Station, StationKey
from .units import Units
from .worked import Published, Still, Worked, figures_of_work, no_limit, published, work_out


class Stages(Result):
    """What the drawings need, stage by stage."""

    engine: EngineResult
    fuel: FuelResult
    doubt: MarginBand
    injectors: InjectorsResult
    air: AirResult
    sensors: SensorsResult
    trigger: TriggerResult | None
    ignition: IgnitionResult
    wiring: WiringResult
    tune: TuneResult
    in_use: InUse
    start: StartResult
    road: RoadResult
    work: WorkResult


class StationState(Result):
    """A station on the climb: its ruling figure in words, its worst severity, how many of each, the hours it usually takes."""

    key: StationKey
    title: str
    built: bool
    ruling: str
    figure: str | None
    severity: Severity | None
    counts: dict[Severity, int]
    hours: float
    beside: bool


class Plan(Result):
    """Everything worked out from one build. `next` is what to do, best first; `pencil` holds the places whose values nobody chose or measured, and what each is called; `scales` tells each kind of thing in the person's unit, of `units`."""

    name: str
    units: Units
    verdict: str
    fitness: Fitness
    figures: dict[str, Figure]
    findings: list[Finding]
    pencil: dict[str, str]
    next: list[Act]
    stations: list[StationState]
    scales: dict[Kind, Scale]
    stages: Stages


@dataclass(frozen=True, slots=True)
class Evaluated:
    """A build with all that is worked out from it: what the next edit takes over as far as it changes nothing. `kept` was made of the build, `of_work` of it with its work; `findings` are those of the build."""

    worked: Worked
    published: Published
    kept: Kept
    of_work: Kept
    findings: list[Finding]
    plan: Plan


def evaluate(build: Build, units: Units = "as_written") -> Plan:
    """The plan of a build, told in somebody's units. Deterministic, no clock, no files."""
    return evaluated(build, units=units).plan


def evaluated(build: Build, before: Evaluated | None = None, still: Still = no_limit, units: Units | None = None) -> Evaluated:
    """The same with what it was made from. What an edit since `before`, told in the same units, does not reach is taken from there. Raises what `still` raises."""
    if before is not None and units is not None and before.worked.units != units:
        before = None
    return judged(work_out(build, before.worked if before else None, still=still, units=units), before, still)


def judged(worked: Worked, before: Evaluated | None = None, still: Still = no_limit) -> Evaluated:
    """A worked build with figures, findings, the climb and the steps of the first start."""
    pencil = pencilled(worked.build)
    told = published(worked, pencil, before.published if before else None)
    recall = Recall(worked, before.kept if before else None)
    verdicts = judge(recall, told.figures, pencil, still)
    fit = fitness(worked.build, worked.engine, verdicts)
    start, of_start = _start(recall)
    done = worked.with_work(work_stage.work_out(recall, fit))
    figures = told.figures | figures_of_work(done)
    of_work = Recall(done, before.of_work if before else None)
    findings = worst_first([*verdicts, *judge(of_work, figures, (), still, OF_WORK)])  # usual hours are its pencil
    plan = Plan(
        name=worked.build.name,
        units=worked.units,
        verdict=_verdict(findings),
        fitness=fit,
        figures=figures | of_start,
        findings=findings,
        pencil={place: called(place) for place in pencil},
        next=acts(findings, start, done.work, worked.build.work.begin is not None),
        stations=_stations(figures, findings, start),
        scales=scales(worked.build, worked.units),
        stages=Stages(
            engine=worked.engine,
            fuel=worked.fuel,
            doubt=worked.doubt,
            injectors=worked.injectors,
            air=worked.air,
            sensors=worked.sensors,
            trigger=worked.trigger,
            ignition=worked.ignition,
            wiring=worked.wiring,
            tune=worked.tune,
            in_use=worked.in_use,
            start=start,
            road=worked.road,
            work=done.work,
        ),
    )
    return Evaluated(worked, told, recall.kept(), of_work.kept(), verdicts, plan)


def _start(recall: Recall) -> tuple[StartResult, dict[str, Figure]]:
    """The steps of the first start, and their figures."""

    def step(n: int) -> tuple[SheetStep, dict[str, Figure]]:
        def make(w: Worked) -> tuple[SheetStep, dict[str, Figure]]:
            one = start_stage.one(w, n)
            return one, start_stage.figures(w, one)

        return recall.of(("start", n), make)

    steps = [step(n) for n in range(start_stage.STEPS)]
    of_steps = {name: figure for _, figures in steps for name, figure in figures.items()}
    return start_stage.of_steps([one for one, _ in steps]), of_steps | start_stage.rehearsal(recall.worked)


def _verdict(findings: list[Finding]) -> str:
    def count(severity: Severity, word: str) -> str:
        n = sum(f.severity == severity for f in findings)
        return f"{n} {word}" if n else ""

    held = holding(findings)
    signed = sum(f.holds for f in findings) - len(held)
    gates = sum(f.severity == "unknown" for f in held)
    parts = [
        _stops(len(held) - gates),
        f"{signed} signed for" if signed else "",
        count("sort_out", "to sort out"),
        count("unknown", "not known yet") + (f" ({gates} of them before the key is turned)" if gates else ""),
        count("watch", "to watch"),
        count("sound", "sound"),
        count("sound_if", "sound if the pencil holds"),
    ]
    return ", ".join(p for p in parts if p) + "."


def _stops(many: int) -> str:
    return f"{many} {'Stop' if many == 1 else 'Stops'}" if many else "No Stop"


def _stations(figures: dict[str, Figure], findings: list[Finding], start: StartResult) -> list[StationState]:
    """The climb, station by station."""
    seen = Counter((f.station, f.severity) for f in findings)
    return [_station(station, figures, {s: n for s in SEVERITIES if (n := seen[station.key, s])}, findings, start) for station in STATIONS]


def _station(
    station: Station, figures: dict[str, Figure], counts: dict[Severity, int], findings: list[Finding], start: StartResult
) -> StationState:
    severity = next((s for s in counts if s != "note"), None)
    ruling = _ruling(station.ruling, figures) if station.ruling else "comes later"
    if station.key == "start":
        held = holding(findings)
        stops = sum(f.severity == "stop" for f in held)
        told = [f"{_stops(stops)} open"] if stops else []
        ruling = (
            ", ".join([*told, f"{len(held) - stops} not known"] if len(held) > stops else told)
            or f"{start.done} of {len(start.steps)} steps"
        )
        severity = "stop" if held else "sound" if start.done == len(start.steps) else "unknown"
    return StationState(
        key=station.key,
        title=station.title,
        built=station.built,
        ruling=ruling,
        figure=station.ruling.figure if station.ruling else None,
        severity=severity,
        counts=counts,
        hours=station.hours,
        beside=station.beside,
    )


def _ruling(ruling: Ruling, figures: dict[str, Figure]) -> str:
    """The station's ruling figure in the fewest words."""
    figure = figures[ruling.figure]
    if figure.value is None:
        return ruling.unknown
    if ruling.none and figure.value == 0:
        return ruling.none
    return ruling.told.format(figure.shown if ruling.digits is None else f"{figure.value:.{ruling.digits}f}")
