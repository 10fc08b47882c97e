"""Bring a store to this version's tables and read every build in it: `python -m uphill_spark.store.prove`, before a backup takes the store's place."""

from __future__ import annotations

import os
import sys

from sqlalchemy import select

from ..core.errors import SparkError
from ..core.given import parse
from .database import Database
from .tables import BuildRow, RevisionRow


def main() -> int:
    """Exit code 1 and one line where a build cannot be read."""
    database = Database(os.environ["UPHILL_SPARK_DATABASE"])
    try:
        database.migrate()
        with database.work() as session:
            heads = select(BuildRow.id, RevisionRow).join(
                RevisionRow, (RevisionRow.build_id == BuildRow.id) & (RevisionRow.number == BuildRow.head)
            )
            with session.execute(heads.execution_options(yield_per=50)) as rows:
                for _, head in rows:
                    parse(head.document)
    except SparkError as error:
        print(str(error).splitlines()[0])
        return 1
    finally:
        database.close()
    return 0


if __name__ == "__main__":
    sys.exit(main())
