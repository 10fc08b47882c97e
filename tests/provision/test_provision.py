"""Getting a machine ready: clusters, stamps, failing steps, the one command."""

import contextlib
import io
import os
import pathlib
import socket
import subprocess
import sys
import tempfile
import threading
import unittest
from unittest import mock

import psycopg

from uphill_spark.provision import commands, machine
from uphill_spark.provision.cluster import Cluster
from uphill_spark.provision.machine import Places
from uphill_spark.provision.say import Trouble, run

ROOT = pathlib.Path(__file__).resolve().parents[2]


def folder(case: unittest.TestCase) -> pathlib.Path:
    """A folder that other users may look into, gone after the test."""
    made = tempfile.TemporaryDirectory()
    case.addCleanup(made.cleanup)
    os.chmod(made.name, 0o755)
    return pathlib.Path(made.name)


class OwnCluster(unittest.TestCase):
    """On one cluster, made once; each test has databases of its own."""

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

    def connect(self, database: str = "postgres") -> psycopg.Connection[tuple[object, ...]]:
        return psycopg.connect(self.cluster.url(database).replace("+psycopg", ""), autocommit=True)

    def test_it_listens_on_loopback_with_a_password_and_nowhere_else(self) -> None:
        with self.connect() as connection:
            shown = {name: connection.execute(f"SHOW {name}").fetchone() for name in ("listen_addresses", "unix_socket_directories")}
            self.assertEqual(shown, {"listen_addresses": ("127.0.0.1",), "unix_socket_directories": ("",)})
        with self.assertRaises(psycopg.OperationalError):
            psycopg.connect(self.cluster.url("postgres").replace("+psycopg", "").replace("spark:", "spark:wrong"))

    def test_the_database_is_made_once(self) -> None:
        self.cluster.ensure_database("one")
        with self.connect("one") as connection:
            connection.execute("CREATE TABLE kept (x int)")
        self.cluster.ensure_database("one")
        with self.connect("one") as connection:
            self.assertEqual(connection.execute("SELECT count(*) FROM kept").fetchone(), (0,))

    def test_only_who_started_it_stops_it(self) -> None:
        other = Cluster(self.places)
        other.start()  # it runs already
        other.stop()
        with self.connect() as connection:
            self.assertEqual(connection.execute("SELECT 1").fetchone(), (1,))

    def test_after_a_stop_it_comes_back_even_when_its_port_was_taken(self) -> None:
        self.cluster.ensure_database("kept")
        port = int((self.cluster.kept / "port").read_text())
        self.cluster.stop()
        with socket.socket() as squatter:
            squatter.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)  # the last talk there may not be quite over
            squatter.bind(("127.0.0.1", port))
            squatter.listen()
            with contextlib.redirect_stdout(io.StringIO()):
                self.cluster.start()
            self.assertNotEqual(int((self.cluster.kept / "port").read_text()), port)
            with self.connect("kept") as connection:
                self.assertEqual(connection.execute("SELECT 1").fetchone(), (1,))

    def test_the_password_is_for_its_owner_alone(self) -> None:
        self.assertEqual((self.cluster.kept / "password").stat().st_mode & 0o077, 0)

    def test_nothing_is_written_through_a_link_in_the_databases_own_folder(self) -> None:
        goal = folder(self) / "roots"
        goal.write_text("precious")
        for name in ("pg_ctl.out", "port", "password"):
            (self.cluster.home / name).unlink(missing_ok=True)
            (self.cluster.home / name).symlink_to(goal)
        other = Cluster(self.places)
        other.start()
        self.assertTrue(other.url())
        self.assertEqual(goal.read_text(), "precious")
        (self.cluster.kept / "password").rename(self.cluster.kept / "aside")
        with self.assertRaises(OSError):  # nor is a password read through one
            other.url()
        (self.cluster.kept / "aside").rename(self.cluster.kept / "password")


