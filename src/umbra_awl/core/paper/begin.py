"""What must stand right before the first key: no menu open, free tuning, one receiver, which half, no sending there."""

from collections.abc import Iterator

from umbra_awl.core.paper.keys import KeyStep, keys_to
from umbra_awl.core.paper.taps import until
from umbra_awl.core.radio.free_tuning import still_sends
from umbra_awl.core.radio.keypad import Begin, Keypad, Menu
from umbra_awl.core.radio.memory import HeldSettings
from umbra_awl.core.radio.profile import Profile

BEFORE = "Before the first memory"
_NOT_SAID = (
    "Stand in free tuning, with one receiver, on one half. The profile does not say how; the radio's manual does."
)
_STATED = "Each line ends with what the display must show; it may show it already."
_FIRST = "The first memory then opens every menu that matters, for nobody knows what the radio holds."


def begin_words(profile: Profile) -> str:
    """What is said above the steps before the first memory."""
    keypad = profile.keypad
    return f"{_STATED if keypad is not None and keypad.begin else _NOT_SAID} {_FIRST} {still_sends(profile)}".strip()


def option_steps(profile: Profile, settings: HeldSettings) -> tuple[KeyStep, ...]:
    """What is set once for the whole radio where the plan says so: by its keys, to the value in the radio's words."""
    keys = {option.label: option.keys for option in profile.options}
    return tuple(
        KeyStep("option", item.label, item.value, keys.get(item.label, ()), f"Once for the whole radio: {item.value}.")
        for item in settings.options
    )


def begin_steps(profile: Profile, *, silent: bool) -> tuple[KeyStep, ...]:
    """The steps before the first memory. `silent` keeps free tuning from sending as well, on each half."""
    keypad = profile.keypad
    if keypad is None:
        return ()
    halves = [item for item in keypad.begin if item.field == "half"]
    return (
        KeyStep("menus", "No menu open", "", (keypad.leave,), "Once more if a menu is still shown."),
        *(_stand(item, item.want) for item in keypad.begin if item.field != "half"),
        *(_silence(keypad, keypad.free_tuning, halves) if silent and keypad.free_tuning is not None else ()),
        *(_stand(item, item.want) for item in halves),
        *(_own(menu, keypad) for menu in keypad.own),
    )


def _own(menu: Menu, keypad: Keypad) -> KeyStep:
    """One of several IDs or call signs of one's own is in force: looked at, not typed, and no digit of it on paper."""
    said = "your own ID" if menu.field == "own_id" else "your own call sign"
    return KeyStep(menu.field, menu.label, said, (*menu.keys, until(keypad.up, said), keypad.enter), menu.note)


def _stand(item: Begin, want: str) -> KeyStep:
    return KeyStep(
        item.field, item.label if want == item.want else f"Half {want}", want, (until(item.key, want),), item.note
    )


def _silence(keypad: Keypad, menu: Menu, halves: list[Begin]) -> Iterator[KeyStep]:
    """Free tuning is a channel of its own for each half."""
    places = [(item, value) for item in halves for value in item.values]
    for item, value in places:
        yield _stand(item, value)
        yield _off(menu, keypad)
    if not places:
        yield _off(menu, keypad)


def _off(menu: Menu, keypad: Keypad) -> KeyStep:
    return KeyStep(menu.field, menu.label, "off", keys_to(menu, keypad, None, "off"), menu.note)
