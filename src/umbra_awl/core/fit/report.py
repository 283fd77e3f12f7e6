"""What fitting did to a plan: shortened, split, moved, held back or left out, each with its reason, and the gauges."""

from typing import Literal, NamedTuple, get_args

import msgspec

LineKind = Literal[
    "left out", "by choice", "receive-only", "split", "cut", "made duplex",
    "set", "told apart", "characters", "shortened", "other mode",
]  # fmt: skip
KINDS: tuple[LineKind, ...] = get_args(LineKind)


_AWAY = frozenset({"left out", "by choice", "other mode"})


class Line(msgspec.Struct, frozen=True, gc=False):
    """One thing that is not as planned: what happened, to what (a route or zone key), shown how, and why.

    There are tens of thousands of them, and none is part of a cycle, so none is looked at when garbage is collected.
    """

    kind: LineKind
    key: str
    title: str
    reason: str


class Gauge(NamedTuple):
    """How much of a limit is used."""

    name: str
    used: int
    limit: int


class Report(NamedTuple):
    """The lines and gauges of one fit."""

    lines: tuple[Line, ...]
    gauges: tuple[Gauge, ...]

    def of_kind(self, kind: LineKind) -> tuple[Line, ...]:
        """The lines of one kind."""
        return tuple(line for line in self.lines if line.kind == kind)

    def by_kind(self) -> dict[LineKind, list[Line]]:
        """The lines of each kind that there is, in the order in which kinds are told."""
        found: dict[LineKind, list[Line]] = {kind: [] for kind in KINDS}
        for line in self.lines:
            found[line.kind].append(line)
        return {kind: lines for kind, lines in found.items() if lines}

    def why_away(self, key: str) -> str:
        """Why a route is not on the radio, as a sentence; empty when it is."""
        return next((line.reason for line in self.lines if line.key == key and line.kind in _AWAY), "")
