"""`python -m uphill_spark.web` serves the application.

Apart from the server itself: a process that is spawned runs the main module again unless it has this name, and the press needs nothing of it.
"""

from .. import collector

collector.rest()

from .serve import main  # noqa: E402

main()
