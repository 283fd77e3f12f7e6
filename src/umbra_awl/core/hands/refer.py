"""What things of a plan point to, so that nothing a side removed is missed by what the other side made of it."""

from collections.abc import Iterator
from functools import cache
from typing import Any, Literal, NamedTuple, get_args

import msgspec

from umbra_awl.core.plan import model
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.parts import PARTS
from umbra_awl.core.plan.privacy import RULES

_PART_OF = {
    "network": "networks", "access": "access", "service": "access", "destination": "destinations", "route": "routes",
    "zone": "zones", "radio": "radios",
}  # fmt: skip
"""The kind of thing that is pointed to, to the part of the plan that holds it."""
_MORE: dict[type[msgspec.Struct], dict[str, str]] = {
    model.Trip: {"access": "access", "zone": "zone"}, model.Step: {"after": "step"},
}  # fmt: skip
"""What private things point to, which the table of what may be told does not say."""
_LOOSE = frozenset({model.Net})
"""Things that may point to what is gone: they say what is missing."""
_ROUNDS = 8


class _Fields(NamedTuple):
    """Of a kind of thing: the fields that point to something, with what; and the fields that hold further things."""

    pointing: tuple[tuple[str, str], ...]
    holding: tuple[str, ...]


@cache
def _fields(kind: type[msgspec.Struct]) -> _Fields:
    rules, more = RULES.get(kind, {}), _MORE.get(kind, {})
    pointing, holding = [], []
    for field in msgspec.structs.fields(kind):
        rule = rules.get(field.name)
        of = more.get(field.name) or (rule.of if rule is not None and rule.kind in {"needs", "ref"} else "")
        if of:
            pointing.append((field.name, of))
        elif _holds(field.type):
            holding.append(field.name)
    return _Fields(tuple(pointing), tuple(holding))


def _holds(kind: Any) -> bool:
    """Whether a field's type holds things of a plan, anywhere in it."""
    if isinstance(kind, type) and issubclass(kind, msgspec.Struct):
        return True
    return any(_holds(item) for item in get_args(kind) if item is not Ellipsis)


def references(value: Any) -> Iterator[tuple[str, str]]:
    """Everything that a thing and its parts point to: the kind and the key."""
    if isinstance(value, tuple):
        for item in value:
            yield from references(item)
    elif isinstance(value, msgspec.Struct) and type(value) not in _LOOSE:
        fields = _fields(type(value))
        for name, kind in fields.pointing:
            held = getattr(value, name)
            if held:
                yield from ((kind, key) for key in (held if isinstance(held, tuple) else (held,)))
        for name in fields.holding:
            if held := getattr(value, name):
                yield from references(held)


def _there(plan: Plan) -> dict[str, set[str]]:
    """The keys of everything that can be pointed to, by kind."""
    found = {kind: {item.key for item in getattr(plan, part)} for kind, part in _PART_OF.items() if kind != "service"}
    found["service"] = {service.key for access in plan.access for service in access.services}
    found["step"] = {item.key for item in plan.steps}
    return found


def put_back(
    plan: Plan, mine: Plan, theirs: Plan
) -> tuple[Plan, list[tuple[tuple[str, ...], Literal["mine", "theirs"]]]]:
    """The plan with what one side removed and the other's things need; where each was put back, and from which side."""
    plan, back = _people_back(plan, mine, theirs)
    for _round in range(_ROUNDS):
        there = _there(plan)
        missing = {
            (kind, key)
            for part in PARTS
            for kind, key in references(getattr(plan, part))
            if kind in there and key not in there[kind]
        }
        found = [item for kind, key in sorted(missing) if (item := _held_by(kind, key, mine, theirs)) is not None]
        if not found:
            return plan, back
        for part, item, side in found:
            if item.key not in {one.key for one in getattr(plan, part)}:
                plan = _with(plan, part, item, getattr(mine if side == "mine" else theirs, part))
                back.append(((part, str(item.key)), side))
    return plan, back


def _people_back(
    plan: Plan, mine: Plan, theirs: Plan
) -> tuple[Plan, list[tuple[tuple[str, ...], Literal["mine", "theirs"]]]]:
    """The plan with identities that one side removed and a radio or a step of the other's is for."""
    held = plan.station.identities
    needed = {radio.identity for radio in plan.radios} | {step.who for step in plan.steps}
    missing = needed - {item.key for item in held} - {""}
    back: list[tuple[tuple[str, ...], Literal["mine", "theirs"]]] = []
    for side, one in (("mine", mine), ("theirs", theirs)):
        for item in one.station.identities:
            if item.key in missing:
                missing.discard(item.key)
                held = (*held, item)
                back.append((("station", "identities", item.key), side))  # type: ignore[arg-type]
    if not back:
        return plan, back
    return msgspec.structs.replace(plan, station=msgspec.structs.replace(plan.station, identities=held)), back


def _held_by(kind: str, key: str, mine: Plan, theirs: Plan) -> tuple[str, Any, Literal["mine", "theirs"]] | None:
    """The thing that is missing, from the side that still has it."""
    part = "steps" if kind == "step" else _PART_OF[kind]
    for side, plan in (("mine", mine), ("theirs", theirs)):
        for item in getattr(plan, part):
            named = {service.key for service in item.services} if kind == "service" else {item.key}
            if key in named:
                return part, item, side  # type: ignore[return-value]
    return None


def _with(plan: Plan, part: str, item: Any, row: tuple[Any, ...]) -> Plan:
    """The plan with a thing behind what it stood behind."""
    held = list(getattr(plan, part))
    keys = [one.key for one in held]
    earlier = [one.key for one in row[: next(at for at, one in enumerate(row) if one.key == item.key)]]
    at = next((keys.index(key) + 1 for key in reversed(earlier) if key in keys), 0)
    held.insert(at, item)
    return msgspec.structs.replace(plan, **{part: tuple(held)})
