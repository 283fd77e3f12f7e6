"""What makes the demo a world: people, talk groups, reflectors and rooms in its directory, and files to try bringing in."""

from importlib.resources import files
from pathlib import Path
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.directory.guess import guess
from umbra_awl.core.directory.people import import_people
from umbra_awl.core.directory.store import Store
from umbra_awl.core.directory.targets import import_targets
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.tables.table import open_table
from umbra_awl.demo.fresh import DemoFiles
from umbra_awl.standins.registry.world import PEOPLE_HEADERS, TARGETS, as_csv, people_rows

PEOPLE = 8_000
TO_TRY = ("old-radio.csv", "messy-directory.csv")
"""Files beside the demo's plan: what an older program exported from a radio, and a directory as somebody typed it."""
_AT = "2026-11-20T18:05:00"


class Furnished(NamedTuple):
    """How many people and destinations the directory has, and the files to try."""

    people: int
    targets: int
    files: tuple[Path, ...]


def furnish(demo: DemoFiles, people: int = PEOPLE) -> Furnished:
    """Fill a fresh demo's directory and lay the files beside its plan. Raises OSError, StoreFailedError, ReadError."""
    folder = demo.plan.parent
    tried = tuple(folder / name for name in TO_TRY)
    for path in tried:
        write_over(path, files("umbra_awl.demo").joinpath(path.name).read_bytes())
    listed, groups = folder / "velmar-people.csv", folder / "velmar-talk-groups.csv"
    write_over(listed, as_csv(PEOPLE_HEADERS, people_rows(people)))
    write_over(groups, TARGETS.encode())
    store = Store(demo.directory)
    try:
        table = open_table(listed)
        taken = import_people(store, table, replace(guess(table, "people"), source="velmar-registry"), _AT)
        table = open_table(groups)
        told = import_targets(store, table, replace(guess(table, "destinations"), source="velmar-networks"), _AT)
    finally:
        store.close()
    return Furnished(taken.rows, told.rows, tried)
