"""INJ: large enough at the top, small enough at idle, matched to the driver."""

from __future__ import annotations

from collections.abc import Iterator

from ..circuit.states import SYSTEM_VOLTS
from ..stages.injectors import DUTY_HARD_LIMIT
from ..stages.injectors.bench import SPREAD_SORT_OUT, SPREAD_SOUND
from ..worked import Worked
from . import owners
from .base import Finding, Say, above, check, grade

G_MIN = 6e4  # kg/s to g/min
MEAN_OFF = 0.08  # share by which a set may differ from its rating before one of the two is doubted
PULSE_IDLE = (1.5e-3, 1.0e-3)  # s that repeat well, and hardly (SAE J1832)
SAME_FIGURE = 0.005  # share by which rated and working figure may differ and count as one
PEAK_AND_HOLD_MOST = 8.0  # ohm with which a coil still reaches the peak of a peak-and-hold driver
ACROSS = (0.03, 0.08)  # share by which flow at idle may differ from full power
OHMS_APART = 0.10  # share by which a coil may differ from its mates, and from its kind
DRIPS = 2  # drops in a minute that wash a bore


@check(
    "INJ-01",
    "/injectors/flow",
    "Open share at full power",
    figure="injectors.duty.full",
    source="SAE J1832; above 85 % the last part is lost in closing",
    rests=("/injectors/duty_limit",),
)
def duty(w: Worked, say: Say) -> Iterator[Finding]:
    share, wanted = w.injectors.duty_full, w.build.injectors.duty_limit.si
    size = f"{owners.injector(w, w.injectors.window_low_kg_s)} rated"
    if share > 1.0:
        yield say(
            "stop",
            f"The injectors would have to be open {share * 100:.0f} % of the time: the engine goes lean.",
            f"Fit injectors of {size} or more.",
            limit=1.0,
        )
    elif share > DUTY_HARD_LIMIT:
        yield say(
            "sort_out",
            f"Open {share * 100:.0f} % of the time at full power; past 85 % flow stops following the pulse.",
            f"Fit injectors of {size} or more, or raise the pressure.",
            limit=DUTY_HARD_LIMIT,
        )
    elif share > wanted:
        yield say(
            "watch",
            f"Open {share * 100:.0f} % of the time at full power, more than the {wanted * 100:.0f} % wanted.",
            f"Fit injectors of {size} or more.",
            limit=wanted,
        )
    else:
        yield say("sound", f"Open {share * 100:.0f} % of the time at full power.", limit=wanted)


@check("INJ-02", "/injectors/flow", "Pulse at idle", figure="injectors.pulse.idle", source="effective pulse of 1.5 ms repeats well")
def idle(w: Worked, say: Say) -> Iterator[Finding]:
    pulse = w.injectors.pulse_idle_s
    ms, well, hardly = pulse * 1e3, PULSE_IDLE[0] * 1e3, PULSE_IDLE[1] * 1e3
    if pulse >= PULSE_IDLE[0]:
        yield say("sound", f"{ms:.2f} ms at idle is long enough to repeat.", limit=well)
        return
    way = "" if w.build.injectors.firing == "sequential" else " Fired once in two turns the pulse would be twice as long."
    yield say("watch" if pulse >= PULSE_IDLE[1] else "sort_out", f"{ms:.2f} ms at idle: opening and closing rule such a short pulse, so idle wanders.",
              f"Injectors of {owners.injector(w, w.injectors.window_high_kg_s)} rated or less would idle well.{way}", limit=well if pulse >= PULSE_IDLE[1] else hardly)  # fmt: skip


