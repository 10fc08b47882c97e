"""How many small changes of a constant the tests notice: `python -m bench.mutants [how many] [seed]`.

A constant of the core, or of its reference data, is made five per cent larger in a copy of the program; what is kept of the cars is held against it first,
then the tests that name its module, the limits that findings turn at, every test of the core and of the stand-ins. A change that no test notices is printed with its place.
As many copies as there are cores are tried side by side, each by one process, and each is left at its first failure.
"""

from __future__ import annotations

import ast
import os
import pathlib
import random
import re
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from queue import SimpleQueue

ROOT = pathlib.Path(__file__).resolve().parents[1]
CORE = pathlib.Path("uphill_spark/core")
LARGER = 1.05
#: Calls whose numbers are no physics: how long a list or text may be, how much is remembered, how many digits are kept, where a row of random numbers begins.
NO_PHYSICS = {"lru_cache", "round", "Field", "range", "linspace", "zeros", "brentq", "default_rng", "Random"}
#: In these a number as small as that only keeps a divisor from nought.
KEEPS_OFF, NOUGHT = {"max", "maximum", "fmax"}, 1e-3
NO_WORDS = {"max_length", "min_length", "maxsize", "xtol"}
#: Constants that only say when a solver may rest.
NO_NAMES = {"SETTLED"}


@dataclass(frozen=True)
class Constant:
    """A number in a file: where it stands and how it is written."""

    file: pathlib.Path
    line: int
    column: int
    written: str

    def larger(self) -> str:
        """The same, five per cent larger; a whole number stays one."""
        value = float(self.written.replace("_", ""))
        if re.fullmatch(r"[\d_]+", self.written):
            return str(max(round(value * LARGER), int(value) + 1))
        return repr(value * LARGER)


def in_python(file: pathlib.Path) -> Iterator[Constant]:
    """Numbers of a module that could be physics: fractions, and whole numbers from 5 on, but not what only bounds memory or text."""
    text = (ROOT / file).read_text()
    tree = ast.parse(text)
    passed: set[ast.AST] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Call) and getattr(node.func, "id", getattr(node.func, "attr", "")) in NO_PHYSICS:
            passed |= {n for a in (*node.args, *node.keywords) for n in ast.walk(a)}
        if isinstance(node, ast.Call) and getattr(node.func, "id", getattr(node.func, "attr", "")) in KEEPS_OFF:
            passed |= {a for a in node.args if isinstance(a, ast.Constant) and isinstance(a.value, float) and a.value < NOUGHT}
        if isinstance(node, ast.keyword) and node.arg in NO_WORDS:
            passed |= set(ast.walk(node))
        if isinstance(node, ast.Assign) and {getattr(t, "id", "") for t in node.targets} & NO_NAMES:
            passed |= set(ast.walk(node))
        if isinstance(node, ast.Compare) and isinstance(node.left, ast.Call) and getattr(node.left.func, "id", "") == "len":
            passed |= set(ast.walk(node))  # how long a text or list may be
        if isinstance(node, ast.Subscript):
            passed |= set(ast.walk(node.slice))
        if isinstance(node, ast.JoinedStr):
            passed |= set(ast.walk(node))
    lines = text.splitlines()
    for node in ast.walk(tree):
        if not isinstance(node, ast.Constant) or node in passed or isinstance(node.value, bool) or not isinstance(node.value, (int, float)):
            continue
        if abs(node.value) < 5 if isinstance(node.value, int) else node.value in (0.0, 1.0, 2.0):
            continue
        written = lines[node.lineno - 1].encode()[node.col_offset : node.end_col_offset].decode()
        if re.fullmatch(r"[\d_.]+(e-?\d+)?", written):
            yield Constant(file, node.lineno, len(lines[node.lineno - 1].encode()[: node.col_offset].decode()), written)


def in_toml(file: pathlib.Path) -> Iterator[Constant]:
    """Numbers of a table of reference data."""
    for n, line in enumerate((ROOT / file).read_text().splitlines(), 1):
        line = re.sub(r'"[^"]*"', lambda words: "." * len(words[0]), line)  # what is told in words is no number to reckon with
        for found in re.finditer(r"(?<=[=\[, ])\d+\.?\d*(?=[,\] ]|$)", line.split(" #")[0]):
            if float(found[0]) != 0:
                yield Constant(file, n, found.start(), found[0])


