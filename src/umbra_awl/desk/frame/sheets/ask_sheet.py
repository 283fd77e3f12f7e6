"""How a number is worked out: its lines with today's values in them, what went in and from where, what would change it most."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QDialog, QListWidget, QWidget

from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.asked.figure import Figure

_MOST_CHANGES = 4


class AskSheet(QDialog):
    """Shows some figures, one at a time."""

    def __init__(self, theme: Theme, parent: QWidget, figures: "Sequence[Figure]") -> None:
        super().__init__(parent)
        self.figures = list(figures)
        self.setWindowTitle("How is it worked out?")
        self.resize(theme.px(880), theme.px(640))
        outer = column(self, 8, 16)
        self.list = QListWidget()
        self.list.setAccessibleName("Numbers of this page")
        self.list.addItems([f"{item.words}: {item.shown()}" for item in self.figures])
        self.list.setMaximumHeight(theme.px(30 * min(max(len(self.figures), 1), 5) + 8))
        self.list.currentRowChanged.connect(self._show)
        outer.addWidget(self.list)
        self.title = words("", "title", wrap=True)
        outer.addWidget(self.title)
        self.lines = RowsTable(theme, "The lines")
        outer.addWidget(self.lines, 3)
        self.inputs = RowsTable(theme, "What goes in")
        outer.addWidget(self.inputs, 3)
        self.most = words("", wrap=True)
        self.source = words("", "second", wrap=True)
        outer.addWidget(self.most)
        outer.addWidget(self.source)
        end = row(gap=8)
        end.addStretch(1)
        end.addWidget(button("Close", self.accept, "main"))
        outer.addLayout(end)
        self.list.setCurrentRow(0)
        self.list.setFocus()

    def _show(self, at: int) -> None:
        if not 0 <= at < len(self.figures):
            return
        figure = self.figures[at]
        self.title.setText(f"{figure.words}: {figure.shown()}")
        results = figure.results()
        rows = [
            (
                line.words,
                line.formula.replace("**", "^").replace(" * ", " · "),
                figure.filled(line),
                _value(results[line.name], line.unit),
            )
            for line in figure.lines
        ]
        self.lines.show_rows(("Line", "Formula", "Today", "Result"), rows, mono=False)
        given = [(item.words, item.name, _value(item.value, item.unit), item.source) for item in figure.inputs]
        self.inputs.show_rows(("Goes in", "Name", "Value", "From"), given, mono=False)
        changes = [item for item in figure.changes() if abs(item.moved) > 0][:_MOST_CHANGES]
        told = "; ".join(f"{item.words}: {figure.shown(item.before)} → {figure.shown(item.after)}" for item in changes)
        self.most.setText(
            f"A tenth more of one, what it would be. {told}." if told else "Nothing that goes in would change it."
        )
        self.source.setText(f"{figure.source} {figure.note}".strip())


def _value(value: float, unit: str) -> str:
    return f"{value:,.6g} {unit}".strip()
