"""Making a far end of what was chosen on the map or in a list, and going to the sheet where it is punched."""

from collections.abc import Callable, Iterable
from functools import partial

from umbra_awl.core.agenda.next_steps import Where
from umbra_awl.core.directory.far_ends import FarEnd, reach_edit
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench


def reach(bench: Workbench, end: FarEnd) -> None:
    """Add a far end where it is not there yet, select it, and show its column of the punch sheet."""
    if end.destination is None:
        bench.say(end.fault, "stop")
        return
    edit = reach_edit(bench.index, end)
    if edit is not None:
        bench.do_told(edit, "Punch it where you want to reach it from.")
    bench.where_wanted.emit(Where("routes", "sheet", "sheet"))
    bench.select(Selection("", end.destination.key))


def reach_choices(bench: Workbench, ends: Iterable[FarEnd]) -> list[tuple[str, Callable[[], object]]]:
    """The ways as choices of a menu; a word of why where there is none."""
    made: list[tuple[str, Callable[[], object]]] = [(end.words, partial(reach, bench, end)) for end in ends]
    why = "Only a repeater of D-STAR with a gateway is a far end by itself; talk groups, rooms and people stand in their lists."
    return made or [("None here: why?", partial(bench.say, why))]
