"""Symptom first: what one notices, the questions that are left, the answer."""

from functools import partial

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.agenda.next_steps import Where
from umbra_awl.core.facts.dstar import read_ur
from umbra_awl.core.hotspot.logs.symptoms import Answer, Ask, Sights, Symptom, probes, shipped_symptoms, walk
from umbra_awl.core.plan.permit import guard_permit
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.hotspots.step_thread import StepThread, Stop
from umbra_awl.desk.parts.menus import menu_button
from umbra_awl.desk.parts.widgets import button, column, row, rows_of, scrolled, words
from umbra_awl.desk.theme.theme import Theme

_5_GHZ = 5.0


class SymptomPanel(QWidget):
    """Walks along one symptom's questions."""

    def __init__(self, spot: Spot, theme: Theme) -> None:
        super().__init__()
        self._spot = spot
        self._symptom: Symptom = shipped_symptoms().symptom[0]
        self._told: dict[str, Answer] = {}
        self._open: Ask | None = None
        self._end: Ask | None = None
        outer = column(self, 6)
        outer.addWidget(words("What do you notice?", "title"))
        self.choice = menu_button("What you notice", self._choices)
        outer.addLayout(rows_of(self.choice))
        self.asked = StepThread(theme, "Questions", 54)
        outer.addWidget(scrolled(self.asked), 1)
        self.question = words("", wrap=True)
        outer.addWidget(self.question)
        line = row(gap=6)
        self.yes = button("Yes", partial(self.answer, "yes"), "segment")
        self.no = button("No", partial(self.answer, "no"), "segment")
        self.again = button("Ask again", self.begin)
        self.go = button("Go there", self._go, "main")
        for made in (self.yes, self.no, self.go):
            line.addWidget(made)
        line.addStretch(1)
        line.addWidget(self.again)
        outer.addLayout(line)

    def _choices(self) -> list[tuple[str, partial[None]]]:
        return [(item.words, partial(self.choose, item)) for item in shipped_symptoms().symptom]

    def choose(self, symptom: Symptom) -> None:
        """Take another symptom."""
        self._symptom = symptom
        self.begin()

    def begin(self) -> None:
        """Ask anew."""
        self._told = {}
        self.refresh()

    def answer(self, given: Answer) -> None:
        """Answer the open question."""
        if self._open is not None:
            self._told[self._open.question] = given
            self.refresh()

    def _sights(self) -> Sights:
        """What the software can see itself."""
        spot = self._spot
        bench, hotspot = spot.bench, spot.hotspot
        phone = bench.plan.station.phone
        radio = bench.radio
        licence = bench.index.owners.station_of(radio).licence if radio is not None else None
        overs = spot.own.overs()
        page = True if spot.status is not None else False if spot.fault else None
        name = phone.sharing in hotspot.wifi if phone is not None and hotspot is not None and hotspot.wifi else None
        return Sights(
            spot.status,
            spot.log,
            spot.rows(),
            page,
            guard_permit(licence).allowed if licence is not None else None,
            name,
            phone.band_ghz < _5_GHZ if phone is not None else None,
            self._ur_clear(),
            next((item.ber for item in overs if item.ber is not None), None),
        )

    def _ur_clear(self) -> bool | None:
        """Whether no talk memory through this hotspot holds a command in UR; None where there is no D-STAR."""
        bench, access = self._spot.bench, self._spot.access
        services = {item.key for item in access.services if item.mode == "dstar"} if access is not None else set()
        routes = [route for route in bench.plan.routes if route.service in services]
        if not routes:
            return None
        return not any(route.ur and read_ur(route.ur).kind != "cq" for route in routes if route.slot != 1)

    def refresh(self) -> None:
        """Show how far the questions have come."""
        self.choice.setText(self._symptom.words)
        found = walk(self._symptom, probes(self._sights()), self._told)
        self._open, self._end = found.open, found.end
        self.asked.show_stops(
            [
                Stop(
                    "seen" if item.seen else "you say" if item.answer else "?",
                    item.ask.question,
                    item.answer or "",
                    "next" if item.answer is None else "broken" if item.answer == item.ask.stop else "done",
                )
                for item in found.asked
            ]
        )
        if found.end is not None:
            self.question.setText(f"{found.end.means} {found.end.todo}")
        elif found.open is not None:
            self.question.setText(found.open.question)
        else:
            self.question.setText("None of the usual causes. Read the log from its first line.")
        for made in (self.yes, self.no):
            made.setVisible(found.open is not None)
        self.go.setVisible(found.end is not None)
        self.again.setVisible(bool(self._told))

    def _go(self) -> None:
        if self._end is not None:
            self._spot.bench.where_wanted.emit(Where("hotspots", self._end.page, "act"))
