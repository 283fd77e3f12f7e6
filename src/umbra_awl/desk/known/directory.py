"""The window's directory: the store behind it, what is around the chosen place, and long work on it, as signals."""

import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any, NamedTuple

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.directory.known import known_of
from umbra_awl.core.directory.nearest import NearestWanted, nearest
from umbra_awl.core.directory.people import people_listed_on
from umbra_awl.core.directory.sanity import KnownGround
from umbra_awl.core.directory.store import Store
from umbra_awl.core.estimate.survey import Survey, SurveySpot, survey
from umbra_awl.core.facts.coast import Coast, Land, coast_of_geojson, world_coast
from umbra_awl.core.facts.earth import Position
from umbra_awl.core.keep.clock import Clock
from umbra_awl.core.keep.limits import WHOLE_TABLE_BYTES, read_within
from umbra_awl.core.plan.edit.edit_station import set_station
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.known import Known
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.core.transfer.held import people_known
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory_work import DirectoryWork
from umbra_awl.desk.known.own_entries import OwnEntries
from umbra_awl.desk.settings import Settings

LOCAL_COAST = "coast.geojson"
NOWHERE = Position(0.0, 0.0)


class LookedAtPlace(NamedTuple):
    """The place looked at: its position and its words."""

    position: Position
    words: str


class Directory(QObject):
    """One for the window. Each thread has a store of its own on the same file."""

    changed = pyqtSignal()
    surveyed = pyqtSignal()
    place_changed = pyqtSignal()
    work_changed = pyqtSignal()

    def __init__(self, bench: Workbench, path: Path, settings: Settings) -> None:
        super().__init__()
        self.bench = bench
        self.path = path
        self.tasks = DirectoryWork(self)
        self.own = OwnEntries(self)
        self.settings = settings
        self.survey = Survey(None, (), {})
        self.wanted = NearestWanted()
        self.tasks.work = ""
        self.tasks.done_share = 0.0
        self._own_place: LookedAtPlace | None = None
        self._looked_at: tuple[object, ...] = ()
        self._last_place: LookedAtPlace | None = self.place
        self._here = threading.local()
        self._stores: list[Store] = []
        self._land: tuple[Coast, Land] | None = None
        bench.plan_changed.connect(self._plan_changed)
        bench.document_changed.connect(lambda: bench.jobs.soon(lambda: self.go_to(None)))

    @property
    def store(self) -> Store:
        """The store of the thread that asks, opened when first asked for. Raises StoreFailedError."""
        if not hasattr(self._here, "store"):
            self._here.store = Store(self.path)
            self._stores.append(self._here.store)
        made: Store = self._here.store
        return made

    @property
    def folder(self) -> Path:
        """Where layouts and downloads are kept."""
        return self.path.parent

    def coast(self) -> tuple[Coast, Land]:
        """The world's coastline with the local one, and its land; read once, in whatever thread asks first."""
        if self._land is None:
            coast = world_coast()
            local = self.folder / LOCAL_COAST
            if local.exists():
                try:
                    coast = coast.joined(coast_of_geojson(read_within(local, WHOLE_TABLE_BYTES).decode("utf-8")))
                except (ValueError, LookupError, TypeError, AttributeError, RecursionError, OSError):
                    self.bench.jobs.tell(
                        lambda: self.bench.say(f"“{local.name}” is not a readable coastline; it is left out.")
                    )
            self._land = (coast, Land(coast))
        return self._land

    @property
    def place(self) -> LookedAtPlace | None:
        """The place looked at: the chosen one, or the station's; None when neither is known."""
        if self._own_place is not None:
            return self._own_place
        station = self.bench.plan.station
        if station.lat is None or station.lon is None:
            return None
        return LookedAtPlace(Position(station.lat, station.lon), station.place or "home")

    @property
    def at_home(self) -> bool:
        """Whether the place looked at is the station's."""
        return self._own_place is None

    def _plan_changed(self) -> None:
        """The station may have moved."""
        if self.place != self._last_place:
            self._last_place = self.place
            self.place_changed.emit()
        plan = self.bench.plan
        if _of_interest(plan) != self._looked_at:
            self.look()

    def go_to(self, place: LookedAtPlace | None) -> None:
        """Look at a place; None is home."""
        self._own_place = place
        self._last_place = self.place
        self.place_changed.emit()
        self.look()

    @property
    def elsewhere(self) -> LookedAtPlace | None:
        """The place looked at, where it was chosen; None at home."""
        return self._own_place

    def want(self, wanted: NearestWanted) -> None:
        """Filter what is shown."""
        if wanted != self.wanted:
            self.wanted = wanted
            self.look()

    def ground(self) -> KnownGround:
        """What entries are judged against, but for the land, which is read in the thread that judges."""
        return KnownGround(self.bench.index.bands, None, self.bench.clock.today(), {})

    def look(self) -> None:
        """Survey anew, in the background; the latest wins."""
        place, plan, wanted = self.place, self.bench.plan, self.wanted
        if self.bench.document is None:
            return
        self._looked_at = _of_interest(plan)
        file = self.bench.document.real
        judged_by = self.ground()

        def work() -> tuple[Survey, Known] | SourceError:
            ground = judged_by._replace(land=self.coast()[1])
            try:
                found = survey(self.store, plan, place.position if place else None, wanted, ground)
                people = people_known(file, plan, people_listed_on(self.store))
                return found, known_of(self.store, plan)._replace(people=people)
            except SourceError as error:
                return error

        self.bench.jobs.soon(lambda: self.bench.jobs.latest("survey", work, self._take))

    def _take(self, result: tuple[Survey, Known] | SourceError) -> None:
        if isinstance(result, SourceError):
            self.bench.say(str(result), "stop")
            return
        self.survey, known = result
        self.surveyed.emit()
        if self.bench.document is not None:
            self.bench.worked.know(known)

    def home_at(self, name: str) -> None:
        """Put the station where a site of the directory is."""
        found = (
            nearest(self.store, self.place.position if self.place else NOWHERE, 1, NearestWanted(text=name))
            if name.strip()
            else []
        )
        if not found:
            self.bench.say(
                f"No site “{name}” with a position is in the directory. Import one at Access, or type the position.",
                "stop",
            )
            return
        access = found[0].entry.access
        edit = set_station(f"Put the station at {access.site}", lat=access.lat, lon=access.lon, place=access.site)
        if self.bench.do(edit):
            self.bench.say(f"The station is at {access.site} now; refine the position when you are not on the spot.")

    def spot(self, key: str) -> SurveySpot | None:
        """The surveyed spot of a key."""
        return next((spot for spot in self.survey.spots if spot.key == key), None)

    def refresh(self) -> None:
        """Say that the store changed."""
        self.changed.emit()
        self.look()

    def try_to(self, act: Callable[[], Any]) -> bool:
        """Do something small on the store; an error is said. True when done."""
        try:
            act()
        except (SourceError, EditRefused) as error:
            self.bench.say(str(error), "stop")
            return False
        self.refresh()
        return True

    def close(self) -> None:
        """Let go of the files."""
        self.tasks.stop()
        for store in self._stores:
            store.close()
        self._stores.clear()


def now_text(clock: Clock) -> str:
    """The present moment as an ISO text, for the list of imports."""
    return clock.local().isoformat(timespec="seconds")


def _of_interest(plan: Plan) -> tuple[object, ...]:
    """What of a plan decides what is looked for in the directory, and beside the plan's file."""
    return (plan.access, plan.station, tuple((radio.key, radio.people) for radio in plan.radios))