def constants() -> list[Constant]:
    """Every constant that may be changed."""
    python = [c for f in sorted((ROOT / CORE).rglob("*.py")) for c in in_python(f.relative_to(ROOT))]
    return python + [c for f in sorted((ROOT / CORE).rglob("*.toml")) for c in in_toml(f.relative_to(ROOT))]


def caught(copy: pathlib.Path, one: Constant) -> str | None:
    """What noticed the change, None if nothing did."""
    file = copy / one.file
    before = file.read_text()
    lines = before.splitlines(keepends=True)
    line = lines[one.line - 1]
    lines[one.line - 1] = line[: one.column] + one.larger() + line[one.column + len(one.written) :]
    file.write_text("".join(lines))
    try:
        return failing(copy, one.file)
    finally:
        file.write_text(before)


def naming(file: pathlib.Path) -> tuple[str, ...]:
    """The modules of tests in which a module of the core is named."""
    word = re.compile(rf"\b{file.parent.name if file.stem == '__init__' else file.stem}\b")
    found = (f for folder in ("core", "standin") for f in sorted((ROOT / "tests" / folder).glob("test_*.py")) if word.search(f.read_text()))
    return tuple(f"{f.parent.name}.{f.stem}." for f in found if f.stem != "test_golden")


def failing(copy: pathlib.Path, file: pathlib.Path | None = None) -> str | None:
    """The first test class that fails in a copy of the program, the quick ones first, then those that name the `file` that was changed."""
    first = naming(file) if file else ()
    for parts in (
        ("test_golden.Golden", "test_golden.Tables", "test_golden.Faults"),
        first,
        ("Limits.test_what_turns",),
        ("tests.core", "tests.standin"),
    ):
        if not parts:
            continue
        deep = ["--deep"] if parts[0].startswith("Limits") else []
        ran = subprocess.run(
            [sys.executable, "-m", "tests.run", "--stop", *deep, *parts],
            cwd=copy,
            capture_output=True,
            text=True,
            env={**os.environ, "UPHILL_SPARK_TEST_PROCESSES": "1"},
        )
        if ran.returncode:
            failed = re.findall(r"^  (\S+):.*FAILED", ran.stdout, re.M)
            return failed[0] if failed else parts[0]
    return None


def copied(folder: pathlib.Path) -> pathlib.Path:
    """The program as it is kept, in a folder of its own."""
    for name in subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True).stdout.splitlines():
        (folder / name).parent.mkdir(parents=True, exist_ok=True)
        shutil.copy(ROOT / name, folder / name)
    return folder


def main(many: int = 30, seed: int = 1) -> int:
    chosen = random.Random(seed).sample(found := constants(), many)
    print(f"{len(found)} constants; {many} of them 5 % larger, seed {seed}", flush=True)
    lanes = os.cpu_count() or 2
    with tempfile.TemporaryDirectory() as folder, ThreadPoolExecutor(lanes) as side_by_side:
        copies: SimpleQueue[pathlib.Path] = SimpleQueue()
        for n in range(lanes):
            copies.put(copied(pathlib.Path(folder) / str(n)))

        def tried(one: Constant | None) -> str | None:
            copy = copies.get()
            try:
                return caught(copy, one) if one else failing(copy)
            finally:
                copies.put(copy)

        unchanged = side_by_side.submit(tried, None)
        waiting = [(one, side_by_side.submit(tried, one)) for one in chosen]
        if (broken := unchanged.result()) is not None:
            side_by_side.shutdown(cancel_futures=True)
            print(f"Nothing can be told: {broken} fails with no change at all.")
            return 1
        noticed = 0
        for one, result in waiting:
            by = result.result()
            noticed += by is not None
            print(f"  {one.file.relative_to(CORE)}:{one.line}  {one.written} -> {one.larger()}  {by or 'NOT NOTICED'}", flush=True)
    print(f"{noticed} of {many} noticed")
    return 0


if __name__ == "__main__":
    sys.exit(main(*map(int, sys.argv[1:])))
