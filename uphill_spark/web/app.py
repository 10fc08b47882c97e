"""The application: an ordered list of named steps."""

from __future__ import annotations

import mimetypes
import os
from functools import lru_cache
from pathlib import Path
from typing import Any

import brotli
from flask import Response, request, send_from_directory
from flask.json.provider import DefaultJSONProvider
from flask_compress import Compress
from flask_openapi3 import Info, OpenAPI
from sqlalchemy import text

from .. import __version__
from ..core.errors import UnitError
from ..core.findings import AT_REST, CHECKS, SEVERITIES, WORDS
from ..core.given.base import PHOTOS_MOST
from ..core.given.document import json_schema
from ..core.given.fields import fields
from ..core.given.typed import read_quantity
from ..core.glossary import Glossary, glossary
from ..core.reference import zones
from ..core.stations import STATIONS, of_place
from ..core.worked import SPECS
from ..formats import strict_json
from ..jobs import Queue
from ..store import Database
from . import (
    archives,
    asked,
    builds,
    diary,
    errors,
    fuel,
    garage,
    gate,
    harness,
    live,
    log_said,
    logs,
    pairing,
    papers,
    photos,
    practice,
    tables,
    tune,
    work,
)
from .interface import Interface
from .limits import BUILD_FILE, file_at, limit
from .listening import Ears
from .models import (
    BenchEntry,
    Catalogue,
    Fields,
    FieldsQuery,
    FigureSource,
    FigureSources,
    Health,
    PhotoLimits,
    ReadAnswer,
    ReadQuantity,
    ReadRequest,
    SeverityWord,
    StationEntry,
)
from .printing import Press
from .standing import Remembered

#: Of a field, what no page shows: bounds are told where a value is refused.
_NOT_SHOWN = {"fields": {"__all__": {"at_least", "at_most", "pointer"}}}
#: Characters of a text that is packed as small as it gets: longer ones would keep somebody waiting.
_WELL_PACKED = 60_000
#: Places that are written cell by cell, or by the program alone.
_IN_NO_FIELD = ("/tune/kept/tables/", "/tune/kept/came_of/", "/tune/found/")
#: Nothing from elsewhere, nothing framed; styles set by scripts need 'unsafe-inline' for style attributes only.
_POLICY = "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; frame-ancestors 'none'; base-uri 'none'; form-action 'self'"
#: What a browser opens as a page of its own; anything else is a part of one, and may bring nothing along.
_OPENED = ("text/html", "application/pdf", "image/svg+xml")
_NOT_OPENED = "default-src 'none'; frame-ancestors 'none'"
#: How long scripts, styles and fonts of the page are good for.
_FOR_EVER = "public, max-age=31536000, immutable"


def create_app(
    database_url: str,
    page: Path | None = None,
    hosts: tuple[str, ...] = ("127.0.0.1", "localhost"),
    *,
    apart: bool = False,
    door: gate.Door | None = None,
    listens: str | None = None,
    described: bool = False,
) -> OpenAPI:
    """The application on a database. `page` is the folder of the built page; `hosts` are the names it answers to; `apart` has papers
    printed by a process of their own; at the `door` everybody is asked before anything is answered; `listens` is the address at which devices of the network come in
    once they are paired; `described`, it can tell what comes in and goes out by each of its addresses."""
    app = OpenAPI(
        "uphill_spark",
        info=Info(title="Uphill Spark", version=__version__),
        doc_ui=False,
        static_folder=None,
        validation_error_status=422,
        validation_error_model=errors.ErrorBody,
        validation_error_callback=errors.invalid_request,
    )
    app.config["MAX_CONTENT_LENGTH"] = BUILD_FILE
    app.config["COMPRESS_ALGORITHM"] = ["br", "gzip"]
    app.config["COMPRESS_MIMETYPES"] = [
        "application/json",
        "application/schema+json",
        "text/html",
        "text/css",
        "text/csv",
        "text/javascript",
        "image/svg+xml",
    ]
    app.config["COMPRESS_BR_LEVEL"] = 7  # at 9 an answer is a hundredth smaller, and takes ten times as long
    app.json = _StrictJson(app)
    app.extensions["database"] = Database(database_url)
    app.extensions["queue"] = Queue(database_url)
    app.extensions["remembered"] = Remembered()
    app.extensions["press"] = Press(apart=apart)
    app.extensions["ears"] = Ears()
    app.extensions["afresh"] = garage.Afresh(app.extensions["database"])
    Compress(app)
    errors.register(app)
    _guard(app, hosts)
    if door is not None:
        gate.hang(app, door)
    paired = pairing.Pairing(listens, gate.Tries()) if listens else None
    if paired is not None:
        pairing.hang(app, paired)
    app.register_error_handler(pairing.NotHere, pairing.not_here)
    for part in (
        pairing.api(paired),
        _about(app),
        builds.api,
        papers.api,
        papers.letters,
        fuel.api,
        harness.api,
        asked.api,
        tables.api,
        tune.api,
        practice.api,
        live.api,
        photos.api,
        work.api,
        work.orders,
        work.calendars,
        diary.api,
        archives.api,
        logs.api,
        log_said.api,
    ):
        if described:
            part.describe()
        app.register_api(part)
    if page is not None:
        _serve_page(app, page)
    return app


