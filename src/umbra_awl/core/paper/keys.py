"""The exact keys that enter one memory on a radio with a keypad: menu by menu, digits at full width, letters by multi-tap.

What a menu holds may be unknown: then every menu that matters is opened, and a key is pressed until the display shows the value.
"""

from typing import NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.tones import TONES
from umbra_awl.core.paper.beyond import beyond_keys
from umbra_awl.core.paper.taps import CannotTypeError, taps, until
from umbra_awl.core.radio.keypad import Keypad, Menu
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile

_ALL_TONES = tuple(tone or "off" for tone in TONES)


class KeyStep(NamedTuple):
    """One menu: the keys in order (WAIT is a pause), what the display shows then, and whether it is the step that saves."""

    field: str
    label: str
    shows: str
    keys: tuple[str, ...]
    note: str = ""
    saves: bool = False


State = dict[str, str]
"""What each menu holds, by field; a field that is not there is unknown."""


def values_of(menu: Menu) -> tuple[str, ...]:
    """The values that a menu steps through; “tones” stands for none, all CTCSS tones and all DCS codes."""
    return _ALL_TONES if menu.values == ("tones",) else menu.values


def state_after(keypad: Keypad, before: State) -> State:
    """What the menus hold when the next memory is begun: what stayed from the one before (known or not), else the first value."""
    blank: State = {menu.field: _blank(menu) for menu in keypad.menus if menu.field not in keypad.keeps}
    return blank | {field: before[field] for field in keypad.keeps if field in before}


def _blank(menu: Menu) -> str:
    if menu.kind == "digits":
        return "0" * menu.width
    return values_of(menu)[0] if menu.kind in {"steps", "cycle"} else ""


def wanted_value(menu: Menu, channel: Channel, memory: Memory, name: str) -> str | None:
    """What a menu must hold for a channel; None where it does not matter. Raises CannotTypeError."""
    if channel.mode not in menu.modes:
        return None
    value = _plain_value(menu, channel, memory, name)
    if value is None or menu.kind in {"text", "save"}:
        return value
    if menu.kind in {"steps", "cycle"} and value not in values_of(menu):
        raise CannotTypeError(f"{menu.label}: the menu has no “{value}”.")
    return value


def _plain_value(menu: Menu, channel: Channel, memory: Memory, name: str) -> str | None:
    field = menu.field
    if field in {"rx", "tx", "offset"}:
        return _frequency(menu, channel)
    if field in {"tone_tx", "tone_rx"}:
        return _tone(menu, channel.tone_tx if field == "tone_tx" else channel.tone_rx)
    if field in {"contact", "call_kind"}:
        return _call(menu, channel, memory)
    if field == "power":
        return menu.values[min(channel.power, len(menu.values) - 1)]
    if field == "color_code" and menu.kind == "digits":
        return _digits(menu, channel.color_code)
    simple = {
        "mode": channel.mode,
        "shift": _shift(channel),
        "color_code": str(channel.color_code),
        "width": "wide" if channel.width_hz > 12_500 else "narrow",
        "slot": str(channel.slot or 1),
        "admit": channel.admit,
        "receive_only": "on" if channel.receive_only else "off",
        "ur": channel.ur.rstrip(),
        "rpt1": channel.rpt1.rstrip(),
        "rpt2": channel.rpt2.rstrip(),
        "way": channel.way,
        "dgid_tx": f"{channel.dgid_tx:02d}",
        "dgid_rx": f"{channel.dgid_rx:02d}",
        "name": name,
    }
    return simple.get(field)


def _shift(channel: Channel) -> str:
    """The direction; a simplex memory that must be duplex to fill its fields takes “+” with an offset of 0."""
    if channel.zero_offset:
        return "+"
    return "off" if channel.tx_hz == channel.rx_hz else "+" if channel.tx_hz > channel.rx_hz else "-"


def _digits(menu: Menu, value: int) -> str:
    text = str(value).zfill(menu.width)
    if len(text) > menu.width:
        raise CannotTypeError(f"{menu.label}: {value} has more than {counted(menu.width, 'digit')}.")
    return text


def _frequency(menu: Menu, channel: Channel) -> str | None:
    hz = {"rx": channel.rx_hz, "tx": channel.tx_hz}.get(menu.field, abs(channel.tx_hz - channel.rx_hz))
    if menu.field == "offset" and not hz and not channel.zero_offset:
        return None
    whole, rest = divmod(hz, menu.unit_hz)
    if rest:
        raise CannotTypeError(f"{menu.label}: {format_mhz(hz)} MHz is finer than the menu's {menu.unit_hz} Hz.")
    return _digits(menu, whole)


def _tone(menu: Menu, tone: str) -> str:
    if menu.kind == "steps":
        return tone or "off"
    if tone.startswith("D"):
        raise CannotTypeError(f"{menu.label}: this radio types tones in hertz and takes no code such as {tone}.")
    return _digits(menu, round(float(tone or 0) * 10))


def _call(menu: Menu, channel: Channel, memory: Memory) -> str | None:
    if not 0 < channel.contact <= len(memory.contacts):
        return None
    contact = memory.contacts[channel.contact - 1]
    return contact.kind if menu.field == "call_kind" else _digits(menu, contact.call)


