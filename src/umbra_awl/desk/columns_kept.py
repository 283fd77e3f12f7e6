"""How the operator likes the columns of each table: by which it is sorted, how wide they are; kept between runs."""

from collections.abc import Callable, Mapping
from typing import NamedTuple

_MOST = 60
"""Tables that are remembered."""


class KeptColumns(NamedTuple):
    """A table: the heading it is sorted by (empty: as given), whether downwards, widths in pixels by heading."""

    sorted: str = ""
    down: bool = False
    widths: tuple[tuple[str, int], ...] = ()


class ColumnMemory:
    """By the tables' names. Whoever keeps them between runs gives `known`, and is told by `changed`."""

    def __init__(
        self,
        known: Mapping[str, KeptColumns] | None = None,
        changed: Callable[[dict[str, KeptColumns]], object] | None = None,
    ) -> None:
        self._known, self._changed = dict(known or {}), changed

    def of(self, name: str) -> KeptColumns:
        """How a table is liked."""
        return self._known.get(name, KeptColumns())

    def keep(self, name: str, kept: KeptColumns) -> KeptColumns:
        """Remember how a table is liked; gives it back."""
        self._known.pop(name, None)
        self._known[name] = kept
        while len(self._known) > _MOST:
            self._known.pop(next(iter(self._known)))
        if self._changed is not None:
            self._changed(dict(self._known))
        return kept
