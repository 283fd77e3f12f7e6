"""The shell verbs for what was heard and what is given away: a hotspot's log and settings, the log, people, copies to share.

Each verb imports what it needs where it needs it, so that a quick one is quick.
"""

from pathlib import Path
from typing import TYPE_CHECKING, Any, get_args

import click

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.logbook.model import Grade
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.shell.planning import hotspot_of
from umbra_awl.shell.verbs import (
    CLEAN,
    STOPS,
    CannotRunError,
    clock,
    fits_for,
    guarded,
    json_option,
    plan_argument,
    profiles_for,
    put,
    replace_option,
    tell,
    today,
)

if TYPE_CHECKING:
    from umbra_awl.core.logbook.log_file import LogFile

_file = click.Path(path_type=Path, exists=True, dir_okay=False)
_out_option = click.option(
    "--out", required=True, type=click.Path(path_type=Path, dir_okay=False), help="Where it goes."
)


@click.command()
@click.argument("log", type=_file)
@json_option
@guarded
def explain(log: Path, as_json: bool) -> int:
    """Explain a hotspot's log: what is wrong, with the cause first, and what to do. Exit code 1: something is."""
    from umbra_awl.core.hotspot.logs.reading import read_log_file

    found = read_log_file(log, today=today())
    faults = [
        {
            "rule": item.rule.meant,
            "means": item.rule.means,
            "todo": item.rule.todo,
            "times": item.times,
            "line": item.last,
        }
        for item in found.faults
    ]
    calls = [
        {"when": item.when, "mode": item.mode, "to": item.to, "seconds": item.seconds, "ber": item.ber}
        for item in found.calls
    ]
    lines = [f"{item.rule.means} {item.rule.todo} ({item.times} ×, line {item.last})" for item in found.faults]
    lines += [f"Was so, and is cured: {item.rule.means}" for item in found.past]
    unknown = counted(found.unknown_lines, "line")
    lines += [f"{counted(found.lines, 'line')}, {counted(len(found.calls), 'call')}, {unknown} that no rule reads."]
    value = {
        "faults": faults,
        "states": [item.rule.meant for item in found.states],
        "calls": calls,
        "unknown": found.unknown_lines,
    }
    tell(as_json, value, lines if faults else ["Nothing is wrong in it.", *lines])
    return STOPS if faults else CLEAN


@click.command()
@plan_argument
@click.argument("settings_file", type=_file, metavar="SETTINGS")
@click.option("--hotspot", help="Which hotspot of the plan it is of.")
@json_option
@guarded
def settings(plan: Path, settings_file: Path, hotspot: str | None, as_json: bool) -> int:
    """Compare a hotspot's settings file with the plan. Exit code 1: something differs. Nothing is written."""
    from umbra_awl.core.hotspot.match.file import read_settings_file
    from umbra_awl.core.hotspot.match.form_error import FormError
    from umbra_awl.core.hotspot.match.layout import asked_keys, read_settings, shipped_layouts
    from umbra_awl.core.hotspot.match.says import plan_says
    from umbra_awl.core.hotspot.match.sheet import masked, match_sheet

    index = PlanIndex(read_plan(plan), today())
    found = hotspot_of(index, hotspot)
    try:
        planned = plan_says(index, index.access[found.access], found)
        file = read_settings_file(settings_file, shipped_layouts()[0], planned)
        held = read_settings(file.text, file.layout)
    except FormError as error:
        raise CannotRunError(str(error)) from None
    rows = match_sheet(planned, {}, held)
    cut = [masked(item) for item in rows if item.to_hotspot == "cut" and item.field.kind != "secret"]
    told = [
        {"field": item.field.words, "plan": item.plan, "hotspot": item.hotspot, "notice": item.notice} for item in cut
    ]
    lines = [f"{item.field.words}: the plan has {item.plan}, the file {item.hotspot}. {item.notice}" for item in cut]
    if asked_keys(file.layout):
        lines.append("Which of its keys mean what was guessed. Confirm it in the window, under Must match.")
    tell(as_json, {"differs": told, "guessed": bool(asked_keys(file.layout))}, lines or ["All that was found agrees."])
    return STOPS if cut else CLEAN


@click.command()
@click.argument("store", type=_file)
@click.argument("text")
@click.option("--most", type=click.IntRange(1, 1_000), default=20, show_default=True)
@json_option
@guarded
def people(store: Path, text: str, most: int, as_json: bool) -> int:
    """Look for people in a directory by call sign, name or number. Exit code 1: nobody."""
    from umbra_awl.core.directory.people_search import search_people
    from umbra_awl.core.directory.store import Store

    opened = Store(store)
    try:
        found = search_people(opened, text, most)
    finally:
        opened.close()
    lines = [f"{item.id}  {item.call}  {item.name}  {item.place}  {item.country}".rstrip() for item in found]
    tell(as_json, {"people": [item._asdict() for item in found]}, lines or ["Nobody of that name is in it."])
    return CLEAN if found else STOPS


@click.command()
@plan_argument
@_out_option
@click.option("--with-ids", is_flag=True, help="Own IDs stay in it.")
@replace_option
@json_option
@guarded
def share(plan: Path, out: Path, with_ids: bool, replace: bool, as_json: bool) -> int:
    """Write a copy of a plan that may be given away: no IDs, other people, trips or notes; the position as you allow it."""
    from umbra_awl.core.plan.disk.file_form import plan_bytes
    from umbra_awl.core.plan.sharing import shareable

    put({out: plan_bytes(shareable(read_plan(plan), with_ids=with_ids))}, replace=replace)
    tell(as_json, {"written": str(out)}, [f"written: {out}"])
    return CLEAN


