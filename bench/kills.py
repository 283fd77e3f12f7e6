"""What is lost when everything goes wrong while editing and saving: kills, torn records, other programs, several processes.

Counted, not timed. Every edit that was reported as done must be in the plan that opens next, or be told as lost, by number.
"""

import os
import random
import re
import signal
import subprocess
import sys
import tempfile
import time
from contextlib import suppress
from pathlib import Path

from msgspec.structs import replace
from tests.core.dying import kill
from tests.core.test_store import kill_once

from bench.days import LOCAL, TODAY
from umbra_awl.core.logbook.log_file import LogFile
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.journal import journal_path
from umbra_awl.core.plan.disk.saves import list_saves
from umbra_awl.core.plan.disk.store import Document, read_plan
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.errors import ChangedOutsideError, StoreError
from umbra_awl.demo.fresh import demo_plan

WRITERS = 4


def run(count: int) -> None:
    """Every kind in turn; a quarter as many turns of those that start several processes."""
    for what, rounds in ((_kills, count), (_torn, count), (_outside, count // 4), (_several, max(1, count // 20))):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "wren.awl.json"
            path.write_bytes(plan_bytes(demo_plan(TODAY)))
            print(what(path, rounds, random.Random(11)), flush=True)
    with tempfile.TemporaryDirectory() as folder:
        print(_log_kills(Path(folder) / "log.awl-log", count, random.Random(12)), flush=True)


def _log_kills(path: Path, count: int, chance: random.Random) -> str:
    """Four processes that write entries into one log; again and again one of them is killed and another takes its place."""
    writers = [_Writer(path, number) for number in range(WRITERS)]
    acknowledged: set[str] = set()
    for number in range(count):
        time.sleep(chance.uniform(0.0, 0.03))
        acknowledged |= writers.pop(chance.randrange(WRITERS)).killed()
        writers.append(_Writer(path, WRITERS + number))
    for writer in writers:
        acknowledged |= writer.killed()
    held = LogFile(path).read()
    missing = acknowledged - {item.key for item in held.entries}
    return (
        f"{count} kills with {WRITERS} writers of one log: {len(acknowledged):,} entries acknowledged, {len(missing)} missing, "
        f"{len(held.damaged)} damaged lines"
    )


class _Writer:
    """A process that writes entries one after another, and tells each key once it is on the disk."""

    def __init__(self, path: Path, number: int) -> None:
        self._told, tells = os.pipe()
        self._process = os.fork()
        if not self._process:
            os.close(self._told)
            log, at = LogFile(path), 0
            while True:
                key = f"k{number}-{at}"
                log.put([Entry(key, "2026-11-27T10:00:00Z", call="Q3AMB", note="x" * 200)])
                os.write(tells, f"{key}\n".encode())
                at += 1
        os.close(tells)

    def killed(self) -> set[str]:
        """Kill it; the keys that it acknowledged."""
        os.kill(self._process, signal.SIGKILL)
        os.waitpid(self._process, 0)
        with os.fdopen(self._told, "rb") as reader:
            whole = reader.read().decode()
        return set(whole[: whole.rfind("\n") + 1].split())


def _number(name: str) -> int:
    return int(name.rsplit(maxsplit=1)[-1]) if name.startswith("Plan ") else 0


def _kills(path: Path, count: int, chance: random.Random) -> str:
    missing = failed = 0
    for _round in range(count):
        last = kill_once(path, chance.uniform(0.0, 0.08))
        try:
            document = Document.open(path, LOCAL)
        except Exception:  # noqa: BLE001  (whatever it is, it counts as a plan that does not open)
            failed += 1
            continue
        missing += _number(document.plan.name) < last
        document.close()
    return f"{count} kills while editing and saving: {failed} did not open, {missing} with a reported edit missing"


def _torn(path: Path, count: int, chance: random.Random) -> str:
    """Sessions one after the other on one plan; each ends in the middle of a record, or with its last one cut."""
    at = failed = silent = told = cuts = 0
    for _session in range(count):
        document = Document.open(path, LOCAL)
        for _edit in range(chance.randint(1, 6)):
            at += 1
            document.edit(rename_plan(f"Plan {at}"))
            if chance.random() < 0.05:
                document.save(LOCAL)
        kill(document)
        cut = _tear(journal_path(path), chance)
        cuts += cut
        try:
            again = Document.open(path, LOCAL)
        except Exception:  # noqa: BLE001
            failed += 1
            continue
        lost = at - _number(again.plan.name)
        said = sum(int(number) for number in re.findall(r"(\d+) record", " ".join(again.notes)))
        told += lost > 0 and said >= lost
        silent += lost > said
        at = _number(again.plan.name)
        kill(again)
    return (
        f"{count} sessions ended in the middle of a record ({cuts} of them in one reported as done): {failed} did not open, "
        f"{silent} with a loss that was not told, {told} with one that was told by number"
    )


def _tear(journal: Path, chance: random.Random) -> bool:
    """Half of the time a part of one more record follows, otherwise the last one is cut; whether that was a done edit."""
    data = journal.read_bytes()
    lines = data.splitlines(keepends=True)
    if chance.random() < 0.5 or len(lines) < 2:
        journal.write_bytes(data + lines[-1][: chance.randrange(1, len(lines[-1]))])
        return False
    journal.write_bytes(data[: -chance.randrange(1, len(lines[-1]))])
    return len(lines) > 1


def _outside(path: Path, count: int, chance: random.Random) -> str:
    """Another program writes, replaces or removes the file while it is open here; nothing of either may be lost."""
    lost = unasked = refused = 0
    document = Document.open(path, LOCAL)
    for at in range(count):
        document.edit(rename_plan(f"Plan {at}"))
        theirs = replace(document.plan, name=f"Theirs {at}")
        _by_another(path, plan_bytes(theirs), chance)
        there = path.exists()
        try:
            document.save(LOCAL)
            unasked += there
        except ChangedOutsideError:
            refused += 1
            lost += not _resolved(document, path, at, chance)
    document.close()
    return f"{count} changes from outside: {refused} times asked, {unasked} saves over them unasked, {lost} times one of both was lost"


def _by_another(path: Path, data: bytes, chance: random.Random) -> None:
    how = chance.randrange(4)
    if how == 0:
        path.unlink()
    elif how == 1:
        path.write_bytes(data)
    else:
        other = path.with_name("sync.tmp")
        other.write_bytes(data)
        other.replace(path)


def _resolved(document: Document, path: Path, at: int, chance: random.Random) -> bool:
    """Keep mine, take theirs or keep both; whether mine and theirs are both still to be found afterwards."""
    now = LOCAL
    how = chance.randrange(3)
    if how == 0:
        document.save(now, over_theirs=True)
    elif how == 1:
        document.take_theirs(now)
    else:
        document.keep_both(now)
    mine = list(path.parent.glob("*(mine*.awl.json"))
    names = {read_plan(place).name for place in (path, *mine, *(save.path for save in list_saves(path)[:4]))}
    for place in mine:
        place.unlink()
    return {f"Plan {at}", f"Theirs {at}"} <= names


_WORKER = """
import sys, time
from datetime import datetime
from pathlib import Path
from umbra_awl.core.keep.clock import RUNNING
from umbra_awl.core.logbook.log_file import LogFile
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.disk.store import Document
path, done = Path(sys.argv[1]), 0
end = time.monotonic() + float(sys.argv[2])
now = RUNNING.local()
while time.monotonic() < end:
    try:
        document = Document.open(path, now)
    except StoreError:
        continue
    at = int(document.plan.name.split()[-1]) if document.plan.name.startswith("Plan ") else 0
    document.edit(rename_plan(f"Plan {at + 1}"))
    if done % 3:
        document.save(now)
    done += 1
    document.close()
print(done)
"""


def _several(path: Path, rounds: int, chance: random.Random) -> str:
    """Two or three processes open, edit, save and close one plan; every edit of each must count."""
    edits = missing = 0
    for _round in range(rounds):
        before = _opened(path)
        words = [sys.executable, "-c", _WORKER, str(path), str(chance.uniform(0.5, 1.2))]
        running = [subprocess.Popen(words, stdout=subprocess.PIPE, text=True) for _ in range(chance.choice((2, 3)))]
        done = sum(int(process.communicate()[0] or 0) for process in running)
        edits += done
        missing += abs(before + done - _opened(path))
    return f"{rounds} rounds of two or three processes on one plan: {edits} edits, {missing} missing"


def _opened(path: Path) -> int:
    with suppress(StoreError):
        document = Document.open(path, LOCAL)
        number = _number(document.plan.name)
        document.close()
        return number
    return -1
