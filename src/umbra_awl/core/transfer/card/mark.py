"""What is remembered of a radio's way over a card, beside its backups: which of its saves was taken last, what was sent."""

from typing import NamedTuple

import msgspec

from umbra_awl.core.transfer.shelf import Shelf

_NAME = "card.json"


class CardMark(msgspec.Struct, frozen=True, omit_defaults=True):
    """Of one single radio: the number and body of its save that was taken last, the name of what was sent last."""

    number: int = 0
    digest: str = ""
    sent: str = ""


class CardMarks(NamedTuple):
    """The marks of all radios that passed over one shelf, by which single radio it is."""

    shelf: Shelf

    def all(self) -> dict[str, CardMark]:
        """Every mark; none where nothing sound is kept."""
        return self.shelf.beside(_NAME, dict[str, CardMark], {})

    def of(self, unit: str) -> CardMark:
        """The mark of a single radio; an empty one where there is none."""
        return self.all().get(unit, CardMark())

    def keep(self, unit: str, mark: CardMark) -> None:
        """Keep a mark. Raises ShelfError."""
        self.shelf.keep_beside(_NAME, {**self.all(), unit: mark})
