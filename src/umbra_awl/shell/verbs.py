"""The shell verbs: the same core without a window. Exit code 0 clean, 1 findings that stop, 2 cannot run.

Each verb imports what it needs where it needs it, so that a quick one is quick.
"""

import os
import sys
from collections.abc import Callable
from functools import wraps
from pathlib import Path
from typing import TYPE_CHECKING, Any, ParamSpec

import click

from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.known import NOTHING_KNOWN, Known
from umbra_awl.core.plan.model import OwnedRadio, Plan

if TYPE_CHECKING:
    from datetime import date

    from umbra_awl.core.fit.fitting import Fit
    from umbra_awl.core.keep.clock import Clock
    from umbra_awl.core.radio.profile import Profile

_P = ParamSpec("_P")
CLEAN, STOPS, CANNOT = 0, 1, 2
plan_argument = click.argument("plan", type=click.Path(path_type=Path))
json_option = click.option("--json", "as_json", is_flag=True, help="Print JSON.")


class CannotRunError(Exception):
    """A reason why a verb cannot run."""


def clock() -> "Clock":
    """The clock of this run. Raises CannotRunError."""
    from umbra_awl.core.keep.clock import clock_of

    try:
        return clock_of(os.environ)
    except ValueError as error:
        raise CannotRunError(str(error)) from None


def today() -> "date":
    """The day of this run. Raises CannotRunError."""
    return clock().today()


def guarded(verb: Callable[_P, int]) -> Callable[_P, None]:
    """Turn a verb's number into the exit code, and what keeps it from running into one sentence."""

    @wraps(verb)
    def run(*args: _P.args, **kwargs: _P.kwargs) -> None:
        from umbra_awl.core.columns.errors import ColumnsError
        from umbra_awl.core.paper.errors import PaperError
        from umbra_awl.core.radio.profile_file import ProfileError
        from umbra_awl.core.tables.errors import SourceError

        try:
            code = verb(*args, **kwargs)
        except (StoreError, CannotRunError, ProfileError, SourceError, ColumnsError, PaperError, OSError) as error:
            code = _cannot(_sentence(error), as_json=bool(kwargs.get("as_json")))
        except Exception as error:
            if os.environ.get("UMBRA_AWL_TRACE"):
                raise
            text = (
                f"Something unforeseen happened ({type(error).__name__}: {error}). Set UMBRA_AWL_TRACE=1 to see where."
            )
            code = _cannot(text, as_json=bool(kwargs.get("as_json")))
        sys.exit(code)

    return run


replace_option = click.option("--replace", is_flag=True, help="Replace files that are there already.")


def put(made: dict[Path, bytes], *, replace: bool) -> None:
    """Write files, their folders too. Raises CannotRunError when one is there and may not be replaced; none is written."""
    from umbra_awl.core.keep.atomic import write_new, write_over

    for path in made if not replace else ():
        if os.path.lexists(path):
            raise CannotRunError(_taken(path))
    for path, data in made.items():
        path.parent.mkdir(parents=True, exist_ok=True)
        try:
            (write_over if replace else write_new)(path, data)
        except FileExistsError:  # another process was quicker
            raise CannotRunError(_taken(path)) from None
        except OSError as error:
            raise CannotRunError(f"“{path}” cannot be written: {error.strerror or error}.") from None


def _taken(path: Path) -> str:
    return f"“{path}” is there already. Choose another place, or add --replace; nothing was replaced."


def _cannot(text: str, *, as_json: bool) -> int:
    """Say why a verb cannot run."""
    if as_json:
        click.echo(_json({"error": text}))
    else:
        click.echo(f"umbra-awl: {text}", err=True)
    return CANNOT


def _sentence(error: Exception) -> str:
    """What keeps a verb from running; of the system's own errors the reason and the file, without their numbers."""
    if not isinstance(error, OSError):
        return str(error)
    name = f"“{error.filename}”: " if error.filename else ""
    return f"{name}{(error.strerror or str(error)).lower()}."


