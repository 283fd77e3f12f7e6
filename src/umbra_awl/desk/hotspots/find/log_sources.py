"""Where a hotspot's log comes from: a file, what was pasted, one that grows, a pipe, a journal, a page, a broker."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QFileDialog, QInputDialog

from umbra_awl.core.directory.people_search import names_of
from umbra_awl.core.drivers.reading import driven_log, kinds_with
from umbra_awl.core.hotspot.logs.polled import BrokerLog, PolledLog
from umbra_awl.core.hotspot.logs.reading import LogReading, read_log, read_log_bytes
from umbra_awl.core.hotspot.logs.streams import Followed, GrowingLog, JournalLog, follow
from umbra_awl.core.keep.limits import LimitError
from umbra_awl.core.tables.errors import ReadError, SourceError

if TYPE_CHECKING:
    from umbra_awl.desk.hotspots.find.find_page import FindPage


_KINDS = "Logs (*.log *.txt);;All files (*)"


class LogSources:
    """Opens and follows logs for a page."""

    def __init__(self, owner: "FindPage") -> None:
        self._page = owner

    def ask_open(self) -> None:
        """Ask for a log file."""
        path, _kind = QFileDialog.getOpenFileName(self._page, "The hotspot's log", str(Path.home()), kinds_with(_KINDS))
        if path:
            self.open_log(Path(path))

    def open_log(self, path: Path) -> None:
        """Read a log file in the background."""
        followed, rules, today = GrowingLog(path), self._page.spot.rules, self._page.spot.bench.clock.today()

        def work() -> LogReading | OSError | ReadError:
            try:
                read = driven_log(path)
                if read is None:
                    followed.more()
            except (OSError, ReadError) as error:
                return error
            return read_log_bytes(followed.data if read is None else read, rules, today)

        def done(found: LogReading | OSError | ReadError) -> None:
            if isinstance(found, ReadError):
                self._page.spot.bench.say(str(found), "stop")
                return
            if isinstance(found, OSError):
                why = found.strerror if isinstance(found, LimitError) else found.strerror or str(found)
                self._page.spot.bench.say(f"“{path.name}” cannot be read: {why}.", "stop")
                return
            self._page.take(found)

        self._page.spot.bench.jobs.latest("spot-log", work, done)

    def paste_log(self) -> None:
        """Read what is on the clipboard."""
        clipboard = QGuiApplication.clipboard()
        text = clipboard.text() if clipboard is not None else ""
        if not text.strip():
            self._page.spot.bench.say("There is no text on the clipboard. Copy the log first.")
            return
        rules, today = self._page.spot.rules, self._page.spot.bench.clock.today()
        self._page.spot.bench.jobs.latest("spot-log", lambda: read_log(text, rules, today), self._page.take)

    def ask_follow(self) -> None:
        """Ask for a file to follow, or follow it no more."""
        if self._page.timer.isActive():
            self._page.stop()
            return
        path, _kind = QFileDialog.getOpenFileName(self._page, "A log that grows", str(Path.home()), _KINDS)
        if path:
            self.follow_log(Path(path))

    def follow_log(self, path: Path) -> None:
        """Read on in a file, each second."""
        self._begin(lambda: follow(path))

    def ask_journal(self) -> None:
        """Ask of which service of this computer the journal is followed."""
        self._ask("A service's journal", "Name of the service, for example spot.service", self.follow_journal)

    def follow_journal(self, unit: str) -> None:
        """Read on in the journal of a service, each second."""
        self._begin(lambda: JournalLog(unit))

    def ask_page(self) -> None:
        """Ask at which address records are asked for."""
        self._ask(
            "A page that answers records", "Its address, for example bench-spot.local/calls.json", self.follow_page
        )

    def follow_page(self, address: str) -> None:
        """Read on in a page that answers JSON, every few seconds."""
        self._begin(lambda: PolledLog(address))

    def ask_broker(self) -> None:
        """Ask of which MQTT broker which topic is followed."""
        self._ask("A topic of an MQTT broker", "Broker and topic, for example 192.0.2.7/spot/calls", self.follow_broker)

    def follow_broker(self, place: str) -> None:
        """Read on in a topic of an MQTT broker."""
        self._begin(lambda: BrokerLog(place))

    def _ask(self, title: str, what: str, goes: Callable[[str], None]) -> None:
        text, given = QInputDialog.getText(self._page, title, what)
        if given and text.strip():
            goes(text.strip())

    def _begin(self, opens: Callable[[], Followed]) -> None:
        self._page.stop()
        try:
            self._page.followed = opens()
        except OSError as error:
            self._page.spot.bench.say(f"It cannot be followed: {error.strerror or error}", "stop")
            return
        self._page.follow.setText("Stop following")
        self._page.timer.start()
        self.follow()

    def follow(self) -> None:
        followed, rules, today = self._page.followed, self._page.spot.rules, self._page.spot.bench.clock.today()
        if followed is None:
            return

        def work() -> LogReading | OSError | None:
            try:
                return read_log_bytes(followed.data, rules, today) if followed.more() else None
            except OSError as error:
                return error

        def done(found: LogReading | OSError | None) -> None:
            if isinstance(found, OSError):
                self._page.stop()
                self._page.spot.bench.say(f"The log cannot be read any more: {found.strerror or found}.", "stop")
            elif found is not None and followed is self._page.followed:
                self._page.take(found)

        self._page.spot.bench.jobs.latest("spot-log", work, done)

    def look_up(self, log: LogReading) -> None:
        """Who called, out of the directory's people; in the background, each call once."""
        calls = {item.call for item in log.calls[:100]} - self._page.names.keys()
        directory = self._page.directory
        if not calls:
            return

        def work() -> dict[str, str]:
            try:
                return names_of(directory.store, calls)
            except SourceError:
                return {}

        def done(found: dict[str, str]) -> None:
            self._page.names |= dict.fromkeys(calls, "") | found
            if found:
                self._page.refresh()

        self._page.spot.bench.jobs.latest("spot-callers", work, done)
