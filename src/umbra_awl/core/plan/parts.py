"""The parts of a plan, each described once: what it holds, what one of them is called.

They are derived from `Plan` itself. Saving, the journal, the check for doubled keys, edits and tests go by this table, so a new
collection is a field of `Plan` whose items say their own word, and nothing else has to be kept in step.
"""

from collections.abc import Callable
from operator import attrgetter
from typing import Any, Generic, TypeVar, get_args, get_origin

import msgspec

from umbra_awl.core.plan.model import (
    AccessPoint,
    Destination,
    Hotspot,
    Net,
    Network,
    OwnedRadio,
    Plan,
    Route,
    ScanList,
    Trip,
    Value,
    Zone,
)

_Item = TypeVar("_Item", bound=Value)
_HEAD = frozenset({"format", "version"})
key_of: Callable[[Any], str] = attrgetter("key")
"""What names an item of a collection whose items have keys; the base of all values has none."""


class Part(Generic[_Item]):
    """A collection of a plan: its field, the kind of its items, and what one is called in a sentence."""

    __slots__ = ("keyed", "kind", "name", "target", "word")

    def __init__(self, name: str, kind: type[_Item]) -> None:
        self.name, self.kind = name, kind
        self.word, self.keyed, self.target = kind.called, kind.keyed, kind.target

    def of(self, plan: Plan) -> tuple[_Item, ...]:
        """Its items in a plan."""
        items: tuple[_Item, ...] = getattr(plan, self.name)
        return items

    def put(self, plan: Plan, items: tuple[_Item, ...]) -> Plan:
        """The plan with other items in it."""
        return msgspec.structs.replace(plan, **{self.name: items})

    def keys(self, plan: Plan) -> list[str]:
        """The keys of its items in a plan; none where they are not named by one."""
        return list(map(key_of, self.of(plan))) if self.keyed else []

    def __repr__(self) -> str:
        return f"Part({self.name})"


TYPES: dict[str, Any] = {field.name: field.type for field in msgspec.structs.fields(Plan) if field.name not in _HEAD}
"""Every field of a plan that is its content, with its type."""
PARTS: dict[str, Part[Any]] = {
    name: Part(name, get_args(kind)[0]) for name, kind in TYPES.items() if get_origin(kind) is tuple
}
WHOLE = tuple(name for name in TYPES if name not in PARTS)
"""The fields that are one value each: name, station, house style."""

NETWORKS: Part[Network] = PARTS["networks"]
ACCESS: Part[AccessPoint] = PARTS["access"]
DESTINATIONS: Part[Destination] = PARTS["destinations"]
ROUTES: Part[Route] = PARTS["routes"]
ZONES: Part[Zone] = PARTS["zones"]
SCANS: Part[ScanList] = PARTS["scans"]
RADIOS: Part[OwnedRadio] = PARTS["radios"]
HOTSPOTS: Part[Hotspot] = PARTS["hotspots"]
TRIPS: Part[Trip] = PARTS["trips"]
NETS: Part[Net] = PARTS["nets"]
