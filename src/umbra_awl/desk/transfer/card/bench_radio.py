"""The simulated radio on the bench, with its display and what its owner's hands do: shown in the demo only."""

from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QDialog, QGridLayout, QWidget

from umbra_awl.core.radio.profile import Profile
from umbra_awl.desk.parts.widgets import button, card, column, row, rows_of, words
from umbra_awl.standins.launch import CardRadioProcess, StandInError

_WHERE = {"radio": "in the radio", "computer": "in this computer", "gone": "away"}
_INTRO = "A simulated radio: press what you would press on a real one. Nothing transmits."


class BenchRadio(QDialog):
    """Its display, its switch, its card menu, its knob and key."""

    moved = pyqtSignal()

    def __init__(self, parent: QWidget, name: str, profile: Profile, radio: CardRadioProcess) -> None:
        super().__init__(parent)
        self._radio, self._profile = radio, profile
        self.setWindowTitle(f"{name}, simulated")
        self.setModal(False)
        outer = column(self, 8, 12)
        outer.addWidget(words(_INTRO, "second", wrap=True))
        face = card("sheet")
        inside = column(face, 2, 10)
        self.line = words("", "mono")
        self.under = words("", "mono")
        for label in (self.line, self.under):
            label.setMinimumWidth(260)
            inside.addWidget(label)
        outer.addWidget(face)
        grid = QGridLayout()
        self._power = button("", lambda: self.do("power"), "plain")
        self._card = button("", self._move_card, "plain")
        grid.addWidget(self._power, 0, 0)
        grid.addWidget(self._card, 0, 1)
        outer.addLayout(grid)
        outer.addWidget(words("Card menu", "title"))
        menu = profile.card
        out, into = (" › ".join(menu.write_out), " › ".join(menu.read_in)) if menu is not None else ("", "")
        self.files = QComboBox()
        self.files.setAccessibleName("File to read in")
        outer.addLayout(
            rows_of(
                button(out, lambda: self.do("write out"), "plain"),
                button("… only memories", lambda: self.do("write out", scope="memories"), "plain"),
            )
        )
        outer.addWidget(self.files)
        outer.addLayout(
            rows_of(
                button(into, lambda: self._read_in("everything"), "plain"),
                button("… only memories", lambda: self._read_in("memories"), "plain"),
            )
        )
        if menu is not None and menu.around is not None:
            outer.addLayout(
                rows_of(
                    button("List around out", lambda: self.do("list out"), "plain"),
                    button("List around in", lambda: self.do("list in"), "plain"),
                )
            )
        answers = row(gap=6)
        self.yes = button("Yes", lambda: self.do("answer", yes=True), "plain")
        self.no = button("No", lambda: self.do("answer", yes=False), "plain")
        for one in (self.yes, self.no):
            answers.addWidget(one)
        answers.addStretch(1)
        outer.addLayout(answers)
        hands = row(gap=6)
        hands.addWidget(button("Knob −", lambda: self.do("turn", step=-1), "plain"))
        hands.addWidget(button("Knob +", lambda: self.do("turn", step=1), "plain"))
        hands.addWidget(button("Key", lambda: self.do("key"), "plain"))
        hands.addStretch(1)
        outer.addLayout(hands)
        self._show(radio.state)

    def _read_in(self, scope: str) -> None:
        if self.files.currentText():
            self.do("read in", name=self.files.currentText(), scope=scope)

    def _move_card(self) -> None:
        self.do("push out" if self._radio.state["card"] == "radio" else "push in")

    def do(self, what: str, **more: object) -> None:
        """Do one thing with the radio."""
        try:
            self._show(self._radio.do(what, **more))
        except StandInError as error:
            self.line.setText(str(error))
        self.moved.emit()

    def _show(self, state: dict[str, Any]) -> None:
        lines = [*state["lines"], "", ""] if state["on"] else ["(off)", ""]
        self.line.setText(lines[0] or " ")
        self.under.setText(lines[1] or " ")
        self._power.setText("Switch off" if state["on"] else "Switch on")
        at = state["card"]
        self._card.setText("Push the card out, into this computer" if at == "radio" else "Card back into the radio")
        self._card.setAccessibleDescription(f"The card is {_WHERE[at]}")
        for one in (self.yes, self.no):
            one.setEnabled(bool(state["asks"]))
        chosen = self.files.currentText()
        self.files.clear()
        self.files.addItems(state["files"])
        self.files.setCurrentText(chosen if chosen in state["files"] else next(iter(state["files"]), ""))
