"""A crossing of the punch sheet in words, as a screen reader says it: where, what, which slot, punched or not, what is found."""

from collections.abc import Iterator

from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.modes.table import KIND_WORDS
from umbra_awl.core.plan.model import Route
from umbra_awl.core.plan.places import LINKED
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.sheet.in_view import Cell
from umbra_awl.desk.sheet.layout import SheetLayout

_PAIR = {1: "link", 2: "talk"}


def said_cell(bench: Workbench, sheet: SheetLayout, cell: Cell | None) -> str:
    """The words of the cell that the cursor is on; with none, how to begin."""
    if cell is None:
        return "Punch sheet. Nothing chosen; an arrow key begins."
    column, row = sheet.column(cell), sheet.rows[cell.row]
    destination = bench.index.destinations[row.destination]
    mode = MODE_WORDS[column.mode]
    where = " ".join(dict.fromkeys(filter(None, (column.call, column.site, mode, column.head))))
    what = f"{destination.name}, {KIND_WORDS[destination.kind]}"
    return ". ".join((f"Punch sheet: {where}", what, *_state(bench, sheet, cell)))


def _state(bench: Workbench, sheet: SheetLayout, cell: Cell) -> Iterator[str]:
    """Whether it can be punched, in which places it is, what stands on the radio in hand, and what is found."""
    crossing = sheet.crossing(cell.row, cell.column)
    service, destination = sheet.names([cell])[0]
    here = bench.index.by_crossing.get((service, destination), ())
    paired = bench.index.destinations[destination].kind in LINKED and sheet.column(cell).mode == "dstar"
    if not crossing.possible:
        yield f"Cannot be punched: {crossing.reason}"
    elif cell.slot:
        at = _PAIR[cell.slot] if paired else f"slot {cell.slot}"
        others = [_PAIR[item.slot] if paired else f"slot {item.slot}" for item in here if item.slot != cell.slot]
        yield f"{at.capitalize()}, {'punched' if any(item.slot == cell.slot for item in here) else 'empty'}"
        if others:
            yield f"Punched also in {', '.join(others)}"
    else:
        yield "Punched" if here else "Empty"
    for route in here:
        if route.slot == cell.slot:
            yield from _carried(bench, route)


def _carried(bench: Workbench, route: Route) -> Iterator[str]:
    radio, fit = bench.radio, bench.fit
    if radio is not None and fit is not None and bench.worked.fresh:
        channel = fit.channel_of(route.key)
        yield f"Memory {channel.number}, {channel.name}, on {radio.name}" if channel else f"Not on {radio.name}"
    targets = {("route", route.key), ("service", route.service)}
    for finding in bench.worked.results.findings:
        if (finding.target.kind, finding.target.key) in targets:
            yield f"{finding.severity.capitalize()}: {finding.rule.title}"
