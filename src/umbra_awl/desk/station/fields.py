"""What the Station stage's cards say and change."""

from collections.abc import Callable
from functools import partial

from umbra_awl.core.facts.bands import Band, Region
from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.facts.dmr import mask_id, radio_id_fault
from umbra_awl.core.facts.frequency import FrequencyError, format_mhz, parse_hz
from umbra_awl.core.plan.edit_station import (
    set_band_edges,
    set_call,
    set_granted,
    set_guard,
    set_identity,
    set_ids,
    set_licence,
    set_region,
    usual_bands,
)
from umbra_awl.core.plan.edits import EditRefused, set_fields
from umbra_awl.core.plan.model import Call, Identity, Network, RadioId
from umbra_awl.desk.parts.label_card import Choice, Field
from umbra_awl.desk.station.conventions import parse_call, parse_number, parse_span
from umbra_awl.desk.workbench import Workbench


def identity_fields(bench: Workbench, identity: Identity) -> list[Field]:
    """Call sign, name and IDs, these masked unless they are to be shown."""
    fields = [
        Field("Call sign", identity.call, True, commit=_call(bench, identity), text=identity.call),
        Field("Name", identity.name, commit=_name(bench, identity), text=identity.name),
    ]
    for at, item in enumerate(identity.ids):
        shown = str(item.number) if bench.ids_shown else mask_id(item.number)
        tone = "stop" if radio_id_fault(item.number) else ""
        text = str(item.number) if bench.ids_shown else ""
        label = "DMR ID" if at == 0 else f"DMR ID {at + 1}"
        fields.append(Field(label, shown, True, tone, _id(bench, identity, at), text=text, tip=item.label or _ID_TIP))
    if not identity.ids:
        fields.append(Field("DMR ID", "none yet", True, commit=_id(bench, identity, 0), text="", tip=_ID_TIP))
    return fields


_ID_TIP = "Seven digits, given by a registry; the country's three come first. An empty value takes it away."


def _call(bench: Workbench, identity: Identity) -> Callable[[str], str]:
    def commit(text: str) -> str:
        call = tidy_call_sign(text)
        fault = call_sign_fault(call) if call else ""
        if not fault:
            bench.do(set_call(identity.key, call))
        return fault

    return commit


def _name(bench: Workbench, identity: Identity) -> Callable[[str], str]:
    def commit(text: str) -> str:
        bench.do(set_identity(identity.key, f"Set the name to {text or 'none'}", name=text))
        return ""

    return commit


def _id(bench: Workbench, identity: Identity, at: int) -> Callable[[str], str]:
    def commit(text: str) -> str:
        ids = list(identity.ids)
        if not text:
            bench.do(set_ids(identity.key, tuple(ids[:at] + ids[at + 1 :])))
            return ""
        if not text.isascii() or not text.isdigit() or len(text) > 9:
            return "An ID has digits only, seven of them."
        fault = radio_id_fault(int(text))
        if fault:
            return fault
        label = ids[at].label if at < len(ids) else ""
        ids[at : at + 1] = [RadioId(int(text), label)]
        bench.do(set_ids(identity.key, tuple(ids)))
        return ""

    return commit


def licence_fields(bench: Workbench) -> list[Field]:
    """Region, licence, its bands and power, and the guard."""
    station = bench.plan.station
    licence = station.licence
    regions: tuple[Region, ...] = (1, 2, 3)
    bands = {band.name: band for band in bench.index.bands}
    options = {
        "2 m and 70 cm": ("2 m", "70 cm"),
        "2 m only": ("2 m",),
        "70 cm only": ("70 cm",),
        "all amateur bands": (),
    }
    allowed = next((text for text, names in options.items() if names == licence.bands), " and ".join(licence.bands))
    edges = ", ".join(f"{band.name} {format_mhz(band.low_hz)}–{format_mhz(band.high_hz)}" for band in bands.values())
    granted = [
        Choice("yes, I hold it", partial(bench.do, set_granted(True)), licence.granted),
        Choice("not yet", partial(bench.do, set_granted(False)), not licence.granted),
    ]
    reach = [
        Choice(text, partial(bench.do, set_licence(f"Let the licence reach {text}", bands=names)), text == allowed)
        for text, names in options.items()
    ]
    in_region = [
        Choice(f"IARU region {item}", partial(bench.do, set_region(item)), item == station.region) for item in regions
    ]
    watts = f"up to {licence.max_watts:g} W" if licence.max_watts else "no limit given"
    power_tip = "Watts; radios are set to a step within it"
    return [
        Field("Region", f"IARU region {station.region}", choices=in_region, tip=edges),
        Field(
            "Step",
            licence.step,
            commit=_step(bench),
            text=licence.step,
            tip="The name of your licence, such as First or Full",
        ),
        Field(
            "Granted", "yes" if licence.granted else "not yet", tone="" if licence.granted else "stop", choices=granted
        ),
        Field("Bands", allowed, choices=reach),
        *(_edge_field(bench, band) for band in bands.values()),
        Field("Power", watts, commit=_watts(bench), text=f"{licence.max_watts:g}", tip=power_tip),
        _guard_field(bench),
    ]


