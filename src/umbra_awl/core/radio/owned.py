"""New radios of a profile, with names and keys of their own."""

from itertools import count, islice

from umbra_awl.core.plan.edit.edits import fresh_key
from umbra_awl.core.plan.model import OwnedRadio, Plan
from umbra_awl.core.radio.profile import Profile


def new_radios(plan: Plan, profile: Profile, identity: str = "", number: int = 1) -> tuple[OwnedRadio, ...]:
    """So many radios of one profile for a person of the plan (by key; empty or unknown: the owner), as they would be added.

    Those of somebody else carry their call sign in the name; a name that is taken gets a number.
    """
    people = plan.station.identities
    person = next((item for item in people[1:] if item.key == identity), None)
    lead = f"{profile.name} {person.call or person.name}".strip() if person is not None else profile.name
    taken = {radio.name for radio in plan.radios}
    free = (name for at in count(1) if (name := lead if at == 1 else f"{lead} ({at})") not in taken)
    keys = {radio.key for radio in plan.radios}
    made: list[OwnedRadio] = []
    for name in islice(free, number):
        key = fresh_key(profile.key, keys)
        keys.add(key)
        made.append(OwnedRadio(key, name, profile.key, person.key if person is not None else ""))
    return tuple(made)
