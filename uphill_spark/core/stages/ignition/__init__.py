"""Ignition: dwell over voltage, whether it fits at the rev limit, which output fires which cylinders."""

from __future__ import annotations

import math

from ...circuit.electric import RESTS_ON, Electric
from ...circuit.netlist import SINGLE_COIL, coils
from ...circuit.states import CHARGING_V
from ...figures import Result, Spec
from ...given import Build
from ...given.ignition import Output
from ...given.unit import Numbers
from ..engine import companions
from .charge import STAGE_DROP, coil_period, dwell, hot

DWELL_VOLTS = (8.0, 10.0, 12.0, CHARGING_V, 16.0)
RAMP_VOLTS = (8.0, 12.0, CHARGING_V)
RAMP_STEPS = 20
TIP_SPARE = 3.0  # degrees of the cap that a rotor's tip should cover over the sweep
SPARK_TIME = 1.2e-3  # s, arc of an inductive coil


class DwellRow(Result):
    """The coil at one battery voltage: dwell [s], share of the time at the rev limit, current reached [A]."""

    volts: float
    dwell_s: float | None
    reached_a: float


class OutputRow(Result):
    """One output: what it should fire by the firing order, what it was said to fire, and when in the 720-degree cycle."""

    name: str
    proposed: list[int]
    wired: list[int] | None
    fires_deg: list[float]


class Rotor(Result):
    """The rotor's tip under its post [deg of the cap, 0 where they face]: from least to most advance, half the tip, and how far off the best it is set."""

    least_deg: float
    most_deg: float
    half_tip_deg: float | None
    best_meets_deg: float
    covered: bool | None


class TimingRow(Result):
    """One look with the light: speed [rev/s], offset [deg, positive: earlier than told]."""

    speed_rev_s: float
    offset_deg: float


class RampPoint(Result):
    """Coil current [A] after a time [s] at 8, 12 and 13.8 V."""

    time_s: float
    amps: list[float]


class IgnitionResult(Result):
    """Coil, outputs, rotor, rev counter."""

    dwell: list[DwellRow]
    period_limit_s: float
    gap_limit_s: float | None
    duty_limit: float | None
    energy_j: float
    coils: int
    coil_volts: float
    average_current_a: float
    driver_heat_w: float
    outputs: list[OutputRow]
    outputs_in_order: bool | None
    order_fault: str
    numbers: Numbers
    typed_order: list[str]
    cylinders_on_time: int | None
    rotor: Rotor | None
    rotor_span_deg: float | None
    fit_deg: float | None
    timing: list[TimingRow]
    offset_deg: float | None
    drift_deg: float | None
    tach_pulses: float
    tach_reads: float | None
    ramp: list[RampPoint]
    ramp_volts: list[float]
    spark_time_s: float
    charging_dwell_s: float | None
    by_distributor: bool
    driven: bool


#: What this stage reads of the build.
READS = ("ignition", "engine.cylinders", "engine.firing_order", "engine.rev_limit", "wiring.unit.numbers")


def work_out(build: Build, circuit: Electric) -> IgnitionResult:
    """Coil charge, at the volts that the coils see at full power, and order of fire."""
    g, coil, n = build.ignition, build.ignition.coil, build.engine.cylinders
    period = coil_period(build, build.engine.rev_limit.si)
    rows = [
        DwellRow(volts=v, dwell_s=dwell(build, v), reached_a=min(coil.current.si, max(v - STAGE_DROP, 0.0) / hot(coil)))
        for v in DWELL_VOLTS
    ]
    volts = circuit.across("coils", "full")
    running = dwell(build, volts)
    share = min(running / period, 1.0) if running is not None else 1.0
    outputs = _outputs(build)
    return IgnitionResult(
        dwell=rows,
        period_limit_s=period,
        gap_limit_s=period - running - SPARK_TIME if running is not None else None,
        duty_limit=running / period if running is not None else None,
        energy_j=coil.inductance.si * coil.current.si**2 / 2,
        coils=coils(build),
        coil_volts=volts,
        average_current_a=circuit.drawn("coils", "full"),
        driver_heat_w=STAGE_DROP * coil.current.si / 2 * share,
        outputs=outputs,
        outputs_in_order=_in_order(build, outputs),
        order_fault=order_fault(build, outputs),
        numbers=numbered(build),
        typed_order=_typed_order(build),
        cylinders_on_time=_on_time(build, outputs),
        rotor=_rotor(build),
        rotor_span_deg=_rotor_span(build),
        fit_deg=_fit(build),
        timing=_timing(build),
        offset_deg=_offset(build),
        drift_deg=_drift(build),
        tach_pulses=n / 2,
        tach_reads=n / g.tach.set_for if g.tach and g.tach.set_for else None,
        ramp_volts=list(RAMP_VOLTS),
        spark_time_s=SPARK_TIME,
        charging_dwell_s=running,
        by_distributor=g.kind in SINGLE_COIL,
        driven=g.timed_by_unit,
        ramp=_ramp(build, max((row.dwell_s or 0.0 for row in rows), default=0.0)),
    )


