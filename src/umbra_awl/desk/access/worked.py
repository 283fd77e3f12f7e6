"""The log's spots on the map: flags where one worked from, a list of them, and the place looked at as the next entry's spot."""

from collections.abc import Callable, Iterable
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject
from PyQt6.QtWidgets import QMenu

from umbra_awl.core.facts.earth import locator_of
from umbra_awl.core.logbook.worked_from import WorkedFrom, worked_from
from umbra_awl.desk.access.chart.map import AccessMap
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory, LookedAtPlace
from umbra_awl.desk.parts.widgets import act

if TYPE_CHECKING:
    from umbra_awl.desk.book.log_book import LogBook

_MOST = 20
_NONE = "No spot yet: type a locator as the spot of an entry, or “hill, HN46kl”"


class WorkedPlaces(QObject):
    """Follows the log, which is made when the map is first shown."""

    def __init__(self, bench: Workbench, directory: Directory, map_: AccessMap, book: "Callable[[], LogBook]") -> None:
        super().__init__(map_)
        self._bench, self._directory, self._map = bench, directory, map_
        self._ask = book
        self._book: LogBook | None = None
        self.spots: tuple[WorkedFrom, ...] = ()

    def follow(self) -> "LogBook":
        """Follow the log from now on."""
        if self._book is None:
            self._book = self._ask()
            self._book.changed.connect(self.refresh)
            self.refresh()
        return self._book

    def refresh(self) -> None:
        """Work out the spots anew, in the background, and show them."""
        if self._book is not None:
            entries = self._book.entries
            self._bench.jobs.latest("worked from", lambda: worked_from(entries), self._show)

    def _show(self, spots: Iterable[WorkedFrom]) -> None:
        self.spots = tuple(spots)
        self._map.show_worked(tuple((spot.position, spot.words) for spot in self.spots))

    def fill(self, menu: QMenu) -> None:
        """Put what can be done with spots into a menu."""
        act(menu, "Log from the place looked at", self.log_from_here)
        listed = menu.addMenu("Where I worked from")
        assert listed is not None
        for spot in self.spots[:_MOST]:
            act(
                listed,
                spot.words.replace("&", "&&"),
                partial(self._directory.go_to, LookedAtPlace(spot.position, spot.name)),
            )
        if not self.spots:
            listed.addAction(_NONE).setEnabled(False)  # type: ignore[union-attr]

    def log_from_here(self) -> None:
        """The place that is looked at becomes the spot of the next entries."""
        place = self._directory.place
        if place is None:
            self._bench.say("Where is that? Double-click a place on the map, or type one above it.", "stop")
            return
        locator = locator_of(*place.position)
        named = place.words.replace(",", " ").strip()
        book = self.follow()
        book.work_from(locator if named.casefold() in {"", locator.casefold()} else f"{named}, {locator}")
        self._bench.say(f"The next entry is logged as worked from “{book.spot}” (Log, proof map).")
