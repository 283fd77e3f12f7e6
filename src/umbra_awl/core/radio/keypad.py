"""How a radio is programmed by its keypad, as data: its menus, its number fields at full width, its letters, its save step."""

from typing import Literal

import msgspec

StepKind = Literal["digits", "steps", "cycle", "text", "save"]
KeypadField = Literal[
    "mode", "rx", "tx", "shift", "offset", "width", "tone_tx", "tone_rx", "color_code", "slot", "call_kind", "contact", "power",
    "admit", "receive_only", "ur", "rpt1", "rpt2", "way", "dgid_tx", "dgid_rx", "name", "save", "free_tuning",
    "own_id", "own_call",
]  # fmt: skip


class Menu(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """One menu, opened by `keys`.

    `digits`: a number of exactly `width` digits, in units of `unit_hz` where it is a frequency; fewer are not taken.
    `steps`: a value out of `values`, reached by the up and down keys from the one shown; `ring` when the ends meet.
    `cycle`: one key that goes to the next of `values` with each press, without a menu. `text`: letters by multi-tap; what was
    there goes first, by `clear` pressed `clears` times where the radio does not empty the field itself. `save`: writes the
    memory; `width` digits for its number, 0 where the radio gives the number and shows it. `modes` are the modes in which the
    menu is there. A key may be held: “hold SET”.
    """

    field: KeypadField
    label: str
    keys: tuple[str, ...]
    kind: StepKind
    width: int = 0
    unit_hz: int = 0
    values: tuple[str, ...] = ()
    ring: bool = False
    clear: str = ""
    clears: int = 0
    modes: tuple[str, ...] = ("fm", "dmr")
    note: str = ""


class LetterKey(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A key that types letters: one press the first character of `types`, two the second."""

    key: str
    types: str


class Begin(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """One thing that must stand right before the first memory: `key` is pressed until the display shows `want`, out of `values`.

    `tuning` is free tuning or a memory, `half` which half of the display the keys act on, `receive` one receiver or two.
    """

    field: Literal["tuning", "half", "receive"]
    label: str
    key: str
    values: tuple[str, ...]
    want: str
    note: str = ""


class Keypad(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """The keys by name, what each letter key types in turn, and the menus in the order the radio offers them.

    `next_letter` ends a letter when the next one
    stands on the same key (empty: wait until the cursor moves on). `case` is the key that changes between capitals and small.
    `keeps` are the fields whose value stays from the memory entered before. `leave` closes whatever menu is open; `begin` is what
    must stand right before the first key. `free_tuning` is the menu that lets the half send where it is tuned freely, or not.
    `touch`: the keys are targets on a screen. `name_after_save`: the name is not there until the memory is saved; it is saved
    once more after it. `own` are the menus that choose among several IDs or call signs of one's own, looked at first.
    """

    enter: str
    leave: str
    up: str
    down: str
    letters: tuple[LetterKey, ...]
    menus: tuple[Menu, ...]
    next_letter: str = ""
    case: str = ""
    wait_s: float = 1.5
    keeps: tuple[KeypadField, ...] = ()
    begin: tuple[Begin, ...] = ()
    free_tuning: Menu | None = None
    touch: bool = False
    name_after_save: bool = False
    own: tuple[Menu, ...] = ()
