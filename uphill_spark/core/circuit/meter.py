"""A meter on the harness: volts, ohms and amps between any two terminals, in any position of the key, with the control unit's plug on or off, whole or with a fault in it.

The harness in one state is held as the inverse of its conductances; a fault is a change of a few of them (Woodbury's identity), and the loads find their
volts anew (Newton). A voltmeter draws through its own resistance, so that a wire that hangs in the air reads nothing, as it does on the car.
"""

from __future__ import annotations

import copy
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ..errors import NotConverged
from ..figures import Result
from ..physics.network import LEAK, LEAST_OHMS, Array, Source
from ..reference import devices
from .branches import FIVE, on
from .electric import Electric
from .holding import holding, let_go
from .joints import FIELD_OHM
from .netlist import BLOCK, MINUS, PLUS, terminal_name
from .states import ORDER, STATES, SYSTEM_VOLTS, TIRED_V, KeyState

METER_OHM = 10e6  # ohm, of a usual digital voltmeter
OPEN_OHM = 1e6  # ohm, from which on an ohmmeter shows that the way is open
RINGS = 30.0  # ohm, under which a buzzer sounds: it proves a path, and nothing of what the path can carry
_ROUNDS, _ALL_AT_ONCE = 60, 12
_KNEE = 3.0  # V, under which a motor draws less and less
UNIT = "unit."
_LEFT = 1e-12  # of its conductance, that a contact keeps when it opens
_RUN_BY_THEMSELVES = ("pump", "lift", "fan", "oxygen_heater")  # loads that draw whenever they get volts

SHUNT_OHM, METER_FUSE_A = 0.01, 10.0  # inside a meter that is set to amps, and the fuse that goes where it is put across a battery

Quantity = Literal["volts", "ohms", "amps"]


class Reading(Result):
    """What a meter shows: volts [V] of red against black, ohms between them, or amps [A] through it; None where the way is open or its fuse goes. `says` tells it
    in words, `proves` what that proves."""

    red: str
    black: str
    state: KeyState
    quantity: Quantity
    plugged: bool
    value: float | None
    says: str
    proves: str


class Change(NamedTuple):
    """A conductance [S] more (or less) between two terminals; `joint` is the joint that it is taken from, if it is one's."""

    a: str
    b: str
    conductance: float
    joint: str | None = None


@dataclass(frozen=True, slots=True)
class _Load:
    """A load as it was found in balance: its current [A], the volts under which that falls away, where it is connected."""

    key: str
    plus: str
    minus: str
    amps: float
    knee: float
    resistive: bool


class _Solved(NamedTuple):
    """Potentials [V], the inverse of the conductances that led to them, impedances between loads, and slopes [A/V] of the loads that follow their volts."""

    u: Array
    inverse: Array
    z: Array
    slope: Array


