"""The filters over map and list: modes, bands, age, words."""

from datetime import timedelta

from PyQt6.QtCore import QTimer, pyqtSignal
from PyQt6.QtWidgets import QComboBox, QLineEdit, QPushButton, QWidget

from umbra_awl.core.directory.nearest import NearestWanted
from umbra_awl.core.facts.modes import SHORT_WORDS, by_mode
from umbra_awl.core.keep.clock import Clock
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import button, row

_MODES = tuple((text, mode) for mode, text in by_mode(SHORT_WORDS))
_BANDS = (("2 m", "2 m"), ("70 cm", "70 cm"))
_AGES = (("any age", 0), ("this half year", 183), ("this year", 366), ("two years", 731), ("vanished too", -1))
_PAUSE_MS = 140


class Filters(QWidget):
    """Emits what is wanted when it changes; typing waits for a short pause."""

    changed = pyqtSignal(object)

    def __init__(self, clock: Clock) -> None:
        super().__init__()
        self._clock = clock
        line = row(self, 2)
        self.modes = self._toggles(_MODES, "mode")
        self.bands = self._toggles(_BANDS, "band")
        for made in (*self.modes.values(), *self.bands.values()):
            line.addWidget(made)
        line.addSpacing(6)
        self.age = QComboBox()
        self.age.setAccessibleName("Confirmed within")
        set_tip(self.age, "Only entries that somebody confirmed within this time")
        for words, days in _AGES:
            self.age.addItem(words, days)
        self.age.currentIndexChanged.connect(lambda _at: self._tell())
        line.addWidget(self.age)
        line.addSpacing(6)
        self.text = QLineEdit()
        self.text.setPlaceholderText("Filter by call sign, site, frequency")
        self.text.setAccessibleName("Filter by call sign, site or frequency")
        self.text.setClearButtonEnabled(True)
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.setInterval(_PAUSE_MS)
        self._pause.timeout.connect(self._tell)
        self.text.textEdited.connect(lambda _text: self._pause.start())
        self.text.returnPressed.connect(self._tell)
        self.text.textChanged.connect(lambda text: None if text else self._pause.start())
        line.addWidget(self.text, 1)

    def _toggles(self, options: tuple[tuple[str, str], ...], what: str) -> dict[str, QPushButton]:
        made: dict[str, QPushButton] = {}
        for words, key in options:
            made[key] = button(words, self._tell, "segment", f"Only this {what}; none chosen shows all")
            made[key].setCheckable(True)
            made[key].setAccessibleName(f"Only {words}")
        return made

    def wanted(self) -> NearestWanted:
        """What is wanted now."""
        days = self.age.currentData()
        since = (self._clock.today() - timedelta(days=days)).isoformat() if days > 0 else ""
        modes = frozenset(key for key, made in self.modes.items() if made.isChecked())
        bands = frozenset(key for key, made in self.bands.items() if made.isChecked())
        return NearestWanted(modes, bands, since, self.text.text().strip(), days < 0)

    def _tell(self) -> None:
        self._pause.stop()
        self.changed.emit(self.wanted())
