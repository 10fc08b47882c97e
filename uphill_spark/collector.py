"""The garbage collector, told what is loaded for good.

A process of ours loads a few hundred thousand objects that stay until it ends. Looking through them again and again while they are being
loaded is a quarter of the time until it answers; looking through them later is a pause in the middle of somebody's edit.
"""

from __future__ import annotations

import gc


def rest() -> None:
    """Look for nothing while modules are loaded: to be said before they are."""
    gc.disable()


def calm() -> None:
    """All has been loaded: leave it alone, and look at the rest less often than usual, since a plan is many small objects."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(50_000, 20, 20)
    gc.enable()
