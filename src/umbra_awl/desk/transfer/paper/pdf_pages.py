"""The pages of a PDF as pictures, and onto a printer: what is seen is what comes out."""

from PyQt6.QtCore import QBuffer, QByteArray, QRectF, QSize, Qt
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtPrintSupport import QPrinter

MOST_PICTURES = 4
_MOST_DPI = 300


class OpenPdf:
    """A PDF that is open for a while; used with `with`."""

    def __init__(self, data: bytes) -> None:
        self._buffer = QBuffer()
        self._buffer.setData(QByteArray(data))
        self.document = QPdfDocument(None)

    def __enter__(self) -> QPdfDocument:
        self._buffer.open(QBuffer.OpenModeFlag.ReadOnly)
        self.document.load(self._buffer)
        return self.document

    def __exit__(self, *_error: object) -> None:
        self.document.close()


def pictures_of(data: bytes, width: int, most: int = MOST_PICTURES) -> list[QImage]:
    """The first pages of a PDF as pictures so many pixels wide, on white."""
    with OpenPdf(data) as document:
        return [_picture(document, at, width) for at in range(min(document.pageCount(), most))]


def _picture(document: QPdfDocument, at: int, width: int) -> QImage:
    points = document.pagePointSize(at)
    size = QSize(width, round(width * points.height() / points.width()))
    page = QImage(size, QImage.Format.Format_RGB32)
    page.fill(Qt.GlobalColor.white)
    painter = QPainter(page)
    painter.drawImage(0, 0, document.render(at, size))
    painter.end()
    return page


def print_pages(data: bytes, printer: QPrinter) -> int:
    """Print the pages, each as large as the printer's page allows; how many went out, 0 where the printer refused."""
    with OpenPdf(data) as document:
        painter = QPainter()
        if not painter.begin(printer):
            return 0
        for at in range(document.pageCount()):
            if at and not printer.newPage():
                break
            room = QRectF(painter.viewport())
            width = round(room.width() * min(_MOST_DPI / printer.resolution(), 1.0))
            page = _picture(document, at, width)
            scale = min(room.width() / page.width(), room.height() / page.height())
            painter.drawImage(QRectF(0, 0, page.width() * scale, page.height() * scale), page)
        painter.end()
        return document.pageCount()
