"""Which single radio this is: by the serial number it tells, or by bytes of its memory that only it has."""

from collections.abc import Callable
from hashlib import sha256

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.errors import OtherUnitError
from umbra_awl.core.transfer.protocols import RadioIdentity

_DIGITS = 16
ReadBytes = Callable[[int, int], bytes]


def unit_of(identity: RadioIdentity, profile: Profile, read: ReadBytes) -> str:
    """What names a single radio; empty where neither its identity nor its profile tells. `read` gives bytes from, length."""
    if identity.serial:
        return f"serial {identity.serial}"
    own = profile.image.unit
    return f"print {sha256(read(own.at, own.length)).hexdigest()[:_DIGITS]}" if own.length else ""


def of_image(identity: RadioIdentity, profile: Profile, image: bytes) -> str:
    """The same, of a radio whose whole memory was read."""
    return unit_of(identity, profile, lambda at, length: image[at : at + length])


def with_own_unit(target: bytes, image: bytes, profile: Profile) -> bytes:
    """An image to be written, with the bytes that only this radio has as it holds them: what its factory adjusted stays."""
    own = profile.image.unit
    return target[: own.at] + image[own.at : own.at + own.length] + target[own.at + own.length :]


def differ(one: str, other: str) -> bool:
    """Whether two names are known to be of two radios; an empty one tells nothing."""
    return bool(one and other) and one != other


def require_same(unit: str, wanted: str, lead: str) -> None:
    """Raise OtherUnitError when a radio is known not to be the one wanted; `lead` says what that one was."""
    if differ(unit, wanted):
        raise OtherUnitError(
            f"{lead} Read this one first: what it holds is then kept on the shelf too. Nothing was written."
        )
