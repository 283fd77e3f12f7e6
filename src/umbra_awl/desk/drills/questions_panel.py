"""Fields and figures: one question after another, answered by keyboard, the reason told at once."""

import random

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QListWidget, QVBoxLayout, QWidget

from umbra_awl.core.drills.rounds import DrillQuestion, is_right
from umbra_awl.desk.drills.coach import Coach
from umbra_awl.desk.parts.eight_boxes import EightBoxes
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, restyle, row, rows_of, words
from umbra_awl.desk.theme.theme import Theme

ROUND = 8
_DONE = "The round is done: {right} of {count} right. What was not comes back tomorrow."
_HEADS = ("Asked", "Right is")
_NONE = "There is nothing to ask yet: the questions are made of your own plan. Punch a few routes, and add a radio."


class Pieces(QListWidget):
    """Steps to be put in order: Alt with an arrow moves the one in hand."""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        moves = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
        if event is not None and event.modifiers() & Qt.KeyboardModifier.AltModifier and event.key() in moves:
            self.move_by(moves[Qt.Key(event.key())])
            return
        super().keyPressEvent(event)

    def move_by(self, by: int) -> None:
        """Move the step in hand."""
        at, to = self.currentRow(), self.currentRow() + by
        if at >= 0 and 0 <= to < self.count():
            self.insertItem(to, self.takeItem(at))
            self.setCurrentRow(to)

    def texts(self) -> list[str]:
        """The steps in their order."""
        return [item.text() for at in range(self.count()) if (item := self.item(at)) is not None]


class QuestionsPanel(QWidget):
    """A round of questions, the due ones first."""

    def __init__(self, theme: Theme, coach: Coach) -> None:
        super().__init__()
        self._coach = coach
        self.left: list[DrillQuestion] = []
        self.question: DrillQuestion | None = None
        self.answered = False
        self.right = self.count = 0
        self._done: list[tuple[str, str]] = []
        outer = row(self, gap=16)
        outer.addLayout(self._question_part(theme), 3)
        outer.addLayout(self._round_part(theme), 2)
        self.begin()

    def _question_part(self, theme: Theme) -> QVBoxLayout:
        left = column(gap=8)
        self.kind = words("", "second")
        self.ask = words("", "title", wrap=True)
        self.typed = QLineEdit()
        self.typed.setAccessibleName("Your answer")
        self.typed.setFont(theme.font(15, mono=True))
        self.typed.returnPressed.connect(self.go_on)
        self.places = EightBoxes(theme)
        self.typed.textChanged.connect(self.places.show_text)
        self.choices = QListWidget()
        self.choices.setAccessibleName("Answers to choose from")
        self.choices.itemActivated.connect(lambda _item: self.go_on())
        self.pieces = Pieces()
        self.pieces.setAccessibleName("Steps to put in order; Alt with an arrow moves one")
        for listed in (self.choices, self.pieces):
            listed.setWordWrap(True)
            listed.setResizeMode(QListWidget.ResizeMode.Adjust)
            listed.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.moves = QWidget()
        moves = row(self.moves, gap=6)
        moves.addWidget(button("Up", lambda: self.pieces.move_by(-1)))
        moves.addWidget(button("Down", lambda: self.pieces.move_by(1)))
        moves.addStretch(1)
        self.told = words("", wrap=True)
        self.go = button("Answer", self.go_on, "main")
        for made in (self.kind, self.ask, self.typed, self.places, self.choices, self.pieces, self.moves, self.told):
            left.addWidget(made)
        left.addLayout(rows_of(self.go))
        left.addStretch(1)
        return left

    def _round_part(self, theme: Theme) -> QVBoxLayout:
        right = column(gap=8)
        right.addWidget(words("This round", "title"))
        self.so_far = RowsTable(theme, "This round so far", "What you have answered stands here.")
        right.addWidget(self.so_far, 1)
        return right

    def begin(self) -> None:
        """Begin a round."""
        asked = self._coach.questions()
        known = [key for key in self._coach.due(asked) if key in self._coach.practice.cards]
        fresh = [key for key in asked if key not in self._coach.practice.cards]
        random.Random(self._coach.today().toordinal()).shuffle(fresh)  # noqa: S311  (a drill)
        self.left = [asked[key] for key in [*known, *fresh][:ROUND]]
        self.right, self.count = 0, len(self.left)
        self._done = []
        self._show_round()
        self._next()

    def _show_round(self) -> None:
        """What was asked by now, the last first."""
        tones = ["stop" if asked.startswith("No: ") else "" for asked, _right in self._done]
        self.so_far.show_rows(_HEADS, self._done[::-1], tones[::-1], mono=False)

    def _next(self) -> None:
        self.question = self.left.pop(0) if self.left else None
        self.answered = False
        question = self.question
        self.told.setText("")
        self.typed.clear()
        self.choices.clear()
        self.pieces.clear()
        pieces = question.pieces if question is not None else ()
        choices = question.choices if question is not None else ()
        self.typed.setVisible(question is not None and not choices and not pieces)
        self.places.setVisible(question is not None and question.exact)
        self.choices.setVisible(bool(choices))
        self.pieces.setVisible(bool(pieces))
        self.moves.setVisible(bool(pieces))
        if question is None:
            self.kind.setText("")
            self.ask.setText(_DONE.format(right=self.right, count=self.count) if self.count else _NONE)
            self.go.setText("Another round")
            return
        self.kind.setText(f"{question.kind} · {self.count - len(self.left)} of {self.count}")
        self.ask.setText(question.ask)
        self.choices.addItems(choices)
        self.pieces.addItems(pieces)
        for listed in (self.choices, self.pieces):
            listed.setCurrentRow(0)
        self.go.setText("Answer")

    def take_focus(self) -> None:
        """Give the keyboard to the answer."""
        for widget in (self.typed, self.choices, self.pieces):
            if not widget.isHidden():
                widget.setFocus()
                return
        self.go.setFocus()

    def answer_now(self) -> str:
        """What is answered as it stands."""
        question = self.question
        if question is not None and question.pieces:
            return "\n".join(self.pieces.texts())
        if question is not None and question.choices:
            item = self.choices.currentItem()
            return item.text() if item is not None else ""
        return self.typed.text()

    def go_on(self) -> None:
        """Answer; once it is told, go on to the next question, or to another round."""
        question = self.question
        if question is None:
            self.begin()
        elif self.answered:
            self._next()
        else:
            right = is_right(question, self.answer_now())
            self.answered, self.right = True, self.right + right
            self.moves.hide()
            shown = question.answer.replace(" ", "·") if question.exact else question.answer.replace("\n", " → ")
            self.told.setText(f"{'Right.' if right else f'No: it is {shown}.'} {question.why}")
            restyle(self.told, "role", "ok" if right else "stop")
            self.go.setText("Go on")
            self._done.append((question.ask if right else f"No: {question.ask}", shown))
            self._show_round()
            self._coach.answer(question.key, right=right)
        if not self.answered:
            self.take_focus()
