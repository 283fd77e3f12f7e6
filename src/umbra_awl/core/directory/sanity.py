"""The sanity verdict of a directory's entry: what is doubtful, why, and the private edits that would mend it."""

from collections.abc import Iterable, Iterator, Sequence
from datetime import date
from typing import Literal, NamedTuple

from umbra_awl.core.directory.doubles import same_as
from umbra_awl.core.directory.store import Store, StoredEntry
from umbra_awl.core.facts.bands import Band, band_at
from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.facts.coast import Land
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.earth import Position, distance_km
from umbra_awl.core.facts.frequency import format_mhz, format_offset
from umbra_awl.core.facts.repeaters import USUAL_OFFSETS_HZ
from umbra_awl.core.facts.width import on_raster
from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.model import AccessPoint, Service

Grade = Literal["wrong", "doubtful", "note"]
NEAR_KM = 80.0
FAR_OFF_SHORE_KM = 40.0
HOME_WATERS_KM = 300.0
OLD_DAYS = 2 * 365
GRADES: dict[Grade, int] = {"wrong": 0, "doubtful": 1, "note": 2}


class Mend(NamedTuple):
    """A repair: its words, and the private edits it makes (field path to value)."""

    label: str
    edits: tuple[tuple[str, object], ...]


class Doubt(NamedTuple):
    """One reason of a verdict."""

    rule: str
    grade: Grade
    text: str
    mend: Mend | None = None


class KnownGround(NamedTuple):
    """What an entry is judged against: band edges, land, the day, the offsets usual around here by band, and home.

    Near home the sea is no reason for doubt, since the outline leaves out small islands; without a home it says nothing.
    """

    bands: tuple[Band, ...]
    land: Land | None
    today: date
    usual_hz: dict[str, int]
    home: Position | None = None


def doubts(entry: StoredEntry, ground: KnownGround, neighbours: Iterable[StoredEntry] = ()) -> list[Doubt]:
    """All reasons to doubt an entry, the gravest first; none when it is sane. `neighbours` share an output with it."""
    access = entry.access
    found = [*_of_call(access), *_of_age(entry, ground.today), *_of_position(access, ground)]
    for service in access.services:
        found += _of_pair(access, service, ground)
        found += _of_air(service)
    found += _of_neighbours(entry, neighbours)
    return sorted(found, key=lambda item: GRADES[item.grade])


def age_words(confirmed: str, today: date) -> str:
    """How long ago an entry was confirmed: “this month”, “7 months ago”, “4 years ago”, “never”."""
    try:
        days = (today - date.fromisoformat(confirmed)).days
    except ValueError:
        return "never"
    if days < 31:
        return "this month" if days >= -1 else "in the future"
    if days < 365:
        months = days // 30
        return f"{counted(months, 'month')} ago"
    years = days // 365
    return f"{counted(years, 'year')} ago"


def verdict_words(found: Sequence[Doubt]) -> str:
    """The verdict in one word: sane, or its gravest grade."""
    return found[0].grade if found else "sane"


def _of_call(access: AccessPoint) -> Iterator[Doubt]:
    if not access.call and access.kind == "simplex":
        return
    fault = call_sign_fault(access.call)
    if not fault:
        return
    tidy = tidy_call_sign(access.call).partition("/")[0]
    mend = Mend(f"Write {tidy}", (("call", tidy),)) if tidy and not call_sign_fault(tidy) else None
    yield Doubt("call-sign", "doubtful", fault, mend)


def _of_age(entry: StoredEntry, today: date) -> Iterator[Doubt]:
    if entry.gone:
        yield Doubt("vanished", "doubtful", f"It was no longer in the directory of {entry.gone}.")
    confirmed = entry.access.confirmed
    if not confirmed:
        yield Doubt("unconfirmed", "note", "Nobody has confirmed it. Listen before you rely on it.", _heard(today))
        return
    words = age_words(confirmed, today)
    if words == "never":
        yield Doubt("unconfirmed", "note", f"“{confirmed}” is no date, so its age is not known.", _heard(today))
    elif (today - date.fromisoformat(confirmed)).days > OLD_DAYS:
        yield Doubt("old", "doubtful", f"Last confirmed {words}, on {confirmed}. It may be gone.", _heard(today))


def _heard(today: date) -> Mend:
    return Mend("I heard it today", (("confirmed", today.isoformat()),))


def _of_position(access: AccessPoint, ground: KnownGround) -> Iterator[Doubt]:
    if access.lat is None or access.lon is None:
        if access.kind == "repeater":
            yield Doubt("no-position", "note", "It has no position, so neither distance nor reach can be told.")
        return
    if ground.land is None or ground.home is None or _near(ground.home, access.lat, access.lon):
        return
    if _dry(ground.land, access.lat, access.lon):
        return
    text = f"Its position lies in the sea, more than {FAR_OFF_SHORE_KM:.0f} km from any coast."
    for lat, lon, how in (
        (access.lat, -access.lon, "the other sign of the longitude"),
        (access.lon, access.lat, "the two swapped"),
    ):
        if abs(lat) <= 90 and _dry(ground.land, lat, lon):
            mend = Mend(f"Take {how}", (("lat", lat), ("lon", lon)))
            yield Doubt("in-the-sea", "wrong", f"{text} With {how} it would be on land.", mend)
            return
    yield Doubt("in-the-sea", "doubtful", text)


def _near(home: Position, lat: float, lon: float) -> bool:
    return distance_km(home, Position(lat, lon)) <= HOME_WATERS_KM


def _dry(land: Land, lat: float, lon: float) -> bool:
    return land.holds(lat, lon) or land.km_to_coast(lat, lon, FAR_OFF_SHORE_KM) <= FAR_OFF_SHORE_KM


