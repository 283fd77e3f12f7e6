"""The shell verbs of the directory: import a file into a store, export access points.

Each verb imports what it needs where it needs it, so that a quick one is quick.
"""

from pathlib import Path
from typing import TYPE_CHECKING

import click

from umbra_awl.core.facts.counting import counted
from umbra_awl.shell.verbs import CLEAN, STOPS, CannotRunError, clock, guarded, json_option, replace_option, tell

if TYPE_CHECKING:
    from umbra_awl.core.directory.lists.guess import Guess, Passed
    from umbra_awl.core.directory.lists.layout import TableLayout
    from umbra_awl.core.directory.store import Store
    from umbra_awl.core.tables.rows import Table


def _store_path(path: Path | None) -> Path:
    from platformdirs import user_data_path

    return path or user_data_path("umbra-awl") / "directory.sqlite"


_store_option = click.option(
    "--store", type=click.Path(path_type=Path, dir_okay=False), help="The store (default: your own)."
)


@click.command("import")
@click.argument("file", type=click.Path(path_type=Path))
@_store_option
@click.option(
    "--what", type=click.Choice(["access", "people", "destinations"]), help="What it holds (default: guessed)."
)
@click.option(
    "--layout", "layout_path", type=click.Path(path_type=Path), help="A layout file (default: columns are guessed)."
)
@click.option("--source", default="", help="Name of the directory it comes from.")
@click.option("--simplex", is_flag=True, help="Its stations send on what they hear (access points).")
@click.option("--dry-run", is_flag=True, help="Only tell what it would do (access points).")
@json_option
@guarded
def import_file(
    file: Path,
    store: Path | None,
    what: str | None,
    layout_path: Path | None,
    source: str,
    simplex: bool,
    dry_run: bool,
    as_json: bool,
) -> int:
    """Import access points, people or destinations from CSV, XLSX, GeoJSON or GPX."""
    from msgspec.structs import replace

    from umbra_awl.core.directory.importing import read_incoming, take
    from umbra_awl.core.directory.lists.guess import passed_over
    from umbra_awl.core.directory.lists.layout import NO_INPUT
    from umbra_awl.core.directory.people import import_people
    from umbra_awl.core.directory.store import Store
    from umbra_awl.core.directory.targets import import_targets
    from umbra_awl.core.tables.table import open_table

    table = open_table(file)
    opened = Store(_store_path(store))
    passed: list[Passed] = []
    older = ""
    now = clock().local().isoformat(timespec="seconds")
    try:
        found = _layout(table, what, layout_path, opened)
        layout = replace(
            found.layout, source=source or found.layout.source or file.stem, simplex=simplex or found.layout.simplex
        )
        faults = layout.faults(table.headers)
        if found.asks or NO_INPUT in faults:
            return _ask(as_json, found.asks or NO_INPUT, layout, passed_over(table, layout))
        if faults:
            raise CannotRunError(faults[0])
        passed = passed_over(table, layout)
        if layout.what == "access":
            incoming = read_incoming(opened, table, layout)
            if not dry_run:
                take(opened, incoming, now)
            counts = {kind: incoming.count(kind) for kind in ("added", "changed", "vanished")}
            report, rows, older = incoming.report, incoming.rows, incoming.older
        else:
            done = (import_people if layout.what == "people" else import_targets)(opened, table, layout, now)
            counts = {"added": done.added, "changed": done.changed, "vanished": done.vanished}
            report, rows = done.report, done.rows
    finally:
        opened.close()
    words = ", ".join(f"{count} {kind}" for kind, count in counts.items())
    lines = [*filter(None, [older]), *(item.words for item in passed)]
    lines += [f"line {line.line}: {line.what}: {line.text}" for line in report]
    value = {"rows": rows, **counts, "report": [line._asdict() for line in report], "columns": layout.columns}
    value |= {"not_used": [item._asdict() for item in passed], "older": older}
    tell(as_json, value, [*lines, f"{counted(rows, 'row')} taken; {words}{'; nothing taken' if dry_run else ''}"])
    doubtful = any(line.what == "refused" for line in report) or any(item.like for item in passed)
    return STOPS if doubtful else CLEAN


def _ask(as_json: bool, asks: str, layout: "TableLayout", passed: "list[Passed]") -> int:
    """Say what has to be told before a list can be taken; nothing was taken."""
    asks = f"{asks} A layout file does so (--layout), and --simplex says that there is no input."
    value = {"rows": 0, "asks": asks, "columns": layout.columns, "not_used": [item._asdict() for item in passed]}
    tell(as_json, value, [*(item.words for item in passed), asks, "Nothing was taken."])
    return STOPS


def _layout(table: "Table", what: str | None, path: Path | None, store: "Store") -> "Guess":
    """A layout out of its file, or one that is guessed with what has to be asked first."""
    from umbra_awl.core.directory.importing import pairs_of
    from umbra_awl.core.directory.lists.guess import Guess, guess_of
    from umbra_awl.core.directory.lists.layout import read_layout

    if path is not None:
        return Guess(read_layout(path))
    return guess_of(table, what, pairs_of(store))  # type: ignore[arg-type]


@click.command("export")
@click.option(
    "--out", required=True, type=click.Path(path_type=Path, dir_okay=False), help="A .csv, .geojson or .gpx file."
)
@click.option(
    "--plan", type=click.Path(path_type=Path), help="Export this plan's access points in place of the store's."
)
@_store_option
@replace_option
@json_option
@guarded
def export_file(out: Path, plan: Path | None, store: Path | None, replace: bool, as_json: bool) -> int:
    """Export access points of the directory, or of a plan, as CSV, GeoJSON or GPX."""
    from umbra_awl.core.directory.export import held_by, write_access
    from umbra_awl.core.directory.store import Store
    from umbra_awl.core.plan.disk.store import read_plan
    from umbra_awl.core.plan.sharing import shareable

    if plan is not None:
        items = list(shareable(read_plan(plan)).access)
    else:
        opened = Store(_store_path(store))
        items = [entry.access for entry in opened.all_entries()]
        opened.close()
    write_access(out, items, replace=replace)
    held = len(held_by(out, items))
    left = f" {len(items) - held} have no position and were left out." if held < len(items) else ""
    value = {"written": str(out), "access_points": held, "left_out": len(items) - held}
    tell(as_json, value, [f"{counted(held, 'access point')} written: {out}.{left}"])
    return STOPS if left else CLEAN
