"""FUEL, the rest of the catalogue: volts and pressure in reserve, ports, vapour, place, filters, regulator, surge tank, routes, fuel."""

from __future__ import annotations

from collections.abc import Iterator

from ..given.fuel import Run
from ..reference import fuels, lines
from ..stages.fuel.inlet import MARGIN_SOUND
from ..worked import Worked
from . import owners
from .base import Finding, Say, Severity, check

SUCTION_SPEED = 1.0  # m/s, guide for a suction line
LEVEL = 0.02  # m that a pump may sit over the tank's outlet
NEAR_TANK = 0.6  # m of line before an outside pump
HOSE = 1.0  # m, a reference hose longer than this lags behind the manifold
CLIPS = 0.3  # m between clips
CLIPS_ASIDE = 1.05  # by which a clip may sit further on
FINE, COARSE = 25e-6, 60e-6  # m: coarser than this is too coarse after the pump, finer than that too fine before it
CRANKING = 1.2  # times what starting takes
PORT = 0.99  # of its port, below which a line counts as smaller: stubs are rounded
ACROSS_NONE, ACROSS = 0.6, (0.75, 1.6)  # of the pressure injectors are rated at: no longer sprays, and the range they are made for
SURGE = 10.0  # s that a surge tank covers with the pick-up bare
RELIEF = 0.9  # of the relief pressure, from which on a valve leaks
NEAR_EXHAUST = (0.1, 0.05)  # m from the exhaust: watched or sorted out, never
TIRED = 1.0  # of the need
SEALS_ASK = 0.2  # share of alcohol from which on every seal is asked about


