"""The lists a memory keeps beside its channels, filled while channels are fitted: contacts and receive group lists."""

from functools import lru_cache
from typing import NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.fit.possible import impossible_call
from umbra_awl.core.fit.report import Line
from umbra_awl.core.modes.calls import call_through, called, further
from umbra_awl.core.modes.table import KINDS_OF
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Call, CallKind, Network, Route
from umbra_awl.core.radio.display import NameRules, fold
from umbra_awl.core.radio.memory import Contact, MemoryList
from umbra_awl.core.radio.profile import Profile

_Key = tuple[int, CallKind]
_Wanted = tuple[_Key, str]
_DMR = KINDS_OF["dmr"]
_LOOSE = frozenset({"by", "and", "the", "of", "to", "for", "a"})


Taken = dict[str, int]
"""Names in use, each with the next number to try for one that would be the same."""


def unique_name(wanted: str, rules: NameRules, taken: Taken) -> str:
    """A list's or contact's name cut to the display, told apart by a number; it is added to `taken`."""
    base = name = _cut(wanted, rules)
    while name in taken:
        tail = f" {taken[base]}"
        taken[base] += 1
        name = base[: rules.length - len(tail)].strip() + tail
    taken[name] = 2
    return name


@lru_cache(maxsize=65_536)
def _cut(wanted: str, rules: NameRules) -> str:
    """A name cut to the display; the same names come back with every fit."""
    return _at_word(fold(wanted, rules), rules.length) or "LIST"


def _at_word(text: str, length: int) -> str:
    """The text cut to a length, at a space when that leaves most of it."""
    if len(text) <= length:
        return text
    cut = text[:length].strip()
    whole = cut.rpartition(" ")[0]
    if len(whole) * 2 < length:
        return cut
    while whole.rpartition(" ")[2].casefold() in _LOOSE:
        whole = whole.rpartition(" ")[0]  # “Stenby by” would wait for more
    return whole or cut


class _Table(NamedTuple):
    wanted: list[_Wanted]
    rows: list[Contact]
    numbers: dict[_Key, int]


def _table(wanted: list[_Wanted], rules: NameRules) -> _Table:
    taken: Taken = {}
    rows = [
        Contact(number, unique_name(name, rules, taken), call, kind)
        for number, ((call, kind), name) in enumerate(wanted, 1)
    ]
    return _Table(wanted, rows, {(row.call, row.kind): row.number for row in rows})


class Contacts:
    """The contact table: every DMR destination in plan order, those that routes use first when there is no room for all.

    `calls` are the calls of the routes, in their order.
    """

    def __init__(self, index: PlanIndex, profile: Profile, routes: list[Route]) -> None:
        self.rows: list[Contact] = []
        self.lines: list[Line] = []
        self._numbers: dict[_Key, int] = {}
        self._taken: Taken = {}
        self._rules = profile.display.rules
        self.calls: list[Call | None] = [_call_of(index, route) for route in routes]
        limit = profile.limits.contacts
        wanted = self._wanted(index, routes, limit, self.calls) if "dmr" in profile.modes else []
        self._take(index, wanted[:limit])
        if len(wanted) > limit:
            reason = (
                f"The radio holds {counted(limit, 'contact')} and the plan has {len(wanted)}; "
                "those that routes use come first."
            )
            self.lines.append(Line("left out", "", counted(len(wanted) - limit, "contact"), reason))

    def _wanted(self, index: PlanIndex, routes: list[Route], limit: int, called_by: list[Call | None]) -> list[_Wanted]:
        """The calls that belong into the table with their names, those that routes use first when there is no room for all."""
        of_plan, impossible = index.memo("contacts", lambda: _of_plan(index), ("destinations", "networks"))
        self.lines += impossible
        further_on = _prefixed(index, routes)
        calls = {**of_plan, **further_on} if further_on else of_plan
        if len(calls) <= limit:
            return list(calls.items())
        used = {(call.number, call.kind) for call in called_by if call is not None}
        return sorted(calls.items(), key=lambda item: item[0] not in used)

    def _take(self, index: PlanIndex, wanted: list[_Wanted]) -> None:
        """Fill the table; the same contacts as for the last plan are the same table."""
        last: list[_Table] = index.memo(("contacts", self._rules), lambda: [_Table([], [], {})], ())
        table = last[0]
        if table.wanted != wanted:
            table = last[0] = _table(wanted, self._rules)
        self.rows, self._numbers = table.rows, table.numbers

    def number_of(self, call: Call | None) -> int:
        """The place of a call in the table, from 1; 0 when it has none."""
        return self._numbers.get((call.number, call.kind), 0) if call else 0


def _of_plan(index: PlanIndex) -> tuple[dict[_Key, str], list[Line]]:
    """Every DMR call of the plan with its name, and the lines on those that no radio can call."""
    calls: dict[_Key, str] = {}
    lines: list[Line] = []
    networks, only = index.networks, _only_network(index)
    for destination in index.plan.destinations:
        network = networks.get(destination.network)
        if destination.kind not in _DMR or (network is not None and network.mode != "dmr"):
            continue
        call = called(destination, network or only)
        if call is None or (call.number, call.kind) in calls:
            continue
        if fault := impossible_call(call.number):
            lines.append(Line("left out", "", f"contact {destination.name}", fault))
        else:
            calls[call.number, call.kind] = destination.name
    return calls, lines


def _call_of(index: PlanIndex, route: Route) -> Call | None:
    """What a route calls; nothing where it is not DMR."""
    _access, service, destination = index.parts(route)
    return call_through(index, service, destination) if service.mode == "dmr" else None


def _prefixed(index: PlanIndex, routes: list[Route]) -> dict[_Key, str]:
    """The numbers behind a prefix that routes through another network's hotspot call."""
    if not any(further(service) for _access, service in index.all_services()):
        return {}
    found: dict[_Key, str] = {}
    for route in routes:
        _access, service, destination = index.parts(route)
        call = call_through(index, service, destination) if destination.network in further(service) else None
        if call is not None:
            found[call.number, call.kind] = destination.name
    return found


def _only_network(index: PlanIndex) -> Network | None:
    dmr = [network for network in index.plan.networks if network.mode == "dmr"]
    return dmr[0] if len(dmr) == 1 else None


class GroupLists:
    """The receive group lists: one for each different set of talk groups that channels listen to."""

    def __init__(self, profile: Profile) -> None:
        self.rows: list[MemoryList] = []
        self.lines: list[Line] = []
        self._limits = profile.limits
        self._rules = profile.display.rules
        self._numbers: dict[tuple[int, ...], int] = {}
        self._taken: Taken = {}

    def number_for(self, members: tuple[int, ...], name: str, route: str) -> int:
        """The list that holds exactly these contacts, made when needed; 0 and a line in the report when there is no room."""
        kept = members[: self._limits.group_list_members]
        if len(kept) < len(members):
            reason = (
                f"A receive group list holds {counted(len(kept), 'talk group')}; this channel asks for {len(members)}."
            )
            self.lines.append(Line("left out", route, f"talk groups of {name}", reason))
        if not kept or kept in self._numbers:
            return self._numbers.get(kept, 0)
        if len(self.rows) >= self._limits.group_lists:
            reason = f"All {self._limits.group_lists} receive group lists are in use; the channel opens for its contact only."
            self.lines.append(Line("left out", route, f"receive group list of {name}", reason))
            return 0
        number = len(self.rows) + 1
        self.rows.append(MemoryList(number, unique_name(name, self._rules, self._taken), kept))
        self._numbers[kept] = number
        return number
