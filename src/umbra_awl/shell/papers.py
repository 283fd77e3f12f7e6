"""The shell verbs of paper and files: field card, key sheet, files through a layout, bringing a radio in, comparing radios.

Each verb imports what it needs where it needs it, so that a quick one is quick.
"""

from collections.abc import Callable
from pathlib import Path
from typing import Any

import click

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.shell.verbs import (
    CLEAN,
    STOPS,
    CannotRunError,
    guarded,
    json_option,
    known_profiles,
    plan_argument,
    profile_of,
    put,
    radio_of,
    replace_option,
    tell,
    today,
)

_radio_option = click.option("--radio", required=True, help="The radio's name or key in the plan.")
_out_option = click.option(
    "--out", required=True, type=click.Path(path_type=Path, dir_okay=False), help="A .pdf or .html file."
)
_layout_option = click.option(
    "--layout", default="Wide", show_default=True, help="A shipped layout's name, or a layout file."
)


def _fitted(plan: Path, name: str) -> tuple[PlanIndex, Any, Any, Any]:
    """Index, radio, profile and fit of one radio of a plan."""
    from umbra_awl.core.fit.fitting import fit

    index = PlanIndex(read_plan(plan), today())
    radio = radio_of(index, name)
    profile = profile_of(radio)
    return index, radio, profile, fit(index, radio, profile)


def _write(out: Path, as_pdf: Callable[[], bytes], as_html: Callable[[], str], *, replace: bool) -> None:
    makers: dict[str, Callable[[], bytes]] = {".pdf": as_pdf, ".html": lambda: as_html().encode()}
    if out.suffix.lower() not in makers:
        raise CannotRunError(f"“{out.name}” is neither .pdf nor .html. Give one of them.")
    put({out: makers[out.suffix.lower()]()}, replace=replace)


@click.command()
@plan_argument
@_radio_option
@_out_option
@replace_option
@json_option
@guarded
def card(plan: Path, radio: str, out: Path, replace: bool, as_json: bool) -> int:
    """Print a radio's field card: zones, channels, how to link; IDs masked."""
    from umbra_awl.core.paper.field_card import field_card
    from umbra_awl.core.paper.field_card_pdf import card_pdf
    from umbra_awl.core.paper.pages import card_html

    index, owned, profile, made = _fitted(plan, radio)
    sheet = field_card(index, owned, profile, made, today().isoformat())
    _write(out, lambda: card_pdf(sheet).data, lambda: card_html(sheet), replace=replace)
    tell(
        as_json,
        {"written": str(out), "zones": len(sheet.zones)},
        [f"{counted(len(sheet.zones), 'zone')} written: {out}"],
    )
    return CLEAN


@click.command()
@plan_argument
@_radio_option
@_out_option
@click.option("--cheapest", is_flag=True, help="Order with the fewest keys.")
@click.option("--short", is_flag=True, help="Cheapest names that still differ.")
@click.option("--alone", is_flag=True, help="Each memory by itself, with every menu that matters.")
@replace_option
@json_option
@guarded
def keys(
    plan: Path, radio: str, out: Path, cheapest: bool, short: bool, alone: bool, replace: bool, as_json: bool
) -> int:
    """Print the exact keys that enter every memory of a radio with a keypad."""
    from umbra_awl.core.paper.kept_to import kept_to
    from umbra_awl.core.paper.keysheet import key_sheet
    from umbra_awl.core.paper.keysheet_pdf import keysheet_pdf
    from umbra_awl.core.paper.pages import keysheet_html
    from umbra_awl.core.paper.taps import CannotTypeError

    index, owned, profile, made = _fitted(plan, radio)
    try:
        sheet = key_sheet(made.memory, profile, cheapest=cheapest, short=short, alone=alone)
        sheet = sheet._replace(kept_to=kept_to(index, owned, profile))
    except CannotTypeError as error:
        raise CannotRunError(str(error)) from None
    day = today().isoformat()
    as_pdf, as_html = lambda: keysheet_pdf(sheet, owned.name, day), lambda: keysheet_html(sheet, owned.name, day)
    _write(out, as_pdf, as_html, replace=replace)
    faults = [{"name": item.name, "fault": item.fault} for item in sheet.memories if item.fault]
    value = {"written": str(out), "memories": len(sheet.memories), "presses": sheet.presses, "faults": faults}
    lines = [f"{item['name']}: {item['fault']}" for item in faults]
    tell(
        as_json,
        value,
        [
            *lines,
            f"{counted(len(sheet.memories), 'memory')}, about {counted(sheet.presses, 'key')} written: {out}",
        ],
    )
    return STOPS if faults else CLEAN


def _layout(name: str) -> Any:
    from umbra_awl.core.columns.layout import read_layout, shipped_layouts

    found = next((item for item in shipped_layouts() if item.name.casefold() == name.casefold()), None)
    return found or read_layout(Path(name))


