"""What a radio of one's own was seen to do while its keys were pressed, as data: lessons, letters, trials."""

from typing import Literal

from umbra_awl.core.plan.model import Mode
from umbra_awl.core.radio.keypad import LetterKey
from umbra_awl.core.radio.ways_in import MenuPart

SeenWay = Literal["keys", "digits", "until", "letters", "spelled"]


class SeenKeys(MenuPart, frozen=True):
    """One line of a lesson: the keys pressed, and what the display showed then.

    `way` is what the keys were. `keys`: as they are. `digits`: the value of `field`, whose last digit stands for `unit` (hertz,
    tenths of a hertz for tones, else 1), in one of `lengths` digits, with noughts before it up to `full`; `cut`: the radio fills
    in what is finer; `point` is the key of the point before the last `decimals` digits. `until`: the last key is pressed until
    the display shows the value's word in `said`, else, where `same`, a value with digits itself. `letters`: a text by the letter
    keys. `spelled`: each letter by the first of `keys` until it is shown, the others to move on.

    `mark` is where in `shows` the value stands: first character, length, unit of the last digit. `asks`: only where the display
    asks this.
    """

    keys: tuple[str, ...] = ()
    shows: str = ""
    way: SeenWay = "keys"
    field: str = ""
    unit: int = 1
    lengths: tuple[int, ...] = ()
    full: int = 0
    cut: bool = False
    point: str = ""
    decimals: int = 0
    same: bool = False
    said: tuple[tuple[str, str], ...] = ()
    mark: tuple[int, int, int] = (0, 0, 0)
    asks: str = ""

    def word(self, value: str) -> str:
        """The display's word for a value; empty where no lesson showed it."""
        capitals = all(word == word.upper() for _value, word in self.said)
        goes_on = self.same and any(map(str.isdigit, value))
        return dict(self.said).get(value) or ((value.upper() if capitals else value) if goes_on else "")


class Lesson(MenuPart, frozen=True):
    """How one part of a memory is entered, as it was seen.

    `when` are the values for which it holds (“shift” “off”), any other value elsewhere; a lesson without steps says that nothing
    is pressed then. `taught` is the day, `tried` the days on which another memory came out as foretold.
    """

    part: str
    modes: tuple[Mode, ...]
    steps: tuple[SeenKeys, ...] = ()
    when: tuple[tuple[str, str], ...] = ()
    taught: str = ""
    tried: tuple[str, ...] = ()


class TriedLimit(MenuPart, frozen=True):
    """A trial of a radio's limits: which one, what it showed, and the day."""

    trial: str
    answer: str
    day: str


class TaughtKeys(MenuPart, frozen=True):
    """All that was learnt by doing. `next_letter` ends a letter where the next one stands on the same key, else one waits."""

    lessons: tuple[Lesson, ...] = ()
    letters: tuple[LetterKey, ...] = ()
    next_letter: str = ""
    trials: tuple[TriedLimit, ...] = ()

    @property
    def saves(self) -> bool:
        """Whether a memory can be entered by what was learnt: some lesson saves it."""
        return any(lesson.part in {"save", "memory"} and lesson.steps for lesson in self.lessons)
