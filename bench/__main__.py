"""Print the table of ratios.

`python -m bench kills 1000` and `fuzz 100000` count what goes wrong, `mutants` changes the code that
decides and counts what its tests notice, `agree 10000` keys up on routes and compares trace and simulation, `gaps` prints hold-ups;
`directory`, `radios`, `ways`, `hotspots`, `simulation` and `log` print their tables alone.
"""

import sys
import tempfile
from pathlib import Path

from bench import core, directory, fuzz, gaps, hotspots, kills, log, mutants, radios, simulation, ways, window
from bench.measure import print_table


def main() -> None:
    """Run what is asked for."""
    if sys.argv[1:2] == ["kills"]:
        kills.run(int(sys.argv[2]) if len(sys.argv) > 2 else 200)
        return
    if sys.argv[1:2] == ["gaps"]:
        gaps.run()
        return
    if sys.argv[1:2] == ["mutants"]:
        mutants.run(sys.argv[2:])
        return
    if sys.argv[1:2] == ["agree"]:
        simulation.agree(int(sys.argv[2]) if len(sys.argv) > 2 else 10_000)
        return
    if sys.argv[1:2] == ["fuzz"]:
        fuzz.run(int(sys.argv[2]) if len(sys.argv) > 2 else 10_000)
        return
    alone = {
        "directory": directory.run,
        "radios": radios.run,
        "ways": ways.run,
        "hotspots": hotspots.run,
        "simulation": simulation.run,
        "log": log.run,
    }
    if sys.argv[1:2] and sys.argv[1] in alone:
        with tempfile.TemporaryDirectory() as name:
            print_table(alone[sys.argv[1]](Path(name)))
        return
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        print_table(
            [
                *window.run(folder),
                *core.run(folder),
                *directory.run(folder),
                *radios.run(folder),
                *ways.run(folder),
                *hotspots.run(folder),
                *simulation.run(folder),
                *log.run(folder),
            ]
        )


main()
