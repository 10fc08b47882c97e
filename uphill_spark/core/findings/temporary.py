"""START-09: temporary fits, listed until they are undone."""

from __future__ import annotations

from collections.abc import Iterator

from ..worked import Worked
from .base import Finding, Say, check


@check("START-09", "/start/temporary", "Temporary fits", source="what was meant for a day stays for years unless it is written down")
def temporary(w: Worked, say: Say) -> Iterator[Finding]:
    rows = w.build.start.temporary
    left = [(i, row) for i, row in enumerate(rows) if row.undone is None]
    for i, row in left:
        yield say(
            "stop" if row.bars != "nothing" else "watch",
            f"Temporary, and not undone yet: {row.what}{f', {row.where}' if row.where else ''}.",
            "Undo it, and write the day down.",
            at=f"/start/temporary/{i}",
            bars="move" if row.bars == "move" else "road",
        )
    if rows and not left:
        yield say("sound", f"All {len(rows)} temporary fits are undone.")
