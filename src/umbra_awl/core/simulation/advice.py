"""Advice at the moment it matters, each piece once. Sources: the practice that every operating guide teaches (field's custom)."""

from collections.abc import Callable, Iterator, Mapping
from types import MappingProxyType
from typing import NamedTuple

from umbra_awl.core.plan.places import LINKS, is_pair
from umbra_awl.core.simulation.keyed import Keyed
from umbra_awl.core.simulation.parameters import pattern_of
from umbra_awl.core.simulation.play import Play

LISTENED_S = 3.0
SHORT_S = 2.0
GAP_S = 1.5
IDENTIFY_S = 600.0


class SpokenAdvice(NamedTuple):
    """One piece: by what it is known, and what it says."""

    key: str
    words: str


_WORDS: Mapping[str, str] = MappingProxyType(
    {
        "listen": "Listen first: a few seconds tell whether somebody is there.",
        "wait": "Key, wait a second for the path to open, then speak.",
        "gap": "Leave a gap between overs, so that others can break in.",
        "identify": "Identify: your call sign at the beginning, at the end, and as often as your rules ask.",
        "echo": "An echo test before calling proves the way there and back.",
        "back": "Back to the general call after linking: change to the memory that talks (CQCQCQ).",
        "wide": "This group is wide: you are on many repeaters at once. A narrower one may do.",
        "driving": "Not while driving: stop, or leave the radio alone.",
        "deaf": "On one frequency the hotspot is deaf while it sends: wait for the gap.",
        "denied": "Three short tones: somebody is there. Wait until the channel is free.",
    }
)


def advice_now(play: Play, known: frozenset[str] = frozenset()) -> tuple[SpokenAdvice, ...]:
    """What is worth saying about the latest key-up, in the order it matters; what is known already is not said again."""
    if not play.keyer.done:
        return ()
    keyed = play.keyer.done[-1]
    found = (key for rule in _RULES for key in rule(play, keyed))
    return tuple(SpokenAdvice(key, _WORDS[key]) for key in dict.fromkeys(found) if key not in known)


def _stopped(_play: Play, keyed: Keyed) -> Iterator[str]:
    if keyed.talk.why == "deaf":
        yield "deaf"
    if keyed.stopped is not None and keyed.stopped.reason == "denied":
        yield "denied"


def _before(play: Play, keyed: Keyed) -> Iterator[str]:
    profile = play.setting.profile
    if profile is not None and profile.shape == "mobile":
        yield "driving"
    if keyed.talk.starts < LISTENED_S:
        yield "listen"
    earlier = [item for item in play.keyer.done[:-1] if item.released]
    if earlier and keyed.talk.starts - (earlier[-1].talk.starts + earlier[-1].talk.seconds) < GAP_S:
        yield "gap"


def _target(play: Play, keyed: Keyed) -> Iterator[str]:
    index, target = play.setting.index, keyed.target
    _access, service, destination = index.parts(target.route)
    if is_pair(service, destination) and target.route.slot == LINKS:
        yield "back"
        return
    proven = any(item.target.destination.kind == "echo" for item in play.keyer.done)
    if destination.kind not in {"echo", "local"} and not proven:
        yield "echo"
    if destination.kind == "group" and pattern_of(index.plan, destination).kind == "wide":
        yield "wide"


def _over(play: Play, keyed: Keyed) -> Iterator[str]:
    if keyed.released and keyed.stopped is None and keyed.talk.seconds < SHORT_S:
        yield "wait"
    if keyed.stopped is not None and keyed.stopped.reason.startswith("too short"):
        yield "wait"
    if keyed.released and play.now - keyed.talk.starts < IDENTIFY_S and len(play.keyer.done) == 1:
        yield "identify"


_RULES: tuple[Callable[[Play, Keyed], Iterator[str]], ...] = (_stopped, _before, _target, _over)
