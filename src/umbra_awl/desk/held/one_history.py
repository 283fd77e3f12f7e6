"""One history that the operator sees: edits of the plan, and between them what was done beside it, in the directory.

What was done beside the plan is undone where it stands in the order: after the plan edits that came later.
"""

from collections.abc import Callable
from typing import NamedTuple

from umbra_awl.core.plan.disk.store import Document
from umbra_awl.core.plan.model import Plan


class BesideStep(NamedTuple):
    """Something done beside the plan: its sentence, how it is taken back and done again (True when it could), and when.

    `plan` is the plan as it was at that moment. `along` belongs to the edit before it: both are one step.
    """

    sentence: str
    back: Callable[[], bool]
    again: Callable[[], bool]
    plan: Plan
    along: bool = False


class OneHistory:
    """Walks through both kinds of steps in the order in which they were done."""

    def __init__(self) -> None:
        self._past: list[BesideStep] = []
        self._future: list[BesideStep] = []

    def clear(self) -> None:
        """Forget what was done beside; another plan is open."""
        self._past, self._future = [], []

    def did(self, step: BesideStep) -> None:
        """Take note of a step that was just done."""
        self._past.append(step)
        self._future.clear()

    def edited(self) -> None:
        """The plan was edited: what was undone beside it cannot be done again."""
        self._future.clear()

    def next_back(self, document: Document) -> str:
        """The sentence of what undo would take back; empty when there is nothing."""
        beside = self._beside_back(document)
        return beside.sentence if beside is not None and not beside.along else document.history.next_back

    def next_again(self, document: Document) -> str:
        """The sentence of what redo would do again; empty when there is nothing."""
        beside = self._beside_again(document)
        future = document.history.future
        return beside.sentence if beside is not None else future[0].sentence if future else ""

    def _beside_back(self, document: Document) -> BesideStep | None:
        last = self._past[-1] if self._past else None
        if last is None or (last.plan is not document.plan and document.history.past):
            return None
        return last

    def _beside_again(self, document: Document) -> BesideStep | None:
        last = self._future[-1] if self._future else None
        return last if last is not None and not last.along and last.plan is document.plan else None

    def back(self, document: Document) -> bool:
        """Take the last step back. True when something moved. Raises StoreError."""
        step = self._beside_back(document)
        if step is None:
            return document.undo()
        self._past.pop()
        if not step.back():
            return False
        self._future.append(step)
        return document.undo() if step.along else True

    def again(self, document: Document) -> bool:
        """Do the step that was taken back again. True when something moved. Raises StoreError."""
        step = self._beside_again(document)
        if step is None:
            return document.redo() and self._along(document)
        self._future.pop()
        if not step.again():
            return False
        self._past.append(step)
        return True

    def _along(self, document: Document) -> bool:
        """Do again what belongs to the edit that was just done again."""
        last = self._future[-1] if self._future else None
        if last is not None and last.along and last.plan is document.plan:
            self._future.pop()
            if last.again():
                self._past.append(last)
        return True
