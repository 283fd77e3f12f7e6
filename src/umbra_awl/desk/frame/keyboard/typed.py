"""What is being typed when something else begins: it is taken, and where it is refused the operator is led there and told."""

from collections.abc import Callable

from PyQt6.QtWidgets import QWidget

from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.typing import Typing, commit_typing

_NOT_TAKEN = "“{value}” at {field} was not taken; the reason stands under it. Correct it, or drop it with Esc."
_NOT_SAVED = "Saved, but without “{value}” at {field}: it was refused, and the reason stands under it."


class Typed:
    """The values being typed anywhere in a window. `lead` opens the page on which a widget is."""

    def __init__(self, window: QWidget, bench: Workbench, lead: Callable[[QWidget], object]) -> None:
        self._window, self._bench, self._lead = window, bench, lead
        self._told: tuple[Typing, str] | None = None

    def take(self) -> bool:
        """Take them; False where one was refused, which is then shown and said."""
        return self._say_refused(_NOT_TAKEN)

    def take_to_save(self) -> bool:
        """The same once everything else has been saved."""
        return self._say_refused(_NOT_SAVED)

    def may_close(self) -> bool:
        """Take them; False where one was refused. Asked once more for the same text, it is let go."""
        refused = commit_typing(self._window)
        if refused is None or self._told == (refused, refused.text()):
            return True
        self.take()
        self._bench.say(f"{_said(_NOT_TAKEN, refused)} Closing once more leaves without it.", "stop")
        self._told = refused, refused.text()
        return False

    def _say_refused(self, sentence: str) -> bool:
        refused = commit_typing(self._window)
        if refused is None:
            return True
        self._lead(refused)
        refused.setFocus()
        self._bench.say(_said(sentence, refused), "stop")
        return False


def _said(sentence: str, refused: Typing) -> str:
    return sentence.format(value=refused.text(), field=refused.accessibleName())
