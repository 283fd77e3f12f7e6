"""The names of all channels as each radio will show them, and the house style that makes them."""

from collections.abc import Iterator
from functools import partial
from typing import Any

from msgspec.structs import replace
from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QHeaderView, QLabel, QTableView, QWidget

from umbra_awl.core.facts.wording import within
from umbra_awl.core.plan.model import NameStyle, Route
from umbra_awl.core.plan.places import place_word
from umbra_awl.core.routes.kept import better_codes, name_anew
from umbra_awl.core.routes.names_edit import preview, set_style, shorts_from, shorts_text
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Choice, Field
from umbra_awl.desk.parts.cards.kept_names import keep_names
from umbra_awl.desk.parts.cards.late_choices import LateChoices
from umbra_awl.desk.parts.tips import plain
from umbra_awl.desk.parts.widgets import column, words
from umbra_awl.desk.theme.theme import Theme

_LEADS = {"site": "place first", "call": "call sign first", "destination": "destination first"}
_SEPARATORS = {" ": "a blank", "-": "a dash", "/": "a slash", ".": "a point"}
_ROOT = QModelIndex()


class NamesModel(QAbstractTableModel):
    """Routes down, radios across; a cell is the name that radio shows."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        self._theme = theme
        self._rows: list[Route] = []

    def reload(self) -> None:
        """Take the workbench's results."""
        self.beginResetModel()
        fresh = self._bench.worked.fresh
        self._rows = list(self._bench.plan.routes) if fresh else []
        self.endResetModel()

    def route(self, row: int) -> Route:
        """The route of a row."""
        return self._rows[row]

    def rowCount(self, parent: QModelIndex = _ROOT) -> int:
        return 0 if parent.isValid() else len(self._rows)

    def columnCount(self, parent: QModelIndex = _ROOT) -> int:
        return 0 if parent.isValid() else 1 + len(self._bench.plan.radios)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if orientation == Qt.Orientation.Horizontal and role == Qt.ItemDataRole.DisplayRole:
            radios = self._bench.plan.radios
            return "Route" if section == 0 else radios[section - 1].name if section <= len(radios) else ""
        return None

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or index.row() >= len(self._rows):
            return None
        route = self._rows[index.row()]
        if index.column() == 0:
            return self._label(route) if role == Qt.ItemDataRole.DisplayRole else None
        return self._name(route, index.column() - 1, role)

    def _label(self, route: Route) -> str:
        access, service, destination = self._bench.index.parts(route)
        place = place_word(service, destination, route.slot)
        pinned = "  (own name)" if route.name else ""
        return f" {access.site} · {' '.join(filter(None, (place, destination.name)))}{pinned} "

    def _name(self, route: Route, at: int, role: int) -> Any:
        radios = self._bench.plan.radios
        fit = self._bench.worked.results.fits.get(radios[at].key) if at < len(radios) else None
        named = fit.names.get(route.key) if fit is not None else None
        if role == Qt.ItemDataRole.DisplayRole:
            return "" if named is None else f"{named.name}  ≠" if named.told_apart else named.name
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return named.name if named is not None else f"not on {radios[at].name}" if at < len(radios) else None
        if role == Qt.ItemDataRole.FontRole:
            return self._theme.font(13, mono=True)
        if role == Qt.ItemDataRole.ForegroundRole and named is not None and named.told_apart:
            return self._theme.color("brass")
        if role == Qt.ItemDataRole.ToolTipRole and named is not None:
            apart = (
                "\nShortened plainly it would be the same as another; it was told apart." if named.told_apart else ""
            )
            return plain(f"{named.full}{apart}")
        return None


