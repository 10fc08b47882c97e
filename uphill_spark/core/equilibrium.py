"""Volts and currents that depend on each other: the pump on its wire, injectors by their dead time, coils by their charge.

First everything is worked out as if nothing were lost on the way: the most that each thing draws, by which wires and fuses are proposed. With the
wires known the harness is a network; pump, injectors and coils are then solved at the volts that they see, and those volts with what they draw,
round after round, until neither moves. A harness that does not settle gives no figure.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache

import numpy as np

from .circuit.branches import Gone, branches, on, sources
from .circuit.conductors import make
from .circuit.electric import Electric, Feed
from .circuit.harness import Harness
from .circuit.holding import Holds, holding
from .circuit.netlist import PLUS, Netlist
from .circuit.pulsed import Draw, ramps, squares
from .circuit.states import CRANK_SPEED, ORDER, STATES, SYSTEM_VOLTS, KeyState, State
from .circuit.supply import INSIDE, Supply, supply
from .errors import NotConverged
from .given import Build
from .given.injectors import PeakAndHold
from .physics.network import LARGE, LEAST_OHMS, Array, Branch, Network, Solution, Source
from .physics.sparse_network import SparseNetwork
from .reference import devices
from .stages.engine import EngineResult
from .stages.fuel.demand import KEY_STATE, StateName, demands, need
from .stages.fuel.plumbing import Network as Pipes
from .stages.fuel.plumbing import Plumbing, Solved, fitted
from .stages.ignition.charge import charging_shares
from .stages.injectors.opening import Opening, opening

ROUNDS = 25
CUT_OFF = 1e6  # ohm behind a load, from which on nothing feeds it: a contact before it has let go
LEAST_DRAWN = 1e-3  # A, under which nothing is drawn: the nodal solve has every node lead next to nothing
REGIMES = 12  # solves until no contact and no alternator changes
#: A driver that was not described.
PEAK_AND_HOLD = PeakAndHold()
SETTLED = 1e-5  # A, by which a current may still move
CRUISE_SPEED = 0.5  # of the speed of full power
_LOST = 0.05  # of the volts, the most that a circuit with its feed may lose
_PUMP_KNEE = 3.0  # V, under which a pump or a coil draws less and less
#: States in which a pump draws most: at full power, against a return that all of it has to pass, against a shut regulator.
_HARDEST: tuple[StateName, ...] = ("full", "idle", "prime")
#: The state of the fuel system in which injectors work, by what the engine does.
_FUEL_STATE: dict[str, StateName] = {"cranking": "crank", "idle": "idle", "cruise": "cruise", "full": "full"}


class _Balance:
    """The rounds. Holds what does not change from one to the next."""

    def __init__(self, build: Build, engine: EngineResult, netlist: Netlist) -> None:
        self.build, self.engine, self.netlist = build, engine, netlist
        self.fit, self.pipes = fitted(build), Pipes(build)
        self.need = need(build, engine)
        self.plumbing = {name: Plumbing(self.pipes, q, self.need, p) for name, (q, p) in demands(build, engine).items()}
        self.set: Opening = opening(build)
        self.loads = [load for load in netlist.loads if devices().load[load.kind].law != "resistance"]
        self.index = {load.key: j for j, load in enumerate(self.loads)}
        self.states = [STATES[k] for k in ORDER]
        kinds = [devices().load[load.kind] for load in self.loads]
        self._live = np.array([on(load.when) for load in self.loads], dtype=np.float64).T
        own = {"fan": build.wiring.fan_current, "unit": build.wiring.unit_current, "starter": build.wiring.battery.starter}
        own |= {f"own_{key}": c.draws for key, c in build.wiring.own.items()}
        if build.fuel.lift is not None:
            own["lift"] = build.fuel.lift.current
        self._constant = self._live * [
            amps.si if (amps := own.get(load.key)) else data.amps for load, data in zip(self.loads, kinds, strict=True)
        ]
        self._reached = np.ones((len(self.states), len(self.loads)))
        self._knee = np.array([data.knee or _PUMP_KNEE for data in kinds])
        self._injectors = [j for j, data in enumerate(kinds) if data.law == "injectors"]
        self._counts = np.array([self.loads[j].count for j in self._injectors])
        self._pulse = np.zeros((len(self.states), 1))
        turns = [s.engine != "still" for s in self.states]
        self._turning = np.array(turns, dtype=np.float64)
        self._rate = np.array([[self.set.rate(self._speed(s)) if t else 0.0] for s, t in zip(self.states, turns, strict=True)])
        self._coil_speed = np.array([self._speed(s, limit=True) for s in self.states])
        self.solved: dict[StateName, Solved] = {}
        self._solved_for: dict[StateName, tuple[float, float]] = {}

    def pump(self, feeds: Mapping[StateName, Feed]) -> None:
        """Pump and pipes solved behind their feeds; those that stay as they were are left."""
        moved = False
        for name, feed in feeds.items():
            key = (round(feed.volts, 9), round(feed.ohms, 12))
            if self._solved_for.get(name) != key:
                near = self.solved[name].capacity if name in self.solved else None
                self.solved[name] = self.plumbing[name].solve(self.fit, feed.volts, feed.ohms, near)
                self._solved_for[name] = key
                moved = True
        if moved:
            self._taken()

    def _last(self, name: StateName) -> Solved:
        """A state as it was solved last; before all of them were, the hardest stands for it."""
        return self.solved.get(name, self.solved[_HARDEST[0]])

    def across_injector(self, name: StateName) -> float:
        """Pressure [Pa] across an injector, for a pump that keeps up."""
        system = self.plumbing[name]
        return float(system.rail(max(self._last(name).point.flow, system.demand)) - system.mouth_pa)

    def law(self, volts: Array) -> tuple[Array, Array]:
        """What every load draws at some volts, and its slope, with the pump's pressure as it was solved last. By (state, load)."""
        share = np.minimum(volts / self._knee, 1.0)
        amps = self._constant * share
        slope = np.where(volts < self._knee, self._constant / self._knee, 0.0)
        i, coil, j, at = self.build.injectors, self.build.ignition.coil, self._injectors, self.index["coils"]
        v = volts[:, j]
        dead, dead_slope = self.set.dead_times.at(v)
        open_share = self._pulse + dead * self._rate
        short = open_share < 1.0
        many, ohms = self._live[:, j] * self._counts, i.resistance.si + i.ballast.si
        shares, rising = np.minimum(open_share, 1.0), np.where(short, dead_slope * self._rate, 0.0)
        if i.driver == "peak_and_hold":
            hold = i.peak_hold or PEAK_AND_HOLD
            first = np.minimum(shares, hold.peak_time.si * self._rate)  # of the time at its peak, the rest held
            high, low = (np.minimum(most.si, v / ohms) for most in (hold.peak, hold.hold))
            amps[:, j] = many * (high * first + low * (shares - first))
            free = [np.where(v / ohms < most.si, 1 / ohms, 0.0) for most in (hold.peak, hold.hold)]
            slope[:, j] = many * (free[0] * first + free[1] * (shares - first) + low * np.where(shares > first, rising, 0.0))
        else:
            amps[:, j] = many / ohms * v * shares
            slope[:, j] = many / ohms * (shares + v * rising)
        v_at = volts[:, at]
        charging, charging_slope = charging_shares(self.build, v_at, self._coil_speed)
        whole = self._live[:, at] * self._turning * self.loads[at].count * coil.current.si / 2
        amps[:, at] = whole * charging * share[:, at]
        slope[:, at] = whole * (charging_slope * share[:, at] + charging * np.where(v_at < self._knee[at], 1 / self._knee[at], 0.0))
        return amps * self._reached, slope * self._reached

    def _taken(self) -> None:
        """What the last solve of pump and pipes says of currents: the pump's own, and how long injectors are open for the fuel."""
        pump = self.index["pump"]
        self._constant[:, pump] = self._live[:, pump] * [self._last(_pump_state(s)).point.current for s in self.states]
        self._pulse[:, 0] = [self._pulses(s) for s in self.states]

    def _pulses(self, state: State) -> float:
        """Share of the time that the pulses take."""
        name = _FUEL_STATE.get(state.engine)
        if name is None:
            return 0.0
        fuel = float(self.plumbing[name].demand) * self.set.density_of["working_fuel"]
        return self.set.pulse_share(fuel, self.across_injector(name))

    def _speed(self, state: State, *, limit: bool = False) -> float:
        """Engine speed [rev/s]; at full power coils are asked for most at the limit."""
        e = self.build.engine
        full = e.rev_limit.si if limit else e.power_speed.si
        return {"cranking": CRANK_SPEED, "idle": e.idle_speed.si, "cruise": CRUISE_SPEED * e.power_speed.si}.get(state.engine, full)

    def most(self) -> dict[str, Draw]:
        """The most that each load may draw: with nothing lost on the way, or, what draws longer on fewer volts, with all lost that may be.

        All injectors together besides.
        """
        self.pump({name: Feed(STATES[KEY_STATE[name]].posts_v, 0.0) for name in _HARDEST})
        posts = np.array([[s.posts_v] * len(self.loads) for s in self.states])
        amps = np.maximum(self.law(posts)[0], self.law(posts * (1 - _LOST))[0]).max(axis=0, initial=0.0)
        found = {load.key: float(amps[j]) for j, load in enumerate(self.loads)}
        found["pump"] = max(solved.point.current for solved in self.solved.values())
        found |= {load.key: devices().load[load.kind].amps for load in self.netlist.loads if load.key not in found}
        found |= {key: data.amps for key, data in devices().load.items() if key not in found}
        draws = {key: Draw.steady(amps) for key, amps in found.items()}
        draws["coils"] = self._coils(found["coils"])
        for load in self.netlist.loads:
            if load.kind == "injector":
                draws[load.key] = self._squirts(found[load.key], load.count)
        draws["injectors"] = self._squirts(
            sum(found[load.key] for load in self.netlist.loads if load.kind == "injector"), self.build.injectors.count
        )
        return draws

    def _coils(self, average: float) -> Draw:
        """All coils, by what they draw on average."""
        amps, many = self.build.ignition.coil.current.si, self.loads[self.index["coils"]].count
        return ramps(amps, 2 * average / (many * amps), many)

    def _squirts(self, average: float, many: int) -> Draw:
        """So many injectors, by what they draw on average: in turn where each fires by itself, else together."""
        i = self.build.injectors
        on = SYSTEM_VOLTS / (i.resistance.si + i.ballast.si)
        together = i.firing != "sequential"
        if i.driver != "peak_and_hold":
            return squares(on, average / (many * on), many, together=together)
        hold = i.peak_hold or PEAK_AND_HOLD
        high, low = min(hold.peak.si, on), min(hold.hold.si, on)
        each = average / many
        first = min(hold.peak_time.si * float(self._rate.max()), each / high if high else 0.0)
        held = min(max(each - high * first, 0.0) / low, 1 - first) if low else 0.0
        opening, holding = squares(high - low, first, many, together=together), squares(low, first + held, many, together=together)
        return Draw(average, (opening + holding).effective, (opening + holding).peak)

    def network(self, rows: tuple[Branch, ...], behind: Supply, gone: Gone) -> Network | SparseNetwork:
        """The harness as a network: wires, joints, loads that are resistors, the control unit's 5 V, what stands behind the posts."""
        held = tuple((name, tuple(volts)) for name, volts in behind.held().items())
        return _factored(rows, tuple(sources(behind, gone)), held, tuple((load.plus, load.minus) for load in self.loads))

    def drawn(self, rows: tuple[Branch, ...], solution: Solution) -> dict[KeyState, float]:
        """What leaves battery plus [A] in each state for all that hangs on it."""
        away = [b for b in rows if PLUS in (b.a, b.b) and b.a != INSIDE]
        others = [solution.nodes[b.b if b.a == PLUS else b.a] for b in away]
        ohms = np.array([max(b.ohms, LEAST_OHMS) for b in away])
        closed = np.array([b.closed for b in away], dtype=np.float64).reshape(len(away), len(ORDER))
        amps = ((solution.u[:, [solution.nodes[PLUS]]] - solution.u[:, others]) / ohms * closed.T).sum(axis=1)
        amps[amps < LEAST_DRAWN] = 0.0
        amps += solution.amps[:, [j for j, load in enumerate(self.loads) if load.plus == PLUS]].sum(axis=1)
        return dict(zip(ORDER, amps.tolist(), strict=True))

    def settle(self, network: Network | SparseNetwork) -> tuple[Solution, int]:
        """Rounds until no current moves. Raises NotConverged."""
        resistance = network.resistance
        self._reached = (resistance < CUT_OFF).astype(np.float64)
        self.pump(self._feeds(network, network.open_volts))
        volts, amps = network.settle(self.law)
        for rounds in range(1, ROUNDS + 1):
            before = amps
            self.pump(self._feeds(network, volts + resistance * amps))
            volts, amps = network.settle(self.law, volts)
            moved = float(np.abs(amps - before).max())
            if moved < SETTLED:
                return network.solution(amps), rounds
        raise NotConverged(f"harness and what hangs on it: {moved:.3g} A still move after {ROUNDS} rounds")

    def _feeds(self, network: Network | SparseNetwork, behind: Array) -> dict[StateName, Feed]:
        """What stands behind the pump in each state of the fuel system, from the volts behind every load."""
        j = self.index["pump"]
        return {
            name: Feed(float(behind[k, j]), float(network.resistance[k, j]))
            for name, k in ((n, ORDER.index(key)) for n, key in KEY_STATE.items())
        }


