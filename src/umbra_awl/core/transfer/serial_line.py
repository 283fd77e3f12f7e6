"""The programming line over a serial port, by pyserial. The library is imported when a port is first opened.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

from typing import NamedTuple

from umbra_awl.core.transfer.errors import NoPortError, UnpluggedError

_GONE = "The radio went away in the middle: unplugged, or switched off. Connect it again and switch it on."


class SerialLine:
    """A serial port as a transport."""

    def __init__(self, port: str, baud: int) -> None:
        """Open a port at a speed in bits per second. Raises NoPortError."""
        import serial

        try:
            self._port = serial.Serial(port, baud, timeout=0.05, write_timeout=10)
        except (serial.SerialException, OSError, ValueError) as error:
            reason = str(error).rpartition(":")[2].strip() or str(error)
            raise NoPortError(f"The port {port} does not open ({reason}). Is the cable in, and the radio on?") from None

    def write(self, data: bytes) -> None:
        """Send bytes. Raises UnpluggedError."""
        try:
            self._port.write(data)
        except (OSError, TypeError) as error:
            raise UnpluggedError(_GONE) from error

    def read(self, timeout_s: float) -> bytes:
        """The bytes that have arrived, waiting up to a timeout in seconds. Raises UnpluggedError."""
        try:
            self._port.timeout = timeout_s
            first: bytes = self._port.read(1)
            return first + self._port.read(self._port.in_waiting) if first else b""
        except (OSError, TypeError) as error:
            raise UnpluggedError(_GONE) from error

    def close(self) -> None:
        """Let go of the port."""
        self._port.close()


class PortFound(NamedTuple):
    """A serial port of this machine: its name, what it says it is, and whether a cable is likely on it."""

    device: str
    what: str
    likely: bool


def ports() -> list[PortFound]:
    """The serial ports that are there, those of plugged-in cables first; built-in ones that nothing speaks of come last."""
    from serial.tools import list_ports

    found = [
        PortFound(item.device, "" if item.description in {"n/a", None} else item.description, item.vid is not None)
        for item in list_ports.comports()
    ]
    return sorted(found, key=lambda item: (not item.likely, item.device))
