"""Letters tapped on the keys of a simulated keypad radio."""

from typing import TYPE_CHECKING

from umbra_awl.core.paper.taps import WAIT
from umbra_awl.core.radio.keypad import Menu

if TYPE_CHECKING:
    from umbra_awl.core.drills.keypad_radio import KeypadRadio


class PressError(Exception):
    """A key that leads nowhere there; the message says why. The radio is as before."""


class KeypadLetters:
    """What is being tapped, and when a letter is done."""

    def __init__(self, owner: "KeypadRadio") -> None:
        self._radio = owner

    def letter(self, menu: Menu, key: str) -> str:
        """A key pressed where letters are typed."""
        if key == self._radio.keypad.enter:
            self._commit()
            self._radio.held[menu.field] = self._radio.text
            self._radio.close()
        elif menu.clear and key == menu.clear:
            self._radio.text = "" if key.startswith("hold ") else self._radio.text[:-1]
        elif key == WAIT or (self._radio.keypad.next_letter and key == self._radio.keypad.next_letter):
            self._commit()
        elif self._radio.keypad.case and key == self._radio.keypad.case:
            self._commit()
            self._radio.capitals = not self._radio.capitals
        elif key in self._radio.letters:
            self._tap(key)
        else:
            raise PressError(f"{key} types no letter.")
        return ""

    def _tap(self, key: str) -> None:
        letters = self._radio.letters[key]
        if self._radio.tapping is not None and self._radio.tapping[0] == key:
            self._radio.tapping = (key, (self._radio.tapping[1] + 1) % len(letters))
        else:
            self._commit()
            self._radio.tapping = (key, 0)

    def _commit(self) -> None:
        if self._radio.tapping is not None:
            char = self._radio.letters[self._radio.tapping[0]][self._radio.tapping[1]]
            self._radio.text += char if self._radio.capitals else char.lower()
            self._radio.tapping = None