class Manner(NamedTuple):
    """How one likes to enter.

    `full` types the transmit frequency in full where the radio takes it both ways, `prove` keys up and listens before anything
    is saved.
    """

    full: bool = False
    prove: bool = False


USUAL = Manner()


def steps_for(
    channel: Channel, memory: Memory, profile: Profile, state: State, name: str, manner: Manner = USUAL
) -> tuple[tuple[KeyStep, ...], State]:
    """The steps from a state of the menus to a saved memory, and the state after. Raises CannotTypeError.

    The mode comes first, for it decides which menus there are. Menus that hold the right value already are not opened. Where
    the name is not there until the memory is saved, it is saved, named, and saved again.
    """
    keypad = profile.keypad
    if keypad is None:
        raise CannotTypeError(f"{profile.name} is not programmed by its keys.")
    beyond = beyond_keys(channel, profile, keypad)
    if beyond:
        raise CannotTypeError(beyond)
    now, steps = dict(state), list[KeyStep]()
    for menu in _in_order(keypad, full=manner.full and not channel.zero_offset):
        if menu.kind == "save":
            if manner.prove and not any(step.saves for step in steps):
                steps.append(_prove(channel))
            steps.append(_save(menu, keypad, channel, again=any(step.saves for step in steps)))
            continue
        want = wanted_value(menu, channel, memory, name)
        if want is None or now.get(menu.field) == want:
            continue
        steps.append(KeyStep(menu.field, menu.label, want, keys_to(menu, keypad, now.get(menu.field), want), menu.note))
        now[menu.field] = want
    return tuple(steps), state_after(keypad, now)


def _in_order(keypad: Keypad, *, full: bool) -> list[Menu]:
    """The menus in the order to go through: the mode first; the input by shift or in full; the name after a first save."""
    fields = {menu.field for menu in keypad.menus}
    full = "tx" in fields and (full or "shift" not in fields)
    left_out = {"shift", "offset"} if full else {"tx"}
    menus = sorted((menu for menu in keypad.menus if menu.field not in left_out), key=lambda item: item.field != "mode")
    if not keypad.name_after_save:
        return menus
    names, saves = ([menu for menu in menus if menu.field == field] for field in ("name", "save"))
    return [*(menu for menu in menus if menu not in [*names, *saves]), *saves, *names, *saves]


def _save(menu: Menu, keypad: Keypad, channel: Channel, *, again: bool) -> KeyStep:
    """The step that keeps it: with a number, or with the one that the radio gives."""
    digits = _digits(menu, channel.number) if menu.width and not again else ""
    shows = digits or "number it shows"
    note = "Save again: the name is kept only now." if again else menu.note
    return KeyStep(
        "save", menu.label, shows, (*menu.keys, *digits, *([keypad.enter] if menu.width else [])), note, saves=True
    )


def _prove(channel: Channel) -> KeyStep:
    """Prove it in free tuning before it is kept: a key-up shows what is sent on, and the access point answers."""
    if channel.receive_only:
        return KeyStep(
            "prove", "Listen first", format_mhz(channel.rx_hz), (), "It only listens. Hear somebody before you keep it."
        )
    note = (
        "Only where your licence lets you. Listen, key for a second: the display shows what is sent on, and it answers."
    )
    return KeyStep("prove", "Prove it first", format_mhz(channel.tx_hz), ("PTT",), note)


def keys_to(menu: Menu, keypad: Keypad, now: str | None, want: str) -> tuple[str, ...]:
    """The keys that open a menu, bring it to a value from what it holds (None: unknown), and close it."""
    if menu.kind == "digits":
        return (*menu.keys, *want, keypad.enter)
    if menu.kind == "text":
        return (*menu.keys, *([menu.clear] * menu.clears), *taps(want, keypad), keypad.enter)
    if menu.kind == "cycle":
        return _cycled(menu, now, want)
    return (*menu.keys, *_moves(menu, keypad, now, want), keypad.enter)


def _cycled(menu: Menu, now: str | None, want: str) -> tuple[str, ...]:
    """One key pressed until its value has come round; of a chord all keys before the last one lead in each time."""
    values = values_of(menu)
    if now is None:
        return (*menu.keys[:-1], until(menu.keys[-1], want)) if len(menu.keys) > 1 else (until(menu.keys[0], want),)
    return menu.keys * ((values.index(want) - values.index(now)) % len(values))


def _moves(menu: Menu, keypad: Keypad, now: str | None, want: str) -> tuple[str, ...]:
    values = values_of(menu)
    if now is None:
        return _moves_from_anywhere(menu, keypad, want)
    ahead = values.index(want) - values.index(now)
    if menu.ring and abs(ahead) > len(values) // 2:
        ahead -= len(values) if ahead > 0 else -len(values)
    return (keypad.up,) * ahead if ahead > 0 else (keypad.down,) * -ahead


def _moves_from_anywhere(menu: Menu, keypad: Keypad, want: str) -> tuple[str, ...]:
    """Round a ring until the value is shown; against the nearer end of a row, and back from there."""
    values = values_of(menu)
    if menu.ring:
        return (until(keypad.up, want),)
    from_low, most = values.index(want), len(values) - 1
    if from_low <= most - from_low:
        return (keypad.down,) * most + (keypad.up,) * from_low
    return (keypad.up,) * most + (keypad.down,) * (most - from_low)
