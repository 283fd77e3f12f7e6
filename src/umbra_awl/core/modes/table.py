"""The four modes by their key, and what is asked of a service or a channel whatever its mode."""

from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from umbra_awl.core.facts.emissions import Emission
from umbra_awl.core.facts.modes import EVERY_MODE, ByMode
from umbra_awl.core.modes.behaviour import Behaviour
from umbra_awl.core.modes.dmr import Dmr
from umbra_awl.core.modes.dstar import Dstar
from umbra_awl.core.modes.fm import Fm
from umbra_awl.core.modes.fusion import Fusion
from umbra_awl.core.modes.opening import Condition, OnAir, frequency_condition
from umbra_awl.core.plan.model import Route, Service

if TYPE_CHECKING:
    from umbra_awl.core.radio.memory import Channel, Memory

MODES: ByMode[Behaviour[Any]] = {"fm": Fm(), "dmr": Dmr(), "dstar": Dstar(), "fusion": Fusion()}
KINDS_OF: dict[str, frozenset[str]] = {mode: MODES[mode].kinds for mode in EVERY_MODE}
"""The kinds of destination that each mode reaches."""

KIND_WORDS = {
    "local": "local",
    "group": "talk group",
    "private": "private call",
    "echo": "echo test",
    "disconnect": "disconnect or unlink",
    "dial": "dialled reflector",
    "reflector": "reflector module",
    "direct": "repeater, linked directly",
    "repeater": "repeater, by routing",
    "station": "single station",
    "info": "information",
    "room": "room",
}


def mode_of(service: Service) -> Behaviour[Any]:
    """How the mode of a service behaves."""
    return MODES[service.mode]


def sent_by(service: Service, route: Route | None = None) -> Emission:
    """What a radio sends on a service, by the values of a route where it has its own."""
    return mode_of(service).sent(service, route)


def networks_of(service: Service) -> tuple[str, ...]:
    """The keys of the networks that a service reaches, its own first."""
    return mode_of(service).networks(service.air)


def conditions(memory: "Memory", channel: "Channel", call: OnAir) -> tuple[Condition, ...]:
    """Every condition between the air and the speaker, in the order the radio meets them; the first “no” keeps it shut."""
    return tuple(_conditions(memory, channel, call))


def _conditions(memory: "Memory", channel: "Channel", call: OnAir) -> Iterator[Condition]:
    where, mode = frequency_condition(channel, call), MODES[channel.mode]
    yield where
    if where.holds == "no":
        return
    yield mode.mode_condition(channel, call)
    if channel.mode == call.mode:
        yield from mode.conditions(memory, channel, call)
