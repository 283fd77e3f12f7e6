"""A simulated radio with a keypad, out of its profile: pressed key by key, it shows and keeps what such a radio would.

What a slip does is what it does there: too few digits are not taken, leaving a menu drops what was typed, a name is kept only
when the memory is saved. `press` tells it in the moment.
"""

import random
from collections.abc import Callable

from umbra_awl.core.drills.keypad_letters import KeypadLetters, PressError
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.paper.keys import values_of
from umbra_awl.core.paper.taps import WAIT, until_parts
from umbra_awl.core.radio.keypad import Begin, Keypad, Menu

_MOST_PRESSES = 400
NO_NAME = "CH000001"
_LEFT_OVER = 0.3


class KeypadRadio:
    """Begins in any state that `draw` deals: in a memory or not, on either half, in a menu, with any values; without one, ready.

    `memories` are what was saved, by number: each the values of its menus by field.
    """

    def __init__(self, keypad: Keypad, draw: random.Random | None = None) -> None:
        self.tapped = KeypadLetters(self)
        self.keypad = keypad
        self.letters = {item.key: item.types for item in keypad.letters}
        self._draw = draw
        self.memories: dict[int, dict[str, str]] = {}
        self.stands = {item.field: draw.choice(item.values) if draw is not None else item.want for item in keypad.begin}
        self._toggles: dict[str, Begin] = {item.key: item for item in keypad.begin}
        halves = next((item.values for item in keypad.begin if item.field == "half"), ("",))
        self.free = dict.fromkeys(halves, "on")
        self._held: dict[str, dict[str, str]] = {
            half: {str(menu.field): self._any(menu) for menu in keypad.menus} for half in halves
        }
        self._cycles = {menu.keys[0]: menu for menu in keypad.menus if menu.kind == "cycle"}
        self.own = draw.choice(["your own call sign", "your own ID", "somebody else"]) if draw is not None else ""
        self.saved = 0
        self.menu: Menu | None = None
        self._value = self._typed = self.text = ""
        self._path: list[str] = []
        self.tapping: tuple[str, int] | None = None
        self.capitals = True
        if draw is not None:
            self._somewhere(draw)

    def _somewhere(self, draw: random.Random) -> None:
        """Stand in a menu, or on the way to one, as somebody may have left it."""
        menus = [menu for menu in self.keypad.menus if menu.kind not in {"save", "cycle"} and menu.field != "name"]
        self._path += draw.choice(menus).keys[: draw.randrange(3)]
        if draw.random() < _LEFT_OVER:
            self._open(draw.choice(menus))

    def _any(self, menu: Menu) -> str:
        """A value that a menu may hold; without chance the first one."""
        draw = self._draw
        if draw is None:
            return _first(menu)
        if menu.kind == "digits":
            return "".join(draw.choice("0123456789") for _ in range(menu.width))
        return draw.choice(values_of(menu)) if menu.kind in {"steps", "cycle"} else draw.choice(["", "OLD NAME"])

    def leave_over(self, values: dict[str, str]) -> None:
        """Have the menus of every half hold what the memory entered before has left in them."""
        for held in self._held.values():
            held.update({field: value for field, value in values.items() if field in held})

    @property
    def held(self) -> dict[str, str]:
        """What the menus act on: the chosen half's free tuning, or a memory's values that are not kept."""
        wanted = next((item.want for item in self.keypad.begin if item.field == "tuning"), None)
        if self.stands.get("tuning", wanted) != wanted:
            return self._held.setdefault("in a memory", dict(next(iter(self._held.values()))))
        return self._held[self.stands.get("half", "")]

    def display(self) -> tuple[str, str]:
        """The two lines of the display: where one is, and the value there."""
        if self.menu is not None:
            typed = self._shown_text() if self.menu.kind == "text" else self._typed
            blank = "_" * (self.menu.width - len(typed)) if self.menu.kind in {"digits", "save"} else ""
            return self.menu.label, f"{typed}{blank}" if self.menu.kind in {"digits", "save", "text"} else self._value
        stands = " ".join(self.stands.values())
        where = " ".join(self._path) or stands or "ready"
        held = self.held
        shown = [held.get(field, "") for field in ("rx", "shift", "offset", "mode")]
        return where, " ".join(filter(None, shown))

    def _shown_text(self) -> str:
        tapping = self.letters[self.tapping[0]][self.tapping[1]] if self.tapping is not None else ""
        return self.text + (tapping if self.capitals else tapping.lower())

    def close(self) -> None:
        """Leave the menu, and forget what was being typed."""
        self.menu, self._typed, self._path = None, "", []
        self.text, self.tapping, self.capitals = "", None, True

    # pressing

    def press(self, key: str) -> str:
        """Press a key; what went wrong by it, as a sentence, or nothing. Raises PressError for a key that leads nowhere."""
        if (until := until_parts(key)) is not None:
            self._press_until(*until)
            return ""
        if key == self.keypad.leave:
            lost = self.menu is not None and (self._typed or self.text or self.tapping is not None)
            self.close()
            return "Left without the entering key: what was typed is gone, the old value stays." if lost else ""
        if self.menu is None:
            return self._navigate(key)
        acts: dict[str, Callable[[Menu, str], str]] = {
            "digits": self._digit, "steps": self._step, "text": self.tapped.letter, "save": self._digit,
        }  # fmt: skip
        return acts[self.menu.kind](self.menu, key)

    def _press_until(self, key: str, shown: str) -> None:
        for _press in range(_MOST_PRESSES):
            if shown.startswith("your own"):
                self.own = shown
                return
            if key in self._cycles and self.held[self._cycles[key].field] == shown:
                return
            toggled = self.menu is None and key in self._toggles and self.stands[self._toggles[key].field] == shown
            if self.shows() == shown or toggled:
                return
            self.press(key)
        raise PressError(f"{shown} never came by {key}.")

    def shows(self) -> str | None:
        """The value in an open menu."""
        return self._value if self.menu is not None else None

    def _navigate(self, key: str) -> str:
        if key in {WAIT, "PTT"}:
            return ""
        if not self._path and key in self._toggles:
            item = self._toggles[key]
            at = item.values.index(self.stands[item.field]) + 1
            self.stands[item.field] = item.values[at % len(item.values)]
            return ""
        if not self._path and key in self._cycles:
            menu = self._cycles[key]
            at = menu.values.index(self.held[menu.field]) + 1
            self.held[menu.field] = menu.values[at % len(menu.values)]
            return ""
        path = [*self._path, key]
        there = [menu for menu in self.keypad.menus if self.held.get("mode", "fm") in menu.modes]
        there += [*self.keypad.own, *([self.keypad.free_tuning] if self.keypad.free_tuning is not None else [])]
        found = next((menu for menu in there if list(menu.keys) == path), None)
        if found is not None:
            self._path = path
            return self._open(found)
        if not any(list(menu.keys)[: len(path)] == path for menu in there):
            self._path = []
            raise PressError(f"{' '.join(path)} leads to no menu in {self.held.get('mode', 'this mode').upper()}.")
        self._path = path
        return ""

    def _open(self, menu: Menu) -> str:
        if menu.kind == "save" and not menu.width:
            return self._save_somewhere()
        if menu.field == "name" and self.keypad.name_after_save and not self.saved:
            self._path = []
            raise PressError("There is no name before the memory is saved: save it first, name it, save it again.")
        self.menu = menu
        if menu.clear:
            self.text = NO_NAME if menu.field == "name" else str(self.held.get(menu.field, ""))
        half = self.stands.get("half", "")
        self._value = self.free[half] if menu.field == "free_tuning" else self.held.get(menu.field, "")
        return ""

    def _save_somewhere(self) -> str:
        """The radio takes the next free number; where the name comes after that, it waits to be saved once more."""
        again = self.keypad.name_after_save and self.saved
        number = self.saved if again else len(self.memories) + 1
        held = dict(self.held)
        if self.keypad.name_after_save and not again:
            held["name"] = NO_NAME
            self.saved = number
        self.memories[number] = held
        if again or not self.keypad.name_after_save:
            self.saved = 0
            self._begin()
        self.close()
        return "" if self.keypad.name_after_save else self._nameless(held)

    @staticmethod
    def _nameless(held: dict[str, str]) -> str:
        return "Saved before it was named: the memory has no name." if "name" in held and not held["name"] else ""

    def _begin(self) -> None:
        """A new memory: what stays, stays; everything else is at its first value."""
        for menu in self.keypad.menus:
            if menu.field not in self.keypad.keeps:
                self.held[menu.field] = _first(menu)

    def _digit(self, menu: Menu, key: str) -> str:
        if key == self.keypad.enter:
            few = len(self._typed) < menu.width
            told = (
                f"{len(self._typed)} of {counted(menu.width, 'digit')}: nothing is taken, the old value stays."
                if few
                else ""
            )
            if not few:
                told = self._take(menu, self._typed)
            self.close()
            return told
        if not key.isdigit():
            raise PressError(f"{key} does nothing in “{menu.label}”.")
        if len(self._typed) == menu.width:
            raise PressError(f"{menu.label} has {counted(menu.width, 'place')}, and all are typed.")
        self._typed += key
        return ""

    def _take(self, menu: Menu, digits: str) -> str:
        if menu.kind == "save":
            self.memories[int(digits)] = held = dict(self.held)
            self._begin()
            return self._nameless(held)
        self.held[menu.field] = digits
        return ""

    def _step(self, menu: Menu, key: str) -> str:
        values = values_of(menu)
        if key == self.keypad.enter:
            if menu.field == "free_tuning":
                self.free[self.stands.get("half", "")] = self._value
            else:
                self.held[menu.field] = self._value
            self.close()
            return ""
        step = {self.keypad.up: 1, self.keypad.down: -1}.get(key)
        if step is None:
            raise PressError(f"{key} does nothing in “{menu.label}”: {self.keypad.up} and {self.keypad.down} step.")
        at = (values.index(self._value) if self._value in values else 0) + step
        self._value = values[at % len(values)] if menu.ring else values[max(0, min(at, len(values) - 1))]
        return ""


def _first(menu: Menu) -> str:
    if menu.kind == "digits":
        return "0" * menu.width
    return values_of(menu)[0] if menu.kind in {"steps", "cycle"} else ""


def keys_of(keypad: Keypad) -> list[str]:
    """Every key there is to press, those that leave, enter and step first, then the digits, then all others."""
    first = [keypad.enter, keypad.leave, keypad.up, keypad.down]
    digits = [str(digit) for digit in (1, 2, 3, 4, 5, 6, 7, 8, 9, 0)]
    menus = [key for menu in (*keypad.menus, *keypad.own) for key in menu.keys]
    clears = [menu.clear for menu in keypad.menus if menu.clear]
    others = [item.key for item in keypad.begin] + menus + [item.key for item in keypad.letters] + clears
    more = [keypad.next_letter, keypad.case] + (list(keypad.free_tuning.keys) if keypad.free_tuning is not None else [])
    return [key for key in dict.fromkeys((*first, *digits, *others, *more, WAIT)) if key]