def proposed_outputs(build: Build, numbers: Numbers | None = None) -> list[list[int]]:
    """Cylinders by output: in the order of firing, or of their own numbers where the unit numbers its outputs by cylinder. A cap always goes round in the order of firing."""
    order = build.engine.firing_order
    groups = companions(order) if build.ignition.kind == "wasted_spark" else [[c] for c in order]
    return sorted(groups, key=min) if (numbers or numbered(build)) == "by_cylinder" and build.ignition.kind not in SINGLE_COIL else groups


def numbered(build: Build) -> Numbers:
    """How the unit numbers its outputs: as its sheet says; where nobody has read it, the way that the wiring as it stands is right on, else by place."""
    said = build.wiring.unit.numbers
    if said != "not_read":
        return said
    return "by_cylinder" if _right_on(build) == {"by_cylinder"} else "by_place"


def _right_on(build: Build) -> set[Numbers]:
    """Ways of numbering outputs on which the wiring as it stands fires in order."""
    wired = [sorted(o.cylinders) for o in wired_outputs(build)]
    ways: tuple[Numbers, ...] = ("by_cylinder", "by_place")
    return {way for way in ways if wired and wired == [sorted(group) for group in proposed_outputs(build, way)]}


def _typed_order(build: Build) -> list[str]:
    """Names of the outputs in the order in which they have to fire for the wiring as it stands; empty where no order would do."""
    wired = {tuple(sorted(o.cylinders)): o.name for o in wired_outputs(build)}
    wanted = [tuple(sorted(group)) for group in proposed_outputs(build, "by_place")]
    return [wired[group] for group in wanted] if set(wired) == set(wanted) and build.ignition.kind not in SINGLE_COIL else []


def wired_outputs(build: Build) -> list[Output]:
    """What each output fires as it is wired: through the harness's letters where those were noted, else as was said."""
    g = build.ignition
    if not g.letters:
        return g.outputs
    names = [o.name for o in g.outputs] or list(dict.fromkeys(row.output for row in g.letters))
    by = {name: [c for row in g.letters if row.output == name for c in row.cylinders] for name in names}
    return [Output(name=name, cylinders=by[name][:2]) for name in names if by[name]]


def _outputs(build: Build) -> list[OutputRow]:
    order = build.engine.firing_order
    interval = 720.0 / len(order)
    wired = wired_outputs(build)
    rows = []
    for k, cylinders in enumerate(proposed_outputs(build)):
        given = wired[k] if k < len(wired) else None
        name = given.name if given else f"post {k + 1}" if build.ignition.kind in SINGLE_COIL else f"output {k + 1}"
        rows.append(
            OutputRow(
                name=name,
                proposed=cylinders,
                wired=given.cylinders if given else None,
                fires_deg=[order.index(c) * interval for c in cylinders],
            )
        )
    return rows


def _in_order(build: Build, rows: list[OutputRow]) -> bool | None:
    """Whether the outputs as wired fire in order; None when they were not stated. A cap may start at any post."""
    wired = [sorted(o.cylinders) for o in wired_outputs(build)]
    if not wired or not all(wired):
        return None
    proposed = [sorted(r.proposed) for r in rows]
    if build.ignition.kind in SINGLE_COIL:
        return any(wired == proposed[k:] + proposed[:k] for k in range(len(proposed)))
    if build.wiring.unit.numbers == "not_read":
        ways = _right_on(build)
        return None if len(ways) == 1 else bool(ways)  # right on one way of numbering and wrong on the other: the sheet decides
    return wired == proposed


