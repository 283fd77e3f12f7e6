"""The ranked list: nearest first, two lines a spot, with reach and verdict in words."""

from typing import Any

from PyQt6.QtCore import QAbstractListModel, QModelIndex, QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QKeyEvent, QPainter, QPen
from PyQt6.QtWidgets import QListView, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from umbra_awl.core.estimate.survey import SurveySpot
from umbra_awl.core.facts.earth import direction_words
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.modes import SHORT_WORDS
from umbra_awl.desk.measures import Measures
from umbra_awl.desk.parts.tips import plain
from umbra_awl.desk.theme.theme import Theme

SPOT = Qt.ItemDataRole.UserRole
_TONES = {"likely": "ok", "marginal": "brass", "unlikely": "ink2"}
_GRADE_TONES = {"wrong": "stop", "doubtful": "brass", "note": "ink2", "sane": "ok"}


def where_words(spot: SurveySpot, measures: Measures) -> str:
    """Distance and bearing: “12.4 km NE 41°”."""
    if spot.km is None or spot.bearing is None:
        return "no position" if spot.access.lat is None else "distance not known"
    return f"{measures.distance(spot.km)} {direction_words(spot.km, spot.bearing)}"


def services_words(spot: SurveySpot) -> str:
    """Modes with their outputs: “DMR 438.6125, FM 145.7125”."""
    return ", ".join(f"{SHORT_WORDS[service.mode]} {format_mhz(service.rx_hz)}" for service in spot.access.services)


def age_tone(age: str) -> str:
    """The colour of an age by its words: fresh, some years, not known."""
    if age.startswith("this month") or "month" in age:
        return "ok"
    return "ink2" if age.startswith("1 year") else "brass"


def spoken(spot: SurveySpot, measures: Measures) -> str:
    """The line for a screen reader."""
    reach = spot.reach.words if spot.reach else "reach not known"
    plan = ", in the plan" if spot.in_plan else ""
    name = f"{spot.access.call} {spot.access.site}{plan}"
    where, what = where_words(spot, measures), services_words(spot)
    return f"{name}. {where}. {what}. Confirmed {spot.age}. {reach}. Verdict: {spot.grade}."


