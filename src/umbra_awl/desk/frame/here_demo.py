"""The demo in this very window: a fresh copy of it, with its simulated radios, which end with the window.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from umbra_awl.desk.workbench import Workbench

if TYPE_CHECKING:
    from umbra_awl.demo.fresh import DemoFiles
    from umbra_awl.standins.launch import RadioProcess


class HereDemo:
    """Lays the demo out, opens it, and runs its radios in the background."""

    def __init__(
        self, bench: Workbench, open_plan: Callable[[Path], object], take: Callable[["DemoFiles"], object]
    ) -> None:
        """`take` is told where the demo's directory and ports are, before its plan is opened."""
        self._bench, self._open, self._take = bench, open_plan, take
        self._running: list[RadioProcess] = []

    def start(self) -> None:
        """Open it; the radios follow as soon as they run."""
        from umbra_awl.demo.fresh import lay_out, start_radios
        from umbra_awl.demo.furnish import furnish

        demo = lay_out(Path(tempfile.mkdtemp(prefix="umbra-awl-demo-")))
        furnish(demo)
        self._take(demo)
        self._open(demo.plan)
        self._bench.jobs.start(lambda: start_radios(demo), self._ready, self._failed)

    def _ready(self, radios: "list[RadioProcess]") -> None:
        self._running += radios
        self._bench.say("This is a copy to play with. Its simulated radios are connected; nothing here transmits.")

    def _failed(self, error: Exception) -> None:
        self._bench.say(f"The demo is open; its simulated radios did not start: {error}", "stop")

    def stop(self) -> None:
        """End the radios."""
        for process in self._running:
            process.stop()
        self._running.clear()
