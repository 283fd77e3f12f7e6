"""People as the radio's bytes: a record each, in the profile's order and length.

A record, little-endian: ID u32, call sign of 10, then the other columns as ASCII padded with spaces, the name as long as the
profile says, the rest shared evenly.
"""

import struct
from collections.abc import Sequence
from hashlib import sha256

from umbra_awl.core.directory.people_search import Person
from umbra_awl.core.radio.display import fold
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import PeopleTable

DIGEST = 16
_ID = struct.Struct("<I")
_CALL = 10


def people_bytes(rows: Sequence[Person], profile: Profile) -> bytes:
    """The region of these people, in their order; empty for a radio that keeps none."""
    table = profile.people
    if table is None:
        return b""
    rules = profile.display.rules._replace(upper=False)
    widths = _widths(table)
    known: dict[str, str] = {}

    def cell(text: str, width: int) -> bytes:
        if text not in known:
            known[text] = text if text.isascii() else fold(text, rules)
        return known[text].encode("ascii", "replace")[:width].ljust(width)

    made = bytearray()
    for person in rows:
        texts = b"".join(cell(getattr(person, column), width) for column, width in widths)
        made += (_ID.pack(person.id & 0xFFFFFFFF) + texts)[: table.record].ljust(table.record, b"\0")
    return bytes(made)


def _widths(table: PeopleTable) -> list[tuple[str, int]]:
    """The text columns with their widths in characters."""
    texts = [column for column in table.columns if column != "id"]
    fixed = {"call": _CALL, "name": table.name_length}
    others = [column for column in texts if column not in fixed]
    left = table.record - _ID.size - sum(fixed[column] for column in texts if column in fixed)
    share = max(left // len(others), 0) if others else 0
    return [(column, fixed.get(column, share)) for column in texts]


def people_digest(body: bytes) -> bytes:
    """What names a region: sixteen bytes."""
    return sha256(body).digest()[:DIGEST]