@lru_cache(maxsize=32)
def _factored(
    rows: tuple[Branch, ...],
    driven: tuple[Source, ...],
    held: tuple[tuple[str, tuple[float, ...]], ...],
    loads: tuple[tuple[str, str], ...],
) -> Network | SparseNetwork:
    """A harness as a network. Most edits leave it as it was: it is factored once."""
    many = len({end for row in rows for end in (row.a, row.b)})
    return (SparseNetwork if many > LARGE else Network)(rows, driven, dict(held), loads)


def _pump_state(state: State) -> StateName:
    """The state of the fuel system in which a pump that runs finds itself."""
    return _FUEL_STATE.get(state.engine, "prime")


#: What the balance reads of the build, and of the stages that it takes.
READS = (
    "engine.banks", "engine.blower", "engine.boost", "engine.cylinders", "engine.firing_order", "engine.fuel", "engine.idle_speed", "engine.power_speed", "engine.rev_limit", "fuel.pump", "fuel.regulator", "fuel.path",
    "fuel.parts", "fuel.lift", "fuel.users", "injectors.ballast", "injectors.count", "injectors.dead_time", "injectors.driver", "injectors.enters", "injectors.firing", "injectors.flow", "injectors.flow_by_bench", "injectors.fluid", "injectors.peak_hold", "injectors.rated_at", "injectors.resistance",
    "injectors.second", "injectors.squirts", "ignition.coil", "ignition.kind", "wiring.battery", "wiring.branches", "wiring.charging", "wiring.fan_current", "wiring.fitted", "wiring.grounds", "wiring.insulation", "wiring.old", "wiring.own", "wiring.unit_current",
)  # fmt: skip
LOOKS = {"engine": ("ambient_pressure_pa", "fuel_mass_flow_kg_s", "idle_fuel_mass_flow_kg_s", "idle_manifold_pressure_pa")}


