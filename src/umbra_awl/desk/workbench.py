"""The workbench: the open plan, what is selected, and the results computed from it, as signals.

Widgets show what it holds and ask it to apply edits; they change nothing themselves.
"""

from collections.abc import Mapping
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.findings.model import STAGE_OF, Finding, Target
from umbra_awl.core.plan.edits import Edit, EditRefused
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Mode, OwnedRadio, Plan, Route
from umbra_awl.core.plan.store import Document, StoreError
from umbra_awl.desk.jobs import Jobs

if TYPE_CHECKING:
    from umbra_awl.core.findings.evaluate import Evaluator
    from umbra_awl.core.fit.fitting import Fit
    from umbra_awl.core.trace.model import Trace
    from umbra_awl.desk.profiles import Profiles


class Results(NamedTuple):
    """What was computed from one plan."""

    plan: Plan | None
    fits: "Mapping[str, Fit]"
    findings: tuple[Finding, ...]
    silenced: tuple[Finding, ...] = ()


class Selection(NamedTuple):
    """What is selected: a crossing with the slot looked at, many crossings, or any other thing by its target."""

    service: str = ""
    destination: str = ""
    slot: int = 0
    target: Target | None = None
    many: tuple[tuple[str, str], ...] = ()


class Workbench(QObject):
    """Holds one document at a time."""

    document_changed = pyqtSignal()
    plan_changed = pyqtSignal()
    saved_changed = pyqtSignal()
    selection_changed = pyqtSignal()
    results_changed = pyqtSignal()
    radio_changed = pyqtSignal()
    stage_wanted = pyqtSignal(str)
    said = pyqtSignal(str, str)
    ids_changed = pyqtSignal()
    profiles_changed = pyqtSignal()

    def __init__(self, jobs: Jobs, profiles: "Profiles") -> None:
        super().__init__()
        self.jobs = jobs
        self.profiles = profiles
        self.document: Document | None = None
        self.index = PlanIndex(Plan())
        self.selection = Selection()
        self.results = Results(None, {}, ())
        self.radio_key = ""
        self.ids_shown = False
        self.busy = ""
        self._evaluator: Evaluator | None = None

    @property
    def plan(self) -> Plan:
        """The present plan; an empty one while no document is open."""
        return self.index.plan

    def show_ids(self, shown: bool) -> None:
        """Show the IDs, or mask them again."""
        self.ids_shown = shown
        self.ids_changed.emit()

    def say(self, text: str, kind: str = "say") -> None:
        """Tell the operator something: “say”, or “stop” for a refusal."""
        self.said.emit(text, kind)

    def open(self, path: Path) -> bool:
        """Open a plan file in place of the present one; on failure the present one stays. True when opened."""
        if self._refuses():
            return False
        if self.document is not None and path.exists() and path.resolve() == self.document.path.resolve():
            self.say(f"“{path.name}” is open already.")
            return True
        try:
            document = Document.open(path)
        except StoreError as error:
            self.say(str(error), "stop")
            return False
        self._take(document)
        return True

    def create(self, path: Path, plan: Plan) -> bool:
        """Make a new plan file and open it. True when done."""
        if self._refuses():
            return False
        try:
            document = Document.create(path, plan)
        except StoreError as error:
            self.say(str(error), "stop")
            return False
        self._take(document)
        return True

    def _refuses(self) -> bool:
        """Whether something under way forbids changing the radio or the plan file; says so."""
        if self.busy:
            self.say(self.busy, "stop")
        return bool(self.busy)

    def _take(self, document: Document) -> None:
        if self.document is not None:
            self.document.close()
        self.document = document
        self.selection = Selection()
        self.index = PlanIndex(document.plan)
        self.radio_key = document.plan.radios[0].key if document.plan.radios else ""
        self.results = Results(None, {}, ())
        self.document_changed.emit()
        self._plan_moved()
        if document.recovered:
            edits = "One unsaved edit was" if document.recovered == 1 else f"{document.recovered} unsaved edits were"
            self.say(f"{edits} recovered from the journal. Save to keep, undo is not possible beyond this point.")
        elif document.note:
            self.say(document.note, "stop")

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
            self._plan_moved()
        return changed

    def repair_kind(self, rule: str) -> None:
        """Repair everything one rule finds, as one step; worked out in the background."""
        plan, profiles = self.plan, self.profiles

        def work() -> Edit | str:
            from umbra_awl.core.findings.of_kind import repair_all

            try:
                return repair_all(plan, rule, profiles)
            except EditRefused as error:
                return str(error)

        def take(made: Edit | str) -> None:
            if isinstance(made, str):
                self.say(made, "stop")
            elif self.do(made):
                self.say(f"{made.sentence}. Ctrl Z takes it back.")

        self.jobs.latest("repair", work, take)

    def undo(self) -> None:
        """Go one edit back."""
        self._walk("Undone", back=True)

    def redo(self) -> None:
        """Do an undone edit again."""
        self._walk("Done again", back=False)

    def _walk(self, word: str, *, back: bool) -> None:
        if self.document is None:
            return
        history = self.document.history
        steps = history.past[-1:] if back else history.future[:1]
        try:
            moved = self.document.undo() if back else self.document.redo()
        except StoreError as error:
            self.say(str(error), "stop")
            return
        if moved:
            self._plan_moved()
            self.say(f"{word}: {steps[0].sentence}.")
        else:
            self.say("There is nothing to undo." if back else "There is nothing to do again.")

    def save(self) -> bool:
        """Save the plan. True when done."""
        if self.document is None:
            return False
        try:
            self.document.save(datetime.now())
        except StoreError as error:
            self.say(str(error), "stop")
            return False
        self.saved_changed.emit()
        self.say("Saved.")
        return True

    def _plan_moved(self) -> None:
        assert self.document is not None
        self.index = self.index.after(self.document.plan)
        if self.radio_key not in self.index.radios:
            self.radio_key = next(iter(self.index.radios), "")
        self.plan_changed.emit()
        self.saved_changed.emit()
        index, document = self.index, self.document
        self.jobs.soon(lambda: self.jobs.latest("results", lambda: self._compute(index), self._take_results))
        self.jobs.soon(lambda: self.jobs.latest("sync", document.sync, lambda _none: None))

    def _compute(self, index: PlanIndex) -> Results:
        """Everything that follows from a plan. Runs in the background; what it needs is imported there."""
        from umbra_awl.core.findings.evaluate import Evaluator
        from umbra_awl.core.fit.fitting import fit

        if self._evaluator is None:
            self._evaluator = Evaluator(self.profiles)
        fits = {
            radio.key: fit(index, radio, self.profiles[radio.profile])
            for radio in index.plan.radios
            if radio.profile in self.profiles
        }
        findings = self._evaluator.evaluate(index)
        return Results(index.plan, fits, findings, self._evaluator.silenced)

    def _take_results(self, results: Results) -> None:
        self.results = results
        self.results_changed.emit()

    def reload_profiles(self) -> None:
        """The operator's own profiles changed: read them again and work everything out anew."""
        self.profiles.reload()
        self._evaluator = None
        for fault in self.profiles.faults:
            self.say(fault, "stop")
        if self.document is not None:
            index = self.index
            self.jobs.latest("results", lambda: self._compute(index), self._take_results)
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

    @property
    def radio(self) -> OwnedRadio | None:
        """The chosen radio."""
        return self.index.radios.get(self.radio_key)

    @property
    def fit(self) -> "Fit | None":
        """The fit of the chosen radio, once computed."""
        return self.results.fits.get(self.radio_key)

    @property
    def route(self) -> Route | None:
        """The selected route: the hole of the selected crossing, on the slot looked at where there are two."""
        here = self.index.by_crossing.get((self.selection.service, self.selection.destination), ())
        return next((route for route in here if route.slot == self.selection.slot), here[0] if here else None)

    @property
    def routes_of_many(self) -> tuple[str, ...]:
        """The keys of the routes punched in the many selected crossings."""
        crossings = self.index.by_crossing
        return tuple(route.key for at in self.selection.many for route in crossings.get(at, ()))

    @property
    def carrier(self) -> OwnedRadio | None:
        """The radio that the selected route is followed on: the chosen one, or the first that has the mode where it lacks it."""
        service = self.index.services.get(self.selection.service)
        mode = service[1].mode if service is not None else None
        if mode is None or self._has(self.radio, mode):
            return self.radio
        return next((radio for radio in self.plan.radios if self._has(radio, mode)), self.radio)

    def _has(self, radio: OwnedRadio | None, mode: Mode) -> bool:
        profile = self.profiles.get(radio.profile) if radio is not None else None
        return profile is not None and mode in profile.modes

    def trace(self) -> "Trace | None":
        """The trace of the selected route on the radio that carries it; None while there is none or results are stale."""
        route, radio = self.route, self.carrier
        if route is None or radio is None or self.results.plan is not self.plan or radio.key not in self.results.fits:
            return None
        from umbra_awl.core.trace.keyup import trace

        return trace(self.index, self.results.fits, radio.key, route.key)

    def targets(self) -> set[Target]:
        """The targets that the selection touches, for putting their findings first."""
        found: set[Target] = set()
        if self.selection.target is not None:
            found.add(self.selection.target)
        if self.selection.service:
            found.add(Target("service", self.selection.service))
        if self.selection.destination:
            found.add(Target("destination", self.selection.destination))
        if self.route is not None:
            found.add(Target("route", self.route.key))
        return found

    def show(self, target: Target) -> None:
        """Open the stage of a thing and select it."""
        self.stage_wanted.emit(STAGE_OF[target.kind])
        route = self.index.routes.get(target.key) if target.kind == "route" else None
        if route is not None:
            self.select(Selection(route.service, route.destination, route.slot, target))
        elif target.kind == "service":
            self.select(Selection(service=target.key, target=target))
        elif target.kind == "hotspot":
            self._show_hotspot(target)
        else:
            if target.kind == "radio":
                self.choose_radio(target.key)
            self.select(Selection(target=target))

    def _show_hotspot(self, target: Target) -> None:
        hotspot = next((item for item in self.plan.hotspots if item.key == target.key), None)
        access = self.index.access.get(hotspot.access) if hotspot else None
        service = access.services[0].key if access and access.services else ""
        self.select(Selection(service=service, target=target))

    def close(self) -> None:
        """Let go of the document; unsaved edits stay in its journal."""
        self.jobs.close()
        if self.document is not None:
            self.document.close()
            self.document = None
