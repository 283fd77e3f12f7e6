"""Own overs in a hotspot's log go into the log by themselves, each once; those of a simulated hotspot as simulated.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable
from typing import TYPE_CHECKING

from umbra_awl.desk.hotspots.spot import Spot

if TYPE_CHECKING:
    from umbra_awl.core.logbook.model import Entry
    from umbra_awl.desk.book.log_book import LogBook


class OversLogged:
    """Follows the log of the hotspot in hand."""

    def __init__(self, spot: Spot, book: "Callable[[], LogBook]") -> None:
        self._spot, self._book = spot, book
        self._seen: object = None
        spot.changed.connect(self._look)

    def _look(self) -> None:
        """Another log was read: have its overs written, unless they are there."""
        spot = self._spot
        log, hotspot = spot.log, spot.hotspot
        if log is None or hotspot is None or log is self._seen:
            return
        self._seen = log
        if not log.calls:
            return
        from umbra_awl.core.hotspot.seek.talk import is_loopback
        from umbra_awl.core.logbook.from_hotspot import entries_of

        book, index = self._book(), spot.bench.index
        file = book.file
        simulated = is_loopback(spot.address)
        taken = {item.key for item in book.entries}

        def work() -> "tuple[Entry, ...]":
            return entries_of(index, hotspot, log, taken, "simulation" if simulated else "hotspot")

        name = index.access[hotspot.access].by_site if hotspot.access in index.access else "the hotspot"
        kind = "Simulated overs" if simulated else "Own overs"
        sentence = f"{kind} out of the log of {name}"
        spot.bench.jobs.latest("overs", work, lambda made: book.add_by_itself(file, made, sentence))
