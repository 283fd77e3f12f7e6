"""Writing a text: quick ones, spelling, what goes along, and a last yes before anything goes out."""

from PyQt6.QtWidgets import QCheckBox, QComboBox, QFrame, QHBoxLayout, QLineEdit

from umbra_awl.core.fit.position import spoken_position_words
from umbra_awl.core.messages.permit import Going
from umbra_awl.core.messages.spelling import LANGUAGES, Misspelt, misspelt
from umbra_awl.core.messages.texts import QUICK_TEXTS, Draft, draft_fault, make_text, position_words
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.onair.messages.air_job import AirJob
from umbra_awl.desk.onair.messages.way_line import WayLine
from umbra_awl.desk.parts.widgets import button, column, restyle, row, rows_of, words

_NOT_PROVEN = "Texts are not confirmed: only an answer proves one. Nothing here is private."


class TextCard(QFrame):
    """What is typed, and sent; the page says on what it goes out and to whom."""

    def __init__(self, bench: Workbench, air: AirJob, way: WayLine, to: QLineEdit) -> None:
        super().__init__()
        self.setProperty("role", "card")
        self._bench, self.air, self.way, self.to = bench, air, way, to
        self.asked: Draft | None = None
        self._spelled: tuple[Misspelt, ...] = ()
        inner = column(self, 6, 10)
        self.quick = QComboBox()
        self.quick.setAccessibleName("Quick texts")
        self.quick.activated.connect(self._take_quick)
        to.textChanged.connect(lambda _text: self._typed())
        self.position = QCheckBox("position goes along")
        self.position.setChecked(True)
        self.position.toggled.connect(lambda _on: self._typed())
        self.language = QComboBox()
        self.language.setAccessibleName("Language of the spelling")
        self.language.addItems(LANGUAGES)
        self.language.activated.connect(lambda _at: self._spell())
        inner.addLayout(rows_of(self.quick, self.position, self.language, gap=8))
        inner.addLayout(self._text_line())
        self.spelling = words("", "brass", wrap=True)
        inner.addWidget(self.spelling)
        self.fault = words("", "second", wrap=True)
        inner.addWidget(self.fault)
        way.changed.connect(self.refresh)
        air.changed.connect(self.refresh)

    def _text_line(self) -> QHBoxLayout:
        line = row(gap=8)
        self.text = QLineEdit()
        self.text.setAccessibleName("Text to send")
        self.text.setPlaceholderText("Type a text; Return asks once more, Return again sends it")
        self.text.textChanged.connect(lambda _text: self._typed())
        self.text.returnPressed.connect(self.send)
        line.addWidget(self.text, 1)
        self.length = words("", "second")
        line.addWidget(self.length)
        self.no = button("Not yet", self._take_back)
        self.no.hide()
        line.addWidget(self.no)
        self.yes = button("Send", self.send, "main")
        line.addWidget(self.yes)
        return line

    # writing

    @property
    def draft(self) -> Draft:
        """What is typed."""
        return Draft(self.text.text(), self.to.text().strip(), self.position.isChecked())

    def _take_quick(self, at: int) -> None:
        if at > 0:
            self.text.setText(self.quick.itemText(at))
            self.quick.setCurrentIndex(0)
            self.text.setFocus()

    def _typed(self) -> None:
        if self.asked is not None and self.asked != self.draft:
            self.asked = None
        self._spell()
        self.refresh()

    def _spell(self) -> None:
        """Have the words looked at, away from the interface: the dictionary takes a moment the first time."""
        text, language = self.text.text(), self.language.currentText()
        self._bench.jobs.latest("spelling", lambda: misspelt(text, language), self._show_spelling)

    def _show_spelling(self, found: tuple[Misspelt, ...]) -> None:
        self._spelled, text = found, self.text.text()
        told = [
            f"“{text[item.at : item.at + item.length]}”" + (f" ({', '.join(item.better)}?)" if item.better else "")
            for item in found
            if item.at + item.length <= len(text)
        ]
        self.spelling.setText(f"Spelled otherwise? {'; '.join(told)}" if told else "")
        self.spelling.setVisible(bool(told))

    def _take_back(self) -> None:
        self.asked = None
        self.refresh()
        self.text.setFocus()

    # sending

    @property
    def trouble(self) -> str:
        """Why nothing can go out just now; empty when it can."""
        refusal = self.way.refusal
        if refusal:
            return refusal
        going: Going | None = self.way.going
        fault = draft_fault(self.draft, going.carrier) if going is not None else "Choose a channel first."
        if fault:
            return fault
        if not self.air.on:
            return "The bench is off. Switch it on beside, then send."
        return f"Just sending {self.air.sending}." if self.air.sending else ""

    def send(self) -> None:
        """Ask once more; the second time, send."""
        trouble = self.trouble
        if trouble:
            self._bench.say(trouble, "stop")
            return
        if self.asked != self.draft:
            self.asked = self.draft
            self.refresh()
            return
        self.asked = None
        identity = self._bench.index.owners.identity_of(self._bench.radio) if self._bench.radio is not None else None
        call = identity.call if identity is not None else ""
        text = make_text(self.draft, call, self._bench.plan.station)
        self.air.out.send_text(text, self.way.ask_again(), self.way.rate_bps)
        self.text.clear()

    # showing

    def refresh(self) -> None:
        """Show what may be, what is typed, and what is asked."""
        self._offer_quick()
        going, draft = self.way.going, self.draft
        most = going.carrier.text_length if going is not None else 0
        count = len(draft.text.strip())
        self.length.setText(f"{count} of {most}" if most else f"{count}")
        restyle(self.length, "role", "stop" if most and count > most else "second")
        asked = self.asked is not None
        self.yes.setText(f"Yes, send to {draft.to or 'all'}" if asked else "Send")
        self.no.setVisible(asked)
        trouble = self.trouble if draft.text.strip() else self.way.refusal
        where = position_words(self._bench.plan.station) if draft.position else ""
        goes = f"Goes along: {where}. " if where else "No position goes along. "
        radio, profile = self._bench.radio, self.way.profile
        spoken = spoken_position_words(radio, profile) if radio is not None and profile is not None else ""
        goes += f"{spoken} " if spoken else ""
        asks = f"A last yes: to {draft.to or 'everybody'}, on {self.way.channel.currentText().strip()}. {goes}{_NOT_PROVEN}"
        self.fault.setText(self.air.fault or trouble or (asks if asked else f"{goes}{_NOT_PROVEN}"))
        restyle(self.fault, "role", "stop" if self.air.fault or trouble else "brass" if asked else "second")

    def _offer_quick(self) -> None:
        radio = self._bench.radio
        own = radio.settings.quick_texts if radio is not None else ()
        wanted = ["Quick texts", *(own or QUICK_TEXTS)]
        if [self.quick.itemText(at) for at in range(self.quick.count())] != wanted:
            self.quick.clear()
            self.quick.addItems(wanted)

    def take_focus(self) -> None:
        """Give the keyboard to the text."""
        self.text.setFocus()
