"""The fields of a hotspot's own settings: the ID it logs in with, the Wi-Fi names it knows."""

from functools import partial

from msgspec.structs import replace

from umbra_awl.core.hotspot.wifi.phones import kept_phone
from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.edit.edit_station import set_station
from umbra_awl.core.plan.edit.edits import add_item, fresh_key, set_fields
from umbra_awl.core.plan.model import AccessPoint, Hotspot, Phone
from umbra_awl.core.plan.parts import HOTSPOTS
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Choice, Field


def hotspot_fields(bench: Workbench, access: AccessPoint) -> list[Field]:
    """What the hotspot of an access point is set to; a way to note its settings where there are none yet."""
    if access.kind != "hotspot" or not access.services:
        return []
    hotspot = next((item for item in bench.plan.hotspots if item.access == access.key), None)
    if hotspot is None:
        return [_note_field(bench, access)]
    owner = bench.plan.station.identities[0] if bench.plan.station.identities else None
    ids = [
        Choice(
            item.label or "plain ID",
            partial(bench.do, set_fields(HOTSPOTS, hotspot.key, f"Log in as {item.label}", id_label=item.label)),
            item.label == hotspot.id_label,
        )
        for item in (owner.ids if owner is not None else ())
    ]
    fields = [Field("Logs in as", hotspot.id_label or "the first ID", choices=ids)] if ids else []

    def wifi(text: str) -> str:
        names = tuple(filter(None, (part.strip() for part in text.split(","))))
        bench.do(set_fields(HOTSPOTS, hotspot.key, f"Wi-Fi names of {access.site}", wifi=names))
        return ""

    names = ", ".join(hotspot.wifi)
    tip = "Names, letter for letter; no passwords"
    fields.append(Field("Wi-Fi", names or "none noted", commit=wifi, text=names, tip=tip))
    return [*fields, *_public_fields(bench, access, hotspot), *_phone_fields(bench)]


def _public_fields(bench: Workbench, access: AccessPoint, hotspot: Hotspot) -> list[Field]:
    """What everybody reads of it on its page, and in lists of hotspots."""

    def field(label: str, name: str, value: str, tip: str) -> Field:
        def commit(text: str) -> str:
            bench.do(set_fields(HOTSPOTS, hotspot.key, f"What others read of {access.site}", **{name: text}))
            return ""

        return Field(label, value or "as it has it", commit=commit, text=value, tip=tip)

    return [
        field("Others read", "about", hotspot.about, "The words that stand for it on its page and in lists"),
        field("Public place", "public_place", hotspot.public_place, "Everybody reads it: a locator says enough"),
    ]


def _phone_fields(bench: Workbench) -> list[Field]:
    """The phone that shares its connection: the name it gives its Wi-Fi, and the band."""
    phone = bench.plan.station.phone or Phone()

    def name(text: str) -> str:
        made = replace(phone, sharing=text)
        bench.do(set_station(f"The phone shares “{text}”", phone=kept_phone(made)))
        return ""

    bands = [
        Choice(
            f"{ghz:g} GHz",
            partial(bench.do, set_station(f"The phone shares on {ghz:g} GHz", phone=replace(phone, band_ghz=ghz))),
            ghz == phone.band_ghz,
        )
        for ghz in (2.4, 5.0)
    ]
    tip = "The name the phone's sharing has"
    shared = Field("Phone", phone.sharing or "none", commit=name, text=phone.sharing, tip=tip)
    return [shared, Field("Shares on", f"{phone.band_ghz:g} GHz", choices=bands)] if phone.sharing else [shared]


def _note_field(bench: Workbench, access: AccessPoint) -> Field:
    service = access.services[0]
    color = next((mode_of(item).color(item.air) for item in access.services if mode_of(item).color_coded), 1)
    key = fresh_key(access.key, (item.key for item in bench.plan.hotspots))
    made = Hotspot(key, access.key, service.rx_hz, service.tx_hz, color, service.rx_hz != service.tx_hz)
    edit = add_item(HOTSPOTS, made, f"Note the settings of {access.site}")
    choice = Choice("as the radios have them", partial(bench.do, edit))
    return Field(
        "Its settings", "not noted", choices=[choice], tip="Then the plan checks that hotspot and radios agree"
    )
