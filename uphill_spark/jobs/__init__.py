"""What takes seconds is worked out beside the web process, one after the other: the queue of it stands in the database (procrastinate), and outlives both."""

from .cancelled import Cancelled
from .queue import Queue
from .working import work_on

__all__ = ["Cancelled", "Queue", "work_on"]
