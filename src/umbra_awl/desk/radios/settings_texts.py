"""Quick texts and start-up lines of a radio."""

from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QPlainTextEdit, QWidget

from umbra_awl.core.fit.choices import set_settings
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.desk.parts.cards.fields import Commit
from umbra_awl.desk.parts.widgets import button, column, row, words

if TYPE_CHECKING:
    from umbra_awl.desk.radios.settings_page import SettingsPage


class SettingsTexts:
    """Asks for them on a page."""

    def __init__(self, owner: "SettingsPage") -> None:
        self._page = owner
        self.quick = QPlainTextEdit()
        self.quick.setAccessibleName("Quick texts, one a line")
        self.quick.setPlaceholderText("One quick text a line")
        self.quick.setTabChangesFocus(True)
        self.quick.setMaximumHeight(96)
        self.words = words("", "second", wrap=True)

    def texts_box(self) -> QWidget:
        box = QWidget()
        outer = column(box, 4)
        outer.addWidget(self.quick)
        line = row(gap=6)
        line.addWidget(self.words, 1)
        line.addWidget(button("Keep the texts", self.keep_texts))
        outer.addLayout(line)
        outer.addStretch(1)
        return box

    def startup(self, radio: OwnedRadio) -> str:
        identity = self._page.bench.index.owners.identity_of(radio)
        return radio.settings.startup or (identity.startup if identity is not None else "")

    def text(self, radio: OwnedRadio, most: int) -> Commit:
        def commit(text: str) -> str:
            if len(text) > most:
                return f"“{text}” has {len(text)} characters; this radio shows {most}."
            self._page.do(set_settings(radio, f"Start-up text of {radio.name}", startup=text or None))
            return ""

        return commit

    def keep_texts(self) -> None:
        """Keep the quick texts as they are typed."""
        radio = self._page.bench.radio
        if radio is not None:
            texts = tuple(line.strip() for line in self.quick.toPlainText().splitlines() if line.strip())
            self._page.do(set_settings(radio, f"Quick texts of {radio.name}", quick_texts=texts))
