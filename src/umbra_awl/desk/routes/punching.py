"""What the hands do on the punch sheet: punch, fill, choose a slot, paint a run. Refusals are said, never raised."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt

from umbra_awl.core.plan.edit.edits import Edit, EditRefused
from umbra_awl.core.plan.places import is_pair
from umbra_awl.core.routes.bulk import Bulk, set_many
from umbra_awl.core.routes.punch import fill, paint, punch, set_route
from umbra_awl.core.routes.punch import toggle as toggled
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench


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
    service, destination = bench.selection.service, bench.selection.destination
    pair = is_pair(bench.index.services[service][1], bench.index.destinations[destination])
    if pair and (service, destination) not in bench.index.by_crossing:
        slot = None  # link and talk are made together
    attempt(bench, lambda: toggled(bench.index, service, destination, slot))


def set_slot(bench: Workbench, slot: int) -> None:
    """Move the crossing's only hole to a slot; punch there when it has none."""
    service, destination = bench.selection.service, bench.selection.destination
    here = bench.index.by_crossing.get((service, destination), ())
    if not any(route.slot == slot for route in here):
        pair = is_pair(bench.index.services[service][1], bench.index.destinations[destination])
        if len(here) == 1 and here[0].slot and not pair:
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
    """Punch a run of crossings in one step; those whose service or destination is gone are passed over."""
    index = bench.index
    there = [at for at in crossings if at[0] in index.services and at[1] in index.destinations]
    attempt(bench, lambda: paint(index, there, holes=True))


def bulk(bench: Workbench, make: Callable[[], Bulk]) -> bool:
    """Make an edit of many holes and apply it; what is left out is told with its reason. True when the plan changed."""
    try:
        made = make()
    except EditRefused as error:
        bench.say(str(error), "stop")
        return False
    done = bench.do(made.edit)
    if done:
        bench.say(made.summary + ("" if made.left else ". Ctrl Z takes it back."))
    return done


def fill_many(bench: Workbench) -> bool:
    """Fill every hole of the many selected crossings."""
    routes = [bench.index.routes[key] for key in bench.routes_of_many]
    if not routes:
        bench.say("None of the selected crossings is punched.")
        return False
    return attempt(bench, lambda: fill(bench.index, routes))


def key_on_many(bench: Workbench, key: Qt.Key) -> bool:
    """What a key does to the many selected crossings. True when it does something."""
    if key == Qt.Key.Key_Space:
        paint_run(bench, bench.selection.many)
    elif key in {Qt.Key.Key_1, Qt.Key.Key_2}:
        slot = 1 if key == Qt.Key.Key_1 else 2
        bulk(bench, lambda: set_many(bench.index, bench.routes_of_many, f"Move to slot {slot}", slot=slot))
    elif key in {Qt.Key.Key_Delete, Qt.Key.Key_Backspace}:
        fill_many(bench)
    else:
        return False
    return True


def key_on_one(bench: Workbench, key: Qt.Key, modifiers: Qt.KeyboardModifier) -> bool:
    """What a key does to the selected crossing. True when it does something."""
    if key == Qt.Key.Key_Space:
        toggle(bench, None)
    elif key in {Qt.Key.Key_1, Qt.Key.Key_2}:
        slot = 1 if key == Qt.Key.Key_1 else 2
        if modifiers & Qt.KeyboardModifier.AltModifier:
            toggle(bench, slot)
        else:
            set_slot(bench, slot)
    elif key in {Qt.Key.Key_Delete, Qt.Key.Key_Backspace}:
        clear(bench)
    else:
        return False
    return True