class Steps(unittest.TestCase):
    def setUp(self) -> None:
        self.log = folder(self) / "log" / "setup.log"

    def quietly(self, command: list[str]) -> str:
        out = io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(out):
            run(command, "Doing it", "Do it by hand.", log=self.log)
        return out.getvalue()

    def test_a_good_step_says_what_it_does_and_keeps_its_output(self) -> None:
        self.assertEqual(self.quietly([sys.executable, "-c", "print('made')"]), "· Doing it\n")
        self.assertIn("made", self.log.read_text())

    def test_a_failing_step_is_one_line_with_the_mend(self) -> None:
        with self.assertRaises(Trouble) as caught:
            self.quietly([sys.executable, "-c", "import sys; print('why'); sys.exit(3)"])
        self.assertIn("Doing it: failed with code 3. Do it by hand.", str(caught.exception))

    def test_a_fingerprint_follows_contents_and_names(self) -> None:
        place = folder(self)
        (place / "a").write_text("1")
        first = machine.fingerprint(place)
        self.assertEqual(machine.fingerprint(place), first)
        (place / "a").write_text("2")
        second = machine.fingerprint(place)
        (place / "a").rename(place / "b")
        self.assertEqual(len({first, second, machine.fingerprint(place)}), 3)

    def test_packages_are_installed_for_the_environments_own_python_whichever_runs_this(self) -> None:
        places = Places(folder(self), folder(self))
        for name in ("requirements.txt", "requirements-dev.txt"):
            (places.root / name).write_text(name)
        places.python.parent.mkdir(parents=True)
        places.python.write_text("")
        (places.venv / "pyvenv.cfg").write_text("version = 3.11.2")
        with mock.patch.object(machine, "run") as installed:
            machine.python_environment(places, tests=True)
            machine.python_environment(places, tests=False)  # the tests' packages are there: they stay right too
            with mock.patch.object(sys, "version", "another"):
                machine.python_environment(places, tests=True)
            self.assertEqual(installed.call_count, 1)
            (places.venv / "pyvenv.cfg").write_text("version = 3.12.0")
            machine.python_environment(places, tests=False)
            (places.root / "requirements-dev.txt").write_text("one more")
            machine.python_environment(places, tests=False)
        self.assertEqual([call.args[0].count("-r") for call in installed.call_args_list], [2, 2, 2])

    def test_packages_come_by_the_quick_installer_and_by_the_slow_one_where_that_fails(self) -> None:
        places = Places(folder(self), folder(self))
        (places.root / "requirements.txt").write_text("one==1")
        (places.root / "requirements-installer.txt").write_text("uv==2")
        (places.root / "requirements-dev.txt").write_text("two==2")
        places.python.parent.mkdir(parents=True)
        places.python.write_text("")
        (places.venv / "pyvenv.cfg").write_text("version = 3.11.2")

        def done(fails: str) -> list[str]:
            asked: list[str] = []

            def runs(command: list[str], *_: object, **__: object) -> None:
                words = " ".join(command[1:])
                asked.append(words.replace(str(places.root), "").replace(str(places.python), "python"))
                if fails and fails in words:
                    raise Trouble("it cannot be reached")

            with (
                mock.patch.object(machine, "run", side_effect=runs),
                mock.patch.object(machine, "_mirror", return_value="https://mirror.example/simple"),
            ):
                machine.python_environment(places, tests=True)
            places.stamp("python-dev").unlink()
            return asked

        both, slow = "-r /requirements.txt -r /requirements-dev.txt", "-m pip install -q --disable-pip-version-check --no-input"
        quick = [
            f"{slow} -r /requirements-installer.txt",
            f"-m uv pip install --python python -q --default-index https://mirror.example/simple {both}",
        ]
        self.assertEqual(done(fails=""), quick)
        self.assertEqual(done(fails="uv pip"), [*quick, f"{slow} {both}"])
        self.assertEqual(done(fails="installer.txt"), [quick[0], f"{slow} {both}"], "where it cannot be had at all")

    def test_the_mirror_that_pip_is_told_of_holds_for_the_quick_one_too(self) -> None:
        python = pathlib.Path(sys.executable)
        with mock.patch.dict(os.environ, {"PIP_INDEX_URL": "https://mirror.example/simple"}):
            self.assertEqual(machine._mirror(python), "https://mirror.example/simple")
        own = folder(self) / "pip.conf"
        own.write_text("[global]\nindex-url = https://other.example/simple\n")
        with mock.patch.dict(os.environ, {"PIP_CONFIG_FILE": str(own)}):
            os.environ.pop("PIP_INDEX_URL", None)
            self.assertEqual(machine._mirror(python), "https://other.example/simple")

    def test_stamps(self) -> None:
        stamp = folder(self) / "stamps" / "x"
        self.assertFalse(machine.done(stamp, "1"))
        machine.mark_done(stamp, "1")
        self.assertTrue(machine.done(stamp, "1"))
        self.assertFalse(machine.done(stamp, "2"))

    def test_side_by_side_all_that_fails_is_told_when_all_has_ended(self) -> None:
        ended = []

        def fails(name: str, after: threading.Event) -> None:
            after.wait(10)
            ended.append(name)
            raise Trouble(f"{name} failed.")

        later, now = threading.Event(), threading.Event()
        now.set()
        with self.assertRaises(Trouble) as caught:
            machine.side_by_side(lambda: fails("the first", later), lambda: fails("the second", now), later.set)
        self.assertEqual((str(caught.exception), sorted(ended)), ("the first failed. the second failed.", ["the first", "the second"]))

    def test_the_page_and_the_environment_are_made_beside_each_other_after_the_packages(self) -> None:
        there, met = threading.Event(), []
        with (
            mock.patch.object(machine, "packages", side_effect=lambda *_: met.append("packages")),
            mock.patch.object(machine, "python_environment", side_effect=lambda *_, tests: met.append(there.wait(10))),
            mock.patch.object(machine, "page", side_effect=lambda *_: there.set()),  # while the other still waits
        ):
            machine.everything(Places(ROOT, folder(self)), ("one",), tests=True)
        self.assertEqual(met, ["packages", True])

    def test_missing_packages_without_root_or_sudo_are_named(self) -> None:
        places = Places(ROOT, folder(self))
        with (
            mock.patch("os.geteuid", return_value=1000),
            mock.patch("shutil.which", side_effect=lambda name: None if name == "sudo" else name),
            self.assertRaises(Trouble) as caught,
        ):
            machine.packages(places, ("no-such-package-here",))
        self.assertIn("apt-get install no-such-package-here", str(caught.exception))

    def test_nothing_is_installed_twice(self) -> None:
        with mock.patch.object(machine, "run") as asked:
            machine.packages(Places(ROOT, folder(self)), ("dpkg", "bash"))
        asked.assert_not_called()


