"""The club's plan that a plan follows: where it lies, and what it was when its news were taken last. A file beside the plan."""

from pathlib import Path

import msgspec

from umbra_awl.core.hands.merge import Answers, Merged, merge
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.keep.limits import PLAN_BYTES, read_within
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.file_form import PlanFormError, parse_plan, plan_bytes
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.saves import SUFFIX

FORMAT, VERSION = "umbra-awl followed plan", 1


class Followed(msgspec.Struct, frozen=True):
    """The club's file, and its plan as its news were taken last; `plan` is empty before the first time."""

    path: str
    plan: msgspec.Raw = msgspec.Raw(b"null")
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


def followed_by(plan_file: Path) -> Followed | None:
    """What a plan follows; None where it follows nothing, or what is kept of it cannot be read."""
    try:
        found = msgspec.json.decode(read_within(place_of(plan_file), 2 * PLAN_BYTES), type=Followed)
    except (OSError, msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        return None
    return found if (found.format, found.version) == (FORMAT, VERSION) and found.path else None


def follow(plan_file: Path, club: Path, taken: Plan | None) -> None:
    """Follow a club's plan, whose news were taken up to `taken`. Raises StoreError."""
    kept = msgspec.Raw(plan_bytes(taken)) if taken is not None else msgspec.Raw(b"null")
    try:
        write_over(place_of(plan_file), msgspec.json.encode(Followed(str(club), kept)), private=True)
    except OSError as error:
        raise StoreError(f"What is followed cannot be kept beside the plan: {error.strerror or error}.") from None


def unfollow(plan_file: Path) -> None:
    """Follow nothing any more. Raises StoreError."""
    try:
        place_of(plan_file).unlink(missing_ok=True)
    except OSError as error:
        raise StoreError(f"What is followed cannot be taken away: {error.strerror or error}.") from None


def news(followed: Followed, mine: Plan, club: Plan, answers: Answers | None = None) -> Merged:
    """The club's news as a change of one's own plan, to be reviewed."""
    return merge(followed.taken(), mine, club, answers)