def _of_pair(access: AccessPoint, service: Service, ground: KnownGround) -> Iterator[Doubt]:
    path, offset = service.key, service.tx_hz - service.rx_hz
    heard, sent = band_at(ground.bands, service.rx_hz), band_at(ground.bands, service.tx_hz)
    if heard is None:
        yield Doubt(
            "output-out",
            "note",
            f"It is heard on {format_mhz(service.rx_hz)} MHz, outside the amateur bands: listen only.",
        )
    if sent is None and heard is not None:
        yield _out_of_band(service, ground)
    elif offset and sent is not None and heard is not None:
        yield from _unusual(service, offset, heard, sent, ground)
    for field, hz in (("rx_hz", service.rx_hz), ("tx_hz", service.tx_hz)):
        if not on_raster(hz):
            near = round(hz / 12_500) * 12_500
            mend = Mend(f"Take {format_mhz(near)}", ((f"{path}/{field}", near),)) if abs(near - hz) <= 1_500 else None
            yield Doubt("raster", "note", f"{format_mhz(hz)} MHz lies between two channels of the raster.", mend)
    if not offset and access.kind == "repeater" and access.call and service.mode == "fm":
        yield Doubt("no-offset", "note", "A repeater on one frequency is rare; the offset may be missing.")


def _out_of_band(service: Service, ground: KnownGround) -> Doubt:
    other = 2 * service.rx_hz - service.tx_hz
    shift = format_offset(service.tx_hz - service.rx_hz)
    text = f"{format_mhz(service.rx_hz)} {shift} = {format_mhz(service.tx_hz)} MHz is out of band."
    if band_at(ground.bands, other) is None:
        return Doubt("out-of-band", "wrong", text)
    mend = Mend(f"Swap the sign: {format_mhz(other)}", ((f"{service.key}/tx_hz", other),))
    return Doubt("out-of-band", "wrong", f"{text} With the other sign it is {format_mhz(other)}, inside.", mend)


def _unusual(service: Service, offset: int, heard: Band, sent: Band, ground: KnownGround) -> Iterator[Doubt]:
    if heard is not sent:
        yield Doubt("cross-band", "note", f"It is heard on {heard.name} and sent to on {sent.name}.")
        return
    usual = USUAL_OFFSETS_HZ.get(heard.name, ())
    here = ground.usual_hz.get(heard.name)
    if here is not None and offset not in (here, *((-here,) if abs(offset) != abs(here) else ())):
        other = service.rx_hz + here
        mend = (
            Mend(f"Take {format_offset(here)}", ((f"{service.key}/tx_hz", other),))
            if band_at(ground.bands, other) is heard
            else None
        )
        text = f"Its offset is {format_offset(offset)} MHz; around here it is {format_offset(here)} on {heard.name}."
        yield Doubt("unusual-offset", "doubtful", text, mend)
    elif here is None and usual and abs(offset) not in usual:
        yield Doubt(
            "unusual-offset", "doubtful", f"An offset of {format_offset(offset)} MHz is unusual on {heard.name}."
        )


def _of_air(service: Service) -> Iterator[Doubt]:
    for fault in mode_of(service).faults(service.air):
        path = f"{service.key}/air/{fault.field}"
        mend = Mend(f"Take {fault.better}", ((path, fault.better),)) if fault.field else None
        yield Doubt(fault.rule, "wrong", fault.text, mend)


def _of_neighbours(entry: StoredEntry, neighbours: Iterable[StoredEntry]) -> Iterator[Doubt]:
    here = entry.access
    if here.lat is None or here.lon is None:
        return
    outputs = {service.rx_hz for service in here.services}
    for other in neighbours:
        there = other.access
        if other.key == entry.key or there.lat is None or there.lon is None:
            continue
        km = distance_km(Position(here.lat, here.lon), Position(there.lat, there.lon))
        shared = outputs.intersection(service.rx_hz for service in there.services)
        if km <= NEAR_KM and shared:
            text = f"{there.by_call}, {km:.0f} km away, is listed on the same output {format_mhz(min(shared))}."
            yield Doubt("same-output", "doubtful", text)


def sharing_output(store: Store, entry: StoredEntry) -> list[StoredEntry]:
    """Other entries on one of an entry's outputs, within reach of confusion; what another directory says of the same is none."""
    access = entry.access
    if access.lat is None or access.lon is None or not access.services:
        return []
    marks = ",".join("?" * len(access.services))
    rows = store.db.execute(
        f"SELECT DISTINCT output.entry FROM output JOIN entry ON entry.id = output.entry WHERE output.rx_hz IN ({marks}) "  # noqa: S608
        "AND output.entry != ? AND entry.gone = '' AND entry.lat BETWEEN ? AND ? LIMIT 40",
        (*(service.rx_hz for service in access.services), entry.id, access.lat - 1, access.lat + 1),
    )
    found = store.entries(row[0] for row in rows)
    return [other for other in found if other.source == entry.source or not same_as(access, other.access)]


def usual_offsets(entries: Iterable[StoredEntry], bands: tuple[Band, ...]) -> dict[str, int]:
    """For each band the offset that most entries around here have, when at least three agree and they are a clear majority."""
    tally: dict[str, dict[int, int]] = {}
    for entry in entries:
        for service in entry.access.services:
            band, offset = band_at(bands, service.rx_hz), service.tx_hz - service.rx_hz
            if band is not None and offset:
                counts = tally.setdefault(band.name, {})
                counts[offset] = counts.get(offset, 0) + 1
    usual: dict[str, int] = {}
    for name, counts in tally.items():
        offset, count = max(counts.items(), key=lambda item: item[1])
        if count >= 3 and count * 2 > sum(counts.values()):
            usual[name] = offset
    return usual
