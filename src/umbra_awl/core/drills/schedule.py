"""When practice comes back: five boxes, each twice as far apart as the one before, about. Kept on this machine alone.

What is known moves one box on; what is not goes back to the first. A card is due when its box's days have passed.
"""

from collections.abc import Iterable, Mapping
from datetime import date, timedelta
from pathlib import Path

import msgspec

from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.keep.limits import MB, read_within

BOX_DAYS = (1, 3, 7, 16, 35)
"""Days until a card of each box comes back."""
MOST_CARDS = 5_000
FORMAT, VERSION = "umbra-awl practice", 1


class DrillCard(msgspec.Struct, frozen=True, omit_defaults=True):
    """How one thing that is practised stands: its box (0 to 4), when it was asked last, how often, how often it was right."""

    box: int = 0
    asked: str = ""
    times: int = 0
    right: int = 0

    def due(self) -> date | None:
        """The day on which it comes back; None for at once."""
        try:
            last = date.fromisoformat(self.asked)
        except ValueError:
            return None
        return last + timedelta(days=BOX_DAYS[min(max(self.box, 0), len(BOX_DAYS) - 1)])


class Practice(msgspec.Struct, frozen=True):
    """All cards by their keys."""

    cards: dict[str, DrillCard] = {}
    format: str = FORMAT
    version: int = VERSION


def answered(practice: Practice, key: str, *, right: bool, today: date) -> Practice:
    """The practice after an answer. What is asked again before its day moves no box on, but falls back as ever."""
    held = practice.cards.get(key, DrillCard())
    due = held.due()
    early = due is not None and today < due
    box = 0 if not right else held.box if early else min(held.box + (held.times > 0), len(BOX_DAYS) - 1)
    asked = held.asked if right and early else today.isoformat()
    made = DrillCard(box, asked, held.times + 1, held.right + right)
    cards = {**practice.cards, key: made}
    return msgspec.structs.replace(practice, cards=dict(list(cards.items())[-MOST_CARDS:]))


def due_now(practice: Practice, keys: Iterable[str], today: date) -> list[str]:
    """Of some things those that are due, never asked ones last, the longest due first."""
    known = [
        (due, key) for key in keys if (due := practice.cards.get(key, DrillCard()).due()) is not None and due <= today
    ]
    fresh = [key for key in keys if key not in practice.cards]
    return [key for _due, key in sorted(known)] + fresh


def boxes(practice: Practice, keys: Iterable[str]) -> Mapping[int, list[str]]:
    """Of some things those in each box, and under -1 those that were never asked."""
    found: dict[int, list[str]] = {box: [] for box in range(-1, len(BOX_DAYS))}
    for key in keys:
        card = practice.cards.get(key)
        found[-1 if card is None else min(max(card.box, 0), len(BOX_DAYS) - 1)].append(key)
    return found


def read_practice(path: Path) -> Practice:
    """The practice in a file; a new one where there is none, or none that can be read."""
    try:
        found = msgspec.json.decode(read_within(path, 2 * MB), type=Practice)
    except (OSError, msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        return Practice()
    return found if (found.format, found.version) == (FORMAT, VERSION) else Practice()


def keep_practice(path: Path, practice: Practice) -> None:
    """Keep the practice. Raises OSError."""
    path.parent.mkdir(parents=True, exist_ok=True)
    write_over(path, msgspec.json.encode(practice), private=True)
