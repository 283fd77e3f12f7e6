"""Where I am, as a positioning receiver says: over gpsd, or sentences of NMEA 0183 from a serial line.

Sources: the gpsd JSON protocol (class TPV, mode 2 and 3 are fixes), port 2947 on this computer; NMEA 0183, sentences GGA and RMC
with their checksum, latitude as ddmm.mmmm.
"""

import json
import re
import socket
import time
from collections.abc import Callable, Iterator
from functools import partial
from typing import NamedTuple

GPSD = ("127.0.0.1", 2947)
_BAUDS = (9_600, 4_800, 38_400, 115_200)
_WATCH = b'?WATCH={"enable":true,"json":true}\n'
_LONGEST_LINE, _MOST_BYTES = 8_192, 1_000_000
_SENTENCE = re.compile(r"\$(?P<body>[A-Z]{2}(?P<kind>GGA|RMC),[^*$]{0,120})\*(?P<sum>[0-9A-Fa-f]{2})\s*\Z")
_ANGLE = re.compile(r"(\d{1,3})(\d{2}(?:\.\d+)?)")


class FixError(OSError):
    """No position could be had; the message says why and what to do."""


class ReceiverFix(NamedTuple):
    """A position in degrees, north and east positive, and the moment as the receiver tells it (ISO or hhmmss), if it does."""

    lat: float
    lon: float
    moment: str = ""


def nmea_fix(line: str) -> ReceiverFix | None:
    """The fix in a sentence; None for another sentence, one whose checksum is wrong, and one without a fix."""
    found = _SENTENCE.search(line.strip())
    if found is None:
        return None
    total = 0
    for char in found["body"]:
        total ^= ord(char)
    fields = found["body"].split(",")
    if total != int(found["sum"], 16):
        return None
    if found["kind"] == "GGA":
        valid, at = len(fields) > 6 and fields[6] not in {"", "0"}, 2
    else:
        valid, at = len(fields) > 6 and fields[2] == "A", 3
    if not valid:
        return None
    lat, lon = _angle(fields[at], fields[at + 1], "NS"), _angle(fields[at + 2], fields[at + 3], "EW")
    return _sane(lat, lon, fields[1]) if lat is not None and lon is not None else None


def _angle(text: str, side: str, sides: str) -> float | None:
    found = _ANGLE.fullmatch(text)
    if found is None or side not in sides or not side:
        return None
    degrees = int(found[1]) + float(found[2]) / 60
    return degrees if side == sides[0] else -degrees


def _sane(lat: float, lon: float, moment: str) -> ReceiverFix | None:
    good = -90 <= lat <= 90 and -180 <= lon <= 180
    return ReceiverFix(lat, lon, moment[:30]) if good else None


def gpsd_fix(line: str) -> ReceiverFix | None:
    """The fix in a line of gpsd; None for another report, and for one without a fix."""
    try:
        told = json.loads(line)
    except (ValueError, RecursionError):
        return None
    if not isinstance(told, dict) or told.get("class") != "TPV" or told.get("mode") not in {2, 3}:
        return None
    lat, lon = told.get("lat"), told.get("lon")
    if (
        isinstance(lat, bool)
        or isinstance(lon, bool)
        or not isinstance(lat, int | float)
        or not isinstance(lon, int | float)
    ):
        return None
    return _sane(float(lat), float(lon), str(told.get("time", "")))


Reads = Callable[[], bytes]
Cancelled = Callable[[], bool]


def _lines(read: Reads, until: float, cancelled: Cancelled) -> Iterator[str]:
    """Whole lines of what comes in, until a moment of the monotonic clock; nothing endless is held."""
    held, total = b"", 0
    while time.monotonic() < until and total < _MOST_BYTES and not cancelled():
        data = read()
        total += len(data)
        *whole, held = (held + data).split(b"\n")
        held = held[-_LONGEST_LINE:]
        yield from (line.decode("ascii", "replace") for line in whole)


def fix_of_gpsd(
    patience_s: float = 10.0, address: tuple[str, int] = GPSD, cancelled: Cancelled = lambda: False
) -> ReceiverFix:
    """The first fix that gpsd tells within so many seconds. Raises FixError."""
    until = time.monotonic() + patience_s
    try:
        with socket.create_connection(address, timeout=min(patience_s, 3.0)) as line:
            line.settimeout(0.3)
            line.sendall(_WATCH)

            def read() -> bytes:
                try:
                    data = line.recv(4_096)
                except TimeoutError:
                    return b""
                if not data:
                    raise ConnectionError("it hung up")
                return data

            found = next(filter(None, map(gpsd_fix, _lines(read, until, cancelled))), None)
    except OSError as error:
        raise FixError(
            f"gpsd does not answer at {address[0]}:{address[1]} ({error.strerror or error}). Start it, or choose the port of "
            "the receiver."
        ) from None
    return _had(found)


def fix_of_port(port: str, patience_s: float = 10.0, cancelled: Cancelled = lambda: False) -> ReceiverFix:
    """The first fix that a receiver on a serial port tells, at whichever usual speed it talks. Raises FixError."""
    import serial

    each = patience_s / len(_BAUDS)
    for baud in _BAUDS:
        try:
            with serial.Serial(port, baud, timeout=0.2, exclusive=True) as line:
                lines = _lines(partial(line.read, 256), time.monotonic() + each, cancelled)
                found = next(filter(None, map(nmea_fix, lines)), None)
        except (OSError, ValueError) as error:
            raise FixError(f"The port {port} cannot be read ({error}). Is another program using it?") from None
        if found is not None or cancelled():
            return _had(found)
    return _had(None)


def _had(found: ReceiverFix | None) -> ReceiverFix:
    if found is None:
        raise FixError(
            "The receiver tells no position yet. Give it a free view of the sky, wait a minute, and ask again."
        )
    return found
