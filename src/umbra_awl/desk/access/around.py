"""The page around a place: filters, the map, the track's line, and the card of the selected spot; keeps map and list in step."""

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from umbra_awl.core.directory.nearest import Dot, NearestWanted, dots, labels
from umbra_awl.core.estimate.reach import LIKELY_DB, hand_end, horizon_km, reach, site_end
from umbra_awl.core.estimate.survey import SurveySpot, hand_of
from umbra_awl.core.facts.coast import Coast
from umbra_awl.core.facts.earth import Position, locator_of
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.desk.access.chart.map import AccessMap
from umbra_awl.desk.access.chart.map_points import Points, numbers_of, points_of
from umbra_awl.desk.access.detail import Detail
from umbra_awl.desk.access.filters import Filters
from umbra_awl.desk.access.legend import MapLegend
from umbra_awl.desk.access.playback import Playback
from umbra_awl.desk.access.spot_list import SpotList
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import NOWHERE, Directory, LookedAtPlace
from umbra_awl.desk.parts.widgets import button, card, column, row, words
from umbra_awl.desk.theme.theme import Theme

_FIRST_KM = 40.0
_NEAR_ENOUGH = 8
_EMPTY = (
    "Nothing is known here yet. Say where you are: a locator or a position, above or at Station. Then import a directory file "
    "of any shape, or fetch one from a service. Every entry is judged before you take it into the plan. Or add by hand what you "
    "know."
)


