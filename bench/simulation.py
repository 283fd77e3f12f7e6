"""Benchmarks of the plan played in time: events against an empty loop, evenings, the lanes; and how often trace and simulation agree."""

import time
from collections import Counter
from pathlib import Path

import simpy

from bench.days import TODAY
from bench.measure import Result, against
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.simulation.evenings import many_evenings, one_evening
from umbra_awl.core.simulation.play import Lane, Play
from umbra_awl.core.simulation.setting import ListeningChoice, make_setting
from umbra_awl.core.simulation.told import Book
from umbra_awl.core.simulation.world import SimulatedClock
from umbra_awl.demo.fresh import demo_plan

EVENINGS, ALL_S, FRAME_S = 60, 10.0, 1 / 60
BARS = 200
_GROUPS = ("isles-wide", "atlantic-english", "slow-speech", "worldwide", "northern-reach", "amber-coast")


def _setting():
    index, profiles = PlanIndex(demo_plan(TODAY), TODAY), shipped_profiles()
    radio = index.radios["tarn"]
    fits = {"tarn": fit(index, radio, profiles[radio.profile])}
    routes = tuple(
        route.key for route in index.plan.routes if route.service == "home-dmr" and route.destination in _GROUPS
    )
    choice = ListeningChoice("tarn", routes, "scan", sat_down=True)
    return make_setting(index, fits, choice), routes


def _events(setting, routes) -> int:
    """How many events one round of evenings has."""
    counted = 0
    step = SimulatedClock.step

    def counting(clock) -> None:
        nonlocal counted
        counted += 1
        step(clock)

    SimulatedClock.step = counting
    try:
        for seed in range(EVENINGS):
            one_evening(setting, routes, seed, {})
    finally:
        SimulatedClock.step = step
    return counted


def _empty(count: int, several: int) -> None:
    """An empty loop of as many events, in as many processes as an evening has."""
    env = simpy.Environment()

    def idle(turns):
        for _ in range(turns):
            yield env.timeout(1.0)

    for _ in range(several):
        env.process(idle(count // several))
    env.run()


def run(_folder: Path) -> list[Result]:
    """All of them."""
    setting, routes = _setting()
    count = _events(setting, routes)
    name = f"{EVENINGS} evenings of the demo, {count:,} events"
    events = against(
        name,
        lambda: [one_evening(setting, routes, seed, {}) for seed in range(EVENINGS)],
        "an empty loop of as many events",
        lambda: _empty(count, len(setting.patterns) + 2),
        6.0,
    )
    start = time.perf_counter()
    many_evenings(setting, routes, 1_000)
    seconds = time.perf_counter() - start
    hours = 1_000 * setting.figures["evening_h"] / seconds
    return [
        events,
        Result(f"1,000 evenings ({hours:,.0f} hours a second)", seconds, "ten seconds", ALL_S, 1.0),
        _lanes(setting, routes),
    ]


def _lanes(setting, routes) -> Result:
    """One frame of the lanes with two hundred bars in sight."""
    from umbra_awl.desk.app import application
    from umbra_awl.desk.onair.lanes_picture import LanesPicture
    from umbra_awl.desk.theme.theme import Theme

    app = application()
    picture = LanesPicture(Theme(app))
    picture.resize(880, 430)
    play = Play(setting, traffic=False)
    lanes = tuple(Lane(f"lane {at}", f"Lane {at}") for at in range(7))
    play.book = Book()
    for at in range(BARS):
        bar = play.book.begin(
            f"lane {at % 7}", at // 7 * 2.0, f"Q7QBY {at}", ("you", "others", "far", "lost")[at % 4], at
        )
        bar.end = bar.start + 1.7
    play.world.run(58.0)
    picture.show_play(play, lanes, 80.0)
    picture.show()

    def frame() -> None:
        picture.grab()

    frame()
    times = []
    for _round in range(30):
        start = time.perf_counter()
        frame()
        times.append(time.perf_counter() - start)
    times.sort()
    picture.close()
    return Result(f"one frame of the lanes, {BARS} bars in sight", times[15], "a sixtieth of a second", FRAME_S, 1.0)


def agree(count: int) -> None:
    """Key up on so many routes of random plans and of every crossing of the demo; print how trace and simulation compare."""
    from hypothesis import HealthCheck, Phase, given, settings
    from tests.core.simulation.test_one_truth_in_time import ANY_PLAN, RADIOS, differences, quiet_verdicts

    found: Counter[str] = Counter()

    @given(ANY_PLAN, RADIOS)
    @settings(
        max_examples=count,
        deadline=None,
        database=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    def walk(plan, profile) -> None:
        if found["routes"] < count // 2:
            _look(plan, {radio.key: profile for radio in plan.radios}, found, differences, quiet_verdicts)

    walk()
    for plan in _crossings_of_the_demo():
        if found["routes"] >= count:
            break
        _look(plan, {radio.key: radio.profile for radio in plan.radios}, found, differences, quiet_verdicts)
    print(f"{found['routes']:,} routes keyed: {dict(found)}")


def _look(plan, profiles, found, differences, quiet_verdicts) -> None:
    index, shipped = PlanIndex(plan, TODAY), shipped_profiles()
    fits = {radio.key: fit(index, radio, shipped[profiles[radio.key]]) for radio in plan.radios}
    for radio in fits:
        for _route, said, keyed in quiet_verdicts(index, fits, radio):
            found["routes"] += 1
            found[said.broken.kind if said.broken is not None else "reaches"] += 1
            found["heard"] += bool(keyed.heard_by)
        found["different"] += len(list(differences(index, fits, radio)))


def _crossings_of_the_demo():
    """The demo with other holes: each time some of all its possible crossings, on every slot they have."""
    from random import Random

    from msgspec.structs import replace

    from umbra_awl.core.plan.model import Route
    from umbra_awl.core.routes.crossing import crossing

    plan, chance = demo_plan(TODAY), Random(5)
    index = PlanIndex(plan, TODAY)
    holes = [
        Route(service.key, destination.key, slot)
        for access, service in index.all_services()
        for destination in plan.destinations
        for slot in crossing(index, access, service, destination).slots
    ]
    while True:
        chosen = chance.sample(holes, 60)
        yield replace(plan, routes=tuple({item.key: item for item in chosen}.values()), zones=(), scans=())
