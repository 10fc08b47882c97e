"""The tables."""

from __future__ import annotations

import datetime as dt
import uuid
from typing import Any

from sqlalchemy import (
    JSON,
    BigInteger,
    Computed,
    Date,
    DateTime,
    Dialect,
    ForeignKey,
    Identity,
    Index,
    LargeBinary,
    String,
    TypeDecorator,
    UniqueConstraint,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import TSVECTOR
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

from ..core.given import upgraded


class Base(DeclarativeBase):
    """Root of the tables."""


class BuildDocument(TypeDecorator[dict[str, Any]]):
    """A build document, kept to the letter as it was written and read in the present version of the format: history is not rewritten."""

    impl = JSON
    cache_ok = True

    def process_result_value(self, value: Any, dialect: Dialect) -> Any:
        """A stored document, brought up to the present format."""
        return None if value is None else upgraded(value)


class BuildRow(Base):
    """A build: where its journal stands. The document itself is in the newest revision."""

    __tablename__ = "build"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    place: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    name: Mapped[str] = mapped_column(String(80))
    demo: Mapped[str | None] = mapped_column(String(20))
    head: Mapped[int]
    created: Mapped[dt.datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    changed: Mapped[dt.datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    put_away: Mapped[dt.datetime | None] = mapped_column(DateTime(timezone=True))


class RevisionRow(Base):
    """One state of a build and how it came about. Written once, never changed.

    The document is JSON rather than JSONB: it is kept to the letter, keys in the order in which the person has them, and never searched inside.

    `undo_to` and `redo_to` are the revisions whose document an undo or redo from here brings back. `told` is what the garage says of it, by the
    `rules` of the program that worked it out: the one thing that is written again, when the rules change. `asked` is the sum of what was asked under
    `edit_id`.
    """

    __tablename__ = "revision"
    __table_args__ = (
        UniqueConstraint("build_id", "edit_id"),
        Index("new_once", "edit_id", unique=True, postgresql_where=text("number = 1 AND edit_id IS NOT NULL")),
    )

    build_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("build.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    kind: Mapped[str] = mapped_column(String(10))
    document: Mapped[dict[str, Any]] = mapped_column(BuildDocument)
    patch: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    summary: Mapped[str] = mapped_column(String(300))
    who: Mapped[str] = mapped_column(String(80))
    reason: Mapped[str] = mapped_column(String(600), server_default="")
    edit_id: Mapped[str | None] = mapped_column(String(64))
    undo_to: Mapped[int | None]
    redo_to: Mapped[int | None]
    written: Mapped[dt.datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    told: Mapped[dict[str, Any] | None] = mapped_column(JSON)
    rules: Mapped[str | None] = mapped_column(String(16))
    asked: Mapped[str | None] = mapped_column(String(64))


class PhotoRow(Base):
    """A photograph, kept once however many builds show it. `key` is the SHA-256 of `data`. Never changed, never taken away: an undo may want it back."""

    __tablename__ = "photo"

    key: Mapped[str] = mapped_column(String(64), primary_key=True)
    media_type: Mapped[str] = mapped_column(String(20))
    width: Mapped[int]
    height: Mapped[int]
    data: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    small: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    came: Mapped[dt.datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class DeviceRow(Base):
    """A device that was paired. `token` is the SHA-256 of what it keeps."""

    __tablename__ = "device"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80))
    token: Mapped[str] = mapped_column(String(64), unique=True)
    paired: Mapped[dt.datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    seen: Mapped[dt.datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class PairingWordRow(Base):
    """A word that pairs one device. `word` is its SHA-256."""

    __tablename__ = "pairing_word"

    word: Mapped[str] = mapped_column(String(64), primary_key=True)
    until: Mapped[dt.datetime] = mapped_column(DateTime(timezone=True))
    used: Mapped[bool] = mapped_column(server_default=text("false"))


class AnswerRow(Base):
    """What takes seconds to work out, by a sum over all that it rests on: how far it is, and what came of it (JSON, packed). It can be made again at any time."""

    __tablename__ = "answer"

    key: Mapped[str] = mapped_column(String(64), primary_key=True)
    subject: Mapped[str] = mapped_column(String(20))
    state: Mapped[str] = mapped_column(String(10))
    progress: Mapped[float] = mapped_column(server_default="0")
    answer: Mapped[bytes | None] = mapped_column(LargeBinary)
    why: Mapped[str] = mapped_column(String(600), server_default="")
    asked: Mapped[dt.datetime] = mapped_column(DateTime(timezone=True), server_default=func.now(), index=True)


class BusRow(Base):
    """The bus on which a build's own control unit speaks, the DBC file that describes it, and which of its signals are which quantities."""

    __tablename__ = "bus"

    build_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("build.id", ondelete="CASCADE"), primary_key=True)
    place: Mapped[str] = mapped_column(String(120))
    name: Mapped[str] = mapped_column(String(120))
    dbc: Mapped[str] = mapped_column(deferred=True)
    taken: Mapped[list[dict[str, Any]]] = mapped_column(JSON)


class PracticeRow(Base):
    """A practice: a fault hidden by level and seed in a revision of a build, what a person did about it, and how it ended (score, the fault found or given up). Kept a person, by the name that he goes by here."""

    __tablename__ = "practice"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    build_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("build.id", ondelete="CASCADE"), index=True)
    revision: Mapped[int]
    who: Mapped[str] = mapped_column(String(80))
    level: Mapped[int]
    seed: Mapped[int] = mapped_column(BigInteger)
    before: Mapped[str] = mapped_column(String(40), server_default="")
    moves: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    score: Mapped[int | None]
    fault: Mapped[str] = mapped_column(String(40), server_default="")
    found: Mapped[bool | None]
    began: Mapped[dt.datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class DiaryRow(Base):
    """An entry of a build's diary. Its id is made by the device that it was written on: sent twice, it counts once. `text` is all of it that is searched; `was` holds what it said before, each with who changed it and when; one that is struck out stays."""

    __tablename__ = "diary"
    __table_args__ = (Index("ix_diary_search", "search", postgresql_using="gin"), Index("ix_diary_day", "build_id", "day", "written"))

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    build_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("build.id", ondelete="CASCADE"))
    day: Mapped[dt.date] = mapped_column(Date)
    kind: Mapped[str] = mapped_column(String(12))
    words: Mapped[str]
    hours: Mapped[float | None]
    task: Mapped[str] = mapped_column(String(40), server_default="")
    photos: Mapped[list[str]] = mapped_column(JSON)
    measured: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    who: Mapped[str] = mapped_column(String(80))
    revision: Mapped[int]
    version: Mapped[int]
    was: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    struck: Mapped[bool] = mapped_column(server_default=text("false"))
    written: Mapped[dt.datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    text: Mapped[str]
    search: Mapped[Any] = mapped_column(TSVECTOR, Computed("to_tsvector('english'::regconfig, text)", persisted=True), deferred=True)


class FeedRow(Base):
    """A private address at which a calendar reads the evenings of a build: of everybody, or of one person by his key. `token` is the SHA-256 of what stands in the address."""

    __tablename__ = "feed"

    token: Mapped[str] = mapped_column(String(64), primary_key=True)
    build_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("build.id", ondelete="CASCADE"), index=True)
    person: Mapped[str] = mapped_column(String(40), server_default="")
    made: Mapped[dt.datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class LogRow(Base):
    """A log of a drive: what is told of it, where its reading in stands, the columns as they came, which of them are taken for what, lines that were none. `revision` is that of the build on which the unit ran; `overview` is
    the least and most of every stretch of each column. A row is in one of seven states: arriving, waiting, reading, asks (which column is what), kept, failed, cancelled."""

    __tablename__ = "log"
    __table_args__ = (Index("ix_log_build_id", "build_id", "came"),)

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    build_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("build.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(String(120))
    day: Mapped[dt.date] = mapped_column(Date)
    note: Mapped[str] = mapped_column(server_default="")
    photos: Mapped[list[str]] = mapped_column(JSON)
    who: Mapped[str] = mapped_column(String(80))
    revision: Mapped[int]
    kind: Mapped[str] = mapped_column(String(10))
    size: Mapped[int] = mapped_column("bytes", BigInteger)
    state: Mapped[str] = mapped_column(String(10))
    progress: Mapped[float] = mapped_column(server_default="0")
    why: Mapped[str] = mapped_column(String(600), server_default="")
    tries: Mapped[int] = mapped_column(server_default="0")
    rows: Mapped[int] = mapped_column(server_default="0")
    seconds: Mapped[float] = mapped_column(server_default="0")
    packed: Mapped[int] = mapped_column(BigInteger, server_default="0")
    source: Mapped[str] = mapped_column(String(64), server_default="")
    columns: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    taken: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    broken: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    broken_count: Mapped[int] = mapped_column(server_default="0")
    cells_lost: Mapped[int] = mapped_column(server_default="0")
    notes: Mapped[list[str]] = mapped_column(JSON)
    came: Mapped[dt.datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    overview: Mapped[bytes | None] = mapped_column(LargeBinary, deferred=True)


class LogPieceRow(Base):
    """A piece of a file that was sent and is not read in yet."""

    __tablename__ = "log_piece"

    log_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("log.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)


class LogChunkRow(Base):
    """A piece of a column of a log, packed. Column 0 is the clock. Written once, never changed."""

    __tablename__ = "log_chunk"

    log_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("log.id", ondelete="CASCADE"), primary_key=True)
    column: Mapped[int] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)


class LogSourceRow(Base):
    """Which columns of a source of logs are which quantities, as somebody said last. `source` is a sum over the names and units of its columns."""

    __tablename__ = "log_source"

    source: Mapped[str] = mapped_column(String(64), primary_key=True)
    taken: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    told: Mapped[dt.datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
