"""The simulated home, phone and hotspot as a process: a line of JSON in, the state as a line out, until the input ends."""

import json
import sys

from umbra_awl.standins.wifi.world import World


def run() -> None:
    """Serve the lines of the standard input."""
    world = World()
    _tell({"event": "ready"})
    for line in sys.stdin:
        try:
            told = json.loads(line)
        except ValueError:
            told = {}
        _tell({"event": "state", **world.do(told if isinstance(told, dict) else {})})


def _tell(value: dict[str, object]) -> None:
    sys.stdout.write(json.dumps(value) + "\n")
    sys.stdout.flush()
