"""What goes wrong in a harness, as changes of its conductances; and, from what a meter showed, which of it would show that.

Faults are weighed by how often they are met (workshop practice: joints and grounds before copper, fuses and relays between) times how well they explain each
reading (a normal error of the meter and of what is not known of the car; Pearl, Probabilistic Reasoning, ch. 2). The measurement to take next is the terminal at
which the faults that are left differ most (entropy of what they would show).
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ..figures import Result
from ..physics.network import Array
from .electric import Electric
from .live import Change, Live
from .meter import counted, terminals
from .netlist import BLOCK, MINUS, PLUS, part_name, terminal_name
from .states import STATES, KeyState

OPEN = 1e-12  # of its conductance, that a broken way keeps
POOR_OHMS = (0.1, 0.4, 2.0)  # ohm more, of a joint that is loose, painted, green: one of these explains what any would
STRAP_OHMS = (0.007, 0.03)  # ohm more, of the strap to the block, which carries the starter
CHAFED_OHM = 0.05  # ohm, of a wire that touches the body
STUCK_OHM = 0.01  # ohm, of a relay that does not let go
READ_OFF, READ_SHARE = 0.08, 0.02  # V, and share of a reading, by which a meter and an unknown battery may be off
#: How often each kind is met, against one another.
OFTEN = {
    "poor_joint": 3.0,
    "open_wire": 2.0,
    "poor_ground": 3.0,
    "blown_fuse": 2.0,
    "dead_relay": 1.5,
    "stuck_relay": 0.5,
    "chafed": 1.0,
    "ground_loop": 0.7,
    "swapped_pins": 0.5,
    "reversed_diode": 0.3,
    "no_charge": 1.0,
    "old_part": 0.3,
}
DIODE_OHM = 0.02  # ohm, of a suppressor diode that was put in the wrong way round, across the coil that it was to quiet
_NEIGHBOURS = 4  # pins of a plug, up to which any two may be swapped; of a larger one those side by side
_ONE_BY_ONE = (
    "battery",
    "fuse",
    "head",
    "body",
    "main_relay",
    "pump_relay",
    "lift_relay",
    "coil_relay",
    "oxygen_relay",
    "fan_relay",
    "coils",
    "splice_injectors",
)
ELSEWHERE = 0.3  # how much less likely a fault is in what feeds everything, where one circuit is asked about
MOST_TOLD = 6
GAP = 0.25  # V, by which two readings are told apart


@dataclass(frozen=True, slots=True)
class Fault:
    """A fault: its key, what it is in words, its kind, and the joints that it changes to other resistances [ohm], or new ones between terminals; two wires whose ends at two
    pins of one plug are swapped (wire, pin, wire, pin); whether the alternator then gives nothing."""

    key: str
    label: str
    kind: str
    wire: str | None
    joint: str | None = None
    ohms: float = 0.0
    between: tuple[str, str] | None = None
    swap: tuple[str, str, str, str] | None = None
    uncharged: bool = False

    def changes(self, live: Live) -> list[Change] | None:
        """What it changes of a harness in one state; None where it changes nothing there."""
        if self.swap is not None:
            return self._swapped(live)
        if self.between is not None:
            a, b = self.between
            return [Change(a, b, 1 / self.ohms)] if a in live.nodes and b in live.nodes else None
        if self.joint is None or self.joint not in live.ends:
            return None
        before = 1 / live.ohms[self.joint]
        after = before * OPEN if math.isinf(self.ohms) else 1 / (live.ohms[self.joint] + self.ohms)
        return [Change(*live.ends[self.joint], after - before, self.joint)]

    def _swapped(self, live: Live) -> list[Change]:
        wire_a, pin_a, wire_b, pin_b = self.swap or ("", "", "", "")
        found = []
        for wire, old, new in ((wire_a, pin_a, pin_b), (wire_b, pin_b, pin_a)):
            ends, by = live.ends[wire], 1 / live.ohms[wire]
            far = ends[1] if ends[0] == old else ends[0]
            found += [Change(*ends, -by * (1 - OPEN), wire), Change(new, far, by)]
        return found


def shown(live: Live, tried: Sequence[Fault]) -> list[Array | None]:
    """What a meter shows [V] on every terminal of a harness in one state under each of some faults; None where the harness with it does not settle."""
    found: list[Array | None] = [None] * len(tried)
    for uncharged in (False, True):
        rows = [i for i, fault in enumerate(tried) if fault.uncharged is uncharged]
        behind = live.uncharged if uncharged else live
        for i, volts in zip(rows, behind.metered_each([tried[i].changes(live) or () for i in rows]), strict=True):
            found[i] = volts
    return found


class Taken(Result):
    """A reading that was taken: red against black [V], in a position of the key."""

    red: str
    black: str
    state: KeyState
    volts: float


class Suspect(Result):
    """A fault that would show what was read: how likely against the others, what it would have shown at each reading [V], and the wire to trace."""

    key: str
    label: str
    chance: float
    shows: list[float]
    wire: str | None


class Next(Result):
    """The measurement that separates what is left best: where, in which position of the key, and what the two likeliest would show [V]."""

    red: str
    black: str
    state: KeyState
    says: str
    shows: list[tuple[str, float]]


class Explained(Result):
    """What a harness without a fault would have shown [V], the faults that would show what was read, likeliest first, and what to measure next."""

    expected: list[float]
    suspects: list[Suspect]
    next: Next | None
    assumes: str


def faults(electric: Electric) -> list[Fault]:
    """Every single fault that this harness can have."""
    return list(_faults(electric))


def _faults(electric: Electric) -> Iterator[Fault]:
    yield Fault("sound", "nothing that these readings would show", "sound", None)
    for key, m in electric.made.items():
        label, ground = m.wire.label, "ground" in key
        yield Fault(f"{key}.open", f"{label}: broken, or its plug is off", "open_wire", key, key, math.inf, uncharged=key == "exciter")
        kind = "poor_ground" if ground else "poor_joint"
        why = "paint or rust under its eye" if ground else "green, loose or badly crimped"
        for ohms in POOR_OHMS:
            yield Fault(f"{key}.poor", f"{label}: a joint of about {ohms:g} Ω, {why}", kind, key, key, ohms)
        end = m.wire.nets[1]
        if end not in (MINUS, BLOCK) and not ground:
            yield Fault(f"{key}.chafed", f"{label}: chafed through to the body", "chafed", key, None, CHAFED_OHM, (end, BLOCK))
        if key.endswith("_ground") and end.startswith("unit.") and m.wire.start.split(".")[0] != "unit":
            yield Fault(f"{key}.loop", f"{label}: tied to the body as well", "ground_loop", key, None, 0.02, (m.wire.nets[0], BLOCK))
    for key, branch in electric.branches:
        if key.startswith("fuse."):
            yield Fault(
                f"{key}.blown", f"fuse of the {key.removeprefix('fuse.').replace('_', ' ')}: blown", "blown_fuse", None, key, math.inf
            )
        elif key.endswith(".contact"):
            relay = key.removesuffix(".contact").replace("_", " ").replace(".", " ")
            yield Fault(f"{key}.dead", f"{relay}: does not pull in", "dead_relay", None, key, math.inf)
            if not all(branch.closed):
                yield Fault(f"{key}.stuck", f"{relay}: does not let go", "stuck_relay", None, None, STUCK_OHM, (branch.a, branch.b))
        elif key == "charge_lamp":
            yield Fault(
                "charge_lamp.blown",
                "lamp or resistor of the exciter: blown, so that the alternator never begins to charge",
                "no_charge",
                "exciter",
                key,
                math.inf,
                uncharged=True,
            )
        elif key == "block_strap":
            for ohms in STRAP_OHMS:
                yield Fault(
                    "block_strap.poor",
                    f"strap from battery to block: {ohms * 1e3:g} mΩ, paint or rust under its eye",
                    "poor_ground",
                    None,
                    key,
                    ohms,
                )
            yield Fault("block_strap.open", "strap from battery to block: missing", "poor_ground", None, key, math.inf)
        elif key == "ignition_switch":
            yield Fault("ignition_switch.open", "ignition switch: no contact", "dead_relay", None, key, math.inf)
            for ohms in POOR_OHMS:
                yield Fault("ignition_switch.poor", f"ignition switch: a contact of about {ohms:g} Ω", "poor_joint", None, key, ohms)
    nodes = electric.solution.nodes
    yield Fault("alternator.dead", "alternator: gives nothing, its belt is off or its diodes are gone", "no_charge", None, uncharged=True)
    for relay in ("main_relay", "pump_relay", "fan_relay"):
        if f"{relay}.86" in nodes:
            word = f"{relay.replace('_', ' ')}: the diode across its coil the wrong way round"
            yield Fault(f"{relay}.diode", word, "reversed_diode", None, None, DIODE_OHM, (f"{relay}.86", f"{relay}.85"))
    if "pump.plus" in nodes and "old_pump_relay.contact" not in dict(electric.branches):
        yield Fault(
            "old_pump_relay",
            "an old pump relay that was left in feeds the pump besides",
            "old_part",
            None,
            None,
            STUCK_OHM,
            ("ignition_switch.run", "pump.plus"),
        )
    yield from _swaps(electric)


def _swaps(electric: Electric) -> Iterator[Fault]:
    """Two pins of one plug with each other's wires: any two of a small plug, neighbours of a large one."""
    plugs: defaultdict[str, list[tuple[str, str]]] = defaultdict(list)
    for key, m in electric.made.items():
        for end in m.wire.nets:
            part = end.partition(".")[0]
            if part not in _ONE_BY_ONE and not end.startswith("unit.none"):
                plugs[part].append((end, key))
    for part, pins in plugs.items():
        pins.sort(key=lambda row: counted(row[0]))
        small = len({end for end, _ in pins}) <= _NEIGHBOURS
        for i, (pin_a, a) in enumerate(pins):
            for pin_b, b in pins[i + 1 :] if small else pins[i + 1 : i + 2]:
                if pin_a != pin_b and a != b:
                    names = f"{electric.made[a].wire.label} and {electric.made[b].wire.label}"
                    yield Fault(
                        f"{a}.swapped.{b}.{part}",
                        f"{names}: each in the other's place in the plug of the {part_name(pin_a)}",
                        "swapped_pins",
                        a,
                        swap=(a, pin_a, b, pin_b),
                    )


