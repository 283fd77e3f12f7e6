"""The plan's menu: new, open, recent, save, copy, older saves.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

import os
from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QInputDialog, QMenu, QWidget

from umbra_awl.core.keep.atomic import real_path
from umbra_awl.core.plan.disk.saves import SUFFIX
from umbra_awl.core.plan.disk.store import read_plan, replace_plan, write_plan
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.model import Identity, Plan, Station
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.asking import ask
from umbra_awl.desk.parts.saving import FilePlace, ask_place, with_suffix
from umbra_awl.desk.parts.widgets import act
from umbra_awl.desk.settings import Settings

_FILTER = f"Plans (*{SUFFIX})"
MOST_SAVES_SHOWN = 12
_POSITIONS = {"exact": "position exact", "locator": "position by locator", "none": "no position"}
_OPEN_IT, _OTHER_NAME = "Open it", "Choose another name"


def own_plans() -> Path:
    """The folder where plans are kept that were begun without choosing a file."""
    from platformdirs import user_data_path

    return user_data_path("umbra-awl") / "plans"


def new_plan() -> Plan:
    """An empty plan with a place for its owner."""
    return Plan(station=Station((Identity("owner"),)))


class PlanActions:
    """What can be done with plan files."""

    def __init__(
        self, bench: Workbench, settings: Settings, parent: QWidget, hands: Callable[[str], Callable[[], object]]
    ) -> None:
        """`hands` gives what does one of the things that can be done with plans from other hands."""
        self._bench, self._hands = bench, hands
        self._settings = settings
        self._parent = parent

    def _folder(self) -> str:
        document = self._bench.document
        return str(document.path.parent) if document else str(Path.home())

    def begin(self) -> bool:
        """Begin a new plan in the folder of this user's plans; it is named when it is first saved. True when done."""
        folder = own_plans()
        try:
            folder.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            self._bench.say(f"No plan can be kept in “{folder}”: {error.strerror}. Choose a file for it.", "stop")
            self.ask_new()
            return self._bench.document is not None
        number = 1
        while os.path.lexists(path := folder / f"plan-{number}{SUFFIX}"):
            number += 1
        self.new(path)
        return self._bench.document is not None and self._bench.document.path == path

    def save(self) -> bool:
        """Save the plan; one that was begun without a name is asked for it first."""
        document = self._bench.document
        if document is not None and document.path.parent == own_plans() and self._bench.plan.name == Plan().name:
            self.ask_name()
        return self._bench.save()

    def ask_new(self) -> None:
        """Ask for a place and make a new plan there; a plan that is there already is opened, or another name is given."""
        suggested = f"{self._folder()}/my-plan{SUFFIX}"
        name, _kind = QFileDialog.getSaveFileName(
            self._parent, "New plan", suggested, _FILTER, options=QFileDialog.Option.DontConfirmOverwrite
        )
        if not name:
            return
        path = with_suffix(Path(name), SUFFIX)
        if not os.path.lexists(path):
            self.new(path)
            return
        question = f"“{path.name}” is there already. A new plan never replaces another one."
        answer = ask(self._parent, "New plan", question, [_OPEN_IT, _OTHER_NAME])
        if answer == _OPEN_IT:
            self.open(path)
        elif answer == _OTHER_NAME:
            self.ask_new()

    def new(self, path: Path) -> None:
        """Make a new plan in a file that is not there yet."""
        if self._bench.opening.create(path, new_plan()):
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
        self._ask_copy("Save a copy", "", self.copy)

    def ask_share(self, *, with_ids: bool = False) -> None:
        """Ask for a place and save a copy to be given away there."""
        self._ask_copy("Save a copy to share", "-shared", lambda place: self.share(place, with_ids=with_ids))

    def _ask_copy(self, title: str, mark: str, save: Callable[[FilePlace], object]) -> None:
        document = self._bench.document
        if document is None:
            self._bench.say("No plan is open.", "stop")
            return
        suggested = document.path.with_name(document.path.name.removesuffix(SUFFIX) + mark + SUFFIX)
        place = ask_place(self._parent, title, suggested, _FILTER, SUFFIX)
        if place is not None:
            save(place)

    def copy(self, place: FilePlace) -> bool:
        """Save a copy of the present plan. True when done."""
        return self._put(place, self._bench.plan, f"A copy is in “{place.path.name}”.")

    def share(self, place: FilePlace, *, with_ids: bool = False) -> bool:
        """Save a copy to be given away: only what may be told, own IDs only where told so. True when done."""
        from umbra_awl.core.plan.sharing import shareable

        plan = self._bench.plan
        ids = "with your own IDs" if with_ids else "IDs left out"
        said = (
            f"A copy to share is in “{place.path.name}”: {ids}, {_POSITIONS[plan.station.privacy]}; no other people, no trips, "
            "steps, notes or reasons, no licence."
        )
        return self._put(place, shareable(plan, with_ids=with_ids), said)

    def _put(self, place: FilePlace, plan: Plan, said: str) -> bool:
        document = self._bench.document
        try:
            if document is not None and real_path(place.path) == document.real:
                raise StoreError(f"“{place.path.name}” is the plan you have open. Save it, or choose another name.")
            if place.replace:
                replace_plan(place.path, plan, self._bench.clock.local())
            else:
                write_plan(place.path, plan)
        except StoreError as error:
            self._bench.say(str(error), "stop")
            return False
        self._bench.say(said)
        return True

    def ask_name(self) -> None:
        """Ask for another name of the plan."""
        name, given = QInputDialog.getText(self._parent, "Name of the plan", "Name:", text=self._bench.plan.name)
        if given and name.strip():
            self._bench.do(rename_plan(name.strip()))

    def open_older(self, path: Path, when: str) -> None:
        """Bring the plan of an older save back, as an edit that can be undone."""
        from umbra_awl.core.hands.merge import brought_back
        from umbra_awl.core.plan.edit.edits import Edit

        try:
            older = read_plan(path)
        except StoreError as error:
            self._bench.say(str(error), "stop")
            return
        if self._bench.do(Edit(f"Go back to the save of {when}", lambda plan: brought_back(plan, older))):
            self._bench.say(
                f"This is the plan as saved on {when}, with your licence, guard and bands as they are now. Ctrl Z "
                "takes you back; saving keeps it."
            )

    def menu(self) -> QMenu:
        """The menu as it is now."""
        menu = QMenu(self._parent)
        menu.aboutToHide.connect(menu.deleteLater)
        act(menu, "New plan\tCtrl+N", self.begin)
        act(menu, "New plan in a file …", self.ask_new)
        act(menu, "Open …\tCtrl+O", self.ask_open)
        recent = menu.addMenu("Recent")
        assert recent is not None
        for name in self._settings.kept.recent:
            act(recent, Path(name).name, partial(self.open, Path(name)), tip=name)
        recent.setEnabled(bool(self._settings.kept.recent))
        menu.addSeparator()
        act(menu, "Save\tCtrl+S", self.save)
        act(menu, "Save a copy …", self.ask_copy)
        act(menu, "Save a copy to share …", self.ask_share)
        act(menu, "Name the plan …", self.ask_name)
        self._add_hands(menu)
        older = menu.addMenu("Open an older save")
        assert older is not None
        saves = self._bench.document.saves() if self._bench.document else []
        for save in saves[:MOST_SAVES_SHOWN]:
            act(older, save.when, partial(self.open_older, save.path, save.when))
        older.setEnabled(bool(saves))
        return menu

    def _add_hands(self, menu: QMenu) -> None:
        """Add what can be done with plans from other hands."""
        others = menu.addMenu("From other hands")
        assert others is not None
        for name, text in (
            ("ask_merge", "Merge another plan …"),
            ("ask_follow", "Follow a club's plan …"),
            ("show_news", "News of the club's plan"),
            ("leave", "Follow it no more"),
            ("ask_make", "Make a club pack …"),
            ("ask_open", "Look into a club pack …"),
        ):
            act(others, text, self._hands(name))
