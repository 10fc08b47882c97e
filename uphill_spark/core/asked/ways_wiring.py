"""Questions of the wiring: where the control unit is grounded, where its power comes from, where the pump is grounded, how joints are made. Every answer is tried on this build."""

from __future__ import annotations

from ..given.edit import Patch, put
from .ways import Option, Question, Ways

IN_CABIN = ("cabin", "glove_box", "not_chosen")


def questions(ways: Ways) -> list[Question]:
    """Ground of the unit, feed, ground of the pump, joints."""
    return [_ground(ways), _feed(ways), _pump(ways), _joints(ways)]


def _lands(ways: Ways, which: str, where: str) -> Patch:
    """A ground landed elsewhere; what was measured of it where it was is gone with it."""
    return [put(f"/wiring/grounds/{which}", {"lands": where})]


def _ground(ways: Ways) -> Question:
    ground = ways.build.wiring.grounds.get("unit")
    lands = ground.lands if ground is not None else "not_noted"
    now = {"battery_minus": "minus", "head": "head", "frame": "frame", "not_noted": "minus"}.get(lands, "else")
    options = [
        Option(key="minus", title="Straight to battery minus", says="Nothing of the starter's or the coils' current is in its way; a longer wire", patch=_lands(ways, "unit", "battery_minus"), hours=1.0),
        Option(key="head", title="To the cylinder head", says="Short to what it measures, coils on a bolt of their own; it rides up with the block while cranking", patch=_lands(ways, "unit", "head"), hours=0.5),
        Option(key="frame", title="To the frame rail, by its own sheet", says="Only where its maker says so, with the straps from engine and battery measured", patch=_lands(ways, "unit", "frame"), hours=1.0),
        *([Option(key="else", title="As it is", says="As entered at Power and grounds", patch=[])] if now == "else" else []),
    ]  # fmt: skip
    usual = "minus" if ways.build.wiring.unit.mounted in IN_CABIN else "head"
    return ways.question(
        "unit_ground",
        "Where is the control unit grounded?",
        "Battery minus for a unit in the cabin, the head where its maker says so; never both.",
        now,
        usual,
        options,
    )


def _feed(ways: Ways) -> Question:
    feed = ways.build.wiring.feed
    now = {"battery": "post", "starter_stud": "stud", "fuse_block": "block"}.get(feed.taken_from, "else")
    options = [
        Option(key="post", title="Battery post, its own fuse", says="The stiffest volts in the car; a fuse within a hand of the post", patch=[put("/wiring/feed/taken_from", "battery")], hours=1.0),
        Option(key="stud", title="Starter's stud, through links", says="As made looms do it: right where the lead before the link is short and the drop small", patch=[put("/wiring/feed/taken_from", "starter_stud")], hours=0.5),
        Option(key="block", title="A fused block", says="One heavy lead for several feeds, tidy; everything behind one joint", patch=[put("/wiring/feed/taken_from", "fuse_block")], hours=2.0),
        *([Option(key="else", title="Where it is", says="As entered at Feeds by key", patch=[])] if now == "else" else []),
    ]  # fmt: skip
    return ways.question(
        "unit_feed",
        "Where does its power come from?",
        "The battery's post; the others by the length that nothing protects and by their drop.",
        now,
        "post",
        options,
    )


def _pump(ways: Ways) -> Question:
    ground = ways.build.wiring.grounds.get("pump")
    now = (
        "body"
        if ground is not None and ground.lands in ("body", "frame")
        else "minus"
        if ground is None or ground.lands in ("battery_minus", "not_noted")
        else "else"
    )
    options = [
        Option(key="minus", title="A wire back to battery minus", says="Nothing rests on rust or straps; twice the wire", patch=_lands(ways, "pump", "battery_minus"), hours=2.0),
        Option(key="body", title="On a cleaned boss of the body beside it", says="Half the loop; the strap from engine to body carries it and must be measured", patch=_lands(ways, "pump", "body"), hours=0.5),
        *([Option(key="else", title="Where it is", says="As entered at Power and grounds", patch=[])] if now == "else" else []),
    ]  # fmt: skip
    return ways.question(
        "pump_ground", "Where is the pump grounded?", "Battery minus; a body boss when its way back was measured.", now, "minus", options
    )


def _joints(ways: Ways) -> Question:
    now = ways.build.wiring.joint_method
    told = now if now in ("crimp", "crimp_solder", "solder_sleeve") else "else"
    options = [
        Option(key="crimp", title="Crimped, never soldered", says="The tool for that terminal; solder stiffens and cracks behind itself", patch=[put("/wiring/joint_method", "crimp")], hours=0.0),
        Option(key="crimp_solder", title="Crimped and soldered, with support", says="It never pulls out; heat-shrink carries it past the stiff end", patch=[put("/wiring/joint_method", "crimp_solder")], hours=2.0),
        Option(key="solder_sleeve", title="Solder sleeves", says="Where no tool fits; sealed, and seen through", patch=[put("/wiring/joint_method", "solder_sleeve")], hours=1.0),
        *([Option(key="else", title="As it is", says="As entered at Wires", patch=[])] if told == "else" else []),
    ]  # fmt: skip
    return ways.question(
        "joints", "How are joints made?", "Crimps; a solder sleeve where no tool fits. Both last, with support.", told, "crimp", options
    )
