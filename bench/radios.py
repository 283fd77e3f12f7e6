"""Benchmarks of radios: fitting every kind, the people of one radio, files out and in."""

import csv
import io

from msgspec.structs import replace

from bench.days import TODAY
from bench.measure import Result, against
from bench.plans import big_plan, mode_plan
from umbra_awl.core.columns.csv_in import read_files
from umbra_awl.core.columns.csv_out import write_files
from umbra_awl.core.columns.fields import MemoryRows
from umbra_awl.core.columns.layout import shipped_layouts
from umbra_awl.core.columns.memory_in import MemoryMaker
from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.people import import_people
from umbra_awl.core.directory.store import Store
from umbra_awl.core.fit.choices import set_people
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.fit.people import choose_people
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.tables.table import open_table
from umbra_awl.standins.registry.world import PEOPLE_HEADERS, as_csv, people_rows

PEOPLE = 250_000
_PACKED = "packing the finished rows"


def run(folder) -> list[Result]:
    """All of them."""
    return [*_fits(), *_files(), *_people(folder)]


def _fits() -> list[Result]:
    """Four thousand routes on a radio of each kind, room for all of them."""
    import struct

    results = []
    for mode, key in (("dstar", "fell-d2"), ("fusion", "crag-f3")):
        plan = mode_plan(mode)
        base = shipped_profiles()[key]
        limits = replace(
            base.limits, channels=4000, zones=200, access_list=200 * (mode == "dstar"), rooms=100 * (mode == "fusion")
        )
        profile = replace(base, limits=limits)
        memory = fit(PlanIndex(plan, TODAY), plan.radios[0], profile).memory
        row = struct.Struct("<IIBBBBB16s8s8s8s")

        def pack(memory=memory, row=row):
            rows = [
                row.pack(
                    item.rx_hz, item.tx_hz, 3, 0, item.power, item.dgid_tx, item.dgid_rx, item.name.encode(),
                    item.ur.encode(), item.rpt1.encode(), item.rpt2.encode(),
                )
                for item in memory.channels
            ]  # fmt: skip
            return b"".join([*rows, *(struct.pack(f"<{len(zone.members)}H", *zone.members) for zone in memory.zones)])

        def again(plan=plan, profile=profile):
            fit(PlanIndex(plan, TODAY), plan.radios[0], profile)

        results.append(against(f"fit {len(memory.channels):,} {mode} routes", again, _PACKED, pack, 25))
    return results


def _files() -> list[Result]:
    """Four thousand channels through the wide layout, out and in again."""
    plan = big_plan()
    memory = fit(PlanIndex(plan, TODAY), plan.radios[0], shipped_profiles()["moor4k"]).memory
    layout = shipped_layouts()[0]
    files = write_files(memory, layout).files
    cells = [list(row.values()) for row in MemoryRows(memory).rows("channels")]
    text = files["channels.csv"].decode()

    def plain_out():
        csv.writer(io.StringIO()).writerows(cells)

    def plain_in():
        list(csv.reader(io.StringIO(text)))

    def read():
        MemoryMaker(read_files(files, layout)).make()

    count = f"{len(memory.channels):,} channels"
    return [
        against(
            f"files out: {count} (no bar given)",
            lambda: write_files(memory, layout),
            "csv of the same cells",
            plain_out,
            99,
        ),
        against(f"files in: {count} (no bar given)", read, "csv into lists", plain_in, 99),
    ]


def _people(folder) -> list[Result]:
    """Two hundred thousand of 250,000 people chosen for one radio."""
    path = folder / "people-of-radio.csv"
    path.write_bytes(as_csv(PEOPLE_HEADERS, people_rows(PEOPLE)))
    store = Store(folder / "people.sqlite")
    table = open_table(path)
    from umbra_awl.core.directory.lists.guess import guess

    layout: TableLayout = guess(table, "people")
    import_people(store, table, layout, "2026-11-25T12:00:00")
    plan = big_plan()
    profile = shipped_profiles()["moor4k"]
    results = []
    for name, rule in (
        ("everybody, by ID", {"everybody": True, "sort": "id"}),
        ("everybody, the nearest", {"everybody": True}),
    ):
        edited = set_people(plan.radios[0], "x", **rule).apply(plan)
        index = PlanIndex(edited, TODAY)

        def choose(index=index):
            choose_people(store, index, index.plan.radios[0], profile)

        def fetch():
            store.db.execute("SELECT id, call, name, place, country FROM people").fetchall()

        results.append(against(f"people, {name} (no bar given)", choose, "fetching all rows", fetch, 99, rounds=3))
    store.close()
    return results
