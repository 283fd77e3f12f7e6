"""People of the directory: 250,000 rows by pages from the store, found while typing. IDs are masked until asked for."""

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt
from PyQt6.QtWidgets import QLineEdit, QStackedWidget, QWidget

from umbra_awl.core.directory.far_ends import far_ends_of_person
from umbra_awl.core.directory.people_search import (
    PAGE,
    Person,
    anchors_of_people,
    page_from,
    page_of_people,
    search_people,
)
from umbra_awl.core.facts.dmr import mask_id
from umbra_awl.desk.access.review import table_of
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.known.reaching import reach_choices
from umbra_awl.desk.parts.menus import menu_button
from umbra_awl.desk.parts.widgets import button, column, row, words

_HEADERS = ("DMR ID", "Call sign", "Name", "Place", "Country")
_MOST_PAGES = 40
_MOST_FOUND = 300


class PeopleModel(QAbstractTableModel):
    """Either all people, page by page as they come into sight, or those found."""

    def __init__(self, bench: Workbench, directory: Directory) -> None:
        super().__init__()
        self._bench, self._directory = bench, directory
        self._pages: dict[int, list[Person]] = {}
        self._anchors: list[int] = []
        self._found: list[Person] | None = None
        self._count = 0

    def reload(self) -> None:
        """The store changed."""
        self.beginResetModel()
        self._pages, self._anchors = {}, []
        self._count = self._directory.store.counts()["people"]
        self.endResetModel()
        self._bench.jobs.latest("people", lambda: anchors_of_people(self._directory.store), self._take_anchors)

    def _take_anchors(self, anchors: list[int]) -> None:
        self._anchors = anchors

    def find(self, text: str) -> int:
        """Show those that are found; an empty text shows all. How many there are."""
        self.beginResetModel()
        self._found = search_people(self._directory.store, text, _MOST_FOUND) if text.strip() else None
        self.endResetModel()
        return self.rowCount()

    def remask(self) -> None:
        """IDs are shown or masked."""
        self.layoutChanged.emit()

    def person(self, at: int) -> Person | None:
        """The person in a row."""
        if self._found is not None:
            return self._found[at] if at < len(self._found) else None
        page, line = divmod(at, PAGE)
        if page not in self._pages:
            if len(self._pages) >= _MOST_PAGES:
                self._pages.pop(next(iter(self._pages)))
            store = self._directory.store
            known = page < len(self._anchors)
            self._pages[page] = page_from(store, self._anchors[page]) if known else page_of_people(store, page * PAGE)
        rows = self._pages[page]
        return rows[line] if line < len(rows) else None

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        if parent is not None and parent.isValid():
            return 0
        return len(self._found) if self._found is not None else self._count

    def columnCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(_HEADERS)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or role != Qt.ItemDataRole.DisplayRole:
            return None
        person = self.person(index.row())
        if person is None:
            return ""
        number = str(person.id) if self._bench.ids_shown else mask_id(person.id)
        return (number, person.call, person.name, person.place, person.country)[index.column()]

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if orientation == Qt.Orientation.Horizontal and role == Qt.ItemDataRole.DisplayRole:
            return _HEADERS[section]
        return None


class PeoplePage(QWidget):
    """A search line over the table."""

    def __init__(self, bench: Workbench, directory: Directory) -> None:
        super().__init__()
        self._bench, self._directory = bench, directory
        outer = column(self, 6)
        head = row(gap=6)
        head.addWidget(words("People", "title"))
        self._count = words("", "second")
        head.addWidget(self._count)
        head.addStretch(1)
        self.reach = menu_button("Reach the chosen person", self._ends, "")
        self.reach.setText("Reach them")
        head.addWidget(self.reach)
        self._mask = button("Show IDs", self.toggle_ids, tip="IDs are masked everywhere until asked for")
        head.addWidget(self._mask)
        outer.addLayout(head)
        self.text = QLineEdit()
        self.text.setPlaceholderText("Call sign, ID, name, place or country")
        self.text.setAccessibleName("Find people by call sign, ID, name, place or country")
        self.text.setClearButtonEnabled(True)
        self.text.textChanged.connect(self._find)
        outer.addWidget(self.text)
        self.model = PeopleModel(bench, directory)
        self.view = table_of(self.model, (110, 110, 200, 220), "People")
        self._empty = words(
            "Nobody yet. Import a file of people (ID, call sign, name, place) under Lists; the big list goes into a radio as a "
            "transfer of its own.",
            "second",
            wrap=True,
        )
        self._faces = QStackedWidget()
        self._faces.addWidget(self.view)
        teaching = QWidget()
        inside = column(teaching, 8)
        inside.addWidget(self._empty)
        inside.addStretch(1)
        self._faces.addWidget(teaching)
        outer.addWidget(self._faces, 1)
        directory.changed.connect(self.reload)
        self.reload()

    def _ends(self) -> list[tuple[str, Callable[[], object]]]:
        person = self.model.person(self.view.currentIndex().row()) if self.view.currentIndex().isValid() else None
        if person is None:
            return [("Choose somebody in the table first", self.view.setFocus)]
        return reach_choices(self._bench, far_ends_of_person(self._bench.index, person))

    def reload(self) -> None:
        """Show the store's people."""
        self.model.reload()
        self._find(self.text.text())
        self._mask.setText("Mask IDs" if self._bench.ids_shown else "Show IDs")

    def _find(self, text: str) -> None:
        count = self.model.find(text)
        more = " or more" if count == _MOST_FOUND and text.strip() else ""
        self._count.setText(f"{count:,}{more}" + (" found" if text.strip() else ""))
        self._faces.setCurrentWidget(self._faces.widget(0 if count or text.strip() else 1))

    def toggle_ids(self) -> None:
        """Show the IDs, or mask them again."""
        self._bench.show_ids(not self._bench.ids_shown)
        self._mask.setText("Mask IDs" if self._bench.ids_shown else "Show IDs")
        self.model.remask()
