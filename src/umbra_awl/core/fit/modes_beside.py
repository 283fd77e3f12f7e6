"""Why this mode? FM, DMR, D-STAR and System Fusion side by side: what each is, and what it is on one's own plan.

Sources: widths as in `facts/emissions.py`. Rates of speech and data: ETSI TS 102 361 (DMR: 3 600 bit/s a slot, of which 2 450 are
speech), the D-STAR specification of 2004 (3 600 bit/s of speech, 1 200 bit/s beside it), the C4FM digital specification of 2015
(narrow speech 3 600 bit/s, wide 7 200). What it costs to begin is the office's and the networks' own rule of registration.
"""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from typing import NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.emissions import emission
from umbra_awl.core.facts.modes import EVERY_MODE, SHORT_WORDS, ByMode, of_mode
from umbra_awl.core.facts.width import NARROW_HZ
from umbra_awl.core.fit.friends import friends_radios
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Mode
from umbra_awl.core.radio.profile import Profile

AROUND_KM = 60.0


class ModeCell(NamedTuple):
    """One mode in one row: in words, and a share of the row's largest, 0 to 1, where it can be counted (else None)."""

    words: str
    share: float | None = None


class ModeRow(NamedTuple):
    """One thing to tell modes apart by, a cell a mode in the order of `EVERY_MODE`, and what is to be read out of it."""

    name: str
    cells: tuple[ModeCell, ...]
    reads: str


class ModeSurround(NamedTuple):
    """What is known beside the plan: profiles, prices by profile key, and access points of the directory within `AROUND_KM`."""

    profiles: Mapping[str, Profile]
    price: Mapping[str, float] = {}
    around: Mapping[Mode, int] | None = None


_TALKS: ByMode[int] = {"fm": 1, "dmr": 2, "dstar": 1, "fusion": 1}
"""Talks at once on one carrier of a repeater."""
_SPEECH: ByMode[str] = {
    "fm": "analogue; noisy bit by bit, understood to the end",
    "dmr": "3 600 bit/s; clear, then breaks off at once",
    "dstar": "3 600 bit/s; clear, then garbled and gone",
    "fusion": "3 600 or 7 200 bit/s, the wide one fuller; then breaks off",
}
_DATA: ByMode[str] = {
    "fm": "none of its own; tones",
    "dmr": "short texts and positions, in calls of their own",
    "dstar": "1 200 bit/s beside speech; pictures instead of it",
    "fusion": "texts, pictures, positions among alike radios",
}
_BEGINS: ByMode[str] = {
    "fm": "licence; nothing to register",
    "dmr": "licence, and an ID from the office that gives them",
    "dstar": "licence, and the call sign registered with a gateway",
    "fusion": "licence; rooms may want a registered node",
}
_SET: ByMode[str] = {
    "fm": "tone, offset",
    "dmr": "color code, slot, talk group, receive list",
    "dstar": "four call-sign fields",
    "fusion": "DG-ID, room",
}


def modes_beside(index: PlanIndex, known: ModeSurround) -> tuple[ModeRow, ...]:
    """The rows: first what each mode is on this plan, then what it is anywhere."""
    return (*_on_this_plan(index, known), *_what_each_is())


def _said(name: str, table: ByMode[str], reads: str) -> ModeRow:
    return ModeRow(name, tuple(ModeCell(of_mode(table, mode)) for mode in EVERY_MODE), reads)


def _what_each_is() -> Iterator[ModeRow]:
    widths = {mode: emission(mode, 0, NARROW_HZ).width_hz / of_mode(_TALKS, mode) / 1_000 for mode in EVERY_MODE}
    most = max(widths.values())
    cells = tuple(
        ModeCell(
            f"{width:.1f} kHz a talk" + (", two on one carrier" if of_mode(_TALKS, mode) > 1 else ""), width / most
        )
        for mode, width in widths.items()
    )
    yield ModeRow("Width", cells, "Less is more room for others on a full band.")
    yield _said("Speech", _SPEECH, "At the edge of reach FM is understood longest; before it, digital is clearer.")
    yield _said("Texts, pictures", _DATA, "They meet among alike radios only: see what your friends have.")
    yield _said("To begin", _BEGINS, "Registrations take days: begin them first.")
    yield _said("Set on each channel", _SET, "Each of these can be wrong, and then nobody answers.")


