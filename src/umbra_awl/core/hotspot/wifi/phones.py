"""Kinds of phone as hotspots' way out, as data: where sharing sits, who has joined, which address a hotspot gets on each."""

from functools import cache
from pathlib import Path

import msgspec

from umbra_awl.core.keep.toml_form import from_toml
from umbra_awl.core.plan.model import Hotspot, Phone

SHIPPED = Path(__file__).with_name("phones.toml")
FORMAT = "umbra-awl phones"
MENU_MARK = " › "


class PhonesError(ValueError):
    """A file of kinds of phone that cannot be used; the message says why."""


class PhoneKind(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A kind: menus to its sharing and to whom it lists, the addresses it gives, whether it finds by name, what to mind."""

    platform: str
    sharing: tuple[str, ...]
    joined: tuple[str, ...]
    first: str
    last: str
    by_name: bool = False
    minds: str = ""


class PhoneKinds(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A file of kinds; `known` is the day (ISO) of that knowledge."""

    phone: tuple[PhoneKind, ...]
    known: str
    format: str = FORMAT
    version: int = 1


def parse_phones(text: str, source: str = "The kinds of phone") -> PhoneKinds:
    """The kinds in a TOML text. Raises PhonesError."""
    return from_toml(text, PhoneKinds, (FORMAT, 1), source, PhonesError)


@cache
def shipped_phones() -> PhoneKinds:
    """The kinds that come with the application."""
    return parse_phones(SHIPPED.read_text("utf-8"), SHIPPED.name)


def kind_of(phone: Phone | None) -> PhoneKind | None:
    """The kind of a phone; None where it was not said or is none that is known."""
    return next(
        (item for item in shipped_phones().phone if phone is not None and item.platform == phone.platform), None
    )


def sharing_words(phone: Phone | None) -> str:
    """Where a phone's sharing sits: as its owner wrote it down, else as its kind has it; empty where neither is known."""
    kind = kind_of(phone)
    if phone is not None and phone.menu:
        return phone.menu
    return MENU_MARK.join(kind.sharing) if kind is not None else ""


def joined_words(phone: Phone | None) -> str:
    """Where a phone lists who joined; empty where it is not known."""
    kind = kind_of(phone)
    return MENU_MARK.join(kind.joined) if kind is not None else ""


def page_words(hotspot: Hotspot, phone: Phone | None) -> str:
    """Under which address a hotspot's page opens on a phone: as seen before, by name, or among which addresses it is."""
    kind = kind_of(phone)
    if phone is not None and phone.page:
        return f"{phone.page}, as seen before"
    if hotspot.host and (kind is None or kind.by_name):
        return f"{hotspot.host}.local"
    if kind is None:
        return "address from the phone's list"
    return f"from {kind.first} to {kind.last}, as its list says"


def kept_phone(phone: Phone) -> Phone | None:
    """A phone as the plan keeps it; None where nothing of it is told, and its band alone would say nothing."""
    return phone if phone.sharing or phone.platform or phone.menu or phone.page else None
