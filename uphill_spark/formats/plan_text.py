"""The plan for reading in a terminal."""

from __future__ import annotations

import textwrap

from ..core.findings import WORDS
from ..core.given.fields import called
from ..core.plan import Plan


def write(plan: Plan) -> str:
    """Verdict, the climb, what to do, then every figure."""
    lines = [plan.name, plan.verdict, "", "The climb"]
    for s in plan.stations:
        state = WORDS[s.severity] if s.severity else ""
        lines.append(f"  {s.title:<12} {s.ruling:<18} {state}")
    lines += ["", "Next"]
    for act in plan.next:
        lines += textwrap.wrap(f"{act.says} ({called(act.at)}, about {act.minutes} min)", 96, initial_indent="  ", subsequent_indent="    ")
    lines += ["", "Findings, worst first"]
    for f in plan.findings:
        lines.append(f"  {WORDS[f.severity]:<22} {f.code:<8} {f.title}")
        for text in (
            f.severity == "sound_if" and f"Rests on: {', '.join(dict.fromkeys(map(called, f.rests_on)))}",
            f.could_turn and f"Could be turned by: {', '.join(dict.fromkeys(map(called, f.could_turn)))}",
            f.why,
            f.do and f"Do: {f.do}",
            f.settle and f"To settle: {f.settle}",
            f.overruled and f"Signed for: {f.overruled}",
        ):
            if text:
                lines += textwrap.wrap(text, 96, initial_indent=" " * 34, subsequent_indent=" " * 34)
    lines += ["", "Figures (a ~ rests on something assumed)"]
    for name, figure in plan.figures.items():
        mark = "~" if figure.assumed else " "
        lines.append(f"  {name:<34} {mark}{figure.shown:>14}  {figure.label}")
    return "\n".join(lines) + "\n"
