"""On the keypad: a simulated radio's display and keys, a memory to enter, first from the key sheet, then without it."""

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QFrame, QGridLayout, QPushButton, QWidget

from umbra_awl.core.drills.keyed import Task, task_of
from umbra_awl.core.drills.keypad_radio import keys_of
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.frequency import format_mhz, format_offset
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.paper.taps import runs
from umbra_awl.desk.drills.coach import Coach
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import button, card, clear, column, restyle, row, rows_of, scrolled, words
from umbra_awl.desk.theme.theme import Theme

_ACROSS, _DIGITS_ACROSS = 4, 3
_SHORT = {"wait": "pause"}
_NONE = (
    "No radio of this plan is programmed by its keys. Add one at Radios, such as a Tarn 16, and its keypad stands here."
)
_HINT = "Digits, Return for {enter}, Escape for {leave}, the arrows for {up} and {down}; the others by mouse or Tab."


class KeypadPanel(QWidget):
    """One memory at a time."""

    def __init__(self, bench: Workbench, theme: Theme, coach: Coach) -> None:
        super().__init__()
        self._bench, self._theme, self._coach = bench, theme, coach
        self.task: Task | None = None
        self.seed = 1
        self.by_heart = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        outer = row(self, gap=12)
        hand = QWidget()
        left = column(hand, 6)
        self.meant = words("", "title", wrap=True)
        left.addWidget(self.meant)
        self.display = self._display()
        left.addWidget(self.display)
        self.keys = QWidget()
        self._grid = QGridLayout(self.keys)
        self._grid.setSpacing(4)
        self._grid.setContentsMargins(0, 0, 0, 0)
        left.addWidget(self.keys)
        self.told = words("", "stop", wrap=True)
        left.addWidget(self.told)
        self.count = words("", "second", wrap=True)
        left.addWidget(self.count)
        left.addStretch(1)
        outer.addWidget(scrolled(hand), 1)
        right = column(gap=6)
        self.sheet_title = words("", "title")
        right.addWidget(self.sheet_title)
        inside = QWidget()
        self._steps = column(inside, 2)
        self.sheet = scrolled(inside)
        right.addWidget(self.sheet, 1)
        self.mode = button("Without the sheet", self.toggle_heart)
        acts = (button("Judge it", self.judge, "main"), self.mode, button("Another memory", self.another))
        right.addLayout(rows_of(*acts, gap=6))
        outer.addLayout(right, 1)
        self.begin()

    def _display(self) -> QFrame:
        frame = card()
        inner = column(frame, 2, 10)
        self.top, self.bottom = words("", "mono"), words("", "mono")
        self.bottom.setFont(self._theme.font(18, mono=True))
        inner.addWidget(self.top)
        inner.addWidget(self.bottom)
        return frame

    def begin(self) -> None:
        """Begin with a memory of the chosen radio, or of the first that has keys."""
        bench = self._bench
        keys = [item.removeprefix("keys ") for item in self._coach.keyed()]
        key = bench.radio_key if bench.radio_key in keys else next(iter(keys), "")
        fit = bench.worked.results.fits.get(key) if bench.worked.fresh else None
        profile = bench.profiles.get(bench.index.radios[key].profile) if key else None
        self.task = task_of(fit, profile, self.seed) if fit is not None and profile is not None else None
        self._lay_keys()
        self._show_steps()
        self.refresh()

    def another(self) -> None:
        """Another memory, from its beginning."""
        self.seed += 1
        self.told.setText("")
        self.begin()
        self.setFocus()

    def toggle_heart(self) -> None:
        """With the key sheet, or without it."""
        self.by_heart = not self.by_heart
        self._show_steps()
        self.setFocus()

    def _lay_keys(self) -> None:
        """The keys as they lie on such radios: those that open, leave and step, the digits three across, all others."""
        clear(self._grid)
        self.buttons: dict[str, QPushButton] = {}
        if self.task is None:
            return
        keys = keys_of(self.task.keypad)
        digits = [key for key in keys if key.isdigit()]
        others = [key for key in keys if not key.isdigit()]
        first, rest = others[:_ACROSS], others[_ACROSS:]
        for at, key in enumerate(first):
            self._add_key(key, 0, at)
        for at, key in enumerate(digits):
            self._add_key(key, 1 + at // _DIGITS_ACROSS, at % _DIGITS_ACROSS if key != "0" else 1)
        for at, key in enumerate(rest):
            tall = -(-len(digits) // _DIGITS_ACROSS)
            self._add_key(key, 1 + at % tall, _DIGITS_ACROSS + at // tall)

    def _add_key(self, key: str, line: int, at: int) -> None:
        assert self.task is not None
        types = next((item.types for item in self.task.keypad.letters if item.key == key), "")
        letters = types.replace(key, "").strip()[:4]
        made = button(f"{_SHORT.get(key, key)}  {letters}".strip(), partial(self.press, key), "key")
        made.setAccessibleName(f"Key {key}")
        self.buttons[key] = made
        self._grid.addWidget(made, line, at)

    def _show_steps(self) -> None:
        clear(self._steps)
        shown = self.task is not None and not self.by_heart
        self.sheet_title.setText("The key sheet" if shown else "By heart")
        self.mode.setText("Without the sheet" if shown else "With the sheet")
        for step in self.task.entered.steps if self.task is not None and shown else ():
            keys = " ".join(f"{key}×{count}" if count > 1 else key for key, count in runs(step.keys))
            self._steps.addWidget(words(f"{step.label}: {step.shows}", wrap=True))
            self._steps.addWidget(words(keys, "mono", wrap=True))
        self._steps.addStretch(1)

    def refresh(self) -> None:
        """Show display and count."""
        task = self.task
        if task is None:
            self.meant.setText(_NONE)
            for label in (self.top, self.bottom, self.count):
                label.setText("")
            return
        channel = task.channel
        offset = channel.tx_hz - channel.rx_hz
        shift = f", {format_offset(offset)} MHz" if offset else ", simplex"
        mode = MODE_WORDS[channel.mode]
        self.meant.setText(
            f"{task.profile.name}: enter “{channel.name}”, {mode}, {format_mhz(channel.rx_hz)} MHz{shift}"
        )
        top, bottom = task.radio.display()
        self.top.setText(top)
        self.bottom.setText(bottom or " ")
        keypad = task.keypad
        hint = _HINT.format(enter=keypad.enter, leave=keypad.leave, up=keypad.up, down=keypad.down)
        self.count.setText(f"{counted(task.pressed, 'key')}; the cheapest way takes {task.cheapest}. {hint}")

    # pressing

    def press(self, key: str) -> None:
        """Press a key of the radio."""
        if self.task is None:
            return
        told = self.task.press(key)
        self.told.setText(told)
        restyle(self.told, "role", "stop")
        self.refresh()
        self.setFocus()

    def judge(self) -> None:
        """Say what came of it, and take note of it."""
        task = self.task
        if task is None:
            return
        verdict = task.verdict()
        right = task.saved and not task.wrong()
        self.told.setText(verdict)
        restyle(self.told, "role", "ok" if right else "stop")
        if task.saved:
            radio = next((item.key for item in self._bench.plan.radios if item.profile == task.profile.key), "")
            self._coach.answer(f"keys {radio}", right=right and self.by_heart)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        task = self.task
        key = self._key_of(event) if event is not None and task is not None else ""
        if key:
            self.press(key)
        else:
            super().keyPressEvent(event)

    def _key_of(self, event: QKeyEvent) -> str:
        """The radio's key for one of the computer's."""
        assert self.task is not None
        keypad = self.task.keypad
        named: dict[int, str] = {
            Qt.Key.Key_Return: keypad.enter, Qt.Key.Key_Enter: keypad.enter, Qt.Key.Key_Escape: keypad.leave,
            Qt.Key.Key_Up: keypad.up, Qt.Key.Key_Down: keypad.down,
        }  # fmt: skip
        return named.get(event.key(), event.text() if event.text() in self.buttons else "")

    def take_focus(self) -> None:
        """Give the keyboard to the radio's keys."""
        self.setFocus()
