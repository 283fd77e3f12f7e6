"""Edits: pure functions from plan to plan, each with the sentence that names it in the history."""

from collections.abc import Callable, Iterable
from typing import Any, NamedTuple, TypeVar

from msgspec.structs import replace

from umbra_awl.core.plan.model import Plan, Route, RouteList, ScanList, Value
from umbra_awl.core.plan.parts import Part, key_of

_Item = TypeVar("_Item", bound=Value)
_List = TypeVar("_List", bound=RouteList)


class EditRefused(ValueError):
    """An edit that cannot be done on this plan; the message says what, why and what to do."""


class Edit(NamedTuple):
    """A named change. `apply` is pure; it may raise EditRefused.

    One that `follows` came by itself after another edit: undo takes it back together with that one.
    """

    sentence: str
    apply: Callable[[Plan], Plan]
    follows: bool = False


def together(sentence: str, edits: Iterable[Edit]) -> Edit:
    """Several edits as one step of the history."""
    steps = tuple(edits)

    def apply(plan: Plan) -> Plan:
        for step in steps:
            plan = step.apply(plan)
        return plan

    return Edit(sentence, apply)


def swap_item(items: tuple[_Item, ...], key: str, change: Callable[[_Item], _Item]) -> tuple[_Item, ...]:
    """The tuple with the item of that key changed. Raises EditRefused when it is not there."""
    for position, item in enumerate(items):
        if key_of(item) == key:
            return (*items[:position], change(item), *items[position + 1 :])
    raise EditRefused(f"“{key}” is no longer in the plan.")


def without(items: tuple[_Item, ...], keys: Iterable[str]) -> tuple[_Item, ...]:
    """The tuple without the items of those keys."""
    gone = frozenset(keys)
    return tuple(item for item in items if key_of(item) not in gone)


def set_fields(part: Part[_Item], key: str, sentence: str, **fields: Any) -> Edit:
    """An edit that sets fields of one keyed item. Raises TypeError at once for a field that such an item has not."""
    unknown = fields.keys() - set(part.kind.__struct_fields__)
    if unknown:
        raise TypeError(f"A {part.word} has no {', '.join(sorted(unknown))}.")

    def apply(plan: Plan) -> Plan:
        return part.put(plan, swap_item(part.of(plan), key, lambda item: replace(item, **fields)))

    return Edit(sentence, apply)


def add_item(part: Part[_Item], item: _Item, sentence: str) -> Edit:
    """An edit that appends a keyed item. Refused when the key is taken."""

    def apply(plan: Plan) -> Plan:
        if part.keyed and key_of(item) in part.keys(plan):
            raise EditRefused(f"There is already one with the key “{key_of(item)}”. Choose another name.")
        return part.put(plan, (*part.of(plan), item))

    return Edit(sentence, apply)


def drop_item(part: Part[_Item], key: str, sentence: str) -> Edit:
    """An edit that takes out a keyed item that nothing else points to."""
    return Edit(sentence, lambda plan: part.put(plan, without(part.of(plan), {key})))


def slug(name: str) -> str:
    """A name's letters and digits as a key."""
    return "".join(char if char.isalnum() else "-" for char in name.lower()).strip("-") or "item"


def fresh_key(wanted: str, taken: Iterable[str]) -> str:
    """A key made of a name's letters and digits that is not yet taken."""
    return fresh_keys((wanted,), taken)[0]


def fresh_keys(wanted: Iterable[str], taken: Iterable[str] = ()) -> list[str]:
    """A key for each of some names, none of them taken, no two the same."""
    used = set(taken)
    numbers: dict[str, int] = {}
    made: list[str] = []
    for name in wanted:
        base = key = slug(name)
        while key in used:
            numbers[base] = numbers.get(base, 1) + 1
            key = f"{base}-{numbers[base]}"
        used.add(key)
        made.append(key)
    return made


def rename_plan(name: str) -> Edit:
    """Give the plan another name."""
    return Edit(f"Call the plan “{name}”", lambda plan: replace(plan, name=name))


def lists_without(lists: tuple[_List, ...], gone: frozenset[str]) -> tuple[_List, ...]:
    """Zones or scan lists without the members that are gone; untouched ones stay the same value."""
    return tuple(_list_without(item, gone) for item in lists)


def _list_without(item: _List, gone: frozenset[str]) -> _List:
    if gone.intersection(item.members):
        item = replace(item, members=tuple(member for member in item.members if member not in gone))
    if isinstance(item, ScanList) and item.priority in gone:
        return replace(item, priority="")
    return item


def drop_routes(plan: Plan, gone: Callable[[Route], bool]) -> Plan:
    """The plan without the routes for which `gone` says so, in zones and scan lists too."""
    keys = frozenset(route.key for route in plan.routes if gone(route))
    if not keys:
        return plan
    routes = tuple(route for route in plan.routes if not gone(route))
    return replace(plan, routes=routes, zones=lists_without(plan.zones, keys), scans=lists_without(plan.scans, keys))
