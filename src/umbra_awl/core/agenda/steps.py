"""Templates of steps, and the edits of the chart.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import re
import tomllib
from collections.abc import Iterable
from datetime import date
from functools import cache
from pathlib import Path
from typing import Any, NamedTuple

from msgspec import convert, to_builtins
from msgspec.structs import replace

from umbra_awl.core.keep.toml_form import text_of
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.edit.edit_station import licence_of, whose_licence
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, fresh_key, swap_item, without
from umbra_awl.core.plan.model import Identity, Plan, Step
from umbra_awl.core.plan.permit import in_force

TEMPLATES = Path(__file__).parent / "templates"
LONGEST_DAYS = 1_000
MOST_STEPS = 400


class Template(NamedTuple):
    """Steps to begin with."""

    name: str
    summary: str
    steps: tuple[Step, ...]


class TemplateError(ValueError):
    """A template of steps that cannot be used; the message says why."""


@cache
def templates() -> tuple[Template, ...]:
    """The templates that come with the application."""
    return tuple(parse_template(path.read_text("utf-8"), path.name) for path in sorted(TEMPLATES.glob("*.toml")))


def own_templates(folder: Path) -> tuple[Template, ...]:
    """The templates that lie in a folder; those that cannot be used are passed over."""
    found = []
    for path in sorted(folder.glob("*.toml")):
        try:
            found.append(parse_template(text_of(path), path.name))
        except (TemplateError, OSError, UnicodeDecodeError):
            continue
    return tuple(found)


def parse_template(text: str, source: str = "The template") -> Template:
    """The template in a TOML text. Raises TemplateError."""
    try:
        found = tomllib.loads(text)
        steps = tuple(map(_step, found["steps"]))
        made = Template(str(found["name"]), str(found.get("summary", "")), steps)
    except (tomllib.TOMLDecodeError, KeyError, TypeError, ValueError, AttributeError, RecursionError) as error:
        raise TemplateError(f"{source} is no template of steps ({str(error)[:80] or type(error).__name__}).") from None
    if (
        not steps
        or len(steps) > MOST_STEPS
        or any(not (0 <= s.low <= s.likely <= s.high <= LONGEST_DAYS) for s in steps)
    ):
        raise TemplateError(f"{source} has no steps, too many, or days that run backwards.")
    faults = structure_faults(Plan(steps=steps))
    if faults:
        raise TemplateError(f"{source} cannot be used. {faults[0]}")
    return made


def _step(item: dict[str, Any]) -> Step:
    low, likely, high = (float(days) for days in item["days"])
    rest = {name: value for name, value in item.items() if name not in {"days", "after", "who", "started", "done"}}
    made = Step(low=low, likely=likely, high=high, after=tuple(item.get("after", ())), **rest)
    return convert(to_builtins(made), Step)


def template_text(name: str, summary: str, steps: Iterable[Step], people: Iterable[Identity] = ()) -> str:
    """Steps as a template: without whose they are, when they were done, and what those people are called."""
    called = sorted({text for item in people for text in (item.call, item.name) if text}, key=len, reverse=True)
    names = re.compile("|".join(rf"\b{re.escape(text)}\b" for text in called) or r"(?!)", re.IGNORECASE)
    import tomlkit

    document = tomlkit.document()
    document.add("name", tomlkit.item(name))
    document.add("summary", tomlkit.item(summary))
    rows = tomlkit.aot()
    for step in steps:
        row = tomlkit.table()
        told = names.sub("the operator", step.name)
        row.update({"key": step.key, "name": told, "days": [step.low, step.likely, step.high]})
        row.update({"after": list(step.after)} if step.after else {})
        row.update({name: value for name in ("office", "waiting") if (value := getattr(step, name))})
        row.update({"needs": names.sub("the operator", step.needs)} if step.needs else {})
        rows.append(row)
    document.add("steps", rows)
    return tomlkit.dumps(document)


def steps_for(plan: Plan, who: str) -> tuple[Step, ...]:
    """The steps of one identity."""
    return tuple(step for step in plan.steps if step.who == who)


def use_template(template: Template, who: str, today: date) -> Edit:
    """Put a template's steps in place of an identity's; a licence that is granted already is marked as done."""

    def apply(plan: Plan) -> Plan:
        others = tuple(step for step in plan.steps if step.who != who)
        taken = {step.key for step in others}
        keys = {step.key: fresh_key(step.key, taken) for step in template.steps}
        fresh = tuple(
            replace(step, key=keys[step.key], who=who, after=tuple(keys[key] for key in step.after))
            for step in template.steps
        )
        granted = _granted_on(plan, who, today)
        fresh = tuple(replace(step, done=granted) if granted and step.name == "Licence" else step for step in fresh)
        return replace(plan, steps=(*others, *fresh))

    return Edit(f"Begin with the steps “{template.name}”", apply)


def _granted_on(plan: Plan, who: str, today: date) -> str:
    licence = in_force(licence_of(plan, whose_licence(plan, who)), today)
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