def _json(value: Any, indent: int | None = None) -> str:
    import json

    return json.dumps(value, ensure_ascii=False, indent=indent)


def tell(as_json: bool, value: Any, lines: list[str]) -> None:
    """Print JSON, or the lines."""
    click.echo(_json(value, indent=1) if as_json else "\n".join(lines))


def radio_of(index: PlanIndex, name: str) -> OwnedRadio:
    """The radio of a plan by name or key. Raises CannotRunError."""
    for radio in index.plan.radios:
        if name.casefold() in {radio.key.casefold(), radio.name.casefold()}:
            return radio
    there = ", ".join(radio.name for radio in index.plan.radios) or "none"
    raise CannotRunError(f"The plan has no radio “{name}”. It has: {there}.")


def _known(store: Path | None, plan: Plan, file: Path) -> Known:
    """What a directory says of a plan's things; nothing without one."""
    if store is None:
        return NOTHING_KNOWN
    from umbra_awl.core.directory.known import known_of
    from umbra_awl.core.directory.people import people_listed_on
    from umbra_awl.core.directory.store import Store
    from umbra_awl.core.keep.atomic import real_path
    from umbra_awl.core.transfer.held import people_known

    opened = Store(store)
    try:
        return known_of(opened, plan)._replace(people=people_known(real_path(file), plan, people_listed_on(opened)))
    finally:
        opened.close()


@click.command()
@plan_argument
@click.option("--store", type=click.Path(path_type=Path, exists=True), help="A directory to check it against as well.")
@json_option
@guarded
def check(plan: Path, store: Path | None, as_json: bool) -> int:
    """Tell what is wrong or doubtful in a plan."""
    from umbra_awl.core.findings.aside import reason_for
    from umbra_awl.core.findings.evaluate import Evaluator
    from umbra_awl.core.findings.model import SEVERITY_WORDS

    opened = read_plan(plan)
    evaluator = Evaluator(profiles_for(opened))
    found = evaluator.evaluate(PlanIndex(opened, today()), _known(store, opened, plan))
    aside = [
        {"rule": item.rule.name, "text": item.text, "reason": reason_for(opened, item)} for item in evaluator.silenced
    ]
    rows = [
        {
            "severity": item.severity,
            "rule": item.rule.name,
            "title": item.rule.title,
            "text": item.text,
            "target": {"kind": item.target.kind, "key": item.target.key},
            "repair": item.repair.label if item.repair else None,
        }
        for item in found
    ]
    lines = [f"{SEVERITY_WORDS[item.severity]}: {item.rule.title}. {item.text}" for item in found]
    lines += [f"Put aside: {item['text']} Because: {item['reason']}" for item in aside]
    tell(as_json, {"findings": rows, "aside": aside}, lines or ["Nothing found."])
    return STOPS if any(item.severity == "stop" for item in found) else CLEAN


@click.command()
@plan_argument
@click.option("--radio", required=True, help="The radio's name or key in the plan.")
@click.option(
    "--out", required=True, type=click.Path(path_type=Path, file_okay=False), help="Folder for the memory file."
)
@replace_option
@json_option
@guarded
def fit(plan: Path, radio: str, out: Path, replace: bool, as_json: bool) -> int:
    """Fit a plan to one of its radios and write the memory file."""
    from msgspec.structs import asdict

    from umbra_awl.core.findings.evaluate import findings_of
    from umbra_awl.core.fit.fitting import fit as fit_plan
    from umbra_awl.core.keep.naming import path_name
    from umbra_awl.core.radio.memory import memory_bytes

    opened = read_plan(plan)
    index = PlanIndex(opened, today())
    owned = radio_of(index, radio)
    result = fit_plan(index, owned, profile_of(owned))
    stops = [item for item in findings_of(index, profiles_for(opened)) if item.severity == "stop"]
    path = out / f"{path_name(owned.key, 'radio')}.memory.json"
    put({path: memory_bytes(result.memory)}, replace=replace)
    report = [asdict(line) for line in result.report.lines]
    gauges = [gauge._asdict() for gauge in result.report.gauges]
    lines = [f"{gauge.name}: {gauge.used} of {gauge.limit}" for gauge in result.report.gauges]
    lines += [f"{line.kind}: {line.title} – {line.reason}" for line in result.report.lines]
    lines += [f"Stop: {item.rule.title}. {item.text}" for item in stops]
    value = {"memory": str(path), "gauges": gauges, "report": report, "stops": [item.text for item in stops]}
    tell(as_json, value, [*lines, f"written: {path}"])
    return STOPS if stops or result.report.of_kind("left out") else CLEAN


