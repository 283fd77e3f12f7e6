"""Undo and redo as values: the present plan, what was before, and what was undone."""

from typing import NamedTuple

from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.plan.model import Plan

MOST_STEPS = 400


class Edited(NamedTuple):
    """A plan to go back (or forward) to, and the sentence of the edit between; whether that went with the one before it."""

    sentence: str
    plan: Plan
    follows: bool = False


class History(NamedTuple):
    """The present with its past and undone future."""

    plan: Plan
    past: tuple[Edited, ...] = ()
    future: tuple[Edited, ...] = ()

    def after(self, edit: Edit) -> "History":
        """The history after an edit; the same one when the edit changes nothing. Raises EditRefused."""
        plan = edit.apply(self.plan)
        if plan is self.plan or plan == self.plan:
            return self
        past = (*self.past, Edited(edit.sentence, self.plan, edit.follows))[-MOST_STEPS:]
        return History(plan, past, ())

    def undone(self) -> "History":
        """One step back, with what only followed it; itself when there is none."""
        if not self.past:
            return self
        step = self.past[-1]
        future = (Edited(step.sentence, self.plan, step.follows), *self.future)
        earlier = History(step.plan, self.past[:-1], future)
        return earlier.undone() if step.follows else earlier

    def redone(self) -> "History":
        """One step forward, with what only followed it; itself when there is none."""
        if not self.future:
            return self
        step = self.future[0]
        past = (*self.past, Edited(step.sentence, self.plan, step.follows))
        later = History(step.plan, past, self.future[1:])
        return later.redone() if later.future and later.future[0].follows else later

    @property
    def next_back(self) -> str:
        """The sentence of the edit that undo takes back; empty when there is none."""
        return next((step.sentence for step in reversed(self.past) if not step.follows), "")
