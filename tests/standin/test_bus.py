"""The bus: frames by a DBC file, a reader that neither a flood nor silence upsets, signals taken for quantities, the stand-in alone, recorded and replayed."""

from __future__ import annotations

import contextlib
import io
import json
import pathlib
import subprocess
import sys
import tempfile
import time
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.builds import document, edited
from uphill_spark.core.errors import FormatError, NoBus
from uphill_spark.core.live import OF_LOGS, QUANTITIES, SignalTaken, guessed, readings, stale, turning
from uphill_spark.core.stages.start import live, one
from uphill_spark.core.worked import work_out
from uphill_spark.standin.__main__ import main
from uphill_spark.standin.bus import FLOOD, Reader, opened, where
from uphill_spark.standin.frames import OWN, own, read
from uphill_spark.standin.library import can
from uphill_spark.standin.unit import CannotStand, StandIn, stand

ROOT = pathlib.Path(__file__).resolve().parents[2]
HEAD = 'VERSION ""\n\nNS_ :\n\nBS_:\n\nBU_: A B\n\n'


def dbc(*signals: str, size: int = 8) -> str:
    return HEAD + f"BO_ 100 One: {size} A\n" + "".join(f" SG_ {s}\n" for s in signals) + "\n"


class Files(unittest.TestCase):
    def test_the_file_that_ships_says_every_quantity_and_comes_back_as_it_was_sent(self) -> None:
        frames = own()
        self.assertEqual(set(OWN), set(QUANTITIES) - OF_LOGS)
        sent = {
            "EngineSpeed": 3210.25,
            "SparkAdvance": -12.5,
            "TeethInTurn": 35,
            "InStep": 1,
            "EngineRuns": 1,
            "StarterOn": 0,
            "PumpOn": 1,
            "Counter": 7,
        }
        back = frames.decoded(frames.encoded("Turning", sent))
        self.assertEqual(back, {k: float(v) for k, v in sent.items()})
        self.assertEqual(frames.quantities(back)["speed"], 3210.25)

    @given(st.floats(-1e6, 1e6), st.floats(-1e3, 1e3))
    def test_what_does_not_fit_is_held_at_its_end(self, speed: float, advance: float) -> None:
        back = own().decoded(own().encoded("Turning", {"EngineSpeed": speed, "SparkAdvance": advance}))
        self.assertTrue(0 <= back["EngineSpeed"] <= 16000)
        self.assertTrue(-90 <= back["SparkAdvance"] <= 90)

    def test_files_that_cannot_be_used_say_why(self) -> None:
        bad = {
            "nonsense": "cannot be used",
            HEAD: "no signal",
            dbc('One : 0|16@1+ (1,0) [0|9] "rpm" B', 'Two : 8|16@1+ (1,0) [0|9] "V" B'): "overlapping",
            dbc('One : 60|16@1+ (1,0) [0|9] "rpm" B'): "does not fit",
            HEAD + "BO_ 1 M: 8 A\n" * 3001: "more than 3000 messages",
            "x" * 2_000_001: "larger than 2 MB",
        }
        for text, word in bad.items():
            with self.subTest(word=word), self.assertRaises(FormatError) as raised:
                read(text)
            self.assertIn(word, str(raised.exception))

    def test_signals_are_guessed_by_name_and_unit_and_taken_in_their_own_units(self) -> None:
        found = {
            t.quantity: t
            for t in guessed(
                [
                    ("ECU_RPM", "1/min"),
                    ("MAP", "bar"),
                    ("CLT", "degF"),
                    ("IAT", "degC"),
                    ("BattVolt", "mV"),
                    ("FuelPressure", "psi"),
                    ("Odd", "furlong"),
                ]
            )
        }
        self.assertEqual(
            {q: t.signal for q, t in found.items()},
            {"speed": "ECU_RPM", "manifold": "MAP", "coolant": "CLT", "air": "IAT", "volts": "BattVolt", "rail": "FuelPressure"},
        )
        self.assertAlmostEqual(0.98 * found["manifold"].factor + found["manifold"].offset, 98.0)
        self.assertAlmostEqual(212 * found["coolant"].factor + found["coolant"].offset, 100.0)
        self.assertAlmostEqual(12500 * found["volts"].factor, 12.5)

    def test_a_value_that_cannot_be_is_left_out(self) -> None:
        frames = read(dbc('Speed : 0|16@1+ (1,0) [0|65535] "rpm" B'), [SignalTaken(signal="Speed", quantity="speed")])
        self.assertEqual(frames.quantities({"Speed": 60000.0}), {})
        self.assertEqual(frames.quantities({"Speed": 900.0, "Other": 1.0}), {"speed": 900.0})

    def test_a_frame_of_another_length_or_kind_says_nothing(self) -> None:
        self.assertEqual(own().decoded(can.Message(arbitration_id=1296, data=b"\x01", is_extended_id=False)), {})
        self.assertEqual(own().decoded(can.Message(arbitration_id=77, data=bytes(8), is_extended_id=False)), {})