def order_fault(build: Build, rows: list[OutputRow]) -> str:
    """What kind of mistake a wrong order is, in words; empty where it is right or not known."""
    if _in_order(build, rows) is not False:
        return ""
    n = build.engine.cylinders
    wired = [sorted(o.cylinders) for o in wired_outputs(build)]
    proposed = [sorted(r.proposed) for r in rows]
    if len(wired) == len(proposed):
        mirrored = [sorted(n + 1 - c for c in cylinders) for cylinders in wired]
        if mirrored == proposed:
            return "the letters run from the other end of the engine"
        by_place = numbered(build) == "by_place"
        if by_place and wired == proposed[::-1]:
            return "the outputs run backwards through the firing order"
        for k in range(1, len(proposed) if by_place else 0):
            if wired == proposed[k:] + proposed[:k]:
                return f"every output is {k} late: each spark comes {720 * k // len(proposed) if len(proposed) == n else 360 * k // len(proposed)} degrees off"
    if sorted(c for cylinders in wired for c in cylinders) == sorted(range(1, n + 1)):
        wrong = [r.name for r, w in zip(rows, wired, strict=False) if sorted(r.proposed) != w]
        return f"{' and '.join(wrong)} are changed over" if len(wrong) == 2 else "the outputs are mixed up"
    left = sorted(set(range(1, n + 1)) - {c for cylinders in wired for c in cylinders})
    return f"cylinder {left[0]} has no spark" if left else "an output fires a cylinder twice"


def _on_time(build: Build, rows: list[OutputRow]) -> int | None:
    """How many cylinders get their spark when they should; None where the wiring is not known."""
    wired = wired_outputs(build)
    if not wired:
        return None
    proposed = [set(r.proposed) for r in rows]
    if build.ignition.kind in SINGLE_COIL and wired:  # the cap may start at any post: the best start counts
        return max(
            sum(len(set(w.cylinders) & p) for w, p in zip(wired, proposed[k:] + proposed[:k], strict=False)) for k in range(len(proposed))
        )
    return sum(len(set(w.cylinders) & p) for w, p in zip(wired, proposed, strict=False))


def _rotor(build: Build) -> Rotor | None:
    """The tip against the post while the unit sweeps its advance: the rotor does not move with it."""
    d, g = build.ignition.distributor, build.ignition
    if d is None or g.kind != "timed_distributor" or not g.timed_by_unit:
        return None
    best = (d.advance_least.si + d.advance_most.si) / 2
    meets = d.meets.si if d.meets is not None else best
    least, most = (meets - d.advance_least.si) / 2, (meets - d.advance_most.si) / 2
    half = d.rotor_tip.si / 2 if d.rotor_tip else None
    covered = None if half is None or d.meets is None else max(abs(least), abs(most)) + TIP_SPARE / 2 <= half
    return Rotor(least_deg=least, most_deg=most, half_tip_deg=half, best_meets_deg=best, covered=covered)


def _fit(build: Build) -> float | None:
    """Crank degrees before top at which the distributor goes in with its rotor at number one's post: mid-sweep, or the advance that it has at rest."""
    g = build.ignition
    if g.kind not in SINGLE_COIL:
        return None
    rotor = _rotor(build)
    if rotor is not None:
        return rotor.best_meets_deg
    return g.distributor.advance_least.si if g.distributor else None


def _rotor_span(build: Build) -> float | None:
    """Degrees of the cap over which the spark jumps."""
    d, g = build.ignition.distributor, build.ignition
    return (d.advance_most.si - d.advance_least.si) / 2 if d and g.kind == "timed_distributor" and g.timed_by_unit else None


def _timing(build: Build) -> list[TimingRow]:
    rows = [
        TimingRow(speed_rev_s=r.speed.si, offset_deg=r.observed.si - r.commanded.si)
        for r in build.ignition.timing
        if r.speed is not None and r.observed is not None and r.commanded is not None
    ]
    return sorted(rows, key=lambda r: r.speed_rev_s)


