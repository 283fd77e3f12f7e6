"""Which people go onto a radio: chosen from the store by the operator's rules, to the radio's room, in the profile's order.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import csv
import io
import sqlite3
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.directory.people_search import Person
from umbra_awl.core.directory.store import Store
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.earth import Position, distance_km
from umbra_awl.core.keep.cells import guarded
from umbra_awl.core.keep.limits import LOG_BYTES, read_within
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio, PeopleChoice
from umbra_awl.core.radio.display import fold
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import Firmware

COLUMN_WORDS = {"id": "DMR ID", "call": "Call sign", "name": "Name", "place": "Place", "country": "Country"}
_OVERHEAD = 1.15
_FIELDS = "id, call, name, place, country"
_REGIONAL_DIGITS = range(5, 8)


class ChosenPeople(NamedTuple):
    """The people for one radio.

    `rows` are they, in the order they go over; `wanted` how many the rules ask for; `room` how many the radio holds; `unplaced`
    how many the distance passed over because their place is not known.
    """

    rows: list[Person]
    wanted: int
    room: int
    picked: int
    unplaced: int = 0

    @property
    def left(self) -> int:
        """How many found no room."""
        return max(0, self.wanted - len(self.rows))


class Capacity(NamedTuple):
    """How many people a firmware holds, and whether the wanted ones fit."""

    firmware: Firmware
    fits: bool


Cancelled = Callable[[], bool]
_Row = tuple[int, str, str, str, str]


def rooms(profile: Profile, wanted: int) -> list[Capacity]:
    """Every firmware variant of a radio with whether so many people fit it."""
    return [Capacity(item, wanted <= item.people) for item in profile.firmware]


def firmware_fault(profile: Profile, radio: OwnedRadio, wanted: int) -> str:
    """Why the firmware that a radio runs is too small for so many people, and what would do; empty when it is not."""
    now = profile.variant(radio.firmware)
    if now is None:
        return f"{profile.name} keeps no people list; call signs of others are shown as IDs." if wanted else ""
    if wanted <= now.people:
        return ""
    larger = [item for item in profile.firmware if item.people >= wanted]
    lost = f", without its {now.extra}" if now.extra else ""
    help_ = (
        f"The firmware “{larger[0].name}” takes them{lost}"
        if larger
        else "Choose fewer countries or a shorter distance"
    )
    return (
        f"The firmware “{now.name}” holds {counted(now.people, 'person', 'people')} and {wanted:,} are chosen. {help_}."
    )


def choose_people(
    store: Store, index: PlanIndex, radio: OwnedRadio, profile: Profile, cancelled: Cancelled = lambda: False
) -> ChosenPeople:
    """The people a radio gets. Nothing is chosen while the radio has no rule; sqlite3.Error is the caller's."""
    choice = radio.people or PeopleChoice()
    firmware = profile.variant(radio.firmware)
    room = firmware.people if firmware is not None else 0
    picked = _picked(store, choice.picked)
    known = {person.id for person in picked}
    near = _Near(store, index) if choice.within_km or choice.sort == "near" else None
    by_rule: list[Person] = []
    unplaced = 0
    for at, row in enumerate(_by_words(store, index, radio, choice)):
        if at % 4_096 == 0 and cancelled():
            break
        if row[0] in known:
            continue
        if choice.within_km and near is not None:
            distance = near.km(row[3], row[4])
            if distance is None:
                unplaced += 1
                continue
            if distance > choice.within_km:
                continue
        by_rule.append(Person._make(row))
    ranked = _ranked(by_rule, choice, near)
    kept = [*picked, *ranked][:room]
    return ChosenPeople(_in_order(kept, profile), len(picked) + len(by_rule), room, len(picked), unplaced)


def _picked(store: Store, ids: Iterable[int]) -> list[Person]:
    found: list[Person] = []
    query = f"SELECT {_FIELDS} FROM people WHERE id = ?"  # noqa: S608
    for number in ids:
        found += map(Person._make, store.db.execute(query, (number,)))
    return found


def _by_words(
    store: Store, index: PlanIndex, radio: OwnedRadio, choice: PeopleChoice
) -> sqlite3.Cursor | list[tuple[object, ...]]:
    """The rows that any of the rules asks for; distance alone looks at everybody."""
    if choice.everybody or (choice.within_km and not _any_word(choice)):
        return store.db.execute(f"SELECT {_FIELDS} FROM people ORDER BY id")  # noqa: S608
    where: list[str] = []
    values: list[object] = []
    if choice.countries:
        where.append(f"country IN ({','.join('?' * len(choice.countries))})")
        values += choice.countries
    for region in choice.regions:
        where.append("place LIKE ? ESCAPE '\\'")
        values.append(f"%{region.replace('%', '').replace('_', '')}%")
    for low, high in country_spans(index, radio) if choice.by_talk_groups else ():
        where.append("id BETWEEN ? AND ?")
        values += [low, high]
    if choice.from_log:
        where.append(f"call IN ({','.join('?' * len(choice.log_calls))})")
        values += choice.log_calls
    if not where:
        return []
    return store.db.execute(f"SELECT {_FIELDS} FROM people WHERE {' OR '.join(where)} ORDER BY id", values)  # noqa: S608