class Buses(unittest.TestCase):
    def test_a_bus_is_told_in_one_line(self) -> None:
        self.assertEqual(str(where("udp_multicast:239.74.163.21:41001")), "udp_multicast:239.74.163.21:41001")
        self.assertEqual(where("slcan:/dev/ttyACM0:500000").bitrate, 500000)
        for bad in ("can0", "a:b:c", ":x", "a:b:1:2"):
            with self.assertRaises(NoBus):
                where(bad)

    def test_one_that_is_not_there_is_told(self) -> None:
        with self.assertRaisesRegex(NoBus, "cannot be opened"):
            opened(where("socketcan:nowhere0"))

    def reader(self) -> tuple[Reader, list[float]]:
        clock = [100.0]
        bus = can.Bus(interface="virtual", channel=self.id())
        reader = Reader(bus, own(), lambda: clock[0])
        self.addCleanup(reader.close)
        return reader, clock

    def test_silence_turns_a_reading_old_and_the_others_stay(self) -> None:
        reader, clock = self.reader()
        self.assertTrue(stale(reader.seen().age))
        reader.took(own().encoded("Turning", {"EngineSpeed": 900}))
        reader.took(own().encoded("Feeding", {"UnitVolts": 13.5}))
        self.assertFalse(stale(reader.seen().age))
        clock[0] += 0.9
        reader.took(own().encoded("Turning", {"EngineSpeed": 910}))
        clock[0] += 0.2
        seen = reader.seen()
        self.assertIn("volts", seen.old)
        self.assertNotIn("speed", seen.old)
        clock[0] += 1.0
        self.assertTrue(stale(reader.seen().age))
        reader.took(own().encoded("StandIn", {"KeyAt": 0}))
        self.assertTrue(stale(reader.seen().age), "the hand at the key is no word of the unit")
        self.assertNotIn("volts", reader.seen().samples[-1][1])

    def test_of_a_flood_most_is_let_go_and_counted(self) -> None:
        reader, _ = self.reader()
        frame = own().encoded("Turning", {"EngineSpeed": 900})
        for _ in range(FLOOD + 250):
            reader.took(frame)
        self.assertEqual(reader.let_go, 250)
        self.assertLess(len(reader.seen().samples), 5)

    def test_frames_out_of_order_or_with_a_jumping_clock_stand_by_when_they_came(self) -> None:
        reader, clock = self.reader()
        for stamp, speed in ((5e9, 800), (1.0, 820), (-3.0, 840)):
            frame = own().encoded("Turning", {"EngineSpeed": speed})
            frame.timestamp = stamp
            clock[0] += 0.1
            reader.took(frame)
        times = [t for t, _ in reader.seen().samples]
        self.assertEqual(times, sorted(times))
        self.assertEqual(reader.seen().now["speed"], 840)


class Readings(unittest.TestCase):
    def samples(self, *rows: dict[str, float]) -> list:  # type: ignore[type-arg]
        return [(k * 0.1, row) for k, row in enumerate(rows)]

    def test_each_reading_comes_from_moments_in_which_it_means_something(self) -> None:
        still = {
            "speed": 0.0,
            "starter": 0.0,
            "runs": 0.0,
            "manifold": 96.0,
            "throttle": 0.2,
            "rail": 301.0,
            "pump": 1.0,
            "coolant": 15.0,
            "air": 16.0,
            "volts": 12.4,
        }
        turns = still | {"speed": 210.0, "starter": 1.0, "volts": 9.9, "teeth": 35.0, "oil": 120.0, "pulse": 17.0}
        idles = still | {
            "speed": 800.0,
            "runs": 1.0,
            "manifold": 40.0,
            "volts": 13.8,
            "lambda": 0.97,
            "coolant": 84.0,
            "valve": 12.0,
            "pulse": 3.2,
            "rail": 244.0,
            "oil": 300.0,
        }
        found = readings(self.samples(*[still] * 3, *[turns] * 12, *[idles] * 25))
        self.assertEqual({k: found[k].typed for k in ("rail_prime", "speed_crank", "unit_crank", "teeth", "charging", "speed_idle", "lambda_idle", "catches")},
            {"rail_prime": "301 kPa", "speed_crank": "210 rpm", "unit_crank": "9.9 V", "teeth": "35", "charging": "13.8 V", "speed_idle": "800 rpm", "lambda_idle": "0.97", "catches": "1.2 s"})  # fmt: skip
        self.assertNotIn("manifold_still", found)
        self.assertEqual(readings(self.samples(*[still] * 3))["manifold_still"].typed, "96 kPa")
        self.assertNotIn("lambda_idle", readings(self.samples(*[idles | {"coolant": 40.0}] * 5)))
        self.assertEqual(readings([]), {})

    def test_the_starters_ramp_is_no_cranking_speed(self) -> None:
        rows = [{"speed": s, "starter": 1.0} for s in (10.0, 200.0, 210.0, 220.0, 470.0, 600.0)]
        self.assertEqual(readings(self.samples(*rows))["speed_crank"].value, 210.0)

    def test_they_are_judged_as_if_typed(self) -> None:
        w = work_out(edited("tern"))
        rows = {e.key: e for e in live(one(w, 3), {"rail_prime": "120 kPa"})}
        self.assertEqual((rows["rail_prime"].verdict, rows["rail_prime"].off), ("low", "165 kPa under"))
        self.assertEqual(rows["loss_prime"].verdict, "open")

    def test_what_the_engine_does(self) -> None:
        self.assertEqual(turning({}), "still")
        self.assertEqual(turning({"starter": 1.0, "speed": 200.0}), "cranking")
        self.assertEqual(turning({"speed": 800.0}), "running")


