"""Carrying a memory into a radio: read, keep a backup, merge, look again, write what differs, read back, compare."""

from collections.abc import Callable, Iterable
from datetime import datetime
from typing import Literal, NamedTuple

from umbra_awl.core.radio.memory import Memory, without_routes
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.difference import ChangeSheet, difference
from umbra_awl.core.transfer.errors import (
    ChangedRadioError,
    ImageError,
    NotProvenError,
    OtherUnitError,
    RadioError,
    StaleError,
    WrongModelError,
)
from umbra_awl.core.transfer.protocols import Block, BlockLine, RadioIdentity, Watch, codec_of
from umbra_awl.core.transfer.shelf import Backup, Shelf, Unfinished, digest
from umbra_awl.core.transfer.unit import differ, of_image, require_same, unit_of, with_own_unit

Phase = Literal["read", "write", "prove"]
State = Literal["old", "new", "neither", "known"]
STATE_WORDS = {
    "known": "Read whole; a backup is kept.",
    "old": "A write broke off before; the radio still holds the old memory.",
    "new": "A write broke off before its proof; the radio holds the new memory, whole.",
    "neither": "A write broke off: the radio holds neither the old nor the new memory whole. Restore the backup, or write again.",
}


class Follow(NamedTuple):
    """How a caller follows and stops a transfer: told the phase and bytes done of all; asked whether to stop."""

    progress: Callable[[Phase, int, int], None] = lambda _phase, _done, _total: None
    cancelled: Callable[[], bool] = lambda: False

    def watch(self, phase: Phase, block: int) -> Watch:
        """The same for one exchange of blocks of so many bytes."""
        return Watch(lambda done, total: self.progress(phase, done * block, total * block), self.cancelled)


class HeldMemory(NamedTuple):
    """What a radio was found to hold, the backup kept of it, and what an unproven write before left (“known”: none).

    `unit` names the single radio; `before` is the one that was read here last, where it was another.
    """

    identity: RadioIdentity
    image: bytes
    memory: Memory
    backup: Backup
    state: State
    unit: str = ""
    before: str = ""


class Compared(NamedTuple):
    """What is to be written: the merged image and the change sheet, with the memory and the image they were made of."""

    target: bytes
    sheet: ChangeSheet
    memory: Memory
    of_image: str


class WrittenMemory(NamedTuple):
    """What a write came to: bytes written, and the radio's whole image as it was read back.

    Where the radio has yet to take it itself it is not `proven`; `name` is then what lies ready for it.
    """

    sent: int
    image: bytes
    proven: bool = True
    name: str = ""


def read_radio(line: BlockLine, profile: Profile, shelf: Shelf, now: datetime, follow: Follow = Follow()) -> HeldMemory:  # noqa: B008
    """Read a radio whole and keep a backup. Raises TransferError; nothing is changed in the radio.

    The mark of an unproven write is of one single radio: another one of the same kind is read as if there were none.
    """
    identity = greet(line, profile)
    return take_in(identity, _read_image(line, profile, follow, "read"), profile, shelf, now)


def take_in(identity: RadioIdentity, image: bytes, profile: Profile, shelf: Shelf, now: datetime) -> HeldMemory:
    """Keep what was read of a radio, by whatever way, and say what it is. Raises TransferError."""
    memory, unit = codec_of(profile).decode(image), of_image(identity, profile, image)
    unfinished = shelf.unfinished(unit)
    state = state_of(image, unfinished)
    backup = shelf.keep(memory, image, now, unit)
    if unfinished is not None and state == "neither":
        backup = shelf.backup_before(unfinished) or backup
    elif unfinished is not None:
        shelf.finish(unit)
    before = shelf.known_unit()
    shelf.remember_unit(unit)
    return HeldMemory(identity, image, memory, backup, state, unit, before if differ(before, unit) else "")


def state_of(image: bytes, unfinished: Unfinished | None) -> State:
    """Which memory a radio holds after an unproven write: the old, the new, or neither."""
    if unfinished is None:
        return "known"
    mark = digest(image)
    return "old" if mark == unfinished.before else "new" if mark == unfinished.after else "neither"


def compare(held: HeldMemory, memory: Memory, profile: Profile) -> Compared:
    """Merge a memory into what the radio holds and say what differs.

    Raises StaleError when the image would let a channel transmit that the memory holds to listening.
    """
    codec = codec_of(profile)
    target = codec.merge(held.image, memory)
    if len(target) != len(held.image):
        raise ImageError(f"The memory was packed into {len(target)} bytes, and the radio has {len(held.image)}.")
    merged = codec.decode(target)
    if _sending(merged) != _sending(without_routes(memory)):
        raise StaleError(
            "The radio's memory cannot hold these channels as they are meant, so nothing is offered to be written."
        )
    return Compared(target, difference(held.memory, merged), memory, digest(held.image))


def _sending(memory: Memory) -> list[tuple[int, int]]:
    """What would transmit: number and frequency of every channel that is not held to listening."""
    return [(channel.number, channel.tx_hz) for channel in memory.channels if not channel.receive_only]


