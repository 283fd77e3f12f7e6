"""Describing the computer's ports from the system's own files. Nothing is opened, nothing is changed, no root is needed."""

import grp
import os
import pwd
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path

from umbra_awl.core.transfer.ports.described import Described, Port, Usb

WATCHED = ("ModemManager", "brltty")
"""Programs that take serial ports for themselves as soon as one appears."""


class Root:
    """Where the system's files are; another folder for tests."""

    def __init__(self, top: Path = Path("/")) -> None:
        self.sys, self.proc, self.dev = top / "sys", top / "proc", top / "dev"


def describe(root: Root | None = None) -> Described:
    """The computer as it is now."""
    root = root or Root()
    ports = tuple(_ports(root))
    names = list(_programs(root))
    return Described(
        tuple(_usb(root)),
        _with_holders(root, ports),
        _user(),
        tuple(_groups()),
        tuple(name for name in WATCHED if name in names),
        _modules(root),
    )


def _text(path: Path) -> str:
    try:
        return path.read_text("utf-8", "replace").strip()
    except OSError:
        return ""


def _modules(root: Root) -> tuple[str, ...]:
    return tuple(sorted(line.split(" ")[0] for line in _text(root.proc / "modules").splitlines() if line))


def _usb(root: Root) -> Iterator[Usb]:
    place = root.sys / "bus" / "usb" / "devices"
    for item in sorted(place.iterdir()) if place.is_dir() else ():
        vendor = _text(item / "idVendor")
        if not vendor or vendor == "1d6b":  # the computer's own hubs
            continue
        words = " ".join(filter(None, (_text(item / "manufacturer"), _text(item / "product"))))
        yield Usb(item.name, vendor, _text(item / "idProduct"), words[:60], _driver_under(item))


def _driver_under(item: Path) -> str:
    """The driver of a USB device's first interface that has one."""
    with suppress(OSError):
        for inner in sorted(item.iterdir()):
            if ":" in inner.name and (inner / "driver").exists():
                return (inner / "driver").resolve().name
    return ""


def _ports(root: Root) -> Iterator[Port]:
    place = root.sys / "class" / "tty"
    for item in sorted(place.iterdir()) if place.is_dir() else ():
        if not item.name.startswith(("ttyUSB", "ttyACM", "rfcomm")):
            continue
        device = root.dev / item.name
        inside = (item / "device").resolve()
        driver = (inside / "driver").resolve().name if (inside / "driver").exists() else ""
        yield Port(str(device), _usb_path(inside), driver, _group(device), os.access(device, os.R_OK | os.W_OK))


def _usb_path(inside: Path) -> str:
    """The bus path of the USB device that something belongs to: the nearest folder above it with a vendor."""
    for place in (inside, *inside.parents):
        if (place / "idVendor").exists():
            return place.name
    return ""


def _group(device: Path) -> str:
    try:
        return grp.getgrgid(device.stat().st_gid).gr_name
    except (OSError, KeyError):
        return ""


def _groups() -> Iterator[str]:
    for number in sorted({os.getegid(), *os.getgroups()}):
        with suppress(KeyError):
            yield grp.getgrgid(number).gr_name


def _user() -> str:
    try:
        return pwd.getpwuid(os.geteuid()).pw_name
    except KeyError:
        return ""


def _processes(root: Root) -> Iterator[Path]:
    with suppress(OSError):
        yield from (item for item in root.proc.iterdir() if item.name.isdecimal())


def _programs(root: Root) -> Iterator[str]:
    for item in _processes(root):
        name = _text(item / "comm")
        if name:
            yield name


def _with_holders(root: Root, ports: tuple[Port, ...]) -> tuple[Port, ...]:
    """The ports with the program that holds each, as far as this user may see that."""
    holders: dict[str, str] = {}
    wanted = {port.device for port in ports}
    for item in _processes(root) if wanted else ():
        with suppress(OSError):
            for handle in (item / "fd").iterdir():
                target = str(handle.readlink())
                if target in wanted and int(item.name) != os.getpid():
                    holders[target] = f"{_text(item / 'comm') or 'a program'} (process {item.name})"
    return tuple(Port(p.device, p.usb, p.driver, p.group, p.readable, holders.get(p.device, "")) for p in ports)
