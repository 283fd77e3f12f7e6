"""What can be done with many selected crossings at once."""

from functools import partial
from typing import Any

from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.model import Zone
from umbra_awl.core.routes.bulk import put_into, set_many
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Act, Choice, Field
from umbra_awl.desk.routes import punching
from umbra_awl.desk.routes.route_fields import ADMIT_WORDS, POWER_WORDS

NOTE = "Space punches what is open, 1 and 2 set the slot, Delete fills, Esc lets go. Each is one step to undo."


def many_title(bench: Workbench) -> str:
    """The words over the card."""
    crossings, routes = len(bench.selection.many), len(bench.routes_of_many)
    return f"{crossings} crossings, {routes} punched"


def many_fields(bench: Workbench) -> list[Field]:
    """The fields that can be set for all of them."""
    if not bench.routes_of_many:
        return []

    def one(label: str, options: list[tuple[str, dict[str, Any]]]) -> Field:
        choices = [Choice(words, partial(_set, bench, f"{label}: {words}", fields)) for words, fields in options]
        return Field(label, _now(bench, options), choices=choices)

    zones = [Choice(zone.name, partial(_into, bench, zone)) for zone in bench.plan.zones]
    fields = [
        one("Slot", [("1", {"slot": 1}), ("2", {"slot": 2})]),
        one("Power", [(word, {"power": value}) for value, word in POWER_WORDS.items()]),
        one("Admit", [(words, {"admit": key}) for key, words in ADMIT_WORDS.items()]),
        one("Transmits", [("yes", {"receive_only": False}), ("only listens", {"receive_only": True})]),
        one("Hears", [("its contact", {"promiscuous": False}), ("anything on the slot", {"promiscuous": True})]),
    ]
    return [*fields, Field("Zone", "put all into …", choices=zones)] if zones else fields


def _now(bench: Workbench, options: list[tuple[str, dict[str, Any]]]) -> str:
    """The word that holds for all of them, or that they differ."""
    routes = [bench.index.routes[key] for key in bench.routes_of_many]
    for words, fields in options:
        if all(getattr(route, name) == value for route in routes for name, value in fields.items()):
            return words
    return "various"


def _set(bench: Workbench, words: str, fields: dict[str, Any]) -> None:
    punching.bulk(bench, lambda: set_many(bench.index, bench.routes_of_many, words, **fields))


def _into(bench: Workbench, zone: Zone) -> None:
    try:
        edit = put_into(bench.index, zone, bench.routes_of_many)
    except EditRefused as error:
        bench.say(str(error), "stop")
        return
    bench.do(edit)


def many_acts(bench: Workbench) -> list[Act]:
    """Punch what is open; fill what is punched."""
    punched = len(
        {(bench.index.routes[key].service, bench.index.routes[key].destination) for key in bench.routes_of_many}
    )
    acts = []
    if punched < len(bench.selection.many):
        acts.append(Act("Punch all", lambda: punching.paint_run(bench, bench.selection.many), True))
    if punched:
        acts.append(Act("Fill all", lambda: punching.fill_many(bench)))
    return acts
