"""Which radio? A plan, or needs without one, held against profiles: what each carries, shortens, loses and needs beside it."""

from collections import Counter
from collections.abc import Iterable, Iterator
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.facts.connectors import joins
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.modes import EVERY_MODE, MODE_WORDS, SHORT_WORDS
from umbra_awl.core.fit.built import built_points
from umbra_awl.core.fit.fitting import Fit, fit
from umbra_awl.core.fit.friends import friend_points
from umbra_awl.core.fit.needs import MUST, USUAL_WEIGHT, ComparedPoint, RadioNeeds, need_points, point
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Mode, OwnedRadio
from umbra_awl.core.radio.profile import WAY_WORDS, Profile


class Candidate(NamedTuple):
    """One profile: its points in the order asked, the weighted share met, the plan fitted to it, and what is needed beside it."""

    profile: Profile
    points: tuple[ComparedPoint, ...]
    share: float
    fit: Fit | None
    beside: tuple[str, ...]

    @property
    def out(self) -> tuple[ComparedPoint, ...]:
        """What had to be met and is known not to be: with any of it the radio is left out."""
        return tuple(item for item in self.points if item.excludes)


def compare(
    index: PlanIndex,
    profiles: Iterable[Profile],
    needs: RadioNeeds,
    *,
    with_plan: bool = True,
    like: OwnedRadio | None = None,
) -> list[Candidate]:
    """A candidate for each profile, the one that meets most first, those that miss what must be last; equals stay in their order.

    With the plan, each is fitted as a radio `like` an owned one (the whole plan when None).
    """
    every = tuple(profiles)
    found = [_candidate(index, profile, every, needs, with_plan=with_plan, like=like) for profile in every]
    return sorted(found, key=lambda item: (bool(item.out), -item.share))


def tried(index: PlanIndex, profile: Profile, like: OwnedRadio | None = None) -> Fit:
    """The plan fitted to a profile as if the operator owned one."""
    base = like or OwnedRadio("tried", profile.name, profile.key)
    owned = replace(
        base, key="tried", name=profile.name, profile=profile.key, leave=(), first=(), names=(), firmware=""
    )
    return fit(index, owned, profile)


def _candidate(
    index: PlanIndex,
    profile: Profile,
    every: tuple[Profile, ...],
    needs: RadioNeeds,
    *,
    with_plan: bool,
    like: OwnedRadio | None,
) -> Candidate:
    made = tried(index, profile, like) if with_plan else None
    points = (
        *_plan_points(index, profile, made, needs),
        *need_points(profile, needs),
        *friend_points(index, profile, every, needs),
        *built_points(index, profile, made, needs),
    )
    weighed = [(min(item.weight, MUST - 1), item) for item in points if item.weight and item.known]
    total = sum(weight for weight, _item in weighed)
    share = sum(weight * item.share for weight, item in weighed) / total if total else 0.0
    return Candidate(profile, points, share, made, _beside(profile, needs))


_MAIN_PART, _SMALL_PART = 1 / 3, 0.1


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
        yield point(needs, f"{SHORT_WORDS[mode]} routes", carried / count, why, usual)
    short = len(made.report.of_kind("shortened")) + len(made.report.of_kind("told apart"))
    many = f"{short} of {counted(len(there), 'name')} {'is' if short == 1 else 'are'}"
    why = f"{many} shortened to {profile.display.length} characters."
    share = 1 - short / len(there) if there else 0.0
    yield point(needs, "names in full", share, why if short else "Every name is shown in full.", 1)


def _routes_words(profile: Profile, mode: Mode, carried: int, count: int) -> str:
    if mode not in profile.modes:
        return f"It has no {MODE_WORDS[mode]}: {counted(count, 'route is', 'routes are')} lost."
    left = f"; {count - carried} find no place or no band" if carried < count else ""
    return f"It carries {carried} of {count}{left}."


def _beside(profile: Profile, needs: RadioNeeds) -> tuple[str, ...]:
    """What must be bought or learned beside the radio."""
    app = next((item.needs for item in profile.apps if item.platform == needs.platform and item.needs), "")
    ways = " or ".join(WAY_WORDS[way] for way in profile.ways_in)
    joined = joins(profile.build.antenna, needs.aerial)
    adapter = [joined.adapter] if joined is not None and joined.adapter else []
    return (*profile.beside, *([app] if app else []), *adapter, f"programmed by {ways}")


def platforms(profiles: Iterable[Profile]) -> list[str]:
    """The phone platforms that any profile names."""
    return sorted({app.platform for profile in profiles for app in profile.apps})
