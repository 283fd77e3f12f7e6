"""Calibrating a hotspot: readings typed in or taken from its log, the curve, the next offset to try, when to stop."""

from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QFrame, QLineEdit, QWidget

from umbra_awl.core.hotspot.calibrate.following import Advice, advise, told
from umbra_awl.core.hotspot.calibrate.readings import (
    SIDE_WORDS,
    ReadingError,
    add_readings,
    begin_anew,
    from_overs,
    leave_out,
    of_side,
    parse_reading,
    take_center,
)
from umbra_awl.core.hotspot.seek.talk import Over, is_loopback
from umbra_awl.core.plan.model import Reading, Side
from umbra_awl.desk.asked import ask_button
from umbra_awl.desk.hotspots.calibrate.curve_picture import CurvePicture
from umbra_awl.desk.hotspots.seen import Seen
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.parts.menus import lead
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.widgets import button, card, column, row, rows_of, words
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.asked.figure import Figure

_CAUTION = "Antenna on, least power, two steps away; identify when you key. Temperature moves it: note it."


class CurvePage(QWidget):
    """The canvas page; `side` has the readings."""

    def __init__(self, spot: Spot, theme: Theme) -> None:
        super().__init__()
        self._spot = spot
        self.which: Side = "receive"
        self.advice: Advice | None = None
        self._shown: tuple[object, ...] = ()
        outer = column(self, 8)
        self.sides = {
            key: button(f"Its {text}", partial(self._choose, key), "segment") for key, text in SIDE_WORDS.items()
        }
        outer.addLayout(rows_of(*self.sides.values(), gap=2))
        outer.addWidget(self._head_card())
        self.picture = CurvePicture(theme)
        outer.addWidget(self.picture, 1)
        self.side = QWidget()
        beside = column(self.side, 6)
        beside.addWidget(words("Readings", "title"))
        self.table = RowsTable(
            theme, "Readings", "No reading yet. Key at one offset, and type the bit error rate that the page shows."
        )
        self.table.chosen.connect(lambda _at: self._enable())
        beside.addWidget(self.table, 1)
        self.out = button("Leave it out", self.leave_out)
        self.anew = button(
            "Begin anew", self.begin_anew, tip="Takes the readings of this side out; undo brings them back"
        )
        beside.addLayout(rows_of(self.out, self.anew, gap=6))
        self.result = words("", "second", wrap=True)
        beside.addWidget(self.result)
        beside.addLayout(rows_of(ask_button(spot.bench)))
        beside.addWidget(words(_CAUTION, "second", wrap=True))
        spot.changed.connect(Seen(self, self.refresh).changed)

    def _head_card(self) -> QFrame:
        frame = card()
        inner = column(frame, 6, 10)
        line = row()
        self.told = words("", "title", wrap=True)
        self.main = button("", self.take, "main")
        line.addWidget(self.told, 1)
        line.addWidget(self.main)
        inner.addLayout(line)
        self.offset = self._line("Offset in hertz", "offset Hz", 90)
        self.rate = self._line("Bit error rate in per cent", "BER %", 80)
        self.seconds = self._line("Seconds keyed", "3 s", 60)
        self.warm = self._line("Temperature in degrees Celsius", "°C", 60)
        self.add = button("Add reading", self.add_typed, tip="“–” as the rate where nothing was decoded")
        self.from_log = button("From its log", self.take_log, tip="Your own overs that tell their offset")
        self.key = button("Key and read", self.key_up, tip="Keys the simulated radio for three seconds at this offset")
        typed = (self.offset, self.rate, self.seconds, self.warm)
        fields = (lead("Typed"), *typed, self.add, self.from_log, self.key)
        inner.addLayout(rows_of(*fields, gap=6))
        self.fault = words("", "stop", wrap=True)
        inner.addWidget(self.fault)
        self.fault.hide()
        return frame

    def _line(self, name: str, hint: str, wide: int) -> QLineEdit:
        made = QLineEdit()
        made.setAccessibleName(name)
        made.setPlaceholderText(hint)
        made.setFixedWidth(wide)
        made.returnPressed.connect(self.add_typed)
        return made

    def take_focus(self) -> None:
        """Give the keyboard to the line of a reading."""
        self.rate.setFocus()

    def reach(self, field: str) -> bool:
        """The line of a reading."""
        if field == "act":
            self.rate.setFocus()
        return field == "act"

    def _choose(self, which: Side) -> None:
        self.which = which
        self.refresh()

    @property
    def readings(self) -> tuple[Reading, ...]:
        """The readings of the side that is shown."""
        hotspot = self._spot.hotspot
        return of_side(hotspot, self.which) if hotspot is not None else ()

    def refresh(self) -> None:
        """Show the readings, and have worked out what they say where they are others."""
        chosen_of(self.sides, self.which)
        readings = self.readings
        bench = is_loopback(self._spot.address)
        self.key.setVisible(self.which == "receive" and bench)
        self.key.setEnabled(not self._spot.running)
        self.from_log.setVisible(self.which == "receive")
        if (self._spot.key, self.which, readings) == self._shown:
            return
        self._shown = (self._spot.key, self.which, readings)
        self.advice = None
        self.picture.show_advice(readings, None)
        self._spot.bench.jobs.latest("calibration", lambda: advise(readings), partial(self._take_advice, readings))

    def _take_advice(self, readings: tuple[Reading, ...], advice: Advice) -> None:
        self.advice = advice
        self.picture.show_advice(readings, advice)
        self.told.setText(advice.words)
        if not self.offset.hasFocus() and advice.offset_hz is not None:
            self.offset.setText(f"{advice.offset_hz:+d}")
        counted = [item for item in readings if not item.left_out]
        wrong = {id(counted[at]) for at in advice.estimate.wrong}
        rows = [(f"{item.offset_hz:+d}", _rate(item), item.day[:10], _note(item, wrong)) for item in readings]
        tones = ["stop" if id(item) in wrong else "ink2" if item.left_out else "" for item in readings]
        self.table.show_rows(("Hz", "BER", "Day", ""), rows, tones, mono=False)
        self._enable()
        first = next((item.errors / item.bits for item in counted if item.bits), None)
        self.result.setText(
            f"{told(readings, first)}." if readings else "Nothing read yet. Six readings are usually enough."
        )
        center = round(advice.estimate.center_hz)
        self.main.setText(f"Correct {SIDE_WORDS[self.which]} by {center:+d} Hz")
        self.main.setVisible(bool(counted) and advice.estimate.half_hz < 400)

    def figures(self) -> "list[Figure]":
        """The offset of the side in hand."""
        from umbra_awl.core.asked.counted import offset_figure

        hotspot = self._spot.hotspot
        if hotspot is None:
            return []
        held = hotspot.rx_correction_hz if self.which == "receive" else hotspot.tx_correction_hz
        found = offset_figure(hotspot.readings, self.which, held)
        return [found] if found is not None else []

    def _enable(self) -> None:
        there = self._chosen() is not None
        self.out.setEnabled(there)
        chosen = self._chosen()
        self.out.setText("Count it again" if chosen is not None and chosen.left_out else "Leave it out")
        self.anew.setEnabled(bool(self.readings))

    def _chosen(self) -> Reading | None:
        at = self.table.currentIndex().row()
        readings = self.readings
        return readings[at] if 0 <= at < len(readings) else None

    def add_typed(self) -> None:
        """Add the reading that is typed."""
        hotspot = self._spot.hotspot
        if hotspot is None:
            return
        day = self._spot.bench.index.today.isoformat()
        texts = (self.offset.text(), self.rate.text(), self.seconds.text())
        try:
            made = parse_reading(*texts, self.which, day, self.warm.text())
        except ReadingError as error:
            self._refuse(str(error))
            return
        self._refuse("")
        if self._spot.bench.do(add_readings(hotspot, (made,))):
            self.rate.clear()
            self.rate.setFocus()

    def _refuse(self, why: str) -> None:
        self.fault.setText(why)
        self.fault.setVisible(bool(why))

    def take_log(self) -> None:
        """Take the operator's own overs from the log that was read."""
        spot, hotspot = self._spot, self._spot.hotspot
        if hotspot is None:
            return
        made = from_overs(spot.own.overs(), of_side(hotspot, "receive"), spot.bench.index.today.isoformat())
        if not made:
            spot.bench.say("No new over of yours that tells its offset is in the log. Key, then ask the hotspot again.")
        elif spot.bench.do(add_readings(hotspot, made)):
            spot.bench.say(f"{len(made)} of your overs taken from the log.")

    def key_up(self) -> None:
        """Have the simulated hotspot take the typed offset, key the simulated radio, and take what was read."""
        spot, hotspot, access = self._spot, self._spot.hotspot, self._spot.access
        if hotspot is None or access is None or not self.offset.text().strip():
            return
        day = spot.bench.index.today.isoformat()
        try:
            wanted = parse_reading(self.offset.text(), "–", "3", "receive", day)
        except ReadingError as error:
            self._refuse(str(error))
            return
        mode = access.services[0].mode
        call = spot.own.calls[0] if spot.own.calls else ""
        over = {
            "mode": mode, "tx_hz": str(hotspot.receive_hz), "seconds": "3", "call": call, "to": "9", "slot": "2",
            "color_code": str(hotspot.color_code), "correction": str(wanted.offset_hz),
        }  # fmt: skip

        def done(found: Over) -> None:
            made = Reading(wanted.offset_hz, found.errors, found.bits, "receive", day)
            if found.heard or found.reached:
                spot.bench.do(add_readings(hotspot, (made,)))
            else:
                spot.bench.say(
                    "The hotspot did not hear the radio: is it up, its mode on, its frequency the same?", "stop"
                )

        spot.orders.key_up(over, done)

    def leave_out(self) -> None:
        """Put the chosen reading aside, or count it again."""
        hotspot, chosen = self._spot.hotspot, self._chosen()
        if hotspot is not None and chosen is not None:
            self._spot.bench.do(leave_out(hotspot, chosen))

    def begin_anew(self) -> None:
        """Take the readings of this side out."""
        hotspot = self._spot.hotspot
        if hotspot is not None:
            self._spot.bench.do_told(begin_anew(hotspot, self.which))

    def take(self) -> None:
        """Set the correction in the plan to what was found."""
        hotspot, advice = self._spot.hotspot, self.advice
        if hotspot is not None and advice is not None:
            edit = take_center(hotspot, self.which, advice.estimate.center_hz)
            if self._spot.bench.do(edit):
                self._spot.bench.say(f"{edit.sentence}. Set it in the hotspot at Must match; it restarts.")


def _rate(reading: Reading) -> str:
    return f"{100 * reading.errors / reading.bits:.2f} %" if reading.bits else "nothing"


def _note(reading: Reading, wrong: set[int]) -> str:
    told = "left out" if reading.left_out else "does not fit" if id(reading) in wrong else ""
    warm = f"{reading.celsius:g} °C" if reading.celsius is not None else ""
    return " ".join(filter(None, (warm, told)))
