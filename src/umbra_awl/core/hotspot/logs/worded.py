"""Calls in the lines of logs that no rule knows: told by the pieces that every log of calls has, in whatever order and words.

A line is a call where somebody's call sign stands in it, how long it took, and either where it went or a word for speaking. What
it does not tell is left open: where nothing says that it came by radio, it is not taken for heard.
"""

import re
from collections.abc import Sequence
from typing import NamedTuple

_SIGN = re.compile(
    r"(?<![A-Za-z0-9/])((?:[A-Z0-9]{1,4}/)?(?:[A-Z]{1,2}|[A-Z][0-9]|[0-9][A-Z]{1,2})[0-9][A-Z]{1,5}(?:/[A-Z0-9]{1,4})?)(?![A-Za-z0-9])"
)
_NO_SIGN = re.compile(r"C4FM|D\d{3}[NIR]|[A-Z]\d[A-Z]?B|UTC\d|H\d+[A-Z]")
_PASSED = re.compile(
    r"(?:via|through|over|rpt\s?1?|rpt\s?2|gateway|gw|host|node|spot|hotspot|über|durch)\W{0,3}$", re.IGNORECASE
)
_NUMBER = r"(\d+(?:[.,]\d+)?)"
_UNITS = r"(?:s|secs?|seconds?|sek\w*|seg\w*|secondes?|secondi|seconden|sekunden)"
_SECONDS = (
    re.compile(rf"\b(?:dur\w*|length|len|secs?|seconds|dauer|durée|zeit)\W{{0,4}}{_NUMBER}", re.IGNORECASE),
    re.compile(rf"(?<![\w.:]){_NUMBER}\s*{_UNITS}\b", re.IGNORECASE),
)
_BER = (
    re.compile(
        rf"\b(?:ber|bit ?errors?(?: rate)?|error rate|errors?|bitfehler\w*|fehlerrate|fehler)\W{{0,4}}{_NUMBER}",
        re.IGNORECASE,
    ),
    re.compile(rf"(?<![\w.]){_NUMBER}\s*%\s*(?:ber|bit ?errors?|errors?|bitfehler\w*|fehler)\b", re.IGNORECASE),
)
_LOSS_WORDS = r"(?:packet ?loss|packets? lost|loss|lost|verlust\w*|verloren|pertes?|pérdidas?|perdite|perdita|verlies)"
_LOSS = (
    re.compile(rf"\b{_LOSS_WORDS}\W{{0,4}}{_NUMBER}", re.IGNORECASE),
    re.compile(rf"(?<![\w.]){_NUMBER}\s*%\s*{_LOSS_WORDS}", re.IGNORECASE),
)
_SLOT = (re.compile(r"\b(?:slot|ts|time ?slot|zeitschlitz|créneau|ranura)\W{0,3}([12])\b", re.IGNORECASE),)
_ID = (re.compile(r"(?<!\d)(\d{7,9})(?!\d|[.:])"),)
_GROUP_WORDS = (
    r"(?:tg|talk ?group|group|gruppe|sprechgruppe|groupe|grupo|gruppo|groep|room|raum|salle|sala|reflector|reflektor)"
)
_TO = (
    re.compile(rf"\b{_GROUP_WORDS}\W{{0,4}}(\d{{1,8}})\b", re.IGNORECASE),
    re.compile(
        r"(?:->|→|=>|\bto\b|\bdst\b|\bdest(?:ination)?\b|\btarget\b|\ban\b|\bvers\b)\W{0,4}(\d{1,8}|CQCQCQ|[A-Z0-9]{4,8})\b",
        re.IGNORECASE,
    ),
    re.compile(r"\bdg-?id\W{0,3}(\d{1,2})\b", re.IGNORECASE),
)
_SPEAKS = re.compile(
    r"\b(?:voice|calls?|called|talk\w*|transmission|over|heard|speech|spoke|audio|qso|rx|key(?:ed)?[- ]?up|header|rf|gehört|"
    r"durchgang|sprach|gesprochen|appel|entendu|llamada|escuchad\w+|chiamata|ascoltat\w+|oproep|gehoord|chamada)\b",
    re.IGNORECASE,
)
_ENDS = re.compile(
    r"\b(?:end(?:ed|s)? of (?:\w+ )?(?:voice|transmission|call|over|audio)|"
    r"(?:voice|call|transmission|over|audio) (?:end\w*|finished|over|stop\w*)|"
    r"ende (?:des )?(?:durchgang\w*|ruf\w*)|fin d\w*)\b",
    re.IGNORECASE,
)
_STARTS = re.compile(
    r"\b(?:header|(?:voice|call|transmission|over|audio) (?:start\w*|begin\w*|began)|start of (?:voice|transmission|call)|"
    r"begin(?:ning)? of (?:voice|transmission|call)|beginn (?:des )?(?:durchgang\w*|ruf\w*))\b",
    re.IGNORECASE,
)
_NOT_A_CALL = re.compile(
    r"\b(?:refused|rejected|denied|failed|failure|retry\w*|reconnect\w*|login|logged|connecting|waiting|unreachable|abgelehnt|"
    r"fehlgeschlagen|wait|nothing|nobody|not heard|no (?:call|voice|signal)s?)\b",
    re.IGNORECASE,
)
_NETWORK = re.compile(
    r"\b(?:network|net|internet|incoming|gateway|remote|netz\w*|réseau|red|rete|netwerk)\b", re.IGNORECASE
)
_RADIO = re.compile(r"\b(?:rf|radio|local|air|heard|funk\w*|hf|modem|antenna|gehört|entendu)\b", re.IGNORECASE)
_ECHO = re.compile(r"\becho\b", re.IGNORECASE)
_MODES: tuple[tuple[str, re.Pattern[str]], ...] = (
    ("fusion", re.compile(r"\b(?:c4fm|fusion|dg-?id)\b", re.IGNORECASE)),
    ("dstar", re.compile(r"\b(?:d-?star|dv)\b|CQCQCQ|\burcall\b|\brpt1\b", re.IGNORECASE)),
    ("dmr", re.compile(r"\b(?:dmr|tg|talk ?group|slot|ts|color code)\b", re.IGNORECASE)),
)  # fmt: skip
BACK = 60
"""So many lines before its end is the beginning of a call looked for."""


