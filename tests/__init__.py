"""Every test: mirrors the package. Under CI the random examples are the same in every run; elsewhere each run looks further."""

import os

from hypothesis import settings

settings.register_profile("here", deadline=None)
settings.register_profile("ci", deadline=None, derandomize=True)
settings.load_profile("ci" if os.environ.get("CI") else "here")
