"""Taking a value that a hotspot says into the plan: the edit for one field, where the plan has a place for it."""

from umbra_awl.core.facts.wording import within
from umbra_awl.core.findings.on_hotspot import move_hotspot
from umbra_awl.core.hotspot.match.fields import BY_KEY, plain
from umbra_awl.core.hotspot.match.says import startup_text
from umbra_awl.core.plan.edit.edits import Edit, set_fields
from umbra_awl.core.plan.hotspots import MOST_CORRECTION_HZ
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Hotspot
from umbra_awl.core.plan.parts import HOTSPOTS

_TEXTS = {"modem": "modem", "time_zone": "time_zone", "display": "display", "host": "host"}
_NUMBERS = {"color_code": "color_code", "rx_correction": "rx_correction_hz", "tx_correction": "tx_correction_hz"}


def take_value(index: PlanIndex, access: AccessPoint, hotspot: Hotspot, key: str, value: str) -> Edit | None:
    """The edit that lets the plan say what the hotspot says of a field; None where that is not the plan's to follow."""
    field = BY_KEY[key]
    told = plain(field, value)
    sentence = f"Take {within(field.words)} from {access.site}"
    fields: dict[str, object] = {}
    if key in _TEXTS:
        fields = {_TEXTS[key]: value.strip()[:120]}
    elif key in _NUMBERS and told.lstrip("-").isdecimal() and len(told) <= 6:
        if field.kind == "offset" and abs(int(told)) > MOST_CORRECTION_HZ:
            return None
        fields = {_NUMBERS[key]: int(told)}
    elif key in {"tx_hz", "rx_hz"} and told.isdecimal() and 0 < int(told) < 10**10:
        sends, hears = (int(told), hotspot.receive_hz) if key == "tx_hz" else (hotspot.transmit_hz, int(told))
        return move_hotspot(index, access, sends, hears, sentence)
    elif key == "duplex" and told in {"yes", "no"}:
        fields = {"duplex": told == "yes"}
    elif key == "startup":
        found = next((item for item in index.plan.destinations if startup_text(item) == value.strip()), None)
        fields = {"startup": found.key} if found is not None else {}
    elif key == "password" and told == "yes":
        fields = {"locked": True}
    return set_fields(HOTSPOTS, hotspot.key, sentence, **fields) if fields else None
