"""A rotary fuel pump with a permanent-magnet motor: fit to its sheet, and the point where it meets a system.

    Q = a V - b P - c        I = d + e P

Speed goes with voltage, leakage and torque with pressure (Fitzgerald, Kingsley, Umans: Electric Machinery, ch. 7).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..errors import NotConverged

Array = NDArray[np.float64]

#: Volts below which a pump gives nothing, used when its sheet holds one voltage only and `a` cannot be fitted.
DEAD_VOLTS = 4.0
#: Secant search: where it starts, as a share of the flow left over at no flow; how many steps; the misfit that counts as none, of the free flow.
_FIRST, _STEPS, _MISFIT = 0.9, 120, 1e-10


@dataclass(frozen=True, slots=True)
class PumpFit:
    """Coefficients in SI (m3/s, V, Pa, A), how well they fit, and how far the sheet reaches."""

    a: float
    b: float
    c: float
    d: float
    e: float
    residual: float  # largest misfit of flow over the largest flow listed
    highest_pressure: float
    assumed_voltage_slope: bool

    def flow(self, volts: float, pressure: float) -> float:
        """Flow [m3/s], below zero where the pump is past what it can hold."""
        return self.a * volts - self.b * pressure - self.c

    def current(self, pressure: float) -> float:
        """Current [A]."""
        return self.d + self.e * pressure


@dataclass(frozen=True, slots=True)
class OperatingPoint:
    """Where pump and system meet: flow [m3/s], outlet pressure [Pa], current [A], volts at the pump, and the misfit left over."""

    flow: float
    pressure: float
    current: float
    volts: float
    misfit: float


def volts_share(volts: float, listed_at: float) -> float:
    """What a pump gives of its listed flow at other volts [V], where nothing but that flow is known: it goes with the volts past the dead ones."""
    return max(volts - DEAD_VOLTS, 0.0) / max(listed_at - DEAD_VOLTS, 0.5)


def fit_pump(rows: Sequence[tuple[float, float, float, float]]) -> PumpFit:
    """Least squares on rows of (V, Pa, m3/s, A). Needs two pressures. With one voltage only, or with rows that
    say less flow for more volts, the slope with voltage is assumed.

    >>> fit = fit_pump([(13.5, 0.0, 6e-5, 3.0), (13.5, 3e5, 5e-5, 6.0), (10.0, 3e5, 3e-5, 6.0)])
    >>> round(fit.flow(13.5, 1.5e5) * 1e5, 3)
    5.5
    """
    v, p, q, i = (np.array(column, dtype=np.float64) for column in zip(*rows, strict=True))
    one = np.ones_like(v)
    assumed = float(np.ptp(v)) < 0.05
    a = b = c = 0.0
    if not assumed:
        coefficients, *_ = np.linalg.lstsq(np.column_stack([v, -p / 1e5, -one]), q, rcond=None)
        a, b, c = float(coefficients[0]), float(coefficients[1]) / 1e5, float(coefficients[2])
    if a <= 0.0:  # one voltage only, or rows that say a pump slows as volts rise
        assumed = True
        (q0, slope), *_ = np.linalg.lstsq(np.column_stack([one, p]), q, rcond=None)
        a = max(float(q0), 0.0) / max(float(v.mean()) - DEAD_VOLTS, 0.5)
        b, c = -float(slope), DEAD_VOLTS * a
    (d, e), *_ = np.linalg.lstsq(np.column_stack([one, p / 1e5]), i, rcond=None)
    misfit = np.abs(a * v - b * p - c - q)
    return PumpFit(
        a, max(b, 0.0), c, float(d), max(float(e) / 1e5, 0.0), float(misfit.max() / max(q.max(), 1e-12)), float(p.max()), assumed
    )


def operating_point(
    fit: PumpFit, supply_volts: float, circuit_ohms: float, outlet_pressure: Callable[[float], float], near: float | None = None
) -> OperatingPoint:
    """Where the pump meets a system whose outlet pressure [Pa] rises with flow [m3/s].

    The misfit falls steadily with flow: secant steps, kept inside a bracket that they narrow, from `near` if a flow is known that may be close. A pump
    that cannot hold the system's standing pressure gives a flow of zero. Raises NotConverged if the root does not meet 1e-9 of the free flow.
    """

    def meet(flow: float) -> OperatingPoint:
        pressure = outlet_pressure(flow)
        current = fit.current(pressure)
        if current * circuit_ohms > supply_volts:  # a stalled pump draws no more than its wire passes
            current = max(supply_volts, 0.0) / circuit_ohms
        volts = supply_volts - current * circuit_ohms
        return OperatingPoint(flow, pressure, current, volts, fit.flow(volts, pressure) - flow)

    free = fit.flow(supply_volts, 0.0)
    still = meet(0.0)
    if free <= 0.0 or still.misfit <= 0.0:
        return still
    low, high = still, None
    last = still
    flow = near if near is not None and near > 0.0 else still.misfit * _FIRST
    for _ in range(_STEPS):
        here = meet(flow)
        if abs(here.misfit) <= _MISFIT * free:
            return here
        if here.misfit > 0.0:
            low = here
        else:
            high = here
        fall = last.misfit - here.misfit
        step = here.misfit * (here.flow - last.flow) / fall if fall != 0.0 else 0.0
        last, flow = here, here.flow + step
        if high is None:  # a line that runs downhill pulls the pump past its free flow
            flow = min(max(flow, low.flow * 1.01), max(low.flow * 4, free))
        elif not low.flow < flow < high.flow:
            flow = (low.flow + high.flow) / 2
    if high is None:
        raise NotConverged("pump operating point: the system never stops the flow")
    raise NotConverged(f"pump operating point: misfit {last.misfit:.3g} m3/s after {_STEPS} steps")


SETTLED = 1e-7  # of the free flow: a draw that is nearer to its root goes no further


def operating_flows(surplus: Callable[[Array], Array], near: float, free: float, draws: int) -> Array:
    """Roots of a surplus of flow [m3/s] that falls with flow, for many draws at once; 0 where even no flow is too much.

    Secant steps from `near`, which settle in five or six where the surplus bends little; where they do not, all are halved
    down instead. Raises NotConverged if a draw does not meet 1e-6 of the free flow.
    """
    last = np.full(draws, max(near, 1e-3 * free))
    before = surplus(last)
    flow = np.maximum(last + 0.8 * before, 0.0)  # the surplus falls by the flow itself, and by what more flow costs in pressure
    now = surplus(flow)
    for _ in range(12):
        step = np.divide(now * (flow - last), now - before, out=np.zeros_like(now), where=np.abs(now - before) > 1e-30)
        last, before = flow, now
        flow = np.maximum(flow - step, 0.0)
        now = surplus(flow)
        if np.all((np.abs(now) <= SETTLED * free) | (flow == 0.0)):
            break
    if np.any((np.abs(now) > 1e-6 * free) & ~((flow == 0.0) & (now < 0.0))):
        low, high = np.zeros(draws), np.full(draws, 1e4 * free)  # a line that runs downhill pulls far past the free flow
        for _ in range(80):
            middle = (low + high) / 2
            more = surplus(middle) > 0.0
            low, high = np.where(more, middle, low), np.where(more, high, middle)
        flow, now = low, surplus(low)
        if np.any((np.abs(now) > 1e-6 * free) & ~((flow == 0.0) & (now <= 0.0))):
            raise NotConverged("pump operating points: some draws did not settle")
    return flow
