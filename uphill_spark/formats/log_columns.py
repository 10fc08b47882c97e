"""Columns of a log packed for the store: numbers with few decimals as whole ones, each told by its step from the one before, bytes of a kind together, then packed by zstd (numcodecs). Nothing is lost: a column that is not told so to
the last bit is kept as it is."""

from __future__ import annotations

import struct

import numpy as np
from numcodecs.blosc import Blosc

from ..core.physics.air import Array

ROWS = 50_000  # of a piece
_HEAD = struct.Struct("<2sBBI")  # mark, kind, digits, rows
_MARK = b"C1"
_RAW, _WHOLE_16, _WHOLE_32, _EMPTY = 0, 1, 2, 3
_NONE_16, _NONE_32 = -(2**15), -(2**31)  # where there is no number
DIGITS_MOST = 6
_PACKS = {size: Blosc(cname="zstd", clevel=4, shuffle=Blosc.SHUFFLE) for size in (2, 4, 8)}


def packed(column: Array) -> bytes:
    """A piece of a column, packed."""
    n = len(column)
    there = np.isfinite(column)
    if not there.any():
        return _HEAD.pack(_MARK, _EMPTY, 0, n)
    plain = np.where(there, column, 0.0)
    for digits in range(DIGITS_MOST + 1):
        whole = np.round(plain * 10.0**digits)
        if float(np.abs(whole).max()) >= 2**30:
            break
        if np.array_equal(whole / 10.0**digits, plain):
            small = float(np.abs(whole).max()) < 2**14
            kind, dtype, none = (_WHOLE_16, np.int16, _NONE_16) if small else (_WHOLE_32, np.int32, _NONE_32)
            values = np.where(there, whole, none).astype(dtype)
            with np.errstate(over="ignore"):
                steps = np.diff(values, prepend=dtype(0))
            return _HEAD.pack(_MARK, kind, digits, n) + bytes(_PACKS[values.itemsize].encode(np.ascontiguousarray(steps)))
    return _HEAD.pack(_MARK, _RAW, 0, n) + bytes(_PACKS[8].encode(np.ascontiguousarray(column, dtype=np.float64)))


def unpacked(data: bytes) -> Array:
    """A piece of a column, to the last bit as it was. Raises ValueError for what was not packed here."""
    mark, kind, digits, n = _HEAD.unpack_from(data)
    if mark != _MARK:
        raise ValueError("this is no packed column")
    if kind == _EMPTY:
        return np.full(n, np.nan)
    body = data[_HEAD.size :]
    if kind == _RAW:
        return np.frombuffer(_PACKS[8].decode(body), dtype=np.float64).copy()
    dtype, none = (np.int16, _NONE_16) if kind == _WHOLE_16 else (np.int32, _NONE_32)
    steps = np.frombuffer(_PACKS[dtype().itemsize].decode(body), dtype=dtype)
    values = np.cumsum(steps, dtype=dtype)
    return np.where(values == none, np.nan, values / 10.0**digits)
