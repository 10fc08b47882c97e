"""A page of our own as PDF (A4), and what came to lie on which sheet."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from io import BytesIO
from typing import Any

#: Where a page says that its letters are: a browser that reads it asks our server there, the printer takes them out of the package.
FONTS_AT = "/api/papers/fonts/"
#: Whose page it is, for the printer; nobody is asked there.
_HOUSE = "http://paper.invalid"


@dataclass(frozen=True, slots=True)
class Printed:
    """A paper: its PDF, and for each of its sheets the ids of what lies on it."""

    data: bytes
    sheets: tuple[frozenset[str], ...]


#: Prints a page: here, or in a process apart.
Printer = Callable[[str], Printed]


@lru_cache(maxsize=16)
def font(name: str) -> bytes | None:
    """The letters of the papers by their file's name (WOFF2); None where there are none of that name."""
    found = {file.name: file for file in files("uphill_spark.formats").joinpath("fonts").iterdir()}
    return found[name].read_bytes() if name.endswith(".woff2") and name in found else None


@lru_cache(maxsize=16)
def _unpacked(name: str) -> bytes | None:
    """The same letters as the printer needs them, unpacked once, and not for every paper: a tenth of a long one, more of a short one."""
    from fontTools.ttLib import woff2

    packed = font(name)
    if packed is None:
        return None
    found = BytesIO()
    woff2.decompress(BytesIO(packed), found)
    return found.getvalue()


#: Letters that the plain faces have not.
_BEYOND = re.compile("[\u0100-\u024f\u1e00-\u1eff]")


@lru_cache(maxsize=1)
def _letters_beyond() -> str:
    """Where the style of the papers names the faces that have them."""
    return files("uphill_spark.formats").joinpath("templates", "letters-ext.css").read_text()


def to_pdf(page: str) -> Printed:
    """Print a page. It may fetch nothing but the letters: raises weasyprint's FatalURLFetchingError where it would."""
    from weasyprint import HTML  # heavy, and needed only when a sheet is printed
    from weasyprint.urls import URLFetcher, URLFetcherResponse

    class House(URLFetcher):  # type: ignore[misc]
        """Pictures written into the page itself, letters out of the package, and nothing from anywhere else."""

        def fetch(self, url: str, headers: Any = None) -> Any:
            data = _unpacked(url.removeprefix(_HOUSE + FONTS_AT)) if url.startswith(_HOUSE + FONTS_AT) else None
            return URLFetcherResponse(url, data, {"Content-Type": "font/ttf"}) if data is not None else super().fetch(url, headers)

    if not _BEYOND.search(page):
        page = page.replace(_letters_beyond(), "")  # what no letter asks for need not be read: it is a seventh of the time
    laid_out = HTML(string=page, base_url=_HOUSE, url_fetcher=House(allowed_protocols=("data",), fail_on_errors=True)).render()
    written: bytes = laid_out.write_pdf()
    return Printed(written, tuple(frozenset(sheet.anchors) for sheet in laid_out.pages))
