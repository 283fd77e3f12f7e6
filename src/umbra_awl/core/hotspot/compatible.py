"""Board × computer × image × simplex or duplex: whether they work together, why not, and what each choice costs in use.

The parts are data (`compatible.toml`); an operator may describe others in a file of the same form.
"""

from collections.abc import Iterator
from functools import cache
from pathlib import Path
from typing import NamedTuple

import msgspec

from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.keep.toml_form import from_toml
from umbra_awl.core.plan.model import Mode

SHIPPED = Path(__file__).parent / "compatible.toml"
FORMAT = "umbra-awl hotspot parts"
_BANK_WH = 37.0


class PartsError(ValueError):
    """A file of parts that cannot be used; the message says why."""


class Board(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A hotspot's radio board: the computers it fits on, its modem firmware, and the modem type it is set to."""

    key: str
    name: str
    duplex: bool
    modes: tuple[Mode, ...]
    fits: tuple[str, ...]
    firmware: str
    modem: str = ""
    display: bool = False
    wifi_5ghz: bool = False
    note: str = ""


class Computer(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A single-board computer: watts it draws with a board, seconds until it is on the air, images that start on it."""

    key: str
    name: str
    watts: float
    starts_s: int
    images: tuple[str, ...]
    wifi_5ghz: bool = False
    note: str = ""


class SystemImage(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A system image: modes it serves, the newest modem firmware it knows, whether it has a page of its own."""

    key: str
    name: str
    modes: tuple[Mode, ...]
    firmware_to: str
    page: bool = True
    note: str = ""


class Parts(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A file of parts."""

    board: tuple[Board, ...]
    computer: tuple[Computer, ...]
    image: tuple[SystemImage, ...]
    format: str = FORMAT
    version: int = 1


class Build(NamedTuple):
    """One combination; `faults` say why it does not work, `costs` what it means in use, both as sentences."""

    board: Board
    computer: Computer
    image: SystemImage
    duplex: bool
    faults: tuple[str, ...]
    costs: tuple[str, ...]
    share: float

    @property
    def works(self) -> bool:
        """Whether the parts work together."""
        return not self.faults

    @property
    def in_use(self) -> str:
        """How soon it is on the air and how long a power bank lasts, in a few words."""
        return f"on the air after {self.computer.starts_s} s, {_BANK_WH / self.computer.watts:.0f} h on a power bank"


class HotspotNeeds(NamedTuple):
    """What a hotspot should do: modes, talk while a busy talk group is on, run from a power bank, be set by page."""

    modes: tuple[Mode, ...] = ("dmr",)
    busy: bool = False
    travels: bool = False
    page: bool = True


def parse_parts(text: str, source: str = "The parts") -> Parts:
    """The parts in a TOML text. Raises PartsError."""
    return from_toml(text, Parts, (FORMAT, 1), source, PartsError)


@cache
def shipped_parts() -> Parts:
    """The parts that come with the application."""
    return parse_parts(SHIPPED.read_text("utf-8"), SHIPPED.name)


def builds(parts: Parts, needs: HotspotNeeds) -> list[Build]:
    """Every combination; those that work first, then by how much of the needs they meet."""
    made = [
        _build(board, computer, image, duplex, needs)
        for board in parts.board
        for computer in parts.computer
        for image in parts.image
        for duplex in ((False, True) if board.duplex else (False,))
    ]
    return sorted(made, key=lambda item: (not item.works, -item.share, item.computer.watts))


def _build(board: Board, computer: Computer, image: SystemImage, duplex: bool, needs: HotspotNeeds) -> Build:
    faults = tuple(_faults(board, computer, image))
    costs = tuple(_costs(board, computer, image, duplex=duplex))
    return Build(board, computer, image, duplex, faults, costs, _share(board, computer, image, needs, duplex=duplex))


def _faults(board: Board, computer: Computer, image: SystemImage) -> Iterator[str]:
    if computer.key not in board.fits:
        yield f"{board.name} does not fit the {computer.name}. {board.note}".strip()
    if image.key not in computer.images:
        yield f"{image.name} does not start on the {computer.name}. {computer.note}".strip()
    if _level(board.firmware) > _level(image.firmware_to):
        known = f"{image.name} knows modem firmware up to {image.firmware_to}"
        yield f"{known}; {board.name} has {board.firmware}. {board.note}".strip()


def _level(firmware: str) -> tuple[int, ...]:
    return tuple(int(part) for part in firmware.split(".") if part.isdecimal())


def _costs(board: Board, computer: Computer, image: SystemImage, *, duplex: bool) -> Iterator[str]:
    if duplex:
        yield "Two frequencies, both slots: you can change talk group while another is on."
        yield "Radio and hotspot need the same offset, and a frequency pair that is free."
    else:
        yield "One frequency, one slot: while a busy talk group is on you cannot change away from it."
    missing = [MODE_WORDS[mode] for mode in board.modes if mode not in image.modes]
    if missing:
        yield f"{image.name} does not serve {', '.join(missing)}."
    lasts = f"a power bank of {_BANK_WH:g} Wh lasts {_BANK_WH / computer.watts:.0f} h"
    yield f"On the air {computer.starts_s} s after it is switched on; {lasts}."
    if not computer.wifi_5ghz:
        yield "2.4 GHz only: the phone's sharing must offer it."
    if not image.page:
        yield image.note or "It has no page to set it by."


def _share(board: Board, computer: Computer, image: SystemImage, needs: HotspotNeeds, *, duplex: bool) -> float:
    served = sum(mode in board.modes and mode in image.modes for mode in needs.modes)
    points = [served / len(needs.modes) if needs.modes else 1.0]
    points.append(float(duplex) if needs.busy else float(not duplex) * 0.5 + 0.5)
    if needs.travels:
        points.append(min(1.0, 1.5 / computer.watts))
    if needs.page:
        points.append(float(image.page))
    return sum(points) / len(points)
