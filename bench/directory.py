"""Benchmarks of the directory: importing people and access points, search, nearest, pages, the map, the lead-time chart."""

import csv
import random
import resource
import sqlite3
import statistics
import time
from itertools import count

from bench.measure import Result, against, timed
from umbra_awl.core.directory.importing import read_incoming, take
from umbra_awl.core.directory.lists.guess import guess
from umbra_awl.core.directory.nearest import nearest
from umbra_awl.core.directory.people import import_people
from umbra_awl.core.directory.people_search import anchors_of_people, page_from, search_people
from umbra_awl.core.directory.store import Store
from umbra_awl.core.facts.earth import Position
from umbra_awl.core.tables.table import open_table
from umbra_awl.standins.registry.world import ACCESS_HEADERS, PEOPLE_HEADERS, access_rows, as_csv, people_rows

ACCESS, PEOPLE = 60_000, 250_000
NOW = "2026-11-24T12:00:00"
SEARCHES = (
    "Q,Q1,Q1A,q7bc,99,9990,999012,w,wr,wre,wren,heron,wren h,tor,torn,tornmoor,quil,quilmoor,al,velmar,velmar wren,"
    "stead,harn wren,ossa,lord"
).split(",")


def run(folder) -> list[Result]:
    """All of them."""
    (folder / "people.csv").write_bytes(as_csv(PEOPLE_HEADERS, people_rows(PEOPLE)))
    (folder / "access.csv").write_bytes(as_csv(ACCESS_HEADERS, access_rows(ACCESS)))
    store = Store(folder / "directory.sqlite")
    results = [_import_people(store, folder), _import_access(store, folder)]
    results += [*_search(store), *_nearest(store), _page(store)]
    store.close()
    return [*results, *_map(folder)]


def _plain(folder, numbers):
    """The least that could be done: csv into one table without an index."""
    with (
        sqlite3.connect(folder / f"plain{next(numbers)}.sqlite") as db,
        (folder / "people.csv").open(encoding="utf-8", newline="") as file,
    ):
        rows = csv.reader(file)
        next(rows)
        db.execute("CREATE TABLE people (a, b, c, d, e, f, g)")
        db.executemany("INSERT INTO people VALUES (?,?,?,?,?,?,?)", rows)


def _import_people(store, folder) -> Result:
    table = open_table(folder / "people.csv")
    layout = guess(table, "people")
    numbers = count()
    limit = statistics.median(timed(lambda: _plain(folder, numbers)) for _round in range(3))
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    taken = statistics.median(timed(lambda: import_people(store, table, layout, NOW)) for _round in range(3))
    grown = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) / 1024
    print(f"import of {PEOPLE:,} people: peak memory grew by {grown:.1f} MB (bar 40 MB)")
    return Result(f"import {PEOPLE:,} people, searchable", taken, "csv into one table, no index", limit, 4.0)


def _import_access(store, folder) -> Result:
    table = open_table(folder / "access.csv")
    layout = guess(table, "access")
    limit = timed(lambda: _plain(folder, count(100)))
    start = time.perf_counter()
    take(store, read_incoming(store, table, layout), NOW)
    return Result(
        f"import {ACCESS:,} access points",
        time.perf_counter() - start,
        "the same 250,000 plain rows",
        limit,
        6.0,
    )


def _p95(times):
    return sorted(times)[int(len(times) * 0.95)]


def _fetch(store, table, numbers):
    return [store.db.execute(f"SELECT * FROM {table} WHERE id = ?", (number,)).fetchone() for number in numbers]  # noqa: S608


def _search(store) -> list[Result]:
    chance = random.Random(5)
    numbers = [row[0] for row in store.db.execute("SELECT id FROM people ORDER BY random() LIMIT 50")]
    words = SEARCHES * 4
    chance.shuffle(words)
    pairs = [
        (timed_quick(lambda w=word: search_people(store, w)), timed_quick(lambda: _fetch(store, "people", numbers)))
        for word in words
    ]
    limit = statistics.median(b for _a, b in pairs)
    name = "search people while typing"
    return [
        Result(f"{name}, median", statistics.median(a for a, _b in pairs), "fetching 50 rows by ID", limit, 3.0),
        Result(f"{name}, p95", _p95([a for a, _b in pairs]), "fetching 50 rows by ID", limit, 3.0),
    ]


