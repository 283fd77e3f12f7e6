"""What is in hand: the chosen radio with its fit, the selected route, crossing or many of them, and the trace of it.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from typing import TYPE_CHECKING

from umbra_awl.core.findings.model import Target
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio, Route
from umbra_awl.desk.held.selection import Selection, carrier_of, targets_of

if TYPE_CHECKING:
    from umbra_awl.core.fit.fitting import Fit
    from umbra_awl.core.trace.model import Trace
    from umbra_awl.desk.held.worked import WorkedOut
    from umbra_awl.desk.profiles import Profiles


class InHand:
    """Worked out of what a workbench holds."""

    index: PlanIndex
    worked: "WorkedOut"
    selection: Selection
    radio_key: str
    profiles: "Profiles"

    @property
    def radio(self) -> OwnedRadio | None:
        """The chosen radio."""
        return self.index.radios.get(self.radio_key)

    @property
    def fit(self) -> "Fit | None":
        """The fit of the chosen radio to the present plan; None while it is being worked out, and where it could not be."""
        return self.worked.results.fits.get(self.radio_key) if self.worked.fresh else None

    @property
    def route(self) -> Route | None:
        """The selected route: the hole of the selected crossing, on the slot looked at where there are two."""
        here = self.index.by_crossing.get((self.selection.service, self.selection.destination), ())
        return next((route for route in here if route.slot == self.selection.slot), here[0] if here else None)

    @property
    def crossing_selected(self) -> bool:
        """Whether a crossing is selected: a service and a destination that are there, shown or not."""
        selection = self.selection
        return selection.service in self.index.services and selection.destination in self.index.destinations

    @property
    def routes_of_many(self) -> tuple[str, ...]:
        """The keys of the routes punched in the many selected crossings."""
        crossings = self.index.by_crossing
        return tuple(route.key for at in self.selection.many for route in crossings.get(at, ()))

    @property
    def carrier(self) -> OwnedRadio | None:
        """The radio that the selected route is followed on."""
        return carrier_of(self.index, self.profiles.get, self.radio, self.selection)

    def trace(self) -> "Trace | None":
        """The trace of the selected route on the radio that carries it; None while there is none or results are stale."""
        route = self.route
        if route is None or not self.worked.fresh:
            return None  # before a radio is looked for: that needs the profiles, which are read in the background
        radio = self.carrier
        if radio is None or radio.key not in self.worked.results.fits:
            return None
        from umbra_awl.core.trace.keyup import trace

        return trace(self.index, self.worked.results.fits, radio.key, route.key)

    def targets(self) -> set[Target]:
        """The targets that the selection touches, for putting their findings first."""
        return targets_of(self.selection, self.route)