@click.command()
@plan_argument
@_radio_option
@_layout_option
@click.option("--out", required=True, type=click.Path(path_type=Path, file_okay=False), help="Folder for the files.")
@replace_option
@json_option
@guarded
def files(plan: Path, radio: str, layout: str, out: Path, replace: bool, as_json: bool) -> int:
    """Write a radio's memory as the files of a layout, and tell what they cannot hold."""
    from umbra_awl.core.columns.round_trip import round_trip

    _index, _owned, _profile, made = _fitted(plan, radio)
    trip = round_trip(made.memory, _layout(layout))
    put({out / name: data for name, data in trip.written.files.items()}, replace=replace)
    value = {"written": [str(out / name) for name in trip.written.files], "lost": list(trip.lost)}
    tell(as_json, value, [*trip.lost, *(f"written: {path}" for path in value["written"])])
    return STOPS if trip.lost else CLEAN


@click.command()
@click.argument("sources", nargs=-1, required=True, type=click.Path(path_type=Path))
@click.option("--layout", default="", help="A shipped layout's name, or a layout file (default: columns are guessed).")
@click.option("--profile", "profile_key", default="", help="Which radio they are of (default: the likeliest).")
@click.option("--out", required=True, type=click.Path(path_type=Path, dir_okay=False), help="The new plan.")
@json_option
@guarded
def bring(sources: tuple[Path, ...], layout: str, profile_key: str, out: Path, as_json: bool) -> int:
    """Make a plan of an existing radio, from CSV files or a memory file."""
    from umbra_awl.core.bring.joining import as_plan
    from umbra_awl.core.bring.likeliest import likeliest
    from umbra_awl.core.bring.recognise import recognise
    from umbra_awl.core.plan.disk.store import write_plan

    if profile_key and profile_key not in known_profiles():
        raise CannotRunError(f"There is no profile “{profile_key}”. There are: {', '.join(known_profiles())}.")
    memory, faults = _memory(sources, layout)
    if not memory.channels:
        raise CannotRunError(f"No channel was found. {faults[0] if faults else ''}".strip())
    profile = known_profiles()[profile_key or likeliest(memory, known_profiles().values())[0].profile.key]
    brought = recognise(memory, profile)
    write_plan(out, as_plan(brought, out.name.partition(".")[0], profile.name, profile.key))
    notes = [note._asdict() for note in brought.notes]
    lines = [*faults, *(f"{note.kind}: {note.about}: {note.text}" for note in brought.notes)]
    lines += [f"taken for a {profile.name}", f"written: {out}"]
    value = {
        "written": str(out),
        "profile": profile.key,
        "routes": len(brought.fresh),
        "notes": notes,
        "faults": faults,
    }
    tell(as_json, value, lines)
    return STOPS if faults or any(note.kind == "not understood" for note in brought.notes) else CLEAN


def _memory(sources: tuple[Path, ...], layout: str) -> tuple[Any, list[str]]:
    """The memory in some files, and what could not be read of them."""
    from umbra_awl.core.columns.as_found import as_found, passed_over
    from umbra_awl.core.columns.csv_guess import guess_layout
    from umbra_awl.core.columns.csv_in import read_files
    from umbra_awl.core.columns.memory_in import MemoryMaker
    from umbra_awl.core.columns.sample import take_sample
    from umbra_awl.core.columns.sources import files_of
    from umbra_awl.core.columns.told import told_once
    from umbra_awl.core.keep.limits import MEMORY_BYTES, read_within
    from umbra_awl.core.radio.memory import MemoryFormError, parse_memory

    if len(sources) == 1 and sources[0].suffix == ".json":
        try:
            return parse_memory(read_within(sources[0], MEMORY_BYTES))[0], []
        except MemoryFormError as error:
            raise CannotRunError(str(error)) from None
    data = files_of(sources)
    samples = [take_sample(*item) for item in data.items()]
    chosen = as_found(_layout(layout) if layout else guess_layout(samples, "guessed"), samples)
    sheets = read_files(data, chosen)
    maker = MemoryMaker(sheets)
    memory = maker.make()
    faults = told_once((*sheets.faults, *maker.faults))
    return memory, [*faults, *(f"not used: the column {text}" for text in passed_over(chosen, samples))]


@click.command()
@plan_argument
@json_option
@guarded
def compare(plan: Path, as_json: bool) -> int:
    """Tell what each radio at hand would carry, shorten and lose of a plan."""
    from umbra_awl.core.fit.compare import compare as compare_radios
    from umbra_awl.core.fit.needs import RadioNeeds

    found = compare_radios(PlanIndex(read_plan(plan), today()), known_profiles().values(), RadioNeeds())
    value = [
        {
            "profile": item.profile.key,
            "share": round(item.share, 4),
            "points": [point._asdict() for point in item.points],
            "beside": item.beside,
        }
        for item in found
    ]
    lines: list[str] = []
    for item in found:
        lines.append(f"{item.profile.name}: meets {item.share:.0%}")
        lines += [f"     {point.name}: {point.why}" for point in item.points]
    tell(as_json, value, lines)
    return CLEAN
