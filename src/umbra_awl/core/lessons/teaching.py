"""Lessons kept: which memory is best to teach a part with, which to try it on, and how a further lesson adds to one before."""

from collections.abc import Iterable
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.lessons.letters import letters_of
from umbra_awl.core.lessons.parts import PARTS, LessonPart
from umbra_awl.core.lessons.replay import fields_set, lesson_for, lesson_steps
from umbra_awl.core.lessons.values import Values, memory_values
from umbra_awl.core.paper.keys import KeyStep
from umbra_awl.core.paper.taps import CannotTypeError
from umbra_awl.core.plan.model import Mode
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.taught import Lesson, SeenKeys, TaughtKeys


class TaughtBy(NamedTuple):
    """A memory to teach or to try a part with."""

    channel: Channel
    values: Values


def examples(part: LessonPart, memory: Memory, profile: Profile) -> tuple[TaughtBy, ...]:
    """Memories of a plan to teach a part with, the most telling first: one of each mode and of each choice, numbers unlike."""
    found: dict[tuple[str, ...], list[TaughtBy]] = {}
    for channel in memory.channels:
        if channel.mode in part.modes:
            values = memory_values(channel, memory, profile)
            choices = tuple(values.words.get(field, "") for field in part.fields if field not in {"tone", "rx"})
            found.setdefault((channel.mode, *choices), []).append(TaughtBy(channel, values))
    groups = [sorted(group, key=lambda item: -_telling(part, item.values)) for group in found.values()]
    groups.sort(key=lambda group: -_telling(part, group[0].values))
    first = [group[0] for group in groups]
    return (*first, *(item for group in groups for item in group[1:]))


def _telling(part: LessonPart, values: Values) -> int:
    """How much a memory tells of a part: what it has, numbers with many digits unlike each other, texts with many letters."""
    none = values.text(part.none[0]) == part.none[1] if part.none[0] else False
    said = [values.text(field) for field in part.fields]
    return sum(len(set(text)) for text in said) - (1000 if none else 0)


def keep_lesson(
    taught: TaughtKeys, part: LessonPart, mode: Mode, steps: tuple[SeenKeys, ...], values: Values, day: str
) -> TaughtKeys:
    """What was learnt with one lesson more: it adds to one that was pressed the same way, else it stands for its own values."""
    others = [item for item in taught.lessons if item.part != part.key or mode not in item.modes]
    here = [item for item in taught.lessons if item not in others]
    for at, item in enumerate(here):
        merged = _merged(item, steps)
        if merged is not None:
            here[at] = replace(merged, taught=day)
            return replace(taught, lessons=_ordered((*others, *here)))
    when = _when(part, values) if here or not steps else ()
    same = [item for item in here if item.when == when]
    made = Lesson(part.key, part.modes, steps, when, day)
    kept = [item for item in here if item not in same]
    return replace(taught, lessons=_ordered((*others, *kept, made)))


def _when(part: LessonPart, values: Values) -> tuple[tuple[str, str], ...]:
    """By which value another way of pressing is told from the usual one."""
    field = part.none[0] or next((name for name in part.fields if name in values.words), "")
    return ((field, values.text(field)),) if field else ()


def left_out(taught: TaughtKeys, part: LessonPart, day: str) -> TaughtKeys:
    """Nothing is pressed where the part's value is none."""
    made = Lesson(part.key, part.modes, (), (part.none,), day)
    others = [item for item in taught.lessons if item.part != part.key or item.when != (part.none,)]
    return replace(taught, lessons=_ordered((*others, made)))


def forget(taught: TaughtKeys, part: LessonPart) -> TaughtKeys:
    """Without the lessons of a part."""
    return replace(taught, lessons=tuple(item for item in taught.lessons if item.part != part.key))


def _ordered(lessons: Iterable[Lesson]) -> tuple[Lesson, ...]:
    places = {part.key: place for place, part in enumerate(PARTS)}
    return tuple(sorted(lessons, key=lambda item: places[item.part]))


def _merged(lesson: Lesson, steps: tuple[SeenKeys, ...]) -> Lesson | None:
    """A lesson with what another memory showed added; None where it was pressed another way."""
    if len(steps) != len(lesson.steps) or not steps:
        return None
    made = [_merged_step(one, other) for one, other in zip(lesson.steps, steps, strict=True)]
    return None if any(item is None for item in made) else replace(lesson, steps=tuple(filter(None, made)))


def _merged_step(one: SeenKeys, other: SeenKeys) -> SeenKeys | None:
    if (one.way, one.field, one.asks) != (other.way, other.field, other.asks):
        return None
    if one.way == "keys":
        return one if one.keys == other.keys else None
    if one.way == "digits":
        alike = (one.unit, one.point, one.decimals) == (other.unit, other.point, other.decimals)
        lengths = tuple(sorted({*one.lengths, *other.lengths}))
        return replace(one, lengths=lengths, full=one.full or other.full) if alike else None
    if one.way == "until":
        said = tuple(dict((*one.said, *other.said)).items())
        return replace(one, said=said, same=one.same or other.same) if one.keys == other.keys else None
    return one if one.way != "spelled" or one.keys == other.keys else None


