"""Where builds are kept: PostgreSQL through SQLAlchemy. Knows the build document, nothing of Flask."""

from .builds import (
    Change,
    Head,
    NotFound,
    NothingToDo,
    Stale,
    create,
    edit,
    ever_used,
    get,
    head,
    listing,
    put_away,
    redo,
    revision,
    revisions,
    undo,
)
from .database import Database, StoreDown
from .photos import keep_photo, photo, small_photos

__all__ = [
    "Change", "Database", "Head", "NotFound", "NothingToDo", "Stale", "StoreDown",
    "create", "edit", "ever_used", "get", "head", "keep_photo", "listing", "photo", "put_away", "redo", "revision", "revisions", "small_photos", "undo",
]  # fmt: skip
