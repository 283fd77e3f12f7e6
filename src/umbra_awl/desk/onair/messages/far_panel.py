"""The other radio of the bench: its owner's hands, and the weather between."""

from functools import partial

from PyQt6.QtWidgets import QCheckBox, QComboBox, QWidget

from umbra_awl.desk.onair.messages.air_job import AirJob
from umbra_awl.desk.onair.messages.air_sending import BENCH_SPEED
from umbra_awl.desk.parts.widgets import button, column, row, rows_of, words

_LOSSES = (0, 5, 10, 20, 40)
_HANDS = {
    "open_page": "its picture page is open",
    "receive": "it receives",
    "card": "a memory card is in",
    "answers": "its owner answers texts",
}
_OFF = f"Two simulated radios, the air between {BENCH_SPEED:g} times as fast as life. Nothing is transmitted."


class FarPanel(QWidget):
    """Switches the bench on and off, and does what hands there would do."""

    def __init__(self, air: AirJob) -> None:
        super().__init__()
        self._air = air
        outer = column(self, 4)
        outer.addWidget(words("The other radio, Q3AMB", "title"))
        self.told = words(_OFF, "second", wrap=True)
        outer.addWidget(self.told)
        self.switch = button("Switch the bench on", self._switch)
        outer.addLayout(rows_of(self.switch))
        self.hands: dict[str, QCheckBox] = {}
        for key, text in _HANDS.items():
            made = QCheckBox(text)
            made.setChecked(True)
            made.toggled.connect(partial(self._hand, key))
            self.hands[key] = made
            outer.addWidget(made)
        self.away = QCheckBox("out of reach just now")
        self.away.toggled.connect(partial(self._hand, "away"))
        outer.addWidget(self.away)
        self.voice = QCheckBox("somebody speaks meanwhile")
        self.voice.toggled.connect(partial(self._hand, "voice"))
        outer.addWidget(self.voice)
        self.shows = button("Have it send a picture", air.have_picture)
        self.says = button("… a text", lambda: air.order("say", text="Stenby here, can you hear me? Please answer"))
        outer.addLayout(rows_of(self.shows, self.says, gap=6))
        line = row(gap=6)
        line.addWidget(words("The air loses", "second"))
        self.loss = QComboBox()
        self.loss.setAccessibleName("Share of blocks that the air loses")
        for share in _LOSSES:
            self.loss.addItem(f"{share} %", share / 100)
        self.loss.activated.connect(lambda _at: air.order("loss", share=self.loss.currentData()))
        line.addWidget(self.loss)
        line.addStretch(1)
        outer.addLayout(line)
        air.changed.connect(self.refresh)
        self.refresh()

    def _switch(self) -> None:
        if self._air.on or self._air.starting:
            self._air.stop()
        else:
            self._air.start()

    def _hand(self, key: str, on: bool) -> None:
        self._air.order(key, on=on)

    def refresh(self) -> None:
        """Show whether the bench is on."""
        air = self._air
        self.switch.setText(
            "Switch the bench off" if air.on else "Starting …" if air.starting else "Switch the bench on"
        )
        self.switch.setEnabled(not air.sending)
        self.told.setText(
            air.fault or _OFF if not air.on else "On. Its hands and the weather can be changed at any time."
        )
        boxes: tuple[QCheckBox, ...] = (*self.hands.values(), self.away, self.voice)
        for made in boxes:
            made.setEnabled(air.on)
        for part in (self.loss, self.shows, self.says):
            part.setEnabled(air.on)
        if not air.on and not air.starting:
            self._as_new(boxes)

    def _as_new(self, boxes: tuple[QCheckBox, ...]) -> None:
        """A bench that is switched on anew is as new."""
        for made in boxes:
            made.blockSignals(True)
            made.setChecked(made not in {self.away, self.voice})
            made.blockSignals(False)
        self.loss.setCurrentIndex(0)
