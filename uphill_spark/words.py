"""Words to say to a device or a browser: made without any package, for the start command makes them too."""

from __future__ import annotations

import secrets

#: Easily read aloud and typed with a thumb; eight of them are 48 bits and more.
_SYLLABLES = tuple(a + b for a in "bdfghjklmnprstvz" for b in ("a", "e", "i", "o", "u"))


def new_word() -> str:
    """A word that nobody guesses."""
    return "-".join(secrets.choice(_SYLLABLES) + secrets.choice(_SYLLABLES) for _ in range(4))
