"""A made loom against what this build needs: which of its circuits serve, which are not needed, which are missing, what is too long or too short."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from ...circuit.conductors import Made
from ...figures import Result
from ...given import Build


class LoomRow(Result):
    """A circuit of the loom. `over_m` is what it is longer [m] than it has to be, less than nought where it is short; None where one length is not known."""

    at: int
    label: str
    verdict: Literal["needed", "not_needed", "no_such_wire"]
    wire: str | None
    over_m: float | None
    thin: bool


class LoomResult(Result):
    """Its circuits, and our wires that none of them serves."""

    rows: list[LoomRow]
    missing: list[str]


def judged(build: Build, made: Mapping[str, Made]) -> LoomResult | None:
    """A loom judged; None where there is none."""
    loom = build.wiring.loom
    if not loom:
        return None
    rows, served = [], set()
    for i, c in enumerate(loom):
        m = made.get(c.serves) if c.serves else None
        verdict: Literal["needed", "not_needed", "no_such_wire"] = "needed" if m else "no_such_wire" if c.serves else "not_needed"
        if m is not None:
            served.add(m.wire.key)
        rows.append(
            LoomRow(
                at=i, label=c.label, verdict=verdict, wire=m.wire.key if m else None,
                over_m=c.length.si - m.length_m if m and c.length is not None else None,
                thin=bool(m and c.size is not None and c.size.si < 0.97 * m.proposed_area_m2),
            )
        )  # fmt: skip
    return LoomResult(rows=rows, missing=[key for key in made if key not in served])
