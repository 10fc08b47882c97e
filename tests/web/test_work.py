"""The work over HTTP: as of a day, on paper, parts by table, calendars in and out, the diary and what is found in it."""

from __future__ import annotations

import datetime as dt
import io
import time
import unittest
import uuid
from typing import Any
from urllib.parse import quote

import icalendar
from openpyxl import load_workbook
from pypdf import PdfReader
from sqlalchemy import insert, text

from tests.web.test_api import WebCase
from uphill_spark import demo
from uphill_spark.store.tables import DiaryRow
from uphill_spark.web.work_models import read_hours

FILE = {"content_type": "application/octet-stream"}
HEAD, TAIL = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//a//b\r\n", "END:VCALENDAR\r\n"


def event(uid: int, begins: str, ends: str, more: str = "") -> str:
    return f"BEGIN:VEVENT\r\nUID:{uid}\r\nDTSTAMP:20270101T000000Z\r\nDTSTART{begins}\r\nDTEND{ends}\r\n{more}SUMMARY:x\r\nEND:VEVENT\r\n"


class OfTheTern(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.id = self.tern()["id"]
        self.at = f"/api/builds/{self.id}"

    def seen(self, on: str = "2027-01-11") -> Any:
        answer = self.client.get(f"{self.at}/work?on={on}")
        self.assertEqual(answer.status_code, 200, answer.text[:300])
        return answer.get_json()

    def edit(self, base: int, *patch: dict[str, Any]) -> Any:
        answer = self.client.patch(self.at, json={"base": base, "patch": list(patch), "who": "Ada"})
        self.assertEqual(answer.status_code, 200, answer.text[:300])
        return answer.get_json()


class Planned(OfTheTern):
    def test_as_of_a_day_it_says_what_to_do_and_what_to_order(self) -> None:
        found = self.seen()
        self.assertEqual(
            [d["weekday"] for d in found["week"]], ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"]
        )
        keys = {e["key"] for d in found["week"] for e in d["evenings"]}
        self.assertIn("photograph", keys)
        self.assertEqual({o["supplier"] for o in found["orders"]}, {"Coast Fuel Parts", "Harbour Electrics"})
        self.assertEqual([c["key"] for c in found["coming"]], ["fuel.pump", "fuel.tank_hose", "fuel.tank_seal"])
        self.assertEqual(found["slipped"], 0)

    def test_a_week_in_which_nothing_was_done_slips_and_a_promise_that_passed_is_told(self) -> None:
        later = self.seen("2027-01-25")
        self.assertGreater(later["slipped"], 0)
        self.assertTrue(all(c["over"] for c in later["coming"]))
        self.assertTrue(all(e["day"] >= "2027-01-25" for e in later["plan"]["evenings"]))

    def test_a_day_that_is_none_is_refused(self) -> None:
        for on in ("yesterday", "2027-02-30", "0001-01-01", ""):
            self.assertEqual(self.client.get(f"{self.at}/work?on={on}").status_code, 422, on)

    def test_the_week_and_the_tags_are_printed(self) -> None:
        for paper in ("week.pdf?on=2027-01-11", "tags.pdf", "tags.pdf?code=k7dm"):
            answer = self.client.get(f"{self.at}/work/{paper}")
            self.assertEqual((answer.status_code, answer.data[:5]), (200, b"%PDF-"), answer.text[:200] if answer.status_code != 200 else "")
        self.assertEqual(self.client.get(f"{self.at}/work/tags.pdf?code=zzzz").status_code, 404)

    def test_the_calendar_holds_the_evenings_and_what_to_order(self) -> None:
        found = icalendar.Calendar.from_ical(self.client.get(f"{self.at}/work/evenings.ics?on=2027-01-11").data)
        events = found.walk("VEVENT")
        told = [str(e["SUMMARY"]) for e in events]
        self.assertTrue(any("(Ada and Ben)" in t for t in told), told[:5])
        self.assertTrue(any(t.startswith("Order by today") for t in told))
        evenings = [e for e in events if isinstance(e.decoded("DTSTART"), dt.datetime)]
        self.assertEqual(len(evenings), len(self.seen()["plan"]["evenings"]))
        self.assertTrue(all(e.decoded("DTSTART").tzinfo is None for e in evenings))
        self.assertEqual(len({str(e["UID"]) for e in events}), len(events))

    def test_a_private_address_is_told_once_and_closed_again(self) -> None:
        made = self.client.post(f"{self.at}/work/feeds", json={"person": "ben"})
        self.assertEqual(made.status_code, 201, made.text)
        path = made.get_json()["path"]
        found = icalendar.Calendar.from_ical(self.client.get(path).data)
        self.assertTrue(all("Ada)" not in str(e["SUMMARY"]) or "and Ben" in str(e["SUMMARY"]) for e in found.walk("VEVENT")))
        again = self.client.post(f"{self.at}/work/feeds", json={"person": "ben"}).get_json()["path"]
        self.assertEqual((self.client.get(path).status_code, self.client.get(again).status_code), (404, 200))
        self.assertEqual(self.client.delete(f"{self.at}/work/feeds?person=ben").get_json()["people"], [])
        self.assertEqual(self.client.get(again).status_code, 404)
        self.assertEqual(self.client.post(f"{self.at}/work/feeds", json={"person": "uncle"}).status_code, 404)


class CalendarsIn(OfTheTern):
    def read(self, body: str | bytes, status: int = 200, person: str = "ada", zone: str = "Europe/Berlin") -> Any:
        data = body if isinstance(body, bytes) else body.encode()
        answer = self.client.post(f"{self.at}/work/calendar?person={person}&zone={zone}", data=data, **FILE)
        self.assertEqual(answer.status_code, status, answer.text[:300])
        return answer.get_json()

    def test_busy_times_in_free_hours_are_read_and_the_plan_goes_round_them(self) -> None:
        found = self.read(
            HEAD + event(1, ":20270112T180000Z", ":20270112T210000Z") + event(2, ";VALUE=DATE:20270113", ";VALUE=DATE:20270114") + TAIL
        )
        self.assertEqual(found, {"busy": ["2027-01-12T19:00/2027-01-12T22:00"], "events": 2, "unread": 0})
        self.edit(1, {"op": "add", "path": "/work/people/ada/busy", "value": found["busy"]})
        self.assertNotIn("2027-01-12", {e["day"] for e in self.seen()["plan"]["evenings"]})

    def test_the_calendars_that_ship_bend_the_week_and_a_part_that_slips_moves_it(self) -> None:
        def printed(on: str) -> str:
            pages = PdfReader(io.BytesIO(self.client.get(f"{self.at}/work/week.pdf?on={on}").data)).pages
            return " ".join(" ".join(p.extract_text().split()) for p in pages)

        self.assertIn("Tuesday, 2027-01-19", printed("2027-01-18"))
        for revision, person in enumerate(demo.PEOPLE, 1):
            found = self.read(self.client.get(f"/api/demo/calendars/{person}.ics").data, person=person)
            self.assertTrue(found["busy"] and not found["unread"], found)
            self.edit(revision, {"op": "add", "path": f"/work/people/{person}/busy", "value": found["busy"]})
        week = printed("2027-01-18")
        self.assertNotIn("Tuesday, 2027-01-19", week, "Ada sings")
        self.assertIn("Thursday, 2027-01-21", week)
        finish = self.seen()["plan"]["finish"]
        self.edit(3, {"op": "add", "path": "/work/parts/fuel.pump/due", "value": "2027-03-12"})
        self.assertNotEqual(printed("2027-01-18"), week)
        self.assertGreater(self.seen()["plan"]["finish"], finish)
        self.assertEqual(self.client.get("/api/demo/calendars/uncle.ics").status_code, 404)

    def test_clocks_that_are_put_forward_move_nothing_on_the_wall(self) -> None:
        weekly = event(1, ";TZID=Europe/Berlin:20270316T190000", ";TZID=Europe/Berlin:20270316T200000", "RRULE:FREQ=WEEKLY;COUNT=4\r\n")
        self.assertEqual([b[11:16] for b in self.read(HEAD + weekly + TAIL)["busy"]], ["19:00"] * 4)
        fixed = event(1, ":20270323T180000Z", ":20270323T190000Z") + event(2, ":20270330T180000Z", ":20270330T190000Z")
        self.assertEqual([b[11:16] for b in self.read(HEAD + fixed + TAIL)["busy"]], ["19:00", "20:00"])

    def test_what_is_free_or_cancelled_takes_no_time(self) -> None:
        for more in ("TRANSP:TRANSPARENT\r\n", "STATUS:CANCELLED\r\n"):
            self.assertEqual(self.read(HEAD + event(1, ":20270112T180000Z", ":20270112T210000Z", more) + TAIL)["busy"], [])

    def test_ten_thousand_events(self) -> None:
        begin = dt.datetime(2027, 1, 1)
        many = "".join(event(k, f":{begin + dt.timedelta(hours=k):%Y%m%dT%H%M%S}", f":{begin + dt.timedelta(hours=k, minutes=30):%Y%m%dT%H%M%S}") for k in range(10_000))  # fmt: skip
        since = time.monotonic()
        found = self.read(HEAD + many + TAIL)
        self.assertEqual(found["events"], 10_000)
        self.assertLess(time.monotonic() - since, 60)

    def test_what_is_no_calendar_says_what_would_do(self) -> None:
        for body in (b"", b"hello", b"\xff\xfe\x00", b"BEGIN:VCALENDAR\r\nBEGIN:VEVENT"):
            self.assertTrue(self.read(body, 422)["problems"][0]["wants"].startswith("an iCalendar file"), body)
        self.assertIn("zone", self.read(HEAD + TAIL, 422, zone="Nowhere/Else")["problems"][0]["wants"])
        self.read(HEAD + TAIL, 404, person="uncle")

    def test_rules_that_never_end_are_told_and_left(self) -> None:
        plain = event(2, ":20270114T180000Z", ":20270114T190000Z")
        found = self.read(HEAD + event(1, ":20270112T183000", ":20270112T193000", "RRULE:FREQ=SECONDLY\r\n") + plain + TAIL)
        self.assertEqual((len(found["busy"]), found["unread"]), (1, 1))
        many = "".join(event(k, ":20270112T193000", ":20270112T203000", "RRULE:FREQ=DAILY\r\n") for k in range(200))
        self.assertIn("too often", self.read(HEAD + many + TAIL, 422)["message"])

    def test_a_file_for_a_form_is_refused(self) -> None:
        answer = self.client.post(f"{self.at}/work/calendar?person=ada&zone=UTC", data=b"x", content_type="text/plain")
        self.assertEqual(answer.status_code, 415)


class PartsByTable(OfTheTern):
    def read(self, data: bytes, status: int = 200) -> Any:
        answer = self.client.post(f"{self.at}/work/parts", data=data, **FILE)
        self.assertEqual(answer.status_code, status, answer.text[:300])
        return answer.get_json()

    def test_what_goes_out_comes_in_as_it_was(self) -> None:
        for ending in ("csv", "xlsx"):
            data = self.client.get(f"{self.at}/work/parts.{ending}").data
            self.assertEqual(self.read(data)["patch"], [], ending)

    def test_what_was_filled_in_comes_back_to_its_line(self) -> None:
        book = load_workbook(io.BytesIO(self.client.get(f"{self.at}/work/parts.xlsx").data))
        sheet = book.worksheets[0]
        heading = {str(c.value): c.column for c in sheet[1]}
        row = next(r for r in range(2, sheet.max_row + 1) if sheet.cell(r, heading["key"]).value == "fuel.pump")
        sheet.cell(row, heading["price"], "109,50 EUR")
        sheet.cell(row, heading["promised"], dt.datetime(2027, 1, 20))
        sheet.cell(row, heading["words"], "@ask for the blue one")
        out = io.BytesIO()
        book.save(out)
        found = self.read(out.getvalue())
        self.assertEqual((found["changed"], found["new"]), (1, 0))
        self.edit(1, *found["patch"])
        stands = self.client.get(self.at).get_json()["build"]["work"]["parts"]["fuel.pump"]
        self.assertEqual((stands["price"], stands["due"]), ("109,50 EUR", "2027-01-20"))
        self.assertIn("'@ask", self.client.get(f"{self.at}/work/parts.csv").text)

    def test_lines_of_ones_own_with_semicolons(self) -> None:
        found = self.read(b"what;quantity;unit;price\r\ncopper washer;12;piece;4,80 EUR\r\ncopper washer 2;3;piece;\r\n")
        self.assertEqual(found["new"], 2)
        self.edit(1, *found["patch"])

    def test_several_lists_are_merged_into_one_order(self) -> None:
        other = self.tern()["id"]
        answer = self.client.get(f"/api/order.csv?builds={self.id},{other}")
        rows = answer.text.splitlines()
        gauge = next(r for r in rows if "fuel pressure gauge" in r)
        self.assertTrue(gauge.startswith("Coast Fuel Parts,fuel pressure gauge,2"), gauge)
        self.assertIn("35 EUR + 35 EUR", gauge)
        self.assertEqual(self.client.get("/api/order.csv?builds=x").status_code, 422)
        self.assertEqual(self.client.get(f"/api/order.csv?builds={uuid.uuid4()}").status_code, 404)
        self.assertEqual(self.client.get(f"{self.at}/work/labels.pdf").data[:5], b"%PDF-")

    def test_bad_lines_are_named_and_nothing_is_taken(self) -> None:
        found = self.read(b"what,price,state\nfilter,lots,ordered\nregulator,5 EUR,lost\n,1 EUR,\n", 422)
        self.assertEqual({p["at"] for p in found["problems"]}, {"/table/line 2/price", "/table/line 3/state", "/table/line 4/what"})
        for data in (b"", b"a,b\n1,2\n", b"PK\x03\x04junk", b"\x00\x01" * 50, b"what\n" + b"x\n" * 1500):
            self.assertEqual(self.read(data, 422)["code"], "build_not_acceptable")


class InTheDiary(OfTheTern):
    def write(self, words: str, status: int = 201, **more: Any) -> Any:
        body = {"id": str(uuid.uuid4()), "day": "2027-01-12", "words": words, "who": "Ada", **more}
        answer = self.client.post(f"{self.at}/diary", json=body)
        self.assertEqual(answer.status_code, status, answer.text[:300])
        return answer.get_json()

    def told(self, query: str = "") -> Any:
        answer = self.client.get(f"{self.at}/diary?{query}")
        self.assertEqual(answer.status_code, 200, answer.text[:400])
        return answer.get_json()

    def test_an_entry_sent_twice_counts_once_and_another_under_its_id_is_refused(self) -> None:
        entry = str(uuid.uuid4())
        first = self.write("Carburettor off", id=entry, hours="2:30", task="manifold")
        self.assertEqual(first["hours"], 2.5)
        self.assertEqual(self.write("Carburettor off", id=entry, hours="2:30", task="manifold"), first)
        self.assertEqual(self.write("Something else", 422, id=entry)["code"], "id_taken")
        found = self.told()
        self.assertEqual((len(found["entries"]), found["hours"], found["by_task"]), (1, 2.5, {"manifold": 2.5}))

    def test_what_it_said_before_is_kept_and_a_stale_change_is_told(self) -> None:
        entry = self.write("Gap 0.8")
        body = {
            "day": "2027-01-12",
            "kind": "measured",
            "words": "Gap 0.9",
            "who": "Ben",
            "base": 1,
            "measured": [{"what": "gap", "value": "0.9 mm"}],
        }
        at = f"{self.at}/diary/{entry['id']}"
        after = self.client.put(at, json=body).get_json()
        self.assertEqual((after["version"], [b["words"] for b in after["before"]], after["before"][0]["who"]), (2, ["Gap 0.8"], "Ben"))
        self.assertEqual(self.client.put(at, json=body).get_json()["version"], 2, "sent twice it counts once")
        stale = self.client.put(at, json={**body, "words": "Gap 1.0"})
        self.assertEqual((stale.status_code, stale.get_json()["head"]), (409, 2))
        struck = self.client.put(at, json={**body, "base": 2, "struck": True}).get_json()
        self.assertTrue(struck["struck"])
        self.assertEqual(self.told("search=gap")["entries"], [])

    def test_all_of_it_is_searched_by_words_and_their_beginnings(self) -> None:
        self.write("Washed the tank, rust in the sender's pocket", kind="problem")
        self.write("New sender fitted", kind="mended", day="2027-02-01")
        self.write("Measured", measured=[{"what": "compression, cylinder 3", "value": "1,080 kPa"}])
        self.write("'; DROP TABLE diary; --")
        for search, many in [
            ("sender", 2),
            ("send", 2),
            ("rusted tank", 1),
            ("cylinder", 1),
            ("drop", 1),
            ("nothing of it", 0),
            ("'\"()!&|:*", 0),
            ("%", 0),
        ]:
            self.assertEqual(len(self.told(f"search={quote(search)}")["entries"]), many, search)
        self.assertEqual([o["code"] for o in self.told("search=servo hose")["off"]], ["k7dm"])
        self.assertEqual([o["code"] for o in self.told("search=K7DM")["off"]], ["k7dm"])

    def test_the_timeline_has_the_build_s_revisions_and_goes_on_page_by_page(self) -> None:
        self.edit(1, {"op": "replace", "path": "/engine/power", "value": "120 kW"})
        for k in range(7):
            self.write(f"Evening {k}", day=f"2027-01-{11 + k}")
        found = self.told("limit=5")
        self.assertEqual([e["words"] for e in found["entries"]], [f"Evening {k}" for k in (6, 5, 4, 3, 2)])
        rest = self.told(f"limit=5&before={found['more'].replace('+', '%2B')}")
        self.assertEqual([e["words"] for e in rest["entries"]], ["Evening 1", "Evening 0"])
        changes = found["changes"] + rest["changes"]
        self.assertEqual([(c["first"], c["last"], c["many"]) for c in changes], [(1, 2, 2)])
        self.assertIn("Power", changes[0]["summaries"][0])
        self.assertEqual(self.client.get(f"{self.at}/diary?before=soon").status_code, 422)

    def test_bad_entries_say_what_would_do(self) -> None:
        for more, at in [({"hours": "long"}, "/hours"), ({"hours": "200"}, "/hours"), ({"words": " "}, "/words"), ({"day": "2027-13-01"}, "/day"), ({"day": "0001-01-01"}, "/day"), ({"kind": "rant"}, "/kind"), ({"photos": ["../x"]}, "/photos/0"), ({"measured": [{"what": "gap"}]}, "/measured/0/value")]:  # fmt: skip
            found = self.write(**{"words": "x", "status": 422, **more})
            self.assertEqual(found["problems"][0]["at"], at, found)
        self.assertEqual(
            self.client.post(
                f"/api/builds/{uuid.uuid4()}/diary", json={"id": str(uuid.uuid4()), "day": "2027-01-12", "words": "x"}
            ).status_code,
            404,
        )

    def test_hours_as_people_write_them(self) -> None:
        for told, hours in [("2", 2.0), ("1,5 h", 1.5), ("1:30", 1.5), ("90 min", 1.5), ("2h15", 2.25), ("", None)]:
            self.assertEqual(read_hours(told), hours, told)

    def test_twenty_thousand_entries_are_searched_through_the_index(self) -> None:
        now = dt.datetime.now(dt.UTC)
        rows = [
            {"id": uuid.uuid4(), "build_id": uuid.UUID(self.id), "day": dt.date(2027, 1, 1), "kind": "did", "words": f"w{k}", "photos": [], "measured": [], "who": "", "revision": 1, "version": 1, "was": [], "written": now, "text": f"evening {k} {'needle' if k == 777 else 'straw'} word{k % 97}"}
            for k in range(20_000)
        ]  # fmt: skip
        for k in range(0, len(rows), 1000):  # the store is asked in pieces: it takes a long silence for a server that is gone
            with self.database.work() as session:
                session.execute(insert(DiaryRow), rows[k : k + 1000])
        with self.database.work() as session:
            session.execute(text("SET LOCAL enable_seqscan = off"))  # whether it can use the index, not whether it is worth it
            said = "\n".join(
                r[0] for r in session.execute(text("EXPLAIN SELECT id FROM diary WHERE search @@ to_tsquery('english', 'needle:*')"))
            )
        self.assertIn("ix_diary_search", said)
        self.assertEqual([e["words"] for e in self.told("search=needle")["entries"]], ["w777"])


if __name__ == "__main__":
    unittest.main()
