"""What is known of the selected spot: its fields, the reach with its numbers, the verdict with its repairs, taking it."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF, QResizeEvent
from PyQt6.QtWidgets import QFrame, QWidget

from umbra_awl.core.directory.far_ends import far_ends_of_access
from umbra_awl.core.directory.sanity import Doubt
from umbra_awl.core.estimate.reach import Reach, site_end
from umbra_awl.core.estimate.survey import SurveySpot, hand_of
from umbra_awl.core.facts.earth import Position, bearing_deg, direction_words, geodesic, locator_of
from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.model import AccessPoint
from umbra_awl.desk.access.entry_fields import EntryFields
from umbra_awl.desk.asked import ask_button
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.known.reaching import reach_choices
from umbra_awl.desk.measures import Measures
from umbra_awl.desk.parts.cards.access_fields import service_fields
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import RULE, Field
from umbra_awl.desk.parts.menus import menu_button
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.widgets import button, card, clear, column, row, rows_of, scrolled, words
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.asked.figure import Figure

HEIGHT = 212
_FIELDS = 234
_NARROW = 620
_TONES = {"wrong": "stop", "doubtful": "brass", "note": "second"}
_GRADE_WORDS = {"wrong": "Wrong", "doubtful": "Doubtful", "note": "Note"}
_REACH_TONES = {"likely": "ok", "marginal": "brass", "unlikely": "second"}


def reach_words(reach: Reach, height_m: float, measures: Measures) -> str:
    """The numbers behind a reach estimate, as sentences."""
    horizon = measures.distance(reach.horizon_km, 0)
    return (
        f"Median path loss {reach.loss_db:.0f} dB ({reach.free_space_db:.0f} in free space). You arrive there with "
        f"{reach.up_dbm:.0f} dBm, they arrive here with {reach.down_dbm:.0f} dBm. Radio horizon {horizon} with "
        f"your antenna at {height_m:g} m. Hills and houses decide."
    )


class PathPicture(QWidget):
    """The path from you to the site over the curved earth: two masts, the line between, the horizon."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._spot: SurveySpot | None = None
        self.setAccessibleName("Path over the curved earth")
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(200, self._theme.px(54))

    def show_spot(self, spot: SurveySpot | None) -> None:
        """Set whose path is drawn."""
        self._spot = spot
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        spot, theme = self._spot, self._theme
        if spot is None or spot.km is None or spot.reach is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        left, right, base = 12.0, self.width() - 12.0, self.height() - 10.0
        bulge = min(22.0, 22.0 * spot.km / max(spot.reach.horizon_km, 1.0))
        painter.setPen(QPen(theme.color("ink2"), 1.2))
        steps = 24
        points = [
            QPointF(left + (right - left) * at / steps, base - bulge * 4 * (at / steps) * (1 - at / steps))
            for at in range(steps + 1)
        ]
        painter.drawPolyline(QPolygonF(points))
        near, far = QPointF(left, base - 9), QPointF(right, base - 30)
        painter.setPen(QPen(theme.color("hole"), 2))
        painter.drawLine(QPointF(left, base), near)
        painter.drawLine(QPointF(right, base), far)
        tone = {"likely": "ok", "marginal": "brass", "unlikely": "stop"}[spot.reach.verdict]
        style = {"likely": Qt.PenStyle.SolidLine, "marginal": Qt.PenStyle.DashLine, "unlikely": Qt.PenStyle.DotLine}
        painter.setPen(QPen(theme.color(tone), 1.8, style[spot.reach.verdict]))
        painter.drawLine(near, far)


