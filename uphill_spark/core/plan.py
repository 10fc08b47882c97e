"""evaluate(build) -> Plan: figures, findings, stages and the climb. A pure function of the build."""

from __future__ import annotations

from typing import Literal

from .figures import Figure, Result
from .findings import SEVERITIES, Finding, Severity, judge
from .given import Build
from .stages import start as start_stage
from .stages.air import AirResult
from .stages.engine import EngineResult
from .stages.engine.fitness import Fitness, fitness
from .stages.fuel import FuelResult
from .stages.ignition import IgnitionResult
from .stages.injectors import InjectorsResult
from .stages.sensors import SensorsResult
from .stages.start import StartResult
from .stages.trigger import TriggerResult
from .stages.tune import TuneResult
from .stages.wiring import WiringResult
from .worked import figures as published
from .worked import work_out

StationKey = Literal["engine", "fuel", "injectors", "air", "sensors", "ignition", "wiring", "tune", "start", "road"]


class Stages(Result):
    """What the drawings need, stage by stage."""

    engine: EngineResult
    fuel: FuelResult
    injectors: InjectorsResult
    air: AirResult
    sensors: SensorsResult
    trigger: TriggerResult | None
    ignition: IgnitionResult
    wiring: WiringResult
    tune: TuneResult
    start: StartResult


class Station(Result):
    """A station on the climb: its ruling figure in words, its worst severity, how many of each, the hours it usually takes."""

    key: StationKey
    title: str
    built: bool
    ruling: str
    figure: str | None
    severity: Severity | None
    counts: dict[Severity, int]
    hours: float


class Plan(Result):
    """Everything worked out from one build."""

    name: str
    verdict: str
    fitness: Fitness
    figures: dict[str, Figure]
    findings: list[Finding]
    stations: list[Station]
    stages: Stages


#: Station, title, ruling figure, usual hours of work.
_STATIONS: tuple[tuple[StationKey, str, str | None, float], ...] = (
    ("engine", "Engine", "engine.compression.spread", 4),
    ("fuel", "Fuel", "fuel.margin.full", 14),
    ("injectors", "Injectors", "injectors.duty.full", 8),
    ("air", "Air", "air.throttle.drop.full", 6),
    ("sensors", "Sensors", "sensors.missing", 8),
    ("ignition", "Ignition", "ignition.duty.limit", 6),
    ("wiring", "Wiring", "wiring.feed.crank", 18),
    ("tune", "Tune", "tune.required_pulse", 3),
    ("start", "First start", None, 4),
    ("road", "Road", None, 6),
)


def evaluate(build: Build) -> Plan:
    """The plan of a build. Deterministic, no clock, no files."""
    worked = work_out(build)
    figures = published(worked)
    findings = judge(worked, figures)
    start = start_stage.work_out(worked)
    stations = [_station(key, title, figure, hours, figures, findings, start) for key, title, figure, hours in _STATIONS]
    return Plan(
        name=build.name,
        verdict=_verdict(findings),
        fitness=fitness(build, worked.engine, findings),
        figures=figures,
        findings=findings,
        stations=stations,
        stages=Stages(
            engine=worked.engine,
            fuel=worked.fuel,
            injectors=worked.injectors,
            air=worked.air,
            sensors=worked.sensors,
            trigger=worked.trigger,
            ignition=worked.ignition,
            wiring=worked.wiring,
            tune=worked.tune,
            start=start,
        ),
    )


def open_stops(findings: list[Finding]) -> list[Finding]:
    """Stops that nobody has signed for."""
    return [f for f in findings if f.severity == "stop" and f.overruled is None]


def _verdict(findings: list[Finding]) -> str:
    def count(severity: Severity, word: str) -> str:
        n = sum(f.severity == severity for f in findings)
        return f"{n} {word}" if n else ""

    stops = open_stops(findings)
    signed = sum(f.severity == "stop" for f in findings) - len(stops)
    parts = [
        f"{len(stops)} {'Stop' if len(stops) == 1 else 'Stops'}" if stops else "No Stop",
        f"{signed} signed for" if signed else "",
        count("sort_out", "to sort out"),
        count("unknown", "not known yet"),
        count("watch", "to watch"),
        count("sound", "sound"),
    ]
    return ", ".join(p for p in parts if p) + "."


def _station(
    key: StationKey, title: str, figure: str | None, hours: float, figures: dict[str, Figure], findings: list[Finding], start: StartResult
) -> Station:
    here = [f for f in findings if f.stage == key]
    counts: dict[Severity, int] = {s: n for s in SEVERITIES if (n := sum(f.severity == s for f in here))}
    ruling = "comes later" if key == "road" else _ruling(key, figures, here)
    severity = min((f.severity for f in here if f.severity != "note"), key=SEVERITIES.index, default=None)
    if key == "start":
        stops = len(open_stops(findings))
        ruling = f"{stops} {'Stop' if stops == 1 else 'Stops'} open" if stops else f"{start.done} of {len(start.steps)} steps"
        severity = "stop" if stops else "sound" if start.done == len(start.steps) else "unknown"
    return Station(key=key, title=title, built=key != "road", ruling=ruling, figure=figure, severity=severity, counts=counts, hours=hours)


def _ruling(key: StationKey, figures: dict[str, Figure], here: list[Finding]) -> str:
    """The station's ruling figure in the fewest words."""

    def value(name: str) -> float | None:
        return figures[name].value

    def shown(name: str) -> str:
        return figures[name].shown

    if key == "engine":
        return "compression?" if value("engine.compression.spread") is None else f"{shown('engine.compression.spread')} spread"
    if key == "fuel":
        return f"{value('fuel.margin.full') or 0:.1f}× need"
    if key == "injectors":
        return f"{shown('injectors.duty.full')} open"
    if key == "air":
        return "throttle?" if value("air.throttle.drop.full") is None else f"{shown('air.throttle.drop.full')} lost"
    if key == "sensors":
        missing = int(value("sensors.missing") or 0)
        return f"{missing} to confirm" if missing else "all confirmed"
    if key == "ignition":
        return "coil too weak" if value("ignition.duty.limit") is None else f"{shown('ignition.duty.limit')} dwell"
    if key == "wiring":
        return "crank volts?" if value("wiring.feed.crank") is None else f"{shown('wiring.feed.crank')} cranking"
    return f"{shown('tune.required_pulse')} pulse"