class WordedCall(NamedTuple):
    """What a line tells of a call, as text; empty where it tells nothing. `way` is the key of the rule it is like."""

    mode: str
    call: str
    to: str
    seconds: str
    way: str
    loss: str
    ber: str
    slot: str
    id: str


def is_call(line: str) -> bool:
    """Whether a line tells of a whole call, or ends one that began in a line before. Any digit may be a 0."""
    if _NOT_A_CALL.search(line) or not _first(_SECONDS, line):
        return False
    return _ENDS.search(line) is not None or bool(_caller(line) and (_first(_TO, line) or _SPEAKS.search(line)))


def begins_call(line: str) -> bool:
    """Whether a line only tells that somebody begins to speak: its end tells the rest."""
    return _STARTS.search(line) is not None and bool(_caller(line)) and not _first(_SECONDS, line)


def worded_call(lines: Sequence[str], at: int) -> WordedCall | None:
    """The call that a line tells of, filled up by the line that began it; None where nobody's call sign is in either."""
    line = lines[at]
    begun = _begun(lines, at)
    call = _caller(line) or _caller(begun)
    if not call:
        return None
    both = f"{line} {begun}"
    mode = next((name for name, shape in _MODES if shape.search(both)), "")
    ber, loss = _first(_BER, line), _first(_LOSS, line)
    return WordedCall(
        mode or ("dmr" if _first(_TO, both).isdecimal() else ""),
        call,
        _first(_TO, line) or _first(_TO, begun),
        _first(_SECONDS, line),
        _way(line, ber, loss) or _way(begun, "", ""),
        loss,
        ber,
        _first(_SLOT, line) or _first(_SLOT, begun),
        _first(_ID, line) or _first(_ID, begun),
    )


def _begun(lines: Sequence[str], at: int) -> str:
    """The line that began the call which ends here: of the same caller, or on the same slot where the end names nobody."""
    call, slot = _caller(lines[at]), _first(_SLOT, lines[at])
    if not _ENDS.search(lines[at]):
        return ""
    for line in reversed(lines[max(0, at - BACK) : at]):
        if begins_call(line) and (_caller(line) == call if call else _first(_SLOT, line) == slot):
            return line
    return ""


def _first(shapes: Sequence[re.Pattern[str]], line: str) -> str:
    found = next((match for shape in shapes if (match := shape.search(line)) is not None), None)
    return found[1].replace(",", ".") if found is not None else ""


def _caller(line: str) -> str:
    """The call sign of who speaks: the first one that is no hotspot passed through."""
    for found in _SIGN.finditer(line.upper()):
        if not _NO_SIGN.fullmatch(found[1]) and not _PASSED.search(line[: found.start()]):
            return found[1]
    return ""


def _way(line: str, ber: str, loss: str) -> str:
    if _ECHO.search(line):
        return "echo"
    air, net = _RADIO.search(line), _NETWORK.search(line)
    if air is not None and net is not None:
        return "call-heard" if air.start() < net.start() else "call-network"
    if air is not None or net is not None:
        return "call-heard" if air is not None else "call-network"
    return "call-heard" if ber and not loss else ""
