"""Bringing a radio in: what was understood of its memory, what would be found then, and a plan made of it or joined with it."""

from pathlib import Path
from typing import NamedTuple

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QComboBox, QInputDialog, QWidget

from umbra_awl.core.bring.joining import as_plan, bring_into
from umbra_awl.core.bring.likeliest import likeliest
from umbra_awl.core.bring.recognise import RecognisedMemory, recognise
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.findings.evaluate import Evaluator
from umbra_awl.core.plan.disk.saves import SUFFIX
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile import Profile
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.tips import plain
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, card, column, row, words
from umbra_awl.desk.parts.wrap import WrapList
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.files.bring_sources import Source, Sources
from umbra_awl.desk.transfer.files.columns_editor import ColumnsEditor

_TEACH = (
    "Your radio is programmed already? Then begin here. Its memory is taken apart. One frequency pair with one color code is one "
    "service; what is called becomes a destination. Each channel becomes a route, each zone a zone. You see what was understood "
    "and what was not before anything is made of it."
)
_TONES = {"understood": "", "doubtful": "brass", "not understood": "stop"}


class FoundTable(NamedTuple):
    """What a memory was understood as, and the findings that the plan would then have."""

    brought: RecognisedMemory
    findings: tuple[str, ...]


class BringPage(QWidget):
    """The canvas page; `side` says what was understood."""

    def __init__(self, bench: Workbench, theme: Theme, runner: Runner) -> None:
        super().__init__()
        self._bench = bench
        self.found: FoundTable | None = None
        self.source: Source | None = None
        outer = column(self, 6)
        line = row(gap=6)
        self.sources = Sources(bench, runner)
        self.sources.found.connect(self.take)
        line.addWidget(self.sources.button)
        self._where = words("", "second", wrap=True)
        line.addWidget(self._where, 1)
        outer.addLayout(line)
        self._acts = self._act_line()
        outer.addWidget(self._acts)
        self._teach = self._teaching()
        outer.addWidget(self._teach, 1)
        self.table = RowsTable(
            theme,
            "What each channel was understood as",
            "Choose a file, a card or a radio: each channel stands here with what it was understood as.",
        )
        outer.addWidget(self.table, 1)
        self.columns = ColumnsEditor(bench, theme, "not used")
        self.columns.changed.connect(self._take_corrected)
        outer.addWidget(self.columns, 1)
        self.side = self._side()
        self._fresh = WhenChanged(self, lambda: (bench.plan,), self._again)
        bench.plan_changed.connect(self._fresh.check)
        bench.document_changed.connect(self.forget)
        self._show()

    def _act_line(self) -> QWidget:
        """What is looked at, which radio it is of, and what is made of it."""
        line = QWidget()
        inner = row(line, 6)
        self.views = Tabs(("Channels", "Columns"), self._show_view, gap=0)
        inner.addWidget(self.views)
        inner.addStretch(1)
        inner.addWidget(words("Add the radio", "second"))
        self.radio = QComboBox()
        self.radio.setMaxVisibleItems(30)
        self.radio.setAccessibleName("Which radio is added with it")
        self.radio.currentIndexChanged.connect(lambda _at: self._say_radio())
        inner.addWidget(self.radio)
        self.into = button("Bring into this plan", self.bring, "main")
        self.fresh = button("Make a new plan …", self.ask_plan)
        inner.addWidget(self.into)
        inner.addWidget(self.fresh)
        return line

    def _show_view(self, at: int) -> None:
        self.views.mark(at)
        shown = self.found is not None
        self.table.setVisible(shown and at == 0)
        self.columns.setVisible(shown and at == 1)

    def _offer_radios(self, source: Source) -> None:
        """Offer the radio that it is likeliest of; none where it came from a radio that the plan has."""
        self.radio.blockSignals(True)
        self.radio.clear()
        self.radio.addItem("none", "")
        ranked = likeliest(source.memory, self._bench.profiles.values())
        for item in ranked:
            fits = "all of it fits" if not item.misses else "not all fits"
            self.radio.addItem(f"{item.profile.name} ({fits})", item.profile.key)
            self.radio.setItemData(self.radio.count() - 1, plain("\n".join(item.misses)), Qt.ItemDataRole.ToolTipRole)
        known = source.profile is not None and any(
            radio.profile == source.profile.key for radio in self._bench.plan.radios
        )
        wanted = source.profile.key if source.profile is not None else ranked[0].profile.key if ranked else ""
        self.radio.setCurrentIndex(0 if known else max(self.radio.findData(wanted), 0))
        self.radio.blockSignals(False)

    @property
    def chosen(self) -> Profile | None:
        """The profile of the radio that is added with it."""
        return self._bench.profiles.get(str(self.radio.currentData() or ""))

    def _say_radio(self) -> None:
        """Another radio is chosen: the into button stands even where nothing else is new."""
        self.into.setEnabled(self.found is not None and bool(self.found.brought.fresh or self.chosen))

    def _take_corrected(self) -> None:
        """A column was corrected: read the files again by it."""
        source = self.source
        if source is not None and source.files is not None and self.columns.layout_now != source.files.layout:
            self.sources.take_files(list(source.files.paths), self.columns.layout_now)

    def _teaching(self) -> QWidget:
        """What this page is for, and the ways to begin, while nothing is taken."""
        frame = card()
        outer = column(frame, 8, 16)
        outer.addWidget(words("Begin with the radio you have", "title"))
        outer.addWidget(words(_TEACH, wrap=True))
        for label, does, tells in (
            (
                "Take files …",
                self.sources.ask_files,
                "CSV of another program; columns are guessed, or a layout fits.",
            ),
            ("Take a memory file …", self.sources.ask_memory, "What this program has kept of a radio."),
        ):
            line = row(gap=8)
            line.addWidget(button(label, does))
            line.addWidget(words(tells, "second", wrap=True), 1)
            outer.addLayout(line)
        cable = (
            "By cable or card: read it there first; then it is in the list “Take it from …”, and so are its backups."
        )
        outer.addWidget(words(cable, "second", wrap=True))
        outer.addStretch(1)
        return frame

    def _side(self) -> QWidget:
        side = QWidget()
        outer = column(side, 6)
        outer.addWidget(words("What was understood", "title"))
        self.notes = WrapList()
        self.notes.setAccessibleName("What was understood of the radio, what is doubtful, what was not understood")
        outer.addWidget(self.notes, 2)
        outer.addWidget(words("What would be found then", "title"))
        self.findings = WrapList()
        self.findings.setAccessibleName("Findings that the plan would have with it")
        outer.addWidget(self.findings, 1)
        return side

    def take_focus(self) -> None:
        """Give the keyboard to where it is taken from."""
        self.sources.button.setFocus()

    def take(self, source: Source) -> None:
        """Understand a memory against the present plan, in the background."""
        memory, profile = source.memory, source.profile
        if not memory.channels:
            first = f" {source.faults[0]}" if source.faults else ""
            self._bench.say(f"There is no channel in {source.where}; nothing can be brought in.{first}", "stop")
            return
        if source is not self.source and not _same_files(source, self.source):
            self._offer_radios(source)
        self.source = source
        profile = profile or self.chosen
        index, profiles = self._bench.index, self._bench.profiles

        def work() -> FoundTable:
            brought = recognise(memory, profile, index)
            now = {(item.rule.name, item.target) for item in Evaluator(profiles).evaluate(index)}
            then = Evaluator(profiles).evaluate(PlanIndex(bring_into(brought).apply(index.plan), index.today))
            new = tuple(f"{item.rule.title}. {item.text}" for item in then if (item.rule.name, item.target) not in now)
            return FoundTable(brought, new)

        self._bench.jobs.latest("bring", work, self._take)

    def _take(self, found: FoundTable) -> None:
        self.found = found
        files = self.source.files if self.source is not None else None
        if files is not None and files.layout != self.columns.layout_now:
            self.columns.open(files.samples, files.layout, files.how)
        self._show()

    def _again(self) -> None:
        """The plan changed: understand the same memory against it."""
        if self.found is not None and self.source is not None:
            self.take(self.source)

    def forget(self) -> None:
        """Another plan is open."""
        self.found = None
        self._show()

    def _show(self) -> None:
        found = self.found
        self._say_radio()
        self._acts.setVisible(found is not None)
        self._teach.setVisible(found is None)
        by_columns = self.source is not None and self.source.files is not None
        self.views.setVisible(by_columns)
        self._show_view(1 if by_columns and self.columns.isVisible() else 0)
        self.notes.clear()
        self.findings.clear()
        if found is None or self.source is None:
            self._where.setText("")
            self.notes.addItem(
                "Nothing is taken yet: here it will say what was understood, what is doubtful, and what was not."
            )
            self.findings.addItem("And here what the findings would then say.")
            return
        brought = found.brought
        known = len({route.key for route in brought.routes.values()}) - len(brought.fresh)
        self._where.setText(f"From {self.source.where}: {len(brought.fresh)} new routes, {known} in the plan already.")
        heads, rows, tones = _rows(brought, self._bench.index)
        self.table.show_rows(heads, rows, tones)
        for note in sorted(brought.notes, key=lambda item: list(_TONES).index(item.kind)):
            self.notes.addItem(f"{note.kind.capitalize()} – {note.about}: {note.text}")
        self.notes.addItems(list(self.source.faults))
        self.findings.addItems(list(found.findings[:100]) or ["Nothing new would be found."])

    def bring(self) -> None:
        """Put what is new into the present plan, as one step."""
        found, profile = self.found, self.chosen
        if found is None:
            return
        name, key = (profile.name, profile.key) if profile is not None else ("", "")
        if self._bench.do(bring_into(found.brought, name, key)):
            radio = f", with a {name}" if name else ""
            self.radio.setCurrentIndex(0)
            self._bench.say(f"{counted(len(found.brought.fresh), 'route')} brought in{radio}. Ctrl Z takes it back.")

    def ask_plan(self) -> None:
        """Ask for a name and make a new plan of the radio alone."""
        document = self._bench.document
        folder = document.path.parent if document is not None else Path.home()
        name, given = QInputDialog.getText(
            self, "A plan of this radio", "File:", text=str(folder / f"my-radio{SUFFIX}")
        )
        if given and name.strip():
            self.make_plan(Path(name.strip()).expanduser())

    def make_plan(self, path: Path) -> None:
        """Make a new plan of the radio alone and open it; nothing transmits until its licence is entered."""
        source = self.source
        if source is None:
            return
        profile = self.chosen or likeliest(source.memory, self._bench.profiles.values())[0].profile
        brought = recognise(source.memory, profile)
        plan = as_plan(brought, path.name.removesuffix(SUFFIX), profile.name, profile.key)
        if self._bench.opening.create(path, plan):
            self._bench.say(
                f"“{path.name}” is made of {source.where}. Enter the licence at Station; until then it only listens."
            )


