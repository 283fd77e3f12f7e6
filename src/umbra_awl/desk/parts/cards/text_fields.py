"""Fields of plain text, and numbers typed into fields."""

from collections.abc import Callable
from typing import Any

from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.parts import Part
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Field


def whole_number(text: str, allowed: range, what: str) -> int | str:
    """The number in a text, or the reason why it is none."""
    if not text.isascii() or not text.isdigit() or int(text) not in allowed:
        return f"“{text}” is not {what}: {allowed.start} to {allowed.stop - 1} exist."
    return int(text)


def text_commit(bench: Workbench, part: Part[Any], key: str, field: str) -> Callable[[str], str]:
    """A commit that sets a text of one keyed item."""

    def commit(text: str) -> str:
        bench.do(set_fields(part, key, f"Set {field} to {text or 'nothing'}", **{field: text}))
        return ""

    return commit


def text_field(
    bench: Workbench, part: Part[Any], key: str, label: str, field: str, value: str, *, mono: bool = False
) -> Field:
    """A field that sets a text of one keyed item."""
    return Field(label, value, mono, commit=text_commit(bench, part, key, field), text=value)
