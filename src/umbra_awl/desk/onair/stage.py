"""The On air stage: lanes, an evening in figures, messages, pictures.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from functools import cached_property
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from umbra_awl.desk.parts.blank import Blank, no_radio, no_route
from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.pictures import sheet
from umbra_awl.desk.parts.widgets import column
from umbra_awl.desk.runner import Runner
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

if TYPE_CHECKING:
    from collections.abc import Callable

    from umbra_awl.desk.log_book import LogBook
    from umbra_awl.desk.onair.air_job import AirJob
    from umbra_awl.desk.onair.evening_page import EveningPage
    from umbra_awl.desk.onair.lanes_page import LanesPage
    from umbra_awl.desk.onair.messages_page import MessagesPage
    from umbra_awl.desk.onair.pictures_page import PicturesPage

_WHAT = "Here the plan is played in time, before anybody is bothered: who blocks whom, what a scan misses."
_TALK = "Messages"


class OnAirStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme, runner: Runner, book: "Callable[[], LogBook]") -> None:
        super().__init__()
        self._bench, self._theme, self._runner, self._book = bench, theme, runner, book
        outer = column(self, 2)
        self.pages = Pages(
            (
                Page("lanes", "Lanes", lambda: self.lanes, blank=self._none),
                Page("evening", "An evening in figures", lambda: self.evening, blank=self._none),
                Page("messages", "Texts", lambda: self.messages, blank=self._none, group=_TALK),
                Page("pictures", "Pictures", lambda: self.pictures, blank=self._none, group=_TALK),
            ),
            bench,
            theme,
        )
        self.pages.tabs.line.addStretch(1)
        outer.addWidget(self.pages.tabs)
        outer.addWidget(self.pages.inner[_TALK])
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
        from umbra_awl.desk.onair.air_job import AirJob

        return AirJob(self._bench)

    @cached_property
    def messages(self) -> "MessagesPage":
        """Texts, made when first shown."""
        from umbra_awl.desk.onair.messages_page import MessagesPage

        return MessagesPage(self._bench, self._theme, self.air)

    @cached_property
    def pictures(self) -> "PicturesPage":
        """Pictures, made when first shown."""
        from umbra_awl.desk.onair.pictures_page import PicturesPage

        return PicturesPage(self._bench, self._theme, self.air)

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
