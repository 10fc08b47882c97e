"""START-01 to 08: a step of the first start whose readings are off, or that was signed out of its turn. Quiet at a step at which nothing was read yet."""

from __future__ import annotations

from collections.abc import Iterator

from ..stages.start import one
from ..worked import Worked
from .base import Body, Finding, Say, Severity, check

PRIME = 3  # the step at which fuel comes under pressure: what is off there may be a leak
LEAKS = "loss_prime"


def _of(number: int) -> Body:
    def judged(w: Worked, say: Say) -> Iterator[Finding]:
        record = w.build.start.steps.get(str(number))
        if record is None or not (record.readings or record.done):
            return
        step = one(w, number)
        off = [e for e in step.expect if e.verdict in ("low", "high")]
        earlier = [n for n in range(number) if not (before := w.build.start.steps.get(str(n))) or not before.done]
        if off:
            leaks = number == PRIME and any(e.key == LEAKS for e in off)
            severity: Severity = "watch" if step.done else "stop" if leaks else "sort_out"
            signed = f" Signed all the same: {step.why.strip()}." if step.done else ""
            yield say(
                severity,
                f"{'; '.join(step.off)}.{signed}",
                " ".join(step.if_off) + " Ask at It is off, which cause fits.",
            )
        elif step.signed and earlier:
            words = ", ".join(str(n) for n in earlier)
            yield say(
                "watch",
                f"Signed before step {words}: what comes after rests on what comes before.",
                "Go through the steps that were left out.",
            )
        elif any(e.verdict == "in" for e in step.expect):
            yield say("sound", "What was read lies where it should.")

    return judged


_TITLES = {
    1: "Step 1, key on", 2: "Step 2, sensors", 3: "Step 3, prime", 4: "Step 4, crank", 5: "Step 5, start", 6: "Step 6, first minute", 7: "Step 7, warm", 8: "Step 8, shut down",
}  # fmt: skip
for _number, _title in _TITLES.items():
    check(f"START-{_number:02}", f"/start/steps/{_number}", _title, source="each step of a first start rests on the one before it")(
        _of(_number)
    )
