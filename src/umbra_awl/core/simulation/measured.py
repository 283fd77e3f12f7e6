"""How much others talk, measured from a hotspot's log: overs, their length, the gaps between, conversations an hour.

Only overs that came from the network count. A pause longer than a minute ends a conversation. From a few overs nothing is told.
"""

import statistics
from collections.abc import Iterable
from datetime import datetime
from itertools import pairwise
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.hotspot.logs.reading import HeardCall, read_log_file
from umbra_awl.core.plan.edit.edits import Edit, together
from umbra_awl.core.plan.model import Destination, Plan
from umbra_awl.core.simulation.parameters import TRAFFIC_LIMITS, set_traffic

LEAST_OVERS = 8
PAUSE_S = 60.0
_LEAST_H = 0.25


class Measured(NamedTuple):
    """The traffic of one destination as a log has it: overs counted, hours looked at, and the four figures."""

    destination: Destination
    number: int
    hours: float
    conversations_per_h: float
    overs: float
    over_s: float
    gap_s: float

    @property
    def source(self) -> str:
        """Where the figures are from."""
        return f"Measured: {counted(self.number, 'over')} in {self.hours:.1f} h of the hotspot's log"


def measure_log(plan: Plan, path: Path) -> tuple[Measured, ...]:
    """What a log's file tells of each destination of the plan. Raises OSError."""
    return measure(plan, read_log_file(path).calls)


def measure(plan: Plan, calls: Iterable[HeardCall]) -> tuple[Measured, ...]:
    """What a log's calls tell of each destination of the plan, those with most overs first."""
    timed = [(moment, item) for item in calls if (moment := _moment(item)) is not None]
    if not timed:
        return ()
    hours = max((max(at for at, _ in timed) - min(at for at, _ in timed)).total_seconds() / 3600, _LEAST_H)
    by_destination: dict[str, list[tuple[datetime, float]]] = {}
    known = {item.key: item for item in plan.destinations}
    for moment, item in timed:
        found = _destination(plan, item)
        if found is not None and item.way != "call-heard" and item.seconds > 0:
            by_destination.setdefault(found.key, []).append((moment, item.seconds))
    made = [
        _measured(known[key], sorted(overs), hours)
        for key, overs in by_destination.items()
        if len(overs) >= LEAST_OVERS
    ]
    return tuple(sorted(made, key=lambda item: -item.number))


def _moment(item: HeardCall) -> datetime | None:
    try:
        return datetime.fromisoformat(item.when.strip())
    except ValueError:
        return None


def _destination(plan: Plan, item: HeardCall) -> Destination | None:
    """The destination that a call went to: by its number, or by its name or text."""
    said = item.to.casefold().removeprefix("tg").strip()
    number = int(said) if said.isascii() and said.isdigit() else None
    for found in plan.destinations:
        if (number is not None and found.number == number) or said in {found.name.casefold(), found.text.casefold()} - {
            ""
        }:
            return found
    return None


def _measured(destination: Destination, overs: list[tuple[datetime, float]], hours: float) -> Measured:
    """The figures of overs in their order; a line of a log tells when an over has ended."""
    gaps = []
    conversations = 1
    for (before, _), (after, seconds) in pairwise(overs):
        gap = (after - before).total_seconds() - seconds
        if gap > PAUSE_S:
            conversations += 1
        else:
            gaps.append(max(gap, 0.0))
    figures = {
        "conversations_per_h": conversations / hours,
        "overs": len(overs) / conversations,
        "over_s": statistics.fmean(seconds for _, seconds in overs),
        "gap_s": statistics.median(gaps) if gaps else 3.0,
    }
    held = {
        name: round(min(max(value, low), high), 2)
        for name, value in figures.items()
        for low, high in [TRAFFIC_LIMITS[name]]
    }
    return Measured(destination, len(overs), hours, **held)


def take_measured(found: Iterable[Measured]) -> Edit:
    """Take what was measured into the plan."""
    items = tuple(found)
    edits = [
        set_traffic(
            item.destination,
            conversations_per_h=item.conversations_per_h,
            overs=item.overs,
            over_s=item.over_s,
            gap_s=item.gap_s,
            source=item.source,
        )
        for item in items
    ]
    count = len(items)
    return together(f"Take the traffic of {counted(count, 'destination')} from a log", edits)
