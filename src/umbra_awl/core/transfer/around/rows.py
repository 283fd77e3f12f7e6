"""Which access points go into a radio's list around: the nearest that it can use, and how a line of the list looks.

A list is CSV: name, call sign, gateway (D-STAR), receive and transmit frequency in MHz, mode, tone, latitude, longitude.
"""

import csv
import io
from typing import NamedTuple

from umbra_awl.core.directory.nearest import NearestWanted, nearest
from umbra_awl.core.directory.store import Store
from umbra_awl.core.facts.dstar import rpt_field
from umbra_awl.core.facts.earth import Position
from umbra_awl.core.facts.emissions import emission
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.keep.cells import guarded
from umbra_awl.core.plan.model import AccessPoint, DstarAir, FmAir, Service, Station
from umbra_awl.core.plan.permit import transmit_permit
from umbra_awl.core.radio.display import fold
from umbra_awl.core.radio.profile import Profile

HEADINGS = ("Name", "Call sign", "Gateway", "Receive MHz", "Transmit MHz", "Mode", "Tone", "Latitude", "Longitude")
_ASKED, _ASKED_OF_SOME = 2, 12
"""How many times the room is asked of the directory: entries that the radio cannot hear, or of other countries, drop out."""


class Around(NamedTuple):
    """The list for one radio: its lines, how far the last one is in kilometres, how many there is room for.

    `left` found no room; on the input of the `held` ones this person may not send, so they stay out.
    """

    lines: tuple[tuple[str, ...], ...]
    far_km: float
    room: int
    left: int = 0
    held: int = 0


def around_list(
    store: Store,
    place: Position,
    profile: Profile,
    station: Station,
    *,
    fm: bool = True,
    since: str = "",
    sources: frozenset[str] = frozenset(),
) -> Around:
    """The nearest services that a radio can use, nearest first, to its room; `fm` with FM ones, `since` an ISO date.

    `sources` are the directories, one a country as a rule, that it is filled from; none means all.
    """
    room = profile.card.around.records if profile.card is not None and profile.card.around is not None else 0
    modes = frozenset(mode for mode in profile.modes if fm or mode != "fm")
    lines: list[tuple[str, ...]] = []
    asked = _ASKED if not sources else _ASKED_OF_SOME
    far, left, held = 0.0, 0, 0
    for near in nearest(store, place, asked * room, NearestWanted(modes=modes, since=since)) if room else ():
        if sources and near.entry.source not in sources:
            continue
        for service in near.entry.access.services:
            if service.mode not in modes or not profile.receives(service.rx_hz):
                continue
            if not transmit_permit(station, emission(service.mode, service.tx_hz)).allowed:
                held += 1
                continue
            if len(lines) >= room:
                left += 1
                continue
            lines.append(_line(near.entry.access, service, profile))
            far = near.km or 0.0
    return Around(tuple(lines), far, room, left, held)


def _line(access: AccessPoint, service: Service, profile: Profile) -> tuple[str, ...]:
    name = fold(access.by_site, profile.display.rules)[: profile.display.length].strip()
    air = service.air
    call, gateway, tone = access.call, "", ""
    if isinstance(air, DstarAir):
        call, gateway = rpt_field(access.call, air.module), rpt_field(access.call, "G")
    elif isinstance(air, FmAir):
        tone = air.tone_tx
    spot = [f"{item:.4f}" if item is not None else "" for item in (access.lat, access.lon)]
    return (name, call, gateway, format_mhz(service.rx_hz), format_mhz(service.tx_hz), service.mode, tone, *spot)


def around_csv(around: Around) -> bytes:
    """The list as the bytes of its file's body."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(HEADINGS)
    writer.writerows([guarded(cell) for cell in line] for line in around.lines)
    return out.getvalue().encode()


def sources_in(store: Store) -> list[tuple[str, int]]:
    """The directories that the store was filled from, with how many entries each has, the fullest first."""
    query = "SELECT source, count(*) AS many FROM entry WHERE gone = '' GROUP BY source ORDER BY many DESC, source"
    return [(str(source), int(many)) for source, many in store.db.execute(query)]
