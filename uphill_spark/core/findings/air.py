"""AIR: does it breathe, does the pedal open it and does it shut again, is every hose where it belongs."""

from __future__ import annotations

from collections.abc import Iterator

from ..figures import Band
from ..stages.air import FEEL_SPEED, PEDAL_ENOUGH, PEDAL_MOST
from ..units import from_si
from ..worked import Worked
from . import owners
from .base import Finding, Say, above, check, grade

DROP = (3.5, 5.0)  # kPa lost at full power
HALF_PEDAL = 0.12  # of the pedal, below which half of the air makes a nervous throttle
GAS_SPEED = Band(60.0, 100.0, "m/s")  # in each bore at full power
SLACK = Band(1e-3, 6e-3, "m")  # with the foot off
SLACK_WELL = (2e-3, 3e-3)  # m, what to set it to
CLEARANCE = 3e-3  # m between linkage and what is beside it: engines rock
ASKEW = 20.0  # deg between cable and the line in which the lever moves
APPLICATIONS = 3.0  # of the brake from a reservoir with the engine off


@check(
    "AIR-01",
    "/air/throttle",
    "Throttle body",
    figure="air.throttle.drop.full",
    source="rated drop times the square of flow; compressible orifice",
    rests=("air.pedal.half", "air.throttle.speed", "/engine/layout"),
)
def throttle(w: Worked, say: Say) -> Iterator[Finding]:
    a = w.air
    if a.drop_full_pa is None:
        yield say(
            "unknown",
            "The throttle body is not described." if w.build.air.throttle is None else "The throttle body's bores are not measured.",
            "Enter its bores, or its rated flow and the drop it was rated at.",
            settle="a caliper at the plate",
        )
        return
    severity = grade(from_si(a.drop_full_pa, "kPa"), *DROP)
    lost = f"It loses {owners.own(w, 'throttle_loss', a.drop_full_pa)} at full power, {(a.power_lost or 0) * 100:.1f} % of the power."
    told = severity != "sound"
    if told:
        yield say(severity, lost, "A larger bore, if the power is the target.", limit=above(severity, *DROP))
    if a.half_pedal is not None and a.half_pedal < HALF_PEDAL and w.build.engine.layout != "individual_throttles":
        told = True
        yield say(
            "watch",
            f"Half of the air flows at {a.half_pedal * 100:.0f} % of the pedal at {FEEL_SPEED * 60:,.0f} rpm: nervous near idle.",
            "A smaller body, or a lever with a progressive cam.",
            figure="air.pedal.half",
            limit=HALF_PEDAL,
        )
    if a.gas_speed_m_s is not None and a.gas_speed_m_s not in GAS_SPEED:
        told = True
        low = a.gas_speed_m_s < (GAS_SPEED.low or 0.0)
        yield say("watch", f"Air runs at {owners.velocity(w, a.gas_speed_m_s)} in each bore; {owners.span(w, 'velocity', GAS_SPEED.low or 0.0, GAS_SPEED.high or 0.0)} fills well.",
                  "Smaller bores pull better lower down." if low else "Larger bores breathe better at the top.", figure="air.throttle.speed", limit=GAS_SPEED.low if low else GAS_SPEED.high)  # fmt: skip
    if not told:
        yield say("sound", lost, limit=DROP[0])


