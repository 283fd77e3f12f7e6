"""What a club pack may hold: kinds of parts, how each is checked before it is taken, and where it is kept.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

from collections.abc import Callable, Mapping
from types import MappingProxyType
from typing import NamedTuple

import msgspec

from umbra_awl.core.facts.bands import BANDS, Band
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.keep.limits import MB
from umbra_awl.core.keep.toml_form import from_toml, to_toml
from umbra_awl.core.plan.hotspots import Use

BAND_PLAN_FORMAT = "umbra-awl band plan"


class Kind(NamedTuple):
    """A kind of part: its words, its folder in the pack and among one's own files, its ending, and how large it may be.

    `check` gives the name of what is in a text, and raises ValueError with a sentence for one that cannot be used.
    """

    words: str
    folder: str
    ending: str
    most: int
    check: Callable[[str, str], str]


class BandPlan(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """What the bands are for, and their edges, as a club has them."""

    name: str
    uses: tuple[Use, ...] = ()
    bands: tuple[Band, ...] = ()
    format: str = BAND_PLAN_FORMAT
    version: int = 1


_WIDEST_SHARE = 0.15
"""No amateur band is wider than this share of its upper edge."""


def _may_be(band: Band) -> bool:
    """Whether these can be a band's edges: inside those of some region where its name is known, else no wider than any is."""
    known = [item for row in BANDS.values() for item in row if item.name == band.name]
    if known:
        return any(item.low_hz <= band.low_hz and band.high_hz <= item.high_hz for item in known)
    return band.high_hz - band.low_hz <= _WIDEST_SHARE * band.high_hz


def band_plan_text(plan: BandPlan) -> str:
    """A band plan as TOML."""
    return to_toml(plan, (BAND_PLAN_FORMAT, 1))


def parse_band_plan(text: str, source: str = "The band plan") -> BandPlan:
    """The band plan in a TOML text. Raises ValueError."""
    made = from_toml(text, BandPlan, (BAND_PLAN_FORMAT, 1), source, ValueError)
    edges = [(item.low_hz, item.high_hz) for item in made.uses] + [(item.low_hz, item.high_hz) for item in made.bands]
    if any(not 0 < low < high for low, high in edges):
        raise ValueError(f"{source} has a stretch that ends before it begins.")
    wide = next((item for item in made.bands if not _may_be(item)), None)
    if wide is not None:
        edges_told = f"{format_mhz(wide.low_hz)} to {format_mhz(wide.high_hz)} MHz"
        raise ValueError(f"{source} has {wide.name[:20]} from {edges_told}, which is no amateur band of any region.")
    return made


def _plan(text: str, source: str) -> str:
    from umbra_awl.core.plan.disk.file_form import PlanFormError, parse_plan

    try:
        return parse_plan(text.encode()).name
    except PlanFormError as error:
        raise ValueError(f"{source}: {error}") from None


def _profile(text: str, source: str) -> str:
    from umbra_awl.core.radio.profile_file import parse_profile

    return parse_profile(text, source).name


def _columns(text: str, source: str) -> str:
    from umbra_awl.core.columns.layout import parse_layout

    return parse_layout(text, source).name


def _layout(text: str, source: str) -> str:
    from umbra_awl.core.directory.lists.layout import parse_layout

    return parse_layout(text, source).name


def _settings(text: str, source: str) -> str:
    from umbra_awl.core.hotspot.match.layout import parse_layout

    return parse_layout(text, source).name


def _rules(text: str, source: str) -> str:
    from umbra_awl.core.hotspot.logs.rules import parse_rules

    return f"{len(parse_rules(text, source).rule)} rules"


def _steps(text: str, source: str) -> str:
    from umbra_awl.core.agenda.steps import parse_template

    return parse_template(text, source).name


def _band_plan(text: str, source: str) -> str:
    return parse_band_plan(text, source).name


_SMALL = 256_000
KINDS: Mapping[str, Kind] = MappingProxyType({
    "plan": Kind("base plan", "plan", ".awl.json", 16 * MB, _plan),
    "profile": Kind("radio profile", "profiles", ".toml", _SMALL, _profile),
    "columns": Kind("layout of radios' files", "columns", ".toml", _SMALL, _columns),
    "layout": Kind("layout of a directory", "layouts", ".toml", _SMALL, _layout),
    "settings": Kind("layout of a hotspot's settings", "settings", ".toml", _SMALL, _settings),
    "rules": Kind("rules for hotspots' logs", "rules", ".toml", _SMALL, _rules),
    "steps": Kind("template of steps", "templates", ".toml", _SMALL, _steps),
    "band-plan": Kind("band plan", "band-plan", ".toml", _SMALL, _band_plan),
})  # fmt: skip
IN_PLAN = frozenset({"plan", "band-plan"})
"""Kinds that go into the plan; the others become files of one's own."""
