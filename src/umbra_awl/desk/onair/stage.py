"""The On air stage: lanes, an evening in figures, messages.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from umbra_awl.desk.parts.blank import Blank, no_radio, no_route
from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.pictures import sheet
from umbra_awl.desk.parts.widgets import column
from umbra_awl.desk.stage import Surroundings

if TYPE_CHECKING:
    from umbra_awl.core.facts.coast import Coast
    from umbra_awl.core.messages.permit import What
    from umbra_awl.desk.onair.evening_page import EveningPage
    from umbra_awl.desk.onair.lanes_page import LanesPage
    from umbra_awl.desk.onair.messages.air_job import AirJob
    from umbra_awl.desk.onair.messages.messages_page import MessagesPage

_WHAT = "Here the plan is played in time, before anybody is bothered: who blocks whom, what a scan misses."


class OnAirStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(self, given: Surroundings) -> None:
        super().__init__()
        self._bench, self._theme, self._runner, self._book = given.bench, given.theme, given.runner(), given.book
        self._directory = given.directory
        bench, theme = given.bench, given.theme
        outer = column(self, 2)
        self.pages = Pages(
            (
                Page("lanes", "Lanes", lambda: self.lanes, blank=self._none),
                Page("evening", "An evening in figures", lambda: self.evening, blank=self._none),
                Page("messages", "Messages", lambda: self.messages, blank=self._none),
            ),
            bench,
            theme,
        )
        self.pages.tabs.line.addStretch(1)
        outer.addWidget(self.pages.tabs)
        outer.addWidget(self.pages, 1)
        self.side: QWidget = self.pages.side
        self.show_page("lanes")

    def _none(self) -> Blank | None:
        """Why a page is blank: nothing to play with."""
        return no_radio(self._bench, _WHAT) or no_route(self._bench, _WHAT, sheet)

    @cached_property
    def lanes(self) -> "LanesPage":
        """The lanes, made when first shown."""
        from umbra_awl.desk.onair.lanes_page import LanesPage

        return LanesPage(self._bench, self._theme, self._runner.settings, self._book)

    @cached_property
    def evening(self) -> "EveningPage":
        """The figures, made when first shown."""
        from umbra_awl.desk.onair.evening_page import EveningPage

        return EveningPage(self._bench, self._theme)

    @cached_property
    def air(self) -> "AirJob":
        """The radio on the data port, made when first asked for."""
        from umbra_awl.desk.onair.messages.air_job import AirJob

        return AirJob(self._bench)

    @cached_property
    def messages(self) -> "MessagesPage":
        """Texts and pictures, made when first shown."""
        from umbra_awl.desk.onair.messages.messages_page import MessagesPage

        return MessagesPage(self._bench, self._theme, self.air, self._coast)

    def _coast(self) -> "Coast":
        """The coastline for a map to send, read when first asked for."""
        return self._directory().coast()[0]

    def show_kind(self, kind: "What") -> None:
        """Show the talk, to go on with a text or a picture."""
        self.show_page("messages")
        if not self.pages.is_blank:
            self.messages.show_kind(kind)

    def open_picture(self, path: Path) -> None:
        """Take a picture's file into the talk."""
        self.messages.pictures.hand.open(path)

    def restart(self) -> None:
        """Play the scene from its beginning."""
        self.show_page("lanes")
        if not self.pages.is_blank:
            self.lanes.stand.restart()

    def show_page(self, name: str) -> None:
        """Show a page by its name. Raises KeyError for a name that is none."""
        self.pages.show_page(name)

    def reach(self, field: str) -> bool:
        """Put the cursor into a field of the page that is shown."""
        return self.pages.reach(field)

    def take_focus(self) -> None:
        """Give the keyboard to the page."""
        self.pages.take_focus()
