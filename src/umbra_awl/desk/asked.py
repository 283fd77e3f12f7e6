"""Numbers that can be asked on what is shown: whatever declares figures is found, on the page and beside it."""

from collections.abc import Callable, Iterable
from typing import TYPE_CHECKING, Protocol, runtime_checkable

from PyQt6.QtWidgets import QPushButton, QWidget

from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import button

if TYPE_CHECKING:
    from umbra_awl.core.asked.figure import Figure

ASKED_ON = (
    "Numbers can be asked where they stand: Access (reach), Station (exposure, battery, lead time), Radios (people), Hotspots "
    "(frequency, calibrate), On air (evening, pictures), Log (proof map)."
)


@runtime_checkable
class ShowsFigures(Protocol):
    """Something shown that has figures."""

    def figures(self) -> "list[Figure]":
        """The figures as they are now; none where nothing is worked out."""


def figures_on(shown: Iterable[QWidget | None]) -> "list[Figure]":
    """The figures of some widgets and everything visible in them, each once."""
    found: dict[str, Figure] = {}
    for widget in filter(None, shown):
        for one in (widget, *widget.findChildren(QWidget)):
            if one.isVisible() and isinstance(one, ShowsFigures):
                found |= {item.key: item for item in one.figures() if item.key not in found}
    return list(found.values())


def ask_button(bench: Workbench) -> QPushButton:
    """A button that asks the numbers of the page it stands on."""
    does: Callable[[], None] = bench.ask_wanted.emit
    return button("How so?", does, tip="How the numbers here are worked out (F4)")
