"""What two plans come from: a save that both have, or else what my dated saves tell of what I changed.

Without a save in common nobody knows where the other plan began. But my saves tell, thing by thing, what I ever had there: what
they have and I had once, they did not change; what I always had alike, I did not change. Only the rest is doubtful, and asked.
"""

from collections.abc import Sequence
from pathlib import Path
from typing import Any, NamedTuple

from msgspec.structs import replace

from umbra_awl.core.plan.disk.saves import list_saves
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.parts import PARTS, WHOLE

MOST_LOOKED_AT = 60
_GONE = object()


class Ancestor(NamedTuple):
    """What both plans come from, in words; certain where both have that very save."""

    plan: Plan
    words: str
    certain: bool


def ancestor_of(mine_file: Path, mine: Plan, theirs_file: Path, theirs: Plan) -> Ancestor | None:
    """The common ancestor by the dated saves of my plan file, and of theirs; None where none tells."""
    saves = list_saves(mine_file)
    saves = saves[:MOST_LOOKED_AT] + saves[MOST_LOOKED_AT:][-1:]
    known = {_bytes(item.path) for item in list_saves(theirs_file)[:MOST_LOOKED_AT]} | {_bytes(theirs_file)}
    for save in saves:
        if (data := _bytes(save.path)) and data in known and (plan := _read(save.path)) is not None:
            return Ancestor(plan, f"the save of {save.when}, which both have", certain=True)
    held = [plan for save in reversed(saves) if (plan := _read(save.path)) is not None]
    if not held or not _of_mine([*held, mine], theirs):
        return None
    count = "the save" if len(held) == 1 else f"{len(held)} saves"
    return Ancestor(told_by_saves(held, mine, theirs), f"what {count} of yours tell", certain=False)


_KIN = 0.6
_KEYED = ("networks", "access", "destinations", "routes")


def _of_mine(past: Sequence[Plan], theirs: Plan) -> bool:
    """Whether the other plan is known to come from mine: most of its keys I had once, and most of mine are in it.

    Keys made of common names are alike in any two plans of one country; an unrelated plan lacks most of mine.
    """
    one = {(row, item.key) for plan in past for row in _KEYED for item in getattr(plan, row)}
    first = {(row, item.key) for row in _KEYED for item in getattr(past[0], row)}
    two = {(row, item.key) for row in _KEYED for item in getattr(theirs, row)}
    return bool(two) and len(two & one) >= _KIN * len(two) and len(two & first) >= _KIN * len(first)


def _bytes(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except OSError:
        return b""


def _read(path: Path) -> Plan | None:
    try:
        return read_plan(path)
    except StoreError:
        return None


def told_by_saves(saves: Sequence[Plan], mine: Plan, theirs: Plan) -> Plan:
    """A plan to merge against, thing by thing as my saves (the oldest first) tell what I changed and what they did."""
    past = [*saves, mine]
    fields: dict[str, Any] = {
        name: _value([getattr(plan, name) for plan in past], getattr(theirs, name)) for name in WHOLE
    }
    for name in PARTS:
        fields[name] = _row([getattr(plan, name) for plan in past], getattr(theirs, name))
    return replace(mine, **fields)


def _value(past: list[Any], theirs: Any) -> Any:
    """What the other side began from, of one thing: theirs, if I had it once; mine, if I never had another; else my oldest."""
    if theirs in past:
        return theirs
    return past[0]  # where I never had another it is mine too


def _row(past: list[tuple[Any, ...]], theirs: tuple[Any, ...]) -> tuple[Any, ...]:
    if theirs in past:
        return theirs
    held = [{item.key: item for item in row} for row in past]
    other = {item.key: item for item in theirs}
    keys = dict.fromkeys(key for row in (theirs, *past) for key in (item.key for item in row))
    made = {key: _value([row.get(key, _GONE) for row in held], other.get(key, _GONE)) for key in keys}
    there = [key for key in _order(past, theirs) if made.get(key, _GONE) is not _GONE]
    rest = [key for key, item in made.items() if item is not _GONE and key not in set(there)]
    return tuple(made[key] for key in (*there, *rest))


def _order(past: list[tuple[Any, ...]], theirs: tuple[Any, ...]) -> list[Any]:
    """The order the other side began from: theirs, if I had what we share so once; else my oldest."""
    keys = [[item.key for item in row] for row in past]
    other = [item.key for item in theirs]
    for row in keys:
        shared = set(row) & set(other)
        if [key for key in row if key in shared] == [key for key in other if key in shared]:
            return other
    return keys[0]
