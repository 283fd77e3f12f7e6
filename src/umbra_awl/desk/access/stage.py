"""The Access stage: map and ranked list of what is on the air, the directory's imports, its people and destinations.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable
from functools import cached_property, partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QFileDialog, QInputDialog, QLineEdit, QMenu, QWidget

from umbra_awl.core.directory.export import held_by, write_access
from umbra_awl.core.directory.nearest import NearestWanted, nearest
from umbra_awl.core.directory.track import read_track
from umbra_awl.core.facts.earth import Position, PositionError, locator_of, parse_position
from umbra_awl.core.facts.repeaters import CALLING
from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.plan.sharing import shareable
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.desk.access.around import AroundPage
from umbra_awl.desk.access.spot_list import SpotList
from umbra_awl.desk.access.taking import Taking
from umbra_awl.desk.access.worked import WorkedPlaces
from umbra_awl.desk.directory import Directory, LookedAtPlace
from umbra_awl.desk.measures import FAR_WORDS
from umbra_awl.desk.parts.blank import Blank, goes
from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.pictures import rows
from umbra_awl.desk.parts.saving import FilePlace, ask_place
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import Whole, act, button, column, row, words
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

if TYPE_CHECKING:
    from umbra_awl.desk.access.imports import Imports
    from umbra_awl.desk.access.people_page import PeoplePage
    from umbra_awl.desk.access.targets_page import TargetsPage
    from umbra_awl.desk.log_book import LogBook

_PEOPLE = "A registry's list turns IDs into names and places: bring its file in, and who you hear is known here."
_TARGETS = "A network's list of talk groups, reflectors or rooms: bring its file in, and take what you want to reach from here."
_FORMS = "CSV (*.csv);;GeoJSON (*.geojson);;GPX (*.gpx)"
_KNOWN = "Directory"


class AccessStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(
        self,
        bench: Workbench,
        theme: Theme,
        directory: Directory,
        book: "Callable[[], LogBook]",
    ) -> None:
        super().__init__()
        self._bench, self._theme, self.directory = bench, theme, directory
        self.taking = Taking(bench, directory, theme)
        outer = column(self, 6)
        self.list = SpotList(theme)
        self.around = AroundPage(bench, theme, directory, self.list, self.take)
        self.worked = WorkedPlaces(bench, directory, self.around.map, book)
        self.pages = Pages(
            (
                Page("around", "Around you", lambda: self.around, lambda: self.nearest),
                Page("trips", "Trips", lambda: self.around, lambda: self.trips),
                Page("imports", "Lists", lambda: self.imports, group=_KNOWN),
                Page("people", "People", lambda: self.people, blank=self._no_people, group=_KNOWN),
                Page("destinations", "Destinations", lambda: self.targets, blank=self._no_targets, group=_KNOWN),
            ),
            bench,
            theme,
        )
        head = self.pages.tabs.line
        head.addStretch(1)
        self.place = QLineEdit()
        self.place.setAccessibleName("Place looked at: a locator, a position or a site; empty is home")
        set_tip(self.place, "A locator, a position or the name of a site; empty is home")
        self.place.setMinimumWidth(150)
        self.place.returnPressed.connect(self._go)
        around = words("Around", "second")
        head.addWidget(around)
        head.addWidget(self.place, 1)
        self._more = button("Map ▾", self._open_menu, tip="Take many, tracks, suggestions, export")
        head.addWidget(self._more)
        self._of_map: tuple[QWidget, ...] = (around, self.place, self._more)
        outer.addWidget(self.pages.tabs)
        outer.addWidget(self.pages.inner[_KNOWN])
        outer.addWidget(self.pages, 1)
        self.list.take_asked.connect(self.take)
        self.around.import_asked.connect(partial(self.show_page, "imports"))
        self.around.hand_asked.connect(self.add_by_hand)
        self.side: QWidget = self.pages.side
        self.pages.shown.connect(self._page_shown)
        directory.place_changed.connect(self._say_place)
        directory.surveyed.connect(self._say_count)
        directory.changed.connect(self.pages.look_again)
        bench.document_changed.connect(self._say_place)
        self._say_place()
        self.show_page("around")
        directory.look()

    def _no_people(self) -> Blank | None:
        return self._none_of("people", "Nobody yet", _PEOPLE)

    def _no_targets(self) -> Blank | None:
        return self._none_of("destinations", "No talk groups, reflectors or rooms yet", _TARGETS)

    def _none_of(self, what: str, title: str, text: str) -> Blank | None:
        if self.directory.store.holds(what):
            return None
        return Blank(title, text, rows, (("Bring a list in", goes(self._bench, "access", "imports")),))

    @cached_property
    def nearest(self) -> QWidget:
        """The ranked list with its count."""
        side = QWidget()
        outer = column(side, 4)
        head = row(gap=6)
        self._count = Whole()
        head.addWidget(self._count, 1)
        head.addWidget(button("Take", self.take, "main", "Add the selected to the plan (Enter)"))
        outer.addLayout(head)
        outer.addWidget(self.list, 1)
        self._say_count()
        return side

    @cached_property
    def trips(self) -> QWidget:
        """The trips, made when first shown."""
        from umbra_awl.desk.access.trips import TripsPanel

        return TripsPanel(self._bench, self.directory, self._theme)

    def _page_shown(self, name: str) -> None:
        """The place looked at belongs to the map."""
        for made in self._of_map:
            made.setVisible(name in {"around", "trips"})
        self.worked.follow()

    @cached_property
    def imports(self) -> "Imports":
        """The imports page, made when first shown."""
        from umbra_awl.desk.access.imports import Imports

        return Imports(self._bench, self.directory, self._theme, self.taking.entries)

    @cached_property
    def people(self) -> "PeoplePage":
        """The people page, made when first shown."""
        from umbra_awl.desk.access.people_page import PeoplePage

        return PeoplePage(self._bench, self.directory)

    @cached_property
    def targets(self) -> "TargetsPage":
        """The destinations page, made when first shown."""
        from umbra_awl.desk.access.targets_page import TargetsPage

        return TargetsPage(self._bench, self.directory)

    def show_page(self, name: str) -> None:
        """Show “around” (the map), “trips”, or of the directory “imports”, “people” or “destinations”."""
        try:
            self.pages.show_page(name)
        except SourceError as error:
            self._bench.say(str(error), "stop")
            self.pages.show_page("around")

    def take_focus(self) -> None:
        """Give the keyboard to the list, or to the map while the trips stand in the list's place."""
        if self.pages.name in {"around", "trips"}:
            (self.list if self.pages.name == "around" else self.around.map).setFocus()
        else:
            self.pages.take_focus()

    def reach(self, field: str) -> bool:
        """The list of what is around."""
        if field == "list":
            self.list.setFocus()
            return True
        return self.pages.reach(field)

    def _say_place(self) -> None:
        place = self.directory.place
        self.place.setText("" if place is None or self.directory.at_home else place.words)
        home = (
            f"{place.words}, {locator_of(*place.position)}" if place else "Where are you? A locator, or 46.47, -31.11"
        )
        self.place.setPlaceholderText(home)

    def _say_count(self) -> None:
        spots = self.directory.survey.spots
        if "nearest" not in vars(self):
            return
        self._count.setText(f"{len(spots)} shown, {sum(spot.in_plan for spot in spots)} in the plan")

    def _go(self) -> None:
        text = self.place.text().strip()
        if not text:
            self.directory.go_to(None)
            return
        try:
            self.directory.go_to(LookedAtPlace(parse_position(text), text))
        except PositionError as error:
            self._go_to_site(text, str(error))

    def _go_to_site(self, text: str, fault: str) -> None:
        """Look for a site of that name in the directory and the plan."""
        here = self.directory.place
        found = nearest(self.directory.store, here.position if here else Position(0, 0), 1, NearestWanted(text=text))
        own = [
            item for item in self._bench.plan.access if item.site.casefold() == text.casefold() and item.lat is not None
        ]
        access = own[0] if own else found[0].entry.access if found else None
        if access is None or access.lat is None or access.lon is None:
            self._bench.say(f"{fault} No site of that name is in the directory either.", "stop")
            return
        self.directory.go_to(LookedAtPlace(Position(access.lat, access.lon), access.site))

    def take(self) -> None:
        """Take the selected spots into the plan."""
        self.taking.selected(self.list.selected())

    # the menu

    def _open_menu(self) -> None:
        menu = self.menu()
        menu.popup(self._more.mapToGlobal(self._more.rect().bottomLeft()))

    def menu(self) -> QMenu:
        """What can be done beside the buttons."""
        menu = QMenu(self)
        for text, does in (
            ("Take all within a radius", self._ask_radius),
            ("Take all along a track", self._ask_along),
            ("Play a track as a moving position", self.ask_track),
            ("Add an access point by hand", self.add_by_hand),
            ("Where I am now, by a receiver", self.ask_here),
            ("Look around home", partial(self.directory.go_to, None)),
            ("Show everything listed", self.around.fit_list),
            ("Export the shown", partial(self._ask_export, False)),
            ("Export the plan's access points", partial(self._ask_export, True)),
        ):
            act(menu, text, does)
        self.worked.fill(menu)
        more = menu.addMenu("Calling and simplex frequencies")
        assert more is not None
        for calling in CALLING[self._bench.plan.station.region]:
            act(more, f"{calling.hz / 1e6:.4f}  {calling.words}", partial(self.taking.suggested, calling))
        menu.aboutToHide.connect(menu.deleteLater)
        return menu

    def ask_here(self) -> None:
        """Ask a positioning receiver where one is."""
        from umbra_awl.desk.access.here_sheet import HereSheet

        HereSheet(self, self._bench, self.directory).exec()

    def add_by_hand(self) -> None:
        """Ask for a new access point; a place that was chosen on the map is where it is."""
        from umbra_awl.desk.parts.cards.adding import AddAccess

        place = self.directory.elsewhere
        AddAccess(self._bench, self, place.position if place is not None else None).exec()

    def _ask_radius(self) -> None:
        measures = self._theme.measures
        unit = FAR_WORDS[measures.far].capitalize()
        far, done = QInputDialog.getDouble(
            self, "Take all within a radius", f"{unit} around the place looked at", 30, 0.1, 2000, 1
        )
        if done:
            self.taking.within(far * measures.km_each)

    def _ask_along(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "A track", "", "GPX (*.gpx)")
        if name:
            measures = self._theme.measures
            unit = FAR_WORDS[measures.far].capitalize()
            far, done = QInputDialog.getDouble(
                self, "Take all along the track", f"{unit} on both sides", 20, 0.1, 500, 1
            )
            if done:
                self.taking.along(Path(name), far * measures.km_each)

    def ask_track(self) -> None:
        """Ask for a track to play."""
        name, _ = QFileDialog.getOpenFileName(self, "A track", "", "GPX (*.gpx)")
        if name:
            self.play(Path(name))

    def play(self, path: Path) -> None:
        """Play a track; an error is said."""
        self.show_page("around")
        self._bench.jobs.read(
            "track",
            read_track,
            path,
            done=self.around.playback.open,
            failed=lambda error: self._bench.say(plain_reason(error), "stop"),
        )

    def _ask_export(self, own: bool) -> None:
        place = ask_place(self, "Export access points", "access-points.csv", _FORMS)
        if place is not None:
            self.export(place, own=own)

    def export(self, place: FilePlace, *, own: bool) -> None:
        """Export the plan's access points, or those shown."""
        items = (
            list(shareable(self._bench.plan).access) if own else [spot.access for spot in self.directory.survey.spots]
        )
        try:
            write_access(place.path, items, replace=place.replace)
        except SourceError as error:
            self._bench.say(str(error), "stop")
            return
        held = len(held_by(place.path, items))
        left = f" {len(items) - held} have no position and are not in it." if held < len(items) else ""
        self._bench.say(f"{held} access points exported to {place.path.name}.{left}")

    def import_file(self) -> None:
        """Ask for a file to import."""
        self.show_page("imports")
        self.imports.ask()
