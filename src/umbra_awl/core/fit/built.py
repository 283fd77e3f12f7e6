"""How a radio is built, held against what is wanted: loud, sturdy, gauge, head, hands, its antenna, its seller."""

from collections.abc import Iterator

from umbra_awl.core.facts.connectors import FIXED, joins
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.fit.needs import ComparedPoint, RadioNeeds, point, unknown
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile import Profile

NO_AERIAL = "none"
"""What stands for the antenna where none may be put up."""
_LOOK = "Nobody told it yet. Look at one, or ask, before you buy; say it on its own profile."


def built_points(index: PlanIndex, profile: Profile, made: Fit | None, needs: RadioNeeds) -> Iterator[ComparedPoint]:
    """The points of what is asked for of its build, its antenna and its seller."""
    build = profile.build
    if needs.speaker_mw:
        loud = build.speaker_mw
        why = f"Its loudspeaker gives {loud} mW; {needs.speaker_mw} are wanted."
        yield point(needs, "loud", min(1.0, loud / needs.speaker_mw), why) if loud else unknown(needs, "loud", _LOOK)
    if needs.sturdy:
        bears = "drops" in build.sturdy
        share = 1.0 if bears else 0.5 if build.sturdy == "splashes" else 0.0
        why = f"It is built for {build.sturdy}." if build.sturdy else _LOOK
        yield point(needs, "sturdy", share, why) if build.sturdy else unknown(needs, "sturdy", why)
    if needs.honest_gauge:
        told = {"honest": "Its gauge tells what is left.", "late": "Its gauge looks full until shortly before the end."}
        yield (
            point(needs, "honest gauge", float(build.gauge == "honest"), told[build.gauge])
            if build.gauge
            else unknown(needs, "honest gauge", _LOOK)
        )
    if needs.head_apart:
        yield _either(
            needs, "head apart", build.head_apart, "Its head goes apart from its box.", "Head and box are one."
        )
    if needs.hands_free:
        yield _either(
            needs, "hands free", build.hands_free, "It can be spoken to hands free.", "It wants a hand at its key."
        )
    yield from _aerial_points(index, profile, made, needs)
    if needs.seller_tests:
        tests = profile.key in needs.tested
        why = "Its seller tries each one before it goes out." if tests else "Its seller is not known to try it first."
        yield point(needs, "seller tests", float(tests), why)


def _either(needs: RadioNeeds, name: str, there: bool | None, yes: str, no: str) -> ComparedPoint:
    return unknown(needs, name, _LOOK) if there is None else point(needs, name, float(there), yes if there else no)


def _aerial_points(index: PlanIndex, profile: Profile, made: Fit | None, needs: RadioNeeds) -> Iterator[ComparedPoint]:
    if needs.aerial == NO_AERIAL:
        yield _without_aerial(index, profile, made, needs)
    elif needs.aerial:
        yield _onto_aerial(profile, needs)


def _onto_aerial(profile: Profile, needs: RadioNeeds) -> ComparedPoint:
    mine = profile.build.antenna
    if mine == FIXED or profile.shape == "phone":
        return point(needs, "antenna", 0.0, "Its own antenna cannot be taken off.")
    joined = joins(mine, needs.aerial)
    if joined is None:
        return unknown(needs, "antenna", _LOOK)
    minds = f" {joined.minds}" if joined.minds else ""
    if joined.fits:
        return point(needs, "antenna", 1.0, f"Its {mine} goes straight onto the {needs.aerial}.{minds}")
    why = f"Its {mine} needs an {joined.adapter}, about {joined.loss_db:g} dB at 440 MHz.{minds}"
    return point(needs, "antenna", 0.8, why)


def _without_aerial(index: PlanIndex, profile: Profile, made: Fit | None, needs: RadioNeeds) -> ComparedPoint:
    """Where no antenna may be put up, a hotspot beside one or a phone carries the plan; by how much of it is counted."""
    name = "without antenna"
    if profile.shape == "phone":
        return point(needs, name, 1.0, "It goes over the phone's network and needs no antenna.")
    if made is None:
        return unknown(needs, name, "Without the plan it cannot be counted. Have the plan fitted to each.")
    own = {hotspot.access for hotspot in index.plan.hotspots}
    if not own:
        return point(needs, name, 0.0, "Only a hotspot would carry it, and the plan has none. Add one at Hotspots.")
    routes = {route.key for route in index.plan.routes}
    by_it = {key for key in routes if index.services[index.routes[key].service][0].key in own}
    carried = by_it & {channel.route for channel in made.memory.channels}
    why = f"Your hotspot carries {len(carried)} of {counted(len(routes), 'route')} with it; the others want an antenna outside."
    return point(needs, name, len(carried) / len(by_it) if by_it else 0.0, why)
