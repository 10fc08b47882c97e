"""How often the split of a log is right: the stand-in drives with errors put in that are known here, none, one, or two at a time, with noise, lag and a sensor that drifts; and what was found is held against them."""

from __future__ import annotations

import math
import sys
import time
from dataclasses import dataclass, replace

import numpy as np

from uphill_spark import demo
from uphill_spark.core.given import parse
from uphill_spark.core.logs import Log
from uphill_spark.core.plan import evaluated
from uphill_spark.core.road.reading import LogSaid, read
from uphill_spark.core.standin.drive import Drive, Truth, set_cycle
from uphill_spark.core.worked import Worked

SINGLES = ("scale", "dead_time", "reference", "air", "high_flow", "bank", "tip_in", "table")
PAIRS = (
    ("scale", "dead_time"), ("scale", "air"), ("scale", "table"), ("scale", "tip_in"), ("dead_time", "air"), ("dead_time", "table"), ("bank", "dead_time"), ("reference", "air"), ("scale", "high_flow"), ("air", "table"),
    ("scale", "bank"), ("tip_in", "table"), ("bank", "air"), ("high_flow", "air"), ("dead_time", "tip_in"),
)  # fmt: skip


@dataclass(frozen=True)
class Case:
    """What is put in: the causes by their names, and the truth."""

    causes: tuple[str, ...]
    truth: Truth


def cases(seed: int, many: int) -> list[Case]:
    """A fifth without any error, two fifths with one, two fifths with two; every one with its own noise, lag and drift."""
    draw = np.random.default_rng(seed)
    found = []
    for k in range(many):
        kind = k % 5
        causes: tuple[str, ...] = (
            ()
            if kind == 0
            else (SINGLES[(k // 5 * 2 + kind - 1) % len(SINGLES)],)
            if kind < 3
            else PAIRS[(k // 5 * 2 + kind - 3) % len(PAIRS)]
        )
        truth = Truth(
            noise=float(draw.uniform(0.7, 1.5)),
            delay_s=float(draw.choice([0.0, 0.05, 0.1])),
            drift=float(draw.uniform(-0.006, 0.006)),
            seed=int(draw.integers(1, 10_000)),
        )
        for cause in causes:
            truth = with_cause(truth, cause, float(draw.uniform(0.7, 1.3)), float(draw.choice([-1, 1])))
        found.append(Case(causes, truth))
    return found


def with_cause(truth: Truth, cause: str, size: float, sign: float) -> Truth:
    """A truth with an error of so many times the usual size."""
    put = {
        "scale": {"flow": 1 + 0.06 * size * sign}, "dead_time": {"dead_s": 0.10e-3 * size * sign}, "reference": {"open_air": min(0.85 * size, 1.0)}, "air": {"air": 0.16 * size * sign}, "high_flow": {"sags": 0.30 * size},
        "bank": {"bank": 0.035 * size}, "tip_in": {"tip": 0.11 * size * (sign if sign > 0 else -0.9)}, "table": {"bumps": 0.06 * size},
    }  # fmt: skip
    return replace(truth, **put[cause])


def size_of(cause: str, truth: Truth, said: LogSaid) -> tuple[float, float, float] | None:
    """What was put in, what was found, and the told doubt of it (twice the deviation), all in the cause's own unit; None for the table, which has no one size."""
    if cause == "table" or said.split is None:
        return None
    c = next((c for c in said.split.causes if c.key == cause), None)
    if c is None:
        return None
    true = {
        "scale": -math.log(truth.flow),
        "dead_time": truth.dead_s * 1e3,
        "reference": truth.open_air,
        "air": truth.air,
        "bank": truth.bank,
        "tip_in": truth.tip,
    }.get(cause)
    return None if true is None else (true, c.size, 2 * c.doubt)


def named_of(said: LogSaid) -> set[str]:
    """What is named of a log."""
    if said.split is None:
        return {"nothing read"}
    return {c.key for c in said.split.causes if c.named} | ({"table"} if said.split.rest_is else set())


def tried(w: Worked, chosen: list[Case], seed: int = 3, legs: int | None = None) -> list[tuple[Case, LogSaid]]:
    """Drive all of them side by side, and read each log."""
    logs = Drive(w, [c.truth for c in chosen], set_cycle(seed, cold=False)[:legs], seed=seed).run()
    found = []
    for case, columns in zip(chosen, logs, strict=True):
        own = dict(columns)
        time_at = own.pop("time")
        found.append((case, read(w, Log(time_at, own))))  # type: ignore[arg-type]
    return found


def told(found: list[tuple[Case, LogSaid]], *, loud: bool = False) -> dict[str, tuple[int, int]]:
    """How many of each kind were right, of how many."""
    score: dict[str, list[int]] = {"none": [0, 0], "one named": [0, 0], "two named": [0, 0], "within its doubt": [0, 0]}
    for case, said in found:
        named = named_of(said)
        key = ("none", "one named", "two named")[len(case.causes)]
        right = named == set(case.causes)
        score[key][0] += right
        score[key][1] += 1
        sizes = [(c, s) for c in case.causes if (s := size_of(c, case.truth, said)) is not None]
        for cause, (true, size, doubt) in sizes:
            inside = abs(true - size) <= doubt
            score["within its doubt"][0] += inside
            score["within its doubt"][1] += 1
            if loud and not inside:
                print(f"   outside: {case.causes} {cause}: {true:.4f} put in, {size:.4f} ± {doubt:.4f} found")
        if loud and not right:
            print(
                f"   {case.causes or 'nothing'}: {sorted(named) or 'nothing'} named; {[(c.key, round(c.size, 3), round(c.likely, 2)) for c in said.split.causes if c.likely > 0.05] if said.split else said.why_not}, rest {said.split.rest if said.split else 0:.4f}"
            )
    return {key: (a, b) for key, (a, b) in score.items()}


def main() -> int:
    """Two hundred cases, or as many as are named."""
    many = int(sys.argv[1]) if len(sys.argv) > 1 else 200
    w = evaluated(parse(demo.document("tern"))).worked
    began = time.perf_counter()
    found = tried(w, cases(1, many))
    for key, (a, b) in told(found, loud=True).items():
        print(f"{key:<18}{a:>5} of {b:<5}{a / max(b, 1):>7.1%}")
    print(f"{time.perf_counter() - began:.0f} s")
    return 0


if __name__ == "__main__":
    sys.exit(main())