@check(
    "AIR-02",
    "/air/linkage",
    "From pedal to plate",
    figure="air.pedal.full",
    source="travel over ratio over lever radius",
    rests=("/air/by_wire",),
)
def linkage(w: Worked, say: Say) -> Iterator[Finding]:
    link, full = w.build.air.linkage, w.air.pedal_full
    if w.build.air.by_wire is not None:
        return  # no cable
    if link is None:
        yield say(
            "unknown",
            "How the pedal moves the throttle is not described.",
            "Measure pedal travel, ratio and the lever's radius.",
            settle="a ruler, engine off",
        )
        return
    if link.moves == "binds":
        yield say("stop", "The linkage binds: a throttle that stays open does not stop the car.", "Free it before the engine runs. Engine off, key out, while a hand is in it.", at="/air/linkage/moves")  # fmt: skip
    elif link.moves == "not_tried":
        yield say("unknown", "Nobody has tried the linkage over its full travel.", "By hand and by the pedal, engine off, bonnet shut.", at="/air/linkage/moves", settle="full travel, twice")  # fmt: skip
    if full is None:
        yield say("unknown", "How far the pedal opens the plate is not known.", "Measure pedal travel, pedal ratio and the lever's radius.", settle="a ruler, engine off")  # fmt: skip
    elif full < PEDAL_ENOUGH:
        yield say(
            "sort_out",
            f"Full pedal opens the plate to {full * 100:.0f} % of its travel.",
            "A shorter lever, or more travel at the pedal.",
            limit=PEDAL_ENOUGH,
        )
    elif full > PEDAL_MOST:
        over = owners.length(w, w.air.spare_travel_m or 0.0)
        yield say("sort_out", f"The pedal pulls {over} past the plate's stop: cable and stop take the foot's force.", "A longer lever, or a stop under the pedal.", limit=PEDAL_MOST)  # fmt: skip
    if link.slack is None:
        yield say(
            "unknown",
            "The cable's slack with the foot off is not measured.",
            "A ruler at the lever, foot off.",
            at="/air/linkage/slack",
            settle="a ruler, engine off",
        )
    elif link.slack.si not in SLACK:
        yield say("watch", f"{owners.typed(w, link.slack)} of slack with the foot off; {owners.span(w, 'length', *SLACK_WELL)} let the plate shut and lose no travel.", "Set the cable's adjuster.", at="/air/linkage/slack")  # fmt: skip
    if link.clearance is None:
        yield say("unknown", "Clearance over the travel is not measured.", "Clay on the lever, bonnet shut.", at="/air/linkage/clearance", settle="clay under the bonnet")  # fmt: skip
    elif link.clearance.si < CLEARANCE:
        yield say("sort_out", f"{owners.typed(w, link.clearance)} are left between linkage and what is beside it.", f"Make it {owners.length(w, CLEARANCE)} or more: engines rock.", at="/air/linkage/clearance")  # fmt: skip
    if link.cable_angle is not None and link.cable_angle.si > ASKEW:
        yield say("watch", f"The cable pulls askew by {link.cable_angle}: it wears, and the lever turns less than its pull.", "A bracket that leads it along the lever's own line.", at="/air/linkage/cable_angle")  # fmt: skip
    if full is not None and PEDAL_ENOUGH <= full <= PEDAL_MOST and link.moves == "free":
        yield say("sound", f"Full pedal opens the plate to {min(full, 1.0) * 100:.0f} %, and it moves freely.", limit=PEDAL_ENOUGH)


@check(
    "AIR-03",
    "/air/linkage/springs",
    "Return springs",
    source="two springs, each able to shut the throttle alone",
    rests=("/air/linkage", "/air/by_wire"),
)
def springs(w: Worked, say: Say) -> Iterator[Finding]:
    link = w.build.air.linkage
    if w.build.air.by_wire is not None:
        return  # its own springs hold it at its limp opening
    if link is None or link.springs is None:
        yield say(
            "unknown",
            "Return springs are not described.",
            "Count them, and try each alone.",
            at="/air/linkage/springs" if link else "/air/linkage",
            settle="one spring off, full travel, then the other",
        )
        return
    alone = link.springs + bool(link.body_spring_shuts)
    if alone == 0:
        yield say("stop", "Nothing shuts the throttle but friction.", "Fit two return springs, each able to shut it from full open.")
    elif alone == 1:
        yield say(
            "sort_out",
            "One spring shuts the throttle; when it breaks, nothing does.",
            "Fit a second, hooked elsewhere, able to shut it alone.",
        )
    else:
        yield say("sound", f"{alone} springs, each shuts it alone.")


