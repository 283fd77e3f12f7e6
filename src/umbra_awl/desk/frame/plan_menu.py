"""The plan's menu: new, open, recent, save, copy, older saves."""

from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QInputDialog, QMenu, QWidget

from umbra_awl.core.plan.edits import rename_plan
from umbra_awl.core.plan.model import Identity, Plan, Station
from umbra_awl.core.plan.store import SUFFIX, StoreError, read_plan
from umbra_awl.desk.parts.widgets import act
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.workbench import Workbench

_FILTER = f"Plans (*{SUFFIX})"
MOST_SAVES_SHOWN = 12


def new_plan() -> Plan:
    """An empty plan with a place for its owner."""
    return Plan(station=Station((Identity("owner"),)))


class PlanActions:
    """What can be done with plan files."""

    def __init__(self, bench: Workbench, settings: Settings, parent: QWidget) -> None:
        self._bench = bench
        self._settings = settings
        self._parent = parent

    def _folder(self) -> str:
        document = self._bench.document
        return str(document.path.parent) if document else str(Path.home())

    def ask_new(self) -> None:
        """Ask for a place and make a new plan there."""
        name, _kind = QFileDialog.getSaveFileName(
            self._parent, "New plan", f"{self._folder()}/my-plan{SUFFIX}", _FILTER
        )
        if name:
            self.new(_with_suffix(Path(name)))

    def new(self, path: Path) -> None:
        """Make a new plan in a file."""
        if self._bench.create(path, new_plan()):
            self._settings.add_recent(path)

    def ask_open(self) -> None:
        """Ask for a plan and open it."""
        name, _kind = QFileDialog.getOpenFileName(self._parent, "Open a plan", self._folder(), _FILTER)
        if name:
            self.open(Path(name))

    def open(self, path: Path) -> None:
        """Open a plan file."""
        if self._bench.open(path):
            self._settings.add_recent(path)

    def ask_copy(self) -> None:
        """Ask for a place and save a copy there; work goes on in the present file."""
        document = self._bench.document
        if document is None:
            self._bench.say("No plan is open.", "stop")
            return
        name, _kind = QFileDialog.getSaveFileName(self._parent, "Save a copy", str(document.path), _FILTER)
        if not name:
            return
        try:
            document.save_copy(_with_suffix(Path(name)))
        except StoreError as error:
            self._bench.say(str(error), "stop")
        else:
            self._bench.say(f"A copy is in “{Path(name).name}”.")

    def ask_share(self, *, with_ids: bool = False) -> None:
        """Ask for a place and save a copy to be given away there."""
        document = self._bench.document
        if document is None:
            self._bench.say("No plan is open.", "stop")
            return
        suggested = document.path.with_name(document.path.name.removesuffix(SUFFIX) + "-shared" + SUFFIX)
        name, _kind = QFileDialog.getSaveFileName(self._parent, "Save a copy to share", str(suggested), _FILTER)
        if name:
            self.share(_with_suffix(Path(name)), with_ids=with_ids)

    def share(self, path: Path, *, with_ids: bool = False) -> None:
        """Save a copy to be given away: without IDs unless told otherwise, positions only as exactly as allowed."""
        from umbra_awl.core.plan.form import plan_bytes
        from umbra_awl.core.plan.sharing import shareable
        from umbra_awl.desk.parts.saving import save_file

        plan = self._bench.plan
        ids = "with the IDs" if with_ids else "IDs left out"
        said = f"A copy to share is in “{path.name}”: {ids}, position {plan.station.privacy}."
        save_file(self._bench, path, lambda: plan_bytes(shareable(plan, with_ids=with_ids)), said)

    def ask_name(self) -> None:
        """Ask for another name of the plan."""
        name, given = QInputDialog.getText(self._parent, "Name of the plan", "Name:", text=self._bench.plan.name)
        if given and name.strip():
            self._bench.do(rename_plan(name.strip()))

    def open_older(self, path: Path, when: str) -> None:
        """Bring the plan of an older save back, as an edit that can be undone."""
        from umbra_awl.core.plan.edits import Edit

        try:
            older = read_plan(path)
        except StoreError as error:
            self._bench.say(str(error), "stop")
            return
        if self._bench.do(Edit(f"Go back to the save of {when}", lambda _plan: older)):
            self._bench.say(f"This is the plan as saved on {when}. Ctrl Z takes you back; saving keeps it.")

    def menu(self) -> QMenu:
        """The menu as it is now."""
        menu = QMenu(self._parent)
        menu.aboutToHide.connect(menu.deleteLater)
        act(menu, "New plan …", self.ask_new)
        act(menu, "Open …\tCtrl+O", self.ask_open)
        recent = menu.addMenu("Recent")
        assert recent is not None
        for name in self._settings.kept.recent:
            act(recent, Path(name).name, partial(self.open, Path(name)), tip=name)
        recent.setEnabled(bool(self._settings.kept.recent))
        menu.addSeparator()
        act(menu, "Save\tCtrl+S", self._bench.save)
        act(menu, "Save a copy …", self.ask_copy)
        act(menu, "Save a copy to share …", self.ask_share)
        act(menu, "Name the plan …", self.ask_name)
        older = menu.addMenu("Open an older save")
        assert older is not None
        saves = self._bench.document.saves() if self._bench.document else []
        for save in saves[:MOST_SAVES_SHOWN]:
            act(older, save.when, partial(self.open_older, save.path, save.when))
        older.setEnabled(bool(saves))
        return menu


def _with_suffix(path: Path) -> Path:
    return path if path.name.endswith(SUFFIX) else path.with_name(path.name + SUFFIX)