def work_out(build: Build, engine: EngineResult, harness: Harness) -> Electric:
    """The harness in balance."""
    balance = _Balance(build, engine, harness.netlist)
    most = balance.most()
    made = make(build, harness.netlist, most)
    held = holding(harness.netlist)
    behind, gone = supply(build), dict.fromkeys(ORDER, frozenset[str]())
    told: dict[KeyState, float] = {}
    for _ in range(REGIMES):
        rows = tuple(b for _, b in branches(harness.netlist, made, behind, gone))
        network = balance.network(rows, behind, gone)
        solution, rounds = balance.settle(network)
        drawn = balance.drawn(rows, solution)
        told = told or drawn
        then = {k: gone[k] | opened for k, opened in _lets_go(held, solution).items()}
        spent = supply(build, told)
        if then == gone and spent == behind:
            break
        behind, gone = spent, then
    else:
        raise NotConverged("harness: what is switched still changes")
    return Electric(
        build=build,
        harness=harness,
        made=made,
        most=most,
        solution=solution,
        resistance=network.resistance,
        loads=balance.index,
        fit=balance.fit,
        pipes=balance.pipes,
        need_m3_s=balance.need,
        hydraulics={name: (balance.plumbing[name], balance.solved[name]) for name in KEY_STATE},
        rounds=rounds,
        supply=behind,
        gone=gone,
        drawn_a={k: drawn[k] if gone[k] else told[k] for k in ORDER},
    )


def _lets_go(held: list[Holds], solution: Solution) -> dict[KeyState, frozenset[str]]:
    """The joints that are not held in each state in which they are meant to be."""
    nodes, u = solution.nodes, solution.u
    if not held:
        return dict.fromkeys(ORDER, frozenset[str]())
    volts = u[:, [nodes[h.plus] for h in held]] - u[:, [nodes[h.minus] for h in held]]
    least = np.array([[h.least(k) for h in held] for k in ORDER])
    meant = np.array([on(h.when) for h in held]).T
    low = (volts < least) & meant
    return {k: frozenset(held[i].joint for i in np.flatnonzero(low[row])) for row, k in enumerate(ORDER)}
