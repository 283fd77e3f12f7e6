"""A photograph of the radio's menus, in a window that may lie beside while its keys are told."""

from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QDialog, QFileDialog, QLabel, QWidget

from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.lessons.menu_photo import keep_photo, photo_path
from umbra_awl.core.messages.errors import PictureError
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import button, column, row, scrolled, words

_NONE = (
    "Lay the list of menus out of the manual down, or the display, and photograph it: it lies beside while you teach."
)
_KINDS = "Pictures (*.jpg *.jpeg *.png *.webp)"


class MenuPhoto(QDialog):
    """Not modal: the lesson goes on beside it. Where it was taken is not kept with it."""

    def __init__(self, parent: QWidget, bench: Workbench, folder: Path, key: str, name: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"Menus of {name}")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.resize(560, 640)
        self._bench, self._folder, self._key = bench, folder, key
        outer = column(self, 8, 12)
        self.told = words(_NONE, "second", wrap=True)
        outer.addWidget(self.told)
        self.picture = QLabel()
        self.picture.setAccessibleName(f"Photograph of the menus of {name}")
        self.picture.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        outer.addWidget(scrolled(self.picture), 1)
        foot = row(gap=8)
        foot.addWidget(button("Choose a photograph …", self._ask))
        foot.addStretch(1)
        foot.addWidget(button("Close", self.close, "main"))
        outer.addLayout(foot)
        self._show()

    def _show(self) -> None:
        pixmap = QPixmap(str(photo_path(self._folder, self._key)))
        self.told.setVisible(pixmap.isNull())
        self.picture.setPixmap(pixmap)

    def _ask(self) -> None:
        path, _kind = QFileDialog.getOpenFileName(self, "Photograph of its menus", str(Path.home()), _KINDS)
        if path:
            self.take(Path(path))

    def take(self, path: Path) -> None:
        """Keep a picture as the photograph, in the background."""
        self._bench.jobs.latest(
            "menu photo", partial(keep_photo, self._folder, self._key, path), lambda _place: self._show(), self._failed
        )

    def _failed(self, error: Exception) -> None:
        if not isinstance(error, PictureError | OSError):
            raise error
        self._bench.say(str(error) if isinstance(error, PictureError) else plain_reason(error), "stop")
