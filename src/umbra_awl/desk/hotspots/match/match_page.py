"""What must match: read from the hotspot or from files, compared row by row, written as settings in its own order."""

from collections.abc import Iterator
from functools import partial

from PyQt6.QtWidgets import QFrame, QWidget

from umbra_awl.core.hotspot.match.says import plan_says, startup_text
from umbra_awl.core.hotspot.match.sheet import tally
from umbra_awl.core.hotspot.match.take import take_value
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.parts import HOTSPOTS
from umbra_awl.desk.hotspots.ask_secret import ask_secret
from umbra_awl.desk.hotspots.match.match_picture import MatchPicture
from umbra_awl.desk.hotspots.match.settings_file import Choice, FileInHand
from umbra_awl.desk.hotspots.seen import Seen
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.hotspots.step_thread import StepThread, Stop
from umbra_awl.desk.parts.menus import lead, menu_button
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.widgets import button, card, column, row, rows_of, scrolled, words
from umbra_awl.desk.theme.theme import Theme

_ORDER = (
    ("here", "Apply what the plan says", "“applied, restarting”"),
    ("hotspot", "It restarts: about a minute", "its state says up"),
    ("here", "Only then the start-up link", "“linked” on its page"),
)
_MEANT = {"Sends": "tx_hz", "Its settings": "tx_hz", "Logs in as": "id", "ID": "id", "Duplex": "duplex"}
"""How the fields of a hotspot's findings are called in the sheet."""


