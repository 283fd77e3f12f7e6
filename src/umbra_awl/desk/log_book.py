"""The log beside the plan: read in the background, written in order, taken back by undo; and what each route's proof is worth.

Entries come from hands, from files, by themselves from a hotspot's log, and from the simulation, which proves nothing.
"""

from collections.abc import Callable, Iterable
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from umbra_awl.core.logbook.keys import new_key
from umbra_awl.core.logbook.log_file import NAME, LogError, LogFile, LogSnapshot
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.logbook.proof import RouteProof, proofs, stood_on
from umbra_awl.core.logbook.search import Index
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.desk.workbench import Workbench

LOOK_MS = 4_000
_UNDO_PATIENCE_S = 0.5
"""Undo writes on the interface thread: whoever holds the log is not waited for longer."""
_GONE = (
    "The log is no longer where it was: another program has moved or removed it. All of it is still here; the next entry writes "
    "the whole of it anew."
)


class LogBook(QObject):
    """One log at a time: the one in the plan's folder, which all plans there share. `changed` tells of entries or proofs."""

    changed = pyqtSignal()
    indexed = pyqtSignal()
    spot_chosen = pyqtSignal()

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self.entries: tuple[Entry, ...] = ()
        self.proofs: dict[str, RouteProof] = {}
        self.index: Index | None = None
        self.trouble = ""
        self.spot = ""
        self._mark: tuple[int, ...] = ()
        self.read_of = Path()
        self._look = QTimer(self)
        self._look.setInterval(LOOK_MS)
        self._look.timeout.connect(self.look)
        self._look.start()
        bench.closing.connect(self._look.stop)
        bench.document_changed.connect(self.read)
        bench.plan_changed.connect(self._work_out)
        self.read()

    @property
    def file(self) -> LogFile:
        """The log's file."""
        document = self._bench.document
        return LogFile((document.path.parent if document is not None else Path()) / NAME)

    def read(self) -> None:
        """Read the log."""
        if self._bench.document is not None:
            file = self.file
            self._bench.jobs.latest(
                "log", lambda: (file.mark(), file.read()), partial(self._take, file.path), self._not_read
            )

    def look(self) -> None:
        """Look whether another window has written to the log, or another program has replaced or removed it."""
        if self._bench.document is not None:
            self._bench.jobs.latest("log mark", self.file.mark, partial(self._looked, self.file.path), lane="log")

    def _looked(self, path: Path, mark: tuple[int, ...]) -> None:
        if mark == self._mark or path != self.read_of or self._bench.jobs.kept_waiting:
            return
        if not mark and self.entries:
            self._mark = mark
            self.trouble = _GONE
            self._bench.say(_GONE, "stop")
            self.changed.emit()
        else:
            self.read()

    def _take(self, path: Path, found: tuple[tuple[int, ...], LogSnapshot]) -> None:
        mark, held = found
        before, self._mark = {item.key for item in self.entries}, mark
        self.entries, self.trouble = held.entries, ""
        gone = before - {item.key for item in held.entries}
        if gone and self.read_of == path:
            count = f"{len(gone)} entr{'y is' if len(gone) == 1 else 'ies are'}"
            self._bench.say(f"Another program has replaced the log: {count} no longer in it.", "stop")
        self.read_of = path
        if held.damaged:
            lines = ", ".join(map(str, held.damaged[:8]))
            self.trouble = f"{len(held.damaged)} lines of the log are damaged and left as they are: {lines}."
        self._work_out()

    def _not_read(self, error: Exception) -> None:
        self.trouble = (
            str(error) if isinstance(error, LogError) else f"The log cannot be read ({type(error).__name__})."
        )
        self.changed.emit()

    def _work_out(self) -> None:
        """Have the proofs worked out anew from entries and plan, and the index made."""
        self._index_anew()
        index, entries, now = self._bench.index, self.entries, self._bench.clock.utc()
        self._bench.jobs.latest("proof map", lambda: proofs(index, entries, now), self._take_proofs)

    def _index_anew(self) -> None:
        """Have the entries indexed anew, where they or what their routes are called has changed."""
        plan, entries, held = self._bench.index, self.entries, self.index
        if held is not None and held.entries_of is entries and held.labels == _labels(plan, held.labels):
            return
        self._bench.jobs.latest(
            "log index", lambda: Index(entries, partial(_label, plan)), self._take_index, lane="log"
        )

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
        index = self._bench.index
        _access, service, _destination = index.parts(index.routes[route])
        now = self._bench.clock.utc()
        identity = index.owners.identity_of(self._bench.radio) if self._bench.radio is not None else None
        made = Entry(
            new_key(now),
            now.strftime("%Y-%m-%dT%H:%M:%SZ"),
            route=route,
            radio=self._bench.radio_key,
            mode=service.mode,
            hz=service.tx_hz,
            rx_hz=service.rx_hz,
            own_call=identity.call if identity is not None else "",
            stood=stood_on(index, index.routes[route], self._bench.radio_key),
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
            self._added(file, (made, before), f"{sentence}. {told}".rstrip(". "))

        self._bench.jobs.keep("log", partial(self._write, file, made, self._held(file)), added, self._not_written)

    def _held(self, file: LogFile) -> tuple[Entry, ...]:
        """What was read of this very log; nothing while another plan's is still in hand."""
        return self.entries if self.read_of == file.path else ()

    def _write(self, file: LogFile, made: tuple[Entry, ...], held: tuple[Entry, ...]) -> str:
        """Write entries; with all that the log `held` where its file has gone meanwhile. Raises LogError."""
        fresh = {item.key for item in made}
        whole = (*(item for item in held if item.key not in fresh), *made) if not file.mark() else made
        told = file.put(whole)
        if len(self._mark) == 0 or self._mark[2] == file.sizes[0]:
            self._mark = file.mark()  # else somebody has written in between: it is read anew soon
        return told

    def _added(self, file: LogFile, moved: tuple[tuple[Entry, ...], tuple[Entry, ...]], sentence: str) -> None:
        if file.path != self.file.path:
            return  # another plan is open by now: its log is another, and so is its undo
        made, before = moved
        self.trouble = "" if self.trouble == _GONE else self.trouble
        self._put(file, made)
        fresh = {item.key for item in made} - {item.key for item in before}

        def back() -> bool:
            return (not before or self._again(file, before)) and (not fresh or self._back(file, fresh))

        self._bench.steps.did_beside(sentence, back, lambda: self._again(file, made))
        self._bench.say(f"{sentence}. Ctrl Z takes it back.")

    def add_by_itself(self, file: LogFile, entries: Iterable[Entry], sentence: str) -> None:
        """Write entries that nobody typed, if the log is still that one; what is there already is left. It is no step of undo."""
        there = {item.key for item in self.entries}
        made = tuple(item for item in entries if item.key not in there)
        if not made or file.path != self.file.path:
            return

        def written(told: str) -> None:
            self._put(file, made)
            self._bench.say(f"{sentence}: {len(made)} in the log. {told}".rstrip())

        self._bench.jobs.keep("log", partial(self._write, file, made, self._held(file)), written, self._not_written)

    def change(self, entry: Entry, sentence: str, **fields: object) -> None:
        """Write an entry anew with other fields; undo writes it as it was."""
        made, file = replace(entry, **fields), self.file

        def put(one: Entry) -> bool:
            return self._again(file, (one,))

        if put(made):
            self._bench.steps.did_beside(sentence, partial(put, entry), partial(put, made))
            self._bench.say(f"{sentence}. Ctrl Z takes it back.")

    def take_out(self, keys: Iterable[str], sentence: str) -> None:
        """Take entries out; undo puts them back."""
        gone = tuple(item for item in self.entries if item.key in set(keys))
        file = self.file
        self._bench.jobs.keep(
            "log",
            lambda: file.take_out([item.key for item in gone]),
            partial(self._taken_out, file, gone, sentence),
            self._not_written,
        )

    def _taken_out(self, file: LogFile, gone: tuple[Entry, ...], sentence: str, _none: object) -> None:
        if file.path != self.file.path:
            return
        keys = {item.key for item in gone}
        self._drop(file, keys)
        self._bench.steps.did_beside(sentence, lambda: self._again(file, gone), lambda: self._back(file, keys))
        self._bench.say(f"{sentence}. Ctrl Z takes it back.")

    def _put(self, file: LogFile, made: tuple[Entry, ...]) -> None:
        if file.path != self.file.path:
            return
        by_key = {item.key: item for item in self.entries} | {item.key: item for item in made}
        self.entries = tuple(by_key.values())
        self._work_out()

    def _drop(self, file: LogFile, keys: set[str]) -> None:
        if file.path != self.file.path:
            return
        self.entries = tuple(item for item in self.entries if item.key not in keys)
        self._work_out()

    def _back(self, file: LogFile, keys: set[str]) -> bool:
        try:
            LogFile(file.path, _UNDO_PATIENCE_S).take_out(sorted(keys))
        except LogError as error:
            self._not_written(error)
            return False
        self._drop(file, keys)
        return True

    def _again(self, file: LogFile, made: tuple[Entry, ...]) -> bool:
        try:
            self._write(LogFile(file.path, _UNDO_PATIENCE_S), made, self._held(file))
        except LogError as error:
            self._not_written(error)
            return False
        self._put(file, made)
        return True

    def _not_written(self, error: Exception) -> None:
        known = isinstance(error, LogError)
        self._bench.say(str(error) if known else f"The log was not written ({type(error).__name__}).", "stop")


def _label(plan: PlanIndex, route: str) -> str:
    """What a route is called; its key, where the plan has it no longer."""
    known = plan.routes.get(route)
    return plan.labels.of(known) if known is not None else route


def _labels(plan: PlanIndex, routes: Iterable[str]) -> dict[str, str]:
    return {route: _label(plan, route) for route in routes}
