"""Which kernel driver serves the chip in a programming cable."""

import tomllib
from functools import cache
from pathlib import Path

from umbra_awl.core.transfer.ports.described import Usb

_TABLE = Path(__file__).parent / "chips.toml"


@cache
def _drivers() -> dict[tuple[str, str], str]:
    rows = tomllib.loads(_TABLE.read_text("utf-8"))["chip"]
    return {(row["vendor"], row["product"]): row["driver"] for row in rows}


def driver_for(usb: Usb) -> str:
    """The driver that a chip needs; empty where it is not in the table."""
    return _drivers().get((usb.vendor.lower(), usb.product.lower()), "")


def chip_words(usb: Usb) -> str:
    """A chip as it is named here: what it says of itself, its numbers."""
    return f"{usb.words or 'a chip without a name'} ({usb.vendor}:{usb.product})"
