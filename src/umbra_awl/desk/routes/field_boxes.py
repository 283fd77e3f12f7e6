"""The D-STAR routing fields character by character: eight boxes each, positions 7 and 8 marked, the note behind MY."""

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.facts.dstar import BLANK, FIELD_LENGTH, Fields, padded, print_fields
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.theme.theme import Theme

_ROWS = (("UR", "ur"), ("RPT1", "rpt1"), ("RPT2", "rpt2"), ("MY", "my"))
_LABEL, _BOX, _ROW, _HEAD, _NOTE = 42, 25, 30, 18, 17


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
        return QSize(px(_LABEL + FIELD_LENGTH * _BOX + 80), px(_HEAD) + len(_ROWS) * px(_ROW) + 2)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        if self._fields is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._paint_head(painter)
        for at, (label, name) in enumerate(_ROWS):
            self._paint_row(painter, at, label, name)
        if self._fields.note.strip():
            self._paint_note(painter)

    def _paint_head(self, painter: QPainter) -> None:
        theme, px = self._theme, self._theme.px
        for at in range(FIELD_LENGTH):
            marked = at >= 6
            painter.setFont(theme.font(12, mono=True, weight=600 if marked else 400))
            painter.setPen(theme.color("violet" if marked else "ink2"))
            box = QRectF(px(_LABEL) + at * px(_BOX), 0, px(_BOX), px(_HEAD))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(at + 1))

    def _paint_row(self, painter: QPainter, row: int, label: str, name: str) -> None:
        theme, px = self._theme, self._theme.px
        text = padded(getattr(self._fields, name))
        wrong = name in self._faults
        top = px(_HEAD) + row * px(_ROW)
        painter.setFont(theme.font(12, weight=600))
        painter.setPen(theme.color("stop" if wrong else "ink2"))
        painter.drawText(QRectF(0, top, px(_LABEL), px(_ROW) - 3), Qt.AlignmentFlag.AlignVCenter, label)
        painter.setFont(theme.font(14, mono=True, weight=600))
        for at, char in enumerate(text):
            box = QRectF(px(_LABEL) + at * px(_BOX) + 1, top + 1, px(_BOX) - 3, px(_ROW) - 5)
            painter.setPen(QPen(theme.color("stop" if wrong else "violet" if at >= 6 else "line"), 1.6 if wrong else 1))
            painter.setBrush(theme.color("violet_tint" if at >= 6 else "sheet"))
            painter.drawRoundedRect(box, 3, 3)
            painter.setPen(theme.color("ink2" if char == " " else "ink"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, BLANK if char == " " else char)

    def _paint_note(self, painter: QPainter) -> None:
        assert self._fields is not None
        theme, px = self._theme, self._theme.px
        left = px(_LABEL) + FIELD_LENGTH * px(_BOX) + 2
        box = QRectF(left, px(_HEAD) + 3 * px(_ROW), px(_NOTE) * 5, px(_ROW) - 3)
        painter.setFont(theme.font(13, mono=True))
        painter.setPen(theme.color("ink2"))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, f"/{self._fields.note.ljust(4).replace(' ', BLANK)}")
