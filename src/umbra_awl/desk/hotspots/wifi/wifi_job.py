"""Playing a rehearsal: a simulated home, phone and hotspot as a process, asked act by act in the background."""

from typing import Any, NamedTuple

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.hotspot.wifi.rehearse import Played, RehearsalAct, Setup, acts, judge
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.standins.launch import StandInError, WifiProcess


class RehearsalPlay(NamedTuple):
    """A rehearsal as it was played: up to where it broke."""

    setup: Setup
    acts: tuple[RehearsalAct, ...]
    played: tuple[Played, ...]
    states: tuple[dict[str, Any], ...]

    @property
    def fault(self) -> str:
        """Why it broke; empty where it did not."""
        return next((item.fault for item in self.played if item.fault), "")


def play(setup: Setup) -> RehearsalPlay:
    """Play a rehearsal with a process of its own, to its end or to where it breaks. Raises StandInError, OSError."""
    listed = acts(setup)
    played: list[Played] = []
    states: list[dict[str, Any]] = []
    with WifiProcess() as air:
        for act in listed:
            state = air.tell(**act.tell)
            states.append(state)
            played.append(judge(setup, act, state))
            if played[-1].fault:
                break
    return RehearsalPlay(setup, listed, tuple(played), tuple(states))


class WifiJob(QObject):
    """Plays one rehearsal at a time."""

    changed = pyqtSignal()

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self.running = False
        self.play: RehearsalPlay | None = None
        self.fault = ""

    def start(self, setup: Setup) -> None:
        """Play it."""
        if self.running:
            return
        self.running, self.fault = True, ""
        self.changed.emit()
        self._bench.jobs.start(lambda: play(setup), self._done, self._failed)

    def _done(self, played: RehearsalPlay) -> None:
        self.running, self.play = False, played
        self.changed.emit()

    def _failed(self, error: Exception) -> None:
        self.running = False
        known = isinstance(error, StandInError | OSError)
        self.fault = str(error) if known else f"The rehearsal could not be played ({type(error).__name__})."
        self.changed.emit()