def _same_files(source: Source, before: Source | None) -> bool:
    """Whether two sources are one set of files, read by other columns."""
    return bool(before and before.files and source.files and source.files.paths == before.files.paths)


def _rows(brought: RecognisedMemory, index: PlanIndex) -> tuple[tuple[str, ...], list[tuple[str, ...]], list[str]]:
    """One row for each channel: what it was understood as."""
    sites = {
        service.key: access.site for access in (*index.plan.access, *brought.access) for service in access.services
    }
    names = {item.key: item.name for item in (*index.plan.destinations, *brought.destinations)}
    fresh = {route.key for route in brought.fresh}
    doubtful = {note.about: note.kind for note in brought.notes if note.kind != "understood"}
    rows: list[tuple[str, ...]] = []
    tones: list[str] = []
    for channel in brought.memory.channels:
        route = brought.routes.get(channel.number)
        kind = doubtful.get(channel.name, "understood")
        if route is None:
            rows.append((str(channel.number), channel.name, "–", "–", "not understood"))
        else:
            new = "new" if route.key in fresh else "in the plan"
            place = f", {('slot' if channel.mode == 'dmr' else 'place')} {route.slot}" if route.slot else ""
            where, whom = sites.get(route.service, route.service), names.get(route.destination, route.destination)
            rows.append(
                (
                    str(channel.number),
                    channel.name,
                    where,
                    f"{whom}{place}",
                    f"{new}{', doubtful' if kind == 'doubtful' else ''}",
                )
            )
        tones.append("stop" if route is None else _TONES[kind])
    return ("", "Channel", "Through", "To", ""), rows, tones
