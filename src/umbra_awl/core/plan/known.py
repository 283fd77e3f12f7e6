"""What the directory says of a plan's things, as a value that findings are worked out from."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import NamedTuple

from umbra_awl.core.plan.model import AccessPoint


class Known(NamedTuple):
    """Entry key to its access point as listed today (None: vanished), network name in small letters to its listed numbers."""

    entries: Mapping[str, AccessPoint | None] = MappingProxyType({})
    numbers: Mapping[str, frozenset[int]] = MappingProxyType({})


NOTHING_KNOWN = Known()
