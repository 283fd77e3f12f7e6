"""Finding people while their name is typed, and pages of all of them."""

import re
from collections.abc import Iterable
from typing import NamedTuple

from umbra_awl.core.directory.store import Store

PAGE = 50
_FIELDS = "people.id, people.call, people.name, people.place, people.country"


class Person(NamedTuple):
    """One person; `id` is the DMR ID."""

    id: int
    call: str
    name: str
    place: str
    country: str


_MOST_DIGITS = 9


def search_people(store: Store, text: str, most: int = PAGE) -> list[Person]:
    """People whose ID or call sign begins with a text, or whose name, place and country hold words that begin with its words."""
    words = re.findall(r"[^\W_]+", text)  # what the index takes for words: an underscore parts them
    if not words:
        return page_of_people(store, 0, most)
    if len(words) == 1:
        number = words[0].isdecimal() and len(words[0]) <= _MOST_DIGITS
        found = _by_number(store, words[0], most) if number else _by_call(store, words[0].upper(), most)
        if len(found) >= most:
            return found
    else:
        found = []
    known = {person.id for person in found}
    whole = " ".join(f'"{word}"' for word in words)
    beginnings = " ".join(f'"{word}"*' for word in words)
    for match in dict.fromkeys((whole, f"{whole}*", beginnings)):
        if len(found) < most:
            fresh = [person for person in _by_words(store, match, most) if person.id not in known]
            known.update(person.id for person in fresh)
            found += fresh
    return found[:most]


def _by_words(store: Store, match: str, most: int) -> list[Person]:
    """Whole words come first: their lists are read only as far as needed; beginnings of words need whole lists."""
    query = (
        f"SELECT {_FIELDS} FROM people WHERE id IN (SELECT rowid FROM people_words WHERE people_words MATCH ? LIMIT ?)"  # noqa: S608
    )
    return list(map(Person._make, store.db.execute(query, (match, most))))


def _by_number(store: Store, digits: str, most: int) -> list[Person]:
    found: list[Person] = []
    for length in range(max(len(digits), 6), 10):
        scale = 10 ** (length - len(digits))
        low = int(digits) * scale
        query = f"SELECT {_FIELDS} FROM people WHERE id >= ? AND id < ? ORDER BY id LIMIT ?"  # noqa: S608
        found += map(Person._make, store.db.execute(query, (low, low + scale, most - len(found))))
        if len(found) >= most:
            break
    return found


def _by_call(store: Store, call: str, most: int) -> list[Person]:
    query = f"SELECT {_FIELDS} FROM people WHERE call >= ? AND call < ? ORDER BY call LIMIT ?"  # noqa: S608
    return list(map(Person._make, store.db.execute(query, (call, call + "\U0010ffff", most))))


def page_of_people(store: Store, offset: int, count: int = PAGE, order: str = "id") -> list[Person]:
    """A page of all people, in the order of their IDs or call signs."""
    column = "call" if order == "call" else "id"
    query = f"SELECT {_FIELDS} FROM people ORDER BY {column} LIMIT ? OFFSET ?"  # noqa: S608
    return list(map(Person._make, store.db.execute(query, (count, offset))))


def page_from(store: Store, first_id: int, count: int = PAGE) -> list[Person]:
    """People from an ID on, in the order of IDs: costs the same everywhere in the table."""
    query = f"SELECT {_FIELDS} FROM people WHERE id >= ? ORDER BY id LIMIT ?"  # noqa: S608
    return list(map(Person._make, store.db.execute(query, (first_id, count))))


def anchors_of_people(store: Store, step: int = PAGE) -> list[int]:
    """The ID at the head of every page, for jumping in a long table."""
    query = "SELECT id FROM (SELECT id, row_number() OVER (ORDER BY id) AS at FROM people) WHERE at % ? = 1"
    return [row[0] for row in store.db.execute(query, (step,))]


def names_of(store: Store, calls: Iterable[str]) -> dict[str, str]:
    """The names of people by their call signs, for those that are in the directory with one. Raises StoreFailedError."""
    made: dict[str, str] = {}
    for call in calls:
        row = store.db.execute("SELECT name FROM people WHERE call = ? AND name != '' LIMIT 1", (call,)).fetchone()
        if row is not None:
            made[call] = str(row[0])
    return made
