"""The key sheet of a radio whose keys were learnt by doing: each memory by itself, with all that the lessons showed."""

from umbra_awl.core.lessons.parts import FIELD_WORDS
from umbra_awl.core.lessons.replay import begin_of, fields_set, steps_of_memory
from umbra_awl.core.lessons.values import memory_values
from umbra_awl.core.paper.beyond import beyond_fields
from umbra_awl.core.paper.keys import KeyStep
from umbra_awl.core.paper.taps import CannotTypeError
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile

_OPEN = ("width", "power", "slot", "admit")
"""What a memory has in any case, and the radio keeps as it was where no lesson sets it."""


def taught_steps(channel: Channel, memory: Memory, profile: Profile) -> tuple[KeyStep, ...]:
    """The steps that enter one memory, with what stays as the radio has it. Raises CannotTypeError."""
    taught = profile.taught
    if taught is None:
        raise CannotTypeError(f"The keys of {profile.name} were not taught.")
    there = fields_set(taught, channel.mode)
    beyond = beyond_fields(channel, profile, known_by_beyond(there))
    if beyond:
        raise CannotTypeError(beyond)
    values = memory_values(channel, memory, profile)
    if values.text("call_kind") == "private" and "call_kind" not in there:
        raise CannotTypeError(
            "It calls one person, and no lesson showed how that is set: it might call a group of that number."
        )
    steps = steps_of_memory(taught, channel.mode, values)
    left = [FIELD_WORDS[field] for field in _OPEN if values.text(field) and field not in there]
    if not left:
        return steps
    note = KeyStep("left", "As the radio has it", "", (), f"No lesson sets {', '.join(left)}: look before you save.")
    at = next((place for place, step in enumerate(steps) if step.saves), len(steps))
    return (*steps[:at], note, *steps[at:])


def known_by_beyond(there: frozenset[str]) -> frozenset[str]:
    """Fields of lessons by the names that menus have for them."""
    made = set(there)
    if there & {"tone", "tone_tx"}:
        made.add("tone_tx")
    return frozenset(made)


def taught_begin(profile: Profile) -> tuple[KeyStep, ...]:
    """The steps before the first memory."""
    return begin_of(profile.taught) if profile.taught is not None else ()