class _StrictJson(DefaultJSONProvider):
    """JSON of requests read as files are: nothing comes in by one door that the other refuses."""

    sort_keys = False

    def loads(self, s: str | bytes, **kwargs: Any) -> Any:
        """Raises FormatError, or UnicodeDecodeError, which is answered as JSON that cannot be read."""
        return strict_json.loads(s.decode("utf-8") if isinstance(s, bytes) else s)


def _about(app: OpenAPI) -> Interface:
    api = Interface("about", __name__, "/api", refuses=())

    @api.get("/health", responses={200: Health, 503: errors.ErrorBody}, summary="Does the store answer")
    def health() -> Response:
        with app.extensions["database"].work() as session:
            session.execute(text("SELECT 1"))
        return Response(Health(store=True).model_dump_json(), mimetype="application/json")

    def unchanging(text: str) -> Response:
        """What only another version of the program changes: the browser asks whether it has."""
        packed = len(text) <= _WELL_PACKED and request.accept_encodings["br"] > 0
        response = Response(_well_packed(text) if packed else text, mimetype="application/json")
        if packed:
            response.headers["Content-Encoding"] = "br"
            response.vary.add("Accept-Encoding")
        response.headers["Cache-Control"] = "no-cache"
        response.add_etag()
        response.make_conditional(request)
        return response

    @api.get("/fields", responses={200: Fields}, summary="What every field is called and takes, at some stations or at all")
    def field_list(query: FieldsQuery) -> Response:
        wanted = query.stations.split(",") if query.stations else None
        parts = tuple(f"/{name}/" for name in wanted or [] if "/" in name)
        chosen = {at: info for at, info in fields().items() if not at.startswith(_IN_NO_FIELD)}
        chosen = {at: info for at, info in chosen.items() if wanted is None or of_place(at) in wanted or f"{at}/".startswith(parts)}
        return unchanging(Fields(fields=chosen).model_dump_json(exclude_defaults=True, exclude=_NOT_SHOWN))

    @api.get(
        "/words",
        responses={200: Glossary},
        summary="Words of the field that can be pressed: what they mean, their pictures, the pattern that finds them in a text",
    )
    def words() -> Response:
        return unchanging(glossary().model_dump_json())

    @api.get("/catalogue", responses={200: Catalogue}, summary="Stations, severities, zones: what the program itself has")
    def catalogue() -> Response:
        stations = [
            StationEntry(
                key=s.key,
                title=s.title,
                asks=s.asks,
                stages=list(s.stages),
                sections=list(s.sections),
                benches=[
                    BenchEntry(key=b.key, title=b.title, asks=b.asks, places=list(b.places), figure=b.figure, groups=dict(b.groups))
                    for b in s.row
                ],
            )
            for s in STATIONS
        ]
        words = [SeverityWord(key=key, word=WORDS[key], at_rest=key in AT_REST) for key in SEVERITIES]
        photographs = PhotoLimits(bytes=limit("/api/photos"), most=PHOTOS_MOST)
        return unchanging(Catalogue(stations=stations, severities=words, zones=zones(), photographs=photographs).model_dump_json())

    @api.get("/figures", responses={200: FigureSources}, summary="Where each figure comes from, and what it uses")
    def figure_sources() -> Response:
        found = {name: FigureSource(source=spec.source, uses=list(spec.uses)) for name, spec in SPECS.items()}
        return unchanging(FigureSources(figures=found, checks={c.code: c.source for c in CHECKS}).model_dump_json())

    @api.post("/read", responses={200: ReadAnswer}, summary="Quantities that stand in no build, read by the core")
    def read(body: ReadRequest) -> Response:
        return Response(ReadAnswer(read=[_read(body, text) for text in body.texts]).model_dump_json(), mimetype="application/json")

    @api.get("/build-file.schema.json", summary="JSON Schema of the build file")
    def schema() -> Response:
        return app.response_class(app.json.dumps(json_schema(), indent=2), mimetype="application/schema+json")

    return api


