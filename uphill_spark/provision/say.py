"""What the commands print, and how they fail: one line, and the mend."""

from __future__ import annotations

import subprocess
import sys
import time
from pathlib import Path


class Trouble(Exception):
    """A step that did not work. The message says what and what to do about it."""


def step(text: str) -> None:
    """Tell a person what is being done."""
    print(f"· {text}", flush=True)


def run(command: list[str], doing: str, mend: str, *, log: Path, cwd: Path | None = None, env: dict[str, str] | None = None) -> None:
    """Run a command with its output in a log; a dot every few seconds so that a long step shows life."""
    log.parent.mkdir(parents=True, exist_ok=True)
    step(doing)
    started = time.monotonic()
    with log.open("ab") as out:
        out.write(f"\n$ {' '.join(command)}\n".encode())
        out.flush()
        process = subprocess.Popen(command, stdout=out, stderr=subprocess.STDOUT, stdin=subprocess.DEVNULL, cwd=cwd, env=env)
        while True:
            try:
                code = process.wait(timeout=10)
                break
            except subprocess.TimeoutExpired:
                print(f"  still at it, {time.monotonic() - started:.0f} s", flush=True)
    if code != 0:
        tail = log.read_text(errors="replace").strip().splitlines()[-8:]
        print("\n".join(f"    {line}" for line in tail), file=sys.stderr)
        raise Trouble(f"{doing}: failed with code {code}. {mend} The whole output is in {log}.")
