"""The workbench: the open plan, what is selected, and the results computed from it, as signals.

Widgets show what it holds and ask it to apply edits; they change nothing themselves.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.findings.model import Finding, Target
from umbra_awl.core.hotspot.wifi.secrets import Secrets
from umbra_awl.core.keep.atomic import real_path
from umbra_awl.core.keep.clock import Clock
from umbra_awl.core.keep.notes import DiaryNotes
from umbra_awl.core.plan.disk.store import Document
from umbra_awl.core.plan.edit.edits import Edit, EditRefused
from umbra_awl.core.plan.errors import ChangedOutsideError, StoreError
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan
from umbra_awl.desk.finding_fields import field_of
from umbra_awl.desk.held.in_hand import InHand
from umbra_awl.desk.held.opening import Opening
from umbra_awl.desk.held.repairs import Repairs
from umbra_awl.desk.held.selection import Selection, selection_of
from umbra_awl.desk.held.undo_redo import UndoRedo
from umbra_awl.desk.held.worked import WorkedOut
from umbra_awl.desk.jobs import Jobs

if TYPE_CHECKING:
    from umbra_awl.desk.profiles import Profiles

_log = DiaryNotes(__name__)


class Workbench(InHand, QObject):
    """Holds one document at a time."""

    document_changed = pyqtSignal()
    plan_changed = pyqtSignal()
    saved_changed = pyqtSignal()
    selection_changed = pyqtSignal()
    results_changed = pyqtSignal()
    radio_changed = pyqtSignal()
    stage_wanted = pyqtSignal(str)
    target_wanted = pyqtSignal(object, str)
    where_wanted = pyqtSignal(object)
    said = pyqtSignal(str, str)
    ids_changed = pyqtSignal()
    profiles_changed = pyqtSignal()
    outside_noticed = pyqtSignal()
    closing = pyqtSignal()
    ask_wanted = pyqtSignal()

    def __init__(self, jobs: Jobs, profiles: "Profiles", clock: Clock) -> None:
        super().__init__()
        self.jobs = jobs
        self.profiles = profiles
        self.document: Document | None = None
        self.clock = clock
        self.index = PlanIndex(Plan(), clock.today())
        self.selection = Selection()
        self.radio_key = ""
        self.ids_shown = False
        self.busy = ""
        self.practice = ""
        self.hushed = False
        self.steps = UndoRedo(self)
        self.secrets = Secrets()
        self.worked = WorkedOut(self, self.index)
        self.repairs = Repairs(self)
        self.opening = Opening(jobs, clock, self.say, self._take, self._refuses, self.reaches_out)

    @property
    def plan(self) -> Plan:
        """The present plan; an empty one while no document is open."""
        return self.index.plan

    def show_ids(self, shown: bool) -> None:
        """Show the IDs, or mask them again."""
        self.ids_shown = shown
        self.ids_changed.emit()

    def say(self, text: str, kind: str = "say") -> None:
        """Tell the operator something: “say”, “did” with its undo, “stop” for a refusal, “report” of a file, which stays."""
        self.said.emit(text, kind)

    def open(self, path: Path) -> bool:
        """Open a plan file in place of the present one; on failure the present one stays. True when opened or on its way."""
        if self._refuses() or not self.reaches_out():
            return False
        if self.document is not None and real_path(path) == self.document.real:
            self.say(f"“{path.name}” is open already.")
            return True
        return self.opening.open(path)

    def reaches_out(self) -> bool:
        """Whether radios, hotspots and other plans may be reached from here; from a practice copy not, which is said."""
        if self.practice:
            self.say(self.practice, "stop")
        return not self.practice

    def _refuses(self) -> bool:
        """Whether something under way forbids changing the radio or the plan file; says so."""
        if self.busy:
            self.say(self.busy, "stop")
        return bool(self.busy)

    def _take(self, document: Document) -> None:
        self.opening.forget()
        if self.document is not None:
            self.document.close()
        self.document = document
        self.steps.order.clear()
        self.selection = Selection()
        self.index = PlanIndex(document.plan, self.clock.today())
        self.radio_key = document.plan.radios[0].key if document.plan.radios else ""
        self.worked.forget()
        self.repairs.forget()
        self.document_changed.emit()
        self.plan_moved()
        if document.news:
            self.say(document.news, "stop" if document.notes else "say")

    def do(self, edit: Edit) -> bool:
        """Apply an edit to the plan; a refusal is said and changes nothing. True when the plan changed."""
        if self.document is None:
            self.say("No plan is open. Open one, or make a new plan.", "stop")
            return False
        try:
            changed = self.document.edit(edit)
        except (EditRefused, StoreError) as error:
            self.say(str(error), "stop")
            return False
        except KeyError:
            self.say("That thing is no longer in the plan. Look again and repeat.", "stop")
            return False
        if changed:
            self.steps.order.edited()
            self.plan_moved()
        return changed

    def do_told(self, edit: Edit, meaning: str = "") -> bool:
        """Apply an edit that takes something away, and say what it means and how it comes back. True when the plan changed."""
        done = self.do(edit)
        if done:
            self.say(" ".join(filter(None, (f"{edit.sentence}.", meaning, "Ctrl Z takes it back."))), "did")
        return done

    def save(self, *, over_theirs: bool = False) -> bool:
        """Save the plan. True when done. A file that another program has changed is asked about first."""
        if self.document is None:
            return False
        try:
            self.document.save(self.clock.local(), over_theirs=over_theirs)
        except ChangedOutsideError as error:
            self.say(str(error), "stop")
            self.outside_noticed.emit()
            return False
        except StoreError as error:
            self.say(str(error), "stop")
            return False
        self.saved_changed.emit()
        self.say("Saved. What another program had written is among the older saves." if over_theirs else "Saved.")
        return True

    def settle(self, way: Callable[[Document], object], said: str) -> bool:
        """Do one way of settling a change from outside, and go on from what the document holds then. True when done."""
        if self.document is None:
            return False
        try:
            way(self.document)
        except (StoreError, EditRefused) as error:
            self.say(str(error), "stop")
            return False
        self.plan_moved()
        self.say(said)
        return True

    def follow_day(self) -> None:
        """Begin a new day where the clock has: what counts from a day on, a licence first of all, counts from now on."""
        if self.document is not None and self.clock.today() != self.index.today:
            self.index = PlanIndex(self.plan, self.clock.today())
            self.worked.renew()
            self.plan_moved()

    def plan_moved(self) -> None:
        """The document's plan is another one: everything follows it."""
        assert self.document is not None
        self.index = self.index.after(self.document.plan)
        self.worked.follow(self.index)
        if self.radio_key not in self.index.radios:
            self.radio_key = next(iter(self.index.radios), "")
        self.plan_changed.emit()
        self.saved_changed.emit()
        document = self.document
        self.jobs.soon(self.worked.reckon)
        self.jobs.soon(lambda: self.jobs.latest("sync", document.sync, lambda _none: None, lane="saves"))

    def reload_profiles(self) -> None:
        """The operator's own profiles changed: read them again and work everything out anew."""
        self.profiles.reload()
        self.worked.renew()
        for fault in self.profiles.faults:
            self.say(fault, "stop")
        if self.document is not None:
            self.worked.again()
        self.profiles_changed.emit()

    def select(self, selection: Selection) -> None:
        """Select something."""
        if selection != self.selection:
            self.selection = selection
            self.selection_changed.emit()

    def choose_radio(self, key: str) -> None:
        """Make a radio the one that names and traces are shown for."""
        if key in self.index.radios and key != self.radio_key and not self._refuses():
            self.radio_key = key
            self.radio_changed.emit()

    def show(self, target: Target, field: str = "") -> None:
        """Open the page of a thing, select it, and put the cursor into a field of it."""
        if target.kind == "radio":
            self.choose_radio(target.key)
        self.target_wanted.emit(target, field)
        self.select(selection_of(self.index, target))

    def show_finding(self, finding: Finding) -> None:
        """Open the very field that a finding is about."""
        self.show(finding.target, field_of(finding))

    def close(self) -> None:
        """Let go of the document; unsaved edits stay in its journal."""
        self.closing.emit()
        self.jobs.close()
        if self.document is not None:
            self.document.close()
            self.document = None
