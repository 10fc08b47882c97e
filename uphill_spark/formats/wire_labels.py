"""Labels for both ends of every wire: its name, its two ends with their pins, colour and size, a short code, and the code as a square that a phone reads."""

from __future__ import annotations

from ..core.plan import Plan
from .printing import Printer, to_pdf
from .square import square
from .start_sheet import environment


def code(number: int) -> str:
    """The short code of a wire by its number in the list, from nought.

    >>> code(0), code(56)
    ('W1', 'W57')
    """
    return f"W{number + 1}"


def html(plan: Plan, address: str) -> str:
    """Two labels a wire, to fold round it. `address` is where the page of this build is opened, without a slash behind."""
    labels = []
    for i, w in enumerate(plan.stages.wiring.wires):
        picture = square(f"{address}/wiring/tests#f/wiring/tests/{w.key}", "l")
        labels += [
            {"code": code(i), "label": w.label, "here": here, "there": there, "colour": w.colour, "size": f"{w.area_m2 * 1e6:.3g} mm²", "square": picture}
            for here, there in ((w.starts_at, w.ends_at), (w.ends_at, w.starts_at))
        ]  # fmt: skip
    return environment().get_template("wire_labels.html").render(plan=plan, labels=labels, revision="")


def pdf(plan: Plan, address: str, printer: Printer = to_pdf) -> bytes:
    """The labels as PDF, A4, to cut out."""
    return printer(html(plan, address)).data
