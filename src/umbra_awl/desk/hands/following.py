"""A plan that is followed: begun, asked for news, left."""

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QFileDialog

from umbra_awl.core.hands.followed import CHOICES, USUAL, FollowedPlan, follow, followed_by, news, offered, unfollow
from umbra_awl.core.plan.disk.saves import SUFFIX
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.model import Plan
from umbra_awl.desk.hands.merge_window import Base, MergeSource
from umbra_awl.desk.parts.asking import ask_choices

if TYPE_CHECKING:
    from umbra_awl.desk.hands.actions import Hands


PLANS = f"Plans (*{SUFFIX})"


NONE = Base("nothing that is known: both plans are joined", None)


_FOLLOW = "Follow a club's plan"


class Following:
    """Follows for the window."""

    def __init__(self, owner: "Hands") -> None:
        self._hands = owner

    def ask_follow(self) -> None:
        """Ask for the club's plan, and follow it from now on."""
        file = self._hands.plan_file
        if file is None:
            return
        name, _kind = QFileDialog.getOpenFileName(self._hands.parent, _FOLLOW, str(file.parent), PLANS)
        if name:
            what = ask_choices(
                self._hands.parent, _FOLLOW, "What of it do you follow?", tuple(CHOICES), USUAL, "Follow it"
            )
            if what:
                self.follow(Path(name), what)

    def follow(self, club: Path, what: tuple[str, ...] = USUAL) -> None:
        """Follow some of a club's plan: its news come in as a change to be looked at, the first time all that is followed."""
        file = self._hands.plan_file
        if file is None:
            return
        try:
            if club.resolve() == file.resolve():
                raise StoreError("A plan cannot follow itself. Choose the club's file.")
        except StoreError as error:
            self._hands.bench.say(str(error), "stop")
            return
        self._hands.with_plan(club, lambda _plan: self._follow(file, club, what))

    def _follow(self, file: Path, club: Path, what: tuple[str, ...]) -> None:
        try:
            follow(file, club, None, what)
        except StoreError as error:
            self._hands.bench.say(str(error), "stop")
            return
        self.show_news()

    def leave(self) -> None:
        """Follow nothing any more; the plan stays as it is."""
        file = self._hands.plan_file
        if file is None:
            return
        try:
            unfollow(file)
        except StoreError as error:
            self._hands.bench.say(str(error), "stop")
            return
        self._hands.bench.say("No club's plan is followed any more. What came from it stays.")

    def show_news(self) -> None:
        """Look at the news of the club's plan, and take them; a refusal is said."""
        file = self._hands.plan_file
        found = followed_by(file) if file is not None else None
        if file is None:
            return
        if found is None:
            self._hands.bench.say("This plan follows no club's plan yet. Choose one: “Follow a club's plan”.", "stop")
            return
        followed = found
        self._hands.with_plan(
            Path(found.path), lambda club: self._show_news(file, followed, club), "The club's plan cannot be read. "
        )

    def _show_news(self, file: Path, found: FollowedPlan, club: Plan) -> None:
        before = found.taken()
        if before == club:
            self._hands.bench.say("The club's plan has no news since they were taken last.")
            return
        base = Base("the club's plan as you took it last", before) if before is not None else NONE

        def taken(*, along: bool = True) -> None:
            self._hands.keep(file, found, before, club, along=along)

        made = news(found, self._hands.bench.plan, club)
        if not made.questions and made.plan == self._hands.bench.plan:
            taken(along=False)
            self._hands.bench.say("The club's plan has changed, and yours has all of it already.")
            return
        self._hands.open(MergeSource("the club's news", offered(found, self._hands.bench.plan, club), [base], taken))

    def look_for_news(self) -> None:
        """Say so where the club's plan that is followed has news; said once, when a plan is opened."""
        document = self._hands.bench.document
        if document is None:
            return
        file = document.real

        def work() -> bool:
            found = followed_by(file)
            if found is None:
                return False
            try:
                return found.taken() != read_plan(Path(found.path))
            except StoreError:
                return False

        def told(new: bool) -> None:
            if new and self._hands.bench.document is document:
                self._hands.bench.say(
                    "The club's plan that this one follows has news: “News of the club's plan” shows them."
                )

        self._hands.bench.jobs.latest("club news", work, told, lane="saves")
