"""INJ: large enough at the top, small enough at idle, matched to the driver."""

from __future__ import annotations

from collections.abc import Iterator

from ..stages.injectors import DUTY_HARD_LIMIT
from ..worked import Worked
from .base import Finding, Say, check

G_MIN = 6e4  # kg/s to g/min


@check(
    "INJ-01",
    "/injectors/flow",
    "Open share at full power",
    figure="injectors.duty.full",
    source="SAE J1832; above 85 % the last part is lost in closing",
)
def duty(w: Worked, say: Say) -> Iterator[Finding]:
    share, wanted = w.injectors.duty_full, w.build.injectors.duty_limit.si
    size = f"{w.injectors.window_low_kg_s * G_MIN:.0f} g/min rated"
    if share > 1.0:
        yield say(
            "stop",
            f"The injectors would have to be open {share:.0%} of the time: the engine goes lean.",
            f"Fit injectors of {size} or more.",
            limit=1.0,
        )
    elif share > DUTY_HARD_LIMIT:
        yield say(
            "sort_out",
            f"Open {share:.0%} of the time at full power; past 85 % flow stops following the pulse.",
            f"Fit injectors of {size} or more, or raise the pressure.",
            limit=DUTY_HARD_LIMIT,
        )
    elif share > wanted:
        yield say(
            "watch",
            f"Open {share:.0%} of the time at full power, more than the {wanted:.0%} wanted.",
            f"Fit injectors of {size} or more.",
            limit=wanted,
        )
    else:
        yield say("sound", f"Open {share:.0%} of the time at full power.", limit=wanted)


@check("INJ-02", "/injectors/flow", "Pulse at idle", figure="injectors.pulse.idle", source="effective pulse of 1.5 ms repeats well")
def idle(w: Worked, say: Say) -> Iterator[Finding]:
    ms = w.injectors.pulse_idle_s * 1e3
    if ms >= 1.5:
        yield say("sound", f"{ms:.2f} ms at idle is long enough to repeat.", limit=1.5)
        return
    way = "" if w.build.injectors.firing == "sequential" else " Fired once in two turns the pulse would be twice as long."
    yield say("watch" if ms >= 1.0 else "sort_out", f"{ms:.2f} ms at idle: opening and closing rule such a short pulse, so idle wanders.",
              f"Injectors of {w.injectors.window_high_kg_s * G_MIN:.0f} g/min rated or less would idle well.{way}", limit=1.5 if ms >= 1.0 else 1.0)  # fmt: skip


@check(
    "INJ-03", "/injectors/rated_at", "Figure to type in", figure="injectors.nominal", source="orifice: square root of pressure and density"
)
def nominal(w: Worked, say: Say) -> Iterator[Finding]:
    rated, here = w.injectors.flow_rated_kg_s * G_MIN, w.injectors.flow_nominal_kg_s * G_MIN
    if abs(here / rated - 1) < 0.005:
        yield say("sound", f"Rated and working figure agree: {here:.1f} g/min.")
    else:
        yield say("note", f"Rated {rated:.1f} g/min at {w.build.injectors.rated_at}; on {w.build.engine.fuel} at {w.build.fuel.regulator.set_pressure} it is {here:.1f} g/min.",
                  f"Type {here:.1f} g/min into the control unit.", limit=round(rated, 3))  # fmt: skip


@check(
    "INJ-04",
    "/injectors/driver",
    "Driver and coil resistance",
    figure="injectors.current.driver",
    source="Ohm's law; saturated drivers want 10 to 16 ohm",
)
def driver(w: Worked, say: Say) -> Iterator[Finding]:
    i = w.build.injectors
    ohms, amps, limit = i.resistance.si + i.ballast.si, w.injectors.driver_current_a, i.driver_limit.si
    if i.driver == "saturated" and amps > limit:
        ballast = 13.8 * i.per_driver / limit - i.resistance.si
        watts = (limit / i.per_driver) ** 2 * ballast
        yield say("stop", f"{amps:.1f} A through a driver good for {limit:.1f} A: {i.per_driver} of {ohms:.1f} Ω on one saturated driver burn it.",
                  f"Use peak-and-hold drivers, fewer on a driver, or a ballast of {ballast:.1f} Ω and {2 * watts:.0f} W for each.", limit=limit)  # fmt: skip
    elif i.driver == "peak_and_hold" and ohms > 8:
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
        yield say("watch", f"Dead time is assumed, and at idle it is {share:.0%} of the pulse: an error shows as mixture that is off at small pulses.",
                  "Enter the table from the injector's sheet, five voltages from 8 to 16 V.", settle="dead-time table")  # fmt: skip
    else:
        yield say("sound", f"Dead time is from a table of {len(w.build.injectors.dead_time)} voltages.")
