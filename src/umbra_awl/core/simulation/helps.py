"""Which single change helps most: each one is tried, on the same evenings, and what it changes is told with its spread."""

import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace as exchanged
from typing import NamedTuple

from umbra_awl.core.fit.fitting import Fit, fit
from umbra_awl.core.plan.edit.edit_access import set_air
from umbra_awl.core.plan.edit.edits import Edit, EditRefused
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import DmrAir
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.routes.lists import set_scan, toggle_member
from umbra_awl.core.simulation.evenings import COMMANDS, Evenings, many_evenings
from umbra_awl.core.simulation.setting import ListeningChoice, NoSetting, make_setting
from umbra_awl.core.simulation.world import Setting

MOST_TRIED = 16
_BRIEF_HANG_S, _LONG_HANG_S = 1.0, 10.0


class TriedChange(NamedTuple):
    """A single change that may help: in words, as an edit of the plan where it is one, else as another way of listening.

    `bought` says what has to be bought or asked for, where nothing in the plan can be edited.
    """

    words: str
    edit: Edit | None = None
    choice: ListeningChoice | None = None
    world: Callable[[Setting], Setting] | None = None
    bought: str = ""


class Helped(NamedTuple):
    """A change with the figures before and after it; `gain` is what it takes off the shares missed and blocked, summed up."""

    change: TriedChange
    before: Evenings
    after: Evenings

    @property
    def gain(self) -> float:
        """How much less is missed and blocked."""
        before, after = self.before, self.after
        return before.missed.value - after.missed.value + before.blocked.value - after.blocked.value

    @property
    def off(self) -> float:
        """How far off that may be, taken as if the two runs were independent: at the most this."""
        parts = (self.before.missed, self.after.missed, self.before.blocked, self.after.blocked)
        return math.hypot(*(part.off for part in parts))

    @property
    def sure(self) -> bool:
        """Whether it helps more than chance could."""
        return self.gain > self.off

    def line(self) -> str:
        """What it does to the two shares."""
        before, after = self.before, self.after
        return (
            f"missed {100 * before.missed.value:.0f} → {100 * after.missed.value:.0f} %, "
            f"somebody in the way {100 * before.blocked.value:.0f} → {100 * after.blocked.value:.0f} %"
        )


def changes(index: PlanIndex, setting: Setting, choice: ListeningChoice) -> Iterator[TriedChange]:
    """Single changes worth trying for a choice."""
    yield from _duplex(setting)
    yield from _group_lists(index, setting)
    yield from _scan_list(index, choice)
    yield from _stances(index, choice)
    yield from _always_carried(index, setting, choice)


def _duplex(setting: Setting) -> Iterator[TriedChange]:
    for post in setting.posts.values():
        if post.half and post.kind == "hotspot" and post.mode == "dmr":
            yield TriedChange(
                f"A duplex board at {post.name}",
                world=_as_duplex(post.access),
                bought="A board with two antennas, and a pair of frequencies: Hotspots, Frequency finds one.",
            )


def _as_duplex(access: str) -> Callable[[Setting], Setting]:
    def change(setting: Setting) -> Setting:
        posts = {
            key: post._replace(half=False) if post.access == access else post for key, post in setting.posts.items()
        }
        return exchanged(setting, posts=posts)

    return change


def _group_lists(index: PlanIndex, setting: Setting) -> Iterator[TriedChange]:
    for key in setting.posts:
        access, service = index.services[key]
        if isinstance(service.air, DmrAir) and service.air.hears == "own":
            words = f"Receive group lists at {access.by_site} take all of the slot"
            yield TriedChange(words, set_air(key, words, hears="slot"))


def _scan_list(index: PlanIndex, choice: ListeningChoice) -> Iterator[TriedChange]:
    scan = next((item for item in index.plan.scans if item.key == choice.scan), None)
    if scan is None or choice.stance != "scan":
        return
    for key in choice.routes:
        name = index.labels.of(index.routes[key])
        if key != scan.priority:
            yield TriedChange(f"Priority to {name}", set_scan(scan, priority=key))
        if scan.by == "hand":
            yield TriedChange(f"{name} out of the scan list", toggle_member(index, scan, index.routes[key]))
    for seconds in (_BRIEF_HANG_S, _LONG_HANG_S):
        if abs(scan.hang_s - seconds) > 1:
            yield TriedChange(f"The scan stays {seconds:g} s after a call", set_scan(scan, hang_s=seconds))


