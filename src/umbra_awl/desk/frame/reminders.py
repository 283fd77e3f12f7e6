"""Reminds of nets while the program runs: once for each meeting, so long before it as its net says."""

from PyQt6.QtCore import QObject, QTimer

from umbra_awl.desk.held.workbench import Workbench

LOOK_MS = 20_000


class Reminders(QObject):
    """Looks at the plan's nets now and then."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self._told: set[tuple[str, str]] = set()
        self._look = QTimer(self)
        self._look.setInterval(LOOK_MS)
        self._look.timeout.connect(self.look)
        self._look.start()

    def look(self) -> None:
        """Begin a new day where there is one; say which net begins soon, and has not been told of yet."""
        self._bench.follow_day()
        if not self._bench.plan.nets:
            return
        from umbra_awl.core.agenda.reminding import due

        now = self._bench.clock.utc()
        for item in due(self._bench.plan.nets, now):
            mark = (item.net.key, item.start.isoformat())
            if mark not in self._told:
                self._told.add(mark)
                self._bench.say(item.words(now))
