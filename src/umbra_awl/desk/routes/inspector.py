"""The inspector beside the punch sheet: the crossing, service, destination or many crossings that are selected.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Sequence

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.plan.edit.edit_access import remove_access, remove_destination
from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.plan.model import AccessPoint, Destination, Service
from umbra_awl.core.plan.places import module_word, place_word
from umbra_awl.core.routes.crossing import crossing
from umbra_awl.core.routes.order import order_of_use
from umbra_awl.core.routes.punch import fill
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.access_fields import service_fields
from umbra_awl.desk.parts.cards.destination_fields import destination_fields
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Act, Field
from umbra_awl.desk.parts.widgets import column, scrolled, words
from umbra_awl.desk.routes import punching
from umbra_awl.desk.routes.field_boxes import FieldBoxes
from umbra_awl.desk.routes.route_fields import crossing_fields
from umbra_awl.desk.theme.theme import Theme

_TEACH = (
    "Mouse: where a hole appears under it, one click punches; drag to select a rectangle.\n"
    "Keys: arrows move, with Ctrl to the next network; Space punches and removes. 1 and 2 set the time slot, with Alt both. "
    "Shift and arrows punch a run; Ctrl Shift and arrows select a rectangle, Ctrl A what is shown. Enter comes here. "
    "+ and − zoom."
)


class Inspector(QWidget):
    """Follows the selection; everything in it can be edited in place."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        outer = column(self, 6)
        self._title = words("", "title", wrap=True)
        outer.addWidget(self._title)
        self.card = FieldList()
        self.boxes = FieldBoxes(theme)
        self.order = words("", "second", wrap=True)
        flow = QWidget()
        inner = column(flow, 6)
        inner.addWidget(self.boxes)
        inner.addWidget(self.card)
        inner.addWidget(self.order)
        inner.addStretch(1)
        outer.addWidget(scrolled(flow), 1)
        for signal in (bench.selection_changed, bench.plan_changed, bench.results_changed, bench.radio_changed):
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
        crossed = service is not None and destination is not None and not selection.many
        if not crossed:
            self.boxes.show_fields(None)
            self.order.hide()
        if len(selection.many) > 1:
            self._show_many()
        elif service is not None and destination is not None:
            self._show_crossing(*service, destination)
        elif service is not None:
            access, found = service
            self._title.setText(f"{access.by_call}, {access.site}")
            acts = [Act("Remove", lambda: self._remove(remove_access(access)))]
            self._show(service_fields(self._bench, access, found), acts)
        elif destination is not None:
            self._title.setText(destination.name)
            acts = [
                Act(
                    "Remove",
                    lambda: self._bench.do_told(
                        remove_destination(destination.key, destination.name), "Its routes went along."
                    ),
                )
            ]
            self._show(destination_fields(self._bench, destination), acts)
        else:
            self._title.setText("Nothing selected")
            self._show((), note=_TEACH)

    def _show(self, fields: Sequence[Field], acts: Sequence[Act] = (), note: str = "") -> None:
        """Fill the card with what is selected."""
        chosen = self._bench.selection
        self.card.show_fields(fields, acts, note, (chosen.service, chosen.destination, len(chosen.many)))

    def _remove(self, edit: Edit) -> None:
        self._bench.do_told(edit, "Its routes went along.")

    def _show_crossing(self, access: AccessPoint, service: Service, destination: Destination) -> None:
        bench = self._bench
        verdict = crossing(bench.index, access, service, destination)
        route = bench.route
        place = place_word(service, destination, route.slot) if route is not None else ""
        words = filter(None, (access.by_call, module_word(service), place))
        self._title.setText(f"{' '.join(words)} to {destination.name}")
        possible = verdict.possible or route is not None
        self._show_boxes(service, destination, possible=possible)
        self._show_order()
        if not possible:
            self._show((), note=f"Cannot be punched. {verdict.reason}")
            return
        fields = crossing_fields(bench, access, service, destination)
        if route is None:
            self._show(fields, [Act("Punch this crossing", self._punch, True)])
        else:
            self._show(fields, [Act("Remove the route", lambda: bench.do(fill(bench.index, [route])))])

    def _show_boxes(self, service: Service, destination: Destination, *, possible: bool) -> None:
        if service.mode != "dstar" or not possible:
            self.boxes.show_fields(None)
            return
        from umbra_awl.desk.routes.digital_fields import boxes_of

        self.boxes.show_fields(*boxes_of(self._bench, service, destination))

    def _show_many(self) -> None:
        from umbra_awl.desk.routes import many_card

        self._title.setText(many_card.many_title(self._bench))
        fields, acts = many_card.many_fields(self._bench), many_card.many_acts(self._bench)
        self._show(fields, acts, many_card.NOTE)

    def _show_order(self) -> None:
        route = self._bench.route
        steps = order_of_use(self._bench.index, route) if route is not None else ()
        self.order.setVisible(bool(steps))
        self.order.setText("\n".join(f"{at}. {step}" for at, step in enumerate(steps, 1)))

    def _punch(self) -> None:
        punching.toggle(self._bench, self._bench.selection.slot or None)
