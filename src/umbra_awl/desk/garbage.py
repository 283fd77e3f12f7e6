"""Cyclic garbage is collected on the interface thread only.

Python collects in whatever thread happens to allocate, and in the middle of whatever it does: a widget or timer that is part of
a cycle would then be destroyed outside the interface thread, or while its window's children are just being gone through. Both end
in a crash. So automatic collection is off for every window that is built, and a timer does the same work between events.
"""

import gc

from PyQt6.QtCore import QObject, QTimer

_EVERY_MS = 400
_MANY = 15_000
"""So many young objects are data of background work, not widgets. Looking through them would hold the window up, so they are
set aside."""


class Collector(QObject):
    """Collects by the usual thresholds, every now and then, where it was made."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._thresholds = gc.get_threshold()
        if gc.isenabled():
            gc.disable()
            gc.freeze()  # what is there now stays; looking at it again and again would only take time
        timer = QTimer(self)
        timer.timeout.connect(self._collect)
        timer.start(_EVERY_MS)

    def _collect(self) -> None:
        counts = gc.get_count()
        if counts[0] > _MANY:
            gc.freeze()
            return
        for generation in (2, 1, 0):
            if counts[generation] > self._thresholds[generation]:
                gc.collect(generation)
                return
