"""SENS: the required set."""

from __future__ import annotations

from collections.abc import Iterator

from ..worked import Worked
from .base import Finding, Say, check


@check("SENS-01", "/sensors/decisions", "Required sensors", figure="sensors.missing", source="what the layout and strategy read")
def required(w: Worked, say: Say) -> Iterator[Finding]:
    needed = [row for row in w.sensors.rows if row.need == "required"]
    struck = [row for row in needed if row.state == "struck"]
    open_ = [row for row in needed if row.state == "proposed"]
    for row in struck:
        yield say(
            "stop",
            f"No {row.label}: {row.why}.",
            f"Fit it {row.place}, or choose a strategy that does without.",
            at=f"/sensors/decisions/{row.kind}",
            limit=0,
        )
    if open_:
        yield say(
            "unknown",
            f"Not confirmed yet: {', '.join(row.label for row in open_)}.",
            "Confirm each once you know where it goes, or leave it out.",
            settle="a look at each place",
            limit=0,
        )
    if not struck and not open_:
        yield say("sound", f"All {len(needed)} required sensors are confirmed.", limit=0)