@check(
    "INJ-03",
    "/injectors/rated_at",
    "Figure to type in",
    figure="injectors.nominal",
    source="orifice: square root of pressure and density",
    rests=("/injectors/altered", "/injectors/bench"),
)
def nominal(w: Worked, say: Say) -> Iterator[Finding]:
    rated, here = w.injectors.flow_rated_kg_s * G_MIN, w.injectors.flow_nominal_kg_s * G_MIN
    figure = owners.own(w, "injector", w.injectors.flow_nominal_kg_s, 1)  # it is typed in as it stands here
    plate = owners.own(w, "injector", w.injectors.flow_rated_kg_s, 1)
    said = "Measured on the flow bench" if w.build.injectors.altered and w.injectors.bench.mean_kg_s is not None else "Rated"
    if abs(here / rated - 1) < SAME_FIGURE:
        yield say(
            "sound", f"{said} and working figure agree: {figure}." if said == "Rated" else f"{said}, and as the working figure: {figure}."
        )
    else:
        yield say("note", f"{said} {plate} at {owners.typed(w, w.build.injectors.rated_at)}; on {w.build.engine.fuel} at {owners.typed(w, w.build.fuel.regulator.set_pressure)} it is {figure}.",
                  f"Type {figure} into the control unit.", limit=round(rated, 3))  # fmt: skip


@check(
    "INJ-04",
    "/injectors/driver",
    "Driver and coil resistance",
    figure="injectors.current.driver",
    source="Ohm's law; saturated drivers want 10 to 16 ohm",
    rests=("/injectors/driver_limit",),
)
def driver(w: Worked, say: Say) -> Iterator[Finding]:
    i = w.build.injectors
    ohms, amps, limit = i.resistance.si + i.ballast.si, w.injectors.driver_current_a, i.driver_limit.si
    if i.driver == "peak_and_hold" and amps > limit:
        yield say("stop", f"{amps:.1f} A at the peak through a driver good for {limit:.1f} A: {i.per_driver} on one driver burn it.", "Fewer injectors on a driver, or a driver with a lower peak.", limit=limit)  # fmt: skip
    elif i.driver == "saturated" and amps > limit:
        ballast = SYSTEM_VOLTS * i.per_driver / limit - i.resistance.si
        watts = (limit / i.per_driver) ** 2 * ballast
        yield say("stop", f"{amps:.1f} A through a driver good for {limit:.1f} A: {i.per_driver} of {ohms:.1f} Ω on one saturated driver burn it.",
                  f"Use peak-and-hold drivers, fewer on a driver, or a ballast of {ballast:.1f} Ω and {2 * watts:.0f} W for each.", limit=limit)  # fmt: skip
    elif i.driver == "peak_and_hold" and ohms > PEAK_AND_HOLD_MOST:
        yield say(
            "watch",
            f"{ohms:.1f} Ω on a peak-and-hold driver never reaches its peak and opens by voltage alone.",
            "Set the driver to saturated.",
            limit=limit,
        )
    else:
        yield say("sound", f"{amps:.2f} A for each driver, limit {limit:.1f} A.", limit=limit)


@check("INJ-07", "/injectors/dead_time", "Dead time", source="opening less closing time over voltage, SAE J1832")
def dead_time(w: Worked, say: Say) -> Iterator[Finding]:
    if w.injectors.dead_time_assumed:
        share = w.injectors.dead_time_full_s / (w.injectors.pulse_idle_s + w.injectors.dead_time_full_s)
        yield say("unknown", f"Dead time is assumed, and at idle it is {share * 100:.0f} % of the pulse: an error shows as mixture that is off at small pulses.",
                  "Enter the table from the injector's sheet, five voltages from 8 to 16 V.", settle="dead-time table")  # fmt: skip
    else:
        yield say("sound", f"Dead time is from a table of {len(w.build.injectors.dead_time)} voltages.")


