"""Listen first: what was heard on the channel in hand, day by day; three quiet days are enough."""

from PyQt6.QtWidgets import QLineEdit, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.hotspot.place.after import note_heard
from umbra_awl.core.hotspot.place.terms import NIGHTS, heard_at
from umbra_awl.core.plan.model import Listened
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.theme.theme import Theme

_RASTER_HZ = 12_500


class ListenPanel(QWidget):
    """Follows the channel in hand."""

    def __init__(self, spot: Spot, theme: Theme) -> None:
        super().__init__()
        self._spot, self._hz = spot, 0
        outer = column(self, 4)
        outer.addWidget(words("Listen first", "title"))
        self._told = words("", "second", wrap=True)
        outer.addWidget(self._told)
        self.table = RowsTable(
            theme, "What was heard on this channel", "Listen on three days, and note each: quiet counts too."
        )
        self.table.setFixedHeight(theme.px(104))
        outer.addWidget(self.table)
        line = row(gap=4)
        self.typed = QLineEdit()
        self.typed.setPlaceholderText("what was heard; empty: nothing")
        self.typed.setAccessibleName("What was heard on this channel today")
        self.typed.returnPressed.connect(self.note)
        line.addWidget(self.typed, 1)
        self.add = button("Note today", self.note, tip="Nothing typed means nothing heard")
        line.addWidget(self.add)
        outer.addLayout(line)

    def take_focus(self) -> None:
        """Give the keyboard to the line."""
        self.typed.setFocus()

    def show_channel(self, hz: int) -> None:
        """Show what was noted for a channel, in hertz."""
        self._hz = hz
        hotspot = self._spot.hotspot
        listened = hotspot.listened if hotspot is not None else ()
        heard = heard_at(listened, hz, _RASTER_HZ)
        left = max(0, NIGHTS - heard.quiet)
        need = f"{counted(left, 'quiet day')} to go" if left else "quiet on three days"
        self._told.setText(f"{format_mhz(hz)} MHz: {need}." + (f" Heard {heard.busy} times." if heard.busy else ""))
        mine = [item for item in listened if abs(item.hz - hz) < _RASTER_HZ / 2]
        rows = [(item.day, item.heard or "nothing heard") for item in sorted(mine, key=lambda item: item.day)]
        self.table.show_rows(("Day", "Heard"), rows, ["brass" if item.heard else "ok" for item in mine])

    def note(self) -> None:
        """Note what was heard today."""
        hotspot = self._spot.hotspot
        if hotspot is None or not self._hz:
            return
        day = self._spot.bench.index.today.isoformat()
        heard = " ".join(self.typed.text().split())[:80]
        if self._spot.bench.do(note_heard(hotspot, Listened(self._hz, day, heard))):
            self.typed.clear()
        self.show_channel(self._hz)
