"""One code for each site and one for each destination of a radio's display, chosen all at once.

A name is a site's code, a joint and a destination's code, so how long sites may be decides how long destinations may be. For
every group of sites and destinations that meet, each split of the display is priced by what the cheapest ways would cost; the
best few are tried with every code apart from every other, and afterwards whoever has room left takes a better way. Who meets
another's text either takes its own next way or makes the other take his, whichever costs less. What was given before stays.
"""

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from umbra_awl.core.routes.assigned import NO_WAY, AssignedSide, Code
from umbra_awl.core.routes.ways import RouteWay

_TRIED, _MANY = 2, 120
"""So many splits are tried, of very many sites and destinations only the best one."""


_FEW_MEETINGS = 1_000
"""In larger groups sites do not give way to what they reach: it would take longer than it is worth."""


class CodeMeeting(NamedTuple):
    """A site and a destination that stand in one name, with the characters the name needs beside their codes."""

    site: str
    to: str
    beside: int


class CodeRequest(NamedTuple):
    """What is to be said: the ways of each site and destination, where they meet, what is given, the display's length."""

    sites: Mapping[str, tuple[RouteWay, ...]]
    tos: Mapping[str, tuple[RouteWay, ...]]
    meetings: tuple[CodeMeeting, ...]
    given_sites: Mapping[str, str]
    given_tos: Mapping[str, str]
    length: int


class Codes(NamedTuple):
    """The codes chosen, and what they cost altogether, each counted as often as it is shown."""

    sites: dict[str, Code]
    tos: dict[str, Code]
    cost: float


def choose_codes(asked: CodeRequest) -> Codes:
    """The codes of a display. Where it is too short to tell so many things apart, the last ones are the same."""
    sites, tos = AssignedSide(asked.sites, asked.given_sites), AssignedSide(asked.tos, asked.given_tos)
    groups = _groups(asked.meetings)
    for group in groups:
        _choose_group(group, asked, sites, tos)
    for group in groups:
        if len(group) <= _FEW_MEETINGS:
            _give_room(group, asked.length, sites, tos)
        _stretch(group, asked.length, sites, tos)
    return Codes(
        sites.codes(), tos.codes(), sites.cost(_count(asked.meetings, 0)) + tos.cost(_count(asked.meetings, 1))
    )


def _count(meetings: Iterable[CodeMeeting], at: int) -> dict[str, int]:
    found: dict[str, int] = {}
    for meeting in meetings:
        key = str(meeting[at])
        found[key] = found.get(key, 0) + 1
    return found


def _groups(meetings: tuple[CodeMeeting, ...]) -> list[list[CodeMeeting]]:
    """Meetings by what hangs together through shared sites and destinations, in their order."""
    of: dict[tuple[int, str], list[CodeMeeting]] = {}
    for meeting in meetings:
        one, other = of.setdefault((0, meeting.site), []), of.setdefault((1, meeting.to), [])
        if one is not other:
            small, large = sorted((one, other), key=len)
            large.extend(small)
            for item in small:
                of[0, item.site] = of[1, item.to] = large
            of[0, meeting.site] = of[1, meeting.to] = large
            one = large
        one.append(meeting)
    return list({id(group): group for group in of.values()}.values())


def _choose_group(group: list[CodeMeeting], asked: CodeRequest, sites: AssignedSide, tos: AssignedSide) -> None:
    """Try the splits that look best, and keep the cheapest once all codes are apart."""
    weights, room = (_count(group, 0), _count(group, 1)), _room_of(group, asked)
    ranked = sorted((_bound(room, asked, split, weights), split) for split in range(1, asked.length - 1))
    tried = ranked[: _TRIED if len(weights[0]) + len(weights[1]) <= _MANY else 1]
    best: tuple[float, int] | None = None
    for _price, split in tried:
        cost = _settle(room, split, weights, sites, tos)
        if len(tried) == 1:
            return
        if best is None or cost < best[0]:
            best = (cost, split)
        sites.drop(weights[0])
        tos.drop(weights[1])
    if best is not None:
        _settle(room, best[1], weights, sites, tos)


