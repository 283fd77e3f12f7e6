"""Which variant of its firmware a radio should have for its people, what that costs, and the steps on the way there."""

from collections.abc import Iterator
from typing import Literal, NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import Firmware, LoadingWay

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
        told = f"“{now.name}” is in it and holds {counted(now.people, 'person', 'people')}; {people:,} are chosen."
        return Wanted(now, now, told, change=False)
    wanted = next(
        (item for item in sorted(profile.firmware, key=lambda item: item.people) if item.people >= people), None
    )
    if wanted is None or now is None:
        return Wanted(
            now,
            None,
            f"No firmware of a {profile.name} holds {counted(people, 'person', 'people')}. Choose fewer.",
            change=False,
        )
    lost = f" It costs the {now.extra}." if now.extra and now.extra != wanted.extra else ""
    return Wanted(
        now,
        wanted,
        f"“{now.name}” is in it and holds {counted(now.people, 'person', 'people')}; {people:,} are chosen. "
        f"“{wanted.name}” holds them.{lost}",
        change=True,
    )


def load_steps(profile: Profile, now: Firmware | None = None, hardware: str = "") -> tuple[LoadStep, ...]:
    """The way to another firmware from the one in it; none for a radio whose way is not described.

    `hardware` is the mark of its make, as its owner told it.
    """
    way = profile.loading
    if way is None:
        return ()
    return (
        LoadStep("here", "Read it and keep a backup", "Memory and people may be gone afterwards."),
        *_before(way, now, hardware),
        LoadStep(
            "you", "Charge it, or leave it on its charger", "Never on a low battery: it must not go off while loading."
        ),
        LoadStep("you", "Switch it off", "The display is dark."),
        LoadStep("you", f"Hold {' and '.join(way.keys)}, and switch it on", f"Loading state: {way.light}."),
        LoadStep("here", "Load the file", "Leave the cable in. Broken off, it comes back through these same steps."),
        *_second(way),
        LoadStep("you", "Switch it off and on", way.after),
        LoadStep("here", "Write the memory, then the people", "From the backup, or from the plan."),
    )


def _before(way: LoadingWay, now: Firmware | None, hardware: str) -> Iterator[LoadStep]:
    """What is looked at before anything is loaded: the old file, the small print, the make."""
    old = f"“{now.name}”" if now is not None else "what is in it"
    yield LoadStep("you", f"Keep the file of {old} too", "It is the way back when the new one disappoints.")
    if way.small_print:
        yield LoadStep(
            "you", "Read the small print beside the file", "A password, or a second file, often stands there only."
        )
    if way.hardware:
        marks = " or ".join(way.hardware)
        seen = (
            f"Yours is {hardware}: the file must say the same." if hardware else f"{marks}: the file must say the same."
        )
        yield LoadStep("you", f"Look at its mark, {way.label}" if way.label else "Look at its mark", seen)


def _second(way: LoadingWay) -> Iterator[LoadStep]:
    if way.second:
        yield LoadStep(
            "here", f"Load the second file, {way.second}", "In loading state too; without it something stays mute."
        )


def firmware_choices(radio: OwnedRadio, profile: Profile) -> Iterator[tuple[str, str, dict[str, str], str]]:
    """What is said of a radio's firmware: label, field of the owned radio, its choices in words, and the present one."""
    if len(profile.firmware) > 1:
        now = profile.variant(radio.firmware)
        told = {item.key: _variant_words(item) for item in profile.firmware}
        yield "Firmware", "firmware", told, now.key if now is not None else ""
    if profile.loading is not None and profile.loading.hardware:
        makes = {"": "not looked at yet"} | {item: item for item in profile.loading.hardware}
        yield "Make", "hardware", makes, radio.hardware


def _variant_words(item: Firmware) -> str:
    return f"{item.name}: {counted(item.people, 'person', 'people')}{f', {item.extra}' if item.extra else ''}"


def updates_words(habit: str, looked: str) -> str:
    """What is said of updates by what the operator keeps to; `looked` is the day (ISO) of the last look, empty for none."""
    since = f"Looked for a newer one on {looked}." if looked else "Nobody looked for a newer one yet."
    if habit == "first":
        return f"You chose newest first. {since}"
    if habit == "needed":
        return "You chose never without need: leave it, unless people or a fault ask for another."
    return since if looked else ""
