"""A traced key-up as a value: hops in order, the first that stops it, and who hears at the end."""

from typing import Literal, NamedTuple

HopKind = Literal["you", "guard", "radio", "access", "network", "far"]
HopState = Literal["pass", "stop", "dark"]


class Hop(NamedTuple):
    """One hop. `text` is the short line under its name; `detail` says more; “dark” is not reached."""

    kind: HopKind
    title: str
    state: HopState
    text: str
    detail: str = ""


class Listener(NamedTuple):
    """Somebody who might hear: who, whether they do, and why or why not."""

    who: str
    hears: bool
    why: str


class Trace(NamedTuple):
    """The whole path of one key-up."""

    route: str
    radio: str
    hops: tuple[Hop, ...]
    listeners: tuple[Listener, ...]

    @property
    def broken(self) -> Hop | None:
        """The first hop that stops the key-up, or None when it gets through."""
        return next((hop for hop in self.hops if hop.state == "stop"), None)

    @property
    def reaches(self) -> bool:
        """Whether somebody hears it."""
        return self.broken is None and any(listener.hears for listener in self.listeners)
