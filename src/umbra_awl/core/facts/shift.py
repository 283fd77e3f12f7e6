"""From what a list says of a shift to a pair of frequencies: size, direction, either, or what is sent on; never by silence.

People write a shift as “-7,6”, “600 kHz minus”, “DUP+”, a size beside a direction, or as the frequency sent on. A dash of any
kind is a minus. What is not told is worked out only where the bands leave one way, and then said; what is not understood is
an error: a channel is simplex only where somebody wrote so, or wrote nothing.
Source of what is usual: `facts/repeaters.py`.
"""

import re
from functools import lru_cache
from typing import NamedTuple

from umbra_awl.core.facts.bands import BANDS, Band, band_at
from umbra_awl.core.facts.frequency import FrequencyError, format_mhz, format_offset, parse_offset_hz

WIDEST_BANDS = BANDS[2]
USUAL_2M_HZ = 600_000
_LONGEST = 80
DASHES = dict.fromkeys(map(ord, "−–—‐‑‒﹣-"), "-")
_NOT_TOLD = frozenset({"", "/", "n/a", "?", ".", "unknown"})
_SIMPLEX = re.compile(
    r"(s|simplex?|simpl\.?|none|off|no|keine?|rx ?= ?tx|[+-]?0+([.,]0+)?\s*([mk]?hz)?)", re.IGNORECASE
)
_MINUS = re.compile(r"-|\b(minus|neg\w*|down|menos|moins|meno|minder|abw\w*|below)\b", re.IGNORECASE)
_PLUS = re.compile(r"\+|\b(plus|pos\w*|up|m[aá]s|mais|pi[uù]|aufw\w*|above)\b", re.IGNORECASE)
_EITHER = re.compile(r"±|\+\s*/?\s*-|-\s*/?\s*\+")
_ONE_LETTER = {"m": -1, "p": 1}
_SIZE = re.compile(r"\d+(?:[.,]\d+)?\s*(?:[kmg]?hz)?", re.IGNORECASE)


class ShiftError(ValueError):
    """A text that tells no shift, or a shift that cannot be worked out; the message says why."""


class Shift(NamedTuple):
    """What is told of a shift: its sign (0 simplex, None not told) and its size in hertz (None not told)."""

    sign: int | None
    size_hz: int | None


NOTHING = Shift(None, None)


class Pair(NamedTuple):
    """Receive and transmit in hertz from the radio's side, and what was taken that nobody wrote."""

    rx_hz: int
    tx_hz: int
    notes: tuple[str, ...] = ()


@lru_cache(maxsize=4_096)
def read_shift(text: str) -> Shift:
    """The shift in a text such as “-7,6”, “600 kHz minus”, “DUP-”, “simplex”, “–7600”. Raises ShiftError."""
    if len(text) > _LONGEST:
        raise ShiftError(f"“{text[:20]} …” is too long for an offset.")
    plain = text.translate(DASHES).strip()
    if plain.casefold() in _NOT_TOLD:
        return NOTHING
    if _SIMPLEX.fullmatch(plain):
        return Shift(0, 0)
    number = _SIZE.search(plain)
    words = plain if number is None else plain.replace(number[0], " ", 1)
    sign = _ONE_LETTER.get(words.strip().casefold()) or _sign(words)
    if number is None and sign is None:
        raise ShiftError(f"“{text.strip()}” is no offset: neither a size nor plus, minus or simplex.")
    return Shift(sign, _size_hz(number[0].strip()) if number else None)


def _sign(words: str) -> int | None:
    if _EITHER.search(words):
        return None
    minus, plus = bool(_MINUS.search(words)), bool(_PLUS.search(words))
    return None if minus == plus else -1 if minus else 1


@lru_cache(maxsize=4_096)
def read_direction(text: str) -> Shift:
    """The same of a column that tells the direction, perhaps with the size. Raises ShiftError where it tells no direction."""
    found = read_shift(text)
    if found.sign is None and found is not NOTHING and not _EITHER.search(text.translate(DASHES)):
        raise ShiftError(f"“{text.strip()}” is no direction: neither plus, minus nor simplex.")
    return found


def _size_hz(text: str) -> int:
    try:
        if re.search(r"hz", text, re.IGNORECASE):
            return parse_offset_hz(text)
        value = float(text.replace(",", "."))
        return parse_offset_hz(f"{text} {'MHz' if value < 100 else 'kHz' if value < 100_000 else 'Hz'}")
    except FrequencyError as error:
        raise ShiftError(str(error)) from None


