"""Wi-Fi away from home: two schools, names and passwords letter for letter, a rehearsal of the next morning, the road sheet."""

from collections.abc import Iterator
from functools import partial

from PyQt6.QtWidgets import QCheckBox, QFormLayout, QFrame, QSizePolicy, QWidget

from umbra_awl.core.hotspot.wifi.letters import compare, doubts, verdict
from umbra_awl.core.hotspot.wifi.rehearse import Setup, note_rehearsal, rehearsal_words, setup_of
from umbra_awl.core.hotspot.wifi.schools import PORTAL_WAYS, SCHOOL_WHY, SCHOOL_WORDS, WHO_WORDS, wifi_steps
from umbra_awl.core.keep.naming import readable_name
from umbra_awl.core.paper.road_sheet import IN_HEAD, IN_STORE, road_pdf, road_sheet, road_text
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.model import HomeWifi, Hotspot, Phone, Trip, WifiSchool
from umbra_awl.core.plan.parts import HOTSPOTS
from umbra_awl.desk.hotspots.seen import Seen
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.hotspots.step_thread import StepThread, Stop
from umbra_awl.desk.hotspots.wifi.letters_picture import LettersPicture
from umbra_awl.desk.hotspots.wifi.phone_kind_card import PhoneKindCard
from umbra_awl.desk.hotspots.wifi.wifi_job import RehearsalPlay, WifiJob
from umbra_awl.desk.hotspots.wifi.wifi_picture import WifiPicture
from umbra_awl.desk.hotspots.wifi.wifi_secrets import UPPER_BAND_GHZ, WifiSecrets
from umbra_awl.desk.parts.menus import lead, menu_button
from umbra_awl.desk.parts.saving import ask_place, save_later
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.widgets import button, card, column, row, rows_of, scrolled, words
from umbra_awl.desk.theme.theme import Theme


