"""The simulated radio's process: prints a JSON line for each thing its owner would see."""

import json
import signal
import sys
import time
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.radio.profile import Profile
from umbra_awl.standins.leash import heard
from umbra_awl.standins.radio.device import SimulatedRadio, factory_image
from umbra_awl.standins.radio.faults import Faults
from umbra_awl.standins.radio.line import LinePulledError, PtyLine, serve

_BITS_A_BYTE = 10
_SLOW = 8


class RadioSetup(NamedTuple):
    """How a simulated radio is set up. `speed` multiplies the line's speed; `replug_s` is how long a pulled cable stays out.

    `unit` tells which single radio it is, when its memory is made.
    """

    profile: Profile
    memory: Path
    port: Path
    faults: Faults = Faults()
    speed: float = 1.0
    replug_s: float = 1.5
    unit: str = "1"


def say(event: str, **more: str) -> None:
    """Print one event as a JSON line."""
    sys.stdout.write(json.dumps({"event": event, **more}) + "\n")
    sys.stdout.flush()


def run(setup: RadioSetup) -> None:
    """Be a radio until terminated. A pulled cable is put back after a while, sound from then on."""
    stopped: list[int] = []
    signal.signal(signal.SIGTERM, lambda number, _frame: stopped.append(number))
    signal.signal(signal.SIGINT, lambda number, _frame: stopped.append(number))
    if not setup.memory.exists():
        setup.memory.write_bytes(factory_image(setup.profile, setup.unit))
    faults = setup.faults
    while not stopped:
        device = SimulatedRadio(setup.profile, setup.memory, faults)
        line = PtyLine(setup.port, _bytes_per_s(setup, faults), faults.unplug_at)
        say("ready", port=str(setup.port), model=setup.profile.key)
        try:
            serve(line, device, lambda text: say("display", text=text), lambda radio: _obey(radio) and not stopped)
        except LinePulledError:
            say("unplugged")
            faults = faults._replace(unplug_at=0)
        finally:
            line.pull()
            device.close()
        if not stopped:
            time.sleep(setup.replug_s)


def _obey(device: SimulatedRadio) -> bool:
    """Do what its owner's hands were told to do meanwhile: switch it, with keys held or not."""
    for line in heard():
        try:
            told = json.loads(line)
            if told.get("do") == "switch":
                device.switch(on=bool(told.get("on")), keys=bool(told.get("keys")))
            say("hands", text=device.display)
        except (ValueError, AttributeError):
            say("hands", text="?")
    return True


def _bytes_per_s(setup: RadioSetup, faults: Faults) -> float:
    return setup.profile.line.baud / _BITS_A_BYTE * setup.speed / (_SLOW if faults.slow else 1)
