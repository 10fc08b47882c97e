"""What an old wire is, by the volts on it in four positions of the key, a 21 W lamp from it to ground."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from ..given.harness import KeyPosition
from .states import NOT_TURNED

LIVE, LIVE_CRANK, DEAD = 9.0, 7.5, 1.0  # V with a lamp on it: live, live while the starter turns, dead
BALLAST = (4.0, 9.0)  # V at run behind a ballast resistance, with a lamp or a coil as load
ASKED: tuple[KeyPosition, ...] = ("off", "accessory", "run", "crank")

Kind = Literal["permanent", "accessory", "ignition_lives", "ignition_dies", "ballast", "starter_only", "dead", "fed_back", "not_told"]
_SAYS: dict[Kind, str] = {
    "permanent": "a permanent feed, live with the key off",
    "accessory": "an accessory feed: dead while cranking",
    "ignition_lives": "an ignition feed that lives while cranking: what a control unit wants",
    "ignition_dies": "an ignition feed that dies while cranking: lamps and fans, not a control unit",
    "ballast": "a coil feed behind a ballast resistance, which is bypassed while cranking",
    "starter_only": "a starter feed: live while cranking only",
    "dead": "dead in every position: a ground, a switched end, or cut; ohms to battery minus with the battery off tell which",
    "fed_back": "live with the key off and not in every position: something feeds back, or a lamp or a sender hangs on it",
    "not_told": "not told yet",
}


#: How each looks at off, accessory, run and crank: what is printed on the card. A test holds it against `kind_of`.
LOOKS: dict[Kind, tuple[str, str, str, str]] = {
    "permanent": ("live", "live", "live", "live"),
    "ignition_lives": ("dead", "either", "live", "live"),
    "ignition_dies": ("dead", "dead", "live", "dead"),
    "accessory": ("dead", "live", "live", "dead"),
    "ballast": ("dead", "dead", "half", "live"),
    "starter_only": ("dead", "dead", "dead", "live"),
    "dead": ("dead", "dead", "dead", "dead"),
    "fed_back": ("not dead", "either", "live", "either"),
}


def kind_of(volts: Mapping[KeyPosition, float]) -> Kind:
    """What a wire is by its volts [V]; "not_told" while a position that decides is missing, or the starter did not turn."""
    off, accessory, run, crank = (volts.get(key) for key in ASKED)
    if off is None or run is None or crank is None:
        return "not_told"
    on = {"off": off >= LIVE, "run": run >= LIVE, "crank": crank >= LIVE_CRANK}
    if on["run"] and abs(crank - run) < NOT_TURNED:
        return "not_told"  # the starter did not turn: what it does while cranking is not known
    if off >= DEAD:
        return "permanent" if all(on.values()) else "fed_back"
    if BALLAST[0] <= run < BALLAST[1] and on["crank"]:
        return "ballast"
    if on["run"]:
        if on["crank"]:
            return "ignition_lives"
        return "accessory" if accessory is not None and accessory >= LIVE else "ignition_dies"
    if on["crank"]:
        return "starter_only"
    if accessory is not None and accessory >= LIVE:
        return "accessory"
    return "dead" if max(run, crank) < DEAD else "fed_back"


def says(kind: Kind) -> str:
    """A kind in words."""
    return _SAYS[kind]
