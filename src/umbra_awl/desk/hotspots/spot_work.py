"""What a hotspot in hand is asked in the background, one thing at a time."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, Any

from umbra_awl.core.hotspot.match.form_error import FormError
from umbra_awl.core.hotspot.seek.errors import HotspotError, NoHotspotError
from umbra_awl.core.transfer.errors import DriverError

if TYPE_CHECKING:
    from umbra_awl.desk.hotspots.spot import Spot


_NO_ADDRESS = "No address yet. Find it first, or type it here: the name it has, or its number."


class SpotWork:
    """Asks for a spot."""

    def __init__(self, owner: "Spot") -> None:
        self._spot = owner

    def run(self, work: Callable[[], Any], done: Callable[[Any], None]) -> None:
        """Do something in the background, one thing at a time."""
        if self._spot.running or not self._spot.key or not self._spot.bench.reaches_out():
            return
        if not self._spot.address:
            self._spot.fault = _NO_ADDRESS
            self._spot.changed.emit()
            return
        self._spot.running, self._spot.fault, self._spot.said = True, "", ""
        self._spot.changed.emit()
        self._spot.bench.jobs.start(
            work, partial(self._end, self._spot.key, self._spot.address, done), partial(self._fail, self._spot.key)
        )

    def search(self, work: Callable[[], Any], done: Callable[[Any], None]) -> None:
        """Look around in the background; the address is not known yet."""
        if self._spot.running or not self._spot.key or not self._spot.bench.reaches_out():
            return
        self._spot.running = self._spot.searching = True
        self._spot.fault = self._spot.said = ""
        self._spot.changed.emit()
        self._spot.bench.jobs.start(
            work, partial(self._end, self._spot.key, None, done), partial(self._fail, self._spot.key)
        )

    def _end(self, key: str, address: str | None, done: Callable[[Any], None], result: Any) -> None:
        """Take what came of it, unless another hotspot or another address is in hand by now: it says nothing of that one."""
        self._spot.running = self._spot.searching = False
        if key == self._spot.key and address in {None, self._spot.address}:
            done(result)
        self._spot.changed.emit()

    def _fail(self, key: str, error: Exception) -> None:
        self._spot.running = self._spot.searching = False
        if key == self._spot.key:
            if isinstance(error, NoHotspotError):
                self._spot.status = None
            known = isinstance(error, HotspotError | FormError | DriverError | OSError)
            unforeseen = f"Something unforeseen happened: {type(error).__name__}. Nothing is lost."
            self._spot.fault = str(error) if known else unforeseen
        self._spot.changed.emit()
