"""Channel names that fit a radio's display: each site and each destination said in one way on it, never two alike.

A name is the site's code, the module or band where the site has several, a joint, and the destination's code. A memory that
links carries a mark before its destination, and is otherwise named as the one that talks. Codes that the plan keeps for the
radio stay as they are: only what is new is given one.
"""

from collections.abc import Iterable, Iterator, Mapping
from functools import lru_cache
from itertools import chain, dropwhile
from types import MappingProxyType

import msgspec

from umbra_awl.core.facts.modes import ByMode
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import NameStyle, Route
from umbra_awl.core.radio.display import NameRules, fold
from umbra_awl.core.routes.assigned import Code
from umbra_awl.core.routes.codes import CodeMeeting, CodeRequest, Codes, choose_codes
from umbra_awl.core.routes.sayings import Saying, SayingParts, parts_of
from umbra_awl.core.routes.ways import Sayable, Shorts, ways_of

LINK_WORD, LINK_SIGNS = "Link ", "+>*L"
Kept = Mapping[tuple[str, str], str]
"""Kind (“site”, “to”, “tag”, “mark”) and key to the code that the plan keeps."""
NOTHING_KEPT: Kept = MappingProxyType({})
_NONE_PINNED: Mapping[str, str] = MappingProxyType({})
_MODE_WORDS: ByMode[str] = {"dmr": "DMR", "dstar": "DV", "fusion": "C4", "fm": "FM"}
_SIGN_COST = 0.8
_MANY_LINKS = 400
"""So many memories that link are marked by the sign without trying the word."""


class Named(msgspec.Struct, frozen=True, gc=False):
    """A name as the display will show it, the name in full, and whether it had to differ from a plain shortening."""

    name: str
    full: str
    told_apart: bool


class Spelling(msgspec.Struct, frozen=True, gc=False):
    """How a display says what the plan holds: the parts of each route, the codes, the mark of memories that link.

    `said` are the names put together so far, by what they say.
    """

    parts: SayingParts
    codes: Codes
    mark: str
    said: dict[Saying, Named]

    def kept(self) -> dict[tuple[str, str], str]:
        """All codes as the plan keeps them."""
        found = {("site", key): code.said for key, code in self.codes.sites.items()}
        found.update({("to", key): code.said for key, code in self.codes.tos.items()})
        found.update({("tag", key): saying.tag for key, saying in self._tagged().items()})
        return found | ({("mark", "link"): self.mark} if any(saying.links for saying in self.parts.of.values()) else {})

    def _tagged(self) -> dict[str, Saying]:
        return {key.partition(">")[0]: saying for key, saying in self.parts.of.items()}


def name_routes(
    index: PlanIndex,
    routes: Iterable[Route],
    rules: NameRules,
    style: NameStyle | None = None,
    pinned: Mapping[str, str] = _NONE_PINNED,
    kept: Kept = NOTHING_KEPT,
) -> dict[str, Named]:
    """Route key to its name, in the order given; every name is within the rules and used once.

    `style` is a house style in place of the plan's, `pinned` route key to a name given by hand for this display only, `kept`
    the codes already given. Raises ValueError when the display is too short to tell so many routes apart.
    """
    routes = list(routes)
    style = style or index.plan.names
    rules = _in_style(rules, style)
    spelling = spell(index, routes, rules, style, kept)
    return dict(_Namer(index, rules, style, spelling, pinned).all(routes))


def spell(
    index: PlanIndex, routes: list[Route], rules: NameRules, style: NameStyle, kept: Kept = NOTHING_KEPT
) -> Spelling:
    """The codes of all sites and destinations of some routes, chosen together; remembered while what they are made of stays."""
    rules = _in_style(rules, style)
    parts = parts_of(index, routes, style)
    if kept:
        parts = parts._replace(of={key: _as_kept(key, saying, kept) for key, saying in parts.of.items()})
    beside = {(item.site, item.to, len(item.tag), bool(item.slot), item.links) for item in parts.of.values()}
    made: dict[object, tuple[Codes, str, dict[Saying, Named]]] = {}
    known = index.memo(("codes", rules, style), lambda: made, ("access", "destinations"))
    at = (frozenset(beside), frozenset(kept.items()))
    if at not in known:
        if len(known) >= _MOST_KNOWN:
            known.clear()
        known[at] = (*_cheapest(parts, rules, style, kept), {})
    return Spelling(parts, *known[at])


