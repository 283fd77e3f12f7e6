"""Single keys: letters by multi-tap, keys pressed until something is shown, pauses, and what all of them cost."""

from itertools import groupby

from umbra_awl.core.radio.keypad import Keypad

WAIT = "wait"
WAIT_COST = 2
"""How many presses' time a pause takes, for comparing."""
UNTIL_COST = 5
"""How many presses a key counts that is pressed until the display shows something: nobody knows how often."""


class CannotTypeError(ValueError):
    """A value that the keypad cannot enter; the message says why."""


_UNTIL = " until "


def until(key: str, shown: str) -> str:
    """A key pressed as often as it takes until the display shows something."""
    return f"{key}{_UNTIL}{shown}"


def until_parts(key: str) -> tuple[str, str] | None:
    """The key and what the display must show, where one is pressed until then."""
    pressed, said, shown = key.partition(_UNTIL)
    return (pressed, shown) if said else None


def taps(text: str, keypad: Keypad) -> tuple[str, ...]:
    """The presses that type a name: each letter as often as its place on its key, a pause between two on the same key.

    Raises CannotTypeError for a character that no key types.
    """
    places = {char: (item.key, place) for item in keypad.letters for place, char in enumerate(item.types, 1)}
    pressed: list[str] = []
    capitals, last = True, ""
    for char in text:
        key, count = places.get(char.upper() if keypad.case else char, ("", 0))
        if not key:
            raise CannotTypeError(f"Name: no key types “{char}”.")
        if keypad.case and char.isalpha() and char.isupper() != capitals:
            pressed.append(keypad.case)
            capitals, last = not capitals, ""
        if key == last:
            pressed.append(keypad.next_letter or WAIT)
        pressed.extend([key] * count)
        last = key
    return tuple(pressed)


def cost(keys: tuple[str, ...]) -> int:
    """What keys cost to press: one each, a pause as long as two, a key pressed until something is shown as long as some."""
    return sum(WAIT_COST if key == WAIT else UNTIL_COST if until_parts(key) else 1 for key in keys)


_RUN_FROM = 4


def runs(keys: tuple[str, ...]) -> list[tuple[str, int]]:
    """Keys for reading: four and more presses of one key in a row become one with its count, fewer stay as they are."""
    shown: list[tuple[str, int]] = []
    for key, group in groupby(keys):
        count = len(list(group))
        shown.extend([(key, count)] if count >= _RUN_FROM and not key.isdigit() else [(key, 1)] * count)
    return shown
