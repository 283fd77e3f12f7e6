"""The faults a simulated radio shows on request."""

from typing import NamedTuple


class FaultError(ValueError):
    """A fault nobody knows; the message lists those there are."""


class Faults(NamedTuple):
    """What is wrong with the radio: counts are bytes on the line or frames, the battery percent; 0 and False mean sound."""

    unplug_at: int = 0
    corrupt_every: int = 0
    wrong_model: bool = False
    locked: bool = False
    silent: bool = False
    slow: bool = False
    full: bool = False
    battery: int = 100


def parse_fault(faults: Faults, text: str) -> Faults:
    """The faults with one more, such as “unplug@20000”, “corrupt@7”, “wrong-model”. Raises FaultError."""
    name, _, number = text.partition("@")
    switches = {"wrong-model": "wrong_model", "locked": "locked", "off": "silent", "slow": "slow", "full": "full"}
    counts = {"unplug": "unplug_at", "corrupt": "corrupt_every", "battery": "battery"}
    if name in switches and not number:
        return Faults(**{**faults._asdict(), switches[name]: True})
    if name in counts and number.isdecimal() and int(number) > 0:
        return Faults(**{**faults._asdict(), counts[name]: int(number)})
    known = ", ".join([*(f"{item}@N" for item in counts), *switches])
    raise FaultError(f"“{text}” is not a fault of the simulated radio. There are: {known}.")
