"""The hotspot in hand: which one of the plan, what its page and log said last, and what it is asked, in the background."""

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.drivers.spots import answering
from umbra_awl.core.hotspot.logs.reading import LogReading, read_log_bytes
from umbra_awl.core.hotspot.logs.rules import LogRules, rules_with
from umbra_awl.core.hotspot.match.fields import Values
from umbra_awl.core.hotspot.match.form_error import FormError
from umbra_awl.core.hotspot.match.layout import (
    SettingsLayout,
    read_settings,
    shipped_layouts,
)
from umbra_awl.core.hotspot.match.says import plan_says, radio_says
from umbra_awl.core.hotspot.match.sheet import MatchRow, match_sheet
from umbra_awl.core.hotspot.seek.talk import AnswerWords, Status, Talk
from umbra_awl.core.hotspot.wifi.secrets import Secrets, page_of
from umbra_awl.core.plan.model import AccessPoint, Hotspot
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.hotspots.orders import SpotOrders
from umbra_awl.desk.hotspots.own_in_log import OwnInLog
from umbra_awl.desk.hotspots.spot_work import SpotWork
from umbra_awl.desk.runs.runner import Runner


class Spot(QObject):
    """Holds one hotspot of the plan; all that was learnt of it is of this run only, but for what is noted in the plan."""

    changed = pyqtSignal()

    def __init__(self, bench: Workbench, runner: Runner) -> None:
        super().__init__()
        self.own = OwnInLog(self)
        self.work = SpotWork(self)
        self.bench, self.runner = bench, runner
        self.key = ""
        self._asked = ("", "")
        """Hotspot and address that were asked, and answered: only after that a password goes there."""
        self.password = ""
        self._words: dict[str, AnswerWords | None] = {}
        """In which words the page at an address answered, where they are a driver's."""
        self.status: Status | None = None
        self.settings = ""
        self.layout: SettingsLayout = shipped_layouts()[0]
        self.source = ""
        self.log: LogReading | None = None
        self.fault = self.said = ""
        self.running = self.searching = False
        self.wifi_laid = False
        self.orders = SpotOrders(self)
        for signal in (bench.plan_changed, bench.document_changed):
            signal.connect(self._follow)
        bench.selection_changed.connect(self._follow_selection)
        for signal in (bench.results_changed, bench.radio_changed, runner.changed):
            signal.connect(self.changed)
        self._follow()

    def _follow(self) -> None:
        hotspots = self.bench.plan.hotspots
        if not any(item.key == self.key for item in hotspots):
            self.choose(hotspots[0].key if hotspots else "")
        else:
            self.changed.emit()

    def _follow_selection(self) -> None:
        """Whoever goes to a hotspot, or to a service of one, has it in hand."""
        selected = self.bench.selection.service
        for hotspot in self.bench.plan.hotspots:
            access = self.bench.index.access.get(hotspot.access)
            if access is not None and any(item.key == selected for item in access.services):
                self.choose(hotspot.key)

    def choose(self, key: str) -> None:
        """Take another hotspot in hand."""
        if key != self.key:
            self.orders.forget()
            self.key = key
            self.status = self.log = None
            self._asked = ("", "")
            self.settings = self.source = self.fault = self.said = self.password = ""
            self.wifi_laid = False
        self.changed.emit()

    @property
    def hotspot(self) -> Hotspot | None:
        """The hotspot in the plan."""
        return next((item for item in self.bench.plan.hotspots if item.key == self.key), None)

    @property
    def access(self) -> AccessPoint | None:
        """Its access point."""
        hotspot = self.hotspot
        return self.bench.index.access.get(hotspot.access) if hotspot is not None else None

    @property
    def address(self) -> str:
        """Where it answers."""
        return self.runner.ways.spot(self.key) if self.key else ""

    def set_address(self, address: str) -> None:
        """Remember where it is, and ask there."""
        self.runner.ways.set_spot(self.key, address.strip())
        self.status = self.log = None
        self._asked = ("", "")
        self.settings = self.source = self.password = ""
        self.changed.emit()

    @property
    def held(self) -> Values:
        """What the hotspot's settings say, by the layout in force; empty where they were not read."""
        if not self.settings:
            return {}
        try:
            made = read_settings(self.settings, self.layout)
        except FormError:
            return {}
        if self.status is not None:
            made["password"] = "default" if self.status.default_password else "set"
        return made

    def radio_values(self) -> tuple[Values, str]:
        """What the chosen radio holds for this hotspot, and how that is known: read from it, or as it would be written."""
        access, held = self.access, self.runner.held
        if access is None:
            return {}, ""
        services = {service.key for service in access.services}
        routes = [route.key for route in self.bench.plan.routes if route.service in services]
        if held is not None:
            return radio_says(held.memory, access, routes), "as read from it"
        fit = self.bench.worked.results.fits.get(self.bench.radio_key)
        return (radio_says(fit.memory, access, routes), "as the plan would write it") if fit is not None else ({}, "")

    def rows(self) -> tuple[MatchRow, ...]:
        """The sheet of what must match."""
        hotspot, access = self.hotspot, self.access
        if hotspot is None or access is None:
            return ()
        return match_sheet(plan_says(self.bench.index, access, hotspot), self.radio_values()[0], self.held)

    @property
    def words_here(self) -> AnswerWords | None:
        """In which words the page at its address answered; None for our own."""
        return self._words.get(self.address)

    @property
    def answered_here(self) -> bool:
        """Whether this hotspot was asked at its present address, and answered."""
        return self._asked == (self.key, self.address)

    def talk(self) -> Talk:
        """The hotspot by its address, to be asked: that needs no password, and whoever answers there is given none."""
        return Talk(self.address, words=self.words_here)

    @property
    def secrets(self) -> Secrets:
        """Where passwords are kept."""
        return self.bench.secrets

    @property
    def page_secret(self) -> str:
        """Under which name its page's password is kept: of this device, address and plan; empty before it answered."""
        document, answered = self.bench.document, self.status.name if self.status is not None else ""
        return page_of(str(document.real), self.key, self.address, answered) if document is not None else ""

    def ask(self) -> None:
        """Ask for status, settings and log."""
        talk, rules, place, today = self.talk(), self.rules, (self.key, self.address), self.bench.clock.today()

        def work() -> tuple[AnswerWords | None, tuple[Status, str, LogReading]]:
            spoken = answering(talk)
            return spoken.words, (spoken.status(), spoken.settings(), read_log_bytes(spoken.log(), rules, today))

        def done(found: tuple[AnswerWords | None, tuple[Status, str, LogReading]]) -> None:
            self._words[talk.address] = found[0]
            self.take(found[1])
            self._asked = place

        self.work.run(work, done)

    @property
    def rules(self) -> LogRules:
        """The rules that logs are read by: those that ship, behind own ones."""
        return rules_with(self.bench.profiles.folder / "rules")

    def take(self, found: tuple[Status, str, LogReading]) -> None:
        """Take what it answered."""
        self.status, self.settings, self.log = found
        self.source = "its page"
        self.layout = shipped_layouts()[0]
        self.said = f"Asked at {self.bench.clock.local():%H:%M:%S}."
