"""A row of words of which one is chosen: the pages of a stage, or what stands beside it."""

from collections.abc import Callable, Collection, Mapping, Sequence
from functools import partial
from typing import TypeVar

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QButtonGroup, QMenu, QPushButton, QWidget

from umbra_awl.desk.parts.widgets import act, button, row

Key = TypeVar("Key")


def one_of(buttons: Sequence[QPushButton], at: int) -> None:
    """Show one of a row of buttons as the chosen one: Tab stops there only, the arrows go from one to the next and choose it.

    Every row of words of which one is chosen is made one by this. None is chosen with -1; Tab stops at the first then.
    """
    group = buttons[0].group() if buttons else None
    if buttons and group is None:
        group = QButtonGroup(buttons[0])  # goes with its row
        for made in buttons:
            made.setCheckable(True)
            made.setAutoExclusive(True)  # a screen reader says “radio button”: one of several
            group.addButton(made)
    if group is not None:
        group.setExclusive(at >= 0)
    for number, made in enumerate(buttons):
        made.setChecked(number == at)
        stops = number == max(at, 0)
        made.setFocusPolicy(Qt.FocusPolicy.StrongFocus if stops else Qt.FocusPolicy.ClickFocus)
        made.setAccessibleDescription(f"{number + 1} of {len(buttons)}")


def chosen_of(made: Mapping[Key, QPushButton], key: object) -> None:
    """The same for buttons by what they stand for."""
    one_of(list(made.values()), next((at for at, item in enumerate(made) if item == key), -1))


class Tabs(QWidget):
    """Asks for a page when a word is pressed; `mark` says which is shown. More can be added to `line` behind the words.

    Where there is no room for all words, the last ones go into a menu; the chosen one stays in sight.
    """

    def __init__(self, words: Sequence[str], ask: Callable[[int], object], gap: int = 2) -> None:
        super().__init__()
        self._ask = ask
        self._gap = gap
        self.line = row(self, gap)
        self.buttons: list[QPushButton] = []
        for at, text in enumerate(words):
            made = button(text, partial(ask, at), "segment")
            self.buttons.append(made)
            self.line.addWidget(made)
        one_of(self.buttons, 0)
        self._off: frozenset[int] = frozenset()
        self._more = button("", self._open, "segment", "The other pages")
        self._more.hide()
        self.line.addWidget(self._more)

    def offer(self, there: Collection[int]) -> None:
        """Leave out the words that lead nowhere just now; the chosen one stays."""
        self._off = frozenset(range(len(self.buttons))) - frozenset(there)
        self._fit()

    def mark(self, at: int) -> None:
        """Show a word as the chosen one."""
        one_of(self.buttons, at)
        self._fit()

    @property
    def marked(self) -> int:
        """Which word is chosen."""
        return next((at for at, made in enumerate(self.buttons) if made.isChecked()), 0)

    def sizeHint(self) -> QSize:
        """Room for every word, also for those that are in the menu just now: where there is room they come back."""
        words = sum(made.sizeHint().width() + self._gap for made in self.buttons)
        return QSize(words + self._beside(), super().sizeHint().height())

    def minimumSizeHint(self) -> QSize:
        widest = max((made.sizeHint().width() for made in self.buttons), default=0)
        more = self._more_width("8 more ▾") if len(self.buttons) > 1 else 0
        return QSize(widest + more + self._beside(), super().minimumSizeHint().height())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _beside(self) -> int:
        """The width that what stands behind the words cannot do without."""
        own = {*self.buttons, self._more}
        items = (self.line.itemAt(at) for at in range(self.line.count()))
        others = [item.widget() for item in items if item is not None and item.widget() is not None]
        shown = [other for other in others if other is not None and other not in own and not other.isHidden()]
        return sum(max(other.minimumSizeHint().width(), other.minimumWidth()) + self._gap for other in shown)

    def _fit(self) -> None:
        """Hide words from the end until the rest fits, with the word that stands for the hidden ones."""
        room = self.width() - self._beside()
        widths = [made.sizeHint().width() + self._gap for made in self.buttons]
        off = [at for at in sorted(self._off) if at != self.marked]
        for at in off:
            widths[at] = 0
        hidden: list[int] = []
        text = ""
        for at in reversed(range(len(widths))):
            left = room - sum(wide for one, wide in enumerate(widths) if one not in hidden)
            text = self._named(sorted(hidden), left)
            if left >= 0 and (text or not hidden):
                break
            if at != self.marked and at not in off:
                hidden.append(at)
        else:
            text = self._named(sorted(hidden), room - widths[self.marked] if widths else room) or "▾"
        for at, made in enumerate(self.buttons):
            made.setHidden(at in hidden or at in off)
        self._more.setVisible(bool(hidden))
        self._more.setText(text)
        self._more.setAccessibleName(f"The other pages: {', '.join(self.buttons[at].text() for at in sorted(hidden))}")

    def _named(self, hidden: list[int], room: int) -> str:
        """The words of pages that are not in the row, as far as there is room for them; empty where there is none."""
        names = [self.buttons[at].text() for at in hidden]
        if not names:
            return ""
        more = f", {len(names) - 1} more" if len(names) > 2 else f", {names[1]}" if len(names) == 2 else ""
        wanted = (f"{names[0]}{more} ▾", f"{len(names)} more ▾")
        return next((text for text in wanted if self._more_width(text) <= room), "")

    def _more_width(self, text: str) -> int:
        return self._more.fontMetrics().horizontalAdvance(text) + 34 + self._gap

    def _open(self) -> None:
        menu = QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        for at, made in enumerate(self.buttons):
            if made.isHidden() and at not in self._off:
                act(menu, made.text(), partial(self._ask, at))
        menu.popup(self._more.mapToGlobal(self._more.rect().bottomLeft()))