class _Room(NamedTuple):
    """What of a group does not hang on the split: limits by what is given, and what stands beside a destination's code.

    `beside` has the destinations that meet a site without a given code, `split_sites` the sites that meet such a destination.
    """

    length: int
    site_caps: dict[str, int]
    to_caps: dict[str, int]
    beside: dict[str, int]
    split_sites: frozenset[str]

    def limits(self, split: int) -> tuple[dict[str, int], dict[str, int]]:
        """How long each site and each destination may be at a split."""
        sites = {key: min(cap, split) if key in self.split_sites else cap for key, cap in self.site_caps.items()}
        left = self.length - 1 - split
        beside = self.beside
        return sites, {key: min(cap, left - beside[key]) if key in beside else cap for key, cap in self.to_caps.items()}


def _room_of(group: list[CodeMeeting], asked: CodeRequest) -> _Room:
    site_caps, to_caps, beside, split_sites = dict[str, int](), dict[str, int](), dict[str, int](), set[str]()
    for site, to, needs in group:
        given_site, given_to = asked.given_sites.get(site), asked.given_tos.get(to)
        room = asked.length - 1 - needs
        site_caps[site] = min(
            site_caps.get(site, asked.length), asked.length if given_to is None else room - len(given_to)
        )
        to_caps[to] = min(to_caps.get(to, asked.length), asked.length if given_site is None else room - len(given_site))
        if given_to is None:
            split_sites.add(site)
        if given_site is None:
            beside[to] = max(beside.get(to, 0), needs)
    return _Room(asked.length, site_caps, to_caps, beside, frozenset(split_sites))


def _bound(room: _Room, asked: CodeRequest, split: int, weights: tuple[dict[str, int], dict[str, int]]) -> float:
    """What a split would cost if no two codes met."""
    total = 0.0
    for ways, limit, weight in zip((asked.sites, asked.tos), room.limits(split), weights, strict=True):
        for key, most in limit.items():
            total += weight[key] * next((way.cost for way in ways[key] if len(way.text) <= most), NO_WAY)
    return total


def _settle(
    room: _Room, split: int, weights: tuple[dict[str, int], dict[str, int]], sites: AssignedSide, tos: AssignedSide
) -> float:
    site_limit, to_limit = room.limits(split)
    return sites.choose(site_limit, weights[0]) + tos.choose(to_limit, weights[1])


def _give_room(group: list[CodeMeeting], length: int, sites: AssignedSide, tos: AssignedSide) -> None:
    """Let a site take a shorter way where what it reaches gains more by the room than the site loses."""
    reached: dict[str, list[tuple[str, int]]] = {}
    rooms: dict[str, list[tuple[int, str]]] = {}
    for site, to, beside in group:
        reached.setdefault(site, []).append((to, beside))
        rooms.setdefault(to, []).append((length - 1 - beside - len(sites.said(site)), site))
    tight = {to: sorted(found)[:2] for to, found in rooms.items()}
    shown = {to: len(found) for to, found in rooms.items()}
    for site, met in reached.items():
        held_back = [
            (to, beside, _room_without(site, tight[to], length)) for to, beside in met if tight[to][0][1] == site
        ]
        if not held_back:
            continue
        best = min(
            (
                (
                    len(met) * way.cost
                    + sum(
                        shown[to] * tos.least(to, min(room, length - 1 - beside - len(way.text)))
                        for to, beside, room in held_back
                    ),
                    -len(way.text),
                    way,
                )
                for way in sites.shorter(site)
            ),
        )
        sites.change(site, best[2])
        for to, beside, room in held_back:
            tos.better(to, min(room, length - 1 - beside - len(best[2].text)))


def _room_without(site: str, tight: list[tuple[int, str]], length: int) -> int:
    """The room that the other sites leave."""
    return next((room for room, who in tight if who != site), length)


def _stretch(group: list[CodeMeeting], length: int, sites: AssignedSide, tos: AssignedSide) -> None:
    """Let whoever has room left by all that it meets take a better way."""
    for side, other, at in ((sites, tos, 0), (tos, sites, 1)):
        room: dict[str, int] = {}
        for meeting in group:
            key, met = str(meeting[at]), str(meeting[1 - at])
            room[key] = min(room.get(key, length), length - 1 - meeting.beside - len(other.said(met)))
        for key in sorted(room, key=lambda item: -side.price(item)):
            side.better(key, room[key])
