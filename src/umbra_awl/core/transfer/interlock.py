"""The last look before a radio is written: what would be written sends only where the plan, as it stands now, lets it.

It trusts nothing that was worked out before. The fit holds back what must not transmit; this looks at the finished memory with
the plan, the licence and the day of this very moment.
"""

from collections.abc import Iterable, Iterator

from umbra_awl.core.facts.emissions import Emission, emission
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Licence, OwnedRadio, Station
from umbra_awl.core.plan.permit import guard_permit, transmit_permit
from umbra_awl.core.radio.memory import AccessEntry, Channel, Memory
from umbra_awl.core.radio.profile import Profile

OWN_ROUTE = "own"
"""What stands in place of a route at a channel that the radio held before and that its owner keeps."""
_MOST_NAMED = 3


def sent_on(channel: Channel) -> Emission:
    """What a radio sends on a channel as it holds it."""
    mode = "fm" if channel.way in {"FM", "AMS"} else channel.mode
    return emission(mode, channel.tx_hz, channel.width_hz)


def must_not_send(index: PlanIndex, radio: OwnedRadio, profile: Profile, memory: Memory) -> list[tuple[str, str]]:
    """Channels that would transmit and must not: their name, and why. `memory` is fitted, so each channel names its route."""
    station = index.owners.station_of(radio)
    most = station.licence.max_watts
    found: list[tuple[str, str]] = [
        *_free_tuning(station.licence, profile, memory),
        *lines_that_must_not_send(station, memory.access_list),
    ]
    for channel in memory.channels:
        if channel.receive_only:
            continue
        permit = transmit_permit(station, sent_on(channel))
        if not permit.allowed:
            found.append((channel.name, permit.reason))
        elif most and profile.power_watts[channel.power] > most:
            found.append((channel.name, f"{profile.power_watts[channel.power]:g} W is over the licence's {most:g} W."))
        elif reason := _held_by_plan(index, channel):
            found.append((channel.name, reason))
    return found


def lines_that_must_not_send(station: Station, lines: Iterable[AccessEntry]) -> Iterator[tuple[str, str]]:
    """Lines of an access list that a radio would send on and must not: their name, and why."""
    for line in lines:
        permit = transmit_permit(station, emission("dstar", line.tx_hz))
        if not permit.allowed:
            yield line.name, permit.reason


def _free_tuning(licence: Licence, profile: Profile, memory: Memory) -> Iterator[tuple[str, str]]:
    """Free tuning is outside the memories: where a write can hold it, the guard does."""
    guard, free = guard_permit(licence), profile.free_tuning
    able = free is not None and free.by_cable and bool(free.halves)
    if not guard.allowed and able and memory.settings.free_tuning is not False:
        yield "free tuning", guard.reason


def _held_by_plan(index: PlanIndex, channel: Channel) -> str:
    if channel.route == OWN_ROUTE:
        return ""
    route = index.routes.get(channel.route)
    if route is None:
        return "Its route is no longer in the plan."
    if route.receive_only:
        return "The plan holds it to listening."
    access = index.services[route.service][0]
    return f"{access.by_call} is only listened to." if access.kind == "receive" else ""


def refusal(found: list[tuple[str, str]]) -> str:
    """Why nothing is written, as a sentence."""
    names = ", ".join(name for name, _why in found[:_MOST_NAMED])
    more = f" and {len(found) - _MOST_NAMED} more" if len(found) > _MOST_NAMED else ""
    return (
        f"Nothing was written: {names}{more} would transmit where the plan does not let them. {found[0][1]} "
        "Read the radio again, so that it is compared with the plan as it is now."
    )
