"""Routes in words: “Q0BLK slot 2 to Isles-wide”."""

from functools import cached_property
from typing import TYPE_CHECKING

from umbra_awl.core.plan.model import (
    Route,
)
from umbra_awl.core.plan.places import module_word, place_word

if TYPE_CHECKING:
    from umbra_awl.core.plan.index import PlanIndex


class Labels:
    """Labels of one plan's routes, made when first asked for."""

    def __init__(self, owner: "PlanIndex") -> None:
        self._index = owner

    @cached_property
    def _labels(self) -> dict[str, str]:
        """The labels made so far."""
        made: dict[str, str] = {}
        return self._index.memo("labels", lambda: made, ("access", "destinations"))

    def of(self, route: Route) -> str:
        """A route in words: “Q0BLK slot 2 to Isles-wide”."""
        return self.at(route.key, route)

    def at(self, key: str, route: Route) -> str:
        """The same for a route whose key is at hand."""
        labels = self._labels
        if key not in labels:
            labels[key] = self._words(route)
        return labels[key]

    def _words(self, route: Route) -> str:
        access, service, destination = self._index.parts(route)
        words = (access.by_call, module_word(service), place_word(service, destination, route.slot))
        return f"{' '.join(filter(None, words))} to {destination.name}"
