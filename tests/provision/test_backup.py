"""Backups that say what they hold, and a restore that touches nothing until it is sure; the watch over web server and database."""

import contextlib
import datetime as dt
import io
import json
import os
import pathlib
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
import unittest
import zipfile
from unittest import mock

from alembic import command as alembic
from alembic.config import Config
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import document
from tests.provision.test_provision import ROOT, folder
from uphill_spark import store
from uphill_spark.provision import backup, commands, supervise
from uphill_spark.provision.cluster import DATABASE, Cluster
from uphill_spark.provision.machine import Places
from uphill_spark.provision.say import Trouble
from uphill_spark.provision.supervise import Again, InUse, Supervisor, notices
from uphill_spark.store import prove


def migrate(url: str) -> None:
    """What the command does in a process of its own."""
    out = io.StringIO()
    with mock.patch.dict(os.environ, UPHILL_SPARK_DATABASE=url), contextlib.redirect_stdout(out):
        code = prove.main()
    if code:
        raise Trouble(out.getvalue())


class OneStore(unittest.TestCase):
    """A cluster for the class; each test begins with a store that holds two cars."""

    cluster: Cluster
    places: Places

    @classmethod
    def setUpClass(cls) -> None:
        made = tempfile.TemporaryDirectory()
        cls.addClassCleanup(made.cleanup)
        os.chmod(made.name, 0o755)
        cls.places = Places(ROOT, pathlib.Path(made.name))
        cls.cluster = Cluster(cls.places)
        with contextlib.redirect_stdout(io.StringIO()):
            cls.cluster.start()
        cls.addClassCleanup(cls.cluster.stop)

    def setUp(self) -> None:
        self.cluster.ask(f"DROP DATABASE IF EXISTS {DATABASE} WITH (FORCE)")
        self.cluster.ensure_database()
        self.folder = folder(self)
        database = store.Database(self.cluster.url())
        database.migrate()
        with database.work() as session:
            for name in ("tern", "hollin"):
                store.create(session, document(name), "Ada", "Read from a file")
        database.close()

    def names(self) -> list[str]:
        return self.cluster.ask("SELECT name FROM build ORDER BY place", DATABASE).splitlines()


