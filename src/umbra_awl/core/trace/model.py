"""A traced key-up as a value: hops in order, the first that stops it, and who hears at the end."""

from collections.abc import Iterable
from typing import Literal, NamedTuple

from umbra_awl.core.findings.model import Finding, Repair
from umbra_awl.core.plan.index import PlanIndex

HopKind = Literal["you", "guard", "radio", "access", "gateway", "network", "far"]
HopState = Literal["pass", "stop", "dark"]


class Hop(NamedTuple):
    """One hop. `text` is the short line under its name; `detail` says more; “dark” is not reached.

    Where it stops, `notice` says what the operator would notice on the radio, and `mends` names the rules whose repair helps.
    """

    kind: HopKind
    title: str
    state: HopState
    text: str
    detail: str = ""
    notice: str = ""
    mends: tuple[str, ...] = ()


class Listener(NamedTuple):
    """Somebody who might hear: who, whether they do, and why or why not."""

    who: str
    hears: bool
    why: str


class Trace(NamedTuple):
    """The whole path of one key-up; `order` is what to do in which order where one key-up is not enough."""

    route: str
    radio: str
    hops: tuple[Hop, ...]
    listeners: tuple[Listener, ...]
    order: tuple[str, ...] = ()

    @property
    def broken(self) -> Hop | None:
        """The first hop that stops the key-up, or None when it gets through."""
        return next((hop for hop in self.hops if hop.state == "stop"), None)

    @property
    def reaches(self) -> bool:
        """Whether somebody hears it."""
        return self.broken is None and any(listener.hears for listener in self.listeners)


def mending(index: PlanIndex, route: str, rules: Iterable[str], findings: Iterable[Finding]) -> Repair | None:
    """The repair, among a plan's findings, that mends what one of these rules found on a route or what it stands on."""
    if route not in index.routes:
        return None
    access, service, destination = index.parts(index.routes[route])
    hotspots = {item.key for item in index.plan.hotspots if item.access == access.key}
    near = {("route", route), ("service", service.key), ("destination", destination.key), ("licence", "")}
    near |= {("service", item.key) for item in access.services} | {("hotspot", key) for key in hotspots}
    near |= {("identity", item.key) for item in index.plan.station.identities}
    wanted = tuple(rules)
    for finding in findings:
        if finding.rule.name in wanted and tuple(finding.target) in near and finding.repair is not None:
            return finding.repair
    return None
