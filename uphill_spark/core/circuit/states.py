"""The states of key and engine in which the harness is solved, and the volts at the battery's posts in each: their only home.

Volts are those that the posts hold while the state lasts: a charged battery at rest, a starter that turns a cold engine, an alternator in charge.
They are for planning; what is measured on the car belongs to the fields that ask for it.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

#: V of the control unit's own supply for sensors.
FIVE_VOLT = 5.0

KeyState = Literal["off", "accessory", "run", "prime", "crank", "idle", "full", "night"]
Position = Literal["off", "accessory", "run", "start"]
#: What may be switched on in a state: the key's contacts, relays, what draws without a relay of its own; the alternator's field fed from outside, or by itself.
Switched = Literal["ignition", "main", "pump", "fan", "starter", "field", "charging"]
Engine = Literal["still", "cranking", "idle", "cruise", "full"]


@dataclass(frozen=True, slots=True)
class State:
    """A state: the key's position, volts at the posts, what is switched on, what the engine does."""

    key: KeyState
    word: str
    position: Position
    posts_v: float
    on: frozenset[Switched]
    engine: Engine


REST_V = 12.4  # a charged battery at rest, key on
CRANK_V = 10.0  # at the posts while the starter turns
NOT_TURNED = 0.3  # V that a starter takes off the battery at the very least
CHARGING_V = 13.8  # alternator in charge, hot
TIRED_V = 11.8  # a tired battery with the charging gone


def _state(key: KeyState, word: str, position: Position, volts: float, on: tuple[Switched, ...], engine: Engine = "still") -> State:
    return State(key, word, position, volts, frozenset(on), engine)


#: In the order in which a key and an engine pass through them.
STATES: dict[KeyState, State] = {
    s.key: s
    for s in (
        _state("off", "key off", "off", REST_V, ()),
        _state("accessory", "key at accessory", "accessory", REST_V, ()),
        _state("run", "key at run, prime over", "run", REST_V, ("ignition", "main", "field")),
        _state("prime", "key just turned on, pump priming", "run", REST_V, ("ignition", "main", "pump", "field")),
        _state("crank", "starter turning", "start", CRANK_V, ("ignition", "main", "pump", "starter", "field"), "cranking"),
        _state("idle", "idling, fan on", "run", CHARGING_V, ("ignition", "main", "pump", "fan", "charging"), "idle"),
        _state("full", "full power, fan on", "run", CHARGING_V, ("ignition", "main", "pump", "fan", "charging"), "full"),
        _state("night", "driving at night, fan on", "run", CHARGING_V, ("ignition", "main", "pump", "fan", "charging"), "cruise"),
    )
}
ORDER: tuple[KeyState, ...] = tuple(STATES)
#: Volts that a circuit is planned for: its allowed drop is a share of them.
SYSTEM_VOLTS = STATES["full"].posts_v
CRANK_SPEED = 200 / 60  # rev/s, a starter on a cold engine
