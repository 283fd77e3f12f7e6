"""What a profile says of the ways into a radio beside the cable: its card, its apps, its people, its firmware."""

from typing import Literal

import msgspec

PeopleColumn = Literal["id", "call", "name", "place", "country"]
AppLink = Literal["wireless", "cable"]
AppPart = Literal["access list", "call signs", "identity", "message", "power", "data", "fast data", "position", "units"]


class MenuPart(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """Base of a profile's parts."""


class Firmware(MenuPart, frozen=True):
    """A variant of the radio's firmware, trading one thing for another: people against `extra`, what else it can do."""

    key: str
    name: str
    people: int = 0
    extra: str = ""


class LoadingWay(MenuPart, frozen=True):
    """How firmware is loaded: keys held while switching on, what its light does then, what is looked at afterwards.

    `second` says in words which second file belongs to it; `hardware` are the marks of its makes that take different files, and
    `label` where a radio's own mark stands; `small_print` whether a password or the like stands beside the file.
    """

    keys: tuple[str, ...]
    light: str
    after: str = "Switch on, go through the menus, and see that nothing is cut off."
    second: str = ""
    hardware: tuple[str, ...] = ()
    label: str = ""
    small_print: bool = False


class PeopleTable(MenuPart, frozen=True):
    """How the radio takes its people list: columns in their order, sorted by what, characters a name, bytes a record."""

    columns: tuple[PeopleColumn, ...] = ("id", "call", "name", "place", "country")
    order: Literal["id", "call", "name"] = "id"
    name_length: int = 16
    record: int = 64


class AroundList(MenuPart, frozen=True):
    """The list of access points around, which is no part of the memories: how many it holds, in which folder, by which menus."""

    records: int
    folder: str = "AROUND"
    write_out: tuple[str, ...] = ()
    read_in: tuple[str, ...] = ()


class Card(MenuPart, frozen=True):
    """How the radio goes in and out by memory card.

    `folder` is the radio's own on the card, `backup` the one in it; `write_out` and `read_in` are the menus, last the word for
    everything; `done` is what its display says at the end, `yes` how often it asks, `restarts` whether it does after reading.
    """

    folder: str
    write_out: tuple[str, ...]
    read_in: tuple[str, ...]
    backup: str = "KEPT"
    done: str = "Done"
    yes: int = 1
    restarts: bool = False
    around: AroundList | None = None


class App(MenuPart, frozen=True):
    """A phone app that works with the radio on one phone platform; `needs` is what must be bought beside it.

    `known` is the day (ISO) of that knowledge, `links` how it reaches the radio, `carries` what of it, `message` the characters
    of its display message.
    """

    platform: str
    needs: str = ""
    known: str = ""
    links: tuple[AppLink, ...] = ("wireless",)
    carries: tuple[AppPart, ...] = ()
    message: int = 20
