"""The club's plan that a plan follows: where it lies, and what it was when its news were taken last. A file beside the plan."""

from collections.abc import Mapping
from pathlib import Path
from types import MappingProxyType

import msgspec
from msgspec.structs import replace

from umbra_awl.core.hands.merge import Answers, Merged, merge
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.keep.limits import PLAN_BYTES, read_within
from umbra_awl.core.plan.disk.file_form import PlanFormError, parse_plan, plan_bytes
from umbra_awl.core.plan.disk.saves import SUFFIX
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.parts import TYPES

FORMAT, VERSION = "umbra-awl followed plan", 1


CHOICES: Mapping[str, tuple[str, ...]] = MappingProxyType({
    "repeaters and networks": ("networks", "access"),
    "destinations": ("networks", "destinations"),
    "routes": ("networks", "access", "destinations", "routes"),
    "zones and scan lists": ("networks", "access", "destinations", "routes", "zones", "scans"),
    "nets": ("networks", "destinations", "nets"),
    "the style of names": ("names",),
    "radios": ("radios",),
    "hotspots": ("networks", "access", "hotspots"),
})  # fmt: skip
"""What of a club's plan can be followed, each with all the parts of the plan that it stands on."""
USUAL = ("repeaters and networks", "destinations", "routes", "zones and scan lists", "nets")
"""What is followed where nothing else is said."""


class FollowedPlan(msgspec.Struct, frozen=True):
    """The club's file, and its plan as its news were taken last; `plan` is empty before the first time.

    `what` are the choices that are followed.
    """

    path: str
    plan: msgspec.Raw = msgspec.Raw(b"null")
    what: tuple[str, ...] = USUAL
    format: str = FORMAT
    version: int = VERSION

    def taken(self) -> Plan | None:
        """The club's plan as it was last taken; None before the first time."""
        try:
            return parse_plan(bytes(self.plan))
        except PlanFormError:
            return None


def place_of(plan_file: Path) -> Path:
    """Where it is kept what a plan follows."""
    return plan_file.with_name(plan_file.name.removesuffix(SUFFIX) + ".follows.json")


def followed_by(plan_file: Path) -> FollowedPlan | None:
    """What a plan follows; None where it follows nothing, or what is kept of it cannot be read."""
    try:
        found = msgspec.json.decode(read_within(place_of(plan_file), 2 * PLAN_BYTES), type=FollowedPlan)
    except (OSError, msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        return None
    return found if (found.format, found.version) == (FORMAT, VERSION) and found.path else None


def follow(plan_file: Path, club: Path, taken: Plan | None, what: tuple[str, ...] = USUAL) -> None:
    """Follow a club's plan, whose news were taken up to `taken`. Raises StoreError."""
    kept = msgspec.Raw(plan_bytes(taken)) if taken is not None else msgspec.Raw(b"null")
    try:
        write_over(place_of(plan_file), msgspec.json.encode(FollowedPlan(str(club), kept, what)), private=True)
    except OSError as error:
        raise StoreError(f"What is followed cannot be kept beside the plan: {error.strerror or error}.") from None


def unfollow(plan_file: Path) -> None:
    """Follow nothing any more. Raises StoreError."""
    try:
        place_of(plan_file).unlink(missing_ok=True)
    except OSError as error:
        raise StoreError(f"What is followed cannot be taken away: {error.strerror or error}.") from None


def news(followed: FollowedPlan, mine: Plan, club: Plan, answers: Answers | None = None) -> Merged:
    """The club's news as a change of one's own plan, to be reviewed."""
    before = followed.taken()
    return merge(before, mine, offered(followed, mine, club), answers)


def offered(followed: FollowedPlan, mine: Plan, club: Plan) -> Plan:
    """The club's plan as far as it is followed: the rest of it is as it was taken last, or else as in one's own."""
    parts = {part for choice in followed.what for part in CHOICES.get(choice, ())}
    before = followed.taken()
    other = before if before is not None else mine
    held = {name: getattr(club if name in parts else other, name) for name in TYPES}
    return replace(club, **held)
