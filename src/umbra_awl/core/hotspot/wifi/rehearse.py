"""A rehearsal of the next morning: what is done in order, what must be seen each time, and where it breaks.

The acts are done by a simulated home, phone and hotspot; passwords are only told to be the same or not.
"""

from collections.abc import Iterator
from hashlib import sha256
from typing import Any, NamedTuple

from umbra_awl.core.hotspot.wifi.letters import compare, verdict
from umbra_awl.core.plan.edit.edits import Edit, set_fields
from umbra_awl.core.plan.model import HomeWifi, Hotspot, Phone, Trip, WifiSchool
from umbra_awl.core.plan.parts import TRIPS

_5_GHZ = 5.0


class Setup(NamedTuple):
    """What is rehearsed. `same_password`: None where it could not be compared; the order and the hotel are chosen."""

    school: WifiSchool
    phone: Phone
    home: HomeWifi
    known: tuple[str, ...]
    same_password: bool | None = None
    board_5ghz: bool = False
    hotspot_first: bool = False
    home_on: bool = False
    portal: bool = False


class RehearsalAct(NamedTuple):
    """One act: what the stand-ins are told, in words, and what must be seen then (a field of their state and its value)."""

    tell: dict[str, Any]
    words: str
    field: str = ""
    value: Any = None
    sees: str = ""


class Played(NamedTuple):
    """An act with what was seen; `fault` says why it broke there, empty where it did not."""

    act: RehearsalAct
    seen: str
    fault: str


def print_of(setup: Setup) -> str:
    """A short print of the names and bands that were rehearsed, by which a later change of them is noticed."""
    told = (setup.school, setup.phone.sharing, setup.phone.band_ghz, setup.phone.sleeps, setup.home.name, setup.known)
    return sha256(repr(told).encode()).hexdigest()[:12]


def note_rehearsal(trip: Trip, setup: Setup, fault: str, day: str) -> Edit:
    """Note on a trip how its rehearsal went."""
    went = "broke" if fault else "worked"
    sentence = f"Note the rehearsal for {trip.name}: it {went}"
    return set_fields(TRIPS, trip.key, sentence, rehearsed=f"{went} {day} {print_of(setup)}")


def rehearsal_words(trip: Trip, setup: Setup) -> str:
    """How a trip's rehearsal went; that names have changed since counts as not rehearsed."""
    went, _blank, rest = trip.rehearsed.partition(" ")
    day, _blank, held = rest.partition(" ")
    if not went:
        return "not rehearsed yet"
    return f"{went}, {day}" if held == print_of(setup) else f"names have changed since {day}: rehearse it again"


def setup_of(phone: Phone | None, home: HomeWifi | None, hotspot: Hotspot, **chosen: Any) -> Setup:
    """What the plan comes to."""
    return Setup(hotspot.school, phone or Phone(), home or HomeWifi(), hotspot.wifi, **chosen)


def acts(setup: Setup) -> tuple[RehearsalAct, ...]:
    """The acts of leaving home and coming on the air elsewhere, in their order."""
    phone_on = RehearsalAct(
        {"do": "phone", "on": True}, "Phone: sharing on", "sharing", True, "The phone shares its connection"
    )
    spot_on = RehearsalAct({"do": "hotspot", "on": True}, "Hotspot: on", "hotspot_on", True, "The hotspot starts")
    wait = RehearsalAct(
        {"do": "wait", "seconds": 120}, "Wait two minutes", "joined", setup.phone.sharing, "The hotspot joins the phone"
    )
    first = RehearsalAct(
        {
            "do": "set", "phone": setup.phone.sharing, "phone_ghz": setup.phone.band_ghz, "sleeps": setup.phone.sleeps,
            "home": setup.home.name, "known": list(setup.known), "same_password": setup.same_password is not False,
            "board_5ghz": setup.board_5ghz, "portal": setup.portal,
        },
        "Pack: hotspot, phone, charger",
    )  # fmt: skip
    leave = RehearsalAct(
        {"do": "home", "on": setup.home_on},
        "Leave home" if not setup.home_on else "Stay at home",
        "home_on",
        setup.home_on,
    )
    order = (
        (spot_on, RehearsalAct({"do": "wait", "seconds": 90}, "A minute and a half later"), phone_on)
        if setup.hotspot_first
        else (phone_on, spot_on)
    )
    listed = RehearsalAct(
        {"do": "look"}, "Phone: whom does it list?", "listed", True, "The phone lists the hotspot as joined"
    )
    online = RehearsalAct(
        {"do": "look"}, "Hotspot: is it on the network?", "online", True, "Its page shows others' calls"
    )
    later = RehearsalAct({"do": "wait", "seconds": 600}, "Ten minutes later", "online", True, "It is still there")
    return (first, leave, *order, wait, listed, online, later)


def judge(setup: Setup, act: RehearsalAct, state: dict[str, Any]) -> Played:
    """What one act came to."""
    seen = seen_words(state)
    if not act.field or state.get(act.field) == act.value:
        return Played(act, seen, "")
    return Played(act, seen, why(setup, state) or f"It was to be: {act.sees}.")


def seen_words(state: dict[str, Any]) -> str:
    """What the hotspot's display and the phone's list show."""
    display = state.get("display") or "dark"
    phone = "shares" if state.get("sharing") else "does not share"
    listed = ", lists the hotspot" if state.get("listed") else ""
    return f"Display: {display}. Phone {phone}{listed}."


def why(setup: Setup, state: dict[str, Any]) -> str:
    """The reason, with what to do; the first that holds, in the order in which it has to be put right."""
    return next(_reasons(setup, state), "")


def _reasons(setup: Setup, state: dict[str, Any]) -> Iterator[str]:
    phone = setup.phone
    if not phone.sharing:
        yield "The phone's sharing has no name in the plan. Type it as the phone shows it."
    if setup.home_on and setup.school == "pose" and phone.sharing == setup.home.name:
        yield "Both copies of the name are on at once. At home leave the phone's sharing off."
    if setup.home_on and state.get("joined") == setup.home.name:
        yield "The hotspot joined the Wi-Fi at home. Switch that off to try the phone."
    if phone.sharing and phone.sharing not in setup.known:
        yield _name_words(setup)
    if setup.same_password is False:
        yield "The passwords differ. Compare them letter by letter, and type the right one again."
    if phone.band_ghz >= _5_GHZ and not setup.board_5ghz:
        yield "The phone shares on 5 GHz, and this board knows 2.4 GHz only. Switch its compatibility on."
    if setup.hotspot_first:
        yield "The hotspot was on before the phone shared. Sharing first, then the hotspot: switch it off and on."
    if setup.portal and state.get("joined"):
        yield "The Wi-Fi wants a login page, and a hotspot cannot get past it. Share the phone's mobile data."
    if phone.sleeps and not state.get("sharing"):
        yield "The phone fell asleep and its sharing with it. Keep its screen on, or let it charge."


def _name_words(setup: Setup) -> str:
    near = next((name for name in setup.known if name.casefold().strip() == setup.phone.sharing.casefold().strip()), "")
    wanted = near or (setup.known[-1] if setup.known else "")
    if not wanted:
        return "The hotspot knows no Wi-Fi yet. Teach it the phone's name at home."
    told = verdict(compare(setup.phone.sharing, wanted))
    return f"The hotspot looks for “{wanted}”, the phone shares “{setup.phone.sharing}”. {told}"
