"""Everything that must hold, part by part: each is run to its end whatever the others say, and what failed stands at the end.

`test.py` is the day's run. `test.py night` runs what takes long as well, and the parts that look at the calendar on awkward days;
`test.py explore [MINUTES]` draws new random examples for so long, and says with which seed.
"""

import os
import random
import subprocess
import sys
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.keep.clock import RUNNING

ROOT = Path(__file__).parent.parent
BIN = ROOT / ".venv" / "bin"
PYTEST = str(BIN / "pytest")
WITHOUT_QT = ("-c", "tests/without_qt/pytest.ini", "--rootdir", ".", "--confcutdir", ".", "-p", "no:pytest-qt")
NIGHT = ("-m", "night or not night")
AWKWARD: tuple[tuple[str, str, str], ...] = (
    ("28 February", "2027-02-28T22:30:00Z", "Etc/UTC"),
    ("29 February", "2028-02-29T09:00:00Z", "Etc/UTC"),
    ("clocks forward, north", "2027-03-28T00:59:00Z", "Europe/Lisbon"),
    ("clocks back, north", "2027-10-31T01:30:00Z", "Europe/Athens"),
    ("clocks forward, south", "2027-09-25T14:30:00Z", "Pacific/Auckland"),
    ("clocks back, south", "2027-04-03T14:30:00Z", "Pacific/Auckland"),
    ("New Year", "2026-12-31T23:45:00Z", "Atlantic/Azores"),
    ("week 53", "2026-12-30T12:00:00Z", "America/St_Johns"),
    ("the trip's first day", "2026-12-01T07:00:00Z", "Atlantic/Azores"),
    ("the trip's last day", "2026-12-05T21:00:00Z", "Atlantic/Azores"),
    ("five years on", "2031-11-24T15:30:00Z", "Etc/UTC"),
)
"""Name, moment and time zone of the days on which what looks at the calendar is run by night."""
BY_THE_CALENDAR = (
    "tests/desk/test_layout.py", "tests/desk/test_drills.py", "tests/desk/test_log_stage.py", "tests/desk/test_nets_page.py",
    "tests/desk/test_station_stage.py", "tests/core/agenda", "tests/core/drills", "tests/core/logbook",
    "tests/core/test_demo_always_now.py", "tests/core/test_demo_world.py", "tests/core/test_permit.py",
)  # fmt: skip
JOURNEYS_BY_THE_CALENDAR = (
    "tests/journey/test_log_journey.py", "tests/journey/test_newcomer.py", "tests/journey/test_personas.py",
)  # fmt: skip


BESIDES = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
"""Byte code is written: hundreds of processes are started, and each would compile what it imports anew."""


class Part(NamedTuple):
    """A command with its name and what its environment has besides; `group` is under which its time is told."""

    group: str
    name: str
    words: tuple[str, ...]
    besides: dict[str, str] = {}  # noqa: RUF012  (never changed)


class Ended(NamedTuple):
    """How a part ended: its seconds, its last words where it failed."""

    part: Part
    seconds: float
    code: int
    failures: tuple[str, ...]


def lint() -> tuple[Part, ...]:
    """Style, types, layers."""
    return (
        Part("lint", "ruff", (str(BIN / "ruff"), "check", ".")),
        Part("lint", "format", (str(BIN / "ruff"), "format", "--check", "-q", ".")),
        Part("lint", "mypy", (str(BIN / "mypy"),)),
        Part("lint", "layers", (str(BIN / "lint-imports"),)),
    )


def core(*more: str) -> Part:
    """Core, stand-ins and shell, where PyQt6 cannot be imported; on three lanes, since stand-ins wait more than they work."""
    paths = ("tests/core", "tests/standins", "tests/shell")
    return Part(
        "core, stand-ins and shell without PyQt6",
        "core",
        (PYTEST, *WITHOUT_QT, "-n", "3", *more, *paths),
        {"PYTHONPATH": "tests/without_qt"},
    )


def window(*more: str) -> Part:
    """The window's tests, offscreen."""
    return Part("window", "window", (PYTEST, "-n", "2", *more, "tests/desk"), {"QT_QPA_PLATFORM": "offscreen"})


