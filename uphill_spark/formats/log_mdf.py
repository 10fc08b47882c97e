"""Logs as ASAM MDF 4 (and 3): read and written through asammdf. Signals of several rates are laid on the clock of the fastest; raw frames of a CAN bus are read by a DBC file."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator
from importlib import import_module
from typing import TYPE_CHECKING, Any

import numpy as np

from ..core.errors import FormatError
from ..core.physics.air import Array
from ..standin.library import can
from .raw_log import COLUMNS_MOST, ROWS_MOST, Broken, RawLog, clocked, named_once

if TYPE_CHECKING:
    from ..standin.frames import Frames

MARK = b"MDF     "
UNFINISHED = b"UnFinMF "
HEADER = 64  # bytes
NUMBER, STANDARD_MOST = 0x1FFFFFFF, 0x7FF  # of a frame, and of one with a short number
FAST_LEAST = 0.5  # rows of a group over those of the largest, from where on it counts as fast


def is_mdf(head: bytes) -> bool:
    """Whether a file says of itself that it is MDF."""
    return head.startswith((MARK, UNFINISHED))


def read(data: bytes, frames: Frames | None = None, told: Callable[[float], None] = lambda _: None) -> RawLog:
    """A log as MDF. `frames` reads raw frames of a bus that were recorded in it; `told` hears how far it is, and may raise to end it. Raises FormatError, in words."""
    if len(data) < HEADER:
        raise FormatError(f"The MDF file is broken off after {len(data)} bytes, in its first block.")
    library: Any = import_module("asammdf")
    try:
        mdf = library.MDF(io.BytesIO(data))
    except Exception as error:  # the library raises what its blocks give
        raise FormatError(
            f"The MDF file cannot be read: {_plain(error)} It is broken off, or was not finished: {len(data):,} bytes are there."
        ) from error
    try:
        with mdf:
            if any("CAN_DataFrame" in name for name in mdf.channels_db):
                return _of_bus(mdf, frames)
            return _of_signals(mdf, data, told)
    except FormatError:
        raise
    except Exception as error:
        raise FormatError(f"The MDF file breaks off: {_plain(error)}") from error


def _plain(error: Exception) -> str:
    said = " ".join((str(error).strip() or type(error).__name__).split())[:160].rstrip(".")
    return f"{said}."


def _of_signals(mdf: Any, data: bytes, told: Callable[[float], None]) -> RawLog:
    """Signals, all on one clock."""
    groups = [(int(g.channel_group.cycles_nr), k) for k, g in enumerate(mdf.groups)]
    rows_most = max((n for n, _ in groups), default=0)
    if rows_most < 2:
        raise FormatError("There are no rows in this MDF file.")
    if rows_most > ROWS_MOST:
        raise FormatError(f"The log has {rows_most:,} rows; {ROWS_MOST:,} are taken at most.")
    fast = [k for n, k in groups if n >= rows_most * FAST_LEAST]
    main = max(fast, key=lambda k: (len(mdf.groups[k].channels), mdf.groups[k].channel_group.cycles_nr))
    master = np.asarray(mdf.get_master(main), dtype=np.float64)
    clock, order, notes = clocked(master, "the clock of its fastest group")
    begins, whole = float(master[order[0]]), len(order) == len(master)
    names: list[str] = []
    units: list[str] = []
    columns: list[Array] = []
    words: list[str] = []
    broken: list[Broken] = []
    every = sum(len(g.channels) for g in mdf.groups)
    done = 0
    for k, group in enumerate(mdf.groups):
        master_index = mdf.masters_db.get(k)
        picks = [(None, k, j) for j in range(len(group.channels)) if j != master_index]
        if not picks or not group.channel_group.cycles_nr:
            continue
        try:
            signals = mdf.select(picks, raw=False, ignore_value2text_conversions=True, copy_master=False)
        except Exception as error:
            broken.append(Broken(k + 1, f"group {k + 1}", f"its block cannot be read: {_plain(error)}"))
            continue
        for signal in signals:
            done += 1
            told(done / max(every, 1))
            values = signal.samples
            if values.dtype.kind not in "fiub" or values.ndim != 1 or not len(values):
                words.append(signal.name)
                continue
            if len(columns) >= COLUMNS_MOST:
                raise FormatError(f"The log has more than {COLUMNS_MOST} signals. Choose those of the engine.")
            own = np.asarray(values, dtype=np.float64)
            columns.append(
                (own if whole else own[order]) if k == main else _laid(np.asarray(signal.timestamps, dtype=np.float64) - begins, own, clock)
            )
            names.append(signal.name)
            units.append(str(signal.unit or ""))
    if not columns:
        raise FormatError("No signal of this MDF file holds numbers.")
    names, twice = named_once(names)
    if twice:
        notes.append(
            f"{', '.join(sorted(set(twice))[:5])} stand{'s' if len(set(twice)) == 1 else ''} more than once: the later have a number behind."
        )
    if words:
        notes.append(
            f"Signals that hold no numbers are left out: {', '.join(words[:5])}{f' and {len(words) - 5} more' if len(words) > 5 else ''}."
        )
    if len(fast) < len(groups):
        notes.append("Slower signals are held from one of their rows to the next.")
    if data.startswith(UNFINISHED):
        notes.append("The file was never finished by whatever wrote it: what is in it was read.")
    return RawLog(clock, names, units, columns, broken, len(broken), 0, notes)


def _laid(time: Array, values: Array, clock: Array) -> Array:
    """A signal held on another clock [s]; nothing before it begins."""
    at = np.searchsorted(time, clock, side="right") - 1
    return np.where(at >= 0, values[np.clip(at, 0, len(values) - 1)], np.nan)


def _of_bus(mdf: Any, frames: Frames | None) -> RawLog:
    """Raw frames of a bus, read by a DBC file: each signal held from one frame to the next, on a clock of its own speed."""
    if frames is None:
        raise FormatError("This file holds raw frames of a bus. Tell the bus's DBC file at First start, Its bus; then bring it again.")
    found: dict[str, tuple[list[float], list[float]]] = {}
    unknown = 0
    for time, number, data in _frames_of(mdf):
        signals = frames.decoded(can.Message(arbitration_id=number, data=data, is_extended_id=number > STANDARD_MOST))
        unknown += not signals
        for name, value in signals.items():
            times, values = found.setdefault(name, ([], []))
            times.append(time)
            values.append(value)
    if not found:
        raise FormatError("No frame of this file is one that the DBC file knows.")
    most = max(found.values(), key=lambda x: len(x[0]))[0]
    clock, order, notes = clocked(np.array(most), "the frames' clock")
    begins = most[int(order[0])]
    unit = dict(frames.signals)
    names = list(found)
    columns = [_laid(np.array(found[n][0]) - begins, np.array(found[n][1]), clock) for n in names]
    if unknown:
        notes.append(f"{unknown:,} frames that the DBC file does not know are left out.")
    return RawLog(clock, names, [unit.get(n, "") for n in names], columns, notes=notes)


def _frames_of(mdf: Any) -> Iterator[tuple[float, int, bytes]]:
    """Frames of a record in the order of their time: seconds, number, data."""
    found: list[tuple[float, int, bytes]] = []
    for k, group in enumerate(mdf.groups):
        names = {channel.name for channel in group.channels}
        if "CAN_DataFrame.ID" not in names or not group.channel_group.cycles_nr:
            continue
        numbers = mdf.get("CAN_DataFrame.ID", group=k, raw=True)
        data = mdf.get("CAN_DataFrame.DataBytes", group=k, raw=True).samples
        lengths = mdf.get("CAN_DataFrame.DataLength", group=k, raw=True).samples if "CAN_DataFrame.DataLength" in names else None
        for i, (time, number) in enumerate(zip(numbers.timestamps, numbers.samples, strict=True)):
            row = np.asarray(data[i]).tobytes()
            found.append((float(time), int(number) & NUMBER, row[: int(lengths[i])] if lengths is not None else row))
    yield from sorted(found, key=lambda f: f[0])


def written(time: Array, names: list[str], units: list[str], columns: list[Array]) -> bytes:
    """A log as MDF 4, packed."""
    library: Any = import_module("asammdf")
    with library.MDF(version="4.10") as mdf:
        signals = [
            library.Signal(samples=np.asarray(c), timestamps=time, name=n, unit=u) for n, u, c in zip(names, units, columns, strict=True)
        ]
        mdf.append(signals, comment="log", common_timebase=True)
        out = io.BytesIO()
        mdf.save(out, overwrite=True, compression=2)
        return out.getvalue()
