"""The call-sign fields of D-STAR: eight characters padded with spaces, the note of four, and what UR can ask for.

Source: the published D-STAR system specification (JARL, STD 7.0), radio header: RPT2, RPT1, UR, MY of eight characters and a
note of four; capitals, digits, spaces and the slash of repeater routing. The command letters L, U, E and I in position 8 of
UR, and the module letter in position 7 of a link, are the gateways' common use.
"""

import re
from typing import Literal, NamedTuple

from umbra_awl.core.facts.callsign import call_sign_fault
from umbra_awl.core.facts.late_pattern import LatePattern

FIELD_LENGTH = 8
MODULE_AT, COMMAND_AT = 6, 7
BLANK = "·"
CQ = "CQCQCQ  "
UNLINK, ECHO, INFO = "       U", "       E", "       I"
KEPT_LETTERS = frozenset("GLUEIS")
MODULE_BANDS = {"A": "1.2 GHz", "B": "70 cm", "C": "2 m"}
_FIELD = LatePattern(r"[A-Z0-9/ ]{0,8}")
_OWN = LatePattern(r"[A-Z0-9/]{1,8}|(?=.{8}$)[A-Z0-9/]{1,7} *[A-Z0-9]")
LINK_CALL, RPT_CALL = 6, 7
"""How many characters a call sign has room for: before the module of a link or behind the slash, and before position 8."""
_NOTE = LatePattern(r"[A-Z0-9 ]{0,4}")
_USUAL_CALL = LatePattern(r"[A-Z]{1,2}\d[A-Z]{1,3}|\d[A-Z]\d[A-Z]{1,3}")
_TARGET = LatePattern(r"([A-Z0-9]{3,8}?)\s*([A-Z])")

UrKind = Literal["cq", "station", "repeater", "link", "unlink", "echo", "info", "blank", "wrong"]
_LONE: dict[str, UrKind] = {"U": "unlink", "E": "echo", "I": "info"}


class Ur(NamedTuple):
    """What a UR field asks for; `fault` says why it asks for nothing, as a sentence."""

    kind: UrKind
    call: str = ""
    module: str = ""
    fault: str = ""

    @property
    def is_command(self) -> bool:
        """Whether the access point answers it in place of passing speech on."""
        return self.kind in {"link", "unlink", "echo", "info"}


class Rpt(NamedTuple):
    """What an RPT field names: a call sign and the letter in position 8 (G for the gateway)."""

    call: str = ""
    module: str = ""
    fault: str = ""


class Fields(NamedTuple):
    """The four routing fields and the note, each as sent: eight characters, the note four."""

    my: str
    note: str
    ur: str
    rpt1: str
    rpt2: str


def padded(text: str) -> str:
    """A field of exactly eight characters."""
    return text[:FIELD_LENGTH].ljust(FIELD_LENGTH)


def field_fault(text: str) -> str:
    """Why a text cannot be a call-sign field, as a sentence; empty when it can."""
    if _OWN.fullmatch(text.rstrip(" ")):
        return ""
    if text.startswith(" ") and text.strip():
        return f"“{text}” begins with a blank; a field begins in position 1."
    return f"“{text}” is not a call-sign field: one to eight capitals and digits, with a blank only before position 8."


def note_fault(text: str) -> str:
    """Why a text cannot be the note behind one's own call sign; empty when it can."""
    return (
        "" if _NOTE.fullmatch(text) else f"“{text}” is not a note: at most four capitals or digits, for example HAND."
    )


def module_fault(module: str) -> str:
    """Why a letter cannot be a module, as a sentence; empty when it can."""
    if not module:
        return "Its module is not told: one letter from A to Z; by custom A is 1.2 GHz, B 70 cm, C 2 m."
    if len(module) != 1 or not "A" <= module <= "Z":
        return f"“{module}” is not a module: one letter from A to Z; by custom A is 1.2 GHz, B 70 cm, C 2 m."
    if module in KEPT_LETTERS:
        return f"{module} is used by commands and gateways in position 8; take another letter for a module."
    return ""