def known_profiles() -> "dict[str, Profile]":
    """The profiles that ship and this user's own."""
    from platformdirs import user_data_path

    from umbra_awl.core.radio.profile_file import own_profiles, shipped_profiles

    own, _faults = own_profiles(user_data_path("umbra-awl") / "profiles")
    return {**own, **shipped_profiles()}


def profiles_for(plan: Plan) -> "dict[str, Profile]":
    """The profiles of a plan's radios, own ones where they are not among those that ship."""
    from umbra_awl.core.radio.profile_file import shipped_of

    keys = {radio.profile for radio in plan.radios}
    found = shipped_of(keys)
    return found if keys <= found.keys() else {key: item for key, item in known_profiles().items() if key in keys}


def fits_for(index: PlanIndex, profiles: "dict[str, Profile]") -> "dict[str, Fit]":
    """What is fitted to each radio of a plan whose profile is known."""
    from umbra_awl.core.fit.fitting import fit as fit_plan

    return {
        item.key: fit_plan(index, item, profiles[item.profile])
        for item in index.plan.radios
        if item.profile in profiles
    }


def profile_of(radio: OwnedRadio) -> "Profile":
    """A radio's profile. Raises CannotRunError."""
    from umbra_awl.core.radio.profile_file import shipped_of

    profile = shipped_of([radio.profile]).get(radio.profile) or known_profiles().get(radio.profile)
    if profile is None:
        raise CannotRunError(f"There is no profile “{radio.profile}” for {radio.name}.")
    return profile


@click.command()
@plan_argument
@click.option("--radio", required=True, help="The radio's name or key in the plan.")
@click.option("--channel", required=True, help="The channel's name as the radio shows it.")
@json_option
@guarded
def trace(plan: Path, radio: str, channel: str, as_json: bool) -> int:
    """Follow a key-up on one channel through every hop."""
    from umbra_awl.core.fit.fitting import fit as fit_plan
    from umbra_awl.core.trace.keyup import trace as follow

    index = PlanIndex(read_plan(plan), today())
    owned = radio_of(index, radio)
    fits = {item.key: fit_plan(index, item, profile_of(item)) for item in index.plan.radios}
    key = next(
        (row.route for row in fits[owned.key].memory.channels if row.name.casefold() == channel.casefold()), None
    )
    if key is None:
        raise CannotRunError(f"{owned.name} has no channel “{channel}” in this plan.")
    result = follow(index, fits, owned.key, key)
    marks = {"pass": "ok  ", "stop": "STOP", "dark": "    "}
    lines = [f"{marks[hop.state]} {hop.title}: {hop.text}. {hop.detail}".rstrip() for hop in result.hops]
    if result.broken is not None and result.broken.notice:
        lines.append(f"     you would notice: {result.broken.notice}")
    lines += [f"{at:>4}. {step}" for at, step in enumerate(result.order, 1)]
    lines += [f"     {'hears' if item.hears else 'does not hear'}: {item.who}. {item.why}" for item in result.listeners]
    value = {
        "route": result.route,
        "hops": [hop._asdict() for hop in result.hops],
        "order": result.order,
        "listeners": [item._asdict() for item in result.listeners],
        "reaches": result.reaches,
    }
    tell(as_json, value, lines)
    return CLEAN if result.reaches else STOPS
