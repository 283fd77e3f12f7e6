"""Numbers of DMR: color codes, time slots, IDs and talk groups.

Source: ETSI TS 102 361-1 (color code 0-15, 24-bit addresses, two slots of 30 ms) and 102 361-2 (all-call address).
The shape of IDs (7 digits for people, 6 for repeaters, two more for a second hotspot) is the registries' common use.
"""

from umbra_awl.core.facts.counting import counted

COLOR_CODES = range(16)
ALL_CALL = 16_777_215
HIGHEST_TALK_GROUP = 16_776_415
ID_DIGITS = 7


def radio_id_fault(number: int | None) -> str:
    """Why a number cannot be one person's radio ID, as a sentence; empty when it can."""
    if number is None:
        return "No DMR ID is given. A registry assigns one to each licensed call sign."
    digits = len(str(number))
    if number <= 0 or digits != ID_DIGITS:
        told = f"The ID {mask_id(number)} has {counted(digits, 'digit')}"
        return f"{told}; a person's ID has {ID_DIGITS} and begins with the country's three."
    return ""


def talk_group_fault(number: int | None) -> str:
    """Why a number cannot be called as a group, as a sentence; empty when it can."""
    if number is None:
        return "No number is given."
    if number == ALL_CALL:
        return f"{ALL_CALL} is the all-call address, not a talk group."
    if not 1 <= number <= HIGHEST_TALK_GROUP:
        return f"{number} is outside 1 to {HIGHEST_TALK_GROUP}, the range of talk groups."
    return ""


def mask_id(number: int | None) -> str:
    """An ID with all but its country digits hidden: 9994217 → “999••••”; a missing one is a dash."""
    if number is None:
        return "–"
    digits = str(number)
    return digits[:3] + "•" * max(0, len(digits) - 3)
