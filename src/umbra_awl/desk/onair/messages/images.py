"""Pictures of the imaging library as the window shows them."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QBuffer, QIODevice
from PyQt6.QtGui import QImage, QPixmap

if TYPE_CHECKING:
    from PIL.Image import Image


def pixmap_of(image: "Image") -> QPixmap:
    """A picture in plain colour as a pixmap."""
    plain = image.convert("RGB")
    width, height = plain.size
    data = plain.tobytes()
    made = QImage(data, width, height, 3 * width, QImage.Format.Format_RGB888)
    return QPixmap.fromImage(made.copy())


def png_of(image: QImage) -> bytes:
    """An image of the window's toolkit as PNG bytes; empty where it holds nothing."""
    if image.isNull():
        return b""
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")
    return buffer.data().data()
