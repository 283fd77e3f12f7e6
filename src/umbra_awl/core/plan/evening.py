"""What is taken for granted when the plan is played in time, where it is not the usual; part of the plan's model."""

from typing import Literal

from umbra_awl.core.plan.air import Value

TrafficKind = Literal["local", "regional", "wide", "net", "quiet"]


class Traffic(Value, frozen=True):
    """How much others talk on one destination: a kind, and what of it is known better.

    Conversations an hour, overs in one, seconds of an over and of the gap behind it; `source` says where the figures are from.
    """

    destination: str
    kind: TrafficKind = "regional"
    conversations_per_h: float | None = None
    overs: float | None = None
    over_s: float | None = None
    gap_s: float | None = None
    source: str = ""


class Assumed(Value, frozen=True):
    """One figure of the simulated world that the operator knows better, by the name of its parameter."""

    name: str
    value: float


class Evening(Value, frozen=True):
    """The traffic of single destinations and the figures that are not the usual ones."""

    traffic: tuple[Traffic, ...] = ()
    assumed: tuple[Assumed, ...] = ()
