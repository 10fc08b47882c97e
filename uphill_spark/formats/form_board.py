"""The form board: the harness's branches at true length, laid on a plane, as one SVG to full size, and as sheets to glue together (A4 or A3).

The tree of branches is walked from the firewall; each branch is laid off from where the last ended, by the direction nearest to that on the car and by the
length that was measured.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import networkx
from markupsafe import Markup, escape

from ..core.plan import Plan
from ..core.stages.wiring import BranchRow
from .printing import Printer, to_pdf

MARGIN = 60.0  # mm about the whole
PAPERS = {"a4": (277.0, 190.0), "a3": (400.0, 277.0)}  # mm of a sheet that are printed on, lying
LAP = 10.0  # mm by which sheets lie over each other
_FROM = "firewall"
_TURN = math.pi / 4  # branches are laid at eighths of a turn: pegs and rulers agree on those
_STEP = 100.0  # mm between marks along a branch


@dataclass(frozen=True, slots=True)
class Laid:
    """Places [mm] of the harness on the board, its branches in the order laid, and the board's size [mm]."""

    places: dict[str, tuple[float, float]]
    branches: list[BranchRow]
    width: float
    height: float


def laid(plan: Plan) -> Laid:
    """The harness laid out."""
    w = plan.stages.wiring
    on_car = {n.key: (n.x_m, n.y_m) for n in w.nodes}
    graph: networkx.Graph[str] = networkx.Graph()
    for b in w.branches:
        graph.add_edge(b.start, b.end, key=b.key)
    by_key = {b.key: b for b in w.branches}
    root = _FROM if _FROM in graph else next(iter(graph))
    at: dict[str, tuple[float, float]] = {root: (0.0, 0.0)}
    done: list[BranchRow] = []
    queue = [root]
    while queue:
        here = queue.pop(0)
        for there, key in sorted(((n, graph[here][n]["key"]) for n in graph[here]), key=lambda e: e[1]):
            b = by_key[key]
            if there in at:
                continue
            x, y = on_car[there][0] - on_car[here][0], -(on_car[there][1] - on_car[here][1])
            turn = round(math.atan2(y, x) / _TURN) * _TURN
            length = b.length_m * 1e3
            at[there] = (at[here][0] + math.cos(turn) * length, at[here][1] + math.sin(turn) * length)
            done.append(b)
            queue.append(there)
    left, top = min(x for x, _ in at.values()), min(y for _, y in at.values())
    places = {key: (x - left + MARGIN, y - top + MARGIN) for key, (x, y) in at.items()}
    width, height = max(x for x, _ in places.values()) + MARGIN, max(y for _, y in places.values()) + MARGIN
    return Laid(places, done, width, height)


def svg(plan: Plan) -> str:
    """The whole board to full size: one unit is a millimetre."""
    board = laid(plan)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{board.width:.1f}mm" height="{board.height:.1f}mm" viewBox="0 0 {board.width:.1f} {board.height:.1f}">'
        f"{drawn(plan, board)}</svg>\n"
    )


