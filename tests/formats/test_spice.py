"""The solved harness against a circuit simulator that is not ours, node by node."""

import contextlib
import io
import json
import pathlib
import shutil
import subprocess
import tempfile
import unittest

from tests.builds import document, worked
from uphill_spark import cli
from uphill_spark.core.circuit.electric import Electric
from uphill_spark.core.circuit.states import ORDER, STATES, KeyState
from uphill_spark.formats import spice

ROOT = pathlib.Path(__file__).resolve().parents[2]


def simulated(text: str, folder: pathlib.Path) -> dict[str, float]:
    """Volts of every node, as the simulator finds them."""
    names = sorted({word for line in text.splitlines() if line[:1] in "RVI" for word in line.split()[1:3]} - {"0"})
    prints = [f"print v({name})" for name in names]
    commands = "\n".join(["set numdgt=12", "op", *prints, "quit"])
    source = text.replace(".op\n.end", f".options reltol=1e-9 abstol=1e-12 vntol=1e-12 gmin=1e-15\n.control\n{commands}\n.endc\n.end")
    (folder / "harness.cir").write_text(source)
    done = subprocess.run(["ngspice", "-b", str(folder / "harness.cir")], capture_output=True, text=True, timeout=60, check=False)
    found = {}
    for line in done.stdout.splitlines():
        left, equals, right = line.partition(" = ")
        if equals and left.strip().startswith("v("):
            found[left.strip()[2:-1]] = float(right)
    return found


class AgainstASimulator(unittest.TestCase):
    def held_against(self, circuit: Electric, state: KeyState, text: str) -> None:
        with tempfile.TemporaryDirectory() as folder:
            found = simulated(text, pathlib.Path(folder))
        k = ORDER.index(state)
        compared = 0
        for name in circuit.solution.nodes:
            if spice.node(name) != "0":
                self.assertAlmostEqual(found[spice.node(name)], circuit.solution.potential(name, k), delta=1e-6, msg=f"{state} {name}")
                compared += 1
        self.assertGreater(compared, 50)

    def test_every_node_in_every_state_of_three_cars(self) -> None:
        self.assertIsNotNone(shutil.which("ngspice"), "the simulator is installed with what the tests need")
        for car in ("tern", "hollin", "brindle"):
            circuit = worked(car).circuit
            for state in ORDER:
                self.held_against(circuit, state, spice.write(circuit, state, car))


class Commands(unittest.TestCase):
    def run_it(self, *arguments: str) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            code = cli.main(list(arguments))
        return code, out.getvalue(), err.getvalue()

    TERN = str(ROOT / "uphill_spark/demo/tern.json")

    def test_a_meter_on_the_command_line(self) -> None:
        code, out, _ = self.run_it("meter", self.TERN, "--state", "crank", "--red", "battery.plus")
        self.assertEqual((code, out.strip()), (0, f"battery plus against battery minus: {STATES['crank'].posts_v:.3f} V, starter turning."))
        code, out, _ = self.run_it("meter", self.TERN, "--red", "injector_1.1", "--black", "injector_1.2", "--ohms", "--unplugged")
        self.assertIn("15.6 Ω", out)

    def test_a_terminal_that_is_not_there_is_named_with_those_that_are(self) -> None:
        code, out, err = self.run_it("meter", self.TERN, "--red", "unit.Z9")
        self.assertEqual((code, out), (2, ""))
        self.assertIn("No terminal 'unit.Z9'", err)
        self.assertIn("unit.A1", err)

    def test_a_circuit_file(self) -> None:
        code, out, _ = self.run_it("harness", self.TERN, "--state", "idle")
        self.assertEqual(code, 0)
        self.assertTrue(out.startswith("* Marlow Tern 2600 estate: idling, fan on"))
        self.assertIn("Rpump_feed pump_relay_87 pump_plus", out)
        self.assertIn("\n.end", out)

    def test_a_name_does_not_get_into_the_file_as_an_element(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            odd = pathlib.Path(folder, "odd.json")
            odd.write_text(json.dumps({**document(), "name": "Car\u2028V9 0 1 DC 5"}))
            _, out, _ = self.run_it("harness", str(odd))
        self.assertEqual(len([line for line in out.splitlines() if line.startswith("V9")]), 0)


if __name__ == "__main__":
    unittest.main()
