"""Three values of a plan made one, thing by thing: what `merge.py` rests on, which alone may call it.

What only one side changed is taken by itself. What both changed is asked, field by field, and stays mine until it is answered.
Nothing is refused or dropped in silence: every step is in `taken`, every doubt in `questions`.
"""

from collections.abc import Mapping
from typing import Any, Literal, NamedTuple

import msgspec

from umbra_awl.core.hands.refer import put_back
from umbra_awl.core.hands.rows import in_order, merged_row
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.parts import PARTS, WHOLE

Side = Literal["mine", "theirs"]
Path = tuple[str, ...]
"""Where in a plan: the part's field, the key of the thing, then fields and keys further in."""
GONE = msgspec.UNSET
"""What a side has where it has nothing."""
_SAME = object()
DOUBT: Any = object()
"""In place of an ancestor's value: whatever the sides have there is asked."""
ORDER = "(order)"
"""The last part of a path that is about the order of things."""


class MergeTaken(NamedTuple):
    """What came by itself: where, from which side, and what became of it there."""

    path: Path
    side: Side
    what: Literal["added", "changed", "removed", "put back", "order"]


class Question(NamedTuple):
    """What both sides changed, each in another way.

    A side that has nothing there has GONE; so has `base` where there is no ancestor.
    """

    path: Path
    mine: Any
    theirs: Any
    base: Any


class KeptSide(NamedTuple):
    """A value in which the other side differs and which is changed by my own hand alone."""

    path: Path


class Merged(NamedTuple):
    """The plan, what came by itself, what is asked (answered or not), and why the plan could not be opened, if so.

    `kept` is what the other side has otherwise, and no file may change.
    """

    plan: Plan
    taken: tuple[MergeTaken, ...]
    questions: tuple[Question, ...]
    open_questions: tuple[Question, ...]
    faults: tuple[str, ...] = ()
    kept: tuple[KeptSide, ...] = ()


Answers = Mapping[Path, Side]


def joined(
    base: Plan | None, mine: Plan, theirs: Plan, answers: Answers | None = None, asked: frozenset[str] = frozenset()
) -> Merged:
    """The plan that both sides make. `base` is their common ancestor, None for none; `answers` settle questions by their path.

    Into the collections of `asked` nothing comes, and nothing goes out of them, without an answer.
    """
    work = _Work(answers or {}, asked)
    fields: dict[str, Any] = {}
    for name in WHOLE:
        parts = (getattr(base, name) if base is not None else GONE, getattr(mine, name), getattr(theirs, name))
        fields[name] = work.value((name,), *parts)
    for name in PARTS:
        rows = tuple(getattr(plan, name) if plan is not None else () for plan in (base, mine, theirs))
        fields[name] = work.row((name,), *rows, known=base is not None)
    plan = msgspec.structs.replace(mine, **fields)
    lost = any(item.what == "removed" for item in work.taken) or any(GONE in item[1:3] for item in work.questions)
    plan, back = put_back(plan, mine, theirs) if lost else (plan, [])
    work.taken += [MergeTaken(path, side, "put back") for path, side in back]
    faults = structure_faults(plan)
    questions = tuple(work.questions)
    left = tuple(item for item in questions if item.path not in work.answers)
    return Merged(plan, tuple(work.taken), questions, left, tuple(faults))