class NamesPage(QWidget):
    """The canvas page; `side` holds the house style."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        self._theme = theme
        outer = column(self, 6)
        self.summary = words("", "second", wrap=True)
        outer.addWidget(self.summary)
        self.model = NamesModel(bench, theme)
        self.table = QTableView()
        self.table.setModel(self.model)
        self.model.setParent(self.table)
        self.table.setAccessibleName("Channel names on every radio")
        self.table.setSelectionBehavior(QTableView.SelectionBehavior.SelectRows)
        self.table.setShowGrid(False)
        self.table.setWordWrap(False)
        self.table.clicked.connect(self._select)
        self.table.activated.connect(self._select)
        header, rows = self.table.horizontalHeader(), self.table.verticalHeader()
        if header is not None and rows is not None:
            header.setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
            header.setMinimumSectionSize(theme.px(138))  # sixteen characters
            header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
            rows.hide()
            rows.setDefaultSectionSize(theme.px(25))
        outer.addWidget(self.table, 1)
        self.side = StyleSide(bench)
        bench.results_changed.connect(self.refresh)
        bench.plan_changed.connect(self.side.refresh)
        self.refresh()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._share()

    def _share(self) -> None:
        """The routes have what the radios leave them, within reason."""
        viewport, others = self.table.viewport(), self.model.columnCount() - 1
        header = self.table.horizontalHeader()
        if viewport is None or header is None or others < 0:
            return
        left = viewport.width() - others * header.minimumSectionSize() - 2
        self.table.setColumnWidth(0, min(max(left, self._theme.px(120)), self._theme.px(232)))

    def refresh(self) -> None:
        """Show the names of the present plan."""
        self.model.reload()
        header = self.table.horizontalHeader()
        if header is not None and self.model.columnCount():
            header.setSectionResizeMode(0, QHeaderView.ResizeMode.Fixed)
            self._share()
        apart = [
            (radio.name, sum(named.told_apart for named in fit.names.values()))
            for radio in self._bench.plan.radios
            if (fit := self._bench.worked.results.fits.get(radio.key)) is not None
        ]
        told = ", ".join(f"{count} on {name}" for name, count in apart if count)
        self.summary.setText(
            f"≠ marks a name that would have been the same as another and was told apart: {told}."
            if told
            else "Each site and each destination is said in one way on a radio. No two names meet."
        )

    def _select(self, index: QModelIndex) -> None:
        route = self.model.route(index.row())
        self._bench.select(Selection(route.service, route.destination, route.slot))

    def take_focus(self) -> None:
        """Give the keyboard to the table."""
        self.table.setFocus()


def _previewed(bench: Workbench, label: str, field: str, options: dict[Any, str]) -> Iterator[Choice]:
    """The options of one setting, each with an example and how many names would meet on the chosen radio."""
    now = bench.plan.names
    radio = bench.radio
    profile = bench.profiles.get(radio.profile) if radio is not None else None
    for value, text in options.items():
        style = replace(now, **{field: value})
        edit = set_style(f"House style, {within(label)}: {text}", style)
        shown = ""
        if profile is not None:
            look = preview(bench.plan, style, profile.display.rules, profile.modes)
            shown = f"{look.example}, {look.met} would meet" if look.met else look.example
        yield Choice(f"{text}   {shown}", partial(bench.do, edit), getattr(now, field) == value)


class StyleSide(QWidget):
    """The house style, each change shown at once on every radio."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        outer = column(self, 6)
        outer.addWidget(words("House style", "title"))
        self.card = FieldList(104)
        outer.addWidget(self.card)
        self.example: QLabel = words("", "second", wrap=True)
        outer.addWidget(self.example)
        outer.addStretch(1)
        bench.results_changed.connect(self.refresh)
        bench.radio_changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show the plan's style."""
        style = self._bench.plan.names
        self.card.show_fields([*self._fields(style), *self._kept()], note=_NOTE)

    def _kept(self) -> list[Field]:
        """Whether the chosen radio's names are kept, and what would be said better if they were chosen today."""
        bench, radio, fit = self._bench, self._bench.radio, self._bench.fit
        profile = bench.profiles.get(radio.profile) if radio is not None else None
        if radio is None or fit is None or profile is None:
            return []
        if not radio.codes:
            keep = [Choice("Keep them now", self._keep)]
            return [Field("Names stay", "not yet", choices=keep, tip=f"{radio.name}: {_NOT_KEPT}")]
        routes = [bench.index.routes[key] for key in fit.names if key in bench.index.routes]
        better = better_codes(bench.index, radio, routes, profile.display.rules)
        names = sum(item.names for item in better)
        anew = Choice(f"Choose them anew, {names} would change", partial(bench.do, name_anew(radio)))
        told = "".join(f"\n{item.what}: {item.then} in place of {item.now}" for item in better)
        value = f"yes; {names} could be better" if better else "yes"
        return [Field("Names stay", value, choices=[anew], tip=f"{radio.name}: {_KEPT}{told}")]

    def _keep(self) -> None:
        keep_names(self._bench, self._bench.radio_key, by_hand=True)

    def _fields(self, style: NameStyle) -> list[Field]:
        def one(label: str, field: str, options: dict[Any, str]) -> Field:
            now = getattr(style, field)
            choices = LateChoices(partial(_previewed, self._bench, label, field, options))
            return Field(label, options.get(now, str(now)), choices=choices)

        return [
            one("Order", "lead", _LEADS),
            one("Between", "separator", _SEPARATORS),
            one("Letters", "capitals", {False: "as written", True: "capitals"}),
            one("Talk groups", "numbers", {False: "by name", True: "by number"}),
            Field(
                "Own short",
                shorts_text(style) or "none",
                commit=self._shorts,
                text=shorts_text(style),
                tip="Abbreviations of your own: Velmar=Vm, Torrick=Tk",
            ),
        ]

    def _shorts(self, text: str) -> str:
        try:
            shorts = shorts_from(text)
        except ValueError as error:
            return str(error)
        self._bench.do(set_style("Own abbreviations", replace(self._bench.plan.names, shorts=shorts)))
        return ""


_NOT_KEPT = "Names stay from the first time they are in the radio, in its files or on paper."
_KEPT = "These names are out there, so nothing added later renames them."
_NOTE = "A name of your own is given in a Crossing card. Every other name follows this style."
