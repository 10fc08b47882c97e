"""WIRE-04, WIRE-09 to WIRE-12: heat of the wires, noise along shared ways, heat and movement beside them, holes, and a made loom's lengths."""

from __future__ import annotations

from collections.abc import Iterator

from ..circuit.conductors import INSULATION
from ..given.harness import Beside
from ..worked import Worked
from . import owners
from .base import Finding, Say, check
from .wiring import DRAWN

LOUD_BESIDE = 0.3  # m that a wire of class E may lie beside one of class B
SPARK_BESIDE = 0.1  # m that one of class D or E may lie beside spark leads
FAR_TOO_LONG = 1.0  # m over, from which on a loom's wire is shortened rather than looped
_FEW = 4  # wires that are named, of more that are missing
SHORT = 0.02  # m by which a wire may be short on paper: the string is no better


@check(
    "WIRE-04",
    "/wiring/insulation",
    "Wires as warm as they get",
    source="heat balance of a wire in its bundle; ISO 6722 classes of insulation",
    rests=DRAWN,
)
def warmth(w: Worked, say: Say) -> Iterator[Finding]:
    over = []
    for m, row in zip(w.circuit.made.values(), w.wiring.wires, strict=True):
        if row.temperature_k > m.bears_k * ROUNDED:
            over.append((row.temperature_k - m.bears_k, m, row))
    for _, m, row in sorted(over, key=lambda x: -x[0]):
        melts = row.temperature_k > INSULATION["cross_linked_125"]
        cooler = m.cool_area_m2 > m.area_m2
        yield say(
            "stop" if melts else "sort_out",
            f"{row.label.capitalize()} gets {owners.temperature(w, row.temperature_k)} warm with {row.current_a:.1f} A; its insulation bears {owners.temperature(w, m.bears_k)}.",
            f"Make it {m.cool_area_m2 * 1e6:g} mm² in place of {m.area_m2 * 1e6:.3g} mm²." if cooler else "Lead it another way, or wire with cross-linked insulation.",
            at=f"/wiring/fitted/{m.wire.key}/size",
        )  # fmt: skip
    if not over:
        m, row = min(zip(w.circuit.made.values(), w.wiring.wires, strict=True), key=lambda x: x[0].bears_k - x[1].temperature_k)
        yield say("sound", f"The warmest for its insulation is {row.label}: {owners.temperature(w, row.temperature_k)}, and it bears {owners.temperature(w, m.bears_k)}.")  # fmt: skip


ROUNDED = 1.002
_NOT_LOOKED = Beside()


