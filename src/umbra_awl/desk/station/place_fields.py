"""Where the station is: position in any notation, antenna height, and how exactly it may be told."""

from collections.abc import Callable
from functools import partial

from umbra_awl.core.facts.earth import PositionError, format_position, locator_of, parse_position
from umbra_awl.core.plan.edit.edit_station import set_station
from umbra_awl.core.plan.model import Privacy
from umbra_awl.core.plan.sharing import private_position
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Choice, Field

PRIVACY_WORDS: dict[Privacy, str] = {
    "exact": "exact",
    "locator": "rounded to the locator's square of six",
    "none": "none at all",
}
HIGHEST_M = 5_000.0


def place_fields(bench: Workbench) -> list[Field]:
    """Position, locator, place, height, privacy and what that means."""
    station = bench.plan.station
    known = station.lat is not None and station.lon is not None
    text = format_position(station.lat or 0, station.lon or 0) if known else ""
    locator = locator_of(station.lat or 0, station.lon or 0) if known else ""
    privacy = [
        Choice(words, partial(bench.do, set_station(f"Tell the position {words}", privacy=key)), key == station.privacy)
        for key, words in PRIVACY_WORDS.items()
    ]
    return [
        Field(
            "Position",
            text or "not given",
            True,
            commit=_position(bench),
            text=text,
            tip="A locator, degrees, or degrees and minutes",
        ),
        Field(
            "Locator",
            locator or "not given",
            True,
            commit=_position(bench),
            text=locator,
            tip="HN46, HN46kl or HN46kl62",
        ),
        Field(
            "Place",
            station.place or "not given",
            commit=_place(bench),
            text=station.place,
            tip="Its name, as shown on the map",
        ),
        Field(
            "Antenna",
            f"{station.height_m:g} m high" if station.height_m else "in the hand, 1.5 m",
            commit=_height(bench),
            text=f"{station.height_m:g}",
            tip="Metres above what surrounds it; 0 for a handheld",
        ),
        Field(
            "Told to others",
            PRIVACY_WORDS[station.privacy],
            choices=privacy,
            tip="For anything that is sent on the air or exported",
        ),
        Field("That is", told_words(bench)),
    ]


def told_words(bench: Workbench) -> str:
    """The position as others get it."""
    station = bench.plan.station
    if station.lat is None or station.lon is None:
        return "nothing, there is no position yet"
    told = private_position(station.lat, station.lon, station.privacy)
    return "nothing" if told is None else f"{format_position(*told)}, {locator_of(*told)}"


def _position(bench: Workbench) -> Callable[[str], str]:
    def commit(text: str) -> str:
        if not text:
            bench.do(set_station("Forget the position", lat=None, lon=None))
            return ""
        try:
            lat, lon = parse_position(text)
        except PositionError as error:
            return str(error)
        bench.do(set_station(f"Put the station at {locator_of(lat, lon)}", lat=round(lat, 6), lon=round(lon, 6)))
        return ""

    return commit


def _place(bench: Workbench) -> Callable[[str], str]:
    def commit(text: str) -> str:
        bench.do(set_station(f"Call the place {text or 'nothing'}", place=text))
        return ""

    return commit


def _height(bench: Workbench) -> Callable[[str], str]:
    def commit(text: str) -> str:
        try:
            height = float(text.lower().removesuffix("m").strip().replace(",", ".") or 0)
        except ValueError:
            return f"“{text}” is not a height. Type metres, for example 6."
        if not 0 <= height <= HIGHEST_M:
            return f"A height lies between 0 and {HIGHEST_M:,.0f} m."
        bench.do(set_station(f"Put the antenna at {height:g} m", height_m=height))
        return ""

    return commit
