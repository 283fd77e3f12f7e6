"""Whom one meets with a radio: data features meet among alike radios only, speech wherever both have a mode."""

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from umbra_awl.core.facts.modes import EVERY_MODE, SHORT_WORDS
from umbra_awl.core.fit.needs import ComparedPoint, RadioNeeds, point, unknown
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.privacy import is_person
from umbra_awl.core.radio.profile import Profile


class FriendsRadio(NamedTuple):
    """Somebody's radio: who, as it was told, and its profile; None where it is none that is known here."""

    who: str
    told: str
    profile: Profile | None


def friends_radios(index: PlanIndex, profiles: Iterable[Profile]) -> tuple[FriendsRadio, ...]:
    """The radios of the people of the plan, and those in it that another identity of the station carries."""
    by_name = {name.casefold(): item for item in profiles for name in (item.key, item.name)}
    found = [
        FriendsRadio(person.name, person.radio, by_name.get(person.radio.strip().casefold()))
        for person in index.plan.destinations
        if person.radio and is_person(person)
    ]
    mine = index.plan.station.identities[:1]
    for radio in index.plan.radios:
        identity = index.owners.identity_of(radio)
        if identity is not None and identity not in mine:
            profile = by_name.get(radio.profile.casefold())
            found.append(
                FriendsRadio(identity.name or identity.call, profile.name if profile else radio.profile, profile)
            )
    return tuple(found)


def meets_data(one: Profile, other: Profile) -> bool:
    """Whether texts and pictures go between two radios: they have them, of one kind, in one digital mode."""
    kind = one.extras.data
    shared = set(one.modes) & set(other.modes) - {"fm"}
    return kind != "none" and kind == other.extras.data and bool(shared)


def friend_points(
    index: PlanIndex, profile: Profile, profiles: Iterable[Profile], needs: RadioNeeds
) -> Iterator[ComparedPoint]:
    """How many of the friends a radio meets, with texts and pictures where these are asked for, else by voice."""
    if not needs.like_friends:
        return
    name = "friends"
    told = friends_radios(index, profiles)
    known = [item for item in told if item.profile is not None]
    strange = sorted({item.told for item in told if item.profile is None})
    if not known:
        why = "No radio of a friend is known here. Select somebody on the punch sheet and say which radio they have."
        yield unknown(needs, name, why if not told else f"No profile is called {', '.join(strange)}.")
        return
    by_data = [item.who for item in known if item.profile is not None and meets_data(profile, item.profile)]
    by_voice = [item.who for item in known if item.profile is not None and set(profile.modes) & set(item.profile.modes)]
    met = by_data if needs.data else by_voice
    how = "with texts and pictures" if needs.data else "by voice"
    who = f": {', '.join(met)}" if met else ""
    more = "" if not needs.data else f", {len(by_voice)} by voice"
    left = f" Not known: {', '.join(strange)}." if strange else ""
    modes = " and ".join(
        SHORT_WORDS[mode]
        for mode in EVERY_MODE
        if mode in profile.modes and any(item.profile is not None and mode in item.profile.modes for item in known)
    )
    shared = f" Modes in common: {modes}." if modes and not needs.data else ""
    yield point(
        needs, name, len(met) / len(known), f"It meets {len(met)} of {len(known)} {how}{who}{more}.{shared}{left}"
    )
