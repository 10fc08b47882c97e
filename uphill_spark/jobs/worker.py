"""The worker's end of the queue: one piece of work after the other, what a dead worker left taken up again."""

from __future__ import annotations

import asyncio
import logging
import os
import uuid

import procrastinate
from procrastinate.exceptions import ConnectorException, UniqueViolation
from procrastinate.jobs import Status

from .. import store
from ..store.database import CONNECT
from .logging_in import take_in
from .queue import NAME, TAKE_IN, TASK
from .working import TRIES, work_on

log = logging.getLogger("uphill_spark")
AGAIN = 2  # s after which work that the store was away from is begun again
BEATS, STALLED, LOOKS = 1.0, 5.0, 2.0  # s between two signs of life, after which a worker counts as dead, between two looks for its work


def worker(database: store.Database) -> procrastinate.App:
    """The queue's end in the worker, with what it can do."""
    connector = procrastinate.PsycopgConnector(
        conninfo=database.url.replace("+psycopg", "", 1),
        kwargs={"connect_timeout": CONNECT, "options": "-c search_path=queue"},
        min_size=1,
        max_size=3,
    )
    app = procrastinate.App(connector=connector)

    retry = procrastinate.RetryStrategy(max_attempts=TRIES, wait=AGAIN, retry_exceptions={store.StoreDown, store.Busy})

    @app.task(name=TASK, queue=NAME, pass_context=True, retry=retry)
    def work(context: procrastinate.JobContext, key: str, subject: str, build: str, revision: int, log: str = "") -> None:
        work_on(database, key, subject, uuid.UUID(build), revision, context.job.attempts, uuid.UUID(log) if log else None)  # type: ignore[arg-type]

    @app.task(name=TAKE_IN, queue=NAME, retry=retry)
    def read_in(log: str) -> None:
        take_in(database, uuid.UUID(log))

    return app


async def run(app: procrastinate.App) -> None:
    """Work until the process is ended: what another worker left when it died is taken up again."""
    async with app.open_async():
        rescue = asyncio.create_task(_rescue(app))
        try:
            await app.run_worker_async(
                queues=[NAME], concurrency=1, delete_jobs="always", install_signal_handlers=False, fetch_job_polling_interval=2.0, update_heartbeat_interval=BEATS,
                stalled_worker_timeout=STALLED,
            )  # fmt: skip
        finally:
            rescue.cancel()


async def _rescue(app: procrastinate.App) -> None:
    parent = os.getppid()
    while True:
        if os.getppid() != parent:
            os._exit(1)  # who started it is gone, and with it whoever would ask
        try:
            await take_up_again(app)
        except ConnectorException:
            log.warning("what a dead worker left could not be looked for: the store does not answer; it is tried again")
        await asyncio.sleep(LOOKS)


async def take_up_again(app: procrastinate.App) -> None:
    """Put what a dead worker was at back into the queue. Where it was asked for once more meanwhile, that one waits behind it, and would for ever: it goes, and the one behind is its next try."""
    for job in await app.job_manager.get_stalled_jobs(queue=NAME, seconds_since_heartbeat=STALLED):
        log.warning("taken up again: %s", job.task_kwargs)
        try:
            await app.job_manager.retry_job(job)
        except UniqueViolation:
            await app.job_manager.finish_job(job, Status.FAILED, delete_job=True)
