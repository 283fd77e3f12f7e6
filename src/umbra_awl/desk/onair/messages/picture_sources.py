"""Where a picture to send comes from: a file, the clipboard, the own map."""

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QFileDialog

from umbra_awl.desk.onair.messages.images import png_of
from umbra_awl.desk.parts.widgets import Flow, button, rows_of

if TYPE_CHECKING:
    from umbra_awl.desk.onair.messages.picture_card import PictureCard


_FILTER = "Pictures (*.jpg *.jpeg *.png *.webp *.gif *.bmp *.tif *.tiff)"


class PictureSources:
    """Takes pictures for a card."""

    def __init__(self, owner: "PictureCard") -> None:
        self._card = owner

    def source_line(self) -> Flow:
        self.open_it = button("Open a picture", self.ask_open)
        self.paste_it = button("Paste", self.paste, tip="The picture that another program copied (Ctrl V)")
        self.map_it = button("Map of where I am", self.open_map, tip="As exactly as the plan lets others see it")
        return rows_of(self.open_it, self.paste_it, self.map_it, gap=6)

    def ask_open(self) -> None:
        """Ask for a file."""
        name, _filter = QFileDialog.getOpenFileName(self._card, "Open a picture", "", _FILTER)
        if name:
            self._card.hand.open(Path(name))

    def paste(self) -> None:
        """Take the picture that another program copied."""
        board = QGuiApplication.clipboard()
        data = png_of(board.image()) if board is not None else b""
        if data:
            self._card.hand.take(lambda: data)
        else:
            self._card.bench.say("No picture was copied. Copy one in another program first, or open its file.", "stop")

    def open_map(self) -> None:
        """Take a map of where one is, as exactly as others may know."""
        from umbra_awl.core.messages.map_picture import map_picture

        plan = self._card.bench.plan
        self._card.hand.take(lambda: map_picture(plan, self._card.coast()))
