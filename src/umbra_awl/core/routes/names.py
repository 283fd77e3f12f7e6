"""Channel names that fit a radio's display: site and destination, shortened the way people would, never twice the same.

Order of giving way: spaces and small words, then known abbreviations, then word endings, the site's name for its short
call, and only last the vowels. Digits are kept, and so is the part that tells two names apart: whoever comes second
tries the next way of shortening. Names are given in the order of punching, so a later route never renames an earlier one.
"""

import re
from collections.abc import Iterable, Iterator, Mapping
from functools import lru_cache
from heapq import heapify, heappop, heapreplace
from itertools import chain
from types import MappingProxyType
from typing import NamedTuple

import msgspec

from umbra_awl.core.facts.callsign import call_suffix
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, NameStyle, Route, Service
from umbra_awl.core.plan.places import LINKS, is_pair, module_word
from umbra_awl.core.radio.display import NameRules, fold

OPTIONAL_WORDS = frozenset({"test", "net", "group", "talk", "wide"})
SMALL_WORDS = frozenset({"and", "the", "of", "for", "to", "a"})
ABBREVIATIONS = {
    "worldwide": "WW", "world": "Wld", "great": "Gt", "little": "Lt", "north": "N", "south": "S", "east": "E", "west": "W",
    "atlantic": "Atl", "english": "Eng", "exercise": "Exer", "disconnect": "Disc", "reflectors": "Refl", "dialled": "Dial",
    "calling": "Call", "emergency": "Emcy", "regional": "Reg", "region": "Reg", "slow-speech": "Slow", "island": "Is",
    "islands": "Is", "isles-wide": "Isles",
}  # fmt: skip
_Shorts = tuple[tuple[str, str], ...]
_CODE_COST = 2.6
_DIGIT = re.compile(r"\d")
_NUMBER_COST = 9.0
_NONE_PINNED: Mapping[str, str] = MappingProxyType({})


class Named(msgspec.Struct, frozen=True, gc=False):
    """A name as the display will show it, the name in full, and whether it had to differ from a plain shortening."""

    name: str
    full: str
    told_apart: bool


class _Form(NamedTuple):
    text: str
    cost: float


def _with_site(access: AccessPoint, spoken: str, style: NameStyle) -> str:
    """A name in full, as the house style says it: “Blackfell Isles-wide”, “Q0BLK-99900”, “Blackfell FM”."""
    site = access.by_call if style.lead == "call" else access.by_site
    return (style.separator or " ").join((spoken, site) if style.lead == "destination" else (site, spoken))


def _module_said(access: AccessPoint, service: Service) -> str:
    """The module of a D-STAR service where its access point has several."""
    return module_word(service) if sum(item.mode == "dstar" for item in access.services) > 1 else ""


def _spoken(module: str, service: Service, destination: Destination, slot: int, style: NameStyle) -> str:
    """Whereto in words: the mode where it stays local, the module where there are several, “Link” for what links."""
    mode = service.mode
    if destination.kind == "local" and mode in {"fm", "fusion"}:
        return "FM" if mode == "fm" else "Fusion"
    if mode == "dstar":
        said = f"Link {destination.name}" if slot == LINKS and is_pair(service, destination) else destination.name
        return f"{module} {said}" if module else said
    if style.numbers and mode == "dmr" and destination.kind == "group" and destination.number is not None:
        return str(destination.number)
    return destination.name


def name_routes(
    index: PlanIndex,
    routes: Iterable[Route],
    rules: NameRules,
    style: NameStyle | None = None,
    pinned: Mapping[str, str] = _NONE_PINNED,
) -> dict[str, Named]:
    """Route key to its name, in the order given; every name is within the rules and used once.

    `style` is a house style in place of the plan's, `pinned` route key to a name given by hand for this display only.
    """
    namer = _Namer(index, rules, style or index.plan.names, pinned)
    return {route.key: namer.name(route) for route in routes}


class _Said(msgspec.Struct, frozen=True, gc=False):
    """A route's name in full by the house style, its destination in words, and the name whole where the display holds it."""

    access: AccessPoint
    destination: Destination
    spoken: str
    full: str
    whole: str


def _whole(full: str, rules: NameRules) -> str:
    """A name as it stands in the display's characters; empty where it does not fit whole."""
    whole = fold(full, rules) if len(full) <= 2 * rules.length or not full.isascii() else ""
    return whole if len(whole) <= rules.length else ""


