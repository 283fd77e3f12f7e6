"""The log beside the plan: read in the background, written in order, taken back by undo; and what each route's proof is worth.

Entries come from hands, from files, by themselves from a hotspot's log, and from the simulation, which proves nothing.
"""

from collections.abc import Callable, Iterable
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.logbook.keys import new_key
from umbra_awl.core.logbook.log_file import NAME, LogError, LogFile, LogSnapshot
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.logbook.proof import RouteProof, proofs, stood_on
from umbra_awl.core.logbook.search import Index
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.desk.book.log_writing import GONE, LogWriting
from umbra_awl.desk.held.workbench import Workbench

LOOK_MS = 4_000


class LogBook(QObject):
    """One log at a time: the one in the plan's folder, which all plans there share. `changed` tells of entries or proofs."""

    changed = pyqtSignal()
    indexed = pyqtSignal()
    spot_chosen = pyqtSignal()

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self.writing = LogWriting(self)
        self.bench = bench
        self.entries: tuple[Entry, ...] = ()
        self.proofs: dict[str, RouteProof] = {}
        self.index: Index | None = None
        self.trouble = ""
        self.spot = ""
        self.mark: tuple[int, ...] = ()
        self.read_of = Path()
        self._look = QTimer(self)
        self._look.setInterval(LOOK_MS)
        self._look.timeout.connect(self.look)
        self._look.start()
        bench.closing.connect(self._look.stop)
        bench.document_changed.connect(self.read)
        bench.plan_changed.connect(self.work_out)
        self.read()

    @property
    def file(self) -> LogFile:
        """The log's file."""
        document = self.bench.document
        return LogFile((document.path.parent if document is not None else Path()) / NAME)

    def read(self) -> None:
        """Read the log."""
        if self.bench.document is not None:
            file = self.file
            self.bench.jobs.latest(
                "log", lambda: (file.mark(), file.read()), partial(self._take, file.path), self._not_read
            )

    def look(self) -> None:
        """Look whether another window has written to the log, or another program has replaced or removed it."""
        if self.bench.document is not None:
            self.bench.jobs.latest("log mark", self.file.mark, partial(self._looked, self.file.path), lane="log")

    def _looked(self, path: Path, mark: tuple[int, ...]) -> None:
        if mark == self.mark or path != self.read_of or self.bench.jobs.kept_waiting:
            return
        if not mark and self.entries:
            self.mark = mark
            self.trouble = GONE
            self.bench.say(GONE, "stop")
            self.changed.emit()
        else:
            self.read()

    def _take(self, path: Path, found: tuple[tuple[int, ...], LogSnapshot]) -> None:
        mark, held = found
        before, self.mark = {item.key for item in self.entries}, mark
        self.entries, self.trouble = held.entries, ""
        gone = before - {item.key for item in held.entries}
        if gone and self.read_of == path:
            count = f"{len(gone)} entr{'y is' if len(gone) == 1 else 'ies are'}"
            self.bench.say(f"Another program has replaced the log: {count} no longer in it.", "stop")
        self.read_of = path
        if held.damaged:
            lines = ", ".join(map(str, held.damaged[:8]))
            self.trouble = f"{counted(len(held.damaged), 'damaged line')} of the log stay as they are: {lines}."
        self.work_out()

    def _not_read(self, error: Exception) -> None:
        self.trouble = (
            str(error) if isinstance(error, LogError) else f"The log cannot be read ({type(error).__name__})."
        )
        self.changed.emit()

    def work_out(self) -> None:
        """Have the proofs worked out anew from entries and plan, and the index made."""
        self._index_anew()
        index, entries, now = self.bench.index, self.entries, self.bench.clock.utc()
        self.bench.jobs.latest("proof map", lambda: proofs(index, entries, now), self._take_proofs)

    def _index_anew(self) -> None:
        """Have the entries indexed anew, where they or what their routes are called has changed."""
        plan, entries, held = self.bench.index, self.entries, self.index
        if held is not None and held.entries_of is entries and held.labels == _labels(plan, held.labels):
            return
        self.bench.jobs.latest("log index", lambda: Index(entries, partial(_label, plan)), self._take_index, lane="log")

    def _take_index(self, made: Index) -> None:
        if self.index is not None:
            self.index.close()
        self.index = made
        self.indexed.emit()

    def _take_proofs(self, made: dict[str, RouteProof]) -> None:
        self.proofs = made
        self.changed.emit()

    def work_from(self, spot: str) -> None:
        """Choose the spot that the next entries are worked from."""
        self.spot = spot
        self.spot_chosen.emit()

    # writing

    def new_entry(self, route: str, **fields: object) -> Entry:
        """An entry of this moment on a route of the plan, with what it stands on."""
        index = self.bench.index
        _access, service, _destination = index.parts(index.routes[route])
        now = self.bench.clock.utc()
        identity = index.owners.identity_of(self.bench.radio) if self.bench.radio is not None else None
        made = Entry(
            new_key(now),
            now.strftime("%Y-%m-%dT%H:%M:%SZ"),
            route=route,
            radio=self.bench.radio_key,
            mode=service.mode,
            hz=service.tx_hz,
            rx_hz=service.rx_hz,
            own_call=identity.call if identity is not None else "",
            stood=stood_on(index, index.routes[route], self.bench.radio_key),
        )
        return replace(made, **fields)

    def add(self, entries: Iterable[Entry], sentence: str, done: Callable[[], object] = lambda: None) -> None:
        """Write entries, new ones or known ones changed; undo has the log as before. What cannot be written is said.

        `done` is called once they are on the disk: what was typed stays until then.
        """
        made = tuple(entries)
        file, keys = self.file, {item.key for item in made}
        before = tuple(item for item in self.entries if item.key in keys)

        def added(told: str) -> None:
            done()
            self.writing.added(file, (made, before), f"{sentence}. {told}".rstrip(". "))

        self.bench.jobs.keep(
            "log", partial(self.writing.write, file, made, self.held(file)), added, self.writing.not_written
        )

    def held(self, file: LogFile) -> tuple[Entry, ...]:
        """What was read of this very log; nothing while another plan's is still in hand."""
        return self.entries if self.read_of == file.path else ()

    def add_by_itself(self, file: LogFile, entries: Iterable[Entry], sentence: str) -> None:
        """Write entries that nobody typed, if the log is still that one; what is there already is left. It is no step of undo."""
        there = {item.key for item in self.entries}
        made = tuple(item for item in entries if item.key not in there)
        if not made or file.path != self.file.path:
            return

        def written(told: str) -> None:
            self.writing.put(file, made)
            self.bench.say(f"{sentence}: {len(made)} in the log. {told}".rstrip())

        self.bench.jobs.keep(
            "log", partial(self.writing.write, file, made, self.held(file)), written, self.writing.not_written
        )

    def change(self, entry: Entry, sentence: str, **fields: object) -> None:
        """Write an entry anew with other fields; undo writes it as it was."""
        made, file = replace(entry, **fields), self.file

        def put(one: Entry) -> bool:
            return self.writing.again(file, (one,))

        if put(made):
            self.bench.steps.did_beside(sentence, partial(put, entry), partial(put, made))
            self.bench.say(f"{sentence}. Ctrl Z takes it back.")

    def take_out(self, keys: Iterable[str], sentence: str) -> None:
        """Take entries out; undo puts them back."""
        gone = tuple(item for item in self.entries if item.key in set(keys))
        file = self.file
        self.bench.jobs.keep(
            "log",
            lambda: file.take_out([item.key for item in gone]),
            partial(self.writing.taken_out, file, gone, sentence),
            self.writing.not_written,
        )


def _label(plan: PlanIndex, route: str) -> str:
    """What a route is called; its key, where the plan has it no longer."""
    known = plan.routes.get(route)
    return plan.labels.of(known) if known is not None else route


def _labels(plan: PlanIndex, routes: Iterable[str]) -> dict[str, str]:
    return {route: _label(plan, route) for route in routes}
