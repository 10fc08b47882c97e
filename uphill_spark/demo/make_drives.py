"""Make the drives of the demo cars that ship: the stand-in drives each with what is really so in it, and the log is written as its unit would. Run as a module after the stand-in or a demo car has changed."""

from __future__ import annotations

import gzip
import io
import sys
from pathlib import Path

import numpy as np
import polars as pl

from .. import demo
from ..core.given import parse
from ..core.physics.air import Array
from ..core.plan import evaluated
from ..core.standin.drive import Drive, absolute, set_cycle
from ..formats import log_mdf
from ..formats.raw_log import of_quantities

SEEDS = {"tern": 7, "hollin": 21, "brindle": 33}
#: How the unit of the Hollin calls its columns, and the spreadsheet through which the Brindle's log went.
HOLLIN = {"time": "Time (s)", "speed": "RPM", "manifold": "Manifold press (kPa)", "throttle": "TPS (%)", "coolant": "Coolant temp (C)", "air": "Intake air temp (C)", "lambda": "AFR", "target": "AFR target", "pulse": "Inj pulse (ms)", "rail": "Fuel press (kPa)", "volts": "Battery (V)", "advance": "Ignition angle (deg)", "road_speed": "Vehicle speed (km/h)", "knock": "Knock count"}  # fmt: skip
BRINDLE = {"time": "Time", "speed": "Engine speed", "manifold": "Manifold pressure", "throttle": "Throttle", "coolant": "Coolant", "air": "Intake air temperature", "lambda": "Lambda 1", "lambda_2": "Lambda 2", "target": "Lambda target", "pulse": "Injector pulse", "rail": "Rail pressure", "volts": "Battery volts", "advance": "Advance", "road_speed": "Road speed"}  # fmt: skip
BRINDLE_UNITS = {"time": "", "speed": "rpm", "manifold": "kPa", "throttle": "%", "coolant": "°C", "air": "°C", "lambda": "", "lambda_2": "", "target": "", "pulse": "ms", "rail": "kPa", "volts": "V", "advance": "deg", "road_speed": "km/h"}  # fmt: skip


def made(name: str) -> dict[str, Array]:
    """The columns of a demo car's drive."""
    w = evaluated(parse(demo.document(name))).worked
    truth, filling = absolute(w, w, demo.truth(name))
    return Drive(w, [truth], set_cycle(SEEDS[name]), seed=SEEDS[name], fillings=[filling]).run()[0]


def written(name: str, found: dict[str, Array]) -> bytes:
    """The drive as its file."""
    if name == "tern":
        raw = of_quantities(found)
        return log_mdf.written(raw.time, raw.names, raw.units, raw.columns)
    if name == "hollin":
        ratio = {"lambda": 14.7, "target": 14.7}
        frame = pl.DataFrame({HOLLIN[k]: np.round(v * ratio.get(k, 1.0), 3) for k, v in found.items() if k in HOLLIN})
        text = io.BytesIO()
        frame.write_csv(text)
        return gzip.compress(text.getvalue(), 9, mtime=0)
    rows = [";".join(BRINDLE.values()), ";".join(BRINDLE_UNITS.values())]
    columns = [found[k] for k in BRINDLE]
    for i in range(len(found["time"])):
        t = float(found["time"][i])
        cells = [f"{int(t // 3600):02d}:{int(t // 60) % 60:02d}:{t % 60:06.3f}", *(f"{c[i]:g}" for c in columns[1:])]
        if i == 4000:
            rows.append("the passenger pressed the mark")
        rows.append(";".join(cells).replace(".", ","))
    return gzip.compress("\r\n".join(rows).encode("cp1252"), 9, mtime=0)


def main() -> int:
    """Make all three, or those that are named."""
    for name in sys.argv[1:] or demo.NAMES:
        data = written(name, made(name))
        Path(__file__).with_name(demo.DRIVES[name]).write_bytes(data)
        print(f"{demo.DRIVES[name]}: {len(data) / 1e6:.2f} MB")
    return 0


if __name__ == "__main__":
    sys.exit(main())
