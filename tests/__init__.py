"""Every test: mirrors the package. Random examples are the same in every run; `./spark test --deep` looks much further, each time elsewhere."""

import os

from hypothesis import settings

DEEP = bool(os.environ.get("UPHILL_SPARK_DEEP"))
_FURTHER = 40
#: Of what is tried when it is first written, the share that every run tries again: the same examples each time, so that more of them find nothing new.
_AGAIN = 0.6

settings.register_profile("same", deadline=None, derandomize=True, max_examples=round(100 * _AGAIN))
settings.register_profile("deep", deadline=None, max_examples=100 * _FURTHER)
settings.load_profile("deep" if DEEP else "same")


def examples(many: int) -> int:
    """How many random examples a test tries: of `many` a share, or many times that in depth."""
    return many * _FURTHER if DEEP else round(many * _AGAIN)
