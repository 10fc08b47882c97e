"""FUEL, what hangs on the line besides the engine, and what was measured on it: second users, two rails, what a body brings along, arrows, flow by itself."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ..given.fuel import Filter
from ..worked import Worked
from . import owners
from .base import Finding, Say, check

JET_MORE = 1.15  # times what it was sized for, from which on a jet passes too much
RUNS_DRY = 1.0  # of the pump's flow, that has to come by itself


@check(
    "FUEL-21",
    "/fuel/users",
    "Second users of the line",
    source="flow through a jet goes with the root of the pressure",
    rests=("/fuel/regulator/set_pressure",),
)
def users(w: Worked, say: Say) -> Iterator[Finding]:
    pressure = w.build.fuel.regulator.set_pressure
    for i, user in enumerate(w.build.fuel.users):
        times = math.sqrt(pressure.si / user.sized_at.si) if user.sized_at.si > 0 else 1.0
        taken = owners.flow(w, user.flow.si * times)
        if times > JET_MORE:
            yield say(
                "sort_out",
                f"{_name(user.name)} is sized at {owners.typed(w, user.sized_at)} and gets {owners.typed(w, pressure)}: it passes {times:.1f} times as much, {taken}.",
                "A smaller jet, a regulator of its own before it, or take it off the line.",
                at=f"/fuel/users/{i}/sized_at",
            )
        else:
            yield say("sound", f"{_name(user.name)} takes {taken}; pump and lines are sized for it.", at=f"/fuel/users/{i}")


def _name(text: str) -> str:
    return f"{text[0].upper()}{text[1:]}"


@check(
    "FUEL-22",
    "/fuel/rails",
    "Two rails",
    source="what no fuel flows through keeps its heat and its air",
    rests=("/engine/arrangement", "/engine/layout", "/fuel/path"),
)
def rails(w: Worked, say: Say) -> Iterator[Finding]:
    f, e = w.build.fuel, w.build.engine
    if f.rails == "split" and f.scheme == "return":
        yield say(
            "watch",
            "Fuel divides into a branch for each bank, and the return leaves from one: nothing flows through the far branch, hot fuel and air stand in it.",
            "Lead the rails one after the other, the regulator behind the second; or join both ends before it.",
        )
    elif f.rails in ("split", "in_series"):
        yield say(
            "sound",
            "One rail after the other, the return behind the second."
            if f.rails == "in_series"
            else "A branch for each bank, none of them on a return.",
        )
    elif f.rails == "not_noted" and e.layout == "port_plenum" and e.arrangement in ("vee", "flat"):
        yield say("note", "How the rails of the two banks are joined is not noted.", settle="a look at where supply and return are joined")


@check(
    "FUEL-23",
    "/fuel/body",
    "The body's own regulator and ports",
    source="two regulators on one line: the lower one rules; a port without a purpose is plugged",
    rests=("/engine/layout", "/fuel/regulator", "/fuel/path"),
)
def body(w: Worked, say: Say) -> Iterator[Finding]:
    b, f = w.build.fuel.body, w.build.fuel
    if w.build.engine.layout != "throttle_body":
        return
    if b is None:
        yield say(
            "note",
            "Whether the body has a regulator and a return port of its own is not noted.",
            settle="the body's sheet; a look at its ports",
        )
        return
    told = False
    if b.own_regulator == "left_in":
        told = True
        yield say(
            "sort_out",
            "The body's own regulator is left in beside another: the lower of the two rules, and nobody knows which that is.",
            "Take one of them out of work: blank the body's, or use it and leave the other off.",
            at="/fuel/body/own_regulator",
        )
    back = f.scheme == "return"
    if b.own_regulator == "used" and b.return_port in ("plugged", "none"):
        told = True
        yield say("stop", "The body's own regulator has nowhere to let fuel go: its return port is plugged, and the pump stands against its own limit.", "Lead the return port back to the tank.", at="/fuel/body/return_port")  # fmt: skip
    elif b.own_regulator in ("taken_out", "none") and b.return_port == "open":
        told = True
        yield say("stop", "The body's return port stands open: fuel runs out of it under pressure. Fire.", "Plug it with its own plug and seal, and look for a leak with the pump on.", at="/fuel/body/return_port")  # fmt: skip
    elif b.own_regulator in ("taken_out", "none") and b.return_port == "used" and not back:
        told = True
        yield say("sort_out", "The return port is used, and on this path nothing comes back from the body.", "Plug the port, or put the return on the path.", at="/fuel/body/return_port")  # fmt: skip
    open_ = [word for word, said in (("own regulator", b.own_regulator), ("return port", b.return_port)) if said == "not_looked_at"]
    if open_:
        told = True
        yield say(
            "unknown",
            f"Not looked at on the body: {' and '.join(open_)}.",
            "Its sheet, and a look at its ports.",
            settle="the body's sheet",
        )
    if not told:
        yield say("sound", f"Its own regulator is {b.own_regulator.replace('_', ' ')}, its return port {b.return_port}.")


@check(
    "FUEL-24",
    "/fuel/parts",
    "Arrows on pump and filters",
    source="check valves and pleats are made for one direction",
    rests=("/fuel/pump/arrow", "/fuel/path"),
)
def arrows(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.build.fuel
    parts = [("pump", "/fuel/pump/arrow", f.pump.arrow)]
    parts += [(name, f"/fuel/parts/{name}/arrow", part.arrow) for name in f.path if isinstance(part := f.parts.get(name), Filter)]
    wrong = [(name, at) for name, at, arrow in parts if arrow == "against"]
    for name, at in wrong:
        yield say(
            "stop" if name == "pump" else "sort_out",
            f"The arrow on the {name.replace('_', ' ')} points against the flow: "
            + ("it pushes the wrong way." if name == "pump" else "it drops more, and sheds what it has caught."),
            "Turn it round. Depressurise first, battery off, catch the fuel.",
            at=at,
        )
    open_ = [name.replace("_", " ") for name, _, arrow in parts if arrow == "not_looked_at"]
    if open_ and not wrong:
        yield say("note", f"Which way the arrow points was not looked at: {', '.join(open_)}.", settle="a look at each")
    elif not wrong:
        yield say("sound", "Every arrow points the way the fuel goes.")


@check(
    "FUEL-25",
    "/fuel/measured",
    "Flow by itself to the pump's inlet",
    figure="fuel.gravity.flow",
    source="what runs into a can as low as the pump; head against Darcy-Weisbach losses",
    rests=("fuel.pump.flow.full", "/fuel/pump/place"),
)
def gravity(w: Worked, say: Say) -> Iterator[Finding]:
    got = w.fuel.gravity_m3_s
    if got is None or w.build.fuel.pump.place == "in_tank":
        return
    takes = max(p.flow_m3_s for p in w.fuel.points.values())
    expected = w.fuel.gravity_expected_m3_s
    beside = f" By its bore, length and head {owners.flow(w, expected)} should come." if expected is not None else ""
    if got < takes * RUNS_DRY:
        yield say(
            "sort_out",
            f"{owners.flow(w, got)} run to the pump's inlet by themselves, the pump takes {owners.flow(w, takes)}: it has to suck, and pulls vapour when it is hot.{beside}",
            "A shorter, wider line, a strainer that is clean, a pump that sits lower. No flame, battery off, fuel caught.",
            at="/fuel/measured/caught",
        )
    else:
        yield say(
            "sound",
            f"{owners.flow(w, got)} run to the pump's inlet by themselves, more than the {owners.flow(w, takes)} that it takes.{beside}",
        )
