"""Which kind of radio a memory is likeliest of: what it holds is held against what each profile can hold."""

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.radio.display import lost_characters
from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.radio.profile import Profile


class Likely(NamedTuple):
    """A profile, and what of the memory it could not hold, as sentences; none where it holds all."""

    profile: Profile
    misses: tuple[str, ...]


def likeliest(memory: Memory, profiles: Iterable[Profile]) -> list[Likely]:
    """The profiles, likeliest first: those that hold all of it, the tightest first; then those that hold most of it.

    Somebody who filled 16 channels a zone with names of ten capitals has a radio that takes no more.
    """
    found = [Likely(profile, tuple(_misses(memory, profile))) for profile in profiles]
    return sorted(found, key=lambda item: (_left_out(memory, item.profile), len(item.misses), _room(item.profile)))


def _left_out(memory: Memory, profile: Profile) -> int:
    """How many channels a radio could not have at all."""
    return sum(channel.mode not in profile.modes or not profile.receives(channel.rx_hz) for channel in memory.channels)


def _room(profile: Profile) -> tuple[int, int]:
    return profile.limits.channels, profile.display.length


def _misses(memory: Memory, profile: Profile) -> Iterator[str]:
    out = _left_out(memory, profile)
    if out:
        yield f"{out} of {counted(len(memory.channels), 'channel')} have a mode or a frequency that it does not have."
    limits = profile.limits
    longest = max((len(item.members) for item in memory.zones), default=0)
    for count, most, words in (
        (len(memory.channels), limits.channels, "channels"),
        (len(memory.zones), limits.zones, "zones"),
        (longest, limits.zone_channels, "channels in one zone"),
        (len(memory.contacts), limits.contacts, "contacts"),
    ):
        if count > most:
            yield f"It takes {most:,} {words}; there are {count:,}."
    names = [channel.name for channel in memory.channels]
    length = max(map(len, names), default=0)
    if length > profile.display.length:
        yield f"Its names have {profile.display.length} characters; there are some of {length}."
    if any(lost_characters(name, profile.display.rules) for name in names):
        yield "Its display lacks some of the characters in the names."
    if profile.display.upper and any(name != name.upper() for name in names):
        yield "It shows capitals only; there are names in small letters."
