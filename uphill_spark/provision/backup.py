"""Backups: the whole store in one file that says what is in it. Put back only once it is proven whole; what it replaces is kept aside.

The file is a zip archive: `about.json`, and `store.pgdump` in PostgreSQL's own archive format. An archive alone, as older versions wrote it, is read too.
"""

from __future__ import annotations

import datetime as dt
import hashlib
import json
import os
import re
import shutil
import subprocess
import tempfile
import zipfile
from collections.abc import Callable
from dataclasses import asdict, dataclass
from pathlib import Path

from .cluster import DATABASE, Cluster
from .machine import Places
from .say import Trouble

FORMAT, VERSION = "uphill-spark-backup", 1
_ABOUT, _ARCHIVE = "about.json", "store.pgdump"
_MAGIC = b"PGDMP"  # what an archive of pg_dump begins with
#: A database that a backup is read back into, to be proven before it takes the store's place.
_TRIAL, _ASIDE = "spark_trial", "spark_aside"
#: How many of the daily ones stay: the last of each of these many days, and of each of these many weeks.
DAYS, WEEKS = 7, 4
DUE = dt.timedelta(hours=24)


@dataclass(frozen=True)
class About:
    """What a store holds. `schema` is the newest migration of its tables, `digest` a sum over every row that a person's work is in."""

    format: str
    version: int
    schema: str
    builds: int
    revisions: int
    photographs: int
    digest: str
    written: str

    @property
    def words(self) -> str:
        """The same for reading."""
        return f"{_count(self.builds, 'build')}, {_count(self.revisions, 'revision')}, {_count(self.photographs, 'photograph')}"


def _count(n: int, word: str) -> str:
    return f"{n} {word}{'' if n == 1 else 's'}"


def about(cluster: Cluster, database: str = DATABASE) -> About:
    """What a database holds now."""
    with cluster.as_it_stands(database) as (_, ask):
        return _about(ask)


def _about(ask: Callable[[str], str]) -> About:
    def there(table: str) -> bool:
        return ask(f"SELECT to_regclass('public.{table}') IS NOT NULL") == "t"

    def rows(table: str) -> int:
        return int(ask(f"SELECT count(*) FROM {table}")) if there(table) else 0

    schema = ask("SELECT version_num FROM alembic_version") if there("alembic_version") else ""
    sums = {
        "build": "md5(ROW(id, name, demo, head, extract(epoch from put_away))::text)",
        "revision": "md5(build_id::text || number || kind || document::text || patch::text || summary || who || reason || coalesce(edit_id, '') "
        "|| coalesce(undo_to, 0) || '/' || coalesce(redo_to, 0))",
        "photo": "md5(key || md5(data))",
    }
    told = [
        ask(f"SELECT md5(coalesce(string_agg(h, '' ORDER BY h), '')) FROM (SELECT {h} AS h FROM {t}) AS x")
        for t, h in sums.items()
        if there(t)
    ]  # fmt: skip
    now = dt.datetime.now(dt.UTC).isoformat(timespec="seconds")
    digest = hashlib.sha256("".join(told).encode()).hexdigest()
    return About(FORMAT, VERSION, schema, rows("build"), rows("revision"), rows("photo"), digest, now)


def write(cluster: Cluster, file: Path, *, empty: bool = False) -> About:
    """The store as a file, for its owner alone. A file that is there is replaced only by a whole one. Raises Trouble for a store with nothing in it."""
    part = file.with_name(file.name + ".part")
    try:
        with cluster.as_it_stands(DATABASE) as (snapshot, ask), tempfile.TemporaryFile() as dumped:
            found = _about(ask)
            if not found.builds and not empty:
                raise Trouble(f"The store in {cluster.places.data} is empty: no build was ever kept there. Is it the store you mean (--data)? With --empty it is written all the same.")  # fmt: skip
            cluster.dump(dumped, DATABASE, snapshot)
            dumped.seek(0)
            with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC | os.O_NOFOLLOW, 0o600), "wb") as out:
                os.fchmod(out.fileno(), 0o600)  # one that was left over may have had other rights
                with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as archive:
                    with archive.open(_ARCHIVE, "w", force_zip64=True) as into:
                        shutil.copyfileobj(dumped, into, 1 << 20)
                    archive.writestr(_ABOUT, json.dumps(asdict(found), indent=1))
        part.replace(file)
    except OSError as error:
        raise Trouble(f"{file} cannot be written: {error.strerror}. Name a file in a folder that you may write to.") from error
    finally:
        part.unlink(missing_ok=True)
    return found


