"""`spark plan FILE`: the plan of a build file, with no database and no server."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

from .core.asked import Trial, with_turns
from .core.asked.turns import turns
from .core.errors import SparkError
from .core.plan import evaluated
from .formats import build_file, plan_text


def main(arguments: list[str] | None = None) -> int:
    """Exit 0 whatever the findings, 2 on a file that cannot be taken."""
    parser = argparse.ArgumentParser(prog="spark plan", description="Work a build file out: figures, findings, stages.")
    parser.add_argument("file", help="a build file (JSON), or - for standard input")
    parser.add_argument("--json", action="store_true", help="print the plan as JSON")
    given = parser.parse_args(arguments)
    try:
        data = sys.stdin.buffer.read() if given.file == "-" else Path(given.file).read_bytes()
    except OSError as error:
        print(f"{given.file}: {error.strerror or 'cannot be read'}. Give the path of a build file.", file=sys.stderr)
        return 2
    try:
        document, build = build_file.read(data)
        stands = evaluated(build)
        plan = with_turns(stands.plan, turns(Trial(document, stands)))
    except SparkError as error:
        print(f"{given.file}: {error}", file=sys.stderr)
        return 2
    print(plan.model_dump_json(indent=1) if given.json else plan_text.write(plan))
    return 0


if __name__ == "__main__":
    sys.exit(main())
