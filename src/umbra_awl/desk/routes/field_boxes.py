"""The D-STAR routing fields character by character: eight boxes each, positions 7 and 8 marked, the note behind MY."""

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.facts.dstar import BLANK, FIELD_LENGTH, Fields, print_fields
from umbra_awl.desk.parts.eight_boxes import BOX, HEAD, ROW, paint_boxes, paint_head
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.theme.theme import Theme

_ROWS = (("UR", "ur"), ("RPT1", "rpt1"), ("RPT2", "rpt2"), ("MY", "my"))
_LABEL, _NOTE = 42, 17


class FieldBoxes(QWidget):
    """Shows the fields of one memory; those with a fault are drawn in red-brown."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._fields: Fields | None = None
        self._faults: frozenset[str] = frozenset()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        set_tip(self, "Eight characters each. Position 7: the module of a link. Position 8: module, G, or a command.")
        theme.changed.connect(self.updateGeometry)

    def show_fields(self, fields: Fields | None, faults: frozenset[str] = frozenset()) -> None:
        """Show these fields; `faults` names those (ur, rpt1, rpt2, my) that are wrong."""
        self._fields, self._faults = fields, faults
        self.setVisible(fields is not None)
        if fields is not None:
            wrong = f". Wrong: {', '.join(sorted(faults)).upper()}" if faults else ""
            self.setAccessibleName(f"Routing fields: {print_fields(fields)}{wrong}")
        self.update()

    def fields(self) -> Fields | None:
        """The fields shown now."""
        return self._fields

    def sizeHint(self) -> QSize:
        px = self._theme.px
        return QSize(px(_LABEL + FIELD_LENGTH * BOX + 80), px(HEAD) + len(_ROWS) * px(ROW) + 2)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        if self._fields is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_head(painter, self._theme, self._theme.px(_LABEL))
        for at, (label, name) in enumerate(_ROWS):
            self._paint_row(painter, at, label, name)
        if self._fields.note.strip():
            self._paint_note(painter)

    def _paint_row(self, painter: QPainter, row: int, label: str, name: str) -> None:
        theme, px = self._theme, self._theme.px
        wrong = name in self._faults
        top = px(HEAD) + row * px(ROW)
        painter.setFont(theme.font(12, weight=600))
        painter.setPen(theme.color("stop" if wrong else "ink2"))
        painter.drawText(QRectF(0, top, px(_LABEL), px(ROW) - 3), Qt.AlignmentFlag.AlignVCenter, label)
        paint_boxes(painter, theme, getattr(self._fields, name), px(_LABEL), top, wrong=wrong)

    def _paint_note(self, painter: QPainter) -> None:
        assert self._fields is not None
        theme, px = self._theme, self._theme.px
        left = px(_LABEL) + FIELD_LENGTH * px(BOX) + 2
        box = QRectF(left, px(HEAD) + 3 * px(ROW), px(_NOTE) * 5, px(ROW) - 3)
        painter.setFont(theme.font(13, mono=True))
        painter.setPen(theme.color("ink2"))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, f"/{self._fields.note.ljust(4).replace(' ', BLANK)}")
