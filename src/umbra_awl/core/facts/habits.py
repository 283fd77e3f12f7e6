"""Where practitioners disagree: each question with both ways and their reasons. Data: `habits.toml`."""

import tomllib
from functools import cache
from pathlib import Path
from typing import NamedTuple


class HabitWay(NamedTuple):
    """One way: its key in the plan, its words, and the reason of those who keep to it."""

    key: str
    words: str
    why: str


class HabitQuestion(NamedTuple):
    """A question on which practitioners disagree: the field of the plan's habits, what it is about, and its ways."""

    field: str
    topic: str
    ways: tuple[HabitWay, ...]

    def way(self, key: str) -> HabitWay | None:
        """The way of a key; None where none was chosen."""
        return next((item for item in self.ways if item.key == key), None)


@cache
def habit_questions() -> tuple[HabitQuestion, ...]:
    """All questions, in the order in which they are asked."""
    read = tomllib.loads((Path(__file__).parent / "habits.toml").read_text("utf-8"))
    return tuple(
        HabitQuestion(row["field"], row["topic"], tuple(HabitWay(**way) for way in row["way"])) for row in read["habit"]
    )