def _edge_field(bench: Workbench, band: Band) -> Field:
    """The edges of a band, the region's or the operator's own."""

    def commit(text: str) -> str:
        if not text or text.casefold() == "usual":
            bench.do(usual_bands())
            return ""
        low, dash, high = text.replace("–", "-").replace(" to ", "-").partition("-")
        if not dash:
            return "Type both edges, for example 430 - 440; or “usual” for the region's own."
        try:
            bench.do(set_band_edges(Band(band.name, parse_hz(low), parse_hz(high), "set by the operator")))
        except (FrequencyError, EditRefused) as error:
            return str(error)
        return ""

    shown = f"{format_mhz(band.low_hz)} – {format_mhz(band.high_hz)}"
    return Field(
        band.name, shown, True, commit=commit, tip=f"{band.source}. National limits differ: type yours, or “usual”"
    )


def _guard_field(bench: Workbench) -> Field:
    licence = bench.plan.station.licence
    on = licence.guard or not licence.granted
    return Field(
        "Guard",
        "on: receive-only" if on else "lifted",
        tone="" if on else "ok",
        choices=[
            Choice("on: everything is receive-only", partial(bench.do, set_guard(True)), on),
            Choice("lift it: transmit where the licence allows", partial(bench.do, set_guard(False)), not on),
        ],
        tip="Lifting lets radios transmit inside your bands and power, nowhere else",
    )


def _step(bench: Workbench) -> Callable[[str], str]:
    def commit(text: str) -> str:
        bench.do(set_licence(f"Set the licence to {text or 'none'}", step=text))
        return ""

    return commit


def _watts(bench: Workbench) -> Callable[[str], str]:
    def commit(text: str) -> str:
        try:
            watts = float(text.upper().removesuffix("W").strip().replace(",", ".") or 0)
        except ValueError:
            return f"“{text}” is not a power. Type watts, for example 10."
        if not 0 <= watts <= 10_000:
            return "A power lies between 0 and 10,000 W; 0 means that no limit is given."
        bench.do(set_licence(f"Limit the power to {watts:g} W" if watts else "Give no power limit", max_watts=watts))
        return ""

    return commit


def network_fields(bench: Workbench, network: Network) -> list[Field]:
    """A network's conventions."""
    dialled = f"{network.dial_low} to {network.dial_high}" if network.dial_low is not None else "none"
    return [
        Field("Master", network.master, True, commit=_master(bench, network), text=network.master),
        Field(
            "Echo test",
            _call_words(network.echo),
            True,
            commit=_convention(bench, network, "echo", parse_call),
            tip=_CALL_TIP,
        ),
        Field(
            "Disconnect",
            _call_words(network.disconnect),
            True,
            commit=_convention(bench, network, "disconnect", parse_call),
        ),
        Field(
            "Local",
            str(network.local_group or "none"),
            True,
            commit=_convention(bench, network, "local_group", parse_number),
        ),
        Field(
            "Dialled",
            dialled,
            True,
            commit=_dialled(bench, network),
            tip="The range dialled through the local talk group",
        ),
        Field(
            "Quiet time",
            f"{network.quiet_minutes} minutes",
            commit=_convention(bench, network, "quiet_minutes", lambda text: parse_number(text) or 0),
            text=str(network.quiet_minutes),
            tip="After so long without a call an on-demand talk group leaves",
        ),
    ]


_CALL_TIP = "A number and how it is called, for example 999097 private"


def _convention(bench: Workbench, network: Network, field: str, read: Callable[[str], object]) -> Callable[[str], str]:
    def commit(text: str) -> str:
        plain = "" if text.casefold() == "none" else text.removesuffix(" call")
        try:
            value = read(plain)
        except ValueError as error:
            return str(error)
        word = field.replace("_", " ")
        bench.do(
            set_fields(
                "networks", network.key, f"Set the {word} of {network.name} to {plain or 'none'}", **{field: value}
            )
        )
        return ""

    return commit


def _dialled(bench: Workbench, network: Network) -> Callable[[str], str]:
    def commit(text: str) -> str:
        try:
            low, high = parse_span("" if text.casefold() == "none" else text.replace(" to ", "-"))
        except ValueError as error:
            return str(error)
        bench.do(
            set_fields(
                "networks", network.key, f"Set the dialled range of {network.name}", dial_low=low, dial_high=high
            )
        )
        return ""

    return commit


def _call_words(call: Call | None) -> str:
    return f"{call.number} {call.kind} call" if call else "none"


def _master(bench: Workbench, network: Network) -> Callable[[str], str]:
    def commit(text: str) -> str:
        bench.do(set_fields("networks", network.key, f"Set the master of {network.name}", master=text))
        return ""

    return commit
