"""The open part of a cycle: what leaves by the exhaust, what comes in by the inlet, from one opening of the exhaust to the next.

The cylinder and the port before its inlet are filled and emptied through valves (Heywood, ch. 14.3); the gas in the tract before the port has inertia (a lumped
Helmholtz resonator: Engelman's tuning), fed by a plenum at a held pressure or, with one throttle a cylinder, by the volume behind the plate. What the cylinder
pushes back into the port comes in again first. Mass and energy are kept step by step.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..network import Array
from .burn import EXCHANGE, WOSCHNI
from .gas import BURNED, CV, GAMMA, UNBURNED, R, energy, through
from .geometry import BACKWARD, INWARD, Cylinder

STEP = 0.5  # deg
EVENS = 0.9  # of what would bring two volumes to one pressure, the most that passes in a step
PORT_SHARE = 0.5  # of the tract's volume that yields like a spring; the rest is what has inertia
RUBS = 0.04  # dynamic heads that a tract loses for each of its own diameters
MOUTH = 0.4  # dynamic heads lost where it begins


@dataclass(frozen=True, slots=True)
class Around:
    """What is about a cylinder, by lane: revolutions [1/s], pressure [Pa] and temperature [K] before the tract, behind the exhaust; the plate's area [m2] and the air
    before it [Pa] where each cylinder has its own, with the volume [m3] behind it."""

    rev_s: Array
    manifold_pa: Array
    charge_k: Array
    exhaust_pa: Array
    exhaust_k: Array
    wall_k: float
    plate_m2: Array | None = None
    outside_pa: float = 0.0
    behind_m3: float = 0.0


@dataclass(slots=True)
class State:
    """Cylinder and port, by lane: mass [kg], energy [J], what of it is burned [kg]; flow in the tract [kg/s]; what was pushed out of the port into the tract (kg, J, kg burned);
    gas behind the plate [kg]."""

    mass: Array
    energy: Array
    burned: Array
    port_mass: Array
    port_energy: Array
    port_burned: Array
    flow: Array
    pushed: Array
    pushed_energy: Array
    pushed_burned: Array
    behind: Array


@dataclass(frozen=True, slots=True)
class Exchanged:
    """What passed in a cycle, by lane: kg in by the inlet and out by the exhaust (net), fresh kg that came in, work on the piston while it was open [J], mean temperature of
    what left [K], heat to the walls [J], energy in and out [J], mean pressure behind the plate [Pa]; the cylinder when the inlet shut (kg, K, share burned)."""

    inlet: Array
    exhaust: Array
    fresh: Array
    work: Array
    exhaust_k: Array
    lost: Array
    energy_in: Array
    energy_out: Array
    behind_pa: Array
    trapped: Array
    trapped_k: Array
    residual: Array


def temperature(energy_j: Array, mass: Array, burned: Array, gases: tuple[CV, CV]) -> Array:
    """Temperature [K] of so much gas with so much energy: the root of its quadratic."""
    (a0, b0), (a1, b1) = gases
    x = burned / mass
    a, b = a0 + (a1 - a0) * x, b0 + (b1 - b0) * x
    e = np.maximum(energy_j / mass, 1e3)
    return np.asarray(2 * e / (a + np.sqrt(a * a + 2 * b * e)), dtype=np.float64)


def begin(cylinder: Cylinder, around: Around, gases: tuple[CV, CV] = (UNBURNED, BURNED)) -> State:
    """A port at rest, no cylinder yet."""
    volume = PORT_SHARE * cylinder.tract_area * cylinder.tract_length
    nought = np.zeros_like(around.rev_s)
    mass = around.manifold_pa * volume / (R * around.charge_k)
    return State(
        nought,
        nought,
        nought,
        mass,
        mass * energy(around.charge_k, nought, gases),
        nought.copy(),
        nought.copy(),
        nought.copy(),
        nought.copy(),
        nought.copy(),
        around.manifold_pa * around.behind_m3 / (R * around.charge_k),
    )


def exchange(
    cylinder: Cylinder,
    around: Around,
    state: State,
    *,
    gases: tuple[CV, CV] = (UNBURNED, BURNED),
    heat_scale: float = 1.0,
    step: float = STEP,
) -> Exchanged:
    """One cycle's exchange in steps of so many degrees [deg], `state` carried along in place: the cylinder as it stands when the exhaust opens, and the port's own motion to the
    next time that it does. `heat_scale` (1: Woschni's) scales the heat to the walls."""
    start, shuts = cylinder.exhaust.opens, cylinder.inlet.shuts
    n = int(np.ceil(np.max((shuts - start) / step)))
    degrees = np.linspace(start, shuts, n + 1)
    middle = (degrees[1:] + degrees[:-1]) / 2
    volume, walls = cylinder.volume(degrees), cylinder.walls(middle)
    inlet, outlet = cylinder.inlet.area(middle), cylinder.exhaust.area(middle)
    lets_out, lets_in = (np.any((area > 0).reshape(n, -1), axis=1).tolist() for area in (outlet, inlet))
    dt = (degrees[1] - degrees[0]) / 360.0 / around.rev_s
    port_m3 = PORT_SHARE * cylinder.tract_area * cylinder.tract_length
    inertia = cylinder.tract_length / cylinder.tract_area
    loss = (MOUTH + RUBS * cylinder.tract_length / np.sqrt(4 * cylinder.tract_area / np.pi)) / (2 * cylinder.tract_area**2)
    film = heat_scale * WOSCHNI * cylinder.bore**-0.2 * (EXCHANGE * cylinder.piston_speed(around.rev_s)) ** 0.8
    h_in = energy(around.charge_k, np.zeros_like(dt), gases) + R * around.charge_k
    s = state
    total = {key: np.zeros_like(dt) for key in ("inlet", "exhaust", "fresh", "work", "lost", "in", "out", "hot", "left", "behind")}

    def tract(port_pa: Array, port_k: Array, seconds: Array) -> Array:
        """The tract's gas a step on; what it brings into the port, or takes from it, is done here. Returns energy that came in [J]."""
        if around.plate_m2 is None:
            before = around.manifold_pa
        else:
            before = s.behind * R * around.charge_k / around.behind_m3
            ahead = around.outside_pa * np.ones_like(before)
            inwards = before <= ahead
            swing = EVENS * np.abs(ahead - before) * around.behind_m3 / (GAMMA * R * around.charge_k) / seconds
            passed = np.minimum(through(around.plate_m2, np.maximum(ahead, before), around.charge_k, np.minimum(ahead, before)), swing)
            passed = np.where(inwards, passed, -passed)
            s.behind = np.maximum(s.behind + (passed - s.flow) * seconds, 1e-9)
            total["behind"] += before * seconds
        density = before / (R * around.charge_k)
        drag = 1 + loss * np.abs(s.flow) / density / inertia * seconds
        if (
            around.plate_m2 is not None
        ):  # between two small volumes the gas swings faster than a step: what it will change of both counts as well
            drag = drag + seconds**2 / inertia * R * (around.charge_k / around.behind_m3 + GAMMA * port_k / port_m3)
        s.flow = (s.flow + (before - port_pa) / inertia * seconds) / drag
        moved = np.maximum(s.flow * seconds, -0.5 * s.port_mass)
        inwards, out = np.maximum(moved, 0.0), np.maximum(-moved, 0.0)
        again = np.minimum(inwards, s.pushed)  # what was pushed out of the port comes back before anything fresh
        there = np.maximum(s.pushed, 1e-12)
        again_x, again_h = s.pushed_burned / there, s.pushed_energy / there
        x = s.port_burned / s.port_mass
        h_out = energy(port_k, x, gases) + R * port_k
        came = (inwards - again) * h_in + again * again_h - out * h_out
        s.pushed = s.pushed + out - again
        s.pushed_burned = np.maximum(s.pushed_burned + out * x - again * again_x, 0.0)
        s.pushed_energy = np.maximum(s.pushed_energy + out * h_out - again * again_h, 0.0)
        s.port_energy = s.port_energy + came
        s.port_burned = np.maximum(s.port_burned + again * again_x - out * x, 0.0)
        s.port_mass = s.port_mass + moved
        return np.asarray(came, dtype=np.float64)

    for i in range(n):
        x, port_x = s.burned / s.mass, s.port_burned / s.port_mass
        t = temperature(s.energy, s.mass, s.burned, gases)
        port_k = temperature(s.port_energy, s.port_mass, s.port_burned, gases)
        p, port_pa = s.mass * R * t / volume[i], s.port_mass * R * port_k / port_m3
        grown = volume[i + 1] - volume[i]
        wall = film * (p / 1e3) ** 0.8 * t**-0.55 * walls[i] * (t - around.wall_k) * dt
        work = p * grown * (1 - 0.7 * grown / volume[i])
        out_m = np.zeros_like(dt)
        gained = -wall - work
        hot = t
        if lets_out[i]:
            leaving = p >= around.exhaust_pa
            swing = EVENS * np.abs(p - around.exhaust_pa) * volume[i] / (GAMMA * R * t)  # what brings both sides to one pressure
            out_m = np.where(
                leaving,
                np.minimum(dt * through(outlet[i] * INWARD, p, t, around.exhaust_pa), swing),
                -np.minimum(dt * through(outlet[i] * BACKWARD, around.exhaust_pa, around.exhaust_k, p), swing),
            )
            hot = np.where(leaving, t, around.exhaust_k)
            out_x = np.where(leaving, x, 1.0)
            carried = out_m * (energy(hot, out_x, gases) + R * hot)
            gained = gained - carried
            s.burned = s.burned - out_m * out_x
            total["exhaust"] += out_m
            total["out"] += carried
            total["hot"] += np.maximum(out_m, 0.0) * t
            total["left"] += np.maximum(out_m, 0.0)
        in_m = np.zeros_like(dt)
        if lets_in[i]:
            coming = port_pa >= p
            k = np.where(coming, port_k, t)
            swing = EVENS * np.abs(port_pa - p) / (GAMMA * R * k * (1 / volume[i] + 1 / port_m3))
            in_m = np.where(
                coming,
                np.minimum(dt * through(inlet[i] * INWARD, port_pa, k, p), swing),
                -np.minimum(dt * through(inlet[i] * BACKWARD, p, k, port_pa), swing),
            )
            in_x = np.where(coming, port_x, x)
            carried = in_m * (energy(k, in_x, gases) + R * k)
            gained = gained + carried
            s.burned = s.burned + in_m * in_x
            s.port_energy, s.port_burned, s.port_mass = (
                s.port_energy - carried,
                np.maximum(s.port_burned - in_m * in_x, 0.0),
                s.port_mass - in_m,
            )
            total["inlet"] += in_m
            total["fresh"] += in_m * (1 - in_x)
        s.mass, s.energy = s.mass + in_m - out_m, s.energy + gained
        s.burned = np.clip(s.burned, 0.0, s.mass)
        total["work"] += work
        total["lost"] += wall
        total["in"] += tract(port_pa, port_k, dt)
    trapped = s.mass.copy()
    trapped_k, residual = temperature(s.energy, s.mass, s.burned, gases), s.burned / s.mass
    rest = int(np.ceil(np.max((start + 720 - shuts) / (2 * step))))  # both valves shut: the port's gas alone swings on
    seconds = (start + 720 - shuts) / rest / 360.0 / around.rev_s
    for _ in range(rest):
        port_k = temperature(s.port_energy, s.port_mass, s.port_burned, gases)
        total["in"] += tract(s.port_mass * R * port_k / port_m3, port_k, seconds)
    cycle = 2 / around.rev_s
    return Exchanged(
        inlet=total["inlet"], exhaust=total["exhaust"], fresh=total["fresh"], work=total["work"], exhaust_k=total["hot"] / np.maximum(total["left"], 1e-12), lost=total["lost"],
        energy_in=total["in"], energy_out=total["out"], behind_pa=total["behind"] / cycle if around.plate_m2 is not None else around.manifold_pa, trapped=trapped,
        trapped_k=trapped_k, residual=residual,
    )  # fmt: skip
