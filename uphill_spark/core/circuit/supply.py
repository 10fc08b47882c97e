"""What stands behind the battery's posts in each state: volts that are held for planning, or the battery and the alternator as they were told.

A battery is its open volts behind its inner resistance; an alternator holds its regulator's volts as long as it gives what is drawn, and past that gives
all that it has while the battery gives the rest (a limited source).
"""

from __future__ import annotations

from dataclasses import dataclass

from ..given import Build
from ..physics.network import LEAST_OHMS, Branch, Source
from .netlist import MINUS, PLUS
from .states import ORDER, REST_V, STATES, KeyState

INSIDE = "battery.inside"
HEALTHY_OHM = 0.006  # ohm, of a sound starter battery, warm
_STIFF = 1e4  # ohm, behind which volts are as good as a current


@dataclass(frozen=True, slots=True)
class Supply:
    """Volts [V] behind the posts by state, the battery's inner resistance [ohm] where it is behind them (`soft`), what a spent alternator gives besides [A], and an
    old charging lead that is used on [ohm]: it lies between what is held and the posts while the alternator charges."""

    emf: tuple[float, ...]
    soft: tuple[bool, ...]
    inner_ohm: float
    given_a: tuple[float, ...]
    lead_ohm: float = 0.0

    @property
    def stiff(self) -> bool:
        """Whether the posts are held in every state."""
        return not any(self.soft) and not self.lead_ohm

    def held(self) -> dict[str, list[float]]:
        """Volts [V] that are held, by state."""
        return {PLUS if self.stiff else INSIDE: list(self.emf), MINUS: [0.0] * len(ORDER)}

    def branches(self) -> list[tuple[str, Branch]]:
        """The way from what is held to the posts."""
        if self.stiff:
            return []
        charged = tuple(not s and self.lead_ohm > 0 and _turns(key) for s, key in zip(self.soft, ORDER, strict=True))
        hard = tuple(not s and not c for s, c in zip(self.soft, charged, strict=True))
        rows = [
            ("battery.inner", Branch(INSIDE, PLUS, self.inner_ohm, self.soft)),
            ("battery.posts", Branch(INSIDE, PLUS, LEAST_OHMS, hard)),
            ("charging_lead", Branch(INSIDE, PLUS, self.lead_ohm, charged)),
        ]
        return [(key, branch) for key, branch in rows if any(branch.closed)]

    def sources(self) -> list[Source]:
        """What the alternator gives where it gives all it has."""
        return [
            Source(PLUS, MINUS, amps * _STIFF, _STIFF, tuple(i == k for i in range(len(ORDER))))
            for k, amps in enumerate(self.given_a)
            if amps > 0
        ]


def _turns(state: KeyState) -> bool:
    """Whether the alternator is turned by a running engine."""
    return STATES[state].engine not in ("still", "cranking")


def alternator(build: Build, state: KeyState) -> float | None:
    """What the alternator can give [A] in a state, as it was told: nothing while it does not turn; None where nobody said."""
    engine, c = STATES[state].engine, build.wiring.charging
    if not _turns(state):
        return 0.0
    told = c.output_idle if engine == "idle" else c.output_full
    return told.si if told is not None else None


def supply(build: Build, drawn: dict[KeyState, float] | None = None) -> Supply:
    """The supply of a build. `drawn` is what was drawn [A] in each state with the posts held; with it, an alternator that cannot give that much is spent."""
    b = build.wiring.battery
    rest = b.rest.si if b.rest is not None else None
    inner = b.inner.si if b.inner is not None else None
    emf, soft, given = [], [], []
    for key in ORDER:
        state = STATES[key]
        out = alternator(build, key)
        spent = drawn is not None and out is not None and _turns(key) and drawn[key] > out
        if state.engine == "still":
            known, weak = rest is not None, inner is not None
        elif state.engine == "cranking":
            known = weak = rest is not None and inner is not None
        else:
            known = weak = spent
        emf.append((rest if rest is not None else REST_V) if known else state.posts_v)
        soft.append(known and weak)
        given.append(out if spent and out is not None else 0.0)
    lead = sum(row.used_ohms or 0.0 for row in build.wiring.old if row.what == "charging_lead")
    return Supply(tuple(emf), tuple(soft), inner if inner is not None else HEALTHY_OHM, tuple(given), lead)
