"""Loading a firmware file into a radio in loading state: begun anew it starts from the first block, whatever broke off before."""

from hashlib import sha256

import msgspec

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.carry import Follow
from umbra_awl.core.transfer.errors import FirmwareError
from umbra_awl.core.transfer.firmware.form import FirmwareFile
from umbra_awl.core.transfer.frames import FrameKind, block_payload
from umbra_awl.core.transfer.link import Link, Request
from umbra_awl.core.transfer.protocols import RadioIdentity
from umbra_awl.core.transfer.shelf import Shelf

LOADING = "loading"
_BLOCK = 1_024


def is_loading(identity: RadioIdentity) -> bool:
    """Whether a radio says that it is in loading state."""
    return identity.firmware == LOADING


def hardware_fault(profile: Profile, file: FirmwareFile, hardware: str) -> str:
    """Why a file is not for a radio of this make (its mark, empty where nobody said); empty where it is."""
    wanted = file.header.hardware
    if not wanted or wanted == hardware:
        return ""
    label = profile.loading.label if profile.loading is not None else ""
    if not hardware:
        where = f" It stands {label}." if label else ""
        return f"The file is for {wanted}, and nobody said which yours is. Say it at Radios, Settings.{where} Nothing was loaded."
    return f"The file is for {wanted}; yours is {hardware}. The other make's would ruin it; nothing was loaded."


def load(
    link: Link,
    profile: Profile,
    shelf: Shelf,
    file: FirmwareFile,
    follow: Follow = Follow(),  # noqa: B008
    hardware: str = "",
) -> int:
    """Load a file; the bytes sent. Raises TransferError: never without a backup, never into another model or a running radio.

    `hardware` is the mark of the radio's make: a file of another one is refused.
    """
    fault = hardware_fault(profile, file, hardware)
    if fault:
        raise FirmwareError(fault)
    if not shelf.backups():
        raise FirmwareError("There is no backup of this radio yet. Read it first: its memory may be gone afterwards.")
    identity = link.identify()
    if identity.model != profile.key or file.header.model != profile.key:
        raise FirmwareError(f"The radio on this port is a “{identity.model[:40]}”. Nothing was loaded.")
    if not is_loading(identity):
        keys = " and ".join(profile.loading.keys) if profile.loading is not None else "its two keys"
        raise FirmwareError(
            f"The radio runs. Switch it off, hold {keys}, and switch it on; then load. Nothing was loaded."
        )
    told = msgspec.json.encode(
        {**msgspec.structs.asdict(file.header), "size": len(file.body), "sha256": sha256(file.body).hexdigest()}
    )
    link.exchange([Request(FrameKind.LOAD_BEGIN, told)])
    requests = [
        Request(FrameKind.LOAD_WRITE, block_payload(at, file.body[at : at + _BLOCK]))
        for at in range(0, len(file.body), _BLOCK)
    ]
    link.exchange(requests, follow.watch("write", _BLOCK))
    link.exchange([Request(FrameKind.LOAD_END)])
    return len(file.body)
