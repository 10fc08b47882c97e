"""An archive of a build goes out whole and comes back whole into an empty store; and what nobody means well with is told by its place, with nothing stored."""

from __future__ import annotations

import hashlib
import io
import json
import unittest
import uuid
import zipfile
from collections.abc import Callable
from typing import Any
from unittest import mock

from PIL import Image
from pypdf import PdfReader
from sqlalchemy import func, select

from tests.database import DatabaseCase
from tests.web.test_api import WebCase
from uphill_spark import demo
from uphill_spark.formats import archive as archive_format
from uphill_spark.store.tables import BuildRow, DiaryRow, PhotoRow, RevisionRow
from uphill_spark.web import archives as web_archives
from uphill_spark.web.app import create_app
from uphill_spark.web.standing import Remembered

FILE = {"content_type": "application/octet-stream"}


def picture(shade: int = 90, **more: Any) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (60, 40), (shade, 120, 60)).save(out, "JPEG", **more)
    return out.getvalue()


class Empty(DatabaseCase):
    """A second store, with nothing in it."""


class Archived(WebCase):
    def setUp(self) -> None:
        super().setUp()
        # Printing is tried by its own test: here it would be most of the time.
        paper = mock.patch.object(web_archives, "_book", lambda found: b"%PDF-1.7 a book")
        paper.start()
        self.addCleanup(paper.stop)

    def lived_in(self, car: str = "tern") -> str:
        """A car with a history: edits, an undo, a diary with a photograph, a changed entry."""
        made = self.client.post("/api/builds/import?who=Ada", json=demo.document(car)).get_json()
        at = f"/api/builds/{made['id']}"
        note = {"op": "add", "path": "/notes", "value": "Ein Lieferwagen, ½ voll, ß"}
        changed = self.client.patch(at, json={"base": 1, "patch": [note], "who": "Ada", "edit_id": str(uuid.uuid4())})
        self.assertEqual(changed.status_code, 200, changed.text[:300])
        self.client.post(f"{at}/undo", json={"base": 2, "who": "Ben"})
        key = self.client.post("/api/photos", data=picture(), **FILE).get_json()["key"]
        entry = {
            "id": str(uuid.uuid4()),
            "day": "2027-01-12",
            "words": "Off it came",
            "photos": [key],
            "hours": "2",
            "task": "manifold",
            "who": "Ada",
            "measured": [{"what": "gap", "value": "0.8 mm"}],
        }
        self.assertEqual(self.client.post(f"{at}/diary", json=entry).status_code, 201)
        again = {k: v for k, v in entry.items() if k != "id"} | {"words": "Off it came, in one piece", "base": 1}
        self.assertEqual(self.client.put(f"{at}/diary/{entry['id']}", json=again).status_code, 200)
        return str(made["id"])

    def archive(self, build: str) -> bytes:
        answer = self.client.get(f"/api/builds/{build}/archive.zip")
        self.assertEqual(
            (answer.status_code, answer.mimetype), (200, "application/zip"), answer.text[:200] if answer.status_code != 200 else ""
        )
        self.assertEqual(int(answer.headers["Content-Length"]), len(answer.data))
        return answer.data

    def put_back(self, data: bytes, status: int = 201, client: Any = None) -> Any:
        answer = (client or self.client).post("/api/archives", data=data, **FILE)
        self.assertEqual(answer.status_code, status, answer.text[:400])
        return answer.get_json()


class ThereAndBack(Archived):
    def elsewhere(self) -> Any:
        Empty.setUpClass()
        self.addCleanup(Empty.doClassCleanups)
        app = create_app(Empty.url)
        self.addCleanup(app.extensions["database"].close)
        return app.test_client()

    def test_every_demo_car_reads_back_equal_into_an_empty_store(self) -> None:
        there = self.elsewhere()
        for car in demo.NAMES:
            build = self.lived_in(car)
            data = self.archive(build)
            told = self.put_back(data, client=there)
            self.assertEqual((told["id"], told["revisions"], told["same_id"]), (build, 3, True))
            again = there.get(f"/api/builds/{build}/archive.zip").data
            with zipfile.ZipFile(io.BytesIO(data)) as one, zipfile.ZipFile(io.BytesIO(again)) as other:
                self.assertEqual(sorted(one.namelist()), sorted(other.namelist()))
                for name in one.namelist():
                    if name != "manifest.json":
                        self.assertEqual(one.read(name), other.read(name), name)
            here = self.client.get(f"/api/builds/{build}").get_json()
            gone = there.get(f"/api/builds/{build}").get_json()
            self.assertEqual(here, gone)
            self.assertEqual(there.post(f"/api/builds/{build}/redo", json={"base": 3, "who": "Ada"}).status_code, 200)
        found = there.get(f"/api/builds/{build}/diary").get_json()["entries"][0]
        self.assertEqual((found["words"], [b["words"] for b in found["before"]]), ("Off it came, in one piece", ["Off it came"]))
        self.assertEqual(there.get(f"/api/photos/{found['photos'][0]}").status_code, 200)

    def test_beside_the_one_it_came_from_it_stands_as_a_second(self) -> None:
        build = self.lived_in()
        told = self.put_back(self.archive(build))
        self.assertFalse(told["same_id"])
        self.assertNotEqual(told["id"], build)
        self.assertEqual(len(self.client.get(f"/api/builds/{told['id']}/diary").get_json()["entries"]), 1)

    def test_the_manifest_has_the_hash_of_every_file(self) -> None:
        data = self.archive(self.lived_in())
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            manifest = json.loads(packed.read("manifest.json"))
            self.assertEqual({f["name"] for f in manifest["files"]}, set(packed.namelist()) - {"manifest.json"})
            for f in manifest["files"]:
                self.assertEqual(hashlib.sha256(packed.read(f["name"])).hexdigest(), f["sha256"])
            self.assertLessEqual(
                {"build.json", "journal.jsonl", "diary.jsonl", "tables/parts.csv", "tables/tasks.csv", "papers/book.pdf"},
                set(packed.namelist()),
            )


