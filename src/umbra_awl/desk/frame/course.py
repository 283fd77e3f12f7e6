"""The course: the stages in working order on a stitched thread, which shows what is done and not only where one is."""

from collections.abc import Sequence
from functools import partial

from PyQt6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QRadioButton, QSizePolicy, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.desk.parts.thread import disc, stitch
from umbra_awl.desk.theme.theme import Theme


class _StageMark(QRadioButton):
    """One stage as the keyboard and a screen reader find it; the course paints it."""

    def __init__(self, course: "Course") -> None:
        super().__init__(course)
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)

    def hitButton(self, _at: QPoint) -> bool:
        return True

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        """Nothing of its own."""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Left and Right are the course's."""
        if event is not None and event.key() in _STEPS:
            event.ignore()
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.parentWidget().update()  # type: ignore[union-attr]

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.parentWidget().update()  # type: ignore[union-attr]


_STEPS = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}


class Course(QWidget):
    """Shows the stages with the number of open findings in each; click, Left and Right choose."""

    chosen = pyqtSignal(str)

    def __init__(self, theme: Theme, stages: Sequence[tuple[str, str]]) -> None:
        """`stages` are key and title of each, in working order."""
        super().__init__()
        self._theme, self._stages = theme, stages
        self._current = stages[0][0]
        self._counts: dict[str, tuple[int, str]] = {}
        self._done: dict[str, float] = {}
        self.setAccessibleName("Course")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.marks = {key: _StageMark(self) for key, _title in stages}
        for key, made in self.marks.items():
            made.clicked.connect(partial(self.chosen.emit, key))
        self._describe()

    def sizeHint(self) -> QSize:
        return QSize(600, self._theme.px(46))

    def set_current(self, stage: str) -> None:
        """Mark a stage as the open one."""
        self._current = stage
        self._describe()
        self.update()

    def set_counts(self, counts: dict[str, tuple[int, str]]) -> None:
        """Set, for each stage, how many findings are open and how grave the gravest is."""
        self._counts = counts
        self._describe()
        self.update()

    def set_done(self, shares: dict[str, float]) -> None:
        """Set how much of each stage's work is done, from 0 to 1."""
        self._done = shares
        self._describe()
        self.update()

    def _describe(self) -> None:
        """Let each stage say itself; the open one is where Tab stops."""
        for at, (key, name) in enumerate(self._stages):
            made, count = self.marks[key], self._counts.get(key, (0, ""))[0]
            found = f", {counted(count, 'finding')}" if count else ""
            made.setAccessibleName(f"{name}, stage {at + 1} of {len(self._stages)}, {self._done_words(key)}{found}")
            made.setChecked(key == self._current)
            made.setFocusPolicy(Qt.FocusPolicy.StrongFocus if key == self._current else Qt.FocusPolicy.ClickFocus)
        self.setFocusProxy(self.marks.get(self._current))

    def hasFocus(self) -> bool:
        """Whether one of the stages has the keyboard."""
        return any(made.hasFocus() for made in self.marks.values())

    def _done_words(self, key: str) -> str:
        share = self._done.get(key, 0.0)
        return "done" if share >= 1 else f"{share:.0%} done" if share else "not begun"

    def _left(self, at: int) -> float:
        return 30 + at * min(190.0, (self.width() - 46) / max(len(self._stages), 1))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        lefts = [*(int(self._left(at)) - 14 for at in range(len(self._stages))), self.width()]
        for at, made in enumerate(self.marks.values()):
            made.setGeometry(lefts[at], 0, lefts[at + 1] - lefts[at], self.height())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A press beside the stages is for the nearest."""
        if event is None:
            return
        at = max(
            (place for place in range(len(self._stages)) if event.position().x() >= self._left(place) - 14), default=0
        )
        self.chosen.emit(self._stages[at][0])

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        keys = [key for key, _name in self._stages]
        step = _STEPS.get(Qt.Key(event.key())) if event is not None else None
        if step is None:
            super().keyPressEvent(event)
            return
        with_keys = self.hasFocus()
        self.chosen.emit(keys[min(max(keys.index(self._current) + step, 0), len(keys) - 1)])
        if with_keys:
            self.setFocus()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = self._theme
        painter.fillRect(self.rect(), theme.color("panel"))
        painter.fillRect(0, self.height() - 1, self.width(), 1, theme.color("line"))
        y = self.height() - theme.px(12)
        ends = [*(self._left(at) for at in range(len(self._stages))), float(self.width())]
        stitch(painter, QPointF(0, y), QPointF(ends[0], y), theme.color("violet"), solid=True)
        for at, (key, name) in enumerate(self._stages):
            whole = self._done.get(key, 0.0) >= 1
            color = theme.color("violet" if whole else "line")
            stitch(painter, QPointF(ends[at], y), QPointF(ends[at + 1], y), color, solid=whole)
            self._paint_stage(painter, at, key, name, y)

    def _paint_stage(self, painter: QPainter, at: int, key: str, name: str, y: int) -> None:
        theme, left = self._theme, self._left(at)
        share, current = self._done.get(key, 0.0), key == self._current
        disc(painter, QPointF(left, y), theme.color("violet" if share else "ink2"), theme.color("panel"), share)
        painter.setFont(theme.font(14, weight=600 if current else 500))
        baseline = theme.px(20)
        width = painter.fontMetrics().horizontalAdvance(name)
        if current:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("violet_tint"))
            painter.drawRoundedRect(QRectF(left - 12, 3, width + 12, theme.px(22)), 6, 6)
        painter.setPen(theme.color("violet" if current else "ink"))
        painter.drawText(QPointF(left - 6, baseline), name)
        count, severity = self._counts.get(key, (0, ""))
        if count:
            self._paint_count(painter, left + width + 2, baseline, count, severity)
        if current and self.hasFocus():
            painter.setPen(theme.color("violet"))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(left - 12, 3, width + 12, theme.px(22)), 6, 6)

    def _paint_count(self, painter: QPainter, x: float, baseline: int, count: int, severity: str) -> None:
        theme = self._theme
        tone = {"stop": "stop", "warn": "brass"}.get(severity, "ink2")
        tint = {"stop": "stop_tint", "warn": "brass_tint"}.get(severity, "shade")
        painter.setFont(theme.font(12, weight=600))
        text = str(count)
        width = max(theme.px(18), painter.fontMetrics().horizontalAdvance(text) + theme.px(10))
        box = QRectF(x, baseline - theme.px(13), width, theme.px(17))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color(tint))
        painter.drawRoundedRect(box, 8, 8)
        painter.setPen(theme.color(tone))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