class MatchPage(QWidget):
    """The canvas page; `side` has the order of setting it, the files and the layout."""

    def __init__(self, spot: Spot, theme: Theme) -> None:
        super().__init__()
        self.file = FileInHand(self)
        self.spot = spot
        outer = column(self, 8)
        outer.addWidget(RadioTabs(spot.bench))
        outer.addWidget(self._head_card())
        self.picture = MatchPicture(theme)
        self.picture.chosen.connect(lambda _at: self._show_row())
        self.picture.acted.connect(lambda _at: self.take_row())
        outer.addWidget(scrolled(self.picture), 1)
        self.side = QWidget()
        beside = column(self.side, 8)
        beside.addWidget(words("The order of it", "title"))
        self.order = StepThread(theme, "The order of setting a hotspot", 56)
        beside.addWidget(self.order)
        self.start = menu_button("Links at start to", self._starts)
        self.link = button("Link now", self.link_now, tip="Refused until it is up and logged in")
        beside.addLayout(rows_of(lead("At start"), self.start, self.link, gap=6))
        self.typed = button("Type its page's password …", self.ask_page, tip="The one that it has now")
        self.key = button("Give its page a password …", self.ask_key, tip="Another one than it came with")
        self.secret = button("Give it the master's password …", self.ask_master)
        beside.addLayout(rows_of(self.typed, self.key, self.secret, gap=6))
        beside.addWidget(words("Files in its own form", "title"))
        self.layout_ = menu_button("Settings layout", self.file.layouts)
        beside.addLayout(rows_of(lead("Layout"), self.layout_, gap=6))
        self.open = button("Open its file …", self.file.ask_open, tip="INI, JSON, key = value, key: value")
        self.save = button("Save the plan's settings into it …", self.file.ask_save)
        self.make = button("Make a layout from a file …", self.file.ask_make)
        beside.addLayout(rows_of(self.open, self.save, self.make, gap=6))
        self.tried = words("", "second", wrap=True)
        beside.addWidget(self.tried)
        beside.addStretch(1)
        seen = Seen(self, self.refresh)
        spot.changed.connect(seen.changed)
        spot.bench.ids_changed.connect(seen.changed)

    def _head_card(self) -> QFrame:
        frame = card()
        inner = column(frame, 4, 10)
        line = row()
        self.told = words("", "title", wrap=True)
        self.main = button("Set the hotspot as planned", self.apply, "main")
        self.follow = button(
            "Let the plan follow", self.take_row, tip="The plan takes what the hotspot says in the chosen row"
        )
        line.addWidget(self.told, 1)
        line.addWidget(self.follow)
        line.addWidget(self.main)
        inner.addLayout(line)
        self.from_ = words("", "second", wrap=True)
        inner.addWidget(self.from_)
        return frame

    def take_focus(self) -> None:
        """Give the keyboard to the sheet."""
        self.picture.setFocus()

    def reach(self, field: str) -> bool:
        """The sheet, at a row by its words; or the act."""
        if field in {"act", "sheet"}:
            self.picture.setFocus()
            return True
        key = _MEANT.get(field, field)
        at = next((at for at, item in enumerate(self.picture.rows) if key in {item.field.words, item.field.key}), -1)
        if at >= 0:
            self.picture.go(at)
            self.picture.setFocus()
        return at >= 0

    def refresh(self) -> None:
        """Show the sheet."""
        spot = self.spot
        rows = spot.rows()
        self.picture.show_rows(rows, ids_shown=spot.bench.ids_shown)
        self.told.setText(f"{tally(rows)}.")
        _values, how = spot.radio_values()
        radio = spot.bench.radio
        told = f"{radio.name}: {how}. " if radio is not None and how else "No radio is chosen. "
        self.from_.setText(told + (f"Hotspot: from {spot.source}." if spot.settings else "Hotspot: not read yet."))
        self.layout_.setText(f"{spot.layout.name}")
        status = spot.status
        set_ = any(item.to_hotspot == "joined" for item in rows) and not any(
            item.to_hotspot == "cut" for item in rows if item.field.kind != "secret"
        )
        up = set_ and status is not None and status.up
        done = (set_, up, up and status is not None and bool(status.linked))
        upcoming = done.index(False) if False in done else -1
        self.order.show_stops(
            [
                Stop(hands, what, f"see: {sees}", "done" if done[at] else "next" if at == upcoming else "later")
                for at, (hands, what, sees) in enumerate(_ORDER)
            ]
        )
        hotspot = spot.hotspot
        found = next(
            (d for d in spot.bench.plan.destinations if hotspot is not None and d.key == hotspot.startup), None
        )
        self.start.setText(found.name if found is not None else "nothing")
        self.main.setEnabled(not spot.running)
        self.link.setEnabled(not spot.running and found is not None)
        self._show_row()

    def _show_row(self) -> None:
        rows = self.picture.rows
        chosen = rows[self.picture.at] if rows else None
        self.follow.setEnabled(
            chosen is not None and chosen.to_hotspot != "joined" and chosen.field.key in self.spot.held
        )

    def take_row(self) -> None:
        """Let the plan say what the hotspot says in the chosen row."""
        spot, rows = self.spot, self.picture.rows
        hotspot, access = spot.hotspot, spot.access
        if not rows or hotspot is None or access is None:
            return
        key = rows[self.picture.at].field.key
        if key not in spot.held:
            spot.bench.say("The hotspot says nothing of that yet. Ask it, or open its file.")
            return
        edit = take_value(spot.bench.index, access, hotspot, key, spot.held[key])
        if edit is None:
            spot.bench.say(
                "The plan keeps that elsewhere, or the value is none. Change it in the hotspot instead.", "stop"
            )
        elif spot.bench.do(edit):
            spot.bench.say(f"{edit.sentence}. Ctrl Z takes it back.")

    def apply(self) -> None:
        """Set the hotspot as the plan says."""
        self.spot.orders.apply()

    def link_now(self) -> None:
        """Have it link to what the plan says it links to at start."""
        hotspot = self.spot.hotspot
        found = next(
            (d for d in self.spot.bench.plan.destinations if hotspot is not None and d.key == hotspot.startup), None
        )
        if found is not None:
            self.spot.orders.link(startup_text(found))

    def ask_page(self) -> None:
        """Ask for the password that its page has, for this run."""
        spot = self.spot
        if not spot.bench.reaches_out():
            return
        lead_ = "Setting it needs the password of its page."
        told = ask_secret(self, spot.secrets, spot.page_secret, "The password of its page", lead_)
        if told:
            spot.password = told
            spot.changed.emit()

    def ask_key(self) -> None:
        """Ask for the page's new password and give it."""
        spot = self.spot
        if not spot.bench.reaches_out():
            return
        told = ask_secret(self, spot.secrets, spot.page_secret, "A password for its page", "Not the one it came with.")
        if told:
            spot.orders.give_key(told)

    def ask_master(self) -> None:
        """Ask for the master's password and hand it over."""
        spot = self.spot
        if not spot.bench.reaches_out():
            return
        access, hotspot = spot.access, spot.hotspot
        if access is None or hotspot is None:
            return
        master = plan_says(spot.bench.index, access, hotspot).get("master", "")
        lead = f"The one you set at {master or 'that master'}; each master has its own."
        told = ask_secret(self, spot.secrets, f"master:{master}", "The master's password", lead)
        if told:
            spot.orders.give_secret(told)

    def _starts(self) -> Iterator[Choice]:
        """What it may link to at start: the plan's destinations on its networks."""
        spot = self.spot
        access, hotspot = spot.access, spot.hotspot
        if access is None or hotspot is None:
            return
        networks = {getattr(service.air, "network", "") for service in access.services}
        yield "nothing", partial(self._start_with, "")
        for item in spot.bench.plan.destinations:
            if item.network in networks and item.kind in {"group", "reflector", "room"}:
                yield item.name, partial(self._start_with, item.key)

    def _start_with(self, key: str) -> None:
        hotspot = self.spot.hotspot
        if hotspot is not None:
            self.spot.bench.do(
                set_fields(HOTSPOTS, hotspot.key, "Choose what the hotspot links to at start", startup=key)
            )
