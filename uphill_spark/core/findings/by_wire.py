"""AIR, what the cable's checks do not reach: a throttle by wire, the room under the bonnet, the second shaft of a progressive body."""

from __future__ import annotations

from collections.abc import Iterator

from ..figures import Band
from ..worked import Worked
from . import owners
from .base import Finding, Say, check

TRACKS_APART = 0.05  # of the travel by which two tracks of one position may differ half way
LIMP = Band(0.05, 0.15, "1")  # of full opening that springs hold without power
ROOM = 10e-3  # m under the bonnet: engines rock, bonnets flutter


@check(
    "AIR-09",
    "/air/by_wire",
    "Throttle by wire",
    source="two tracks that agree, the brake over the pedal, a limp opening that is proven",
    rests=("/wiring/extras",),
    gate=(),
)
def by_wire(w: Worked, say: Say) -> Iterator[Finding]:
    t = w.build.air.by_wire
    if t is None:
        return
    told = False
    for name, tracks in (("pedal", t.pedal), ("plate", t.plate)):
        apart = tracks.apart
        if apart is None:
            told = True
            yield say("unknown", f"The two tracks of the {name} were not read at rest, half way and at full.", "Key on, engine off: six readings.", at=f"/air/by_wire/{name}", settle="a meter on both tracks")  # fmt: skip
        elif apart > TRACKS_APART:
            told = True
            yield say("stop", f"Half way the two tracks of the {name} differ by {apart * 100:.0f} % of its travel: the unit believes neither and holds the limp opening.", "Plug, ground, 5 V of each track; then the part.", at=f"/air/by_wire/{name}")  # fmt: skip
    if t.limp_test == "stayed":
        told = True
        yield say("stop", "With one track pulled the plate stayed where it was: a broken wire would leave the throttle open.", "Do not start it. The unit's own fault handling, then the wiring of the tracks.", at="/air/by_wire/limp_test")  # fmt: skip
    elif t.limp_test == "not_done":
        told = True
        yield say("unknown", "Nobody has pulled a track with the key on to see it go limp.", "Key on, engine off, hands clear of the plate: pull one plug of the pedal, then one of the plate.", at="/air/by_wire/limp_test", settle="one plug pulled, key on")  # fmt: skip
    if t.limp is not None and t.limp.si not in LIMP:
        told = True
        yield say("sort_out", f"Without power it stands at {t.limp}; springs should hold about 7 to 10 %.", "A bent plate or a spring that is off: the body's own sheet.", at="/air/by_wire/limp")  # fmt: skip
    if t.brake != "wired":
        told = True
        yield say("sort_out" if t.brake == "none" else "unknown", "The brake does not reach the unit: it cannot win over a stuck pedal." if t.brake == "none" else "Whether the brake's switch reaches the unit is not noted.",
                  "A wire from the brake switch to an input of the unit.", at="/air/by_wire/brake", settle=None if t.brake == "none" else "the unit's screen, brake pressed")  # fmt: skip
    if "idle_valve" in w.build.wiring.extras:
        told = True
        yield say("sort_out", "An idle valve beside a throttle by wire: both would hold the idle, one against the other.", "Take the idle valve off; the plate itself holds the idle.", at="/wiring/extras")  # fmt: skip
    if not told:
        yield say("sound", "Both pairs of tracks agree, the brake is wired, and a pulled track brings the limp opening.")


@check("AIR-10", "/air/height", "Room under the bonnet", source="height of what comes off, and of what goes on; clay on the lid")
def height(w: Worked, say: Say) -> Iterator[Finding]:
    h = w.build.air.height
    if h is None:
        return
    left = h.left
    if left is None:
        yield say("unknown", "Room under the bonnet is not fully measured.", "Height of the carburettor with its filter, clay over it, adapter, body with its filter.", settle="a ruler and clay")  # fmt: skip
    elif left < 0:
        yield say(
            "sort_out",
            f"The new stack stands {owners.length(w, -left)} too high: the bonnet does not shut.",
            "A lower adapter or filter, or a bonnet that is raised.",
        )
    elif left < ROOM:
        yield say(
            "sort_out", f"{owners.length(w, left)} are left under the bonnet: engines rock.", f"Make it {owners.length(w, ROOM)} or more."
        )
    else:
        yield say("sound", f"{owners.length(w, left)} are left under the bonnet.")


@check(
    "AIR-11",
    "/air/throttle/second_shaft",
    "Second shaft of a progressive body",
    source="a plate held open is air that no idle screw takes away",
)
def second_shaft(w: Worked, say: Say) -> Iterator[Finding]:
    t = w.build.air.throttle
    if t is None or t.second_shaft in ("none", "not_looked_at"):
        return
    if t.second_shaft == "held_open":
        yield say("sort_out", "The second shaft's stop screw holds it open: it idles high with the first pair shut and the air valve at nought.", "Back its screw out until the plates just shut without binding; then set the idle on the first pair.")  # fmt: skip
    else:
        yield say("sound", "The second shaft shuts with the foot off.")
