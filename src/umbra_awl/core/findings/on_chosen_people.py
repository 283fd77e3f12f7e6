"""Rules on the people chosen for a radio: a separate write that is forgotten, and a list that grows old."""

from collections.abc import Iterator, Mapping

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.findings.model import Finding, Rule, Target
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.known import Known, PeopleKnown
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.profile import Profile

NOT_WRITTEN = Rule(
    "people-not-written",
    "warn",
    "Contacts chosen, not in the radio",
    "The people list is a separate write that takes minutes; the memory goes without it. Until it is written the radio shows "
    "numbers in place of call signs.",
)
OLD = Rule(
    "people-old",
    "note",
    "People in the radio are older than the directory's",
    "New stations register every day. Those who came since show as numbers; nothing else is wrong.",
)


def check_chosen_people(index: PlanIndex, profiles: Mapping[str, Profile], known: Known) -> Iterator[Finding]:
    """All findings on people that were chosen for radios which keep a people list."""
    for radio in index.plan.radios:
        about = known.people.get(radio.key)
        profile = profiles.get(radio.profile)
        if about is not None and profile is not None and profile.people is not None:
            yield from _check(radio, about)


def _check(radio: OwnedRadio, about: PeopleKnown) -> Iterator[Finding]:
    target = Target("radio", radio.key)
    if not about.rows:
        text = f"People are chosen for {radio.name} and were never written into it. Write them at Transfer, People."
        yield Finding(NOT_WRITTEN, target, text)
    elif not about.same_choice:
        many = counted(about.rows, "person", "people")
        text = f"{radio.name} holds {many} of an earlier choice. Write them again at Transfer, People."
        yield Finding(NOT_WRITTEN, target, text)
    elif about.listed and about.written < about.listed:
        text = f"{radio.name} holds people of {about.written or 'an unknown day'}; the directory's list is of {about.listed}."
        yield Finding(OLD, target, text)
