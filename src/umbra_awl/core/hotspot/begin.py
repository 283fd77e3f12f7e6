"""A hotspot of one's own comes into the plan: its access point, its settings, and the echo through it, as one step."""

from collections.abc import Callable, Mapping
from datetime import date
from typing import NamedTuple

from umbra_awl.core.facts.bands import Band
from umbra_awl.core.facts.modes import DIGITAL_MODES, ByMode
from umbra_awl.core.findings.on_hotspot import stands_well
from umbra_awl.core.hotspot.compatible import Board, shipped_parts
from umbra_awl.core.hotspot.place.ruler import RulerPlace
from umbra_awl.core.plan.edit.edit_access import add_access
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, add_item, fresh_key, together
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    AccessPoint,
    Air,
    Destination,
    DmrAir,
    DstarAir,
    FmAir,
    FusionAir,
    Hotspot,
    Mode,
    Plan,
    Service,
    Zone,
)
from umbra_awl.core.plan.parts import DESTINATIONS, HOTSPOTS, ZONES
from umbra_awl.core.routes.crossing import crossing
from umbra_awl.core.routes.punch import punch

USUAL_BAND = "70 cm"
DUPLEX_SHIFT_HZ = -1_600_000
"""Where a duplex hotspot hears beneath where it sends, to begin the search with; the ruler tries other spacings too."""
_LETTERS = {"70 cm": "BDEFHIJKLMN", "2 m": "CDEFHIJKLMN", "23 cm": "ADEFHIJKLMN"}
_ANY_LETTER = "DEFHIJKLMN"


class NewHotspot(NamedTuple):
    """What is asked for: its name, the network of each mode that it serves (empty where not known yet), the board, the pair."""

    site: str
    networks: Mapping[Mode, str]
    board: str = ""
    duplex: bool = False


def band_to_begin(index: PlanIndex) -> Band | None:
    """The band in which a place is sought first: 70 cm where the station has it, else the first one."""
    return next((band for band in index.bands if band.name == USUAL_BAND), next(iter(index.bands), None))


def modes_offered(board: Board | None) -> tuple[Mode, ...]:
    """The digital modes that a board serves; all of them where it is not known."""
    return board.modes if board is not None else DIGITAL_MODES


def fault_of(index: PlanIndex, wanted: NewHotspot) -> str:
    """Why it cannot be added as it is asked for, as a sentence; empty where it can."""
    if not wanted.site.strip():
        return "Give it a name: where it stands, or what it is for."
    if not wanted.networks:
        return "Choose at least one mode that it serves."
    if not any(item.call for item in index.plan.station.identities[:1]):
        return "A hotspot sends under your call sign. Type that at Station, Me, first."
    return ""


def drafted(index: PlanIndex, wanted: NewHotspot, hz: int, tx_hz: int) -> AccessPoint:
    """Its access point with a service for each mode: `hz` is where radios hear it, `tx_hz` where they send; hertz."""
    station = index.plan.station
    call = next((item.call for item in station.identities[:1]), "")
    key = fresh_key(wanted.site, index.access)
    taken, services = set(index.services), list[Service]()
    for mode, network in wanted.networks.items():
        name = fresh_key(f"{key}-{mode}", taken)
        taken.add(name)
        services.append(Service(name, hz, tx_hz, _air(index, mode, network, call, hz, duplex=hz != tx_hz)))
    return AccessPoint(
        key, call, wanted.site, "hotspot", station.place, tuple(services), lat=station.lat, lon=station.lon
    )


def _air(index: PlanIndex, mode: Mode, network: str, call: str, hz: int, *, duplex: bool) -> Air:
    made: ByMode[Callable[[], Air]] = {
        "fm": FmAir,
        "dmr": lambda: DmrAir(1, network, (1, 2) if duplex else (2,), admit="always"),
        "dstar": lambda: DstarAir(_free_letter(index, call, hz), network=network),
        "fusion": lambda: FusionAir(network=network),
    }
    return made[mode]()


def _free_letter(index: PlanIndex, call: str, hz: int) -> str:
    """A module letter that no other access point of this call has: a call and a letter name one module only."""
    used = {
        service.air.module
        for access, service in index.all_services()
        if access.call == call and isinstance(service.air, DstarAir)
    }
    band = next((item.name for item in index.bands if item.holds(hz)), "")
    return next((letter for letter in _LETTERS.get(band, _ANY_LETTER) if letter not in used), _ANY_LETTER[0])


def begin_hotspot(index: PlanIndex, wanted: NewHotspot, place: RulerPlace) -> Edit:
    """The edit that adds it at a place of the ruler, with a route to the echo for each mode that has one.

    Where the plan has zones of its own, it gets one, so that radios carry it.
    Raises EditRefused where something is missing or it may not stand there.
    """
    fault = fault_of(index, wanted)
    if fault:
        raise EditRefused(fault)
    access = drafted(index, wanted, place.hz, place.tx_hz)
    if not stands_well(index, access, access.services[0], place.hz, place.tx_hz):
        raise EditRefused("That place is outside licence or band, or in a satellite segment. Choose another one.")
    sentence, today = f"Add the hotspot {wanted.site}", index.today
    set_up = Hotspot(
        fresh_key(wanted.site, (item.key for item in index.plan.hotspots)),
        access.key,
        place.hz,
        place.tx_hz,
        duplex=place.hz != place.tx_hz,
        board=wanted.board,
        modem=next((item.modem for item in shipped_parts().board if item.key == wanted.board), ""),
    )
    steps = [add_access(access), add_item(HOTSPOTS, set_up, sentence)]
    if index.plan.zones:  # a plan without zones of its own has one for every access point
        zone = Zone(fresh_key(wanted.site, (item.key for item in index.plan.zones)), wanted.site, "access", access.key)
        steps.append(add_item(ZONES, zone, sentence))
    step = together(sentence, steps)
    return Edit(sentence, lambda plan: _with_echo(step.apply(plan), access, today))


def _with_echo(plan: Plan, access: AccessPoint, today: date) -> Plan:
    """The plan with a route to the echo through each service that has one; its destination is made where a network tells one."""
    for service in access.services:
        index = PlanIndex(plan, today)
        network = index.networks.get(getattr(service.air, "network", ""))
        echoes = [item for item in plan.destinations if item.kind == "echo"]
        reached = next((item for item in echoes if crossing(index, access, service, item).possible), None)
        if reached is None and network is not None and network.echo is not None:
            reached = Destination(fresh_key("echo", index.destinations), f"Echo {network.name}", "echo", network.key)
            plan = add_item(DESTINATIONS, reached, "").apply(plan)
            index = PlanIndex(plan, today)
        if reached is not None and crossing(index, access, service, reached).possible:
            plan = punch(index, service.key, reached.key).apply(plan)
    return plan