def drawn(plan: Plan, board: Laid) -> Markup:
    """Branches, marks every 100 mm, places with their names, wires in each branch."""
    names = {n.key: n.name for n in plan.stages.wiring.nodes}
    parts = [Markup("<g font-family=\"'Atkinson Hyperlegible Next', sans-serif\" font-size='9' fill='#1b1a17'>")]
    for b in board.branches:
        (x1, y1), (x2, y2) = board.places[b.start], board.places[b.end]
        thick = max(b.diameter_m * 1e3, 1.0)
        parts.append(
            Markup(
                f"<line x1='{x1:.1f}' y1='{y1:.1f}' x2='{x2:.1f}' y2='{y2:.1f}' stroke='#cfc6b2' stroke-width='{thick:.1f}' stroke-linecap='round'/>"
            )
        )
        parts.append(Markup(f"<line x1='{x1:.1f}' y1='{y1:.1f}' x2='{x2:.1f}' y2='{y2:.1f}' stroke='#1b1a17' stroke-width='0.6'/>"))
        long = math.hypot(x2 - x1, y2 - y1) or 1.0
        nx, ny = -(y2 - y1) / long, (x2 - x1) / long
        for k in range(1, int(long // _STEP) + 1):
            mx, my = x1 + (x2 - x1) * k * _STEP / long, y1 + (y2 - y1) * k * _STEP / long
            parts.append(
                Markup(
                    f"<line x1='{mx - nx * 5:.1f}' y1='{my - ny * 5:.1f}' x2='{mx + nx * 5:.1f}' y2='{my + ny * 5:.1f}' stroke='#1b1a17' stroke-width='0.4'/>"
                )
            )
        if nx < 0 or (nx == 0 and ny > 0):
            nx, ny = -nx, -ny
        tx, ty = (x1 + x2) / 2 + nx * (thick / 2 + 5), (y1 + y2) / 2 + ny * (thick / 2 + 5)
        anchor = "middle" if abs(nx) < 0.2 else "start"
        words = f"{b.length_m * 1e3:.0f} mm, {b.wires} wires, {b.diameter_m * 1e3:.0f} mm thick"
        parts.append(Markup(f"<text x='{tx:.1f}' y='{ty:.1f}' text-anchor='{anchor}'>") + escape(words) + Markup("</text>"))
    for key, (x, y) in board.places.items():
        parts.append(Markup(f"<circle cx='{x:.1f}' cy='{y:.1f}' r='6' fill='#fff' stroke='#1b1a17' stroke-width='1'/>"))
        parts.append(
            Markup(f"<text x='{x + 9:.1f}' y='{y - 9:.1f}' font-size='13' font-weight='600'>") + escape(names[key]) + Markup("</text>")
        )
    parts.append(Markup("</g>"))
    return Markup("").join(parts)


@dataclass(frozen=True, slots=True)
class Tile:
    """A sheet of the board: its name by row and column, and the piece [mm] that it shows."""

    name: str
    x: float
    y: float
    width: float
    height: float


def tiles(board: Laid, paper: str) -> list[Tile]:
    """The sheets on which something lies, row by row. Raises KeyError for a paper that is not one."""
    width, height = PAPERS[paper]
    across, down = width - LAP, height - LAP
    found = []
    for row in range(math.ceil(board.height / down)):
        for column in range(math.ceil(board.width / across)):
            tile = Tile(f"{chr(65 + row)}{column + 1}", column * across, row * down, width, height)
            if any(_crosses(tile, board.places[b.start], board.places[b.end]) for b in board.branches):
                found.append(tile)
    return found


def _crosses(tile: Tile, a: tuple[float, float], b: tuple[float, float]) -> bool:
    """Whether a line passes a sheet, looked at every 5 mm."""
    steps = max(int(math.hypot(b[0] - a[0], b[1] - a[1]) / 5), 1)
    for k in range(steps + 1):
        x, y = a[0] + (b[0] - a[0]) * k / steps, a[1] + (b[1] - a[1]) * k / steps
        if tile.x - 2 <= x <= tile.x + tile.width + 2 and tile.y - 2 <= y <= tile.y + tile.height + 2:
            return True
    return False


def html(plan: Plan, paper: str) -> str:
    """The sheets as a page: each at full size, with marks to glue by and the names of its neighbours."""
    board = laid(plan)
    inside = drawn(plan, board)
    pages = []
    for t in tiles(board, paper):
        marks = "".join(
            f"<path d='M{x - 6} {y}H{x + 6}M{x} {y - 6}V{y + 6}' stroke='#1b1a17' stroke-width='0.3'/>"
            for x in (t.x + LAP / 2, t.x + t.width - LAP / 2)
            for y in (t.y + LAP / 2, t.y + t.height - LAP / 2)
        )
        pages.append(
            f"<section><svg width='{t.width}mm' height='{t.height}mm' viewBox='{t.x:.1f} {t.y:.1f} {t.width} {t.height}'>{inside}{marks}"
            f"<text x='{t.x + 14:.1f}' y='{t.y + t.height - 4:.1f}' font-size='7'>{t.name}: glue crosses on crosses, {LAP:.0f} mm lap; the line is {_STEP:.0f} mm from mark to mark</text></svg></section>"
        )
    return (
        f"<!doctype html><html lang='en'><head><meta charset='utf-8'><title>Form board: {escape(plan.name)}</title><style>@page {{ size: {paper} landscape; margin: 10mm }}"
        f" body {{ margin: 0 }} section {{ break-after: page }} svg {{ display: block }}</style></head><body>{''.join(pages)}</body></html>"
    )


def pdf(plan: Plan, paper: str, printer: Printer = to_pdf) -> bytes:
    """The sheets as PDF, A4 or A3 lying."""
    return printer(html(plan, paper)).data
