"""A small simulator of a radio with a keypad: it is pressed key by key, and shows and keeps what such a radio would."""

from umbra_awl.core.facts.tones import TONES

WAIT, UNTIL = "wait", " until "


class KeypadRadio:
    """Begins in any state that `draw` (a random.Random) deals: in a memory or not, on either half, in a menu, with any values."""

    def __init__(self, keypad, draw):
        self.keypad = keypad
        self._letters = {item.key: item.types for item in keypad.letters}
        self.memories = {}
        self.stands = {item.field: draw.choice(item.values) for item in keypad.begin}
        self._toggles = {item.key: item for item in keypad.begin}
        halves = next((item.values for item in keypad.begin if item.field == "half"), ("",))
        self.free = dict.fromkeys(halves, "on")
        self._held = {half: {menu.field: self._any(menu, draw) for menu in keypad.menus} for half in halves}
        self._cycles = {menu.keys[0]: menu for menu in keypad.menus if menu.kind == "cycle"}
        self.own, self.saved = draw.choice(["your own call sign", "your own ID", "somebody else"]), 0
        self._close()
        menus = [menu for menu in keypad.menus if menu.kind not in {"save", "cycle"} and menu.field != "name"]
        for key in draw.choice(menus).keys[: draw.randrange(3)]:
            self._path.append(key)
        if draw.random() < 0.3:
            self._open(draw.choice(menus))

    def _any(self, menu, draw):
        if menu.kind == "digits":
            return "".join(draw.choice("0123456789") for _ in range(menu.width))
        return draw.choice(self._values(menu)) if menu.kind in {"steps", "cycle"} else draw.choice(["", "OLD NAME"])

    def _values(self, menu):
        return [tone or "off" for tone in TONES] if menu.values == ("tones",) else list(menu.values)

    @property
    def held(self):
        """What the menus act on: the chosen half's free tuning, or a memory's values that are not kept."""
        if self.stands.get("tuning", self._wanted("tuning")) != self._wanted("tuning"):
            return self._held.setdefault("in a memory", dict(next(iter(self._held.values()))))
        return self._held[self.stands.get("half", "")]

    def _wanted(self, field):
        return next((item.want for item in self.keypad.begin if item.field == field), None)

    def _begin(self):
        """A new memory: what stays, stays; everything else is at its first value."""
        for menu in self.keypad.menus:
            if menu.field not in self.keypad.keeps:
                first = (
                    "0" * menu.width
                    if menu.kind == "digits"
                    else self._values(menu)[0]
                    if menu.kind in {"steps", "cycle"}
                    else ""
                )
                self.held[menu.field] = first

    def _close(self):
        self.menu, self._typed, self._path = None, "", []
        self._text, self._tapping, self._capitals = "", None, True

    def press(self, key):
        if UNTIL in key:
            self._press_until(*key.split(UNTIL))
        elif key == self.keypad.leave:
            self._close()
        elif self.menu is None:
            self._navigate(key)
        else:
            {"digits": self._digit, "steps": self._step, "text": self._letter, "save": self._digit}[self.menu.kind](key)

    def _press_until(self, key, shown):
        for _press in range(400):
            if shown.startswith("your own"):
                self.own = shown
                return
            if key in self._cycles and self.held[self._cycles[key].field] == shown:
                return
            if self.shows() == shown or (
                self.menu is None and key in self._toggles and self.stands[self._toggles[key].field] == shown
            ):
                return
            self.press(key)
        raise AssertionError(f"{shown} never came by {key}")

    def shows(self):
        """The value in an open menu."""
        return self._value if self.menu is not None else None

    def _navigate(self, key):
        if key == WAIT:
            return
        if not self._path and key in self._toggles:
            item = self._toggles[key]
            at = item.values.index(self.stands[item.field]) + 1
            self.stands[item.field] = item.values[at % len(item.values)]
            return
        if not self._path and key in self._cycles:
            menu = self._cycles[key]
            at = menu.values.index(self.held[menu.field]) + 1
            self.held[menu.field] = menu.values[at % len(menu.values)]
            return
        if key == "PTT":
            assert self.menu is None
            return
        self._path.append(key)
        there = [menu for menu in self.keypad.menus if self.held.get("mode", "fm") in menu.modes]
        there += list(self.keypad.own)
        there += [self.keypad.free_tuning] if self.keypad.free_tuning is not None else []
        found = [menu for menu in there if list(menu.keys) == self._path]
        if found:
            self._open(found[0])
        elif not any(list(menu.keys)[: len(self._path)] == self._path for menu in there):
            raise AssertionError(f"no menu at {self._path} in {self.held.get('mode')}")

    def _save_somewhere(self):
        """The radio takes the next free number; where the name comes after that, it waits to be saved once more."""
        again = self.keypad.name_after_save and self.saved
        number = self.saved if again else len(self.memories) + 1
        held = dict(self.held)
        if self.keypad.name_after_save and not again:
            held["name"] = self._default
            self.saved = number
        self.memories[number] = held
        if again or not self.keypad.name_after_save:
            self.saved = 0
            self._begin()
        self._close()

    _default = "CH000001"

    def _open(self, menu):
        if menu.kind == "save" and not menu.width:
            self._save_somewhere()
            return
        if menu.field == "name" and self.keypad.name_after_save:
            assert self.saved, "there is no name before the memory is saved"
        self.menu = menu
        if menu.clear:
            self._text = self._default if menu.field == "name" else str(self.held.get(menu.field, ""))
        half = self.stands.get("half", "")
        self._value = self.free[half] if menu.field == "free_tuning" else self.held.get(menu.field, "")

    def _digit(self, key):
        if key == self.keypad.enter:
            if len(self._typed) == self.menu.width:
                self._take(self._typed)
            self._close()
        elif key.isdigit() and len(self._typed) < self.menu.width:
            self._typed += key
        else:
            raise AssertionError(f"{key} beyond the {self.menu.width} digits of {self.menu.label}")

    def _take(self, digits):
        if self.menu.kind == "save":
            self.memories[int(digits)] = dict(self.held)
            self._begin()
        else:
            self.held[self.menu.field] = digits

    def _step(self, key):
        values = self._values(self.menu)
        if key == self.keypad.enter:
            place = self.free if self.menu.field == "free_tuning" else self.held
            place[self.stands.get("half", "") if place is self.free else self.menu.field] = self._value
            self._close()
            return
        at = values.index(self._value) + {self.keypad.up: 1, self.keypad.down: -1}[key]
        self._value = values[at % len(values)] if self.menu.ring else values[max(0, min(at, len(values) - 1))]

    def _letter(self, key):
        if key == self.keypad.enter:
            self._commit()
            self.held[self.menu.field] = self._text
            self._close()
        elif self.menu.clear and key == self.menu.clear:
            self._text = "" if key.startswith("hold ") else self._text[:-1]
        elif key == WAIT or (self.keypad.next_letter and key == self.keypad.next_letter):
            self._commit()
        elif self.keypad.case and key == self.keypad.case:
            self._commit()
            self._capitals = not self._capitals
        else:
            self._tap(key)

    def _tap(self, key):
        letters = self._letters[key]
        if self._tapping is not None and self._tapping[0] == key:
            self._tapping = (key, (self._tapping[1] + 1) % len(letters))
        else:
            self._commit()
            self._tapping = (key, 0)

    def _commit(self):
        if self._tapping is not None:
            char = self._letters[self._tapping[0]][self._tapping[1]]
            self._text += char if self._capitals else char.lower()
            self._tapping = None
