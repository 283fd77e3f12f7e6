"""What is known of the people in a radio, kept beside its backups: which list was written, by which rule, of which date."""

from hashlib import sha256

import msgspec

from umbra_awl.core.plan.model import OwnedRadio, PeopleChoice
from umbra_awl.core.transfer.shelf import Shelf

_NAME = "people.json"


class PeopleMark(msgspec.Struct, frozen=True, omit_defaults=True):
    """`rule` names the choice that the written list was made by, `listed` the day of the directory's list, `digest` the bytes."""

    rows: int = 0
    digest: str = ""
    rule: str = ""
    listed: str = ""
    at: str = ""
    unit: str = ""


def rule_of(radio: OwnedRadio) -> str:
    """What names a radio's choice of people; empty where nobody is chosen."""
    choice = radio.people or PeopleChoice()
    return "" if choice == PeopleChoice() else sha256(msgspec.json.encode(choice)).hexdigest()[:16]


def people_mark(shelf: Shelf) -> PeopleMark:
    """What is known of the people in a radio; an empty mark where nothing is."""
    return shelf.beside(_NAME, PeopleMark, PeopleMark())


def keep_people_mark(shelf: Shelf, mark: PeopleMark) -> None:
    """Keep a mark. Raises ShelfError."""
    shelf.keep_beside(_NAME, mark)


def note_people(shelf: Shelf, rows: int, digest: str, stamp: str, unit: str) -> None:
    """Take note of the people that a radio was found to hold; a list that is not the one written here is of no known choice.

    Raises ShelfError.
    """
    mark = people_mark(shelf)
    if mark.digest != digest or mark.rows != rows:
        keep_people_mark(shelf, PeopleMark(rows, digest if rows else "", listed=stamp, unit=unit))