class Live:
    """The harness in one state of the key. `plugged` is whether the control unit's plug is on. Raises KeyError for a terminal that is not there."""

    def __init__(self, electric: Electric, state: KeyState, *, plugged: bool = True) -> None:
        self.electric, self.state, self.plugged = electric, state, plugged
        k = ORDER.index(state)
        rows = [(key, b) for key, b in electric.branches if b.closed[k] and (plugged or not _inside(key, b.a, b.b))]
        self.ohms = {key: max(b.ohms, LEAST_OHMS) for key, b in rows}
        self.ends = {key: (b.a, b.b) for key, b in rows}
        self.loads = self._loads(k)
        self.feeds = [s for s in electric.sources if s.on[k] and (plugged or not s.plus.startswith(UNIT))]
        self._held = [h for h in holding(electric.netlist) if on(h.when)[k] and (h.joint in self.ends or (h.joint == FIVE and plugged))]
        names = dict.fromkeys(
            [*electric.held, *(n for _, b in rows for n in (b.a, b.b)), *(n for s in self.feeds for n in (s.plus, s.minus)), *(n for x in self.loads for n in (x.plus, x.minus)), *electric.solution.nodes]
        )  # fmt: skip
        self.nodes = {name: i for i, name in enumerate(names)}
        self._fixed = np.array([v[k] for v in electric.held.values()])
        g, self._drive = self._conductances()
        f = len(self._fixed)
        self._inverse = np.asarray(np.linalg.inv(g[f:, f:]), dtype=np.float64)
        self._from_held = g[f:, :f]
        self._pull = self._from_held @ self._fixed

    @cached_property
    def uncharged(self) -> Live:
        """The same with an alternator that gives nothing: a tired battery alone is behind the posts while the engine runs."""
        if STATES[self.state].engine in ("still", "cranking"):
            return self
        found = copy.copy(self)
        found._fixed = np.minimum(self._fixed, TIRED_V)
        found.feeds = [s for s in self.feeds if s.plus != PLUS]
        found._drive = self._driven(found.feeds)
        found._pull = self._from_held @ found._fixed
        return found

    def _conductances(self) -> tuple[Array, Array]:
        n = len(self.nodes)
        g = np.zeros((n, n))
        for key, (a, b) in self.ends.items():
            _stamp(g, self.nodes[a], self.nodes[b], 1 / self.ohms[key])
        for s in self.feeds:
            _stamp(g, self.nodes[s.plus], self.nodes[s.minus], 1 / s.ohms)
        g[np.arange(n), np.arange(n)] += LEAK
        return g, self._driven(self.feeds)

    def _loads(self, k: int) -> list[_Load]:
        """What may draw here: what is on, and what would run if something that is off were stuck on."""
        found = []
        solution = self.electric.solution
        for load in self.electric.netlist.loads:
            j = self.electric.loads.get(load.key)
            if j is None or not (self.plugged or not load.plus.startswith(UNIT)):
                continue
            data = devices().load[load.kind]
            here = k
            if solution.amps[k, j] <= 0 and load.kind in _RUN_BY_THEMSELVES and not load.plus.startswith(UNIT):
                here = int(np.argmax(solution.amps[:, j]))
            amps, volts = float(solution.amps[here, j]), float(solution.volts[here, j])
            if amps <= 0:
                continue
            resistive = data.law in ("injectors", "coils")  # what they draw follows what they get
            knee = volts if resistive else (data.knee or _KNEE)
            share = min(volts / knee, 1.0) if knee > 0 else 1.0
            found.append(_Load(load.key, load.plus, load.minus, amps / max(share, 1e-6), max(knee, 1e-3), resistive))
        return found

    @cached_property
    def _incidence(self) -> Array:
        p = np.zeros((len(self.nodes), len(self.loads)))
        for j, load in enumerate(self.loads):
            p[self.nodes[load.plus], j] += 1.0
            p[self.nodes[load.minus], j] -= 1.0
        return p

    def potentials(self, changes: Sequence[Change] = ()) -> Array:
        """Potential [V] of every terminal, by its number in `nodes`, with some conductances changed."""
        return self._solved(changes).u

    def _solved(self, changes: Sequence[Change]) -> _Solved:
        """Loads in balance; what is then not held shut lets go, until nothing more does."""
        gone: set[str] = set()
        while True:
            found = self._balanced([*changes, *self._let_go(changes, gone)], five=FIVE not in gone)
            u = found.u
            more = let_go(self._held, self.state, lambda a, b: float(u[self.nodes[a]] - u[self.nodes[b]])) - gone  # noqa: B023
            if not more:
                return found
            gone |= more

    def _let_go(self, changes: Sequence[Change], gone: Iterable[str]) -> Iterator[Change]:
        """Contacts that open: what is left of their conductance is taken away."""
        for joint in gone:
            if joint == FIVE:
                for s in self._five:
                    yield Change(s.plus, s.minus, -(1 - _LEFT) / s.ohms)
                continue
            left = 1 / self.ohms[joint] + sum(c.conductance for c in changes if c.joint == joint)
            yield Change(*self.ends[joint], -left * (1 - _LEFT), joint)

    def _balanced(self, changes: Sequence[Change], *, five: bool) -> _Solved:
        inverse, drive = self._changed(changes)
        f = len(self._fixed)
        if not five:
            drive = drive - self._driven(self._five)[f:]
        u0, p = inverse @ drive, self._incidence[f:]
        reach = inverse @ p
        z = p.T @ reach
        amps, slope = self._settled(self._fixed @ self._incidence[:f] + u0 @ p, z)
        u: Array = np.concatenate([self._fixed, u0 - reach @ amps])
        return _Solved(u, inverse, z, slope)

    @property
    def _five(self) -> list[Source]:
        return [s for s in self.feeds if s.plus.startswith(UNIT)]

    def _driven(self, feeds: Sequence[Source]) -> Array:
        drive = np.zeros(len(self.nodes))
        for s in feeds:
            drive[self.nodes[s.plus]] += s.volts / s.ohms
            drive[self.nodes[s.minus]] -= s.volts / s.ohms
        return drive

    def _settled(self, open_v: Array, z: Array) -> tuple[Array, Array]:
        """What the loads draw [A], and their slopes [A/V], behind open volts and impedances: each holds its current above its knee and follows its volts below it. Which do which is
        found by trying: all follow at first, those that come out above their knee hold, until none changes."""
        if not self.loads:
            return np.zeros(0), np.zeros(0)
        most, knee = np.array([x.amps for x in self.loads]), np.array([x.knee for x in self.loads])
        follows = np.array([x.resistive for x in self.loads], dtype=bool)
        eye, slope = np.eye(len(self.loads)), most / knee
        sign = np.zeros(len(self.loads))
        for tries in range(_ROUNDS):
            holds = sign != 0
            volts = np.linalg.solve(eye + z * np.where(holds, 0.0, slope)[None, :], open_v - z @ (most * sign))
            wanted = np.where(follows, 0.0, np.where(volts >= knee, 1.0, np.where(volts <= -knee, -1.0, 0.0)))
            wrong = np.flatnonzero(wanted != sign)
            if not len(wrong):
                amps, leads = np.where(holds, most * sign, slope * volts), np.where(holds, 0.0, slope)
                return amps.astype(np.float64), leads.astype(np.float64)
            if tries < _ALL_AT_ONCE:
                sign = wanted
            else:  # two that push each other to and fro are turned one by one, the one that is farthest off first
                worst = wrong[int(np.argmax(np.abs(np.abs(volts[wrong]) / knee[wrong] - 1)))]
                sign[worst] = wanted[worst]
        raise NotConverged(f"harness with a fault in it: not settled after {_ROUNDS} rounds")

    def _changed(self, changes: Sequence[Change]) -> tuple[Array, Array]:
        """The inverse of the conductances between free terminals, and what drives them, with some changed (Woodbury)."""
        f = len(self._fixed)
        drive = self._drive[f:] - self._pull
        if not changes:
            return self._inverse, np.asarray(drive, dtype=np.float64)
        n = len(self.nodes)
        columns = np.zeros((n, len(changes)))
        for j, change in enumerate(changes):
            columns[self.nodes[change.a], j] += 1.0
            columns[self.nodes[change.b], j] -= 1.0
        by = np.array([c.conductance for c in changes])
        drive = drive - columns[f:] @ (by * (columns[:f].T @ self._fixed))
        free = columns[f:]
        reach = self._inverse @ free
        inner = np.diag(1 / by) + free.T @ reach
        return np.asarray(self._inverse - reach @ np.linalg.solve(inner, reach.T), dtype=np.float64), np.asarray(drive, dtype=np.float64)

    def metered(self, changes: Sequence[Change] = ()) -> Array:
        """What a voltmeter with its black lead on battery minus shows [V] on every terminal, by its number in `nodes`: less than the potential where next to nothing stands behind it."""
        found = self._solved(changes)
        f = len(self._fixed)
        behind = np.diagonal(found.inverse).copy()
        soft = np.flatnonzero(found.slope)
        if len(soft):
            near = found.inverse @ self._incidence[f:][:, soft]
            behind -= ((near @ _softened(found, soft)) * near).sum(axis=1)
        shown = found.u.copy()
        shown[f:] *= METER_OHM / (METER_OHM + np.maximum(behind, 0.0))
        return shown

    def volts(self, red: str, black: str, changes: Sequence[Change] = ()) -> float:
        """What a voltmeter shows [V]: red against black, through its own resistance."""
        found = self._solved(changes)
        f = len(self._fixed)
        a, b = self.nodes[red], self.nodes[black]
        lead = np.zeros(len(self.nodes))
        lead[a] += 1.0
        lead[b] -= 1.0
        through = found.inverse @ lead[f:]
        behind = float(lead[f:] @ through)
        soft = np.flatnonzero(found.slope)
        if len(soft):
            near = self._incidence[f:][:, soft].T @ through
            behind -= float(near @ _softened(found, soft) @ near)
        return float((found.u[a] - found.u[b]) * METER_OHM / (METER_OHM + max(behind, 0.0)))