_MOST_KNOWN = 16


def _in_style(rules: NameRules, style: NameStyle) -> NameRules:
    return rules._replace(upper=True) if style.capitals else rules


def _as_kept(key: str, saying: Saying, kept: Kept) -> Saying:
    tag = kept.get(("tag", key.partition(">")[0]))
    return saying if tag is None or tag == saying.tag else saying._replace(tag=tag)


def _cheapest(parts: SayingParts, rules: NameRules, style: NameStyle, kept: Kept) -> tuple[Codes, str]:
    """The codes with “Link” as the mark, or with a sign where the word would cost the names too much."""
    links = sum(saying.links for saying in parts.of.values())
    fixed = kept.get(("mark", "link"))
    if not links:
        return _codes(parts, rules, style, kept, 0), ""
    marks = [fixed] if fixed is not None else [fold(LINK_WORD, rules) + " ", link_sign(rules)]
    if links > _MANY_LINKS:
        marks = marks[-1:]
    tried = [(_codes(parts, rules, style, kept, len(mark)), mark) for mark in marks]
    return min(tried, key=lambda item: item[0].cost + (0.0 if item[1].endswith(" ") else _SIGN_COST * links))


def link_sign(rules: NameRules) -> str:
    """The sign that marks a memory that links, of those the display knows."""
    return next((sign for sign in LINK_SIGNS if sign in rules.characters), "")


def _codes(parts: SayingParts, rules: NameRules, style: NameStyle, kept: Kept, mark: int) -> Codes:
    beside: dict[tuple[str, str], int] = {}
    for saying in parts.of.values():
        needs = (1 + len(saying.tag)) * bool(saying.tag) + (mark if saying.links else 0) + 2 * bool(saying.slot)
        at = (saying.site, saying.to)
        beside[at] = max(beside.get(at, 0), needs)
    sites, tos = tuple(parts.sites.items()), tuple(parts.tos.items())
    return _chosen((sites, tos), tuple(beside.items()), rules, _shorts(style), tuple(kept.items()))


_Sayables = tuple[tuple[tuple[str, Sayable], ...], tuple[tuple[str, Sayable], ...]]


@lru_cache(maxsize=32)
def _chosen(
    sayables: _Sayables,
    beside: tuple[tuple[tuple[str, str], int], ...],
    rules: NameRules,
    shorts: Shorts,
    kept: tuple[tuple[tuple[str, str], str], ...],
) -> Codes:
    """The codes; remembered, so that radios with one display choose them once."""
    sites, tos = ({key: ways_of(said, rules, shorts) for key, said in side} for side in sayables)
    meetings = tuple(CodeMeeting(site, to, needs) for (site, to), needs in beside)
    given_sites, given_tos = ({key: said for (kind, key), said in kept if kind == name} for name in ("site", "to"))
    return choose_codes(CodeRequest(sites, tos, meetings, given_sites, given_tos, rules.length))


def _shorts(style: NameStyle) -> Shorts:
    return tuple((item.word.casefold(), item.short) for item in style.shorts)


class _Taken:
    """Names that are given; two that differ only in capitals are one name to whoever reads or says them."""

    def __init__(self) -> None:
        self._held: set[str] = set()

    def add(self, name: str) -> None:
        """Give a name away."""
        self._held.add(name.casefold())

    def __contains__(self, name: str) -> bool:
        return name.casefold() in self._held


