"""An evening in figures: what a radio would miss and why, how long one waits, and which single change helps most."""

from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QComboBox, QFrame, QProgressBar, QPushButton, QWidget

from umbra_awl.core.routes.lists import members_of_all
from umbra_awl.core.simulation.evenings import Evenings, many_evenings
from umbra_awl.core.simulation.helps import EveningGround, Helped, what_helps
from umbra_awl.core.simulation.receiver import StanceKind
from umbra_awl.core.simulation.setting import ListeningChoice, NoSetting, make_setting
from umbra_awl.desk.asked import ask_button
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.onair.assumed_table import AssumedTable
from umbra_awl.desk.onair.evening_picture import EveningPicture
from umbra_awl.desk.onair.evening_run import EveningRun
from umbra_awl.desk.onair.helped_table import HelpedTable
from umbra_awl.desk.onair.traffic_sheet import TrafficTable
from umbra_awl.desk.parts.menus import lead
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.tabs import Tabs, chosen_of
from umbra_awl.desk.parts.widgets import button, card, column, rows_of, words
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.asked.figure import Figure

EVENINGS, TRIED = 1_000, 120
_STANCES: dict[StanceKind, str] = {"channel": "One channel", "watch": "Two channels", "scan": "Scan"}
_TOLD = "Nothing played yet. Choose what the radio listens to, then play some evenings: a thousand take seconds."


