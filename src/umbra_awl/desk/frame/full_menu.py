"""The whole table of commands as a menu: Plan, Edit, Go, Radio, View, Help; what cannot be done now says why."""

from collections.abc import Sequence
from functools import partial

from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QMenu, QWidget

from umbra_awl.desk.commands import Command, CommandTable
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.pointed import ThingAct
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import act
from umbra_awl.desk.stages import KEYS
from umbra_awl.desk.theme.icons import Icons

MENUS = ("Plan", "Edit", "Go", "Radio", "View", "Help")


def full_menu(parent: QWidget, bench: Workbench, commands: CommandTable, icons: Icons) -> QMenu:
    """The menu as it is now; it goes when it is closed."""
    menu = QMenu(parent)
    menu.setToolTipsVisible(True)
    menu.aboutToHide.connect(menu.deleteLater)
    parts = {name: menu.addMenu(f"&{name}") for name in MENUS}
    inner: dict[str, QMenu] = {}
    for command in commands:
        name, _, under = command.menu.partition("/")
        part = parts[name]
        assert part is not None
        if under and under not in inner:
            made = part.addMenu(under)
            assert made is not None
            made.setToolTipsVisible(True)
            if under in KEYS:
                made.setIcon(icons.of(KEYS[under]))
            inner[under] = made
        (inner[under] if under else part).addAction(_action(menu, bench, commands, command))
    return menu


def page_menu(
    parent: QWidget, bench: Workbench, commands: CommandTable, title: str, acts: Sequence[ThingAct] = ()
) -> QMenu:
    """What can be done with the thing in hand, then at the stage of that title, with what can be done anywhere."""
    menu = QMenu(parent)
    menu.aboutToHide.connect(menu.deleteLater)
    for item in acts:
        act(menu, item.words, item.do)
    if acts:
        menu.addSeparator()
    for command in commands:
        if command.name in {"copy-shown", "undo", "redo"}:
            menu.addAction(_action(menu, bench, commands, command))
    menu.addSeparator()
    for command in commands:
        if command.menu.endswith(f"/{title}"):
            menu.addAction(_action(menu, bench, commands, command))
    return menu


def _action(menu: QMenu, bench: Workbench, commands: CommandTable, command: Command) -> QAction:
    made = QAction(command.words, menu)
    if command.keys:
        made.setText(f"{command.words}\t{QKeySequence(command.keys).toString(QKeySequence.SequenceFormat.NativeText)}")
    why_not = command.when(bench)
    made.setEnabled(not why_not)
    set_tip(made, why_not or command.hint)
    made.triggered.connect(partial(_run, commands, command.name))
    return made


def _run(commands: CommandTable, name: str, _checked: bool = False) -> None:
    commands.run(name)
