"""Photographs in the store, by the hash of what they hold."""

from __future__ import annotations

import datetime as dt

from sqlalchemy import Text, cast, delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, undefer

from ..formats.photo import Photo
from .builds import NotFound
from .tables import BuildRow, DiaryRow, PhotoRow, RevisionRow


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


#: How long a photograph is kept that no revision shows: long enough for a change that waits on a telephone without signal.
UNSHOWN = dt.timedelta(days=30)
#: Bytes of photographs that a store takes, and builds.
PHOTOS_MOST, BUILDS_MOST = 4_000_000_000, 20_000


class Full(Exception):
    """The store takes no more of a kind."""


def clear_unshown(session: Session, now: dt.datetime, most: int = 20) -> int:
    """Take out photographs that came long ago and that no revision and no diary shows, so that no undo can ask for them: how many went."""
    shown = select(RevisionRow.number).where(cast(RevisionRow.document, Text).contains(PhotoRow.key)).exists()
    told = (
        select(DiaryRow.id)
        .where(cast(DiaryRow.photos, Text).contains(PhotoRow.key) | cast(DiaryRow.was, Text).contains(PhotoRow.key))
        .exists()
    )
    old = select(PhotoRow.key).where(PhotoRow.came < now - UNSHOWN, ~shown, ~told).order_by(PhotoRow.came).limit(most)
    keys = list(session.scalars(old))
    session.execute(delete(PhotoRow).where(PhotoRow.key.in_(keys)))
    return len(keys)


def room_for_photo(session: Session, size: int) -> None:
    """Raises Full where one more photograph would be too many."""
    if (session.scalar(select(func.coalesce(func.sum(func.octet_length(PhotoRow.data)), 0))) or 0) + size > PHOTOS_MOST:
        raise Full(
            f"The store holds {PHOTOS_MOST / 1e9:.0f} GB of photographs, which is what it takes. Take some out of their entries first."
        )


def room_for_build(session: Session) -> None:
    """Raises Full where one more build would be too many."""
    if (session.scalar(select(func.count()).select_from(BuildRow)) or 0) >= BUILDS_MOST:
        raise Full(f"The store holds {BUILDS_MOST:,} builds, which is what it takes. Remove some that were put away for good first.")


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
