"""The time of a play: it runs, stands, goes back and forth."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QElapsedTimer, QTimer

if TYPE_CHECKING:
    from umbra_awl.desk.onair.stand import Stand


FRAME_MS = 16
STEP_S = 5.0
_LONGEST_STEP_S = 0.25


class PlayTime:
    """Lets time go on for a stand."""

    def __init__(self, owner: "Stand") -> None:
        self._stand = owner
        self.speed = 1.0
        self.timer = QTimer(owner)
        self.timer.setInterval(FRAME_MS)
        self.timer.timeout.connect(self.tick)
        self.clock = QElapsedTimer()

    @property
    def running(self) -> bool:
        """Whether time goes on."""
        return self.timer.isActive()

    def run(self) -> None:
        """Let time go on."""
        if self._stand.play is not None:
            self.clock.start()
            self.timer.start()
            self._stand.changed.emit()

    def pause(self) -> None:
        """Hold time."""
        if self.running:
            self.timer.stop()
            self._stand.changed.emit()

    def toggle(self) -> None:
        """Let time go on, or hold it."""
        if self.running:
            self.pause()
        else:
            self.run()

    def back(self) -> None:
        """Some seconds back."""
        if self._stand.play is not None:
            self._stand.holding = False
            self._stand.play.back_to(max(self._stand.now - STEP_S * max(self.speed, 1.0), 0.0))
            self._stand.ticked.emit()

    def forward(self) -> None:
        """Some seconds on."""
        self._stand.stand_at(self._stand.now + STEP_S * max(self.speed, 1.0))

    def set_speed(self, speed: float) -> None:
        """Let time go faster or slower."""
        self.speed = speed
        self._stand.changed.emit()

    def tick(self) -> None:
        """Let the play go on by what has passed since the last time."""
        if self._stand.play is None:
            return
        seconds = min(self.clock.restart() / 1000, _LONGEST_STEP_S)
        self._stand.go_to(self._stand.now + seconds * self.speed)
        if self._stand.over:
            self.pause()
