"""Which column of a list is what a repeater sends and one hears, and which is what it listens to: by evidence, told, else asked.

“TX” is the repeater's in one list and the radio's in the next, and neither the words nor the order of columns tell which. What
tells: words that are plain (output, input, the repeater's own), the sign of an offset beside, where repeaters of the regions
send, and repeaters that are known already.
"""

import re
from collections.abc import Callable, Sequence
from typing import NamedTuple

from umbra_awl.core.directory.lists.values import parse_any_hz
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.frequency import FrequencyError
from umbra_awl.core.facts.repeaters import USUAL_OFFSETS_HZ
from umbra_awl.core.facts.segments import usual_way
from umbra_awl.core.facts.shift import NOTHING, ShiftError, joined, read_direction, read_shift
from umbra_awl.core.facts.tones import is_tone
from umbra_awl.core.tables.headings import plain_words

SPANS_MHZ = ((28, 30), (50, 54), (70, 71), (136, 174), (219, 226), (400, 480), (902, 928), (1_240, 1_300))
_MOST_SHARE = 0.7
_CLEAR = 0.8
_WIDEST_SHIFT_HZ = 60_000_000
Known = Callable[[str], Sequence[tuple[int, int]]]
"""The pairs, heard and sent on, of the repeater that is known by a call sign; none where there is none."""

_OUT = frozenset(
    """
    output outputs out ausgabe ausgabefrequenz ausgang ausgangsfrequenz ausgangston sortie salida uscita uitgang
    uitgangsfrequentie saida downlink heard hear listen listening hoeren horen
    """.split()
)
_IN = frozenset(
    """
    input inputs in eingabe eingabefrequenz eingang eingangsfrequenz eingangston entree entrada ingresso ingang ingangsfrequentie
    uplink talk
    """.split()
)
_SENDS = """
    tx transmit transmission transmitter senden sende sender sendefrequenz emission emettre emetteur emision transmision
    trasmissione trasmettere zenden zend zendfrequentie transmissao emissao tr
    """.split()
_HEARS = """
    rx receive receiver reception recevoir recepteur empfang empfangen empfaenger empfangsfrequenz recepcion ricezione
    ricevere ontvangst ontvang ontvangen ontvangstfrequentie recepcao rec
    """.split()
_REPEATERS = frozenset(
    """
    repeater repeaters rptr rpt relais relaisstation relay repeteur repetidor repetidora ripetitore umsetzer
    repeaterstation
    """.split()
)
_USERS = frozenset(
    """
    user users mobile radio handheld handy my own station nutzer benutzer funkgeraet geraet utilisateur poste usuario
    movil utente mobiele gebruiker utilizador
    """.split()
)


class Columns(NamedTuple):
    """The first rows of a list: its headings, and its rows of as many cells each."""

    headers: Sequence[str]
    rows: Sequence[Sequence[str]]

    def values(self, at: int) -> list[str]:
        """What stands in a column, blanks left out."""
        return [cells[at].strip() for cells in self.rows if cells[at].strip()]


class Sides(NamedTuple):
    """The columns of what is heard and of what is sent on, how that was found, or what has to be asked.

    Without any column of frequencies, or with one of which nobody doubts, `how` and `asks` are both empty.
    """

    heard: str = ""
    sent: str = ""
    how: str = ""
    asks: str = ""


def sides_of(
    columns: Columns,
    offset: str = "",
    sign: str = "",
    call: str = "",
    known: Known | None = None,
) -> Sides:
    """Which is which of a list's columns of frequencies. `offset`, `sign` and `call` are headings."""
    found = frequency_columns(columns)
    if not found:
        return Sides()
    meant = {at: meant_by(columns.headers[at]) for at in found}
    if len(found) == 1:
        only = columns.headers[found[0]]
        return Sides(sent=only) if meant[found[0]] == "in" else Sides(heard=only)
    outs, ins = ([at for at in found if meant[at] == side] for side in ("out", "in"))
    if len(outs) == 1 and len(ins) == 1:
        return Sides(columns.headers[outs[0]], columns.headers[ins[0]])
    if len(found) > 2:
        found = _two_of(found, columns, outs, ins)
        if len(found) != 2:
            return Sides(asks=_several(columns, found))
    if len(outs) == 1 or len(ins) == 1:
        one = outs[0] if outs else ins[0]
        other = next(at for at in found if at != one)
        pair = (one, other) if outs else (other, one)
        return Sides(columns.headers[pair[0]], columns.headers[pair[1]], _rest(columns, one, other, outs))
    return _by_evidence(columns, found, _Beside(offset, sign, call, known))


def frequency_columns(columns: Columns) -> list[int]:
    """The places of columns that hold frequencies; tones look like some on 2 m and are none."""
    return [at for at in range(len(columns.headers)) if _holds_frequencies(columns.values(at))]


def _holds_frequencies(values: list[str]) -> bool:
    if not values:
        return False
    good = [value for value in values if is_frequency(value)]
    tones = [value for value in good if is_tone(value.replace(",", "."))]
    return len(good) >= _MOST_SHARE * len(values) and len(tones) * 2 < len(good)


def is_frequency(text: str) -> bool:
    """Whether a text is a frequency on which amateurs' repeaters may be."""
    hz = _hz(text)
    return hz is not None and any(low <= hz / 1e6 <= high for low, high in SPANS_MHZ)


_USUAL_SHIFTS_HZ = frozenset({0, 100_000, 500_000, 1_000_000, *(hz for row in USUAL_OFFSETS_HZ.values() for hz in row)})


