"""Every test: mirrors the package. Random examples are the same in every run; `./spark test --deep` looks much further, each time elsewhere."""

import os

from hypothesis import settings

DEEP = bool(os.environ.get("UPHILL_SPARK_DEEP"))
_FURTHER = 40

settings.register_profile("same", deadline=None, derandomize=True)
settings.register_profile("deep", deadline=None, max_examples=100 * _FURTHER)
settings.load_profile("deep" if DEEP else "same")


def examples(many: int) -> int:
    """How many random examples a test tries: `many`, or many times that in depth."""
    return many * _FURTHER if DEEP else many
