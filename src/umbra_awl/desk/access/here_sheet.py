"""Where I am now, asked of a positioning receiver: looked around there at once; kept as the station's place only where said."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import QCheckBox, QWidget

from umbra_awl.core.directory.receiver_fix import FixError, ReceiverFix, fix_of_gpsd, fix_of_port
from umbra_awl.core.facts.earth import Position, locator_of
from umbra_awl.core.plan.edit.edit_station import set_station
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory, LookedAtPlace
from umbra_awl.desk.parts.cards.form_sheet import FormSheet

_LEAD = "A receiver for positions, through gpsd or on a port of this computer. Nothing is told to anybody by it."
_DEVICES, _PORTS = Path("/dev"), ("ttyACM*", "ttyUSB*", "rfcomm*", "gps*")
PATIENCE_S = 12.0


def receivers() -> list[tuple[str, str]]:
    """From where a position may come, in words, each with its port; an empty one for gpsd."""
    ports = sorted(str(port) for kind in _PORTS for port in _DEVICES.glob(kind))
    return [("gpsd on this computer", ""), *((f"receiver on {port}", port) for port in ports)]


class HereSheet(FormSheet):
    """Asks from where; the answer comes in the background."""

    def __init__(self, parent: QWidget, bench: Workbench, directory: Directory) -> None:
        super().__init__(parent, "Where I am now", _LEAD, self.attempt)
        self._bench, self._directory = bench, directory
        self._done.setText("Ask it")
        self.source = self.choice("Position from", list(receivers()))
        self.keep = QCheckBox("keep it as my station's position too")
        self.form.addRow("", self.keep)

    def attempt(self) -> str:
        """Ask in the background; what came of it is said."""
        port, keep = str(self.source.currentData() or ""), self.keep.isChecked()
        bench = self._bench
        closed: Callable[[], bool] = lambda: bench.jobs.closed  # noqa: E731
        work = (
            partial(fix_of_port, port, PATIENCE_S, cancelled=closed)
            if port
            else partial(fix_of_gpsd, PATIENCE_S, cancelled=closed)
        )
        bench.say(f"Waiting for a position, {PATIENCE_S:.0f} seconds at the most …")
        bench.jobs.start(work, partial(self._take, keep), self._failed)
        return ""

    def _take(self, keep: bool, fix: ReceiverFix) -> None:
        locator = locator_of(fix.lat, fix.lon)
        self._directory.go_to(LookedAtPlace(Position(fix.lat, fix.lon), f"here, {locator}"))
        if keep:
            sentence = f"Be at {locator}, as the receiver says"
            self._bench.do_told(
                set_station(sentence, lat=round(fix.lat, 5), lon=round(fix.lon, 5)), "Your place is that now."
            )
        else:
            self._bench.say(f"You are in {locator}. Shown is what is around there; your station's place stays.")

    def _failed(self, error: Exception) -> None:
        known = isinstance(error, FixError)
        self._bench.say(str(error) if known else f"No position: {type(error).__name__}.", "stop")
