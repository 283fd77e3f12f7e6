"""The find-or-do box: every command and every object by name."""

from collections.abc import Callable, Iterable
from functools import cached_property

from PyQt6.QtCore import QEvent, QObject, QPoint, QSize, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QFrame, QLineEdit, QListWidget, QListWidgetItem, QWidget

from umbra_awl.desk.frame.find.finding_words import FinderOffer, rank
from umbra_awl.desk.parts.widgets import column
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.theme.icons import Icons

_ICON = 18


class Finder(QLineEdit):
    """A line edit whose list of offers opens under it while it has the focus."""

    def __init__(
        self, offers: Callable[[], Iterable[FinderOffer]], settings: Settings, icons: Icons, parent: QWidget
    ) -> None:
        super().__init__(parent)
        self.setProperty("role", "finder")
        self.setPlaceholderText("Find or do anything   Ctrl K")
        self.setAccessibleName("Find or do anything")
        self._offers, self._settings, self._icons = offers, settings, icons
        self._host = parent
        self._shown: list[FinderOffer] = []
        self.textEdited.connect(lambda _text: self._refresh())
        self.installEventFilter(self)

    @cached_property
    def _frame(self) -> QFrame:
        """The surface under the box; made, like its list, when it is first opened."""
        frame = QFrame(self._host)
        frame.setProperty("role", "sheet")
        frame.hide()
        column(frame, 0, 2).addWidget(self._list)
        return frame

    @cached_property
    def _list(self) -> QListWidget:
        made = QListWidget()
        made.setObjectName("offers")
        made.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        made.setIconSize(QSize(_ICON, _ICON))
        made.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        made.itemClicked.connect(lambda _item: self._do())
        return made

    def _fold(self) -> None:
        if "_frame" in vars(self):
            self._frame.hide()

    def begin(self) -> None:
        """Take the focus and show what there is."""
        self.setFocus()
        self.selectAll()
        self._refresh()

    def _refresh(self) -> None:
        self._shown = rank(self._offers(), self.text(), self._settings.kept.used)
        self._list.clear()
        for offer in self._shown:
            text = f"{offer.words}   ·   {offer.hint}" if offer.hint else offer.words
            self._list.addItem(QListWidgetItem(self._icons.of(offer.icon), text))
        if not self._shown:
            self._list.addItem("Nothing of that name. Try a call sign, a talk group, or what you want to do.")
        self._list.setCurrentRow(0)
        row_height = max(26, self._list.sizeHintForRow(0))
        left = self.mapTo(self._host, QPoint(0, self.height() + 2))
        width = max(self.width(), 460)
        self._frame.setGeometry(
            min(left.x(), self._host.width() - width - 8), left.y(), width, row_height * self._list.count() + 10
        )
        self._frame.show()
        self._frame.raise_()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if watched is self and event is not None:
            if event.type() == QEvent.Type.FocusOut:
                self._fold()
            elif event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
                return self._key(event)
        return super().eventFilter(watched, event)

    def _key(self, event: QKeyEvent) -> bool:
        if event.key() in {Qt.Key.Key_Down, Qt.Key.Key_Up}:
            step = 1 if event.key() == Qt.Key.Key_Down else -1
            self._list.setCurrentRow((self._list.currentRow() + step) % max(1, self._list.count()))
            return True
        if event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self._do()
            return True
        if event.key() == Qt.Key.Key_Escape:
            self._leave()
            return True
        return False

    def _leave(self) -> None:
        self.clear()
        self._fold()
        window = self.window()
        self.clearFocus()
        if window is not None:
            window.setFocus()

    def _do(self) -> None:
        at = self._list.currentRow()
        if 0 <= at < len(self._shown):
            offer = self._shown[at]
            self._settings.add_used(offer.words)
            self._leave()
            offer.does()