class Tester:
    """A harness whose faults are tried against readings. Each state is made ready once."""

    def __init__(self, electric: Electric, near: str | None = None) -> None:
        """`near` a wire: only faults of its circuit, and of what feeds and switches all, which are taken as less likely since they would show elsewhere."""
        self.electric, self._near = electric, near
        self._joints = {key: {branch.a, branch.b} for key, branch in electric.branches}
        self.faults = [f for f in faults(electric) if near is None or self._is_near(f, near)]
        self._all = sum(OFTEN[kind] for kind in {f.key: f.kind for f in self.faults}.values() if kind != "sound")
        self._live: dict[KeyState, Live] = {}
        self._shown: dict[tuple[KeyState, str, float], Array | None] = {}

    def _is_near(self, fault: Fault, wire: str) -> bool:
        made = self.electric.made
        own = made[wire].wire
        if fault.wire is not None:
            return made[fault.wire].wire.circuit in (own.circuit, "unit", "ignition_feed", "main_relay")
        touched = {end for m in made.values() if m.wire.circuit == own.circuit for end in (*m.wire.nets, m.wire.start)}
        joint = self._joints.get(fault.joint or fault.key.removesuffix(".stuck"))
        return joint is None or bool(joint & touched) or "ignition" in fault.key or "strap" in fault.key

    def _often(self, fault: Fault) -> float:
        """How often a fault is met; that there is none is as likely as all of them together."""
        if fault.kind == "sound":
            return self._all
        made = self.electric.made
        beside = self._near is not None and fault.wire is not None and made[fault.wire].wire.circuit != made[self._near].wire.circuit
        return OFTEN[fault.kind] * (ELSEWHERE if beside else 1.0)

    def live(self, state: KeyState) -> Live:
        """The harness in one state."""
        if state not in self._live:
            self._live[state] = Live(self.electric, state)
        return self._live[state]

    def shown(self, fault: Fault, state: KeyState) -> Array | None:
        """What a meter shows [V] on every terminal against battery minus under a fault; None where the harness with it does not settle."""
        if (state, fault.key, fault.ohms) not in self._shown:
            self._try([fault], state)
        return self._shown[state, fault.key, fault.ohms]

    def _try(self, tried: Sequence[Fault], state: KeyState) -> None:
        """Have what a meter shows under some faults, those that were not tried yet side by side."""
        new = [fault for fault in tried if (state, fault.key, fault.ohms) not in self._shown]
        if not new:
            return
        for fault, volts in zip(new, shown(self.live(state), new), strict=True):
            self._shown[state, fault.key, fault.ohms] = volts

    def shows(self, fault: Fault, taken: Taken) -> float | None:
        """What a reading would have been under a fault [V]."""
        u, nodes = self.shown(fault, taken.state), self.live(taken.state).nodes
        return None if u is None else float(u[nodes[taken.red]] - u[nodes[taken.black]])

    def explain(self, readings: Sequence[Taken]) -> Explained:
        """The faults that would show these readings, likeliest first. Raises KeyError for a terminal that is not there."""
        weighed: list[tuple[float, Fault, list[float]]] = []
        for state in {taken.state for taken in readings}:
            self._try(self.faults, state)
        for fault in self.faults:
            shown = [self.shows(fault, taken) for taken in readings]
            if any(v is None for v in shown):
                continue
            values = [v for v in shown if v is not None]
            log = math.log(self._often(fault)) - sum(
                ((v - t.volts) / _doubt(t.volts)) ** 2 / 2 for v, t in zip(values, readings, strict=True)
            )
            weighed.append((log, fault, values))
        best = max(log for log, _, _ in weighed)
        by_key: dict[str, tuple[float, tuple[float, Fault, list[float]]]] = {}
        for found in sorted(weighed, key=lambda w: -w[0]):  # of one joint at several resistances the one that explains best stands for it
            by_key.setdefault(found[1].key, (math.exp(max(found[0] - best, -60.0)), found))
        whole = sum(weight for weight, _ in by_key.values())
        ranked = sorted(by_key.values(), key=lambda pair: -pair[0])
        suspects = [
            Suspect(key=fault.key, label=fault.label, chance=weight / whole, shows=[round(v, 3) for v in shown], wire=fault.wire)
            for weight, (_, fault, shown) in ranked[:MOST_TOLD]
            if weight / whole > 0.01
        ]
        near = [(weight / whole, fault) for weight, (_, fault, _) in ranked[: 3 * MOST_TOLD] if weight / whole > 0.005]
        return Explained(
            expected=[round(self.shows(self.faults[0], t) or 0.0, 3) for t in readings], suspects=suspects, next=self._next(near, readings),
            assumes="One fault at a time, and none as likely as any; joints and grounds are met more often than broken copper; a reading is taken as good to 0.08 V and 2 %.",
        )  # fmt: skip

    def _next(self, near: Sequence[tuple[float, Fault]], readings: Sequence[Taken]) -> Next | None:
        """The terminal at which what is left differs most, in a state that was measured in or with the key at run."""
        if len(near) < 2:
            return None
        states: tuple[KeyState, ...] = tuple(dict.fromkeys([*(t.state for t in readings), "run"]))
        best: tuple[float, str, KeyState, list[float]] | None = None
        done = {(t.red, t.state) for t in readings}
        for state in states:
            nodes = self.live(state).nodes
            self._try([fault for _, fault in near], state)
            known = [(weight, u) for weight, fault in near if (u := self.shown(fault, state)) is not None]
            for name in terminals(self.electric):
                if name in (PLUS, MINUS) or (name, state) in done or name not in nodes:
                    continue
                values = [float(u[nodes[name]]) for _, u in known]
                bits = _told_apart([weight for weight, _ in known], values)
                if best is None or bits > best[0] + 1e-9:
                    best = (bits, name, state, values)
        if best is None or best[0] < 0.05:
            return None
        _, name, state, values = best
        told = [(fault.label, round(v, 2)) for (_, fault), v in zip(near, values, strict=False)][:3]
        return Next(
            red=name, black=MINUS, state=state, shows=told,
            says=f"Red on {terminal_name(name)}, black on battery minus, {STATES[state].word}.",
        )  # fmt: skip


def _doubt(volts: float) -> float:
    return READ_OFF + READ_SHARE * abs(volts)


def _told_apart(weights: Sequence[float], values: Sequence[float]) -> float:
    """Bits that a reading would tell: entropy of what is left, gathered by what it would show."""
    heaps: defaultdict[int, float] = defaultdict(float)
    for weight, value in zip(weights, values, strict=True):
        heaps[round(value / GAP)] += weight
    whole = sum(heaps.values())
    return -sum(w / whole * math.log2(w / whole) for w in heaps.values() if w > 0)
