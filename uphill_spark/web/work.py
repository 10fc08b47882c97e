"""The work: as it stands on a day, this week on paper, parts by table, calendars in and out."""

from __future__ import annotations

import datetime as dt
import uuid

from flask import Response, request

from .. import demo, store
from ..core.errors import BuildError, Problem
from ..core.given.calendar import read_day
from ..core.stages.work.planned import plan as planned
from ..core.stages.work.week import WorkSeen, seen
from ..formats import calendar_file, off_tags, parts_table, station_sheet, week_sheet
from ..store import feeds
from .door import Opened, attachment, database, json_answer, opened, press
from .gate import FEEDS
from .interface import Interface
from .models import BuildPath, PaperQuery
from .papers import small_photos, today
from .work_models import (
    CalendarQuery,
    CalendarRead,
    DemoCalendarPath,
    FeedList,
    FeedMade,
    FeedPath,
    FeedRequest,
    OrderQuery,
    PartsRead,
    SeenQuery,
    TagsQuery,
)

api = Interface("work", __name__, "/api/builds/<uuid:build_id>/work")
orders = Interface("orders", __name__, "/api", under="work")
#: Outside of what a browser is asked for a pass at; what stands in the address is the pass.
calendars = Interface("feeds", __name__, FEEDS, under="work", refuses=(404, 503))
_BOOK = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def _seen(found: Opened, on: dt.date) -> WorkSeen:
    standing = found.standing
    work = standing.plan.stages.work
    return seen(standing.build.work, work.tasks, work.parts, work.plan, on)


@api.get("", responses={200: WorkSeen}, summary="The work as of a day: the plan, this week, what to order, what comes")
def as_of(path: BuildPath, query: SeenQuery) -> Response:
    return json_answer(_seen(opened(path.build_id, query.revision), query.on).model_dump_json())


@api.get("/week.pdf", summary="The week from a day on one page, as PDF")
def week(path: BuildPath, query: SeenQuery) -> Response:
    found = opened(path.build_id, query.revision)
    plan = found.standing.plan
    sheet = week_sheet.sheet(plan, found.standing.build, _seen(found, query.on), {})
    written = station_sheet.pdf(sheet, plan, f"revision {found.revision.number}", today(), press())
    return Response(written, mimetype="application/pdf", headers=attachment(plan.name, "week.pdf"))


@api.get("/tags.pdf", summary="Tags for what comes off the car, with a square that a phone reads, as PDF")
def tags(path: BuildPath, query: TagsQuery) -> Response:
    found = opened(path.build_id, query.revision).standing
    if query.code and query.code not in found.build.work.off:
        raise store.NotFound(f"Nothing off this car is called {query.code.upper()}.")
    shown = [key for x in found.build.work.off.values() for key in x.photos[:1]]
    address = f"{request.url_root.rstrip('/')}/b/{path.build_id}"
    written = off_tags.pdf(found.plan, found.build, address, small_photos(shown), press(), query.code)
    return Response(written, mimetype="application/pdf", headers=attachment(found.plan.name, "tags.pdf"))


@api.get("/labels.pdf", summary="Labels for the bags of parts, as PDF")
def labels(path: BuildPath, query: PaperQuery) -> Response:
    plan = opened(path.build_id, query.revision).standing.plan
    written = press()(off_tags.part_labels(plan, f"{request.url_root.rstrip('/')}/b/{path.build_id}")).data
    return Response(written, mimetype="application/pdf", headers=attachment(plan.name, "part-labels.pdf"))


@orders.get("/order.csv", summary="What is left to order for several builds, merged: one line for what is the same from the same supplier")
def order(query: OrderQuery) -> Response:
    """Several lists as one order."""
    lists = []
    for build_id in dict.fromkeys(query.builds.split(",")):
        plan = opened(uuid.UUID(build_id)).standing.plan
        work = plan.stages.work
        lists.append((plan.name, work.parts, {p.key: p.order_by for p in work.plan.parts}))
    return Response(parts_table.order_csv(lists), mimetype="text/csv", headers=attachment("order", "csv"))


@api.get("/parts.csv", summary="The list of parts as CSV")
def parts_csv(path: BuildPath, query: PaperQuery) -> Response:
    plan = opened(path.build_id, query.revision).standing.plan
    work = plan.stages.work
    return Response(parts_table.write_csv(work.parts, {t.key: t.what for t in work.tasks}), mimetype="text/csv", headers=attachment(plan.name, "parts.csv"))  # fmt: skip


@api.get("/parts.xlsx", summary="The list of parts as a workbook")
def parts_book(path: BuildPath, query: PaperQuery) -> Response:
    plan = opened(path.build_id, query.revision).standing.plan
    work = plan.stages.work
    return Response(parts_table.write_book(work.parts, {t.key: t.what for t in work.tasks}), mimetype=_BOOK, headers=attachment(plan.name, "parts.xlsx"))  # fmt: skip


