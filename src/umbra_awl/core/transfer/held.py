"""Which radios were found to hold what the plan says now: from what is kept beside their backups."""

from collections.abc import Mapping
from pathlib import Path

from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.keep.naming import path_name
from umbra_awl.core.plan.disk.saves import SUFFIX
from umbra_awl.core.plan.known import PeopleKnown
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.transfer.people.mark import people_mark, rule_of
from umbra_awl.core.transfer.shelf import Shelf, print_of


def shelves_of(plan_file: Path) -> Path:
    """The folder of all backups of a plan's radios, beside the plan."""
    return plan_file.with_name(plan_file.name.removesuffix(SUFFIX) + ".backups")


def shelf_of(plan_file: Path, radio: str) -> Shelf:
    """The shelf of one radio, by its key."""
    return Shelf(shelves_of(plan_file) / path_name(radio, "radio"))


def proved(plan_file: Path, fits: Mapping[str, Fit]) -> frozenset[str]:
    """The keys of the radios that were read, after writing or otherwise, and found to hold the memory that is fitted now.

    A radio to which a write began and was not proven holds nothing that is known.
    """
    if not shelves_of(plan_file).is_dir():
        return frozenset()
    return frozenset(key for key, fit in fits.items() if _holds(shelf_of(plan_file, key), fit))


def people_known(plan_file: Path, plan: Plan, listed: str) -> dict[str, PeopleKnown]:
    """What is known of the people in each radio that people are chosen for; `listed` is the day of the directory's list."""
    found: dict[str, PeopleKnown] = {}
    for radio in plan.radios:
        rule = rule_of(radio)
        if rule:
            mark = people_mark(shelf_of(plan_file, radio.key))
            found[radio.key] = PeopleKnown(mark.rows, mark.rule == rule, mark.listed, listed)
    return found


def _holds(shelf: Shelf, fit: Fit) -> bool:
    print_kept = shelf.known().holds
    return bool(print_kept) and shelf.unfinished() is None and print_kept == print_of(fit.memory)
