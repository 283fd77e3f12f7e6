"""Which radio? A plan, or needs without one, held against profiles: what each carries, shortens, loses and needs beside it."""

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from typing import Literal, NamedTuple

from msgspec.structs import replace

from umbra_awl.core.facts.modes import EVERY_MODE, MODE_WORDS, SHORT_WORDS
from umbra_awl.core.fit.fitting import Fit, fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Mode, OwnedRadio
from umbra_awl.core.radio.profile import WAY_WORDS, Profile

Stand = Literal["met", "partly", "missing"]


class RadioNeeds(NamedTuple):
    """What a radio should do. `weight_` 0 to 3 says how much each matters; what is empty or 0 is not asked for.

    `price` is profile key to what the operator was asked for it, in whatever money; `most` the most they would give.
    """

    modes: tuple[Mode, ...] = ()
    bands_mhz: tuple[tuple[float, float], ...] = ()
    position: bool = False
    channels: int = 0
    people: int = 0
    platform: str = ""
    data: bool = False
    keypad: bool = False
    most: float = 0.0
    price: Mapping[str, float] = {}
    weight: Mapping[str, int] = {}


class ComparedPoint(NamedTuple):
    """One thing asked for: the share that is met, 0 to 1, its weight, and why, as a sentence."""

    name: str
    share: float
    weight: int
    why: str

    @property
    def stand(self) -> Stand:
        """The share in a word."""
        return "met" if self.share >= 1 else "missing" if self.share <= 0 else "partly"


class Candidate(NamedTuple):
    """One profile: its points in the order asked, the weighted share met, the plan fitted to it, and what is needed beside it."""

    profile: Profile
    points: tuple[ComparedPoint, ...]
    share: float
    fit: Fit | None
    beside: tuple[str, ...]


def compare(
    index: PlanIndex,
    profiles: Iterable[Profile],
    needs: RadioNeeds,
    *,
    with_plan: bool = True,
    like: OwnedRadio | None = None,
) -> list[Candidate]:
    """A candidate for each profile, the one that meets most first; profiles that meet the same stay in their order.

    With the plan, each is fitted as a radio `like` an owned one (the whole plan when None).
    """
    found = [_candidate(index, profile, needs, with_plan=with_plan, like=like) for profile in profiles]
    return sorted(found, key=lambda item: -item.share)


def tried(index: PlanIndex, profile: Profile, like: OwnedRadio | None = None) -> Fit:
    """The plan fitted to a profile as if the operator owned one."""
    base = like or OwnedRadio("tried", profile.name, profile.key)
    owned = replace(
        base, key="tried", name=profile.name, profile=profile.key, leave=(), first=(), names=(), firmware=""
    )
    return fit(index, owned, profile)


def _candidate(
    index: PlanIndex, profile: Profile, needs: RadioNeeds, *, with_plan: bool, like: OwnedRadio | None
) -> Candidate:
    made = tried(index, profile, like) if with_plan else None
    points = (*_plan_points(index, profile, made, needs), *_need_points(profile, needs))
    weighed = [point for point in points if point.weight]
    total = sum(point.weight for point in weighed)
    share = sum(point.weight * point.share for point in weighed) / total if total else 0.0
    return Candidate(profile, points, share, made, _beside(profile, needs))


USUAL_WEIGHT = 2
_MAIN_PART, _SMALL_PART = 1 / 3, 0.1


def _point(needs: RadioNeeds, name: str, share: float, why: str, usual: int = USUAL_WEIGHT) -> ComparedPoint:
    return ComparedPoint(name, share, needs.weight.get(name, usual), why)


def _plan_points(index: PlanIndex, profile: Profile, made: Fit | None, needs: RadioNeeds) -> Iterator[ComparedPoint]:
    """The plan's routes mode by mode, the main modes counting more, then its names."""
    if made is None:
        return
    there = {channel.route for channel in made.memory.channels}
    wanted = Counter(index.services[route.service][1].mode for route in index.plan.routes)
    for mode, count in sorted(wanted.items(), key=lambda item: EVERY_MODE.index(item[0])):
        carried = sum(index.services[index.routes[key].service][1].mode == mode for key in there)
        part = count / len(index.plan.routes)
        usual = 3 if part >= _MAIN_PART else 1 if part < _SMALL_PART else USUAL_WEIGHT
        why = _routes_words(profile, mode, carried, count)
        yield _point(needs, f"{SHORT_WORDS[mode]} routes", carried / count, why, usual)
    short = len(made.report.of_kind("shortened")) + len(made.report.of_kind("told apart"))
    why = f"{short} of {len(there)} names are shortened to {profile.display.length} characters."
    share = 1 - short / len(there) if there else 0.0
    yield _point(needs, "names in full", share, why if short else "Every name is shown in full.", 1)