class SpotModel(QAbstractListModel):
    """The spots of a survey."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.spots: tuple[SurveySpot, ...] = ()

    def show_spots(self, spots: tuple[SurveySpot, ...]) -> None:
        """Set what is shown."""
        self.beginResetModel()
        self.spots = spots
        self.endResetModel()

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.spots)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or not 0 <= index.row() < len(self.spots):
            return None
        spot = self.spots[index.row()]
        if role == SPOT:
            return spot
        if role in {Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole}:
            return spoken(spot, self._theme.measures)
        if role == Qt.ItemDataRole.ToolTipRole:
            return plain("\n".join(doubt.text for doubt in spot.doubts) or "Nothing to doubt.")
        return None


class SpotDelegate(QStyledItemDelegate):
    """Paints a spot on two lines."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme

    def sizeHint(self, _option: QStyleOptionViewItem, _index: QModelIndex) -> QSize:
        return QSize(200, self._theme.px(44))

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        spot = index.data(SPOT)
        if painter is None or spot is None:
            return
        theme, box = self._theme, option.rect.adjusted(8, 3, -8, -3)
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(option.rect, theme.color("violet_tint"))
        upper = QRect(box.left(), box.top(), box.width(), box.height() // 2)
        lower = upper.translated(0, box.height() // 2)
        self._mark(painter, spot, upper)
        upper.setLeft(upper.left() + theme.px(16))
        lower.setLeft(upper.left())
        self._line(
            painter,
            upper,
            spot.access.call or "–",
            where_words(spot, self._theme.measures),
            mono=True,
            middle=spot.access.site,
        )
        self._verdicts(painter, lower, spot)
        painter.setPen(theme.color("line"))
        painter.drawLine(option.rect.bottomLeft(), option.rect.bottomRight())

    def _mark(self, painter: QPainter, spot: SurveySpot, box: QRect) -> None:
        """A filled hole is in the plan, a hollow one is not."""
        theme = self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(theme.color("hole"), 1.5))
        painter.setBrush(theme.color("hole") if spot.in_plan else theme.color("sheet"))
        painter.drawEllipse(box.left() + 1, box.center().y() - 4, 9, 9)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)

    def _line(self, painter: QPainter, box: QRect, left: str, right: str, *, mono: bool, middle: str = "") -> None:
        theme = self._theme
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        room = painter.fontMetrics().horizontalAdvance(right)
        painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, right)
        painter.setFont(theme.font(13, mono=mono, weight=600))
        painter.setPen(theme.color("ink"))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, left)
        used = painter.fontMetrics().horizontalAdvance(left) + 8
        painter.setFont(theme.font(13))
        rest = box.adjusted(used, 0, -room - 8, 0)
        text = QFontMetrics(painter.font()).elidedText(middle, Qt.TextElideMode.ElideRight, max(rest.width(), 0))
        painter.drawText(rest, Qt.AlignmentFlag.AlignVCenter, text)

    def _verdicts(self, painter: QPainter, box: QRect, spot: SurveySpot) -> None:
        theme = self._theme
        painter.setFont(theme.font(12))
        metrics = painter.fontMetrics()
        words = [(spot.grade, _GRADE_TONES[spot.grade])] if spot.grade != "sane" else []
        if spot.reach is not None:
            words.append((spot.reach.verdict, _TONES[spot.reach.verdict]))
        right = box.right()
        for text, tone in words:
            width = metrics.horizontalAdvance(text)
            painter.setPen(theme.color(tone))
            painter.drawText(
                QRect(right - width, box.top(), width + 1, box.height()), Qt.AlignmentFlag.AlignVCenter, text
            )
            right -= width + 10
        age = metrics.horizontalAdvance(f" · {spot.age}")
        room = max(right - box.left() - 4, 0)
        services = metrics.elidedText(services_words(spot), Qt.TextElideMode.ElideRight, max(room - age, 0))
        painter.setPen(theme.color("ink2"))
        painter.drawText(QRect(box.left(), box.top(), room, box.height()), Qt.AlignmentFlag.AlignVCenter, services)
        painter.setPen(theme.color(age_tone(spot.age)))
        left = box.left() + metrics.horizontalAdvance(services)
        painter.drawText(QRect(left, box.top(), age + 2, box.height()), Qt.AlignmentFlag.AlignVCenter, f" · {spot.age}")


class SpotList(QListView):
    """The list; Enter or Space takes the selected ones into the plan."""

    chosen = pyqtSignal(object)
    take_asked = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._model = SpotModel(theme)
        self._delegate = SpotDelegate(theme)
        self.setModel(self._model)
        self._model.setParent(self)
        self.setItemDelegate(self._delegate)
        self.setUniformItemSizes(True)
        self.setSelectionMode(QListView.SelectionMode.ExtendedSelection)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.setAccessibleName("Access points, nearest first. Enter takes the selected ones into the plan.")
        selection = self.selectionModel()
        assert selection is not None
        selection.currentChanged.connect(self._tell)
        theme.changed.connect(self._lay_out_again)

    def _lay_out_again(self) -> None:
        self._model.layoutChanged.emit()

    def _tell(self, now: QModelIndex, _before: QModelIndex) -> None:
        spot = now.data(SPOT)
        if spot is not None:
            self.chosen.emit(spot)

    def show_spots(self, spots: tuple[SurveySpot, ...], current: str) -> None:
        """Set what is shown; the current one stays current where it is still there."""
        selection = self.selectionModel()
        assert selection is not None
        selection.blockSignals(True)
        self._model.show_spots(spots)
        selection.blockSignals(False)
        self.choose(current)

    def choose(self, key: str) -> bool:
        """Make the spot of a key the current one; False when it is not in the list."""
        for at, spot in enumerate(self._model.spots):
            if spot.key == key:
                index = self._model.index(at)
                if self.currentIndex() != index:
                    self.setCurrentIndex(index)
                self.scrollTo(index)
                return True
        return False

    def step(self, by: int) -> None:
        """Go to the next or the previous spot."""
        count = len(self._model.spots)
        if count:
            at = self.currentIndex().row()
            self.setCurrentIndex(self._model.index(min(max(at + by, 0), count - 1)))

    def selected(self) -> list[SurveySpot]:
        """The selected spots, or the current one."""
        rows = sorted({index.row() for index in self.selectedIndexes()})
        return [self._model.spots[at] for at in rows]

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self.take_asked.emit()
        else:
            super().keyPressEvent(event)
