"""The slips people make, as data: what each is called, what one notices of it, which findings explain it."""

import tomllib
from functools import cache
from pathlib import Path
from typing import Literal

import msgspec

SHIPPED = Path(__file__).with_name("slips.toml")
Where = Literal["plan", "way"]
Traced = Literal["", "stops", "reaches"]


class Slip(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A slip: its key, its words as the cause, the symptom, the rules whose finding explains it, and how it is practised.

    `trace` is what the trace says of a key-up on what the symptom names, as the symptom has it too; empty where that hangs on the
    case. `repairs` are ways to go on from which one is chosen, the right one first, where it is not repaired in a plan.
    """

    key: str
    words: str
    symptom: str
    rules: tuple[str, ...]
    where: Where = "plan"
    trace: Traced = ""
    repairs: tuple[str, ...] = ()


class _File(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    slip: tuple[Slip, ...]


@cache
def shipped_slips() -> dict[str, Slip]:
    """Every slip by its key, in the order of the list."""
    found = msgspec.convert(tomllib.loads(SHIPPED.read_text("utf-8")), _File)
    return {item.key: item for item in found.slip}
