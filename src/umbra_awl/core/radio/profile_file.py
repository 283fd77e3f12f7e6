"""Profiles as TOML files: reading with clear errors, writing, the ones that ship, the operator's own."""

from collections.abc import Iterable
from functools import cache
from pathlib import Path
from typing import Any

import msgspec

from umbra_awl.core.facts.late_pattern import LatePattern
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.keep.toml_form import from_toml, text_of, to_toml
from umbra_awl.core.radio.profile import FORMAT, VERSION, Profile
from umbra_awl.core.radio.profile_check import profile_faults
from umbra_awl.core.radio.taken_over import confirmed_only

SHIPPED = Path(__file__).parent / "profiles"


class ProfileError(ValueError):
    """A profile that cannot be used; the message names the file, the field and what belongs there."""


def parse_profile(text: str, source: str = "the profile") -> Profile:
    """The profile in a TOML text. Raises ProfileError."""
    profile = _parsed(text, source)
    faults = profile_faults(profile)
    if faults:
        raise ProfileError(f"{source} cannot be used. {faults[0].text}")
    return profile


_OLDER = LatePattern(r"\brecording_h\s*=\s*([\d.]+)")
"""Profiles written before a firmware could have any other extra tell its hours of recording."""


def _parsed(text: str, source: str) -> Profile:
    text = _OLDER.sub(r'extra = "\1 h of recording"', text)
    return from_toml(text, Profile, (FORMAT, VERSION), source, ProfileError, _plainly)


def _plainly(detail: str) -> str:
    text, _, where = detail.partition(" - at ")
    place = where.strip("`").removeprefix("$").lstrip(".")
    if "missing required field" in text:
        field = text.split("`")[1]
        return f"The value “{field}” is missing{f' under [{place}]' if place else ''}. Add it; a shipped profile shows how."
    return f"{text}{f' at {place}' if place else ''}."


@cache
def shipped_profiles() -> dict[str, Profile]:
    """The profiles that come with the application, by key, in the order of their file names."""
    profiles = [parse_profile(path.read_text("utf-8"), path.name) for path in sorted(SHIPPED.glob("*.toml"))]
    return {profile.key: profile for profile in profiles}


def shipped_of(keys: Iterable[str]) -> dict[str, Profile]:
    """Those of the shipped profiles that have one of these keys; the others are not even read: a file is named after its key."""
    paths = {path.stem.partition("-")[2]: path for path in SHIPPED.glob("*.toml")}
    wanted = {key: paths[key] for key in keys if key in paths}
    return {key: parse_profile(path.read_text("utf-8"), path.name) for key, path in wanted.items()}


def read_profile(path: Path) -> Profile:
    """The profile in a file. Raises ProfileError."""
    return parse_profile(_text(path), f"“{path.name}”")


def read_unchecked(path: Path) -> Profile:
    """The profile in a file, even where it contradicts itself. Raises ProfileError."""
    return _parsed(_text(path), f"“{path.name}”")


def _text(path: Path) -> str:
    try:
        return text_of(path)
    except (OSError, UnicodeDecodeError) as error:
        raise ProfileError(f"“{path.name}” cannot be read: {plain_reason(error)}.") from None


def own_profiles(folder: Path) -> tuple[dict[str, Profile], list[str]]:
    """The operator's own profiles in a folder by key, and a sentence for each file that cannot be used."""
    found: dict[str, Profile] = {}
    faults: list[str] = []
    for path in sorted(folder.glob("*.toml")):
        try:
            profile = read_profile(path)
        except ProfileError as error:
            faults.append(str(error))
            continue
        similar = shipped_of((profile.own_of,)).get(profile.own_of) if profile.own_of else None
        found[profile.key] = confirmed_only(profile, similar) if similar is not None else profile
    return found, faults


def profile_text(profile: Profile) -> str:
    """A profile as TOML; reading it gives the same value back."""
    return to_toml(profile, (FORMAT, VERSION))


def save_profile(profile: Profile, path: Path) -> None:
    """Write a profile as a file. Raises ProfileError when it contradicts itself or the file cannot be written."""
    faults = profile_faults(profile)
    if faults:
        raise ProfileError(f"The profile is not kept. {faults[0].text}")
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        write_over(path, profile_text(profile).encode())
    except OSError as error:
        raise ProfileError(f"The profile cannot be written: {error.strerror or error}.") from None


def free_profile_key(wanted: str, taken: Iterable[str]) -> str:
    """A key of letters, digits and hyphens that no other profile has."""
    base = "-".join("".join(char if char.isalnum() else " " for char in wanted.lower()).split()) or "own"
    used, key, number = set(taken), base, 2
    while key in used:
        key, number = f"{base}-{number}", number + 1
    return key


def profile_schema() -> dict[str, Any]:
    """The JSON Schema of a profile, for editors that check TOML."""
    described = msgspec.json.schema(Profile)
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Umbra Awl radio profile", **described}
