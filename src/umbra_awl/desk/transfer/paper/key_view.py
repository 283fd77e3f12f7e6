"""One memory's keys drawn as caps in their rows: the label, the keys, what the display shows; the step that saves is boxed."""

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetricsF, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.paper.keys import KeyStep
from umbra_awl.core.paper.keysheet import Entered
from umbra_awl.core.paper.taps import WAIT, runs, until_parts
from umbra_awl.desk.parts.wrap import in_lines
from umbra_awl.desk.theme.theme import Theme

_LABEL, _SHOWS, _CAP, _ROW, _GAP = 148, 146, 26, 36, 4


class KeyView(QWidget):
    """Shows one memory at a time."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._steps: tuple[KeyStep, ...] = ()
        self._fault = ""
        self._lines: list[list[list[tuple[str, int]]]] = []
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        theme.changed.connect(self._lay)

    def show_memory(self, entered: Entered | None) -> None:
        """Show the keys of a memory."""
        self._fault = entered.fault if entered is not None else ""
        self.show_steps(entered.steps if entered is not None else ())
        if not self._steps:
            self.setAccessibleName(self._fault or "No memory is chosen")

    def show_steps(self, steps: tuple[KeyStep, ...]) -> None:
        """Show some steps."""
        self._steps = steps
        self._fault = "" if steps else self._fault
        self.setAccessibleName("; ".join(f"{step.label}: {' '.join(step.keys)}" for step in steps))
        self._lay()

    def _cap_width(self, key: str, count: int) -> float:
        metrics = QFontMetricsF(self._theme.font(13, mono=True, weight=600))
        wide = max(self._theme.px(_CAP), metrics.horizontalAdvance(key) + self._theme.px(12))
        return wide + (metrics.horizontalAdvance(f"×{count}") + 4 if count > 1 else 0)

    def _lay(self) -> None:
        """Break each step's keys into rows that fit."""
        room = self.width() - self._theme.px(_LABEL + _SHOWS) - 8
        self._lines = [self._rows(step, room) for step in self._steps]
        self.setMinimumHeight(self.sizeHint().height())
        self.updateGeometry()
        self.update()

    def _rows(self, step: KeyStep, room: float) -> list[list[tuple[str, int]]]:
        rows: list[list[tuple[str, int]]] = [[]]
        used = 0.0
        for key, count in runs(step.keys):
            width = self._cap_width(key, count) + self._theme.px(_GAP)
            if used + width > room and rows[-1]:
                rows.append([])
                used = 0.0
            rows[-1].append((key, count))
            used += width
        return rows

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._lay()

    def sizeHint(self) -> QSize:
        px = self._theme.px
        notes = sum(bool(step.note) for step in self._steps)
        return QSize(px(520), px(12) + sum(len(rows) for rows in self._lines) * px(_ROW) + notes * px(18) + px(40))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, px = self._theme, self._theme.px
        if self._fault:
            painter.setFont(theme.font(14, weight=600))
            painter.setPen(theme.color("stop"))
            flags = in_lines(Qt.AlignmentFlag.AlignTop)
            painter.drawText(QRectF(8, 8, self.width() - 16, 80), flags, f"It cannot be entered. {self._fault}")
            return
        y = float(px(4))
        for step, rows in zip(self._steps, self._lines, strict=True):
            y = self._step(painter, step, rows, y)

    def _step(self, painter: QPainter, step: KeyStep, rows: list[list[tuple[str, int]]], y: float) -> float:
        theme, px = self._theme, self._theme.px
        height = len(rows) * px(_ROW) + (px(18) if step.note else 0)
        if step.saves:
            painter.setPen(QPen(theme.color("violet"), 2))
            painter.setBrush(theme.color("violet_tint"))
            painter.drawRoundedRect(QRectF(1, y, self.width() - 3, height - 2), 6, 6)
        painter.setFont(theme.font(13, weight=600 if step.saves else 500))
        painter.setPen(theme.color("ink"))
        label = QRectF(8, y, px(_LABEL) - 12, px(_ROW))
        painter.drawText(label, in_lines(Qt.AlignmentFlag.AlignVCenter), step.label)
        painter.setFont(theme.font(13, mono=True))
        painter.setPen(theme.color("ink2"))
        shows = QRectF(self.width() - px(_SHOWS), y, px(_SHOWS) - 8, px(_ROW))
        painter.drawText(shows, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, step.shows)
        at = y
        for keys in rows:
            self._keys(painter, keys, at)
            at += px(_ROW)
        if step.note:
            painter.setFont(theme.font(12))
            painter.setPen(theme.color("brass" if step.field in {"offset", "shift"} else "ink2"))
            painter.drawText(
                QRectF(px(_LABEL), at - 4, self.width() - px(_LABEL), px(18)), Qt.AlignmentFlag.AlignVCenter, step.note
            )
        return y + height

    def _keys(self, painter: QPainter, keys: list[tuple[str, int]], y: float) -> None:
        theme, px = self._theme, self._theme.px
        x = float(px(_LABEL))
        for key, count in keys:
            wide = self._cap_width(key, 1)
            box = QRectF(x, y + (px(_ROW) - px(_CAP)) / 2, wide, px(_CAP))
            if key == WAIT:
                painter.setFont(theme.font(12, weight=600))
                painter.setPen(theme.color("brass"))
            else:
                painter.setPen(QPen(theme.color("ink2"), 1))
                painter.setBrush(theme.color("brass_tint" if until_parts(key) else "sheet"))
                painter.drawRoundedRect(box, 5, 5)
                painter.setFont(theme.font(13, mono=True, weight=600))
                painter.setPen(theme.color("ink"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, key)
            if count > 1:
                painter.setFont(theme.font(13, mono=True, weight=600))
                painter.setPen(theme.color("violet"))
                painter.drawText(
                    QRectF(box.right() + 3, box.top(), 60, box.height()), Qt.AlignmentFlag.AlignVCenter, f"×{count}"
                )
            x += self._cap_width(key, count) + px(_GAP)
