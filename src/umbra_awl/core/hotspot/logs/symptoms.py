"""From what one notices to the cause: a short row of questions, most of which the software answers from what it can see."""

from collections.abc import Mapping
from functools import cache
from pathlib import Path
from typing import Literal, NamedTuple

import msgspec

from umbra_awl.core.hotspot.logs.reading import LogReading
from umbra_awl.core.hotspot.match.sheet import MatchRow
from umbra_awl.core.hotspot.seek.talk import Status
from umbra_awl.core.keep.toml_form import from_toml

SHIPPED = Path(__file__).with_name("symptoms.toml")
FORMAT = "umbra-awl symptoms"
BER_BAD, LOSS_BAD = 3.0, 5.0
Answer = Literal["yes", "no"]


class SymptomsError(ValueError):
    """A file of symptoms that cannot be used; the message says why."""


class Ask(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A question; the answer `stop` ends the row with what it means and what to do."""

    question: str
    stop: Answer
    means: str
    todo: str
    page: str
    probe: str = ""


class Symptom(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What one notices, and its questions in order."""

    key: str
    words: str
    ask: tuple[Ask, ...]


class Symptoms(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A file of symptoms."""

    symptom: tuple[Symptom, ...]
    format: str = FORMAT
    version: int = 1


class AnsweredAsk(NamedTuple):
    """A question with its answer, and whether the software saw that itself."""

    ask: Ask
    answer: Answer | None
    seen: bool


class Walk(NamedTuple):
    """How far the questions have come: those answered, the one that is open, and the end, where there is one."""

    asked: tuple[AnsweredAsk, ...]
    open: Ask | None
    end: Ask | None


def parse_symptoms(text: str, source: str = "The symptoms") -> Symptoms:
    """The symptoms in a TOML text. Raises SymptomsError."""
    return from_toml(text, Symptoms, (FORMAT, 1), source, SymptomsError)


@cache
def shipped_symptoms() -> Symptoms:
    """The symptoms that come with the application."""
    return parse_symptoms(SHIPPED.read_text("utf-8"), SHIPPED.name)


def walk(symptom: Symptom, seen: Mapping[str, bool], told: Mapping[str, Answer]) -> Walk:
    """Go along a symptom's questions with what is seen (by probe) and what was answered (by question)."""
    asked: list[AnsweredAsk] = []
    for ask in symptom.ask:
        by_itself = ask.probe in seen
        answer: Answer | None = ("yes" if seen[ask.probe] else "no") if by_itself else told.get(ask.question)
        asked.append(AnsweredAsk(ask, answer, by_itself))
        if answer is None:
            return Walk(tuple(asked), ask, None)
        if answer == ask.stop:
            return Walk(tuple(asked), None, ask)
    return Walk(tuple(asked), None, None)


class Sights(NamedTuple):
    """What the software can look at; None where it is not known."""

    status: Status | None = None
    log: LogReading | None = None
    rows: tuple[MatchRow, ...] = ()
    page: bool | None = None
    may_transmit: bool | None = None
    wifi_name: bool | None = None
    wifi_band: bool | None = None
    ur: bool | None = None
    ber: float | None = None


def probes(sights: Sights) -> dict[str, bool]:
    """The answers that follow from what can be seen; a probe about which nothing is known is not there."""
    faults = {item.rule.meant for item in sights.log.faults} if sights.log is not None else set()
    known: dict[str, bool | None] = {
        "page": sights.page,
        "frequency": None if sights.log is None else "frequency-refused" not in faults,
        "modem": _modem(sights, faults),
        "modes": None if sights.log is None else "no-mode" not in faults,
        "logged-in": _logged_in(sights, faults),
        "match": not any(row.cut for row in sights.rows) if any(_known(row) for row in sights.rows) else None,
        "hears-on": _row(sights.rows, "rx_hz"),
        "may-transmit": sights.may_transmit,
        "wifi-name": sights.wifi_name,
        "wifi-band": sights.wifi_band,
        "ur": sights.ur,
        "ber": sights.ber < BER_BAD if sights.ber is not None else None,
        "echo": True if sights.log is not None and any(item.way == "echo" for item in sights.log.calls) else None,
        "line": True if sights.ber is not None else None,
        "loss": _loss(sights.log),
    }
    return {name: value for name, value in known.items() if value is not None}


def _modem(sights: Sights, faults: set[str]) -> bool | None:
    if faults & {"wrong-modem", "port-busy", "firmware-old"}:
        return False
    if sights.status is not None and sights.status.up:
        return sights.status.modem == "ready"
    return None


def _logged_in(sights: Sights, faults: set[str]) -> bool | None:
    if any(key.startswith("login") or key in {"not-resolved", "no-network"} for key in faults):
        return False
    return sights.status.logged_in if sights.status is not None and sights.status.up else None


def _known(row: MatchRow) -> bool:
    return row.to_radio != "open" or row.to_hotspot != "open"


def _row(rows: tuple[MatchRow, ...], key: str) -> bool | None:
    row = next((item for item in rows if item.field.key == key), None)
    return None if row is None or not _known(row) else not row.cut


def _loss(log: LogReading | None) -> bool | None:
    told = [item.loss for item in log.calls[:20] if item.loss is not None] if log is not None else []
    return sum(told) / len(told) > LOSS_BAD if told else None
