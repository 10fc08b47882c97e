"""Photographs in the store, by the hash of what they hold."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, undefer

from ..formats.photo import Photo
from .builds import NotFound
from .tables import PhotoRow


def keep_photo(session: Session, photo: Photo) -> None:
    """Keep a photograph. One that is there already is left as it is, also when two people bring it at once."""
    row = {
        "key": photo.key,
        "media_type": photo.media_type,
        "width": photo.width,
        "height": photo.height,
        "data": photo.data,
        "small": photo.small,
    }
    session.execute(insert(PhotoRow).values(row).on_conflict_do_nothing(index_elements=["key"]))


def photo(session: Session, key: str, *, small: bool = False) -> PhotoRow:
    """A photograph with its bytes, or with those of the small one. Raises NotFound."""
    found = session.scalar(select(PhotoRow).options(undefer(PhotoRow.small if small else PhotoRow.data)).where(PhotoRow.key == key))
    if found is None:
        raise NotFound("This photograph is not kept here.")
    return found


def small_photos(session: Session, keys: list[str]) -> dict[str, bytes]:
    """The small pictures of those that are kept here, for papers."""
    rows = session.execute(select(PhotoRow.key, PhotoRow.small).where(PhotoRow.key.in_(keys)))
    return {row.key: row.small for row in rows}
