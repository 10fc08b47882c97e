"""The square code by which a telephone finds a place in the application."""

from __future__ import annotations

from functools import lru_cache

import segno


@lru_cache(maxsize=1024)
def square(address: str, error: str = "m") -> str:
    """The code of an address as the data URI of an SVG; `error` is its level of correction (ISO/IEC 18004: l, m, q or h). Sheets are printed again with most of their codes unchanged, and making one takes ten milliseconds."""
    return str(segno.make(address, error=error).svg_data_uri(border=1, scale=1))
