"""One line to write an entry: which route, what was proven, with whom, how well, from where, through what."""

from datetime import datetime
from zoneinfo import ZoneInfo

from PyQt6.QtCore import QStringListModel, Qt
from PyQt6.QtWidgets import QComboBox, QCompleter, QFrame, QLineEdit

from umbra_awl.core.agenda.awake import trip_on
from umbra_awl.core.facts.callsign import tidy_call_sign
from umbra_awl.core.logbook.model import GRADE_WORDS
from umbra_awl.core.logbook.place_words import locator_in, words_to_say
from umbra_awl.core.logbook.typed import call_refusal, grade_for, matching, meant, named
from umbra_awl.desk.book.log_book import LogBook
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.zone import home_zone

_LOWEST_DBM, _HIGHEST_DBM = -160, 0
_OFTEN = 40


class RefusedTyping(ValueError):
    """What is typed cannot be written; the message says why."""


class WriteCard(QFrame):
    """The card. `log_it` writes an entry on the route in hand."""

    def __init__(self, bench: Workbench, theme: Theme, book: LogBook) -> None:
        super().__init__()
        self.setProperty("role", "card")
        self._bench, self._theme, self.book = bench, theme, book
        self._inner = inner = column(self, 4, 8)
        self.route = self._line("Route by its name", "route: site and destination")
        self.route.returnPressed.disconnect()
        self.route.returnPressed.connect(self.take_route)
        self.grade = QComboBox()
        self.grade.setAccessibleName("Grade of proof")
        for key, text in GRADE_WORDS.items():
            self.grade.addItem(text, key)
        self.grade.setCurrentIndex(self.grade.findData("answered"))
        self.radio = QComboBox()
        self.radio.setAccessibleName("Radio that it was made with")
        self.radio.activated.connect(lambda _at: bench.choose_radio(self.radio.currentData()))
        self.call = self._line("Call sign of the other station", "call")
        self.name = self._line("Name as it was spelled", "name, as spelled")
        self.report = self._line("Report in words", "report: good, a little low")
        self.ber = self._line("Bit error rate in per cent", "BER %")
        self.rssi = self._line("Signal strength in dBm", "RSSI dBm")
        self.spot = self._line("The spot it worked from", "spot: balcony")
        self.path = self._line("Through what", "path: home hotspot")
        self.here = self._line("From where you operate", "operating from")
        self.note = self._line("Note", "note")
        for line in (
            (self.route,),
            (self.grade, self.radio),
            (self.call, self.name),
            (self.report, self.spot),
            (self.ber, self.rssi),
        ):
            self._put(line)
        self._put((self.here, self.path))
        self.say = words("", "second", wrap=True)
        self.add = button("Log it", self.log_it, "main")
        line_ = row(gap=6)
        line_.addWidget(self.note, 1)
        line_.addWidget(self.add)
        inner.addLayout(line_)
        inner.addWidget(self.say)
        self.when = words("", "second", wrap=True)
        inner.addWidget(self.when)
        for field in (self.here, self.path):
            field.textChanged.connect(lambda _text: self._say_words())
        self._named: tuple[object, ...] = ()
        self._graded = ""
        book.spot_chosen.connect(lambda: self.spot.setText(book.spot))
        self.spot.setText(book.spot)
        self.refresh()

    def _put(self, fields: tuple[QLineEdit | QComboBox, ...]) -> None:
        line = row(gap=6)
        for made in fields:
            made.setMinimumWidth(0)
            if isinstance(made, QComboBox):
                made.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
                made.setMinimumContentsLength(6)
            line.addWidget(made, 1)
        self._inner.addLayout(line)

    def _line(self, name: str, hint: str) -> QLineEdit:
        made = QLineEdit()
        made.setAccessibleName(name)
        made.setPlaceholderText(hint)
        made.returnPressed.connect(self.log_it)
        return made

    # showing

    def refresh(self) -> None:
        """Follow the route in hand, the plan, and what was typed in entries before."""
        route = self._bench.route
        label = named(self._bench.index, route) if route is not None else ""
        if not self.route.hasFocus() or not self.route.isModified():
            self.route.setText(label)
        if route is not None and route.key != self._graded:
            self._graded = route.key
            self.grade.setCurrentIndex(self.grade.findData(grade_for(self._bench.index, route)))
        self._name_radios()
        self._complete_all()
        self._say_words()
        self._say_when()

    def _name_radios(self) -> None:
        """Offer the radios of the plan, the one in hand chosen."""
        named = [(item.name, item.key) for item in self._bench.plan.radios]
        if named != [(self.radio.itemText(at), self.radio.itemData(at)) for at in range(self.radio.count())]:
            self.radio.clear()
            for name, key in named:
                self.radio.addItem(name, key)
        self.radio.setCurrentIndex(self.radio.findData(self._bench.radio_key))

    def _complete_all(self) -> None:
        """Offer routes by their names, and the spots, places and paths that were typed before."""
        index, entries = self._bench.index, self.book.entries
        if self._named == (index.plan.routes, entries):
            return
        self._named = (index.plan.routes, entries)
        _complete_routes(self.route, self._bench)
        for field, name in ((self.spot, "spot"), (self.here, "here"), (self.path, "path")):
            before = dict.fromkeys(text for item in reversed(entries) if (text := getattr(item, name)))
            _complete(field, list(before)[:_OFTEN])

    def _say_when(self) -> None:
        now: datetime = self._bench.clock.utc()
        time = self._theme.measures.time
        self.when.setText(f"Now: {time(now)} UTC, {time(now.astimezone(ZoneInfo(home_zone())))} here.")

    def _say_words(self) -> None:
        bench = self._bench
        identity = bench.index.owners.identity_of(bench.radio) if bench.radio is not None else None
        trip = trip_on(bench.plan.trips, self._bench.clock.utc())
        said = words_to_say(identity.call if identity else "", self.here.text(), self.path.text(), trip=trip)
        self.say.setText(said)
        self.say.setVisible(bool(said))

    # doing

    def take_route(self) -> bool:
        """Take the route that is typed in hand; True when there is one, else it is said why not and nothing changes."""
        route = self._bench.route
        typed = self.route.text().strip()
        if route is not None and typed == named(self._bench.index, route):
            self.call.setFocus()
            return True
        found = meant(self._bench.index, typed)
        if not found.route:
            self._bench.say(found.words, "stop")
            self.route.setFocus()
            return False
        route = self._bench.index.routes[found.route]
        self.route.setModified(False)
        self._bench.select(Selection(route.service, route.destination, route.slot))
        self.route.setText(named(self._bench.index, route))
        self.call.setFocus()
        return True

    def log_it(self) -> None:
        """Write an entry on the route that is named; what is typed and not understood is never logged as another."""
        if not self.route.text().strip():
            self._bench.say("Choose a route first: a disc on the map, or type its name here.", "stop")
            return
        call = tidy_call_sign(self.call.text())
        if not self.take_route():
            return
        if refusal := call_refusal(call):
            self._bench.say(refusal, "stop")
            self.call.setFocus()
            return
        route = self._bench.route
        assert route is not None
        try:
            ber = _number(self.ber.text(), "%", 0, 100, "A bit error rate lies between 0 and 100 %.")
            rssi = _number(
                self.rssi.text(),
                "dBm",
                _LOWEST_DBM,
                _HIGHEST_DBM,
                "A signal lies between −160 and 0 dBm: −95, for example.",
            )
        except RefusedTyping as error:
            self._bench.say(str(error), "stop")
            return
        trip = trip_on(self._bench.plan.trips, self._bench.clock.utc())
        here = self.here.text().strip() or (trip.name if trip is not None else "")
        made = self.book.new_entry(
            route.key,
            grade=self.grade.currentData(),
            call=call,
            name=self.name.text().strip(),
            report=self.report.text().strip(),
            ber=ber,
            rssi_dbm=round(rssi) if rssi is not None else None,
            spot=self.spot.text().strip(),
            my_locator=locator_in(self.spot.text()),
            here=here,
            path=self.path.text().strip(),
            note=self.note.text().strip(),
        )
        lines = (self.call, self.name, self.report, self.ber, self.rssi, self.note)
        typed = {line: line.text() for line in lines}

        def clear() -> None:
            for line, text in typed.items():
                if line.text() == text:
                    line.clear()

        self.book.add([made], f"Log {self._bench.index.labels.of(route)}: {self.grade.currentText()}", clear)


