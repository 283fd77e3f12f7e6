"""The difference between two plans as a small value, for the journal: collection by collection, one span each.

What is new is held as JSON already, so that a patch is checked in the very form in which it will be read.
"""

from collections.abc import Iterable
from typing import Any

import msgspec

from umbra_awl.core.plan.model import Plan, Value
from umbra_awl.core.plan.parts import PARTS, TYPES, WHOLE

_encode = msgspec.json.Encoder().encode
_DECODERS = {name: msgspec.json.Decoder(kind) for name, kind in TYPES.items()}


class PatchError(ValueError):
    """A change that does not fit the plan, or that could not be written down; the message says what."""


class Span(Value, frozen=True):
    """From `at`, `gone` items are replaced by `new` (a JSON list)."""

    at: int
    gone: int
    new: msgspec.Raw


class Patch(Value, frozen=True):
    """What changed between two plans; only collections and values that differ are present."""

    spans: dict[str, Span] = msgspec.field(default_factory=dict)
    whole: dict[str, msgspec.Raw] = msgspec.field(default_factory=dict)


def difference(old: Plan, new: Plan) -> Patch:
    """The patch that leads from one plan to another. Raises PatchError for text that no file can hold."""
    try:
        spans = {
            name: span
            for name in PARTS
            if getattr(old, name) is not getattr(new, name)
            and (span := _span(getattr(old, name), getattr(new, name))) is not None
        }
        return Patch(
            spans, {name: _raw(getattr(new, name)) for name in WHOLE if getattr(old, name) != getattr(new, name)}
        )
    except UnicodeEncodeError as error:
        raise PatchError(
            f"it holds a character that no file can hold (U+{ord(error.object[error.start]):04X})"
        ) from None
    except (msgspec.MsgspecError, TypeError, OverflowError) as error:
        raise PatchError(f"it holds a value that no file can hold ({error})") from None


def _raw(value: Any) -> msgspec.Raw:
    return msgspec.Raw(_encode(value))


def changed_span(old: tuple[Any, ...], new: tuple[Any, ...]) -> tuple[int, int]:
    """How many items at the start and at the end of two tuples are the same."""
    start, shorter = 0, min(len(old), len(new))
    while start < shorter and (old[start] is new[start] or old[start] == new[start]):
        start += 1
    end = 0
    while end < shorter - start and (old[-1 - end] is new[-1 - end] or old[-1 - end] == new[-1 - end]):
        end += 1
    return start, end


def _span(old: tuple[Value, ...], new: tuple[Value, ...]) -> Span | None:
    start, end = changed_span(old, new)
    gone, come = len(old) - start - end, new[start : len(new) - end]
    return Span(start, gone, _raw(come)) if gone or come else None


def apply(plan: Plan, patch: Patch) -> Plan:
    """The plan after a patch. Raises PatchError when the patch is not for this plan."""
    fields: dict[str, Any] = {}
    for name, span in patch.spans.items():
        items = _collection(plan, name)
        if min(span.at, span.gone) < 0 or span.at + span.gone > len(items):
            raise PatchError(f"a change of {name} at {span.at} does not fit {len(items)} items")
        fields[name] = (*items[: span.at], *_typed(name, span.new), *items[span.at + span.gone :])
    for name, value in patch.whole.items():
        if name not in WHOLE:
            raise PatchError(f"it changes “{name[:40]}”, which this version does not know")
        fields[name] = _typed(name, value)
    return msgspec.structs.replace(plan, **fields)


def _collection(plan: Plan, name: str) -> tuple[Value, ...]:
    if name not in PARTS:
        raise PatchError(f"it changes “{name[:40]}”, which this version does not know")
    items: tuple[Value, ...] = getattr(plan, name)
    return items


def _typed(name: str, raw: msgspec.Raw) -> Any:
    try:
        return _DECODERS[name].decode(raw)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        raise PatchError(f"a value of {name} does not belong there ({error})") from None


def check(old: Plan, new: Plan, patch: Patch) -> None:
    """See that reading the patch back gives the new plan. Raises PatchError: then it must not be taken."""
    if apply(old, patch) != new:
        wrong = ", ".join(_differing(patch))
        raise PatchError(f"it holds a value in {wrong} that would not come back from a file (a number that is none?)")


def _differing(patch: Patch) -> Iterable[str]:
    return (*patch.spans, *patch.whole)
