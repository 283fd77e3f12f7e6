"""The week as a ribbon: seven days of local time under one another, nets as blocks, night shaded, now as a line."""

from datetime import UTC, datetime, timedelta
from typing import NamedTuple
from zoneinfo import ZoneInfo

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.agenda.recurrence import Meeting, overlapping
from umbra_awl.desk.theme.theme import Theme

DAYS = 7
MOST_LANES = 16
_LEFT = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
_MIDDLE = Qt.AlignmentFlag.AlignCenter
_EMPTY = "No net in the next seven days. Add one, or import a calendar: it then stands here in your own time."
_LEAST_NAME = 48
_NIGHT = ((0, 7), (22, 24))


class WeekBlock(NamedTuple):
    """A part of a meeting within one day: the day's row, from and to in hours, and whether it clashes with another net.

    Meetings that clash stand in `lanes` under one another, each in its own `lane`.
    """

    meeting: Meeting
    row: int
    begins: float
    ends: float
    clash: bool
    lane: int = 0
    lanes: int = 1


def blocks(meetings: list[Meeting], first: datetime, zone: str) -> list[WeekBlock]:
    """Meetings as blocks of the days from `first` on, by the clock on the wall; one over midnight is two blocks."""
    here = ZoneInfo(zone)
    day_one = first.astimezone(here).date()
    found = []
    clashing = {item for pair in overlapping(sorted(meetings, key=lambda item: item.start)) for item in pair}
    for item in meetings:
        clash = item in clashing
        start, end = item.start.astimezone(here), item.end.astimezone(here)
        for row in range(max(0, (start.date() - day_one).days), min(DAYS, (end.date() - day_one).days + 1)):
            day = day_one + timedelta(days=row)
            begins = _hour(start) if start.date() == day else 0.0
            ends = _hour(end) if end.date() == day else 24.0
            if ends > begins:
                found.append(WeekBlock(item, row, begins, ends, clash))
    return [made for row in range(DAYS) for made in _in_lanes([item for item in found if item.row == row])]


def _in_lanes(found: list[WeekBlock]) -> list[WeekBlock]:
    """The blocks of one row, those that overlap under one another."""
    made: list[WeekBlock] = []
    free: list[float] = []
    for item in sorted(found, key=lambda one: one.begins):
        lane = next((at for at, end in enumerate(free) if end <= item.begins), min(len(free), MOST_LANES - 1))
        free[lane : lane + 1] = [item.ends]
        made.append(item._replace(lane=lane))
    clashing = max(len(free), 1)
    return [item._replace(lanes=clashing if item.clash else 1, lane=item.lane if item.clash else 0) for item in made]


def _meets(place: QRectF, taken: list[QRectF]) -> bool:
    return any(place.intersects(other) for other in taken)


def _hour(moment: datetime) -> float:
    return moment.hour + moment.minute / 60


