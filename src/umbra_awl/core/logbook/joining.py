"""Entries of another log joined to one's own: what is there already is left, what could not be taken is told."""

from collections.abc import Iterable
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.logbook.adif import Fault, Imported, read_adif
from umbra_awl.core.logbook.model import Entry

_TOLD = 4
CONFIRMED = frozenset({"Y", "V"})
"""ADIF's words for a confirmation that came (“QSL_RCVD”): yes, and verified."""


class Joined(NamedTuple):
    """What is new, how many were there already, what could not be taken, and entries that the other side has now confirmed."""

    fresh: tuple[Entry, ...]
    doubled: int
    faults: tuple[Fault, ...]
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
    """What of some entries is new: the same call in the same minute and mode is the same contact.

    One that is there already, and comes confirmed, confirms it.
    """
    known = {_mark(item): item for item in held}
    fresh: list[Entry] = []
    confirmed: dict[str, Entry] = {}
    doubled = 0
    for item in found.entries:
        mark = _mark(item)
        there = known.get(mark)
        if there is None:
            known[mark] = item
            fresh.append(item)
            continue
        doubled += 1
        if item.confirmed.upper() in CONFIRMED and there.confirmed.upper() not in CONFIRMED and there not in fresh:
            confirmed[there.key] = replace(there, confirmed=item.confirmed)
    return Joined(tuple(fresh), doubled, found.faults, tuple(confirmed.values()))


def _mark(item: Entry) -> tuple[str, str, str, str]:
    return item.call.upper(), item.utc[:16], item.mode or item.more.get("MODE", ""), item.route