def foretold(
    taught: TaughtKeys, part: LessonPart, memory: Memory, profile: Profile, first: TaughtBy | None
) -> tuple[TaughtBy, tuple[KeyStep, ...]] | None:
    """Another memory of the plan than the one taught with, and what must be pressed and seen for it; None where there is none."""
    for item in examples(part, memory, profile):
        if first is not None and _alike(part, item.values, first.values):
            continue
        try:
            lesson = lesson_for(taught, part, item.channel.mode, item.values)
            if lesson is not None and lesson.steps:
                return item, lesson_steps(lesson, part, item.values, letters_of(taught))
        except CannotTypeError:
            continue
    return None


class NextLesson(NamedTuple):
    """What is best taught next: a part, with which memory, why, and how many memories wait for it."""

    part: LessonPart
    item: TaughtBy
    why: str
    waiting: int


def next_lesson(memory: Memory, profile: Profile) -> NextLesson | None:
    """The lesson that most memories of a plan wait for; None where nothing is refused."""
    taught = profile.taught or TaughtKeys()
    found: dict[tuple[str, str], NextLesson] = {}
    for channel in memory.channels:
        values = memory_values(channel, memory, profile)
        for part in PARTS[1:]:
            why = _refused(taught, part, channel.mode, values) if channel.mode in part.modes else ""
            if why:
                known = found.get((part.key, why))
                item = known.item if known is not None else TaughtBy(channel, values)
                found[part.key, why] = NextLesson(part, item, why, 1 if known is None else known.waiting + 1)
    places = {part.key: place for place, part in enumerate(PARTS)}
    return min(found.values(), key=lambda item: (-item.waiting, places[item.part.key]), default=None)


def _refused(taught: TaughtKeys, part: LessonPart, mode: Mode, values: Values) -> str:
    """Why a part of a memory cannot be entered by what was learnt; empty where it can, or where it may be left as it is."""
    none = part.none[0] and values.text(part.none[0]) == part.none[1]
    try:
        lesson = lesson_for(taught, part, mode, values)
        if lesson is not None:
            lesson_steps(lesson, part, values, letters_of(taught))
    except CannotTypeError as error:
        return str(error)
    there = [field for field in part.fields if values.text(field)]
    asked = part.needed or part.key in _ALWAYS or (bool(part.none[0]) and not none and bool(there))
    missing = lesson is None and asked and not _set_elsewhere(taught, part, mode)
    return f"{part.title} was not taught yet." if missing else ""


_ALWAYS = {"mode", "digital", "contact", "routing", "fusion", "name"}


def _set_elsewhere(taught: TaughtKeys, part: LessonPart, mode: Mode) -> bool:
    return part.fields != () and set(part.fields) <= fields_set(taught, mode)


def _alike(part: LessonPart, one: Values, other: Values) -> bool:
    return all(one.text(field) == other.text(field) for field in part.fields)


def note_tried(taught: TaughtKeys, part: LessonPart, mode: Mode, values: Values, day: str) -> TaughtKeys:
    """The lesson that holds for a memory came out as foretold."""
    lesson = lesson_for(taught, part, mode, values)
    lessons = tuple(replace(item, tried=(*item.tried, day)) if item is lesson else item for item in taught.lessons)
    return replace(taught, lessons=lessons)


def state_of(taught: TaughtKeys | None, part: LessonPart) -> str:
    """How far a part is known: “tried”, “taught”, or empty."""
    lessons = [item for item in taught.lessons if item.part == part.key] if taught is not None else []
    pressed = [item for item in lessons if item.steps]
    if not lessons:
        return ""
    return "tried" if any(item.tried for item in pressed) else "taught"


def day_of(taught: TaughtKeys | None, part: LessonPart) -> str:
    """The day on which a part was tried last, else taught; empty where it was not."""
    lessons = [item for item in taught.lessons if item.part == part.key] if taught is not None else []
    tried = [day for item in lessons for day in item.tried]
    return max(tried or [item.taught for item in lessons], default="")


def entered_by_keys(memory: Memory, profile: Profile) -> int:
    """How many memories can be entered by what was learnt."""
    from umbra_awl.core.paper.keysheet import key_sheet

    return sum(not item.fault for item in key_sheet(memory, profile).memories) if profile.by_keys else 0


def parts_of(profile: Profile) -> tuple[LessonPart, ...]:
    """The parts that a radio of these modes has."""
    return tuple(part for part in PARTS if set(part.modes) & set(profile.modes))