@check(
    "WIRE-09",
    "/wiring/beside",
    "Noise along shared ways",
    source="coupling grows with the length two wires share; twisted and shielded they are deaf",
    rests=("/wiring/branches", "/wiring/fitted", "/wiring/profile", "/wiring/extras", "/wiring/pairs"),
)
def noise(w: Worked, say: Say) -> Iterator[Finding]:
    told = False
    branches, given = w.build.wiring.branches, w.build.wiring.beside
    hears = {(b, m.wire.noise) for m in w.circuit.made.values() if m.wire.noise in ("D", "E") for b in m.route}
    for key, beside in given.items():
        classes = sorted({c for b, c in hears if b == key})
        if beside.spark_leads is not None and beside.spark_leads.si > SPARK_BESIDE and classes:
            told = True
            yield say(
                "sort_out" if "E" in classes else "watch",
                f"{key.replace('_', ' to ').capitalize()} runs beside spark leads for {owners.typed(w, beside.spark_leads)}, with {'trigger or oxygen' if 'E' in classes else 'sensor'} wires in it.",
                f"{owners.length(w, SPARK_BESIDE)} away from them, across at a right angle.",
                at=f"/wiring/beside/{key}/spark_leads",
            )  # fmt: skip
    over = [row for row in w.wiring.beside if row.length_m > LOUD_BESIDE and row.shielded is not True]
    do = f"Twisted with its ground and shielded, the shield at one end; or a branch of its own, {owners.length(w, SPARK_BESIDE)} away."
    for row in over:
        if row.shielded is not None:
            told = True
            way = " and ".join(b.replace("_", " to ") for b in row.branches)
            yield say("watch", f"{w.circuit.made[row.quiet].wire.label.capitalize()} lies beside {row.loud} for {owners.distance(w, row.length_m)}, {way}; not twisted and shielded.", do, at=f"/wiring/fitted/{row.quiet}/twist")  # fmt: skip
    open_ = [row for row in over if row.shielded is None]
    if open_:
        told = True
        names = ", ".join(w.circuit.made[row.quiet].wire.label for row in open_)
        longest = open_[0]
        yield say("unknown", f"{names[0].upper()}{names[1:]}: beside {longest.loud} for {owners.distance(w, longest.length_m)} at most; whether twisted and shielded is not entered.", do, at="/wiring/pairs", settle="the wires, looked at")  # fmt: skip
    bay = [
        key
        for key, b in branches.items()
        if b.zone != "cabin" and (key not in given or given[key].spark_leads is None) and any(c == "E" for k, c in hears if k == key)
    ]
    if bay:
        yield say("unknown", f"Whether spark leads run beside {', '.join(k.replace('_', ' to ') for k in bay)} is not entered.", "Look along it, leads in place.", at=f"/wiring/beside/{bay[0]}/spark_leads", settle="the branch, looked along")  # fmt: skip
    elif not told:
        yield say("sound", "No trigger or oxygen wire lies long beside what makes noise.")


@check(
    "WIRE-10",
    "/wiring/beside",
    "Heat and movement beside branches",
    source="insulation near an exhaust ages in weeks; what moves chafes through",
    rests=("/wiring/branches",),
)
def protection(w: Worked, say: Say) -> Iterator[Finding]:
    told, open_ = False, []
    runs = {row.key for row in w.wiring.branches if row.wires}
    for key, branch in w.build.wiring.branches.items():
        if key not in runs:
            continue
        word, at = key.replace("_", " to "), f"/wiring/beside/{key}"
        b = w.build.wiring.beside.get(key, _NOT_LOOKED)
        if branch.zone == "near_exhaust" and b.sleeve == "no":
            told = True
            yield say("sort_out", f"{word.capitalize()} nears the exhaust without a sleeve.", "A woven or reflecting sleeve, clipped so that it cannot sag. Exhaust cold.", at=f"{at}/sleeve")  # fmt: skip
        elif branch.zone == "near_exhaust" and b.sleeve == "not_looked_at":
            open_.append((f"the sleeve of {word}", f"{at}/sleeve"))
        if b.moves not in ("nothing", "not_looked_at") and b.clips == "no":
            told = True
            moving = {
                "bonnet_hinge": "the bonnet's hinge",
                "engine_rocks": "the rocking engine",
                "belt": "the belt",
                "column": "the steering column",
                "pedals": "the pedals",
            }[b.moves]
            yield say("sort_out", f"{word.capitalize()} passes {moving} with no clip on both sides.", "A clip on each side, with a loop for what moves between.", at=f"{at}/clips")  # fmt: skip
        elif b.moves not in ("nothing", "not_looked_at") and b.clips == "not_looked_at":
            open_.append((f"clips of {word}", f"{at}/clips"))
    if open_:
        yield say("unknown", f"Not looked at: {', '.join(word for word, _ in open_)}.", "Follow it with a hand, engine cold, battery off.", at=open_[0][1], settle="the branch, followed by hand")  # fmt: skip
    elif not told:
        yield say("sound", "What nears the exhaust is sleeved, what passes something that moves is clipped.")


