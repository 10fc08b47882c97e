"""What each fault looks like on a demo car, worked out once a run of the tests."""

from __future__ import annotations

from tests.builds import document
from tests.once import once_a_run
from uphill_spark.core.asked import Trial
from uphill_spark.core.asked.faults import FaultTable, look_deeper
from uphill_spark.core.given import parse
from uphill_spark.core.plan import evaluated


@once_a_run
def table(car: str = "tern") -> FaultTable:
    """The fault table of a demo car."""
    doc = document(car)
    return look_deeper(Trial(doc, evaluated(parse(doc))))