def journey(screen: int, files: list[str], *more: str) -> Part:
    """Some files of journeys on a screen of their own, from this number on the first that is free."""
    server = ("xvfb-run", "-a", "-n", str(screen), "-s", "-screen 0 1280x800x24")
    words = (*server, PYTEST, *more, *files)
    return Part("journeys", Path(files[0]).stem, words, {"QT_QPA_PLATFORM": "xcb"})


def journeys(*more: str) -> list[Part]:
    """The journeys, each file in a process and on a screen of its own: they wait for stand-ins more than they work."""
    files = sorted(str(path.relative_to(ROOT)) for path in (ROOT / "tests" / "journey").glob("test_*.py"))
    slowest = ("onair", "hotspot", "table", "journey/test_journey")
    files.sort(key=lambda name: not any(word in name for word in slowest))
    return [journey(180 + 20 * at, [name], *more) for at, name in enumerate(files)]


def run(part: Part) -> Ended:
    """Run a part to its end; what it says is printed in one piece."""
    begun = time.monotonic()
    done = subprocess.run(
        part.words,
        cwd=ROOT,
        env={**BESIDES, **part.besides},
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        errors="replace",
        check=False,
    )
    seconds = time.monotonic() - begun
    print(f"== {part.name}: {seconds:.0f} s\n{done.stdout.rstrip()}", flush=True)
    told = [line for line in done.stdout.splitlines() if line.startswith(("FAILED", "ERROR"))]
    if done.returncode and not told:
        told = done.stdout.splitlines()[-5:]
    return Ended(part, seconds, done.returncode, tuple(told))


def in_turn(parts: tuple[Part, ...]) -> list[Ended]:
    """Run parts one after the other."""
    return [run(part) for part in parts]


def day() -> list[Ended]:
    """What must hold before anything is kept: first what waits more than it works, side by side, then the rest on both cores."""
    with ThreadPoolExecutor(3) as lanes:
        ended = [*lanes.map(run, (*journeys(), *lint()))]
    return [*ended, run(core()), run(window())]


def night() -> list[Ended]:
    """All of the day, with what takes long, and what looks at the calendar on awkward days and today."""
    BESIDES["EXAMPLES"] = "night"
    ended = in_turn((*lint(), *journeys(*NIGHT), core(*NIGHT), window(*NIGHT)))
    now = f"{RUNNING.utc():%Y-%m-%dT%H:%M:%SZ}"
    for name, moment, zone in (("today", now, "Etc/UTC"), *AWKWARD):
        at = {"UMBRA_AWL_NOW": moment, "TZ": zone}
        told = Part(name, name, (PYTEST, "-n", "2", *BY_THE_CALENDAR), {"QT_QPA_PLATFORM": "offscreen", **at})
        walked = journey(180, list(JOURNEYS_BY_THE_CALENDAR))
        ended += in_turn(
            (told, walked._replace(group=name, name=f"{name}, journeys", besides={**walked.besides, **at}))
        )
    return ended


def explore() -> list[Ended]:
    """New random examples for an evening, each round with a seed that is said."""
    minutes = float(sys.argv[2]) if len(sys.argv) > 2 else 30.0
    until, ended = time.monotonic() + 60 * minutes, list[Ended]()
    while time.monotonic() < until:
        seed = random.randrange(2**32)  # noqa: S311  (examples)
        print(
            f"== seed {seed}: scripts/setup.sh && EXAMPLES=explore .venv/bin/pytest --hypothesis-seed={seed} tests/core"
        )
        part = core(f"--hypothesis-seed={seed}")
        ended.append(run(part._replace(name=f"seed {seed}", besides={**part.besides, "EXAMPLES": "explore"})))
    return ended


def main() -> int:
    """Run what is asked for; tell the time by group, and all that failed."""
    kinds: dict[str, Callable[[], list[Ended]]] = {"day": day, "night": night, "explore": explore}
    begun = time.monotonic()
    ended = kinds[sys.argv[1] if len(sys.argv) > 1 else "day"]()
    print("== time")
    for group in dict.fromkeys(item.part.group for item in ended):
        print(f"{sum(item.seconds for item in ended if item.part.group == group):6.0f} s  {group}")
    print(f"{time.monotonic() - begun:6.0f} s  in all")
    failed = [item for item in ended if item.code]
    for item in failed:
        print(f"== failed: {item.part.name}")
        print("\n".join(item.failures))
    print("== all of it holds" if not failed else f"== {len(failed)} of {len(ended)} parts failed")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
