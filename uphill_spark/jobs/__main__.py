"""The worker: `python -m uphill_spark.jobs`, started by the start command beside the web process."""

from __future__ import annotations

import asyncio
import logging
import os
import signal

from .. import collector

collector.rest()

from .. import store  # noqa: E402
from .worker import run, worker  # noqa: E402


def main() -> None:
    """Until told to stop: what was begun is left as it is, and taken up by the next worker."""
    collector.calm()
    for told in (signal.SIGTERM, signal.SIGINT):
        signal.signal(told, lambda *_: os._exit(0))
    logging.getLogger("procrastinate").setLevel(logging.WARNING)
    database = store.Database(os.environ["UPHILL_SPARK_DATABASE"])
    database.migrate()
    asyncio.run(run(worker(database)))


if __name__ == "__main__":
    main()
