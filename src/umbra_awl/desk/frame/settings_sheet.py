"""The settings of the window on one sheet: theme, text, measures, where passwords and the diary lie, that nothing is fetched."""

from collections.abc import Callable, Mapping
from functools import partial
from typing import Any

from PyQt6.QtWidgets import QDialog, QWidget

from umbra_awl.desk.measures import CLOCK_WORDS, FAR_WORDS, MARK_WORDS
from umbra_awl.desk.parts.field_list import FieldList
from umbra_awl.desk.parts.fields import Choice, Field
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.settings import SCALES, THEMES, Settings
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

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
            ]
        )

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
