"""Memories of other kinds than channels: the access list and call-sign memories of D-STAR radios, the rooms of Fusion radios."""

from typing import NamedTuple, TypeVar

from umbra_awl.core.facts.dstar import CQ, read_ur
from umbra_awl.core.facts.fusion import room_fault
from umbra_awl.core.fit.book import Taken, unique_name
from umbra_awl.core.fit.report import Gauge, Line
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Route
from umbra_awl.core.radio.memory import AccessEntry, CallSign, Channel, Room
from umbra_awl.core.radio.profile import Profile

_Row = TypeVar("_Row")
_COMMAND_NAMES = {"unlink": "Unlink", "echo": "Echo", "info": "Info"}


class Entries(NamedTuple):
    """The tables of one radio beside its channels."""

    access_list: tuple[AccessEntry, ...] = ()
    call_signs: tuple[CallSign, ...] = ()
    rooms: tuple[Room, ...] = ()


def fit_entries(
    index: PlanIndex, profile: Profile, routes: list[Route], channels: list[Channel], lines: list[Line]
) -> Entries:
    """What the channels of a radio need in its other tables, in their order; what finds no room goes into the lines."""
    limits = profile.limits
    if not (limits.access_list or limits.call_signs or limits.rooms):
        return Entries()
    return Entries(
        tuple(_access_list(index, profile, channels, lines)) if limits.access_list else (),
        tuple(_call_signs(index, profile, channels, lines)) if limits.call_signs else (),
        tuple(_rooms(index, profile, routes, lines)) if limits.rooms else (),
    )


def _access_list(index: PlanIndex, profile: Profile, channels: list[Channel], lines: list[Line]) -> list[AccessEntry]:
    """One line for each access module; a radio that takes a call sign and module once says which one stays away."""
    made: dict[tuple[str, int, int], AccessEntry] = {}
    known: set[str] = set()
    taken: Taken = {}
    for channel in channels:
        at = (channel.rpt1, channel.rx_hz, channel.tx_hz)
        if channel.mode != "dstar" or not channel.rpt1.strip() or at in made:
            continue
        if channel.receive_only:  # a line of the access list can always be sent on: it knows no listening only
            continue
        route = index.routes[channel.route]
        access = index.services[route.service][0]
        if profile.needs.one_entry and channel.rpt1 in known:
            reason = (
                f"The radio takes “{channel.rpt1.strip()}” once in its access list. Give one of the two another module."
            )
            lines.append(Line("left out", route.key, f"access list: {access.by_site}", reason))
            continue
        known.add(channel.rpt1)
        name = unique_name(f"{access.by_site} {channel.rpt1[-1]}", profile.display.rules, taken)
        made[at] = AccessEntry(len(made) + 1, name, channel.rpt1, channel.rpt2, channel.rx_hz, channel.tx_hz)
    return _kept(list(made.values()), profile.limits.access_list, "access list entries", lines)


def _call_signs(index: PlanIndex, profile: Profile, channels: list[Channel], lines: list[Line]) -> list[CallSign]:
    made: dict[str, CallSign] = {}
    taken: Taken = {}
    for channel in channels:
        if channel.mode != "dstar" or channel.ur in made or channel.ur == CQ or not channel.ur.strip():
            continue
        asked = read_ur(channel.ur)
        if asked.kind == "wrong":
            continue
        destination = index.destinations[index.routes[channel.route].destination]
        wanted = _COMMAND_NAMES.get(asked.kind) or (
            f"Link {destination.name}" if asked.kind == "link" else destination.name
        )
        made[channel.ur] = CallSign(len(made) + 1, unique_name(wanted, profile.display.rules, taken), channel.ur)
    return _kept(list(made.values()), profile.limits.call_signs, "call-sign memories", lines)


def _rooms(index: PlanIndex, profile: Profile, routes: list[Route], lines: list[Line]) -> list[Room]:
    made: dict[int, Room] = {}
    refused: dict[str, str] = {}
    taken: Taken = {}
    for route in routes:
        destination = index.destinations[route.destination]
        number = destination.number
        if destination.kind != "room" or number is None or number in made:
            continue
        fault = room_fault(number)
        if fault:
            refused[destination.key] = fault
            continue
        name = unique_name(destination.name, profile.display.rules, taken)
        made[number] = Room(len(made) + 1, name, number)
    lines += [Line("left out", "", index.destinations[key].name, fault) for key, fault in refused.items()]
    return _kept(list(made.values()), profile.limits.rooms, "rooms", lines)


def _kept(rows: list[_Row], limit: int, what: str, lines: list[Line]) -> list[_Row]:
    if len(rows) > limit:
        reason = f"The radio holds {limit} {what} and the plan needs {len(rows)}; the last ones are left out."
        lines.append(Line("left out", "", f"{len(rows) - limit} {what}", reason))
    return rows[:limit]


def entry_gauges(entries: Entries, profile: Profile) -> tuple[Gauge, ...]:
    """How much of those tables is used, for those the radio has."""
    limits = profile.limits
    gauges = (
        Gauge("access list", len(entries.access_list), limits.access_list),
        Gauge("call-sign memories", len(entries.call_signs), limits.call_signs),
        Gauge("rooms", len(entries.rooms), limits.rooms),
    )
    return tuple(gauge for gauge in gauges if gauge.limit)
