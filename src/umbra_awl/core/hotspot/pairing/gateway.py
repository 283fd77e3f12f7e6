"""The phone as a gateway: what goes into the app, out of the plan and the radio, and the order in which it comes on."""

from typing import NamedTuple

from umbra_awl.core.facts.dmr import mask_id
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.hotspot.match.says import full_id
from umbra_awl.core.modes.table import sent_by
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Hotspot
from umbra_awl.core.plan.permit import transmit_permit

STEPS: tuple[tuple[str, str], ...] = (
    ("Type these fields in the app and submit them", "The app keeps them"),
    ("Look at its state line", "It must say connected; else password or network"),
    ("Hold calls back on this phone: do not disturb", "A call that rings would take the audio and break the link"),
    ("Choose the mode to serve, and connect", "The bridge's light stays on"),
    ("Radio off and on", "Its start text"),
    ("Choose the zone, then turn the knob", "The channel's name on the display"),
    ("Key the echo test", "A beep, then your own voice"),
    ("After a call on the phone: connect again, radio off and on", "The state line says connected again"),
)


class GatewaySheet(NamedTuple):
    """The fields for the app, as (name, value, note), and what is missing for it; `refusal` is why it is not filled in at all."""

    fields: tuple[tuple[str, str, str], ...]
    missing: tuple[str, ...]
    refusal: str = ""


def gateway_sheet(index: PlanIndex, access: AccessPoint, hotspot: Hotspot | None, *, ids_shown: bool) -> GatewaySheet:
    """What a gateway app is given for an access point that a phone serves."""
    digital = [service for service in access.services if service.mode != "fm"]
    for service in digital:
        permit = transmit_permit(index.owners.station, sent_by(service))
        if not permit.allowed:
            return GatewaySheet(
                (), (), f"A phone as gateway lets your radio send, and that may not be now. {permit.reason}"
            )
    owner = index.plan.station.identities[0] if index.plan.station.identities else None
    number = full_id(owner, hotspot.id_label if hotspot is not None else "")
    shown = number if ids_shown or not number else mask_id(int(number))
    fields = [
        ("Call sign", owner.call if owner is not None else "", ""),
        ("ID", shown, "with its two digits where it is a second one"),
    ]
    fields += [
        (f"{MODE_WORDS[item.mode]} frequency", format_mhz(item.rx_hz), "as the radio has it") for item in digital
    ]
    fields.append(("Correction", "0", "the phone's own bridge begins at 0; a board's correction is not its"))
    masters = [
        network.master for service in access.services if (network := index.network_of(service)) and network.master
    ]
    fields.append(("Master", masters[0] if masters else "", "the one of your country"))
    fields.append(("Password", "", "the one you set at that master; it is kept nowhere here"))
    missing = tuple(name for name, value, _note in fields if not value and name != "Password")
    return GatewaySheet(tuple(fields), missing)