@check(
    "FUEL-03",
    "/wiring/fitted/pump_feed",
    "Reserve on a tired battery",
    figure="fuel.margin.tired",
    source="operating point at 11.8 V, filter due for change",
    rests=("fuel.margin.crank",),
)
def reserve(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.fuel
    crank = f.points["crank"]
    share = crank.capacity_m3_s / crank.demand_m3_s
    if share < CRANKING:
        yield say(
            "watch",
            f"While cranking at 10 V the pump gives {share:.1f} times what starting takes.",
            "Thicker wire to the pump, or a relay near it.",
            figure="fuel.margin.crank",
            limit=CRANKING,
        )
    elif f.tired_margin < TIRED:
        yield say(
            "watch",
            f"At 11.8 V and with a filter due for change the pump gives {f.tired_margin:.2f} times the need.",
            "Keep the filter fresh and the charging right, or fit wire or a pump a size up.",
            limit=1.0,
        )
    else:
        yield say("sound", f"Even at 11.8 V with a filter due for change the pump gives {f.tired_margin:.1f} times the need.", limit=1.0)


@check(
    "FUEL-05",
    "/fuel/parts",
    "Lines against the pump's ports",
    source="a line is never smaller than the port that it is on",
    rests=("/fuel/pump", "/fuel/path"),
)
def ports(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.build.fuel
    small = False
    for names, port, own in ((f.sections.suction, "inlet", f.pump.inlet_bore), (f.sections.to_rail, "outlet", f.pump.outlet_bore)):
        for name, run in f.runs(names).items():
            if own is not None and run.bore.si < own.si * PORT:
                small, line = True, name.replace("_", " ")
                yield say("sort_out", f"The {line} line, {owners.typed(w, run.bore)}, is smaller than the pump's {port}, {owners.typed(w, own)}.".replace("line line", "line"),
                          f"Fit {owners.typed(w, own)} or more.", at=f"/fuel/parts/{name}/bore")  # fmt: skip
    if f.pump.outlet_bore is None:
        yield say(
            "unknown",
            "The bore of the pump's outlet is not given.",
            "Measure the stub, or look it up on the sheet.",
            at="/fuel/pump/outlet_bore",
            settle="the pump's ports",
        )
    elif not small:
        yield say("sound", "Lines are at least as wide as the pump's ports.")


@check(
    "FUEL-07",
    "/fuel/tank",
    "Vapour at the pump's inlet",
    figure="fuel.inlet.margin",
    source="EPA AP-42, ch. 7.1; margin in metres of fuel",
    rests=("/fuel/path", "/fuel/pump/place"),
)
def vapour(w: Worked, say: Say) -> Iterator[Finding]:
    i = w.fuel.inlet
    if not i.known:
        yield say(
            "unknown",
            "The pump sits outside and its suction line is not described.",
            "Put the hose from tank to pump on the path, with its bore, length and fittings.",
            at="/fuel/path",
            settle="suction line",
            limit=MARGIN_SOUND,
        )
        return
    hot = owners.heat(w, i.fuel_k)
    why = f"At {hot} the inlet stands {owners.distance(w, i.margin_m)} of fuel above boiling, {owners.pressure(w, i.pressure_pa)} against {owners.pressure(w, i.vapour_pa)}."
    takes = f" It takes fuel up to {owners.heat(w, i.hottest_k)}." if i.hottest_k is not None else ""
    if i.margin_m >= MARGIN_SOUND:
        yield say("sound", why + takes, limit=MARGIN_SOUND)
    elif i.margin_m >= 0:
        yield say(
            "watch",
            why + takes,
            "Lower the pump, shorten and widen the suction line, keep heat off it, or put the pump in the tank.",
            limit=MARGIN_SOUND,
            settle="fuel temperature on a hot day",
        )
    else:
        yield say("stop", f"{why}{takes} The pump is pulling vapour.", "Lower it, cool it, or put it in the tank.", limit=0.0)


@check(
    "FUEL-08",
    "/fuel/pump/place",
    "Place of an outside pump",
    source="pumps push well and pull badly: low, near, no elbow, coarse filter",
    rests=("/fuel/tank/head", "/fuel/lift", "/fuel/path", "/fuel/parts", "fuel.suction.velocity"),
)
def place(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.build.fuel
    if f.pump.place == "in_tank":
        return
    wrong: list[tuple[str, str]] = []
    inlet, suction = w.fuel.inlet, f.sections.suction
    if inlet.head_m < 0:
        wrong.append(("/fuel/lift/head" if f.lift else "/fuel/tank/head", f"it sits {owners.length(w, -inlet.head_m)} above the fuel"))
    rise = sum(run.rise.si for run in f.runs(suction).values())
    if rise > LEVEL:
        wrong.append((f"/fuel/parts/{next(iter(f.runs(suction)))}/rise", f"it sits {owners.length(w, rise)} above the tank's outlet"))
    length = sum(run.length.si for run in f.runs(suction).values())
    if length > NEAR_TANK:
        wrong.append(
            (
                f"/fuel/parts/{next(iter(f.runs(suction)))}/length",
                f"{owners.distance(w, length)} of line lie before it, {owners.distance(w, NEAR_TANK)} at most",
            )
        )
    for name, run in f.runs(suction).items():
        if any(x.kind == "elbow_90" and x.count for x in run.fittings):
            wrong.append((f"/fuel/parts/{name}/fittings", "an elbow sits before it"))
    if inlet.suction_velocity_m_s > SUCTION_SPEED:
        at = next(iter(f.runs(suction)))
        wrong.append((f"/fuel/parts/{at}/bore", f"fuel is drawn at {owners.velocity(w, inlet.suction_velocity_m_s)}"))
    for name, part in f.filters(suction).items():
        if part.fineness.si < COARSE:
            wrong.append((f"/fuel/parts/{name}/fineness", f"a filter of {part.fineness} sits before it"))
    if wrong:
        told = "; ".join(text for _, text in wrong)
        yield say(
            "sort_out",
            f"The pump is outside and {told}.",
            "Move it low and near the tank, straight in, with a coarse strainer only. Battery off, fuel caught, no flame.",
            at=wrong[0][0],
        )
    else:
        yield say("sound", "Outside, at or below the fuel, straight in.")


@check(
    "FUEL-10",
    "/fuel/tank/return_enters",
    "Where the return enters the tank",
    source="free-falling return whips air into the fuel",
    rests=("/fuel/path",),
)
def entry(w: Worked, say: Say) -> Iterator[Finding]:
    if w.build.fuel.sections.ends != "tank":
        return
    if w.build.fuel.tank.return_enters == "above_fuel":
        yield say(
            "sort_out",
            "The return falls into the tank above the fuel and whips air into it.",
            "Lead it below the surface or through a drop tube.",
        )
    else:
        yield say("sound", "Nothing falls into the fuel from above.")


@check(
    "FUEL-11",
    "/fuel/parts",
    "Filters",
    source="about 100 um before the pump, 10 um after it for injectors",
    rests=("/fuel/path", "/fuel/pump/place"),
)
def filters(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.build.fuel
    before, after = f.filters((*f.sections.lift, *f.sections.suction)), f.filters(f.sections.to_rail)
    wrong: list[tuple[str, str, str]] = []
    for name, part in after.items():
        if part.due:
            wrong.append(
                (
                    f"/fuel/parts/{name}/due",
                    "The filter after the pump is due: it drops about three times as much.",
                    "Change it. Depressurise first; fuel on hot parts burns.",
                )
            )
    finest = min(after.items(), key=lambda x: x[1].fineness.si, default=None)
    if finest is None:
        wrong.append(
            ("/fuel/path", "No filter between pump and rail: what the pump sheds goes into the injectors.", "Fit 10 um after the pump.")
        )
    elif finest[1].fineness.si > FINE:
        wrong.append(
            (
                f"/fuel/parts/{finest[0]}/fineness",
                f"{finest[1].fineness} after the pump lets through what blocks an injector.",
                "Fit 10 um after the pump.",
            )
        )
    if f.pump.place == "external" and not before:
        wrong.append(("/fuel/path", "Nothing keeps rust and sealer out of the pump.", "Fit a coarse strainer, about 100 um, before it."))
    for name, part in before.items():
        if part.fineness.si < COARSE:
            wrong.append(
                (
                    f"/fuel/parts/{name}/fineness",
                    f"{part.fineness} before the pump starves it when it loads up.",
                    "Fit about 100 um before the pump, the fine filter after it.",
                )
            )
    for at, why, do in wrong:
        yield say("sort_out", why, do, at=at)
    if not wrong and finest:
        yield say("sound", f"{finest[1].fineness} after the pump, nothing fine before it.")


@check(
    "FUEL-12",
    "/fuel/regulator",
    "Regulator",
    figure="fuel.injector.pressure.full",
    source="constant difference across the injector; range that injectors are rated for",
    rests=("/injectors/rated_at", "/injectors/enters", "/engine/boost"),
)
def regulator(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.build.fuel
    ahead = sum(run.length.si for run in f.runs(f.sections.between).values()) if f.sections.regulator_first else 0.0
    if ahead > HOSE and f.regulator.reference == "manifold":
        yield say(
            "sort_out",
            f"A regulator {owners.distance(w, ahead)} from the rail cannot follow the manifold through a hose as long.",
            "Leave it open to air and let the control unit work out the difference.",
            at="/fuel/regulator/reference",
        )
        return
    full, rated = w.fuel.points["full"], w.build.injectors.rated_at
    boost = w.build.engine.boost
    pushes = full.rail_pressure_pa - full.across_pa  # over ambient, where they spray
    if boost and pushes > 0 and f.regulator.reference == "open_air":
        left = full.held_across_pa / f.regulator.set_pressure.si
        yield say(
            "stop" if left < ACROSS_NONE else "sort_out",
            f"{owners.typed(w, boost)} of boost pushes back: {left * 100:.0f} % of the set pressure is left across the injectors at full power.",
            "Let the regulator's spring side see the duct before the plates."
            if w.build.injectors.enters == "above_plates"
            else "Let the regulator's spring side see the manifold.",
            at="/fuel/regulator/reference",
        )
        return
    ratio = full.held_across_pa / rated.si
    text = f"{owners.pressure(w, full.held_across_pa)} across injectors that are rated at {owners.typed(w, rated)}"
    if ratio < ACROSS_NONE:
        yield say(
            "stop",
            f"{text}: they no longer spray.",
            "Raise the set pressure, or mend what loses the pressure.",
            at="/fuel/regulator/set_pressure",
        )
    elif not ACROSS[0] <= ratio <= ACROSS[1]:
        yield say(
            "sort_out",
            f"{text}: outside what they are made for.",
            "Choose a set pressure near the rated one.",
            at="/fuel/regulator/set_pressure",
        )
    else:
        yield say("sound", f"{text}.")


@check(
    "FUEL-13",
    "/fuel/lift",
    "Surge tank and lift pump",
    figure="fuel.lift.margin",
    source="lift pump fills what leaves the surge tank; time covered is usable volume over need",
    rests=("/fuel/path", "/fuel/lift/listed_at"),
)
def surge(w: Worked, say: Say) -> Iterator[Finding]:
    lift, margin, seconds = w.build.fuel.lift, w.fuel.lift_margin, w.fuel.surge_s
    if lift is None or margin is None or seconds is None:
        return
    led_away = w.build.fuel.sections.ends == "tank"
    if led_away:
        yield say(
            "sort_out",
            "The injection return goes to the main tank, so the lift pump has to make up the injection pump's whole flow.",
            "Lead the return back to the surge tank; let only its overflow go to the main tank.",
            at="/fuel/path",
        )
    if margin < TIRED:
        yield say(
            "sort_out",
            f"At its {w.fuel.lift_volts:.1f} V the lift pump gives {margin:.2f} times what leaves the surge tank: it runs dry at full power.",
            "Fit a larger lift pump, or thicker wire where its volts are low.",
            at="/fuel/lift/flow",
            limit=1.0,
        )
    drawn = w.fuel.lift_margin_m
    if drawn is None:
        yield say("unknown", "The lift pump's suction line is not described.", "Put the hose from tank to lift pump on the path.", at="/fuel/path", settle="suction line")  # fmt: skip
    elif drawn < MARGIN_SOUND:
        yield say("stop" if drawn < 0 else "watch", f"The lift pump's inlet stands {owners.distance(w, drawn)} of fuel above boiling at the hottest fuel.",
                  "Lower it, shorten and widen its suction line, keep heat off it.", at="/fuel/path", figure="fuel.lift.inlet", limit=MARGIN_SOUND)  # fmt: skip
    if margin >= TIRED and not led_away:
        yield say("sound" if seconds >= SURGE else "watch", f"The lift pump gives {margin:.1f} times the need; with the pick-up bare the surge tank covers {seconds:.0f} s at full power.",
                  "" if seconds >= SURGE else "A larger surge tank covers a longer bend.", limit=1.0)  # fmt: skip


@check(
    "FUEL-15",
    "/fuel/pump/relief",
    "Relief valve",
    source="opens above the working pressure and below the hose's rating",
    rests=("/fuel/path", "/fuel/parts", "fuel.pump.pressure.idle"),
)
def relief(w: Worked, say: Say) -> Iterator[Finding]:
    own, worst, hose = w.build.fuel.pump.relief, w.fuel.highest_pressure_pa, w.fuel.supply_limit_pa
    told = owners.pressure(w, worst)
    if own is None:
        if w.build.fuel.scheme == "dead_head":
            yield say(
                "sort_out",
                f"A dead-head pump stands against its own limit, {told} here, and no relief valve is given.",
                "Look its relief pressure up on the sheet and enter it.",
                settle="the pump's sheet",
            )
        else:
            yield say(
                "unknown",
                f"The pump works at {told}; where its relief valve opens is not given.",
                "Look its relief pressure up on the sheet and enter it.",
                settle="the pump's sheet",
            )
        return
    if worst > own.si * RELIEF and w.build.fuel.scheme != "dead_head":
        yield say(
            "sort_out",
            f"The pump works at {told} and its relief valve opens at {owners.pressure(w, own.si)}: it leaks back inside.",
            "Lower the pressure or the losses, or fit a pump with a higher relief.",
        )
    elif hose is not None and own.si > hose:
        yield say(
            "sort_out",
            f"The relief valve opens at {owners.pressure(w, own.si)}, above the hose's {owners.pressure(w, hose)}.",
            "Fit tube or hose that stands it: a blocked line would burst it. Fire.",
            at="/fuel/parts",
        )
    else:
        yield say("sound", f"Relief at {owners.pressure(w, own.si)}, work at {told}.")


@check(
    "FUEL-16",
    "/fuel/parts",
    "Routes of the lines",
    source="100 mm from the exhaust; through the cabin in continuous metal only; clipped every 300 mm",
    rests=("/fuel/path",),
)
def routes(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.build.fuel
    cut = f.sections
    bad = False
    for name, run in f.runs((*cut.lift, *cut.suction, *cut.to_rail, *cut.from_rail)).items():
        for severity, why, do, last, settle in _route(w, name.replace("_", " "), run, ask=name not in cut.suction):
            bad = True
            yield say(severity, why, do, at=f"/fuel/parts/{name}/{last}", settle=settle or None)
    if not bad:
        yield say("sound", "Lines keep clear of the exhaust and of the cabin, clipped, with sound ends.")


def _route(w: Worked, name: str, run: Run, *, ask: bool) -> Iterator[tuple[Severity, str, str, str, str]]:
    """What is wrong with a run's route: severity, why, what to do, the field, what would settle it."""
    line = name if name.endswith("line") else f"{name} line"
    metal = run.material in ("steel_tube", "copper_nickel_tube")
    if run.route == "cabin_with_joints" or (run.route == "cabin_continuous" and not metal):
        what = "with joints in it" if run.route == "cabin_with_joints" else f"in {lines()[run.material].label}"
        yield "stop", f"The {line} runs through the cabin {what}.", "Outside, or in one piece of metal tube without a joint.", "route", ""
    if run.clamps == "slotted_band":
        yield (
            "sort_out",
            f"Slotted-band clamps on the {line} cut hose and loosen.",
            "Rolled-edge injection clamps, or crimped ends.",
            "clamps",
            "",
        )
    if run.clips.si > CLIPS * CLIPS_ASIDE and run.length.si > CLIPS:
        yield (
            "sort_out" if run.clips.si > 2 * CLIPS else "watch",
            f"The {line} is clipped every {owners.typed(w, run.clips)}: it swings and chafes.",
            f"Clip it every {owners.length(w, CLIPS)}, clear of the drive shaft, suspension travel and belts.",
            "clips",
            "",
        )
    near = run.exhaust_distance
    if near is None and ask:
        yield (
            "unknown",
            f"How near the {line} comes to the exhaust is not given.",
            "Measure the nearest place.",
            "exhaust_distance",
            "a ruler under the car, exhaust cold, car on stands",
        )
    elif near is not None and near.si < NEAR_EXHAUST[1]:
        yield (
            "stop",
            f"The {line} passes {owners.typed(w, near)} from the exhaust: it boils, and a leak burns.",
            f"Move it to {owners.length(w, NEAR_EXHAUST[0])} or more.",
            "exhaust_distance",
            "",
        )
    elif near is not None and near.si < NEAR_EXHAUST[0]:
        shield = ", behind a shield" if run.shielded else ""
        yield (
            "watch" if run.shielded else "sort_out",
            f"The {line} passes {owners.typed(w, near)} from the exhaust{shield}.",
            f"Move it to {owners.length(w, NEAR_EXHAUST[0])}, or fit a heat shield.",
            "exhaust_distance",
            "",
        )


@check(
    "FUEL-18",
    "/fuel/tank/leaded",
    "Fuel",
    source="lead poisons an oxygen sensor",
    rests=("/sensors/decisions", "/engine/fuel", "/fuel/seals"),
)
def fuel(w: Worked, say: Say) -> Iterator[Finding]:
    if w.build.fuel.tank.leaded and w.build.sensors.decisions.get("wideband_oxygen") != "struck":
        yield say(
            "stop",
            "Leaded fuel or additive kills the oxygen sensor within a tank or two.",
            "Unleaded fuel only, or do without the oxygen sensor and without learning.",
            bars="road",
        )
        return
    alcohol, seals = fuels()[w.build.engine.fuel].alcohol, w.build.fuel.seals
    if alcohol and seals == "not_fit":
        yield say("stop", f"{w.build.engine.fuel} holds {alcohol * 100:.0f} % alcohol, and a seal or hose on its way is not made for it: it swells and leaks. Fire.",
                  "Seals and hose that are rated for alcohol, in pump, injectors, regulator and tank.", at="/fuel/seals")  # fmt: skip
    elif alcohol > SEALS_ASK and seals == "not_looked_at":
        yield say("unknown", f"{w.build.engine.fuel} holds {alcohol * 100:.0f} % alcohol; whether seals and hose are made for it was not looked at.",
                  "The sheets of pump, injectors, regulator, hose.", at="/fuel/seals", settle="the parts' sheets")  # fmt: skip
    else:
        yield say("sound", f"{w.build.engine.fuel}, {owners.flow(w, w.fuel.need_m3_s)} at full power; nothing in it harms the sensor.")
