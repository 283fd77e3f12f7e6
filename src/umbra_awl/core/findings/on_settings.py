"""Rules on a hotspot's own settings: its ID's label, its duplex flag, where it stands among calling frequencies."""

from collections.abc import Iterator

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.repeaters import CALLING
from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.findings.on_hotspot import first_on, move_out
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Hotspot, Service
from umbra_awl.core.plan.parts import HOTSPOTS

NO_LABEL = Rule(
    "hotspot-id-missing",
    "warn",
    "ID of the hotspot is not there",
    "A hotspot logs in with one of its owner's IDs. Under a label that nobody has it takes the first one, which another "
    "hotspot may use.",
)
DUPLEX = Rule(
    "hotspot-duplex",
    "warn",
    "Duplex setting against the frequencies",
    "A duplex hotspot hears and sends on two frequencies, a simplex one on one. Set the other way round it stays deaf.",
)
ON_CALLING = Rule(
    "hotspot-on-calling",
    "warn",
    "Hotspot on a calling frequency",
    "A calling frequency belongs to everybody. A hotspot that sends there for hours shuts it for all in reach.",
)
_BESIDE_HZ = 12_500


def check_hotspot_settings(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    """All findings on a hotspot's own settings, told at the first of its services."""
    if service is first_on(access, service):
        yield from _check_calling(index, access, service)
    if service is not access.services[0]:
        return
    for hotspot in index.plan.hotspots:
        if hotspot.access == access.key:
            yield from _check_label(index, access, hotspot)
            yield from _check_duplex(access, hotspot)


def _check_calling(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    for hz in dict.fromkeys((service.rx_hz, service.tx_hz)):
        near = next((item for item in CALLING[index.plan.station.region] if abs(item.hz - hz) < _BESIDE_HZ), None)
        if near is not None:
            text = f"{access.site} uses {format_mhz(hz)} MHz; {format_mhz(near.hz)} is {near.words}."
            yield Finding(ON_CALLING, Target("service", service.key), text, move_out(index, access, service))
            return


def _check_label(index: PlanIndex, access: AccessPoint, hotspot: Hotspot) -> Iterator[Finding]:
    identities = index.plan.station.identities
    if not hotspot.id_label or not identities or not identities[0].ids:
        return
    labels = [item.label for item in identities[0].ids]
    if hotspot.id_label not in labels:
        text = f"{access.site} logs in as “{hotspot.id_label}”, and no ID has that label."
        edit = set_fields(HOTSPOTS, hotspot.key, f"Let {access.site} use the first ID", id_label=labels[0])
        yield Finding(NO_LABEL, Target("hotspot", hotspot.key), text, Repair("Use the first ID", edit))


def _check_duplex(access: AccessPoint, hotspot: Hotspot) -> Iterator[Finding]:
    two = hotspot.transmit_hz != hotspot.receive_hz
    if not hotspot.deaf:
        return
    said, there = ("duplex", "one frequency") if hotspot.duplex else ("simplex", "two frequencies")
    label = f"Set it to {'duplex' if two else 'simplex'}"
    edit = set_fields(HOTSPOTS, hotspot.key, f"{label}: {access.site}", duplex=two)
    text = f"{access.site} is set to {said} and has {there}."
    yield Finding(DUPLEX, Target("hotspot", hotspot.key), text, Repair(label, edit))
