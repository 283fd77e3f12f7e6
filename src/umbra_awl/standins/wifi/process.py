"""Simulated wireless things as processes: a line of JSON in, the state as a line out, until the input ends."""

import json
import sys
from typing import Any, Protocol

from umbra_awl.standins.wifi.bond import Bond
from umbra_awl.standins.wifi.world import WifiWorld


class Doing(Protocol):
    """Something that does what it is told, and tells its state."""

    def do(self, told: dict[str, Any]) -> dict[str, Any]:
        """Do one thing."""


def run() -> None:
    """Be a home, a phone and a hotspot."""
    _serve(WifiWorld())


def run_bond(starts: str, pin: str, settings: tuple[str, ...]) -> None:
    """Be a radio and a phone that pair."""
    _serve(Bond(starts, pin, settings))


def _serve(thing: Doing) -> None:
    _tell({"event": "ready"})
    for line in sys.stdin:
        try:
            told = json.loads(line)
        except ValueError:
            told = {}
        _tell({"event": "state", **thing.do(told if isinstance(told, dict) else {})})


def _tell(value: dict[str, object]) -> None:
    sys.stdout.write(json.dumps(value) + "\n")
    sys.stdout.flush()
