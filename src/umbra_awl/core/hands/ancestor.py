"""The common ancestor of two plans: the dated save of mine that theirs was made from, as far as saves tell."""

from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.hands.rows import differing
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.parts import PARTS
from umbra_awl.core.plan.saves import list_saves
from umbra_awl.core.plan.store import read_plan

MOST_LOOKED_AT = 200


class Ancestor(NamedTuple):
    """A save that both plans come from: its plan, its file, its date in words, and whether theirs holds it too, byte for byte."""

    plan: Plan
    path: Path
    when: str
    certain: bool


def ancestor_of(mine: Path, theirs_file: Path, theirs: Plan) -> Ancestor | None:
    """The common ancestor among the dated saves of my plan file; None where there is no save.

    Certain is one that lies among the saves of their file as well. Else it is the save that differs least from their plan, the
    latest of several; that can be another one than they began from, but nothing is lost by it: more is asked then.
    """
    saves = list_saves(mine)[:MOST_LOOKED_AT]
    known = {_bytes(item.path) for item in list_saves(theirs_file)[:MOST_LOOKED_AT]} - {b""}
    for save in saves:
        if (data := _bytes(save.path)) and data in known:
            return _read(save.path, save.when, certain=True)
    best: tuple[int, Ancestor] | None = None
    for save in saves:
        found = _read(save.path, save.when, certain=False)
        if found is None:
            continue
        far = sum(differing(getattr(found.plan, name), getattr(theirs, name)) for name in PARTS)
        far += sum(getattr(found.plan, name) != getattr(theirs, name) for name in ("name", "station", "names"))
        if best is None or far < best[0]:
            best = (far, found)
    return best[1] if best is not None else None


def _bytes(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except OSError:
        return b""


def _read(path: Path, when: str, *, certain: bool) -> Ancestor | None:
    try:
        return Ancestor(read_plan(path), path, when, certain)
    except StoreError:
        return None
