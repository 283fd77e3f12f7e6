"""Placing zones and scan lists into a radio: members that exist, lists split at the radio's length, names cut and unique."""

from collections.abc import Iterable

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.fit.book import Taken, unique_name
from umbra_awl.core.fit.report import Line
from umbra_awl.core.plan.model import RouteList, ScanList
from umbra_awl.core.radio.memory import MemoryList
from umbra_awl.core.radio.profile import Profile


def fit_zones(
    zones: Iterable[RouteList],
    members: dict[str, tuple[str, ...]],
    numbers: dict[str, int],
    profile: Profile,
    said: tuple[list[Line], frozenset[str]],
) -> tuple[tuple[MemoryList, ...], dict[str, int]]:
    """Zones as the radio holds them, and the number of each zone's first part.

    `said` is the report's lines, and the keys of zones that are cut where they are too long; the others are split.
    """
    lines, cut = said
    most, longest = profile.limits.zones, profile.limits.zone_channels
    placed: list[MemoryList] = []
    keys: list[str] = []
    first_of: dict[str, int] = {}
    taken: Taken = {}
    for item in zones:
        channels = [numbers[key] for key in members[item.key] if key in numbers]
        parts = [channels[at : at + longest] for at in range(0, len(channels), longest)]
        if len(parts) > 1 and item.key in cut:
            reason = f"It has {counted(len(channels), 'channel')}; you chose to keep the first {longest} in one zone."
            lines.append(Line("cut", item.key, item.name, reason))
            parts = parts[:1]
        elif len(parts) > 1:
            became = f"a zone of this radio takes {longest}, so it became {counted(len(parts), 'zone')}"
            reason = f"It has {counted(len(channels), 'channel')}; {became}."
            lines.append(Line("split", item.key, item.name, reason))
        if parts and len(placed) < most:
            first_of[item.key] = len(placed) + 1
        for number, part in enumerate(parts, 1):
            wanted = f"{_room(item.name, profile)} {number}" if len(parts) > 1 else item.name
            placed.append(MemoryList(len(placed) + 1, unique_name(wanted, profile.display.rules, taken), tuple(part)))
            keys.append(item.key)
    _say_over("zone", placed, keys, most, lines)
    return tuple(placed[:most]), first_of


def fit_scans(
    scans: Iterable[ScanList],
    members: dict[str, tuple[str, ...]],
    numbers: dict[str, int],
    profile: Profile,
    lines: list[Line],
) -> tuple[MemoryList, ...]:
    """Scan lists as the radio holds them; too long ones are cut, with a line. The priority channel is kept in any case."""
    most, longest = profile.limits.scan_lists, profile.limits.scan_members
    placed: list[MemoryList] = []
    taken: Taken = {}
    for item in scans:
        channels = [numbers[key] for key in members[item.key] if key in numbers]
        if not channels:
            continue
        if len(channels) > longest:
            reason = f"It has {counted(len(channels), 'channel')}; a scan list of this radio takes {longest}."
            lines.append(
                Line("left out", item.key, f"part of {item.name}", f"{reason} The first {longest} are scanned.")
            )
        priority = numbers.get(item.priority, 0)
        kept = channels[:longest]
        if priority and priority not in kept:
            kept = [priority, *channels[: longest - 1]]
        hang_ms = round(1000 * min(max(item.hang_s, 0.0), profile.limits.scan_hang_s))
        name = unique_name(item.name, profile.display.rules, taken)
        placed.append(MemoryList(len(placed) + 1, name, tuple(kept), priority, hang_ms))
    _say_over("scan list", placed, [""] * len(placed), most, lines)
    return tuple(placed[:most])


def _say_over(what: str, placed: list[MemoryList], keys: list[str], most: int, lines: list[Line]) -> None:
    if len(placed) > most:
        reason = f"The radio holds {most} {what}s; {len(placed)} are asked for. Their channels stay reachable by number only."
        over = zip(keys[most:], placed[most:], strict=True)
        lines.extend(Line("left out", key, item.name, reason) for key, item in over)


def _room(name: str, profile: Profile) -> str:
    return name[: max(1, profile.display.length - 3)].strip()
