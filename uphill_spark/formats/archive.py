"""An archive of a build: a zip (ISO/IEC 21320-1) of JSON, CSV, photographs and papers, with a manifest that has the SHA-256 of each.

Written and read piece by piece, so that neither its size nor that of a file in it asks for memory. Nothing is ever unpacked into a folder.
"""

from __future__ import annotations

import hashlib
import io
import json
import re
import zipfile
from collections.abc import Iterable, Iterator
from typing import IO, Any

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from ..core.errors import BuildError, FormatError, Problem
from . import strict_json

FORMAT, VERSION = "uphill-spark-archive", 1
MANIFEST = "manifest.json"
#: Names that an archive has, and the most bytes of each.
_NAMES: tuple[tuple[re.Pattern[str], int], ...] = tuple(
    (re.compile(pattern), most)
    for pattern, most in (
        (r"manifest\.json", 8_000_000), (r"build\.json", 2_000_000), (r"journal\.jsonl", 600_000_000), (r"(diary|practices|logs)\.jsonl", 300_000_000), (r"logs/[0-9a-f-]{36}\.parquet", 600_000_000), (r"bus\.json", 2_000_000),
        (r"photos/[0-9a-f]{64}\.(jpg|png)", 24_000_000), (r"papers/[a-z0-9-]{1,60}\.pdf", 120_000_000), (r"tables/[a-z0-9-]{1,60}\.(csv|xlsx)", 60_000_000),
    )
)  # fmt: skip
FILES_MOST, WHOLE_MOST = 30_000, 3_000_000_000
#: Times that a file may unpack to what it is packed in: text of a journal packs to a hundredth, a trap to a thousandth and less.
PACKED_MOST = 700
LINE_MOST = 4_000_000  # bytes of one line
_PIECE = 1 << 18
_WANTS = "an archive that this program wrote"


def _refused(message: str, at: str, given: str, wants: str = _WANTS) -> BuildError:
    return BuildError(f"{message} Nothing was stored.", (Problem(f"/archive/{at}", given, wants),))


class File(BaseModel):
    """A file of the archive: its name, how long it is, its hash."""

    model_config = ConfigDict(extra="forbid")

    name: str
    bytes: int = Field(ge=0)
    sha256: str = Field(pattern="^[0-9a-f]{64}$")


class Manifest(BaseModel):
    """What an archive holds, of which build, made when, by which version of the program."""

    model_config = ConfigDict(extra="forbid")

    format: str
    version: int
    name: str = Field(max_length=80)
    build: str = Field(pattern="^[0-9a-f-]{36}$")
    made: str = Field(max_length=40)
    program: str = Field(max_length=40)
    files: list[File] = Field(max_length=FILES_MOST)


class Writer:
    """Writes an archive into a file that is open for it, one file behind the other; the manifest comes last."""

    def __init__(self, file: IO[bytes]) -> None:
        self._zip = zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED, compresslevel=6)
        self.files: list[File] = []

    def add(self, name: str, pieces: Iterable[bytes], *, packed: bool = False) -> None:
        """A file of pieces; `packed` is one that does not get smaller."""
        _most(name)
        info = zipfile.ZipInfo(name)  # no time of its own: the same build gives the same archive
        info.compress_type = zipfile.ZIP_STORED if packed else zipfile.ZIP_DEFLATED
        digest, size = hashlib.sha256(), 0
        with self._zip.open(info, "w", force_zip64=True) as out:
            for piece in pieces:
                digest.update(piece)
                size += len(piece)
                out.write(piece)
        self.files.append(File(name=name, bytes=size, sha256=digest.hexdigest()))

    def lines(self, name: str, rows: Iterable[dict[str, Any]]) -> None:
        """A file of JSON, an object a line."""
        self.add(name, (json.dumps(row, ensure_ascii=False, separators=(",", ":")).encode() + b"\n" for row in rows))

    def end(self, name: str, build: str, made: str, program: str) -> None:
        """Its manifest."""
        manifest = Manifest(format=FORMAT, version=VERSION, name=name, build=build, made=made, program=program, files=self.files)
        self._zip.writestr(zipfile.ZipInfo(MANIFEST), manifest.model_dump_json(indent=1))
        self._zip.close()


def _most(name: str) -> int:
    """The most bytes of a file by its name. Raises BuildError for one that an archive has not: a path that climbs out, or anything else."""
    found = next((most for pattern, most in _NAMES if pattern.fullmatch(name)), None)
    if found is None:
        raise _refused(
            "This archive holds a file that does not belong into it.",
            "files",
            name[:120],
            "the files that the program writes, and no paths beside",
        )
    return found


