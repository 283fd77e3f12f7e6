"""The key sheet of a radio: for each memory the keys to press, in the plan's order or the cheapest one found."""

from itertools import product
from typing import NamedTuple

from umbra_awl.core.paper.begin import begin_steps, option_steps
from umbra_awl.core.paper.keys import USUAL, KeyStep, Manner, State, steps_for
from umbra_awl.core.paper.taps import WAIT, CannotTypeError, cost, taps
from umbra_awl.core.radio.keypad import Keypad
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile

_FEWEST_LETTERS = 3
NOT_BY_KEYS = "Zones, scan lists and receive group lists are not set by these keys."


class Entered(NamedTuple):
    """One memory on the sheet; `fault` says why it cannot be entered."""

    channel: Channel
    name: str
    steps: tuple[KeyStep, ...]
    fault: str = ""

    @property
    def presses(self) -> int:
        """How many keys are pressed, about; pauses do not count."""
        return pressed(self.steps)

    @property
    def pauses(self) -> int:
        """How many pauses there are between letters."""
        return sum(key == WAIT for step in self.steps for key in step.keys)


class KeySheet(NamedTuple):
    """A whole sheet, with what the same memories would cost in the plan's order and with the names as fitted.

    `begin` is what must stand right before the first memory. The memories follow on from each other in their order, unless each
    is `alone`. `kept_to` are lines on what its operator keeps to.
    """

    profile: Profile
    memories: tuple[Entered, ...]
    as_planned: int
    begin: tuple[KeyStep, ...] = ()
    alone: bool = False
    kept_to: tuple[str, ...] = ()

    @property
    def presses(self) -> int:
        """Keys pressed for the whole sheet, about."""
        return pressed(self.begin) + sum(item.presses for item in self.memories)


def pressed(steps: tuple[KeyStep, ...]) -> int:
    """How many keys some steps take, about: how often a key is pressed until something is shown, nobody knows."""
    return sum(cost(tuple(key for key in step.keys if key != WAIT)) for step in steps)


def key_sheet(
    memory: Memory,
    profile: Profile,
    numbers: tuple[int, ...] | None = None,
    *,
    cheapest: bool = False,
    short: bool = False,
    alone: bool = False,
    manner: Manner = USUAL,
) -> KeySheet:
    """The sheet for some channels by number (all when None), from whatever the radio may hold.

    `cheapest` orders them so that fewest keys are pressed; `short` gives each the cheapest name that no other has; `alone` makes
    each stand by itself, with every menu that matters. Raises CannotTypeError for a radio without a keypad.
    """
    chosen = [item for item in memory.channels if numbers is None or item.number in numbers]
    if profile.keypad is None and profile.by_keys:
        return _taught_sheet(chosen, memory, profile)
    if profile.keypad is None:
        raise CannotTypeError(f"{profile.name} is not programmed by its keys.")
    fitted = {item.number: item.name for item in chosen}
    names = cheap_names(chosen, profile.keypad) if short else fitted
    begin = begin_steps(profile, silent=memory.settings.free_tuning is False)
    begin += option_steps(profile, memory.settings)
    planned = _walk(chosen, memory, profile, fitted, alone=alone, manner=manner)
    as_planned = pressed(begin) + sum(item.presses for item in planned)
    candidates = [_walk(chosen, memory, profile, names, alone=alone, manner=manner)]
    if cheapest and not alone:
        alike = sorted(
            chosen, key=lambda item: (item.mode, item.rx_hz, item.tx_hz, item.color_code, item.slot, item.number)
        )
        candidates += [
            _walk(alike, memory, profile, names, manner=manner),
            _nearest_next(chosen, memory, profile, names, manner),
        ]
    return KeySheet(profile, min(candidates, key=_total), as_planned, begin, alone)


def _taught_sheet(chosen: list[Channel], memory: Memory, profile: Profile) -> KeySheet:
    """The sheet by what was learnt by doing: in the plan's order, each memory by itself."""
    from umbra_awl.core.lessons.sheet import taught_begin, taught_steps

    made: list[Entered] = []
    for channel in chosen:
        try:
            made.append(Entered(channel, channel.name, taught_steps(channel, memory, profile)))
        except CannotTypeError as error:
            made.append(Entered(channel, channel.name, (), str(error)))
    begin = (*taught_begin(profile), *option_steps(profile, memory.settings))
    return KeySheet(profile, tuple(made), pressed(begin) + sum(item.presses for item in made), begin, alone=True)


def _total(entered: tuple[Entered, ...]) -> int:
    return sum(cost(step.keys) for item in entered for step in item.steps)


def _walk(
    order: list[Channel],
    memory: Memory,
    profile: Profile,
    names: dict[int, str],
    *,
    alone: bool = False,
    manner: Manner,
) -> tuple[Entered, ...]:
    """The memories entered one after another, each from where the last one left the menus; the first from anywhere."""
    state: State = {}
    made: list[Entered] = []
    for channel in order:
        entered, after = _enter(channel, memory, profile, (state, manner), names[channel.number])
        made.append(entered)
        state = {} if alone else after
    return tuple(made)


def _enter(
    channel: Channel, memory: Memory, profile: Profile, stands: tuple[State, Manner], name: str
) -> tuple[Entered, State]:
    state, manner = stands
    try:
        steps, after = steps_for(channel, memory, profile, state, name, manner)
    except CannotTypeError as error:
        return Entered(channel, name, (), str(error)), state
    return Entered(channel, name, steps), after


def _nearest_next(
    chosen: list[Channel], memory: Memory, profile: Profile, names: dict[int, str], manner: Manner
) -> tuple[Entered, ...]:
    """Always the memory next that takes fewest keys from where the menus stand."""
    state: State = {}
    left, made = list(chosen), []
    while left:
        tried = [_enter(channel, memory, profile, (state, manner), names[channel.number]) for channel in left]
        best = min(range(len(left)), key=lambda at: (sum(cost(step.keys) for step in tried[at][0].steps), at))
        made.append(tried[best][0])
        state = tried[best][1]
        del left[best]
    return tuple(made)


def cheap_names(channels: list[Channel], keypad: Keypad) -> dict[int, str]:
    """Channel number to the cheapest name to type: every word cut as short as it can be while all names differ."""
    taken: set[str] = set()
    made: dict[int, str] = {}
    for channel in channels:
        made[channel.number] = _cheap_name(
            channel.name, keypad, taken, {item.name for item in channels} - {channel.name}
        )
        taken.add(made[channel.number])
    return made


def _cheap_name(name: str, keypad: Keypad, taken: set[str], others: set[str]) -> str:
    """The cheapest cut of a name that is not taken; the name itself when no cut can be typed."""
    cuts = [_cuts(word) for word in name.split()]
    tried: list[tuple[int, str]] = []
    for parts in product(*cuts):
        text = " ".join(parts)
        try:
            tried.append((cost(taps(text, keypad)), text))
        except CannotTypeError:
            continue
    return next((text for _cost, text in sorted(tried) if text not in taken and text not in others), name)


def _cuts(word: str) -> list[str]:
    """A word's beginnings, shortest first; whole where it has a digit, for digits tell names apart."""
    if any(char.isdigit() for char in word) or len(word) < _FEWEST_LETTERS:
        return [word]
    return [word[:count] for count in range(_FEWEST_LETTERS, len(word) + 1)]
