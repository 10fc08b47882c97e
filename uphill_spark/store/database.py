"""The connection to the store, and one transaction a piece of work."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import create_engine, text
from sqlalchemy.exc import DBAPIError, InterfaceError, OperationalError
from sqlalchemy.orm import Session, sessionmaker


class StoreDown(Exception):
    """The database does not answer. What was asked has not been stored."""


class Database:
    """One database. `work()` gives a session whose changes are committed when the block ends well, else rolled back."""

    def __init__(self, url: str) -> None:
        self.url = url
        self.engine = create_engine(
            url,
            pool_pre_ping=True,
            pool_size=6,
            max_overflow=4,
            pool_timeout=5,
            connect_args={"connect_timeout": 3, "options": "-c statement_timeout=15000 -c lock_timeout=5000"},
        )
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)

    @contextmanager
    def work(self) -> Iterator[Session]:
        """One transaction. Raises StoreDown when the database cannot be reached or breaks off."""
        try:
            with self._sessions.begin() as session:
                yield session
        except (OperationalError, InterfaceError) as error:
            raise StoreDown("The store does not answer.") from error
        except DBAPIError as error:
            if error.connection_invalidated:
                raise StoreDown("The store broke off.") from error
            raise

    def migrate(self) -> None:
        """Bring the tables to the newest revision. One process at a time; the others wait."""
        config = Config()
        config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
        with self.engine.begin() as connection:
            connection.execute(text("SELECT pg_advisory_xact_lock(7465)"))
            config.attributes["connection"] = connection
            command.upgrade(config, "head")

    def close(self) -> None:
        """Give back every connection."""
        self.engine.dispose()