def _any_word(choice: PeopleChoice) -> bool:
    return bool(choice.countries or choice.regions or choice.by_talk_groups or choice.from_log)


def country_spans(index: PlanIndex, radio: OwnedRadio) -> list[tuple[int, int]]:
    """The spans of IDs of the countries whose talk groups a radio's routes call.

    A talk group of five to seven digits begins with its country's three, and so do the IDs of the people there (the registries'
    common use).
    """
    codes: set[int] = set()
    for route in index.plan.routes:
        _access, service, destination = index.parts(route)
        number = destination.number
        if service.mode == "dmr" and destination.kind == "group" and number is not None:
            digits = str(number)
            if len(digits) in _REGIONAL_DIGITS and route.key not in radio.leave:
                codes.add(int(digits[:3]))
    return [(code * 10_000, code * 10_000 + 9_999) for code in sorted(codes)]


class _Near:
    """Where places lie, as far as the directory's access points and the plan tell; distances in kilometres from the station."""

    def __init__(self, store: Store, index: PlanIndex) -> None:
        self._spots: dict[str, Position] = {}
        self._known: dict[tuple[str, str], float | None] = {}
        station = index.plan.station
        self._home = Position(station.lat, station.lon) if station.lat is not None and station.lon is not None else None
        query = "SELECT site, lat, lon, body FROM entry WHERE lat IS NOT NULL AND gone = ''"
        for site, lat, lon, body in store.db.execute(query):
            self._spots.setdefault(str(site).casefold(), Position(lat, lon))
            place = _place_in(body)
            if place:
                self._spots.setdefault(place, Position(lat, lon))
        for access in index.plan.access:
            if access.lat is not None and access.lon is not None:
                for word in (access.site, access.place):
                    self._spots.setdefault(word.casefold(), Position(access.lat, access.lon))

    def km(self, place: str, country: str) -> float | None:
        """Kilometres to a person's place; None where neither the place nor its region is on the map."""
        key = (place, country)
        if key not in self._known:
            self._known[key] = self._measure(place)
        return self._known[key]

    def _measure(self, place: str) -> float | None:
        if self._home is None:
            return None
        for word in (place, *place.split(",")):
            spot = self._spots.get(word.strip().casefold())
            if spot is not None:
                return distance_km(self._home, spot)
        return None


def _place_in(body: str) -> str:
    import msgspec

    try:
        return str(msgspec.json.decode(body).get("place", "")).casefold()
    except (msgspec.DecodeError, AttributeError):
        return ""


def _ranked(rows: list[Person], choice: PeopleChoice, near: _Near | None) -> list[Person]:
    if choice.sort == "near" and near is not None:
        far = float("inf")

        def distance(person: Person) -> float:
            km = near.km(person.place, person.country)
            return far if km is None else km

        return sorted(rows, key=distance)
    return sorted(rows, key=lambda person: person.call) if choice.sort == "call" else rows


def _in_order(rows: list[Person], profile: Profile) -> list[Person]:
    order = profile.people.order if profile.people is not None else "id"
    return sorted(rows, key=lambda person: getattr(person, order))


def people_csv(chosen: ChosenPeople, profile: Profile) -> bytes:
    """The list as a CSV file: the profile's columns in its order, names in its characters and length."""
    table = profile.people
    columns = table.columns if table is not None else ("id", "call", "name", "place", "country")
    length = table.name_length if table is not None else profile.display.length
    rules = profile.display.rules._replace(upper=False)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow([COLUMN_WORDS[column] for column in columns])
    for person in chosen.rows:
        cells = [getattr(person, column) for column in columns]
        writer.writerow([cell if isinstance(cell, int) else guarded(fold(cell, rules)[:length]) for cell in cells])
    return out.getvalue().encode()


def transfer_seconds(count: int, profile: Profile) -> float:
    """About how long so many people take over the radio's line: their bytes at ten bits each, and the blocks' overhead."""
    if profile.people is None or not profile.line.baud:
        return 0.0
    return count * profile.people.record * 10 / profile.line.baud * _OVERHEAD


def countries_in(store: Store) -> list[tuple[str, int]]:
    """The countries of the store with how many people each has, the fullest first."""
    query = "SELECT country, count(*) AS many FROM people GROUP BY country ORDER BY many DESC, country"
    return [(str(country), int(many)) for country, many in store.db.execute(query)]


def calls_in_log_file(path: Path) -> tuple[str, ...]:
    """The call signs of an ADIF log's file. Raises OSError."""
    return calls_in_log(read_within(path, LOG_BYTES).decode("utf-8", "replace"))


def calls_in_log(text: str) -> tuple[str, ...]:
    """The call signs of an ADIF log, each once, in their order; empty when there is none in the text."""
    import re

    found: list[str] = []
    for shape in re.finditer(r"<call:(\d{1,6})(?::\w)?>", text, re.IGNORECASE):
        call = text[shape.end() : shape.end() + int(shape[1])].strip().upper()
        if call:
            found.append(call)
    return tuple(dict.fromkeys(found))
