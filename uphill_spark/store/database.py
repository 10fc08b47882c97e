"""The connection to the store, and one transaction a piece of work."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import psycopg
from alembic import command
from alembic.config import Config
from sqlalchemy import create_engine, text
from sqlalchemy.exc import DBAPIError, InterfaceError, OperationalError
from sqlalchemy.orm import Session, sessionmaker
from sqlalchemy.pool import NullPool


class StoreDown(Exception):
    """The database does not answer. What was asked has not been stored."""


class Busy(Exception):
    """Somebody else is saving the same build, and goes on doing so."""


class Bounded(psycopg.Connection[Any]):
    """A connection that does not wait for ever: a server that has frozen takes what it is sent and never answers."""

    def wait(self, gen: Any, interval: float = 0.1, timeout: float | None = None) -> Any:
        """As the library's own, for `ANSWER` seconds at most."""
        try:
            return super().wait(gen, interval, ANSWER if timeout is None else timeout)
        except psycopg.errors._WaitTimeout as error:
            self.pgconn.finish()
            raise psycopg.OperationalError("the database server does not answer") from error


#: Seconds within which a connection stands, and one of the pool is free; within which the server answers, or counts as away; milliseconds that a statement may run, and wait for somebody else's lock.
CONNECT, POOL = 2, 3.0
ANSWER = 2.8
STATEMENT, LOCK = 2500, 1500


def bounds() -> str:
    """What a connection asks of the server: a statement and a wait for a lock come to an end [ms], as `options` of the server."""
    return f"-c statement_timeout={STATEMENT} -c lock_timeout={LOCK}"


class Database:
    """One database. `work()` gives a session whose changes are committed when the block ends well, else rolled back."""

    def __init__(self, url: str) -> None:
        self.url = url
        self._plain = url.replace("+psycopg", "", 1)
        self.engine = create_engine(
            url,
            pool_pre_ping=True,
            pool_size=6,
            max_overflow=4,
            pool_timeout=POOL,
            creator=lambda: Bounded.connect(self._plain, connect_timeout=CONNECT, options=bounds()),
        )
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)

    @contextmanager
    def work(self) -> Iterator[Session]:
        """One transaction. Raises StoreDown when the database cannot be reached or breaks off."""
        try:
            with self._sessions.begin() as session:
                yield session
        except (OperationalError, InterfaceError) as error:
            if isinstance(error.orig, psycopg.errors.LockNotAvailable):
                raise Busy("Somebody is saving this build just now. Nothing was stored; it is tried again.") from error
            raise StoreDown("The store does not answer.") from error
        except DBAPIError as error:
            if error.connection_invalidated:
                raise StoreDown("The store broke off.") from error
            raise

    def migrate(self) -> None:
        """Bring the tables to the newest revision. One process at a time; the others wait, as long as it takes."""
        config = Config()
        config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
        engine = create_engine(self.url, poolclass=NullPool)
        with engine.begin() as connection:
            connection.execute(text("SELECT pg_advisory_xact_lock(7465)"))
            config.attributes["connection"] = connection
            command.upgrade(config, "head")

    def close(self) -> None:
        """Give back every connection."""
        self.engine.dispose()