class TheOneCommand(unittest.TestCase):
    def test_help_and_what_is_no_command(self) -> None:
        done = subprocess.run([sys.executable, str(ROOT / "spark"), "--help"], capture_output=True, text=True)
        self.assertEqual(done.returncode, 0)
        for word in ("start", "test", "plan", "shots", "bench", "check"):
            self.assertIn(word, done.stdout)
        done = subprocess.run([sys.executable, str(ROOT / "spark"), "fly"], capture_output=True, text=True)
        self.assertEqual((done.returncode, "Traceback" in done.stderr), (2, False))

    def test_trouble_is_one_line_and_exit_1(self) -> None:
        def trouble(_: object) -> int:
            raise Trouble("it does not work. Do this.")

        err = io.StringIO()
        with mock.patch.dict(commands._COMMANDS, {"bench": trouble}), contextlib.redirect_stderr(err):
            self.assertEqual(commands.main(["bench"]), 1)
        self.assertEqual(err.getvalue(), "spark: it does not work. Do this.\n")

    def test_plan_prints_the_plan_alone_on_standard_output(self) -> None:
        done = subprocess.run(
            [str(ROOT / "spark"), "plan", str(ROOT / "uphill_spark/demo/tern.json"), "--json"], capture_output=True, text=True
        )
        self.assertEqual((done.returncode, done.stdout[:1]), (0, "{"), done.stderr[-400:])


if __name__ == "__main__":
    unittest.main()
