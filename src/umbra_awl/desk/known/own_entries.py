"""What the operator keeps of entries in the directory: private edits and notes, undone in their turn."""

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from umbra_awl.core.directory.private import field_words

if TYPE_CHECKING:
    from umbra_awl.desk.known.directory import Directory


class OwnEntries:
    """Private edits and notes of one directory."""

    def __init__(self, owner: "Directory") -> None:
        self._directory = owner

    def set_private(self, key: str, field: str, value: Any) -> bool:
        """Keep a private edit of an entry; None takes it back. Undo takes it back in its turn."""

        def put(wanted: Any) -> bool:
            return self._directory.try_to(lambda: self._directory.store.set_edit(key, field, wanted, self._today()))

        before = self._directory.store.edits_of(key).get(field)
        what = f"Your {field_words(field)} of {self._called(key)}"
        return self._done(put(value), f"{what} taken back" if value is None else what, put, before, value)

    def set_note(self, key: str, text: str) -> bool:
        """Keep a local note of an entry. Undo takes it back in its turn."""

        def put(wanted: Any) -> bool:
            return self._directory.try_to(lambda: self._directory.store.set_note(key, wanted, self._today()))

        entry = self._directory.store.entry(key)
        before = entry.note if entry is not None else ""
        return self._done(put(text), f"Your note on {self._called(key)}", put, before, text)

    def _today(self) -> str:
        return self._directory.bench.clock.today().isoformat()

    def _called(self, key: str) -> str:
        entry = self._directory.store.entry(key)
        return entry.access.by_call if entry is not None else key

    def _done(self, moved: bool, sentence: str, put: Callable[[Any], bool], before: Any, after: Any) -> bool:
        """Let the history know of something that was kept in the directory."""
        if moved and before != after:
            self._directory.bench.steps.did_beside(sentence, lambda: put(before), lambda: put(after))
        return moved
