"""The figures of the simulated world: the usual ones with their sources, and the plan's own."""

from collections.abc import Mapping
from functools import cache
from pathlib import Path
from typing import Any, NamedTuple

import msgspec
from msgspec.structs import replace

from umbra_awl.core.keep.toml_form import from_toml
from umbra_awl.core.plan.edit.edits import Edit, EditRefused
from umbra_awl.core.plan.model import Assumed, Destination, Evening, Plan, Traffic, TrafficKind

SHIPPED = Path(__file__).with_name("parameters.toml")
FORMAT = "umbra-awl simulated world"
TRAFFIC_LIMITS: Mapping[str, tuple[float, float]] = {
    "conversations_per_h": (0.0, 120.0),
    "overs": (1.0, 500.0),
    "over_s": (0.5, 600.0),
    "gap_s": (0.1, 120.0),
}


class ParameterError(ValueError):
    """A file of figures that cannot be used; the message says why."""


class AssumedFigure(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One figure: its name, what it says, unit, usual value, least and most, where it is from."""

    name: str
    words: str
    unit: str
    usual: float
    low: float
    high: float
    source: str


class Usual(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """The usual traffic of one kind of destination."""

    kind: TrafficKind
    words: str
    conversations_per_h: float
    overs: float
    over_s: float
    gap_s: float
    source: str


class _Hours(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    hours: tuple[int, ...]
    factor: float


class AssumedWorld(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """All usual figures."""

    figure: tuple[AssumedFigure, ...]
    traffic: tuple[Usual, ...]
    day: tuple[_Hours, ...]
    format: str = FORMAT
    version: int = 1


class Pattern(NamedTuple):
    """How much others talk on one destination."""

    conversations_per_h: float
    overs: float
    over_s: float
    gap_s: float
    kind: TrafficKind = "regional"
    source: str = ""

    @property
    def busy(self) -> float:
        """Share of the time that somebody talks or a gap of theirs is open, at the most 1."""
        return min(1.0, self.conversations_per_h * self.overs * (self.over_s + self.gap_s) / 3600)


def parse_world(text: str, source: str = "The figures") -> AssumedWorld:
    """Figures from a TOML text. Raises ParameterError."""
    return from_toml(text, AssumedWorld, (FORMAT, 1), source, ParameterError)


@cache
def shipped_world() -> AssumedWorld:
    """The figures that ship with the application."""
    return parse_world(SHIPPED.read_text("utf-8"))


@cache
def _kinds() -> dict[str, Usual]:
    return {item.kind: item for item in shipped_world().traffic}


@cache
def hour_factors() -> tuple[float, ...]:
    """How busy each of the 24 hours is, the busiest 1."""
    found = [1.0] * 24
    for part in shipped_world().day:
        for hour in part.hours:
            found[hour] = part.factor
    return tuple(found)


def figures(evening: Evening) -> dict[str, float]:
    """Every figure by its name: the plan's own where it has one within the limits, else the usual."""
    own = {item.name: item.value for item in evening.assumed}
    return {
        item.name: min(max(own[item.name], item.low), item.high) if item.name in own else item.usual
        for item in shipped_world().figure
    }


def usual_kind(destination: Destination, *, carried: bool) -> TrafficKind:
    """The kind of traffic a destination is taken to have where nobody said; `carried`: some access point always carries it."""
    name = destination.name.casefold()
    if destination.kind in {"local", "station", "private", "echo", "disconnect", "info", "dial"}:
        return "local" if destination.kind == "local" else "quiet"
    if "world" in name or "wide area" in name:
        return "quiet" if "slow" in name else "wide"
    if carried or destination.kind in {"reflector", "room"}:
        return "regional"
    return "quiet" if destination.kind in {"direct", "repeater"} else "regional"


def pattern_of(plan: Plan, destination: Destination, *, carried: bool = False) -> Pattern:
    """The traffic of a destination."""
    own = next((item for item in plan.evening.traffic if item.destination == destination.key), None)
    kind = own.kind if own is not None else usual_kind(destination, carried=carried)
    usual = _kinds()[kind]
    told = {name: value for name in TRAFFIC_LIMITS if own is not None and (value := getattr(own, name)) is not None}
    values: dict[str, Any] = {
        name: min(max(told.get(name, getattr(usual, name)), low), high) for name, (low, high) in TRAFFIC_LIMITS.items()
    }
    return Pattern(**values, kind=kind, source=own.source if own is not None and told else usual.source)


def kind_words() -> dict[TrafficKind, str]:
    """The kinds of traffic in words."""
    return {item.kind: item.words for item in shipped_world().traffic}


def assume(name: str, value: float | None) -> Edit:
    """Set a figure otherwise than usual, or back to the usual with None. Refused outside its limits."""
    figure = next(item for item in shipped_world().figure if item.name == name)

    def apply(plan: Plan) -> Plan:
        if value is not None and not figure.low <= value <= figure.high:
            raise EditRefused(f"{figure.words}: {value:g} is outside {figure.low:g} to {figure.high:g} {figure.unit}.")
        kept = tuple(item for item in plan.evening.assumed if item.name != name)
        added = () if value is None else (Assumed(name, value),)
        return replace(plan, evening=replace(plan.evening, assumed=(*kept, *added)))

    return Edit(f"{figure.words}: {'as usual' if value is None else f'{value:g} {figure.unit}'}", apply)


def set_traffic(destination: Destination, **fields: Any) -> Edit:
    """Say how much others talk on a destination. Refused outside sensible limits."""

    def apply(plan: Plan) -> Plan:
        for name, value in fields.items():
            low, high = TRAFFIC_LIMITS.get(name, (0.0, 0.0))
            if name in TRAFFIC_LIMITS and value is not None and not low <= value <= high:
                raise EditRefused(f"{value:g} is outside {low:g} to {high:g}. Choose a value between.")
        own = {item.destination: item for item in plan.evening.traffic}
        begun = Traffic(destination.key, pattern_of(plan, destination).kind)
        own[destination.key] = replace(own.get(destination.key, begun), **fields)
        return replace(plan, evening=replace(plan.evening, traffic=tuple(own.values())))

    return Edit(f"Say how busy {destination.name} is", apply)