def is_usual_shift(text: str) -> bool:
    """Whether a text is one of the shifts that repeaters have, and written as one: with a sign, a unit or decimals."""
    try:
        found = read_shift(text)
    except ShiftError:
        return False
    return found.size_hz in _USUAL_SHIFTS_HZ and re.search(r"[-+−–.,]|hz|simplex", text, re.IGNORECASE) is not None


def _hz(text: str) -> int | None:
    try:
        return parse_any_hz(text)
    except FrequencyError:
        return None


def meant_by(heading: str) -> str:
    """What a heading says: “out” or “in” where that is plain, “tx” or “rx” where it says no more, else nothing."""
    parts = plain_words(re.sub(r"([a-z])([A-Z])", r"\1 \2", heading[:120])).split()
    plain = set(parts)
    joined_up = "".join(parts)
    if plain & _OUT and not plain & _IN:
        return "out"
    if plain & _IN and not plain & _OUT:
        return "in"
    sends = any(word in plain or (len(word) > 3 and word in joined_up) for word in _SENDS)
    hears = any(word in plain or (len(word) > 3 and word in joined_up) for word in _HEARS)
    if sends == hears:
        return ""
    of_repeater, of_user = bool(plain & _REPEATERS), bool(plain & _USERS)
    if of_repeater != of_user:
        return "out" if sends == of_repeater else "in"
    return "tx" if sends else "rx"


def sends_from_repeater(heading: str) -> bool:
    """Whether the column of what is heard is headed as what somebody sends: then “TX” means the repeater's in that list."""
    meant = meant_by(heading)
    sends = any(word in plain_words(heading[:120]).split() for word in _SENDS)
    return meant == "tx" or (meant == "out" and sends)


def _two_of(found: list[int], columns: Columns, outs: list[int], ins: list[int]) -> list[int]:
    """The two that are a pair out of several: by plain words, else by TX and RX, else those that lie apart as pairs do."""
    for chosen in ((*outs, *ins), [at for at in found if meant_by(columns.headers[at]) in {"tx", "rx"}]):
        if len(chosen) == 2:
            return list(chosen)
    return found


def _several(columns: Columns, found: list[int]) -> str:
    names = ", ".join(f"“{columns.headers[at]}”" for at in found[:5])
    many = counted(len(found), "column")
    return f"{many} hold frequencies ({names}). Choose the one that is heard, and the one that is sent on."


def _rest(columns: Columns, one: int, other: int, outs: list[int]) -> str:
    told, taken = ("what is heard", "what is sent on") if outs else ("what is sent on", "what is heard")
    return f"“{columns.headers[one]}” is {told}, so “{columns.headers[other]}” was taken as {taken}."


class _Beside(NamedTuple):
    offset: str
    sign: str
    call: str
    known: Known | None


class _Votes(NamedTuple):
    """How many rows speak for the first of two columns as what is heard, and how many against it."""

    first: int
    second: int

    @property
    def side(self) -> int:
        """0 or 1: which of both is heard, by most of all that speak; −1 where they do not agree, or nothing speaks."""
        both = self.first + self.second
        if not both:
            return -1
        return 0 if self.first >= _CLEAR * both else 1 if self.second >= _CLEAR * both else -1


def _by_evidence(columns: Columns, found: list[int], beside: _Beside) -> Sides:
    one, other = found
    names = columns.headers[one], columns.headers[other]
    pairs = [(row, a, b) for row in columns.rows if (a := _hz(row[one])) and (b := _hz(row[other])) and a != b]
    pairs = [(row, a, b) for row, a, b in pairs if abs(a - b) <= _WIDEST_SHIFT_HZ]
    places = {name: at for at, name in enumerate(columns.headers)}
    for votes, why in (
        (_by_known(pairs, places.get(beside.call), beside.known), "repeaters that are known already say so"),
        (_by_offset(pairs, places.get(beside.offset), places.get(beside.sign)), "the offset beside has that sign"),
        (_by_place(pairs), "repeaters send there"),
    ):
        if votes.side >= 0:
            heard, sent = names[votes.side], names[1 - votes.side]
            count = max(votes)
            rows = counted(count, "line")
            return Sides(
                heard, sent, f"“{heard}” is what is heard, “{sent}” what is sent on: {why} ({rows} looked at)."
            )
    return Sides(
        asks=f"“{names[0]}” and “{names[1]}” both hold frequencies, and nothing tells which of them the repeater sends on. "
        "Choose the column that is heard, and the one that is sent on."
    )


def _by_known(pairs: list[tuple[Sequence[str], int, int]], call_at: int | None, known: Known | None) -> _Votes:
    first = second = 0
    if known is not None and call_at is not None:
        for row, a, b in pairs:
            held = known(row[call_at].strip().upper())
            first += (a, b) in held
            second += (b, a) in held
    return _Votes(first, second)


def _by_offset(pairs: list[tuple[Sequence[str], int, int]], offset_at: int | None, sign_at: int | None) -> _Votes:
    first = second = 0
    for row, a, b in pairs:
        try:
            size = read_shift(row[offset_at]) if offset_at is not None else NOTHING
            told = joined(size, read_direction(row[sign_at]) if sign_at is not None else NOTHING)
        except ShiftError:
            continue
        if told.sign:
            agrees = (b - a > 0) == (told.sign > 0)
            first, second = first + agrees, second + (not agrees)
    return _Votes(first, second)


def _by_place(pairs: list[tuple[Sequence[str], int, int]]) -> _Votes:
    ways = [usual_way(a, b) for _row, a, b in pairs]
    return _Votes(ways.count(1), ways.count(-1))
