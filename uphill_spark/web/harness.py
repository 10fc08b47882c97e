"""The harness asked by a meter: its terminals, a reading between two of them, what would explain readings, the solved circuit as a file."""

from __future__ import annotations

from flask import Response

from ..core.circuit.diagram import diagram, names
from ..core.circuit.electric import Electric
from ..core.circuit.faces import faces
from ..core.circuit.faults import Explained, Taken, Tester
from ..core.circuit.flows import Flows, flows
from ..core.circuit.live import Live
from ..core.circuit.meter import Reading, read, terminals
from ..core.circuit.netlist import part_name, terminal_name
from ..core.circuit.states import STATES
from ..core.circuit.trace import Traced, traced
from ..core.errors import BuildError, Problem, UnitError
from ..core.units import bare_number, si
from ..formats import spice
from .door import attachment, json_answer, opened
from .harness_models import (
    BoardQuery,
    CircuitQuery,
    Circuits,
    DiagramQuery,
    Faces,
    KeyWord,
    MeterQuery,
    ReadingsTyped,
    Terminal,
    Terminals,
    TraceQuery,
)
from .interface import Interface
from .models import BuildPath

api = Interface("harness", __name__, "/api/builds/<uuid:build_id>")


def _circuit(path: BuildPath, revision: int | None) -> Electric:
    return opened(path.build_id, revision).standing.worked.circuit


@api.get(
    "/harness/terminals",
    responses={200: Terminals},
    summary="Every place for a lead with what a meter shows there, and the positions of the key",
)
def leads(path: BuildPath, query: BoardQuery) -> Response:
    circuit = _circuit(path, query.revision)
    live = Live(circuit, query.state, plugged=query.plugged)
    shown = live.metered()
    found = [
        Terminal(
            key=key, name=terminal_name(key), pin=key.partition(".")[2], part=part_name(key), volts=round(float(shown[live.nodes[key]]), 3)
        )
        for key in terminals(circuit)
    ]
    states = [KeyWord(key=s.key, word=s.word) for s in STATES.values()]
    return json_answer(Terminals(terminals=found, states=states).model_dump_json())


@api.get("/harness/meter", responses={200: Reading}, summary="What a meter shows between two terminals")
def meter(path: BuildPath, query: MeterQuery) -> Response:
    circuit = _circuit(path, query.revision)
    _known(circuit, [("red", query.red), ("black", query.black)])
    return json_answer(read(circuit, query.red, query.black, query.state, query.quantity, plugged=query.plugged).model_dump_json())


@api.post(
    "/harness/explain", responses={200: Explained}, summary="What would show these readings, likeliest first, and what to measure next"
)
def explain(path: BuildPath, body: ReadingsTyped) -> Response:
    circuit = _circuit(path, body.revision)
    readings, problems = [], []
    for i, row in enumerate(body.readings):
        _known(circuit, [(f"readings/{i}/red", row.red), (f"readings/{i}/black", row.black)])
        try:
            text = row.volts.strip()
            volts = si(f"{text} V" if bare_number(text, signed=True) else text, "voltage")
            readings.append(Taken(red=row.red, black=row.black, state=row.state, volts=volts))
        except UnitError as error:
            problems.append(Problem(f"readings/{i}/volts", row.volts, str(error)))
    if problems:
        raise BuildError("A reading cannot be read.", tuple(problems))
    return json_answer(Tester(circuit).explain(readings).model_dump_json())


@api.get("/harness/circuits", responses={200: Circuits}, summary="Every circuit, and one of them as it is drawn")
def circuits(path: BuildPath, query: DiagramQuery) -> Response:
    circuit = _circuit(path, query.revision)
    there = names(circuit)
    key = query.key or there[0].key
    if key not in [c.key for c in there]:
        raise BuildError("There is no such circuit.", (Problem("key", key, f"one of {', '.join(c.key for c in there)}"),))
    return json_answer(Circuits(circuits=there, drawn=diagram(circuit, key, query.state)).model_dump_json())


@api.get("/harness/flows", responses={200: Flows}, summary="Amps in every branch and wire, volts at every part, in a position of the key")
def flowing(path: BuildPath, query: CircuitQuery) -> Response:
    return json_answer(flows(_circuit(path, query.revision), query.state).model_dump_json())


@api.get(
    "/harness/trace",
    responses={200: Traced},
    summary="A wire from what feeds it to its ground, with every fuse, contact and plug on its way",
)
def trace(path: BuildPath, query: TraceQuery) -> Response:
    circuit = _circuit(path, query.revision)
    if query.wire not in circuit.made:
        raise BuildError(
            "There is no such wire.", (Problem("wire", query.wire, "a wire of this harness, by its name in the wire list, like pump_feed"),)
        )
    return json_answer(traced(circuit, query.wire, query.state).model_dump_json())


@api.get("/harness/faces", responses={200: Faces}, summary="Every plug: which wire goes into which place, and what a meter shows there")
def plug_faces(path: BuildPath, query: CircuitQuery) -> Response:
    return json_answer(Faces(faces=faces(_circuit(path, query.revision), query.state)).model_dump_json())


@api.get("/papers/harness.cir", summary="The solved circuit in one position of the key, for a circuit simulator")
def circuit_file(path: BuildPath, query: CircuitQuery) -> Response:
    found = opened(path.build_id, query.revision)
    written = spice.write(found.standing.worked.circuit, query.state, found.row.name)
    return Response(written, mimetype="text/plain", headers=attachment(found.row.name, f"{query.state}.cir"))


def _known(circuit: Electric, leads: list[tuple[str, str]]) -> None:
    """Raises BuildError naming a lead that is put where there is no terminal."""
    there = set(terminals(circuit))
    wrong = tuple(Problem(at, key, "a terminal of this harness, like battery.plus") for at, key in leads if key not in there)
    if wrong:
        raise BuildError("There is no such terminal.", wrong)
