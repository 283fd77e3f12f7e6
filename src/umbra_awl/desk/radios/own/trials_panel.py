"""Limits found by trying: what is done, what the radio showed, and which value of the profile that settles."""

from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.lessons.trials import CAUTION, Trial, answer_of, settles, trials_for, tried_out
from umbra_awl.core.radio.profile import Profile
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Choice, Commit, Field
from umbra_awl.desk.parts.widgets import column, scrolled_card, words

if TYPE_CHECKING:
    from umbra_awl.desk.radios.profile_page import ProfilePage


class TrialsPanel(QWidget):
    """A field for each trial; what is typed there is noted with its day, and taken into the profile."""

    def __init__(self, page: "ProfilePage") -> None:
        super().__init__()
        self._page = page
        outer = column(self, 6)
        outer.addWidget(words(CAUTION, "second", wrap=True))
        self.card = FieldList(330)
        outer.addWidget(scrolled_card(self.card), 1)

    def show_draft(self, profile: Profile | None) -> None:
        """Show the trials of a profile in the making."""
        fields = [self._field(profile, trial) for trial in trials_for(profile)] if profile is not None else []
        done = sum(answer_of(profile, trial) is not None for trial in trials_for(profile)) if profile is not None else 0
        self.card.show_fields(fields, note=f"{done} of {len(fields)} trials done." if fields else "")

    def _field(self, profile: Profile, trial: Trial) -> Field:
        tried = answer_of(profile, trial)
        shown = tried.answer if tried is not None else "not tried"
        tip = f"Settles: {settles(trial)}." + (f" Tried on {tried.day}." if tried is not None else "")
        if trial.answers:
            choices = [
                Choice(answer, partial(self._choose, trial, answer), tried is not None and tried.answer == answer)
                for answer, _value in trial.answers
            ]
            return Field(f"{trial.do} {trial.ask}", shown, tone="ok" if tried else "", choices=choices, tip=tip)
        text = tried.answer if tried is not None else ""
        tone = "ok" if tried else ""
        return Field(f"{trial.do} {trial.ask}", shown, tried is not None, tone, self._commit(trial), text=text, tip=tip)

    def _commit(self, trial: Trial) -> Commit:
        def commit(text: str) -> str:
            return self._note(trial, text)

        return commit

    def _choose(self, trial: Trial, answer: str) -> None:
        fault = self._note(trial, answer)
        if fault:
            self._page.bench.say(fault, "stop")

    def _note(self, trial: Trial, answer: str) -> str:
        draft = self._page.draft
        if draft is None:
            return ""
        try:
            made = tried_out(draft, trial, answer, self._page.bench.clock.today().isoformat())
        except ValueError as error:
            return str(error)
        self._page.set_draft(made)
        return ""

    def take_focus(self) -> None:
        """Give the keyboard to the first trial."""
        self.card.focus_first()
