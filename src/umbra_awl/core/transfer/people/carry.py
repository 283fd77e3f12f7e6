"""Writing the people list: only blocks that differ, each proven by its checksum, so that what was cut goes on where it was.

The radio's memory is never touched. From the beginning of a write until its end the radio counts its list as empty: half a list
is no list.
"""

import struct
import zlib
from typing import NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.carry import Follow, greet
from umbra_awl.core.transfer.errors import NotProvenError, RadioError, RadioFullError
from umbra_awl.core.transfer.frames import FrameKind
from umbra_awl.core.transfer.link import Link, Request
from umbra_awl.core.transfer.people.records import DIGEST, people_digest

_STATE = struct.Struct(f"<II{DIGEST}s16s")
_SPAN = struct.Struct("<IH")
_AT = struct.Struct("<I")
_END = struct.Struct(f"<I{DIGEST}s16s")
SUMS_A_FRAME = 1_000


class PeopleHeld(NamedTuple):
    """What a radio's people region holds: room for how many, how many are in it, their digest and date, firmware, which radio."""

    capacity: int
    rows: int
    digest: bytes
    stamp: str
    firmware: str = ""
    unit: str = ""


class PeopleWritten(NamedTuple):
    """What a proven write came to: blocks sent of all, bytes sent."""

    sent_blocks: int
    blocks: int
    sent: int


def read_people(link: Link, profile: Profile) -> PeopleHeld:
    """What the people region of a radio holds. Raises TransferError."""
    identity = greet(link, profile)
    payload = link.exchange([Request(FrameKind.PEOPLE)])[0]
    if len(payload) < _STATE.size:
        raise RadioError("The radio tells nothing of a people list. Its firmware may keep none.")
    capacity, rows, digest, stamp = _STATE.unpack_from(payload)
    unit = f"serial {identity.serial}" if identity.serial else ""
    told = payload[_STATE.size :].decode("utf-8", "replace")
    return PeopleHeld(capacity, rows, digest, stamp.decode("ascii", "replace").rstrip("\0 "), told, unit)


def write_people(
    link: Link,
    profile: Profile,
    body: bytes,
    stamp: str,
    follow: Follow = Follow(),  # noqa: B008
) -> PeopleWritten:
    """Write a people region and prove it; `stamp` is its date. Raises TransferError; begun anew it goes on where it was cut."""
    held = read_people(link, profile)
    rows = _rows(body, profile)
    require_room(held, rows, profile)
    block = profile.line.block
    blocks = [body[at : at + block] for at in range(0, len(body), block)]
    wanted = [zlib.crc32(item) for item in blocks]
    lengths = (len(body), block)
    have = _sums(link, lengths, follow, "read")
    todo = [number for number, (mine, theirs) in enumerate(zip(wanted, have, strict=True)) if mine != theirs]
    link.exchange([Request(FrameKind.PEOPLE_BEGIN, _AT.pack(rows))])
    requests = [Request(FrameKind.PEOPLE_WRITE, _AT.pack(number * block) + blocks[number]) for number in todo]
    link.exchange(requests, follow.watch("write", block))
    proof = _sums(link, lengths, follow, "prove")
    wrong = sum(mine != theirs for mine, theirs in zip(wanted, proof, strict=True))
    if wrong:
        raise NotProvenError(
            f"{wrong} of {len(blocks)} blocks of the people list read back differently. Write it again: only those are sent."
        )
    link.exchange([Request(FrameKind.PEOPLE_END, _END.pack(rows, people_digest(body), stamp.encode("ascii")[:16]))])
    return PeopleWritten(len(todo), len(blocks), sum(len(blocks[number]) for number in todo))


def require_room(held: PeopleHeld, rows: int, profile: Profile) -> None:
    """Raise RadioFullError when the firmware in the radio has no room for so many people, with the one that has."""
    if rows <= held.capacity:
        return
    other = next((item for item in profile.firmware if item.people >= rows), None)
    lost = f", without the {_extra(profile)}" if _extra(profile) else ""
    way = f"Its firmware “{other.name}” holds them{lost}: see Transfer, Ports" if other else "Choose fewer people"
    inside = f" ({held.firmware})" if held.firmware else ""
    raise RadioFullError(
        f"The firmware in the radio{inside} holds {counted(held.capacity, 'person', 'people')}, and "
        f"{rows:,} are chosen. {way}. Nothing was written."
    )


def _extra(profile: Profile) -> str:
    return next((item.extra for item in profile.firmware if item.extra), "")


def _rows(body: bytes, profile: Profile) -> int:
    return len(body) // profile.people.record if profile.people is not None else 0


def _sums(link: Link, lengths: tuple[int, int], follow: Follow, phase: str) -> list[int]:
    """The checksums of the radio's blocks, as far as a body of so many bytes in such blocks reaches."""
    size, block = lengths
    count = -(-size // block)
    requests = [
        Request(FrameKind.PEOPLE_SUMS, _SPAN.pack(first, min(SUMS_A_FRAME, count - first)) + _AT.pack(size))
        for first in range(0, count, SUMS_A_FRAME)
    ]
    found: list[int] = []
    watch = follow.watch("read" if phase == "read" else "prove", block * SUMS_A_FRAME)
    for request, answer in zip(requests, link.exchange(requests, watch), strict=True):
        told = _SPAN.unpack_from(request.payload)[1]
        if len(answer) != _AT.size + 4 * told:
            raise RadioError(
                "The radio sent other checksums than were asked for. Switch it off and on, then try again."
            )
        found += struct.unpack_from(f"<{told}I", answer, _AT.size)
    return found