class _Namer:
    """Puts names together one after another, and sees that none is used twice."""

    def __init__(
        self, index: PlanIndex, rules: NameRules, style: NameStyle, spelling: Spelling, pinned: Mapping[str, str]
    ) -> None:
        self._index, self._rules, self._style = index, rules, style
        self._spelling, self._pinned = spelling, pinned
        self._joint = style.separator if style.separator and style.separator in rules.characters else " "
        self._shorts = _shorts(style)
        self._taken = _Taken()
        self._numbers: dict[str, int] = {}

    def all(self, routes: Iterable[Route]) -> Iterator[tuple[str, Named]]:
        """Every route's key and name."""
        pinned, taken, said = self._pinned, self._taken, self._spelling.said
        for route, (key, saying) in zip(routes, self._spelling.parts.of.items(), strict=True):
            given = pinned.get(key) or route.name if pinned else route.name
            named = said.get(saying) if not given else None
            if named is None or named.name in taken:
                named = self._by_hand(route, given) if given else self._by_code(route, saying)
            taken.add(named.name)
            yield key, named

    def _by_hand(self, route: Route, full: str) -> Named:
        """A name given by hand, whole where it fits and is free, else shortened as its words allow."""
        whole = fold(full, self._rules)
        if whole and len(whole) <= self._rules.length and whole not in self._taken:
            return Named(whole, full, False)
        for at, name in enumerate(self._shortened(route, full)):
            if name not in self._taken:
                return Named(name, full, at > 0 or len(whole) <= self._rules.length)
        return Named(self._numbered(whole or "?", route.slot), full, True)

    def _shortened(self, route: Route, full: str) -> Iterator[str]:
        """A hand-made name in fewer characters: the site it begins with by its code, and its words as they allow."""
        access, _service, _destination = self._index.parts(route)
        site = self._spelling.codes.sites[access.key]
        said = access.by_site.casefold().split()
        rest = list(dropwhile(lambda word: word.casefold() in said, full.split()))
        length = self._rules.length
        if rest and len(rest) < len(full.split()):
            for way in ways_of(Sayable(" ".join(rest)), self._rules, self._shorts):
                if len(site.said) + 1 + len(way.text) <= length:
                    yield f"{site.said}{self._joint}{way.text}"
        for way in ways_of(Sayable(full), self._rules._replace(length=length + 1), self._shorts):
            yield way.text

    def _by_code(self, route: Route, saying: Saying) -> Named:
        codes = self._spelling.codes
        site, to = codes.sites[saying.site], codes.tos[saying.to]
        name = self._joined(saying, site.said, to.said, self._spelling.mark)
        full = self._in_full(saying)
        if len(name) <= self._rules.length and name not in self._taken:
            named = self._spelling.said[saying] = Named(name, full, site.apart or to.apart)
            return named
        return Named(self._otherwise(route, name, saying, (site, to)), full, True)

    def _joined(self, saying: Saying, site: str, to: str, mark: str) -> str:
        where = f"{site} {saying.tag}" if saying.tag else site
        whereto = f"{mark if saying.links else ''}{to}{' ' + saying.slot if saying.slot else ''}"
        one, other = (whereto, where) if self._style.lead == "destination" else (where, whereto)
        return f"{one}{self._joint}{other}"

    def _in_full(self, saying: Saying) -> str:
        parts = self._spelling.parts
        site, to = parts.sites[saying.site], parts.tos[saying.to]
        return self._joined(saying, site.call if site.by_call and site.call else site.text, to.text, LINK_WORD)

    def _otherwise(self, route: Route, name: str, saying: Saying, codes: tuple[Code, Code]) -> str:
        """Another name where the codes make one that is taken, or too long because of codes given before."""
        mode = _MODE_WORDS[self._index.services[route.service][1].mode]
        longer = f"{name} {mode}"
        if len(longer) <= self._rules.length and longer not in self._taken:
            return longer
        for way in ways_of(self._spelling.parts.tos[saying.to], self._rules, self._shorts):
            tried = self._joined(saying, codes[0].said, way.text, self._spelling.mark)
            if len(tried) <= self._rules.length and tried not in self._taken:
                return tried
        return self._numbered(name[: self._rules.length], route.slot)

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