def prove(cluster: Cluster, file: Path) -> About:
    """Read a backup back into a database of its own and hold it against what it says of itself. Raises Trouble where it is not whole."""
    with tempfile.TemporaryDirectory() as folder:
        archive, said = _opened(file, Path(folder))
        try:
            _fill(cluster, archive, file)
            return _held_against(about(cluster, _TRIAL), said, file)
        finally:
            cluster.ask(f"DROP DATABASE IF EXISTS {_TRIAL} WITH (FORCE)")


def put_back(cluster: Cluster, file: Path, migrate: Callable[[str], None]) -> tuple[About, Path | None]:
    """A backup in place of the store; where what stood there before was kept, if there was anything. Raises Trouble with the store as it was.

    It is read into a database of its own, proven, brought to this version's tables by `migrate` (which is given its address, and raises Trouble),
    and only then takes the store's place.
    """
    kept: Path | None = None
    with tempfile.TemporaryDirectory() as folder:
        archive, said = _opened(file, Path(folder))
        try:
            _fill(cluster, archive, file)
            found = _held_against(about(cluster, _TRIAL), said, file)
            _known(found.schema, file)
            migrate(cluster.url(_TRIAL))
            cluster.ensure_database()
            if about(cluster).builds:
                stamp = dt.datetime.now(dt.UTC).strftime("%Y-%m-%d_%H%M%S")
                kept = folder_of(cluster.places) / f"before-restore-{stamp}.backup"
                kept.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
                write(cluster, kept)
            cluster.ask(f"DROP DATABASE IF EXISTS {_ASIDE} WITH (FORCE)")
            _renamed(cluster, DATABASE, _ASIDE)
            _renamed(cluster, _TRIAL, DATABASE)
            cluster.ask(f"DROP DATABASE {_ASIDE} WITH (FORCE)")
        finally:
            cluster.ask(f"DROP DATABASE IF EXISTS {_TRIAL} WITH (FORCE)")
    return found, kept


def mend_halfway(cluster: Cluster) -> None:
    """A restore that was cut off between its two renamings leaves the store aside: it is put back in its place."""
    names = cluster.ask("SELECT datname FROM pg_database").split()
    if _ASIDE in names and DATABASE not in names:
        cluster.ask(f"ALTER DATABASE {_ASIDE} RENAME TO {DATABASE}")


def _renamed(cluster: Cluster, old: str, new: str) -> None:
    cluster.ask(f"SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '{old}'")
    cluster.ask(f"ALTER DATABASE {old} RENAME TO {new}")


def _opened(file: Path, folder: Path) -> tuple[Path, About | None]:
    """The archive in a backup, and what the backup says of itself. Raises Trouble for a file that is none, or of a newer kind."""
    none = Trouble(f"{file} is not a file written by ./spark backup, or it is damaged. Nothing was touched.")
    try:
        with file.open("rb") as first:
            if first.read(len(_MAGIC)) == _MAGIC:
                return file, None
        with zipfile.ZipFile(file) as packed:
            said = json.loads(packed.read(_ABOUT))
            if said.get("format") != FORMAT:
                raise none
            if said["version"] > VERSION:
                raise Trouble(
                    f"{file} was written by a newer version of Uphill Spark. Update the program, then put it back. Nothing was touched."
                )
            if (wrong := packed.testzip()) is not None:
                raise Trouble(f"{file} is damaged ({wrong}). Take an older backup. Nothing was touched.")
            return Path(packed.extract(_ARCHIVE, folder)), About(**said)
    except (zipfile.BadZipFile, KeyError, ValueError, TypeError, AttributeError) as error:
        raise none from error
    except OSError as error:
        raise Trouble(f"{file} cannot be read: {error.strerror}.") from error


