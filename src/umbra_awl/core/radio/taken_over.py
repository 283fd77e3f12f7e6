"""What a profile of one's own may take over from a similar radio, part by part: nothing counts until somebody says so.

Keys, menus and settings of another radio printed as one's own lead to wrong presses, and what is sent by them to wrong settings.
So a part is absent until it is confirmed, or described otherwise.
"""

from typing import Any, NamedTuple

from msgspec.structs import replace

from umbra_awl.core.radio.body import RadioBuild
from umbra_awl.core.radio.profile import Extras, Profile, WayIn


class RadioPart(NamedTuple):
    """A part of a profile: its name as it is confirmed, in words, what needs it, and the fields that go together."""

    field: str
    words: str
    needed: str
    fields: tuple[str, ...]

    def told(self, profile: Profile) -> bool:
        """Whether anything of it is known."""
        return any(getattr(profile, name) != _NOTHING[name] for name in self.fields)


def _part(field: str, words: str, needed: str, *more: str) -> RadioPart:
    return RadioPart(field, words, needed, (field, *more))


PARTS: tuple[RadioPart, ...] = (
    _part("keypad", "Keys and menus", "key sheets and practice on the keypad", "taught"),
    _part("extras", "Settings of the whole radio", "time-outs, keys of its own, texts, data and position", "options"),
    _part("apps", "Phone apps", "what goes in by a phone, and which phone serves it"),
    _part(
        "firmware", "Firmware and people", "its list of people, and the steps of loading firmware", "people", "loading"
    ),
    _part("battery", "Battery", "hours of use"),
    _part("build", "How it is built", "choosing a radio, and which antenna fits it"),
    _part("free_tuning", "Free tuning", "how it is kept from sending beside its memories"),
)
_BY_FIELD = {part.field: part for part in PARTS}
_WAYS: dict[str, WayIn] = {"keypad": "keypad", "apps": "app"}
_NOTHING: dict[str, Any] = {
    "keypad": None, "taught": None, "extras": Extras(), "options": (), "apps": (), "people": None, "firmware": (),
    "loading": None, "battery": None, "free_tuning": None, "build": RadioBuild(),
}  # fmt: skip


def without_parts(profile: Profile) -> Profile:
    """A profile without any part that has to be confirmed, and without the ways in that stand on one."""
    ways = tuple(way for way in profile.ways_in if way not in _WAYS.values())
    bare: Profile = replace(profile, **_NOTHING, ways_in=ways, confirmed=())
    return bare


def missing_parts(profile: Profile) -> tuple[RadioPart, ...]:
    """The parts of which nothing is known yet, in their order."""
    return tuple(part for part in PARTS if not part.told(profile))


def offered_parts(profile: Profile, similar: Profile) -> tuple[RadioPart, ...]:
    """The missing parts that the similar radio has, so that one can say that they are the same."""
    return tuple(part for part in missing_parts(profile) if part.told(similar))


def take_part(profile: Profile, similar: Profile, field: str) -> Profile:
    """A profile with a part of the similar radio, confirmed to be the same. Raises KeyError for what is no part."""
    way = _WAYS.get(field)
    ways = (*profile.ways_in, way) if way is not None and way not in profile.ways_in else profile.ways_in
    values = {name: getattr(similar, name) for name in _BY_FIELD[field].fields}
    if similar.free_tuning is not None and field == "free_tuning":
        values["free_tuning"] = replace(similar.free_tuning, by_cable=False)
    made: Profile = replace(profile, **values, ways_in=ways, confirmed=(*profile.confirmed, field))
    return made


def drop_part(profile: Profile, field: str) -> Profile:
    """A profile of which a part is not told any more. Raises KeyError for what is no part."""
    ways = tuple(way for way in profile.ways_in if way != _WAYS.get(field)) or ("file",)
    kept = tuple(item for item in profile.confirmed if item != field)
    values = {name: _NOTHING[name] for name in _BY_FIELD[field].fields}
    made: Profile = replace(profile, **values, ways_in=ways, confirmed=kept)
    return made


def confirmed_only(profile: Profile, similar: Profile) -> Profile:
    """A profile of one's own without the parts that are simply the similar radio's, unless they were confirmed."""
    for part in PARTS:
        same = all(getattr(profile, name) == getattr(similar, name) for name in part.fields)
        if part.field not in profile.confirmed and part.told(profile) and same:
            profile = drop_part(profile, part.field)
    return profile
