"""The main window's commands: their words, their keys, what they do."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtGui import QKeySequence, QShortcut

from umbra_awl.desk.frame.course import STAGES

if TYPE_CHECKING:
    from umbra_awl.desk.frame.window import MainWindow
    from umbra_awl.desk.routes.stage import RoutesStage


def add_commands(window: "MainWindow") -> None:
    """Fill the window's command table and make the shortcuts."""
    _of_plans(window)
    _of_the_view(window)
    _of_routes(window)
    _of_access(window)
    _of_radios(window)
    window.commands.add("read", "Read the radio", window.read_radio, "F5")
    for command in window.commands:
        if command.keys:
            QShortcut(QKeySequence(command.keys), window, command.does)


def _of_plans(window: "MainWindow") -> None:
    add, bench, plans = window.commands.add, window.bench, window.plans
    add("find", "Find or do anything", window.begin_finding, "Ctrl+K")
    add("open", "Open a plan", plans.ask_open, "Ctrl+O")
    add("new", "New plan", plans.ask_new, "Ctrl+N")
    add("save", "Save the plan", bench.save, "Ctrl+S")
    add("copy", "Save a copy", plans.ask_copy, "Ctrl+Shift+S")
    add("share", "Save a copy to share, IDs left out", plans.ask_share)
    add("share-ids", "Save a copy to share, with the IDs in it", partial(plans.ask_share, with_ids=True))
    add("name", "Name the plan", plans.ask_name)
    add("diary", "Copy what happened", window.copy_diary, hint="For a report: no IDs, positions or secrets")
    add("undo", "Undo", bench.undo, "Ctrl+Z")
    add("redo", "Redo", bench.redo, "Ctrl+Shift+Z")


def _of_the_view(window: "MainWindow") -> None:
    add = window.commands.add
    add("theme", "Change between light and dark", window.toggle_theme, "Ctrl+L")
    add("larger", "Larger text", partial(window.rescale, 1), "Ctrl++")
    add("smaller", "Smaller text", partial(window.rescale, -1), "Ctrl+-")
    for number, (key, name) in enumerate(STAGES, 1):
        add(f"stage-{key}", f"Go to {name}", partial(window.choose_stage, key), f"Ctrl+{number}")
    add("next-finding", "Show the next finding", window.findings.next, "F8")
    add("repair", "Repair the first finding here", window.findings.repair_first, "Ctrl+R")
    add("fold", "Fold or open the findings", window.findings.toggle, "F9")
    add("pane", "Go to the next pane", window.next_pane, "F6")
    add("next-radio", "Next radio", window.next_radio, "Ctrl+Tab")


def _of_routes(window: "MainWindow") -> None:
    def add(name: str, text: str, does: "Callable[[RoutesStage], object]", keys: str = "") -> None:
        window.commands.add(name, text, lambda: does(window.routes()), keys)

    add("add-access", "Add an access point", lambda stage: stage.add_access(), "Ctrl+Shift+A")
    add("add-destination", "Add a destination", lambda stage: stage.add_destination(), "Ctrl+Shift+D")
    add("sheet", "Show the punch sheet", lambda stage: stage.show_page(0), "Ctrl+Shift+U")
    add("names", "Show the names on every radio", lambda stage: stage.show_page(1), "Ctrl+Shift+N")
    add("trace", "Show the trace in full", lambda stage: stage.show_page(2), "Ctrl+T")
    add("silent", "Why do I hear nothing?", lambda stage: stage.why_silent(), "Ctrl+Shift+H")
    add("zones", "Show the zones", lambda stage: stage.show_side(1), "Ctrl+Shift+Y")
    add("style", "House style of names", lambda stage: stage.show_side(2))
    add("fill-row", "Punch the destination through every service", lambda stage: stage.work.fill_row())
    add("fill-column", "Punch all that the service reaches", lambda stage: stage.work.fill_column())
    rows = "Rows and columns: templates, patterns"
    add("rows-columns", rows, lambda stage: stage.work.open(), "Ctrl+Shift+M")
    copy = "Copy the service's pattern to another"
    add("copy-pattern", copy, lambda stage: stage.work.ask_copy(), "Ctrl+Shift+C")


def _of_access(window: "MainWindow") -> None:
    add = window.commands.add
    add("import", "Import a directory", lambda: window.access().import_file(), "Ctrl+Shift+I")
    add("survey", "Show what is on the air around you", lambda: window.access().show_page(0))
    add("people", "Find people", lambda: window.access().show_page(2), "Ctrl+Shift+P")
    add("trips", "Show the trips", lambda: window.access().show_side(1), "Ctrl+Shift+T")


def _of_radios(window: "MainWindow") -> None:
    def radios(page: int) -> Callable[[], object]:
        return lambda: window.radios().show_page(page)

    def transfer(page: int) -> Callable[[], object]:
        return lambda: window.transfer().show_page(page)

    add = window.commands.add
    add("memory", "Show the radio's memory", radios(0), "Ctrl+Shift+R")
    add("settings", "Settings of the radio: keys, texts, time-out", radios(1))
    add("radio-people", "People list of the radio", radios(2))
    add("which-radio", "Which radio carries my plan?", radios(3), "Ctrl+Shift+W")
    add("own-profile", "Describe a radio of my own", radios(4))
    add("changes", "Read, compare, write by cable", transfer(0))
    add("keys", "Key sheet: enter memories by hand", transfer(1), "Ctrl+Shift+K")
    add("card", "Field card to print", transfer(2), "Ctrl+P")
    add("files", "Files for another program", transfer(3), "Ctrl+Shift+F")
    add("bring", "Bring a radio in", transfer(4), "Ctrl+Shift+B")
