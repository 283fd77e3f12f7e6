"""A memory entered by keys: what is wanted, what was kept, the slips on the way, the keys counted against the cheapest way."""

import random
from collections.abc import Iterable
from typing import NamedTuple

from umbra_awl.core.drills.keypad_letters import PressError
from umbra_awl.core.drills.keypad_radio import KeypadRadio
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.paper.keys import state_after, steps_for, wanted_value
from umbra_awl.core.paper.keysheet import Entered, key_sheet, pressed
from umbra_awl.core.paper.taps import WAIT, CannotTypeError
from umbra_awl.core.radio.keypad import Keypad
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile


class WrongKey(NamedTuple):
    """A value that the saved memory has otherwise than it is meant."""

    label: str
    has: str
    meant: str


class Task:
    """One memory to be entered. `press` counts; `wrong` says how what was saved differs from what is meant.

    `cheapest` are the keys of the cheapest way from what the menus hold at the beginning; pauses do not count.
    """

    def __init__(self, profile: Profile, memory: Memory, entered: Entered, seed: int) -> None:
        assert profile.keypad is not None  # noqa: S101  (chosen so)
        self.profile, self.memory, self.entered = profile, memory, entered
        self.keypad: Keypad = profile.keypad
        self.radio = KeypadRadio(self.keypad)
        left = _left_over(memory, entered.channel, profile, seed)
        self.radio.leave_over(left)
        self.cheapest = _cheapest(entered, memory, profile, left)
        self.pressed = 0
        self.slips: list[str] = []

    @property
    def channel(self) -> Channel:
        """The channel that is to be entered."""
        return self.entered.channel

    def press(self, key: str) -> str:
        """Press a key; what went wrong by it, in words, or nothing."""
        self.pressed += key != WAIT
        try:
            told = self.radio.press(key)
        except PressError as error:
            told = str(error)
        if told:
            self.slips.append(told)
        return told

    @property
    def saved(self) -> bool:
        """Whether a memory was kept, with its name where the radio names it afterwards."""
        return bool(self.radio.memories) and not self.radio.saved

    def wrong(self) -> list[WrongKey]:
        """How the memory that was saved last differs from what is meant."""
        if not self.radio.memories:
            return []
        number, held = list(self.radio.memories.items())[-1]
        found: dict[str, WrongKey] = {}
        for menu in self.keypad.menus:
            if menu.kind == "save":
                if menu.width and number != self.channel.number:
                    found["save"] = WrongKey("Memory", str(number), str(self.channel.number))
                continue
            meant = wanted_value(menu, self.channel, self.memory, self.entered.name)
            has = held.get(menu.field, "")
            if meant is not None and has.strip() != meant.strip():
                found[menu.field] = WrongKey(menu.label, has or "nothing", meant)
        return [item for field, item in found.items() if field not in self._by_other_way(found)]

    def _by_other_way(self, found: Iterable[str]) -> frozenset[str]:
        """Where a radio takes the transmit frequency in full or by its shift: the way that was not taken does not matter."""
        wrong, fields = set(found), {menu.field for menu in self.keypad.menus}
        if not {"tx", "shift"} <= fields:
            return frozenset()
        if not wrong & {"shift", "offset"}:
            return frozenset({"tx"})
        return frozenset({"shift", "offset"}) if "tx" not in wrong else frozenset()

    def verdict(self) -> str:
        """What came of it, in words."""
        if not self.saved:
            return "Named, and not saved again: the name is not kept." if self.radio.saved else "Nothing is saved yet."
        wrong = self.wrong()
        if not wrong:
            over = self.pressed - self.cheapest
            more = f", {over} more than the cheapest way" if over > 0 else ""
            return f"Right: {self.channel.name} is as meant. {counted(self.pressed, 'key')}{more}."
        told = "; ".join(f"{item.label} is {item.has}, meant was {item.meant}" for item in wrong[:3])
        return f"Saved, and not as meant: {told}."


def _cheapest(entered: Entered, memory: Memory, profile: Profile, left: dict[str, str]) -> int:
    """The keys of the cheapest way, where it is known what the menus hold."""
    keypad = profile.keypad
    blank = state_after(keypad, {}) if keypad is not None else {}
    steps, _after = steps_for(entered.channel, memory, profile, blank | left, entered.name)
    return pressed(steps)


def _left_over(memory: Memory, channel: Channel, profile: Profile, seed: int) -> dict[str, str]:
    """What another memory of the radio, entered before, has left in the menus: a shift left on stays on."""
    chance = random.Random(seed)  # noqa: S311  (a drill)
    others = [item for item in memory.channels if item.number != channel.number] or [channel]
    before, keypad = chance.choice(others), profile.keypad
    values: dict[str, str] = {}
    for menu in keypad.menus if keypad is not None else ():
        try:
            value = wanted_value(menu, before, memory, before.name)
        except CannotTypeError:
            value = None
        if value is not None and menu.kind != "save" and menu.field in (keypad.keeps if keypad is not None else ()):
            values[menu.field] = value
    return values


def task_of(fit: Fit, profile: Profile, seed: int, number: int | None = None) -> Task | None:
    """A memory of a radio to be entered by keys; None where it has no keys, or no channel that can be keyed in.

    `number` chooses the channel; without one chance does.
    """
    if profile.keypad is None or not fit.memory.channels:
        return None
    chance = random.Random(seed)  # noqa: S311  (a drill)
    numbers = [number] if number is not None else [item.number for item in fit.memory.channels]
    chance.shuffle(numbers)
    for one in numbers:
        sheet = key_sheet(fit.memory, profile, (one,), alone=True)
        entered = next((item for item in sheet.memories if not item.fault), None)
        if entered is not None:
            return Task(profile, fit.memory, entered, seed)
    return None
