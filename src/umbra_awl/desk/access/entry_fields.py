"""The fields of a directory's entry, editable in place; what is typed is kept as a private edit beside the imported value."""

from collections.abc import Callable
from typing import Any

from umbra_awl.core.directory.lists.values import parse_day
from umbra_awl.core.directory.openers import OPENERS
from umbra_awl.core.directory.store import StoredEntry
from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.facts.earth import format_position, parse_position
from umbra_awl.core.facts.frequency import format_mhz, format_offset, parse_hz, parse_offset_hz
from umbra_awl.core.facts.modes import SHORT_WORDS
from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.model import AccessPoint, Service
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.parts.cards.fields import RULE, Field

_TAKE_BACK = "An empty value takes your edit back"


class EntryFields:
    """Makes the fields of one entry."""

    def __init__(self, directory: Directory, entry: StoredEntry) -> None:
        self._directory = directory
        self._entry = entry
        self._edits = directory.store.edits_of(entry.key) if entry.edited else {}
        self._imported = directory.store.imported(entry.key) if entry.edited else None

    def fields(self) -> list[Field]:
        """All of them."""
        access = self._entry.access
        found = [
            self._field("Call sign", "call", access.call, _call, mono=True),
            self._field("Site", "site", access.site, str),
            self._field("Place", "place", access.place, str),
        ]
        for service in access.services:
            found += [RULE, *self._service(service)]
        found += [
            RULE,
            self._position(access),
            self._field("Confirmed", "confirmed", access.confirmed, parse_day, shown=access.confirmed or "never"),
            Field("My note", self._entry.note or "none", commit=self._note, text=self._entry.note),
        ]
        if access.note:
            found.append(Field("Remark", access.note))
        found.append(Field("From", f"{self._entry.source}, {self._entry.seen}"))
        return found

    def _service(self, service: Service) -> list[Field]:
        mode, key = SHORT_WORDS[service.mode], service.key
        offset = service.tx_hz - service.rx_hz
        sent = (
            f"{format_mhz(service.tx_hz)}  {format_offset(offset)}"
            if offset
            else f"{format_mhz(service.tx_hz)}  simplex"
        )
        return [
            self._field(f"{mode} heard", f"{key}/rx_hz", format_mhz(service.rx_hz), parse_hz, mono=True),
            self._field(
                f"{mode} sent", f"{key}/tx_hz", format_mhz(service.tx_hz), _sent(service), shown=sent, mono=True
            ),
            self._opens(service),
        ]

    def _opens(self, service: Service) -> Field:
        mode, (field, read) = mode_of(service), OPENERS[service.mode]
        text = mode.opener(service.air)
        label = mode.opened_by[0].upper() + mode.opened_by[1:]
        return self._field(label, f"{service.key}/air/{field}", text, read, shown=text or "none", mono=True)

    def _field(
        self, label: str, path: str, text: str, read: Callable[[str], Any], *, shown: str = "", mono: bool = False
    ) -> Field:
        mine = path in self._edits
        tip = f"Yours. {_TAKE_BACK}." if mine else "Click, Enter or F2 to change; the directory's own value is kept."
        return Field(
            label,
            (shown or text) + ("  (yours)" if mine else ""),
            mono,
            commit=self._commit(path, read),
            text=text,
            tip=tip,
        )

    def _commit(self, path: str, read: Callable[[str], Any]) -> Callable[[str], str]:
        def commit(text: str) -> str:
            try:
                value = read(text) if text else None
            except ValueError as error:
                return str(error)
            self._directory.own.set_private(self._entry.key, path, value)
            return ""

        return commit

    def _position(self, access: AccessPoint) -> Field:
        text = format_position(access.lat, access.lon) if access.lat is not None and access.lon is not None else ""
        mine = "lat" in self._edits

        def commit(typed: str) -> str:
            try:
                lat, lon = parse_position(typed) if typed else (None, None)
            except ValueError as error:
                return str(error)
            key = self._entry.key
            self._directory.own.set_private(key, "lat", lat)
            self._directory.own.set_private(key, "lon", lon)
            return ""

        return Field("Position", (text or "none") + ("  (yours)" if mine else ""), commit=commit, text=text)

    def _note(self, text: str) -> str:
        self._directory.own.set_note(self._entry.key, text)
        return ""


def _call(text: str) -> str:
    call = tidy_call_sign(text)
    fault = call_sign_fault(call)
    if fault:
        raise ValueError(fault)
    return call


def _sent(service: Service) -> Callable[[str], int]:
    def read(text: str) -> int:
        signed = text[:1] in {"+", "-", "−"}
        return service.rx_hz + parse_offset_hz(text) if signed else parse_hz(text)

    return read