@click.command()
@plan_argument
@_out_option
@replace_option
@json_option
@guarded
def pack(plan: Path, out: Path, replace: bool, as_json: bool) -> int:
    """Make a club pack of a plan, as it may be told, and its band plan."""
    from umbra_awl.core.hands.pack import PackError, make_pack, own_parts, read_pack

    opened = read_plan(plan)
    try:
        data = make_pack(opened.name, today().isoformat(), own_parts(opened, ()))
    except PackError as error:
        raise CannotRunError(str(error)) from None
    put({out: data}, replace=replace)
    parts = [item.title for item in read_pack(data).parts]
    tell(as_json, {"written": str(out), "parts": parts}, [*parts, f"written: {out}"])
    return CLEAN


@click.group()
def log() -> None:
    """The log beside a plan: write into it, bring entries in, give them out, tell what to prove next."""


def log_of(plan: Path) -> "LogFile":
    """The log in a plan's folder."""
    from umbra_awl.core.logbook.log_file import NAME, LogFile

    return LogFile(plan.parent / NAME)


def _refused(error: Exception) -> CannotRunError:
    return CannotRunError(str(error))


@log.command("add")
@plan_argument
@click.argument("route")
@click.option("--call", default="", help="The other station's call sign.")
@click.option("--grade", type=click.Choice(get_args(Grade)), help="What came of it.")
@click.option("--note", default="")
@json_option
@guarded
def log_add(plan: Path, route: str, call: str, grade: str | None, note: str, as_json: bool) -> int:
    """Log a key-up on a route, told by words of its name: “home spot echo”."""
    from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
    from umbra_awl.core.logbook.keys import new_key
    from umbra_awl.core.logbook.log_file import LogError
    from umbra_awl.core.logbook.model import Entry
    from umbra_awl.core.logbook.proof import stood_on
    from umbra_awl.core.logbook.typed import meant

    index = PlanIndex(read_plan(plan), today())
    found, tidy = meant(index, route), tidy_call_sign(call)
    if not found.route or (tidy and call_sign_fault(tidy)):
        raise CannotRunError(found.words or call_sign_fault(tidy))
    usual = "echo" if index.parts(index.routes[found.route])[2].kind == "echo" else "answered"
    chosen: Any = grade or usual
    now = clock().utc()
    entry = Entry(
        new_key(now), f"{now:%Y-%m-%dT%H:%M:%SZ}", chosen, found.route, call=tidy, note=note,
        mode=index.services[index.routes[found.route].service][1].mode, stood=stood_on(index, index.routes[found.route]),
    )  # fmt: skip
    try:
        log_of(plan).put([entry])
    except LogError as error:
        raise _refused(error) from None
    label = index.labels.of(index.routes[found.route])
    tell(as_json, {"route": found.route, "grade": chosen, "utc": entry.utc}, [f"Logged: {label}, {chosen}."])
    return CLEAN


@log.command("import")
@plan_argument
@click.argument("entries", type=_file)
@json_option
@guarded
def log_import(plan: Path, entries: Path, as_json: bool) -> int:
    """Bring entries of an ADIF or CSV file into the log. Exit code 1: some could not be read."""
    from umbra_awl.core.logbook.file_in import read_entries_file
    from umbra_awl.core.logbook.joining import join
    from umbra_awl.core.logbook.log_file import LogError

    file = log_of(plan)
    try:
        held = file.read().entries
        joined = join(held, read_entries_file(entries, [item.key for item in held]))
        if joined.moved:
            file.put(joined.moved)
    except LogError as error:
        raise _refused(error) from None
    faults = [f"{item.number}: {item.words}" for item in joined.faults]
    lines = [f"{len(joined.fresh)} new, {joined.doubled} there already, {len(joined.confirmed)} confirmed.", *faults]
    tell(as_json, {"new": len(joined.fresh), "there": joined.doubled, "faults": faults}, lines)
    return STOPS if faults else CLEAN


@log.command("export")
@plan_argument
@_out_option
@replace_option
@json_option
@guarded
def log_export(plan: Path, out: Path, replace: bool, as_json: bool) -> int:
    """Write the log as ADIF, or as CSV where the file is called so."""
    from umbra_awl.core.logbook.adif import adif_text
    from umbra_awl.core.logbook.csv_log import csv_text
    from umbra_awl.core.logbook.log_file import LogError

    try:
        entries = log_of(plan).read().entries
    except LogError as error:
        raise _refused(error) from None
    text = csv_text(entries) if out.suffix.casefold() == ".csv" else adif_text(entries)
    put({out: text.encode()}, replace=replace)
    tell(
        as_json,
        {"entries": len(entries), "written": str(out)},
        [f"{counted(len(entries), 'entry')}, written: {out}"],
    )
    return CLEAN


@log.command("prove-next")
@plan_argument
@json_option
@guarded
def log_prove_next(plan: Path, as_json: bool) -> int:
    """Tell the fewest key-ups that prove most of the plan. Exit code 1: some are left."""
    from umbra_awl.core.logbook.log_file import LogError
    from umbra_awl.core.logbook.proof import proofs, prove_next

    opened = read_plan(plan)
    index = PlanIndex(opened, today())
    try:
        entries = log_of(plan).read().entries
    except LogError as error:
        raise _refused(error) from None
    left = prove_next(index, proofs(index, entries, clock().utc()), fits_for(index, profiles_for(opened)))
    rows = [
        {
            "route": index.labels.of(index.routes[item.route]),
            "radio": index.radios[item.radio].name,
            "proves": len(item.proves),
        }
        for item in left
    ]
    lines = [f"{item['route']}, on {item['radio']}: proves the way for {item['proves']}" for item in rows]
    tell(as_json, {"key_ups": rows}, lines or ["Every route that a radio carries is proven."])
    return STOPS if left else CLEAN
