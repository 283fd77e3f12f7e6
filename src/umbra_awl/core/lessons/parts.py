"""The parts of a memory that are learnt one by one, in the order in which they are entered."""

from typing import NamedTuple

from umbra_awl.core.plan.model import Mode

ALL: tuple[Mode, ...] = ("fm", "dmr", "dstar", "fusion")
FIELD_WORDS: dict[str, str] = {
    "mode": "mode", "rx": "frequency", "tx": "transmit frequency", "shift": "direction of the shift", "offset": "shift frequency",
    "width": "width", "tone": "tone", "tone_kind": "kind of tone", "tone_tx": "tone in hertz", "code_tx": "tone code",
    "color_code": "color code", "slot": "time slot", "call_kind": "group or private", "contact": "number called",
    "power": "power",
    "admit": "when it may send", "receive_only": "receive only", "ur": "UR", "rpt1": "RPT1", "rpt2": "RPT2", "way": "digital way",
    "mode_width": "mode and width", "mode_slot": "mode and slot", "mode_ring": "mode, width and slot",
    "dgid_tx": "DG-ID sent", "dgid_rx": "DG-ID heard", "name": "name", "number": "number of the memory",
}  # fmt: skip


class LessonPart(NamedTuple):
    """A part: its key and title, the fields that it sets, the modes in which it is there.

    `none` is the value of a field for which it may be that nothing is pressed; `needed`: no memory is entered without it.
    """

    key: str
    title: str
    fields: tuple[str, ...]
    modes: tuple[Mode, ...] = ALL
    none: tuple[str, str] = ("", "")
    needed: bool = False


PARTS: tuple[LessonPart, ...] = (
    LessonPart("begin", "Before the first key", ()),
    LessonPart("mode", "Mode", ("mode", "mode_width", "mode_slot", "mode_ring")),
    LessonPart("frequency", "Frequency", ("rx",), needed=True),
    LessonPart("shift", "Shift", ("shift", "offset", "tx"), none=("shift", "off")),
    LessonPart("tone", "Tone", ("tone_kind", "tone_tx", "code_tx", "tone"), ("fm",), none=("tone", "off")),
    LessonPart("digital", "Color code and slot", ("color_code", "slot", "admit"), ("dmr",)),
    LessonPart("contact", "Number called", ("call_kind", "contact"), ("dmr",)),
    LessonPart("routing", "UR, RPT1 and RPT2", ("ur", "rpt1", "rpt2"), ("dstar",)),
    LessonPart("fusion", "Digital way and DG-ID", ("way", "dgid_tx", "dgid_rx"), ("fusion",)),
    LessonPart("width", "Width", ("width",), ("fm",)),
    LessonPart("power", "Power", ("power",)),
    LessonPart("silent", "Receive only", ("receive_only",), none=("receive_only", "off")),
    LessonPart("name", "Name", ("name",)),
    LessonPart("save", "Save", ("number",), needed=True),
)
TOGETHER: dict[str, tuple[str, ...]] = {
    "mode_width": ("mode", "width"),
    "mode_slot": ("mode", "slot"),
    "mode_ring": ("mode", "width", "slot"),
}
"""What is set at once where one ring of words holds several things."""
PART_OF = {part.key: part for part in PARTS}
