"""What the hands do on the punch sheet: punch, fill, choose a slot, paint a run. Refusals are said, never raised."""

from collections.abc import Callable, Sequence

from umbra_awl.core.plan.edits import Edit, EditRefused
from umbra_awl.core.routes.punch import fill, paint, punch, set_route
from umbra_awl.core.routes.punch import toggle as toggled
from umbra_awl.desk.workbench import Selection, Workbench


def attempt(bench: Workbench, make: Callable[[], Edit]) -> bool:
    """Make an edit and apply it; a refusal of either is said. True when the plan changed."""
    try:
        edit = make()
    except EditRefused as error:
        bench.say(str(error), "stop")
        return False
    return bench.do(edit)


def toggle(bench: Workbench, slot: int | None) -> None:
    """Punch the selected crossing (on a slot), or fill it."""
    selection = bench.selection
    attempt(bench, lambda: toggled(bench.index, selection.service, selection.destination, slot))


def set_slot(bench: Workbench, slot: int) -> None:
    """Move the crossing's only hole to a slot; punch there when it has none."""
    service, destination = bench.selection.service, bench.selection.destination
    here = bench.index.by_crossing.get((service, destination), ())
    if not any(route.slot == slot for route in here):
        if len(here) == 1 and here[0].slot:
            done = attempt(bench, lambda: set_route(bench.index, here[0].key, f"Move to slot {slot}", slot=slot))
        else:
            done = attempt(bench, lambda: punch(bench.index, service, destination, slot))
        if not done:
            return
    bench.select(Selection(service, destination, slot))


def clear(bench: Workbench) -> None:
    """Fill every hole of the selected crossing."""
    here = bench.index.by_crossing.get((bench.selection.service, bench.selection.destination), ())
    if here:
        bench.do(fill(bench.index, here))


def paint_run(bench: Workbench, crossings: Sequence[tuple[str, str]]) -> None:
    """Punch a run of crossings in one step."""
    attempt(bench, lambda: paint(bench.index, crossings, holes=True))
