"""A power cut in the middle of an import: the store opens, and holds the old or the new, never half of either."""

import random
import signal
import subprocess
import sys
import time

import pytest

from umbra_awl.core.directory.people_search import search_people
from umbra_awl.core.directory.store import Store
from umbra_awl.standins.registry.world import ACCESS_HEADERS, PEOPLE_HEADERS, access_rows, as_csv, people_rows

ROWS = {"access": 1_500, "people": 12_000}


def importing(file, store):
    command = [sys.executable, "-m", "umbra_awl", "import", str(file), "--store", str(store), "--source", "s"]
    return subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)


@pytest.fixture(scope="module")
def files(tmp_path_factory):
    folder = tmp_path_factory.mktemp("files")
    for seed in (1, 2):
        (folder / f"access-{seed}.csv").write_bytes(as_csv(ACCESS_HEADERS, access_rows(ROWS["access"], seed)))
        (folder / f"people-{seed}.csv").write_bytes(as_csv(PEOPLE_HEADERS, people_rows(ROWS["people"], seed)))
    return folder


def content(path, what):
    """What an import may change, as one value; the store must be whole."""
    store = Store(path)
    assert store.db.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
    if what == "people":
        rows = store.db.execute("SELECT id, call, name FROM people ORDER BY id").fetchall()
        for _number, call, name in (rows[0], rows[-1]):
            assert call in {person.call for person in search_people(store, name, 1_000)}
    else:
        rows = store.db.execute("SELECT key, body, gone FROM entry ORDER BY key").fetchall()
        assert store.db.execute("SELECT count(*) FROM entry_words").fetchone()[0] == len(rows)
    store.close()
    return rows


@pytest.mark.night
@pytest.mark.parametrize("what", ["access", "people"])
def test_kills_while_importing(files, tmp_path, what):
    path = tmp_path / "s.sqlite"
    importing(files / f"{what}-1.csv", path).wait(60)
    old = content(path, what)
    start = time.monotonic()
    importing(files / f"{what}-2.csv", tmp_path / "whole.sqlite").wait(60)
    usual_s = time.monotonic() - start
    chance = random.Random(4)
    for _kill in range(5):
        process = importing(files / f"{what}-2.csv", path)
        time.sleep(usual_s * chance.uniform(0.3, 1.0))
        process.send_signal(signal.SIGKILL)
        process.wait(20)
        now = content(path, what)
        if now != old:
            break  # it came through before the kill: whole, as the counts above say
    importing(files / f"{what}-2.csv", path).wait(60)
    final = content(path, what)
    fresh = content(tmp_path / "whole.sqlite", what)
    assert len(final) >= len(fresh)
    if what == "people":
        assert final == fresh
