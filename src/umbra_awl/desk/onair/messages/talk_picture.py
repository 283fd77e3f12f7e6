"""What was said between the two sides: one thread for the air, yours left of it, theirs right, latest at the foot.

A text is a hollow hole until somebody answers it: only an answer proves one.
"""

from functools import partial

from PyQt6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QKeyEvent, QPainter, QPaintEvent, QPixmap, QWheelEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.messages.history import Said
from umbra_awl.desk.onair.messages.air_job import AirJob
from umbra_awl.desk.parts.pointed import ThingAct
from umbra_awl.desk.parts.thread import bead, stitch
from umbra_awl.desk.theme.theme import Theme

_EMPTY = (
    "What you send stands left of the thread, what comes in right of it. A hole fills when somebody answers; "
    "Enter answers the latest."
)
_WRAP = int(Qt.TextFlag.TextWordWrap)
_MOST = 60
_PICTURE = 110


class TalkPicture(QWidget):
    """Shows the history; Up and Down go through it, Enter answers the line at the foot."""

    answered = pyqtSignal(object)
    saved = pyqtSignal(object)

    def __init__(self, theme: Theme, air: AirJob) -> None:
        super().__init__()
        self._theme, self._air = theme, air
        self.back = 0
        self._pixmaps: dict[str, QPixmap] = {}
        self._lines: list[tuple[float, Said]] = []
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        air.changed.connect(self.refresh)
        self.refresh()

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(520), self._theme.px(340))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(200), self._theme.px(70))

    def refresh(self) -> None:
        """Show what is there now."""
        said = self._air.kept.said
        last = f"Latest: {said[-1].call}, {said[-1].text}" if said else "nothing yet"
        self.setAccessibleName(f"Messages: {len(said)}. {last}")
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1, Qt.Key.Key_PageUp: 6, Qt.Key.Key_PageDown: -6}.get(
            Qt.Key(event.key()) if event is not None else Qt.Key.Key_unknown
        )
        if event is not None and event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter} and self._lines:
            self.answered.emit(self._lines[0][1])
        elif step is None:
            super().keyPressEvent(event)
        else:
            self._scroll(step)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None:
            self._scroll(1 if event.angleDelta().y() > 0 else -1)

    def _scroll(self, step: int) -> None:
        self.back = min(max(self.back + step, 0), max(len(self._air.kept.said) - 1, 0))
        self.update()

    def acts_at(self, at: QPoint) -> list[ThingAct]:
        """What can be done with the line there: answer what somebody sent, save a picture."""
        said = next((said for top, said in self._lines if at.y() >= top), None)
        if said is None:
            return []
        answer = [ThingAct(f"Answer {said.call}", partial(self.answered.emit, said))] if said.side == "theirs" else []
        keep = [ThingAct("Save this picture", partial(self.saved.emit, said))] if self._pixmap(said) is not None else []
        return [*answer, *keep]

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        theme, px = self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(theme.color("violet" if self.hasFocus() else "line"))
        painter.setBrush(theme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        middle = self.width() / 2
        stitch(
            painter,
            QPointF(middle, px(8)),
            QPointF(middle, self.height() - px(8)),
            theme.color("line"),
            solid=self._air.on,
        )
        said = self._air.kept.said[: len(self._air.kept.said) - self.back]
        if not said:
            painter.setPen(theme.color("ink2"))
            painter.setFont(theme.font(13))
            box = QRectF(px(30), 0, self.width() - px(60), self.height())
            painter.fillRect(QRectF(middle - px(6), self.height() / 2 - px(24), px(12), px(48)), theme.color("sheet"))
            painter.drawText(box, int(Qt.AlignmentFlag.AlignCenter) | _WRAP, _EMPTY)
            return
        y = float(self.height() - px(12))
        self._lines = []
        for at in range(len(said) - 1, max(len(said) - _MOST, 0) - 1, -1):
            y = self._paint_said(painter, at, said[at], y)
            self._lines.append((y, said[at]))
            if y < 0:
                return

    def _paint_said(self, painter: QPainter, at: int, said: Said, bottom: float) -> float:
        """One line of the history, its foot at a height; the height above it."""
        theme, px = self._theme, self._theme.px
        mine = said.side == "mine"
        middle, width = self.width() / 2, self.width() / 2 - px(40)
        left = px(14) if mine else middle + px(22)
        metrics = QFontMetricsF(theme.font(13))
        picture = self._pixmap(said)
        text = QRectF(0, 0, width, 4_000)
        high = metrics.boundingRect(text, _WRAP, said.text).height() + (px(_PICTURE) if picture is not None else 0)
        top = bottom - high - px(20)
        flags = int(Qt.AlignmentFlag.AlignRight if mine else Qt.AlignmentFlag.AlignLeft)
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        painter.drawText(QRectF(left, top, width, px(18)), flags, self._head(at, said, width))
        y = top + px(18)
        if picture is not None:
            shown = picture.scaledToHeight(px(_PICTURE - 8), Qt.TransformationMode.SmoothTransformation)
            painter.drawPixmap(QPointF(left + width - shown.width() if mine else left, y), shown)
            y += px(_PICTURE)
        painter.setFont(theme.font(13))
        painter.setPen(theme.color("ink"))
        painter.drawText(QRectF(left, y, width, bottom - y), flags | _WRAP, said.text)
        sure = not mine or at in self._air.kept.proven or said.kind == "picture"
        spot = QPointF(middle, top + px(10))
        bead(painter, spot, theme.color("ok" if sure else "violet"), theme.color("sheet"), filled=sure)
        return top - px(10)

    def _head(self, at: int, said: Said, width: float) -> str:
        """Who, when, where from and how far proven, as much of it as there is room for; the least needed goes first."""
        proof = (
            "there, block by block"
            if said.kind == "picture"
            else "answered"
            if at in self._air.kept.proven
            else "not proven"
        )
        to = f"{said.call} to {said.to or 'all'}"
        when = f"{said.utc[11:16]} UTC"
        state = proof if said.side == "mine" else ""
        metrics = QFontMetricsF(self._theme.font(12))
        for parts in (
            (to, when, said.position, state),
            (to, when, state),
            (said.call, when, state),
            (when, state),
            (state or when,),
        ):
            head = " · ".join(filter(None, parts))
            if metrics.horizontalAdvance(head) <= width:
                break
        return head

    def _pixmap(self, said: Said) -> QPixmap | None:
        """The picture of a line, read once and with care; None where there is none, or none that can be shown."""
        if said.kind != "picture" or not said.file or "/" in said.file:
            return None
        if said.file not in self._pixmaps:
            self._pixmaps[said.file] = _read_pixmap(self._air, said.file)
        found = self._pixmaps[said.file]
        return None if found.isNull() else found


def _read_pixmap(air: AirJob, name: str) -> QPixmap:
    from umbra_awl.core.keep.limits import read_within
    from umbra_awl.core.messages.errors import PictureError
    from umbra_awl.core.messages.frames import MOST_PICTURE_BYTES
    from umbra_awl.core.messages.picture import open_picture
    from umbra_awl.desk.onair.messages.images import pixmap_of

    try:
        return pixmap_of(open_picture(read_within(air.kept.history.folder / name, MOST_PICTURE_BYTES)).image)
    except (OSError, PictureError):
        return QPixmap()
