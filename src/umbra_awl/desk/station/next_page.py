"""What to do next, over all stages, as a stitched thread: each step with its reason; one press leads to its field."""

from collections.abc import Callable, Mapping
from functools import partial

from PyQt6.QtCore import QPointF, QSize
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QWidget

from umbra_awl.core.agenda.next_steps import NextStep, first_open
from umbra_awl.desk.parts.thread import bead, stitch
from umbra_awl.desk.parts.widgets import button, card, clear, column, row, scrolled, words
from umbra_awl.desk.theme.theme import Theme

_WHAT_NOW = (
    "When all is done: turn to the echo memory, key, wait a second, speak, and listen. Then call. Keep the plan as it is on the "
    "air: correct here what you find out there, and write again."
)


class _Mark(QWidget):
    """A bead of the thread, solid where the step is done."""

    def __init__(self, theme: Theme, *, done: bool, last: bool) -> None:
        super().__init__()
        self._theme, self._done, self._last = theme, done, last
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)

    def sizeHint(self) -> QSize:
        return QSize(28, self._theme.px(28))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, middle = self._theme, QPointF(14, self._theme.px(14))
        if not self._last:
            color = theme.color("violet" if self._done else "line")
            stitch(painter, middle, QPointF(14, self.height() + middle.y()), color, solid=self._done)
        bead(painter, middle, theme.color("violet" if self._done else "ink2"), theme.color("bg"), filled=self._done)


class NextPage(QWidget):
    """The list of steps."""

    def __init__(self, theme: Theme, go: Callable[[NextStep], object], titles: Mapping[str, str]) -> None:
        """`titles` are the names of the stages, by their keys."""
        super().__init__()
        self._theme, self._go, self._titles = theme, go, titles
        self._steps: tuple[NextStep, ...] = ()
        self.buttons: dict[str, QPushButton] = {}
        outer = column(self, 6)
        self._lead = words("", "title", wrap=True)
        outer.addWidget(self._lead)
        inside = QWidget()
        self._list = column(inside, 0)
        outer.addWidget(scrolled(inside), 1)

    def show_steps(self, steps: tuple[NextStep, ...]) -> None:
        """Show the steps, the first open one as the act of the page."""
        if steps == self._steps:
            return
        self._steps = steps
        focused = next((text for text, made in self.buttons.items() if made.hasFocus()), "")
        clear(self._list)
        self.buttons = {}
        first = first_open(steps)
        done = sum(step.done for step in steps)
        self._lead.setText(f"What to do next: {done} of {len(steps)} done" if first else "All set")
        for step in steps:
            self._list.addLayout(self._line(step, main=step is first))
        self._list.addWidget(words(_WHAT_NOW, "second", wrap=True))
        self._list.addStretch(1)
        if focused:
            self.take_focus()

    def _line(self, step: NextStep, *, main: bool) -> QHBoxLayout:
        line = row(gap=8)
        line.addWidget(_Mark(self._theme, done=step.done, last=step is self._steps[-1]))
        line.addWidget(self._card(step) if main else self._plain(step), 1)
        return line

    def _press(self, step: NextStep, text: str, role: str) -> QPushButton:
        made = button(text, partial(self._go, step), role, tip="" if step.done else step.why)
        made.setAccessibleName(f"{step.words}: {'done' if step.done else 'to do'}")
        self.buttons[step.words] = made
        return made

    def _plain(self, step: NextStep) -> QWidget:
        """A step that is done or comes later: its words, and the stage where it is done."""
        made = QWidget()
        line = row(made, 6)
        line.addWidget(self._press(step, step.words, "plain" if step.done else ""))
        line.addStretch(1)
        where = self._titles.get(step.where.stage, "")
        line.addWidget(words("done" if step.done else where, "ok" if step.done else "second"))
        return made

    def _card(self, step: NextStep) -> QWidget:
        """The first open step: why it is needed, and the button that leads into its very field."""
        frame = card("sheet")
        inner = column(frame, 4, 12)
        inner.addWidget(words(step.words, "title", wrap=True))
        inner.addWidget(words(step.why, "", wrap=True))
        line = row(gap=8)
        line.addWidget(self._press(step, "Do it" if step.finding is None else "Show it", "main"))
        line.addWidget(words(f"at {self._titles.get(step.where.stage, '')}", "second"))
        line.addStretch(1)
        inner.addLayout(line)
        return frame

    def take_focus(self) -> None:
        """Give the keyboard to the first step that is open."""
        first = first_open(self._steps) or next(iter(self._steps), None)
        if first is not None and first.words in self.buttons:
            self.buttons[first.words].setFocus()
