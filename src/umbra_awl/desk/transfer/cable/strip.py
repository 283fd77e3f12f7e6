"""The memory strip: the radio's whole memory as cells, the radio's own left alone, ours, and what a write would change."""

from functools import cache
from typing import Literal

from PyQt6.QtCore import QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.image import owned_spans
from umbra_awl.desk.theme.theme import Theme

CELLS = 128
_ROWS = 2
CellKind = Literal["own", "ours", "change", "proven"]
_TOKENS: dict[CellKind, str] = {"own": "shade", "ours": "violet_tint", "change": "brass", "proven": "ok_tint"}


@cache
def _owned_cells(profile: Profile) -> tuple[bool, ...]:
    """For each cell, whether it holds anything of ours."""
    size = profile.image.size
    owned = [False] * CELLS
    for start, end in owned_spans(profile):
        first, last = start * CELLS // size, (end - 1) * CELLS // size
        owned[first : last + 1] = [True] * (last + 1 - first)
    return tuple(owned)


def cell_kinds(profile: Profile, before: bytes = b"", after: bytes = b"", *, proven: bool = False) -> list[CellKind]:
    """What each of 128 equal cells of a radio's memory is: its own, ours, about to change, or written and proven."""
    kinds: list[CellKind] = [("proven" if proven else "ours") if owned else "own" for owned in _owned_cells(profile)]
    step = profile.image.size // CELLS
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
        self._passed = 0
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
        passed = round(share * CELLS)
        if passed != self._passed:
            self._passed = passed
            self.update()

    def _box(self, at: int) -> QRect:
        across, high = CELLS // _ROWS, self._theme.px(25)
        left, right = ((at % across + step) * (self.width() - 2) // across for step in (0, 1))
        return QRect(left + 2, at // across * high + 1, right - left - 2, high - 4)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setPen(Qt.PenStyle.NoPen)
        boxes = [self._box(at) for at in range(len(self._kinds))]
        for kind, token in _TOKENS.items():
            mine = [box for box, held in zip(boxes, self._kinds, strict=True) if held == kind]
            if mine:
                painter.setBrush(self._theme.color(token))
                painter.drawRects(*mine)
        if self._passed:
            bars = [QRect(box.left(), box.bottom() + 1, box.width(), 2) for box in boxes[: self._passed]]
            painter.setBrush(self._theme.color("violet"))
            painter.drawRects(*bars)
        notches = [_notch(box) for box, kind in zip(boxes, self._kinds, strict=True) if kind == "change"]
        if notches:
            painter.setBrush(self._theme.color("panel"))
            painter.drawRects(*notches)
        self._legend(painter, _ROWS * self._theme.px(25) + self._theme.px(4))

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
            box = QRect(round(x), top + px(4), px(11), px(12))
            painter.fillRect(box, theme.color(_TOKENS[kind]))
            if kind == "change":
                painter.fillRect(_notch(box), theme.color("panel"))
            painter.setPen(theme.color("ink2"))
            painter.drawText(QRectF(x + px(16), top, 400, px(20)), Qt.AlignmentFlag.AlignVCenter, text)
            x += px(16) + painter.fontMetrics().horizontalAdvance(text) + px(20)


def _notch(box: QRect) -> QRect:
    """The mark inside a cell that would change, so that it is told by more than its colour."""
    return QRect(box.center().x(), box.top() + 4, 2, box.height() - 8)
