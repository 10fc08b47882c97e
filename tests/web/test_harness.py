"""The harness over HTTP: terminals, a meter, readings explained, circuits, papers; and what is refused, by name."""

import csv
import io
import unittest
from typing import Any

from tests.builds import worked
from tests.leaf import leaves
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

    def test_what_flows_where(self) -> None:
        found = self.get("harness/flows?state=full")
        tank = next(b for b in found["branches"] if b["key"] == "unit_tank")
        self.assertAlmostEqual(tank["out_a"], worked("tern").circuit.drawn("pump", "full"), delta=0.01)
        self.assertEqual({p["place"] for p in found["parts"]}, {"unit", "tank", "engine", "exhaust", "front", "dash"})
        self.assertEqual(self.refused("harness/flows?state=flying")["at"], "/state")

    def test_a_wire_is_followed_end_to_end(self) -> None:
        found = self.get("harness/trace?wire=pump_feed&state=prime")
        self.assertEqual([s["key"] for s in found["spots"]][::6], ["battery.plus", "battery.minus"])
        wrong = self.refused("harness/trace?wire=moon")
        self.assertEqual((wrong["at"], wrong["given"]), ("wire", "moon"))
        self.assertIn("pump_feed", wrong["wants"])

    def test_plugs_by_their_faces(self) -> None:
        unit = self.get("harness/faces?state=run")["faces"][0]
        self.assertEqual((unit["part"], unit["rows"][0][0]["label"]), ("unit", "permanent feed"))

    def test_amps_and_a_meter_whose_fuse_goes(self) -> None:
        self.assertGreater(self.get("harness/meter?red=fuse.pump&black=pump_relay.87&state=run&quantity=amps")["value"], 5)
        across = self.get("harness/meter?red=battery.plus&black=battery.minus&state=run&quantity=amps")
        self.assertIsNone(across["value"])
        self.assertIn("fuse goes", across["says"])

    def test_what_shorts_or_hangs_in_the_air_is_refused_and_nothing_stored(self) -> None:
        before = self.client.get(self.at).get_json()
        lamp = {"label": "Lamp", "start": "battery.plus", "end": "battery.minus", "carries": "2 A"}
        for i, (path, value, words) in enumerate(
            (
                ("/wiring/added", {"one": lamp}, "shorts battery plus"),
                ("/wiring/added", {"one": lamp | {"end": "moon.plus"}}, "not there"),
                ("/wiring/left_out", ["fan_ground"], "hang in the air"),
                ("/wiring/branches/ring", {"start": "dash", "end": "engine", "length": "1 m", "zone": "cabin"}, "as it is"),
                ("/wiring/branches/ring", {"start": "dash", "end": "engine", "length": "0 m", "zone": "cabin"}, "as it is"),
            )
        ):
            body = {"base": before["head"], "patch": [{"op": "add", "path": path, "value": value}], "who": "Ada", "edit_id": f"refused-{i}"}
            answer = self.client.patch(self.at, json=body)
            self.assertEqual(answer.status_code, 422, (path, answer.text[:200]))
            self.assertIn(words, answer.get_json()["message"])
            self.assertTrue(answer.get_json()["problems"][0]["at"].startswith("/wiring/"), answer.text[:300])
        self.assertEqual(self.client.get(self.at).get_json()["head"], before["head"])

    def test_papers_of_the_harness(self) -> None:
        leaves(self)
        for key in ("tests", "fuses", "connectors", "which-wire", "hand-over"):
            self.assertTrue(self.client.get(f"{self.at}/papers/sheets/{key}.pdf").get_data().startswith(b"%PDF"), key)
        connectors = list(csv.reader(io.StringIO(self.client.get(f"{self.at}/papers/sheets/connectors.csv").get_data(as_text=True))))
        self.assertIn(["Control unit", "A1", "permanent feed"], [row[:3] for row in connectors])
        self.assertEqual(self.client.get(f"{self.at}/papers/sheets/moon.csv").status_code, 404)
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