class Reader:
    """Reads an archive out of a file. Every file is held against its hash as it is read. Raises BuildError."""

    def __init__(self, file: IO[bytes]) -> None:
        try:
            self._zip = zipfile.ZipFile(file)
            infos = self._zip.infolist()
        except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError, UnicodeError) as error:
            raise _refused("This is no archive.", "file", str(error)[:80] or "a file that is no zip") from error
        if len(infos) > FILES_MOST:
            raise _refused("This archive holds too many files.", "files", f"{len(infos):,}", f"at most {FILES_MOST:,}")
        self._infos: dict[str, zipfile.ZipInfo] = {}
        for info in infos:
            self._take(info)
        if sum(i.file_size for i in infos) > WHOLE_MOST:
            raise _refused(
                "This archive unpacks to too much.",
                "files",
                f"{sum(i.file_size for i in infos) / 1e9:.1f} GB",
                f"at most {WHOLE_MOST / 1e9:.0f} GB",
            )
        self.manifest = self._manifest()

    def _take(self, info: zipfile.ZipInfo) -> None:
        most = _most(info.filename)
        if info.filename in self._infos:
            raise _refused("This archive holds a file twice.", "files", info.filename)
        if info.file_size > most:
            raise _refused(
                "A file of this archive is too large.", info.filename, f"{info.file_size / 1e6:.0f} MB", f"at most {most / 1e6:.0f} MB"
            )
        if info.file_size > 10_000_000 and info.file_size > PACKED_MOST * max(info.compress_size, 1):
            raise _refused(
                "A file of this archive unpacks to far more than it is packed in.",
                info.filename,
                f"{info.file_size / max(info.compress_size, 1):,.0f} times",
                f"at most {PACKED_MOST} times",
            )
        if info.flag_bits & 0x1:
            raise _refused("A file of this archive is locked with a word.", info.filename, "encrypted", "an archive without one")
        self._infos[info.filename] = info

    def _manifest(self) -> Manifest:
        if MANIFEST not in self._infos:
            raise _refused("This archive has no manifest.", MANIFEST, "nothing")
        try:
            found = Manifest.model_validate(strict_json.loads(b"".join(self._pieces(MANIFEST)).decode()))
        except (ValidationError, FormatError, UnicodeDecodeError) as error:
            raise _refused("The manifest of this archive cannot be read.", MANIFEST, type(error).__name__) from error
        if found.format != FORMAT or found.version != VERSION:
            raise _refused(
                "This archive is of a kind or version that this program does not read.",
                MANIFEST,
                f"{found.format[:40]} {found.version}",
                f"{FORMAT} {VERSION}",
            )
        told = [f.name for f in found.files]
        if len(set(told)) != len(told) or set(told) != self._infos.keys() - {MANIFEST}:
            odd = sorted(set(told) ^ (self._infos.keys() - {MANIFEST}))
            raise _refused(
                "The manifest of this archive and its files differ.",
                MANIFEST,
                (odd or ["a name twice"])[0][:100],
                "every file named once, and no other",
            )
        self._told = {f.name: f for f in found.files}
        return found

    def names(self, folder: str = "") -> list[str]:
        """Its files, or those of a folder, by name."""
        return sorted(n for n in self._infos if n != MANIFEST and n.startswith(folder))

    def _pieces(self, name: str) -> Iterator[bytes]:
        size = 0
        try:
            with self._zip.open(self._infos[name]) as file:
                while piece := file.read(_PIECE):
                    size += len(piece)
                    if size > self._infos[name].file_size:
                        raise _refused("A file of this archive is longer than it says.", name, f"more than {size:,} bytes")
                    yield piece
        except (zipfile.BadZipFile, EOFError, OSError, NotImplementedError, ValueError) as error:
            if isinstance(error, BuildError):
                raise
            raise _refused("A file of this archive is damaged.", name, str(error)[:80]) from error
        except Exception as error:
            if type(error).__module__ == "zlib":
                raise _refused("A file of this archive is damaged.", name, str(error)[:80]) from error
            raise

    def pieces(self, name: str) -> Iterator[bytes]:
        """A file piece by piece; at its end it is held against its hash."""
        if name not in self._told:
            raise _refused("A file is missing in this archive.", name, "nothing")
        digest, size = hashlib.sha256(), 0
        for piece in self._pieces(name):
            digest.update(piece)
            size += len(piece)
            yield piece
        told = self._told[name]
        if digest.hexdigest() != told.sha256 or size != told.bytes:
            raise _refused(
                "A file of this archive is not what its manifest says.",
                name,
                f"SHA-256 {digest.hexdigest()[:12]}…",
                f"SHA-256 {told.sha256[:12]}…",
            )

    def whole(self, name: str) -> bytes:
        """A file that is short enough to hold."""
        return b"".join(self.pieces(name))

    def lines(self, name: str) -> Iterator[tuple[int, dict[str, Any]]]:
        """The objects of a file of JSON, each with its line."""
        rest, number = b"", 0
        for piece in self.pieces(name):
            rest += piece
            *whole, rest = rest.split(b"\n")
            for line in whole:
                number += 1
                yield number, _object(name, number, line)
            if len(rest) > LINE_MOST:
                raise _refused(
                    "A line of this archive is too long.", f"{name}/line {number + 1}", f"{len(rest):,} bytes", f"at most {LINE_MOST:,}"
                )
        if rest.strip():
            yield number + 1, _object(name, number + 1, rest)

    def check(self, name: str) -> None:
        """Read a file through, for its hash alone."""
        for _ in self.pieces(name):
            pass


def _object(name: str, number: int, line: bytes) -> dict[str, Any]:
    try:
        found = strict_json.loads(line.decode())
    except (FormatError, UnicodeDecodeError) as error:
        raise _refused("A line of this archive is no JSON.", f"{name}/line {number}", line[:40].decode(errors="replace")) from error
    if not isinstance(found, dict):
        raise _refused("A line of this archive is no object.", f"{name}/line {number}", type(found).__name__)
    return found


def opened(data: bytes) -> Reader:
    """An archive that is at hand as bytes."""
    return Reader(io.BytesIO(data))
