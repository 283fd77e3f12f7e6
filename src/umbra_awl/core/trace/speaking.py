"""What to say on a route: the call and the answer in the plan's own words, call signs spelled, a report asked for and given.

The spelling words are those of the ITU Radio Regulations, appendix 14; the forms are the usual ones of voice operating.
"""

from collections.abc import Mapping
from types import MappingProxyType
from typing import NamedTuple

from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Route
from umbra_awl.core.plan.places import LINKS, is_pair

_WORDS = (
    "Alfa Bravo Charlie Delta Echo Foxtrot Golf Hotel India Juliett Kilo Lima Mike November Oscar Papa Quebec Romeo Sierra Tango "
    "Uniform Victor Whiskey X-ray Yankee Zulu"
).split()
_DIGITS = "Zero One Two Three Four Five Six Seven Eight Nine".split()
_SPELLED: Mapping[str, str] = MappingProxyType(
    {
        **{word[0]: word for word in _WORDS},
        **{str(at): word for at, word in enumerate(_DIGITS)},
        "/": "stroke",
        "-": "dash",
    }
)
_FIRST = "Hold the key a second before you speak, the microphone a hand's breadth from your mouth."


class SpokenLine(NamedTuple):
    """When it is said, and the words."""

    when: str
    words: str


def spelled(call: str) -> str:
    """A call sign letter by letter; what is no letter, digit or stroke is left out."""
    return " ".join(_SPELLED[char] for char in call.upper() if char in _SPELLED)


def spoken_lines(index: PlanIndex, route: Route, heard: str = "") -> tuple[SpokenLine, ...]:
    """What to say on a route, in order. `heard` is the call sign that was heard; where it is one, the answer to it is told."""
    access, service, destination = index.parts(route)
    owner = next(iter(index.plan.station.identities), None)
    mine = owner.call if owner is not None and owner.call else "your call sign"
    if is_pair(service, destination) and route.slot == LINKS:
        return (SpokenLine("Link", f"Key for a second and say only “{mine}”. Call on the memory that talks."),)
    station = index.plan.station
    place = station.place if station.privacy != "none" else ""
    through = f"through {access.by_site}" if access.kind in {"repeater", "hotspot"} else f"on {access.by_site}"
    where = f", in {place}" if place else ""
    if destination.kind == "echo":
        said = f"{mine}, testing {through}. One, two, three."
        return (
            SpokenLine("Test", said),
            SpokenLine("Then", "Let go and be silent: your own voice comes back as others hear it."),
        )
    if destination.kind in {"disconnect", "dial", "info"}:
        return (SpokenLine("Key", f"Hold the key for a second and say only “{mine}”."),)
    whom = {"private": destination.name, "station": destination.text or destination.name}.get(destination.kind, "")
    call = (
        f"{whom}, this is {mine}"
        if whom
        else f"CQ on {destination.name}, this is {mine}"
        if destination.kind != "local"
        else f"CQ, this is {mine}"
    )
    lines = [
        SpokenLine("Before", _FIRST),
        SpokenLine("Call", f"{call}, {spelled(mine)}{where}, {through}, listening."),
        SpokenLine(
            "Nobody", f"After ten seconds once more: “{mine} {through}, listening.” Then leave the channel to others."
        ),
    ]
    other = tidy_call_sign(heard)
    if other and not call_sign_fault(other):
        lines += [
            SpokenLine(
                "Answer", f"{other}, this is {mine}, {spelled(mine)}{where}. You are {_report(service.mode)}. Over."
            ),
            SpokenLine("Spelled", f"{other}: {spelled(other)}."),
            SpokenLine("Report?", f"{other}, how do you hear me? {_asked(service.mode)}"),
            SpokenLine("End", f"{other}, thank you, this is {mine}, clear."),
        ]
    return tuple(lines)


def _report(mode: str) -> str:
    return "five nine" if mode == "fm" else "clear, no gaps"


def _asked(mode: str) -> str:
    if mode == "fm":
        return "Five: every word is understood; nine: as strong as can be."
    return "In digital modes gaps and a bubbling voice tell, and a bit error rate above 3 %: strength says little."