@check(
    "INJ-05",
    "/injectors/bench",
    "Flow bench",
    figure="injectors.spread",
    source="spread of a set 2 and 5 %; a shut injector that drips washes a bore",
    rests=("/injectors/flow", "/injectors/altered"),
)
def bench(w: Worked, say: Say) -> Iterator[Finding]:
    b, i = w.injectors.bench, w.build.injectors
    if not i.bench:
        yield say("note", "No flow test is entered; second-hand injectors want one.", settle="a flow bench, outdoors: fuel mist burns")
        return
    ohms = {row.mark: row.resistance.si for row in i.bench if row.resistance is not None}
    if ohms:
        middle = sorted(ohms.values())[len(ohms) // 2]
        odd = max(ohms, key=lambda mark: max(abs(ohms[mark] / middle - 1), abs(ohms[mark] / i.resistance.si - 1)))
        apart, kind = ohms[odd] / middle - 1, ohms[odd] / i.resistance.si - 1
        if max(abs(apart), abs(kind)) > OHMS_APART:
            against = (
                f"{apart * 100:+.0f} % against its mates"
                if abs(apart) > OHMS_APART
                else f"{kind * 100:+.0f} % against the {i.resistance} that are entered"
            )
            yield say("sort_out", f"Injector {odd} has {ohms[odd]:.1f} Ω, {against}: a coil that is going, or another kind.", "Leave it out, or enter what they are.", at="/injectors/bench")  # fmt: skip
    leaking = [row for row in b.rows if row.drops]
    fitted = b.complete
    for row in leaking:
        worst = (row.drops or 0) >= DRIPS
        yield say(
            "watch" if fitted else "stop" if worst else "sort_out",
            f"Injector {row.mark} drips {row.drops} in a minute, shut."
            + (" It is left out of the set." if fitted else " It washes the bore and feeds a fire."),
            "Clean it and test again, or throw it away.",
            at="/injectors/bench",
        )
    if b.spread is None:
        tight = sum(row.tight for row in b.rows)
        yield say(
            "sort_out",
            f"{tight} of those tested are tight and spray well; {b.needed} are needed.",
            "Test more, clean those that drip, or buy what is missing.",
            settle="more tests on the flow bench",
        )
        return
    severity = grade(b.spread, SPREAD_SOUND, SPREAD_SORT_OUT)
    trims = "Enter the trims, or clean and test again."
    do = "" if severity == "sound" else trims if severity == "watch" else f"Find closer ones, or clean and test again. {trims}"
    fitted_rows = [row for row in b.rows if row.cylinder is not None and row.deviation is not None]
    worst_row = max(fitted_rows, key=lambda row: abs(row.deviation or 0.0))
    named = (
        f" Farthest off is {worst_row.mark}, for cylinder {worst_row.cylinder}, {(worst_row.deviation or 0) * 100:+.1f} %."
        if fitted_rows
        else ""
    )
    yield say(severity, f"The set to fit spreads {b.spread * 100:.1f} %, all tested spread {(b.spread_all or 0) * 100:.1f} %.{named}", do, limit=above(severity, SPREAD_SOUND, SPREAD_SORT_OUT))  # fmt: skip
    off = (b.mean_kg_s or 0.0) / w.injectors.flow_rated_kg_s - 1
    if i.altered:
        yield say("note", f"Altered injectors: the bench mean, {owners.own(w, 'injector', w.injectors.flow_rated_kg_s, 1)}, is their figure, and a jet is what they spray.", at="/injectors/altered")  # fmt: skip
    elif abs(off) > MEAN_OFF:
        yield say(
            "watch",
            f"The set gives {off * 100:+.0f} % against its rating: either the rating or the test is not what it is taken for.",
            "Check pressure, time and fluid of the test; where they were opened up or altered, say so: then the bench mean is the figure.",
            at="/injectors/flow",
        )
    streaky = [row.mark for row in b.rows if row.spray == "streaky" and row.cylinder]
    if streaky:
        yield say("watch", f"{', '.join(streaky)} spray in streaks: fuel reaches the walls, not the air.", "Clean and look again, outdoors, short pulses, eyes protected.")  # fmt: skip


@check(
    "INJ-06",
    "/injectors/unit_compensates",
    "Pressure across the injector",
    figure="injectors.across.left",
    source="flow goes with the root of the pressure across the injector, from the rail to where it sprays",
    rests=("/fuel/regulator", "/injectors/enters", "injectors.across.change"),
)
def across(w: Worked, say: Say) -> Iterator[Finding]:
    change, left, i = w.injectors.across_change, w.injectors.across_left, w.build.injectors
    above, sees = i.enters == "above_plates", w.build.fuel.regulator.reference
    air = "They spray above the plates and meet the open air" if above else "They spray below the plates and meet the manifold"
    if abs(left) <= ACROSS[0]:
        works = i.unit_compensates and abs(change) > ACROSS[0]
        yield say("sound", f"Flow at idle differs by {change * 100:+.0f} %; the control unit works it out." if works else f"{air}: flow at idle is within {abs(change) * 100:.1f} % of full power.", limit=ACROSS[0])  # fmt: skip
        return
    severity, limit = grade(abs(left), *ACROSS), ACROSS[abs(left) > ACROSS[1]]
    if i.unit_compensates and abs(change) <= ACROSS[0]:
        yield say(severity, f"{air}, yet the control unit scales the pulse by the manifold's pressure: {left * 100:+.0f} % fuel at idle.", "Switch that correction off in the unit.", limit=limit)  # fmt: skip
    elif above:
        follows = f"the regulator follows {'the manifold' if sees == 'manifold' else 'what they do not see'}"
        yield say(severity, f"{air}; {follows}: the same pulse gives {left * 100:+.0f} % fuel at idle.",
                  "Leave the regulator's spring side open to the air, or under a blower lead it to the duct before the plates.", at="/injectors/enters", limit=limit)  # fmt: skip
    else:
        yield say(
            severity,
            f"{air}; the rail does not follow it: the same pulse gives {left * 100:+.0f} % fuel at idle.",
            "Let the control unit work the difference out, lead the regulator to the manifold, or scale the table by it.",
            limit=limit,
        )


@check("INJ-08", "/injectors/fed", "Which side is switched", source="a control unit sinks current: supply always on, ground switched")
def fed(w: Worked, say: Say) -> Iterator[Finding]:
    if w.build.injectors.fed == "constant_ground":
        yield say(
            "stop",
            "The injectors hang on ground all the time: the control unit's outputs can only pull to ground, so they never open.",
            "Feed one pin of each from a fuse, and lead the other to the control unit.",
        )
    else:
        yield say("sound", "A fused supply on one pin, the control unit switches the other to ground.")


@check(
    "INJ-09",
    "/injectors/outputs",
    "What each output feeds",
    source="outputs follow the firing order; each cylinder is fed once",
    rests=("/engine/firing_order", "/engine/layout", "/injectors/firing", "/wiring/unit/numbers"),
)
def outputs(w: Worked, say: Say) -> Iterator[Finding]:
    i, order = w.build.injectors, w.build.engine.firing_order
    if w.build.engine.layout == "throttle_body":
        return  # all feed one manifold: their order does not matter
    fed_by, said = [c for o in i.outputs for c in o.cylinders], w.build.wiring.unit.numbers
    if not i.outputs or not all(o.cylinders for o in i.outputs):
        wanted = "-".join(map(str, order))
        yield say("unknown" if i.firing == "sequential" else "note", "Which output feeds which cylinder is not stated.",
                  f"Sequential outputs follow the firing order {wanted}." if i.firing == "sequential" else "Each cylinder on one output.", settle="the wires followed from unit to injector")  # fmt: skip
    elif sorted(fed_by) != sorted(order):
        missing = sorted(set(order) - set(fed_by))
        told = (
            f"cylinder {missing[0]} is fed by none"
            if missing
            else f"cylinder {next(c for c in fed_by if fed_by.count(c) > 1)} is fed twice"
        )
        yield say("stop", f"The outputs do not feed each cylinder once: {told}.", "Follow the wires and mend the list or the loom.")
    elif i.firing == "sequential" and said == "not_read" and fed_by in (order, sorted(order)) and order != sorted(order):
        way, other = ("cylinder", "place in the firing order") if fed_by == sorted(order) else ("place in the firing order", "cylinder")
        yield say(
            "unknown",
            f"As wired it is fed in order by a unit that numbers its outputs by {way}, and half a turn off by one that numbers them by {other}.",
            "Look it up in the unit's own sheet.",
            at="/wiring/unit/numbers",
            settle="the unit's sheet",
        )
    elif i.firing == "sequential" and fed_by != (sorted(order) if said == "by_cylinder" else order):
        wanted = "by cylinder" if said == "by_cylinder" else "by place in the firing order"
        yield say(
            "stop",
            f"Outputs feed {'-'.join(map(str, fed_by))}, the engine fires {'-'.join(map(str, order))}, and the unit numbers its outputs {wanted}: fuel arrives half a turn early or late.",
            f"Swap the wires so that they feed {'-'.join(map(str, sorted(order) if said == 'by_cylinder' else order))}, or tell the control unit its order as wired.",
        )
    else:
        yield say("sound", "Each cylinder is fed once, in order.")
