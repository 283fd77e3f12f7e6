"""Which variant of its firmware a radio should have for its people, what that costs, and the steps on the way there."""

from typing import Literal, NamedTuple

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import Firmware

Hands = Literal["you", "here", "radio"]


class Wanted(NamedTuple):
    """The variant in the radio, the one wanted, and what is lost and gained, as a sentence; `change` whether they differ."""

    now: Firmware | None
    wanted: Firmware | None
    text: str
    change: bool


class LoadStep(NamedTuple):
    """A step on the way: whose hands, what is done, what one sees."""

    hands: Hands
    title: str
    sees: str


def wanted_variant(profile: Profile, inside: str, chosen: str, people: int) -> Wanted:
    """The variant for so many people. `inside` is the name that the radio tells, `chosen` the key that the plan says it runs."""
    if not profile.firmware:
        return Wanted(None, None, f"A {profile.name} has one firmware only.", change=False)
    now = next((item for item in profile.firmware if item.name == inside), profile.variant(chosen))
    if now is not None and people <= now.people:
        told = f"“{now.name}” is in it and holds {now.people:,} people; {people:,} are chosen."
        return Wanted(now, now, told, change=False)
    wanted = next(
        (item for item in sorted(profile.firmware, key=lambda item: item.people) if item.people >= people), None
    )
    if wanted is None or now is None:
        return Wanted(
            now, None, f"No firmware of a {profile.name} holds {people:,} people. Choose fewer.", change=False
        )
    lost = f" It costs the {now.extra}." if now.extra and now.extra != wanted.extra else ""
    return Wanted(
        now,
        wanted,
        f"“{now.name}” is in it and holds {now.people:,} people; {people:,} are chosen. “{wanted.name}” holds them.{lost}",
        change=True,
    )


def load_steps(profile: Profile) -> tuple[LoadStep, ...]:
    """The way to another firmware; none for a radio whose way is not described."""
    way = profile.loading
    if way is None:
        return ()
    return (
        LoadStep("here", "Read it and keep a backup", "Memory and people may be gone afterwards."),
        LoadStep(
            "you", "Charge it, or leave it on its charger", "Never on a low battery: it must not go off while loading."
        ),
        LoadStep("you", "Switch it off", "The display is dark."),
        LoadStep("you", f"Hold {' and '.join(way.keys)}, and switch it on", f"Loading state: {way.light}."),
        LoadStep("here", "Load the file", "Leave the cable in. Broken off, it comes back through these same steps."),
        LoadStep("you", "Switch it off and on", way.after),
        LoadStep("here", "Write the memory, then the people", "From the backup, or from the plan."),
    )
