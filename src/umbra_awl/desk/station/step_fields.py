"""The fields of one step of the lead-time chart."""

from collections.abc import Callable
from functools import partial

from umbra_awl.core.agenda.steps import set_step, steps_for
from umbra_awl.core.directory.lists.values import parse_day
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.model import Step
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Choice, Field


def parse_days(text: str) -> tuple[float, float, float]:
    """Shortest, likely and longest days from “1 - 2 - 7”, “1/2/7” or one number. Raises ValueError with a sentence."""
    parts = text.replace("–", "-").replace("to", "-").replace("/", "-").replace(";", "-").replace(",", ".").split("-")
    try:
        numbers = [float(part) for part in parts if part.strip()]
    except ValueError:
        numbers = []
    if len(numbers) == 1:
        numbers *= 3
    if len(numbers) != 3:
        raise ValueError("Type three numbers of days: shortest, likely, longest; for example 1 - 2 - 7.")
    return numbers[0], numbers[1], numbers[2]


def step_fields(bench: Workbench, step: Step) -> list[Field]:
    """Name, days, what it waits for, when it began and ended, what is needed."""
    office = [
        Choice(
            "every day",
            partial(bench.do, set_step(step.key, f"Let {step.name} go on every day", office=False)),
            not step.office,
        ),
        Choice(
            "Monday to Friday",
            partial(bench.do, set_step(step.key, f"Let {step.name} rest at weekends", office=True)),
            step.office,
        ),
    ]
    return [
        Field("Step", step.name, commit=_name(bench, step), text=step.name),
        Field(
            "Days",
            f"{step.low:g} – {step.likely:g} – {step.high:g}",
            True,
            commit=_days(bench, step),
            text=f"{step.low:g} - {step.likely:g} - {step.high:g}",
            tip="Shortest, likely, longest",
        ),
        Field("Goes on", "Monday to Friday" if step.office else "every day", choices=office),
        Field("Waits for", _waits_words(bench, step), choices=_waits(bench, step)),
        Field(
            "Began",
            step.started or "not yet",
            commit=_day(bench, step, "started"),
            text=step.started,
            tip="A date, or “today”",
        ),
        Field(
            "Done",
            step.done or "not yet",
            commit=_day(bench, step, "done"),
            text=step.done,
            tip="A date, or “today”; empty takes it back",
        ),
        Field("Needs", "as said below" if step.needs else "nothing noted", commit=_needs(bench, step), text=step.needs),
    ]


def toggle_done(bench: Workbench, step: Step) -> None:
    """Mark a step as done today, or as not done."""
    if step.done:
        bench.do(set_step(step.key, f"Mark {step.name} as not done", done=""))
    else:
        bench.do(set_step(step.key, f"Mark {step.name} as done", done=bench.clock.today().isoformat()))


def _commit(bench: Workbench, step: Step, sentence: str, **fields: object) -> str:
    """Apply an edit of the step; the reason when it is refused."""
    edit = set_step(step.key, sentence, **fields)
    try:
        edit.apply(bench.plan)
    except EditRefused as error:
        return str(error)
    bench.do(edit)
    return ""


def _name(bench: Workbench, step: Step) -> Callable[[str], str]:
    def commit(text: str) -> str:
        return _commit(bench, step, f"Call the step {text}", name=text) if text else "A step needs a name."

    return commit


def _days(bench: Workbench, step: Step) -> Callable[[str], str]:
    def commit(text: str) -> str:
        try:
            low, likely, high = parse_days(text)
        except ValueError as error:
            return str(error)
        return _commit(bench, step, f"Set the days of {step.name}", low=low, likely=likely, high=high)

    return commit


def _day(bench: Workbench, step: Step, field: str) -> Callable[[str], str]:
    def commit(text: str) -> str:
        try:
            day = bench.clock.today().isoformat() if text.casefold() == "today" else parse_day(text)
        except ValueError as error:
            return str(error)
        word = "began" if field == "started" else "was done"
        return _commit(bench, step, f"{step.name} {word} {day or 'not yet'}", **{field: day})

    return commit


def _needs(bench: Workbench, step: Step) -> Callable[[str], str]:
    return lambda text: _commit(bench, step, f"Note what {step.name} needs", needs=text)


def _waits_words(bench: Workbench, step: Step) -> str:
    names = {item.key: item.name for item in bench.plan.steps}
    return ", ".join(names.get(key, key) for key in step.after) or "nothing"


def _waits(bench: Workbench, step: Step) -> list[Choice]:
    """Each other step of the same person: choosing it puts it in or takes it out."""
    found: list[Choice] = []
    for other in steps_for(bench.plan, step.who):
        if other.key == step.key:
            continue
        waits = other.key in step.after
        after = tuple(key for key in step.after if key != other.key) if waits else (*step.after, other.key)
        sentence = f"Let {step.name} {'no longer wait' if waits else 'wait'} for {other.name}"
        found.append(Choice(other.name, partial(bench.do, set_step(step.key, sentence, after=after)), waits))
    return found