class Alone(unittest.TestCase):
    def run_of(self, *more: str) -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            [sys.executable, "-m", "uphill_spark.standin", "-", *more],
            input=json.dumps(document()),
            text=True,
            capture_output=True,
            timeout=100,
            cwd=ROOT,
        )

    def test_it_starts_by_itself_is_recorded_and_played_again(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            for ending in ("blf", "mf4"):
                record = str(pathlib.Path(folder, f"start.{ending}"))
                bus = f"udp_multicast:239.74.163.21:{40500 + len(ending) + ord(ending[0])}"
                made = self.run_of("--tidy", "--start", "--speed", "8", "--seconds", "7", "--bus", bus, "--record", record)
                self.assertEqual(made.returncode, 0, made.stderr)
                self.assertRegex(made.stderr, r"7\.0 s +9\d\d rpm|7\.0 s +1\d{3} rpm")
                reader = Reader(opened(where(bus)), own()).begin()
                played = self.run_of("--replay", record, "--speed", "1", "--bus", bus)
                self.assertEqual(played.returncode, 0, played.stderr)
                time.sleep(0.3)
                seen = reader.seen()
                reader.close()
                self.assertGreater(seen.now["speed"], 700)
                self.assertGreater(len(seen.samples), 5)

    def test_what_cannot_be_taken_is_one_line_and_exit_2(self) -> None:
        file = str(ROOT / "uphill_spark" / "demo" / "tern.json")
        for more, word in (
            (("--fault", "ghost", "--tidy"), "no such fault"), (("--fault", "double_advance", "--tidy"), "distributor"), (("--speed", "0"), "between 0.05 and 500"), (("--record", "x.csv"), "ends in"),
            (("--bus", "can0"), "is no bus"), (("--replay", "/nowhere/x.blf"), "cannot be read"),
        ):  # fmt: skip
            said = io.StringIO()
            with contextlib.redirect_stderr(said):
                code = main([file, *more])
            self.assertEqual((code, said.getvalue().count("Traceback")), (2, 0), said.getvalue())
            self.assertIn(word, said.getvalue())

    def test_a_hand_on_the_bus_turns_its_key_and_ends_it(self) -> None:
        standin = StandIn(document(), tidy=True)
        name = self.id()
        bus, hand = can.Bus(interface="virtual", channel=name), can.Bus(interface="virtual", channel=name)
        self.addCleanup(bus.shutdown)
        self.addCleanup(hand.shutdown)
        keys = {0.1: 1.0, 3.0: 2.0, 6.0: 1.0, 8.0: 3.0}

        def press(_: StandIn, t: float) -> None:
            for at in [k for k in keys if k <= t]:
                hand.send(own().encoded("Hand", {"Key": keys.pop(at)}))

        stand(standin, bus, 20.0, 30.0, every=press)
        self.assertLess(standin.car.t, 12.0)
        self.assertTrue(standin.runs)
        heard = [own().decoded(m) for m in iter(lambda: hand.recv(0.0), None)]
        self.assertGreater(max(row.get("EngineSpeed", 0.0) for row in heard), 700)
        self.assertGreater(max(row.get("RailPressure", 0.0) for row in heard), 280)

    def test_a_fault_comes_in_and_one_that_cannot_be_is_refused(self) -> None:
        cold = StandIn(document(), "coolant_open", tidy=True)
        cold.key = 1
        for _ in range(20):
            cold.step()
        self.assertEqual(cold.told()["Breathing"]["CoolantTemperature"], -40.0)
        with self.assertRaises(CannotStand):
            StandIn(document(), "hot_igniter", tidy=True)

    def test_with_the_key_off_the_unit_says_nothing(self) -> None:
        standin = StandIn(document(), tidy=True)
        standin.step()
        self.assertEqual(set(standin.told()), {"StandIn"})
        standin.key = 1
        standin.step()
        self.assertEqual(set(standin.told()), {"Turning", "Breathing", "Fuelling", "Feeding", "Heating", "StandIn"})
        self.assertTrue(np.isfinite(list(standin.told()["Fuelling"].values())).all())


if __name__ == "__main__":
    unittest.main()
