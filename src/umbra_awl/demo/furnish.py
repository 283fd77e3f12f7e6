"""What makes the demo a world: people, talk groups, reflectors and rooms in its directory, and files to try bringing in."""

from datetime import date
from hashlib import shake_128
from pathlib import Path
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.directory.lists.guess import guess
from umbra_awl.core.directory.people import import_people
from umbra_awl.core.directory.store import Store
from umbra_awl.core.directory.targets import import_targets
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.model import Identity, Licence, OwnedRadio, Plan, RadioId
from umbra_awl.core.plan.sharing import shareable
from umbra_awl.core.tables.table import open_table
from umbra_awl.core.transfer.firmware.form import FirmwareFile, FirmwareHeader, pack
from umbra_awl.demo.fresh import DemoFiles, demo_plan
from umbra_awl.demo.told_of import as_of, shipped
from umbra_awl.standins.registry.world import PEOPLE_HEADERS, TARGETS, as_csv, people_rows

PEOPLE = 8_000
TO_TRY = ("old-radio.csv", "messy-directory.csv")
"""Files beside the demo's plan: what an older program exported from a radio, and a directory as somebody typed it."""
_FIRMWARE_BYTES = 180_000
_AT, _GRANTED = "2026-11-20T18:05:00", "2025-06-02"


CLUB_PLAN = "velmar-club.awl.json"
"""The plan of the club's table: six members, each with a radio of the same kind."""
_MEMBERS = (
    ("Q2ANS", "Ansel", 9994301, True),
    ("Q2BRD", "Brid", 9994302, True),
    ("Q2COR", "Corin", 9994303, True),
    ("Q2DEL", "Delia", 9994304, True),
    ("Q2EDD", "Edda", 0, False),
    ("Q2FEN", "Fenn", 9994306, True),
)
"""Call sign, name, ID (0: not given yet), and whether the licence is granted."""


def club_plan(plan: Plan, day: date) -> Plan:
    """The club's plan: the demo's repeaters, destinations and routes, six members with their own licences, and their radios."""
    shared = shareable(plan)
    first = Licence("First", bands=("2 m", "70 cm"), max_watts=10.0)
    members = tuple(
        Identity(
            call.lower(),
            call,
            name,
            ids=(RadioId(number, "handheld"),) if number else (),
            licence=replace(
                first, granted=granted, granted_on=as_of(_GRANTED, day) if granted else "", guard=not granted
            ),
        )
        for call, name, number, granted in _MEMBERS
    )
    station = replace(
        shared.station, identities=(Identity("club", "Q1VRC", "Velmar Radio Club"), *members), licence=first
    )
    radios = tuple(OwnedRadio(f"tarn-{who.key}", f"Tarn 16 {who.call}", "tarn16", who.key) for who in members)
    access = tuple(item for item in shared.access if item.kind != "hotspot")
    services = {service.key for item in access for service in item.services}
    routes = tuple(route for route in shared.routes if route.service in services)
    return replace(
        shared,
        name="Velmar club table",
        station=station,
        access=access,
        routes=routes,
        zones=(),
        scans=(),
        radios=radios,
        hotspots=(),
        trips=(),
        silenced=(),
    )


class Furnished(NamedTuple):
    """How many people and destinations the directory has, and the files to try."""

    people: int
    targets: int
    files: tuple[Path, ...]


def furnish(demo: DemoFiles, day: date, people: int = PEOPLE) -> Furnished:
    """Fill a fresh demo's directory and lay the files beside its plan. Raises OSError, StoreFailedError, ReadError."""
    folder, at = demo.plan.parent, as_of(_AT, day)
    tried = tuple(folder / name for name in TO_TRY)
    for path in tried:
        write_over(path, shipped(path.name, day))
    write_over(folder / CLUB_PLAN, plan_bytes(club_plan(demo_plan(day), day)))
    for variant in ("crowd", "plain"):
        made = FirmwareFile(
            FirmwareHeader("moor4k", variant, "2.00"), shake_128(variant.encode()).digest(_FIRMWARE_BYTES)
        )
        write_over(folder / f"moor-4k-{variant}.awf", pack(made))
    listed, groups = folder / "velmar-people.csv", folder / "velmar-talk-groups.csv"
    write_over(listed, as_csv(PEOPLE_HEADERS, people_rows(people)))
    write_over(groups, TARGETS.encode())
    store = Store(demo.directory)
    try:
        table = open_table(listed)
        taken = import_people(store, table, replace(guess(table, "people"), source="velmar-registry"), at)
        table = open_table(groups)
        told = import_targets(store, table, replace(guess(table, "destinations"), source="velmar-networks"), at)
    finally:
        store.close()
    return Furnished(taken.rows, told.rows, tried)
