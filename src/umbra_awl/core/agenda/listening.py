"""Where to begin listening: a scan of the band by free tuning, the groups in the order in which they are worth it, the hours.

Quiet and local groups come first: there one hears who is about, and is heard. What comes over one's own hotspot is only what it
is linked to. Listening needs no licence in most countries; local law decides.
"""

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from datetime import UTC, datetime
from typing import NamedTuple
from zoneinfo import ZoneInfo

from umbra_awl.core.estimate.survey import SurveySpot
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.modes import SHORT_WORDS
from umbra_awl.core.facts.repeaters import CALLING
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import BandHeard, DmrAir, Route, TrafficKind
from umbra_awl.core.plan.places import place_word
from umbra_awl.core.simulation.parameters import hour_factors, pattern_of

_ORDER: Sequence[TrafficKind] = ("local", "quiet", "regional", "net", "wide")
_WHY: Mapping[TrafficKind, str] = {
    "local": "Local: who is about here, and hears you.",
    "quiet": "Quiet: a word is answered.",
    "regional": "Regional: the busiest within your language.",
    "net": "A net: listen when it meets.",
    "wide": "Wide: always somebody, and seldom a gap.",
}
OWN_HOTSPOT = "Your own hotspot: scanning it brings only what it is linked to."
_OUT_OF_REACH = "unlikely"
HOURS = 24


class ScanLine(NamedTuple):
    """One frequency in hertz to listen on: what is known to stand there, how likely it comes in, and what was heard on it."""

    hz: int
    what: str
    reach: str
    heard: tuple[BandHeard, ...] = ()

    @property
    def heard_words(self) -> str:
        """What was heard last, and how often anything was."""
        if not self.heard:
            return ""
        last = max(self.heard, key=lambda item: item.utc)
        times = f", {len(self.heard)} times" if len(self.heard) > 1 else ""
        return f"{last.words or 'something'} on {last.utc[:10]}{times}"


class GroupLine(NamedTuple):
    """A route to listen on, its label, of what kind its talk is in a word, and why it stands where it does in the order."""

    route: str
    label: str
    kind: str
    why: str


class BusyHour(NamedTuple):
    """An hour of the listener's own clock: how busy it usually is (0 to 1), and how often one heard somebody in it."""

    hour: int
    usual: float
    own: int


def scan_lines(index: PlanIndex, spots: Iterable[SurveySpot]) -> tuple[ScanLine, ...]:
    """The band from its lower edge up: calling frequencies, outputs in reach, and where something was heard already."""
    station = index.plan.station
    what: dict[int, list[str]] = {}
    reach: dict[int, str] = {}
    for calling in CALLING[station.region]:
        what.setdefault(calling.hz, []).append(calling.words)
    for spot in spots:
        if spot.access.kind == "hotspot" or spot.reach is None or spot.reach.verdict == _OUT_OF_REACH:
            continue
        for service in spot.access.services:
            told = f"{spot.access.by_call} {SHORT_WORDS[service.mode]}"
            if told not in what.setdefault(service.rx_hz, []):
                what[service.rx_hz].append(told)
            if reach.get(service.rx_hz) != "likely":
                reach[service.rx_hz] = spot.reach.verdict
    heard: dict[int, list[BandHeard]] = {}
    for item in station.heard:
        heard.setdefault(item.hz, []).append(item)
    return tuple(
        ScanLine(
            hz,
            ", ".join(what.get(hz, ())) or "nothing known stands here",
            reach.get(hz, ""),
            tuple(heard.get(hz, ())),
        )
        for hz in sorted({*what, *heard})
    )


def group_lines(index: PlanIndex) -> tuple[GroupLine, ...]:
    """The plan's routes in the order in which listening on them is worth it: local and quiet first, one's own hotspot last."""
    kinds = _kinds(index)

    def place(route: Route) -> tuple[bool, int]:
        access, _service, destination = index.parts(route)
        return access.kind == "hotspot", _ORDER.index(kinds.get(destination.key, "regional"))

    made: list[GroupLine] = []
    for route in sorted(_that_carry_talk(index), key=place):
        own, at = place(route)
        kind = "own hotspot" if own else str(_ORDER[at])
        made.append(GroupLine(route.key, index.labels.of(route), kind, OWN_HOTSPOT if own else _WHY[_ORDER[at]]))
    return tuple(made)


def _kinds(index: PlanIndex) -> dict[str, TrafficKind]:
    """What kind of traffic each destination has, as its owner said or as is usual."""
    carried = {
        item.destination
        for _access, service in index.services.values()
        if isinstance(service.air, DmrAir)
        for item in service.air.static
    }
    return {
        item.key: pattern_of(index.plan, item, carried=item.key in carried).kind for item in index.plan.destinations
    }


def _that_carry_talk(index: PlanIndex) -> Iterator[Route]:
    """Routes on which somebody may be heard: not an echo test, a disconnect, a number that is dialled, or what only links."""
    for route in index.plan.routes:
        _access, service, destination = index.parts(route)
        if (
            destination.kind in {"echo", "disconnect", "info", "dial"}
            or place_word(service, destination, route.slot) == "link"
        ):
            continue
        yield route


def busy_hours(index: PlanIndex, entries: Iterable[Entry], zone: str) -> tuple[BusyHour, ...]:
    """The 24 hours of a time zone's clock: as they usually are, and as one's own log and band scans have them.

    Raises ZoneInfoNotFoundError for a zone that is none.
    """
    clock = ZoneInfo(zone)
    moments = [entry.utc for entry in entries if entry.grade != "failed" and entry.call]
    moments += [item.utc for item in index.plan.station.heard]
    own = Counter(hour for text in moments for hour in _hour_of(text, clock))
    usual = hour_factors()
    return tuple(BusyHour(hour, usual[hour], own[hour]) for hour in range(HOURS))


def _hour_of(utc: str, clock: ZoneInfo) -> Iterator[int]:
    try:
        moment = datetime.fromisoformat(utc)
    except ValueError:
        return
    moment = moment if moment.tzinfo is not None else moment.replace(tzinfo=UTC)
    yield moment.astimezone(clock).hour


def busiest_words(hours: Sequence[BusyHour]) -> str:
    """When somebody was heard most, or when somebody usually is, as a sentence."""
    most = max(hours, key=lambda item: (item.own, item.usual))
    if most.own:
        return (
            f"You heard somebody most often from {most.hour:02d} to {(most.hour + 1) % HOURS:02d} h: {most.own} times."
        )
    usual = [item.hour for item in hours if item.usual >= 1.0]
    return f"Nothing is written down yet; usually the hours from {usual[0]:02d} to {(usual[-1] + 1) % HOURS:02d} are the busiest."


def heard_edit_words(hz: int, words: str) -> str:
    """What noting down is called in the history."""
    return f"Heard {words or 'something'} on {format_mhz(hz)}"
