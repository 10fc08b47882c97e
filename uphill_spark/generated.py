"""What is written from the code: the build file's schema, the list of figures and findings, the description that the page's types come from."""

from __future__ import annotations

import json
import sys
from pathlib import Path

from .core.findings import CHECKS
from .core.given import json_schema
from .core.worked import SPECS, STAGE_OF
from .web import create_app

ROOT = Path(__file__).resolve().parents[1]


def schema_text() -> str:
    """docs/build-file.schema.json: the build file as JSON Schema."""
    return json.dumps(json_schema(), indent=2, ensure_ascii=False) + "\n"


def figures_text() -> str:
    """docs/figures.md: every published figure and every check."""
    lines = [
        "# Figures and findings",
        "",
        "Written by `./spark generate`; do not edit. Names and units stay once published.",
        "`spark plan FILE --json` prints them under `figures` and `findings`.",
        "",
        "## Figures",
        "",
        "| name | unit | what it is | stage | rests on | source |",
        "|---|---|---|---|---|---|",
    ]
    lines += [
        f"| `{s.name}` | {s.unit} | {s.label} | {STAGE_OF[s.name]} | {', '.join(f'`{u}`' for u in s.uses)} | {s.source} |"
        for s in SPECS.values()
    ]
    lines += ["", "## Findings", "", "| code | about | place | figure | source |", "|---|---|---|---|---|"]
    lines += [
        f"| {c.code} | {c.title} | `{c.at}` | {f'`{c.figure}`' if c.figure else ''} | {c.source} |"
        for c in sorted(CHECKS, key=lambda c: c.code)
    ]
    return "\n".join(lines) + "\n"


def openapi_text() -> str:
    """frontend/openapi.json: the web interface as the page's client is made from."""
    app = create_app("postgresql+psycopg://nobody@127.0.0.1:1/none", described=True)
    described = json.loads(json.dumps(app.api_doc))
    if described["components"].get("securitySchemes") is None:  # where there is none, none may stand there
        described["components"].pop("securitySchemes", None)
    return json.dumps(described, indent=1, ensure_ascii=False) + "\n"


FILES = {"docs/build-file.schema.json": schema_text, "docs/figures.md": figures_text, "frontend/openapi.json": openapi_text}


def stale() -> list[str]:
    """Files that do not say what the code says."""
    return [name for name, text in FILES.items() if not (ROOT / name).is_file() or (ROOT / name).read_text() != text()]


def main(arguments: list[str]) -> int:
    """Write the generated files, or tell which of them are old."""
    if arguments == ["write"]:
        for name, text in FILES.items():
            (ROOT / name).write_text(text())
        return 0
    old = stale()
    for name in old:
        print(f"{name} is not up to date; run ./spark generate", file=sys.stderr)
    return 1 if old else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
