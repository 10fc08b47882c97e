"""`python -m tests.golden [limits]`: write what is said of the seven cars anew, or the limits that their findings turn at."""

import sys

from tests.golden import limits, write

if __name__ == "__main__":
    if sys.argv[1:] == ["limits"]:
        limits.write()
    else:
        write()
