"""A part of a club pack as it is taken here: what it holds, in words, and under which key a radio profile is kept."""

from collections.abc import Mapping
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.agenda.steps import parse_template
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.hands.kinds import parse_band_plan
from umbra_awl.core.hands.pack import PackPart
from umbra_awl.core.hotspot.logs.rules import parse_rules
from umbra_awl.core.plan.disk.file_form import parse_plan
from umbra_awl.core.plan.parts import PARTS
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.profile_file import free_profile_key, parse_profile, profile_text

_LINES, _LETTERS = 8, 600


def holds(part: PackPart) -> str:
    """What a part holds: counted or named where that can be said, else how its text begins."""
    made = _WORDS.get(part.kind)
    told = made(part.text) if made is not None else "\n".join(part.text.splitlines()[:_LINES])
    return told if len(told) <= _LETTERS else f"{told[: _LETTERS - 2]} …"


def _plan(text: str) -> str:
    plan = parse_plan(text.encode())
    found = [(kind.word, len(kind.of(plan))) for kind in PARTS.values()]
    return f"It holds {', '.join(counted(count, word) for word, count in found if count) or 'nothing yet'}."


def _profile(text: str) -> str:
    profile = parse_profile(text)
    return f"{profile.summary}\nModes: {', '.join(profile.modes)}. Ways in: {', '.join(profile.ways_in)}."


def _steps(text: str) -> str:
    template = parse_template(text)
    return f"{template.summary}\nSteps: {', '.join(step.name for step in template.steps)}."


def _rules(text: str) -> str:
    return "\n".join(f"{rule.key}: {rule.means}" for rule in parse_rules(text).rule)


def _bands(text: str) -> str:
    made = parse_band_plan(text)
    uses = [f"{format_mhz(use.low_hz)} to {format_mhz(use.high_hz)} MHz {use.kind}" for use in made.uses]
    edges = [f"{band.name} {format_mhz(band.low_hz)} to {format_mhz(band.high_hz)} MHz" for band in made.bands]
    return ", ".join([*edges, *uses])


_WORDS = {"plan": _plan, "profile": _profile, "steps": _steps, "rules": _rules, "band-plan": _bands}


class KeptGuard(NamedTuple):
    """The text under which a part is kept, and what is to be said about that; an empty text where the very same is here."""

    text: str
    words: str = ""


def as_kept(part: PackPart, profiles: Mapping[str, Profile]) -> KeptGuard:
    """How a part is kept beside the profiles that are here: a radio profile whose key another one has gets a key of its own."""
    if part.kind != "profile":
        return KeptGuard(part.text)
    profile = parse_profile(part.text)
    here = profiles.get(profile.key)
    if here is None:
        return KeptGuard(part.text)
    alike = [item for item in profiles.values() if replace(item, key=profile.key, name=profile.name) == profile]
    if alike:
        return KeptGuard("", f"The profile “{alike[0].name}” here is the very same.")
    key = free_profile_key(profile.key, profiles)
    name = profile.name if profile.name != here.name else f"{profile.name} (pack)"
    return KeptGuard(
        profile_text(replace(profile, key=key, name=name)),
        f"Another profile here has the key “{profile.key}”, so this one is called “{name}”, with the key “{key}”.",
    )
