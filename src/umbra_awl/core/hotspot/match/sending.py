"""May a hotspot be set to send? It is a transmitter of its owner's: the same permit as for every radio."""

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.findings.on_hotspot import in_segment, widest
from umbra_awl.core.plan.hotspots import MOST_CORRECTION_HZ
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Hotspot
from umbra_awl.core.plan.permit import transmit_permit


def sending_refusal(index: PlanIndex, access: AccessPoint, hotspot: Hotspot) -> str:
    """Why a hotspot must not be set as planned, as a sentence with what to do; empty where it may.

    Its own frequency and the one that radios answer on must both lie inside licence and band with the whole width, outside
    satellite segments, with the licence granted and the guard lifted: as planned, and as its correction moves what it sends.
    """
    if not access.services:
        return f"{access.by_site} has no service yet. Add one at Access first."
    wide = max(hotspot.tx_correction_hz, hotspot.rx_correction_hz, key=abs)
    if abs(wide) > MOST_CORRECTION_HZ:
        return f"A correction of {wide:+d} Hz is another frequency, not a correction. Set it to 0 and calibrate."
    sent = widest(access, access.services[0])
    places = (hotspot.transmit_hz, hotspot.transmit_hz + hotspot.tx_correction_hz, hotspot.receive_hz)
    for hz in dict.fromkeys(places):
        permit = transmit_permit(index.owners.station, sent.at(hz))
        if not permit.allowed:
            return f"A hotspot is a transmitter of yours, and it is not set to send now. {permit.reason}"
        segment = in_segment(sent.at(hz))
        if segment is not None:
            return f"{format_mhz(hz)} MHz reaches into the {segment.name}. Take another place at Frequency first."
    return ""
