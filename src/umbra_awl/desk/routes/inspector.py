"""The inspector beside the punch sheet: the crossing, service or destination that is selected."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QScrollArea, QWidget

from umbra_awl.core.plan.edit_access import remove_access, remove_destination
from umbra_awl.core.routes.crossing import crossing
from umbra_awl.core.routes.punch import fill, punch
from umbra_awl.desk.parts.access_fields import destination_fields, service_fields
from umbra_awl.desk.parts.label_card import Act, LabelCard
from umbra_awl.desk.parts.widgets import column, words
from umbra_awl.desk.routes.hands import attempt
from umbra_awl.desk.routes.route_fields import crossing_fields
from umbra_awl.desk.workbench import Workbench

_TEACH = (
    "Arrow keys move on the sheet, Space punches and fills. 1 and 2 set the time slot, Alt 1 and Alt 2 punch both. "
    "Shift and arrows paint a run. Enter comes here."
)


class Inspector(QWidget):
    """Follows the selection; everything in it can be edited in place."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        outer = column(self, 6)
        self._title = words("", "title", wrap=True)
        outer.addWidget(self._title)
        self._scroll = QScrollArea()
        self._scroll.setWidgetResizable(True)
        self._scroll.setFrameShape(QFrame.Shape.NoFrame)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.card = LabelCard()
        flow = QWidget()
        flow.setObjectName("flow")
        inner = column(flow, 0)
        inner.addWidget(self.card)
        inner.addStretch(1)
        self._scroll.setWidget(flow)
        outer.addWidget(self._scroll, 1)
        for signal in (bench.selection_changed, bench.plan_changed, bench.results_changed):
            signal.connect(self.refresh)
        self.refresh()

    def title(self) -> str:
        """The words over the card."""
        return self._title.text()

    def focus(self) -> None:
        """Take the focus to the first value."""
        self.card.focus_first()

    def refresh(self) -> None:
        """Show what is selected."""
        selection, index = self._bench.selection, self._bench.index
        service = index.services.get(selection.service)
        destination = index.destinations.get(selection.destination)
        if service is not None and destination is not None:
            self._show_crossing()
        elif service is not None:
            access, found = service
            self._title.setText(f"{access.call or access.site}, {access.site}")
            acts = [Act("Remove", lambda: self._bench.do(remove_access(access)))]
            self.card.show_fields(service_fields(self._bench, access, found), acts)
        elif destination is not None:
            self._title.setText(destination.name)
            acts = [Act("Remove", lambda: self._bench.do(remove_destination(destination.key, destination.name)))]
            self.card.show_fields(destination_fields(self._bench, destination), acts)
        else:
            self._title.setText("Nothing selected")
            self.card.show_fields((), note=_TEACH)

    def _show_crossing(self) -> None:
        bench = self._bench
        access, service = bench.index.services[bench.selection.service]
        destination = bench.index.destinations[bench.selection.destination]
        verdict = crossing(bench.index, access, service, destination)
        where = access.call or access.site
        route = bench.route
        slot = f" slot {route.slot}" if route is not None and route.slot else ""
        self._title.setText(f"{where}{slot} to {destination.name}")
        if not verdict.possible and route is None:
            self.card.show_fields((), note=f"Cannot be punched. {verdict.reason}")
            return
        fields = crossing_fields(bench, access, service, destination)
        if route is None:
            self.card.show_fields(fields, [Act("Punch this crossing", self._punch, True)])
        else:
            self.card.show_fields(fields, [Act("Fill the hole", lambda: bench.do(fill(bench.index, [route])))])

    def _punch(self) -> None:
        selection = self._bench.selection
        attempt(self._bench, lambda: punch(self._bench.index, selection.service, selection.destination, selection.slot))
