"""The harness in one state of the key, whole or with a fault in it: what stands at every terminal, and what a voltmeter would show there.

The harness is held as the inverse of its conductances; a fault is a change of a few of them (Woodbury's identity), and the loads find their volts anew (Newton).
Many faults are tried side by side: the arithmetic of one is so small that the asking costs more than the answer.
"""

from __future__ import annotations

import copy
from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ..errors import NotConverged
from ..physics.network import LEAK, LEAST_OHMS, Array, Source
from ..reference import devices
from .branches import FIVE, on
from .electric import Electric
from .holding import holding, let_go
from .netlist import PLUS
from .states import ORDER, STATES, TIRED_V, KeyState

METER_OHM = 10e6  # ohm, of a usual digital voltmeter
UNIT = "unit."
_ROUNDS, _ALL_AT_ONCE = 60, 12
_KNEE = 3.0  # V, under which a motor draws less and less
_LOST = 1e-5  # of what a change does, that rounding may take
_LEFT = 1e-12  # of its conductance, that a contact keeps when it opens
_RUN_BY_THEMSELVES = ("pump", "lift", "fan", "oxygen_heater")  # loads that draw whenever they get volts


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
    """Potentials [V]; what stands behind each free terminal [ohm]; what a current put in at one lifts the others by, as the inverse without the change and what the change takes from it;
    and what the loads that follow their volts lead besides [S], as seen through the impedances between all."""

    u: Array
    behind: Array
    inverse: Array
    reach: Array
    back: Array
    softened: Array

    def spread(self, current: Array) -> Array:
        """Volts [V] that a current [A] put in at free terminals lifts each of them by, the loads left as they are."""
        return np.asarray(self.inverse @ current - self.reach @ (self.back @ current), dtype=np.float64)


