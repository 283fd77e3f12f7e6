"""The sheet of what must match: plan, radio and hotspot side by side, a thread where they agree, a cut where they do not."""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.hotspot.match.sheet import Joint, MatchRow, masked
from umbra_awl.desk.parts.thread import bead, cross, stitch
from umbra_awl.desk.theme.theme import Theme

JOINT_WORDS: dict[Joint, str] = {"joined": "agrees", "cut": "differs", "open": "not known"}
_NAMES, _THREAD = 0.20, 0.07
_HEADS = ("The plan says", "The radio holds", "The hotspot says")


class MatchPicture(QWidget):
    """Shows rows; arrows and click choose one, Return acts on it."""

    chosen = pyqtSignal(int)
    acted = pyqtSignal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.rows: tuple[MatchRow, ...] = ()
        self.at = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.updateGeometry)
        self._describe()

    def show_rows(self, rows: tuple[MatchRow, ...], *, ids_shown: bool = False) -> None:
        """Show other rows; IDs only where that was asked for."""
        self.rows = rows if ids_shown else tuple(map(masked, rows))
        self.at = min(self.at, max(len(rows) - 1, 0))
        self._describe()
        self.updateGeometry()
        self.update()

    def go(self, at: int) -> None:
        """Choose a row."""
        if self.rows:
            self.at = min(max(at, 0), len(self.rows) - 1)
            self._describe()
            self.update()
            self.chosen.emit(self.at)

    def _describe(self) -> None:
        if not self.rows:
            self.setAccessibleName("What must match: nothing is known yet")
            return
        row = self.rows[self.at]
        held = f"radio {row.radio or 'unknown'}, hotspot {row.hotspot or 'unknown'}"
        told = f"{row.field.words}: plan {row.plan or 'nothing'}, {held}"
        joints = f"radio {JOINT_WORDS[row.to_radio]}, hotspot {JOINT_WORDS[row.to_hotspot]}"
        self.setAccessibleName(f"What must match. {told}; {joints}. {row.notice}")

    def _height(self, row: MatchRow) -> int:
        return self._theme.px(26) + (self._theme.px(17) if row.cut else 0)

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(500), self._theme.px(26) + sum(self._height(row) for row in self.rows) + 6)

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(300), self.sizeHint().height())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        y = self._theme.px(26)
        for at, row in enumerate(self.rows):
            y += self._height(row)
            if event is not None and event.position().y() <= y:
                self.go(at)
                return

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        key = event.key() if event is not None else 0
        if key in {Qt.Key.Key_Up, Qt.Key.Key_Down}:
            self.go(self.at + (1 if key == Qt.Key.Key_Down else -1))
        elif key in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self.acted.emit(self.at)
        else:
            super().keyPressEvent(event)

    def _columns(self) -> list[QRectF]:
        """Where the three columns of values are, for a row at the top."""
        wide = self.width() - self._theme.px(10)
        names, thread = wide * _NAMES, wide * _THREAD
        room = (wide - names - 2 * thread) / 3
        return [QRectF(names + at * (room + thread), 0, room, self._theme.px(26)) for at in range(3)]

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, columns = self._theme, self._columns()
        painter.setFont(theme.font(12, weight=600))
        painter.setPen(theme.color("ink2"))
        for box, words in zip(columns, _HEADS, strict=True):
            painter.drawText(box, int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter), words)
        y = float(theme.px(26))
        for at, row in enumerate(self.rows):
            self._paint_row(painter, at, row, y, columns)
            y += self._height(row)

    def _paint_row(self, painter: QPainter, at: int, row: MatchRow, y: float, columns: list[QRectF]) -> None:
        theme, px = self._theme, self._theme.px
        box = QRectF(0, y, self.width(), self._height(row))
        if at == self.at:
            painter.setPen(theme.color("violet") if self.hasFocus() else Qt.GlobalColor.transparent)
            painter.setBrush(theme.color("violet_tint"))
            painter.drawRoundedRect(box.adjusted(1, 0, -1, -1), 6, 6)
        elif row.cut:
            painter.fillRect(box.adjusted(0, 0, 0, -1), theme.color("stop_tint"))
        names = QRectF(px(8), y, columns[0].left() - px(12), px(26))
        painter.setFont(theme.font(13))
        self._text(painter, names, row.field.words, "ink2")
        painter.setFont(theme.font(13, mono=True))
        for column, text in zip(columns, (row.plan, row.radio, row.hotspot), strict=True):
            told = text or ("–" if column is columns[0] else "not known" if self._could(row, column, columns) else "–")
            self._text(painter, column.translated(0, y).adjusted(0, 0, -px(4), 0), told, "ink" if text else "ink2")
        for joint, left, right in ((row.to_radio, 0, 1), (row.to_hotspot, 1, 2)):
            self._joint(painter, joint, columns[left].right(), columns[right].left(), y + px(13))
        if row.cut:
            painter.setFont(theme.font(12))
            self._text(
                painter,
                QRectF(columns[0].left(), y + px(23), self.width() - columns[0].left() - px(8), px(18)),
                row.notice,
                "stop",
            )

    @staticmethod
    def _could(row: MatchRow, column: QRectF, columns: list[QRectF]) -> bool:
        return column is columns[2] or row.field.radio

    def _text(self, painter: QPainter, box: QRectF, text: str, tone: str) -> None:
        painter.setPen(self._theme.color(tone))
        short = QFontMetricsF(painter.font()).elidedText(text, Qt.TextElideMode.ElideRight, box.width())
        painter.drawText(box, int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter), short)

    def _joint(self, painter: QPainter, joint: Joint, left: float, right: float, y: float) -> None:
        theme, px = self._theme, self._theme.px
        start, end = QPointF(left + px(8), y), QPointF(right - px(12), y)
        if joint == "open":
            stitch(painter, start, end, theme.color("line"), solid=False)
            return
        stitch(painter, start, end, theme.color("ok" if joint == "joined" else "stop"), solid=joint == "joined")
        middle = QPointF((start.x() + end.x()) / 2, y)
        if joint == "cut":
            cross(painter, middle, theme.color("stop"))
        else:
            bead(painter, end, theme.color("ok"), theme.color("bg"), filled=True)
