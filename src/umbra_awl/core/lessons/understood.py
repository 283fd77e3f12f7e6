"""What was pressed in a lesson, understood by the memory that was entered: which keys were a number, a word, a text."""

import re
from collections.abc import Sequence
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.lessons.letters import TaughtLetters, letters_line
from umbra_awl.core.lessons.numbers import marked, seen_number
from umbra_awl.core.lessons.parts import FIELD_WORDS, LessonPart
from umbra_awl.core.lessons.pressed import PressedLine, pressed_line
from umbra_awl.core.lessons.values import Values
from umbra_awl.core.radio.taught import SeenKeys

KEYS_ONLY = "keys"


class SeenLine(NamedTuple):
    """A line as the operator typed it: the keys, what the display showed, and what it is where that was said."""

    keys: str
    shows: str = ""
    said: str = ""


class UnderstoodLine(NamedTuple):
    """A line understood: its steps, what it is in words, the fields that it may be as well, and what is wrong with it."""

    steps: tuple[SeenKeys, ...] = ()
    words: str = ""
    doubt: tuple[str, ...] = ()
    fault: str = ""


class UnderstoodLesson(NamedTuple):
    """A whole lesson: its lines, and the fields of its part that no line sets."""

    lines: tuple[UnderstoodLine, ...]
    unset: tuple[str, ...]

    @property
    def steps(self) -> tuple[SeenKeys, ...]:
        """All steps in order."""
        return tuple(step for line in self.lines for step in line.steps)

    @property
    def fault(self) -> str:
        """What must be put right or said before it can be kept; empty where nothing."""
        wrong = next((line.fault for line in self.lines if line.fault), "")
        open_ = next((line for line in self.lines if line.doubt), None)
        return wrong or (f"Say what this line is: {open_.words}" if open_ is not None else "")


def understand(
    lines: Sequence[SeenLine],
    values: Values,
    part: LessonPart,
    letters: TaughtLetters,
    elsewhere: frozenset[str] = frozenset(),
) -> UnderstoodLesson:
    """A lesson understood by the values of the memory that it enters; `elsewhere` are fields that other lessons set."""
    made: list[UnderstoodLine] = []
    set_: set[str] = set()
    typed = [item for item in lines if item.keys.strip()]
    spelled = letters_line([item.keys for item in typed], values.texts, part.fields) if part.fields else None
    at = 0
    while at < len(typed):
        if spelled is not None and at == spelled.first:
            made.append(UnderstoodLine((spelled.seen,), f"{FIELD_WORDS[spelled.seen.field]}, letter by letter"))
            made += [UnderstoodLine()] * (spelled.many - 1)
            set_.add(spelled.seen.field)
            at += spelled.many
            continue
        line = _line(typed[at], values, part, letters, frozenset(set_))
        set_ |= {step.field for step in line.steps if step.field}
        made.append(line)
        at += 1
    left = _unset(part, values, set_)
    return UnderstoodLesson(tuple(made), tuple(field for field in left if field not in elsewhere))


def _unset(part: LessonPart, values: Values, set_: set[str]) -> tuple[str, ...]:
    """The fields of a part that no line sets. A tone is set by its number or word, the input by shift or in full."""
    there = [field for field in part.fields if values.text(field) and field not in set_]
    if part.key == "shift":
        there = [] if "tx" in set_ else [field for field in there if field != "tx"]
    if part.key == "tone":
        there = [] if set_ & {"tone", "tone_tx", "code_tx"} else ["tone"]
    if part.key == "mode":
        there = [] if set_ & set(part.fields) else ["mode"]
    return tuple(field for field in there if part.key not in {"mode", "digital"} or field in _OWN[part.key])


_OWN = {"mode": frozenset({"mode"}), "digital": frozenset({"color_code", "slot"})}
"""What such a part is there for; what else it may hold is set by another part on other radios."""


def _line(
    item: SeenLine, values: Values, part: LessonPart, letters: TaughtLetters, set_: frozenset[str]
) -> UnderstoodLine:
    try:
        pressed = pressed_line(item.keys)
    except ValueError as error:
        return UnderstoodLine(fault=str(error))
    shows = item.shows.strip()
    if item.said == KEYS_ONLY or (not part.fields and not pressed.until):
        return UnderstoodLine((_plain(pressed, shows),), "keys")
    if pressed.until:
        return _until_line(pressed, shows, values, part, item.said, set_)
    text = _text_line(pressed, shows, values, part, letters)
    return text or _number_line(pressed, shows, values, part, item.said, set_)


def _plain(pressed: PressedLine, shows: str) -> SeenKeys:
    if pressed.until:
        keys = (*pressed.keys[:-1], f"{pressed.keys[-1]} until {pressed.until}")
        return SeenKeys(keys, shows, asks=pressed.asks)
    return SeenKeys(pressed.keys, shows, asks=pressed.asks)


