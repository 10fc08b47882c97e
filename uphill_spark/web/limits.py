"""How large a request may be, by where it goes: the only place."""

from __future__ import annotations

from ..formats import photo

BUILD_FILE = 2_000_000  # bytes, and every other request that is JSON
_LARGER = {"/api/photos": (photo.LARGEST, "a photograph")}


def limit(path: str) -> int:
    """The most bytes that a request to a path may carry."""
    return _LARGER[path][0] if path in _LARGER else BUILD_FILE


def limit_words(path: str) -> str:
    """The same for reading: "a photograph has at most 24 MB"."""
    most, what = _LARGER.get(path, (BUILD_FILE, "a build file"))
    return f"{what} has at most {most / 1e6:.0f} MB"
