"""Templates of steps, and the edits of the chart."""

import tomllib
from datetime import date
from functools import cache
from pathlib import Path
from typing import Any, NamedTuple

from msgspec.structs import replace

from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.edit_station import licence_of, whose_licence
from umbra_awl.core.plan.edits import Edit, EditRefused, fresh_key, swap_item, without
from umbra_awl.core.plan.model import Plan, Step
from umbra_awl.core.plan.permit import in_force

TEMPLATES = Path(__file__).parent / "templates"
LONGEST_DAYS = 1_000


class Template(NamedTuple):
    """Steps to begin with."""

    name: str
    summary: str
    steps: tuple[Step, ...]


@cache
def templates() -> tuple[Template, ...]:
    """The templates that come with the application."""
    return tuple(_template(tomllib.loads(path.read_text("utf-8"))) for path in sorted(TEMPLATES.glob("*.toml")))


def _template(text: dict[str, Any]) -> Template:
    return Template(text["name"], text["summary"], tuple(map(_step, text["steps"])))


def _step(item: dict[str, Any]) -> Step:
    low, likely, high = (float(days) for days in item.pop("days"))
    return Step(low=low, likely=likely, high=high, after=tuple(item.pop("after", ())), **item)


def steps_for(plan: Plan, who: str) -> tuple[Step, ...]:
    """The steps of one identity."""
    return tuple(step for step in plan.steps if step.who == who)


def use_template(template: Template, who: str) -> Edit:
    """Put a template's steps in place of an identity's; a licence that is granted already is marked as done."""

    def apply(plan: Plan) -> Plan:
        others = tuple(step for step in plan.steps if step.who != who)
        taken = {step.key for step in others}
        keys = {step.key: fresh_key(step.key, taken) for step in template.steps}
        fresh = tuple(
            replace(step, key=keys[step.key], who=who, after=tuple(keys[key] for key in step.after))
            for step in template.steps
        )
        granted = _granted_on(plan, who)
        fresh = tuple(replace(step, done=granted) if granted and step.name == "Licence" else step for step in fresh)
        return replace(plan, steps=(*others, *fresh))

    return Edit(f"Begin with the steps “{template.name}”", apply)


def _granted_on(plan: Plan, who: str) -> str:
    licence = in_force(licence_of(plan, whose_licence(plan, who)), date.today())
    return licence.granted_on if licence.granted else ""


def set_step(key: str, sentence: str, **fields: Any) -> Edit:
    """Change fields of a step. Refused when days run backwards or steps would wait in a ring."""

    def apply(plan: Plan) -> Plan:
        changed = replace(plan, steps=swap_item(plan.steps, key, lambda step: replace(step, **fields)))
        step = next(item for item in changed.steps if item.key == key)
        if not 0 <= step.low <= step.likely <= step.high <= LONGEST_DAYS:
            raise EditRefused(
                f"Give the days of “{step.name}” as shortest, likely, longest, each not less than the one before: 1 - 2 - 7."
            )
        faults = structure_faults(changed, plan)
        if faults:
            raise EditRefused(f"“{step.name}” cannot wait for that: the steps would wait for one another in a ring.")
        return changed

    return Edit(sentence, apply)


def add_step(plan: Plan, name: str, who: str, after: tuple[str, ...] = ()) -> Edit:
    """Add a step of one's own."""
    step = Step(fresh_key(name, (item.key for item in plan.steps)), name, 1, 2, 5, after=after, who=who)
    return Edit(f"Add the step {name}", lambda old: replace(old, steps=(*old.steps, step)))


def remove_step(step: Step) -> Edit:
    """Take a step out; what waited for it waits for what it waited for."""

    def apply(plan: Plan) -> Plan:
        kept = tuple(_without(item, step) for item in without(plan.steps, {step.key}))
        return replace(plan, steps=kept)

    return Edit(f"Remove the step {step.name}", apply)


def _without(item: Step, gone: Step) -> Step:
    if gone.key not in item.after:
        return item
    rest = [key for key in item.after if key != gone.key]
    return replace(item, after=tuple(dict.fromkeys((*rest, *gone.after))))
