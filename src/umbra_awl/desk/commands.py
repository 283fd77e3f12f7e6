"""Every command in one table: its words, its keys, what it does. The find-or-do box and the menus read it."""

from collections.abc import Callable, Iterator
from typing import NamedTuple


class Command(NamedTuple):
    """A command of the window. `keys` in Qt's notation, empty for none; `hint` says more in the find-or-do box."""

    name: str
    words: str
    keys: str
    does: Callable[[], object]
    hint: str = ""


class CommandTable:
    """The commands, by name, in the order they were added."""

    def __init__(self) -> None:
        self._commands: dict[str, Command] = {}

    def add(self, name: str, words: str, does: Callable[[], object], keys: str = "", hint: str = "") -> None:
        """Add a command. Raises ValueError when its name or keys are taken."""
        if name in self._commands or (keys and any(item.keys == keys for item in self._commands.values())):
            raise ValueError(f"The command {name!r} or its keys {keys!r} exist already.")
        self._commands[name] = Command(name, words, keys, does, hint)

    def __iter__(self) -> Iterator[Command]:
        return iter(self._commands.values())

    def __getitem__(self, name: str) -> Command:
        return self._commands[name]
