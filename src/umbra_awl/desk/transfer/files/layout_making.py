"""A layout of columns made from a sample file."""

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QFileDialog

from umbra_awl.core.columns.begun import Begun, begun_layout
from umbra_awl.core.columns.layout import (
    ColumnLayout,
)
from umbra_awl.core.keep.limits import plain_reason

if TYPE_CHECKING:
    from umbra_awl.desk.transfer.files.files_page import FilesPage


class LayoutMaking:
    """Makes layouts for a page."""

    def __init__(self, owner: "FilesPage") -> None:
        self._page = owner

    def ask_sample(self) -> None:
        """Ask for sample files and begin a layout."""
        names, _kind = QFileDialog.getOpenFileNames(
            self._page, "Sample files", str(Path.home()), "CSV (*.csv *.txt);;All (*)"
        )
        if names:
            self.make_from([Path(name) for name in names])

    def make_from(self, paths: list[Path]) -> None:
        """Begin a layout from sample files."""
        self._page.bench.jobs.read(
            "samples",
            begun_layout,
            paths,
            done=self._begin,
            failed=lambda error: self._page.bench.say(f"The sample cannot be read: {plain_reason(error)}", "stop"),
        )

    def _begin(self, begun: Begun) -> None:
        self._page.maker.open(begun)
        self._page.setCurrentIndex(1)
        self._page.maker.columns.grid.setFocus()

    def made(self, layout: ColumnLayout) -> None:
        self._page.setCurrentIndex(0)
        self._page.reload(layout.name)
