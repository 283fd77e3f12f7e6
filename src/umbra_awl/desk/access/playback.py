"""Playing a recorded track as a moving position, in place of a GPS."""

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QSlider, QWidget

from umbra_awl.core.directory.track import Track
from umbra_awl.desk.parts.widgets import button, row, words

_TICK_MS = 250
_SECONDS_A_TICK = 30.0
_STEPS = 1000


class Playback(QWidget):
    """A line with play, a slider and the time; emits the position, or None when the track is put away."""

    moved = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.track: Track | None = None
        self.second = 0.0
        line = row(self, 6)
        self._play = button("Play", self.toggle, "segment", "Play the track as a moving position")
        self._play.setCheckable(True)
        line.addWidget(self._play)
        self._name = words("", "second")
        line.addWidget(self._name)
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, _STEPS)
        self.slider.setAccessibleName("Place on the track")
        self.slider.sliderMoved.connect(self._slid)
        line.addWidget(self.slider, 1)
        self._time = words("", "mono")
        line.addWidget(self._time)
        line.addWidget(button("Put away", self.put_away))
        self._timer = QTimer(self)
        self._timer.setInterval(_TICK_MS)
        self._timer.timeout.connect(self._tick)
        self.hide()

    def open(self, track: Track) -> None:
        """Take a track."""
        self.track = track
        self._name.setText(track.name)
        self.show()
        self.go_to(0.0)

    def toggle(self) -> None:
        """Play, or pause."""
        if self._timer.isActive():
            self._timer.stop()
        elif self.track is not None:
            if self.second >= self.track.length_s:
                self.second = 0.0
            self._timer.start()
        self._play.setChecked(self._timer.isActive())
        self._play.setText("Pause" if self._timer.isActive() else "Play")

    def _tick(self) -> None:
        track = self.track
        if track is None:
            return
        self.go_to(self.second + max(_SECONDS_A_TICK, track.length_s / 400))
        if self.second >= track.length_s:
            self.toggle()

    def _slid(self, value: int) -> None:
        if self.track is not None:
            self.go_to(self.track.length_s * value / _STEPS)

    def go_to(self, second: float) -> None:
        """Be at a time of the track."""
        track = self.track
        if track is None:
            return
        self.second = min(max(second, 0.0), track.length_s)
        self.slider.setValue(round(_STEPS * self.second / track.length_s))
        minutes = int(self.second // 60)
        self._time.setText(f"{minutes // 60}:{minutes % 60:02d} h")
        self.moved.emit(track.at(self.second))

    def put_away(self) -> None:
        """End the playing."""
        self._timer.stop()
        self._play.setChecked(False)
        self._play.setText("Play")
        self.track = None
        self.hide()
        self.moved.emit(None)