class EveningPage(QWidget):
    """The canvas page; `side` has what helps, what is assumed, and how much others talk."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self.run = EveningRun(self)
        self.bench, self._theme = bench, theme
        self.stance: StanceKind = "channel"
        self.result: Evenings | None = None
        self.kept: Evenings | None = None
        self.running = False
        self.stop = False
        self.basis: object = None
        self.choice: ListeningChoice | None = None
        outer = column(self, 8)
        outer.addWidget(RadioTabs(bench))
        outer.addWidget(self._ask_card())
        self.picture = EveningPicture(theme)
        outer.addWidget(self.picture, 1)
        self.side = QWidget()
        self._place_side()
        bench.results_changed.connect(self._plan_moved)
        bench.radio_changed.connect(self._plan_moved)
        self._plan_moved()

    def _ask_card(self) -> QFrame:
        frame = card()
        inner = column(frame, 6, 10)
        self.stances: dict[StanceKind, QPushButton] = {
            key: button(text, partial(self._stand, key), "segment") for key, text in _STANCES.items()
        }
        self.what = QComboBox()
        self.what.setAccessibleName("Zone or scan list")
        self.what.setMinimumWidth(self._theme.px(190))
        self.what.currentIndexChanged.connect(lambda _at: self._fill_first())
        self.first = QComboBox()
        self.first.setAccessibleName("Channel that the knob is on")
        self.first.setMinimumWidth(self._theme.px(170))
        inner.addLayout(rows_of(lead("Listens to"), *self.stances.values(), self.what, self.first, gap=6))
        self.told = words(_TOLD, wrap=True)
        inner.addWidget(self.told)
        inner.addLayout(rows_of(ask_button(self.bench)))
        self.progress = QProgressBar()
        self.progress.setMaximumWidth(self._theme.px(140))
        self.progress.setTextVisible(False)
        self.progress.hide()
        self.keep = button("Keep to compare", self._keep, tip="Later figures are shown beside these")
        self.helps = button("What helps?", self.look_for_help, tip="Tries single changes on the same evenings")
        self.go = button("Play 1,000 evenings", self.play, "main")
        inner.addLayout(rows_of(self.go, self.helps, self.keep, self.progress, gap=6))
        return frame

    def _place_side(self) -> None:
        beside = column(self.side, 6)
        self.tabs = Tabs(("What helps", "Assumed", "Traffic"), self.show_side)
        beside.addWidget(self.tabs)
        self.helping = HelpedTable(self._theme)
        self.helping.wanted.connect(self.do_change)
        self.assumed = AssumedTable(self.bench, self._theme)
        self.traffic = TrafficTable(self.bench, self._theme)
        for part in (self.helping, self.assumed, self.traffic):
            beside.addWidget(part, 1)
        self.show_side(0)

    def show_side(self, at: int) -> None:
        for number, part in enumerate((self.helping, self.assumed, self.traffic)):
            part.setVisible(number == at)
        self.tabs.mark(at)

    # choosing

    def _stand(self, stance: StanceKind) -> None:
        self.stance = stance
        self._plan_moved()

    def _plan_moved(self) -> None:
        """Another plan or radio: what can be chosen changes, and the figures shown are of another plan."""
        chosen_of(self.stances, self.stance)
        lists = self._lists()
        chosen = self.what.currentData()
        self.what.blockSignals(True)
        self.what.clear()
        for key, name, _routes in lists:
            self.what.addItem(name, key)
        self.what.setCurrentIndex(max(0, self.what.findData(chosen)))
        self.what.blockSignals(False)
        self._fill_first()
        self.show_state()

    def _lists(self) -> list[tuple[str, str, tuple[str, ...]]]:
        """Zones, and for a scan the scan lists, that the radio holds: key, name, routes on it."""
        bench, found = self.bench, self.bench.fit
        if found is None:
            return []
        on_it = {channel.number: channel.route for channel in found.memory.channels}
        zones = [
            (
                f"zone {item.number}",
                f"Zone {item.name}",
                tuple(on_it[number] for number in item.members if number in on_it),
            )
            for item in found.memory.zones
        ]
        scans: list[tuple[str, str, tuple[str, ...]]] = []
        if self.stance == "scan":
            members = members_of_all(bench.index, bench.plan.scans)
            carried = set(on_it.values())
            scans = [
                (
                    f"scan {item.key}",
                    f"Scan list {item.name}",
                    tuple(key for key in members[item.key] if key in carried),
                )
                for item in bench.plan.scans
            ]
        return [item for item in (*scans, *zones) if item[2]]

    def _chosen_routes(self) -> tuple[str, ...]:
        wanted = self.what.currentData()
        routes = next((routes for key, _name, routes in self._lists() if key == wanted), ())
        return tuple(key for key in routes if key in self.bench.index.routes)

    def _fill_first(self) -> None:
        """The channels the knob may be on: the first is where it stands."""
        chosen = self.first.currentData()
        self.first.clear()
        found = self.bench.fit
        names = {channel.route: channel.name for channel in found.memory.channels} if found is not None else {}
        for key in self._chosen_routes():
            self.first.addItem(names.get(key, key), key)
        self.first.setCurrentIndex(max(0, self.first.findData(chosen)))
        self.first.setVisible(self.stance != "scan")

    def make_choice(self) -> ListeningChoice | None:
        """What is asked for; None where there is nothing to listen to."""
        routes = self._chosen_routes()
        if not routes:
            return None
        first = self.first.currentData()
        if self.stance != "scan" and first in routes:
            routes = (first, *(key for key in routes if key != first))
        wanted = str(self.what.currentData() or "")
        scan = wanted.removeprefix("scan ") if wanted.startswith("scan ") else ""
        return ListeningChoice(self.bench.radio_key, routes, self.stance, scan, sat_down=True)

    # playing

    def play(self) -> None:
        """Play the evenings, or stop playing them."""
        if self.running:
            self.stop = True
            return
        choice = self.run.begin()
        if choice is None:
            return
        index, fits = self.bench.index, self.bench.worked.results.fits
        try:
            setting = make_setting(index, fits, choice)
        except NoSetting as error:
            self.run.end(str(error))
            return
        self.bench.jobs.start(
            lambda: many_evenings(setting, choice.routes, EVENINGS, 1, self.run.told), self.run.take, self.run.failed
        )

    def look_for_help(self) -> None:
        """Try single changes."""
        choice = None if self.running else self.run.begin()
        if choice is None:
            return
        bench = self.bench
        profile = bench.profiles[bench.index.radios[choice.radio].profile]
        ground = EveningGround(bench.index, bench.worked.results.fits, profile)
        bench.jobs.start(
            lambda: what_helps(ground, choice, TRIED, 1, self.run.told), self.run.take_help, self.run.failed
        )

    def _keep(self) -> None:
        self.kept = None if self.kept is not None else self.result
        self.show_state()

    # showing

    def show_state(self) -> None:
        fresh = self.result is not None and self.bench.worked.holds(self.basis)  # type: ignore[arg-type]
        self.progress.setVisible(self.running)
        self.go.setText("Stop" if self.running else "Play 1,000 evenings")
        self.helps.setEnabled(not self.running)
        self.keep.setEnabled(self.result is not None)
        self.keep.setText("Stop comparing" if self.kept is not None else "Keep to compare")
        self.told.setText(self._summary(fresh=fresh))
        self.picture.show_result(self.result, self.kept, stale=not fresh)

    def figures(self) -> "list[Figure]":
        """The calls that would be missed."""
        from umbra_awl.core.asked.counted import missed_figure

        return [missed_figure(self.result)] if self.result is not None else []

    def _summary(self, *, fresh: bool) -> str:
        result = self.result
        if self.running:
            return "Playing …"
        if result is None:
            return _TOLD
        round_ = f" One scan round takes {result.round_s:.1f} s." if result.round_s else ""
        deaf = f" Locked out by a deaf hotspot {result.deaf.words()}." if result.deaf.value else ""
        stale = "" if fresh else " The plan or what is taken for granted has changed since: play again."
        half = f"within {result.half_s:.0f} s" if result.half_s >= 0.5 else "at once"
        return (
            f"Of the calls to me I miss {result.missed.words()}. Somebody is in the way {result.blocked.words()} of the time; "
            f"half get in {half}, nine in ten within {result.most_s:.0f} s.{deaf}{round_}{stale}"
        )

    def do_change(self, item: Helped) -> None:
        """Make a change in the plan, or listen that way; the figures before it are kept to compare."""
        change = item.change
        self.kept = item.before
        if change.edit is not None:
            self.bench.do_told(change.edit, "Play again to see the figures after it beside those before.")
        elif change.choice is not None:
            self._stand(change.choice.stance)
            self.first.setCurrentIndex(max(0, self.first.findData(change.choice.routes[0])))
        self.show_state()

    def take_focus(self) -> None:
        """Give the keyboard to what begins."""
        self.go.setFocus()
