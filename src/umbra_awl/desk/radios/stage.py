"""The Radios stage: each owned radio's memory as its owner will see it, its gauges, and what did not fit as planned."""

from collections.abc import Iterator
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QListWidget, QListWidgetItem, QMenu, QPushButton, QScrollArea, QWidget

from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.fit.memory import Channel
from umbra_awl.core.fit.profile import Profile
from umbra_awl.core.fit.report import KINDS
from umbra_awl.core.plan.edits import Edit, add_item, drop_item, fresh_key, set_fields
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.routes.crossing import KINDS_OF
from umbra_awl.desk.parts.label_card import Act, Choice, Commit, Field, LabelCard
from umbra_awl.desk.parts.later import Later
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.widgets import column, row, words
from umbra_awl.desk.parts.wrap import WrapList
from umbra_awl.desk.radios.gauges import Gauges
from umbra_awl.desk.radios.knob import KnobView
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Selection, Workbench

MOST_LINES = 300
_TOUCH_ORDER = {"disconnect": 0, "echo": 1, "local": 2, "dial": 3}
_KIND_WORDS = {
    "left out": "Left out",
    "receive-only": "Receive-only",
    "split": "Split",
    "told apart": "Told apart",
    "shortened": "Shortened",
    "made duplex": "Made duplex, offset 0",
    "other mode": "Of another mode",
}


class RadiosStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        self._theme = theme
        self._filling = False
        outer = column(self, 8)
        head = row(gap=4)
        outer.addLayout(head)
        self._place_head(head)
        body = row(gap=12)
        self._zones = QListWidget()
        self._zones.setAccessibleName("Zones of the radio")
        self._zones.setFixedWidth(theme.px(154))
        self._zones.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._zones.currentRowChanged.connect(lambda _row: self._show_zone())
        body.addWidget(self._zones)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        self.knob = KnobView(theme)
        self.knob.chosen.connect(self._select)
        scroll.setWidget(self.knob)
        body.addWidget(scroll, 1)
        outer.addLayout(body, 1)
        self.gauges = Gauges(theme)
        outer.addWidget(self.gauges)
        self.side = self._side()
        for signal in (bench.results_changed, bench.radio_changed, bench.plan_changed):
            signal.connect(self.refresh)
        bench.selection_changed.connect(self._follow)
        bench.radio_changed.connect(self._follow)
        self.refresh()
        self._follow()

    def _side(self) -> QWidget:
        side = QWidget()
        outer = column(side, 6)
        self._title = words("", "title")
        outer.addWidget(self._title)
        self._card = LabelCard(84)
        outer.addWidget(self._card)
        self._report_title = words("How the plan fits", "title")
        outer.addWidget(self._report_title)
        self._report = WrapList()
        self._report.setAccessibleName("What was left out, held back, split or shortened, and why")
        self._report.itemClicked.connect(self._open_line)
        self._report.itemActivated.connect(self._open_line)
        outer.addWidget(self._report, 1)
        return side

    def take_focus(self) -> None:
        """Give the keyboard to the knob."""
        self.knob.setFocus()

    def _profile(self) -> Profile | None:
        radio = self._bench.radio
        return self._bench.profiles.get(radio.profile) if radio else None

    def refresh(self) -> None:
        """Show the chosen radio."""
        fit, profile, radio = self._bench.fit, self._profile(), self._bench.radio
        if radio is None or profile is None or fit is None:
            self._show_nothing()
            return
        self._title.setText(radio.name)
        self._card.show_fields(self._fields(radio, profile), [Act("Remove", self.remove)])
        self._fill_zones(fit)
        self.gauges.show_gauges(fit.report.gauges)
        self._fill_report(fit)

    def _place_head(self, head: QHBoxLayout) -> None:
        head.addWidget(words("Radios", "title"))
        head.addWidget(RadioTabs(self._bench))
        add = QPushButton("+ Radio")
        menu = QMenu(add)
        for profile in self._bench.profiles.values():
            action = menu.addAction(f"{profile.name}: {profile.summary}")
            if action is not None:
                action.triggered.connect(partial(self._add, profile))
        add.setMenu(menu)
        head.addWidget(add)
        head.addStretch(1)

    def _show_nothing(self) -> None:
        waiting = self._bench.radio is not None and self._profile() is not None
        self._title.setText("" if waiting else "No radio yet")
        note = "Add a radio you own, and the plan is fitted to it: names cut to its display, inside its limits."
        self._card.show_fields((), note="Fitting …" if waiting else note)
        self._zones.clear()
        self._report.clear()
        self.gauges.show_gauges(())
        self.knob.show_zone("", (), 16, frozenset())

    def _add(self, profile: Profile, _checked: bool = False) -> None:
        radios = self._bench.plan.radios
        key = fresh_key(profile.key, (radio.key for radio in radios))
        number = sum(radio.profile == profile.key for radio in radios) + 1
        name = profile.name if number == 1 else f"{profile.name} ({number})"
        if self._bench.do(add_item("radios", OwnedRadio(key, name, profile.key), f"Add the radio {name}")):
            self._bench.choose_radio(key)

    def _fields(self, radio: OwnedRadio, profile: Profile) -> list[Field]:
        people = [
            Choice(
                item.call or item.name or item.key,
                partial(self._bench.do, self._for_whom(radio, item.key)),
                item.key == radio.identity,
            )
            for item in self._bench.plan.station.identities
        ]
        identity = self._bench.index.identity_of(radio)
        return [
            Field("Name", radio.name, commit=self._rename(radio), text=radio.name),
            Field("Profile", profile.name, tip=profile.summary),
            Field("For whom", identity.call if identity else "nobody", True, choices=people),
            Field("Display", f"{profile.display.length} characters{', capitals' if profile.display.upper else ''}"),
            *self._one_touch(radio, profile),
        ]

    def _one_touch(self, radio: OwnedRadio, profile: Profile) -> list[Field]:
        """What the one-touch key calls: a disconnect, the echo test, whatever DMR destination."""
        if not profile.extras.one_touch:
            return []
        there = self._bench.index.destinations

        def choices() -> Iterator[Choice]:
            yield Choice("nothing", partial(self._bench.do, self._touch(radio, "", "nothing")), not radio.one_touch)
            suits = [item for item in there.values() if item.kind in KINDS_OF["dmr"] and self._is_dmr(item.network)]
            for item in sorted(suits, key=lambda one: _TOUCH_ORDER.get(one.kind, 9)):
                edit = self._touch(radio, item.key, item.name)
                yield Choice(item.name, partial(self._bench.do, edit), item.key == radio.one_touch)

        now = there.get(radio.one_touch)
        return [
            Field(
                "One-touch",
                now.name if now is not None else "nothing",
                choices=Later(choices),
                tip="The one-touch call key",
            )
        ]

    def _is_dmr(self, network: str) -> bool:
        found = self._bench.index.networks.get(network)
        return found is not None and found.mode == "dmr"

    @staticmethod
    def _touch(radio: OwnedRadio, key: str, name: str) -> Edit:
        return set_fields("radios", radio.key, f"One-touch key of {radio.name}: {name}", one_touch=key)

    @staticmethod
    def _for_whom(radio: OwnedRadio, key: str) -> Edit:
        return set_fields("radios", radio.key, f"Program {radio.name} for {key}", identity=key)

    def _rename(self, radio: OwnedRadio) -> Commit:
        def commit(text: str) -> str:
            if not text:
                return "A radio needs a name."
            self._bench.do(set_fields("radios", radio.key, f"Call {radio.name} {text}", name=text))
            return ""

        return commit

    def _fill_zones(self, fit: Fit) -> None:
        at = max(self._zones.currentRow(), 0)
        self._filling = True
        self._zones.clear()
        self._zones.addItems([f"{zone.name}  ({len(zone.members)})" for zone in fit.memory.zones])
        self._filling = False
        self._zones.setCurrentRow(min(at, self._zones.count() - 1))
        self._show_zone()

    def _show_zone(self) -> None:
        fit, profile, at = self._bench.fit, self._profile(), self._zones.currentRow()
        if self._filling or fit is None or profile is None:
            return
        if not 0 <= at < len(fit.memory.zones):
            self.knob.show_zone("no zone", (), profile.knob_positions, frozenset())
            return
        zone = fit.memory.zones[at]
        channels = tuple(fit.memory.channels[number - 1] for number in zone.members)
        self.knob.show_zone(zone.name, channels, profile.knob_positions, self._routes_with_findings())

    def _routes_with_findings(self) -> frozenset[str]:
        flagged = {(item.target.kind, item.target.key) for item in self._bench.results.findings}
        routes = self._bench.index.routes.values()
        return frozenset(
            route.key for route in routes if ("route", route.key) in flagged or ("service", route.service) in flagged
        )

    def _select(self, _position: int) -> None:
        channel = self.knob.channel()
        if channel is not None:
            self._select_route(channel)

    def _select_route(self, channel: Channel) -> None:
        route = self._bench.index.routes.get(channel.route)
        if route is not None:
            self._bench.select(Selection(route.service, route.destination, route.slot))

    def _follow(self) -> None:
        """Turn to the selected route, in the first zone that has it."""
        fit, route = self._bench.fit, self._bench.route
        channel = fit.channel_of(route.key) if fit is not None and route is not None else None
        shown = self.knob.channel()
        if fit is None or channel is None or (shown is not None and shown.route == channel.route):
            return
        for at, zone in enumerate(fit.memory.zones):
            if channel.number in zone.members:
                self._zones.setCurrentRow(at)
                self.knob.position = zone.members.index(channel.number)
                self._show_zone()
                return

    def _fill_report(self, fit: Fit) -> None:
        self._report.clear()
        for kind in KINDS:
            found = fit.report.of_kind(kind)
            if found:
                self._report.addItem(self._head_item(f"{_KIND_WORDS[kind]}: {len(found)}"))
            for line in found[:MOST_LINES]:
                item = QListWidgetItem(f"{line.title} – {line.reason}")
                item.setData(Qt.ItemDataRole.UserRole, line.key)
                self._report.addItem(item)
            if len(found) > MOST_LINES:
                self._report.addItem(f"… and {len(found) - MOST_LINES} more")
        if not self._report.count():
            self._report.addItem("Everything fits as planned.")

    def _head_item(self, text: str) -> QListWidgetItem:
        item = QListWidgetItem(text)
        item.setFont(self._theme.font(13, weight=600))
        item.setFlags(Qt.ItemFlag.ItemIsEnabled)
        return item

    def _open_line(self, item: QListWidgetItem) -> None:
        route = self._bench.index.routes.get(item.data(Qt.ItemDataRole.UserRole) or "")
        if route is not None:
            self._bench.select(Selection(route.service, route.destination, route.slot))

    def remove(self) -> None:
        """Take the chosen radio out of the plan."""
        radio = self._bench.radio
        if radio is not None:
            self._bench.do(drop_item("radios", radio.key, f"Remove the radio {radio.name}"))
