"""Devices out of a list that somebody pasted: a router's page, a phone's list of who joined, a scan's output."""

import ipaddress
import re
from typing import NamedTuple

MOST_TEXT, MOST_DEVICES = 200_000, 500
_ADDRESS = re.compile(r"(?<![\d.])(\d{1,3}(?:\.\d{1,3}){3})(?![\d.])")
_SIX = re.compile(r"(?<![\w:])((?:[0-9a-fA-F]{1,4}:){2,7}[0-9a-fA-F]{1,4}|fe80::[0-9a-fA-F:]+)(?![\w:])")
_HARDWARE = re.compile(r"\b[0-9a-fA-F]{2}(?:[:\-][0-9a-fA-F]{2}){5}\b")
_NAME = re.compile(r"[A-Za-z0-9][A-Za-z0-9_-]{0,62}(?:\.(?:local|lan|home|test))?")
_NO_NAMES = frozenset(
    "ip ipv4 ipv6 mac address addr name host hostname device devices online offline wifi wlan lan dhcp lease lease time type "
    "signal dbm ghz connected joined client clients is up at on for the active ago min minutes hours unknown".split()
)


class ListedDevice(NamedTuple):
    """A device: its address, the names told beside it, and whether it looks like the hotspot that is sought."""

    address: str
    names: tuple[str, ...]
    sought: bool = False


def devices(text: str, sought: tuple[str, ...]) -> tuple[ListedDevice, ...]:
    """The devices in a list, those first that are called like one of the sought names (a host name, a call sign)."""
    found: dict[str, ListedDevice] = {}
    pending: list[str] = []
    for line in text[:MOST_TEXT].splitlines():
        bare = _HARDWARE.sub(" ", line)
        addresses = [item for item in (*_ADDRESS.findall(bare), *_SIX.findall(bare)) if _usable(item)]
        names = _names(_SIX.sub(" ", _ADDRESS.sub(" ", bare)))
        if not addresses:
            pending = names or pending
            continue
        told = tuple(dict.fromkeys(names or pending))
        pending = []
        for address in addresses:
            before = found.get(address)
            every = tuple(dict.fromkeys((*(before.names if before else ()), *told)))
            found[address] = ListedDevice(address, every, is_sought(every, sought))
        if len(found) >= MOST_DEVICES:
            break
    return tuple(sorted(found.values(), key=lambda item: not item.sought))


def _names(text: str) -> list[str]:
    words = [match.group() for match in _NAME.finditer(text)]
    return [word for word in words if word.lower() not in _NO_NAMES and not word.isdigit() and len(word) > 1]


def _usable(text: str) -> bool:
    try:
        address = ipaddress.ip_address(text)
    except ValueError:
        return False
    return not (address.is_multicast or address.is_unspecified or text.endswith(".255"))


def is_sought(names: tuple[str, ...], sought: tuple[str, ...]) -> bool:
    """Whether one of a device's names is a sought one, whatever its case and ending."""
    wanted = {_stem(item) for item in sought if item}
    return any(_stem(name) in wanted for name in names)


def _stem(name: str) -> str:
    return name.casefold().partition(".")[0].replace("-", "").replace("_", "")
