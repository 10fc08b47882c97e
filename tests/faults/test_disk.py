"""A disk that fills up under the store: what was acknowledged is there again once there is room, and nothing else is."""

import contextlib
import io
import os
import pathlib
import subprocess
import tempfile
import time
import unittest

from sqlalchemy import text

from tests.builds import document
from uphill_spark import store
from uphill_spark.provision.cluster import Cluster
from uphill_spark.provision.machine import Places
from uphill_spark.provision.supervise import Supervisor

ROOT = pathlib.Path(__file__).resolve().parents[2]


class DiskFull(unittest.TestCase):
    def setUp(self) -> None:
        made = tempfile.TemporaryDirectory()
        self.addCleanup(made.cleanup)
        os.chmod(made.name, 0o755)
        self.place = pathlib.Path(made.name) / "small"
        self.place.mkdir()
        done = subprocess.run(
            ["mount", "-t", "tmpfs", "-o", "size=140m,mode=755", "tmpfs", str(self.place)], capture_output=True, text=True
        )
        if done.returncode != 0:
            self.skipTest("this machine lets nobody mount a small file system")
        self.addCleanup(subprocess.run, ["umount", "-l", str(self.place)], capture_output=True)

    def test_a_full_disk_loses_nothing_that_was_acknowledged(self) -> None:
        cluster = Cluster(Places(ROOT, self.place))
        self.assertTrue(str(cluster.home).startswith(str(self.place)))
        with contextlib.redirect_stdout(io.StringIO()):
            cluster.start()
        self.addCleanup(cluster.stop)
        cluster.ensure_database()
        database = store.Database(cluster.url())
        self.addCleanup(database.close)
        database.migrate()
        with database.work() as session:
            build = store.create(session, document(), "Ada", "Read from a file").row.id
        filler = self.place / "filler"
        free = os.statvfs(self.place)
        with filler.open("wb") as out, contextlib.suppress(OSError):
            out.write(b"\0" * (free.f_bavail * free.f_frsize - 300_000))
        acknowledged, refused, ends = 1, 0, time.monotonic() + 60
        while refused < 3 and time.monotonic() < ends:
            patch = [{"op": "replace", "path": "/notes", "value": os.urandom(1800).hex()}]
            try:
                with database.work() as session:
                    acknowledged = store.edit(session, build, acknowledged, patch, "Ada").after.number
            except store.StoreDown:
                refused += 1
                time.sleep(0.2)
        self.assertEqual(refused, 3)
        self.assertGreater(acknowledged, 1)
        filler.unlink()
        watch = Supervisor(cluster, lambda: subprocess.Popen(["sleep", "1"]))
        with contextlib.redirect_stdout(io.StringIO()):
            if not cluster.alive:
                self.assertTrue(watch._start_store())
        again = store.Database(cluster.url())
        self.addCleanup(again.close)
        with again.work() as session:
            self.assertIn(
                store.head(session, build).row.head, (acknowledged, acknowledged + 1)
            )  # the last one may have been stored and not told
            numbers = [row[0] for row in session.execute(text("SELECT number FROM revision ORDER BY number"))]
            self.assertEqual(numbers, list(range(1, len(numbers) + 1)))
            head = store.head(session, build).row.head
        with again.work() as session:
            self.assertEqual(
                store.edit(session, build, head, [{"op": "replace", "path": "/notes", "value": "room again"}], "Ada").head, head + 1
            )


if __name__ == "__main__":
    unittest.main()
