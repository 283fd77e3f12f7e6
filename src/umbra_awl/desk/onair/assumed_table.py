"""What is taken for granted in the simulated world: every figure with its source, set otherwise in place."""

from PyQt6.QtWidgets import QLineEdit, QWidget

from umbra_awl.core.simulation.parameters import assume, figures, shipped_world
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.theme.theme import Theme


class AssumedTable(QWidget):
    """Shows the figures in force; own ones stand out."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        outer = column(self, 6)
        self.table = RowsTable(theme, "Figures taken for granted")
        self.table.chosen.connect(self._show_figure)
        outer.addWidget(self.table, 1)
        self.source = words("", "second", wrap=True)
        outer.addWidget(self.source)
        line = row(gap=6)
        self.value = QLineEdit()
        self.value.setAccessibleName("Value of the chosen figure")
        self.value.setMaximumWidth(theme.px(90))
        self.value.returnPressed.connect(self.set_figure)
        line.addWidget(self.value)
        line.addWidget(button("Set", self.set_figure))
        line.addWidget(button("As usual", self.reset_figure))
        line.addStretch(1)
        outer.addLayout(line)
        bench.plan_changed.connect(self.refresh)

    def showEvent(self, event: object) -> None:
        self.refresh()
        super().showEvent(event)  # type: ignore[arg-type]

    def refresh(self) -> None:
        """Show the figures of the plan."""
        if not self.isVisible():
            return
        evening = self._bench.plan.evening
        known, own = figures(evening), {item.name for item in evening.assumed}
        world, at = shipped_world().figure, self.table.row_now
        rows = [(f"{known[item.name]:g} {item.unit}", item.words) for item in world]
        self.table.show_rows(
            ("Value", "Figure"), rows, ["violet" if item.name in own else "" for item in world], mono=False
        )
        self.table.choose(max(at, 0))

    def _show_figure(self, at: int) -> None:
        world = shipped_world().figure
        if 0 <= at < len(world):
            item = world[at]
            self.source.setText(f"{item.words}: usually {item.usual:g} {item.unit}. {item.source}.")
            self.value.setText(f"{figures(self._bench.plan.evening)[item.name]:g}")

    def set_figure(self) -> None:
        """Set the chosen figure to what is typed."""
        text = self.value.text().strip().replace(",", ".")
        try:
            self._assume(float(text))
        except ValueError:
            self._bench.say(f"“{text}” is not a number. Type one, for example 2.5.", "stop")

    def reset_figure(self) -> None:
        """Set the chosen figure back to the usual."""
        self._assume(None)

    def _assume(self, value: float | None) -> None:
        at = self.table.row_now
        if at >= 0:
            self._bench.do(assume(shipped_world().figure[at].name, value))
            self._show_figure(at)
