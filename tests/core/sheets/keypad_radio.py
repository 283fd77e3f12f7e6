"""A small simulator of a radio with a keypad: it is pressed key by key, and shows and keeps what such a radio would."""

from umbra_awl.core.facts.tones import TONES


class KeypadRadio:
    """Begins switched on, with a new memory open. `wait` is what a pause is called on the sheet."""

    def __init__(self, keypad, wait="wait"):
        self.keypad, self.wait = keypad, wait
        self._letters = {item.key: item.types for item in keypad.letters}
        self.memories = {}
        self._held = {}
        self._begin()
        self._close()

    def _values(self, menu):
        return [tone or "off" for tone in TONES] if menu.values == ("tones",) else list(menu.values)

    def _begin(self):
        """A new memory: what stays, stays; everything else is at its first value."""
        fresh = {}
        for menu in self.keypad.menus:
            first = "0" * menu.width if menu.kind == "digits" else self._values(menu)[0] if menu.kind == "steps" else ""
            fresh[menu.field] = self._held.get(menu.field, first) if menu.field in self.keypad.keeps else first
        self._held = fresh

    def _close(self):
        self.menu, self._typed, self._path = None, "", []
        self._text, self._tapping, self._capitals = "", None, True

    def press(self, key):
        if self.menu is None:
            self._navigate(key)
        else:
            {"digits": self._digit, "steps": self._step, "text": self._letter, "save": self._digit}[self.menu.kind](key)

    def _navigate(self, key):
        if key == self.wait:
            return
        self._path.append(key)
        mode = self._held.get("mode", "fm")
        there = [menu for menu in self.keypad.menus if mode in menu.modes]
        found = [menu for menu in there if list(menu.keys) == self._path]
        if found:
            self.menu = found[0]
            self._value = self._held.get(self.menu.field, "")
        elif not any(list(menu.keys)[: len(self._path)] == self._path for menu in there):
            raise AssertionError(f"no menu at {self._path} in {mode}")

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
            self.memories[int(digits)] = dict(self._held)
            self._begin()
        else:
            self._held[self.menu.field] = digits

    def _step(self, key):
        values = self._values(self.menu)
        if key == self.keypad.enter:
            self._held[self.menu.field] = self._value
            self._close()
            return
        at = values.index(self._value) + {self.keypad.up: 1, self.keypad.down: -1}[key]
        self._value = values[at % len(values)] if self.menu.ring else values[max(0, min(at, len(values) - 1))]

    def _letter(self, key):
        if key == self.keypad.enter:
            self._commit()
            self._held["name"] = self._text
            self._close()
        elif key == self.wait or (self.keypad.next_letter and key == self.keypad.next_letter):
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
