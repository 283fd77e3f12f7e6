"""What opens a service of an access point, by mode: the field that holds it, and how it is read as typed."""

from collections.abc import Callable
from functools import partial
from typing import Any

from umbra_awl.core.facts.modes import ByMode
from umbra_awl.core.facts.tones import parse_tone


def _whole(most: int, what: str, text: str) -> int:
    if not (text.isascii() and text.isdigit() and int(text) <= most):
        raise ValueError(f"“{text}” is not {what}: 0 to {most} exist.")
    return int(text)


def module_letter(text: str) -> str:
    """A module's letter as it is typed. Raises ValueError."""
    letter = text.strip().upper()
    if len(letter) != 1 or not "A" <= letter <= "Z":
        raise ValueError("A module is one letter: A, B or C by custom.")
    return letter


OPENERS: ByMode[tuple[str, Callable[[str], Any]]] = {
    "fm": ("tone_tx", parse_tone),
    "dmr": ("color_code", partial(_whole, 15, "a color code")),
    "dstar": ("module", module_letter),
    "fusion": ("dgid_tx", partial(_whole, 99, "a DG-ID")),
}  # fmt: skip
"""The field that holds what opens a service, and how it is read as typed; reading raises ValueError."""