@check(
    "AIR-04",
    "/air/consumers",
    "Ports and hoses",
    figure="air.ports.open",
    source="each consumer on its kind of source; an open port is a leak",
    rests=("/air/ports", "/air/balance", "/air/reservoir", "/air/booster", "/engine/layout"),
)
def hoses(w: Worked, say: Say) -> Iterator[Finding]:
    a, told = w.air, False
    if not w.build.air.ports:
        yield say(
            "unknown",
            "Ports of the new body and manifold are not listed.",
            "List every port, its bore, and what it gives.",
            at="/air/ports",
            settle="a lamp and a list",
        )
        return
    unread = [name for name, p in w.build.air.ports.items() if (p.source is None or p.bore is None) and not p.capped]
    if unread:
        told = True
        yield say("unknown", f"What {' and '.join(unread)} {'gives' if len(unread) == 1 else 'give'}, and its bore, is not noted.", "A lamp, a drill shank as a gauge.", at=f"/air/ports/{unread[0]}", settle="a look at each port")  # fmt: skip
    booster = next(((i, c) for i, c in enumerate(w.build.air.consumers) if c.kind == "brake_booster" and c.port), None)
    if booster and booster[1].check_valve is None:
        told = True
        yield say("unknown", "Whether the brake booster's hose has a check valve of its own is not noted.", "Blow through the hose both ways, engine off.", at=f"/air/consumers/{booster[0]}/check_valve", settle="a breath through the hose")  # fmt: skip
    for name in a.open_ports:
        told = True
        yield say(
            "sort_out",
            f"Port {name} is open: unmeasured air, a lean cylinder, a high idle.",
            "A hose or a cap on it.",
            at=f"/air/ports/{name}",
        )
    for i, hose in enumerate(a.hoses):
        if hose.wrong and hose.kind not in ("crankcase_valve", "crankcase_breather"):
            told = True
            brakes = hose.kind == "brake_booster" and hose.now is None
            goes = f"Lead it to {hose.proposed}." if hose.proposed and hose.proposed != hose.now else "Mend that."
            shares = hose.wrong.startswith("shares")
            if shares and hose.proposed == hose.now:
                goes = "It may stay where it is: the other hose goes to a port of its own."
            if hose.proposed is None:
                goes = "No port here suits it: fit a union of its size where it belongs, or a vacuum pump."
            if hose.kind == "distributor_advance":
                goes = "Take it off, and cap both ends."
            word = hose.kind.replace("_", " ")
            yield say("stop" if brakes else "sort_out", f"The hose of the {word} {'' if shares else 'is '}{hose.wrong}" + (": the pedal goes hard and the car does not stop." if brakes else "."),
                      goes, at=f"/air/consumers/{i}/port", bars="move" if brakes else "start")  # fmt: skip
    if a.unsteady:
        told = True
        names = " and ".join(kind.replace("_", " ") for kind in a.unsteady)
        joined = w.build.air.balance == "joined"
        whence = (
            "One throttle per cylinder gives" if w.build.engine.layout == "individual_throttles" else "Manifolds that are not joined give"
        )
        yield say("sort_out", f"{whence} no steady vacuum: {names} {'draws' if len(a.unsteady) == 1 else 'draw'} on it.",
                  "A reservoir with a check valve, or a vacuum pump." if joined else "Join the runners to a balance manifold by small hoses and draw from that.",
                  at="/air/reservoir" if joined else "/air/balance")  # fmt: skip
    if a.reservoir_applications is not None and a.reservoir_applications < APPLICATIONS:
        told = True
        yield say("watch", f"With the engine off the reservoir is good for {a.reservoir_applications} full applications of the brake before its vacuum has halved.",
                  "A larger one; three at least.", at="/air/reservoir", figure="air.reservoir.applications", limit=APPLICATIONS)  # fmt: skip
    if not told:
        yield say("sound", f"{len(a.hoses)} hoses, each on its kind of source; no port is open.")


@check(
    "AIR-05",
    "/air/consumers",
    "Crankcase, clean and dirty side",
    source="valve below the throttle, breather from filtered air before it",
    rests=("/air/ports",),
)
def crankcase(w: Worked, say: Say) -> Iterator[Finding]:
    if not w.build.air.consumers:
        yield say(
            "unknown", "Where crankcase fumes go is not listed.", "List valve and breather.", settle="the two hoses on the rocker cover"
        )
        return
    by = {hose.kind: (i, hose) for i, hose in enumerate(w.air.hoses)}
    told = False
    for kind, word, where in (
        ("crankcase_valve", "dirty side, the valve,", "the manifold, below the throttle"),
        ("crankcase_breather", "clean side, the breather,", "filtered air before the throttle"),
    ):
        i, hose = by.get(kind, (None, None))
        if hose is None:
            told = True
            yield say("sort_out", f"The crankcase's {word} is missing.", f"It belongs on {where}.")
        elif hose.wrong:
            told = True
            yield say(
                "sort_out",
                f"The crankcase's {word} is {hose.wrong}.",
                f"It belongs on {where}. People swap the two.",
                at=f"/air/consumers/{i}/port",
            )
    if not told:
        yield say("sound", "Fumes go to the manifold, fresh air comes from the filter.")


