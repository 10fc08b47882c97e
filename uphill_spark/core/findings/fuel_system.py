"""FUEL, the rest of the catalogue: volts and pressure in reserve, ports, vapour, place, filters, regulator, surge tank, routes, heat, fuel."""

from __future__ import annotations

from collections.abc import Iterator

from ..units import from_si
from ..worked import Worked
from .base import Finding, Say, check, grade

L_H = 3.6e6  # m3/s to L/h
SUCTION_SPEED = 1.0  # m/s, guide for a suction line
FINE, COARSE = 25e-6, 60e-6  # m: coarser than this is too coarse after the pump, finer than that too fine before it


@check(
    "FUEL-03",
    "/fuel/wire",
    "Reserve on a tired battery",
    figure="fuel.margin.tired",
    source="operating point at 11.8 V, filter due for change",
)
def reserve(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.fuel
    if f.crank_margin < 1.2:
        yield say(
            "watch",
            f"While cranking at 10 V the pump gives {f.crank_margin:.1f} times what starting takes.",
            "Thicker wire to the pump, or a relay near it.",
            figure="fuel.margin.crank",
            limit=1.2,
        )
    elif f.tired_margin < 1.0:
        yield say(
            "watch",
            f"At 11.8 V and with a filter due for change the pump gives {f.tired_margin:.2f} times the need.",
            "Keep the filter fresh and the charging right, or fit wire or a pump a size up.",
            limit=1.0,
        )
    else:
        yield say("sound", f"Even at 11.8 V with a filter due for change the pump gives {f.tired_margin:.1f} times the need.", limit=1.0)


@check("FUEL-05", "/fuel/supply/bore", "Lines against the pump's ports", source="a line is never smaller than the port that it is on")
def ports(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.build.fuel
    pairs = [("/fuel/supply/bore", "supply line", f.supply.bore, "outlet", f.pump.outlet_bore)]
    if f.suction is not None:
        pairs.append(("/fuel/suction/bore", "suction line", f.suction.bore, "inlet", f.pump.inlet_bore))
    known = [(at, name, bore, port, own) for at, name, bore, port, own in pairs if own is not None]
    small = [x for x in known if x[4] is not None and x[2].si < x[4].si * 0.99]
    for at, name, bore, port, own in small:
        yield say("sort_out", f"The {name}, {bore}, is smaller than the pump's {port}, {own}.", f"Fit a {name} of {own} or more.", at=at)
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
    "FUEL-07", "/fuel/tank", "Vapour at the pump's inlet", figure="fuel.inlet.margin", source="EPA AP-42, ch. 7.1; margin in metres of fuel"
)
def vapour(w: Worked, say: Say) -> Iterator[Finding]:
    i = w.fuel.inlet
    if not i.known:
        yield say(
            "unknown",
            "The pump sits outside and its suction line is not described.",
            "Enter bore, length and fittings from tank to pump.",
            at="/fuel/suction",
            settle="suction line",
            limit=1.5,
        )
        return
    hot = f"{i.fuel_k - 273.15:.0f} °C"
    why = f"At {hot} the inlet stands {i.margin_m:.1f} m of fuel above boiling, {i.pressure_pa / 1e3:.0f} kPa against {i.vapour_pa / 1e3:.0f} kPa."
    takes = f" It takes fuel up to {i.hottest_k - 273.15:.0f} °C." if i.hottest_k is not None else ""
    if i.margin_m >= 1.5:
        yield say("sound", why + takes, limit=1.5)
    elif i.margin_m >= 0:
        yield say(
            "watch",
            why + takes,
            "Lower the pump, shorten and widen the suction line, keep heat off it, or put the pump in the tank.",
            limit=1.5,
            settle="fuel temperature on a hot day",
        )
    else:
        yield say("stop", f"{why}{takes} The pump is pulling vapour.", "Lower it, cool it, or put it in the tank.", limit=0.0)


@check(
    "FUEL-08", "/fuel/pump/place", "Place of an outside pump", source="pumps push well and pull badly: low, near, no elbow, coarse filter"
)
def place(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.build.fuel
    if f.pump.place == "in_tank":
        yield say("sound", "In the tank: cool, primed and quiet.")
        return
    wrong: list[tuple[str, str]] = []
    if f.tank.head.si < 0:
        wrong.append(("/fuel/tank/head", f"it sits {-f.tank.head.si * 100:.0f} cm above the fuel"))
    if f.suction is not None and any(x.kind == "elbow_90" and x.count for x in f.suction.fittings):
        wrong.append(("/fuel/suction/fittings", "an elbow sits before it"))
    if w.fuel.inlet.suction_velocity_m_s > SUCTION_SPEED:
        wrong.append(("/fuel/suction/bore", f"fuel is drawn at {w.fuel.inlet.suction_velocity_m_s:.1f} m/s"))
    if f.strainer is not None and f.strainer.fineness.si < COARSE:
        wrong.append(("/fuel/strainer/fineness", f"a filter of {f.strainer.fineness} sits before it"))
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


@check("FUEL-10", "/fuel/tank/return_enters", "Where the return enters the tank", source="free-falling return whips air into the fuel")
def entry(w: Worked, say: Say) -> Iterator[Finding]:
    if w.build.fuel.scheme != "dead_head" and w.build.fuel.tank.return_enters == "above_fuel":
        yield say(
            "sort_out",
            "The return falls into the tank above the fuel and whips air into it.",
            "Lead it below the surface or through a drop tube.",
        )
    else:
        yield say("sound", "Nothing falls into the fuel from above.")


@check("FUEL-11", "/fuel/filter", "Filters", source="about 100 um before the pump, 10 um after it for injectors")
def filters(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.build.fuel
    wrong: list[tuple[str, str, str]] = []
    if f.filter.due:
        wrong.append(
            (
                "/fuel/filter/due",
                "The filter after the pump is due: it drops about three times as much.",
                "Change it. Depressurise first; fuel on hot parts burns.",
            )
        )
    if f.filter.fineness.si > FINE:
        wrong.append(
            (
                "/fuel/filter/fineness",
                f"{f.filter.fineness} after the pump lets through what blocks an injector.",
                "Fit 10 um after the pump.",
            )
        )
    if f.pump.place == "external" and f.strainer is None:
        wrong.append(
            ("/fuel/strainer", "Nothing keeps rust and sealer out of the pump.", "Fit a coarse strainer, about 100 um, before it.")
        )
    if f.strainer is not None and f.strainer.fineness.si < COARSE:
        wrong.append(
            (
                "/fuel/strainer/fineness",
                f"{f.strainer.fineness} before the pump starves it when it loads up.",
                "Fit about 100 um before the pump, the fine filter after it.",
            )
        )
    for at, why, do in wrong:
        yield say("sort_out", why, do, at=at)
    if not wrong:
        yield say("sound", f"{f.filter.fineness} after the pump, nothing fine before it.")


@check(
    "FUEL-12",
    "/fuel/regulator",
    "Regulator",
    figure="fuel.injector.pressure.full",
    source="constant difference across the injector; range that injectors are rated for",
)
def regulator(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.build.fuel
    if f.scheme == "tank_regulator" and f.regulator.reference == "manifold":
        yield say(
            "sort_out",
            "A regulator at the tank cannot follow the manifold through a hose as long as the car.",
            "Leave it open to air and let the control unit work out the difference.",
            at="/fuel/regulator/reference",
        )
        return
    ratio = w.fuel.across_full_pa / w.build.injectors.rated_at.si
    text = f"{w.fuel.across_full_pa / 1e3:.0f} kPa across injectors that are rated at {w.build.injectors.rated_at}"
    if ratio < 0.6:
        yield say(
            "stop",
            f"{text}: they no longer spray.",
            "Raise the set pressure, or mend what loses the pressure.",
            at="/fuel/regulator/set_pressure",
        )
    elif ratio > 1.6 or ratio < 0.75:
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
)
def surge(w: Worked, say: Say) -> Iterator[Finding]:
    lift, margin, seconds = w.build.fuel.lift, w.fuel.lift_margin, w.fuel.surge_s
    if lift is None or margin is None or seconds is None:
        yield say("sound", "No surge tank in this build.")
        return
    if lift.return_to == "main_tank":
        yield say(
            "sort_out",
            "The injection return goes to the main tank, so the lift pump has to make up the injection pump's whole flow.",
            "Lead the return back to the surge tank; let only its overflow go to the main tank.",
            at="/fuel/lift/return_to",
        )
    if margin < 1.0:
        yield say(
            "sort_out",
            f"The lift pump gives {margin:.2f} times what leaves the surge tank: it runs dry at full power.",
            "Fit a larger lift pump.",
            at="/fuel/lift/flow",
            limit=1.0,
        )
    elif lift.return_to == "surge_tank":
        yield say("sound" if seconds >= 10 else "watch", f"The lift pump gives {margin:.1f} times the need; with the pick-up bare the surge tank covers {seconds:.0f} s at full power.",
                  "" if seconds >= 10 else "A larger surge tank covers a longer bend.", limit=1.0)  # fmt: skip


@check("FUEL-15", "/fuel/pump/relief", "Relief valve", source="opens above the working pressure and below the hose's rating")
def relief(w: Worked, say: Say) -> Iterator[Finding]:
    own, worst, hose = w.build.fuel.pump.relief, w.fuel.highest_pressure_pa, w.fuel.supply_limit_pa
    if own is None:
        if w.build.fuel.scheme == "dead_head":
            yield say(
                "sort_out",
                f"A dead-head pump stands against its own limit, {worst / 1e3:.0f} kPa here, and no relief valve is given.",
                "Look its relief pressure up on the sheet and enter it.",
                settle="the pump's sheet",
            )
        else:
            yield say(
                "unknown",
                f"The pump works at {worst / 1e3:.0f} kPa; where its relief valve opens is not given.",
                "Look its relief pressure up on the sheet and enter it.",
                settle="the pump's sheet",
            )
        return
    if worst > own.si * 0.9 and w.build.fuel.scheme != "dead_head":
        yield say(
            "sort_out",
            f"The pump works at {worst / 1e3:.0f} kPa and its relief valve opens at {own}: it leaks back inside.",
            "Lower the pressure or the losses, or fit a pump with a higher relief.",
        )
    elif hose is not None and own.si > hose:
        yield say(
            "sort_out",
            f"The relief valve opens at {own}, above the hose's {hose / 1e3:.0f} kPa.",
            "Fit tube or hose that stands it: a blocked line would burst it. Fire.",
            at="/fuel/supply/material",
        )
    else:
        yield say("sound", f"Relief at {own}, work at {worst / 1e3:.0f} kPa.")


@check(
    "FUEL-16",
    "/fuel/supply/exhaust_distance",
    "Routes of the lines",
    source="100 mm from the exhaust; through the cabin in continuous metal only",
)
def routes(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.build.fuel
    bad = False
    for at, name, line in (("/fuel/supply", "supply", f.supply), ("/fuel/return_line", "return", f.return_line)):
        if f.scheme == "dead_head" and name == "return":
            continue
        if line.route == "cabin_with_joints":
            bad = True
            yield say(
                "stop",
                f"The {name} line runs through the cabin with joints in it.",
                "Outside, or in one piece of metal tube without a joint.",
                at=f"{at}/route",
            )
        if line.clamps == "slotted_band":
            bad = True
            yield say(
                "sort_out",
                f"Slotted-band clamps on the {name} line cut hose and loosen.",
                "Rolled-edge injection clamps, or crimped ends.",
                at=f"{at}/clamps",
            )
        if line.exhaust_distance is None:
            bad = True
            yield say(
                "unknown",
                f"How near the {name} line comes to the exhaust is not given.",
                "Measure the nearest place.",
                at=f"{at}/exhaust_distance",
                settle="a ruler under the car, exhaust cold, car on stands",
            )
        elif line.exhaust_distance.si < 0.05:
            bad = True
            yield say(
                "stop",
                f"The {name} line passes {line.exhaust_distance} from the exhaust: it boils, and a leak burns.",
                "Move it to 100 mm or more.",
                at=f"{at}/exhaust_distance",
            )
        elif line.exhaust_distance.si < 0.1:
            bad = True
            yield say(
                "watch" if line.shielded else "sort_out",
                f"The {name} line passes {line.exhaust_distance} from the exhaust{', behind a shield' if line.shielded else ''}.",
                "Move it to 100 mm, or fit a heat shield.",
                at=f"{at}/exhaust_distance",
            )
    if not bad:
        yield say("sound", "Lines keep clear of the exhaust and of the cabin, with sound ends.")


@check(
    "FUEL-17",
    "/fuel/tank/volume",
    "Fuel warms in a low tank",
    figure="fuel.warming",
    source="pump power over heat capacity, a quarter tank",
)
def warming(w: Worked, say: Say) -> Iterator[Finding]:
    rise = w.fuel.warming_k_s * 3600
    severity = grade(rise, 6, 1e9)
    yield say(
        severity,
        f"A quarter tank warms {rise:.1f} K in an hour from the pump's own power.",
        "" if severity == "sound" else "A smaller pump, a regulator at the tank, or not running the tank low in heat.",
        limit=6.0,
    )


@check("FUEL-18", "/fuel/tank/leaded", "Fuel", source="lead poisons an oxygen sensor")
def fuel(w: Worked, say: Say) -> Iterator[Finding]:
    if w.build.fuel.tank.leaded and w.build.sensors.decisions.get("wideband_oxygen") != "struck":
        yield say(
            "stop",
            "Leaded fuel or additive kills the oxygen sensor within a tank or two.",
            "Unleaded fuel only, or do without the oxygen sensor and without learning.",
        )
    else:
        text = from_si(w.fuel.need_m3_s, "L/h")
        yield say("sound", f"{w.build.engine.fuel}, {text:.0f} L/h at full power; nothing in it harms the sensor.")
