"""SENS and TRIG: the required set, the trigger angle."""

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
            "Confirm each once you know where it goes, or strike it.",
            settle="a look at each place",
            limit=0,
        )
    if not struck and not open_:
        yield say("sound", f"All {len(needed)} required sensors are confirmed.", limit=0)


@check(
    "TRIG-05",
    "/sensors/trigger/angle",
    "Trigger angle",
    figure="sensors.trigger.tooth_at_tdc",
    source="teeth counted at top dead centre; timing light",
)
def angle(w: Worked, say: Say) -> Iterator[Finding]:
    t = w.build.sensors.trigger
    if t is None:
        if w.build.ignition.timed_by_unit:
            yield say(
                "unknown",
                "The control unit times the spark, but no trigger wheel is described.",
                "Enter teeth, missing teeth and angle.",
                at="/sensors/trigger",
                settle="trigger wheel",
            )
        return
    count = "Turn to top dead centre of number one on compression, both valves shut and slack, and count teeth from the gap to the sensor in the direction of rotation."
    caution = " Keep out of line with the fan and clear of hot parts."
    if t.stroke == "exhaust":
        yield say("stop", "Set on number one's exhaust stroke: every spark comes a turn late.", count, at="/sensors/trigger/stroke")
    elif t.angle is None:
        yield say(
            "stop", "The trigger angle is not set: the unit would fire at any angle.", count, settle="teeth from the gap at top dead centre"
        )
    elif w.sensors.trigger is not None and w.sensors.trigger.light_offset_deg is not None:
        off = w.sensors.trigger.light_offset_deg
        if abs(off) > 1.0:
            yield say(
                "stop",
                f"The light shows {off:+.1f} degrees against the locked angle.",
                f"Correct the trigger angle by {off:+.1f} degrees and look again.{caution}",
                at="/sensors/trigger/light_observed",
            )
        else:
            yield say("sound", f"The light agrees within {abs(off):.1f} degrees.")
    elif t.stroke == "not_checked" and w.build.ignition.kind == "coil_per_plug":
        yield say(
            "unknown",
            "The stroke was not checked; on the exhaust stroke every spark comes a turn late.",
            count,
            at="/sensors/trigger/stroke",
            settle="both valves shut at that mark",
        )
    else:
        yield say(
            "watch",
            f"Set to {t.angle} and not yet confirmed with a light.",
            f"Lock timing at 10 degrees, crank with the injectors off and look.{caution}",
            settle="timing light while cranking",
        )
