"""A figure that can be asked: its value, the lines it is worked out by, what goes into them and where that came from."""

from collections.abc import Callable, Mapping
from typing import NamedTuple

from umbra_awl.core.asked.formula import FUNCTIONS, FormulaError, worked_out

_CHANGE = 0.10
_LEAST = 1e-9


class FigureInput(NamedTuple):
    """What goes in: its name in the lines, its words, value and unit, where it came from.

    `fixed` is a constant of the method, or something that nobody would change.
    """

    name: str
    words: str
    value: float
    unit: str
    source: str
    fixed: bool = False


class WorkingLine(NamedTuple):
    """A line: the name of its result, what it is in words, the formula, and the unit."""

    name: str
    words: str
    formula: str
    unit: str = ""


class InputChange(NamedTuple):
    """What a tenth more of something would do to the figure."""

    words: str
    before: float
    after: float
    value: float

    @property
    def moved(self) -> float:
        """By how much the figure would move."""
        return self.after - self.before


class Figure(NamedTuple):
    """The figure: its key and words, the value as it is shown elsewhere, its unit and decimals, lines, inputs and source.

    `functions` are methods with a name of their own, beside those every formula has; `note` says what it does not say.
    """

    key: str
    words: str
    value: float
    unit: str
    lines: tuple[WorkingLine, ...]
    inputs: tuple[FigureInput, ...]
    source: str
    places: int = 1
    note: str = ""
    functions: Mapping[str, Callable[..., float]] = FUNCTIONS

    def results(self, changed: Mapping[str, float] | None = None) -> dict[str, float]:
        """The result of every line from what is shown, some of it changed. Raises FormulaError."""
        values = {item.name: item.value for item in self.inputs} | dict(changed or {})
        found: dict[str, float] = {}
        for line in self.lines:
            found[line.name] = worked_out(line.formula, {**values, **found}, self.functions)
        return found

    def again(self, changed: Mapping[str, float] | None = None) -> float:
        """The figure worked out from what is shown. Raises FormulaError."""
        return self.results(changed)[self.lines[-1].name]

    def changes(self) -> list[InputChange]:
        """What would change it most, a tenth more of each in turn; the greatest first."""
        found = []
        for item in self.inputs:
            if item.fixed:
                continue
            more = item.value * (1 + _CHANGE) if abs(item.value) > _LEAST else 1.0
            try:
                after = self.again({item.name: more})
            except FormulaError:
                continue
            found.append(InputChange(item.words, self.value, after, more))
        return sorted(found, key=lambda item: -abs(item.moved))

    def shown(self, value: float | None = None) -> str:
        """A value as it is shown, with its unit."""
        return f"{self.value if value is None else value:,.{self.places}f} {self.unit}".strip()

    def filled(self, line: WorkingLine) -> str:
        """A line's formula with today's values in the place of its names."""
        values = {item.name: item.value for item in self.inputs} | self.results()
        names = sorted(values, key=len, reverse=True)
        text, made = line.formula, ""
        while text:
            name = next((one for one in names if text.startswith(one) and not _goes_on(made, text[len(one) :])), "")
            if name:
                made, text = made + _number(values[name]), text[len(name) :]
            else:
                made, text = made + text[0], text[1:]
        return made.replace("**", "^").replace(" * ", " · ")


def _goes_on(before: str, after: str) -> bool:
    """Whether a name found in a formula is only a part of a longer one."""
    return (before[-1:].isalnum() or before[-1:] == "_") or (after[:1].isalnum() or after[:1] in {"_", "("})


def _number(value: float) -> str:
    text = f"{value:.6g}"
    return f"({text})" if value < 0 else text