def target_of(text: str) -> tuple[str, str]:
    """Call and module of a reflector or repeater as people write it: “VLR001 C” or “VLR001C”; empty texts when it is neither.

    What is a usual call sign as it stands has no module: “Q0SIG” is not Q0SI with the module G.
    """
    plain = text.strip().upper()
    shape = None if _USUAL_CALL.fullmatch(plain) else _TARGET.fullmatch(plain)
    return (shape[1], shape[2]) if shape else ("", "")


def whole(text: str) -> str:
    """A field padded to eight; what is longer stands as it is, so that it is told and never becomes another's call."""
    return text if len(text) > FIELD_LENGTH else text.ljust(FIELD_LENGTH)


def room_fault(call: str, room: int) -> str:
    """Why a call sign does not fit before its module, as a sentence; empty when it does."""
    if len(call) <= room:
        return ""
    return f"“{call}” has {len(call)} characters; a D-STAR field has room for {room} before or behind its module."


def rpt_field(call: str, module: str) -> str:
    """An RPT field: the call sign padded to seven, the letter in position 8; blank for no call or one without room."""
    return " " * FIELD_LENGTH if not call or room_fault(call, RPT_CALL) else f"{call:<7}{module[:1]:1}"


def ur_field(ur: Ur) -> str:
    """The eight characters that ask for something; `read_ur` gives it back. Blank for what is wrong or has no room."""
    if ur.kind == "link" and not room_fault(ur.call, LINK_CALL):
        return f"{ur.call:<6}{ur.module[:1]:1}L"
    if ur.kind == "repeater" and not room_fault(ur.call, LINK_CALL):
        return f"/{ur.call:<6}{ur.module[:1]:1}"
    if ur.kind == "station":
        return whole(ur.call) if not ur.module.strip() else whole(rpt_field(ur.call, ur.module))
    return {"cq": CQ, "unlink": UNLINK, "echo": ECHO, "info": INFO}.get(ur.kind, " " * FIELD_LENGTH)


def read_ur(text: str) -> Ur:
    """What a UR field asks for. Missing spaces at its end count as padded."""
    fault = _shape_fault(text)
    if fault:
        return Ur("wrong", fault=fault)
    field = padded(text)
    bare = field.strip()
    if not bare:
        return Ur("blank", fault="UR is blank: it says for whom the call is. CQCQCQ calls everybody.")
    if bare in _LONE:
        return _lone_command(field, bare)
    if field[0] == " ":
        return Ur("wrong", fault=f"“{bare}” begins in position {field.index(bare) + 1}; a field begins in position 1.")
    if field == CQ:
        return Ur("cq")
    return _routed(field) if field[0] == "/" else _named(field)


def _shape_fault(text: str) -> str:
    if len(text) > FIELD_LENGTH:
        return f"“{text}” has {len(text)} characters; a field has {FIELD_LENGTH}."
    if not _FIELD.fullmatch(text):
        return f"“{text}” has characters a field cannot carry: capitals, digits, spaces and the slash."
    return ""


def _lone_command(field: str, letter: str) -> Ur:
    at = field.index(letter)
    if at == COMMAND_AT:
        return Ur(_LONE[letter])
    return Ur(
        "wrong",
        fault=f"{letter} stands in position {at + 1}; as a command it belongs in position 8, with blanks before.",
    )


def _routed(field: str) -> Ur:
    call, module = field[1:7].rstrip(), field[7]
    if not call or " " in call:
        return Ur("wrong", fault="Behind the slash comes the repeater's call sign, without a blank.")
    fault = module_fault(module.strip())
    if fault:
        return Ur("wrong", fault=f"Position 8 carries the far repeater's module. {fault}")
    if call_sign_fault(call):
        return Ur("wrong", fault=f"“{call}” behind the slash is not a repeater's call sign.")
    return Ur("repeater", call, module)


