"""Requests and answers of the harness: terminals, a meter, readings, circuits."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from ..core.circuit.diagram import CircuitName, Diagram
from ..core.circuit.faces import Face
from ..core.circuit.meter import Quantity
from ..core.circuit.states import KeyState
from .models import Number, PaperQuery, Strict

TerminalKey = Annotated[str, Field(max_length=80)]


class CircuitQuery(PaperQuery):
    """In which position of the key."""

    state: KeyState = "full"


class DiagramQuery(CircuitQuery):
    """Which circuit; the first if not given."""

    key: Annotated[str, Field(max_length=80)] = ""


class TraceQuery(CircuitQuery):
    """Which wire."""

    wire: Annotated[str, Field(max_length=80)]


class Faces(BaseModel):
    """Every plug."""

    faces: list[Face]


class Circuits(BaseModel):
    """Circuits by name, and the one that was asked for."""

    circuits: list[CircuitName]
    drawn: Diagram


class BoardQuery(PaperQuery):
    """In which position of the key, with the control unit's plug on or off."""

    state: KeyState = "run"
    plugged: bool = True


class MeterQuery(PaperQuery):
    """Two leads on two terminals, what is measured, in which position of the key, with the control unit's plug on or off."""

    red: TerminalKey
    black: TerminalKey = "battery.minus"
    state: KeyState = "run"
    quantity: Quantity = "volts"
    plugged: bool = True


class Terminal(BaseModel):
    """A place for a lead: its key, in words, its pin, the part that it belongs to, and what a meter shows on it against battery minus [V]."""

    key: str
    name: str
    pin: str
    part: str
    volts: float


class KeyWord(BaseModel):
    """A position of key and engine, in words."""

    key: KeyState
    word: str


class Terminals(BaseModel):
    """Where a lead can be put, and the positions of the key."""

    terminals: list[Terminal]
    states: list[KeyWord]


class ReadingTyped(Strict):
    """A reading as it was typed: red against black, in a position of the key."""

    red: TerminalKey
    black: TerminalKey = "battery.minus"
    state: KeyState
    volts: Annotated[str, Field(max_length=40)]


class ReadingsTyped(Strict):
    """Readings to be explained, of a revision of the build; the newest if not given."""

    revision: Number | None = None
    readings: Annotated[list[ReadingTyped], Field(min_length=1, max_length=40)]
