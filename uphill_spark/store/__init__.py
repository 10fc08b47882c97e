"""Where builds are kept: PostgreSQL through SQLAlchemy. Knows the build document, nothing of Flask."""

from .builds import (
    Change,
    Head,
    IdTaken,
    NotFound,
    NothingToDo,
    Stale,
    create,
    edit,
    ever_used,
    get,
    head,
    redo,
    revision,
    revisions,
    undo,
)
from .database import Busy, Database, StoreDown
from .garage import Entry, TooEarly, bring_back, count_unworked, entries, put_away, removable, remove, tell, unworked
from .photos import Full, clear_unshown, keep_photo, photo, room_for_build, room_for_photo, small_photos

__all__ = [
    "Busy", "Change", "Database", "Entry", "Full", "Head", "IdTaken", "NotFound", "NothingToDo", "Stale", "StoreDown", "TooEarly",
    "bring_back", "clear_unshown", "count_unworked", "create", "edit", "entries", "ever_used", "get", "head", "keep_photo", "photo", "put_away", "redo", "removable", "remove", "revision", "revisions", "room_for_build", "room_for_photo",
    "small_photos", "tell", "undo", "unworked",
]  # fmt: skip
