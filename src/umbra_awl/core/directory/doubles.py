"""One access point that several directories list: recognised by what is on the air, and told once with where they differ."""

from collections.abc import Iterable
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.directory.nearest import Near
from umbra_awl.core.directory.private import FIELD_WORDS, differences, field_words
from umbra_awl.core.facts.earth import Position, distance_km
from umbra_awl.core.plan.model import AccessPoint

SAME_PLACE_KM = 3.0
_SAME_CALL_KM = 25.0


def same_as(one: AccessPoint, other: AccessPoint) -> str:
    """How two are recognised as one access point; empty when they are not."""
    outputs = {(service.mode, service.rx_hz) for service in other.services}
    shared = any((service.mode, service.rx_hz) in outputs for service in one.services)
    if shared and one.call and one.call == other.call:
        return "same call sign and output"
    if shared and one.kind == other.kind and near_each_other(one, other, SAME_PLACE_KM):
        return "same output and place"
    if one.call and (one.call, one.site.casefold()) == (other.call, other.site.casefold()):
        return "same call sign and site"
    return ""


def near_each_other(one: AccessPoint, other: AccessPoint, km: float) -> bool:
    """Whether both have a position, not more than so many kilometres apart."""
    if one.lat is None or one.lon is None or other.lat is None or other.lon is None:
        return False
    return distance_km(Position(one.lat, one.lon), Position(other.lat, other.lon)) <= km


class Also(NamedTuple):
    """Another directory that lists the same, and in which fields it says otherwise."""

    source: str
    differs: tuple[str, ...]

    @property
    def words(self) -> str:
        """“messy-directory (says otherwise: input, tone)”."""
        return f"{self.source} (says otherwise: {', '.join(self.differs)})" if self.differs else self.source


class ListedDouble(NamedTuple):
    """An entry, and the other directories that list the same access point."""

    near: Near
    also: tuple[Also, ...] = ()


def told_once(found: Iterable[Near]) -> list[ListedDouble]:
    """Entries with their doubles of other directories put to them: the one confirmed last stands for all."""
    groups: list[list[Near]] = []
    by_output: dict[tuple[str, int], list[list[Near]]] = {}
    for near in found:
        outputs = [(service.mode, service.rx_hz) for service in near.entry.access.services]
        home = next((group for key in outputs for group in by_output.get(key, ()) if _double(group, near)), None)
        if home is None:
            home = []
            groups.append(home)
        home.append(near)
        for key in outputs:
            if home not in by_output.setdefault(key, []):
                by_output[key].append(home)
    return [_listed(group) for group in groups]


def _double(group: list[Near], near: Near) -> bool:
    """Whether an entry is what a group is of: another directory's, the same on the air, not far away."""
    first = group[0].entry
    one, other = first.access, near.entry.access
    if any(item.entry.source == near.entry.source for item in group) or (
        one.call and other.call and one.call != other.call
    ):
        return False  # two calls on one output may be two repeaters: the list shows both
    placed = one.lat is not None and other.lat is not None
    return bool(same_as(one, other)) and (not placed or near_each_other(one, other, _SAME_CALL_KM))


def _listed(group: list[Near]) -> ListedDouble:
    best = max(group, key=lambda item: (not item.entry.gone, item.entry.access.confirmed))
    rest = (item for item in group if item is not best)
    return ListedDouble(best, tuple(Also(item.entry.source, _differing(best, item)) for item in rest))


def _differing(one: Near, other: Near) -> tuple[str, ...]:
    """What goes on the air otherwise, service by service; their keys are each directory's own."""
    mine = {(service.mode, service.rx_hz): service for service in one.entry.access.services}
    pairs = [
        (mine[key], replace(service, key=mine[key].key))
        for service in other.entry.access.services
        if (key := (service.mode, service.rx_hz)) in mine
    ]
    same, said = ([pair[at] for pair in pairs] for at in (0, 1))
    access = one.entry.access
    found = differences(replace(access, services=tuple(same)), replace(access, services=tuple(said)))
    return tuple(dict.fromkeys(field_words(path) for path in found if path.rpartition("/")[2] in FIELD_WORDS))
