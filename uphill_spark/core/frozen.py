"""A record that nobody changes once it is made: what a person gave, and what is worked out of it."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict


class Frozen(BaseModel):
    """Two are equal that are of one kind and hold the same: compared by the thousand at every edit, and so without what the library allows for besides (generic kinds, private values, values kept aside)."""

    model_config = ConfigDict(frozen=True)

    def __eq__(self, other: object) -> bool:
        return self is other or (type(self) is type(other) and self.__dict__ == other.__dict__)
