"""May a text or a picture go out on a channel? What mode, radio and access point carry; guard and licence as for voice."""

from collections.abc import Mapping
from typing import Literal, NamedTuple

from umbra_awl.core.estimate.reach import LIKELY_DB
from umbra_awl.core.estimate.survey import best_reach, hand_of
from umbra_awl.core.facts.earth import Position, distance_km
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.messages.carriers import Carrier, shipped_carriers
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, DataSpeed, DstarAir, Service
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.trace.keyup import trace

What = Literal["text", "picture"]
_SPEEDS: tuple[DataSpeed, ...] = ("none", "slow", "fast")


class Going(NamedTuple):
    """Whether something may go out on a route: why not (empty when it may), by which carrier, at which speed of data."""

    refusal: str
    carrier: Carrier
    speed: DataSpeed
    wide: bool = False


class Power(NamedTuple):
    """A power step from 0, in watts, and why this one."""

    step: int
    watts: float
    why: str


def may_send(index: PlanIndex, fits: Mapping[str, Fit], radio: str, route: str, profile: Profile, what: What) -> Going:
    """Whether a text or picture may go out. Raises KeyError for a radio or route not in the plan."""
    access, service, destination = index.parts(index.routes[route])
    carrier = shipped_carriers()[service.mode]
    speed = _speed(profile, access, service)
    wide = destination.kind in {"reflector", "room", "group"}
    refusal = _carried(carrier, what, profile, speed) or _guarded(index, fits, radio, route)
    return Going(refusal, carrier, speed, wide)


def _carried(carrier: Carrier, what: What, profile: Profile, speed: DataSpeed) -> str:
    """Why mode or radio do not carry it."""
    if what == "picture" and not carrier.pictures:
        return carrier.needs or f"{carrier.words} carries no pictures. Choose a D-STAR channel."
    if not carrier.text_length:
        return carrier.needs
    if carrier.mode == "dstar" and speed == "none":
        return f"{profile.name} does no data by this access point. Choose another radio, or another access point."
    return ""


def _guarded(index: PlanIndex, fits: Mapping[str, Fit], radio: str, route: str) -> str:
    """Why the radio may not key up here, or why nothing would come of it: the trace's own words."""
    broken = trace(index, fits, radio, route).broken
    if broken is None or broken.kind == "far":
        return ""
    return f"{broken.title}: {broken.text}. {broken.detail}".strip()


def _speed(profile: Profile, access: AccessPoint, service: Service) -> DataSpeed:
    """The data speed that both the radio and the access point have; between two radios directly only the radio counts."""
    if not isinstance(service.air, DstarAir):
        return "slow"
    if access.kind == "simplex":
        return profile.extras.data
    return _SPEEDS[min(_SPEEDS.index(profile.extras.data), _SPEEDS.index(service.air.data))]


def least_power(index: PlanIndex, profile: Profile, access: AccessPoint) -> Power:
    """The lowest power step that should still do: the lowest beside one's own hotspot, by the reach estimate elsewhere."""
    watts = profile.power_watts or (0.0,)
    if access.kind == "hotspot":
        return Power(0, watts[0], "your own hotspot is beside you")
    station = index.plan.station
    if station.lat is None or station.lon is None or access.lat is None or access.lon is None:
        return Power(0, watts[0], "begin with the lowest; how far it is, is not known")
    km = distance_km(Position(station.lat, station.lon), Position(access.lat, access.lon))
    hand = hand_of(index.plan)
    for step, power in enumerate(watts):
        found = best_reach(access, km, lambda mode, power=power: hand(mode)._replace(watts=power))  # type: ignore[misc]
        if found is not None and found.margin_db >= LIKELY_DB:
            return Power(step, power, f"{found.margin_db:.0f} dB to spare by the reach estimate")
    return Power(len(watts) - 1, watts[-1], "the reach estimate has no margin to spare; it may not do at all")


_FIRST_ASK: dict[What, str] = {
    "text": "Ask by voice: is the text page or the app open on the far side?",
    "picture": "Ask by voice: picture page open, receive on, a memory card in, the app open? And so on your side.",
}


def etiquette(index: PlanIndex, route: str, what: What) -> tuple[str, ...]:
    """What is done before and after, in its order."""
    _access, _service, destination = index.parts(index.routes[route])
    wide = destination.kind in {"reflector", "room", "group"}
    steps = [
        "Ask whether the frequency is in use; wait for an answer.",
        _FIRST_ASK[what],
        "Give your call sign, and say what follows.",
    ]
    if what == "picture" and wide:
        steps.insert(0, f"{destination.name} is wide: agree on another place first. No picture over a whole reflector.")
    if what == "picture":
        steps += [] if wide else ["Leave the repeater for it where you can: a direct frequency holds nobody up."]
        steps.append("Least power; FM listeners hear only noise, and may key over you.")
        steps.append("Ask the people in the picture first.")
    if index.plan.station.habits.texts == "alone" and wide:
        steps.insert(0, "You chose speech only on a shared channel: agree on one of your own for it.")
    steps.append("Nothing here is private.")
    return tuple(steps)
