"""Entries of another log joined to one's own: what is there already is left, what could not be taken is told."""

from collections.abc import Iterable
from typing import NamedTuple

from umbra_awl.core.logbook.adif import Fault, Imported, read_adif
from umbra_awl.core.logbook.model import Entry

_TOLD = 4


class Joined(NamedTuple):
    """What is new, how many were there already, and what could not be taken."""

    fresh: tuple[Entry, ...]
    doubled: int
    faults: tuple[Fault, ...]

    @property
    def words(self) -> str:
        """All of it in a sentence or two."""
        parts = [f"{len(self.fresh):,} new entries"]
        if self.doubled:
            parts.append(f"{self.doubled:,} were there already")
        if self.faults:
            told = "; ".join(f"record {item.number}: {item.words}" for item in self.faults[:_TOLD])
            more = f", and {len(self.faults) - _TOLD:,} more" if len(self.faults) > _TOLD else ""
            parts.append(f"{len(self.faults):,} with something wrong ({told}{more})")
        if not self.fresh and not self.doubled and not self.faults:
            return "There is no ADIF record in the file."
        return ", ".join(parts) + "."


def read_file(data: bytes, taken: Iterable[str] = ()) -> Imported:
    """The entries in an ADIF file's bytes; what is no UTF-8 is read as Latin-1, which many programs write."""
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("latin-1")
    return read_adif(text, taken)


def join(held: Iterable[Entry], found: Imported) -> Joined:
    """What of some entries is new: the same call in the same minute and mode is the same contact."""
    known = {_mark(item) for item in held}
    fresh = []
    doubled = 0
    for item in found.entries:
        mark = _mark(item)
        if mark in known:
            doubled += 1
        else:
            known.add(mark)
            fresh.append(item)
    return Joined(tuple(fresh), doubled, found.faults)


def _mark(item: Entry) -> tuple[str, str, str, str]:
    return item.call.upper(), item.utc[:16], item.mode or item.more.get("MODE", ""), item.route
