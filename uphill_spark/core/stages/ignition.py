"""Ignition: dwell over voltage, whether it fits at the rev limit, which output fires which cylinders."""

from __future__ import annotations

from ..build import Build
from ..figures import Result, Spec
from ..physics.electric import dwell_time
from .engine import EngineResult, companions

DWELL_VOLTS = (8.0, 10.0, 12.0, 13.8, 16.0)
SPARK_TIME = 1.2e-3  # s, arc of an inductive coil
SINGLE_COIL = ("contact_points", "electronic_distributor", "capacitive_discharge", "timed_distributor")


class DwellRow(Result):
    volts: float
    dwell_s: float | None
    reached_a: float


class OutputRow(Result):
    """One output: what it should fire by the firing order, what it was said to fire, and when in the 720-degree cycle."""

    name: str
    proposed: list[int]
    wired: list[int] | None
    fires_deg: list[float]


class IgnitionResult(Result):
    dwell: list[DwellRow]
    period_limit_s: float
    gap_limit_s: float | None
    duty_limit: float | None
    energy_j: float
    coils: int
    average_current_a: float
    outputs: list[OutputRow]
    outputs_in_order: bool | None


def work_out(build: Build, engine: EngineResult) -> IgnitionResult:
    """Coil charge and order of fire."""
    g, coil, n = build.ignition, build.ignition.coil, build.engine.cylinders
    rev = build.engine.rev_limit.si
    coils, period = {"wasted_spark": ((n + 1) // 2 if n % 2 == 0 else n, 1 / rev), "coil_per_plug": (n, 2 / rev)}.get(
        g.kind, (1, 2 / (n * rev))
    )
    rows = [_dwell(v, coil.resistance.si, coil.inductance.si, coil.current.si) for v in DWELL_VOLTS]
    running = rows[DWELL_VOLTS.index(13.8)].dwell_s
    share = min(running / period, 1.0) if running is not None else 1.0
    outputs = _outputs(build)
    return IgnitionResult(
        dwell=rows,
        period_limit_s=period,
        gap_limit_s=period - running - SPARK_TIME if running is not None else None,
        duty_limit=running / period if running is not None else None,
        energy_j=coil.inductance.si * coil.current.si**2 / 2,
        coils=coils,
        average_current_a=coils * coil.current.si / 2 * share,
        outputs=outputs,
        outputs_in_order=_in_order(build, outputs),
    )


def _dwell(volts: float, resistance: float, inductance: float, current: float) -> DwellRow:
    return DwellRow(volts=volts, dwell_s=dwell_time(volts, resistance, inductance, current), reached_a=min(current, volts / resistance))


def proposed_outputs(build: Build) -> list[list[int]]:
    """Cylinders by output, in the order of firing."""
    order = build.engine.firing_order
    return companions(order) if build.ignition.kind == "wasted_spark" else [[c] for c in order]


def _outputs(build: Build) -> list[OutputRow]:
    order = build.engine.firing_order
    interval = 720.0 / len(order)
    wired = build.ignition.outputs
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
    wired = [sorted(o.cylinders) for o in build.ignition.outputs]
    if not wired:
        return None
    proposed = [sorted(r.proposed) for r in rows]
    if build.ignition.kind in SINGLE_COIL:
        return any(wired == proposed[k:] + proposed[:k] for k in range(len(proposed)))
    return wired == proposed


_COIL = ("/ignition/coil/resistance", "/ignition/coil/inductance", "/ignition/coil/current")


def _dwell_figure(volts: float) -> Spec:
    k = DWELL_VOLTS.index(volts)
    return Spec(
        f"ignition.dwell.{volts:g}V", "ms", f"Dwell at {volts:g} V", _COIL, "charge of an R-L circuit", lambda r: r.dwell[k].dwell_s
    )


FIGURES = (
    *(_dwell_figure(v) for v in DWELL_VOLTS),
    Spec("ignition.duty.limit", "1", "Charging share of a coil at the rev limit", (*_COIL, "/ignition/kind", "/engine/rev_limit", "/engine/cylinders", "/engine/firing_order"),
         "dwell over period", lambda r: r.duty_limit, share=True),
    Spec("ignition.gap.limit", "ms", "Time left after dwell and spark at the rev limit", ("ignition.duty.limit",), "period less dwell less 1.2 ms spark", lambda r: r.gap_limit_s),
    Spec("ignition.energy", "mJ", "Energy in a charged coil", _COIL, "L I^2 / 2", lambda r: r.energy_j),
    Spec("ignition.current.average", "A", "Average current of all coils at the rev limit", ("ignition.duty.limit",), "half of the charge current times duty", lambda r: r.average_current_a),
)  # fmt: skip