class WifiPage(QWidget):
    """The canvas page; `side` has the names and passwords."""

    def __init__(self, spot: Spot, theme: Theme) -> None:
        super().__init__()
        self.secrets = WifiSecrets(self)
        self.spot = spot
        self.job = WifiJob(spot.bench)
        outer = column(self, 8)
        self.schools = {
            key: button(text, partial(self._choose, key), "segment", SCHOOL_WHY[key])
            for key, text in SCHOOL_WORDS.items()
        }
        outer.addLayout(rows_of(*self.schools.values(), gap=2))
        outer.addWidget(self._play_card())
        self.picture = WifiPicture(theme)
        outer.addWidget(self.picture)
        self.steps = StepThread(theme, "The steps of this school", 118)
        below = scrolled(self.steps)
        below.setMinimumHeight(theme.px(30))
        outer.addWidget(below, 1)
        self.side = scrolled(self._beside(theme))
        seen = Seen(self, self.refresh)
        spot.changed.connect(seen.changed)
        self.job.changed.connect(self.played)

    def _play_card(self) -> QFrame:
        frame = card()
        inner = column(frame, 4, 10)
        line = row()
        self.main = button("Leave home", self.play, "main", "Play the next morning")
        self.told = words("", wrap=True)
        self.road = button(
            "Road sheet …", self.ask_road, tip="On paper, or as text for the phone; no password is on it"
        )
        line.addWidget(self.main)
        line.addWidget(self.told, 1)
        line.addWidget(self.road)
        inner.addLayout(line)
        self.first = QCheckBox("hotspot on first")
        self.at_home = QCheckBox("home Wi-Fi in reach")
        self.portal = QCheckBox("a login page there")
        self.trip = menu_button("Trip that is rehearsed", self._trips)
        self._trip = ""
        self._noted: RehearsalPlay | None = None
        inner.addLayout(rows_of(lead("Try also"), self.first, self.at_home, self.portal, self.trip, gap=8))
        return frame

    def _beside(self, theme: Theme) -> QWidget:
        inside = QWidget()
        outer = column(inside, 6)
        inside.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        outer.addWidget(words("Names, letter for letter", "title", wrap=True))
        form = QFormLayout()
        form.setVerticalSpacing(4)
        form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapLongRows)
        self.sharing = self.secrets.line("Phone", "Name that the phone shares", self.secrets.set_phone)
        self.known = self.secrets.line("Knows", "Names that the hotspot knows", self.secrets.set_known)
        self.home = self.secrets.line("Home", "Name of the Wi-Fi at home", self.secrets.set_home)
        self.five = QCheckBox("phone shares at 5 GHz")
        self.five.clicked.connect(self.secrets.set_phone)
        self.sleeps = QCheckBox("phone falls asleep")
        self.sleeps.clicked.connect(self.secrets.set_phone)
        form.addRow("Phone", self.sharing)
        form.addRow("Hotspot", self.known)
        form.addRow("Home", self.home)
        outer.addLayout(form)
        outer.addLayout(rows_of(self.five, self.sleeps, gap=8))
        self.kind = PhoneKindCard(self.spot.bench)
        outer.addWidget(self.kind)
        self.letters = LettersPicture(theme)
        outer.addWidget(self.letters)
        self.verdict = words("", "second", wrap=True)
        outer.addWidget(self.verdict)
        outer.addWidget(words("Passwords", "title", wrap=True))
        self.one, self.other = (
            self.secrets.secret("Password on the phone"),
            self.secrets.secret("Password in the hotspot"),
        )
        secrets = QFormLayout()
        secrets.setVerticalSpacing(4)
        secrets.addRow("Phone", self.one)
        secrets.addRow("Hotspot", self.other)
        outer.addLayout(secrets)
        self.shown = QCheckBox("show them")
        self.shown.toggled.connect(self.secrets.show_secrets)
        outer.addWidget(self.shown)
        self.same = words("", "second", wrap=True)
        outer.addWidget(self.same)
        outer.addWidget(words("A login page? Then one of these", "title", wrap=True))
        for way in PORTAL_WAYS:
            outer.addWidget(words(way, "second", wrap=True))
        outer.addStretch(1)
        return inside

    def take_focus(self) -> None:
        """Give the keyboard to the one action."""
        self.main.setFocus()

    def reach(self, field: str) -> bool:
        """The act, the road sheet, or one of the names."""
        names = {"Wi-Fi": self.known, "Knows": self.known, "Phone": self.sharing, "Shares on": self.five}
        target = {"act": self.main, "road": self.road, **names}.get(field)
        if target is not None:
            target.setFocus()
        return target is not None

    def _choose(self, school: WifiSchool) -> None:
        hotspot = self.spot.hotspot
        if hotspot is not None and hotspot.school != school:
            self.spot.bench.do(set_fields(HOTSPOTS, hotspot.key, SCHOOL_WORDS[school], school=school))
        self.refresh()

    def _trips(self) -> Iterator[tuple[str, partial[None]]]:
        yield "no trip", partial(self._take_trip, "")
        for item in self.spot.bench.plan.trips:
            yield item.name, partial(self._take_trip, item.key)

    def _take_trip(self, key: str) -> None:
        self._trip = key
        self.refresh()

    def play(self) -> None:
        """Play the next morning."""
        station, hotspot = self.spot.bench.plan.station, self.spot.hotspot
        if hotspot is None:
            return
        one, other = self.one.text(), self.other.text()
        same = one == other if one and other else None
        setup = setup_of(station.phone, station.home_wifi, hotspot, same_password=same)
        order, home, portal = self.first.isChecked(), self.at_home.isChecked(), self.portal.isChecked()
        self.job.start(setup._replace(hotspot_first=order, home_on=home, portal=portal))

    def refresh(self) -> None:
        """Show the names, the steps and the rehearsal."""
        plan, hotspot = self.spot.bench.plan, self.spot.hotspot
        if hotspot is None:
            return
        chosen_of(self.schools, hotspot.school)
        phone, home = plan.station.phone or Phone(), plan.station.home_wifi or HomeWifi()
        for line, text in (
            (self.sharing, phone.sharing),
            (self.known, "; ".join(hotspot.wifi)),
            (self.home, home.name),
        ):
            if not line.hasFocus() and line.text() != text:
                line.setText(text)
        self.five.setChecked(phone.band_ghz >= UPPER_BAND_GHZ)
        self.sleeps.setChecked(phone.sleeps)
        sought = _nearest(phone.sharing, hotspot.wifi) if hotspot.school == "teach" else home.name
        marks = compare(phone.sharing, sought)
        self.letters.show_marks(marks)
        told = [f"{item}." for name in (phone.sharing, sought) for item in doubts(name)]
        below = "hotspot" if hotspot.school == "teach" else "home"
        self.verdict.setText(" ".join([f"Phone above, {below} below. {verdict(marks)}", *told]))
        self.secrets.compare_secrets()
        trip = next((item for item in plan.trips if item.key == self._trip), None)
        self.trip.setText(trip.name if trip is not None else "no trip")
        self.main.setEnabled(not self.job.running)
        played = self.job.play
        if played is None:
            self.picture.show_play((), (), ())
        else:
            self.picture.show_play(played.acts, played.played, played.states)
        self.told.setText(self._words())
        self.kind.refresh()
        self._show_steps(hotspot)

    def _show_steps(self, hotspot: Hotspot) -> None:
        made: list[Stop] = []
        for step in wifi_steps(hotspot, self.spot.bench.plan.station.phone):
            where = "home" if step.at == "home" else "there"
            other = f"; if not: {step.else_}" if step.else_ else ""
            made.append(Stop(f"{where}: {WHO_WORDS[step.who]}", step.what, f"see: {step.sees}{other}", "later"))
        self.steps.show_stops(made)

    def _words(self) -> str:
        job = self.job
        if job.running:
            return "The next morning is played …"
        if job.fault:
            return job.fault
        if job.play is None:
            trip = self._trip_now()
            return f"{trip.name}: {self._rehearsed()}." if trip is not None else "Rehearse the next morning here."
        if job.play.fault:
            return f"It breaks at “{job.play.played[-1].act.words}”. {job.play.fault}"
        seen = job.play.played[-1].seen
        return f"It works. {seen}"

    def _setup(self) -> Setup | None:
        """What the plan comes to."""
        hotspot, station = self.spot.hotspot, self.spot.bench.plan.station
        return setup_of(station.phone, station.home_wifi, hotspot) if hotspot is not None else None

    def played(self) -> None:
        """A rehearsal began or ended; one of a trip that was played as the plan says it is noted on the trip."""
        job, trip = self.job, self._trip_now()
        if not job.running and job.play is not None and trip is not None and job.play is not self._noted:
            self._noted = job.play
            plain = job.play.setup._replace(same_password=None) == self._setup()
            if plain:
                day = self.spot.bench.index.today.isoformat()
                self.spot.bench.do(note_rehearsal(trip, job.play.setup, job.play.fault, day))
        self.refresh()

    def _trip_now(self) -> Trip | None:
        return next((item for item in self.spot.bench.plan.trips if item.key == self._trip), None)

    def _rehearsed(self) -> str:
        """How the rehearsal of the trip went, for the road sheet."""
        trip, setup = self._trip_now(), self._setup()
        return rehearsal_words(trip, setup) if trip is not None and setup is not None else ""

    def ask_road(self) -> None:
        """Ask where the road sheet goes: a PDF, or text for the phone."""
        spot, hotspot = self.spot, self.spot.hotspot
        if hotspot is None:
            return
        index = spot.bench.index
        trip = next((item for item in index.plan.trips if item.key == self._trip), None)
        sheet = road_sheet(
            index, hotspot, trip, self._rehearsed(), IN_STORE if spot.secrets.store is not None else IN_HEAD
        )
        name = f"{readable_name(sheet.title, hotspot.key)} road sheet.pdf"
        place = ask_place(self, "Road sheet", name, "PDF (*.pdf);;Text for the phone (*.txt)", ".pdf")
        if place is None:
            return
        text, day = place.path.suffix == ".txt", index.today.isoformat()
        said = f"The road sheet is in “{place.path.name}”. It has no password on it."
        save_later(spot.bench, place, lambda: road_text(sheet).encode() if text else road_pdf(sheet, day), said)


def _nearest(name: str, known: tuple[str, ...]) -> str:
    """The known name that is most like the phone's; the last one where none is."""
    from difflib import SequenceMatcher

    return max(known, key=lambda item: SequenceMatcher(None, item.casefold(), name.casefold()).ratio(), default="")
