"""The harness over HTTP: terminals, a meter, readings explained, circuits, papers; and what is refused, by name."""

import csv
import io
import unittest
from typing import Any

from tests.builds import worked
from tests.web.test_api import WebCase


class Harness(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.at = f"/api/builds/{self.tern()['id']}"

    def get(self, path: str) -> Any:
        answer = self.client.get(f"{self.at}/{path}")
        self.assertEqual(answer.status_code, 200, answer.text[:300])
        return answer.get_json()

    def refused(self, path: str) -> Any:
        answer = self.client.get(f"{self.at}/{path}")
        self.assertEqual(answer.status_code, 422, path)
        return answer.get_json()["problems"][0]

    def test_every_terminal_tells_its_volts(self) -> None:
        found = self.get("harness/terminals?state=prime")
        volts = {t["key"]: t["volts"] for t in found["terminals"]}
        c = worked("tern").circuit
        self.assertAlmostEqual(volts["pump.plus"], c.volts("pump.plus", "prime"), delta=0.002)
        self.assertEqual(volts["battery.minus"], 0.0)
        self.assertEqual(len(found["states"]), 8)
        self.assertLess({t["key"]: t["volts"] for t in self.get("harness/terminals?state=off")["terminals"]}["pump.plus"], 0.2)

    def test_a_reading_between_two_terminals(self) -> None:
        found = self.get("harness/meter?red=pump.plus&black=pump.minus&state=prime")
        self.assertAlmostEqual(found["value"], worked("tern").circuit.across("pump", "prime"), delta=0.002)
        self.assertIn("pump plus against pump minus", found["says"])
        ohms = self.get("harness/meter?red=pump_relay.30&black=pump_relay.87&quantity=ohms")
        self.assertIsNone(ohms["value"])
        self.assertIn("open", ohms["says"])

    def test_what_is_not_there_is_named(self) -> None:
        self.assertEqual(self.refused("harness/meter?red=unit.Z9")["at"], "red")
        self.assertEqual(self.refused("harness/meter?red=pump.plus&state=flying")["at"], "/state")
        self.assertEqual(self.refused("harness/circuits?key=moon")["at"], "key")
        self.assertIn("battery.plus", self.refused("harness/meter?red=moon")["wants"])

    def explain(self, *readings: dict[str, str]) -> Any:
        return self.client.post(f"{self.at}/harness/explain", json={"readings": list(readings)})

    def test_readings_are_explained_as_they_were_typed(self) -> None:
        typed = [{"red": "pump.plus", "state": "prime", "volts": v} for v in ("0", "0 V")]
        for row in typed:
            found = self.explain(row, {"red": "pump_relay.87", "state": "prime", "volts": "12,5"}).get_json()
            self.assertEqual(found["suspects"][0]["key"], "pump_feed.open", row)
        self.assertIn("One fault", found["assumes"])

    def test_a_reading_that_is_none_is_refused_by_its_place(self) -> None:
        answer = self.explain({"red": "pump.plus", "state": "prime", "volts": "a lot"})
        self.assertEqual(answer.status_code, 422)
        self.assertEqual(answer.get_json()["problems"][0]["at"], "readings/0/volts")
        for bad in (
            [],
            [{"red": "moon", "state": "prime", "volts": "1 V"}],
            [{"red": "pump.plus", "state": "prime", "volts": "4 ohm"}],
            None,
        ):
            self.assertEqual(self.client.post(f"{self.at}/harness/explain", json={"readings": bad}).status_code, 422, str(bad))

    def test_every_circuit_is_drawn(self) -> None:
        for row in self.get("harness/circuits")["circuits"]:
            drawn = self.get(f"harness/circuits?key={row['key']}&state=crank")["drawn"]
            self.assertEqual(drawn["key"], row["key"])

    def test_papers_of_the_harness(self) -> None:
        for key in ("tests", "fuses", "connectors"):
            self.assertTrue(self.client.get(f"{self.at}/papers/sheets/{key}.pdf").get_data().startswith(b"%PDF"), key)
        self.assertTrue(self.client.get(f"{self.at}/papers/wire-labels.pdf").get_data().startswith(b"%PDF"))
        self.assertTrue(self.client.get(f"{self.at}/papers/form-board/a3.pdf").get_data().startswith(b"%PDF"))
        self.assertEqual(self.client.get(f"{self.at}/papers/form-board/a9.pdf").status_code, 404)
        board = self.client.get(f"{self.at}/papers/form-board.svg")
        self.assertEqual(board.mimetype, "image/svg+xml")
        rows = list(csv.DictReader(io.StringIO(self.client.get(f"{self.at}/papers/test-sheet.csv").get_data(as_text=True))))
        self.assertGreater(len(rows), 100)
        self.assertIn("pump_feed", self.client.get(f"{self.at}/papers/cut-list.csv").get_data(as_text=True))
        circuit = self.client.get(f"{self.at}/papers/harness.cir?state=crank")
        self.assertIn("starter turning", circuit.get_data(as_text=True))
        self.assertEqual(circuit.mimetype, "text/plain")

    def test_a_loom_comes_in_as_a_table_with_semicolons_and_decimal_commas(self) -> None:
        text = "label;serves;length;size\nFuel pump feed;pump_feed;4,2 m;2,5 mm2\nBoost;;;\n"
        rows = self.client.post("/api/tables/loom", json={"text": text}).get_json()["rows"]
        self.assertEqual(
            rows, [{"label": "Fuel pump feed", "serves": "pump_feed", "length": "4,2 m", "size": "2,5 mm2"}, {"label": "Boost"}]
        )
        many = "label;serves;length\n" + "x;pump_feed;1 m\n" * 10_000
        self.assertIn(self.client.post("/api/tables/loom", json={"text": many}).status_code, (200, 413, 422))


if __name__ == "__main__":
    unittest.main()