class _Work:
    """One merge under way."""

    def __init__(self, answers: Answers, asked: frozenset[str]) -> None:
        self.answers, self._asked = answers, asked
        self.taken: list[MergeTaken] = []
        self.questions: list[Question] = []

    def value(self, path: Path, base: Any, mine: Any, theirs: Any) -> Any:
        """One value of three: that of the side that changed it, or what is answered; where both may be joined, joined."""
        if mine is theirs or mine == theirs:
            return mine
        if base is mine or (base is not GONE and base == mine):
            return self._take(path, base, theirs, "theirs")
        if base is theirs or (base is not GONE and base == theirs):
            return self._take(path, base, mine, "mine")
        if GONE not in (mine, theirs):
            joined = self._joined(path, base, mine, theirs)
            if joined is not _SAME:
                return joined
        return self._ask(path, base, mine, theirs)

    def _take(self, path: Path, base: Any, new: Any, side: Side) -> Any:
        what = "removed" if new is GONE else "added" if base is GONE else "changed"
        self.taken.append(MergeTaken(path, side, what))  # type: ignore[arg-type]
        return new

    def _ask(self, path: Path, base: Any, mine: Any, theirs: Any) -> Any:
        self.questions.append(Question(path, mine, theirs, GONE if base is DOUBT else base))
        return theirs if self.answers.get(path) == "theirs" else mine

    def _joined(self, path: Path, base: Any, mine: Any, theirs: Any) -> Any:
        """What both sides make where a thing has fields, or rows; _SAME where it is one value that cannot be joined."""
        if isinstance(mine, msgspec.Struct) and type(mine) is type(theirs):
            same = type(base) is type(mine)
            return self._struct(path, base if same else None, mine, theirs)
        if isinstance(mine, tuple) and isinstance(theirs, tuple):
            return self._rows(path, base, mine, theirs)
        return _SAME

    def _struct(self, path: Path, base: Any, mine: Any, theirs: Any) -> Any:
        changed = {}
        for name in mine.__struct_fields__:
            own, other = getattr(mine, name), getattr(theirs, name)
            if own is other or own == other:
                continue
            before = getattr(base, name) if base is not None else GONE
            made = self.value((*path, name), before, own, other)
            if made is not own:
                changed[name] = made
        return msgspec.structs.replace(mine, **changed) if changed else mine

    def _rows(self, path: Path, base: Any, mine: tuple[Any, ...], theirs: tuple[Any, ...]) -> Any:
        """Rows of things with keys thing by thing, rows of plain texts and numbers one by one, others as a whole."""
        before = base if isinstance(base, tuple) else ()
        items = (*before, *mine, *theirs)
        if items and all(isinstance(item, msgspec.Struct) and hasattr(item, "key") for item in items):
            return self.row(path, before, mine, theirs, known=isinstance(base, tuple))
        plain = all(isinstance(item, str | int) for item in items)
        unique = all(len(set(row)) == len(row) for row in (before, mine, theirs))
        if not (plain and unique and isinstance(base, tuple)):
            return _SAME
        made = merged_row(before, mine, theirs)
        return made if made is not None else _SAME

    def row(
        self, path: Path, base: tuple[Any, ...], mine: tuple[Any, ...], theirs: tuple[Any, ...], *, known: bool
    ) -> tuple[Any, ...]:
        """Things with keys, each by itself, in an order that both sides have or one has changed."""
        if mine is theirs or mine == theirs:
            return mine
        ask = path[-1] in self._asked
        if known and not ask and (base is mine or base is theirs):
            self._tell_all(path, base, theirs if base is mine else mine, "theirs" if base is mine else "mine")
            return theirs if base is mine else mine
        was, own, other = ({item.key: item for item in items} for items in (base, mine, theirs))
        made: dict[Any, Any] = {}
        for key in dict.fromkeys((*own, *other)):
            before = was.get(key, GONE)
            one, two = own.get(key, GONE), other.get(key, GONE)
            if not known and two is GONE:  # without an ancestor nobody can tell what was removed: it stays
                made[key] = one
                continue
            if ask and before != two and (one is GONE or (two is GONE and before == one)):
                found = self._ask((*path, str(key)), before, one, two)
            elif not known and one is GONE:
                found = self._take((*path, str(key)), GONE, two, "theirs")
            else:
                found = self.value((*path, str(key)), before, one, two)
            if found is not GONE:
                made[key] = found
        order, both = in_order(tuple(was), tuple(own), tuple(other))
        if both:
            order = self._asked_order(path, tuple(was), tuple(own), tuple(other))
        return tuple(made[key] for key in order if key in made)

    def _asked_order(self, path: Path, *orders: tuple[Any, ...]) -> tuple[Any, ...]:
        """Both sides put the same things in another order: one of the two is asked for."""
        base, mine, theirs = orders
        chosen = self._ask((*path, ORDER), base, mine, theirs)
        first, second = (mine, theirs) if chosen is mine else (theirs, mine)
        order, _both = in_order(first, first, (*first, *(key for key in second if key not in first)))
        return order

    def _tell_all(self, path: Path, base: tuple[Any, ...], new: tuple[Any, ...], side: Side) -> None:
        """Take note of everything in which a whole row that one side changed differs."""
        was, now = ({item.key: item for item in items} for items in (base, new))
        for key in dict.fromkeys((*was, *now)):
            one, two = was.get(key, GONE), now.get(key, GONE)
            if one is not two and one != two:
                self._take((*path, str(key)), one, two, side)
        if list(was) != list(now) and set(was) == set(now):
            self.taken.append(MergeTaken((*path, ORDER), side, "order"))
