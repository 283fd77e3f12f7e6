"""What the directory says of a plan's things, as a value that findings are worked out from."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import NamedTuple

from umbra_awl.core.plan.model import AccessPoint


class PeopleKnown(NamedTuple):
    """Of a radio that people are chosen for: how many it was found to hold, whether by the present choice, the lists' days."""

    rows: int = 0
    same_choice: bool = False
    written: str = ""
    listed: str = ""


class Known(NamedTuple):
    """Entry key to its access point as listed today (None: vanished), network name in small letters to its listed numbers.

    `people` says by a radio's key what is known of the people in it, for those that people are chosen for.
    """

    entries: Mapping[str, AccessPoint | None] = MappingProxyType({})
    numbers: Mapping[str, frozenset[int]] = MappingProxyType({})
    people: Mapping[str, PeopleKnown] = MappingProxyType({})


NOTHING_KNOWN = Known()
