"""Sheets of the harness for the wing of the car: the test sheet, the fuse and relay card, one table for each connector; the test sheet and the cut list as CSV."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence

from ..core.circuit.faces import plugs
from ..core.circuit.netlist import part_name, terminal_name
from ..core.circuit.old_wire import ASKED, BALLAST, DEAD, LIVE, LIVE_CRANK, LOOKS, says
from ..core.circuit.states import STATES, KeyState
from ..core.given import Build
from ..core.plan import Plan
from ..core.stages.wiring import WireRow
from ..core.stages.wiring.tested import CONTINUITY, TestRow
from .cells import written
from .station_sheet import Block, Sheet, words

_SHOWN: tuple[KeyState, ...] = ("off", "run", "prime", "crank", "idle")
_BOX = "____"
EMPTY_ROWS = 10  # lines to write on, of the card for wires that nobody knows
TO_BUY = 1.1  # times the wire in the harness: what is cut off, spoilt, and done again
#: Relays of a harness: the wire that their contact feeds, and what they switch.
_RELAYS = (
    ("main", "injector_supply", "injectors, and what else the unit wakes"),
    ("coil", "coil_supply", "coils"),
    ("pump", "pump_supply", "fuel pump"),
    ("lift", "lift_supply", "lift pump"),
    ("oxygen", "oxygen_supply", "heater of the oxygen sensor"),
    ("fan", "fan_supply", "fan"),
)


def tests(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """The test sheet: what to read at each wire, what was read, and what is left to read."""
    rows = plan.stages.wiring.tests
    done = sum(r.verdict == "pass" for r in rows)
    return Sheet(
        station="wiring", title="Test sheet", lead=f"{done} of {len(rows)} wires tested and pass; volts from the solve of the whole harness",
        cautions=[
            "Control unit unplugged and fuses out for ohms. Battery first through a test lamp or a 5 A fuse. A fuse that goes is not replaced by a larger one.",
            "While cranking: coil unplugged, neutral, hand brake on, hands and leads clear of belt and fan.",
            "A buzzer proves a path and nothing of what it can carry: volts with a 21 W lamp as load.",
        ],
        figures=("wiring.battery.volts.off", "wiring.unit.volts.run", "wiring.unit.volts.crank", "wiring.pump.volts.prime", "wiring.block.rise.crank"),
        blocks=[
            Block(
                "Each wire", [_tested(r) for r in rows], ("wire", "volts at", "ohms", "short", *(STATES[s].position if s in ("off", "run") else s for s in _SHOWN), ""),
                note=f"At most {CONTINUITY:g} ohm end to end. Expected volts against battery minus, with what was read behind. A line is a box for a reading. Signals pulse or follow a sensor: ohms and no short are their test.", long=True,
            )
        ],
        photos=photos, codes="WIRE-18",
    )  # fmt: skip


def _tested(r: TestRow) -> tuple[str, ...]:
    by_state = {v.state: v for v in r.volts}

    def volts(state: KeyState) -> str:
        v = by_state.get(state)
        if v is None:
            return ""
        return f"{v.expected_v:.1f} / {f'{v.read_v:.1f}' if v.read_v is not None else _BOX}"

    ohms = f"{r.continuity_ohm:.2g}" if r.continuity_ohm is not None else _BOX
    short = {"pass": "none", "fail": "yes", "open": _BOX}[r.short]
    verdict = {"pass": "passes", "fail": "FAILS", "open": ""}[r.verdict]
    far = "no pin" if r.far.startswith("unit.none") else r.far
    return (r.label, far, ohms, short, *(volts(s) for s in _SHOWN), "untested" if r.covered and not verdict else verdict)


def fuses(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """The card for the lid: fuses and relays."""
    w = plan.stages.wiring
    wires = {r.key: r for r in w.wires}
    feeds: defaultdict[str, list[str]] = defaultdict(list)
    for r in w.wires:
        if r.fuse:
            feeds[r.fuse].append(r.label)
    coils = {key: r.ends_at for key, r in wires.items()}
    bears = {str(key): f"{amps:g} A" for key, amps in build.wiring.relays.items()}
    relays = [
        (f"{key} relay", what, f"{wires[wire].current_a:.1f} A", bears.get(key, "not entered"), wires[wire].fuse or "", coils.get(f"{key}_relay_coil", "with another"))
        for key, wire, what in _RELAYS if wire in wires
    ]  # fmt: skip
    rows = [
        (words(f.key), f"{f.fitted_a:g} A" if f.fitted_a is not None else "none suits", f"{f.load_a:.1f} A", ", ".join(feeds[f.key][:6]) + (" and more" if len(feeds[f.key]) > 6 else ""))
        for f in w.fuses
    ]  # fmt: skip
    return Sheet(
        station="wiring", title="Fuses and relays", lead="For the lid of the box",
        cautions=["A fuse that goes has a reason. The same size again once the reason is found; never a larger one, never foil."],
        figures=(), blocks=[
            Block("Fuses", rows, ("fuse", "fit", "carries", "feeds")),
            Block("Relays", relays, ("relay", "switches", "through it", "bears", "behind fuse", "coil to"), note="30 supply, 87 load, 86 live with the key, 85 to the control unit; with a diode inside mind which is which."),
        ],
        photos=photos, codes="WIRE-0", most=0,
    )  # fmt: skip


def connectors(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """One table for each connector, pins in order, seen from the side that the wires go in."""
    wires = ((r.key, r.start, r.end, r.label, r.colour, r.area_m2) for r in plan.stages.wiring.wires)
    blocks = [
        Block(part_name(f"{part}.x").capitalize(), [(pin.partition(".")[2], end.label, end.colour, f"{end.area_m2 * 1e6:.3g} mm²", terminal_name(end.other)) for pin, there in pins.items() for end in there], ("pin", "wire", "colour", "size", "goes to"))
        for part, pins in plugs(wires).items()
    ]  # fmt: skip
    return Sheet(
        station="wiring", title="Connectors", lead="Wire side: as the plug is held with the wires towards you. Colours by IEC 60757",
        cautions=["Numbers moulded into the plug win over any sheet. Tug each wire once its terminal has clicked."], figures=(), blocks=blocks, photos=photos, codes="WIRE-07", most=0,
    )  # fmt: skip


def which_wire(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """The card for a wire that nobody knows: four positions of the key, a lamp on it, what it then is."""
    w = build.wiring
    told = [
        (row.label or words(row.what), *(f"{v.si:.1f}" if (v := row.volts.get(key)) is not None else _BOX for key in ASKED), "" if met.kind == "not_told" else met.says)
        for row, met in zip(w.old, plan.stages.wiring.met, strict=True)
    ]  # fmt: skip
    empty = [("______________", *[_BOX] * len(ASKED), "")] * max(EMPTY_ROWS - len(told), 4)
    return Sheet(
        station="wiring", title="Which wire is this", lead="Volts from the wire to a clean ground, with a 21 W lamp on it, in four positions of the key",
        cautions=[
            "While cranking: coil unplugged, neutral, hand brake on, a helper at the key, hands and leads clear of belt and fan.",
            "A lamp of 21 W draws 1.8 A: hold it by its holder, it is hot within a minute. A buzzer or a meter alone proves nothing here.",
            "Cranking volts that equal run volts mean that the starter did not turn.",
        ],
        figures=(), blocks=[
            Block("Read", [*told, *empty], ("wire, where and colours", *(STATES[key].position if key != "crank" else "crank" for key in ASKED), "then it is")),
            Block("What it is", [(*looks, says(kind)) for kind, looks in LOOKS.items()], (*(STATES[key].position if key != "crank" else "crank" for key in ASKED), "it is"), note=f"Live is {LIVE:g} V or more, {LIVE_CRANK:g} V while cranking; half is {BALLAST[0]:g} to {BALLAST[1]:g} V; dead is under {DEAD:g} V."),
        ],
        photos=photos, codes="WIRE-15", most=0,
    )  # fmt: skip


def hand_over(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """For whoever has the car next: where things are, what to carry, what the volts are when it is well, what differs from the usual, what is not proven."""
    w, v = plan.stages.wiring, build.wiring
    sizes = Counter(f.fitted_a for f in w.fuses if f.fitted_a is not None)
    relays = [key for key, wire, _ in _RELAYS if any(r.key == wire for r in w.wires)]
    carry = [
        *((f"fuse {size:g} A", f"{'one' if many == 1 else 'two'}, of {many} fitted") for size, many in sorted(sizes.items())),
        ("relay", f"one; {len(relays)} fitted: {', '.join(relays)}"),
        ("test lamp of 21 W, meter, crimp tool", "with terminals of the sizes fitted, a metre of 0.75 and of 2.5 mm²"),
    ]  # fmt: skip
    feed = v.feed
    key_row = [(words(key), f"{q.si:.2f} V" if (q := getattr(feed, key)) is not None else "not measured") for key in ASKED]
    well = [
        (STATES[r.key].word, f"{r.posts_v:.1f} V", f"{r.unit_v:.1f} V" if r.unit_v is not None else "", f"{r.pump_v:.1f} V" if r.pump_v is not None else "", f"{r.rise_v * 1e3:.0f} mV")
        for r in w.states if r.key in ("off", "run", "prime", "crank", "idle")
    ]  # fmt: skip
    places = [
        ("control unit", words(v.unit.mounted)), ("battery", words(v.battery.stands)), ("master switch cuts", words(v.battery.master)), ("power taken from", words(feed.taken_from)),
        ("first fuse", f"{feed.fuse_distance} from there"),
        *((f"ground of {words(key)}", f"{words(g.lands)}{f', {g.ohms}' if g.ohms is not None else ', not measured'}") for key, g in v.grounds.items()),
    ]  # fmt: skip
    proven = sum(r.verdict == "pass" for r in w.tests)
    hidden = [r.label for r in w.tests if r.covered]
    return Sheet(
        station="wiring", title="Hand-over: the wiring", lead=f"{proven} of {len(w.tests)} wires tested and pass; the wire list, the diagrams and the test sheet go with it",
        cautions=["A fuse that goes has a reason: the same size again, once it is found. Battery off before a terminal is touched; never work on fuel lines with the pump's fuse in."],
        figures=(), blocks=[
            Block("Where things are", places), Block("To carry", carry), Block("Ignition feed, as measured", key_row),
            Block("Volts to expect, by the solve of this build", well, ("key and engine", "posts", "control unit", "pump", "block above minus")),
            *([Block("Differs from the list", _differs(build))] if _differs(build) else []),
            *([Block("Covered and not tested", [(", ".join(hidden),)])] if hidden else []),
        ],
        photos=photos, codes="WIRE", most=6,
    )  # fmt: skip


def _differs(build: Build) -> list[tuple[str, str]]:
    """What a person decided against the proposal."""
    v = build.wiring
    return [
        *((c.label, f"circuit of its own, {c.draws}, fed from {words(c.fed)}, at {words(c.place)}") for c in v.own.values()),
        *((a.label, f"from {terminal_name(a.start)} to {terminal_name(a.end)}, {'fused' if a.fused else 'no fuse of its own'}") for a in v.added.values()),
        *((words(key), "left out") for key in v.left_out),
        *((f"old {words(o.what)}", f"{words(o.do)}{f', {o.label}' if o.label else ''}") for o in v.old if o.stays),
    ]  # fmt: skip


TEST_HEADER = ("wire", "label", "from", "volts at", "state", "ohms", "short", "position", "expected V", "read V", "may be off V", "verdict")


def tests_csv(plan: Plan) -> str:
    """The test sheet as CSV (RFC 4180): a row for each wire and position of the key."""
    rows: list[Sequence[object]] = [TEST_HEADER]
    near = {w.key: w.start for w in plan.stages.wiring.wires}
    for r in plan.stages.wiring.tests:
        ohms = "" if r.continuity_ohm is None else f"{r.continuity_ohm:.4g}"
        for v in (*r.volts,) or (None,):
            more = (
                (v.state, f"{v.expected_v:.3f}", "" if v.read_v is None else f"{v.read_v:.3f}", f"{v.off_v:.3f}", v.verdict)
                if v
                else ("", "", "", "", r.verdict)
            )
            rows.append((r.wire, r.label, near[r.wire], r.far, r.stage, ohms, "" if r.short == "open" else r.short, *more))
    return written(rows)


def cut_list(plan: Plan) -> str:
    """What to cut and buy, by size and colour, as CSV: pieces, metres in the harness, metres to buy."""
    by: defaultdict[tuple[float, str], list[WireRow]] = defaultdict(list)
    for r in plan.stages.wiring.wires:
        by[r.area_m2, r.colour].append(r)
    rows = [
        (f"{area * 1e6:.3g}", colour, len(wires), f"{sum(r.length_m for r in wires):.2f}", f"{sum(r.length_m for r in wires) * TO_BUY:.1f}", "; ".join(f"{r.key} {r.length_m:.2f}" for r in wires))
        for (area, colour), wires in sorted(by.items(), key=lambda item: (-item[0][0], item[0][1]))
    ]  # fmt: skip
    return written((("size mm2", "colour (IEC 60757)", "pieces", "metres", "metres to buy", "each wire, metres"), *rows))
