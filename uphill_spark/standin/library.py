"""The library of buses, without what only its recorder in MDF 4 needs: that brings a whole house of tables along, 90 MB in each process. It comes where a record of that kind is named."""

from __future__ import annotations

import sys

_RECORDS = "asammdf"
_left_out = _RECORDS not in sys.modules and not any(word.lower().endswith(".mf4") for word in sys.argv)
if _left_out:
    sys.modules[_RECORDS] = None  # type: ignore[assignment]
import can  # noqa: E402

if _left_out:
    del sys.modules[_RECORDS]

__all__ = ["can"]