def _softened(found: _Solved, soft: NDArray[np.intp]) -> Array:
    """What loads that follow their volts lead besides, as seen through the impedances between them."""
    inner = np.diag(1 / found.slope[soft]) + found.z[np.ix_(soft, soft)]
    return np.asarray(np.linalg.inv(inner), dtype=np.float64)


def _inside(key: str, a: str, b: str) -> bool:
    """Whether a joint lies inside the control unit, behind its plug."""
    return key.startswith(UNIT) and a.startswith(UNIT) and b.startswith(UNIT)


def _stamp(g: Array, a: int, b: int, conductance: float) -> None:
    g[a, a] += conductance
    g[b, b] += conductance
    g[a, b] -= conductance
    g[b, a] -= conductance


def resistance(electric: Electric, red: str, black: str, *, plugged: bool = False) -> float | None:
    """What an ohmmeter shows [ohm] with the key off and the battery off: None where the way is open.

    Motors and coils are read as their windings: usual volts over the most that they draw. Electronics, and what a solenoid shuts off, let nothing through.
    """
    live = Live(electric, "off", plugged=plugged)
    n = len(live.nodes)
    g = np.zeros((n, n))
    for key, (a, b) in live.ends.items():
        if key.startswith("battery."):  # it is off
            continue
        _stamp(g, live.nodes[a], live.nodes[b], 1 / live.ohms[key])
    for a, b, ohms in _windings(electric):
        if a in live.nodes and b in live.nodes and (plugged or not a.startswith(UNIT)):
            _stamp(g, live.nodes[a], live.nodes[b], 1 / ohms)
    g[np.arange(n), np.arange(n)] += LEAK
    d = np.zeros(n)
    d[live.nodes[red]] += 1.0
    d[live.nodes[black]] -= 1.0
    found = float(d @ np.linalg.solve(g, d))
    return None if found > OPEN_OHM else found


