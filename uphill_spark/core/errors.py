"""Everything the core refuses, in one place.

SparkError
├── BuildError          the build document, or an edit of it, cannot be taken; carries Problems
│   ├── FormatError     not a build file at all: not JSON, another format, a version we cannot read
│   ├── PatchError      an edit that does not fit the document it is meant for
│   ├── TableError      a table of which something has to be said first: which column is which, what its points mean
│   └── PhotoError      a file that is no photograph we keep
├── UnitError           a quantity that cannot be read, or is of the wrong dimension
├── NoEngine            measures of which no engine can be worked
├── NotConverged        a solver that did not meet its tolerance; no figure is given
└── WorkedTooLong       working a build out was given up; no figure is given
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Problem:
    """One thing wrong with one field: where, what was given, what would do."""

    at: str
    given: str
    wants: str

    def sentence(self) -> str:
        """The problem in one line: where, what would do, what was given."""
        where = self.at or "the document"
        return f"{where}: {self.wants} (given: {self.given})"


class SparkError(Exception):
    """Root of every error that the core raises on purpose."""


class BuildError(SparkError):
    """The document or the edit is not acceptable. `problems` names each field."""

    def __init__(self, message: str, problems: tuple[Problem, ...] = ()) -> None:
        super().__init__(message)
        self.message = message
        self.problems = problems

    def __str__(self) -> str:
        return "\n".join([self.message, *(f"  {p.sentence()}" for p in self.problems)])


class FormatError(BuildError):
    """The bytes are not a build file of a kind and version that we read."""


class PatchError(BuildError):
    """The edit does not fit: a path that is not there, an operation that is not one."""


class TableError(BuildError):
    """A table of which something has to be said first. `heading` are its own columns, `wanted` what is looked for; both empty where its points are asked about."""

    def __init__(self, message: str, problems: tuple[Problem, ...], heading: tuple[str, ...] = (), wanted: tuple[str, ...] = ()) -> None:
        super().__init__(message, problems)
        self.heading = heading
        self.wanted = wanted


class PhotoError(BuildError):
    """The bytes are not a photograph of a kind and size that we keep."""


class UnitError(SparkError):
    """A quantity that cannot be read. The message says what would do."""


class NoEngine(SparkError, ValueError):
    """Measures of which no engine can be worked: the message says which, and what would do."""


class NotConverged(SparkError):
    """A solver stopped short of its tolerance."""


class NoBus(SparkError):
    """A bus or a record of one that cannot be opened; the message says which and what would do."""


class WorkedTooLong(SparkError):
    """Working a build out took longer than the one who asked for it waits."""
