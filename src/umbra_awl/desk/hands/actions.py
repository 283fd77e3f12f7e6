"""What can be done with plans from other hands: merge one, follow a club's, make a pack, look into one and take its parts."""

from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtWidgets import QFileDialog, QWidget

from umbra_awl.core.agenda.steps import template_text
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.hands.ancestor import ancestor_of
from umbra_awl.core.hands.bands import narrowed
from umbra_awl.core.hands.followed import FollowedPlan, follow
from umbra_awl.core.hands.kinds import IN_PLAN, KINDS, parse_band_plan
from umbra_awl.core.hands.pack import PackError, PackPart, make_pack, own_parts, read_pack, read_pack_file
from umbra_awl.core.hands.taking import as_kept
from umbra_awl.core.keep.atomic import write_new
from umbra_awl.core.keep.limits import SETTINGS_BYTES, plain_reason, read_within
from umbra_awl.core.keep.naming import free_path, readable_name
from umbra_awl.core.plan.disk.file_form import parse_plan
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.model import Plan
from umbra_awl.desk.hands.following import NONE, PLANS, Following
from umbra_awl.desk.hands.merge_window import Base, MergeSource, MergeWindow
from umbra_awl.desk.hands.pack_window import PackWindow
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.saving import ask_place, save_file
from umbra_awl.desk.theme.theme import Theme

_PACKS = "Club packs (*.zip)"


