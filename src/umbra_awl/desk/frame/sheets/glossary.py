"""The words that are used here in a sense of their own, on a sheet of their own."""

from PyQt6.QtWidgets import QDialog, QGridLayout, QWidget

from umbra_awl.core.facts.glossary import GLOSSARY
from umbra_awl.desk.parts.widgets import button, column, row, scrolled, words

_LEAD = "Each of these is used for one thing only. All other words are the field's own."


class Glossary(QDialog):
    """Shows them all."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Words used here")
        self.resize(min(640, parent.width() - 40), min(620, parent.height() - 60))
        outer = column(self, 10, 16)
        outer.addWidget(words("Words used here", "title"))
        outer.addWidget(words(_LEAD, "second", wrap=True))
        inside = QWidget()
        inside.setObjectName("flow")
        grid = QGridLayout(inside)
        grid.setColumnStretch(1, 1)
        grid.setVerticalSpacing(8)
        for at, item in enumerate(GLOSSARY):
            term = words(item.word, "violet", wrap=True)
            term.setMinimumWidth(120)
            grid.addWidget(term, at, 0)
            grid.addWidget(words(item.meaning, wrap=True), at, 1)
        outer.addWidget(scrolled(inside), 1)
        acts = row()
        acts.addStretch(1)
        acts.addWidget(button("Close", self.accept, "main"))
        outer.addLayout(acts)
