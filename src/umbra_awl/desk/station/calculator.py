"""What the small calculators share: the radio their figures come from, fields to change them, a picture, a reminder."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.facts.wording import within
from umbra_awl.desk.asked import ask_button
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Choice, Commit, Field
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import card, column, row, rows_of, words
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.radio.profile import Profile

_OF_NO_RADIO = "figures of my own"


def parse_amount(text: str, low: float, high: float, what: str) -> float:
    """A number between two others. Raises ValueError with a sentence."""
    plain = text.strip().rstrip("%").replace(",", ".")
    number = plain.split()[0] if plain.split() else ""
    try:
        value = float(number)
    except ValueError:
        raise ValueError(f"“{text}” is not {what}.") from None
    if not low <= value <= high:
        raise ValueError(f"{what[0].upper()}{what[1:]} lies between {low:g} and {high:g}.")
    return value


class Calculator(QWidget):
    """Fields at the left, a picture and the reminder at the right. Its numbers are not part of the plan."""

    def __init__(self, bench: Workbench, theme: Theme, picture: QWidget, reminder: str) -> None:
        super().__init__()
        self._bench, self._theme = bench, theme
        self.values: dict[str, float] = {}
        self.radio = ""
        line = row(self, 12)
        self.fields = FieldList(84)
        left = column()
        left.addWidget(self.fields)
        left.addStretch(1)
        line.addLayout(left, 2)
        right = column(gap=6)
        frame = card()
        column(frame, 0, 8).addWidget(picture)
        right.addWidget(frame)
        self.result = words("", wrap=True)
        right.addWidget(self.result)
        right.addLayout(rows_of(ask_button(bench)))
        right.addWidget(words(reminder, "second", wrap=True))
        right.addStretch(1)
        line.addLayout(right, 3)
        self.choose(next(iter(bench.index.radios), ""))
        fresh = WhenChanged(self, lambda: (bench.plan.radios, bench.plan.station), self.refresh)
        bench.plan_changed.connect(fresh.check)

    def choose(self, radio: str) -> None:
        """Take the figures of an owned radio."""
        self.radio = radio
        self.take_figures(self._profile())
        self.refresh()

    def _profile(self) -> "Profile | None":
        owned = self._bench.index.radios.get(self.radio)
        return self._bench.profiles.get(owned.profile) if owned is not None else None

    def take_figures(self, profile: "Profile | None") -> None:
        """Set the values from a profile."""
        raise NotImplementedError

    def show_result(self) -> list[Field]:
        """Work out the result, show it, and give the fields."""
        raise NotImplementedError

    @property
    def source(self) -> str:
        """Where its figures came from."""
        owned = self._bench.index.radios.get(self.radio)
        return f"{owned.name}, its profile, or typed here" if owned is not None else "typed here"

    def refresh(self) -> None:
        """Show fields and result."""
        owned = self._bench.index.radios.get(self.radio)
        radios = [
            Choice(item.name, partial(self.choose, key), key == self.radio)
            for key, item in self._bench.index.radios.items()
        ]
        first = Field(
            "Radio",
            owned.name if owned else _OF_NO_RADIO,
            choices=[*radios, Choice(_OF_NO_RADIO, partial(self.choose, ""), not owned)],
        )
        self.fields.show_fields([first, *self.show_result()])

    def field(self, label: str, name: str, unit: str, low: float, high: float, tip: str = "") -> Field:
        """A field of one value."""
        return Field(
            label,
            f"{self.values[name]:g} {unit}",
            commit=self._set(name, low, high, label),
            text=f"{self.values[name]:g}",
            tip=tip,
        )

    def _set(self, name: str, low: float, high: float, label: str) -> Commit:
        def commit(text: str) -> str:
            try:
                self.values[name] = parse_amount(text, low, high, within(label))
            except ValueError as error:
                return str(error)
            self.refresh()
            return ""

        return commit

    def pick(self, name: str, value: float) -> Callable[[], None]:
        """Set a value by choice."""

        def does() -> None:
            self.values[name] = value
            self.refresh()

        return does
