"""What the stages share and only some need: the runner of transfers, the directory, the log; each made when first asked for.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING, cast

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.plan.disk.saves import SUFFIX
from umbra_awl.desk.frame.agenda import Agenda
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.desk.book.log_book import LogBook
    from umbra_awl.desk.hands.actions import Hands
    from umbra_awl.desk.known.directory import Directory
    from umbra_awl.desk.runs.runner import Runner


class Services:
    """What a window has besides its parts. The window sets the attributes that they are made with."""

    bench: Workbench
    settings: Settings
    agenda: Agenda
    theme: Theme
    _directory_path: Path | None

    @cached_property
    def runner(self) -> "Runner":
        """What runs transfers; made when first needed."""
        from umbra_awl.desk.runs.runner import Runner

        made = Runner(self.bench, self.settings)
        made.proven_changed.connect(self.agenda.look)
        return made

    @cached_property
    def book(self) -> "LogBook":
        """The log; read when first asked for."""
        from umbra_awl.desk.book.log_book import LogBook

        return LogBook(self.bench)

    @cached_property
    def directory(self) -> "Directory":
        """The directory; its store is opened when first asked for, since NumPy and all that come with it."""
        from umbra_awl.desk.known.directory import Directory

        path = self._directory_path
        if path is None:
            from platformdirs import user_data_path

            path = user_data_path("umbra-awl") / "directory.sqlite"
        made = Directory(self.bench, path, self.settings)
        self.runner.proven_changed.connect(made.look)
        return made

    @cached_property
    def hands(self) -> "Hands":
        """What can be done with plans from other hands."""
        from umbra_awl.desk.hands.actions import Hands

        return Hands(self.bench, self.theme, cast("QWidget", self), lambda: self.bench.profiles.folder)

    def hands_do(self, name: str) -> Callable[[], object]:
        """What does one of the things that can be done with plans from other hands; they are imported only then."""

        def does() -> object:
            return getattr(self.hands, name)()

        return does

    def follow_news(self) -> None:
        """Say so where the club's plan that the open one follows has news."""
        document = self.bench.document
        if document is not None and document.real.with_name(self._follows_name(document.real)).exists():
            self.hands.following.look_for_news()

    @staticmethod
    def _follows_name(path: Path) -> str:
        return path.name.removesuffix(SUFFIX) + ".follows.json"
