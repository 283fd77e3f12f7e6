"""One talk between two radios, in texts and pictures: the thread, what is written or shown next, the other radio beside."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QLineEdit, QWidget

from umbra_awl.core.messages.history import Said
from umbra_awl.core.messages.permit import What
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.onair.messages.air_job import AirJob
from umbra_awl.desk.onair.messages.far_panel import FarPanel
from umbra_awl.desk.onair.messages.picture_card import Given, PictureCard
from umbra_awl.desk.onair.messages.talk_picture import TalkPicture
from umbra_awl.desk.onair.messages.text_card import TextCard
from umbra_awl.desk.onair.messages.way_line import WayLine
from umbra_awl.desk.parts.menus import lead
from umbra_awl.desk.parts.saving import ask_place, save_later
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.widgets import button, column, row, rows_of, scrolled, words
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.facts.coast import Coast

_KINDS: dict[What, str] = {"text": "A text", "picture": "A picture"}


class MessagesPage(QWidget):
    """The canvas page; `side` has the other radio and what is done before."""

    def __init__(self, bench: Workbench, theme: Theme, air: AirJob, coast: "Callable[[], Coast]") -> None:
        super().__init__()
        self._bench, self.air = bench, air
        outer = column(self, 8)
        self.way = WayLine(bench, theme, "text")
        outer.addWidget(self.way)
        self.far = FarPanel(air)
        self.to = QLineEdit()
        self.to.setAccessibleName("To one call sign; empty: to all")
        self.to.setPlaceholderText("to all, or a call")
        self.to.setMaximumWidth(theme.px(130))
        self.texts = TextCard(bench, air, self.way, self.to)
        loss: Callable[[], float] = lambda: float(self.far.loss.currentData() or 0.0)  # noqa: E731
        self.pictures = PictureCard(bench, theme, air, Given(self.way, self.to, loss, coast))
        self.talk = TalkPicture(theme, air)
        self.talk.answered.connect(self.answer)
        self.talk.saved.connect(self.save)
        both = row(gap=8)
        both.addWidget(self.pictures.picture, 5)
        both.addWidget(self.talk, 4)
        outer.addLayout(both, 1)
        self.kinds = {kind: button(text, partial(self.show_kind, kind), "segment") for kind, text in _KINDS.items()}
        outer.addLayout(rows_of(*self.kinds.values(), lead("to"), self.to, gap=6))
        outer.addWidget(self.texts)
        outer.addWidget(self.pictures)
        self.side = self._beside()
        pasting = QShortcut(QKeySequence.StandardKey.Paste, self.pictures.picture)
        pasting.activated.connect(self.pictures.sources.paste)
        self.way.changed.connect(self.refresh)
        air.heard.connect(self._heard)
        self.pictures.hand.opened_one.connect(lambda: self.show_kind("picture"))
        self.show_kind("text")

    def _beside(self) -> QWidget:
        inside = QWidget()
        beside = column(inside, 8)
        beside.addWidget(self.far)
        beside.addWidget(words("Before you send", "title"))
        self.steps = words("", "second", wrap=True)
        beside.addWidget(self.steps)
        beside.addStretch(1)
        return scrolled(inside)

    def _heard(self, said: Said) -> None:
        """Something came in: where nobody looks at it, it is said."""
        if not self.isVisible():
            self._bench.say(f"{said.call}: {said.text if said.kind == 'text' else 'a picture'}")

    @property
    def kind(self) -> What:
        """What is written or shown next."""
        return self.way.what

    def show_kind(self, kind: What) -> None:
        """Go on in the same talk with a text, or with a picture."""
        chosen_of(self.kinds, kind)
        self.texts.setVisible(kind == "text")
        self.pictures.setVisible(kind == "picture")
        self.pictures.picture.setVisible(kind == "picture")
        self.way.use(kind)

    def answer(self, said: Said) -> None:
        """Answer what somebody sent, with the same kind: to them, and the cursor where it is written or chosen."""
        self.to.setText(said.call)
        self.show_kind(said.kind)
        self.take_focus()

    def save(self, said: Said) -> None:
        """Put a picture of the talk where the operator wants it."""
        source = self.air.kept.history.folder / said.file
        place = ask_place(self, "Save the picture", said.file, "Pictures (*.jpg)", ".jpg")
        if place is not None:
            save_later(self._bench, place, source.read_bytes, f"The picture of {said.call} was saved.")

    def refresh(self) -> None:
        """Show what is done before, and let the bench ask anew whether it may."""
        self.air.use(self.way.ask_again())
        self.steps.setText("\n".join(f"{at}. {text}" for at, text in enumerate(self.way.etiquette(), 1)))

    def take_focus(self) -> None:
        """Give the keyboard to what is written or shown next."""
        (self.texts if self.kind == "text" else self.pictures).take_focus()

    def reach(self, field: str) -> bool:
        """The text, or opening a picture."""
        if field not in {"text", "open"}:
            return False
        self.show_kind("text" if field == "text" else "picture")
        (self.texts.text if field == "text" else self.pictures.sources.open_it).setFocus()
        return True
