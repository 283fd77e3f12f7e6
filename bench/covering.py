"""Which test executes which line of the core: asked once of a run of all core tests, kept beside the sources in `.covering/`.

Also a plugin: `python -m pytest -p bench.covering` writes down, in each of its processes, what every test executed and how long
it took.
"""

import json
import os
import subprocess
import sys
import time
from collections import defaultdict
from functools import cache
from pathlib import Path

import pytest

ROOT = Path(__file__).parent.parent
KEPT = ROOT / ".covering"
CORE = ROOT / "src" / "umbra_awl" / "core"
MOST_S, MOST_TESTS = 40.0, 300
"""What one change may cost: the quickest tests of its line, together at most so long, and at most so many."""
_times: dict[str, float] = {}


def _coverage():
    from coverage import Coverage

    return Coverage(data_file=str(KEPT / "lines"), data_suffix=True, include=[str(CORE / "*")], config_file=False)


@pytest.hookimpl(hookwrapper=True)
def pytest_runtest_protocol(item, nextitem):
    """Everything that a test executes, with what its fixtures do, is put to its name."""
    begun = time.monotonic()
    _measured().switch_context(item.nodeid)
    yield
    _measured().switch_context("")
    _times[item.nodeid] = time.monotonic() - begun


@cache
def _measured():
    KEPT.mkdir(exist_ok=True)
    made = _coverage()
    made.start()
    return made


def pytest_unconfigure():
    """Write down what this process saw."""
    if _times:
        _measured().stop()
        _measured().save()
        (KEPT / f"times.{os.getpid()}.json").write_text(json.dumps(_times))


def measure() -> None:
    """Run all core tests once and keep what each of them executes."""
    for old in KEPT.glob("*"):
        old.unlink()
    words = (
        "-q",
        "-n",
        "2",
        "-p",
        "bench.covering",
        "-p",
        "no:cacheprovider",
        "-W",
        "ignore",
        "tests/core",
        "tests/shell",
    )
    subprocess.run([sys.executable, "-m", "pytest", *words], cwd=ROOT, check=False)
    found = _coverage()
    found.combine([str(KEPT)], keep=False)
    found.save()


@cache
def _kept():
    from coverage import CoverageData

    files = sorted(KEPT.glob("lines*"))
    if not files:
        measure()
        files = sorted(KEPT.glob("lines*"))
    data = CoverageData(basename=str(files[-1]))
    data.read()
    times: dict[str, float] = {}
    for path in KEPT.glob("times.*.json"):
        times |= json.loads(path.read_text())
    return data, times


@cache
def _lines(path: Path) -> dict[int, set[str]]:
    data, _ = _kept()
    found: dict[int, set[str]] = defaultdict(set)
    for line, names in data.contexts_by_lineno(str(path)).items():
        found[line] = {name for name in names if name}
    return found


@cache
def _source(test_file: str) -> str:
    try:
        return (ROOT / test_file).read_text("utf-8")
    except OSError:
        return ""


def _is_about(name: str, path: Path) -> bool:
    """Whether a test stands in a file that imports the module: such tests are tried first, whatever they take."""
    dotted = ".".join(path.relative_to(ROOT / "src").with_suffix("").parts)
    package, _dot, module = dotted.rpartition(".")
    text = _source(name.partition("::")[0])
    return f"from {dotted} import" in text or f"from {package} import {module}" in text


def tests_of(path: Path, line: int) -> list[str]:
    """The tests that execute a line, as pytest names: those about its module first, then the quickest.

    Those of the whole module where only loading executes it.
    """
    lines = _lines(path)
    names = lines.get(line) or set().union(*lines.values())
    _, times = _kept()
    chosen, spent = [], 0.0
    for name in sorted(names, key=lambda name: (not _is_about(name, path), times.get(name, 1.0), name)):
        spent += times.get(name, 1.0)
        if chosen and (spent > MOST_S or len(chosen) == MOST_TESTS):
            break
        chosen.append(name)
    return chosen
