"""What is shown while no plan is open: what this is, and the first step."""

from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QWidget

from umbra_awl.desk.frame.plan_menu import PlanActions
from umbra_awl.desk.parts.widgets import button, card, column, row, words
from umbra_awl.desk.settings import Settings

_LEAD = (
    "Keep access points and destinations once. Punch the crossings you use. Every radio you own gets its channels, contacts, "
    "group lists and zones from the same plan, checked and traced before anything is written."
)
_WIDTH = 520


class Welcome(QWidget):
    """The page without a plan."""

    def __init__(self, plans: PlanActions, settings: Settings) -> None:
        super().__init__()
        outer = column(self)
        outer.addStretch(2)
        frame = card()
        frame.setFixedWidth(_WIDTH)
        inner = column(frame, 12, 24)
        inner.addWidget(words("One plan, every radio", "title"))
        lead = words(_LEAD, wrap=True)
        lead.setMinimumHeight(lead.heightForWidth(_WIDTH - 48))  # a centred card is not asked how high its words become
        inner.addWidget(lead)
        acts = row()
        acts.addWidget(button("Make a new plan", plans.ask_new, "main"))
        acts.addWidget(button("Open a plan …", plans.ask_open))
        acts.addStretch(1)
        inner.addLayout(acts)
        for name in settings.kept.recent[:5]:
            inner.addWidget(button(Path(name).name, partial(plans.open, Path(name)), "plain", name))
        inner.addWidget(words("To look around first, type “umbra-awl demo” in a terminal.", "second", wrap=True))
        outer.addWidget(frame, 0, Qt.AlignmentFlag.AlignHCenter)
        outer.addStretch(3)
