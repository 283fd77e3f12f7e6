"""What is practised, and how it stands: kept on this machine, beside one's own profiles. Never touches plan, radio or log."""

from collections.abc import Iterable
from datetime import date
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.drills.rounds import DrillQuestion, QuestionGround, questions
from umbra_awl.core.drills.schedule import Practice, answered, due_now, keep_practice, read_practice
from umbra_awl.core.drills.seeds import SEEDS
from umbra_awl.core.drills.way import SCENES
from umbra_awl.desk.held.workbench import Workbench

NAME = "practice.json"


class Coach(QObject):
    """The practice of this user. `changed` tells of an answer."""

    changed = pyqtSignal()

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self.practice: Practice = read_practice(self.path)

    @property
    def path(self) -> Path:
        """Where progress is kept."""
        return self._bench.profiles.folder / NAME

    def answer(self, key: str, *, right: bool) -> None:
        """Take note of an answer. Where it cannot be kept, that is said; it counts for this run."""
        self.practice = answered(self.practice, key, right=right, today=self.today())
        try:
            keep_practice(self.path, self.practice)
        except OSError as error:
            self._bench.say(f"Practice cannot be kept: {error.strerror or error}. It counts until you close.", "stop")
        self.changed.emit()

    def due(self, keys: Iterable[str]) -> list[str]:
        """Of some things those that are due, never asked ones last."""
        return due_now(self.practice, keys, self.today())

    def faults(self) -> list[str]:
        """The keys of all slips that are practised."""
        return [f"fault {key}" for key in (*SEEDS, *SCENES)]

    def keyed(self) -> list[str]:
        """The keys of all radios whose keys are practised."""
        return [
            f"keys {radio.key}" for radio in self._bench.plan.radios
            if (profile := self._bench.profiles.get(radio.profile)) is not None and profile.keypad is not None
        ]  # fmt: skip

    def questions(self) -> dict[str, DrillQuestion]:
        """The questions of the plan, by their keys."""
        bench = self._bench
        if not bench.worked.fresh:
            return {}
        ground = QuestionGround(bench.index, bench.worked.results.fits, bench.profiles.snapshot())
        return questions(ground, self.today().toordinal())

    def today(self) -> date:
        """The day, which decides what is due and in which order it is asked."""
        return self._bench.clock.today()
