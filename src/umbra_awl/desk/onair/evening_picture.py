"""The figures of many evenings: calls heard and missed as one stripe, waiting by group and hour as bars with their spread."""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.simulation.ears import destination_of
from umbra_awl.core.simulation.evenings import WHY_WORDS, EveningRow, Evenings
from umbra_awl.desk.parts.thread import bead
from umbra_awl.desk.theme.theme import Theme

_RIGHT = int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
_WRAPPED = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap)
_LEFT = Qt.AlignmentFlag.AlignVCenter
_TEXT = "Calls to you stand here as one stripe: what is heard, and what is missed by its reason. Below it, how long you wait."
_HEARD = "heard"
_HATCH = (
    Qt.BrushStyle.SolidPattern,
    Qt.BrushStyle.Dense4Pattern,
    Qt.BrushStyle.BDiagPattern,
    Qt.BrushStyle.Dense6Pattern,
    Qt.BrushStyle.DiagCrossPattern,
)
_MOST_ROWS = 14


class EveningPicture(QWidget):
    """Shows one set of figures, and beside it one that was kept."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.result: Evenings | None = None
        self.kept: Evenings | None = None
        self.stale = False
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Figures of many evenings: none yet")

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(560), self._theme.px(380))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(320), self._theme.px(120))

    def show_result(self, result: Evenings | None, kept: Evenings | None, *, stale: bool) -> None:
        """Show other figures."""
        self.result, self.kept, self.stale = result, kept, stale
        if result is not None:
            why = ", ".join(f"{WHY_WORDS.get(key, key)} {share.words()}" for key, share in result.reasons[:4])
            before = f" Before: {kept.missed.words()}." if kept is not None and kept is not result else ""
            self.setAccessibleName(
                f"Of {counted(result.number, 'evening')}: missed {result.missed.words()}: {why}.{before}"
            )
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        theme, px = self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(theme.color("line"))
        painter.setBrush(theme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        box = QRectF(self.rect()).adjusted(px(14), px(10), -px(14), -px(10))
        if self.result is None:
            painter.setPen(theme.color("ink2"))
            painter.setFont(theme.font(13))
            painter.drawText(box.adjusted(20, 0, -20, 0), _WRAPPED, _TEXT)
            return
        if self.stale:
            painter.setOpacity(0.55)
        y = self._stripe(painter, box, box.top(), self.result, "Calls to me")
        if self.kept is not None and self.kept is not self.result:
            y = self._stripe(painter, box, y + px(4), self.kept, "Kept: before")
        y = self._reasons(painter, box, y + px(6))
        self._waits(painter, box, y + px(8))

    def _stripe(self, painter: QPainter, box: QRectF, y: float, result: Evenings, title: str) -> float:
        """Heard and missed as shares of one stripe."""
        theme, px = self._theme, self._theme.px
        painter.setFont(theme.font(13, weight=600))
        painter.setPen(theme.color("ink"))
        painter.drawText(QRectF(box.left(), y, box.width(), px(20)), _LEFT, title)
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        where = f"in {counted(result.number, 'evening')}, seed {result.seed}"
        said = f"missed {result.missed.words()} of {result.missed.number:,} {where}"
        painter.drawText(
            QRectF(box.left(), y, box.width(), px(20)),
            _RIGHT,
            said,
        )
        y += px(22)
        x = box.left()
        parts = [(_HEARD, 1 - result.missed.value), *((key, share.value) for key, share in result.reasons)]
        for at, (key, share) in enumerate(parts):
            width = box.width() * share
            rect = QRectF(x, y, max(width - 1, 0), px(26))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("ok" if key == _HEARD else "stop_tint"))
            painter.drawRect(rect)
            if key != _HEARD:
                painter.setBrush(theme.color("stop"))
                brush = painter.brush()
                brush.setStyle(_HATCH[(at - 1) % len(_HATCH)])
                painter.setBrush(brush)
                painter.setOpacity(0.5 if not self.stale else 0.3)
                painter.drawRect(rect)
                painter.setOpacity(0.55 if self.stale else 1.0)
            if key == _HEARD and width > px(70):
                painter.setPen(theme.color("panel"))
                painter.drawText(rect.adjusted(px(6), 0, 0, 0), _LEFT, f"heard {100 * share:.0f} %")
            x += width
        return y + px(26)

    def _reasons(self, painter: QPainter, box: QRectF, y: float) -> float:
        """Why, in words, with the share of each before and after."""
        theme, px = self._theme, self._theme.px
        assert self.result is not None
        kept = dict(self.kept.reasons) if self.kept is not None and self.kept is not self.result else {}
        painter.setFont(theme.font(12))
        for at, (key, share) in enumerate(self.result.reasons[:5]):
            if share.value < 0.005:
                continue
            swatch = QRectF(box.left(), y + px(3), px(12), px(12))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.fillRect(swatch, theme.color("stop_tint"))
            brush = painter.brush()
            brush.setColor(theme.color("stop"))
            brush.setStyle(_HATCH[at % len(_HATCH)])
            painter.fillRect(swatch, brush)
            painter.setPen(theme.color("ink"))
            before = f"   before {kept[key].words()}" if key in kept else ""
            text = f"{share.words():>10}  {WHY_WORDS.get(key, key)}{before}"
            painter.drawText(QRectF(box.left() + px(20), y, box.width() - px(20), px(18)), _LEFT, text)
            y += px(19)
        return y

    def _waits(self, painter: QPainter, box: QRectF, y: float) -> None:
        """Waiting until one gets in, by group and hour: a filled bead for half, a line to nine in ten."""
        theme, px = self._theme, self._theme.px
        assert self.result is not None
        rows = self.result.rows
        room = int((box.bottom() - y - px(44)) // px(22))
        if room < 1 or not rows:
            return
        painter.setFont(theme.font(13, weight=600))
        painter.setPen(theme.color("ink"))
        painter.drawText(QRectF(box.left(), y, box.width(), px(20)), _LEFT, "Wait until I get in")
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        legend = "bead: half within · line: nine in ten within"
        painter.drawText(
            QRectF(box.left(), y, box.width(), px(20)),
            _RIGHT,
            legend,
        )
        y += px(24)
        shown = sorted(rows, key=lambda item: -item.most_s)[: min(room, _MOST_ROWS)]
        longest = max((item.most_s for item in shown), default=1.0) or 1.0
        for item in sorted(shown, key=lambda one: (one.group, one.hour)):
            self._wait(painter, QRectF(box.left(), y, box.width(), px(20)), item, longest)
            y += px(22)

    def _wait(self, painter: QPainter, box: QRectF, item: EveningRow, longest: float) -> None:
        theme, px = self._theme, self._theme.px
        assert self.result is not None
        destination = self.result.setting.index.destinations.get(destination_of(item.group))
        name = destination.name if destination is not None else item.group
        painter.setPen(theme.color("ink"))
        painter.setFont(theme.font(12))
        label = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, px(150))
        painter.drawText(QRectF(box.left(), box.top(), px(152), box.height()), _LEFT, label)
        painter.setPen(theme.color("ink2"))
        painter.setFont(theme.font(12, mono=True))
        painter.drawText(
            QRectF(box.left() + px(156), box.top(), px(50), box.height()),
            Qt.AlignmentFlag.AlignVCenter,
            f"{item.hour:02d} h",
        )
        left, right = box.left() + px(206), box.right() - px(110)
        scale = max(right - left, 10) / longest
        middle = box.center().y()
        painter.setPen(QPen(theme.color("line"), 1))
        painter.drawLine(QPointF(left, middle), QPointF(right, middle))
        painter.setPen(QPen(theme.color("brass"), 3))
        painter.drawLine(QPointF(left + item.half_s * scale, middle), QPointF(left + item.most_s * scale, middle))
        bead(
            painter,
            QPointF(left + item.half_s * scale, middle),
            theme.color("violet"),
            theme.color("sheet"),
            filled=True,
        )
        painter.setPen(theme.color("ink"))
        text = f"{item.half_s:.0f} s, {item.most_s:.0f} s"
        painter.drawText(QRectF(right + px(10), box.top(), px(100), box.height()), _LEFT, text)
