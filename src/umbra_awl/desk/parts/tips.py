"""Tips as plain text: a value that an operator or a file gave is never read as markup, wherever it is shown."""

from typing import Protocol

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QToolTip, QWidget

_JOINER = "\u2060"  # takes no room, and keeps a sign from beginning a tag or an entity


class HasTip(Protocol):
    """A widget, an action or an item."""

    def setToolTip(self, tip: str | None, /) -> None:
        """Set its tip."""


def plain(text: str) -> str:
    """A text that is shown as it stands where the toolkit would take it for markup."""
    return text.replace("<", f"<{_JOINER}").replace("&", f"&{_JOINER}")


def set_tip(thing: HasTip, text: str) -> None:
    """Give something a tip."""
    thing.setToolTip(plain(text))


def show_tip(at: QPoint, text: str, of: QWidget) -> None:
    """Show a tip now, at a place on the screen."""
    QToolTip.showText(at, plain(text), of)