class WeekPicture(QWidget):
    """Shows a week of nets. `chosen` tells the net that is clicked, or walked to by the arrow keys."""

    chosen = pyqtSignal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.blocks: list[WeekBlock] = []
        self._names: dict[str, str] = {}
        self._now, self._zone, self._in_hand = datetime.min.replace(tzinfo=UTC), "Etc/UTC", ""
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(560), self._theme.px(300))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(320), self._theme.px(7 * 22 + 20))

    def show_week(self, meetings: list[Meeting], names: dict[str, str], now: datetime, zone: str, in_hand: str) -> None:
        """Show the week from `now` on as the clocks of a zone have it."""
        self._names, self._now, self._zone, self._in_hand = names, now, zone, in_hand
        self.blocks = blocks(meetings, now, zone)
        told = "; ".join(
            f"{names.get(item.net, '')} {item.start.astimezone(ZoneInfo(zone)):%A %H:%M}" for item in meetings[:12]
        )
        self.setAccessibleName(f"The week of nets in {zone}: {told or 'none'}")
        self.update()

    def _frame(self) -> tuple[QRectF, float]:
        """Where the rows are, and how high one is."""
        px = self._theme.px
        box = QRectF(self.rect()).adjusted(px(96), px(24), -px(10), -px(8))
        return box, box.height() / DAYS

    def rect_of(self, block: WeekBlock) -> QRectF:
        """Where a block is painted."""
        box, high = self._frame()
        x = box.left() + box.width() * block.begins / 24
        wide = max(box.width() * (block.ends - block.begins) / 24, self._theme.px(8))
        part = (high - 4) / block.lanes
        return QRectF(
            x, box.top() + high * block.row + 2 + part * block.lane, wide, part - (1 if block.lanes > 1 else 0)
        )

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        theme, px = self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(theme.color("line"))
        painter.setBrush(theme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        self._days(painter)
        box, high = self._frame()
        if not self.blocks:
            painter.setPen(theme.color("ink2"))
            painter.setFont(theme.font(13))
            painter.drawText(box.adjusted(px(40), 0, -px(40), 0), int(_MIDDLE | Qt.TextFlag.TextWordWrap), _EMPTY)
        for block in self.blocks:
            self._block(painter, block)
        self._names_of(painter)
        now = self._now.astimezone(ZoneInfo(self._zone))
        x = box.left() + box.width() * _hour(now) / 24
        painter.setPen(QPen(theme.color("violet"), 2))
        painter.drawLine(QPointF(x, box.top()), QPointF(x, box.top() + high))
        if self.hasFocus():
            painter.setPen(QPen(theme.color("violet"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)

    def _days(self, painter: QPainter) -> None:
        """The rows with their names, the night, and the hours."""
        theme, px = self._theme, self._theme.px
        box, high = self._frame()
        first = self._now.astimezone(ZoneInfo(self._zone)).date()
        painter.setFont(theme.font(12))
        for row in range(DAYS):
            y, day = box.top() + high * row, first + timedelta(days=row)
            for begins, ends in _NIGHT:
                shade = QRectF(
                    box.left() + box.width() * begins / 24, y + 1, box.width() * (ends - begins) / 24, high - 2
                )
                painter.fillRect(shade, theme.color("panel"))
            painter.setPen(theme.color("ink" if row == 0 else "ink2"))
            word = "Today" if row == 0 else f"{day:%a}"
            painter.drawText(QRectF(px(10), y, box.left() - px(16), high), int(_LEFT), f"{word} {day.day} {day:%b}")
            painter.setPen(theme.color("line"))
            painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
        for hour in range(0, 25, 3):
            x = box.left() + box.width() * hour / 24
            painter.setPen(theme.color("line"))
            painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
            painter.setPen(theme.color("ink2"))
            if hour < 24:
                painter.drawText(QRectF(x - px(2), px(4), px(40), px(18)), int(_LEFT), f"{hour:02d}")

    def _block(self, painter: QPainter, block: WeekBlock) -> None:
        theme = self._theme
        rect = self.rect_of(block)
        on = block.meeting.start <= self._now < block.meeting.end
        painter.setBrush(theme.color("ok" if on else "violet_tint"))
        in_hand = block.meeting.net == self._in_hand
        painter.setPen(QPen(theme.color("stop" if block.clash else "violet"), 3 if in_hand else 1))
        painter.drawRoundedRect(rect, 4, 4)
        if block.clash:  # a clash has a hatch, not only another edge
            brush = painter.brush()
            brush.setColor(theme.color("stop"))
            brush.setStyle(Qt.BrushStyle.BDiagPattern)
            painter.setBrush(brush)
            painter.drawRoundedRect(rect, 4, 4)

    def _names_of(self, painter: QPainter) -> None:
        """Each block's name: in it, or beside it where it is free there, else cut."""
        px = self._theme.px
        painter.setFont(self._theme.font(12))
        metrics = painter.fontMetrics()
        taken = [self.rect_of(item) for item in self.blocks]
        left, right = self._frame()[0].left(), self._frame()[0].right()
        for block in self.blocks:
            rect, name = self.rect_of(block), self._names.get(block.meeting.net, "")
            wide = metrics.horizontalAdvance(name) + 2
            on = block.meeting.start <= self._now < block.meeting.end
            places = [
                QRectF(rect.right() + px(4), rect.top(), wide, rect.height()),
                QRectF(rect.left() - px(4) - wide, rect.top(), wide, rect.height()),
            ]
            rest = QRectF(rect.right() + px(4), rect.top(), right - rect.right() - px(4), rect.height())
            if rest.width() >= px(_LEAST_NAME):
                places.append(rest)
            free = (one for one in places if left <= one.left() and one.right() <= right and not _meets(one, taken))
            inside = rect.adjusted(px(4), 0, -px(2), 0)
            place = inside if wide <= inside.width() else next(free, inside)
            painter.setPen(self._theme.color("panel" if on and place is inside else "ink"))
            text = metrics.elidedText(name, Qt.TextElideMode.ElideRight, int(place.width()) + 1)
            painter.drawText(place, int(_LEFT), text)
            taken.append(place)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            hit = next((item for item in self.blocks if self.rect_of(item).contains(event.position())), None)
            if hit is not None:
                self.chosen.emit(hit.meeting.net)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = {
            Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Up: -1,
        }.get(Qt.Key(event.key()) if event is not None else Qt.Key.Key_unknown, 0)  # fmt: skip
        nets = list(dict.fromkeys(item.meeting.net for item in self.blocks))
        if not step or not nets:
            super().keyPressEvent(event)
            return
        at = nets.index(self._in_hand) if self._in_hand in nets else -step
        self.chosen.emit(nets[(at + step) % len(nets)])
