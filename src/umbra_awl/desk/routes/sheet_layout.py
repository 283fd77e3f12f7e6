"""Where everything on the punch sheet lies, and which crossings are in shadow: plain arithmetic without widgets."""

from bisect import bisect_right
from typing import NamedTuple

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, DmrAir, FmAir, Service
from umbra_awl.core.routes.calls import called
from umbra_awl.core.routes.crossing import Crossing, crossing

THROUGH_THE_AIR = "Through the air"


class Column(NamedTuple):
    """One service: its key, the lines of its head, its slots."""

    service: str
    site: str
    call: str
    mode: str
    slots: tuple[int, ...]
    access: str


class Row(NamedTuple):
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
    call = access.call or format_mhz(service.rx_hz)
    if isinstance(service.air, DmrAir):
        return Column(service.key, access.site, call, f"DMR cc {service.air.color_code}", service.air.slots, access.key)
    if isinstance(service.air, FmAir):
        tone = service.air.tone_tx
        return Column(service.key, access.site, call, f"FM {tone}" if tone else "FM", (), access.key)
    return Column(service.key, access.site, call, MODE_WORDS[service.mode], (), access.key)


class SheetLayout:
    """The sheet of one plan under one filter."""

    def __init__(self, index: PlanIndex, filter_text: str = "", sizes: Sizes = Sizes()) -> None:  # noqa: B008  (frozen)
        self.index = index
        self.sizes = sizes
        self.columns = [column_of(access, service) for access, service in index.all_services()]
        self.rows = _rows(index, filter_text.casefold().split())
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
        slots = self.columns[column].slots
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


def _rows(index: PlanIndex, wanted: list[str]) -> list[Row]:
    groups: dict[str, list[Row]] = {}
    for destination in index.plan.destinations:
        row = Row(destination.key, destination.name, _number(index, destination))
        text = f"{row.name} {row.number}".casefold()
        if all(part in text for part in wanted):
            groups.setdefault(destination.network, []).append(row)
    rows: list[Row] = []
    for network, members in groups.items():
        known = index.networks.get(network)
        rows.append(Row("", known.name if known else network or THROUGH_THE_AIR))
        rows.extend(members)
    return rows


def _number(index: PlanIndex, destination: Destination) -> str:
    if destination.text:
        return destination.text
    call = called(destination, index.networks.get(destination.network))
    return str(call.number) if call else ""
