"""The firmware of a simulated radio: which variant runs, and its loading state, in which a file can be put into it."""

import hashlib
import json
from collections.abc import Callable
from pathlib import Path

from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import Firmware
from umbra_awl.core.transfer.firmware.load import LOADING
from umbra_awl.core.transfer.frames import FrameKind, LinkRefusal, unpack_block

FIRST_VERSION = "1.04"
LOW_BATTERY = 20


class Loader:
    """What is kept of it lies beside the memory. Once a load has begun the radio comes up in loading state until it is whole."""

    def __init__(self, profile: Profile, memory: Path, battery: int = 100) -> None:
        self._profile, self._path = profile, memory.with_suffix(".firmware.json")
        self.battery = battery
        self._told: dict[str, object] = {}
        self._body = bytearray()
        self.loading = bool(self._kept().get("broken"))

    def _kept(self) -> dict[str, object]:
        try:
            found = json.loads(self._path.read_text())
        except (OSError, ValueError):
            return {}
        return found if isinstance(found, dict) else {}

    def _keep(self, **fields: object) -> None:
        write_over(self._path, json.dumps({**self._kept(), **fields}).encode())

    @property
    def variant(self) -> Firmware | None:
        """The variant that runs."""
        return self._profile.variant(str(self._kept().get("variant", "")))

    @property
    def hardware(self) -> str:
        """The mark of its make: the first that its profile knows."""
        way = self._profile.loading
        return way.hardware[0] if way is not None and way.hardware else ""

    @property
    def second(self) -> str:
        """The version of its second file; empty where it is not in it yet."""
        return str(self._kept().get("second", ""))

    @property
    def version(self) -> str:
        """What it says of its firmware: a version, or that it is in loading state."""
        return LOADING if self.loading else str(self._kept().get("version", FIRST_VERSION))

    def switch_on(self, *, keys: bool) -> None:
        """Come up: in loading state with the keys held, or when what is in it is not whole."""
        self.loading = keys or bool(self._kept().get("broken"))
        self._body.clear()

    def answer(self, kind: FrameKind, payload: bytes, lost: Callable[[], None]) -> tuple[FrameKind, bytes]:
        """The answer to a frame of loading; `lost` is called when the radio's people are gone with the old firmware."""
        if not self.loading:
            return FrameKind.REFUSED, bytes([LinkRefusal.NOT_BEGUN]) + b"not in loading state"
        if kind == FrameKind.LOAD_BEGIN:
            return self._begin(payload)
        if kind == FrameKind.LOAD_WRITE:
            at, data = unpack_block(payload)
            if at != len(self._body):
                self._body[at : at + len(data)] = data
            else:
                self._body += data
            return FrameKind.LOAD_WRITTEN, payload[:4]
        return self._end(lost)

    def _begin(self, payload: bytes) -> tuple[FrameKind, bytes]:
        told = json.loads(payload)
        if not isinstance(told, dict) or told.get("model") != self._profile.key:
            return FrameKind.REFUSED, bytes([LinkRefusal.UNKNOWN]) + b"firmware of another model"
        if (told.get("hardware") or self.hardware) != self.hardware:
            return FrameKind.REFUSED, bytes([LinkRefusal.UNKNOWN]) + b"firmware of another make"
        if told.get("second") and self._kept().get("broken"):
            return FrameKind.REFUSED, bytes([LinkRefusal.UNKNOWN]) + b"the first file is not whole"
        if self.battery < LOW_BATTERY:
            return FrameKind.REFUSED, bytes([LinkRefusal.BATTERY]) + b"battery low"
        self._told = told
        self._body.clear()
        self._keep(broken=not told.get("second"))
        return FrameKind.LOAD_BEGUN, b""

    def _end(self, lost: Callable[[], None]) -> tuple[FrameKind, bytes]:
        if hashlib.sha256(self._body).hexdigest() != self._told.get("sha256"):
            return FrameKind.REFUSED, bytes([LinkRefusal.UNKNOWN]) + b"firmware not whole"
        if self._told.get("second"):
            self._keep(second=self._told.get("version"))
            return FrameKind.LOAD_ENDED, b""
        self._keep(broken=False, variant=self._told.get("variant"), version=self._told.get("version"), second="")
        lost()
        return FrameKind.LOAD_ENDED, b""