def _windings(electric: Electric) -> Iterable[tuple[str, str, float]]:
    i, coil = electric.build.injectors, electric.build.ignition.coil
    for load in electric.netlist.loads:
        if load.kind == "injector":
            yield load.plus, load.minus, (i.resistance.si + i.ballast.si) / load.count
        elif load.kind == "coils":
            yield load.plus, load.minus, coil.resistance.si / load.count
        elif load.kind in ("pump", "lift", "fan"):
            yield load.plus, load.minus, SYSTEM_VOLTS / max(electric.most[load.key].average, 1e-3)
    yield "alternator.exciter", BLOCK, FIELD_OHM


def amps(live: Live, red: str, black: str) -> float | None:
    """What a meter set to amps shows [A] with its leads on two terminals; None where its own fuse goes."""
    u = live.potentials([Change(red, black, 1 / SHUNT_OHM)])
    found = float(u[live.nodes[red]] - u[live.nodes[black]]) / SHUNT_OHM
    return found if abs(found) <= METER_FUSE_A else None


def read(electric: Electric, red: str, black: str, state: KeyState, quantity: Quantity = "volts", *, plugged: bool = True) -> Reading:
    """A reading between two terminals. Ohms are read with the key and the battery off, whatever the state. Raises KeyError for a terminal that is not there."""
    if quantity == "ohms":
        value, state = resistance(electric, red, black, plugged=plugged), "off"
        rings = " The buzzer sounds." if value is not None and value < RINGS else ""
        says = (
            f"{terminal_name(red)} to {terminal_name(black)}: {'open' if value is None else f'{value:.3g} Ω'}, key and battery off.{rings}"
        )
        proves = (
            "that there is a path, and nothing of what it can carry or of the position of the key."
            if value is not None
            else "that no path leads there, or a contact on it is at rest."
        )
    elif quantity == "amps":
        value = amps(Live(electric, state, plugged=plugged), red, black)
        shown = f"more than {METER_FUSE_A:g} A: its own fuse goes" if value is None else f"{value:.3g} A"
        says = f"{terminal_name(red)} to {terminal_name(black)}, through the meter: {shown}, {STATES[state].word}."
        proves = "what passes between two open ends, a fuse's blades or a relay's 30 and 87. Never across a feed and its ground; a clamp round one wire instead where more may flow."
    else:
        value = Live(electric, state, plugged=plugged).volts(red, black)
        says = f"{terminal_name(red)} against {terminal_name(black)}: {value:.3f} V, {STATES[state].word}."
        proves = "what is there, with what hangs on it now. Of a wire with nothing on it, only with a 21 W lamp as load: ten megohms hide a bad joint."
    return Reading(red=red, black=black, state=state, quantity=quantity, plugged=plugged, value=value, says=says, proves=proves)


def terminals(electric: Electric) -> list[str]:
    """Every terminal that a lead can be put on: the ends of wires as they are printed, fuses behind their blade, the posts, the head."""
    ends = {end for m in electric.made.values() for end in (m.wire.start, m.wire.end, *m.wire.nets)} & set(electric.solution.nodes)
    return sorted(ends | {PLUS, MINUS}, key=lambda name: (_way(name), name.partition(".")[0], *counted(name)))


#: Parts in the order in which current passes them.
_ON_THE_WAY = (
    "battery",
    "fuse",
    "ignition_switch",
    "main_relay",
    "pump_relay",
    "lift_relay",
    "coil_relay",
    "oxygen_relay",
    "fan_relay",
    "unit",
    "pump",
    "lift",
    "coils",
    "splice_injectors",
)


def _way(name: str) -> int:
    part = name.partition(".")[0]
    return _ON_THE_WAY.index(part) if part in _ON_THE_WAY else len(_ON_THE_WAY) + (part in ("head", "body"))


def counted(name: str) -> tuple[str, int, str]:
    """A pin so that A2 comes before A10, and plus before minus."""
    part, _, pin = name.partition(".")
    letters = pin.rstrip("0123456789")
    number = int(pin[len(letters) :] or 0)
    return ({"plus": "0", "minus": "1"}.get(letters, letters), number, part)
