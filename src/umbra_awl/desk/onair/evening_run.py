"""Evenings played in the background, with progress and an end."""

from functools import partial
from typing import TYPE_CHECKING

from umbra_awl.core.simulation.evenings import Cancelled, Evenings
from umbra_awl.core.simulation.helps import Helped
from umbra_awl.core.simulation.setting import ListeningChoice, NoSetting

if TYPE_CHECKING:
    from umbra_awl.desk.onair.evening_page import EveningPage


class EveningRun:
    """Runs evenings for a page."""

    def __init__(self, owner: "EveningPage") -> None:
        self._page = owner

    def begin(self) -> ListeningChoice | None:
        if not self._page.bench.worked.fresh:
            self._page.bench.say("The plan is just being worked out anew. Try again in a moment.", "stop")
            return None
        self._page.choice = self._page.make_choice()
        if self._page.choice is None:
            self._page.bench.say(
                "This radio listens to nothing yet. Punch a route at Routes, or choose another radio.", "stop"
            )
            return None
        self._page.running, self._page.stop, self._page.basis = True, False, self._page.bench.worked.basis
        self._page.progress.setValue(0)
        self._page.show_state()
        return self._page.choice

    def told(self, done: int, all_: int) -> bool:
        """From the worker: how far it is; whether to go on."""
        if done % 20 == 0:
            self._page.bench.jobs.tell(partial(self._show_progress, done, all_))
        return not self._page.stop

    def _show_progress(self, done: int, all_: int) -> None:
        self._page.progress.setMaximum(max(all_, 1))
        self._page.progress.setValue(done)

    def take(self, result: Evenings) -> None:
        self._page.result = result
        self.end("")

    def take_help(self, found: tuple[Helped, ...]) -> None:
        if found:
            self._page.result = self._page.result or found[0].before
        self.end("")
        self._page.show_side(0)
        self._page.helping.show_found(found)

    def failed(self, error: Exception) -> None:
        known = isinstance(error, Cancelled | NoSetting)
        self.end(
            "Stopped."
            if isinstance(error, Cancelled)
            else str(error)
            if known
            else f"It failed ({type(error).__name__})."
        )

    def end(self, trouble: str) -> None:
        self._page.running = False
        self._page.show_state()
        if trouble:
            self._page.told.setText(trouble)