def timed_quick(work) -> float:
    """Seconds of one call, without collecting garbage before."""
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def _nearest(store) -> list[Result]:
    numbers = [row[0] for row in store.db.execute("SELECT id FROM entry ORDER BY random() LIMIT 50")]
    chance = random.Random(9)
    places = [Position(*row) for row in store.db.execute("SELECT lat, lon FROM entry ORDER BY random() LIMIT 150")]
    places += [Position(chance.uniform(-80, 80), chance.uniform(-180, 180)) for _place in range(50)]
    nearest(store, places[0], 50)
    pairs = [
        (timed_quick(lambda p=place: nearest(store, p, 50)), timed_quick(lambda: _fetch(store, "entry", numbers)))
        for place in places
    ]
    limit = statistics.median(b for _a, b in pairs)
    name = f"nearest 50 of {ACCESS:,}"
    return [
        Result(f"{name}, median", statistics.median(a for a, _b in pairs), "fetching 50 rows by ID", limit, 5.0),
        Result(
            f"{name}, p95 (a quarter anywhere on earth)",
            _p95([a for a, _b in pairs]),
            "fetching 50 rows by ID",
            limit,
            20.0,
        ),
    ]


def _page(store) -> Result:
    from PyQt6.QtGui import QImage, QPainter

    from umbra_awl.desk.app import application

    app = application()
    anchors = anchors_of_people(store)
    assert app is not None
    image = QImage(800, 600, QImage.Format.Format_RGB32)

    def draw():
        painter = QPainter(image)
        for line in range(22):
            for column in range(5):
                painter.drawText(10 + 150 * column, 20 + 26 * line, f"Q1ABC row {line}")
        painter.end()

    return against(
        f"a page in the middle of {PEOPLE:,} people",
        lambda: page_from(store, anchors[len(anchors) // 2]),
        "drawing one page of text",
        draw,
        10.0,
        rounds=15,
    )


def _map(folder) -> list[Result]:
    """Ten thousand points around a centre, coast of the world, 880 × 400."""
    import numpy as np
    from PyQt6.QtGui import QPixmap
    from PyQt6.QtWidgets import QWidget

    from umbra_awl.core.facts.coast import world_coast
    from umbra_awl.desk.access.chart.map import AccessMap
    from umbra_awl.desk.access.chart.map_geometry import project
    from umbra_awl.desk.access.chart.map_points import Points
    from umbra_awl.desk.app import application, build
    from umbra_awl.desk.settings import Settings

    app = application()
    window = build(app, Settings(), synchronous=True, directory=folder / "none.sqlite")
    centre = Position(48.0, 9.0)
    chance = np.random.default_rng(2)
    lat, lon = chance.normal(48, 4, 10_000), chance.normal(9, 6, 10_000)
    points = Points(
        np.arange(1, 10_001), project(centre, lat, lon), chance.integers(1, 16, 10_000), chance.random(10_000) < 0.01,
        np.zeros(10_000, bool), np.arange(10_000),
    )  # fmt: skip
    shown = AccessMap(window.theme, lambda ids: {number: (f"Q0A{number % 90}", f"Site {number}") for number in ids})
    shown.resize(880, 400)
    shown.go_to(centre)
    shown.show_coast(world_coast())
    shown.show_points(points, ())
    picture, blank = QPixmap(880, 400), QPixmap(880, 400)
    plain = QWidget()
    plain.resize(880, 400)
    plain.setStyleSheet("background: #EFEAE0")
    for widget in (shown, plain):
        widget.show()
    results = []
    for words, km in (("200 km", 200), ("1,500 km", 1_500), ("the world", 15_000)):
        shown.fit(km)

        def redraw():
            shown.picture.forget()
            shown.render(picture)

        results.append(
            against(
                f"map of 10,000 points, {words}: redraw",
                redraw,
                "filling the same widget",
                lambda: plain.render(blank),
                40.0,
                rounds=15,
            )
        )
    shown.fit(200)
    shown.render(picture)
    steps = count()

    def pan():
        shown.view = shown.view._replace(x=float(next(steps) % 7), y=0.0)
        shown.render(picture)

    results.append(
        against(
            "map of 10,000 points: while panning",
            pan,
            "filling the same widget",
            lambda: plain.render(blank),
            2.0,
            rounds=31,
        )
    )
    window.close()
    return results
