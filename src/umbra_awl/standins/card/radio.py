"""A radio with a card slot, as a thing with a display, a few menus, and the habits of real ones.

It writes its files without care, as radios do: a card pulled meanwhile is left with half a file. It asks before it reads in, as
often as its profile says; it takes a part when it is told to, and never a file of another model.
"""

import json
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.keep.clock import RUNNING, Clock
from umbra_awl.core.radio.memory import Channel
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.card.form import CardFile, CardHeader, Scope, pack, parse
from umbra_awl.core.transfer.errors import CardFileError
from umbra_awl.core.transfer.image import decode
from umbra_awl.core.transfer.image_records import tables_of
from umbra_awl.core.transfer.unit import with_own_unit

SLOT, READER, CARD = "radio", "computer", "CARD"
FIRMWARE = "2.10"
_STEM, _SUFFIX = "SAVE", ".AWC"
_LIST = "AROUND" + _SUFFIX
_CHUNK = 4_096


class Waiting(NamedTuple):
    """What the radio asks about: how many yeses it still wants, and what it then does."""

    left: int
    does: Callable[[], None]


class CardRadio:
    """The radio; `place` holds its slot and the computer's reader as folders, one of which has the card in it."""

    def __init__(
        self, profile: Profile, memory: Path, place: Path, *, pull_at: int = 0, clock: Clock = RUNNING
    ) -> None:
        card = profile.card
        if card is None:
            raise ValueError(f"{profile.name} has no card.")
        self._profile, self._card, self._memory, self._place = profile, card, memory, place
        self._pull_at, self._clock = pull_at, clock
        self.on = True
        self.lines: list[str] = []
        self._waiting: Waiting | None = None
        self._channel = 1
        for side in (SLOT, READER):
            (place / side).mkdir(parents=True, exist_ok=True)
        if not any((place / side / CARD).is_dir() for side in (SLOT, READER)):
            (place / SLOT / CARD).mkdir()
        self._show_channel()

    @property
    def card_in(self) -> bool:
        """Whether the card is in the slot."""
        return self._slot.is_dir()

    @property
    def _slot(self) -> Path:
        return self._place / SLOT / CARD

    @property
    def _folder(self) -> Path:
        return self._slot / self._card.folder / self._card.backup

    @property
    def _image(self) -> bytes:
        return self._memory.read_bytes()

    def _say(self, *lines: str) -> None:
        self.lines = list(lines)

    def _counter(self) -> Path:
        return self._memory.with_suffix(".state.json")

    def _saves(self) -> int:
        try:
            return int(json.loads(self._counter().read_text())["saves"])
        except (OSError, ValueError, KeyError, TypeError):
            return 0

    def power(self) -> None:
        """Switch it on or off."""
        self.on = not self.on
        self._waiting = None
        if self.on:
            self._show_channel()
        else:
            self._say()

    def push_out(self) -> None:
        """Push the card out, into the computer; a radio that is on complains."""
        if not self.card_in:
            return
        self._slot.rename(self._place / READER / CARD)
        if self.on:
            self._waiting = None
            self._say("CARD PULLED", "SWITCH OFF FIRST")

    def push_in(self) -> None:
        """Take the card from the computer and push it in."""
        there = self._place / READER / CARD
        if there.is_dir():
            there.rename(self._slot)
            if self.on:
                self._say("CARD IN WHILE ON", "SWITCH OFF AND ON")

    def _ready(self) -> bool:
        if self.on and not self.card_in:
            self._say("NO CARD")
        return self.on and self.card_in

    def write_out(self, scope: Scope = "everything") -> None:
        """Write all of the memory, or a part, onto the card as a new file."""
        if not self._ready():
            return
        number = self._saves() + 1
        body = self._image
        if scope != "everything":
            body = b"".join(body[start:end] for start, end in self._part(scope))
        now = f"{self._clock.local():%Y-%m-%dT%H:%M:%S}"
        header = CardHeader(self._profile.key, "memory", "radio", number, now, scope, FIRMWARE)
        if self._put(self._folder / f"{_STEM}{number:04d}{_SUFFIX}", pack(CardFile(header, body))):
            self._counter().write_text(json.dumps({"saves": number}))
            self._say(self._card.done.upper(), f"{_STEM}{number:04d}")

    def _part(self, scope: Scope) -> list[tuple[int, int]]:
        tables = tables_of(self._profile)
        if scope == "memories":
            return [span for table in tables if table.field == "channels" for span in table.spans()]
        at = self._profile.image.settings_at
        return [(at, at + self._profile.settings_length)]

    def _put(self, path: Path, data: bytes) -> bool:
        """Write a file straight onto the card, as radios do; False when the card was pulled or is full."""
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            with path.open("wb") as file:
                for at in range(0, len(data), _CHUNK):
                    if self._pull_at and at >= self._pull_at:
                        self._pull_at = 0
                        file.flush()
                        self._slot.rename(self._place / READER / CARD)
                        self._say("CARD PULLED", "FILE NOT WHOLE")
                        return False
                    file.write(data[at : at + _CHUNK])
        except OSError:
            self._say("CARD ERROR")
            return False
        return True

    def files(self) -> list[str]:
        """The names that its list for reading in shows: every file in its own folder, newest name first."""
        if not self._folder.is_dir():
            return []
        return sorted((item.name for item in self._folder.iterdir() if item.suffix == _SUFFIX), reverse=True)

    def read_in(self, name: str, scope: Scope = "everything") -> None:
        """Ask, and then take a file from the card, or a part of it."""
        if self._ready():
            self._ask(f"LOAD {name.removesuffix(_SUFFIX)}?", lambda: self._take(name, scope))

    def _ask(self, question: str, does: Callable[[], None]) -> None:
        self._waiting = Waiting(self._card.yes, does)
        self._say(question, "YES / NO")

    def answer(self, *, yes: bool) -> None:
        """Say yes or no to what it asks; some want the yes twice."""
        waiting = self._waiting
        if waiting is None or not self.on:
            return
        if not yes:
            self._waiting = None
            self._show_channel()
        elif waiting.left > 1:
            self._waiting = waiting._replace(left=waiting.left - 1)
            self._say("IT IS WRITTEN OVER.", "SURE? YES / NO")
        else:
            self._waiting = None
            waiting.does()

    def _take(self, name: str, scope: Scope) -> None:
        if not self._ready():
            return
        try:
            file = parse((self._folder / name).read_bytes())
        except (OSError, CardFileError):
            self._say("FILE ERROR", name.removesuffix(_SUFFIX))
            return
        own = self._image
        if file.header.model != self._profile.key or file.header.kind != "memory":
            self._say("WRONG FILE", "OTHER MODEL")
            return
        if len(file.body) != len(own):
            self._say("FILE ERROR", "NOT WHOLE")
            return
        taken = bytearray(own) if scope != "everything" else bytearray(with_own_unit(file.body, own, self._profile))
        for start, end in self._part(scope) if scope != "everything" else ():
            taken[start:end] = file.body[start:end]
        self._keep(bytes(taken))
        self._say(self._card.done.upper(), "RESTARTING" if self._card.restarts else "")

    def _keep(self, image: bytes) -> None:
        write_over(self._memory, image)

    @property
    def _around(self) -> Path:
        return self._memory.with_suffix(".around.csv")

    def list_out(self) -> None:
        """Write its list of access points around onto the card, as a file of its own."""
        around = self._card.around
        if around is None or not self._ready():
            return
        body = self._around.read_bytes() if self._around.exists() else b""
        rows = max(0, body.count(b"\n") - 1)
        now = f"{self._clock.local():%Y-%m-%dT%H:%M:%S}"
        header = CardHeader(self._profile.key, "around", "radio", self._saves(), now, firmware=FIRMWARE, rows=rows)
        if self._put(self._slot / self._card.folder / around.folder / f"OWN{_SUFFIX}", pack(CardFile(header, body))):
            self._say(self._card.done.upper(), f"{rows} IN LIST")

    def list_in(self) -> None:
        """Ask, and then take the list of access points around from the card."""
        if self._card.around is not None and self._ready():
            self._ask("LOAD LIST AROUND?", self._take_list)

    def _take_list(self) -> None:
        around = self._card.around
        if around is None:
            return
        try:
            file = parse((self._slot / self._card.folder / around.folder / _LIST).read_bytes())
        except (OSError, CardFileError):
            self._say("NO LIST ON CARD")
            return
        rows = max(0, file.body.count(b"\n") - 1)
        if file.header.model != self._profile.key or file.header.kind != "around":
            self._say("WRONG FILE", "OTHER MODEL")
        elif rows > around.records:
            self._say("LIST TOO LONG", f"{rows} OF {around.records}")
        else:
            write_over(self._around, file.body)
            self._say(self._card.done.upper(), f"{rows} IN LIST")

    def _channels(self) -> tuple[Channel, ...]:
        return decode(self._image, self._profile).channels

    def turn(self, step: int = 1) -> None:
        """Turn the knob to the next memory."""
        count = len(self._channels())
        self._channel = (self._channel - 1 + step) % count + 1 if count else 1
        if self.on:
            self._show_channel()

    def turn_to(self, name: str) -> None:
        """Turn to a memory by its name."""
        numbers = [channel.number for channel in self._channels() if channel.name == name]
        self._channel = numbers[0] if numbers else self._channel
        if self.on:
            self._show_channel()

    def key(self) -> None:
        """Press the key: the display shows what it sends on, or refuses."""
        found = self._here()
        if not self.on or found is None:
            return
        able = self._profile.transmits(found.tx_hz)
        word = "RX ONLY" if found.receive_only else "OUT OF BAND" if not able else f"TX {format_mhz(found.tx_hz)}"
        self._say(found.name, word)

    def _here(self) -> Channel | None:
        return next((item for item in self._channels() if item.number == self._channel), None)

    def _show_channel(self) -> None:
        found = self._here()
        self._say(found.name, format_mhz(found.rx_hz)) if found is not None else self._say("NO MEMORIES")

    def state(self) -> dict[str, object]:
        """What its owner sees, as plain values."""
        return {
            "on": self.on,
            "card": SLOT if self.card_in else READER if (self._place / READER / CARD).is_dir() else "gone",
            "lines": self.lines if self.on else [],
            "asks": self._waiting is not None,
            "files": self.files() if self.on and self.card_in else [],
        }
