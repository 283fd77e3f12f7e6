"""Taking into the plan: the selected, all within a radius or along a track, and what the region suggests."""

from collections.abc import Sequence
from pathlib import Path

from umbra_awl.core.directory.nearest import within as entries_within
from umbra_awl.core.directory.store import StoredEntry
from umbra_awl.core.directory.taking import take_entries
from umbra_awl.core.directory.track import Track, read_track
from umbra_awl.core.directory.track import along as passed
from umbra_awl.core.estimate.survey import SurveySpot
from umbra_awl.core.facts.repeaters import Calling
from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.plan.edit.edit_access import add_access
from umbra_awl.core.plan.edit.edits import EditRefused, fresh_key
from umbra_awl.core.plan.model import AccessPoint, Air, DmrAir, DstarAir, FmAir, Service
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.theme.theme import Theme


class Taking:
    """Asks the workbench for the edits; says what was taken, or why nothing was."""

    def __init__(self, bench: Workbench, directory: Directory, theme: Theme) -> None:
        self._bench, self._directory, self._theme = bench, directory, theme

    def selected(self, spots: Sequence[SurveySpot]) -> None:
        """Take spots of the list into the plan."""
        entries = [spot.entry for spot in spots if spot.entry is not None]
        if entries:
            self.entries(entries)
        elif spots:
            self._bench.say("It is the plan's own already.")
        else:
            self._bench.say("Select access points in the list or on the map first.")

    def entries(self, entries: Sequence[StoredEntry]) -> None:
        """Take entries into the plan, as one step."""
        try:
            edit, haul, _keys = take_entries(self._bench.plan, entries)
        except EditRefused as error:
            self._bench.say(str(error))
            return
        if self._bench.do(edit):
            self._bench.say(f"{edit.sentence}: {haul.words}. Punch them at Routes.")

    def within(self, km: float) -> None:
        """Take all wanted entries within a radius of the place looked at."""
        place = self._directory.place
        if place is None:
            self._bench.say("Give your position first: at Station, or above the map.", "stop")
            return
        found = entries_within(self._directory.store, place.position, km, self._directory.wanted)
        if not found:
            self._bench.say(f"Nothing that fits the filters lies within {self._theme.measures.round_distance(km)}.")
            return
        self.entries([near.entry for near in found])

    def along(self, path: Path, km: float) -> None:
        """Take all wanted entries within a distance of a track."""
        self._bench.jobs.read(
            "track", read_track, path, done=lambda track: self._along(track, km), failed=self._not_read
        )

    def _not_read(self, error: Exception) -> None:
        self._bench.say(plain_reason(error), "stop")

    def _along(self, track: Track, km: float) -> None:
        found = passed(self._directory.store, track, km, self._directory.wanted)
        if found:
            self.entries([near.entry for near in found])
        else:
            self._bench.say(
                f"Nothing that fits the filters lies within {self._theme.measures.round_distance(km)} of the track."
            )

    def suggested(self, calling: Calling) -> None:
        """Add a calling or simplex frequency of the region to the plan."""
        index = self._bench.index
        if any(
            service.rx_hz == calling.hz and service.mode == calling.mode for _access, service in index.all_services()
        ):
            self._bench.say(f"{calling.words} is in the plan already.")
            return
        airs: dict[str, Air] = {
            "fm": FmAir(),
            "dmr": DmrAir(1, "", (1,)),
            "dstar": DstarAir("C" if calling.hz < 300_000_000 else "B", False),
        }
        air = airs[calling.mode]
        key = fresh_key(calling.words, index.access)
        service = Service(fresh_key(f"{key}-{calling.mode}", index.services), calling.hz, calling.hz, air)
        if self._bench.do(add_access(AccessPoint(key, "", calling.words, "simplex", services=(service,)))):
            self._bench.say(f"{calling.words} added. Band plans differ: check yours.")
