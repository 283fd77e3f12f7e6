"""A radio is picked from many: typed for by its name, its owner or its kind; one of them, or several at once."""

from collections.abc import Callable, Sequence
from typing import NamedTuple

from PyQt6.QtCore import QEvent, QObject, QPoint, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QFrame, QLineEdit, QListWidget, QListWidgetItem, QWidget

from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import button, column, rows_of

_WIDTH, _HEIGHT = 320, 340
_KEY = Qt.ItemDataRole.UserRole
_TO_LIST = {Qt.Key.Key_Down, Qt.Key.Key_Up, Qt.Key.Key_PageDown, Qt.Key.Key_PageUp}


class ListedRadio(NamedTuple):
    """A radio as it is listed: its key, its name, whose it is, of which kind."""

    key: str
    name: str
    owner: str
    kind: str

    @property
    def words(self) -> str:
        """It in one line."""
        return "   ".join(dict.fromkeys(item for item in (self.name, self.owner, self.kind) if item))


def listed_radios(bench: Workbench) -> list[ListedRadio]:
    """The plan's radios, a person's beside each other, the owner's first."""
    index, made = bench.index, list[ListedRadio]()
    order = {item.key: at for at, item in enumerate(index.plan.station.identities)}
    for radio in index.plan.radios:
        person, profile = index.owners.identity_of(radio), bench.profiles.get(radio.profile)
        owner = (person.call or person.name) if person is not None else ""
        made.append(ListedRadio(radio.key, radio.name, owner, profile.name if profile is not None else ""))
    people = {radio.key: index.owners.identity_of(radio) for radio in index.plan.radios}
    return sorted(made, key=lambda item: order.get(getattr(people[item.key], "key", ""), 0))


class RadioPicker(QFrame):
    """A small window under what opened it. `picked` is told the keys of what was chosen; Esc closes it and tells nothing."""

    def __init__(
        self,
        parent: QWidget,
        radios: Sequence[ListedRadio],
        chosen: Sequence[str],
        picked: Callable[[tuple[str, ...]], object],
        *,
        several: bool = False,
    ) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setAttribute(
            Qt.WidgetAttribute.WA_DeleteOnClose
        )  # one that lingers is polished with every change of the look
        self.setProperty("role", "card")
        self._picked, self._several = picked, several
        outer = column(self, 6, 8)
        self.typed = QLineEdit()
        self.typed.setPlaceholderText("Name, owner or kind")
        self.typed.setAccessibleName("Look for a radio by its name, owner or kind")
        self.typed.textChanged.connect(self._filter)
        self.typed.installEventFilter(self)
        outer.addWidget(self.typed)
        self.list = QListWidget()
        self.list.setAccessibleName("Radios. Space ticks one." if several else "Radios. Enter takes one.")
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        for radio in radios:
            item = QListWidgetItem(radio.words)
            item.setData(_KEY, radio.key)
            if several:
                item.setCheckState(Qt.CheckState.Checked if radio.key in chosen else Qt.CheckState.Unchecked)
            self.list.addItem(item)
            if radio.key in chosen and self.list.currentRow() < 0:
                self.list.setCurrentItem(item)
        self.list.itemActivated.connect(lambda _item: self.take())
        if not several:
            self.list.itemClicked.connect(lambda _item: self.take())
        outer.addWidget(self.list, 1)
        if several:
            self.take_button = button("Take these", self.take, "main")
            outer.addLayout(rows_of(button("All", self.tick_all), button("None", self.tick_none), self.take_button))

    def pop_up(self, under: QWidget) -> None:
        """Show it under what opened it, with the keyboard in its field."""
        self.resize(_WIDTH, _HEIGHT)
        self.move(under.mapToGlobal(QPoint(0, under.height())))
        self.show()
        self.typed.setFocus()

    def _rows(self) -> list[QListWidgetItem]:
        return [item for at in range(self.list.count()) if (item := self.list.item(at)) is not None]

    def _filter(self, text: str) -> None:
        """Show what has every word that is typed; the first of it is current."""
        wanted = text.casefold().split()
        for item in self._rows():
            item.setHidden(not all(word in item.text().casefold() for word in wanted))
        first = next((item for item in self._rows() if not item.isHidden()), None)
        if first is not None and (self.list.currentItem() is None or self.list.currentItem().isHidden()):  # type: ignore[union-attr]
            self.list.setCurrentItem(first)

    def tick_all(self) -> None:
        """Tick all that are shown."""
        self._tick(Qt.CheckState.Checked)

    def tick_none(self) -> None:
        """Take the ticks from all that are shown."""
        self._tick(Qt.CheckState.Unchecked)

    def _tick(self, state: Qt.CheckState) -> None:
        for item in self._rows():
            if not item.isHidden():
                item.setCheckState(state)

    def take(self) -> None:
        """Take what is ticked, or the current one."""
        rows, current = self._rows(), self.list.currentItem()
        if self._several:
            keys = tuple(item.data(_KEY) for item in rows if item.checkState() == Qt.CheckState.Checked)
        else:
            keys = (current.data(_KEY),) if current is not None and not current.isHidden() else ()
        if keys:
            self.close()
            self._picked(keys)

    def eventFilter(self, _watched: QObject | None, event: QEvent | None) -> bool:
        """In the field the arrows move in the list, and Enter takes."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            if event.key() in _TO_LIST:
                self.list.keyPressEvent(event)
                return True
            if event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
                self.take()
                return True
        return False
