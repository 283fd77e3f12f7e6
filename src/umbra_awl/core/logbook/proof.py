"""What each route's proof is worth today: the best grade, how old it is, and what it stood on that is no longer so.

Age fades a proof: fresh for a season, then fading, old after a year. A proof whose values have changed is doubtful, and says
which.
"""

from collections.abc import Iterable, Mapping
from datetime import datetime
from typing import Literal, NamedTuple

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.logbook.model import GRADE_WORDS, HEARS, IS_HEARD, RANK, Entry, Grade
from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Route, Service
from umbra_awl.core.trace.path import hotspot_of

Age = Literal["fresh", "fading", "old", ""]
FADING_DAYS, OLD_DAYS = 90, 365
_WORTH = {"echo": 0, "disconnect": 2, "info": 2, "dial": 2}
"""An echo tells most, a command least."""


class RouteProof(NamedTuple):
    """A route's proof: the best grade that counts, whether one hears and is heard, when, by which entry, its age.

    `changed` are the values it stood on that are others now (“frequency 434.6125 → 434.6250”); `failed` the latest failure
    since, with its note; `simulated` whether the simulation alone says that it works.
    """

    route: str
    grade: Grade | Literal[""] = ""
    hears: bool = False
    is_heard: bool = False
    utc: str = ""
    entry: str = ""
    age: Age = ""
    changed: tuple[str, ...] = ()
    failed: str = ""
    simulated: bool = False

    @property
    def rank(self) -> int:
        """How far it reaches, 0 to 5."""
        return RANK[self.grade]

    @property
    def sound(self) -> bool:
        """Whether it proves the way there and back and nothing has changed since."""
        return self.hears and self.is_heard and not self.changed and not self.failed and self.age != "old"


def stood_on(index: PlanIndex, route: Route, radio: str = "") -> dict[str, str]:
    """The values that a route's proof stands on, by their names, as they are now."""
    access, service, destination = index.parts(route)
    hotspot = hotspot_of(index, access)
    found = {
        "receive": format_mhz(service.rx_hz),
        "transmit": format_mhz(service.tx_hz),
        mode_of(service).opened_by: mode_of(service).opener(service.air),
        "destination": str(
            destination.number if destination.number is not None else destination.text or destination.name
        ),
    }
    if service.mode == "dmr":
        found["slot"] = str(route.slot)
        found["receive group list"] = _heard(index, route)
    own = ("color_code", "tone_tx", "ur", "rpt1", "rpt2", "way", "dgid_tx")
    for name in own:
        value = getattr(route, name)
        if value is not None:
            found[name.replace("_", " ")] = str(value)
        else:
            found.setdefault(name.replace("_", " "), "the access point's")
    found |= _held(service, route)
    if hotspot is not None:
        found |= {
            "hotspot's receive": format_mhz(hotspot.receive_hz),
            "hotspot's transmit": format_mhz(hotspot.transmit_hz),
            "correction": f"{hotspot.rx_correction_hz:+d} Hz",
            "hotspot's sending correction": f"{hotspot.tx_correction_hz:+d} Hz",
            "hotspot's color code": str(hotspot.color_code),
            "hotspot's duplex": "duplex" if hotspot.duplex else "simplex",
        }
    if radio and radio in index.radios:
        found["radio"] = index.radios[radio].name
    return found


def _held(service: Service, route: Route) -> dict[str, str]:
    """What a radio holds of a route beside what opens it: its own value, else the access point's."""
    air = service.air
    found = {
        "transmitting": "receive-only" if route.receive_only else "on",
        "encryption": "on" if route.encrypted else "off",
        "power": route.power,
    }
    for name, words in (
        ("tone_rx", "tone awaited"),
        ("width_hz", "width"),
        ("dgid_rx", "DG-ID awaited"),
        ("admit", "busy rule"),
    ):
        own = getattr(route, name)
        value = own if own is not None else getattr(air, name, None)
        if value is not None:
            found[words] = str(value) or "none"
    return found


def _heard(index: PlanIndex, route: Route) -> str:
    """Whose calls open the speaker: by hand, else by the access point's rule."""
    service = index.parts(route)[1]
    rule = getattr(service.air, "hears", "")
    return " ".join(sorted(route.hears)) or "nobody" if route.hears is not None else f"by rule: {rule}"


def proofs(index: PlanIndex, entries: Iterable[Entry], now: datetime) -> dict[str, RouteProof]:
    """The proof of every route of a plan at a moment, which is aware of its zone."""
    by_route: dict[str, list[Entry]] = {}
    for entry in entries:
        if entry.route in index.routes:
            by_route.setdefault(entry.route, []).append(entry)
    return {key: _proof(index, key, by_route.get(key, ()), now) for key in index.routes}


