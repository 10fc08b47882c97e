"""Answers that take seconds, put where the worker would have put them: worked once a run."""

from __future__ import annotations

from tests.fault_tables import table
from uphill_spark import store
from uphill_spark.core.given import parse
from uphill_spark.core.worked import work_out
from uphill_spark.demo import document
from uphill_spark.store import answers
from uphill_spark.web.asked import sum_of


def keep_faults(database: store.Database, car: str = "tern") -> None:
    """What each fault looks like on a demo car."""
    key = sum_of(work_out(parse(document(car))), "faults")
    with database.work() as session:
        answers.ask(session, key, "faults")
        answers.begin(session, key)
        answers.finish(session, key, table(car).model_dump_json())
