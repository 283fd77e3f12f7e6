"""What stands beside the punch sheet: the crossing in hand, the zones, or the scan lists."""

from collections.abc import Callable
from functools import cached_property
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QStackedWidget, QWidget

from umbra_awl.core.plan.model import ScanList, Zone
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.widgets import column
from umbra_awl.desk.routes.inspector import Inspector

if TYPE_CHECKING:
    from umbra_awl.desk.routes.zones import ZonesPanel

_PARTS = ("crossing", "zones", "scans")
_KINDS: dict[str, type[Zone] | type[ScanList]] = {"zones": Zone, "scans": ScanList}


class BesideSheet(QWidget):
    """Three words over one column; zones and scan lists are made when they are first shown."""

    def __init__(self, inspector: Inspector, make_zones: "Callable[[], ZonesPanel]") -> None:
        super().__init__()
        self._make_zones = make_zones
        self._stack = QStackedWidget()
        self._inspector = inspector
        self._stack.addWidget(inspector)
        self.part = "crossing"
        self._tabs = Tabs(("Crossing", "Zones", "Scan lists"), lambda at: self.show_part(_PARTS[at]), gap=0)
        self._tabs.line.addStretch(1)
        outer = column(self, 4)
        outer.addWidget(self._tabs)
        outer.addWidget(self._stack, 1)
        self._tabs.mark(0)

    @cached_property
    def zones(self) -> "ZonesPanel":
        """Zones and scan lists."""
        made = self._make_zones()
        self._stack.addWidget(made)
        return made

    def show_part(self, name: str) -> None:
        """Show “crossing”, “zones” or “scans”."""
        self.part = name
        self._tabs.mark(_PARTS.index(name))
        if name == "crossing":
            self._stack.setCurrentWidget(self._inspector)
            return
        self._stack.setCurrentWidget(self.zones)
        self.zones.show_kind(_KINDS[name])

    def choose(self, name: str, key: str) -> None:
        """Choose a zone or scan list by its key; it is seen where zones or scan lists are shown."""
        if self.part != "crossing":
            self.show_part(name)
        self.zones.choose(_KINDS[name], key)
