"""The demo is always now: its files tell of one day, and every date in them moves with the day on which it is laid out."""

import re
from datetime import date, datetime, timedelta
from functools import partial
from importlib.resources import files

TOLD_OF = date(2026, 11, 24)
"""The day that the shipped files tell of: a week before the trip to Nessa."""
_FORMS = (
    (re.compile(r"\b20\d\d-\d\d-\d\d"), "%Y-%m-%d"),
    (re.compile(r"\b\d\d\.\d\d\.20\d\d\b"), "%d.%m.%Y"),
    (re.compile(r"\b\d\d/20\d\d\b"), "%m/%Y"),
)
"""How dates are written in the files: two of them are as other hands keep them."""


def as_of(text: str, day: date) -> str:
    """A text of the demo with every date in it as far from `day` as it stands from the day that the files tell of."""
    moved = timedelta(days=(day - TOLD_OF).days)
    for pattern, form in _FORMS if moved else ():
        text = pattern.sub(partial(_moved, form, moved), text)
    return text


def _moved(form: str, by: timedelta, found: re.Match[str]) -> str:
    return (datetime.strptime(found[0], form) + by).strftime(form)


def shipped(name: str, day: date) -> bytes:
    """A text file of the demo, as it reads on a day."""
    text = files("umbra_awl.demo").joinpath(name).read_bytes().decode("latin-1")  # every byte stays what it is
    return as_of(text, day).encode("latin-1")
