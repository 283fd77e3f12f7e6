"""What each hop of a traced key-up looks at, in words: said under the hop, so that a reader knows what passing means."""

from umbra_awl.core.facts.modes import ByMode
from umbra_awl.core.modes.table import MODES
from umbra_awl.core.plan.model import Mode
from umbra_awl.core.trace.model import HopKind

_SENDS: ByMode[str] = {
    "fm": "transmit frequency, tone, width",
    "dmr": "transmit frequency, color code, slot, talk group and kind of call",
    "dstar": "transmit frequency, UR, RPT1, RPT2",
    "fusion": "transmit frequency, way, DG-ID",
}
_CARRIES: ByMode[str] = {
    "fm": "whether there is a network at all: FM goes no further than the access point",
    "dmr": "the talk group there: always carried, on demand, or not at all",
    "dstar": "the gateway, the link, the reflector's module",
    "fusion": "the room or what the DG-ID leads to",
}
_HEARS: ByMode[str] = {
    "fm": "who listens on the output, with which tone",
    "dmr": "who has the talk group joined and in the receive group list",
    "dstar": "who is linked there",
    "fusion": "who is in the room, with which DG-ID",
}


def checks_of(kind: HopKind, mode: Mode) -> str:
    """What a hop of this kind looks at in this mode."""
    if kind == "you":
        return "whether this radio has it, in a zone, at the knob"
    if kind == "guard":
        return "licence, band with the whole width, guard"
    if kind == "radio":
        return _SENDS[mode]
    if kind == "access":
        return f"input frequency, {MODES[mode].opened_by}, who may key"
    if kind == "far":
        return _HEARS[mode]
    return _CARRIES[mode]
