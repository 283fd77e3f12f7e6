"""The phone and the radio side by side: the list in the one, the front of the other as the app mirrors it, the link between."""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.transfer.app.phone import MirroredFront
from umbra_awl.desk.parts.thread import bead, cross, stitch
from umbra_awl.desk.theme.theme import Theme

_LINKS = {"connected": "connected: what it shows is the read-back", "asleep": "asleep"}
_LINES = 4


class AppPicture(QWidget):
    """Left the phone, right the radio, the thread between them solid while the app is connected."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._front = MirroredFront()
        self._phone: tuple[str, ...] = ()
        self._radio = ""
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(500, self._theme.px(136))

    def show_state(self, radio: str, front: MirroredFront, phone: tuple[str, ...]) -> None:
        """Show what the app says, and the phone's list in a few lines."""
        self._radio, self._front, self._phone = radio, front, phone
        link = front.link or "not asked yet"
        mirrored = " / ".join(line for line in front.lines if line)
        self.setAccessibleName(
            f"Phone: {'; '.join(phone)}. Link: {link}. {radio}, as mirrored: {mirrored or 'nothing yet'}"
        )
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px, theme = self._theme.px, self._theme
        wide = min(px(290), self.width() * 0.36)
        phone = QRectF(1, px(4), wide, px(126))
        radio = QRectF(self.width() - wide - 1, px(4), wide, px(126))
        self._box(
            painter,
            phone,
            "Phone" + (f", {self._front.platform}" if self._front.platform else ""),
            self._phone,
            mono=False,
        )
        self._box(
            painter, radio, self._radio, self._front.lines or ("nothing mirrored yet",), mono=bool(self._front.lines)
        )
        left, right = QPointF(phone.right() + px(14), px(66)), QPointF(radio.left() - px(14), px(66))
        up = self._front.link == "connected"
        stitch(painter, left, right, theme.color("ok" if up else "line"), solid=up)
        for end in (left, right):
            bead(painter, end, theme.color("ok" if up else "ink2"), theme.color("bg"), filled=up)
        middle = QPointF((left.x() + right.x()) / 2, px(66))
        if self._front.link == "asleep":
            cross(painter, middle, theme.color("stop"))
        words = {"connected": "connected: what it shows is the read-back", "asleep": "asleep"}.get(
            self._front.link, "no link yet"
        )
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        under = QRectF(left.x(), px(78), right.x() - left.x(), px(40))
        painter.drawText(under, int(Qt.AlignmentFlag.AlignHCenter | Qt.TextFlag.TextWordWrap), words)

    def _box(self, painter: QPainter, box: QRectF, title: str, lines: tuple[str, ...], *, mono: bool) -> None:
        theme, px = self._theme, self._theme.px
        painter.setPen(QPen(theme.color("line"), 1))
        painter.setBrush(theme.color("panel"))
        painter.drawRoundedRect(box, 6, 6)
        painter.setPen(theme.color("ink"))
        painter.setFont(theme.font(14, weight=600))
        painter.drawText(box.adjusted(px(12), px(8), -px(8), 0), Qt.AlignmentFlag.AlignTop, title)
        painter.setFont(theme.font(13, mono=mono))
        painter.setPen(theme.color("ink" if mono else "ink2"))
        for at, line in enumerate(lines[:_LINES]):
            row = box.adjusted(px(12), px(36) + at * px(21), -px(8), 0)
            cut = painter.fontMetrics().elidedText(line, Qt.TextElideMode.ElideRight, round(row.width()))
            painter.drawText(row, Qt.AlignmentFlag.AlignTop, cut)
