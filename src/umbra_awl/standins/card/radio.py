"""A radio with a card slot, as a thing with a display, a few menus, and the habits of real ones.

It writes its files without care, as radios do: a card pulled meanwhile is left with half a file. It asks before it reads in, as
often as its profile says; it takes a part when it is told to, and never a file of another model.
"""

import json
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.keep.clock import RUNNING, Clock
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.card.form import CardFile, CardHeader, Scope, pack, parse
from umbra_awl.core.transfer.errors import CardFileError
from umbra_awl.core.transfer.image_records import tables_of
from umbra_awl.core.transfer.unit import with_own_unit
from umbra_awl.standins.card.around import ListAround
from umbra_awl.standins.card.knob import ChannelKnob

SLOT, READER, CARD = "radio", "computer", "CARD"
FIRMWARE = "2.10"
_STEM, _SUFFIX = "SAVE", ".AWC"
_CHUNK = 4_096


class Waiting(NamedTuple):
    """What the radio asks about: how many yeses it still wants, and what it then does."""

    left: int
    does: Callable[[], None]


def _counter(memory: Path) -> Path:
    return memory.with_suffix(".state.json")


class CardRadio:
    """The radio; `place` holds its slot and the computer's reader as folders, one of which has the card in it."""

    firmware = FIRMWARE

    def __init__(
        self, profile: Profile, memory: Path, place: Path, *, pull_at: int = 0, clock: Clock = RUNNING
    ) -> None:
        card = profile.card
        if card is None:
            raise ValueError(f"{profile.name} has no card.")
        self.profile, self.card, self.memory, self._place = profile, card, memory, place
        self._pull_at, self.clock = pull_at, clock
        self.on = True
        self.lines: list[str] = []
        self._waiting: Waiting | None = None
        self.knob, self.around = ChannelKnob(self), ListAround(self)
        for side in (SLOT, READER):
            (place / side).mkdir(parents=True, exist_ok=True)
        if not any((place / side / CARD).is_dir() for side in (SLOT, READER)):
            (place / SLOT / CARD).mkdir()
        self.knob.show_channel()

    @property
    def card_in(self) -> bool:
        """Whether the card is in the slot."""
        return self.slot.is_dir()

    @property
    def slot(self) -> Path:
        """Where the card is when it is in the slot."""
        return self._place / SLOT / CARD

    @property
    def _folder(self) -> Path:
        return self.slot / self.card.folder / self.card.backup

    @property
    def image(self) -> bytes:
        """What the memory holds."""
        return self.memory.read_bytes()

    def say(self, *lines: str) -> None:
        """Show lines on the display."""
        self.lines = list(lines)

    def saves(self) -> int:
        """How many files it has written so far."""
        try:
            return int(json.loads(_counter(self.memory).read_text())["saves"])
        except (OSError, ValueError, KeyError, TypeError):
            return 0

    def power(self) -> None:
        """Switch it on or off."""
        self.on = not self.on
        self._waiting = None
        if self.on:
            self.knob.show_channel()
        else:
            self.say()

    def push_out(self) -> None:
        """Push the card out, into the computer; a radio that is on complains."""
        if not self.card_in:
            return
        self.slot.rename(self._place / READER / CARD)
        if self.on:
            self._waiting = None
            self.say("CARD PULLED", "SWITCH OFF FIRST")

    def push_in(self) -> None:
        """Take the card from the computer and push it in."""
        there = self._place / READER / CARD
        if there.is_dir():
            there.rename(self.slot)
            if self.on:
                self.say("CARD IN WHILE ON", "SWITCH OFF AND ON")

    def ready(self) -> bool:
        """Whether it is on and has its card; says so where not."""
        if self.on and not self.card_in:
            self.say("NO CARD")
        return self.on and self.card_in

    def write_out(self, scope: Scope = "everything") -> None:
        """Write all of the memory, or a part, onto the card as a new file."""
        if not self.ready():
            return
        number = self.saves() + 1
        body = self.image
        if scope != "everything":
            body = b"".join(body[start:end] for start, end in self._part(scope))
        now = f"{self.clock.local():%Y-%m-%dT%H:%M:%S}"
        header = CardHeader(self.profile.key, "memory", "radio", number, now, scope, FIRMWARE)
        if self.put(self._folder / f"{_STEM}{number:04d}{_SUFFIX}", pack(CardFile(header, body))):
            _counter(self.memory).write_text(json.dumps({"saves": number}))
            self.say(self.card.done.upper(), f"{_STEM}{number:04d}")

    def _part(self, scope: Scope) -> list[tuple[int, int]]:
        tables = tables_of(self.profile)
        if scope == "memories":
            return [span for table in tables if table.field == "channels" for span in table.spans()]
        at = self.profile.image.settings_at
        return [(at, at + self.profile.settings_length)]

    def put(self, path: Path, data: bytes) -> bool:
        """Write a file straight onto the card, as radios do; False when the card was pulled or is full."""
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            with path.open("wb") as file:
                for at in range(0, len(data), _CHUNK):
                    if self._pull_at and at >= self._pull_at:
                        self._pull_at = 0
                        file.flush()
                        self.slot.rename(self._place / READER / CARD)
                        self.say("CARD PULLED", "FILE NOT WHOLE")
                        return False
                    file.write(data[at : at + _CHUNK])
        except OSError:
            self.say("CARD ERROR")
            return False
        return True

    def files(self) -> list[str]:
        """The names that its list for reading in shows: every file in its own folder, newest name first."""
        if not self._folder.is_dir():
            return []
        return sorted((item.name for item in self._folder.iterdir() if item.suffix == _SUFFIX), reverse=True)

    def read_in(self, name: str, scope: Scope = "everything") -> None:
        """Ask, and then take a file from the card, or a part of it."""
        if self.ready():
            self.ask(f"LOAD {name.removesuffix(_SUFFIX)}?", lambda: self._take(name, scope))

    def ask(self, question: str, does: Callable[[], None]) -> None:
        """Put a question on the display; `does` follows a yes."""
        self._waiting = Waiting(self.card.yes, does)
        self.say(question, "YES / NO")

    def answer(self, *, yes: bool) -> None:
        """Say yes or no to what it asks; some want the yes twice."""
        waiting = self._waiting
        if waiting is None or not self.on:
            return
        if not yes:
            self._waiting = None
            self.knob.show_channel()
        elif waiting.left > 1:
            self._waiting = waiting._replace(left=waiting.left - 1)
            self.say("IT IS WRITTEN OVER.", "SURE? YES / NO")
        else:
            self._waiting = None
            waiting.does()

    def _take(self, name: str, scope: Scope) -> None:
        if not self.ready():
            return
        try:
            file = parse((self._folder / name).read_bytes())
        except (OSError, CardFileError):
            self.say("FILE ERROR", name.removesuffix(_SUFFIX))
            return
        own = self.image
        if file.header.model != self.profile.key or file.header.kind != "memory":
            self.say("WRONG FILE", "OTHER MODEL")
            return
        if len(file.body) != len(own):
            self.say("FILE ERROR", "NOT WHOLE")
            return
        taken = bytearray(own) if scope != "everything" else bytearray(with_own_unit(file.body, own, self.profile))
        for start, end in self._part(scope) if scope != "everything" else ():
            taken[start:end] = file.body[start:end]
        write_over(self.memory, bytes(taken))
        self.say(self.card.done.upper(), "RESTARTING" if self.card.restarts else "")

    def state(self) -> dict[str, object]:
        """What its owner sees, as plain values."""
        return {
            "on": self.on,
            "card": SLOT if self.card_in else READER if (self._place / READER / CARD).is_dir() else "gone",
            "lines": self.lines if self.on else [],
            "asks": self._waiting is not None,
            "files": self.files() if self.on and self.card_in else [],
        }
