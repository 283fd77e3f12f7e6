"""What of the operator's own is in a hotspot's log."""

from typing import TYPE_CHECKING, Any

from umbra_awl.core.hotspot.logs.ladder import Standing, standing
from umbra_awl.core.hotspot.logs.reading import own_overs

if TYPE_CHECKING:
    from umbra_awl.desk.hotspots.spot import Spot


class OwnInLog:
    """Looks for own calls and IDs."""

    def __init__(self, owner: "Spot") -> None:
        self._spot = owner

    @property
    def calls(self) -> tuple[str, ...]:
        """The operator's own call signs."""
        return tuple(item.call for item in self._spot.bench.plan.station.identities[:1] if item.call)

    @property
    def ids(self) -> tuple[int, ...]:
        """The operator's own IDs."""
        owner = self._spot.bench.plan.station.identities[:1]
        return tuple(item.number for identity in owner for item in identity.ids)

    def overs(self) -> list[Any]:
        """The operator's own overs in the log, newest first."""
        return own_overs(self._spot.log, self.calls, self.ids) if self._spot.log is not None else []

    def ladder(self) -> Standing | None:
        """Where it stands on the ladder of proof."""
        hotspot = self._spot.hotspot
        return (
            standing(hotspot, self._spot.status, self._spot.log, self.calls, self.ids) if hotspot is not None else None
        )
