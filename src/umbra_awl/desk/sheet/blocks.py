"""Which services and destinations stand together on the punch sheet: a block for each network, or one grid for one mode.

A block holds only the services that carry its network, so that hardly anything in it is in shadow and it fits across. The
first block is what needs no network, over all services. One mode's services and destinations are one grid: there the
shadows tell what that mode cannot reach, and why.
"""

from collections.abc import Callable, Collection, Iterable
from typing import Literal, NamedTuple

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.modes.calls import called
from umbra_awl.core.modes.table import KINDS_OF, mode_of, networks_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, Mode, Service

NO_NETWORK = "Without a network"
NO_SERVICE = "None of your services carries it yet: add an access point on it (Ctrl Shift A)."
NOBODY = "Add “Local” to give these a channel (Ctrl Shift D)."
CONTACTS = frozenset({"private", "station"})
FEW_CONTACTS = 3
LOW_ROWS = 3


class Column(NamedTuple):
    """One service: its key, the lines of its head, its slots, its access point, its mode."""

    service: str
    site: str
    call: str
    head: str
    slots: tuple[int, ...]
    access: str
    mode: Mode


RowKind = Literal["row", "group", "head", "fold", "note"]


class SheetRow(NamedTuple):
    """A destination, or (with an empty key) the head of a group or block, contacts that are folded away, a remark.

    `network` is whose contacts are folded.
    """

    destination: str
    name: str
    number: str = ""
    kind: RowKind = "row"
    network: str = ""


class Shown(NamedTuple):
    """What is left of a plan: destinations that hold these words, one mode, contacts of these networks unfolded."""

    words: tuple[str, ...] = ()
    mode: str = ""
    unfolded: frozenset[str] = frozenset()


class Draft(NamedTuple):
    """A block before it has a place: its name, its services, its rows."""

    name: str
    columns: tuple[Column, ...]
    rows: tuple[SheetRow, ...]


def column_of(access: AccessPoint, service: Service) -> Column:
    """The head of a service's column."""
    call, air = access.call or format_mhz(service.rx_hz), service.air
    mode = mode_of(service)
    return Column(service.key, access.site, call, mode.head(air), mode.slots(air), access.key, service.mode)


def drafts(index: PlanIndex, shown: Shown) -> list[Draft]:
    """The blocks of a plan: one grid for one mode, else what needs no network and then each network."""
    rows = _rows_by_network(index, shown)
    if shown.mode:
        return [_grid(index, shown.mode, rows)]
    made = [_block(index, network, members) for network, members in rows.items() if network]
    there = {column.service for block in made for column in block.columns}
    air = rows.get("", [])
    columns = _columns(index, lambda _service: True)
    if air or (any(column.service not in there for column in columns) and not shown.words):
        made.insert(0, Draft(NO_NETWORK, columns, tuple(air) or (SheetRow("", NOBODY, kind="note"),)))
    return made


def wrapped(made: list[Draft], across: int) -> list[Draft]:
    """The same with low blocks that are wider than so many columns set in two lines, cut between access points."""
    return [line for draft in made for line in _lines(draft, across)]


def _lines(draft: Draft, across: int) -> list[Draft]:
    count = len(draft.columns)
    if not across < count <= 2 * across or len(draft.rows) > LOW_ROWS:
        return [draft]
    cuts = [at for at in range(count - across, across + 1) if draft.columns[at - 1].access != draft.columns[at].access]
    cut = min(cuts, key=lambda at: abs(2 * at - count), default=(count + 1) // 2)
    return [draft._replace(columns=draft.columns[:cut]), draft._replace(columns=draft.columns[cut:])]


def _grid(index: PlanIndex, mode: str, rows: dict[str, list[SheetRow]]) -> Draft:
    headed = [
        row
        for network, members in rows.items()
        for row in (SheetRow("", _called(index, network), kind="group"), *members)
    ]
    return Draft("", _columns(index, lambda service: service.mode == mode), tuple(headed))


def _block(index: PlanIndex, network: str, rows: list[SheetRow]) -> Draft:
    columns = _columns(index, lambda service: network in networks_of(service))
    note = () if columns else (SheetRow("", NO_SERVICE, kind="note"),)
    return Draft(_called(index, network), columns, (*note, *rows))


def _columns(index: PlanIndex, wanted: Callable[[Service], bool]) -> tuple[Column, ...]:
    return tuple(column_of(access, service) for access, service in index.all_services() if wanted(service))


def _called(index: PlanIndex, network: str) -> str:
    known = index.networks.get(network)
    return known.name if known else network or NO_NETWORK


def _rows_by_network(index: PlanIndex, shown: Shown) -> dict[str, list[SheetRow]]:
    every = index.memo("rows of the sheet", lambda: _every_row(index), ("destinations", "networks"))
    used = {destination for _service, destination in index.by_crossing}
    groups: dict[str, list[SheetRow]] = {}
    folded: dict[str, list[SheetRow]] = {}
    for row, destination in zip(every, index.plan.destinations, strict=True):
        if (shown.mode and not _suits(index, destination, shown.mode)) or not _said(row, shown.words):
            continue
        aside = destination.kind in CONTACTS and destination.key not in used and not shown.words
        (folded if aside else groups).setdefault(destination.network, []).append(row)
        groups.setdefault(destination.network, [])
    for network, contacts in folded.items():
        groups[network] += _folded(network, contacts, shown.unfolded)
    return groups


def _folded(network: str, contacts: list[SheetRow], unfolded: Collection[str]) -> list[SheetRow]:
    """Single stations that no route uses, under one line unless they are few."""
    if len(contacts) <= FEW_CONTACTS:
        return contacts
    open_ = network in unfolded
    sign = "▾" if open_ else "▸"
    line = SheetRow("", f"{sign} {len(contacts)} stations without a route", kind="fold", network=network)
    return [line, *contacts] if open_ else [line]


def _said(row: SheetRow, words: Iterable[str]) -> bool:
    text = f"{row.name} {row.number}".casefold()
    return all(word in text for word in words)


def _every_row(index: PlanIndex) -> list[SheetRow]:
    """A row for each destination, in the plan's order."""
    return [SheetRow(item.key, item.name, _number(index, item)) for item in index.plan.destinations]


def _suits(index: PlanIndex, destination: Destination, mode: str) -> bool:
    network = index.networks.get(destination.network)
    return destination.kind in KINDS_OF[mode] and (network is None or network.mode == mode)


def _number(index: PlanIndex, destination: Destination) -> str:
    if destination.text:
        return "" if destination.text == destination.name else destination.text
    if destination.kind == "room":
        return str(destination.number or "")
    call = called(destination, index.networks.get(destination.network))
    return str(call.number) if call else ""