def _fill(cluster: Cluster, archive: Path, file: Path) -> None:
    cluster.client("pg_restore", "--list", str(archive), stdout=subprocess.DEVNULL, doing=f"{file} is not a file written by ./spark backup")
    cluster.ask(f"DROP DATABASE IF EXISTS {_TRIAL} WITH (FORCE)")
    cluster.ask(f"CREATE DATABASE {_TRIAL}")
    cluster.load(archive, _TRIAL)


def _held_against(found: About, said: About | None, file: Path) -> About:
    if said is not None and (found.schema, found.builds, found.revisions, found.photographs, found.digest) != (
        said.schema, said.builds, said.revisions, said.photographs, said.digest,
    ):  # fmt: skip
        raise Trouble(f"{file} does not hold what it says: {found.words} instead of {said.words}, or other contents. Take an older backup. Nothing was touched.")  # fmt: skip
    return found


def migrations(root: Path) -> list[str]:
    """The migrations that this version knows, oldest first."""
    folder = root / "uphill_spark" / "store" / "migrations" / "versions"
    found = (re.search(r'^revision = "(\w+)"', file.read_text(), re.MULTILINE) for file in sorted(folder.glob("*.py")))
    return [match[1] for match in found if match]


def _known(schema: str, file: Path) -> None:
    known = migrations(Path(__file__).resolve().parents[2])
    if schema not in known:
        raise Trouble(f"{file} has tables of a version that this program does not know ({schema or 'none'}; it knows {known[0]} to {known[-1]}): it was written by a newer one. "
                      "Update the program, then put it back. Nothing was touched.")  # fmt: skip


def folder_of(places: Places) -> Path:
    """Where backups are kept that nobody asked for."""
    return places.data / "backups"


def newest(places: Places) -> Path | None:
    """The newest daily backup."""
    return max(folder_of(places).glob("daily-*.backup"), default=None)


def daily(cluster: Cluster, now: dt.datetime) -> About | None:
    """A backup for today if one is due, proven, older ones cleared. None where none is due, or nothing is there to keep."""
    last = newest(cluster.places)
    if last is not None and now.timestamp() - last.stat().st_mtime < DUE.total_seconds():
        return None
    if not about(cluster).builds:
        return None
    folder = folder_of(cluster.places)
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    file, unproven = folder / f"daily-{now.strftime('%Y-%m-%d_%H%M%S')}.backup", folder / "unproven.backup"
    write(cluster, unproven)
    found = prove(cluster, unproven)  # until then it is no backup, and nobody is told of one
    os.utime(unproven, (now.timestamp(), now.timestamp()))
    unproven.replace(file)
    for old in superfluous([f.name for f in folder.glob("daily-*.backup")]):
        (folder / old).unlink()
    return found


def superfluous(names: list[str]) -> list[str]:
    """Which daily backups may go: all but the last of each of the last seven days that have one, and of each of the last four weeks."""
    by_day: dict[str, str] = {}
    by_week: dict[tuple[int, int], str] = {}
    for name in sorted(names):
        day = dt.date.fromisoformat(name.removeprefix("daily-")[:10])
        by_day[day.isoformat()] = name
        by_week[day.isocalendar()[:2]] = name
    stays = {*[by_day[d] for d in sorted(by_day)[-DAYS:]], *[by_week[w] for w in sorted(by_week)[-WEEKS:]]}
    return sorted(set(names) - stays)
