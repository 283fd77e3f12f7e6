"""The Hotspots stage: pages about one hotspot in hand.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable
from functools import cached_property
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.plan.edit.edits import add_item, fresh_key
from umbra_awl.core.plan.model import Hotspot
from umbra_awl.core.plan.parts import HOTSPOTS
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.hotspots.find.overs_logged import OversLogged
from umbra_awl.desk.hotspots.path_page import PathPage
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.hotspots.spot_tabs import SpotTabs
from umbra_awl.desk.parts.blank import Blank, goes
from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.pictures import sheet
from umbra_awl.desk.parts.widgets import column
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.desk.book.log_book import LogBook
    from umbra_awl.desk.hotspots.calibrate.curve_page import CurvePage
    from umbra_awl.desk.hotspots.find.find_page import FindPage
    from umbra_awl.desk.hotspots.match.match_page import MatchPage
    from umbra_awl.desk.hotspots.phone_page import PhonePage
    from umbra_awl.desk.hotspots.place.place_page import FrequencyPage
    from umbra_awl.desk.hotspots.wifi.wifi_page import WifiPage
    from umbra_awl.desk.known.directory import Directory

_WHAT = (
    "A hotspot is a small station of your own: no repeater in reach is needed. Add its access point, and the plan checks that "
    "hotspot, radio and phone agree."
)


WIFI_FIELDS = frozenset({"Wi-Fi", "Phone", "Knows", "Shares on"})
"""Fields of a hotspot's findings that stand on the page about Wi-Fi."""


class HotspotStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(
        self,
        bench: Workbench,
        theme: Theme,
        runner: Runner,
        directory: "Callable[[], Directory]",
        book: "Callable[[], LogBook]",
    ) -> None:
        super().__init__()
        self._bench, self._theme, self._runner, self._directory = bench, theme, runner, directory
        self.spot = Spot(bench, runner)
        self.overs = OversLogged(self.spot, book)
        outer = column(self, 6)
        self.pages = Pages(
            (
                Page("path", "Path", lambda: PathPage(self.spot, theme), blank=self._none),
                Page("place", "Frequency", lambda: self.place, blank=self._none),
                Page("match", "Must match", lambda: self.match, blank=self._none),
                Page("calibrate", "Calibrate", lambda: self.curve, blank=self._none),
                Page("wifi", "Wi-Fi", lambda: self.wifi, blank=self._none),
                Page("find", "Find and log", lambda: self.seek, blank=self._none),
                Page("phone", "Phone", lambda: self.phone),
            ),
            bench,
            theme,
        )
        self.pages.tabs.line.addStretch(1)
        outer.addWidget(self.pages.tabs)
        self.head = SpotTabs(self.spot, theme, self.add_hotspot)
        outer.addWidget(self.head)
        outer.addWidget(self.pages, 1)
        self.side: QWidget = self.pages.side
        self.pages.shown.connect(lambda _name: self._show_head())
        bench.plan_changed.connect(self._show_head)
        self.show_page("path")

    def _show_head(self) -> None:
        self.head.setVisible(bool(self._bench.plan.hotspots) and self.pages.name != "phone")

    def _none(self) -> Blank | None:
        """Why a page is blank: the plan has no hotspot, or notes no settings of the one it has."""
        plan = self._bench.plan
        if plan.hotspots:
            return None
        if any(item.kind == "hotspot" and item.services for item in plan.access):
            text = "The plan has a hotspot's access point and not what the hotspot itself is set to."
            return Blank("No settings noted", text, sheet, (("Note them as the radios have them", self._note),))
        acts = (("Add a hotspot", self.add_hotspot),)
        more = (("Which parts go together", goes(self._bench, "radios", "which")),)
        return Blank("No hotspot yet", _WHAT, sheet, (*acts, *more))

    def add_hotspot(self) -> None:
        """Ask for a new hotspot, and go to its path."""
        from umbra_awl.desk.hotspots.add_sheet import AddHotspot

        if self._bench.document is None:
            self._bench.say("Open a plan first, or make a new one.")
            return
        sheet = AddHotspot(self._bench, self._directory(), self)
        if sheet.exec() and sheet.key:
            self.spot.choose(sheet.key)
            self.show_page("path")
            self.take_focus()

    def _note(self) -> None:
        """Take the settings of every hotspot as the radios have them."""
        plan = self._bench.plan
        for access in plan.access:
            if access.kind == "hotspot" and access.services:
                service = access.services[0]
                key = fresh_key(access.key, (item.key for item in self._bench.plan.hotspots))
                made = Hotspot(key, access.key, service.rx_hz, service.tx_hz, 1, service.rx_hz != service.tx_hz)
                self._bench.do(add_item(HOTSPOTS, made, f"Note the settings of {access.site}"))

    @cached_property
    def place(self) -> "FrequencyPage":
        """The ruler, made when first shown."""
        from umbra_awl.desk.hotspots.place.place_page import FrequencyPage

        return FrequencyPage(self.spot, self._theme, self._directory())

    @cached_property
    def match(self) -> "MatchPage":
        """The sheet of what must match, made when first shown."""
        from umbra_awl.desk.hotspots.match.match_page import MatchPage

        return MatchPage(self.spot, self._theme)

    @cached_property
    def curve(self) -> "CurvePage":
        """The calibration, made when first shown."""
        from umbra_awl.desk.hotspots.calibrate.curve_page import CurvePage

        return CurvePage(self.spot, self._theme)

    @cached_property
    def wifi(self) -> "WifiPage":
        """Wi-Fi away from home, made when first shown."""
        from umbra_awl.desk.hotspots.wifi.wifi_page import WifiPage

        return WifiPage(self.spot, self._theme)

    @cached_property
    def seek(self) -> "FindPage":
        """Finding it and its log, made when first shown."""
        from umbra_awl.desk.hotspots.find.find_page import FindPage

        return FindPage(self.spot, self._theme, self._directory())

    @cached_property
    def phone(self) -> "PhonePage":
        """The phone, made when first shown."""
        from umbra_awl.desk.hotspots.phone_page import PhonePage

        return PhonePage(self.spot, self._theme)

    def show_road(self) -> None:
        """Lead to the road sheet of the hotspot in hand."""
        self.show_page("wifi")
        self.reach("road")

    def show_page(self, name: str) -> None:
        """Show a page by its name. Raises KeyError for a name that is none."""
        self.pages.show_page(name)

    def reach(self, field: str) -> bool:
        """Put the cursor into a field of the page that is shown."""
        if field == "add hotspot":
            self.add_hotspot()
            return True
        if field == "address":
            self.head.address.setFocus()
            return True
        fields = field.split("|")
        if WIFI_FIELDS.intersection(fields) and self.pages.name != "wifi":
            self.show_page("wifi")
        return any(self.pages.reach(item) for item in fields)

    def take_focus(self) -> None:
        """Give the keyboard to the page."""
        self.pages.take_focus()