class Detail(QFrame):
    """The card under the map."""

    take_asked = pyqtSignal()

    def __init__(self, bench: Workbench, directory: Directory, theme: Theme) -> None:
        super().__init__()
        self._bench, self._directory, self._theme = bench, directory, theme
        self.setProperty("role", "card")
        theme.changed.connect(self._fit)
        self._fit()
        self._key = ""
        self._service = 0
        line = row(self, 12, 8)
        self._card = FieldList(84)
        self._card.setProperty("role", "")
        self._services = row(gap=2)
        left = column(gap=2)
        self._title = words("", "title")
        left.addWidget(self._title)
        left.addLayout(self._services)
        fields = scrolled(self._card)
        fields.setMinimumWidth(theme.px(_FIELDS))
        left.addWidget(fields, 1)
        line.addLayout(left, 5)
        between = QWidget()
        self._middle = middle = column(between, 2)
        self._where = words("", "mono", wrap=True)
        self._reach = words("", wrap=True)
        self._path = PathPicture(theme)
        self._numbers = words("", "second", wrap=True)
        for made in (self._where, self._reach, self._path, self._numbers):
            middle.addWidget(made)
        middle.addLayout(rows_of(ask_button(bench)))
        middle.addStretch(1)
        self._between = scrolled(between)
        line.addWidget(self._between, 4)
        self._right = right = column(gap=4)
        head = row(gap=6)
        head.addWidget(words("Verdict", "title"))
        head.addStretch(1)
        self._take = button("Add to plan", self.take_asked.emit, "main", "Enter in the list or on the map")
        self.reach = menu_button("Reach whoever is there, from elsewhere", self._ends, "")
        self.reach.setText("As far end")
        head.addWidget(self._take)
        right.addLayout(head)
        right.addLayout(rows_of(self.reach))
        inside = QWidget()
        self._doubts = column(inside, 4)
        right.addWidget(scrolled(inside), 1)
        line.addLayout(right, 5)

    def _fit(self) -> None:
        self.setFixedHeight(self._theme.px(HEIGHT))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """In a narrow window where it is and how it is reached stand over the verdict, and the picture of the path gives way."""
        super().resizeEvent(event)
        narrow = self.width() < self._theme.px(_NARROW)
        if narrow == self._between.isHidden():
            return
        self._between.setVisible(not narrow)
        for at, made in enumerate((self._where, self._reach)):
            (self._right if narrow else self._middle).insertWidget(at, made)
            made.show()

    def show_spot(self, spot: SurveySpot | None) -> None:
        """Show a spot, or how to choose one."""
        key = spot.key if spot else ""
        if key != self._key:
            self._service = 0
        self._key = key
        clear(self._services)
        self._take.setVisible(spot is not None)
        self.reach.setVisible(spot is not None)
        self._path.show_spot(spot)
        if spot is None:
            self._show_nothing()
            return
        access = spot.access
        name = access.site if access.site != access.call else ""
        self._title.setText(f"{access.call}  {name}".strip() or "No name")
        self._show_fields(spot)
        self._show_reach(spot)
        self._show_doubts(spot)
        self._take.setEnabled(spot.entry is not None and not spot.in_plan)
        self._take.setText("In the plan" if spot.in_plan else "Add to plan")

    def _ends(self) -> list[tuple[str, Callable[[], object]]]:
        spot = self._directory.spot(self._key)
        return reach_choices(self._bench, far_ends_of_access(self._bench.index, spot.access) if spot else ())

    def _show_nothing(self) -> None:
        self._title.setText("Nothing selected")
        self._card.show_fields([], note="Choose an access point on the map or in the list. Arrow keys move in both.")
        self._numbers.setText("")
        self._where.setText("")
        self._reach.setText("")
        clear(self._doubts)

    def _show_fields(self, spot: SurveySpot) -> None:
        if not spot.in_plan and spot.entry is not None:
            self._card.show_fields(EntryFields(self._directory, spot.entry).fields())
            return
        access, services = spot.access, spot.access.services
        if not services:
            self._card.show_fields([Field("Site", access.site)])
            return
        at = min(self._service, len(services) - 1)
        if len(services) > 1:
            labels = [f"{mode_of(service).word()} {service.rx_hz / 1e6:.0f}" for service in services]
            tabs = Tabs(labels, partial(self._choose, spot))
            tabs.line.addStretch(1)
            tabs.mark(at)
            self._services.addWidget(tabs, 1)
        note = [RULE, *self._note(spot)] if spot.entry else []
        self._card.show_fields([*service_fields(self._bench, access, services[at]), *note])

    def _note(self, spot: SurveySpot) -> list[Field]:
        assert spot.entry is not None
        key, note = spot.entry.key, spot.entry.note

        def commit(text: str) -> str:
            self._directory.own.set_note(key, text)
            return ""

        also = [Field("Also in", item.words) for item in spot.also]
        return [
            Field("My note", note or "none", commit=commit, text=note),
            Field("From", f"{spot.entry.source}, {spot.entry.seen}"),
            *also,
        ]

    def _choose(self, spot: SurveySpot, number: int) -> None:
        self._service = number
        self.show_spot(spot)

    def _show_reach(self, spot: SurveySpot) -> None:
        place = self._directory.place
        self._where.setText(_where(spot.access, place.position if place else None, self._theme.measures))
        reach = spot.reach
        self._reach.setText(
            f"{reach.words[0].upper()}{reach.words[1:]}"
            if reach
            else "Without positions of both ends nothing can be estimated."
        )
        self._reach.setProperty("role", _REACH_TONES[reach.verdict] if reach else "second")
        style = self._reach.style()
        if style is not None:
            style.polish(self._reach)
        height = self._bench.plan.station.height_m or 1.5
        self._numbers.setText(reach_words(reach, height, self._theme.measures) if reach else "")

    def figures(self) -> "list[Figure]":
        """The reach of the spot in hand."""
        from umbra_awl.core.asked.estimates import reach_figure

        spot = self._directory.spot(self._key)
        if spot is None or spot.km is None or spot.reach is None:
            return []
        access, here = spot.access, hand_of(self._bench.plan)
        there = f"{access.by_site}, as listed, or usual of such sites"
        made = [
            reach_figure(
                spot.km, service.rx_hz / 1e6, here(service.mode),
                site_end(service.mode, access.kind, access.watts, access.height_m), ("a handheld; Station", there),
            )
            for service in access.services
        ]  # fmt: skip
        return [max(made, key=lambda item: item.value)]

    def _show_doubts(self, spot: SurveySpot) -> None:
        clear(self._doubts)
        if not spot.doubts:
            self._doubts.addWidget(
                words("No doubts: frequencies, tones, place and age are as one expects them.", "ok", wrap=True)
            )
        for doubt in spot.doubts:
            self._doubts.addWidget(self._doubt(spot, doubt))
        if spot.in_plan and spot.doubts:
            self._doubts.addWidget(words("The plan has its own values; findings tell of those.", "second", wrap=True))
        self._doubts.addStretch(1)

    def _doubt(self, spot: SurveySpot, doubt: Doubt) -> QWidget:
        made = card("")
        inner = column(made, 0)
        inner.addWidget(words(_GRADE_WORDS[doubt.grade], _TONES[doubt.grade]))
        inner.addWidget(words(doubt.text, wrap=True))
        if doubt.mend is not None and spot.entry is not None:
            line = row(gap=0)
            mend = button(
                doubt.mend.label,
                partial(self._repair, spot.entry.key, doubt),
                tip="Kept as your own edit; the directory's value stays beside it",
            )
            line.addWidget(mend)
            line.addStretch(1)
            inner.addLayout(line)
        return made

    def _repair(self, key: str, doubt: Doubt) -> None:
        assert doubt.mend is not None
        for field, value in doubt.mend.edits:
            if not self._directory.own.set_private(key, field, value):
                return
        self._bench.say(f"{doubt.mend.label}: kept as your own edit.")

    def repair_first(self) -> None:
        """Do the first repair that is offered."""
        spot = self._directory.spot(self._key)
        for doubt in spot.doubts if spot else ():
            if doubt.mend is not None and spot is not None and spot.entry is not None:
                self._repair(spot.entry.key, doubt)
                return


def _where(access: AccessPoint, place: Position | None, measures: Measures) -> str:
    if access.lat is None or access.lon is None:
        return "no position"
    locator = locator_of(access.lat, access.lon)
    if place is None:
        return locator
    there = Position(access.lat, access.lon)
    km, _bearing = geodesic(place, there)
    return f"{measures.distance(km, 2)}  {direction_words(km, bearing_deg(place, there))}  {locator}"