def _stances(index: PlanIndex, choice: ListeningChoice) -> Iterator[TriedChange]:
    if choice.stance != "scan" and len(choice.routes) > 1:
        yield TriedChange("Scan them all", choice=choice._replace(stance="scan", scan=""))
    talked = [key for key in choice.routes if index.parts(index.routes[key])[2].kind not in COMMANDS]
    if choice.stance == "channel":
        for key in [item for item in talked if item != choice.routes[0]][:4]:
            rest = tuple(item for item in choice.routes if item != key)
            yield TriedChange(
                f"Stay on {index.labels.of(index.routes[key])}", choice=choice._replace(routes=(key, *rest))
            )
    if choice.stance == "watch":
        for key in [item for item in talked if item not in choice.routes[:2]][:4]:
            rest = tuple(item for item in choice.routes if item not in {choice.routes[0], key})
            words = f"Watch {index.labels.of(index.routes[key])} as the second"
            yield TriedChange(words, choice=choice._replace(routes=(choice.routes[0], key, *rest)))
    if choice.stance == "scan" and not choice.scan and len(choice.routes) > 2:
        for key in talked[:6]:
            rest = tuple(item for item in choice.routes if item != key)
            yield TriedChange(f"Without {index.labels.of(index.routes[key])}", choice=choice._replace(routes=rest))


def _always_carried(index: PlanIndex, setting: Setting, choice: ListeningChoice) -> Iterator[TriedChange]:
    """A group on demand made one that is always carried: on one's own hotspot a setting, elsewhere a question to its keeper."""
    held = {(place, group) for group, place, how in setting.carried if how == "always"}
    for key in choice.routes:
        route = index.routes[key]
        access, service, destination = index.parts(route)
        place = (service.key, route.slot)
        if service.mode == "dmr" and destination.kind == "group" and (place, destination.key) not in held:
            who = "Set it on the hotspot's page." if access.kind == "hotspot" else "Ask whoever keeps the repeater."
            words = f"{destination.name} always carried at {access.by_site}"
            yield TriedChange(words, world=_carrying(destination.key, place), bought=who)


def _carrying(group: str, place: tuple[str, int]) -> Callable[[Setting], Setting]:
    return lambda setting: exchanged(setting, carried=(*setting.carried, (group, place, "always")))


class EveningGround(NamedTuple):
    """What changes are tried on: the plan, its fits, the profile of the radio that is looked at."""

    plan: PlanIndex
    fits: Mapping[str, Fit]
    profile: Profile


def try_change(
    ground: EveningGround, choice: ListeningChoice, change: TriedChange
) -> tuple[Setting, tuple[str, ...]] | None:
    """The world with a change, and the routes looked at in it; None where it cannot be made."""
    index, fits = ground.plan, ground.fits
    try:
        if change.edit is not None:
            index = index.after(change.edit.apply(index.plan))
            radio = index.radios[choice.radio]
            fits = {**fits, choice.radio: fit(index, radio, ground.profile)}
        wanted = change.choice or choice
        setting = make_setting(index, fits, wanted)
    except (EditRefused, NoSetting, KeyError):
        return None
    return (change.world(setting) if change.world is not None else setting), wanted.routes


def what_helps(
    ground: EveningGround,
    choice: ListeningChoice,
    count: int,
    seed: int = 1,
    progress: Callable[[int, int], bool] = lambda _done, _all: True,
) -> tuple[Helped, ...]:
    """Every change tried on the same evenings, the one that helps most first. Raises Cancelled and NoSetting."""
    setting = make_setting(ground.plan, ground.fits, choice)
    before = many_evenings(setting, choice.routes, count, seed, lambda at, _all: progress(at, count))
    wanted = list(changes(ground.plan, setting, choice))[:MOST_TRIED]
    found = []
    for number, change in enumerate(wanted, 1):
        made = try_change(ground, choice, change)
        if made is None:
            continue

        def told(at: int, _all: int, number: int = number) -> bool:
            return progress(number * count + at, (len(wanted) + 1) * count)

        found.append(Helped(change, before, many_evenings(made[0], made[1], count, seed, told)))
    return tuple(sorted(found, key=lambda item: -item.gain))
