"""Which rules this is: what was told by others is told afresh."""

from __future__ import annotations

import hashlib
from functools import cache
from pathlib import Path

from . import core


@cache
def rules() -> str:
    """A sum over the core as it is installed."""
    digest = hashlib.sha256()
    for file in sorted(p for p in Path(core.__file__).parent.rglob("*") if p.suffix in (".py", ".toml")):
        digest.update(file.read_bytes())
    return digest.hexdigest()[:16]