@dataclass(slots=True)
class _Bare:
    """Cases with nothing drawn: volts of free terminals [V; case, terminal], volts that each load's current lifts them by [V/A; case, terminal, load], what stands behind each [ohm; case, terminal], and
    of each case its inverse: that of the harness, and what its changes take of it."""

    open_v: Array
    lift: Array
    behind: Array
    inverses: list[tuple[Array, Array, Array]]


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
        self._drive = self._driven(self.feeds)
        f = len(self._fixed)
        self._g = self._conductances()
        self._inverse = np.asarray(np.linalg.inv(self._g[f:, f:]), dtype=np.float64)
        #: Volts that each load's current lifts free terminals by [V/A].
        self._lift = np.asarray(self._inverse @ self._incidence[f:], dtype=np.float64)

    @cached_property
    def uncharged(self) -> Live:
        """The same with an alternator that gives nothing: a tired battery alone is behind the posts while the engine runs."""
        if STATES[self.state].engine in ("still", "cranking"):
            return self
        found = copy.copy(self)
        found._fixed = np.minimum(self._fixed, TIRED_V)
        found.feeds = [s for s in self.feeds if s.plus != PLUS]
        found._drive = self._driven(found.feeds)
        return found

    def _conductances(self) -> Array:
        n = len(self.nodes)
        g = np.zeros((n, n))
        for key, (a, b) in self.ends.items():
            stamp(g, self.nodes[a], self.nodes[b], 1 / self.ohms[key])
        for s in self.feeds:
            stamp(g, self.nodes[s.plus], self.nodes[s.minus], 1 / s.ohms)
        g[np.arange(n), np.arange(n)] += LEAK
        return g

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
        """Potential [V] of every terminal, by its number in `nodes`, with some conductances changed. Raises NotConverged."""
        return _there(self._solved([changes])[0]).u

    def _solved(self, cases: Sequence[Sequence[Change]]) -> list[_Solved | None]:
        """For each case its loads in balance; what is then not held shut lets go, until nothing more does. None where one does not settle."""
        found: list[_Solved | None] = [None] * len(cases)
        gone: list[set[str]] = [set() for _ in cases]
        waiting = list(range(len(cases)))
        while waiting:
            balanced = self._balanced(
                [[*cases[i], *self._let_go(cases[i], gone[i])] for i in waiting], [FIVE not in gone[i] for i in waiting]
            )
            again = []
            for i, one in zip(waiting, balanced, strict=True):
                found[i] = one
                if one is None:
                    continue
                u = one.u
                more = let_go(self._held, self.state, lambda a, b: float(u[self.nodes[a]] - u[self.nodes[b]])) - gone[i]  # noqa: B023
                if more:
                    gone[i] |= more
                    again.append(i)
            waiting = again
        return found

    def _let_go(self, changes: Sequence[Change], gone: Iterable[str]) -> Iterator[Change]:
        """Contacts that open: what is left of their conductance is taken away."""
        for joint in sorted(gone):
            if joint == FIVE:
                for s in self._five:
                    yield Change(s.plus, s.minus, -(1 - _LEFT) / s.ohms)
                continue
            left = 1 / self.ohms[joint] + sum(c.conductance for c in changes if c.joint == joint)
            yield Change(*self.ends[joint], -left * (1 - _LEFT), joint)

    def _balanced(self, cases: Sequence[Sequence[Change]], five: Sequence[bool]) -> list[_Solved | None]:
        """Each case with its changes, and with or without the unit's own five volts: those with as many changes side by side."""
        found: list[_Solved | None] = [None] * len(cases)
        alike: defaultdict[int, list[int]] = defaultdict(list)
        for i, changes in enumerate(cases):
            alike[len(changes)].append(i)
        for rows in alike.values():
            try:
                solved = self._side_by_side([cases[i] for i in rows], np.array([five[i] for i in rows]))
            except np.linalg.LinAlgError:  # one that cannot be had does not spoil the others
                if len(rows) == 1:
                    continue
                solved = [self._balanced([cases[i]], [five[i]])[0] for i in rows]
            for i, one in zip(rows, solved, strict=True):
                found[i] = one
        return found

    def _side_by_side(self, cases: Sequence[Sequence[Change]], five: NDArray[np.bool_]) -> list[_Solved | None]:
        """Cases of as many changes each, with loads in balance. Where terminals hang in the air by next to nothing, what a change does is what is left of numbers a
        thousand million times as large: such a case is made part of the harness, and solved as that."""
        fed = self._drive[len(self._fixed) :] - np.where(five, 0.0, 1.0)[:, None] * self._driven(self._five)[len(self._fixed) :]
        bare, lost = self._changed(cases, fed)
        if len(lost):
            self._as_built(bare, lost, cases, fed[lost])
        return self._in_balance(bare)

    def _changed(self, cases: Sequence[Sequence[Change]], fed: Array) -> tuple[_Bare, NDArray[np.intp]]:
        """Each case by what its changes do to the harness as it stands (Woodbury), `fed` [A] by the unit's own supplies; and those whose answer is lost in rounding."""
        k, r, f, n = len(cases), len(cases[0]), len(self._fixed), len(self.nodes)
        columns = np.zeros((k, n, r))
        by = np.array([[c.conductance for c in changes] for changes in cases]).reshape(k, r)
        for i, changes in enumerate(cases):
            for j, change in enumerate(changes):
                columns[i, self.nodes[change.a], j] += 1.0
                columns[i, self.nodes[change.b], j] -= 1.0
        held, free = columns[:, :f], columns[:, f:]
        drive = fed - self._g[f:, :f] @ self._fixed - (free @ (by[..., None] * (held.transpose(0, 2, 1) @ self._fixed[:, None])))[..., 0]
        reach = self._inverse @ free
        inner = free.transpose(0, 2, 1) @ reach
        inner[:, np.arange(r), np.arange(r)] += 1 / by
        undone = np.linalg.inv(inner)
        back = undone @ reach.transpose(0, 2, 1)
        bare = _Bare(
            open_v=drive @ self._inverse.T - (reach @ (back @ drive[..., None]))[..., 0],
            lift=self._lift - reach @ (back @ self._incidence[f:]),
            behind=np.diagonal(self._inverse) - (reach * back.transpose(0, 2, 1)).sum(axis=2),
            inverses=[(self._inverse, reach[i], back[i]) for i in range(k)],
        )
        hangs = (np.abs(free) * np.diagonal(self._inverse)[:, None]).max(axis=(1, 2), initial=0.0)
        return bare, np.flatnonzero(np.sqrt((undone**2).sum(axis=(1, 2))) * hangs * np.finfo(np.float64).eps > _LOST)

    def _as_built(self, bare: _Bare, lost: NDArray[np.intp], cases: Sequence[Sequence[Change]], fed: Array) -> None:
        """Some of the cases solved anew, as if the harness had been built so."""
        f = len(self._fixed)
        g = np.repeat(self._g[None], len(lost), axis=0)
        for at, row in enumerate(lost.tolist()):
            for change in cases[row]:
                stamp(g[at], self.nodes[change.a], self.nodes[change.b], change.conductance)
        anew = np.linalg.inv(g[:, f:, f:])
        bare.open_v[lost] = (anew @ (fed - g[:, f:, :f] @ self._fixed)[..., None])[..., 0]
        bare.lift[lost], bare.behind[lost] = anew @ self._incidence[f:], np.diagonal(anew, axis1=1, axis2=2)
        for at, row in enumerate(lost.tolist()):
            _, reach, back = bare.inverses[row]
            bare.inverses[row] = anew[at], reach[:, :0], back[:0]

    def _in_balance(self, bare: _Bare) -> list[_Solved | None]:
        """Each case with what its loads draw; None for one whose loads do not settle."""
        k, f = len(bare.open_v), len(self._fixed)
        p = self._incidence[f:]
        amps, slope, settled = self._settled(self._fixed @ self._incidence[:f] + bare.open_v @ p, p.T @ bare.lift)
        u = np.concatenate([np.broadcast_to(self._fixed, (k, f)), bare.open_v - (bare.lift @ amps[..., None])[..., 0]], axis=1)
        eye = np.eye(p.shape[1])
        softened = np.linalg.solve(eye + slope[:, :, None] * (p.T @ bare.lift), slope[:, :, None] * eye)
        behind = bare.behind - ((bare.lift @ softened) * bare.lift).sum(axis=2)
        return [_Solved(u[i], behind[i], *bare.inverses[i], softened[i]) if settled[i] else None for i in range(k)]

    @property
    def _five(self) -> list[Source]:
        return [s for s in self.feeds if s.plus.startswith(UNIT)]

    def _driven(self, feeds: Sequence[Source]) -> Array:
        drive = np.zeros(len(self.nodes))
        for s in feeds:
            drive[self.nodes[s.plus]] += s.volts / s.ohms
            drive[self.nodes[s.minus]] -= s.volts / s.ohms
        return drive

    def _settled(self, open_v: Array, z: Array) -> tuple[Array, Array, NDArray[np.bool_]]:
        """What the loads of each case draw [A], their slopes [A/V], and whether they settled, behind open volts and impedances: each holds its current above its knee and follows its volts below it. Which do
        which is found by trying: all follow at first, those that come out above their knee hold, until none changes."""
        count, many = open_v.shape
        amps, slopes, done = np.zeros((count, many)), np.zeros((count, many)), np.zeros(count, dtype=bool)
        if not many:
            return amps, slopes, ~done
        most, knee = np.array([x.amps for x in self.loads]), np.array([x.knee for x in self.loads])
        follows = np.array([x.resistive for x in self.loads], dtype=bool)
        eye, slope = np.eye(many), most / knee
        sign, left = np.zeros((count, many)), np.arange(count)
        for tries in range(_ROUNDS):
            holds = sign[left] != 0
            leads = np.where(holds, 0.0, slope)
            open_now = open_v[left] - (z[left] @ (most * sign[left])[..., None])[..., 0]
            volts = np.linalg.solve(eye + z[left] * leads[:, None, :], open_now[..., None])[..., 0]
            wanted = np.where(follows, 0.0, np.where(volts >= knee, 1.0, np.where(volts <= -knee, -1.0, 0.0)))
            wrong = wanted != sign[left]
            out = ~wrong.any(axis=1)
            at = left[out]
            amps[at], slopes[at], done[at] = np.where(holds, most * sign[left], slope * volts)[out], leads[out], True
            if tries < _ALL_AT_ONCE:
                sign[left] = wanted
            else:  # two that push each other to and fro are turned one by one, the one that is farthest off first
                worst = np.where(wrong, np.abs(np.abs(volts) / knee - 1), -1.0).argmax(axis=1)
                sign[left, worst] = wanted[np.arange(len(left)), worst]
            left = left[~out]
            if not len(left):
                break
        return amps, slopes, done

    def metered(self, changes: Sequence[Change] = ()) -> Array:
        """What a voltmeter with its black lead on battery minus shows [V] on every terminal, by its number in `nodes`: less than the potential where next to nothing stands behind it. Raises NotConverged."""
        return self._shown(_there(self._solved([changes])[0]))

    def metered_each(self, cases: Sequence[Sequence[Change]]) -> list[Array | None]:
        """The same [V] for many changes, tried side by side; None for those that do not settle."""
        return [None if one is None else self._shown(one) for one in self._solved(cases)]

    def _shown(self, found: _Solved) -> Array:
        shown = found.u.copy()
        shown[len(self._fixed) :] *= METER_OHM / (METER_OHM + np.maximum(found.behind, 0.0))
        return shown

    def volts(self, red: str, black: str, changes: Sequence[Change] = ()) -> float:
        """What a voltmeter shows [V]: red against black, through its own resistance. Raises NotConverged."""
        found = _there(self._solved([changes])[0])
        f = len(self._fixed)
        a, b = self.nodes[red], self.nodes[black]
        lead = np.zeros(len(self.nodes))
        lead[a] += 1.0
        lead[b] -= 1.0
        through = found.spread(lead[f:])
        near = self._incidence[f:].T @ through
        behind = float(lead[f:] @ through - near @ found.softened @ near)
        return float((found.u[a] - found.u[b]) * METER_OHM / (METER_OHM + max(behind, 0.0)))


def _there(found: _Solved | None) -> _Solved:
    if found is None:
        raise NotConverged(f"harness with a fault in it: not settled after {_ROUNDS} rounds")
    return found


def _inside(key: str, a: str, b: str) -> bool:
    """Whether a joint lies inside the control unit, behind its plug."""
    return key.startswith(UNIT) and a.startswith(UNIT) and b.startswith(UNIT)


def stamp(g: Array, a: int, b: int, conductance: float) -> None:
    """Put a conductance [S] between two terminals into a matrix of conductances [S]."""
    g[a, a] += conductance
    g[b, b] += conductance
    g[a, b] -= conductance
    g[b, a] -= conductance
