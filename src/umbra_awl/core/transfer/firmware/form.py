"""A firmware file of our own open form: which model and variant it is for, its version, its bytes with a checksum."""

from typing import NamedTuple

import msgspec

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import Firmware
from umbra_awl.core.transfer.errors import FirmwareError
from umbra_awl.core.transfer.sealed import SealError, seal, unseal

MARK = b"AWLFIRM1"
MOST_BYTES = 16_000_000


class FirmwareHeader(msgspec.Struct, frozen=True, omit_defaults=True):
    """What a file says of itself: the profile's key, the variant's key, a version.

    `hardware` is the mark of the make it is for, empty for all; `second` whether it is the file that goes in after the first.
    """

    model: str
    variant: str
    version: str
    hardware: str = ""
    second: bool = False


class FirmwareFile(NamedTuple):
    """A whole file."""

    header: FirmwareHeader
    body: bytes


def pack(file: FirmwareFile) -> bytes:
    """The bytes of a file."""
    return seal(MARK, msgspec.json.encode(file.header), file.body)


def parse(data: bytes, profile: Profile) -> tuple[FirmwareFile, Firmware]:
    """The file in some bytes, and the variant it is. Raises FirmwareError for a damaged one or one of another radio."""
    if len(data) > MOST_BYTES:
        raise FirmwareError("The firmware file is larger than any radio's. Nothing was loaded.")
    try:
        header, body = unseal(MARK, data)
        file = FirmwareFile(msgspec.json.decode(header, type=FirmwareHeader), body)
    except SealError as error:
        raise FirmwareError(
            f"The firmware file cannot be used: {error}. Take another copy; nothing was loaded."
        ) from None
    except (msgspec.DecodeError, UnicodeError, RecursionError):
        raise FirmwareError("The firmware file's header cannot be read. Nothing was loaded.") from None
    if file.header.model != profile.key:
        raise FirmwareError(
            f"The firmware file is for a “{file.header.model[:40]}”, not for a {profile.name}. Another model's would ruin it; "
            "nothing was loaded."
        )
    variant = next((item for item in profile.firmware if item.key == file.header.variant), None)
    if variant is None:
        raise FirmwareError(f"“{file.header.variant[:40]}” is no variant of a {profile.name}. Nothing was loaded.")
    if file.header.second and (profile.loading is None or not profile.loading.second):
        raise FirmwareError(f"The file is a second one, and none belongs to a {profile.name}. Nothing was loaded.")
    return file, variant
