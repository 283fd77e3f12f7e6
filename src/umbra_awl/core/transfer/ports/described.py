"""A computer's ports as a value: what is plugged in, which drivers and ports there are, who may open them, who holds them.

It is gathered from the system's own files, without any right beyond the user's, so that checks are functions over a value and
are tested with recorded ones.
"""

import msgspec


class Usb(msgspec.Struct, frozen=True, omit_defaults=True):
    """A USB device: where it is plugged (bus path), vendor and product as four hex digits, what it says, its driver."""

    path: str
    vendor: str = ""
    product: str = ""
    words: str = ""
    driver: str = ""


class Port(msgspec.Struct, frozen=True, omit_defaults=True):
    """A serial port: its device file, the USB device it belongs to (bus path), its driver, who may open it and who holds it."""

    device: str
    usb: str = ""
    driver: str = ""
    group: str = ""
    readable: bool = True
    held_by: str = ""


class Described(msgspec.Struct, frozen=True, omit_defaults=True):
    """A computer at one moment. `running` are names of programs that are known to take ports; `user` and its `groups`."""

    usb: tuple[Usb, ...] = ()
    ports: tuple[Port, ...] = ()
    user: str = ""
    groups: tuple[str, ...] = ()
    running: tuple[str, ...] = ()
    drivers: tuple[str, ...] = ()

    def port_of(self, usb: Usb) -> Port | None:
        """The port of a USB device."""
        return next((item for item in self.ports if item.usb == usb.path), None)

    def new_since(self, before: "Described") -> tuple[Usb, ...]:
        """USB devices that were not there before."""
        there = {(item.path, item.vendor, item.product) for item in before.usb}
        return tuple(item for item in self.usb if (item.path, item.vendor, item.product) not in there)

    def ports_since(self, before: "Described") -> tuple[Port, ...]:
        """Ports that were not there before."""
        there = {item.device for item in before.ports}
        return tuple(item for item in self.ports if item.device not in there)
