"""The application's simulated radio with a keypad, for sheets: a key that leads nowhere fails the test."""

from umbra_awl.core.drills.keypad_radio import KeypadRadio as _KeypadRadio
from umbra_awl.core.drills.keypad_radio import PressError


class KeypadRadio(_KeypadRadio):
    def press(self, key):
        try:
            return super().press(key)
        except PressError as error:
            raise AssertionError(str(error)) from None
