"""The picture in hand with the part that is sent, and beside it that part as it arrives."""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.messages.picture import Crop
from umbra_awl.desk.theme.theme import Theme

_EMPTY = (
    "Open a picture (or drop one here). Drag over the part that matters: crop first, then shrink, then lower quality."
)
_STEP = 0.02
_LEAST = 0.03


class CropPicture(QWidget):
    """Shows the whole picture; drag, or arrows move the part and Shift with arrows sizes it. Home takes all."""

    cropped = pyqtSignal(object)
    dropped = pyqtSignal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.pixmap = QPixmap()
        self.arrives = QPixmap()
        self.crop = Crop()
        self._from: QPointF | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAcceptDrops(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self._describe()

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(640), self._theme.px(340))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(320), self._theme.px(90))

    def show_pictures(self, whole: QPixmap, arrives: QPixmap, crop: Crop) -> None:
        """Show another picture, part, or what arrives of it."""
        self.pixmap, self.arrives, self.crop = whole, arrives, crop
        self._describe()
        self.update()

    def _describe(self) -> None:
        if self.pixmap.isNull():
            self.setAccessibleName("Picture: none opened yet")
            return
        crop = self.crop
        part = f"{100 * crop.left:.0f} to {100 * crop.right:.0f} % across, {100 * crop.top:.0f} to {100 * crop.bottom:.0f} % down"
        self.setAccessibleName(
            f"Picture of {self.pixmap.width()} by {counted(self.pixmap.height(), 'point')}. Part sent: {part}"
        )

    # where things are

    def _boxes(self) -> tuple[QRectF, QRectF]:
        """The rooms of the whole picture and of what arrives."""
        px = self._theme.px
        half = (self.width() - px(36)) / 2
        high = self.height() - px(44)
        return QRectF(px(12), px(32), half, high), QRectF(px(24) + half, px(32), half, high)

    @staticmethod
    def _fitted(pixmap: QPixmap, room: QRectF) -> QRectF:
        if pixmap.isNull() or not pixmap.width() or not pixmap.height():
            return QRectF(room.topLeft(), room.topLeft())
        scale = min(room.width() / pixmap.width(), room.height() / pixmap.height())
        wide, high = pixmap.width() * scale, pixmap.height() * scale
        return QRectF(room.left() + (room.width() - wide) / 2, room.top() + (room.height() - high) / 2, wide, high)

    def _part(self, box: QRectF) -> QRectF:
        crop = self.crop
        top_left = QPointF(box.left() + crop.left * box.width(), box.top() + crop.top * box.height())
        return QRectF(top_left, QPointF(box.left() + crop.right * box.width(), box.top() + crop.bottom * box.height()))

    # hands

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and not self.pixmap.isNull():
            self._from = event.position()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._from is None:
            return
        box = self._fitted(self.pixmap, self._boxes()[0])
        one, other = self._share(box, self._from), self._share(box, event.position())
        left, right = sorted((one.x(), other.x()))
        top, bottom = sorted((one.y(), other.y()))
        if right - left >= _LEAST and bottom - top >= _LEAST:
            self._take(Crop(left, top, right, bottom))

    def mouseReleaseEvent(self, _event: QMouseEvent | None) -> None:
        self._from = None

    @staticmethod
    def _share(box: QRectF, at: QPointF) -> QPointF:
        x = (at.x() - box.left()) / max(box.width(), 1)
        y = (at.y() - box.top()) / max(box.height(), 1)
        return QPointF(min(max(x, 0.0), 1.0), min(max(y, 0.0), 1.0))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None or self.pixmap.isNull():
            super().keyPressEvent(event)
            return
        moves = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}
        step = moves.get(Qt.Key(event.key()))
        if event.key() == Qt.Key.Key_Home:
            self._take(Crop())
        elif step is None:
            super().keyPressEvent(event)
        elif event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            crop = self.crop
            right = min(max(crop.right + step[0] * _STEP, crop.left + _LEAST), 1.0)
            self._take(
                crop._replace(right=right, bottom=min(max(crop.bottom + step[1] * _STEP, crop.top + _LEAST), 1.0))
            )
        else:
            self._move(step)

    def _move(self, step: tuple[int, int]) -> None:
        crop = self.crop
        x = min(max(step[0] * _STEP, -crop.left), 1.0 - crop.right)
        y = min(max(step[1] * _STEP, -crop.top), 1.0 - crop.bottom)
        self._take(Crop(crop.left + x, crop.top + y, crop.right + x, crop.bottom + y))

    def _take(self, crop: Crop) -> None:
        if crop != self.crop:
            self.crop = crop
            self._describe()
            self.update()
            self.cropped.emit(crop)

    def dragEnterEvent(self, event: object) -> None:
        mime = event.mimeData()  # type: ignore[attr-defined]
        if mime is not None and mime.hasUrls():
            event.acceptProposedAction()  # type: ignore[attr-defined]

    def dropEvent(self, event: object) -> None:
        urls = event.mimeData().urls()  # type: ignore[attr-defined]
        if urls:
            self.dropped.emit(urls[0].toLocalFile())

    # painting

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        theme, px = self._theme, self._theme.px
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.setPen(theme.color("violet" if self.hasFocus() else "line"))
        painter.setBrush(theme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        if self.pixmap.isNull():
            painter.setPen(theme.color("ink2"))
            painter.setFont(theme.font(13))
            flags = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap)
            painter.drawText(QRectF(self.rect()).adjusted(px(30), 0, -px(30), 0), flags, _EMPTY)
            return
        whole, arrives = self._boxes()
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        painter.drawText(
            QRectF(whole.left(), px(8), whole.width(), px(20)), Qt.AlignmentFlag.AlignVCenter, "The part that is sent"
        )
        painter.drawText(
            QRectF(arrives.left(), px(8), arrives.width(), px(20)), Qt.AlignmentFlag.AlignVCenter, "As it arrives"
        )
        box = self._fitted(self.pixmap, whole)
        painter.drawPixmap(box, self.pixmap, QRectF(self.pixmap.rect()))
        part = self._part(box)
        veil = QColor(theme.color("bg"))
        veil.setAlpha(165)
        for side in _around(box, part):
            painter.fillRect(side, veil)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(theme.color("violet"), 2))
        painter.drawRect(part)
        if not self.arrives.isNull():
            painter.drawPixmap(self._fitted(self.arrives, arrives), self.arrives, QRectF(self.arrives.rect()))


def _around(box: QRectF, part: QRectF) -> tuple[QRectF, ...]:
    """What of a box lies around a part of it."""
    return (
        QRectF(box.topLeft(), QPointF(box.right(), part.top())),
        QRectF(QPointF(box.left(), part.bottom()), box.bottomRight()),
        QRectF(QPointF(box.left(), part.top()), QPointF(part.left(), part.bottom())),
        QRectF(QPointF(part.right(), part.top()), QPointF(box.right(), part.bottom())),
    )