def joined(size: Shift, direction: Shift) -> Shift:
    """Two columns as one: the direction's column tells the sign, the other the size.

    Raises ShiftError where both tell a sign and not the same: which of them is right nobody can know.
    """
    if direction.sign == 0:
        return direction
    if size.sign and direction.sign == -size.sign:
        words = ("minus", "plus") if size.sign < 0 else ("plus", "minus")
        raise ShiftError(f"Its offset says {words[0]} and its direction {words[1]}.")
    if direction.sign is None:
        return Shift(size.sign, size.size_hz if size.size_hz is not None else direction.size_hz)
    return Shift(direction.sign, size.size_hz or direction.size_hz)


def pair_of(rx_hz: int | None, tx_hz: int | None, told: Shift, own_70cm_hz: int = 0) -> Pair:
    """The pair from what is heard, what is sent on, and what is told of the shift between them, all in hertz.

    `own_70cm_hz` is the size meant where a list tells only the sign on 70 cm (0: not known). Raises ShiftError.
    """
    if rx_hz is not None and tx_hz is not None:
        return Pair(rx_hz, tx_hz, _against(tx_hz - rx_hz, told))
    known = rx_hz if rx_hz is not None else tx_hz
    if known is None:
        raise ShiftError("It has no frequency.")
    if tx_hz is not None and told == NOTHING:
        raise ShiftError("It tells where the repeater listens but not where it is heard.")
    away = 1 if rx_hz is not None else -1
    shift_hz, notes = _shift_hz(known, told, away, own_70cm_hz)
    return Pair(known, known + shift_hz, notes) if rx_hz is not None else Pair(known - shift_hz, known, notes)


def pair_told(rx_hz: int | None, tx_hz: int | None, size: Shift, direction: Shift, own_70cm_hz: int = 0) -> Pair:
    """The same where size and direction stand in columns of their own.

    Where both frequencies are told they count, and a size and a direction that say two ways are only said. Raises ShiftError.
    """
    try:
        told = joined(size, direction)
    except ShiftError as error:
        if rx_hz is None or tx_hz is None:
            raise
        return Pair(rx_hz, tx_hz, (f"{str(error).rstrip('.')}; the frequencies were taken",))
    return pair_of(rx_hz, tx_hz, told, own_70cm_hz)


def _against(shift_hz: int, told: Shift) -> tuple[str, ...]:
    """A word where the offset told is not the one between the two frequencies."""
    size = told.size_hz if told.size_hz is not None else abs(shift_hz)
    signs = told.sign is None or (told.sign > 0) - (told.sign < 0) == (shift_hz > 0) - (shift_hz < 0)
    if size == abs(shift_hz) and signs:
        return ()
    said = format_offset((told.sign or 1) * size) if told.size_hz is not None else "another direction"
    return (f"the offset says {said}, the two frequencies {format_offset(shift_hz)}; the frequencies were taken",)


def _shift_hz(known_hz: int, told: Shift, away: int, own_70cm_hz: int) -> tuple[int, tuple[str, ...]]:
    """The signed shift from receive to transmit. `away` is 1 when the receive frequency is known, -1 when the other is."""
    sign, size_hz = told
    if told == NOTHING or (sign == 0 and not size_hz):
        return 0, ()
    notes: list[str] = []
    band = band_at(WIDEST_BANDS, known_hz)
    if size_hz is None:
        size_hz = USUAL_2M_HZ if band and band.name == "2 m" else own_70cm_hz
        if not size_hz:
            raise ShiftError(
                "Only the sign of its offset is told, and on this band the size varies. Set the size in the layout."
            )
        notes.append(f"offset size taken as {format_mhz(size_hz)}")
    if not size_hz:
        return 0, ()
    if not sign:
        sign = _likely_sign(known_hz, size_hz, band, away, notes)
    return sign * size_hz, tuple(notes)


def _likely_sign(known_hz: int, size_hz: int, band: Band | None, away: int, notes: list[str]) -> int:
    """The direction that stays inside the band; minus where both do or neither. Either way it is said."""
    stays = {
        sign: band is not None and band_at(WIDEST_BANDS, known_hz + away * sign * size_hz) is band for sign in (-1, 1)
    }
    sign = 1 if stays[1] and not stays[-1] else -1
    word, other = ("plus", "minus") if sign > 0 else ("minus", "plus")
    why = f"{other} would leave the band" if stays[sign] and not stays[-sign] else f"{other} stays in the band too"
    notes.append(f"offset without a sign taken as {word}: {why}")
    return sign
