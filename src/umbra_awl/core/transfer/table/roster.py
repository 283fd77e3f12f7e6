"""The list of a table day: every radio of the plan as a seat, which single radio was written for it, kept beside the plan."""

from pathlib import Path
from typing import Literal, NamedTuple

import msgspec

from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.keep.limits import MB, read_within
from umbra_awl.core.plan.disk.saves import SUFFIX
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.transfer.errors import ShelfError

FORMAT = "umbra-awl table"
VERSION = 1
SeatState = Literal["waiting", "done", "again"]


class Done(msgspec.Struct, frozen=True, omit_defaults=True):
    """A seat that is done: the plan's radio, which single radio, when, the print of the memory it was proven to hold."""

    radio: str
    unit: str = ""
    at: str = ""
    holds: str = ""


class Roster(msgspec.Struct, frozen=True, omit_defaults=True):
    """What has been done at a table, in order."""

    done: tuple[Done, ...] = ()
    format: str = FORMAT
    version: int = VERSION

    def of(self, radio: str) -> Done | None:
        """What was done last for a radio of the plan."""
        return next((item for item in reversed(self.done) if item.radio == radio), None)

    def whose(self, unit: str) -> str:
        """The radio of the plan that a single radio was written for last; empty where it was not, or cannot be told."""
        return next((item.radio for item in reversed(self.done) if unit and item.unit == unit), "")

    def with_done(self, done: Done) -> "Roster":
        """The roster with one more seat done; a single radio sits at one seat only."""
        kept = tuple(
            item for item in self.done if item.radio != done.radio and not (done.unit and item.unit == done.unit)
        )
        return Roster((*kept, done))


class Seat(NamedTuple):
    """A place at the table: the plan's radio, its name, whose call sign, its profile, how it stands."""

    radio: str
    name: str
    call: str
    profile: str
    state: SeatState
    at: str = ""


def seats(index: PlanIndex, roster: Roster, holds: dict[str, str]) -> tuple[Seat, ...]:
    """The seats in the plan's order; one whose radio holds another memory than is meant now (`holds`, by key) is due again."""
    found: list[Seat] = []
    for radio in index.plan.radios:
        identity, done = index.owners.identity_of(radio), roster.of(radio.key)
        state: SeatState = "waiting" if done is None else "done"
        if done is not None and holds.get(radio.key, done.holds) != done.holds:
            state = "again"
        call = (identity.call or identity.name) if identity is not None else ""
        found.append(Seat(radio.key, radio.name, call, radio.profile, state, done.at if done is not None else ""))
    return tuple(found)


def roster_file(plan_file: Path) -> Path:
    """Where the list of a plan's table lies: beside the plan."""
    return plan_file.with_name(plan_file.name.removesuffix(SUFFIX) + ".table.json")


def read_roster(path: Path) -> Roster:
    """The list in a file; an empty one where there is none, or a damaged one (which is kept aside under another name)."""
    try:
        found = msgspec.json.decode(read_within(path, 4 * MB), type=Roster)
    except FileNotFoundError:
        return Roster()
    except (OSError, ValueError, RecursionError, msgspec.DecodeError):
        _set_aside(path)
        return Roster()
    return found if found.format == FORMAT and found.version == VERSION else Roster()


def _set_aside(path: Path) -> None:
    try:
        path.rename(path.with_name(path.name + ".damaged"))
    except OSError:
        return


def write_roster(path: Path, roster: Roster) -> None:
    """Keep a list durably. Raises ShelfError."""
    try:
        write_over(path, msgspec.json.format(msgspec.json.encode(roster), indent=1) + b"\n", private=True)
    except OSError as error:
        raise ShelfError(
            f"The table's list cannot be kept: {error.strerror}. The radio is written all the same."
        ) from None
