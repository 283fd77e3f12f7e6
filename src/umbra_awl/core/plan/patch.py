"""The difference between two plans as a small value, for the journal: collection by collection, one span each."""

from typing import Any

import msgspec

from umbra_awl.core.plan.form import COLLECTIONS
from umbra_awl.core.plan.model import Plan, Value

WHOLE = ("name", "station", "names")


class Span(Value, frozen=True):
    """From `at`, `gone` items are replaced by `new`."""

    at: int
    gone: int
    new: list[Any]


class Patch(Value, frozen=True):
    """What changed between two plans; only collections and values that differ are present."""

    spans: dict[str, Span] = msgspec.field(default_factory=dict)
    whole: dict[str, Any] = msgspec.field(default_factory=dict)


def difference(old: Plan, new: Plan) -> Patch:
    """The patch that leads from one plan to another."""
    spans = {
        name: _span(getattr(old, name), getattr(new, name))
        for name in COLLECTIONS
        if getattr(old, name) is not getattr(new, name)
    }
    whole = {name: getattr(new, name) for name in WHOLE if getattr(old, name) != getattr(new, name)}
    return Patch({name: span for name, span in spans.items() if span.gone or span.new}, whole)


def _span(old: tuple[Value, ...], new: tuple[Value, ...]) -> Span:
    start = 0
    shorter = min(len(old), len(new))
    while start < shorter and (old[start] is new[start] or old[start] == new[start]):
        start += 1
    end = 0
    while end < shorter - start and (old[-1 - end] is new[-1 - end] or old[-1 - end] == new[-1 - end]):
        end += 1
    return Span(start, len(old) - start - end, list(new[start : len(new) - end]))


def apply(plan: Plan, patch: Patch) -> Plan:
    """The plan after a patch. Raises msgspec.ValidationError or IndexError when the patch is not for this plan."""
    fields: dict[str, Any] = {}
    for name, span in patch.spans.items():
        items = getattr(plan, name)
        if span.at + span.gone > len(items):
            raise IndexError(f"A change of {name} at {span.at} does not fit {len(items)} items.")
        fields[name] = (*items[: span.at], *_typed(name, span.new), *items[span.at + span.gone :])
    for name, value in patch.whole.items():
        fields[name] = _typed(name, value)
    return msgspec.structs.replace(plan, **fields)


_TYPES = {field.name: field.type for field in msgspec.structs.fields(Plan)}


def _typed(name: str, value: Any) -> Any:
    return msgspec.convert(msgspec.to_builtins(value), type=_TYPES[name])
