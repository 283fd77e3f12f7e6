"""Where everything on the punch sheet lies, and which crossings are in shadow: plain arithmetic without widgets."""

from bisect import bisect_right
from collections.abc import Iterable, Iterator
from typing import NamedTuple

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.modes.behaviour import Crossing
from umbra_awl.core.modes.calls import called
from umbra_awl.core.modes.table import KINDS_OF, mode_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, Mode, Service
from umbra_awl.core.plan.places import LINKED, PAIR
from umbra_awl.core.routes.crossing import crossing

THROUGH_THE_AIR = "Through the air"


class Column(NamedTuple):
    """One service: its key, the lines of its head, its slots, its access point, its mode."""

    service: str
    site: str
    call: str
    head: str
    slots: tuple[int, ...]
    access: str
    mode: Mode


class SheetRow(NamedTuple):
    """A destination, or (with an empty key) the head of a group of them."""

    destination: str
    name: str
    number: str = ""


class Sizes(NamedTuple):
    """Lengths in pixels."""

    left: int = 200
    head: int = 74
    column: int = 72
    row: int = 26
    group: int = 24


class Cell(NamedTuple):
    """A place on the sheet: row and column numbers, and the half of the cell (slot) that was meant, 0 for no half."""

    row: int
    column: int
    slot: int = 0


def column_of(access: AccessPoint, service: Service) -> Column:
    """The head of a service's column."""
    call, air = access.call or format_mhz(service.rx_hz), service.air
    mode = mode_of(service)
    return Column(service.key, access.site, call, mode.head(air), mode.slots(air), access.key, service.mode)


class SheetLayout:
    """The sheet of one plan under one filter."""

    def __init__(
        self,
        index: PlanIndex,
        filter_text: str = "",
        sizes: Sizes = Sizes(),  # noqa: B008  (frozen)
        mode: str = "",
    ) -> None:
        """`mode` leaves only the services of one mode, and the destinations that mode can reach."""
        self.index = index
        self.sizes = sizes
        self.columns = [
            column_of(access, service) for access, service in index.all_services() if mode in {"", service.mode}
        ]
        self.rows = _rows(index, filter_text.casefold().split(), mode)
        self.tops = [0]
        for row in self.rows:
            self.tops.append(self.tops[-1] + (sizes.row if row.destination else sizes.group))
        self.row_at = {row.destination: at for at, row in enumerate(self.rows) if row.destination}
        self.column_at = {column.service: at for at, column in enumerate(self.columns)}
        self._verdicts: dict[tuple[object, ...], bool] = {}

    @property
    def width(self) -> int:
        """Width of all columns, without the left heads."""
        return len(self.columns) * self.sizes.column

    @property
    def height(self) -> int:
        """Height of all rows, without the top heads."""
        return self.tops[-1]

    def possible(self, row: int, column: int) -> bool:
        """Whether a crossing can be punched; remembered by what it depends on, not for each crossing."""
        destination = self.index.destinations[self.rows[row].destination]
        key = (column, destination.kind, destination.network)
        verdict = self._verdicts.get(key)
        if verdict is None:
            verdict = self._verdicts[key] = self.crossing(row, column).possible
        return verdict

    def places(self, row: int, column: int) -> tuple[int, ...]:
        """The places of a crossing that are told apart: slots, or link and talk; none where there is one in the middle."""
        head = self.columns[column]
        if head.mode == "dstar" and self.index.destinations[self.rows[row].destination].kind in LINKED:
            return PAIR
        return head.slots

    def between(self, one: Cell, other: Cell) -> tuple[Cell, ...]:
        """The cells of a rectangle, group heads left out."""
        rows = range(min(one.row, other.row), max(one.row, other.row) + 1)
        columns = range(min(one.column, other.column), max(one.column, other.column) + 1)
        return tuple(Cell(row, column) for row in rows if self.rows[row].destination for column in columns)

    def names(self, cells: Iterable[Cell]) -> tuple[tuple[str, str], ...]:
        """Cells as (service key, destination key)."""
        return tuple((self.columns[cell.column].service, self.rows[cell.row].destination) for cell in cells)

    def cells(self, crossings: Iterable[tuple[str, str]]) -> Iterator[Cell]:
        """The cells of crossings, those that are shown."""
        for service, destination in crossings:
            row, column = self.row_at.get(destination), self.column_at.get(service)
            if row is not None and column is not None:
                yield Cell(row, column)

    def crossing(self, row: int, column: int) -> Crossing:
        """The crossing with its reason."""
        access, service = self.index.services[self.columns[column].service]
        return crossing(self.index, access, service, self.index.destinations[self.rows[row].destination])

    def visible_rows(self, top: int, bottom: int) -> range:
        """The rows that touch a span of pixels."""
        first = max(0, bisect_right(self.tops, top) - 1)
        last = min(len(self.rows), bisect_right(self.tops, bottom))
        return range(first, last)

    def visible_columns(self, left: int, right: int) -> range:
        """The columns that touch a span of pixels."""
        width = self.sizes.column
        return range(max(0, left // width), min(len(self.columns), -(-right // width)))

    def cell_at(self, x: int, y: int) -> Cell | None:
        """The cell at a place in pixels from the first cell's corner; None on a group's head or beside the sheet."""
        column = x // self.sizes.column
        row = self.row_under(y)
        if row is None or not 0 <= column < len(self.columns):
            return None
        half = 1 if x % self.sizes.column < self.sizes.column / 2 else 2
        slots = self.places(row, column)
        return Cell(row, column, half if half in slots else slots[0] if slots else 0)

    def row_under(self, y: int) -> int | None:
        """The destination row at a height in pixels, or None."""
        row = bisect_right(self.tops, y) - 1
        return row if 0 <= row < len(self.rows) and self.rows[row].destination else None

    def step(self, cell: Cell, rows: int, columns: int) -> Cell:
        """The cell so many rows and columns on, passing over group heads and stopping at the edges."""
        column = min(max(cell.column + columns, 0), len(self.columns) - 1)
        row, left = cell.row, abs(rows)
        sign = 1 if rows > 0 else -1
        probe = row + sign
        while left and 0 <= probe < len(self.rows):
            if self.rows[probe].destination:
                row, left = probe, left - 1
            probe += sign
        return Cell(row, column, cell.slot if columns == 0 else 0)

    def site_spans(self) -> list[tuple[int, int, str]]:
        """Runs of columns of one access point: first, one past the last, site name."""
        spans: list[tuple[int, int, str]] = []
        for at, column in enumerate(self.columns):
            if spans and self.columns[spans[-1][0]].access == column.access:
                spans[-1] = (spans[-1][0], at + 1, column.site)
            else:
                spans.append((at, at + 1, column.site))
        return spans


def _rows(index: PlanIndex, wanted: list[str], mode: str) -> list[SheetRow]:
    every = index.memo("rows of the sheet", lambda: _every_row(index), ("destinations", "networks"))
    groups: dict[str, list[SheetRow]] = {}
    for row, destination in zip(every, index.plan.destinations, strict=True):
        if mode and not _suits(index, destination, mode):
            continue
        if wanted:
            text = f"{row.name} {row.number}".casefold()
            if not all(part in text for part in wanted):
                continue
        groups.setdefault(destination.network, []).append(row)
    rows: list[SheetRow] = []
    for network, members in groups.items():
        known = index.networks.get(network)
        rows.append(SheetRow("", known.name if known else network or THROUGH_THE_AIR))
        rows.extend(members)
    return rows


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