class _Namer:
    """Names routes one after another; remembers what is taken and how each destination can be said in so much room."""

    def __init__(self, index: PlanIndex, rules: NameRules, style: NameStyle, pinned: Mapping[str, str]) -> None:
        self._index = index
        self._style = style
        self._pinned = pinned
        self._rules = rules._replace(upper=rules.upper or style.capitals)
        self._shorts = tuple((item.word.casefold(), item.short) for item in style.shorts)
        self._joint = style.separator if style.separator in rules.characters else " "
        self._taken: set[str] = set()
        self._sites: dict[str, tuple[_Form, ...]] = {}
        self._modules: dict[str, str] = {}
        self._numbers: dict[str, int] = {}
        made: dict[tuple[str, str, int], _Said] = {}
        self._said = index.memo(("said", self._rules, style), lambda: made, ("access", "destinations"))

    def name(self, route: Route) -> Named:
        """The next route's name."""
        named = self._choose(route)
        self._taken.add(named.name)
        return named

    def _choose(self, route: Route) -> Named:
        rules, taken = self._rules, self._taken
        given = self._pinned.get(route.key) or route.name if self._pinned else route.name
        said = self._said.get((route.service, route.destination, route.slot)) or self._say(route)
        full, whole = (given, _whole(given, rules)) if given else (said.full, said.whole)
        if whole and whole not in taken:
            return Named(whole, full, False)
        first = ""
        for candidate in self._candidates(given, said.access, said.spoken, said.destination):
            if candidate not in taken:
                return Named(candidate, full, bool(first))
            first = first or candidate
        return Named(self._numbered(first or fold(full, rules), route.slot), full, True)

    def _say(self, route: Route) -> "_Said":
        """What a route is called in full by the house style; remembered for the next plan with the same things."""
        access, service, destination = self._index.parts(route)
        module = self._modules.get(service.key)
        if module is None:
            module = self._modules[service.key] = _module_said(access, service)
        spoken = _spoken(module, service, destination, route.slot, self._style)
        full = _with_site(access, spoken, self._style)
        said = _Said(access, destination, spoken, full, _whole(full, self._rules))
        self._said[route.service, route.destination, route.slot] = said
        return said

    def _numbered(self, base: str, slot: int) -> str:
        """A name told apart by a digit at its end, the slot's first. Numbers once found taken are not tried again."""
        length, start = self._rules.length, self._numbers.get(base, 2)
        for number in chain([slot] if slot else [], range(start, 10 ** min(length, 6))):
            head = base[: max(0, length - len(str(number)) - 1)].strip()
            candidate = f"{head} {number}".strip()
            if candidate not in self._taken:
                self._numbers[base] = max(start, number if number != slot else start)
                return candidate
        raise ValueError(f"A display of {length} characters cannot tell so many channels apart.")

    def _candidates(self, given: str, access: AccessPoint, spoken: str, destination: Destination) -> Iterator[str]:
        if given:
            return iter(filter(None, [fold(given, self._rules)[: self._rules.length].strip()]))
        sites = self._sites.get(access.key)
        if sites is None:
            lead = self._style.lead == "call"
            sites = _site_forms(access.site, access.call, access.kind, lead, self._rules, self._shorts)
            self._sites[access.key] = sites
        room = self._rules.length - len(self._joint)
        pairs = [
            (site, _ends(spoken, destination.number, room - len(site.text), self._rules, self._shorts))
            for site in sites
        ]
        return _cheapest_first(pairs, self._joint, swapped=self._style.lead == "destination")


@lru_cache(maxsize=65_536)
def _ends(spoken: str, number: int | None, room: int, rules: NameRules, shorts: _Shorts) -> tuple[_Form, ...]:
    """The ways to say whereto that fit so many characters, cheapest first."""
    return tuple(form for form in _end_forms(spoken, number, rules, shorts) if len(form.text) <= room)


def _cheapest_first(pairs: list[tuple[_Form, tuple[_Form, ...]]], joint: str, *, swapped: bool) -> Iterator[str]:
    """Site and end joined, the cheapest first. Ends come cheapest first, so a heap of one pair for each site does."""
    heap = [(site.cost + ends[0].cost, place, 0) for place, (site, ends) in enumerate(pairs) if ends]
    heapify(heap)
    while heap:
        _cost, place, at = heap[0]
        site, ends = pairs[place]
        yield f"{ends[at].text}{joint}{site.text}" if swapped else f"{site.text}{joint}{ends[at].text}"
        if at + 1 < len(ends):
            heapreplace(heap, (site.cost + ends[at + 1].cost, place, at + 1))
        else:
            heappop(heap)


