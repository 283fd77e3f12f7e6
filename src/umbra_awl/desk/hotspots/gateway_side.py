"""The phone as a gateway: what goes into its app, and the order in which it comes on."""

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.hotspot.pairing.gateway import STEPS, gateway_sheet
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.hotspots.step_thread import StepThread, Stop
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, scrolled, words
from umbra_awl.desk.theme.theme import Theme


class GatewaySide(QWidget):
    """Beside the pairing: the sheet of fields with the ID hidden, and the thread of steps."""

    def __init__(self, spot: Spot, theme: Theme) -> None:
        super().__init__()
        self._spot = spot
        beside = column(self, 6)
        beside.addWidget(words("The phone as a gateway", "title"))
        self.table = RowsTable(theme, "What goes into the gateway app")
        beside.addWidget(self.table, 3)
        self.ids = button(
            "Show the ID", lambda: spot.bench.show_ids(not spot.bench.ids_shown), tip="Hidden again with the next press"
        )
        beside.addWidget(self.ids)
        self.missing = words("", "brass", wrap=True)
        beside.addWidget(self.missing)
        self.order = StepThread(theme, "The order in which the gateway comes on", 16)
        self.order.show_stops(
            [Stop(f"{at}", what, f"see: {sees}", "later") for at, (what, sees) in enumerate(STEPS, 1)]
        )
        beside.addWidget(scrolled(self.order), 4)

    def refresh(self) -> None:
        """Show what goes into the app."""
        access, hotspot, bench = self._spot.access, self._spot.hotspot, self._spot.bench
        if access is None:
            self.table.show_rows(("", ""), [("", "Add a hotspot first: its sheet stands here then.")], mono=False)
            self.missing.setText("")
            return
        self.ids.setText("Hide the ID" if bench.ids_shown else "Show the ID")
        sheet = gateway_sheet(bench.index, access, hotspot, ids_shown=bench.ids_shown)
        self.table.show_rows(
            ("Field", "Value"), [(name, value or note) for name, value, note in sheet.fields], mono=False
        )
        told = f"Missing in the plan: {', '.join(sheet.missing)}." if sheet.missing else ""
        self.missing.setText(sheet.refusal or told)
