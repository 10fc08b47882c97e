"""Is the engine fit for injection: the verdict that every station sees, what is likely wrong, and the test that would settle it soonest.

Each fault is there or not, each shows itself by signs with a known chance (a noisy-or network; Pearl, Probabilistic Reasoning, ch. 4.3). With eight faults all
256 combinations are weighed. The test to do next is the one that is expected to take away most doubt for an hour of work (entropy of the faults, in bits).
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable
from functools import lru_cache
from typing import Literal, Protocol

import numpy as np

from ...figures import Result
from ...given import Build
from ...physics.air import Array
from ...reference import EngineFaults, engine_faults
from . import LEAKS, EngineResult

Word = Literal["fit", "with_care", "mend_first", "not_fit", "not_known"]
OIL_LOW = 70e3  # Pa, hot idle
LOW = 0.80  # of the highest reading
WET_RISE = 1.10
VACUUM_SHORT = 8e3  # Pa below what the cam should give
LIKELY = 0.25
#: Checks that say whether the engine is sound; the rest of the station is about what is asked of it.
_HEALTH = ("ENG-01", "ENG-02", "ENG-03", "ENG-04", "ENG-07", "ENG-11")


class Judged(Protocol):
    """What is needed of a finding."""

    @property
    def code(self) -> str:
        """Which check said it."""

    @property
    def severity(self) -> str:
        """How bad it is."""

    @property
    def why(self) -> str:
        """Why, in words."""


class Cause(Result):
    """A fault, how likely it is by what was seen, as a share and in words, and its mend."""

    key: str
    label: str
    chance: float
    how_sure: str
    mend: str


class NextTest(Result):
    """What to do next, why, and the doubt in bits that it should take away."""

    key: str
    label: str
    how: str
    hours: float
    bits: float
    tells: str


class Fitness(Result):
    """The verdict on the engine. `go` is what the other stations ask: may work go on as if the engine were sound."""

    word: Word
    go: bool
    reason: str
    causes: list[Cause]
    next_test: NextTest | None


def fitness(build: Build, engine: EngineResult, findings: Iterable[Judged]) -> Fitness:
    """The verdict, from what the checks found and the signs in the logs."""
    health = [f for f in findings if f.code in _HEALTH]
    worst = {word: next((f for f in health if f.severity == word), None) for word in ("stop", "sort_out", "unknown", "watch")}
    seen = signs(build, engine)
    causes, tests = _weighed(tuple(sorted(seen.items())))
    word: Word = "fit"
    reason = "Compression is even and nothing in the logs speaks against it."
    for severity, said in (("stop", "not_fit"), ("sort_out", "mend_first"), ("unknown", "not_known"), ("watch", "with_care")):
        found = worst[severity]
        if found is not None:
            word, reason = said, found.why  # type: ignore[assignment]
            break
    sick = word in ("not_fit", "mend_first", "with_care")
    return Fitness(
        word=word, go=word in ("fit", "with_care"), reason=reason,
        causes=[c for c in causes if c.chance >= LIKELY][:3] if sick or any(seen.values()) else [],
        next_test=tests.get("compression") if word == "not_known" and "compression" in tests else next(iter(tests.values()), None),
    )  # fmt: skip


def signs(build: Build, engine: EngineResult) -> dict[str, bool]:
    """Every sign that was looked for, and whether it was there."""
    e = build.engine
    found: dict[str, bool] = {}
    bars, read = engine.compression, engine.read
    if len(read) == e.cylinders:
        high = max(read.values())
        low = {c for c, pa in read.items() if pa < LOW * high}
        found["low_cylinder"] = bool(low) or high < 600e3
        rows = e.banks or [list(range(1, e.cylinders + 1))]
        found["neighbours_low"] = any(a in low and b in low for row in rows for a, b in itertools.pairwise(row))
    wet = [(b.wet_pa, b.dry_pa) for b in bars if b.wet_pa is not None and b.dry_pa is not None]
    if wet:
        found["wet_rises"] = any(after > WET_RISE * before for after, before in wet)
    leaks = [b for b in bars if b.leak_down is not None]
    heard = {b.escapes for b in leaks if (b.leak_down or 0.0) > LEAKS}
    if leaks and heard != {"none_heard"}:  # it leaks, and nobody has listened yet: nothing is known of where
        for place in ("oil_filler", "exhaust", "throttle", "radiator", "neighbour"):
            found[f"air_at_{place}"] = place in heard
    if engine.vacuum_pa is not None:
        found["vacuum_low"] = engine.vacuum_expected_pa - engine.vacuum_pa > VACUUM_SHORT
    if e.health:
        last = max(e.health, key=lambda h: h.when)
        for sign, ticked, colour in (("burns_oil", last.uses_oil, "blue"), ("loses_coolant", last.loses_coolant, "white")):
            if ticked is not None or last.smoke is not None:
                found[sign] = bool(ticked) or last.smoke == colour
        pressure = next((h.oil_pressure for h in sorted(e.health, key=lambda h: h.when, reverse=True) if h.oil_pressure), None)
        if pressure is not None:
            found["oil_pressure_low"] = pressure.si < OIL_LOW
    return found


@lru_cache(maxsize=64)
def _weighed(seen: tuple[tuple[str, bool], ...]) -> tuple[list[Cause], dict[str, NextTest]]:
    """Every fault with its chance, likeliest first, and the tests not done, the one that takes away most doubt an hour first."""
    data = engine_faults()
    there, weight = _prior(data)
    known = dict(seen)
    for sign, present in seen:
        weight = weight * _chance(data, there, sign, present)
    weight /= weight.sum()
    chances = there @ weight
    causes = [
        Cause(key=key, label=f.label, chance=float(c), how_sure=_in_words(c), mend=f.mend)
        for (key, f), c in zip(data.fault.items(), chances.tolist(), strict=True)
    ]
    causes.sort(key=lambda c: -c.chance)
    left = _doubt(there, weight)
    tests: list[NextTest] = []
    for key, test in data.test.items():
        new = [s for s in test.signs if s not in known]
        if not new or (key == "wet" and known.get("low_cylinder") is False):
            continue
        bits = left - _doubt_after(data, there, weight, new)
        if bits > 0.01:
            tells = _tells(data, there, weight, new)
            tests.append(NextTest(key=key, label=test.label, how=test.how, hours=test.hours, bits=bits, tells=tells))
    tests.sort(key=lambda t: -t.bits / t.hours)
    return causes, {t.key: t for t in tests}


def _in_words(chance: float) -> str:
    """A chance in words: the table of signs is not good for a percentage."""
    return "nearly certain" if chance > 0.9 else "likely" if chance > 0.6 else "as likely as not" if chance > 0.4 else "possible"


def _prior(data: EngineFaults) -> tuple[Array, Array]:
    """Every combination of faults as columns of 0 and 1, and how often it is met."""
    before = np.array([f.before for f in data.fault.values()])
    there = np.array(list(itertools.product((0.0, 1.0), repeat=len(before)))).T
    return there, np.asarray(np.prod(np.where(there > 0, before[:, None], 1 - before[:, None]), axis=0))


def _chance(data: EngineFaults, there: Array, sign: str, present: bool) -> Array:
    """How often a sign is there (or not) under each combination of faults: each fault that is there may show it, or it comes anyway."""
    silent = 1.0 - data.anyway[sign]
    hides = np.array([1.0 - f.shows.get(sign, 0.0) for f in data.fault.values()])
    none = silent * np.prod(np.where(there > 0, hides[:, None], 1.0), axis=0)
    return np.asarray(1.0 - none if present else none)


def _doubt(there: Array, weight: Array) -> float:
    """Entropy [bit] of the faults, each for itself."""
    p = np.clip(there @ weight, 1e-12, 1 - 1e-12)
    return float(-(p * np.log2(p) + (1 - p) * np.log2(1 - p)).sum())


def _doubt_after(data: EngineFaults, there: Array, weight: Array, new: list[str]) -> float:
    """The doubt to be expected once a test has shown its signs."""
    expected = 0.0
    for outcome in itertools.product((False, True), repeat=len(new)):
        joint = weight.copy()
        for sign, present in zip(new, outcome, strict=True):
            joint = joint * _chance(data, there, sign, present)
        total = float(joint.sum())
        if total > 1e-12:
            expected += total * _doubt(there, joint / total)
    return expected


def _tells(data: EngineFaults, there: Array, weight: Array, new: list[str]) -> str:
    """The two faults of which a test says most."""
    chances = there @ weight
    says = {key: chances[i] * (1 - chances[i]) * max(f.shows.get(s, 0.0) for s in new) for i, (key, f) in enumerate(data.fault.items())}
    first, second = sorted(says, key=lambda k: -says[k])[:2]
    return (
        f"{data.fault[first].label} from {data.fault[second].label}" if says[second] > 0.01 else f"whether it is {data.fault[first].label}"
    )
