"""How large a request may be, by where it goes: the only place."""

from __future__ import annotations

from ..formats import calendar_file, photo, raw_log

BUILD_FILE = 2_000_000  # bytes, and every other request that is JSON
ARCHIVE = 1_000_000_000
#: Requests whose body is a file, by what their address begins and ends with: the most bytes, and what it is.
_FILES: tuple[tuple[str, str, int, str], ...] = (
    ("/api/photos", "/photos", photo.LARGEST, "a photograph"),
    ("/api/archives", "/archives", ARCHIVE, "an archive"),
    ("/api/builds/", "/work/calendar", calendar_file.LARGEST, "a calendar"),
    ("/api/builds/", "/logs", raw_log.LARGEST, "a log"),
    ("/api/builds/", "/work/parts", BUILD_FILE, "a list of parts"),
)


def file_at(path: str) -> tuple[int, str] | None:
    """For an address that takes a file: the most bytes of it, and what it is."""
    return next(((most, what) for begins, ends, most, what in _FILES if path.startswith(begins) and path.endswith(ends)), None)


def limit(path: str) -> int:
    """The most bytes that a request to a path may carry."""
    return (file_at(path) or (BUILD_FILE, ""))[0]


def limit_words(path: str) -> str:
    """The same for reading: "a photograph has at most 24 MB"."""
    most, what = file_at(path) or (BUILD_FILE, "a build file")
    return f"{what} has at most {most / 1e6:.0f} MB"
