"""What can be wrong on the way from the radio's plug to its answer, one small check each, in the order of the way.

Each looks at a described computer, before and after the cable was plugged in, and at the radio's answer where there is one. The
first that finds something tells what, why, and the very line to type.
"""

from collections.abc import Callable
from typing import NamedTuple

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.ports.chips import chip_words, driver_for
from umbra_awl.core.transfer.ports.described import Described, Port, Usb
from umbra_awl.core.transfer.ports.knock import Answer

PLACES = ("Plugged in", "Driver", "Port", "Right to open", "Free", "Answers")
"""The places of the way, in order; each check belongs to one."""


class PortSights(NamedTuple):
    """What is looked at: the computer before and now, the cable and port in question, the radio expected and its answer."""

    before: Described
    now: Described
    profile: Profile
    usb: Usb | None = None
    port: Port | None = None
    answer: Answer | None = None


class Trouble(NamedTuple):
    """What is wrong: at which place of the way, its name, a sentence with what to do, the line to type where there is one."""

    place: int
    name: str
    text: str
    line: str = ""


_ANSWERS = {
    "silent": (
        "nobody answers",
        (
            "The port is there and nobody answers. Is the {name} switched on? Push its plug in until it clicks: half seated it "
            "looks connected. Then look again."
        ),
    ),
    "noise": (
        "wrong speed or a bad plug",
        (
            "Something comes back, {noise} bytes that are no answer: another speed than {baud:,} bit/s, another device, or a "
            "plug that is not in all the way."
        ),
    ),
    "other model": (
        "another model",
        "A “{said}” answers, and a {name} was expected. Choose the radio that is on this cable.",
    ),
    "loading": (
        "loading state",
        (
            "The {name} is in loading state: it was switched on with its keys held, or its firmware is not whole. Switch it off "
            "and on; if it comes up so again, load its firmware below."
        ),
    ),
    "locked": ("write-locked", "The {name} answers and does not let itself be written. Unlock it in its menu."),
    "gone": ("went away", "{error}"),
}
Check = Callable[[PortSights], Trouble | None]


def seen_of(
    before: Described, now: Described, profile: Profile, device: str = "", answer: Answer | None = None
) -> PortSights:
    """What to look at: the cable that came, or the port that is chosen."""
    fresh, ports = now.new_since(before), now.ports_since(before)
    port = next((item for item in now.ports if item.device == device), None) if device else next(iter(ports), None)
    usb = next((item for item in now.usb if port is not None and item.path == port.usb), None)
    if usb is None and port is None:
        usb = next((item for item in fresh if driver_for(item)), next(iter(fresh), None))
        port = now.port_of(usb) if usb is not None else None
    return PortSights(before, now, profile, usb, port, answer)


def _nothing_came(seen: PortSights) -> Trouble | None:
    if seen.usb is not None or seen.port is not None:
        return None
    return Trouble(
        0,
        "cable without data lines",
        "Nothing new appeared on USB. Push both plugs in until they click, try another socket of the computer, then another "
        "cable: one made for charging has no data lines.",
    )


def _braille(seen: PortSights) -> Trouble | None:
    if seen.usb is None or seen.port is not None or "brltty" not in seen.now.running or not driver_for(seen.usb):
        return None
    return Trouble(
        2,
        "braille driver took it",
        f"{chip_words(seen.usb)} is there and its port went away at once: a driver for braille displays takes it. If nobody here "
        "reads braille, switch that driver off, then plug in again.",
        "sudo systemctl mask --now brltty-udev.service brltty.path",
    )


def _no_driver(seen: PortSights) -> Trouble | None:
    if seen.usb is None or seen.port is not None:
        return None
    driver = driver_for(seen.usb)
    if not driver:
        return Trouble(
            1,
            "no driver known",
            f"{chip_words(seen.usb)} came, and it is no chip of a programming cable that is known here. Is it the cable?",
            "lsusb",
        )
    return Trouble(
        1,
        "no driver",
        f"{chip_words(seen.usb)} is there and has no port: its driver {driver} is not loaded. Load it, then plug in again.",
        f"sudo modprobe {driver}",
    )


def _no_right(seen: PortSights) -> Trouble | None:
    port = seen.port
    if port is None or port.readable:
        return None
    group = port.group or "dialout"
    if group in seen.now.groups:
        text = f"{port.device} is there and refuses to be opened although you are in the group {group}: look at its rights."
        return Trouble(3, "no right to open", text, f"ls -l {port.device}")
    return Trouble(
        3,
        "no right to open",
        f"{port.device} belongs to the group {group}, and you are not in it. Join it, then log out and in again.",
        f"sudo usermod -aG {group} {seen.now.user or '$USER'}",
    )


def _held(seen: PortSights) -> Trouble | None:
    port = seen.port
    if port is None or not port.held_by:
        return None
    modem = port.held_by.startswith("ModemManager")
    if modem:
        return _modem_manager(port)
    return Trouble(
        4,
        "another program holds it",
        f"{port.held_by} holds {port.device}. Close it, then look again.",
        f"fuser -v {port.device}",
    )


def _modem_manager(port: Port) -> Trouble:
    return Trouble(
        4,
        "modem manager took it",
        f"The modem manager holds {port.device}: it takes every new port for a modem's and speaks to it for half a minute. Stop "
        "it while you program, or wait and look again.",
        "sudo systemctl stop ModemManager",
    )


def _modem_listens(seen: PortSights) -> Trouble | None:
    answer, port = seen.answer, seen.port
    if answer is None or answer.kind != "noise" or port is None or "ModemManager" not in seen.now.running:
        return None
    return _modem_manager(port)


def _busy(seen: PortSights) -> Trouble | None:
    answer = seen.answer
    if answer is None or answer.kind != "no port":
        return None
    device = seen.port.device if seen.port is not None else "the port"
    return Trouble(2, "port does not open", f"{answer.said} Pull the cable and plug it in again.", f"ls -l {device}")


def _answers(seen: PortSights) -> Trouble | None:
    answer, name = seen.answer, seen.profile.name
    if answer is None or answer.kind == "radio":
        return None
    said = answer.identity.model if answer.identity is not None else ""
    title, text = _ANSWERS[answer.kind]
    told = text.format(name=name, said=said, noise=answer.noise, baud=seen.profile.line.baud, error=answer.said)
    return Trouble(5, title, told)


CHECKS: tuple[Check, ...] = (
    _nothing_came, _braille, _no_driver, _no_right, _held, _busy, _modem_listens, _answers,
)  # fmt: skip


def first_trouble(seen: PortSights) -> Trouble | None:
    """The first thing on the way that is wrong; None where the radio answers, or nobody has knocked and all before is well."""
    return next((found for check in CHECKS if (found := check(seen)) is not None), None)


def words_of_way(seen: PortSights) -> tuple[str, ...]:
    """What is found at each place of the way; empty where it is not known."""
    usb, port, answer = seen.usb, seen.port, seen.answer
    identity = answer.identity if answer is not None else None
    return (
        chip_words(usb) if usb is not None else "a simulated cable" if port is not None else "",
        (port.driver if port is not None else "") or (usb.driver if usb is not None else ""),
        port.device if port is not None else "",
        (port.group or "yours") if port is not None and port.readable else "",
        "nobody else" if port is not None and not port.held_by else "",
        f"{identity.model}, firmware {identity.firmware}" if identity is not None else "",
    )