@lru_cache(maxsize=64)
def _well_packed(text: str) -> bytes:
    """As small as it gets: it takes tens of milliseconds, once for each text that only another version of the program changes."""
    packed: bytes = brotli.compress(text.encode(), mode=brotli.MODE_TEXT, quality=11)
    return packed


def _read(body: ReadRequest, text: str) -> ReadQuantity:
    try:
        written, value = read_quantity(body.dimension, text, body.unit)
    except UnitError as error:
        return ReadQuantity(written=text, si=None, wants=str(error))
    return ReadQuantity(written=written, si=value)


def _takes(path: str, mimetype: str) -> bool:
    """JSON, and where a file is taken the file itself: neither can be sent by a form on another page."""
    return mimetype == "application/json" or (
        file_at(path) is not None and (mimetype.startswith("image/") or mimetype == "application/octet-stream")
    )


def _guard(app: OpenAPI, hosts: tuple[str, ...]) -> None:
    @app.before_request
    def known_host() -> Response | None:
        """Refuse other names for this machine (DNS rebinding) and forms posted from other pages (they cannot send JSON)."""
        name = request.host.rsplit(":", 1)[0].strip("[]")
        if name not in hosts:
            return errors.answer(421, errors.ErrorBody(code="other_host", message="This server answers to its own address only."))
        if "\x00" in request.path or any("\x00" in word for pair in request.args.items(multi=True) for word in pair):
            return errors.answer(400, errors.ErrorBody(code="http_400", message="The address holds what is no text."))
        if request.path in (gate.ADDRESS, pairing.ADDRESS):
            return None  # a form, which carries a word that another page does not know
        if request.method in ("POST", "PATCH", "PUT") and not _takes(request.path, request.mimetype):
            return errors.answer(415, errors.ErrorBody(code="http_415", message="Send JSON, or a file where one is taken."))
        request.max_content_length = limit(request.path)
        return None

    @app.after_request
    def headers(response: Response) -> Response:
        response.headers.setdefault("X-Content-Type-Options", "nosniff")
        if response.headers.get("Cache-Control") == _FOR_EVER:
            return response
        response.headers.setdefault("Referrer-Policy", "no-referrer")
        if request.path.endswith("start-sheet.html"):
            response.headers["Content-Security-Policy"] = (
                "default-src 'none'; style-src 'unsafe-inline'; font-src 'self'; img-src data:; frame-ancestors 'self'"
            )
        else:
            response.headers.setdefault("Content-Security-Policy", _POLICY if response.mimetype in _OPENED else _NOT_OPENED)
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response


#: Endings of files that were packed when the page was built, by the word that a browser takes them by. The smallest first.
_PACKED = (("br", ".br"), ("gzip", ".gz"))


def _serve_page(app: OpenAPI, page: Path) -> None:
    def sent(name: str, kept: str) -> Response:
        """A file of the page, packed where the browser takes it so."""
        packed = next((x for x in _PACKED if request.accept_encodings[x[0]] > 0 and (page / f"{name}{x[1]}").is_file()), None)
        if packed is None:
            response = send_from_directory(page, name)
        else:
            response = send_from_directory(page, name + packed[1], mimetype=mimetypes.guess_type(name)[0] or "application/octet-stream")
            response.headers["Content-Encoding"] = packed[0]
        response.headers.pop("Content-Disposition", None)
        response.headers["Vary"] = "Accept-Encoding"
        response.headers["Cache-Control"] = kept
        if kept == _FOR_EVER:  # its name changes with it, so that nobody asks again whether it is still the same
            for name in ("ETag", "Last-Modified", "Accept-Ranges"):
                response.headers.pop(name, None)
        return response

    def files(name: str) -> Response:
        if name.startswith(("api/", "assets/")) and not (page / name).is_file():
            return errors.answer(404, errors.ErrorBody(code="not_found", message="There is nothing at this address."))
        if name and (page / name).is_file():
            return sent(name, _FOR_EVER if name.startswith("assets/") else "no-cache")
        return sent("index.html", "no-cache")

    app.add_url_rule("/", "page", files, defaults={"name": ""})
    app.add_url_rule("/<path:name>", "page", files)


def from_environment() -> OpenAPI:
    """The application as the start command sets it up."""
    page = os.environ.get("UPHILL_SPARK_PAGE")
    extra = tuple(h for h in os.environ.get("UPHILL_SPARK_HOSTS", "").split(",") if h)
    return create_app(
        os.environ["UPHILL_SPARK_DATABASE"],
        Path(page) if page else None,
        ("127.0.0.1", "localhost", *extra),
        apart=True,
        door=gate.from_environment(),
        listens=os.environ.get("UPHILL_SPARK_LISTENS") or None,
    )