def _offset(build: Build) -> float | None:
    """How far the light is off at the lowest speed looked at [deg, positive: earlier than told]."""
    rows = _timing(build)
    return rows[0].offset_deg if rows else None


def _drift(build: Build) -> float | None:
    """Change of the offset [deg in 1,000 rpm], a straight line through the looks; None where their speeds lie within 500 rpm."""
    rows = _timing(build)
    if len(rows) < 2 or (rows[-1].speed_rev_s - rows[0].speed_rev_s) * 60 < 500:
        return None
    speeds = [r.speed_rev_s * 60 / 1000 for r in rows]
    mean, off = sum(speeds) / len(speeds), sum(r.offset_deg for r in rows) / len(rows)
    spread = sum((x - mean) ** 2 for x in speeds)
    return sum((x - mean) * (r.offset_deg - off) for x, r in zip(speeds, rows, strict=True)) / spread


def _ramp(build: Build, longest: float) -> list[RampPoint]:
    """The coil's current as it charges, at three voltages, for drawing."""
    coil = build.ignition.coil
    ohms = hot(coil)
    end = max(longest, coil.inductance.si / ohms) * 1.1
    return [
        RampPoint(time_s=t, amps=[max(v - STAGE_DROP, 0.0) / ohms * (1 - math.exp(-t * ohms / coil.inductance.si)) for v in RAMP_VOLTS])
        for t in (end * k / RAMP_STEPS for k in range(RAMP_STEPS + 1))
    ]  # fmt: skip


_COIL = ("/ignition/coil/resistance", "/ignition/coil/inductance", "/ignition/coil/current")
#: What the unit does not drive has no dwell of ours.
_DRIVEN = (*_COIL, "/ignition/timed_by_unit")


def _share(r: IgnitionResult) -> float | None:
    """Share of the time at the rev limit that charging takes: all of it for a coil that never gets there."""
    return None if not r.driven else 1.0 if r.duty_limit is None else r.duty_limit


def _dwell_figure(volts: float) -> Spec:
    k = DWELL_VOLTS.index(volts)
    return Spec(
        f"ignition.dwell.{volts:g}V",
        "ms",
        f"Dwell at {volts:g} V",
        _DRIVEN,
        "charge of an R-L circuit, hot coil, driver's drop",
        lambda r: r.dwell[k].dwell_s if r.driven else None,
    )


FIGURES = (
    *(_dwell_figure(v) for v in DWELL_VOLTS),
    Spec("ignition.duty.limit", "1", "Charging share of a coil at the rev limit", (*_COIL, *RESTS_ON, "/engine/rev_limit", "/engine/cylinders", "/engine/firing_order"),
         "dwell over period", _share, share=True),
    Spec("ignition.gap.limit", "ms", "Time left after dwell and spark at the rev limit", ("ignition.duty.limit",), "period less dwell less 1.2 ms spark", lambda r: r.gap_limit_s if r.driven else None),
    Spec("ignition.energy", "mJ", "Energy in a charged coil", _COIL, "L I^2 / 2", lambda r: r.energy_j),
    Spec("ignition.driver.heat", "W", "Heat in each power stage at the rev limit", ("ignition.duty.limit",), "1.5 V times average current", lambda r: r.driver_heat_w if r.driven else None),
    Spec("ignition.rotor.span", "deg", "Spark sweeps over the rotor's tip by, degrees of the cap", ("/ignition/distributor", "/ignition/kind", "/ignition/timed_by_unit"),
         "half of the advance that is used", lambda r: r.rotor_span_deg),
    Spec("ignition.offset", "deg", "Light against the locked angle, lowest speed", ("/ignition/timing",), "observed less commanded", lambda r: r.offset_deg),
    Spec("ignition.drift", "deg", "Light drifts in 1,000 rpm by", ("/ignition/timing",), "straight line through the looks", lambda r: r.drift_deg),
    Spec("ignition.tach.pulses", "1", "Pulses of the rev counter in a turn", ("/engine/cylinders", "/engine/firing_order"), "half the cylinders", lambda r: r.tach_pulses),
    Spec("ignition.current.average", "A", "Average current of all coils at the rev limit", ("ignition.duty.limit",), "half of the charge current times duty", lambda r: r.average_current_a),
)  # fmt: skip
