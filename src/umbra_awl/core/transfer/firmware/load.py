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


def load(link: Link, profile: Profile, shelf: Shelf, file: FirmwareFile, follow: Follow = Follow()) -> int:  # noqa: B008
    """Load a file; the bytes sent. Raises TransferError: never without a backup, never into another model or a running radio."""
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
