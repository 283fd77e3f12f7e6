"""What the routes of a radio consist of when they are said: site, module, destination, and what sets like ones apart."""

from collections import Counter
from collections.abc import Iterable
from functools import partial
from typing import NamedTuple

from umbra_awl.core.facts.bands import Band, band_at
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, NameStyle, Route, Service
from umbra_awl.core.plan.places import LINKS, is_pair, module_word
from umbra_awl.core.routes.ways import Sayable

_LOCAL_WORDS = {"fm": "FM", "fusion": "Fusion"}


class Saying(NamedTuple):
    """A route in parts: the access point, the module or band where it has several alike, whereto, whether it links, the slot.

    `to` is the destination's key, or the mode's word where a local call has no other name. `slot` is said only where the same
    destination was punched on the other slot before.
    """

    site: str
    tag: str
    to: str
    links: bool
    slot: str


class SayingParts(NamedTuple):
    """The parts of all routes, and what each site and destination can be called."""

    of: dict[str, Saying]
    sites: dict[str, Sayable]
    tos: dict[str, Sayable]


def parts_of(index: PlanIndex, routes: Iterable[Route], style: NameStyle) -> SayingParts:
    """The parts of the names of a radio's routes, by the house style."""
    of: dict[str, Saying] = {}
    tags: dict[str, str] = {}
    punched: set[tuple[str, str]] = set()
    destinations: dict[str, Destination] = {}
    known, there = index.services, index.destinations
    for route in routes:
        at = (route.service, route.destination)
        access, service = known[at[0]]
        destination = there[at[1]]
        tag = tags.get(at[0])
        if tag is None:
            tag = tags[at[0]] = tag_of(access, service, index.bands)
        to = to_key(service, destination)
        destinations[to] = destination
        pair = service.mode == "dstar" and is_pair(service, destination)
        again = at in punched and not pair
        punched.add(at)
        of[route.key] = Saying(access.key, tag, to, pair and route.slot == LINKS, str(route.slot) if again else "")
    sites = {saying.site: index.access[saying.site] for saying in of.values()}
    return SayingParts(of, _sites_sayable(sites, style), _tos_sayable(destinations, style))


def to_key(service: Service, destination: Destination) -> str:
    """What names whereto: the destination's key, or the mode's word for a local call that has no other name."""
    if destination.kind == "local" and service.mode in _LOCAL_WORDS:
        return f"~{service.mode}"
    return destination.key


def tag_of(access: AccessPoint, service: Service, bands: tuple[Band, ...]) -> str:
    """What tells services of one mode at one access point apart: the module, the band, or the kilohertz."""
    alike = [item for item in access.services if item.mode == service.mode]
    if len(alike) > 1:
        for word in (module_word, partial(_band, bands), _kilohertz):
            words = [word(item) for item in alike]
            if all(words) and len(set(words)) == len(words):
                return word(service)
    return ""


def _band(bands: tuple[Band, ...], service: Service) -> str:
    band = band_at(bands, service.rx_hz)
    return band.name.replace(" ", "").removesuffix("cm") if band else ""


def _kilohertz(service: Service) -> str:
    return f"{service.rx_hz // 1_000 % 1_000:03d}"


def _words(text: str) -> frozenset[str]:
    return frozenset(text.casefold().split())


def _shared(texts: Iterable[str]) -> frozenset[str]:
    """The words that several names have."""
    count = Counter(word for text in texts for word in _words(text))
    return frozenset(word for word, times in count.items() if times > 1)


def _sites_sayable(sites: dict[str, AccessPoint], style: NameStyle) -> dict[str, Sayable]:
    shared = _shared(access.by_site for access in sites.values())
    calls = Counter(access.call for access in sites.values())
    return {
        key: Sayable(
            access.by_site,
            access.call if calls[access.call] == 1 and (access.kind == "repeater" or style.lead == "call") else "",
            shared=_words(access.by_site) & shared,
            by_call=style.lead == "call",
        )
        for key, access in sites.items()
    }


def _tos_sayable(destinations: dict[str, Destination], style: NameStyle) -> dict[str, Sayable]:
    said = {
        key: _LOCAL_WORDS.get(key[1:], item.name) if key[:1] == "~" else item.name for key, item in destinations.items()
    }
    shared = _shared(said.values())
    return {
        key: Sayable(_numbered(destinations[key], style) or text, "", destinations[key].number, _words(text) & shared)
        for key, text in said.items()
    }


def _numbered(destination: Destination, style: NameStyle) -> str:
    """A talk group's number, where the house style says talk groups by number."""
    known = style.numbers and destination.kind == "group" and destination.number is not None
    return str(destination.number) if known else ""