@check(
    "WIRE-11",
    "/wiring/holes",
    "Bundles through their holes",
    source="diameter of a bundle: 1.2 times the root of the sum of squares",
    rests=("wiring.bundle.firewall",),
)
def holes(w: Worked, say: Say) -> Iterator[Finding]:
    given, told = w.build.wiring.holes, False
    for row in w.wiring.holes:
        hole, at = given[row.key], f"/wiring/holes/{row.key}"
        word = row.key.replace("_", " ")
        if row.bundle_m > row.diameter_m:
            told = True
            yield say("sort_out", f"A bundle of {owners.length(w, row.bundle_m)} does not pass the hole of {owners.length(w, row.diameter_m)}, {word}.", "A larger hole and grommet, a second one, or fewer wires that way.", at=f"{at}/diameter")  # fmt: skip
        elif row.connector_m is not None and row.connector_m > row.diameter_m and hole.way in ("with_connector", "not_chosen"):
            told = True
            yield say(
                "sort_out",
                f"Its largest connector, {owners.length(w, row.connector_m)}, does not pass the hole of {owners.length(w, row.diameter_m)}, {word}.",
                "A larger hole; or the connector goes on after; or the branch is led in from the other side.",
                at=f"{at}/way",
            )
        if hole.grommet == "no":
            told = True
            yield say("sort_out", f"The hole {word} has no grommet: its edge cuts the first wire.", "A grommet before the branch goes through.", at=f"{at}/grommet")  # fmt: skip
    if not given:
        yield say("note", f"No hole is entered; the thickest bundle at the firewall is {owners.length(w, w.wiring.firewall_m)} with its wrapping.", settle="the hole's diameter")  # fmt: skip
    elif not told:
        row = max(w.wiring.holes, key=lambda r: r.bundle_m / r.diameter_m)
        yield say("sound", f"Every bundle passes; closest is {row.key.replace('_', ' ')}, {owners.length(w, row.bundle_m)} in {owners.length(w, row.diameter_m)}.")  # fmt: skip


@check(
    "WIRE-12",
    "/wiring/loom",
    "The made loom's lengths",
    source="lengths by string along the branches, with a service loop",
    rests=("wiring.total_length", "/wiring/fitted"),
)
def loom(w: Worked, say: Say) -> Iterator[Finding]:
    found = w.wiring.loom
    if found is None:
        return
    told = False
    for row in found.rows:
        at = f"/wiring/loom/{row.at}"
        if row.over_m is not None and row.over_m < -SHORT:
            told = True
            yield say("sort_out", f"{row.label} is short by {owners.distance(w, -row.over_m)}.", "Another way, or a piece of the same wire, same size or larger, crimped in; sensor pairs by the same length.", at=f"{at}/length")  # fmt: skip
        elif row.over_m is not None and row.over_m > FAR_TOO_LONG:
            told = True
            yield say("watch", f"{row.label} is {owners.distance(w, row.over_m)} too long.", "Unpin it at the control unit's end, cut, pin again; coiled up it hears everything.", at=f"{at}/length")  # fmt: skip
        if row.thin:
            told = True
            yield say(
                "sort_out",
                f"{row.label} is thinner in the loom than this build wants.",
                "A wire of its own beside the loom.",
                at=f"{at}/size",
            )
        if row.verdict == "no_such_wire":
            told = True
            yield say(
                "watch",
                f"{row.label} is said to serve a wire that this build has not.",
                "Correct it, or cap it and tie it back.",
                at=f"{at}/serves",
            )
        ends = w.build.wiring.loom[row.at].ends
        if row.verdict == "not_needed" and ends not in ("capped", "in_use"):
            told = True
            yield say("watch", f"{row.label} of the loom is not needed here, and its end is {'open' if ends == 'open' else 'not decided'}.", "Cap it, label it, tie it back; do not cut it.", at=f"{at}/ends")  # fmt: skip
    if found.missing:
        told = True
        few = ", ".join(key.replace("_", " ") for key in found.missing[:_FEW])
        yield say("watch", f"{len(found.missing)} wires of this build are not in the loom: {few}{' and more' if len(found.missing) > _FEW else ''}.", "Add them beside it, or say which of its circuits serves.")  # fmt: skip
    if not told:
        yield say("sound", f"All {len(found.rows)} circuits of the loom are long enough, and each is in use or capped.")
