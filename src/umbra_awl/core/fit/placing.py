"""Placing zones and scan lists into a radio: members that exist, lists split at the radio's length, names cut and unique."""

from collections.abc import Iterable

from umbra_awl.core.fit.book import unique_name
from umbra_awl.core.fit.memory import MemoryList
from umbra_awl.core.fit.profile import Profile
from umbra_awl.core.fit.report import Line
from umbra_awl.core.plan.model import RouteList


def fit_lists(
    what: str,
    lists: Iterable[RouteList],
    members: dict[str, tuple[str, ...]],
    numbers: dict[str, int],
    profile: Profile,
    lines: list[Line],
) -> tuple[MemoryList, ...]:
    """Zones or scan lists as the radio holds them. Zones too long are split; scan lists too long are cut, with a line."""
    limits = profile.limits
    most, longest = (limits.zones, limits.zone_channels) if what == "zone" else (limits.scan_lists, limits.scan_members)
    placed: list[MemoryList] = []
    taken: set[str] = set()
    for item in lists:
        channels = [numbers[key] for key in members[item.key] if key in numbers]
        parts = [channels[at : at + longest] for at in range(0, len(channels), longest)]
        if len(parts) > 1:
            lines.append(_over_line(what, item, len(channels), longest, len(parts)))
            parts = parts if what == "zone" else parts[:1]
        for number, part in enumerate(parts, 1):
            wanted = f"{_room(item.name, profile)} {number}" if len(parts) > 1 else item.name
            placed.append(MemoryList(len(placed) + 1, unique_name(wanted, profile.display.rules, taken), tuple(part)))
    if len(placed) > most:
        reason = f"The radio holds {most} {what}s; {len(placed)} are asked for. Their channels stay reachable by number only."
        lines.extend(Line("left out", "", item.name, reason) for item in placed[most:])
    return tuple(placed[:most])


def _room(name: str, profile: Profile) -> str:
    return name[: max(1, profile.display.length - 3)].strip()


def _over_line(what: str, item: RouteList, count: int, longest: int, parts: int) -> Line:
    if what == "zone":
        reason = f"It has {count} channels; a zone of this radio takes {longest}, so it became {parts} zones."
        return Line("split", item.key, item.name, reason)
    reason = f"It has {count} channels; a scan list of this radio takes {longest}. The first {longest} are scanned."
    return Line("left out", item.key, f"part of {item.name}", reason)
