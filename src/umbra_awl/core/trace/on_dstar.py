"""The hops of D-STAR: the header the radio sends, the module it names, the gateway, and what UR asks for."""

from umbra_awl.core.facts.dstar import Ur, field_fault, module_fault, read_rpt, read_ur, shown
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.modes.dstar import computed_rpt, computed_ur
from umbra_awl.core.plan.model import DstarAir
from umbra_awl.core.plan.places import LINKS, TALKS, is_pair
from umbra_awl.core.trace.model import Hop
from umbra_awl.core.trace.path import Path, TraceStop, frequency_stop, listens

_FIELDS = ("rpt-blank", "rpt-differs", "field-padding", "access-call-missing", "access-call-long")
_NO_ANSWER = "The access point does not even answer with its own short reply."


def radio_hop(path: Path, _air: DstarAir) -> Hop:
    """The header: MY, UR, RPT1, RPT2."""
    channel, identity = path.channel, path.plan.owners.identity_of(path.radio)
    own = (identity.dstar_call or identity.call) if identity is not None else ""
    if not own.strip():
        return TraceStop(
            "MY is blank", "A header without a call sign is useless.", "Gateways pass nothing on.", ("my-blank",)
        ).hop("radio", "Radio")
    if fault := field_fault(own):
        return TraceStop("MY is no call sign", fault, "Gateways pass nothing on.", ("my-blank",)).hop("radio", "Radio")
    text = f"{format_mhz(channel.tx_hz)}, UR {shown(channel.ur)}"
    detail = f"RPT1 {shown(channel.rpt1)}, RPT2 {shown(channel.rpt2)}, MY {shown(own)}."
    if channel.zero_offset:
        detail += " Duplex with an offset of 0, so that this radio fills RPT1 and RPT2."
    return Hop("radio", "Radio", "pass", text, detail)


def access_hop(path: Path, air: DstarAir) -> Hop:
    """The module hears what RPT1 addresses to it."""
    heard_hz, _color = listens(path.plan, path.access, path.service)
    title = f"{path.where} {air.module}"
    stop = frequency_stop(path, heard_hz)
    if stop is None and path.access.kind in {"repeater", "hotspot"}:
        wanted = computed_rpt(path.access, air)[0]
        if fault := module_fault(air.module):
            stop = TraceStop("no module's letter", fault, _NO_ANSWER, ("module-letter",))
        elif not path.channel.rpt1.strip():
            stop = TraceStop("not addressed", f"RPT1 is blank; it should be {shown(wanted)}.", _NO_ANSWER, _FIELDS)
        elif path.channel.rpt1 != wanted:
            stop = TraceStop(
                "not for this module", f"RPT1 is {shown(path.channel.rpt1)}, not {shown(wanted)}.", _NO_ANSWER, _FIELDS
            )
    if stop:
        return stop.hop("access", title)
    return Hop(
        "access", title, "pass", f"{format_mhz(heard_hz)} in", f"{path.access.site} hears what is addressed to it."
    )


def gateway_hop(path: Path, air: DstarAir) -> Hop | None:
    """Where RPT2 leads; None where the call stays on the module."""
    needed = path.destination.kind != "local"
    if path.access.kind not in {"repeater", "hotspot"}:
        return None
    sent, wanted = path.channel.rpt2, computed_rpt(path.access, air)[1]
    if sent.strip() and sent != wanted and (fault := read_rpt(sent, "RPT2").fault):
        return TraceStop("RPT2 names nothing", fault, "Nobody answers.", _FIELDS).hop("gateway", "Gateway")
    if not (air.gateway or needed):
        return None
    if sent == wanted:
        return Hop("gateway", "Gateway", "pass", shown(wanted), "G in position 8 sends it through the gateway.")
    if not needed:
        detail = f"RPT2 is {shown(sent)}, not {shown(wanted)}: through a link nobody hears it."
        return Hop("gateway", "Gateway", "pass", "stays on the module", detail)
    detail = f"RPT2 is {shown(sent)}; through the gateway it is {shown(wanted)}."
    stop = TraceStop(
        "RPT2 does not lead to it", detail, "The module repeats you, and nobody beyond it answers.", _FIELDS
    )
    return stop.hop("gateway", "Gateway")


def asked_hop(path: Path, _air: DstarAir) -> Hop | None:
    """What UR asks of gateway or network."""
    ur = read_ur(path.channel.ur)
    title = path.network.name if path.network else "Network"
    stop = _wrong(path, ur)
    if stop:
        return stop.hop("network", title)
    if path.access.kind not in {"repeater", "hotspot"}:
        return None
    text, detail = _asks(path, ur)
    return Hop("network", title, "pass", text, detail)


def _wrong(path: Path, ur: Ur) -> TraceStop | None:
    if ur.kind in {"wrong", "blank"}:
        return TraceStop(
            f"UR {shown(path.channel.ur)} asks for nothing", ur.fault, "Nobody answers.", ("field-padding",)
        )
    talks = path.destination.kind in {"local", "station", "repeater"} or (
        is_pair(path.service, path.destination) and path.route.slot == TALKS
    )
    if talks and ur.is_command:
        does = {"link": f"links {ur.call} {ur.module} again", "unlink": "unlinks"}.get(ur.kind, f"asks for {ur.kind}")
        detail = f"UR is {shown(path.channel.ur)}, a command; to talk it goes back to CQCQCQ."
        notice = "Each time you let go, a voice confirms the command, and no one answers you."
        return TraceStop(f"every key-up {does}", detail, notice, ("command-left-on",))
    wanted = computed_ur(path.destination, path.route.slot)
    if ur != read_ur(wanted) and path.access.kind in {"repeater", "hotspot"}:
        detail = f"UR is {shown(path.channel.ur)}; to reach {path.destination.name} it is {shown(wanted)}."
        return TraceStop("asks for something else", detail, "Others answer, or nobody.", ("ur-differs",))
    return None


_ANSWERS = {
    "unlink": ("unlinks the module", "The gateway confirms that nothing is linked any more."),
    "echo": ("echo", "The gateway plays back what you said."),
    "info": ("information", "The gateway tells what is linked."),
}


def _asks(path: Path, ur: Ur) -> tuple[str, str]:
    if ur.kind == "link":
        return f"links to {ur.call} {ur.module}", "Wait for the confirmation, then change to the talk memory."
    if ur.kind == "station":
        return f"finds {ur.call}", "Call-sign routing goes to the access point that heard that station last."
    if ur.kind == "repeater":
        return (
            f"routes to {ur.call} {ur.module}",
            "Repeater routing: the call comes out of that module; answers need a route back.",
        )
    if ur.kind in _ANSWERS:
        return _ANSWERS[ur.kind]
    if is_pair(path.service, path.destination):
        return f"through the link to {path.destination.text or path.destination.name}", _link_first(path)
    leads = path.channel.rpt2 == computed_rpt(path.access, _air_of(path))[1]
    return "CQ", "Heard on the module, and through whatever is linked." if leads else "Heard on the module only."


def _air_of(path: Path) -> DstarAir:
    return path.service.air  # type: ignore[return-value]


def _link_first(path: Path) -> str:
    links = f"{path.service.key}>{path.destination.key}@{LINKS}"
    channel = path.fit.channel_of(links)
    if channel is None:
        return f"Link first: {path.radio.name} has no memory that links it."
    return f"Link first with {channel.name}, and wait for the confirmation."


HOPS = (radio_hop, access_hop, gateway_hop, asked_hop)
