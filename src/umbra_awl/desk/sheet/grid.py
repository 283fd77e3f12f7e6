"""Which services and destinations the punch sheet shows: one head of services over all rows, networks as bands of rows.

What needs no network comes first. A band whose network no service carries says so. Contacts without a route fold away.
"""

from collections.abc import Collection, Iterable
from typing import Literal, NamedTuple

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.modes.calls import called
from umbra_awl.core.modes.table import KINDS_OF, mode_of, networks_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, Mode, Service

NO_NETWORK = "Through the air"
NO_SERVICE = "None of your services carries it yet: add an access point on it (Ctrl Shift A)."
NOBODY = "Add “Local” to give these a channel (Ctrl Shift D)."
CONTACTS = frozenset({"private", "station"})
FEW_CONTACTS = 3


class Column(NamedTuple):
    """One service: its key, the lines of its head, its slots, its access point, its mode."""

    service: str
    site: str
    call: str
    head: str
    slots: tuple[int, ...]
    access: str
    mode: Mode


RowKind = Literal["row", "group", "fold", "note"]


class SheetRow(NamedTuple):
    """A destination, or (with an empty key) the name of a band, contacts that are folded away, a remark.

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


class Grid(NamedTuple):
    """The services across and the rows down."""

    columns: tuple[Column, ...] = ()
    rows: tuple[SheetRow, ...] = ()


def column_of(access: AccessPoint, service: Service) -> Column:
    """The head of a service's column."""
    call, air = access.call or format_mhz(service.rx_hz), service.air
    mode = mode_of(service)
    return Column(service.key, access.site, call, mode.head(air), mode.slots(air), access.key, service.mode)


def grid_of(index: PlanIndex, shown: Shown = Shown()) -> Grid:  # noqa: B008  (frozen)
    """The sheet of a plan, as far as it is shown."""
    bands = _rows_by_network(index, shown)
    held = {"": bands.pop("", [])} | bands
    columns = tuple(
        column_of(access, service)
        for access, service in index.all_services()
        if not shown.mode or service.mode == shown.mode
    )
    carried = {network for _access, service in index.all_services() for network in networks_of(service)}
    rows: list[SheetRow] = []
    for network, members in held.items():
        if members:
            rows += [SheetRow("", _called(index, network), kind="group"), *_remark(network, columns, carried), *members]
    if not rows and columns and not shown.words:
        rows = [SheetRow("", NO_NETWORK, kind="group"), SheetRow("", NOBODY, kind="note")]
    return Grid(columns, tuple(rows))


def _remark(network: str, columns: Collection[Column], carried: Collection[str]) -> tuple[SheetRow, ...]:
    """What is said of a band that nothing stands over."""
    if columns and (not network or network in carried):
        return ()
    return (SheetRow("", NO_SERVICE, kind="note"),)


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
