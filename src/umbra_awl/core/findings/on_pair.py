"""Rules on a repeater's pair of frequencies against what is usual here: an odd offset, receive and transmit swapped."""

from collections import Counter
from collections.abc import Iterator

from umbra_awl.core.facts.bands import band_at
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.frequency import format_mhz, format_offset
from umbra_awl.core.facts.repeaters import USUAL_OFFSETS_HZ
from umbra_awl.core.facts.segments import usual_way
from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.modes.table import sent_by
from umbra_awl.core.plan.edit.edit_access import set_service
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Service
from umbra_awl.core.plan.permit import band_permit

ODD_OFFSET = Rule(
    "offset-unusual",
    "warn",
    "Offset unusual here",
    "Repeaters of one band and country share an offset. One that stands alone is most often a slip or an old listing: listen "
    "on the input before you trust it.",
)
SWAPPED = Rule(
    "pair-swapped",
    "warn",
    "Receive and transmit swapped",
    "The radio hears the repeater's output and sends on its input. Swapped, it hears nothing but other people calling, and "
    "sends where nobody listens.",
)
_ENOUGH, _FEW = 3, 2
"""So many other repeaters make a custom."""


def check_pair(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    """A repeater's pair against those of the other repeaters of the plan on its band, and against what is usual anywhere."""
    offset = service.tx_hz - service.rx_hz
    band = band_at(index.bands, service.rx_hz)
    if access.kind != "repeater" or not offset or band is None or band_at(index.bands, service.tx_hz) is not band:
        return
    here = _here(index, service, band.name)
    custom, count = here.most_common(1)[0] if here else (0, 0)
    others = counted(count, f"other on {band.name} has", f"others on {band.name} have")
    target = Target("service", service.key)
    if offset == -custom and (count >= _ENOUGH or count == here.total() >= _FEW):
        text = f"{access.by_call} has {format_offset(offset)}; {others} {format_offset(custom)}."
        yield Finding(SWAPPED, target, text, _swap(index, access, service))
    elif usual_way(service.rx_hz, service.tx_hz) < 0 and offset != custom:
        text = (
            f"{access.by_call} is heard on {format_mhz(service.rx_hz)}, where repeaters listen; they send on "
            f"{format_mhz(service.tx_hz)} and its neighbours."
        )
        yield Finding(SWAPPED, target, text, _swap(index, access, service))
    elif _short(offset, band.name):
        return
    elif count >= _ENOUGH and offset != custom and count * 2 > here.total():
        text = f"{access.by_call} has {format_offset(offset)}; {others} {format_offset(custom)}."
        yield Finding(ODD_OFFSET, target, text)
    elif abs(offset) not in USUAL_OFFSETS_HZ.get(band.name, (abs(offset),)):
        usual = ", ".join(format_mhz(hz).rstrip("0").rstrip(".") for hz in sorted(USUAL_OFFSETS_HZ[band.name]))
        text = f"{access.by_call} has {format_offset(offset)}; usual on {band.name} are {usual} MHz."
        yield Finding(ODD_OFFSET, target, text)


def _short(offset_hz: int, band: str) -> bool:
    """Whether the offset lost its last digit, which another rule tells."""
    return abs(10 * offset_hz) in USUAL_OFFSETS_HZ.get(band, ())


def _here(index: PlanIndex, service: Service, band: str) -> Counter[int]:
    """The offsets of the other repeaters on a band, with how many have each; a site counts once."""

    def offsets() -> dict[str, dict[str, int]]:
        found: dict[str, dict[str, int]] = {}
        for access, item in index.all_services():
            place = band_at(index.bands, item.rx_hz)
            if access.kind == "repeater" and item.tx_hz != item.rx_hz and place is not None:
                found.setdefault(place.name, {})[item.key] = item.tx_hz - item.rx_hz
        return found

    known = index.memo("offsets here", offsets, ("access", "station"))
    return Counter(offset for key, offset in known.get(band, {}).items() if key != service.key)


def _swap(index: PlanIndex, access: AccessPoint, service: Service) -> Repair | None:
    if not band_permit(index.plan.station, sent_by(service).at(service.rx_hz)).allowed:
        return None
    label = f"Hear {format_mhz(service.tx_hz)}, send on {format_mhz(service.rx_hz)}"
    edit = set_service(service.key, f"Swap the pair of {access.by_call}", rx_hz=service.tx_hz, tx_hz=service.rx_hz)
    return Repair(label, edit)
