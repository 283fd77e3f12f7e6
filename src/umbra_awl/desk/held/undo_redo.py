"""Undo and redo of everything the operator did: edits of the plan and what was done beside it, one order for both."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from umbra_awl.core.plan.errors import StoreError
from umbra_awl.desk.held.one_history import BesideStep, OneHistory

if TYPE_CHECKING:
    from umbra_awl.desk.held.workbench import Workbench


class UndoRedo:
    """Walks back and forth for a workbench, and says what was done."""

    def __init__(self, bench: "Workbench") -> None:
        self._bench = bench
        self.order = OneHistory()

    def back(self) -> None:
        """Go one step back."""
        self._walk("Undone", back=True)

    def again(self) -> None:
        """Do an undone step again."""
        self._walk("Done again", back=False)

    def did_beside(
        self, sentence: str, back: Callable[[], bool], again: Callable[[], bool], *, along: bool = False
    ) -> None:
        """Take note of something done beside the plan, so that undo takes it back in its turn; `along` with the last edit."""
        self.order.did(BesideStep(sentence, back, again, self._bench.plan, along))
        self._bench.saved_changed.emit()

    def names(self) -> tuple[str, str]:
        """The sentences of what undo would take back and redo would do again; empty where there is nothing."""
        document = self._bench.document
        return (self.order.next_back(document), self.order.next_again(document)) if document is not None else ("", "")

    def _walk(self, word: str, *, back: bool) -> None:
        document = self._bench.document
        if document is None:
            return
        before, sentence = document.plan, self.names()[0 if back else 1]
        try:
            moved = self.order.back(document) if back else self.order.again(document)
        except StoreError as error:
            self._bench.say(str(error), "stop")
            return
        if document.plan is not before:
            self._bench.plan_moved()
        self._bench.saved_changed.emit()
        if moved:
            self._bench.say(f"{word}: {sentence}.")
        elif not sentence:
            self._bench.say("There is nothing to undo." if back else "There is nothing to do again.")
