"""What takes seconds is worked out beside the web process, one after the other: the queue of it stands in the database (procrastinate), and outlives both. The web process asks the queue and loads nothing of what works."""

from .cancelled import Cancelled
from .queue import Queue

__all__ = ["Cancelled", "Queue"]
