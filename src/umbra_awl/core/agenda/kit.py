"""What goes along on a trip, worked out from the plan: radios with what feeds and charges them, hotspot, phone, paper."""

from collections.abc import Iterator, Mapping
from datetime import date
from typing import NamedTuple

from umbra_awl.core.estimate.battery import BatteryError, hours_of_use
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio, Trip
from umbra_awl.core.radio.profile import Profile

TALK, HEAR = 0.05, 0.15
"""Shares of a day in transmit and receive, the rest waiting: 5 : 15 : 80, the usual way to state battery life."""
_LONG_DAY_H = 12.0


class KitItem(NamedTuple):
    """One thing to take: its key, which stays, the thing, and why."""

    key: str
    words: str
    why: str


def kit(index: PlanIndex, profiles: Mapping[str, Profile], trip: Trip) -> tuple[KitItem, ...]:
    """What goes along on a trip, in the order of packing."""
    radios = [radio for radio in index.plan.radios if radio.trips is None or trip.key in radio.trips]
    items: list[KitItem] = []
    for radio in radios:
        profile = profiles.get(radio.profile)
        if profile is not None:
            items += _of_radio(radio, profile, trip)
    items += _of_hotspots(index)
    items += _papers(index, radios, profiles)
    seen: dict[str, KitItem] = {}
    for item in items:
        seen.setdefault(item.key, item)
    return tuple(seen.values())


def _of_radio(radio: OwnedRadio, profile: Profile, trip: Trip) -> Iterator[KitItem]:
    yield KitItem(f"radio {radio.key}", radio.name, "with its antenna and its belt clip or holder")
    hours = hours_on_a_charge(profile)
    if profile.shape == "handheld":
        lasts = (
            f"a charge lasts about {hours:.0f} h, at 5 : 15 : 80" if hours else "how long a charge lasts is not known"
        )
        more = ", and a second battery" if hours and hours < _LONG_DAY_H else ""
        days = _days(trip)
        lasts += f"; {days} days" if days > 1 else ""
        yield KitItem(f"charger {radio.key}", f"Charger of the {radio.name}{more}", lasts)
    elif profile.shape == "mobile":
        yield KitItem(
            f"power {radio.key}", f"Power lead of the {radio.name}, fused", "and its antenna with mount and cable"
        )
    if profile.by_card:
        yield KitItem(
            "card reader", "Card reader, and a memory card kept for radios", f"the {radio.name} goes in by card"
        )
    elif profile.by_cable:
        yield KitItem(f"cable {profile.key}", f"Programming cable of the {radio.name}", "to mend a memory on the road")
    for thing in profile.beside:
        if not (profile.by_cable and "cable" in thing):  # it stands there already
            yield KitItem(f"beside {thing}", thing[:1].upper() + thing[1:], f"the {radio.name} needs it")
    if profile.apps:
        yield KitItem(
            "phone", "Phone with its apps, and its charger", f"{profile.apps[0].platform} app of the {radio.name}"
        )


def hours_on_a_charge(profile: Profile) -> float:
    """Hours that a charge lasts at full power and the usual shares, 0 where the profile does not say."""
    battery = profile.battery
    if battery is None:
        return 0.0
    try:
        use = hours_of_use(
            battery.capacity_mah, battery.transmit_ma[-1], battery.receive_ma, battery.idle_ma, TALK, HEAR
        )
    except BatteryError:
        return 0.0
    return use.hours


def _days(trip: Trip) -> int:
    try:
        return (date.fromisoformat(trip.ends) - date.fromisoformat(trip.begins)).days + 1
    except ValueError:
        return 0


def _of_hotspots(index: PlanIndex) -> Iterator[KitItem]:
    for hotspot in index.plan.hotspots:
        access = index.access.get(hotspot.access)
        name = access.site if access is not None else hotspot.key
        yield KitItem(
            f"hotspot {hotspot.key}",
            f"Hotspot {name}, with its antenna",
            "rehearsed at Hotspots, Wi-Fi",
        )
        yield KitItem("power bank", "Power bank, with a short, thick cable", "a thin cable starves a hotspot")
        yield KitItem("phone", "Phone with its apps, and its charger", "its sharing is how a hotspot gets out")


def _papers(index: PlanIndex, radios: list[OwnedRadio], profiles: Mapping[str, Profile]) -> Iterator[KitItem]:
    if radios:
        yield KitItem("field cards", "Field cards, printed", "at Transfer, Paper, one a radio")
    if any(profile is not None and profile.by_keys for profile in (profiles.get(radio.profile) for radio in radios)):
        yield KitItem("key sheet", "Key sheet of what is typed by hand", "at Transfer, Paper")
    if index.plan.hotspots:
        yield KitItem("road sheet", "Road sheet of the hotspot", "at Hotspots, Wi-Fi: which network, and the ladder")
    yield KitItem(
        "licence", "Licence, or a copy", "and what the country you go to wants of visitors: ask its authority"
    )