def _proof(index: PlanIndex, route: str, entries: Iterable[Entry], now: datetime) -> RouteProof:
    ordered = sorted(entries, key=lambda item: item.utc)
    real = [item for item in ordered if item.proves]
    good = [item for item in real if item.grade != "failed"]
    if not good:
        last = next((item for item in reversed(real)), None)
        failed = (last.note or "no reason noted") if last is not None else ""
        grade: Grade | Literal[""] = "failed" if last is not None else ""
        return RouteProof(route, grade, utc=last.utc if last else "", failed=failed, simulated=len(real) < len(ordered))
    lately = [item for item in good if age_of(item.utc, now) != "old"]
    good = lately or good  # what was proven lately counts, whatever was proven better years ago
    best = max(good, key=lambda item: (RANK[item.grade], item.utc))
    since = [item for item in real if item.grade == "failed" and item.utc > best.utc]
    return RouteProof(
        route,
        best.grade,
        any(item.grade in HEARS for item in good),
        any(item.grade in IS_HEARD for item in good),
        best.utc,
        best.key,
        age_of(best.utc, now),
        changes(best.stood, stood_on(index, index.routes[route], best.radio)),
        (since[-1].note or "no reason noted") if since else "",
    )


def changes(then: Mapping[str, str], now: Mapping[str, str]) -> tuple[str, ...]:
    """What was so and is no longer, in words; nothing where it was not noted on what it stood."""
    return tuple(f"{name} {then[name]} → {now.get(name, 'none')}" for name in then if then[name] != now.get(name, ""))


def age_of(utc: str, now: datetime) -> Age:
    """How old a proof is."""
    try:
        days = (now - datetime.fromisoformat(utc)).days
    except (ValueError, TypeError):
        return "old"
    return "fresh" if days < FADING_DAYS else "fading" if days < OLD_DAYS else "old"


def proof_words(found: RouteProof) -> str:
    """A proof in words."""
    if not found.grade:
        return "never tried" + (", only simulated" if found.simulated else "")
    day = found.utc[:10]
    if found.grade == "failed":
        return f"tried on {day}, and failed: {found.failed}"
    parts = [f"{GRADE_WORDS[found.grade]} on {day}"]
    if not found.hears:
        parts.append("that one hears is not proven")
    if not found.is_heard:
        parts.append("that one is heard is not proven")
    if found.age in {"fading", "old"}:
        parts.append("fading" if found.age == "fading" else "over a year old")
    if found.failed:
        parts.append(f"failed since: {found.failed}")
    if found.changed:
        parts.append(f"doubtful, for it has changed: {'; '.join(found.changed)}")
    return ", ".join(parts)


class Shares(NamedTuple):
    """How much of some routes is proven: all of them, both ways and sound, doubtful or old, failed, never tried."""

    routes: int
    proven: int
    doubtful: int
    failed: int
    never: int

    @property
    def share(self) -> float:
        """The share proven, from 0 to 1."""
        return self.proven / self.routes if self.routes else 0.0


def share_of(found: Mapping[str, RouteProof], routes: Iterable[str]) -> Shares:
    """The shares of some routes."""
    held = [found[key] for key in routes if key in found]
    proven = sum(item.sound for item in held)
    failed = sum(bool(item.failed) for item in held)
    never = sum(not item.grade for item in held)
    return Shares(len(held), proven, len(held) - proven - failed - never, failed, never)


class KeyUp(NamedTuple):
    """A key-up worth making: on which route and radio, and the routes whose way it proves as far as it is theirs."""

    route: str
    radio: str
    proves: tuple[str, ...]


def prove_next(
    index: PlanIndex, found: Mapping[str, RouteProof], fits: Mapping[str, Fit], most: int = 12
) -> tuple[KeyUp, ...]:
    """The shortest list of key-ups that proves most: one at a time, each time the one with most left to prove.

    A key-up on an access point's slot proves the way to it for every route through it; beyond it only for its own destination.
    What is doubtful, old or failed counts like what was never tried.
    """
    open_ = {key for key, item in found.items() if not item.sound}
    carried = _carried(fits)
    made: list[KeyUp] = []
    left = {key for key in open_ if key in carried}
    while left and len(made) < most:
        groups: dict[tuple[str, int], list[str]] = {}
        for key in sorted(left):
            route = index.routes[key]
            groups.setdefault((route.service, route.slot), []).append(key)
        place = max(groups, key=lambda item: (len(groups[item]), item))
        first = min(groups[place], key=lambda key: (_WORTH.get(index.parts(index.routes[key])[2].kind, 1), key))
        made.append(KeyUp(first, carried[first], tuple(groups[place])))
        left -= set(groups[place])
    return tuple(made)


def _carried(fits: Mapping[str, Fit]) -> dict[str, str]:
    """Route key to the first radio that may send on it."""
    found: dict[str, str] = {}
    for radio, item in fits.items():
        for channel in item.memory.channels:
            if channel.route and not channel.receive_only:
                found.setdefault(channel.route, radio)
    return found
