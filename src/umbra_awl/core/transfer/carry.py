"""Carrying a memory into a radio: read, keep a backup, merge, write what differs, read back, compare."""

from collections.abc import Callable
from datetime import datetime
from typing import Literal, NamedTuple

from umbra_awl.core.fit.memory import Memory
from umbra_awl.core.fit.profile import Profile
from umbra_awl.core.transfer.difference import ChangeSheet, difference
from umbra_awl.core.transfer.errors import NotProvenError, RadioError, WrongModelError
from umbra_awl.core.transfer.frames import Identity, Kind, block_payload, read_payload, unpack_block
from umbra_awl.core.transfer.image import decode, merge
from umbra_awl.core.transfer.link import Link, Request, Watch
from umbra_awl.core.transfer.shelf import Backup, Shelf, Unfinished, digest

Phase = Literal["read", "write", "prove"]
State = Literal["old", "new", "neither", "known"]


class Steps(NamedTuple):
    """How a caller follows and stops a transfer: told the phase and bytes done of all; asked whether to stop."""

    progress: Callable[[Phase, int, int], None] = lambda _phase, _done, _total: None
    cancelled: Callable[[], bool] = lambda: False

    def watch(self, phase: Phase, block: int) -> Watch:
        """The same for one exchange of blocks of so many bytes."""
        return Watch(lambda done, total: self.progress(phase, done * block, total * block), self.cancelled)


class Held(NamedTuple):
    """What a radio was found to hold, the backup kept of it, and what an unproven write before left (“known”: none)."""

    identity: Identity
    image: bytes
    memory: Memory
    backup: Backup
    state: State


class Compared(NamedTuple):
    """What is to be written: the merged image and the change sheet."""

    target: bytes
    sheet: ChangeSheet


def read_radio(link: Link, profile: Profile, shelf: Shelf, now: datetime, steps: Steps = Steps()) -> Held:  # noqa: B008
    """Read a radio whole and keep a backup. Raises TransferError; nothing is changed in the radio."""
    identity = _greet(link, profile)
    image = _read_image(link, profile, steps, "read")
    memory = decode(image, profile)
    unfinished = shelf.unfinished()
    state = state_of(image, unfinished)
    if state == "neither" and unfinished is not None:
        backup = shelf.backup_before(unfinished) or shelf.keep(memory, image, now)
    else:
        backup = shelf.keep(memory, image, now)
        shelf.finish()
    return Held(identity, image, memory, backup, state)


def state_of(image: bytes, unfinished: Unfinished | None) -> State:
    """Which memory a radio holds after an unproven write: the old, the new, or neither."""
    if unfinished is None:
        return "known"
    mark = digest(image)
    return "old" if mark == unfinished.before else "new" if mark == unfinished.after else "neither"


def compare(held: Held, memory: Memory, profile: Profile) -> Compared:
    """Merge a memory into what the radio holds and say what differs."""
    target = merge(held.image, memory, profile)
    return Compared(target, difference(held.memory, decode(target, profile)))


def write_radio(link: Link, profile: Profile, shelf: Shelf, held: Held, target: bytes, steps: Steps = Steps()) -> int:  # noqa: B008
    """Write the blocks that differ, read everything back and compare; the number of bytes written.

    Raises TransferError. Until the proof succeeds the shelf carries the mark of an unfinished write.
    """
    _greet(link, profile)
    blocks = _differing(held.image, target, profile.line.block)
    before = digest(shelf.load(held.backup)[1])  # not of held.image: that may itself be half of two memories
    shelf.begin(Unfinished(held.backup.path.name, before, digest(target)))
    link.exchange([Request(Kind.BEGIN)])
    requests = [Request(Kind.WRITE, block_payload(at, data)) for at, data in blocks]
    link.exchange(requests, steps.watch("write", profile.line.block))
    proof = _read_image(link, profile, steps, "prove")
    link.exchange([Request(Kind.END)])
    if proof != target:
        wrong = sum(a != b for a, b in zip(proof, target, strict=True))
        raise NotProvenError(
            f"The radio reads back {wrong} bytes differently from what was written. Restore the backup and try again."
        )
    shelf.finish()
    return sum(len(data) for _at, data in blocks)


def restore_radio(link: Link, profile: Profile, shelf: Shelf, backup: Backup, steps: Steps = Steps()) -> int:  # noqa: B008
    """Bring a backup back into the radio, whatever it holds now; the number of bytes written. Raises TransferError."""
    _memory, image = shelf.load(backup)
    identity = _greet(link, profile)
    now_held = _read_image(link, profile, steps, "read")
    held = Held(identity, now_held, decode(now_held, profile), backup, "known")
    return write_radio(link, profile, shelf, held, image, steps)


def _greet(link: Link, profile: Profile) -> Identity:
    identity = link.identify()
    if identity.model != profile.key:
        raise WrongModelError(
            f"The radio on this port says it is “{identity.model}”, and the plan's radio is a {profile.name}. "
            "Choose the other radio, or connect the right one. Nothing was written."
        )
    if identity.size != profile.image.size:
        raise RadioError(
            f"The radio has {identity.size} bytes of memory; a {profile.name} has {profile.image.size}. Nothing was written."
        )
    return identity


def _read_image(link: Link, profile: Profile, steps: Steps, phase: Phase) -> bytes:
    size, block = profile.image.size, profile.line.block
    requests = [Request(Kind.READ, read_payload(at, min(block, size - at))) for at in range(0, size, block)]
    answers = link.exchange(requests, steps.watch(phase, block))
    image = bytearray(size)
    for request, answer in zip(requests, answers, strict=True):
        at, data = unpack_block(answer) if len(answer) >= 4 else (-1, b"")
        if request.payload != read_payload(at & 0xFFFFFFFF, len(data)):
            raise RadioError("The radio sent another block than was asked for. Switch it off and on, then try again.")
        image[at : at + len(data)] = data
    return bytes(image)


def _differing(old: bytes, new: bytes, block: int) -> list[tuple[int, bytes]]:
    starts = range(0, len(new), block)
    return [(at, new[at : at + block]) for at in starts if old[at : at + block] != new[at : at + block]]
