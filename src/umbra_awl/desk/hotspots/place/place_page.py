"""The frequency ruler: a score for every channel of the band, its reasons, the best places, and what was heard there."""

from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QFrame, QWidget

from umbra_awl.core.facts.bands import Band
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.hotspot.place.after import asked_for, in_band, place_of
from umbra_awl.core.hotspot.place.ruler import Reason, RulerPlace, ruler
from umbra_awl.core.hotspot.place.seek import STATE_WORDS, FoundPlaces, pair_words, seek_places, verdict
from umbra_awl.core.trace.keyup import trace
from umbra_awl.desk.asked import ask_button
from umbra_awl.desk.hotspots.place.listen_panel import ListenPanel
from umbra_awl.desk.hotspots.place.place_taking import PlaceTaking
from umbra_awl.desk.hotspots.place.ruler_picture import RulerPicture
from umbra_awl.desk.hotspots.place.use_sheet import UseSheet
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.parts.menus import lead, menu_button
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import Whole, button, card, column, restyle, row, rows_of, words
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.asked.figure import Figure

_STATE_TONES = {"good": "ok", "usable": "ok", "doubtful": "brass", "occupied": "stop", "forbidden": "stop"}


class FrequencyPage(QWidget):
    """The canvas page; `side` has the best places and what was heard."""

    def __init__(self, spot: Spot, theme: Theme, directory: Directory) -> None:
        super().__init__()
        self.taking = PlaceTaking(self)
        self.spot, self._directory = spot, directory
        self._trip, self._band = "", ""
        self.to_tell = self.counted = ""
        self.counted_of: tuple[object, ...] = ()
        self._shown_of: tuple[str, ...] = ()
        self.found: FoundPlaces | None = None
        self._best: list[RulerPlace] = []
        outer = column(self, 8)
        self.where = menu_button("Where the hotspot stands", self._places)
        self.band = menu_button("Band", self._bands)
        self.uses = button("Band plan …", self.ask_uses, tip="What stretches are for; yours to change")
        outer.addLayout(rows_of(lead("Where"), self.where, lead("Band"), self.band, self.uses, gap=6))
        self.picture = RulerPicture(theme)
        self.picture.chosen.connect(self._show_reasons)
        outer.addWidget(self.picture, 3)
        outer.addWidget(self._reason_card(theme), 2)
        self.side = QWidget()
        beside = column(self.side, 6)
        beside.addWidget(words("Best places", "title"))
        self.best = RowsTable(theme, "Best places")
        self.best.chosen.connect(self._choose_best)
        beside.addWidget(self.best, 1)
        self.listen = ListenPanel(spot, theme)
        beside.addWidget(self.listen)
        self._filled = WhenChanged(self, self._parts, self._reckon)
        spot.changed.connect(self._filled.check)
        spot.bench.results_changed.connect(self.taking.tell)

    def _reason_card(self, theme: Theme) -> QFrame:
        frame = card()
        inner = column(frame, 4, 10)
        line = row()
        self.head = words("", "title")
        self.verdict = words("", "title", wrap=True)
        self.take = button("", self.taking.take_it, "main")
        line.addWidget(self.head)
        line.addStretch(1)
        line.addWidget(ask_button(self.spot.bench))
        line.addWidget(self.take)
        inner.addLayout(line)
        inner.addWidget(self.verdict)
        self.reasons = RowsTable(theme, "Reasons for this channel")
        self.reasons.setMinimumHeight(theme.px(44))
        inner.addWidget(self.reasons, 1)
        self.change = Whole()
        inner.addWidget(self.change)
        return frame

    def _parts(self) -> tuple[object, ...]:
        plan = self.spot.bench.plan
        return (plan.access, plan.hotspots, plan.station, plan.trips, self.spot.key, self._trip, self._band)

    def take_focus(self) -> None:
        """Give the keyboard to the ruler."""
        self.picture.setFocus()

    def reach(self, field: str) -> bool:
        """The ruler, the best places, or the sheet of what was heard."""
        target = {"act": self.picture, "Receive": self.picture, "Hears": self.picture, "best": self.best}.get(field)
        if field == "listen":
            self.listen.take_focus()
            return True
        if target is not None:
            target.setFocus()
        return target is not None

    def _places(self) -> list[tuple[str, partial[None]]]:
        trips = [(f"on the trip: {item.name}", partial(self._go_to, item.key)) for item in self.spot.bench.plan.trips]
        return [("where it is noted", partial(self._go_to, "")), *trips]

    def _go_to(self, trip: str) -> None:
        self._trip = trip
        self._filled.now()

    def _bands(self) -> list[tuple[str, partial[None]]]:
        return [(band.name, partial(self._take_band, band.name)) for band in self.spot.bench.index.bands]

    def _take_band(self, name: str) -> None:
        self._band = name
        self._filled.now()

    def ask_uses(self) -> None:
        """Show what the stretches of the band are for, to be changed."""
        UseSheet(self, self.spot.bench).exec()

    def _band_wanted(self) -> Band | None:
        return next((band for band in self.spot.bench.index.bands if band.name == self._band), None)

    def _reckon(self) -> None:
        """Work the ruler out in the background."""
        spot, access = self.spot, self.spot.access
        asked = asked_for(spot.bench.index, access, spot.hotspot) if access is not None else None
        if access is None or asked is None:
            self._take_found(None)
            return
        band = self._band_wanted()
        sought = in_band(asked, band) if band is not None else asked
        plan, directory = spot.bench.plan, self._directory
        place = place_of(plan, access, self._trip)
        trip = next((item for item in plan.trips if item.key == self._trip), None)
        self.where.setText(trip.name if trip is not None else "where it is noted")
        self.band.setText(sought.band.name)

        store = directory.store
        spot.bench.jobs.latest("ruler", lambda: seek_places(plan, access, sought, store, place), self._take_found)

    def _in_hand(self) -> int:
        """The frequency in hand, in hertz, where the same hotspot and band were shown before; 0 where not."""
        of = (self.spot.key, self._band, self._trip)
        before, self._shown_of = self._shown_of, of
        return int(self.found.ruler.hz[self.picture.at]) if self.found is not None and before == of else 0

    def _take_found(self, found: FoundPlaces | None) -> None:
        held = self._in_hand()
        self.found = found
        if found is None:
            self.head.setText("This hotspot has no service in any band yet. Add one at Access.")
            self.take.hide()
            return
        hotspot = self.spot.hotspot
        now = hotspot.transmit_hz if hotspot is not None else 0
        self._best = found.best
        rows = [(pair_words(place), f"{place.score} {STATE_WORDS[place.state]}") for place in found.best]
        self.best.show_rows(("MHz", "of 100"), rows, [_STATE_TONES[place.state] for place in found.best])
        band = found.ruler.asked.band
        marks = ((now, "stands here now"),) if band.holds(now) else ()
        begin = now if band.holds(now) or not found.best else found.best[0].hz
        at = found.ruler.at(held or begin)
        self.picture.show_ruler(found.ruler, at, marks)
        self._show_reasons(self.picture.at)

    def _choose_best(self, at: int) -> None:
        if self.found is None or at >= len(self._best):
            return
        place = self._best[at]
        shift = place.tx_hz - place.hz
        if shift != self.found.ruler.asked.shift_hz:
            made = ruler(self.found.ruler.asked._replace(shift_hz=shift), self.found.ruler.users)
            self.found = self.found._replace(ruler=made)
            self.picture.show_ruler(made, made.at(place.hz))
        self.picture.go(self.found.ruler.at(place.hz))

    def _show_reasons(self, at: int) -> None:
        if self.found is None:
            return
        made = self.found.ruler
        place = made.place(at)
        self.head.setText(f"{pair_words(place)} MHz")
        hotspot = self.spot.hotspot
        self.verdict.setText(verdict(self.found, at, hotspot.transmit_hz if hotspot is not None else 0))
        restyle(self.verdict, "role", _STATE_TONES[place.state])
        reasons = sorted(made.reasons(at), key=lambda item: (not item.stop, -item.points))
        rows = [(item.name, _cost(item), item.words) for item in reasons]
        tones = ["stop" if item.stop else "brass" if item.points > 15 else "" for item in reasons]
        self.reasons.show_rows(("Question", "Costs", "Answer"), rows, tones, mono=False)
        self.take.setText("Take it")
        self.take.setVisible(True)
        here = hotspot is not None and (place.hz, place.tx_hz) == (hotspot.transmit_hz, hotspot.receive_hz)
        self.take.setEnabled(not here and place.state not in {"forbidden", "occupied"})
        told = self.taking.change_words()
        set_tip(self.take, "It stands here already." if here else told)
        self.change.setText(told)
        self.listen.show_channel(place.hz)

    def figures(self) -> "list[Figure]":
        """The score of the channel in hand."""
        from umbra_awl.core.asked.counted import place_figure

        if self.found is None:
            return []
        made, at = self.found.ruler, self.picture.at
        place = made.place(at)
        return [place_figure(made.reasons(at), place.score, f"{format_mhz(place.hz)} MHz", made.asked.shift_hz)]

    def trace_words(self) -> str:
        """What the trace says of the first route through it, for the chosen radio."""
        bench, access = self.spot.bench, self.spot.access
        services = {item.key for item in access.services} if access is not None else set()
        fits, key = bench.worked.results.fits, bench.radio_key
        route = next((r.key for r in bench.plan.routes if r.service in services and fits[key].channel_of(r.key)), "")
        if not route:
            return ""
        found = trace(bench.index, fits, key, route)
        stopped = found.broken
        name = bench.index.labels.of(bench.index.routes[route])
        return f"{name}: the key-up {'arrives' if stopped is None else f'stops: {stopped.text}'}."


def _cost(reason: Reason) -> str:
    return "stops" if reason.stop else f"−{reason.points}" if reason.points else ""
