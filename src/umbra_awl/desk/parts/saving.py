"""Writing a file the operator asked for: where, whether what is there may go, done, or said why not."""

import os
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from PyQt6.QtWidgets import QFileDialog, QWidget

from umbra_awl.core.keep.atomic import write_new, write_over
from umbra_awl.core.paper.errors import PaperError
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.asking import ask

REPLACE = "Replace it"


class FilePlace(NamedTuple):
    """Where to write; `replace` is true where it was asked and answered that what is there may go."""

    path: Path
    replace: bool = False


def ask_place(parent: QWidget, title: str, suggested: str | Path, kinds: str, suffix: str = "") -> FilePlace | None:
    """Ask for a place; None when none was given. The ending is put behind the name first, and only then it is looked and asked.

    `kinds` are the file dialog's filters, `suffix` the ending that a name without one gets.
    """
    name, _kind = QFileDialog.getSaveFileName(
        parent, title, str(suggested), kinds, options=QFileDialog.Option.DontConfirmOverwrite
    )
    if not name:
        return None
    path = with_suffix(Path(name), suffix)
    if not os.path.lexists(path):
        return FilePlace(path)
    question = f"“{path.name}” is there already. Replace it? What it holds now is gone then."
    return FilePlace(path, replace=True) if ask(parent, title, question, [REPLACE]) == REPLACE else None


def with_suffix(path: Path, suffix: str) -> Path:
    """The path with an ending, where its name has not got it."""
    return path if not suffix or path.name.endswith(suffix) else path.with_name(path.name + suffix)


def put(place: FilePlace, data: bytes) -> None:
    """Write bytes to a place. Raises OSError; FileExistsError when something came there meanwhile."""
    (write_over if place.replace else write_new)(place.path, data)


def save_later(bench: Workbench, place: FilePlace, make: Callable[[], bytes], said: str) -> None:
    """Make and write a file in the background, for what takes longer than a moment; done or refused, it is said.

    It is finished before the window closes.
    """

    def failed(error: Exception) -> None:
        if not isinstance(error, OSError | PaperError):
            raise error
        bench.say(refusal(place.path, error) if isinstance(error, OSError) else str(error), "stop")

    bench.jobs.keep(f"save {place.path}", lambda: put(place, make()), lambda _none: bench.say(said), failed)


def refusal(path: Path, error: OSError) -> str:
    """Why a file was not written, as a sentence."""
    if isinstance(error, FileExistsError):
        return f"“{path.name}” is there already. Choose another name; nothing was replaced."
    return f"“{path.name}” cannot be written: {error.strerror or error}. Choose another place."


def save_file(bench: Workbench, place: FilePlace, make: Callable[[], bytes], said: str = "") -> bool:
    """Write what `make` gives; a refusal of the disk is said. True when written. What `make` raises is not caught."""
    data = make()
    try:
        put(place, data)
    except OSError as error:
        bench.say(refusal(place.path, error), "stop")
        return False
    bench.say(said or f"Saved as {place.path.name}.")
    return True
