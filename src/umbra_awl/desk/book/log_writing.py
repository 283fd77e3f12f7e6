"""How the log is written: each change durable, and undone in its turn."""

from typing import TYPE_CHECKING

from umbra_awl.core.logbook.log_file import LogError, LogFile
from umbra_awl.core.logbook.model import Entry

if TYPE_CHECKING:
    from umbra_awl.desk.book.log_book import LogBook


_UNDO_PATIENCE_S = 0.5
"""Undo writes on the interface thread: whoever holds the log is not waited for longer."""


GONE = (
    "The log is no longer where it was: another program has moved or removed it. All of it is still here; the next entry writes "
    "the whole of it anew."
)


class LogWriting:
    """Writes for a log."""

    def __init__(self, owner: "LogBook") -> None:
        self._book = owner

    def write(self, file: LogFile, made: tuple[Entry, ...], held: tuple[Entry, ...]) -> str:
        """Write entries; with all that the log `held` where its file has gone meanwhile. Raises LogError."""
        fresh = {item.key for item in made}
        whole = (*(item for item in held if item.key not in fresh), *made) if not file.mark() else made
        told = file.put(whole)
        if len(self._book.mark) == 0 or self._book.mark[2] == file.sizes[0]:
            self._book.mark = file.mark()  # else somebody has written in between: it is read anew soon
        return told

    def added(self, file: LogFile, moved: tuple[tuple[Entry, ...], tuple[Entry, ...]], sentence: str) -> None:
        if file.path != self._book.file.path:
            return  # another plan is open by now: its log is another, and so is its undo
        made, before = moved
        self._book.trouble = "" if self._book.trouble == GONE else self._book.trouble
        self.put(file, made)
        fresh = {item.key for item in made} - {item.key for item in before}

        def back() -> bool:
            return (not before or self.again(file, before)) and (not fresh or self._back(file, fresh))

        self._book.bench.steps.did_beside(sentence, back, lambda: self.again(file, made))
        self._book.bench.say(f"{sentence}. Ctrl Z takes it back.")

    def taken_out(self, file: LogFile, gone: tuple[Entry, ...], sentence: str, _none: object) -> None:
        if file.path != self._book.file.path:
            return
        keys = {item.key for item in gone}
        self._drop(file, keys)
        self._book.bench.steps.did_beside(sentence, lambda: self.again(file, gone), lambda: self._back(file, keys))
        self._book.bench.say(f"{sentence}. Ctrl Z takes it back.")

    def put(self, file: LogFile, made: tuple[Entry, ...]) -> None:
        if file.path != self._book.file.path:
            return
        by_key = {item.key: item for item in self._book.entries} | {item.key: item for item in made}
        self._book.entries = tuple(by_key.values())
        self._book.work_out()

    def _drop(self, file: LogFile, keys: set[str]) -> None:
        if file.path != self._book.file.path:
            return
        self._book.entries = tuple(item for item in self._book.entries if item.key not in keys)
        self._book.work_out()

    def _back(self, file: LogFile, keys: set[str]) -> bool:
        try:
            LogFile(file.path, _UNDO_PATIENCE_S).take_out(sorted(keys))
        except LogError as error:
            self.not_written(error)
            return False
        self._drop(file, keys)
        return True

    def again(self, file: LogFile, made: tuple[Entry, ...]) -> bool:
        try:
            self.write(LogFile(file.path, _UNDO_PATIENCE_S), made, self._book.held(file))
        except LogError as error:
            self.not_written(error)
            return False
        self.put(file, made)
        return True

    def not_written(self, error: Exception) -> None:
        known = isinstance(error, LogError)
        self._book.bench.say(str(error) if known else f"The log was not written ({type(error).__name__}).", "stop")
