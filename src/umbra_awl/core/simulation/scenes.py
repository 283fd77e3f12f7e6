"""Scenes ready to play: what each needs of a plan, how it is laid out on one, and what to look at.

A scene looks for a route that fits, on the radio in hand first. Where it shows a slip, the slip is made in a copy of the plan.
"""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace as exchanged
from functools import cache
from pathlib import Path
from typing import Literal, NamedTuple

import msgspec

from umbra_awl.core.fit.fitting import Fit, fit
from umbra_awl.core.keep.toml_form import from_toml
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Route
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.simulation.ears import group_of, slot_on
from umbra_awl.core.simulation.fitting_route import FITS, SceneNeeds, companions, routes_for
from umbra_awl.core.simulation.parameters import Pattern
from umbra_awl.core.simulation.play import Play, PlayInput, Scripted
from umbra_awl.core.simulation.setting import ListeningChoice, NoSetting, make_setting
from umbra_awl.core.simulation.spoil import SPOILS
from umbra_awl.core.simulation.world import Setting

SHIPPED = Path(__file__).with_name("scenes.toml")
FORMAT = "umbra-awl scenes"
_BUSY = Pattern(12.0, 14, 14.0, 2.2, "wide", "the scene")
_SOME = Pattern(40.0, 3, 9.0, 3.0, "regional", "the scene")


class SceneError(ValueError):
    """A file of scenes that cannot be used; the message says why."""


class Hand(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Something that the shown operator does."""

    at: float
    what: Literal["press", "release", "turn"]
    value: str = ""


class SceneLine(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """An over of somebody else: on the route's group, on the other one's, or nearby on the access point."""

    at: float
    who: str
    group: Literal["route", "other", "here"]
    seconds: float


class Scene(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One scene. `right` says what to do right. `busy`: the group is talked on all the time.

    `figures` are figures of the world that it sets.
    """

    key: str
    title: str
    story: str
    look: str
    minutes: float
    needs: SceneNeeds
    right: str = ""
    speed: float = 1.0
    stance: Literal["channel", "watch", "scan"] = "channel"
    busy: bool = False
    script: tuple[SceneLine, ...] = ()
    hands: tuple[Hand, ...] = ()
    spoil: str = ""
    figures: dict[str, float] = {}


class _File(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    scene: tuple[Scene, ...]
    format: str = FORMAT
    version: int = 1


class Laid(NamedTuple):
    """A scene laid out on a plan: its world, the route in hand, what others say, what the shown operator does.

    `seen` is the route whose lanes are shown: the one in hand, or the one that is only listened to.
    """

    scene: Scene
    setting: Setting
    route: str
    seen: str
    script: tuple[Scripted, ...]
    hands: tuple[PlayInput, ...]

    def play(self, seed: int, *, shown: bool = True) -> Play:
        """The scene from its beginning; with the shown operator's hands, or with nobody's."""
        hands = self.hands if shown else ()
        scripted = bool(self.scene.script)
        return Play(self.setting, seed, hands, self.script, traffic=not scripted and bool(self.setting.patterns))


def parse_scenes(text: str, source: str = "The scenes") -> tuple[Scene, ...]:
    """Scenes from a TOML text. Raises SceneError."""
    return from_toml(text, _File, (FORMAT, 1), source, SceneError).scene


@cache
def shipped_scenes() -> tuple[Scene, ...]:
    """The scenes that ship with the application."""
    return parse_scenes(SHIPPED.read_text("utf-8"))


def lay_out(
    scene: Scene, index: PlanIndex, fits: Mapping[str, Fit], profiles: Callable[[str], Profile | None], radio: str
) -> Laid:
    """Lay a scene out on a plan, on the radio in hand where it can be. Raises NoSetting, saying what the plan lacks."""
    for key in (radio, *(item for item in index.radios if item != radio)):
        for route in routes_for(index, fits.get(key), scene.needs, spoiled=bool(scene.spoil)):
            profile = profiles(index.radios[key].profile)
            if profile is not None:
                return _laid(scene, (index, fits, profile), key, route)
    lacking = " and ".join(FITS[name] for name in scene.needs.named if name in FITS)
    raise NoSetting(f"No radio of this plan has a route for it: wanted is {scene.needs.words()}. {lacking}".strip())


def _laid(scene: Scene, ground: tuple[PlanIndex, Mapping[str, Fit], Profile], radio: str, route: Route) -> Laid:
    index, fits, profile = ground
    others = companions(index, fits[radio], scene.needs, route)
    key = route.key
    if scene.spoil:
        plan, key = SPOILS[scene.spoil](index, route)
        index = index.after(plan)
        fits = {**fits, radio: fit(index, index.radios[radio], profile)}
    routes = tuple(dict.fromkeys((key, route.key, *(item.key for item in others))))
    setting = make_setting(index, fits, ListeningChoice(radio, routes, scene.stance, whole=True))
    figures = {**setting.figures, **scene.figures, "doubling_share": 0.0}
    setting = exchanged(setting, figures=figures, profile=profile)
    setting = _as_scene(scene, setting, route, others)
    script = tuple(_scripted(scene, setting, route, others))
    hands = tuple(PlayInput(item.at, item.what, item.value) for item in scene.hands)
    if scene.busy and others and scene.hands:
        hands = (
            PlayInput(15.0, "number", others[0].key),
            *hands,
        )  # the knob goes to the other group, which one wants to reach
    return Laid(scene, setting, key, route.key, script, hands)


def _as_scene(scene: Scene, setting: Setting, route: Route, others: tuple[Route, ...]) -> Setting:
    """The world as the scene has it: who talks how much, and what is carried before it begins."""
    index = setting.index
    group = group_of(index.destinations[route.destination], route.service)
    place = (route.service, slot_on(index, route.service, route.slot))
    carried = list(setting.carried)
    if scene.needs.joined or scene.needs.scan:
        carried.append((group, place, "joined" if index.services[route.service][1].mode == "dmr" else "link"))
    patterns = {group: _BUSY} if scene.busy else {}
    for item in others if scene.needs.same_slot or scene.needs.scan else ():
        other = group_of(index.destinations[item.destination], item.service)
        carried.append((other, (item.service, slot_on(index, item.service, item.slot)), "joined"))
        if scene.busy:
            patterns[other] = _SOME
    if scene.needs.scan and scene.busy:
        patterns[group] = _SOME
    figures = setting.figures
    posts = {
        key: post._replace(time_out_s=min(post.time_out_s, figures["time_out_s"]))
        for key, post in setting.posts.items()
    }
    return exchanged(setting, carried=tuple(carried), patterns=patterns, posts=posts)


def _scripted(scene: Scene, setting: Setting, route: Route, others: tuple[Route, ...]) -> Iterator[Scripted]:
    index = setting.index
    groups = {"route": group_of(index.destinations[route.destination], route.service)}
    if others:
        groups["other"] = group_of(index.destinations[others[0].destination], others[0].service)
    for item in scene.script:
        nearby = item.group == "here" or index.destinations[route.destination].kind == "local"
        group = f"{route.destination} {route.service}" if nearby else groups.get(item.group, groups["route"])
        yield Scripted(item.at, item.who, group, item.seconds)
