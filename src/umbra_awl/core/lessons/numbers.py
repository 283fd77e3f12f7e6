"""Numbers in lessons: which value some typed digits are, and how another value is typed and shown the same way."""

import re

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.paper.taps import CannotTypeError
from umbra_awl.core.radio.taught import SeenKeys

UNITS = {
    "rx": (1, 10, 100, 1_000, 10_000, 100_000, 1_000_000),
    "tx": (1, 10, 100, 1_000, 10_000, 100_000, 1_000_000),
    "offset": (1, 10, 100, 1_000, 10_000, 100_000, 1_000_000),
    "tone_tx": (1, 10),
}
_ANY_FROM = 2
"""Where so many lengths were seen, a number is typed in as many digits as it has."""
_FINE = {"rx", "tx", "offset"}
_PLAIN = (1,)


def seen_number(field: str, value: int, digits: str) -> SeenKeys | None:
    """What some digits tell of how a value is typed; None where they are not it."""
    typed = int(digits)
    for unit in UNITS.get(field, _PLAIN):
        whole, rest = divmod(value, unit)
        cut = bool(rest) and field in _FINE and unit in {1_000, 10_000}
        if whole != typed or (rest and not cut) or (not typed and len(digits) > 1 and unit > 1):
            continue
        full = len(digits) if digits[0] == "0" and len(digits) > 1 else 0
        return SeenKeys(tuple(digits), way="digits", field=field, unit=unit, lengths=(len(digits),), full=full, cut=cut)
    return None


def digits_of(seen: SeenKeys, value: int, said: str) -> tuple[str, ...]:
    """The keys that type a value as another one was typed. Raises CannotTypeError where no lesson showed how.

    `said` names the field in the sentence.
    """
    whole, rest = divmod(value, seen.unit)
    if rest and not seen.cut:
        raise CannotTypeError(f"The {said} is finer than any lesson showed. Teach it with this memory.")
    digits = str(whole).zfill(seen.full)
    if len(digits) not in seen.lengths and (seen.full or len(seen.lengths) < _ANY_FROM):
        many = counted(len(digits), "digit")
        raise CannotTypeError(f"No lesson showed how a {said} of {many} is typed. Teach it with this one.")
    if seen.point:
        return (*digits[: -seen.decimals], seen.point, *digits[-seen.decimals :])
    return tuple(digits)


def marked(shows: str, value: int) -> tuple[int, int, int]:
    """Where a number stands in what a display shows: first character, length, unit of its last digit; else noughts."""
    for found in re.finditer(r"\d+(?:[.,]\d+)?", shows):
        shown = int(re.sub(r"\D", "", found[0]))
        unit = _unit(value, shown) if shown else 0
        if unit:
            return found.start(), len(found[0]), unit
    return 0, 0, 0


def _unit(value: int, shown: int) -> int:
    """By which power of ten a value is what is shown, cut or not; 0 where by none."""
    for power in (1, 10, 100, 1_000, 10_000, 100_000, 1_000_000):
        if value // power == shown and (value % power == 0 or power in {1_000, 10_000}):
            return power
    return 0


def shown_as(seen: SeenKeys, value: int) -> str:
    """What the display shows for a value, as it showed the one of the lesson."""
    at, length, unit = seen.mark
    if not length:
        return seen.shows
    token = seen.shows[at : at + length]
    whole, point, fine = token.replace(",", ".").partition(".")
    digits = str(value // unit).zfill(len(whole + fine) if whole.startswith("0") else len(fine) + 1)
    made = f"{digits[: -len(fine)]}{token[len(whole)]}{digits[-len(fine) :]}" if point else digits
    return seen.shows[:at] + made + seen.shows[at + length :]