@lru_cache(maxsize=4_096)
def _site_forms(site: str, call: str, kind: str, by_call: bool, rules: NameRules, shorts: _Shorts) -> tuple[_Form, ...]:
    """The ways to say where, dearest last: in full, its first word, the letters of its call sign, three letters."""
    words = site.split() or [call]
    code = words[0][:4] if kind != "repeater" else call_suffix(call)[:3]
    if by_call and call:
        return _folded([(call, 0.0), (call_suffix(call), _CODE_COST), (call_suffix(call)[:2], _CODE_COST + 3.0)], rules)
    forms = [(site, 0.0), (words[0], 0.6 if len(words) > 1 else 0.0), (code, _CODE_COST), (code[:3], _CODE_COST + 0.6)]
    forms.append((words[0][:2], _CODE_COST + 3.0))
    if shorts:
        own = dict(shorts)
        forms.append((" ".join(own.get(word.casefold(), word) for word in words), 0.4))
    return _folded(forms, rules)


@lru_cache(maxsize=32_768)
def _end_forms(name: str, number: int | None, rules: NameRules, shorts: _Shorts) -> tuple[_Form, ...]:
    """The ways to say whereto, dearest last."""
    words = [word for word in name.split() if not _is_small(word)] or name.split() or ["?"]
    known = {**ABBREVIATIONS, **dict(shorts)} if shorts else ABBREVIATIONS
    short = [known.get(word.lower(), word) for word in words]
    lost = sum(map(len, words)) - sum(map(len, short))
    forms = [(name, 0.0), (" ".join(words), 0.3), (" ".join(short), 0.7 + 0.1 * lost), ("+".join(words), 0.8)]
    forms.append(("".join(map(_capital, short)), 1.1 + 0.1 * lost))
    needed = [word for word in short if word.lower() not in OPTIONAL_WORDS] or short
    forms.append((" ".join(needed), 0.9 + 0.1 * lost))
    forms.extend(_clipped(needed, 1.4 + 0.1 * lost))
    forms.extend((text, cost + 3.0) for text, cost in _clipped([_without_vowels(word) for word in needed], 2.0))
    if number is not None:
        forms.append((str(number), _NUMBER_COST))
    return _folded(forms, rules)


def _is_small(word: str) -> bool:
    """A word that says nothing; a lone capital is a module's letter and says much."""
    return word.lower() in SMALL_WORDS and not (len(word) == 1 and word.isupper())


def _clipped(words: list[str], cost: float) -> Iterator[tuple[str, float]]:
    """Word endings cut, evenly and then in favour of the last word, which is what most often tells two apart."""
    longest = max(map(len, words))
    for keep in range(longest - 1, 1, -1):
        parts = [_clip(word, keep) for word in words]
        dropped = sum(map(len, words)) - sum(map(len, parts))
        penalty = cost + 0.45 * dropped + (4.0 if keep < 3 else 0)
        yield "+".join(parts), penalty - 0.1
        yield "".join(map(_capital, parts)), penalty
    if len(words) > 1:
        yield from _leaning(words, cost)


def _leaning(words: list[str], cost: float) -> Iterator[tuple[str, float]]:
    """One word kept long, the others as their first letters: “NORTHR”, “NReach”."""
    for keep in range(len(words[0]), 3, -1):
        yield (
            "".join([_clip(words[0], keep), *(_capital(_clip(word, 1)) for word in words[1:])]),
            cost + 2.2 + 0.25 * (10 - keep),
        )
    for keep in range(len(words[-1]), 2, -1):
        yield (
            "".join([*(_clip(word, 1) for word in words[:-1]), _capital(_clip(words[-1], keep))]),
            cost + 2.6 + 0.3 * (10 - keep),
        )


def _clip(word: str, keep: int) -> str:
    return word if len(word) <= keep or (not word.isalpha() and _DIGIT.search(word)) else word[:keep]


def _capital(word: str) -> str:
    return word[:1].upper() + word[1:]


def _without_vowels(word: str) -> str:
    return word[:1] + re.sub(r"[aeiouAEIOU]", "", word[1:])


def _folded(forms: list[tuple[str, float]], rules: NameRules) -> tuple[_Form, ...]:
    best: dict[str, float] = {}
    for text, cost in forms:
        shown = fold(text, rules)
        if shown and len(shown) < rules.length:
            best[shown] = min(cost, best.get(shown, cost))
    return tuple(_Form(text, cost) for text, cost in sorted(best.items(), key=lambda item: item[1]))