class AroundPage(QWidget):
    """Follows the directory's survey."""

    import_asked = pyqtSignal()
    hand_asked = pyqtSignal()

    def __init__(
        self, bench: Workbench, theme: Theme, directory: Directory, spot_list: SpotList, take: Callable[[], object]
    ) -> None:
        super().__init__()
        self._bench, self._directory, self._list = bench, directory, spot_list
        self._key = ""
        self._fitted = False
        self._dots: tuple[NearestWanted, list[Dot]] | None = None
        self._version = 0
        outer = column(self, 6)
        self.filters = Filters(bench.clock)
        self.map = AccessMap(theme, self._labels)
        self.playback = Playback()
        self.detail = Detail(bench, directory, theme)
        self._empty = self._teaching()
        outer.addWidget(self._empty)
        outer.addWidget(self.filters)
        outer.addWidget(self.map, 1)
        outer.addWidget(MapLegend(theme))
        outer.addWidget(self.playback)
        outer.addWidget(self.detail)
        self.filters.changed.connect(directory.want)
        self.map.chosen.connect(self._choose_number)
        self.map.activated.connect(take)
        self.map.stepped.connect(spot_list.step)
        self.map.place_asked.connect(self._look_around)
        self.map.home_asked.connect(lambda: directory.go_to(None))
        spot_list.chosen.connect(self._choose)
        self.detail.take_asked.connect(take)
        self.playback.moved.connect(self._moved)
        directory.surveyed.connect(self._surveyed)
        directory.place_changed.connect(self._place_changed)
        directory.changed.connect(self._forget_dots)
        bench.jobs.latest("coast", lambda: directory.coast()[0], self._show_coast)
        self._place_changed()
        self.detail.show_spot(None)

    def _teaching(self) -> QWidget:
        """What belongs here, while there is nothing."""
        made = card()
        inner = column(made, 6, 10)
        inner.addWidget(words(_EMPTY, wrap=True))
        line = row(gap=6)
        line.addWidget(button("Import a directory", self.import_asked.emit, "main", "Ctrl Shift I"))
        line.addWidget(button("Add one by hand", self.hand_asked.emit))
        line.addStretch(1)
        inner.addLayout(line)
        made.hide()
        return made

    def _show_coast(self, coast: Coast) -> None:
        self.map.show_coast(coast)

    def _labels(self, ids: list[int]) -> dict[int, tuple[str, str]]:
        try:
            return labels(self._directory.store, ids)
        except SourceError:
            return {}

    def _place_changed(self) -> None:
        if self.playback.track is not None:
            return
        place = self._directory.place
        self.map.go_to(place.position if place else NOWHERE)
        self.map.placed = place is not None
        watts, height = hand_of(self._bench.plan)("fm").watts, self._bench.plan.station.height_m
        self.map.reach_km = _usual_reach(watts, height) if place else (0.0, 0.0)
        self._fitted = False

    def _surveyed(self) -> None:
        spots = self._directory.survey.spots
        self._list.show_spots(spots, self._key)
        self._empty.setVisible(not spots and not any(self._directory.wanted))
        if self.playback.track is None:
            self._fit_once(spots)
        self._load_points()
        if self._directory.spot(self._key) is None:
            self._key = spots[0].key if spots else ""
            self._list.choose(self._key)
        self.detail.show_spot(self._directory.spot(self._key))

    def _fit_once(self, spots: tuple[SurveySpot, ...]) -> None:
        if not self._fitted:
            self._fitted = True
            if not self.map.placed:
                self._show_first(spots)
                return
            near = [spot.km for spot in spots[:_NEAR_ENOUGH] if spot.km is not None]
            self.map.fit(min(max((near[-1] if near else _FIRST_KM) * 1.12, 5.0), 4_000.0))

    def _show_first(self, spots: tuple[SurveySpot, ...]) -> None:
        """Without a place of one's own: look where the first of the list is."""
        first = next((spot.access for spot in spots if spot.access.lat is not None), None)
        if first is not None:
            self.map.go_to(Position(first.lat or 0.0, first.lon or 0.0))
            self.map.fit(_FIRST_KM)

    def fit_list(self) -> None:
        """Show everything that is listed."""
        far = [spot.km for spot in self._directory.survey.spots if spot.km is not None]
        self.map.fit(max(far, default=_FIRST_KM) * 1.05)

    def _forget_dots(self) -> None:
        """The store changed; the survey that follows reads them anew."""
        self._dots = None
        self._version += 1

    def _load_points(self) -> None:
        """The map's points, in the background; the store is read once for each filter, not for each step of a track."""
        directory, wanted, centre, kept = self._directory, self._directory.wanted, self.map.centre, self._dots
        spots, version = directory.survey.spots, self._version

        def work() -> tuple[list[Dot], Points] | None:
            try:
                found = kept[1] if kept is not None and kept[0] == wanted else dots(directory.store, wanted)
                return found, points_of(found, spots, centre)
            except SourceError:
                return None

        def done(result: tuple[list[Dot], Points] | None) -> None:
            if result is None or centre != self.map.centre:
                return
            if version == self._version:
                self._dots = (wanted, result[0])
            self.map.show_points(result[1], spots)
            self._select_on_map()

        self._bench.jobs.latest("map points", work, done)

    def _choose(self, spot: SurveySpot) -> None:
        self._key = spot.key
        self.detail.show_spot(spot)
        self._select_on_map()

    def _select_on_map(self) -> None:
        self.map.select(self._number(self._key))

    def _number(self, key: str) -> int | None:
        spots = self._directory.survey.spots
        return next((number for number, spot in zip(numbers_of(spots), spots, strict=True) if spot.key == key), None)

    def _choose_number(self, number: int) -> None:
        spots = self._directory.survey.spots
        spot = dict(zip(numbers_of(spots), spots, strict=True)).get(number)
        if spot is not None:
            self._list.choose(spot.key)
            return
        entries = self._directory.store.entries([number])
        if entries and entries[0].access.lat is not None and entries[0].access.lon is not None:
            access = entries[0].access
            self._key = entries[0].key
            self._directory.go_to(LookedAtPlace(Position(access.lat or 0.0, access.lon or 0.0), access.site))

    def _look_around(self, position: Position) -> None:
        self._directory.go_to(LookedAtPlace(position, locator_of(*position)))

    def _moved(self, position: Position | None) -> None:
        self.map.show_moving(position)
        if position is None:
            self._directory.go_to(None)
        else:
            self._directory.go_to(LookedAtPlace(position, f"the track, {locator_of(*position)}"))


def _usual_reach(watts: float, height_m: float) -> tuple[float, float]:
    """How far a usual FM repeater is likely, and possibly, heard from here, in kilometres."""
    here, there = hand_end("fm", watts, height_m), site_end("fm", "repeater")
    found: list[float] = []
    for needed in (LIKELY_DB, 0.0):
        low, high = 0.1, horizon_km(here.height_m, there.height_m)
        for _halving in range(24):
            middle = (low + high) / 2
            low, high = (middle, high) if reach(middle, 145.0, here, there).margin_db >= needed else (low, middle)
        found.append(low)
    return found[0], found[1]
