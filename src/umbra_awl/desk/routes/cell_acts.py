"""What can be done with the crossings in hand, for the menu under the pointer."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QPoint, Qt

from umbra_awl.core.agenda.next_steps import Where
from umbra_awl.desk.parts.pointed import ThingAct
from umbra_awl.desk.routes import punching

if TYPE_CHECKING:
    from umbra_awl.desk.held.workbench import Workbench
    from umbra_awl.desk.routes.sheet import PunchSheet


def cell_acts(sheet: "PunchSheet", bench: "Workbench", at: QPoint) -> list[ThingAct]:
    """Take the crossing at a place of the sheet in hand, unless it is among those that are, and tell its acts."""
    view = sheet.viewport()
    cell = sheet.hands.cell_under(view.mapFrom(sheet, at) if view is not None else at)
    if cell is not None and sheet.sheet.names([cell])[0] not in bench.selection.many:
        sheet.move_to(cell)
    selection, fields = bench.selection, ThingAct("Its fields", sheet.edit_asked.emit)
    if selection.many:
        out = lambda: punching.key_on_many(bench, Qt.Key.Key_Delete)  # noqa: E731
        punch = ThingAct(f"Punch these {len(selection.many)}", lambda: punching.fill_many(bench))
        return [punch, ThingAct("Take these out", out), fields._replace(words="Fields of these")]
    if cell is None or not bench.crossing_selected:
        return []
    here = bench.index.by_crossing.get((selection.service, selection.destination), ())
    punched = any(route.slot == selection.slot for route in here)
    punch = ThingAct("Take it out" if punched else "Punch it", lambda: punching.toggle(bench, selection.slot))
    return [punch, fields, ThingAct("Trace it", lambda: bench.where_wanted.emit(Where("routes", "trace", "")))]
