"""Texts and pictures going out over the bench, one at a time, each past the gate."""

import time
from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, NamedTuple

from umbra_awl.core.messages.blocks import Outgoing
from umbra_awl.core.messages.errors import AirError, BrokenOffError, MessageError
from umbra_awl.core.messages.frames import Text
from umbra_awl.core.messages.history import Said, utc_stamp
from umbra_awl.core.messages.sending import AirPort, Watched, send_picture, send_text
from umbra_awl.core.transfer.errors import CancelledError, TransferError

if TYPE_CHECKING:
    from umbra_awl.desk.onair.messages.air_job import AirJob


class Progress(NamedTuple):
    """How far a picture is: blocks there, of how many, how many were sent, seconds since it began."""

    have: int
    all: int
    sent: int
    seconds: float


BENCH_SPEED = 8.0
"""The bench's air is so many times faster than the real one."""


class AirSending:
    """Sends for a bench."""

    def __init__(self, owner: "AirJob") -> None:
        self._air = owner

    def send_text(self, text: Text, may: Callable[[], str], rate_bps: int) -> None:
        """Send a text at a useful rate; `may` is asked right before it goes out, and says why not."""
        self._put("a text", partial(self._text, text, may), rate_bps)

    def _text(self, text: Text, may: Callable[[], str], port: AirPort) -> None:
        self._air.use(may)
        send_text(port, text)
        self._air.tell(
            partial(
                self._air.kept.keep,
                partial(self._air.kept.there.keep_text, text, "mine", utc_stamp(self._air.bench.clock.utc())),
            )
        )

    def send_picture(self, outgoing: Outgoing, kept: Callable[[], Said], may: Callable[[], str], rate_bps: int) -> None:
        """Send a picture, or go on with one that broke off. `kept` keeps it in the history when it is there."""
        outgoing.again()
        self._air.outgoing = outgoing
        self._put("a picture", partial(self._picture, outgoing, kept, may), rate_bps)

    def _picture(self, outgoing: Outgoing, kept: Callable[[], Said], may: Callable[[], str], port: AirPort) -> None:
        self._air.use(may)
        begun = time.monotonic()

        def told(have: int, all_: int, sent: int) -> None:
            self._air.tell(partial(self._show, Progress(have, all_, sent, (time.monotonic() - begun) * BENCH_SPEED)))

        send_picture(port, outgoing, Watched(told, lambda: self._air.cut_off.is_set() or self._air.bench.jobs.closed))
        self._air.tell(partial(self._air.kept.keep, kept))

    def _show(self, progress: Progress) -> None:
        self._air.progress = progress
        self._air.changed.emit()

    def _put(self, words: str, does: Callable[[AirPort], None], rate_bps: int) -> None:
        if not self._air.on or self._air.sending:
            return
        self._air.order("rate", bps=rate_bps)
        self._air.sending, self._air.fault = words, ""
        self._air.progress = None
        self._air.cut_off.clear()
        self._air.incoming.anew()
        self._air.wanted.put(partial(self._try, does))
        self._air.changed.emit()

    def _try(self, does: Callable[[AirPort], None], port: AirPort) -> None:
        """In the thread: do one thing; what goes wrong is told, and the radios stay on."""
        fault = ""
        try:
            does(port)
        except (MessageError, TransferError, OSError) as error:
            fault = str(error)
            if isinstance(error, AirError) and not isinstance(error, BrokenOffError | CancelledError):
                port.listen(0.2)
        self._air.tell(partial(self._done, fault))

    def _done(self, fault: str) -> None:
        self._air.sending, self._air.fault = "", fault
        if fault:
            self._air.bench.say(fault, "stop")
        self._air.changed.emit()

    def cancel(self) -> None:
        """Stop what is being sent, between two turns."""
        self._air.cut_off.set()
