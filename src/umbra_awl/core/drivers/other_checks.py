"""What is asked of drivers for hotspots and for files: the checks that their author runs."""

import random
import time
from collections.abc import Callable
from contextlib import suppress

import msgspec

from umbra_awl.core.drivers.protocols import HotspotDriver, ReaderDriver, TableForm
from umbra_awl.core.drivers.reading import looked_at
from umbra_awl.core.drivers.spots import DrivenAnswers
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.hotspot.match.fields import BY_KEY
from umbra_awl.core.hotspot.seek.talk import Status

SEED = 20_261_201
_HOSTILE, _SLOW_S = 200, 20.0
_OTHER_VALUES = {"hz": "434625000", "offset": "-75", "number": "7", "yes": "yes"}


class NotMetError(Exception):
    """What is asked of a driver does not hold; the message says what."""


def require(holds: object, told: str) -> None:
    """Raise NotMetError with a sentence where something does not hold."""
    if not holds:
        raise NotMetError(told)


# files


def _reads(driver: ReaderDriver) -> None:
    endings = tuple(driver.endings)
    require(endings, "It names no ending of files.")
    good = all(item.startswith(".") and item == item.lower() and len(item) > 1 for item in endings)
    require(good, f"Endings begin with a point and are small letters; it names {endings}.")
    found = looked_at(driver.read(driver.example()))
    many = len(found.rows) if isinstance(found, TableForm) else len(found.splitlines())
    require(many > 1, f"Its example has {counted(many, 'row')} or lines; two are wanted.")


def _even(driver: ReaderDriver) -> None:
    found = looked_at(driver.read(driver.example()))
    if isinstance(found, TableForm):
        uneven = [at for at, cells in enumerate(found.rows, 1) if len(cells) != len(found.headings)]
        require(not uneven, f"Row {uneven[:1]} has another number of cells than there are headings.")
        require(len(set(found.headings)) == len(found.headings), "Two headings are alike.")
    again = looked_at(driver.read(driver.example()))
    require(again == found, "The same file is read otherwise the second time.")


def _refuses(driver: ReaderDriver) -> None:
    chance, began = random.Random(SEED), time.monotonic()  # noqa: S311  (examples)
    example = driver.example()
    for turn in range(_HOSTILE):
        cut = example[: chance.randrange(len(example) + 1)]
        with suppress(ValueError):
            driver.read(cut if turn % 2 else chance.randbytes(chance.randrange(4_000)))
    require(time.monotonic() - began < _SLOW_S, "Noise is read too slowly.")


READER_CHECKS: dict[str, Callable[[ReaderDriver], None]] = {
    "it names its endings, and reads its example": _reads,
    "rows are as wide as the headings, and the same each time": _even,
    "noise and cut files raise ValueError, or are read": _refuses,
}


# hotspots


def _answers(driver: HotspotDriver) -> DrivenAnswers:
    return DrivenAnswers("driver", driver)


def _knows_itself(driver: HotspotDriver) -> None:
    answers, example = _answers(driver), driver.example()
    for what in ("status", "settings"):
        answers.path(what)
    made = msgspec.convert(dict(driver.status(example["status"])), Status, strict=False)
    require(made.name and made.state, "The status of its example tells no name or no state.")


def _knows_others(driver: HotspotDriver) -> None:
    chance = random.Random(SEED)  # noqa: S311  (examples)
    noise = [b"", b"{}", b"[]", b"<html></html>", b"0"]
    for answer in (*noise, *(chance.randbytes(200) for _turn in range(_HOSTILE))):
        try:
            driver.status(answer)
        except ValueError:
            continue
        raise NotMetError(f"It takes the answer {answer[:20]!r} for its own: ValueError is what is wanted.")


def _nothing_changes(driver: HotspotDriver) -> None:
    held = driver.example()["settings"]
    require(driver.written(held, {}) == held, "With nothing to change, what it hands over differs from what it has.")


def _changes_one(driver: HotspotDriver) -> None:
    held = driver.example()["settings"]
    before = dict(driver.values(held))
    unknown = before.keys() - BY_KEY.keys()
    require(not unknown, f"“{min(unknown, default='')}” is none of our fields.")
    require(before, "Its example holds none of our fields.")
    for key, value in before.items():
        other = _OTHER_VALUES.get(BY_KEY[key].kind)
        if other is None or other == value:
            continue
        after = dict(driver.values(driver.written(held, {key: other})))
        require(
            after == {**before, key: other}, f"Only {BY_KEY[key].words} was to change, and the fields became {after}."
        )


HOTSPOT_CHECKS: dict[str, Callable[[HotspotDriver], None]] = {
    "it has paths, and reads the status of its example": _knows_itself,
    "other devices are not taken for it": _knows_others,
    "with nothing to change nothing is changed": _nothing_changes,
    "one field is changed, and no other": _changes_one,
}
