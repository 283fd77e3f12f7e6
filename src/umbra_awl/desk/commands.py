"""Every command in one table: its words, its keys, what it does and when. The find-or-do box and the keys read it."""

from collections.abc import Callable, Iterator
from typing import NamedTuple

from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.stage import Condition, always


class Command(NamedTuple):
    """A command of the window. `keys` in Qt's notation, empty for none; `hint` says more in the find-or-do box.

    `menu` is where it stands in the full menu: “Plan”, or “Go/Station” for what is under a further word.
    """

    name: str
    words: str
    keys: str
    does: Callable[[], object]
    hint: str = ""
    when: Condition = always
    menu: str = "Go"


class CommandTable:
    """The commands, by name, in the order they were added."""

    def __init__(self, bench: Workbench, before: Callable[[], object] = lambda: None) -> None:
        """`before` is done before any command: a value being typed is taken."""
        self._bench, self._before = bench, before
        self._commands: dict[str, Command] = {}

    def add(
        self,
        name: str,
        words: str,
        does: Callable[[], object],
        keys: str = "",
        *,
        hint: str = "",
        when: Condition = always,
        menu: str = "Go",
    ) -> None:
        """Add a command. Raises ValueError when its name or keys are taken."""
        if name in self._commands or (keys and any(item.keys == keys for item in self._commands.values())):
            raise ValueError(f"The command {name!r} or its keys {keys!r} exist already.")
        self._commands[name] = Command(name, words, keys, does, hint, when, menu)

    def __iter__(self) -> Iterator[Command]:
        return iter(self._commands.values())

    def __getitem__(self, name: str) -> Command:
        return self._commands[name]

    def offered(self) -> Iterator[Command]:
        """Those that can be done now."""
        return (item for item in self if not item.when(self._bench))

    def run(self, name: str) -> None:
        """Do a command, or say why it cannot be done now; a value being typed is taken first. Raises KeyError for no name."""
        command = self._commands[name]
        self._before()
        why_not = command.when(self._bench)
        if why_not:
            self._bench.say(why_not)
        else:
            command.does()