def _counted(name: str, counts: Mapping[Mode, int], words: Mapping[Mode, str], reads: str) -> ModeRow:
    most = max(counts.values(), default=0)
    cells = tuple(ModeCell(words[mode], counts[mode] / most if most else 0.0) for mode in EVERY_MODE)
    return ModeRow(name, cells, reads)


def _on_this_plan(index: PlanIndex, known: ModeSurround) -> Iterator[ModeRow]:
    routes = Counter(index.services[route.service][1].mode for route in index.plan.routes)
    points = Counter(mode for access in index.plan.access for mode in {service.mode for service in access.services})
    yield _counted(
        "On this plan",
        {mode: routes[mode] for mode in EVERY_MODE},
        {mode: _routes_words(routes[mode], points[mode]) for mode in EVERY_MODE},
        "Where most of the plan is, a radio has to be.",
    )
    if known.around is not None:
        counts = {mode: known.around.get(mode, 0) for mode in EVERY_MODE}
        words = {mode: f"{count:,}" if count else "none" for mode, count in counts.items()}
        yield _counted(
            f"Within {AROUND_KM:.0f} km", counts, words, "Access points of your lists; a hotspot needs none."
        )
    yield _who_is_there(index, known)
    yield from _cost(index, known)


def _routes_words(routes: int, points: int) -> str:
    return f"{counted(routes, 'route')}, {counted(points, 'access point')}" if routes or points else "none"


def _who_is_there(index: PlanIndex, known: ModeSurround) -> ModeRow:
    friends = friends_radios(index, known.profiles.values())
    who = {mode: [item.who for item in friends if item.profile and mode in item.profile.modes] for mode in EVERY_MODE}
    nets = Counter(mode for net in index.plan.nets for mode in _modes_of_net(index, net.route, net.destination))
    words = {mode: _who_words(who[mode], nets[mode]) for mode in EVERY_MODE}
    counts = {mode: len(who[mode]) + nets[mode] for mode in EVERY_MODE}
    return _counted("Who is there", counts, words, "Friends whose radio is told, and the nets of the plan.")


def _modes_of_net(index: PlanIndex, route: str, destination: str) -> set[Mode]:
    return {
        index.services[item.service][1].mode
        for item in index.plan.routes
        if item.key == route or (destination and item.destination == destination)
    }


def _who_words(who: Sequence[str], nets: int) -> str:
    parts = [", ".join(who)] if who else []
    parts += [counted(nets, "net")] if nets else []
    return "; ".join(parts) or "nobody told yet"


def _cost(index: PlanIndex, known: ModeSurround) -> Iterator[ModeRow]:
    mine = [known.profiles[radio.profile] for radio in index.plan.radios if radio.profile in known.profiles]
    able = {mode: sum(mode in profile.modes for profile in mine) for mode in EVERY_MODE}
    words = {mode: f"{able[mode]} of your {counted(len(mine), 'radio')}" for mode in EVERY_MODE}
    yield _counted("What you own", able, words, "A mode that no radio of yours has costs a radio.")
    prices = {key: price for key, price in known.price.items() if key in known.profiles}
    if not prices:
        return
    cells = []
    for mode in EVERY_MODE:
        cheapest = min(
            ((price, key) for key, price in prices.items() if mode in known.profiles[key].modes), default=None
        )
        text = f"from {cheapest[0]:g}, {known.profiles[cheapest[1]].name}" if cheapest else "no price given"
        cells.append(ModeCell(text, cheapest[0] / max(prices.values()) if cheapest else None))
    yield ModeRow("Price", tuple(cells), "The prices you gave, in your money.")


def conclusion(index: PlanIndex) -> str:
    """Which mode this plan stands on, as a sentence."""
    routes = Counter(index.services[route.service][1].mode for route in index.plan.routes)
    if not routes:
        return "Nothing is punched yet: ask first who is there, and with what."
    mode, count = routes.most_common(1)[0]
    return f"{SHORT_WORDS[mode]} carries {count} of the plan's {counted(len(index.plan.routes), 'route')}."
