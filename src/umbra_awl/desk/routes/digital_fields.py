"""What the inspector says of a D-STAR or System Fusion crossing: from where, to whom, and what the memory sends."""

from collections.abc import Callable
from functools import partial

from umbra_awl.core.facts.bands import band_at
from umbra_awl.core.facts.dstar import Fields, parse_fields, read_rpt, read_ur, shown
from umbra_awl.core.facts.fusion import HEARS_ALL, WAY_WORDS, dgid_fault, shown_dgid
from umbra_awl.core.modes.fusion import fusion_way, mapped_dgid
from umbra_awl.core.modes.table import KIND_WORDS
from umbra_awl.core.plan.model import AccessPoint, Destination, DstarAir, FusionAir, Route, Service
from umbra_awl.core.plan.places import is_pair, module_word, place_word
from umbra_awl.core.routes.fields import fields_of, routing_fields
from umbra_awl.core.routes.punch import set_route
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Choice, Commit, Field

_UR_MEANS = {
    "cq": "calls everybody",
    "station": "calls that station, wherever it was heard last",
    "repeater": "routes to that module",
    "link": "links",
    "unlink": "unlinks",
    "echo": "asks for an echo",
    "info": "asks what is linked",
    "blank": "asks for nothing",
    "wrong": "asks for nothing",
}


def dstar_fields(bench: Workbench, access: AccessPoint, service: Service, destination: Destination) -> list[Field]:
    """From and to, what UR asks for, and a place to paste fields into."""
    band = band_at(bench.index.bands, service.rx_hz)
    where = f"{access.by_call} {module_word(service)}" + (f", {band.name}" if band is not None else "")
    to = KIND_WORDS[destination.kind] if destination.kind != "local" else "whoever listens, and what is linked"
    target = destination.text or destination.name
    fields = [Field("From", where), Field("To", f"{target}: {to}" if destination.kind != "local" else to)]
    route = bench.route
    if is_pair(service, destination):
        place = place_word(service, destination, route.slot if route is not None else bench.selection.slot)
        fields.append(Field("Memory", f"{place or 'link'} of the pair", tip="Left hole: link. Right hole: talk"))
    if route is None:
        return fields
    ur = read_ur(fields_of(bench.index, route).ur)  # type: ignore[union-attr]
    means = _UR_MEANS[ur.kind] + (f" {ur.call} {ur.module}" if ur.kind == "link" else "")
    wrong = bool(ur.fault) or "ur" in boxes_of(bench, service, destination)[1]
    fields.append(Field("UR", means, tone="stop" if wrong else "", tip=ur.fault))
    fields.append(
        Field(
            "Paste",
            "fields as text",
            commit=_paste(bench, route),
            text="",
            tip="UR alone, or UR: RPT1: RPT2: as copied",
        )
    )
    return fields


def _paste(bench: Workbench, route: Route) -> Commit:
    def commit(text: str) -> str:
        found = parse_fields(text)
        wanted = {name: found[name] for name in ("ur", "rpt1", "rpt2") if name in found}
        if not wanted:
            return "There are no fields in that. Paste UR alone, or a line such as UR:CQCQCQ·· RPT1:Q0SIG··B RPT2:Q0SIG··G."
        usual = fields_of(bench.index, Route(route.service, route.destination, route.slot))
        own = {name: None if value == getattr(usual, name) else value for name, value in wanted.items()}
        said = f"Take pasted fields, UR {shown(wanted.get('ur', ''))}," if "ur" in wanted else "Take pasted fields"
        bench.do(set_route(bench.index, route.key, said, **own))
        return ""

    return commit


def boxes_of(bench: Workbench, service: Service, destination: Destination) -> tuple[Fields | None, frozenset[str]]:
    """The fields to draw for the selected crossing, punched or not, and the names of those that are wrong."""
    if not isinstance(service.air, DstarAir):
        return None, frozenset()
    access = bench.index.services[service.key][0]
    radio = bench.carrier
    owners = bench.plan.station.identities
    identity = bench.index.owners.identity_of(radio) if radio is not None else owners[0] if owners else None
    route = bench.route or Route(service.key, destination.key, bench.selection.slot)
    fields = routing_fields(access, service.air, destination, route, identity)
    ur = read_ur(fields.ur)
    talks = destination.kind in {"local", "station", "repeater"} or route.slot == 2
    faults = {"ur"} if ur.fault or (ur.is_command and talks) else set()
    if access.kind in {"repeater", "hotspot"}:
        usual = routing_fields(
            access, service.air, destination, Route(service.key, destination.key, route.slot), identity
        )
        faults |= {name for name in ("rpt1", "rpt2") if getattr(fields, name) != getattr(usual, name)}
        faults |= {name for name in ("rpt1", "rpt2") if read_rpt(getattr(fields, name)).fault}
    if not fields.my.strip():
        faults.add("my")
    return fields, frozenset(faults)


def fusion_fields(bench: Workbench, access: AccessPoint, service: Service, destination: Destination) -> list[Field]:
    """The way to send, the DG-IDs, the room."""
    air: FusionAir = service.air  # type: ignore[assignment]
    mapped = mapped_dgid(air, destination)
    where = access.by_call
    if mapped is not None:
        carried = f"DG-ID {shown_dgid(mapped)} leads there"
    elif destination.kind == "room":
        carried = f"connect to {destination.number or 'its number'} first"
    else:
        carried = "stays local, or in the connected room"
    fields = [Field("Room", carried)]
    route = bench.route
    if route is None:
        return fields
    usual_way = fusion_way(air)
    options = [(f"as {where} takes it ({usual_way})", None), *((words, way) for way, words in WAY_WORDS.items())]
    ways = [
        Choice(
            words,
            partial(bench.do, set_route(bench.index, route.key, f"Send {words}", way=way)),
            way == route.way,
        )
        for words, way in options
    ]
    usual_tx = air.dgid_tx if mapped is None else mapped
    sent = usual_tx if route.dgid_tx is None else route.dgid_tx
    heard = air.dgid_rx if route.dgid_rx is None else route.dgid_rx
    fields.append(Field("Sends", route.way or usual_way, choices=ways))
    fields.append(_dgid_field(bench, route, "DG-ID", "dgid_tx", sent, usual_tx))
    fields.append(_dgid_field(bench, route, "Hears", "dgid_rx", heard, air.dgid_rx))
    return fields


def _dgid_field(bench: Workbench, route: Route, label: str, field: str, value: int, usual: int) -> Field:
    tip = f"0 to 99; {shown_dgid(usual)} here" + ("; 00 hears them all" if usual == HEARS_ALL else "")
    return Field(
        label, shown_dgid(value), True, commit=_dgid(bench, route, field, usual), text=str(value), tip=tip, half=True
    )


def _dgid(bench: Workbench, route: Route, field: str, usual: int) -> Callable[[str], str]:
    def commit(text: str) -> str:
        if not text.isascii() or not text.isdigit() or dgid_fault(int(text)):
            return f"“{text}” is not a DG-ID: 00 to 99 exist."
        number = int(text)
        own = None if number == usual else number
        bench.do(set_route(bench.index, route.key, f"Set its DG-ID to {shown_dgid(number)}", **{field: own}))
        return ""

    return commit
