"""Long work on the directory, one at a time, in a thread and with a store of its own."""

from collections.abc import Callable
from contextlib import closing
from typing import TYPE_CHECKING, Any

from umbra_awl.core.directory.errors import ImportCancelledError
from umbra_awl.core.directory.store import Store
from umbra_awl.core.tables.errors import SourceError

if TYPE_CHECKING:
    from umbra_awl.desk.known.directory import Directory


class DirectoryWork:
    """Runs an import, a download or a search over everything; it can be stopped."""

    def __init__(self, owner: "Directory") -> None:
        self._directory = owner
        self.work = ""
        self.done_share = 0.0
        self._stopped = False

    def run(self, words: str, work: Callable[[Store], Any], done: Callable[[Any], None]) -> None:
        """Do long work in a thread of its own, one at a time; errors are said, and the store is then as before."""
        if self.work:
            self._directory.bench.say(f"{self.work} Wait for it, or stop it.", "stop")
            return
        self._set_work(words)
        self._stopped = False

        def in_thread() -> Any:
            try:
                with closing(Store(self._directory.path)) as store:
                    return work(store)
            except SourceError as error:
                return error

        self._directory.bench.jobs.start(in_thread, lambda result: self._finish(result, done), self._failed)

    def _finish(self, result: Any, done: Callable[[Any], None]) -> None:
        self._set_work("")
        if isinstance(result, ImportCancelledError):
            self._directory.bench.say(str(result))
        elif isinstance(result, SourceError):
            self._directory.bench.say(str(result), "stop")
        else:
            done(result)

    def _failed(self, error: Exception) -> None:
        self._set_work("")
        self._directory.bench.say(
            f"Something unforeseen happened ({type(error).__name__}: {error}). The directory is as before.", "stop"
        )

    def _set_work(self, words: str) -> None:
        self.work, self.done_share = words, 0.0
        self._directory.work_changed.emit()

    def stop(self) -> None:
        """Ask the long work to stop."""
        self._stopped = True

    def stopped(self) -> bool:
        """Whether the long work should stop; asked in its thread."""
        return self._stopped

    def progress(self, share: float, words: str = "") -> None:
        """Tell how far the long work is, 0 to 1, from its thread."""
        self._directory.bench.jobs.tell(lambda: self._show_progress(share, words))

    def _show_progress(self, share: float, words: str) -> None:
        if self.work:
            self.done_share = share
            self.work = words or self.work
            self._directory.work_changed.emit()
