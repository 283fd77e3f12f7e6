"""Entries of another log joined to one's own: what is there already is left, what could not be taken is told."""

from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.logbook.adif import AdifFault, Imported, read_adif
from umbra_awl.core.logbook.model import Entry

_TOLD = 4
_MINUTE, _CLOCKS_MIN, _TWO = len("2026-11-27T10:00"), 15, 2
CONFIRMED = frozenset({"Y", "V"})
"""ADIF's words for a confirmation that came (“QSL_RCVD”): yes, and verified."""


class Joined(NamedTuple):
    """What is new, how many were there already, what could not be taken, and entries that the other side has now confirmed."""

    fresh: tuple[Entry, ...]
    doubled: int
    faults: tuple[AdifFault, ...]
    confirmed: tuple[Entry, ...] = ()

    @property
    def moved(self) -> tuple[Entry, ...]:
        """All that is to be written."""
        return (*self.fresh, *self.confirmed)

    @property
    def words(self) -> str:
        """All of it in a sentence or two."""
        parts = [f"{len(self.fresh):,} new entries"]
        if self.doubled:
            parts.append(f"{self.doubled:,} were there already")
        if self.confirmed:
            parts.append(f"{len(self.confirmed):,} confirmed by the other side")
        if self.faults:
            told = "; ".join(f"record {item.number}: {item.words}" for item in self.faults[:_TOLD])
            more = f", and {len(self.faults) - _TOLD:,} more" if len(self.faults) > _TOLD else ""
            parts.append(f"{len(self.faults):,} with something wrong ({told}{more})")
        if not self.fresh and not self.doubled and not self.faults:
            return "There is no record in the file."
        return ", ".join(parts) + "."


def read_file(data: bytes, taken: Iterable[str] = ()) -> Imported:
    """The entries in an ADIF file's bytes; what is no UTF-8 is read as Latin-1, which many programs write."""
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("latin-1")
    return read_adif(text, taken)


def join(held: Iterable[Entry], found: Imported) -> Joined:
    """What of some entries is new: the same call in the same minute, by no other mode or route, is the same contact.

    One that is there already, and comes confirmed, confirms it. A confirmation by another clock, up to a quarter of an hour
    away, confirms the one contact there that it can mean.
    """
    known = _Known(held)
    fresh: list[Entry] = []
    doubled = 0
    late: list[Entry] = []
    for item in found.entries:
        if (there := known.same(item)) is not None:
            doubled += 1
            known.confirm(there, item)
        elif _is_confirmed(item) and item.call:
            late.append(item)
        else:
            fresh.append(item)
            known.add(item)
    for item in late:
        meant = known.meant(item)
        if meant is None:
            fresh.append(item)
            known.add(item)
        else:
            doubled += 1
            known.confirm(meant, item)
    order = {item.key: at for at, item in enumerate(found.entries)}
    fresh.sort(key=lambda item: order[item.key])
    return Joined(tuple(fresh), doubled, found.faults, tuple(known.confirmed.values()))


def _is_confirmed(item: Entry) -> bool:
    return item.confirmed.strip().upper() in CONFIRMED


class _Known:
    """Entries that are there, by call and minute; those that were held can be confirmed."""

    def __init__(self, held: Iterable[Entry]) -> None:
        self.confirmed: dict[str, Entry] = {}
        self._held: set[str] = set()
        self._at: dict[tuple[str, str], list[Entry]] = {}
        for item in held:
            self._held.add(item.key)
            self.add(item)

    def add(self, item: Entry) -> None:
        self._at.setdefault((item.call.upper(), item.utc[:_MINUTE]), []).append(item)

    def same(self, item: Entry) -> Entry | None:
        """The entry of the same contact."""
        there = self._at.get((item.call.upper(), item.utc[:_MINUTE]), ())
        return next((one for one in there if _alike(one, item)), None)

    def meant(self, item: Entry) -> Entry | None:
        """The one entry held that a confirmation by another clock can mean; None for none, and where there are several."""
        try:
            at = datetime.fromisoformat(item.utc)
        except ValueError:
            return None
        near = (at + timedelta(minutes=by) for by in range(-_CLOCKS_MIN, _CLOCKS_MIN + 1))
        found = [
            one
            for moment in near
            for one in self._at.get((item.call.upper(), f"{moment:%Y-%m-%dT%H:%M}"), ())
            if _alike(one, item) and self._open(one)
        ]
        return found[0] if len(found) == 1 else None

    def _open(self, one: Entry) -> bool:
        return one.key in self._held and one.key not in self.confirmed and not _is_confirmed(one)

    def confirm(self, there: Entry, item: Entry) -> None:
        """Take a confirmation over, where there is none yet."""
        if _is_confirmed(item) and self._open(there):
            self.confirmed[there.key] = replace(there, confirmed=item.confirmed)


def _alike(one: Entry, other: Entry) -> bool:
    """Whether mode and route are the same, as far as both say; without a call the route must be the same."""
    modes = {item.mode or item.more.get("MODE", "") for item in (one, other)} - {""}
    routes = {one.route, other.route}
    return len(modes) < _TWO and len(routes - {""} if one.call else routes) < _TWO
