"""The dated saves of a plan: true copies, never two of one name, let go by age and never many at once.

Kept are all of the last hour, one an hour for a day, one a day for a month, one a month after that, and the first of all.
Their order is their number, not their date, so a clock that is set back does no harm; and since at most two go at one save, a
clock that is far ahead for a while does little.
"""

from collections.abc import Iterable
from datetime import datetime, timedelta
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.facts.late_pattern import LatePattern
from umbra_awl.core.keep.atomic import write_new

SUFFIX = ".awl.json"
_STAMP = "%Y-%m-%d %H.%M.%S"
_NAME = LatePattern(r"(\d{4}-\d\d-\d\d \d\d\.\d\d\.\d\d)(?: no (\d{1,9}))?")
_MOST_GONE = 2
_HOUR, _DAY, _MONTH = timedelta(hours=1), timedelta(days=1), timedelta(days=31)


class Save(NamedTuple):
    """An older save of a plan: its file, its date in words, its date, its number in order."""

    path: Path
    when: str
    at: datetime
    number: int


def history_folder(path: Path) -> Path:
    """Where the dated saves of a plan file lie."""
    return path.with_name(path.name.removesuffix(SUFFIX) + ".saves")


def list_saves(path: Path) -> list[Save]:
    """The dated saves of a plan file, newest first; empty when there are none."""
    folder = history_folder(path)
    found = (
        [save for item in folder.glob(f"*{SUFFIX}") if (save := _save_of(item)) is not None] if folder.is_dir() else []
    )
    return sorted(found, key=lambda save: (save.number, save.at), reverse=True)


def _save_of(path: Path) -> Save | None:
    shape = _NAME.fullmatch(path.name.removesuffix(SUFFIX))
    if shape is None:
        return None
    try:
        at = datetime.strptime(shape[1], _STAMP)
    except ValueError:
        return None
    return Save(path, shape[1].replace(".", ":"), at, int(shape[2] or 0))


def keep_save(path: Path, data: bytes, now: datetime) -> Path:
    """Keep bytes of a plan file under their date; the copy. The oldest that are not needed go. Raises OSError."""
    folder = history_folder(path)
    folder.mkdir(mode=0o700, exist_ok=True)
    saves = list_saves(path)
    number = (saves[0].number if saves else 0) + 1
    while True:
        kept = folder / f"{now:{_STAMP}} no {number:04d}{SUFFIX}"
        try:
            write_new(kept, data, private=True, durable=False)
            break
        except FileExistsError:
            number += 1
    _let_go(list_saves(path), now)
    return kept


def _let_go(saves: list[Save], now: datetime) -> None:
    for save in list(dispensable(saves, now))[:_MOST_GONE]:
        save.path.unlink(missing_ok=True)


def dispensable(saves: list[Save], now: datetime) -> Iterable[Save]:
    """Which of the saves, newest first, need not be kept; the oldest first. The newest and the first of all always stay."""
    taken: set[tuple[str, str]] = set()
    gone: list[Save] = []
    for save in saves[:-1]:
        place = _place(save.at, now - save.at)
        if place is not None and place in taken:
            gone.append(save)
        elif place is not None:
            taken.add(place)
    return reversed(gone)


def _place(at: datetime, age: timedelta) -> tuple[str, str] | None:
    """The hour, day or month of which one save is kept; None where every one is."""
    if age < _HOUR:
        return None
    if age < _DAY:
        return ("hour", f"{at:%Y-%m-%d %H}")
    return ("day", f"{at:%Y-%m-%d}") if age < _MONTH else ("month", f"{at:%Y-%m}")
