"""The Access stage: map and ranked list of what is on the air, the directory's imports, its people and destinations.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable
from functools import cached_property, partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QLineEdit, QWidget

from umbra_awl.core.directory.nearest import NearestWanted, nearest
from umbra_awl.core.facts.earth import Position, PositionError, locator_of, parse_position
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.desk.access.around import AroundPage
from umbra_awl.desk.access.chart.map_acts import MapActs
from umbra_awl.desk.access.spot_list import SpotList
from umbra_awl.desk.access.taking import Taking
from umbra_awl.desk.access.worked import WorkedPlaces
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory, LookedAtPlace
from umbra_awl.desk.parts.blank import Blank, goes
from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.pictures import rows
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import Whole, button, column, row, words
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.desk.access.imports import Imports
    from umbra_awl.desk.access.people_page import PeoplePage
    from umbra_awl.desk.access.targets_page import TargetsPage
    from umbra_awl.desk.book.log_book import LogBook

_PEOPLE = "A registry's list turns IDs into names and places: bring its file in, and who you hear is known here."
_TARGETS = "A network's list of talk groups, reflectors or rooms: bring its file in, and take what you want to reach from here."
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
        self.bench, self.theme, self.directory = bench, theme, directory
        self.book = book
        self.taking = Taking(bench, directory, theme)
        self.acts = MapActs(self)
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
        self.more = button("Map ▾", self.acts.open_menu, tip="Take many, tracks, suggestions, export")
        head.addWidget(self.more)
        self._of_map: tuple[QWidget, ...] = (around, self.place, self.more)
        outer.addWidget(self.pages.tabs)
        outer.addWidget(self.pages.inner[_KNOWN])
        outer.addWidget(self.pages, 1)
        self.list.take_asked.connect(self.take)
        self.around.import_asked.connect(partial(self.show_page, "imports"))
        self.around.hand_asked.connect(self.acts.add_by_hand)
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
        return Blank(title, text, rows, (("Bring a list in", goes(self.bench, "access", "imports")),))

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

        return TripsPanel(self.bench, self.directory, self.theme)

    def _page_shown(self, name: str) -> None:
        """The place looked at belongs to the map."""
        for made in self._of_map:
            made.setVisible(name in {"around", "trips"})
        self.worked.follow()

    @cached_property
    def imports(self) -> "Imports":
        """The imports page, made when first shown."""
        from umbra_awl.desk.access.imports import Imports

        return Imports(self.bench, self.directory, self.theme, self.taking.entries)

    @cached_property
    def people(self) -> "PeoplePage":
        """The people page, made when first shown."""
        from umbra_awl.desk.access.people_page import PeoplePage

        return PeoplePage(self.bench, self.directory)

    @cached_property
    def targets(self) -> "TargetsPage":
        """The destinations page, made when first shown."""
        from umbra_awl.desk.access.targets_page import TargetsPage

        return TargetsPage(self.bench, self.directory)

    def show_page(self, name: str) -> None:
        """Show “around” (the map), “trips”, or of the directory “imports”, “people” or “destinations”."""
        try:
            self.pages.show_page(name)
        except SourceError as error:
            self.bench.say(str(error), "stop")
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
            item for item in self.bench.plan.access if item.site.casefold() == text.casefold() and item.lat is not None
        ]
        access = own[0] if own else found[0].entry.access if found else None
        if access is None or access.lat is None or access.lon is None:
            self.bench.say(f"{fault} No site of that name is in the directory either.", "stop")
            return
        self.directory.go_to(LookedAtPlace(Position(access.lat, access.lon), access.site))

    def take(self) -> None:
        """Take the selected spots into the plan."""
        self.taking.selected(self.list.selected())

    # the menu
