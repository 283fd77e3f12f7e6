"""May a hotspot be set to send? It is a transmitter of its owner's: the same permit as for every radio."""

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.findings.on_hotspot import in_segment, widest
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Hotspot
from umbra_awl.core.plan.permit import transmit_permit


def sending_refusal(index: PlanIndex, access: AccessPoint, hotspot: Hotspot) -> str:
    """Why a hotspot must not be set as planned, as a sentence with what to do; empty where it may.

    Its own frequency and the one that radios answer on must both lie inside licence and band with the whole width, outside
    satellite segments, with the licence granted and the guard lifted.
    """
    if not access.services:
        return f"{access.by_site} has no service yet. Add one at Access first."
    sent = widest(access, access.services[0])
    for hz in (hotspot.transmit_hz, hotspot.receive_hz):
        permit = transmit_permit(index.station, sent.at(hz))
        if not permit.allowed:
            return f"A hotspot is a transmitter of yours, and it is not set to send now. {permit.reason}"
        segment = in_segment(sent.at(hz))
        if segment is not None:
            return f"{format_mhz(hz)} MHz reaches into the {segment.name}. Take another place at Frequency first."
    return ""