def write_radio(
    line: BlockLine,
    profile: Profile,
    shelf: Shelf,
    held: HeldMemory,
    compared: Compared,
    follow: Follow = Follow(),  # noqa: B008
) -> WrittenMemory:
    """Write the blocks that differ, read everything back and compare.

    Right before, the blocks that will change are read once more, and enough to know the single radio: another radio, or one
    whose content has changed since it was read, is not written. Raises TransferError. Until the proof succeeds the shelf
    carries the mark of an unfinished write.
    """
    if compared.of_image != digest(held.image):
        raise StaleError("What is to be written was compared with an earlier reading. Read the radio again.")
    stored = shelf.load(held.backup)
    identity = greet(line, profile)
    blocks = _differing(held.image, compared.target, profile.line.block)
    _look_again(line, profile, held, identity, [at for at, _data in blocks])
    before = digest(stored.image)  # not of held.image: that may itself be half of two memories
    shelf.begin(Unfinished(held.backup.path.name, before, digest(compared.target), held.unit))
    written = _write_and_prove(line, profile, blocks, compared.target, follow)
    shelf.finish(held.unit)
    return written


def restore_radio(
    line: BlockLine,
    profile: Profile,
    shelf: Shelf,
    backup: Backup,
    now: datetime,
    follow: Follow = Follow(),  # noqa: B008
    *,
    other_unit: bool = False,
) -> WrittenMemory:
    """Bring a backup back into the radio, whatever it holds now; that is backed up first. Raises TransferError.

    A backup of another single radio is refused (OtherUnitError) unless `other_unit` says that it is meant; then all goes over but
    what only this radio has.
    """
    stored = shelf.load(backup)
    identity = greet(line, profile)
    image = _read_image(line, profile, follow, "read")
    unit = of_image(identity, profile, image)
    present = shelf.keep(codec_of(profile).decode(image), image, now, unit)
    if differ(stored.unit, unit) and not other_unit:
        raise OtherUnitError(
            f"The backup of {backup.when} is of another {profile.name} than the one on this port. What this one holds is kept "
            f"on the shelf ({present.when}). Nothing was written."
        )
    shelf.remember_unit(unit)
    target = with_own_unit(stored.image, image, profile)
    mark = digest(target)
    shelf.begin(Unfinished(backup.path.name, mark, mark, unit))
    written = _write_and_prove(line, profile, _differing(image, target, profile.line.block), target, follow)
    shelf.finish(unit)
    return written


def _write_and_prove(
    line: BlockLine, profile: Profile, blocks: list[Block], target: bytes, follow: Follow
) -> WrittenMemory:
    line.begin()
    line.write_blocks(blocks, follow.watch("write", profile.line.block))
    proof = _read_image(line, profile, follow, "prove")
    line.end()
    if proof != target:
        wrong = sum(a != b for a, b in zip(proof, target, strict=True))
        raise NotProvenError(
            f"The radio reads back {wrong} bytes differently from what was written. Restore the backup and try again."
        )
    return WrittenMemory(sum(len(data) for _at, data in blocks), proof)


def _look_again(
    line: BlockLine, profile: Profile, held: HeldMemory, identity: RadioIdentity, places: list[int]
) -> None:
    """See that it is the radio that was read, and that it still holds there what was read. Raises RadioError."""
    block = profile.line.block

    def read(at: int, length: int) -> bytes:
        first = at // block * block
        found = b"".join(_read_blocks(line, profile, range(first, at + length, block)))
        return found[at - first : at - first + length]

    unit = unit_of(identity, profile, read)
    require_same(unit, held.unit, f"This is another {profile.name} than the one that was read.")
    found = _read_blocks(line, profile, places)
    changed = sum(data != held.image[at : at + len(data)] for at, data in zip(places, found, strict=True))
    if changed:
        raise ChangedRadioError(
            f"The radio's content has changed since it was read, in {changed} of the {len(places)} blocks that would be written. "
            "Read it again: what it holds now is kept first. Nothing was written."
        )


def greet(line: BlockLine, profile: Profile) -> RadioIdentity:
    """Ask the radio who it is, and see that it is of this kind. Raises TransferError."""
    identity = line.identify()
    if identity.model != profile.key:
        raise WrongModelError(
            f"The radio on this port says it is “{identity.model[:40]}”, and the plan's radio is a {profile.name}. "
            "Choose the other radio, or connect the right one. Nothing was written."
        )
    if identity.size != profile.image.size:
        raise RadioError(
            f"The radio has {identity.size} bytes of memory; a {profile.name} has {profile.image.size}. Nothing was written."
        )
    return identity


def _read_image(line: BlockLine, profile: Profile, follow: Follow, phase: Phase) -> bytes:
    places = range(0, profile.image.size, profile.line.block)
    return b"".join(_read_blocks(line, profile, places, follow.watch(phase, profile.line.block)))


def _read_blocks(line: BlockLine, profile: Profile, places: Iterable[int], watch: Watch = Watch()) -> list[bytes]:  # noqa: B008
    """The blocks of the image that begin at some places. Raises TransferError."""
    size, block = profile.image.size, profile.line.block
    wanted = [(at, min(block, size - at)) for at in places]
    found = line.read_blocks(wanted, watch)
    if [len(data) for data in found] != [length for _at, length in wanted]:
        raise RadioError("The radio sent other blocks than were asked for. Switch it off and on, then try again.")
    return found


def _differing(old: bytes, new: bytes, block: int) -> list[Block]:
    starts = range(0, len(new), block)
    return [Block(at, new[at : at + block]) for at in starts if old[at : at + block] != new[at : at + block]]