class Hostile(Archived):
    def changed(self, change: Callable[[dict[str, bytes]], None], *, told: bool = True) -> bytes:
        """A good archive with its files changed; with `told`, the manifest goes along with it."""
        with zipfile.ZipFile(io.BytesIO(self.good)) as packed:
            files = {n: packed.read(n) for n in packed.namelist()}
        change(files)
        manifest = json.loads(files.pop("manifest.json"))
        if told:
            manifest["files"] = [{"name": n, "bytes": len(d), "sha256": hashlib.sha256(d).hexdigest()} for n, d in files.items()]
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
            for name, data in files.items():
                packed.writestr(name, data)
            packed.writestr("manifest.json", json.dumps(manifest))
        return out.getvalue()

    def test_a_long_diary_is_kept_whole_where_an_id_stands_twice(self) -> None:
        def longer(files: dict[str, bytes]) -> None:
            one = json.loads(files["diary.jsonl"].splitlines()[0])
            ids = [str(uuid.uuid4()) for _ in range(240)]
            ids[7], ids[230] = ids[6], ids[6]  # beside each other, and far behind
            files["diary.jsonl"] = b"".join(
                json.dumps({**one, "id": key, "words": f"no. {k}"}).encode() + b"\n" for k, key in enumerate(ids)
            )

        self.good = self.archive(self.lived_in())
        told = self.put_back(self.changed(longer))
        with self.database.work() as session:
            words = set(session.scalars(select(DiaryRow.words).where(DiaryRow.build_id == uuid.UUID(told["id"]))))
        self.assertEqual(words, {f"no. {k}" for k in range(240)})

    def test_each_is_told_by_its_place_and_nothing_is_stored(self) -> None:
        build = self.lived_in()
        self.good = self.archive(build)
        photo = next(n for n in zipfile.ZipFile(io.BytesIO(self.good)).namelist() if n.startswith("photos/"))

        def put(name: str, data: bytes) -> Callable[[dict[str, bytes]], None]:
            return lambda files: files.__setitem__(name, data)

        def journal(change: Callable[[list[dict[str, Any]]], None]) -> Callable[[dict[str, bytes]], None]:
            def apply(files: dict[str, bytes]) -> None:
                rows = [json.loads(line) for line in files["journal.jsonl"].splitlines()]
                change(rows)
                files["journal.jsonl"] = b"\n".join(json.dumps(r).encode() for r in rows) + b"\n"

            return apply

        def swap(files: dict[str, bytes]) -> None:
            files[photo] = picture(10)

        exif = Image.Exif()
        exif[0x010F] = "somebody"
        with_place = picture(20, exif=exif)
        twice = io.BytesIO(self.good)
        with zipfile.ZipFile(twice, "a") as packed, self.assertWarns(UserWarning):
            packed.writestr("build.json", b"{}")
        bomb = io.BytesIO()
        with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED, compresslevel=9) as packed:
            packed.writestr("journal.jsonl", b"0" * 60_000_000)
        cases: list[tuple[str, bytes, str]] = [
            ("no zip", b"hello", "/archive/file"),
            ("nothing", b"", "/archive/file"),
            ("climbs out", self.changed(put("../../etc/passwd", b"x")), "/archive/files"),
            ("from the root", self.changed(put("/tmp/x", b"x")), "/archive/files"),
            ("a stranger", self.changed(put("papers/run.sh", b"x")), "/archive/files"),
            ("twice", twice.getvalue(), "/archive/files"),
            ("a bomb", bomb.getvalue(), "/archive/journal.jsonl"),
            ("a broken hash", self.changed(swap, told=False), f"/archive/{photo}"),
            ("another picture", self.changed(swap), f"/archive/{photo}"),
            ("no picture", self.changed(put(f"photos/{hashlib.sha256(b'x').hexdigest()}.jpg", b"x")), f"/archive/photos/{hashlib.sha256(b'x').hexdigest()}.jpg"),
            ("a place in a picture", self.changed(put(f"photos/{hashlib.sha256(with_place).hexdigest()}.jpg", with_place)), f"/archive/photos/{hashlib.sha256(with_place).hexdigest()}.jpg"),
            ("not told of", self.changed(put("tables/more.csv", b"x"), told=False), "/archive/manifest.json"),
            ("cut short", self.good[: len(self.good) // 2], "/archive/file"),
            ("a hole in the journal", self.changed(journal(lambda rows: rows.pop(1))), "/archive/journal.jsonl/line 2"),
            ("no build", self.changed(journal(lambda rows: rows[2]["document"]["engine"].pop("power"))), "/archive/journal.jsonl/line 3/engine/power"),
            ("a key too many", self.changed(journal(lambda rows: rows[0].update(x=1))), "/archive/journal.jsonl/line 1/x"),
            ("no journal", self.changed(lambda files: files.pop("journal.jsonl") and None), "/archive/journal.jsonl"),
            ("no JSON", self.changed(put("diary.jsonl", b"{\n")), "/archive/diary.jsonl/line 1"),
            ("an entry that is none", self.changed(put("diary.jsonl", b'{"id": 1}\n')), "/archive/diary.jsonl/line 1/id"),
        ]  # fmt: skip
        before = self.counted()
        for name, data, at in cases:
            with self.subTest(name):
                found = self.put_back(data, 422)
                self.assertEqual(found["problems"][0]["at"], at, found)
                self.assertIn("Nothing was stored", found["message"])
        self.assertEqual(self.counted(), before)
        self.put_back(self.good)

    def counted(self) -> list[int]:
        with self.database.work() as session:
            return [session.scalar(select(func.count()).select_from(t)) or 0 for t in (BuildRow, RevisionRow, DiaryRow, PhotoRow)]

    def test_one_that_cannot_be_worked_out_is_not_stored(self) -> None:
        self.good = self.archive(self.lived_in())
        before = self.counted()
        self.app.extensions["remembered"] = Remembered()
        with mock.patch("uphill_spark.web.standing.evaluated", side_effect=KeyError("lift")):
            self.assertEqual(self.put_back(self.good, 422)["code"], "cannot_be_worked_out")
        self.assertEqual(self.counted(), before)

    def test_limits_are_held_on_both_sides(self) -> None:
        data = self.archive(self.lived_in())
        many = len(zipfile.ZipFile(io.BytesIO(data)).namelist())
        with mock.patch.object(archive_format, "FILES_MOST", many):
            self.put_back(data)
        with mock.patch.object(archive_format, "FILES_MOST", many - 1):
            self.put_back(data, 422)
        whole = sum(i.file_size for i in zipfile.ZipFile(io.BytesIO(data)).infolist())
        with mock.patch.object(archive_format, "WHOLE_MOST", whole):
            self.put_back(data)
        with mock.patch.object(archive_format, "WHOLE_MOST", whole - 1):
            self.put_back(data, 422)


class Book(WebCase):
    def test_the_book_has_its_chapters_behind_contents_that_are_true(self) -> None:
        build = self.tern()["id"]
        answer = self.client.get(f"/api/builds/{build}/papers/book.pdf")
        self.assertEqual(answer.status_code, 200, answer.text[:200] if answer.status_code != 200 else "")
        book = PdfReader(io.BytesIO(answer.data))
        marks = {str(o.title): book.get_destination_page_number(o) for o in book.outline}  # type: ignore[union-attr,arg-type]
        self.assertEqual(list(marks)[:3], ["Contents", "What differs", "Engine"] if "Engine" in marks else list(marks)[:3])
        self.assertGreater(len(marks), 14)
        first = "\n".join(book.pages[k].extract_text() for k in range(marks["What differs"] or 1))
        for title, page in list(marks.items())[1:]:
            self.assertIn(title, first)
            self.assertIn(str(page + 1), first)
            head = book.pages[page or 0].extract_text().casefold()
            self.assertIn(
                str(page + 1), book.pages[page or 0].extract_text().split(), f"{title}: its page has the number that the contents tell"
            )
            self.assertTrue(title.split(":")[0].split(" ")[0].casefold() in head, (title, head[:80]))


if __name__ == "__main__":
    unittest.main()
