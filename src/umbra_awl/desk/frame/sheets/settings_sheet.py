"""The settings of the window on one sheet: theme, text, measures, where passwords and the diary lie, that nothing is fetched."""

from collections.abc import Callable, Mapping
from functools import partial
from typing import Any

from PyQt6.QtWidgets import QDialog, QWidget

from umbra_awl.core.drivers.registry import DRIVERS, InstalledDriver
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.measures import CLOCK_WORDS, FAR_WORDS, MARK_WORDS
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Choice, Field
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.settings import SCALES, THEMES, Settings
from umbra_awl.desk.theme.theme import Theme

_DRIVERS = (
    "A driver is somebody's program code and can do what this program can. Switch on only what comes from someone you trust. It "
    "gets only blocks that were compared and that your licence lets be written."
)
_NO_DRIVERS = "No driver of your own is installed. How one is written for a radio, a hotspot or a file: docs/adding.md."
_THEME_WORDS = {"system": "as the desktop", "light": "light", "dark": "dark"}


class SettingsSheet(QDialog):
    """Each choice holds at once."""

    def __init__(self, parent: QWidget, bench: Workbench, theme: Theme, settings: Settings) -> None:
        super().__init__(parent)
        self._bench, self._theme, self._settings = bench, theme, settings
        self.setWindowTitle("Settings")
        self.resize(min(560, parent.width() - 40), min(460, parent.height() - 60))
        outer = column(self, 10, 16)
        outer.addWidget(words("Settings", "title"))
        self.card = FieldList(140)
        outer.addWidget(self.card)
        self._drivers = words("", "second", wrap=True)
        outer.addWidget(self._drivers)
        outer.addStretch(1)
        acts = row()
        acts.addStretch(1)
        acts.addWidget(button("Close", self.accept, "main"))
        outer.addLayout(acts)
        self.refresh()

    def refresh(self) -> None:
        """Show what is chosen."""
        measures = self._theme.measures
        self.card.show_fields(
            [
                self._field(
                    "Theme", self._settings.kept.theme, {key: _THEME_WORDS[key] for key in THEMES}, self._take_theme
                ),
                self._field("Text", self._theme.scale, {size: f"{size:.0%}" for size in SCALES}, self._take_scale),
                self._field("Distances", measures.far, FAR_WORDS, partial(self._measure, "far")),
                self._field("Clock", measures.clock, CLOCK_WORDS, partial(self._measure, "clock")),
                self._field("Decimal mark", measures.mark, MARK_WORDS, partial(self._measure, "mark")),
                Field("Passwords", self._bench.secrets.words),
                Field(
                    "Own files",
                    str(self._bench.profiles.folder),
                    True,
                    tip="Profiles, layouts, rules and templates of your own",
                ),
                Field("Updates", "none: this program fetches nothing by itself"),
                *map(self._driver, DRIVERS.installed()),
            ]
        )
        self._drivers.setText(_DRIVERS if DRIVERS.installed() else _NO_DRIVERS)

    def _driver(self, driver: InstalledDriver) -> Field:
        """A driver of the operator's own, on or off."""
        on = DRIVERS.is_on(driver)
        ways = {True: "on: it is trusted", False: "off"}
        choices = [Choice(text, partial(self._switch, driver, on=key), key == on) for key, text in ways.items()]
        return Field(f"Driver {driver.name}", ways[on], tone="" if on else "brass", choices=choices, tip=driver.words)

    def _switch(self, driver: InstalledDriver, *, on: bool) -> None:
        kept = tuple(item for item in self._settings.kept.drivers if item != driver.key)
        self._settings.keep(drivers=(*kept, driver.key) if on else kept)
        DRIVERS.switch_on(frozenset(self._settings.kept.drivers))
        self._bench.say(f"The driver {driver.name} is {'on' if on else 'off'}.")
        self.refresh()

    def _field(self, label: str, now: Any, ways: Mapping[Any, str], take: Callable[[Any], None]) -> Field:
        choices = [Choice(text, partial(self._choose, take, key), key == now) for key, text in ways.items()]
        return Field(label, ways.get(now, str(now)), choices=choices)

    def _choose(self, take: Callable[[Any], None], value: Any) -> None:
        take(value)
        self.refresh()

    def _take_theme(self, choice: str) -> None:
        self._theme.choose(choice)
        self._settings.keep(theme=choice)

    def _take_scale(self, scale: float) -> None:
        self._theme.scale = scale
        self._theme.rescale(0)
        self._settings.keep(scale=scale)

    def _measure(self, field: str, wanted: str) -> None:
        self._theme.measure(**{field: wanted})
        self._settings.keep(**{field: wanted})
