"""Words of the field that can be pressed: what each means, its picture, and where it stands in a text. Screens and papers find them by the same pattern."""

from __future__ import annotations

import re
from functools import lru_cache

from .figures import Result
from .reference import PictureData, words


class Word(Result):
    """A word with what it means in two lines, and its picture."""

    key: str
    title: str
    says: str
    picture: PictureData


class Glossary(Result):
    """All words by key, the key of each form [lower case], and the pattern that finds them in a text whatever its capitals.

    The pattern says the same to Python and to a browser: whole words only, the longest form first.
    """

    words: dict[str, Word]
    forms: dict[str, str]
    pattern: str


@lru_cache(maxsize=1)
def glossary() -> Glossary:
    """The words that there are. Pure data, worked out once."""
    data = words()
    forms = {form: key for key, word in data.words.items() for form in word.forms}
    longest = sorted(forms, key=lambda form: (-len(form), form))
    return Glossary(
        words={key: Word(key=key, title=w.title, says=w.says, picture=data.pictures[w.picture]) for key, w in data.words.items()},
        forms=forms,
        pattern=r"(?<![\w-])(?:" + "|".join(map(re.escape, longest)) + r")(?![\w-])",
    )


def found_in(*texts: str) -> list[Word]:
    """The words that stand in some texts, each once, in the order in which they come up."""
    known = glossary()
    keys = dict.fromkeys(
        known.forms[match[0].lower()] for text in texts for match in re.finditer(known.pattern, text, re.IGNORECASE | re.ASCII)
    )
    return [known.words[key] for key in keys]
