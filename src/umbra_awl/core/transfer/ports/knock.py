"""Knocking at a port: whether a radio answers, and what the answer means."""

import time
from collections.abc import Callable
from typing import Literal, NamedTuple

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.errors import LinkError
from umbra_awl.core.transfer.frames import Decoder, Frame, FrameKind, encode, unpack_identity
from umbra_awl.core.transfer.link import Transport, refusal
from umbra_awl.core.transfer.protocols import RadioIdentity

Answered = Literal["radio", "other model", "loading", "locked", "noise", "silent", "no port", "gone"]
_STATE_BYTES = 40
"""What stands before the variant's name in the answer about people."""
_WAIT_S = 0.9
_TRIES = 2
_WRITABLE = (Frame(FrameKind.BEGIN, 2), Frame(FrameKind.END, 3))


class Answer(NamedTuple):
    """What came back: its kind, who it says it is, bytes that were no frame, what the system said, its firmware's variant."""

    kind: Answered
    identity: RadioIdentity | None = None
    noise: int = 0
    said: str = ""
    variant: str = ""


def knock(open_line: Callable[[], Transport], profile: Profile) -> Answer:
    """Ask whoever is on a line who it is, and whether it lets itself be written. Nothing is written."""
    try:
        line = open_line()
    except LinkError as error:
        return Answer("no port", said=str(error))
    try:
        return _knock(line, profile)
    except LinkError as error:
        return Answer("gone", said=str(error))
    finally:
        line.close()


def _knock(line: Transport, profile: Profile) -> Answer:
    frame, noise = _ask(line, Frame(FrameKind.IDENTIFY, 1))
    if frame is None:
        return Answer("noise" if noise else "silent", noise=noise)
    try:
        identity = unpack_identity(frame.payload)
    except ValueError:
        return Answer("noise", noise=len(frame.payload))
    if identity.firmware == "loading":
        return Answer("loading", identity)
    if identity.model != profile.key:
        return Answer("other model", identity)
    begun, _noise = _ask(line, _WRITABLE[0])
    if begun is not None and begun.kind == FrameKind.REFUSED:
        return Answer("locked", identity, said=str(refusal(begun.payload)))
    _ask(line, _WRITABLE[1])
    return Answer("radio", identity, variant=_variant(line) if profile.people is not None else "")


def _variant(line: Transport) -> str:
    """The name of the firmware's variant, where the radio tells it beside its people."""
    told, _noise = _ask(line, Frame(FrameKind.PEOPLE, 4))
    return told.payload[_STATE_BYTES:].decode("utf-8", "replace") if told is not None else ""


def _ask(line: Transport, frame: Frame) -> tuple[Frame | None, int]:
    """The answer to a frame, and how many bytes came that were none."""
    decoder, noise = Decoder(), 0
    for _try in range(_TRIES):
        line.write(encode(frame))
        until = time.monotonic() + _WAIT_S
        while time.monotonic() < until:
            data = line.read(0.05)
            noise += len(data)
            for found in decoder.feed(data):
                if found.sequence == frame.sequence:
                    return found, 0
    return None, noise
