"""Papers that are not asked about: each is set in full by the tests of its own, which takes a second or several."""

from __future__ import annotations

import unittest
from unittest import mock

from uphill_spark.formats.printing import Printed, to_pdf

#: The page of which a paper of many chapters has its own numbers; it is told by what it is called.
NUMBERS = "Numbers of the pages"


def leaves(case: unittest.TestCase) -> None:
    """Until a test ends every paper of the server is an empty leaf; its page is made all the same."""
    leaf = to_pdf("<p>A leaf")

    def printed(page: str) -> Printed:
        return to_pdf(page) if NUMBERS in page else leaf

    press = mock.patch("uphill_spark.web.printing.to_pdf", side_effect=printed)
    press.start()
    case.addCleanup(press.stop)