@check(
    "AIR-06",
    "/air/linkage/gearbox_cable",
    "Gearbox cable",
    source="kick-down and line pressure follow the throttle; wrong, the clutches burn",
)
def gearbox(w: Worked, say: Say) -> Iterator[Finding]:
    link = w.build.air.linkage
    if link is None or link.gearbox_cable is None:
        yield say(
            "unknown",
            "Whether a gearbox cable hangs on the throttle is not said.",
            "Say none, or set it.",
            at="/air/linkage/gearbox_cable" if link else "/air/linkage",
            settle="a look at the carburettor",
        )
    elif link.gearbox_cable == "not_set":
        yield say("stop", "The gearbox's kick-down or pressure cable is not set on the new throttle: line pressure stays low and the clutches burn.", "Give it its own geometry and set it by the gearbox maker's figures before the car moves.", bars="move")  # fmt: skip
    elif link.gearbox_cable == "set":
        yield say("sound", "The gearbox cable is set.")


@check(
    "AIR-07",
    "/air/left_in",
    "Nothing left in, nothing left open",
    source="what plugs a port goes through the engine; an open hole leaks air or oil",
    rests=("/air/blanked",),
)
def openings(w: Worked, say: Say) -> Iterator[Finding]:
    a = w.build.air
    if a.left_in == "rag_or_tape":
        yield say(
            "stop",
            "A rag or tape is in the manifold: the engine draws it in at the first turn.",
            "Take it out, count what went in, look with a lamp.",
        )
    if a.blanked == "open_hole":
        yield say(
            "sort_out",
            "A hole of something that came off stands open: oil or unmeasured air.",
            "A plate with a gasket over it.",
            at="/air/blanked",
        )
    open_ = [word for word, said in (("manifold", a.left_in), ("holes of what came off", a.blanked)) if said == "not_looked_at"]
    if open_:
        yield say("note", f"Not looked at: {' and '.join(open_)}.", settle="a lamp into every port before the body goes on")
    elif a.left_in == "nothing" and a.blanked == "all":
        yield say("sound", "Nothing was left in, and every hole is blanked.")


@check(
    "AIR-08",
    "/air/manifolds",
    "A throttle body on the manifold that is there",
    source="a throttle feeds only the cylinders whose runners meet under it",
    rests=("/engine/layout", "/engine/carburettors", "/air/throttle"),
)
def manifold(w: Worked, say: Say) -> Iterator[Finding]:
    e, apart = w.build.engine, w.build.air.manifolds
    if e.layout != "throttle_body" or e.carburettors == "not_noted":
        return
    bores = w.build.air.throttle.bores if w.build.air.throttle else None
    if e.carburettors == "one" and apart is None:
        yield say("sound", "One carburettor stood on this manifold: what feeds all cylinders feeds them from its place.")
    elif apart is None:
        who = "Two carburettors" if e.carburettors == "two" else "Carburettors for each cylinder"
        yield say(
            "unknown",
            f"{who} mostly stand on manifolds of their own; a throttle body feeds only what is joined under it.",
            "Look under the carburettors for a passage that joins the manifolds, and say how many are not joined; 1 where all are.",
            settle="a lamp down the manifold",
        )
    elif bores is not None and bores < apart:
        yield say(
            "stop",
            f"{apart} manifolds that are not joined and {bores} {'bore' if bores == 1 else 'bores'}: the cylinders on the rest get no air.",
            "A body on each manifold, or a manifold that joins them.",
        )
    else:
        yield say("sound", "Every manifold has a throttle over it." if apart > 1 else "All cylinders are joined under the throttle.")
