"""A record that nobody changes once it is made: what a person gave, and what is worked out of it."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict


class Frozen(BaseModel):
    """Two are equal that are of one kind and hold the same: compared by the thousand at every edit, and so without what the library allows for besides (generic kinds, private values, values kept aside)."""

    model_config = ConfigDict(frozen=True)

    def __eq__(self, other: object) -> bool:
        if self is other:
            return True
        if type(self) is not type(other):
            return False
        mine, theirs = self.__dict__, other.__dict__
        if mine == theirs:
            return True
        fields = type(self).__pydantic_fields__
        if len(mine) == len(theirs) == len(fields):
            return False
        return all(mine.get(name) == theirs.get(name) for name in fields)  # one of them has kept what it worked out of itself
