"""Benchmarks of the log, the proof map and merging."""

import random
import sqlite3
from pathlib import Path

from bench.measure import Result, against, repeated
from bench.plans import big_plan
from umbra_awl.core.hands.merge import merge
from umbra_awl.core.logbook.log_file import LogFile, held_in
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.logbook.search import Index
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.edit.edits import rename_plan

ENTRIES, PAGE = 100_000, 50
_TYPED = ("q", "q9", "q9a", "good", "good lo", "2026-1", "echo vel", "nobody")


def run(folder: Path) -> list[Result]:
    """All of them."""
    return [*_of_the_log(folder), *_of_the_map(folder), *_of_merging()]


def _entries() -> list[Entry]:
    chance = random.Random(5)
    letters = "ABCDEFGHIJ"
    return [
        Entry(
            f"k{at}",
            f"20{chance.randint(10, 26)}-{chance.randint(1, 12):02d}-{chance.randint(1, 28):02d}T{at % 24:02d}:{at % 60:02d}:00Z",
            chance.choice(("echo", "answered", "heard-by")),
            route=f"s{at % 200}>g{at % 300}@1",
            call=f"Q{chance.randint(0, 9)}{''.join(chance.choices(letters, k=3))}",
            note="good, a little low",
        )
        for at in range(ENTRIES)
    ]


def _of_the_log(folder: Path) -> list[Result]:
    """A log of 100,000 entries: each key that is typed against fetching 50 rows of a table; opening against reading its rows."""
    entries = _entries()
    log = LogFile(folder / "big.awl-log")
    log.put(entries)
    index = Index(entries, lambda key: f"Velmar {key}")
    table = sqlite3.connect(":memory:")
    names = "key, utc, grade, route, call, note"
    table.execute(f"CREATE TABLE entry (id INTEGER PRIMARY KEY, {names})")
    rows = [(item.key, item.utc, item.grade, item.route, item.call, item.note) for item in entries]
    table.executemany(f"INSERT INTO entry ({names}) VALUES (?, ?, ?, ?, ?, ?)", rows)  # noqa: S608

    def typed() -> None:
        for text in _TYPED:
            index.search(text, PAGE)

    def fetched() -> None:
        for at in range(len(_TYPED)):
            table.execute("SELECT * FROM entry WHERE id >= ? ORDER BY id LIMIT ?", (at * 1_000, PAGE)).fetchall()

    data = log.path.read_bytes()

    def every_row() -> None:
        table.execute("SELECT * FROM entry").fetchall()

    def opened() -> None:
        held_in(data)

    return [
        against(
            "log of 100,000: a key typed, 50 shown", repeated(typed, 20), "fetching 50 rows", repeated(fetched, 20), 3
        ),
        against("log of 100,000: read and checked", opened, "fetching every row", every_row, 12, rounds=3),
    ]


def _of_the_map(folder: Path) -> list[Result]:
    """The proof map of 200 × 400 as it is painted, against the same bars as the punch sheet."""
    from PyQt6.QtGui import QColor, QPainter, QPixmap

    from umbra_awl.desk.app import application, build
    from umbra_awl.desk.settings import Settings

    app = application()
    path = folder / "map.awl.json"
    path.write_bytes(plan_bytes(big_plan(4000, 0, 200, 400)))
    window = build(app, Settings(), synchronous=True, directory=folder / "directory.sqlite")
    window.resize(1280, 800)
    window.show()
    window.plans.open(path)
    window.stages.open("log", "proof")
    grades = ("heard-it", "own-key", "echo", "heard-by", "answered", "failed")
    routes = list(window.bench.index.routes)
    window.book.add([window.book.new_entry(key, grade=grades[at % 6]) for at, key in enumerate(routes[::2])], "Many")
    app.processEvents()
    sheet = window.stages["log"].proof.map
    canvas, marks = QPixmap(sheet.viewport().size()), sheet._marks()

    def fill() -> None:
        painter = QPainter(canvas)
        painter.fillRect(canvas.rect(), QColor("#FFFDF8"))
        painter.end()

    def whole() -> None:
        painter = QPainter(canvas)
        sheet._painter.paint(painter, sheet.sheet, sheet.view(), marks, canvas.rect())
        painter.end()

    state, bar = {"at": 0}, sheet.verticalScrollBar()

    def scroll() -> None:
        state["at"] = (state["at"] + 26) % 4000
        bar.setValue(state["at"])
        app.processEvents()

    fills = repeated(fill, 10)
    found = [
        against("proof map 200 × 400: with all text", repeated(whole, 10), "filling the same widget", fills, 150),
        against("proof map: scroll by one row and repaint", repeated(scroll, 10), "filling the same widget", fills, 25),
    ]
    window.close()
    return found


def _of_merging() -> list[Result]:
    """Two plans of 4,000 routes, each changed in its own places and in one in common, against opening both."""
    from msgspec.structs import replace

    base = big_plan(4000, 16_000)
    mine = replace(
        base, routes=tuple(replace(r, power="low") if at % 9 == 0 else r for at, r in enumerate(base.routes))
    )
    theirs = rename_plan("Theirs").apply(
        replace(base, routes=tuple(replace(r, name="x") if at % 7 == 0 else r for at, r in enumerate(base.routes)))
    )
    theirs = replace(theirs, destinations=theirs.destinations[:-3])
    one, two = plan_bytes(mine), plan_bytes(theirs)

    def opening() -> None:
        parse_plan(one)
        parse_plan(two)

    return [against("merge of two 4,000-route plans", lambda: merge(base, mine, theirs), "opening both", opening, 3)]
