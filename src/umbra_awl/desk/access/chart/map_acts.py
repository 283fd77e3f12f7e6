"""What can be done with the map of access points beside its buttons: takes of many, tracks, places, exports."""

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QFileDialog, QInputDialog, QMenu

from umbra_awl.core.directory.export import held_by, write_access
from umbra_awl.core.directory.track import read_track
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.repeaters import CALLING
from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.plan.sharing import shareable
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.desk.measures import FAR_WORDS
from umbra_awl.desk.parts.saving import FilePlace, ask_place
from umbra_awl.desk.parts.widgets import act

if TYPE_CHECKING:
    from umbra_awl.desk.access.stage import AccessStage


_FORMS = "CSV (*.csv);;GeoJSON (*.geojson);;GPX (*.gpx)"


class MapActs:
    """The acts of the menu, and of the commands."""

    def __init__(self, owner: "AccessStage") -> None:
        self._stage = owner

    def open_menu(self) -> None:
        """Show the menu under its button."""
        menu = self.menu()
        menu.popup(self._stage.more.mapToGlobal(self._stage.more.rect().bottomLeft()))

    def menu(self) -> QMenu:
        """What can be done beside the buttons."""
        menu = QMenu(self._stage)
        for text, does in (
            ("Take all within a radius", self._ask_radius),
            ("Take all along a track", self._ask_along),
            ("Play a track as a moving position", self.ask_track),
            ("Add an access point by hand", self.add_by_hand),
            ("Where I am now, by a receiver", self.ask_here),
            ("Where to begin listening", self.ask_listening),
            ("Look around home", partial(self._stage.directory.go_to, None)),
            ("Show everything listed", self._stage.around.fit_list),
            ("Export the shown", partial(self._ask_export, False)),
            ("Export the plan's access points", partial(self._ask_export, True)),
        ):
            act(menu, text, does)
        self._stage.worked.fill(menu)
        more = menu.addMenu("Calling and simplex frequencies")
        assert more is not None
        for calling in CALLING[self._stage.bench.plan.station.region]:
            act(more, f"{calling.hz / 1e6:.4f}  {calling.words}", partial(self._stage.taking.suggested, calling))
        menu.aboutToHide.connect(menu.deleteLater)
        return menu

    def ask_here(self) -> None:
        """Ask a positioning receiver where one is."""
        from umbra_awl.desk.access.here_sheet import HereSheet

        HereSheet(self._stage, self._stage.bench, self._stage.directory).exec()

    def ask_listening(self) -> None:
        """Show where to begin listening: the band, the groups, the hours."""
        from umbra_awl.desk.access.listen_sheet import ListenSheet

        stage = self._stage
        ListenSheet(stage, stage.bench, stage.theme, stage.directory, stage.book().entries).exec()

    def add_by_hand(self) -> None:
        """Ask for a new access point; a place that was chosen on the map is where it is."""
        from umbra_awl.desk.parts.cards.adding import AddAccess

        place = self._stage.directory.elsewhere
        AddAccess(self._stage.bench, self._stage, place.position if place is not None else None).exec()

    def _ask_radius(self) -> None:
        measures = self._stage.theme.measures
        unit = FAR_WORDS[measures.far].capitalize()
        far, done = QInputDialog.getDouble(
            self._stage, "Take all within a radius", f"{unit} around the place looked at", 30, 0.1, 2000, 1
        )
        if done:
            self._stage.taking.within(far * measures.km_each)

    def _ask_along(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self._stage, "A track", "", "GPX (*.gpx)")
        if name:
            measures = self._stage.theme.measures
            unit = FAR_WORDS[measures.far].capitalize()
            far, done = QInputDialog.getDouble(
                self._stage, "Take all along the track", f"{unit} on both sides", 20, 0.1, 500, 1
            )
            if done:
                self._stage.taking.along(Path(name), far * measures.km_each)

    def ask_track(self) -> None:
        """Ask for a track to play."""
        name, _ = QFileDialog.getOpenFileName(self._stage, "A track", "", "GPX (*.gpx)")
        if name:
            self.play(Path(name))

    def play(self, path: Path) -> None:
        """Play a track; an error is said."""
        self._stage.show_page("around")
        self._stage.bench.jobs.read(
            "track",
            read_track,
            path,
            done=self._stage.around.playback.open,
            failed=lambda error: self._stage.bench.say(plain_reason(error), "stop"),
        )

    def _ask_export(self, own: bool) -> None:
        place = ask_place(self._stage, "Export access points", "access-points.csv", _FORMS)
        if place is not None:
            self.export(place, own=own)

    def export(self, place: FilePlace, *, own: bool) -> None:
        """Export the plan's access points, or those shown."""
        items = (
            list(shareable(self._stage.bench.plan).access)
            if own
            else [spot.access for spot in self._stage.directory.survey.spots]
        )
        try:
            write_access(place.path, items, replace=place.replace)
        except SourceError as error:
            self._stage.bench.say(str(error), "stop")
            return
        held = len(held_by(place.path, items))
        left = f" {len(items) - held} have no position and are not in it." if held < len(items) else ""
        self._stage.bench.say(f"{counted(held, 'access point')} exported to {place.path.name}.{left}")

    def import_file(self) -> None:
        """Ask for a file to import."""
        self._stage.show_page("imports")
        self._stage.imports.ask()
