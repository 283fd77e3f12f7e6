"""The memory strip: the radio's whole memory as cells, the radio's own left alone, ours, and what a write would change."""

from typing import Literal

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QBrush, QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.fit.profile import Profile
from umbra_awl.core.transfer.image import owned_spans
from umbra_awl.desk.theme.theme import Theme

CELLS = 128
_ROWS = 2
CellKind = Literal["own", "ours", "change", "proven"]


def cell_kinds(profile: Profile, before: bytes = b"", after: bytes = b"", *, proven: bool = False) -> list[CellKind]:
    """What each of 128 equal cells of a radio's memory is: its own, ours, about to change, or written and proven."""
    size = profile.image.size
    kinds: list[CellKind] = ["own"] * CELLS
    for start, end in owned_spans(profile):
        for cell in range(start * CELLS // size, (end - 1) * CELLS // size + 1):
            kinds[cell] = "proven" if proven else "ours"
    step = size // CELLS
    for cell in range(CELLS if after else 0):
        if before[cell * step : (cell + 1) * step] != after[cell * step : (cell + 1) * step]:
            kinds[cell] = "change"
    return kinds


class MemoryStrip(QWidget):
    """Two rows of cells, with how far a transfer has come."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._kinds: list[CellKind] = []
        self._share = 0.0
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(500, self._theme.px(76))

    def show_kinds(self, kinds: list[CellKind]) -> None:
        """Show what the cells are."""
        self._kinds = kinds
        count = kinds.count("change")
        self.setAccessibleName(f"The radio's memory in {CELLS} cells; {count} would change, the rest stays as it is.")
        self.update()

    def show_progress(self, share: float) -> None:
        """Show how much of the memory has been passed, from 0 to 1; 0 shows none."""
        self._share = share
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px = self._theme.px
        across = CELLS // _ROWS
        width = (self.width() - 2) / across
        for at, kind in enumerate(self._kinds):
            box = QRectF(at % across * width + 1, at // across * px(25) + 1, width - 2, px(21))
            self._cell(painter, box, kind, passed=at < self._share * CELLS)
        self._legend(painter, _ROWS * px(25) + px(4))

    def _cell(self, painter: QPainter, box: QRectF, kind: CellKind, *, passed: bool) -> None:
        theme = self._theme
        painter.setPen(QPen(theme.color("violet"), 1.6) if passed else Qt.PenStyle.NoPen)
        painter.setBrush(self._fill(kind))
        painter.drawRoundedRect(box, 2, 2)
        if kind == "change":
            painter.setPen(QPen(theme.color("panel"), 1.6))
            painter.drawLine(
                box.center().toPoint().x(), round(box.top() + 5), box.center().toPoint().x(), round(box.bottom() - 5)
            )

    def _fill(self, kind: CellKind) -> QBrush | QColor:
        tokens = {"own": "shade", "ours": "violet_tint", "change": "brass", "proven": "ok_tint"}
        return self._theme.color(tokens[kind])

    def _legend(self, painter: QPainter, top: int) -> None:
        theme = self._theme
        px = theme.px
        painter.setFont(theme.font(12))
        proven = "proven" in self._kinds
        x = 1.0
        pairs: tuple[tuple[CellKind, str], ...] = (
            ("own", "the radio's own, left alone"),
            ("proven" if proven else "ours", "from the plan, proven" if proven else "from the plan"),
            ("change", "would change"),
        )
        for kind, text in pairs:
            self._cell(painter, QRectF(x, top + px(4), px(10), px(12)), kind, passed=False)
            painter.setPen(theme.color("ink2"))
            painter.drawText(QRectF(x + px(16), top, 400, px(20)), Qt.AlignmentFlag.AlignVCenter, text)
            x += px(16) + painter.fontMetrics().horizontalAdvance(text) + px(20)
