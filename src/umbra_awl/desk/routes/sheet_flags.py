"""What is marked on the punch sheet beside its holes: findings, the routes of a zone, cursor and run."""

from typing import TYPE_CHECKING

from umbra_awl.desk.sheet.heads import SheetMarks

if TYPE_CHECKING:
    from umbra_awl.desk.routes.sheet import PunchSheet


class SheetFlags:
    """The marks of one sheet."""

    def __init__(self, owner: "PunchSheet") -> None:
        self._sheet = owner
        self.rings: dict[str, str] = {}
        self.flagged: dict[str, str] = {}
        self.members: frozenset[str] = frozenset()

    def take_findings(self) -> None:
        rings: dict[str, str] = {}
        flagged: dict[str, str] = {}
        for finding in reversed(self._sheet.bench.worked.results.findings):
            if finding.target.kind == "route":
                rings[finding.target.key] = finding.severity
            elif finding.target.kind == "service":
                flagged[finding.target.key] = finding.severity
        for key, route in self._sheet.bench.index.routes.items():
            if flagged.get(route.service) == "stop":
                rings[key] = "stop"
        if (rings, flagged) != (self.rings, self.flagged):
            self.rings, self.flagged = rings, flagged
            self._sheet.repaint_all()
        self._sheet.say()

    def show_members(self, keys: frozenset[str]) -> None:
        """Tint the crossings of these routes (a zone's)."""
        if keys != self.members:
            self.members = keys
            self._sheet.repaint_all()

    def marks(self) -> SheetMarks:
        """What is drawn over the cells now."""
        cells = (
            self._sheet.hands.run.cells
            or self._sheet.hands.area.cells
            or self._sheet.sheet.cells(self._sheet.bench.selection.many)
        )
        run = frozenset((cell.row, cell.column) for cell in cells)
        hover, focused = self._sheet.hands.hover, self._sheet.hasFocus()
        return SheetMarks(self.rings, self.flagged, self._sheet.cursor_cell, run, self.members, focused, hover)