def _routes_words(profile: Profile, mode: Mode, carried: int, count: int) -> str:
    if mode not in profile.modes:
        return f"It has no {MODE_WORDS[mode]}: all {count} routes are lost."
    left = f"; {count - carried} find no place or no band" if carried < count else ""
    return f"It carries {carried} of {count}{left}."


def _need_points(profile: Profile, needs: RadioNeeds) -> Iterator[ComparedPoint]:
    for mode in needs.modes:
        has = mode in profile.modes
        yield _point(needs, MODE_WORDS[mode], float(has), f"It has {'' if has else 'no '}{MODE_WORDS[mode]}.")
    for low, high in needs.bands_mhz:
        yield _band_point(profile, needs, low, high)
    if needs.position:
        able = "gps" in profile.extras.position
        yield _point(
            needs, "position", float(able), "It knows where it is and can report it." if able else "It has no GPS."
        )
    if needs.channels:
        held = profile.limits.channels
        yield _point(
            needs,
            "capacity",
            min(1.0, held / needs.channels),
            f"It holds {held} channels; {needs.channels} are wanted.",
        )
    if needs.people:
        yield _people_point(profile, needs)
    if needs.platform:
        yield _app_point(profile, needs)
    if needs.data:
        words = {
            "fast": (1.0, "It sends texts and pictures as fast data."),
            "slow": (0.5, "It sends data beside speech only, slowly."),
        }
        share, why = words.get(profile.extras.data, (0.0, "It sends no texts or pictures of its own accord."))
        yield _point(needs, "data", share, why)
    if needs.keypad:
        typed = profile.by_keys
        yield _point(needs, "keypad", float(typed), f"It is {'' if typed else 'not '}programmed by its own keys.")
    if needs.most:
        yield _price_point(profile, needs)


def _band_point(profile: Profile, needs: RadioNeeds, low: float, high: float) -> ComparedPoint:
    name = f"{low:g}–{high:g} MHz"
    edges = (round(low * 1e6), round(high * 1e6))
    sends = any(span.low_hz <= edges[0] and edges[1] <= span.high_hz for span in profile.transmit)
    hears = any(span.low_hz <= edges[0] and edges[1] <= span.high_hz for span in profile.receive)
    why = (
        "It sends and hears there."
        if sends
        else "It hears all of it and does not send on all of it."
        if hears
        else "It does not cover it."
    )
    return _point(needs, name, 1.0 if sends else 0.5 if hears else 0.0, why)


def _people_point(profile: Profile, needs: RadioNeeds) -> ComparedPoint:
    best = max(profile.firmware, key=lambda item: item.people, default=None)
    if best is None or not best.people:
        return _point(needs, "people", 0.0, "It shows IDs without names: it keeps no people list.")
    others = [item for item in profile.firmware if item.extra and item is not best]
    trade = f", with the firmware “{best.name}” and without the {others[0].extra}" if others else ""
    why = f"It holds {best.people} people{trade}; {needs.people} are wanted."
    return _point(needs, "people", min(1.0, best.people / needs.people), why)


def _app_point(profile: Profile, needs: RadioNeeds) -> ComparedPoint:
    app = next((item for item in profile.apps if item.platform == needs.platform), None)
    if app is None:
        others = ", ".join(item.platform for item in profile.apps)
        why = f"No phone app works with it on {needs.platform} phones{f'; on {others} one does' if others else ''}."
        return _point(needs, "app", 0.0, why)
    if app.needs:
        return _point(needs, "app", 0.5, f"A phone app works on {needs.platform} phones with {app.needs}.")
    return _point(needs, "app", 1.0, f"A phone app works on {needs.platform} phones.")


def _price_point(profile: Profile, needs: RadioNeeds) -> ComparedPoint:
    price = needs.price.get(profile.key)
    if price is None:
        return ComparedPoint("price", 0.0, 0, "Its price is not given, so it does not count.")
    if price <= needs.most:
        return _point(needs, "price", 1.0, f"{price:g} is within {needs.most:g}.")
    return _point(
        needs,
        "price",
        max(0.0, 1 - (price - needs.most) / needs.most),
        f"{price:g} is {price - needs.most:g} over {needs.most:g}.",
    )


def _beside(profile: Profile, needs: RadioNeeds) -> tuple[str, ...]:
    """What must be bought or learned beside the radio."""
    app = next((item.needs for item in profile.apps if item.platform == needs.platform and item.needs), "")
    ways = " or ".join(WAY_WORDS[way] for way in profile.ways_in)
    return (*profile.beside, *([app] if app else []), f"programmed by {ways}")


def platforms(profiles: Iterable[Profile]) -> list[str]:
    """The phone platforms that any profile names."""
    return sorted({app.platform for profile in profiles for app in profile.apps})