def _number(typed: str, unit: str, low: float, high: float, outside: str) -> float | None:
    """A number with or without its unit; None for nothing. Raises RefusedTyping."""
    text = typed.strip().replace(",", ".").replace("−", "-")
    text = text.removesuffix(unit).strip()
    if not text:
        return None
    try:
        value = float(text)
    except ValueError:
        raise RefusedTyping(f"“{typed}” is no rate or strength. Type a number, for example 0.8 or −95.") from None
    if not low <= value <= high:
        raise RefusedTyping(outside)
    return value


def _complete(field: QLineEdit, offered: list[str]) -> None:
    made = QCompleter(offered, field)
    made.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
    made.setFilterMode(Qt.MatchFlag.MatchContains)
    field.setCompleter(made)


class _Routes(QCompleter):
    """Offers the routes that hold every word typed, whatever they are called by."""

    def __init__(self, bench: Workbench, field: QLineEdit) -> None:
        self._labels = QStringListModel()
        super().__init__(self._labels, field)
        self._bench = bench
        self.setCompletionMode(QCompleter.CompletionMode.PopupCompletion)

    def splitPath(self, typed: str | None) -> list[str]:
        """Called with each letter: the model has what fits, and everything in it is offered."""
        index = self._bench.index
        self._labels.setStringList([named(index, route) for route in matching(index, typed or "")[:_OFTEN]])
        return [""]


def _complete_routes(field: QLineEdit, bench: Workbench) -> None:
    field.setCompleter(_Routes(bench, field))
