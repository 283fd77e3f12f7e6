"""Advice while one plays, each piece once, and never again once it is known."""

from typing import TYPE_CHECKING

from umbra_awl.core.simulation.advice import SpokenAdvice, advice_now

if TYPE_CHECKING:
    from umbra_awl.desk.onair.stand import Stand


class PlayAdvice:
    """What was said so far."""

    def __init__(self, owner: "Stand") -> None:
        self._stand = owner
        self.said: list[SpokenAdvice] = []

    def advise(self) -> None:
        """Say what is to be said now."""
        assert self._stand.play is not None
        told = {item.key for item in self.said}
        known = frozenset(self._stand.settings.kept.known)
        for item in advice_now(self._stand.play, known):
            if item.key not in told:
                self.said.append(item)
                told.add(item.key)

    def know(self, key: str) -> None:
        """A piece of advice is known: it is not said again."""
        self._stand.settings.keep(known=(*self._stand.settings.kept.known, key)[-64:])
        self.said = [item for item in self.said if item.key != key]
        self._stand.changed.emit()

    def forget_known(self) -> None:
        """Say every piece of advice again."""
        self._stand.settings.keep(known=())
        self._stand.changed.emit()