class Backups(OneStore):
    def test_it_says_what_it_holds_and_is_for_its_owner_alone(self) -> None:
        file = self.folder / "store.backup"
        found = backup.write(self.cluster, file)
        self.assertEqual((found.builds, found.revisions, found.photographs, found.schema), (2, 2, 0, backup.migrations(ROOT)[-1]))
        self.assertEqual(found.words, "2 builds, 2 revisions, 0 photographs")
        self.assertEqual(file.stat().st_mode & 0o077, 0)
        self.assertEqual(json.loads(zipfile.ZipFile(file).read("about.json"))["digest"], found.digest)
        self.assertEqual(backup.prove(self.cluster, file), mock.ANY)
        self.assertEqual([f.name for f in self.folder.iterdir()], ["store.backup"])

    def test_an_empty_store_is_refused_unless_told_so(self) -> None:
        self.cluster.ask("DELETE FROM build", DATABASE)
        file = self.folder / "store.backup"
        with self.assertRaises(Trouble) as caught:
            backup.write(self.cluster, file)
        self.assertIn("is empty", str(caught.exception))
        self.assertIn(str(self.places.data), str(caught.exception))
        self.assertFalse(file.exists())
        self.assertEqual(backup.write(self.cluster, file, empty=True).builds, 0)

    def test_a_link_in_its_way_is_not_followed_and_a_folder_that_is_not_there_is_told(self) -> None:
        goal = self.folder / "precious"
        goal.write_text("precious")
        (self.folder / "store.backup.part").symlink_to(goal)
        with self.assertRaises(Trouble):
            backup.write(self.cluster, self.folder / "store.backup")
        self.assertEqual(goal.read_text(), "precious")
        with self.assertRaises(Trouble) as caught:
            backup.write(self.cluster, self.folder / "no" / "store.backup")
        self.assertIn("cannot be written", str(caught.exception))

    def test_it_is_put_back_and_what_it_replaced_is_kept(self) -> None:
        file = self.folder / "store.backup"
        written = backup.write(self.cluster, file)
        self.cluster.ask("UPDATE build SET name = 'Later' WHERE name LIKE 'Marlow%'", DATABASE)
        found, kept = backup.put_back(self.cluster, file, migrate)
        self.assertEqual((found.digest, self.names()[0]), (written.digest, document("tern")["name"]))
        assert kept is not None
        self.assertEqual(kept.stat().st_mode & 0o077, 0)
        backup.put_back(self.cluster, kept, migrate)
        self.assertEqual(self.names()[0], "Later")

    def test_one_of_any_older_tables_is_brought_up(self) -> None:
        for schema in backup.migrations(ROOT):
            with self.subTest(schema):
                self.setUp()
                database = store.Database(self.cluster.url())
                config = Config()
                config.set_main_option("script_location", str(pathlib.Path(store.__file__).parent / "migrations"))
                with database.engine.begin() as connection:
                    config.attributes["connection"] = connection
                    alembic.downgrade(config, schema)
                database.close()
                documents = self.cluster.ask("SELECT md5(string_agg(document::text, '' ORDER BY build_id)) FROM revision", DATABASE)
                file, bare = self.folder / f"{schema}.backup", self.folder / f"{schema}.pgdump"
                backup.write(self.cluster, file)
                with self.cluster.as_it_stands(DATABASE) as (snapshot, _), bare.open("wb") as out:
                    self.cluster.dump(out, DATABASE, snapshot)  # an archive alone, as it was written before
                for one in (file, bare):
                    self.cluster.ask("DELETE FROM revision; DELETE FROM build", DATABASE)
                    backup.put_back(self.cluster, one, migrate)
                    self.assertEqual(self.cluster.ask("SELECT version_num FROM alembic_version", DATABASE), backup.migrations(ROOT)[-1])
                    self.assertEqual(
                        self.cluster.ask("SELECT md5(string_agg(document::text, '' ORDER BY build_id)) FROM revision", DATABASE), documents
                    )
                    self.assertEqual(len(self.names()), 2)

    def test_one_of_newer_tables_touches_nothing(self) -> None:
        self.cluster.ask("UPDATE alembic_version SET version_num = '9999'", DATABASE)
        newer = self.folder / "newer.backup"
        backup.write(self.cluster, newer)
        self.cluster.ask(
            f"UPDATE alembic_version SET version_num = '{backup.migrations(ROOT)[-1]}'; UPDATE build SET name = 'As it was'", DATABASE
        )
        with self.assertRaises(Trouble) as caught:
            backup.put_back(self.cluster, newer, migrate)
        self.assertIn("Update the program", str(caught.exception))
        self.assertEqual(set(self.names()), {"As it was"})

    def test_a_build_that_this_version_cannot_read_touches_nothing(self) -> None:
        self.cluster.ask("""UPDATE revision SET document = jsonb_set(document::jsonb, '{version}', '99')::json""", DATABASE)
        file = self.folder / "store.backup"
        backup.write(self.cluster, file)
        self.cluster.ask("UPDATE build SET name = 'As it was'", DATABASE)
        with self.assertRaises(Trouble) as caught:
            backup.put_back(self.cluster, file, migrate)
        self.assertIn("version", str(caught.exception))
        self.assertEqual(set(self.names()), {"As it was"})

    def test_what_is_no_backup_or_a_damaged_one_touches_nothing(self) -> None:
        file = self.folder / "store.backup"
        backup.write(self.cluster, file)
        whole = file.read_bytes()
        self.cluster.ask("UPDATE build SET name = 'As it was'", DATABASE)
        half = len(whole) // 2
        about = {**json.loads(zipfile.ZipFile(file).read("about.json")), "builds": 7}
        wrong = io.BytesIO()
        with zipfile.ZipFile(wrong, "w") as packed:
            packed.writestr("about.json", json.dumps(about))
            packed.writestr("store.pgdump", zipfile.ZipFile(file).read("store.pgdump"))
        newer = io.BytesIO()
        with zipfile.ZipFile(newer, "w") as packed:
            packed.writestr("about.json", json.dumps({**about, "version": 99}))
        for name, data in {
            "text": b"no backup", "nothing": b"", "cut": whole[:half], "bent": whole[:half] + bytes([whole[half] ^ 255]) + whole[half + 1 :], "archive": b"PGDMP" + b"x" * 99,
            "not what it says": wrong.getvalue(), "newer": newer.getvalue(), "list": _zip("[]"), "bare": _zip("{}"),
        }.items():  # fmt: skip
            file.write_bytes(data)
            with self.subTest(name), self.assertRaises(Trouble):
                backup.put_back(self.cluster, file, migrate)
            self.assertEqual(set(self.names()), {"As it was"}, name)
        self.assertEqual([n for n in self.cluster.ask("SELECT datname FROM pg_database").split() if n.startswith("spark_")], [])

    def test_one_that_was_cut_off_between_its_renamings_is_mended(self) -> None:
        self.cluster.ask("ALTER DATABASE spark RENAME TO spark_aside")
        backup.mend_halfway(self.cluster)
        self.assertEqual(len(self.names()), 2)
        backup.mend_halfway(self.cluster)
        self.assertEqual(len(self.names()), 2)

    def test_each_day_one_and_only_where_there_is_something(self) -> None:
        for file in backup.folder_of(self.places).glob("daily-*"):
            file.unlink()
        start = dt.datetime(2031, 3, 3, 12, tzinfo=dt.UTC)
        found = backup.daily(self.cluster, start)
        assert found is not None
        self.assertEqual(found.builds, 2)
        self.assertIsNone(backup.daily(self.cluster, start + dt.timedelta(hours=23)))
        self.assertIsNotNone(backup.daily(self.cluster, start + dt.timedelta(hours=24)))
        self.assertEqual(notices(self.places)["backup"], "2031-03-04T12:00:00+00:00")
        self.cluster.ask("DELETE FROM revision; DELETE FROM build", DATABASE)
        self.assertIsNone(backup.daily(self.cluster, start + dt.timedelta(days=9)))

    def test_one_that_cannot_be_read_back_is_no_backup(self) -> None:
        for file in backup.folder_of(self.places).glob("daily-*"):
            file.unlink()
        with mock.patch.object(backup, "prove", side_effect=Trouble("damaged")), self.assertRaises(Trouble):
            backup.daily(self.cluster, dt.datetime(2031, 3, 3, 12, tzinfo=dt.UTC))
        self.assertIsNone(notices(self.places)["backup"])
        self.assertIsNotNone(backup.daily(self.cluster, dt.datetime(2031, 3, 3, 13, tzinfo=dt.UTC)))

    def test_the_commands_act_on_the_store_that_is_meant(self) -> None:
        file = self.folder / "store.backup"
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            self.assertEqual(commands.main(["backup", str(file), "--data", str(self.places.data)]), 0, err.getvalue())
            self.assertEqual(commands.main(["backup", str(file), "--data", str(self.folder / "elsewhere")]), 1)
        self.assertIn("holds 2 builds, 2 revisions", out.getvalue())
        self.assertIn("There is no store in", err.getvalue())
        self.assertFalse((self.folder / "elsewhere").exists())
        served = InUse(self.places, alone=False)
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            self.assertEqual(commands.main(["restore", str(file), "--data", str(self.places.data)]), 1)
        served.close()
        self.assertIn("The application runs on this store", err.getvalue())


