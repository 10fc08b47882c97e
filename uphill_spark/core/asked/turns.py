"""Which values in pencil would turn what is sound: each is moved to the ends of its own doubt, alone, and the whole build judged again."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ..figures import Result
from ..findings import AT_REST, Finding
from ..given import Build
from ..given.edit import escape, put, unescape
from ..given.fields import FieldInfo, info_at
from ..given.readings import Reading, Readings, Retold, readings
from ..plan import Plan
from ..units import written
from .trial import Trial

#: By how much of itself a value in pencil may be off; wire comes in steps, times and resistances are guessed worse than lengths.
SHARE = {"wire size": 0.35, "time": 0.25, "resistance": 0.25, "inductance": 0.25}
SHARE_ELSE = 0.10
#: The same for what has no natural nought: kelvin, degrees of angle, metres of height.
OFF = {"temperature": 10.0, "angle": 5.0}
CHOICES_MOST = 4  # other words that are tried in a field


class Turns(Result):
    """For what is sound on values in pencil, by code and place ("FUEL-01 /fuel/pump"): the places that would turn it, each alone within its doubt."""

    turns: dict[str, list[str]]


def key(finding: Finding) -> str:
    """The key of a finding."""
    return f"{finding.code} {finding.at}"


def turns(trial: Trial) -> Turns:
    """Every value in pencil under something sound, moved both ways; worked out once a trial."""
    if "turns" not in trial.asked:
        trial.asked["turns"] = _turns(trial)
    kept: Turns = trial.asked["turns"]
    return kept


def _turns(trial: Trial) -> Turns:
    resting = [f for f in trial.findings if f.severity == "sound_if"]
    found: dict[str, list[str]] = {key(f): [] for f in resting}
    read = readings(trial.build)
    for place in sorted({p for f in resting for p in f.rests_on}):
        above = {f.code for f in resting if place in f.rests_on}
        turned: set[str] = set()
        for leaf, value in _moved(trial.build, place, read):
            tried = trial.attempt([put(leaf, value)], drawn=False)
            if isinstance(tried, str):
                continue  # no build: it would be refused, not told
            bad = {f.code for f in tried.findings if f.severity not in AT_REST}
            turned |= {key(f) for f in resting if f.code in above and f.code in bad}
        for one in turned:
            found[one].append(place)
    return Turns(turns=found)


def with_turns(plan: Plan, told: Turns) -> Plan:
    """A plan whose findings say what could turn them."""
    findings = [f.model_copy(update={"could_turn": told.turns.get(key(f), [])}) if f.severity == "sound_if" else f for f in plan.findings]
    return plan.model_copy(update={"findings": findings})


def _moved(build: Build, place: str, read: Readings) -> Iterator[tuple[str, Any]]:
    """Other values, each with its place, that may stand at a place or inside it."""
    for leaf, value in _leaves(_at(build, place), place):
        info = info_at(leaf)
        if info is None:
            continue
        if info.kind == "quantity" and leaf in read:
            yield from ((leaf, text) for text in _ends(info, read[leaf]))
        elif info.kind == "choice":
            yield from ((leaf, option) for option in [o for o in info.options if o != value][:CHOICES_MOST])
        elif info.kind == "flag":
            yield leaf, not value
        elif info.kind in ("count", "number") and isinstance(value, (int, float)):
            step: float = 1 if info.kind == "count" else SHARE_ELSE * value
            yield from ((leaf, value - step), (leaf, value + step))


def _ends(info: FieldInfo, reading: Reading | Retold) -> list[str]:
    """A quantity at both ends of its doubt, as it would be written."""
    dimension = info.dimension or ""
    off = OFF.get(dimension) or SHARE.get(dimension, SHARE_ELSE) * abs(reading.si)
    return [written(reading.si + way * off, dimension) for way in (-1, 1)] if off else []


def _at(build: Build, place: str) -> Any:
    here: Any = build
    for token in place.split("/")[1:]:
        token = unescape(token)
        here = here[int(token)] if isinstance(here, list) else here.get(token) if isinstance(here, dict) else getattr(here, token, None)
    return here


def _leaves(node: Any, place: str) -> Iterator[tuple[str, Any]]:
    """Every value at a place or inside it. A list of numbers or words counts as one."""
    if isinstance(node, dict):
        for name, below in node.items():
            yield from _leaves(below, f"{place}/{escape(str(name))}")
    elif isinstance(node, list):
        for i, below in enumerate(node):
            if hasattr(below, "model_fields_set"):
                yield from _leaves(below, f"{place}/{i}")
    elif hasattr(node, "model_fields_set"):
        for name, below in node.__dict__.items():
            yield from _leaves(below, f"{place}/{name}")
    elif node is not None:
        yield place, node
