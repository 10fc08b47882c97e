"""Logs written: as CSV with its units in the names, as ASAM MDF 4, as Parquet. What goes out reads back as the same numbers."""

from __future__ import annotations

import io
from typing import Literal, get_args

import numpy as np

from ..core.errors import FormatError
from ..core.physics.air import Array
from . import log_mdf

Kind = Literal["csv", "mf4", "parquet"]
KINDS: tuple[Kind, ...] = get_args(Kind)
MEDIA: dict[Kind, str] = {"csv": "text/csv; charset=utf-8", "mf4": "application/octet-stream", "parquet": "application/vnd.apache.parquet"}


def _name(name: str, unit: str) -> str:
    """A name as a column is headed. Text that a workbook would take for a formula stays text."""
    headed = f"{name} [{unit}]" if unit else name
    return f"'{headed}" if headed[:1] in "=+-@\t\r" else headed


def read_parquet(data: bytes) -> list[Array]:
    """The columns of a log that was written as Parquet, its clock first. Raises FormatError."""
    import polars as pl  # takes a while to load, and the web server starts without it

    try:
        frame = pl.read_parquet(io.BytesIO(data))
        return [np.asarray(frame.get_column(name).cast(pl.Float64).to_numpy(), dtype=np.float64) for name in frame.columns]
    except (pl.exceptions.PolarsError, OSError, ValueError) as error:
        raise FormatError(
            f"This is no Parquet file: {str(error).splitlines()[0][:120] if str(error) else type(error).__name__}."
        ) from error


def written(kind: Kind, time: Array, names: list[str], units: list[str], columns: list[Array]) -> bytes:
    """A log in one of the open formats: seconds first, then its columns as they are named."""
    if kind == "mf4":
        return log_mdf.written(time, names, units, columns)
    import polars as pl

    frame = pl.DataFrame({"time [s]": time} | {_name(n, u): c for n, u, c in zip(names, units, columns, strict=True)})
    out = io.BytesIO()
    if kind == "csv":
        frame.with_columns(pl.all().fill_nan(None)).write_csv(out)
    else:
        frame.write_parquet(out, compression="zstd")
    return out.getvalue()
