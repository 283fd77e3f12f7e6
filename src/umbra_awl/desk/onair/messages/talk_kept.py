"""What was said on the bench, kept in the history beside the plan."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from umbra_awl.core.messages.history import MessageHistory, Said, proven

if TYPE_CHECKING:
    from umbra_awl.desk.onair.messages.air_job import AirJob


_FOLDER = "messages"


class TalkKept:
    """Holds the talk of the plan that is open; `there` is the history of the folder where the radios were switched on."""

    def __init__(self, owner: "AirJob") -> None:
        self._air = owner
        self.said: tuple[Said, ...] = ()
        self.proven: frozenset[int] = frozenset()
        self.there = self.history

    @property
    def history(self) -> MessageHistory:
        """The history beside the plan."""
        document = self._air.bench.document
        return MessageHistory((document.path.parent if document is not None else Path()) / _FOLDER)

    def read(self) -> None:
        if self._air.bench.document is None:
            return
        history = self.history
        self._air.bench.jobs.latest("messages", history.read, self.take, self._no_history)

    def take(self, said: tuple[Said, ...]) -> None:
        self.said = said
        self.proven = frozenset(proven(said))
        self._air.changed.emit()

    def _no_history(self, error: Exception) -> None:
        self._air.bench.say(
            f"The history of messages cannot be read: {error}. What comes now is told here only.", "stop"
        )

    def keep(self, keeps: Callable[[], Said]) -> None:
        """Keep something in the history, in the order it came."""
        self._air.bench.jobs.keep("message", keeps, partial(self.arrived, self.there), self.not_kept)

    def arrived(self, there: MessageHistory, said: Said) -> None:
        if there.folder != self.history.folder:
            return
        self.said = (*self.said, said)
        self.proven = frozenset(proven(self.said))
        if said.side == "theirs":
            self._air.heard.emit(said)
        self._air.changed.emit()

    def not_kept(self, error: Exception) -> None:
        self._air.bench.say(f"It could not be kept: {error}. Make room, or let the folder be written.", "stop")
