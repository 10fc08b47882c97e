"""Questions, practice and the live bus over HTTP: answered from the table of what each fault looks like; kept a person; two at once; a bus told, listened to, silent."""

from __future__ import annotations

import json
import time
import unittest
import uuid
from typing import Any

from tests.fault_tables import table
from tests.store.kept_answers import keep_faults
from tests.web.test_api import WebCase
from uphill_spark.core.asked.practice import hide
from uphill_spark.standin.bus import of_build, opened
from uphill_spark.standin.frames import own

DBC = 'VERSION ""\n\nNS_ :\n\nBS_:\n\nBU_: A B\n\nBO_ 200 One: 8 A\n SG_ RPM : 0|16@1+ (1,0) [0|9000] "rpm" B\n SG_ Water : 16|16@1- (0.1,0) [-50|150] "degC" B\n\n'


class Asked(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.id = self.tern()["id"]
        self.at = f"/api/builds/{self.id}"

    def post(self, path: str, body: dict[str, Any], status: int = 200) -> Any:
        answer = self.client.post(f"{self.at}/{path}", json=body)
        self.assertEqual(answer.status_code, status, answer.text[:300])
        return answer.get_json()

    def test_until_the_table_is_there_it_runs_and_then_it_answers(self) -> None:
        other = {"op": "replace", "path": "/engine/idle_speed", "value": "790 rpm"}
        self.client.patch(self.at, json={"base": 1, "patch": [other], "who": "Ada"})
        self.assertEqual(self.post("diagnosis", {"seen": []})["state"], "running")
        self.client.post(f"{self.at}/undo", json={"base": 2, "who": "Ada"})
        keep_faults(self.database)
        found = self.post("diagnosis", {"seen": [{"look": "starts", "shown": "nothing"}, {"look": "rail_prime", "shown": "0.15 bar"}]})
        self.assertEqual(found["state"], "ready")
        self.assertEqual(found["diagnosis"]["causes"][0]["key"], "pump_reversed")
        self.assertEqual({e["look"]: e["shown"] for e in found["evidence"]}, {"starts": "nothing", "rail_prime": 15.0})
        bad = self.post("diagnosis", {"seen": [{"look": "rail_prime", "shown": "high"}]}, 422)
        self.assertEqual(bad["problems"][0]["at"], "/seen/0")
        self.assertEqual(self.post("diagnosis", {"seen": [{"look": "Nope!", "shown": None}]}, 422)["code"], "request_not_acceptable")

    def test_readings_of_the_steps_count_as_seen(self) -> None:
        keep_faults(self.database)
        step = {"steps": {"3": {"readings": {"rail_prime": {"typed": "0.15 bar"}, "loss_prime": {"typed": "5 kPa"}}}}}
        done = self.client.patch(self.at, json={"base": 1, "patch": [{"op": "add", "path": "/start", "value": step}], "who": "Ada"})
        self.assertEqual(done.status_code, 200, done.text[:300])
        self.assertEqual(self.post("diagnosis", {"seen": []})["state"], "ready", "what was read at a step changes no fault's look")
        found = self.post("diagnosis", {"seen": []})
        shown = {e["look"]: e["shown"] for e in found["evidence"]}
        self.assertAlmostEqual(shown["rail_prime"], 15.0)
        self.assertEqual(shown["loss_prime"], 8.0, "in its band: as on a sound car")
        self.assertEqual(self.post("diagnosis", {"seen": [], "steps": False})["evidence"], [])

    def test_a_practice_is_played_kept_and_scored(self) -> None:
        keep_faults(self.database)
        begun = self.post("practice", {"who": "Ada", "seed": 4})
        self.assertEqual((begun["state"], begun["practice"]["level"], begun["practice"]["ended"]), ("ready", 1, None))
        at = f"practice/{begun['id']}"
        hidden = hide(table(), 1, 4)
        one = self.post(f"{at}/move", {"kind": "look", "key": hidden.settles, "known": 0})
        self.assertEqual(len(one["practice"]["steps"]), 1)
        again = self.post(f"{at}/move", {"kind": "look", "key": hidden.settles, "known": 0})
        self.assertEqual(len(again["practice"]["steps"]), 1, "sent twice it counts once")
        late = self.post(f"{at}/move", {"kind": "look", "key": "charging", "known": 0}, 409)
        self.assertEqual(late["code"], "moved_on")
        wrong = self.post(f"{at}/move", {"kind": "name", "key": "ghost", "known": 1}, 422)
        self.assertIn("no fault", wrong["problems"][0]["wants"])
        ended = self.post(f"{at}/move", {"kind": "name", "key": hidden.key, "known": 1})["practice"]["ended"]
        self.assertTrue(ended["found"])
        self.assertEqual(self.client.get(f"{self.at}/{at}").get_json()["practice"]["ended"], ended, "there again after a reload")
        listed = self.client.get(f"{self.at}/practice?who=Ada").get_json()
        self.assertEqual([(r["score"], r["fault"], r["level"]) for r in listed["rows"]], [(ended["score"], hidden.words, 1)])
        self.assertEqual(self.client.get(f"{self.at}/practice?who=Bo").get_json()["rows"], [])
        for seed in range(4, 12):
            second = self.post("practice", {"who": "Ada", "level": 1, "seed": seed})
            given_up = self.post(f"practice/{second['id']}/move", {"kind": "give_up", "known": 0})["practice"]["ended"]
            self.assertNotEqual(given_up["key"], hidden.key)
            hidden = next(f for f in table().faults if f.key == given_up["key"])

    def test_of_another_car_there_is_no_such_practice(self) -> None:
        keep_faults(self.database)
        begun = self.post("practice", {"who": "Ada"})
        other = self.tern()["id"]
        self.assertEqual(self.client.get(f"/api/builds/{other}/practice/{begun['id']}").status_code, 404)
        self.assertEqual(self.client.get(f"{self.at}/practice/{uuid.uuid4()}").status_code, 404)

    def told(self, step: int = 4, wanted: int = 1) -> list[dict[str, Any]]:
        """So many events of the stream."""
        answer = self.client.get(f"{self.at}/live/stream?step={step}", buffered=False)
        self.assertEqual((answer.status_code, answer.mimetype), (200, "text/event-stream"))
        found = []
        for chunk in answer.response:
            text = chunk.decode() if isinstance(chunk, bytes) else chunk
            if text.startswith("data: "):
                found.append(json.loads(text[6:]))
            if len(found) >= wanted:
                break
        answer.close()
        return found

    def test_what_the_bus_says_is_judged_and_silence_is_told(self) -> None:
        silent = self.told()[0]
        self.assertEqual((silent["stale"], silent["age"], silent["readings"], silent["holds"]), (True, None, [], False))
        bus = opened(of_build(uuid.UUID(self.id)))
        self.addCleanup(bus.shutdown)
        for speed in (205, 208, 212):
            bus.send(own().encoded("Turning", {"EngineSpeed": speed, "StarterOn": 1, "TeethInTurn": 35}))
            bus.send(own().encoded("Feeding", {"UnitVolts": 8.1, "OilPressure": 130}))
            time.sleep(0.08)
        said = self.told(4)[-1]
        self.assertEqual((said["stale"], said["turning"]), (False, "cranking"))
        verdicts = {r["key"]: r["verdict"] for r in said["readings"]}
        self.assertEqual(
            {k: verdicts[k] for k in ("speed_crank", "unit_crank", "teeth", "oil_crank")},
            {"speed_crank": "in", "unit_crank": "low", "teeth": "in", "oil_crank": "in"},
        )
        time.sleep(1.2)
        old = self.told(4)[0]
        self.assertTrue(old["stale"])
        self.assertEqual(old["readings"], [], "what is old is no reading")
        self.assertTrue(all(g["old"] for g in old["gauges"]))

    def test_a_persons_own_bus_is_told_kept_and_forgotten(self) -> None:
        put = lambda body, status=200: self._put(body, status)  # noqa: E731
        own_first = self.client.get(f"{self.at}/live/bus").get_json()
        self.assertTrue(own_first["own"])
        told = put({"place": "udp_multicast:239.74.163.21:40999", "name": "unit.dbc", "dbc": DBC, "taken": None})
        self.assertEqual([(t["quantity"], t["signal"]) for t in told["taken"]], [("speed", "RPM"), ("coolant", "Water")])
        self.assertFalse(self.client.get(f"{self.at}/live/bus").get_json()["own"])
        for body, word in (
            ({"place": "can0", "dbc": DBC}, "is no bus"),
            ({"place": "a:b", "dbc": "x"}, "cannot be used"),
            ({"place": "a:b", "dbc": DBC, "taken": [{"signal": "Water", "quantity": "coolant"}]}, "speed"),
            ({"place": "a:b", "dbc": DBC, "taken": [{"signal": "Ghost", "quantity": "speed"}]}, "DBC file"),
            ({"place": "a:b", "dbc": DBC, "taken": [{"signal": "RPM", "quantity": "speed", "": 1}]}, "/taken/0"),
            ({"place": "a:b", "dbc": DBC, "taken": [{"signal": "RPM"}]}, "/taken/0/quantity"),
            ({"place": "a:b", "dbc": DBC, "taken": [{"signal": "RPM", "quantity": "speed", "factor": "x"}]}, "a number, like"),
            ({"place": "a:b", "dbc": DBC, "taken": [{"signal": "RPM", "quantity": "speed", "factor": 0}]}, "not 0"),
        ):
            self.assertIn(word, json.dumps(put(body, 422)))
        self.assertEqual(self.client.get(f"{self.at}/live/bus").get_json()["name"], "unit.dbc", "what was refused changed nothing")
        put({"place": "socketcan:nowhere0", "dbc": DBC})
        gone = self.client.get(f"{self.at}/live/stream")
        self.assertEqual((gone.status_code, gone.get_json()["code"]), (422, "no_bus"))
        self.assertTrue(self.client.delete(f"{self.at}/live/bus").get_json()["own"])

    def _put(self, body: dict[str, Any], status: int) -> Any:
        answer = self.client.put(f"{self.at}/live/bus", json=body)
        self.assertEqual(answer.status_code, status, answer.text[:300])
        return answer.get_json()

    def test_a_stand_in_is_begun_its_key_turned_and_it_is_ended(self) -> None:
        self.assertEqual(self.post("live", {"fault": "double_advance"}, 422)["problems"][0]["at"], "/fault")
        keep_faults(self.database)
        practice = self.post("practice", {"who": "Ada", "seed": 1})["id"]
        self.post("live", {"practice": practice})
        ends = time.monotonic() + 40
        while self.told()[0]["key"] is None and time.monotonic() < ends:
            time.sleep(0.5)
        self.assertEqual(self.told()[0]["key"], "off")
        self.post("live/hand", {"key": "run", "pedal": 20})
        time.sleep(0.6)
        said = self.told(2, 3)[-1]
        self.assertEqual((said["key"], said["stale"]), ("run", False))
        self.assertEqual(self.post("live/hand", {"key": "sideways"}, 422)["code"], "request_not_acceptable")
        self.assertEqual(self.client.delete(f"{self.at}/live").status_code, 200)
        time.sleep(1.5)
        self.assertIsNone(self.told()[0]["key"])


if __name__ == "__main__":
    unittest.main()
