"""Looking at this computer's own network for a hotspot: only on request, only its own subnet, a few addresses at a time."""

import ipaddress
import json
import socket
import subprocess
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from typing import NamedTuple

from umbra_awl.core.hotspot.seek.errors import HotspotError
from umbra_awl.core.hotspot.seek.talk import Status, Talk

AT_ONCE, MOST = 6, 254
_PATIENCE_S = 1.0


class Own(NamedTuple):
    """An address of this computer with its network."""

    device: str
    network: ipaddress.IPv4Network


class FoundHost(NamedTuple):
    """What answered at an address; `status` where it is a hotspot."""

    address: str
    status: Status | None
    words: str


def own_networks(described: str) -> tuple[Own, ...]:
    """The own networks of this computer out of what `ip -json -4 address` prints; none where it prints nothing usable."""
    made: list[Own] = []
    try:
        for item in json.loads(described or "[]"):
            for address in item.get("addr_info", ()):
                network = ipaddress.IPv4Network(f"{address['local']}/{address['prefixlen']}", strict=False)
                made.append(Own(str(item.get("ifname", "")), network))
    except (ValueError, KeyError, TypeError, AttributeError):
        return tuple(made)
    return tuple(made)


def describe_networks() -> str:
    """What this system says of its addresses; empty where it does not."""
    try:
        done = subprocess.run(["ip", "-json", "-4", "address"], capture_output=True, timeout=5, check=False)
    except (OSError, subprocess.SubprocessError):
        return ""
    return done.stdout.decode("utf-8", "replace")[:200_000]


def may_look(own: Own) -> str:
    """Why a network is not looked at, as a sentence; empty where it may be: it must be small and private."""
    if not own.network.is_private:
        return f"{own.network} is no private network, and strangers are not knocked at."
    if own.network.num_addresses > MOST + 2 and not own.network.is_loopback:
        return f"{own.network} has {own.network.num_addresses:,} addresses; more than {MOST} are not looked at."
    return ""


def addresses_of(own: Own) -> tuple[str, ...]:
    """The addresses of a network that may be looked at, at most 254."""
    if may_look(own):
        return ()
    hosts = own.network.hosts()
    return tuple(str(host) for host, _count in zip(hosts, range(MOST), strict=False))


Ask = Callable[[str], Status]


def ask_status(address: str) -> Status:
    """What a hotspot at an address says of itself. Raises HotspotError."""
    return Talk(address, patience_s=_PATIENCE_S).status()


def look(addresses: Iterable[str], stopped: Callable[[], bool], ask: Ask = ask_status) -> Iterator[FoundHost]:
    """What answers at some addresses, a few at a time, as it comes; ends early when it is stopped."""
    listed = list(addresses)[:MOST]
    with ThreadPoolExecutor(AT_ONCE) as pool:
        for at in range(0, len(listed), AT_ONCE):
            if stopped():
                return
            for found in pool.map(lambda address: _looked(address, ask), listed[at : at + AT_ONCE]):
                if found is not None:
                    yield found


def _looked(address: str, ask: Ask) -> FoundHost | None:
    try:
        status = ask(address)
    except HotspotError as error:
        return (
            None if "Nothing answers" in str(error) else FoundHost(address, None, "something answers, but no hotspot")
        )
    return FoundHost(address, status, f"a hotspot, “{status.name}”")


Resolve = Callable[[str], list[str]]


def resolve(name: str) -> list[str]:
    """The addresses of a host name, by whatever this system resolves names with (mDNS for “.local” where it has it)."""
    try:
        found = socket.getaddrinfo(name, 80, type=socket.SOCK_STREAM)
    except (OSError, UnicodeError):
        return []
    return list(dict.fromkeys(str(item[4][0]) for item in found))


def by_name(host: str, resolved: Resolve = resolve) -> tuple[str, list[str]]:
    """The full name that was asked for, “.local” put behind a bare one, and its addresses."""
    name = host.strip().rstrip(".")
    full = name if "." in name or not name else f"{name}.local"
    return full, resolved(full) if full and len(full) < 254 else []
