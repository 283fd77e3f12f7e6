"""Undo and redo as values: the present plan, what was before, and what was undone."""

from typing import NamedTuple

from umbra_awl.core.plan.edits import Edit
from umbra_awl.core.plan.model import Plan

MOST_STEPS = 400


class Edited(NamedTuple):
    """A plan to go back (or forward) to, and the sentence of the edit between."""

    sentence: str
    plan: Plan


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
        past = (*self.past, Edited(edit.sentence, self.plan))[-MOST_STEPS:]
        return History(plan, past, ())

    def undone(self) -> "History":
        """One step back; itself when there is none."""
        if not self.past:
            return self
        step = self.past[-1]
        return self._replace(
            plan=step.plan, past=self.past[:-1], future=(Edited(step.sentence, self.plan), *self.future)
        )

    def redone(self) -> "History":
        """One step forward; itself when there is none."""
        if not self.future:
            return self
        step = self.future[0]
        return self._replace(
            plan=step.plan, past=(*self.past, Edited(step.sentence, self.plan)), future=self.future[1:]
        )
