"""`spark plan`, `spark meter`, `spark harness`: what a build file says, with no database and no server."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path
from typing import Any

from .core.asked import Trial, with_turns
from .core.asked.turns import turns
from .core.circuit.meter import Quantity, read, terminals
from .core.circuit.states import ORDER
from .core.errors import SparkError
from .core.given import Build
from .core.plan import evaluated
from .core.worked import work_out
from .formats import build_file, plan_text, spice


def main(arguments: list[str] | None = None) -> int:
    """Exit 0 whatever the findings, 2 on a file or a terminal that cannot be taken."""
    given = sys.argv[1:] if arguments is None else arguments
    asked = given[0] if given and given[0] in _ASKED else "plan"
    parser = argparse.ArgumentParser(prog=f"spark {asked}", description=_ASKED[asked][0])
    parser.add_argument("file", help="a build file (JSON), or - for standard input")
    _ASKED[asked][1](parser)
    chosen = parser.parse_args(given[1:] if given[:1] == [asked] else given)
    try:
        data = sys.stdin.buffer.read() if chosen.file == "-" else Path(chosen.file).read_bytes()
    except OSError as error:
        print(f"{chosen.file}: {error.strerror or 'cannot be read'}. Give the path of a build file.", file=sys.stderr)
        return 2
    try:
        document, build = build_file.read(data)
        print(_ASKED[asked][2](chosen, document, build))
    except SparkError as error:
        print(f"{chosen.file}: {error}", file=sys.stderr)
        return 2
    except KeyError as error:
        print(
            f"No terminal {error.args[0]!r} in this harness. There are: {', '.join(terminals(work_out(build).circuit))}.", file=sys.stderr
        )
        return 2
    return 0


def _plan(chosen: argparse.Namespace, document: dict[str, Any], build: Build) -> str:
    stands = evaluated(build)
    plan = with_turns(stands.plan, turns(Trial(document, stands)))
    return plan.model_dump_json(indent=1) if chosen.json else plan_text.write(plan)


def _meter(chosen: argparse.Namespace, document: dict[str, Any], build: Build) -> str:
    circuit = work_out(build).circuit
    quantity: Quantity = "ohms" if chosen.ohms else "amps" if chosen.amps else "volts"
    return read(circuit, chosen.red, chosen.black, chosen.state, quantity, plugged=not chosen.unplugged).says


def _harness(chosen: argparse.Namespace, document: dict[str, Any], build: Build) -> str:
    return spice.write(work_out(build).circuit, chosen.state, build.name)


def _plan_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--json", action="store_true", help="print the plan as JSON")


def _state(parser: argparse.ArgumentParser, usual: str) -> None:
    parser.add_argument("--state", choices=ORDER, default=usual, help=f"position of the key, {usual} if not given")


def _meter_options(parser: argparse.ArgumentParser) -> None:
    _state(parser, "run")
    parser.add_argument("--red", required=True, help="terminal of the red lead, like unit.A1 or pump.plus")
    parser.add_argument("--black", default="battery.minus", help="terminal of the black lead, battery minus if not given")
    what = parser.add_mutually_exclusive_group()
    what.add_argument("--ohms", action="store_true", help="ohms, key and battery off, in place of volts")
    what.add_argument("--amps", action="store_true", help="amps through the meter, as from a fuse's blade to a relay's 87")
    parser.add_argument("--unplugged", action="store_true", help="with the control unit's plug off")


_ASKED: dict[str, tuple[str, Any, Any]] = {
    "plan": ("Work a build file out: figures, findings, stages.", _plan_options, _plan),
    "meter": ("A meter between two terminals of the harness.", _meter_options, _meter),
    "harness": ("The solved harness as a circuit file for a simulator.", lambda parser: _state(parser, "full"), _harness),
}

if __name__ == "__main__":
    sys.exit(main())