def _zip(about: str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as packed:
        packed.writestr("about.json", about)
    return out.getvalue()


class Kept(unittest.TestCase):
    @settings(max_examples=examples(60))
    @given(st.sets(st.integers(0, 200), max_size=60), st.integers(0, 23))
    def test_seven_days_and_four_weeks_stay(self, days: set[int], hour: int) -> None:
        first = dt.date(2031, 1, 1)
        names = [f"daily-{first + dt.timedelta(days=d)}_{hour:02}0000" for d in sorted(days)]
        stay = [n for n in names if n not in backup.superfluous(names)]
        self.assertEqual(stay[-7:], names[-7:])
        self.assertLessEqual(len(stay), 11)
        self.assertEqual(backup.superfluous(stay), [])  # what stays once is not cleared by the same rule
        weeks = {(first + dt.timedelta(days=d)).isocalendar()[:2] for d in days}
        kept = {dt.date.fromisoformat(n[6:16]).isocalendar()[:2] for n in stay}
        self.assertTrue(set(sorted(weeks)[-4:]) <= kept)


class Watch(OneStore):
    def test_the_one_who_replaces_a_store_has_it_alone(self) -> None:
        first, second = InUse(self.places, alone=False), InUse(self.places, alone=False)
        first.close()
        with self.assertRaises(Trouble):
            InUse(self.places, alone=True)
        second.close()
        alone = InUse(self.places, alone=True)
        with self.assertRaises(Trouble):
            InUse(self.places, alone=False)
        alone.close()

    def test_what_falls_again_and_again_is_started_later_and_later(self) -> None:
        now = [0.0]
        again = Again(lambda: now[0])
        waits = []
        for _ in range(8):
            waits.append(again.fallen())
            again.started()
        self.assertEqual(waits, [0, 1, 2, 4, 8, 16, 30, 30])
        now[0] += 21
        self.assertEqual(again.fallen(), 0)

    def test_web_server_and_database_come_back(self) -> None:
        started: list[subprocess.Popen[bytes]] = []

        def serve() -> subprocess.Popen[bytes]:
            started.append(subprocess.Popen([sys.executable, "-c", "import time; time.sleep(600)"]))
            return started[-1]

        watch = Supervisor(self.cluster, serve)
        codes: list[int] = []
        out = io.StringIO()
        with (
            contextlib.redirect_stdout(out),
            mock.patch("uphill_spark.provision.supervise.LOOK", 0.05),
            mock.patch("uphill_spark.provision.supervise.QUICK", 0.0),
        ):
            thread = threading.Thread(target=lambda: codes.append(watch.run()))
            thread.start()
            self.until(lambda: len(started) == 1)
            started[0].kill()
            self.until(lambda: len(started) == 2)
            postmaster = int((self.cluster.data / "postmaster.pid").read_text().split()[0])
            os.kill(postmaster, signal.SIGKILL)
            self.until(lambda: self.cluster.alive and int((self.cluster.data / "postmaster.pid").read_text().split()[0]) != postmaster)
            self.until(lambda: self.answers())
            watch.stopping.set()
            thread.join(30)
        self.assertEqual(codes, [0])
        self.assertEqual(len(self.names()), 2)
        self.assertIsNotNone(started[-1].poll())
        self.assertIn("The database has died", out.getvalue())

    def test_a_web_server_that_hangs_is_started_again_and_one_that_is_sent_away_has_not_fallen(self) -> None:
        """One that lives and says nothing is as bad as a dead one; one that the watch stops because the database has moved comes back at once."""
        started: list[subprocess.Popen[bytes]] = []

        def serve() -> subprocess.Popen[bytes]:
            started.append(subprocess.Popen([sys.executable, "-c", "import time; time.sleep(600)"]))
            return started[-1]

        watch = Supervisor(self.cluster, serve, lambda: len(started) > 1)
        with (
            contextlib.redirect_stdout(io.StringIO()) as out,
            mock.patch.multiple("uphill_spark.provision.supervise", LOOK=0.05, QUICK=0.0, ASKED=0.1, SILENT=0.5, STARTS=0.5),
        ):
            thread = threading.Thread(target=watch.run)
            thread.start()
            self.until(lambda: len(started) == 2)
            self.assertIsNotNone(started[0].poll())
            time.sleep(1.0)
            self.assertEqual(len(started), 2)  # it answers: it is left alone
            watch._address = "somewhere else"  # as if the database had been started again at another port
            os.kill(int((self.cluster.data / "postmaster.pid").read_text().split()[0]), signal.SIGKILL)
            self.until(lambda: len(started) == 3)
            watch.stopping.set()
            thread.join(30)
        self.assertIn("lives and does not answer", out.getvalue())
        self.assertEqual(watch._web.falls, 1)

    def test_one_that_starts_has_longer_than_one_that_fell_silent(self) -> None:
        now, answers = 1000.0, False
        watch = Supervisor(self.cluster, lambda: None, lambda: answers)  # type: ignore[arg-type, return-value]
        watch._web = supervise.Again(lambda: now)
        with mock.patch("uphill_spark.provision.supervise.time.monotonic", lambda: now):
            for life in range(2):  # what one of before said is no answer of the one that was started after it
                watch._web.started()
                for passed, does, hangs in (
                    (supervise.STARTS - 1, False, False),
                    (2 * supervise.ASKED, False, True),
                    (supervise.ASKED, True, False),
                    (supervise.SILENT - 1, False, False),
                    (2 * supervise.ASKED, False, True),
                ):
                    now, answers = now + passed, does
                    with self.subTest(life=life, passed=passed, answers=does):
                        self.assertEqual(watch._hangs(), hangs)
                now += 5.0

    def test_a_database_that_was_killed_comes_back_at_its_port(self) -> None:
        """Connections that have just broken off do not drive it away: the web server need not be told of another one."""
        self.cluster.ask("SELECT 1")
        before = self.cluster.url()
        with socket.create_connection(("127.0.0.1", self.cluster._running_port())):
            os.kill(int((self.cluster.data / "postmaster.pid").read_text().split()[0]), signal.SIGKILL)
            self.until(lambda: not self.cluster.alive)
        with contextlib.redirect_stdout(io.StringIO()):
            self.until(lambda: self.started_again())
        self.assertEqual(self.cluster.url(), before)

    def started_again(self) -> bool:
        with contextlib.suppress(Trouble):
            self.cluster.start()
        return self.answers()

    def answers(self) -> bool:
        try:
            return self.cluster.ask("SELECT 1") == "1"
        except (Trouble, OSError, IndexError):
            return False

    def until(self, true: object) -> None:
        ends = time.monotonic() + 60
        while not true():  # type: ignore[operator]
            self.assertLess(time.monotonic(), ends, "it did not come about")
            time.sleep(0.05)

    def test_a_server_that_cannot_start_is_not_tried_for_ever(self) -> None:
        watch = Supervisor(self.cluster, lambda: subprocess.Popen([sys.executable, "-c", "raise SystemExit(3)"]))
        with mock.patch("uphill_spark.provision.supervise.LOOK", 0.3):
            self.assertEqual(watch.run(), 3)

    def test_the_door_has_a_word_for_each_start_and_one_key_for_its_owner_alone(self) -> None:
        out = io.StringIO()
        with contextlib.redirect_stdout(out):
            first, second = commands._door(self.places), commands._door(self.places)
        self.assertNotEqual(first["UPHILL_SPARK_DOOR"], second["UPHILL_SPARK_DOOR"])
        self.assertEqual(first["UPHILL_SPARK_KEY"], second["UPHILL_SPARK_KEY"])
        self.assertGreater(len(first["UPHILL_SPARK_KEY"]), 30)
        self.assertEqual((self.places.data / "store" / "key").stat().st_mode & 0o077, 0)
        self.assertIn(first["UPHILL_SPARK_DOOR"], out.getvalue())
        self.assertNotIn(first["UPHILL_SPARK_KEY"], out.getvalue())

    def test_a_port_that_is_taken_is_one_line_with_the_mend(self) -> None:
        with socket.create_server(("127.0.0.1", 0)) as squatter, self.assertRaises(Trouble) as caught:
            commands._free(squatter.getsockname()[1])
        self.assertIn("--port", str(caught.exception))
        with self.assertRaises(Trouble):
            commands._free(70000)


if __name__ == "__main__":
    unittest.main()
