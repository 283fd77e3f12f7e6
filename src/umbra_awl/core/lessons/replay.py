"""A memory entered as the lessons showed it. What no lesson showed is refused with what to teach, and never printed as known."""

from msgspec.structs import replace

from umbra_awl.core.lessons.letters import TaughtLetters, text_keys
from umbra_awl.core.lessons.numbers import digits_of, shown_as
from umbra_awl.core.lessons.parts import FIELD_WORDS, PARTS, TOGETHER, LessonPart
from umbra_awl.core.lessons.values import Values
from umbra_awl.core.paper.keys import KeyStep
from umbra_awl.core.paper.taps import CannotTypeError, until
from umbra_awl.core.plan.model import Mode
from umbra_awl.core.radio.taught import Lesson, SeenKeys, TaughtKeys


def lesson_for(taught: TaughtKeys, part: LessonPart, mode: Mode, values: Values) -> Lesson | None:
    """The lesson of a part that holds for a memory: the one that names most of its values; None where the part was not taught.

    Raises CannotTypeError where it was taught, but not for such a memory.
    """
    there = [item for item in taught.lessons if item.part == part.key and mode in item.modes]
    fitting = [item for item in there if all(values.text(field) == value for field, value in item.when)]
    if there and not fitting:
        fields = sorted({field for item in there for field, _value in item.when})
        said = " and ".join(f"{FIELD_WORDS[field]} “{values.text(field) or 'none'}”" for field in fields)
        raise CannotTypeError(f"{part.title}: no lesson showed {said}. Teach it with this memory.")
    return max(fitting, key=lambda item: len(item.when), default=None)


def lesson_steps(lesson: Lesson, part: LessonPart, values: Values, letters: TaughtLetters) -> tuple[KeyStep, ...]:
    """The lines of a lesson for a memory. Raises CannotTypeError."""
    return tuple(_step(seen, part, values, letters) for seen in lesson.steps)


def _step(seen: SeenKeys, part: LessonPart, values: Values, letters: TaughtLetters) -> KeyStep:
    note = f"Only where it asks “{seen.asks}”." if seen.asks else ""
    keys, shows = _keys(seen, values, letters), _shows(seen, values)
    return KeyStep(seen.field or part.key, part.title, shows, keys, note, saves=part.key == "save")


def _keys(seen: SeenKeys, values: Values, letters: TaughtLetters) -> tuple[str, ...]:
    if seen.way == "keys":
        return seen.keys
    said = FIELD_WORDS[seen.field]
    if not values.text(seen.field):
        raise CannotTypeError(f"This memory has no {said}, and no lesson showed what to press then.")
    if seen.way == "digits":
        return digits_of(seen, values.numbers[seen.field], said)
    if seen.way == "until":
        word = seen.word(values.text(seen.field))
        if not word:
            value = values.text(seen.field)
            raise CannotTypeError(f"No lesson showed the word for {said} “{value}”. Teach it with this memory.")
        return (*seen.keys[:-1], until(seen.keys[-1], word))
    return text_keys(seen, values.texts[seen.field], letters)


def _shows(seen: SeenKeys, values: Values) -> str:
    """What the display must show; empty where the lesson cannot tell for another value."""
    if seen.way == "until":
        word, (at, length, _unit) = seen.word(values.text(seen.field)), seen.mark
        return seen.shows[:at] + word + seen.shows[at + length :] if length else word
    if seen.mark[1]:
        if seen.way == "digits":
            return shown_as(seen, values.numbers[seen.field])
        at, length, _unit = seen.mark
        return seen.shows[:at] + values.text(seen.field) + seen.shows[at + length :]
    return seen.shows if seen.way == "keys" else ""


def fields_set(taught: TaughtKeys, mode: Mode) -> frozenset[str]:
    """The fields of a memory of a mode that some lesson sets, or says nothing is pressed for."""
    of_mode = [item for item in taught.lessons if mode in item.modes]
    set_ = {step.field for item in of_mode for step in item.steps if step.field}
    told = {field for item in of_mode for field, _value in item.when}
    return frozenset({one for field in set_ | told for one in (field, *TOGETHER.get(field, ()))})


def steps_of_memory(taught: TaughtKeys, mode: Mode, values: Values) -> tuple[KeyStep, ...]:
    """All steps of a memory, part by part. Raises CannotTypeError with what is to be taught."""
    letters = TaughtLetters(taught.letters, taught.next_letter)
    made: list[KeyStep] = []
    for part in PARTS[1:]:
        if mode not in part.modes:
            continue
        lesson = lesson_for(taught, part, mode, values)
        if lesson is None and part.needed:
            raise CannotTypeError(f"{part.title} was not taught yet: press it once, and say what you see.")
        if lesson is not None:
            made += lesson_steps(lesson, part, values, letters)
    return tuple(made)


def begin_of(taught: TaughtKeys) -> tuple[KeyStep, ...]:
    """What was pressed before the first memory."""
    part = PARTS[0]
    lessons = [item for item in taught.lessons if item.part == part.key]
    plain = [replace(step, way="keys") for lesson in lessons for step in lesson.steps]
    return tuple(KeyStep(part.key, part.title, step.shows, step.keys) for step in plain)
