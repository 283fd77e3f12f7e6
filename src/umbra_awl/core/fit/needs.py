"""What a radio should do, and each point of it held against a profile: met, in part, not, or not known."""

from collections.abc import Iterator, Mapping
from typing import Literal, NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.plan.model import Mode
from umbra_awl.core.radio.profile import Profile

Stand = Literal["met", "partly", "missing", "unknown"]
MUST = 4
"""The weight of what must be there: a radio that is known not to meet it is out, however good the rest."""
USUAL_WEIGHT = 2


class RadioNeeds(NamedTuple):
    """What a radio should do. `weight` 0 to 3 says how much each matters, `MUST` that it has to be; empty or 0 is not asked for.

    `price` is profile key to what the operator was asked for it, in whatever money, `most` the most they would give, `tested`
    the profiles whose seller tries each before it goes out. `speaker_mw` is how loud it has to be, in milliwatts. `aerial` is
    the connector at the end of the antenna's cable (“N socket”), or “none” where none may be put up.
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
    speaker_mw: int = 0
    sturdy: bool = False
    honest_gauge: bool = False
    head_apart: bool = False
    hands_free: bool = False
    aerial: str = ""
    like_friends: bool = False
    seller_tests: bool = False
    tested: tuple[str, ...] = ()


class ComparedPoint(NamedTuple):
    """One thing asked for: the share met, 0 to 1, its weight, why, as a sentence; `known` whether that can be told."""

    name: str
    share: float
    weight: int
    why: str
    known: bool = True

    @property
    def excludes(self) -> bool:
        """Whether a radio that stands so is out: it had to be met, and is known not to be."""
        return self.known and self.weight >= MUST and self.share < 1

    @property
    def stand(self) -> Stand:
        """The share in a word."""
        if not self.known:
            return "unknown"
        return "met" if self.share >= 1 else "missing" if self.share <= 0 else "partly"


def point(needs: RadioNeeds, name: str, share: float, why: str, usual: int = USUAL_WEIGHT) -> ComparedPoint:
    """A point that can be told, with the weight that was given to it, or its usual one."""
    return ComparedPoint(name, share, needs.weight.get(name, usual), why)


def unknown(needs: RadioNeeds, name: str, why: str) -> ComparedPoint:
    """A point that the profile does not tell."""
    return ComparedPoint(name, 0.0, needs.weight.get(name, USUAL_WEIGHT), why, known=False)


def need_points(profile: Profile, needs: RadioNeeds) -> Iterator[ComparedPoint]:
    """What is asked for of what a profile's sheet tells."""
    for mode in needs.modes:
        has = mode in profile.modes
        yield point(needs, MODE_WORDS[mode], float(has), f"It has {'' if has else 'no '}{MODE_WORDS[mode]}.")
    for low, high in needs.bands_mhz:
        yield _band_point(profile, needs, low, high)
    if needs.position:
        able = "gps" in profile.extras.position
        yield point(
            needs, "position", float(able), "It knows where it is and can report it." if able else "It has no GPS."
        )
    if needs.channels:
        held = profile.limits.channels
        yield point(
            needs,
            "capacity",
            min(1.0, held / needs.channels),
            f"It holds {counted(held, 'channel')}; {needs.channels:,} are wanted.",
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
        yield point(needs, "data", share, why)
    if needs.keypad:
        typed = profile.by_keys
        yield point(needs, "keypad", float(typed), f"It is {'' if typed else 'not '}programmed by its own keys.")
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
    return point(needs, name, 1.0 if sends else 0.5 if hears else 0.0, why)


def _people_point(profile: Profile, needs: RadioNeeds) -> ComparedPoint:
    best = max(profile.firmware, key=lambda item: item.people, default=None)
    if best is None or not best.people:
        return point(needs, "people", 0.0, "It shows IDs without names: it keeps no people list.")
    others = [item for item in profile.firmware if item.extra and item is not best]
    trade = f", with the firmware “{best.name}” and without the {others[0].extra}" if others else ""
    why = f"It holds {counted(best.people, 'person', 'people')}{trade}; {needs.people:,} are wanted."
    return point(needs, "people", min(1.0, best.people / needs.people), why)


def _app_point(profile: Profile, needs: RadioNeeds) -> ComparedPoint:
    app = next((item for item in profile.apps if item.platform == needs.platform), None)
    if app is None:
        others = ", ".join(item.platform for item in profile.apps)
        why = f"No phone app works with it on {needs.platform} phones{f'; on {others} one does' if others else ''}."
        return point(needs, "app", 0.0, why)
    if app.needs:
        return point(needs, "app", 0.5, f"A phone app works on {needs.platform} phones with {app.needs}.")
    return point(needs, "app", 1.0, f"A phone app works on {needs.platform} phones.")


def _price_point(profile: Profile, needs: RadioNeeds) -> ComparedPoint:
    price = needs.price.get(profile.key)
    if price is None:
        return ComparedPoint("price", 0.0, 0, "Its price is not given, so it does not count.")
    if price <= needs.most:
        return point(needs, "price", 1.0, f"{price:g} is within {needs.most:g}.")
    return point(
        needs,
        "price",
        max(0.0, 1 - (price - needs.most) / needs.most),
        f"{price:g} is {price - needs.most:g} over {needs.most:g}.",
    )
