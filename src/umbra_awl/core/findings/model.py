"""What a finding is: what is wrong or doubtful, to what, why, with the numbers, and a repair where one is honest."""

from typing import Literal, NamedTuple

from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.plan.model import AccessPoint, Destination, Network, Route, Service

Severity = Literal["stop", "warn", "note"]
TargetKind = str
"""What a finding points at: the `target` word of a part of the plan, or one of those beside the parts."""
BESIDE_PARTS = frozenset({"service", "identity", "licence"})
SEVERITY_WORDS: dict[Severity, str] = {"stop": "Stop", "warn": "Look", "note": "Note"}
SEVERITY_ORDER: dict[Severity, int] = {"stop": 0, "warn": 1, "note": 2}


class Target(NamedTuple):
    """The thing a finding is about, by kind and key."""

    kind: TargetKind
    key: str


class Repair(NamedTuple):
    """A way to mend it: the words on the button, and the edit."""

    label: str
    edit: Edit


class Rule(NamedTuple):
    """A rule: its name, how grave its findings are, their title, the explanation behind “why”.

    What a `safety` rule finds cannot be silenced: it would transmit where it must not, or hide what is said.
    """

    name: str
    severity: Severity
    title: str
    why: str
    safety: bool = False


class Finding(NamedTuple):
    """One finding. `text` carries the numbers."""

    rule: Rule
    target: Target
    text: str
    repair: Repair | None = None
    part: str = ""

    @property
    def key(self) -> tuple[str, str, str, str]:
        """What makes it the same finding in another plan: rule, target and part."""
        return (self.rule.name, self.target.kind, self.target.key, self.part)

    @property
    def severity(self) -> Severity:
        """How grave it is: stop, warn or note."""
        return self.rule.severity


class RuleSpot(NamedTuple):
    """A route with everything it stands on."""

    route: Route
    access: AccessPoint
    service: Service
    destination: Destination
    network: Network | None

    @property
    def target(self) -> Target:
        """The route as a finding's target."""
        return Target("route", self.route.key)

    @property
    def where(self) -> str:
        """The access point as people say it."""
        return self.access.call or self.access.site
