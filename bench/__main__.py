"""Print the table of ratios.

`python -m bench kills 1000` and `fuzz 100000` count what goes wrong, `mutants` changes the code that
decides and counts what its tests notice, `agree 10000` keys up on routes and compares trace and simulation, `truth 100000` trace,
findings and fit on plans with slips, `gaps` prints hold-ups;
`window`, `core`, `directory`, `radios`, `ways`, `hotspots`, `simulation` and `log` print their tables alone.
"""

import sys
import tempfile
from pathlib import Path

from bench import core, directory, fuzz, gaps, hotspots, kills, log, mutants, radios, simulation, truth, ways, window
from bench.measure import print_table

_COUNTED = {
    "kills": (kills.run, 200),
    "agree": (simulation.agree, 10_000),
    "truth": (truth.run, 100_000),
    "fuzz": (fuzz.run, 10_000),
}
"""What goes on so many times, and how often where nothing is said."""


def main() -> None:
    """Run what is asked for."""
    asked, more = (sys.argv[1] if len(sys.argv) > 1 else ""), sys.argv[2:]
    if asked in _COUNTED:
        runs, usual = _COUNTED[asked]
        runs(*map(int, more or [usual]))
        return
    if asked in {"gaps", "mutants"}:
        gaps.run() if asked == "gaps" else mutants.run(more)
        return
    tables = {
        "window": window.run,
        "core": core.run,
        "directory": directory.run,
        "radios": radios.run,
        "ways": ways.run,
        "hotspots": hotspots.run,
        "simulation": simulation.run,
        "log": log.run,
    }
    for name in [asked] if asked in tables else tables:
        with tempfile.TemporaryDirectory() as folder:
            print_table(tables[name](Path(folder)))
            sys.stdout.flush()


main()
