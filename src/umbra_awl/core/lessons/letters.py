"""Letters in lessons: by keys that hold several, or one by one by a key that goes through all of them."""

from collections.abc import Iterable, Sequence
from typing import NamedTuple

from umbra_awl.core.lessons.pressed import pressed_line
from umbra_awl.core.paper.taps import WAIT, CannotTypeError, taps, until
from umbra_awl.core.radio.keypad import Keypad, LetterKey
from umbra_awl.core.radio.taught import SeenKeys, TaughtKeys


class TaughtLetters(NamedTuple):
    """The letters that keys type, as they were told, and the key that ends one where the next stands on the same key."""

    keys: tuple[LetterKey, ...] = ()
    next_letter: str = ""

    def typed(self, text: str) -> tuple[str, ...]:
        """The keys that type a text. Raises CannotTypeError for a letter that no key types."""
        return taps(text, Keypad("", "", "", "", self.keys, (), next_letter=self.next_letter))

    def types(self, keys: tuple[str, ...], text: str) -> bool:
        """Whether some keys are those that type a text; pauses do not count."""
        try:
            wanted = self.typed(text)
        except CannotTypeError:
            return False
        return tuple(key for key in keys if key != WAIT) == tuple(key for key in wanted if key != WAIT)


def letters_of(taught: TaughtKeys | None) -> TaughtLetters:
    """The letters that were told."""
    return TaughtLetters(taught.letters, taught.next_letter) if taught is not None else TaughtLetters()


def parse_letters(text: str) -> tuple[LetterKey, ...]:
    """Letters as they are typed: “2 ABC2, 3 DEF3”; a blank is written “_”. Raises ValueError with a sentence."""
    made: list[LetterKey] = []
    for part in filter(None, (item.strip() for item in text.replace(";", ",").split(","))):
        key, _, types = part.partition(" ")
        types = types.strip().replace("_", " ")
        if not types or key in {item.key for item in made}:
            raise ValueError(
                f"“{part}” is no key with its letters. Write the key, then what it types press by press: 2 ABC2."
            )
        made.append(LetterKey(key, types))
    return tuple(made)


def letters_text(keys: Iterable[LetterKey]) -> str:
    """Letters as they would be typed."""
    return ", ".join(f"{item.key} {item.types.replace(' ', '_')}" for item in keys)


class SpelledLines(NamedTuple):
    """Lines that spell a text letter by letter: the first, how many they are, and what they come to."""

    first: int
    many: int
    seen: SeenKeys


_BLANKS = {"_", "␣", "blank", "space"}


def letters_line(lines: Sequence[str], texts: dict[str, str], fields: tuple[str, ...]) -> SpelledLines | None:
    """The lines that spell a text, each letter by one key until it is shown, another key between two; None where none do."""
    read = [_read(line) for line in lines]
    for field in fields:
        text = texts.get(field, "")
        for first in range(len(read)) if len(text) > 1 else ():
            count = 2 * len(text) - 1
            part = read[first : first + count]
            turns, moves = part[::2], part[1::2]
            if len(part) < count or any(not item[1] for item in turns) or any(item[1] for item in moves):
                continue
            spelled = "".join(" " if item[1].casefold() in _BLANKS else item[1] for item in turns)
            same = len({item[0] for item in turns}) == 1 and len({item[0] for item in moves}) == 1
            if spelled == text and same and len(turns[0][0]) == 1:
                return SpelledLines(first, count, SeenKeys((turns[0][0][0], *moves[0][0]), way="spelled", field=field))
    return None


def _read(line: str) -> tuple[tuple[str, ...], str]:
    try:
        pressed = pressed_line(line)
    except ValueError:
        return (), ""
    return pressed.keys, pressed.until


def text_keys(seen: SeenKeys, text: str, letters: TaughtLetters) -> tuple[str, ...]:
    """The keys that type a text as a lesson showed it. Raises CannotTypeError."""
    if seen.way == "spelled":
        turn, *moves = seen.keys
        typed = [key for letter in text for key in (until(turn, "blank" if letter == " " else letter), *moves)]
        return tuple(typed[: len(typed) - len(moves)])
    return letters.typed(text)
