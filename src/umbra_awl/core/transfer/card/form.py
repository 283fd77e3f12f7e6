"""A file on a radio's memory card, our own open form (described in docs/formats.md).

`AWLCARD1 | header length u32 | header (JSON) | body | SHA-256 over all before`, little-endian. The body of a memory is the whole
image of the radio, byte for byte; of a list it is CSV.
"""

from hashlib import sha256
from typing import Literal, NamedTuple

import msgspec

from umbra_awl.core.transfer.errors import CardFileError
from umbra_awl.core.transfer.sealed import SealError, seal, unseal

MARK = b"AWLCARD1"
Kind = Literal["memory", "around"]
Scope = Literal["everything", "memories", "settings"]


class CardHeader(msgspec.Struct, frozen=True, omit_defaults=True):
    """What a file says of itself.

    `model` is the profile's key, `unit` the radio's serial number where it has one; `number` counts the radio's saves, `when` is
    its clock (ISO, may be wrong or empty); `by` says who wrote it; `scope` whether it is all of a memory; `of` names the body
    that a computer merged into; `rows` of a list.
    """

    model: str
    kind: Kind = "memory"
    by: Literal["radio", "computer"] = "radio"
    number: int = 0
    when: str = ""
    scope: Scope = "everything"
    firmware: str = ""
    unit: str = ""
    of: str = ""
    rows: int = 0


class CardFile(NamedTuple):
    """A whole file: its header and its body."""

    header: CardHeader
    body: bytes


def pack(file: CardFile) -> bytes:
    """The bytes of a file."""
    return seal(MARK, msgspec.json.encode(file.header), file.body)


def parse(data: bytes) -> CardFile:
    """The file in some bytes. Raises CardFileError with what is wrong, without the file's name."""
    try:
        header, body = unseal(MARK, data)
        return CardFile(msgspec.json.decode(header, type=CardHeader), body)
    except SealError as error:
        raise CardFileError(str(error)) from None
    except (msgspec.DecodeError, UnicodeError, RecursionError):
        raise CardFileError("its header cannot be read") from None


def body_digest(body: bytes) -> str:
    """What names a body: the same as an image's digest."""
    return sha256(body).hexdigest()
