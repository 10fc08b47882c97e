"""A page of our own as PDF (A4), and what came to lie on which sheet."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Printed:
    """A paper: its PDF, and for each of its sheets the ids of what lies on it."""

    data: bytes
    sheets: tuple[frozenset[str], ...]


#: Prints a page: here, or in a process apart.
Printer = Callable[[str], Printed]


def to_pdf(page: str) -> Printed:
    """Print a page. It may fetch nothing: raises weasyprint's FatalURLFetchingError where it would."""
    from weasyprint import HTML  # heavy, and needed only when a sheet is printed
    from weasyprint.urls import URLFetcher

    # Pictures written into the page itself, and nothing from anywhere else.
    laid_out = HTML(string=page, base_url=None, url_fetcher=URLFetcher(allowed_protocols=("data",), fail_on_errors=True)).render()
    written: bytes = laid_out.write_pdf()
    return Printed(written, tuple(frozenset(sheet.anchors) for sheet in laid_out.pages))
