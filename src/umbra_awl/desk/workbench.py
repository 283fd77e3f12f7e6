"""The workbench: the open plan, what is selected, and the results computed from it, as signals.

Widgets show what it holds and ask it to apply edits; they change nothing themselves.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

import logging
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.findings.model import Finding, Target
from umbra_awl.core.hotspot.wifi.secrets import Secrets
from umbra_awl.core.keep.atomic import real_path
from umbra_awl.core.keep.clock import Clock
from umbra_awl.core.plan.disk.store import Document
from umbra_awl.core.plan.edit.edits import Edit, EditRefused
from umbra_awl.core.plan.errors import ChangedOutsideError, StoreError
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.known import NOTHING_KNOWN, Known
from umbra_awl.core.plan.model import Plan
from umbra_awl.desk.finding_fields import field_of
from umbra_awl.desk.in_hand import InHand
from umbra_awl.desk.jobs import Jobs
from umbra_awl.desk.one_history import BesideStep, OneHistory
from umbra_awl.desk.opening import Opening
from umbra_awl.desk.reckoning import Basis, Reckoner, Results
from umbra_awl.desk.repairs import Repairs
from umbra_awl.desk.selection import Selection, selection_of

if TYPE_CHECKING:
    from umbra_awl.desk.profiles import Profiles

_log = logging.getLogger(__name__)
_WORKING = "The plan is just being worked out anew."
_NO_FIT = "It could not be worked out what goes into this radio; a finding says why. Nothing is offered to be written or saved."


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
        self.known = NOTHING_KNOWN
        self.basis = Basis(self.index)
        self.selection = Selection()
        self.results = Results()
        self.trouble = ""
        self.radio_key = ""
        self.ids_shown = False
        self.busy = ""
        self.practice = ""
        self.hushed = False
        self.history = OneHistory()
        self.secrets = Secrets()
        self._reckoner = Reckoner(profiles.snapshot)
        self.repairs = Repairs(self)
        self._opening = Opening(jobs, clock, self.say, self._take, self._refuses)

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
        return self._opening.open(path)

    def create(self, path: Path, plan: Plan) -> bool:
        """Make a new plan file and open it; one that is there already is not replaced. True when done."""
        if self._refuses() or not self.reaches_out():
            return False
        try:
            document = Document.create(path, plan, self.clock.local())
        except StoreError as error:
            self.say(str(error), "stop")
            return False
        self._take(document)
        return True

    def reaches_out(self) -> bool:
        """Whether radios, hotspots and other plans may be reached from here; from a practice copy not, which is said."""
        if self.practice:
            self.say(self.practice, "stop")
        return not self.practice

    def _seen(self, results: Results) -> Results:
        """What is shown of results: all of them, unless it is practised to find what is wrong."""
        return results

    def _refuses(self) -> bool:
        """Whether something under way forbids changing the radio or the plan file; says so."""
        if self.busy:
            self.say(self.busy, "stop")
        return bool(self.busy)

    def _take(self, document: Document) -> None:
        self._opening.forget()
        if self.document is not None:
            self.document.close()
        self.document = document
        self.history.clear()
        self.selection = Selection()
        self.index = PlanIndex(document.plan, self.clock.today())
        self.radio_key = document.plan.radios[0].key if document.plan.radios else ""
        self.results = Results()
        self.repairs.forget()
        self.document_changed.emit()
        self._plan_moved()
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
            self.history.edited()
            self._plan_moved()
        return changed

    def do_told(self, edit: Edit, meaning: str = "") -> bool:
        """Apply an edit that takes something away, and say what it means and how it comes back. True when the plan changed."""
        done = self.do(edit)
        if done:
            self.say(" ".join(filter(None, (f"{edit.sentence}.", meaning, "Ctrl Z takes it back."))), "did")
        return done

    def undo(self) -> None:
        """Go one edit back."""
        self._walk("Undone", back=True)

    def redo(self) -> None:
        """Do an undone edit again."""
        self._walk("Done again", back=False)

    def did_beside(
        self, sentence: str, back: Callable[[], bool], again: Callable[[], bool], *, along: bool = False
    ) -> None:
        """Take note of something done beside the plan, so that undo takes it back in its turn; `along` with the last edit."""
        self.history.did(BesideStep(sentence, back, again, self.plan, along))
        self.saved_changed.emit()

    def _walk(self, word: str, *, back: bool) -> None:
        if self.document is None:
            return
        history, before = self.history, self.document.plan
        sentence = history.next_back(self.document) if back else history.next_again(self.document)
        try:
            moved = history.back(self.document) if back else history.again(self.document)
        except StoreError as error:
            self.say(str(error), "stop")
            return
        if self.document.plan is not before:
            self._plan_moved()
        self.saved_changed.emit()
        if moved:
            self.say(f"{word}: {sentence}.")
        elif not sentence:
            self.say("There is nothing to undo." if back else "There is nothing to do again.")

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
        self._plan_moved()
        self.say(said)
        return True

    def follow_day(self) -> None:
        """Begin a new day where the clock has: what counts from a day on, a licence first of all, counts from now on."""
        if self.document is not None and self.clock.today() != self.index.today:
            self.index = PlanIndex(self.plan, self.clock.today())
            self._reckoner = Reckoner(self.profiles.snapshot)
            self._plan_moved()

    def _plan_moved(self) -> None:
        assert self.document is not None
        self.index = self.index.after(self.document.plan)
        self.basis, self.trouble = Basis(self.index, self.known), ""
        if self.radio_key not in self.index.radios:
            self.radio_key = next(iter(self.index.radios), "")
        self.plan_changed.emit()
        self.saved_changed.emit()
        document = self.document
        self.jobs.soon(self._reckon)
        self.jobs.soon(lambda: self.jobs.latest("sync", document.sync, lambda _none: None, lane="saves"))

    def _reckon(self) -> None:
        """Have everything worked out that follows from the plan of the moment."""
        basis, reckoner, first = self.basis, self._reckoner, self.radio_key
        self.jobs.latest(
            "results", lambda: reckoner.reckon(basis, first), self._take_results, self._no_results, lane="plan"
        )

    def _take_results(self, results: Results) -> None:
        self.results, self.trouble = self._seen(results), ""
        self.results_changed.emit()
        self.repairs.do_wanted()
        self._reckon_more()

    def _reckon_more(self) -> None:
        """Fit the radios that are still waiting, one after another, the chosen one first; an edit comes between."""
        results, reckoner = self.results, self._reckoner
        if results.waiting and self.fresh:
            key = self.radio_key if self.radio_key in results.waiting else results.waiting[0]
            self.jobs.latest(
                "results", lambda: reckoner.more(results, key), self._take_more, self._no_results, lane="plan"
            )

    def _take_more(self, results: Results) -> None:
        chosen = self.radio_key in self.results.waiting and self.radio_key not in results.waiting
        self.results = self._seen(results)
        if chosen or not results.waiting:
            self.results_changed.emit()
        self._reckon_more()

    def _no_results(self, error: Exception) -> None:
        """Nothing could be worked out: what there is stays marked as of another plan, and is not used."""
        self.repairs.forget()
        self.trouble = (
            f"The plan could not be worked out ({type(error).__name__}): nothing is written, printed or saved from it. Undo the "
            "last edit; “Copy what happened” puts what is needed to mend it on the clipboard."
        )
        self.say(self.trouble, "stop")
        self.results_changed.emit()

    @property
    def fresh(self) -> bool:
        """Whether the results are of the present plan and profiles."""
        return self.results.basis is self.basis

    def holds(self, basis: Basis | None) -> bool:
        """Whether something made of a basis is still in force."""
        return basis is self.basis

    def may_use(self, basis: Basis | None) -> bool:
        """The same for something that is to be written, printed or saved: where it is not in force, that is said."""
        if self.holds(basis):
            return True
        self.say(f"{self.trouble or _WORKING} Nothing was written; look again and repeat.", "stop")
        return False

    def failed(self, radio_key: str) -> bool:
        """Whether nothing can be known about a radio: the plan, or its fit, could not be worked out."""
        done = self.fresh and radio_key not in self.results.waiting
        return bool(self.trouble) or (done and radio_key not in self.results.fits)

    def waiting_words(self, radio_key: str) -> str:
        """Why there is nothing on a radio just now; empty when there is."""
        if self.trouble:
            return self.trouble
        if not self.fresh or radio_key in self.results.waiting:
            return _WORKING
        return _NO_FIT if radio_key not in self.results.fits else ""

    def reload_profiles(self) -> None:
        """The operator's own profiles changed: read them again and work everything out anew."""
        self.profiles.reload()
        self._reckoner = Reckoner(self.profiles.snapshot)
        for fault in self.profiles.faults:
            self.say(fault, "stop")
        if self.document is not None:
            self.basis = Basis(self.index, self.known)
            self._reckon()
        self.profiles_changed.emit()

    def know(self, known: Known) -> None:
        """Take what the directory says of the plan's things, and look for findings again where it is something new."""
        if known != self.known:
            self.known = known
            self.basis = Basis(self.index, known)
            self._reckon()

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
