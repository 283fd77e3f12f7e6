"""The file form of a plan: UTF-8 JSON in a stable order, one thing a line, with its version and schema."""

import gc
from collections.abc import Iterator
from typing import Any

import msgspec

from umbra_awl.core.keep.versions import form_fault
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.model import FORMAT, VERSION, Plan
from umbra_awl.core.plan.parts import PARTS, WHOLE

_encode = msgspec.json.Encoder().encode
_encode_lines = msgspec.json.Encoder().encode_lines
_decoder = msgspec.json.Decoder(Plan)
_EMPTY = Plan()
_ALWAYS = frozenset({"format", "version", "name", "station"})
"""What is written even where it is as at the beginning, so that whoever opens the file sees what it is."""


class PlanFormError(ValueError):
    """Bytes that are not a plan this version can work on; the message says why."""


class _Head(msgspec.Struct):
    format: str = ""
    version: int = 0


class PlanWriter:
    """Writes plans as bytes; collections that are the very same as last time are not encoded again."""

    def __init__(self) -> None:
        self._done: dict[str, tuple[object, bytes]] = {}

    def bytes_of(self, plan: Plan) -> bytes:
        """The plan as UTF-8 JSON; equal plans give equal bytes."""
        return b"{\n" + b",\n".join(self._lines(plan)) + b"\n}\n"

    def _lines(self, plan: Plan) -> Iterator[bytes]:
        for name in ("format", "version", *WHOLE):
            value = getattr(plan, name)
            if name in _ALWAYS or value != getattr(_EMPTY, name):
                yield b'"' + name.encode() + b'": ' + _encode(value)
        for name, part in PARTS.items():
            items = part.of(plan)
            if items:
                yield b'"' + name.encode() + b'": [\n' + self._items(name, items) + b"\n]"

    def _items(self, name: str, items: tuple[object, ...]) -> bytes:
        before = self._done.get(name)
        if before is not None and before[0] is items:
            return before[1]
        lines = _encode_lines(items)[:-1].replace(b"\n", b",\n")  # a line break inside a text is written as \\n
        self._done[name] = (items, lines)
        return lines


def plan_bytes(plan: Plan) -> bytes:
    """The plan as UTF-8 JSON; equal plans give equal bytes."""
    return PlanWriter().bytes_of(plan)


def parse_plan(data: bytes) -> Plan:
    """The plan in a file's bytes. Raises PlanFormError and changes nothing when there is none."""
    collecting = gc.isenabled()
    gc.disable()  # tens of thousands of frozen values without one cycle among them
    try:
        plan = _decoder.decode(data)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        raise PlanFormError(_why_not(data, str(error))) from None
    finally:
        if collecting:
            gc.enable()
    if plan.format != FORMAT or plan.version != VERSION:
        raise PlanFormError(_why_not(data, ""))
    faults = structure_faults(plan)
    if faults:
        more = f" ({len(faults) - 1} more like it)" if len(faults) > 1 else ""
        raise PlanFormError(f"The plan's structure is damaged. {faults[0]}{more}")
    return plan


def _why_not(data: bytes, detail: str) -> str:
    try:
        head = msgspec.json.decode(data, type=_Head)
    except RecursionError:
        return "The file is JSON nested deeper than any plan; it is not a plan of Umbra Awl."
    except (msgspec.DecodeError, UnicodeDecodeError):
        return f"The file is not readable JSON; it may be damaged or cut off ({detail or 'no content'})."
    if head.format != FORMAT:
        return "The file is JSON, but not a plan of Umbra Awl."
    if head.version > VERSION:
        return form_fault("The plan", (head.format, head.version), (FORMAT, VERSION))
    if head.version < VERSION:
        return f"The plan has the form {head.version}, which never existed."
    return f"A value in the plan does not belong there: {detail}."


def schema() -> dict[str, Any]:
    """The published JSON Schema of the file form."""
    described = msgspec.json.schema(Plan)
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Umbra Awl plan", **described}
