"""What was said and shown: one line of JSON for each text and picture, appended and synced, in a folder of its own.

Texts are not confirmed. That one was received is told by an answer only, and worked out when the history is read.
"""

import os
from collections.abc import Iterable
from datetime import UTC, datetime
from pathlib import Path
from typing import Literal

import msgspec

from umbra_awl.core.keep.atomic import write_new
from umbra_awl.core.keep.limits import LOG_BYTES, read_within
from umbra_awl.core.keep.naming import free_path, path_name
from umbra_awl.core.messages.blocks import Arrived
from umbra_awl.core.messages.frames import Text
from umbra_awl.core.messages.picture import QUALITIES

NAME = "messages.jsonl"
Kind = Literal["text", "picture"]
Side = Literal["mine", "theirs"]
MOST_SHOWN = 500


class Said(msgspec.Struct, frozen=True, omit_defaults=True):
    """One line: when in UTC, whose it was, call signs, text or the picture's file; `state` is “sent”, “arrived” or “failed”."""

    utc: str
    side: Side
    call: str
    to: str
    text: str
    kind: Kind = "text"
    state: str = "sent"
    file: str = ""
    position: str = ""


def utc_stamp(now: datetime) -> str:
    """A moment in UTC as it is written."""
    return now.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")


class MessageHistory:
    """The history in one folder, which is made when first written to."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def read(self) -> tuple[Said, ...]:
        """The latest lines, oldest first. A line that was torn, or is none of ours, is passed over. Raises OSError."""
        path = self.folder / NAME
        if not path.exists():
            return ()
        found = []
        for line in read_within(path, LOG_BYTES).splitlines():
            try:
                found.append(msgspec.json.decode(line, type=Said))
            except (msgspec.DecodeError, UnicodeError, RecursionError):
                continue
        return tuple(found[-MOST_SHOWN:])

    def add(self, said: Said) -> None:
        """Append a line, on the disk when this returns. Raises OSError."""
        self.folder.mkdir(parents=True, exist_ok=True)
        path = self.folder / NAME
        handle = os.open(path, os.O_WRONLY | os.O_APPEND | os.O_CREAT | os.O_CLOEXEC | os.O_NONBLOCK, 0o600)
        try:
            torn = _is_torn(path)
            view = memoryview((b"\n" if torn else b"") + msgspec.json.encode(said) + b"\n")
            while view:  # a full disk takes a part first, and says so only then
                view = view[os.write(handle, view) :]
            os.fsync(handle)
        finally:
            os.close(handle)

    def keep_text(self, text: Text, side: Side, utc: str, state: str = "sent") -> Said:
        """Keep a text. Raises OSError."""
        said = Said(utc, side, text.call, text.to, text.text, "text", state, "", text.position)
        self.add(said)
        return said

    def keep_picture(self, arrived: Arrived, side: Side, utc: str) -> Said:
        """Keep a picture as it came, named by moment, call, size and quality. Raises OSError."""
        offer = arrived.offer
        self.folder.mkdir(parents=True, exist_ok=True)
        quality = offer.quality if offer.quality in QUALITIES else "unknown"
        stem = path_name(f"{utc.replace(':', '')}-{offer.call}-{offer.width}x{offer.height}-{quality}", "picture")
        path = free_path(self.folder, stem, ".jpg")
        write_new(path, arrived.data, private=True)
        words = f"{offer.width} × {offer.height}, {quality}, {len(arrived.data):,} bytes"
        said = Said(
            utc, side, offer.call, offer.to, words, "picture", "arrived" if side == "theirs" else "sent", path.name
        )
        self.add(said)
        return said


def _is_torn(path: Path) -> bool:
    """Whether the last line has no end: a crash came in between."""
    with path.open("rb") as file:
        file.seek(0, os.SEEK_END)
        if not file.tell():
            return False
        file.seek(-1, os.SEEK_END)
        return file.read(1) != b"\n"


def proven(history: Iterable[Said]) -> set[int]:
    """The places of own texts that somebody answered: by a text after it, from whom it was to, or from anybody where to all."""
    lines = tuple(history)
    answered: set[int] = set()
    for at, said in enumerate(lines):
        if said.side == "mine" and said.kind == "text":
            later = (item for item in lines[at + 1 :] if item.side == "theirs" and item.kind == "text")
            if any(said.to in {"", item.call} for item in later):
                answered.add(at)
    return answered
