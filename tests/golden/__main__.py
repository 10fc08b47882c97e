"""`python -m tests.golden`: write what is said of the seven cars anew."""

from tests.golden import write

write()