def _until_line(
    pressed: PressedLine, shows: str, values: Values, part: LessonPart, said: str, set_: frozenset[str]
) -> UnderstoodLine:
    """A key pressed until the display shows something: the word of a value."""
    if not part.fields:
        return UnderstoodLine((_plain(pressed, shows),), "until it is shown")
    equal = [field for field in part.fields if pressed.until.casefold() == values.text(field).casefold()]
    equal = [field for field in equal if field not in _NUMBERS] or equal
    open_ = [field for field in part.fields if values.text(field) and field not in set_ and field not in _NUMBERS]
    found = [said] if said else equal or open_
    if not found:
        return UnderstoodLine((_plain(pressed, shows),), "until it is shown")
    field = found[0] if len({values.text(item) for item in found}) > 1 else found[-1]
    value = values.text(field)
    same = field in equal
    word = ((value, pressed.until),)
    step = SeenKeys(pressed.keys, shows, "until", field, same=same, said=word, asks=pressed.asks)
    mark = _word_mark(shows, pressed.until)
    words = f"{FIELD_WORDS[field]}: “{pressed.until}”" + ("" if same else f" is {value}")
    doubt = tuple(found) if len({values.text(item) for item in found}) > 1 and not said else ()
    return UnderstoodLine((replace(step, mark=mark),), words, doubt)


_NUMBERS = frozenset({"rx", "tx", "offset", "contact", "number", "tone_tx", "code_tx", "dgid_tx", "dgid_rx"})


def _word_mark(shows: str, word: str) -> tuple[int, int, int]:
    at = shows.find(word)
    return (at, len(word), 1) if at >= 0 else (0, 0, 0)


def _text_line(
    pressed: PressedLine, shows: str, values: Values, part: LessonPart, letters: TaughtLetters
) -> UnderstoodLine | None:
    """Keys that type a text of the memory by the letters that are known."""
    for field in part.fields:
        text = values.texts.get(field, "")
        if text and letters.types(pressed.keys, text):
            step = SeenKeys(pressed.keys, shows, "letters", field, mark=_word_mark(shows, text), asks=pressed.asks)
            return UnderstoodLine((step,), FIELD_WORDS[field])
    return None


def _number_line(
    pressed: PressedLine, shows: str, values: Values, part: LessonPart, said: str, set_: frozenset[str]
) -> UnderstoodLine:
    """Digits among the keys of a line that are a number of the memory; keys before and behind them stay keys."""
    first, digits, point = _run(pressed.keys)
    numbers = {field: value for field, value in values.numbers.items() if field in part.fields}
    chosen = {said: values.numbers[said]} if said in values.numbers else numbers
    tried = {field: seen_number(field, value, digits) for field, value in chosen.items()} if digits else {}
    found = {field: seen for field, seen in tried.items() if seen is not None and (field not in set_ or said)}
    if not found:
        return UnderstoodLine((_plain(pressed, shows),), "keys")
    field, seen = next(iter(found.items()))
    last = first + len(digits) + (1 if point else 0)
    before, behind = pressed.keys[:first], pressed.keys[last:]
    seen = replace(seen, mark=marked(shows, values.numbers[field]), asks=pressed.asks, shows="" if behind else shows)
    if point:
        key, decimals = point
        seen = replace(seen, point=key, decimals=decimals)
    steps = [SeenKeys(before, asks=pressed.asks)] if before else []
    steps.append(replace(seen, mark=(0, 0, 0)) if behind else seen)
    steps += [SeenKeys(behind, shows, mark=seen.mark, field="", asks=pressed.asks)] if behind else []
    alone = not before and not behind
    sure = alone or len(digits) >= _SURE_DIGITS or bool(said)
    words = f"{FIELD_WORDS[field]}, {counted(len(digits), 'digit')}"
    return UnderstoodLine(tuple(steps), words, () if sure and len(found) == 1 else (*found, KEYS_ONLY))


_SURE_DIGITS = 3
"""So many digits between other keys are no menu's number by chance."""


def _run(keys: tuple[str, ...]) -> tuple[int, str, tuple[str, int] | None]:
    """The longest run of digit keys: where it begins, its digits, and the key of a point inside with the digits behind it."""
    shape = "".join("0" if len(key) == 1 and key.isdecimal() else "x" for key in keys)
    if (whole := _POINTED.fullmatch(shape)) is not None:
        behind = len(whole[2])
        return 0, "".join(key for key in keys if key.isdecimal()), (keys[len(whole[1])], behind)
    best, at = (0, 0), 0
    while at < len(keys):
        end = at
        while end < len(keys) and len(keys[end]) == 1 and keys[end].isdecimal():
            end += 1
        best = max(best, (end - at, -at))
        at = end + 1
    length, first = best[0], -best[1]
    return first, "".join(keys[first : first + length]), None


_POINTED = re.compile(r"(0{1,4})x(0{1,6})")
