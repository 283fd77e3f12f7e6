"""The phone app as a way: the phone's list is taken and kept, merged, handed over, and read back from the radio it mirrors."""

from collections.abc import Hashable
from datetime import datetime
from typing import NamedTuple

import msgspec
from msgspec.structs import replace

from umbra_awl.core.keep.atomic import write_new, write_over
from umbra_awl.core.keep.limits import SETTINGS_BYTES, read_within
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import App
from umbra_awl.core.transfer.app.form import AppList, AppSettings, Send, app_bytes
from umbra_awl.core.transfer.app.merge import AppMerge, key_of, merged
from umbra_awl.core.transfer.app.phone import SimulatedPhone
from umbra_awl.core.transfer.errors import NotProvenError, ShelfError, StaleError, WrongModelError
from umbra_awl.core.transfer.shelf import Shelf

_SENT = "app-sent.json"


def app_for(profile: Profile, platform: str) -> App | None:
    """The app of a radio on a phone platform."""
    return next((item for item in profile.apps if item.platform == platform), None)


def settings_for(memory: Memory, radio: OwnedRadio) -> AppSettings:
    """What the app is to set, from the plan: identity, message, data, position, units."""
    chosen = radio.settings
    sends: dict[bool | None, Send] = {True: "by itself", False: "key", None: ""}
    return AppSettings(
        memory.call,
        memory.note,
        (chosen.message or "")[:20],
        None,
        sends[chosen.data_by_itself],
        chosen.fast_data,
        chosen.position or "",
        chosen.units or "",
    )


class AppTaken(NamedTuple):
    """What a phone's list was when it was taken, what it would become, and which of it is the plan's."""

    present: AppList
    merge: AppMerge
    plan: AppList


def take(
    phone: SimulatedPhone,
    memory: Memory,
    radio: OwnedRadio,
    profile: Profile,
    shelf: Shelf,
    now: datetime,
    *,
    friend: AppList | None = None,
) -> AppTaken:
    """Take the phone's list, keep a dated copy, and merge. Raises TransferError; nothing is changed on the phone.

    A `friend`'s list is laid in beside the plan's; from then on its entries are one's own.
    """
    present = phone.present(profile.key)
    app = app_for(profile, phone.front().platform) or App(platform="")
    _keep(shelf, present, now)
    plan = AppList(profile.key, memory.access_list, memory.call_signs)
    wanted = _with_friend(memory, friend) if friend is not None else memory
    return AppTaken(present, merged(present, wanted, settings_for(memory, radio), profile, app, _sent(shelf)), plan)


def _with_friend(memory: Memory, friend: AppList) -> Memory:
    """The plan's rows, and what a friend's list has beside them."""
    if friend.model != memory.profile:
        raise WrongModelError(
            f"The list is of a “{friend.model[:40]}”, and this radio is another. Nothing was taken from it."
        )
    known = {*map(key_of, memory.access_list), *map(key_of, memory.call_signs)}
    access = tuple(row for row in friend.access_list if key_of(row) not in known)
    calls = tuple(row for row in friend.call_signs if key_of(row) not in known)
    return replace(memory, access_list=memory.access_list + access, call_signs=memory.call_signs + calls)


def hand_over(phone: SimulatedPhone, taken: AppTaken, shelf: Shelf) -> AppList:
    """Hand the merged list over and prove it by what the app mirrors of the radio. Raises TransferError."""
    if phone.present(taken.present.model) != taken.present:
        raise StaleError("The phone's list has changed since it was taken. Take it again. Nothing was sent.")
    phone.replace(taken.merge.made)
    found = phone.on_radio(taken.present.model)
    if found != taken.merge.made:
        raise NotProvenError(
            "The radio, as the app mirrors it, holds something else than was handed over. Wake the phone, look whether the app "
            "is connected, and hand it over again."
        )
    _remember(shelf, taken.plan)
    return found


def _keep(shelf: Shelf, present: AppList, now: datetime) -> None:
    try:
        shelf.folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        write_new(shelf.folder / f"{now:%Y-%m-%d %H.%M.%S} phone.app.json", app_bytes(present), private=True)
    except FileExistsError:
        return
    except OSError as error:
        raise ShelfError(f"The phone's list cannot be kept: {error.strerror}. Nothing was sent.") from None


def _sent(shelf: Shelf) -> frozenset[Hashable]:
    """Keys of the rows that came from the plan the last time."""
    try:
        made = msgspec.json.decode(read_within(shelf.folder / _SENT, SETTINGS_BYTES * 8), type=AppList)
    except (OSError, ValueError, RecursionError, msgspec.DecodeError):
        return frozenset()
    return frozenset(map(key_of, made.access_list)) | frozenset(map(key_of, made.call_signs))


def _remember(shelf: Shelf, made: AppList) -> None:
    try:
        write_over(shelf.folder / _SENT, app_bytes(made), private=True)
    except OSError as error:
        raise ShelfError(f"What was sent cannot be remembered: {error.strerror}.") from None