@api.post(
    "/parts",
    responses={200: PartsRead},
    summary="A list of parts read in; the body is the file itself. The answer is an edit of the build, which is made by nobody yet",
)
def parts_read(path: BuildPath, query: PaperQuery) -> Response:
    found = opened(path.build_id, query.revision).standing
    return json_answer(parts_table.read(request.get_data(cache=False), found.build, found.plan.stages.work.parts).model_dump_json())


@api.post("/calendar", responses={200: CalendarRead}, summary="Somebody's calendar read; the body is the file itself")
def calendar(path: BuildPath, query: CalendarQuery) -> Response:
    work = opened(path.build_id).standing.build.work
    person = work.people.get(query.person)
    if person is None:
        raise store.NotFound("There is nobody of that name in this build.")
    if work.begin is None:
        raise BuildError(
            "The calendar is read from the day on which the work begins.",
            (Problem("/work/begin", "nothing", "the day on which the work begins, first"),),
        )
    found = calendar_file.read(request.get_data(cache=False), person.free, read_day(work.begin), query.zone)
    return json_answer(CalendarRead(busy=found.busy, events=found.events, unread=found.unread).model_dump_json())


@api.get("/evenings.ics", summary="The evenings of work as a calendar")
def evenings(path: BuildPath, query: SeenQuery) -> Response:
    found = opened(path.build_id, query.revision)
    return Response(_calendar(found, "", query.on), mimetype="text/calendar", headers=attachment(found.row.name, "evenings.ics"))


@api.get("/feeds", responses={200: FeedList}, summary="Whose evenings have a private address")
def feed_list(path: BuildPath) -> Response:
    with database().work() as session:
        store.get(session, path.build_id)
        return json_answer(FeedList(people=feeds.feeds(session, path.build_id)).model_dump_json())


@api.post("/feeds", responses={201: FeedMade}, summary="A new private address for somebody's evenings; the one before is good no longer")
def feed_made(path: BuildPath, body: FeedRequest) -> Response:
    if body.person and body.person not in opened(path.build_id).standing.build.work.people:
        raise store.NotFound("There is nobody of that name in this build.")
    with database().work() as session:
        token = feeds.open_feed(session, path.build_id, body.person)
        return json_answer(FeedMade(path=f"{FEEDS}{token}.ics", people=feeds.feeds(session, path.build_id)).model_dump_json(), 201)


@api.delete("/feeds", responses={200: FeedList}, summary="Have a private address answer no longer")
def feed_closed(path: BuildPath, query: FeedRequest) -> Response:
    with database().work() as session:
        store.get(session, path.build_id)
        feeds.close_feed(session, path.build_id, query.person)
        return json_answer(FeedList(people=feeds.feeds(session, path.build_id)).model_dump_json())


@orders.get("/demo/calendars/<string:person>.ics", summary="A calendar to try with")
def demo_calendar(path: DemoCalendarPath) -> Response:
    """A calendar of an invented person, as a file."""
    if path.person not in demo.PEOPLE:
        raise store.NotFound(f"There are calendars to try with of {' and '.join(demo.PEOPLE)}.")
    return Response(demo.calendar(path.person), mimetype="text/calendar", headers=attachment(path.person, "calendar.ics"))


@calendars.get("/<string:token>.ics", summary="The evenings behind a private address")
def feed(path: FeedPath) -> Response:
    """A calendar for whoever has its address."""
    with database().work() as session:
        build_id, person = feeds.feed(session, path.token)
    on = dt.datetime.now(dt.UTC).date()
    return Response(_calendar(opened(build_id), person, on), mimetype="text/calendar", headers={"Cache-Control": "private, max-age=300"})


def _calendar(found: Opened, person: str, on: dt.date) -> bytes:
    """Evenings of a person, or of everybody, from a day on, with the days that matter and those on which something is to be ordered."""
    build, plan = found.standing.build, found.standing.plan
    work = plan.stages.work
    now = planned(build.work, work.tasks, work.parts, on)
    task = {t.key: t for t in work.tasks}
    names = {key: p.name for key, p in build.work.people.items()}
    entries = [
        calendar_file.Entry(
            f"{found.row.id}-{e.key}-{e.day}-{e.from_min}", e.day, e.from_min, e.to_min, f"{task[e.key].what} ({' and '.join(names.get(w, w) for w in e.who)})",
            "\n".join([*([task[e.key].why] if task[e.key].why else []), *task[e.key].cautions]),
        )
        for e in now.evenings if not person or person in e.who
    ]  # fmt: skip
    part = {p.key: p for p in work.parts}
    by: dict[str, list[str]] = {}
    for p in now.parts:
        if p.order_by:
            by.setdefault(max(p.order_by, on.isoformat()), []).append(part[p.key].what)
    entries += [calendar_file.Entry(f"{found.row.id}-order-{day}", day, None, None, f"Order by today: {len(what)} {'line' if len(what) == 1 else 'lines'}", "\n".join(what)) for day, what in by.items()]  # fmt: skip
    if build.work.matters:
        entries.append(
            calendar_file.Entry(
                f"{found.row.id}-matters", build.work.matters, None, None, build.work.matters_for or "The date that matters"
            )
        )
    return calendar_file.write(f"Work: {plan.name}", entries, found.revision.written)
