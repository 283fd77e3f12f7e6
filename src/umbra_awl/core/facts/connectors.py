"""Antenna connectors: whether two go together, which adapter is between, what is to be minded. Data: `connectors.toml`."""

import tomllib
from functools import cache
from pathlib import Path
from typing import NamedTuple

SIDES = ("plug", "socket")
"""Called male and female as well. On the reverse family the words go by the thread, as makers print them."""
FIXED = "fixed"
_OTHER = {"plug": "socket", "socket": "plug"}
_AS_SAID = {"male": "plug", "female": "socket", "jack": "socket"}


class ConnectorFamily(NamedTuple):
    """A kind of connector: in words, the loss of an adapter to it in dB at 440 MHz, `small` where a stiff cable breaks it."""

    name: str
    words: str
    loss_db: float
    small: bool


class ConnectorFit(NamedTuple):
    """Two connectors: whether they go together as they are, else the adapter; loss in dB at 440 MHz, and what is to be minded."""

    fits: bool
    adapter: str
    loss_db: float
    minds: str


@cache
def families() -> dict[str, ConnectorFamily]:
    """The families that are known, by name, in the order of the data."""
    read = tomllib.loads((Path(__file__).parent / "connectors.toml").read_text("utf-8"))
    return {row["name"]: ConnectorFamily(**row) for row in read["families"]}


def every_connector() -> tuple[str, ...]:
    """All connectors as they are chosen: “SMA plug”, “SMA socket” and so on."""
    return tuple(f"{name} {side}" for name in families() for side in SIDES)


def tidy_connector(text: str) -> str:
    """A connector as it is kept, from “sma female”, “SMA-socket”, “fixed”. Raises ValueError with a sentence for what is none."""
    plain = " ".join(text.replace("-", " ").casefold().split())
    if plain in {"", FIXED}:
        return plain
    name, _blank, side = plain.rpartition(" ")
    side = _AS_SAID.get(side, side)
    family = next((item for item in families() if item.casefold() == name), None)
    if family is None or side not in SIDES:
        known = ", ".join(families())
        raise ValueError(f"“{text}” is no antenna connector. Type one of {known} with plug or socket: SMA socket.")
    return f"{family} {side}"


def joins(radio: str, aerial: str) -> ConnectorFit | None:
    """How a radio's connector goes onto that of an antenna's cable; None where either is not known or cannot be taken off."""
    try:
        one, other = tidy_connector(radio), tidy_connector(aerial)
    except ValueError:
        return None
    if not one or not other or FIXED in {one, other}:
        return None
    (mine, my_side), (theirs, their_side) = one.rsplit(" ", 1), other.rsplit(" ", 1)
    stiff = families()[mine].small and not families()[theirs].small
    minds = "Use a short thin lead: a stiff cable on a small connector breaks the radio's." if stiff else ""
    if mine == theirs and my_side != their_side:
        return ConnectorFit(True, "", 0.0, minds)
    if {mine, theirs} == {"SMA", "reverse SMA"}:
        minds = "They screw together without the adapter and make no contact."
    adapter = f"adapter {mine} {_OTHER[my_side]} to {theirs} {_OTHER[their_side]}"
    return ConnectorFit(False, adapter, round(families()[mine].loss_db + families()[theirs].loss_db, 2), minds)
