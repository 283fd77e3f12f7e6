"""A hotspot of one's own is added: name, board, one frequency or two, the networks of its modes; the ruler gives the place."""

from collections.abc import Mapping, Sequence

from PyQt6.QtWidgets import QComboBox, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.hotspot.begin import (
    DUPLEX_SHIFT_HZ,
    NewHotspot,
    band_to_begin,
    begin_hotspot,
    drafted,
    fault_of,
    modes_offered,
)
from umbra_awl.core.hotspot.compatible import Board, shipped_parts
from umbra_awl.core.hotspot.place.after import asked_for, place_of
from umbra_awl.core.hotspot.place.ruler import RulerPlace
from umbra_awl.core.hotspot.place.seek import STATE_WORDS, FoundPlaces, pair_words, seek_places
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.model import Mode
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.parts.cards.form_sheet import FormSheet
from umbra_awl.desk.parts.tips import set_tip

_LEAD = "A small station of your own. It sends under your call sign, on a place that disturbs nobody; the ruler looks for one."
_NOT_SERVED, _NOT_TOLD = "-", ""
_SEEKING = "Looking for places …"
_NO_BAND = "Your licence has no band for it yet: answer the questions at Station, Me."


class AddHotspot(FormSheet):
    """The sheet; `key` is that of the hotspot once it was added."""

    def __init__(self, bench: Workbench, directory: Directory, parent: QWidget) -> None:
        super().__init__(parent, "Add a hotspot", _LEAD, self.attempt)
        self._bench, self._directory = bench, directory
        self.key = ""
        self._places: list[RulerPlace] = []
        self._asked_of: tuple[object, ...] = ()
        self.name = self.line("Name", "Field spot")
        self.board = self.choice(
            "Board", [*((item.name, item.key) for item in shipped_parts().board), ("another one", "")]
        )
        self.lines = self.choice("Frequencies", [("one: simplex", False), ("two: duplex", True)])
        self.modes: Mapping[Mode, QComboBox] = {mode: self._mode(mode) for mode in modes_offered(None)}
        self.place = self.choice("Place", [(_SEEKING, None)])
        self.told = self.remark()
        self.board.currentIndexChanged.connect(lambda _at: self._follow_board())
        self.lines.currentIndexChanged.connect(lambda _at: self.seek())
        for box in self.modes.values():
            box.currentIndexChanged.connect(lambda _at: self.seek())
        self._follow_board()

    def _mode(self, mode: Mode) -> QComboBox:
        """Whether a mode is served, and through which network."""
        networks = [(item.name, item.key) for item in self._bench.plan.networks if item.mode == mode]
        more = [("yes, its network is not known yet", _NOT_TOLD), ("not served", _NOT_SERVED)]
        made = self.choice(MODE_WORDS[mode], [*networks, *more])
        if not networks and mode != "dmr":
            made.setCurrentIndex(made.findData(_NOT_SERVED))
        return made

    def _board(self) -> Board | None:
        return next((item for item in shipped_parts().board if item.key == self.board.currentData()), None)

    def _follow_board(self) -> None:
        """A board serves its modes only, and two frequencies only where it can."""
        board = self._board()
        duplex = board is None or board.duplex
        self.lines.setEnabled(duplex)
        set_tip(self.lines, "" if duplex else f"{board.name} has one frequency." if board is not None else "")
        if not duplex:
            self.lines.setCurrentIndex(0)
        for mode, box in self.modes.items():
            self.form.setRowVisible(box, mode in modes_offered(board))
        self.seek()

    @property
    def wanted(self) -> NewHotspot:
        """What is asked for."""
        board = self._board()
        networks: dict[Mode, str] = {
            mode: box.currentData()
            for mode, box in self.modes.items()
            if mode in modes_offered(board) and box.currentData() != _NOT_SERVED
        }
        return NewHotspot(
            self.name.text().strip(), networks, board.key if board is not None else "", self.lines.currentData()
        )

    def seek(self) -> None:
        """Look for places in the background, anew only where what is asked for needs another width or spacing."""
        wanted, index = self.wanted, self._bench.index
        of = (tuple(wanted.networks), wanted.duplex)
        band = band_to_begin(index)
        if of == self._asked_of or not wanted.networks:
            return
        if band is None:
            self.told.setText(_NO_BAND)
            return
        self._asked_of, self._places = of, []
        middle = (band.low_hz + band.high_hz) // 2
        access = drafted(index, wanted._replace(site="new"), middle, middle + DUPLEX_SHIFT_HZ * wanted.duplex)
        asked = asked_for(index, access, None)
        if asked is None:
            return
        sought, plan, store = asked._replace(band=band), index.plan, self._directory.store
        place = place_of(plan, access)
        self._show([(_SEEKING, None)], "")
        self._bench.jobs.latest("hotspot place", lambda: seek_places(plan, access, sought, store, place), self._take)

    def _take(self, found: FoundPlaces) -> None:
        self._places = found.best
        rows = [
            (f"{pair_words(item)} MHz: {STATE_WORDS[item.state]}, {item.score} of 100", item) for item in found.best
        ]
        none = f"No place in {found.ruler.asked.band.name} is allowed and free here. See the ruler at Frequency."
        self._show(
            rows,
            f"The best of {counted(len(found.ruler.hz), 'channel')}. The ruler shows them all, with reasons."
            if rows
            else none,
        )

    def _show(self, rows: Sequence[tuple[str, RulerPlace | None]], told: str) -> None:
        self.place.clear()
        for text, data in rows:
            self.place.addItem(text, data)
        self.told.setText(told)

    def attempt(self) -> str:
        """Add it; the reason when that cannot be."""
        index, wanted = self._bench.index, self.wanted
        fault = fault_of(index, wanted)
        if fault:
            return fault
        place = self.place.currentData()
        if place is None:
            return self.told.text() or "The places are still being worked out. A moment more."
        before = {item.key for item in index.plan.hotspots}
        try:
            if self._bench.do(begin_hotspot(index, wanted, place)):
                self.key = next((item.key for item in self._bench.plan.hotspots if item.key not in before), "")
        except EditRefused as error:
            return str(error)
        return ""
