"""What a choice would bring, station by station, before it is taken: things that come and go, figures that move, findings that appear or clear."""

from __future__ import annotations

from ..figures import Result
from ..findings import holding
from ..given import Build
from ..given.edit import Patch
from ..plan import Plan
from ..ripple import ripple
from ..stages.fuel.shopping import shopping
from ..stations import StationKey
from .trial import Trial

_MOST = 6  # of each, told by name


class Effect(Result):
    """At one station: what it adds, what it drops, what moves there, codes raised and cleared."""

    station: StationKey
    title: str
    adds: list[str]
    drops: list[str]
    moves: list[str]
    raised: list[str]
    cleared: list[str]


class Choice(Result):
    """One answer to a question, tried as a whole build. `patch` is empty for the one that the build has, and where it would not be a build."""

    key: str
    title: str
    says: str
    now: bool
    usual: bool
    effects: list[Effect]
    stops: int | None
    trouble: str
    hours: float | None
    patch: Patch


class Question(Result):
    """A question on which good people differ, its answers, and why the usual one is usual."""

    key: str
    title: str
    why_usual: str
    answers: list[Choice]


class Option(Result):
    """An answer before it is tried."""

    key: str
    title: str
    says: str
    patch: Patch
    hours: float | None = None


class Ways:
    """A build for which ways to do it are laid out, each tried."""

    def __init__(self, trial: Trial) -> None:
        self.trial, self.plan, self.build = trial, trial.plan, trial.build

    def question(self, key: str, title: str, why_usual: str, now: str, usual: str, options: list[Option]) -> Question:
        """A question with every answer tried."""
        return Question(key=key, title=title, why_usual=why_usual, answers=[self._tried(o, o.key == now, o.key == usual) for o in options])

    def _tried(self, option: Option, now: bool, usual: bool) -> Choice:
        def told(effects: list[Effect], stops: int | None, trouble: str = "", patch: Patch | None = None) -> Choice:
            return Choice(
                key=option.key, title=option.title, says=option.says, now=now, usual=usual, effects=effects, stops=stops, trouble=trouble,
                hours=option.hours, patch=patch or [],
            )  # fmt: skip

        if now:
            return told([], len(holding(self.plan.findings)))
        tried = self.trial.attempt(option.patch)
        if isinstance(tried, str):
            return told([], None, tried)
        effects = effects_of(self.plan, tried.plan, self.build, tried.build)
        return told(effects, len(holding(tried.plan.findings)), patch=option.patch)


def effects_of(before: Plan, after: Plan, old: Build, new: Build) -> list[Effect]:
    """Station by station, in the order of work; stations where nothing happens are left out."""
    was, now = _things(before, old), _things(after, new)
    moved = ripple(before, after)
    found = []
    for station in after.stations:
        here, there = was.get(station.key, []), now.get(station.key, [])
        steps = [f for f in moved.findings if f.station == station.key]
        row = Effect(
            station=station.key, title=station.title, adds=_few([x for x in there if x not in here]), drops=_few([x for x in here if x not in there]),
            moves=[f"{m.label[0].lower()}{m.label[1:]} {m.shown_before} → {m.shown_after}" for m in moved.figures if m.station == station.key][:3],
            raised=[f"{f.after} {f.code} {f.title.lower()}" for f in steps if f.move in ("appeared", "worsened")],
            cleared=[f"{f.code} {f.title.lower()}" for f in steps if f.move in ("went", "eased")],
        )  # fmt: skip
        if row.adds or row.drops or row.moves or row.raised or row.cleared:
            found.append(row)
    return found


def _things(plan: Plan, build: Build) -> dict[str, list[str]]:
    """What a person has to have, fit or do at each station, by name."""
    s = plan.stages
    return {
        "fuel": [f"{x.what}, {x.note}" for x in shopping(build)],
        "injectors": [f"injector {i + 1}" for i in range(build.injectors.count)],
        "air": [*(["one throttle bore" if build.air.throttle.bores == 1 else f"{build.air.throttle.bores} throttle bores"] if build.air.throttle else []), *(["balance manifold"] if build.air.balance == "joined" else [])],
        "sensors": [f"{row.label} sensor" for row in s.sensors.rows if row.need == "required"],
        "ignition": [f"coil {i + 1}" for i in range(s.ignition.coils)] + [f"{build.ignition.kind.replace('_', ' ')}"],
        "wiring": [f"{wire.label} wire" for wire in s.wiring.wires],
        "tune": [table.title.lower() for table in s.tune.tables],
        "start": [step.title for step in s.start.steps],
    }  # fmt: skip


def _few(names: list[str]) -> list[str]:
    return names if len(names) <= _MOST else [*names[: _MOST - 1], f"{len(names) - _MOST + 1} more"]
