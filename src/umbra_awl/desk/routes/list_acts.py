"""Zones and scan lists added, named and removed."""

from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QInputDialog

from umbra_awl.core.plan.model import Zone
from umbra_awl.core.routes.lists import (
    add_list,
    part_of,
    remove_list,
    rename_list,
)
from umbra_awl.desk.routes.punching import attempt

if TYPE_CHECKING:
    from umbra_awl.desk.routes.zones import ZonesPanel


class ListActs:
    """Does it for a panel."""

    def __init__(self, owner: "ZonesPanel") -> None:
        self._panel = owner

    def add(self) -> None:
        """Make a list by hand, with the selected route in it."""
        word = "zone" if self._panel.kind is Zone else "scan list"
        name, given = QInputDialog.getText(self._panel, f"New {word}", "Its name:")
        if given and name.strip():
            route = self._panel.bench.route
            self._panel.bench.do(
                add_list(self._panel.bench.index, self._panel.kind, name.strip(), (route,) if route else ())
            )
            self._panel.zones.setCurrentRow(self._panel.zones.count() - 1)

    def rename(self) -> None:
        """Give the chosen list another name."""
        item = self._panel.chosen()
        if item is None:
            return
        name, given = QInputDialog.getText(self._panel, f"Rename the {part_of(item).word}", "Its name:", text=item.name)
        if given:
            attempt(self._panel.bench, lambda: rename_list(item, name.strip()))

    def remove(self) -> None:
        """Remove the chosen list."""
        item = self._panel.chosen()
        if item is not None:
            self._panel.bench.do_told(remove_list(item), "Its routes stay in the plan.")
