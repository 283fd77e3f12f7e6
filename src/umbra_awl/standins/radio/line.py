"""The radio's end of the line: a pseudo-terminal with a name that stays the same, bytes at the line's speed."""

import os
import select
import time
import tty
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

from umbra_awl.core.transfer.frames import Decoder, encode
from umbra_awl.standins.radio.device import SimulatedRadio

_SLICE = 512


class LinePulledError(Exception):
    """The cable was pulled, as asked for."""


class PtyLine:
    """A pseudo-terminal paced to a line's speed; both directions count for the unplug fault."""

    def __init__(self, link: Path, bytes_per_s: float, unplug_at: int) -> None:
        self._master, self._slave = os.openpty()
        tty.setraw(self._slave)
        os.set_blocking(self._master, False)
        self._link = link
        with suppress(FileNotFoundError):
            link.unlink()
        link.symlink_to(os.ttyname(self._slave))
        self._per_s = bytes_per_s
        self._left = unplug_at or None
        self._free_at = 0.0

    def pull(self) -> None:
        """Take the cable out: the port vanishes from the other side's view."""
        with suppress(FileNotFoundError):
            self._link.unlink()
        os.close(self._slave)
        os.close(self._master)

    def _pace(self, count: int) -> None:
        now = time.monotonic()
        self._free_at = max(self._free_at, now) + count / self._per_s
        if self._free_at - now > 0.002:
            time.sleep(self._free_at - now)

    def _count(self, data: bytes) -> bytes:
        if self._left is None:
            return data
        passed = data[: self._left]
        self._left -= len(passed)
        return passed

    def read(self, timeout_s: float) -> bytes:
        """The bytes that came in; empty after a timeout in seconds. Raises UnpluggedError."""
        ready, _, _ = select.select([self._master], [], [], timeout_s)
        if not ready:
            return b""
        data = self._count(os.read(self._master, 4096))
        self._pace(len(data))
        if self._left == 0:
            raise LinePulledError
        return data

    def write(self, data: bytes) -> None:
        """Send bytes. Raises UnpluggedError, after the last that still went through."""
        for start in range(0, len(data), _SLICE):
            self._write_slice(self._count(data[start : start + _SLICE]))
            if self._left == 0:
                raise LinePulledError

    def _write_slice(self, data: bytes) -> None:
        self._pace(len(data))
        while data:
            _, ready, _ = select.select([], [self._master], [], 1.0)
            if not ready:
                return  # nobody reads at the other end; a real line would lose the bytes too
            sent = os.write(self._master, data)
            data = data[sent:]


def serve(
    line: PtyLine, device: SimulatedRadio, show: Callable[[str], None], running: Callable[[SimulatedRadio], bool]
) -> None:
    """Answer frames until told to stop; `running` is asked in between. Raises UnpluggedError when that fault strikes."""
    decoder = Decoder()
    shown = ""
    while running(device):
        for frame in decoder.feed(line.read(0.2)):
            answer = device.answer(frame)
            if answer is not None:
                line.write(device.spoil(encode(answer)))
            if device.display != shown:
                shown = device.display
                show(shown)
