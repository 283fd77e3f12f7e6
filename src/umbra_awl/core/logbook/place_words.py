"""From where one operates, and the right words to say it on the air.

Away from home one says so: a listener takes the call sign for its home place, and through one's own hotspot or phone the repeater
that is heard says nothing of where one is.
"""

from umbra_awl.core.facts.earth import PositionError, locator_of, parse_locator, parse_position
from umbra_awl.core.plan.model import Trip


def locator_in(spot: str) -> str:
    """The locator of a spot typed as one, as a position, or with one behind its name (“hill, HN46kl”); else empty."""
    if found := _locator(spot):
        return found
    name, comma, last = spot.rpartition(",")
    return _locator(last) if comma and name.strip() else ""


def _locator(text: str) -> str:
    for read in (parse_locator, parse_position):
        try:
            place = read(text)
        except PositionError:
            continue
        return locator_of(place.lat, place.lon)
    return ""


def words_to_say(call: str, here: str, path: str, *, trip: Trip | None = None) -> str:
    """What to say on the air of where one is; empty at home on one's own radio, where the call sign says enough."""
    place = here.strip() or (trip.name if trip is not None else "")
    if not place and not path.strip():
        return ""
    said = [call or "your call sign"]
    if place:
        said.append(f"operating from {place}")
    if path.strip():
        said.append(f"through {_my(path.strip())}")
    return f"Say: “{', '.join(said)}”."


def _my(path: str) -> str:
    return path if path.split(" ", 1)[0] in {"my", "the", "a"} else f"my {path}"
