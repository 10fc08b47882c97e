"""What a person decided against the proposal: parts that sit elsewhere, wires called otherwise, left out, or added from any terminal to any other.

The netlist is made whole first, then changed; what would then hang in the air, or short the battery, is refused with the wires' names.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace

import networkx

from ..errors import BuildError, Problem
from ..given import Build
from ..given.harness import AddedWire
from .joints import body_strap, inside_pin
from .netlist import ALLOWED, BLOCK, BODY, MINUS, PLUS, UNIT_FIVE, UNIT_GROUND, Circuit, Conductor, Link, Netlist, terminal_name
from .pins import PinRow

#: Wires that what is worked out of the pump and the control unit goes by.
KEPT = ("unit_feed", "unit_ground", "ignition_feed", "pump_supply", "pump_feed", "pump_ground")
_ADDED = "added_"  # begins the names of added wires
_SHORT_OHM = 1.0  # ohm, up to which a joint shorts what it joins: wires, fuses, straps, contacts, no winding and no track
_GROUNDS = (MINUS, BLOCK, BODY, UNIT_GROUND)
#: Where terminals that no wire of the proposal ends on are found.
_AT = {
    "battery": "battery",
    "fuse": "battery",
    "head": "engine",
    "body": "engine",
    "ignition_switch": "dash",
    "charge_lamp": "dash",
    "alternator": "front",
    "unit": "unit",
}


def placed(build: Build, circuits: Sequence[Circuit]) -> None:
    """Parts that sit elsewhere and wires that are called otherwise, in place."""
    sits, names = build.wiring.sits, build.wiring.names
    if not sits and not names:
        return
    for wire in (w for circuit in circuits for w in circuit.wires):
        wire.start_place = sits.get(_part(wire.start), wire.start_place)
        wire.end_place = sits.get(_part(wire.end), wire.end_place)
        wire.label = names.get(wire.key, wire.label)


def overlaid(build: Build, netlist: Netlist, pins: Sequence[PinRow]) -> Netlist:
    """The netlist with wires left out and added. Raises BuildError naming the terminal that is not there, what would hang in the air, the wires that make a short."""
    w = build.wiring
    left = w.left_out
    if not left and not w.added:
        return netlist
    kinds = {row.pin: row.kind for row in pins}
    added = list(_added(build, netlist, kinds))
    gone = _left_out(netlist, left, [c.wires[0] for c in added])
    made = [replace(c, wires=[x for x in c.wires if x.key not in gone]) for c in netlist.circuits]
    went = _parts(w for c in netlist.circuits for w in c.wires) - _parts(
        w for c in (*made, *added) for w in c.wires
    )  # with all their wires
    changed = replace(
        netlist,
        circuits=tuple(c for c in (*made, *added) if c.wires),
        links=tuple(x for x in (*netlist.links, *_more_links(build, netlist, added, kinds)) if not {_part(x.a), _part(x.b)} & went),
        loads=tuple(x for x in netlist.loads if not {_part(x.plus), _part(x.minus)} & went),
    )
    _nothing_adrift(netlist, changed, "/wiring/left_out/0" if left else "/wiring/added")
    _no_short(changed)
    return changed


def _part(terminal: str) -> str:
    return terminal.partition(".")[0]


def _parts(wires: Iterable[Conductor]) -> set[str]:
    return {_part(end) for w in wires for end in w.nets}


def _added(build: Build, netlist: Netlist, kinds: Mapping[str, str]) -> Iterator[Circuit]:
    places = where(netlist)
    there = {*places, *(f"unit.{pin}" for pin in kinds)}
    for key, wire in build.wiring.added.items():
        at = f"/wiring/added/{key}"
        for end in ("start", "end"):
            terminal = getattr(wire, end)
            if terminal not in there:
                raise BuildError(
                    "A wire leads to a terminal that is not there.", (Problem(f"{at}/{end}", terminal, _would_do(terminal, there)),)
                )
        name = f"{_ADDED}{key}"
        circuit = Circuit(name, wire.label, ALLOWED["other"])
        circuit.wire(
            name, wire.label, (wire.start, wire.end), (_place(places, wire, "start"), _place(places, wire, "end")), "WH", amps=wire.carries.si,
            fuse=name if wire.fused else None, noise=wire.noise,
        )  # fmt: skip
        yield circuit


def _would_do(terminal: str, there: set[str]) -> str:
    part = _part(terminal)
    near = sorted(t for t in there if _part(t) == part)
    return f"one of {', '.join(near[:12])}" if near else "a terminal of this harness, like battery.plus, pump_relay.87 or unit.A5"


def where(netlist: Netlist) -> dict[str, str]:
    """Every terminal that a wire may end on, and the place where it is."""
    found = {
        end: place for w in netlist.conductors for end, place in ((w.start, w.start_place), (w.end, w.end_place)) if end != "unit.none"
    }
    loose = [end for link in netlist.links for end in (link.a, link.b)] + [end for load in netlist.loads for end in (load.plus, load.minus)]
    by_part = {_part(end): place for end, place in found.items()}
    for end in loose:
        part = _part(end)
        if not end.startswith(("unit.inside", "unit.none")) and end not in found:
            found[end] = by_part.get(part, _AT.get(part, "panel"))
    return {PLUS: "battery", MINUS: "battery", BLOCK: "engine", BODY: "engine"} | found


def _place(places: Mapping[str, str], wire: AddedWire, end: str) -> str:
    terminal = wire.start if end == "start" else wire.end
    if terminal == BODY:  # the body is wherever the other end is
        terminal = wire.end if end == "start" else wire.start
    return places.get(terminal, "unit")


def _more_links(build: Build, netlist: Netlist, added: Sequence[Circuit], kinds: Mapping[str, str]) -> Iterator[Link]:
    """Fuses of added wires; what pins are inside that no wire led to before."""
    there = {end for link in netlist.links for end in (link.a, link.b)}
    for wire in (c.wires[0] for c in added):
        if wire.fuse:
            fuse = next(link for link in netlist.links if link.key.startswith("fuse."))
            yield Link(f"fuse.{wire.fuse}", PLUS, f"fuse.{wire.fuse}", fuse.ohms)
        for end in (wire.start, wire.end):
            if end.startswith("unit.") and end not in there:
                there.add(end)
                yield from inside_pin(end, kinds.get(end.removeprefix("unit."), ""))
            elif end == BODY and end not in there:
                there.add(end)
                yield body_strap(build)


def _left_out(netlist: Netlist, left: Sequence[str], added: Sequence[Conductor]) -> set[str]:
    """Keys of the wires that are taken out: those that are there. Raises BuildError where a terminal would hang in the air."""
    gone = {w.key for w in netlist.conductors if w.key in left}
    stay = {end for w in (*(w for w in netlist.conductors if w.key not in gone), *added) for end in w.nets}
    for w in netlist.conductors:
        if w.key not in gone:
            continue
        at = f"/wiring/left_out/{left.index(w.key)}"
        if w.key in KEPT:
            raise BuildError(
                "That wire is what the pump or the control unit runs by.",
                (Problem(at, w.key, f"{w.label} to stay; say what is fitted for it by its size, length and measured ohms"),),
            )
        parts = {_part(end) for end in stay}
        for end in w.nets:
            part = _part(end)
            others = {e for x in netlist.conductors for e in x.nets if _part(e) == part} - {end}
            if end not in (PLUS, *_GROUNDS) and end not in stay and part in parts and others and part not in ("unit", "fuse"):
                raise BuildError(
                    f"{terminal_name(end).capitalize()} would hang in the air.",
                    (Problem(at, w.key, f"another wire that leads to {end} first, or all wires of that part left out"),),
                )
    return gone


def _fed(netlist: Netlist) -> dict[tuple[str, str], bool]:
    """For each load whether a feed and whether a ground lead to it, through joints of next to no ohms, open or shut."""
    graph: networkx.Graph[str] = networkx.Graph()
    graph.add_nodes_from((PLUS, MINUS))
    graph.add_edges_from(w.nets for w in netlist.conductors)
    graph.add_edges_from((link.a, link.b) for link in netlist.links if link.ohms < _SHORT_OHM)
    plus, minus = (networkx.node_connected_component(graph, post) for post in (PLUS, MINUS))
    return {(x.key, side): end in heap for x in netlist.loads for side, end, heap in (("feed", x.plus, plus), ("ground", x.minus, minus))}


def _nothing_adrift(before: Netlist, after: Netlist, at: str) -> None:
    """Raises BuildError naming a part that had a feed and a ground and now lacks one."""
    then, now = _fed(before), _fed(after)
    for (load, side), there in now.items():
        if not there and then[load, side]:
            word = load.removeprefix("own_").replace("_", " ")
            raise BuildError(
                f"The {word} would hang in the air.",
                (Problem(at, "as it stands", f"a wire that leads from the {word} to {'what feeds it' if side == 'feed' else 'a ground'}"),),
            )


def _no_short(netlist: Netlist) -> None:
    """Raises BuildError where an added wire lies on a way of next to no ohms between two supplies, or between a supply and its ground."""
    graph: networkx.Graph[str] = networkx.Graph()
    for w in netlist.conductors:
        graph.add_edge(*w.nets, key=w.key, name=w.label)
    for link in netlist.links:
        if link.when is None and link.ohms < _SHORT_OHM:
            graph.add_edge(link.a, link.b, key=link.key, name=link.key.replace(".", " ").replace("_", " "))
    for plus, minus in ((PLUS, MINUS), (UNIT_FIVE, MINUS), (PLUS, UNIT_FIVE)):
        if plus not in graph or minus not in graph or not networkx.has_path(graph, plus, minus):
            continue
        ties = [graph[x][y] for x, y in itertools.pairwise(networkx.shortest_path(graph, plus, minus))]
        key = next((tie["key"] for tie in ties if tie["key"].startswith(_ADDED)), None)
        if key is None:
            continue
        a, b = next(w.nets for w in netlist.conductors if w.key == key)
        words = {PLUS: "battery plus", MINUS: "ground", UNIT_FIVE: "the control unit's 5 V"}
        way = ", ".join(tie["name"] for tie in ties)
        raise BuildError(
            f"That wire shorts {words[plus]} to {words[minus]}.",
            (Problem(f"/wiring/added/{key.removeprefix(_ADDED)}", f"{terminal_name(a)} to {terminal_name(b)}", f"two ends that are not supply and ground of each other; the way is {way}"),),
        )  # fmt: skip