class Hands:
    """The actions. `folder` is where own profiles and layouts lie."""

    def __init__(self, bench: Workbench, theme: Theme, parent: QWidget, folder: Callable[[], Path]) -> None:
        self.following = Following(self)
        self.bench, self._theme, self.parent, self._folder = bench, theme, parent, folder

    @property
    def plan_file(self) -> Path | None:
        document = self.bench.document
        if document is None:
            self.bench.say("Open a plan first, or make a new one.", "stop")
            return None
        return document.real

    # merging

    def ask_merge(self) -> None:
        """Ask for another plan and merge it."""
        file = self.plan_file
        if file is None:
            return
        name, _kind = QFileDialog.getOpenFileName(self.parent, "Merge another plan", str(file.parent), PLANS)
        if name:
            self.merge(Path(name))

    def merge(self, path: Path) -> None:
        """Merge another plan into the open one."""
        file = self.plan_file
        if file is None:
            return
        self.with_plan(path, lambda theirs: self._merge(file, path, theirs))

    def with_plan(self, path: Path, done: Callable[[Plan], None], before: str = "") -> None:
        """Read another plan, and go on with it if this one is still open then; a refusal is said."""
        document = self.bench.document

        def taken(plan: Plan) -> None:
            if self.bench.document is document:
                done(plan)

        def failed(error: Exception) -> None:
            self.bench.say(f"{before}{plain_reason(error)}", "stop")

        self.bench.jobs.read("another plan", read_plan, path, done=taken, failed=failed)

    def _merge(self, file: Path, path: Path, theirs: Plan) -> None:
        found = ancestor_of(file, self.bench.plan, path, theirs)
        bases = [NONE]
        if found is not None:
            bases.insert(0, Base(found.words, found.plan))
        self.open(MergeSource(f"“{path.name}”", theirs, bases))

    def open(self, source: MergeSource) -> None:
        MergeWindow(self.bench, self._theme, self.parent, source).exec()

    # a club's plan

    def keep(self, file: Path, found: FollowedPlan, before: Plan | None, now: Plan, *, along: bool) -> None:
        """Keep up to where the news were taken; undo forgets it again, in one step with the news that were merged."""

        def put(plan: Plan | None) -> bool:
            try:
                follow(file, Path(found.path), plan, found.what)
            except StoreError as error:
                self.bench.say(str(error), "stop")
                return False
            return True

        if put(now):
            self.bench.steps.did_beside(
                "The club's news were taken", lambda: put(before), lambda: put(now), along=along
            )

    # packs

    def ask_make(self) -> None:
        """Make a club pack of what is here, in one step."""
        file = self.plan_file
        if file is None:
            return
        plan = self.bench.plan
        try:
            data = make_pack(plan.name, self.bench.clock.today().isoformat(), own_parts(plan, self._own_files(plan)))
        except PackError as error:
            self.bench.say(str(error), "stop")
            return
        parts = len(read_pack(data).parts)
        name = f"{readable_name(plan.name, 'club')} pack.zip"
        place = ask_place(self.parent, "Save a club pack", file.with_name(name), _PACKS, ".zip")
        if place is not None:
            said = f"Saved a pack of {counted(parts, 'part')}. "
            said += "Of the plan only what may be told is in it: no IDs, people, trips or notes."
            save_file(self.bench, place, lambda: data, said)

    def _own_files(self, plan: Plan) -> list[tuple[str, str, str]]:
        """One's own profiles, layouts, rules and templates that can be used, and the plan's steps as a template."""
        made = []
        for key, kind in KINDS.items():
            for path in sorted((self._folder() / kind.folder).glob(f"*{kind.ending}")) if key not in IN_PLAN else ():
                try:
                    text = read_within(path, SETTINGS_BYTES).decode("utf-8")
                    made.append((key, kind.check(text, path.name), text))
                except (OSError, ValueError):
                    continue
        if plan.steps:
            people = plan.station.identities
            told = template_text(f"Steps of {plan.name}", "As the club does it", plan.steps, people)
            made.append(("steps", "steps", told))
        return made

    def ask_open(self) -> None:
        """Ask for a pack and look into it."""
        name, _kind = QFileDialog.getOpenFileName(self.parent, "Look into a club pack", str(Path.home()), _PACKS)
        if name:
            self.look_into(Path(name))

    def look_into(self, path: Path) -> None:
        """Look into a pack; its parts can be taken one by one."""
        self.bench.jobs.read(
            "pack",
            read_pack_file,
            path,
            done=lambda pack: PackWindow(self._theme, self.parent, pack, self._here, self.take).exec(),
            failed=lambda error: self.bench.say(f"“{path.name}” was not looked into. {plain_reason(error)}", "stop"),
        )

    def _here(self, part: PackPart) -> str:
        """What there is already of a part."""
        if part.kind in IN_PLAN:
            return "goes into the plan"
        texts = self._kept(part)
        kept = as_kept(part, self.bench.profiles.snapshot())
        if part.text in texts or not kept.text:
            return "here already"
        return "another of that name is here" if texts or kept.words else "new"

    def _kept(self, part: PackPart) -> list[str]:
        """The texts of own files that hold what a part is called."""
        kind, found = KINDS[part.kind], []
        for path in sorted((self._folder() / kind.folder).glob(f"*{kind.ending}")):
            try:
                text = read_within(path, SETTINGS_BYTES).decode("utf-8")
                if kind.check(text, "it")[:120] == part.title:
                    found.append(text)
            except (OSError, ValueError):
                continue
        return found

    def take(self, part: PackPart) -> str:
        """Take a part; what became of it."""
        if part.kind == "plan":
            if self.bench.document is None:
                return "Open a plan first, or make a new one: the pack's plan is merged into it."
            before = self.bench.plan
            self.open(MergeSource(f"the pack's plan “{part.title}”", parse_plan(part.text.encode()), [NONE]))
            return "Merged." if self.bench.plan is not before else "Nothing was merged."
        if part.kind == "band-plan":
            return self._take_bands(part)
        return self._take_file(part)

    def _take_file(self, part: PackPart) -> str:
        if part.text in self._kept(part):
            return f"“{part.title}” is here already, the very same."
        kept = as_kept(part, self.bench.profiles.snapshot())
        if not kept.text:
            return kept.words
        kind = KINDS[part.kind]
        folder = self._folder() / kind.folder
        path = free_path(folder, readable_name(part.title, "part"), kind.ending)
        try:
            folder.mkdir(parents=True, exist_ok=True)
            write_new(path, kept.text.encode())
        except OSError as error:
            return f"It cannot be kept: {error.strerror or error}. Nothing was taken."
        if part.kind == "profile":
            self.bench.reload_profiles()
        done = f"Taken: {kind.words} “{part.title}”, kept as {path.name}. Nothing of yours was replaced."
        return f"{done} {kept.words}".rstrip()

    def _take_bands(self, part: PackPart) -> str:
        made = parse_band_plan(part.text)
        outside = narrowed(self.bench.plan.station, made.bands).outside

        def apply(plan: Plan) -> Plan:
            bands = narrowed(plan.station, made.bands).bands
            station = replace(plan.station, uses=made.uses or plan.station.uses, bands=bands)
            return replace(plan, station=station)

        done = self.bench.do(Edit(f"Take the band plan “{part.title}”", apply))
        said = "Taken into the plan; Ctrl Z takes it back." if done else "The plan has it already, or cannot take it."
        return f"{said} {outside}".rstrip()