def _named(field: str) -> Ur:
    """A link, or a station; what is nearly one of them is told why not."""
    last = field[COMMAND_AT]
    if last == "L":
        return _link(field)
    if last == "G":
        return Ur("wrong", fault="G in position 8 belongs in RPT2, not in UR.")
    if last in {"U", "E", "I"}:
        return Ur("wrong", fault=f"{last} in position 8 is a command; positions 1 to 7 stay blank then.")
    call = field[:7].rstrip()
    if not call_sign_fault(call):
        return Ur("station", call, last.strip())
    bare = field.rstrip()
    if len(bare) < FIELD_LENGTH and bare.endswith("L"):
        return Ur(
            "wrong", fault=f"L stands in position {len(bare)}; a link has the module in position 7 and L in position 8."
        )
    return Ur(
        "wrong",
        fault=f"“{bare}” is no call sign and carries no command; a link has the module in position 7 and L in 8.",
    )


def _link(field: str) -> Ur:
    call, module = field[:6].rstrip(), field[MODULE_AT]
    if not "A" <= module <= "Z":  # any letter: commands are read in position 8 only, and reflectors have an E and an I
        there = f"“{module}”" if module.strip() else "a blank"
        return Ur("wrong", fault=f"A link carries the far module, a letter, in position 7; there is {there}.")
    if " " in call or len(call) < 3:
        return Ur("wrong", fault=f"“{call}” is not the name of a reflector or repeater.")
    return Ur("link", call, module)


def read_rpt(text: str, name: str = "RPT1") -> Rpt:
    """What an RPT field names. Blank ones are a fault: a repeater passes on only what is addressed to it."""
    fault = _shape_fault(text)
    if fault:
        return Rpt(fault=fault)
    field = padded(text)
    call, letter = field[:7].rstrip(), field[7].strip()
    if not field.strip():
        return Rpt(fault=f"{name} is blank: the access point does not know that the call is for it.")
    if field[0] == " " or " " in call:
        return Rpt(call.strip(), letter, f"{name} begins in position 1 and has its letter in position 8.")
    if not letter:
        return Rpt(call, "", f"{name} lacks the letter in position 8: the module, or G for the gateway.")
    return Rpt(call, letter)


def shown(field: str) -> str:
    """A field with its blanks visible."""
    return padded(field).replace(" ", BLANK)


def print_fields(fields: Fields) -> str:
    """The fields as one line that survives copying: “UR:VLR001CL RPT1:Q0SIG··B RPT2:Q0SIG··G MY:Q4WRN···/HAND”."""
    note = f"/{fields.note.ljust(4).replace(' ', BLANK)}" if fields.note.strip() else ""
    return f"UR:{shown(fields.ur)} RPT1:{shown(fields.rpt1)} RPT2:{shown(fields.rpt2)} MY:{shown(fields.my)}{note}"


_PASTED = LatePattern(r"(UR|RPT1|RPT2|MY)\s*[:=]\s*(.*?)(?=\s*(?:\b(?:UR|RPT1|RPT2|MY)\s*[:=]|$))", re.DOTALL)


def parse_fields(text: str) -> dict[str, str]:
    """The fields in a pasted text: name (ur, rpt1, rpt2, my, note) to value. A lone field is UR; blanks may be · or _ too."""
    plain = text.strip("\r\n\t").upper()
    found = {name.lower(): _with_spaces(value) for name, value in _PASTED.findall(plain)}
    if not found:
        lone = _with_spaces(plain)
        return {"ur": _unquoted(lone)} if lone.strip() else {}
    if "my" in found and "/" in found["my"]:
        found["my"], _, found["note"] = found["my"].partition("/")
        found["note"] = found["note"].rstrip()
    return {name: value if name == "note" else _unquoted(value) for name, value in found.items()}


def _with_spaces(text: str) -> str:
    return text.replace(BLANK, " ").replace("_", " ")


def _unquoted(value: str) -> str:
    return padded(value) if len(value.rstrip()) <= FIELD_LENGTH else value.rstrip()
