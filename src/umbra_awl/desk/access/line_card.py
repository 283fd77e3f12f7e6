"""What speaks against one line of a list, in whole sentences, with the repairs that the operator may take."""

from functools import partial

from PyQt6.QtWidgets import QFrame

from umbra_awl.core.directory.judged import ListLine
from umbra_awl.core.directory.sanity import Doubt
from umbra_awl.core.facts.frequency import format_mhz, format_offset
from umbra_awl.desk.access.line_table import Lines
from umbra_awl.desk.parts.widgets import button, clear, column, rows_of, words

_TONES = {"wrong": "stop", "doubtful": "brass"}
_LEAD = (
    "Choose a line to read what speaks against it and to take its repair. Space ticks the selected lines; "
    "ticked ones go into the plan, the others are only known to the directory."
)


class LineCard(QFrame):
    """Follows the line that is looked at."""

    def __init__(self, lines: Lines) -> None:
        super().__init__()
        self.setProperty("role", "card")
        self._lines = lines
        self._at = -1
        self._inside = column(self, 6, 12)
        lines.changed.connect(self.refresh)

    def look(self, at: int) -> None:
        """Look at a line; -1 for none."""
        self._at = at
        self.refresh()

    def refresh(self) -> None:
        """Say what is known of the line now."""
        clear(self._inside)
        if not 0 <= self._at < len(self._lines.items) or self._lines.judging is None:
            self._inside.addWidget(words(_LEAD, "second", wrap=True))
        else:
            self._fill(self._lines.items[self._at])
        self._inside.addStretch(1)

    def _fill(self, line: ListLine) -> None:
        found = self._lines.judged(line)
        inside, service = self._inside, found.service
        inside.addWidget(words(line.change.label, "title", wrap=True))
        shift = service.tx_hz - service.rx_hz
        sent = f"send on {format_mhz(service.tx_hz)}, {format_offset(shift)}" if shift else "send on the same"
        inside.addWidget(words(f"Hear on {format_mhz(service.rx_hz)}, {sent} MHz", "second", wrap=True))
        if said := self._lines.change_words(line):
            inside.addWidget(words(f"{said[0].upper()}{said[1:]}.", "", wrap=True))
        if line.change.held:
            giving = line.change.key in self._lines.give_up
            label = "Keep mine" if giving else "Take the list's values"
            inside.addLayout(rows_of(button(label, partial(self._give_up, line.change.key))))
        for doubt in found.doubts:
            self._doubt(line, doubt)
        if not found.doubts:
            inside.addWidget(words("Nothing speaks against it: band, shift, tones, place and age.", "ok", wrap=True))
        if line.change.kind != "vanished":
            label = "Leave it out of the plan" if line.mark in self._lines.ticked else "Add it to the plan too"
            inside.addLayout(rows_of(button(label, partial(self._lines.tick, [self._at]))))

    def _doubt(self, line: ListLine, doubt: Doubt) -> None:
        self._inside.addWidget(words(doubt.text, _TONES.get(doubt.grade, "second"), wrap=True))
        if doubt.mend is not None and doubt.rule not in {"old", "unconfirmed"}:
            mend = partial(self._mend, line, doubt)
            tip = "Kept as your correction, and told again if a newer list differs"
            self._inside.addLayout(rows_of(button(doubt.mend.label, mend, tip=tip)))

    def _mend(self, line: ListLine, doubt: Doubt) -> None:
        assert doubt.mend is not None
        self._lines.mends.setdefault(line.change.key, {}).update(doubt.mend.edits)
        self._lines.ticked.add(line.mark)
        self._lines.decided()

    def _give_up(self, key: str) -> None:
        self._lines.give_up ^= {key}
        self._lines.decided()
