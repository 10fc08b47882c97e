"""Photographs: one comes in, is kept by what it holds, and is shown."""

from __future__ import annotations

import contextlib
import datetime as dt

from flask import Response, request

from .. import store
from ..formats import photo as photo_format
from .door import database, json_answer
from .errors import ErrorBody
from .interface import Interface
from .models import PhotoKept, PhotoPath

api = Interface("photos", __name__, "/api/photos")
#: A photograph never changes under its key, so a browser may keep it for good.
_FOR_GOOD = "private, max-age=31536000, immutable"


@api.post("", responses={201: PhotoKept, 413: ErrorBody}, summary="Keep a photograph; the body is the file itself")
def keep() -> Response:
    found = photo_format.read(request.get_data(cache=False))
    with database().work() as session:
        store.room_for_photo(session, len(found.data))
        store.keep_photo(session, found)
    with contextlib.suppress(store.StoreDown, store.Busy), database().work() as session:  # a little of it each time; it can wait
        store.clear_unshown(session, dt.datetime.now(dt.UTC))
    return json_answer(PhotoKept(key=found.key, width=found.width, height=found.height).model_dump_json(), 201)


@api.get("/<string:key>", summary="A photograph")
def whole(path: PhotoPath) -> Response:
    with database().work() as session:
        row = store.photo(session, path.key)
        return Response(row.data, mimetype=row.media_type, headers={"Cache-Control": _FOR_GOOD})


@api.get("/<string:key>/small", summary="The same, small")
def small(path: PhotoPath) -> Response:
    with database().work() as session:
        return Response(store.photo(session, path.key, small=True).small, mimetype="image/jpeg", headers={"Cache-Control": _FOR_GOOD})
