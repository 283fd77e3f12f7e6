"""Lead times: from steps with ranges and dependencies to dates, the critical path, and the spread of the day on the air.

Durations are days. An office step counts Monday to Friday only; public holidays are not known here. A step that has begun goes on
from that day, one that is done ended on its day. The spread is a Monte Carlo over triangular ranges, the same for the same steps.
"""

import math
import random
from collections.abc import Callable, Iterable, Mapping
from datetime import date, timedelta
from functools import partial
from heapq import heappop, heappush
from typing import NamedTuple

from umbra_awl.core.plan.model import Step

DRAWS, LEAST_DRAWS = 1_500, 100
_MOST_DRAWN = 300_000
"""Steps drawn in all: with thousands of steps fewer runs are enough, and soon."""
_DAYS_A_WEEK = 7
_WORK_DAYS = 5


class Bar(NamedTuple):
    """A step with its likely start and end as days from today, its slack in days, and whether the last day hangs on it."""

    step: Step
    start: float
    end: float
    slack: float
    critical: bool
    done: bool
    ready: bool


class Forecast(NamedTuple):
    """The days on which everything is done: all shortest, all likely, all longest; and the drawn days at 10, 50 and 90 %."""

    earliest: date
    likely: date
    latest: date
    p10: date
    p50: date
    p90: date
    draws: tuple[int, ...]


class Chart(NamedTuple):
    """Everything the picture shows."""

    today: date
    bars: tuple[Bar, ...]
    forecast: Forecast | None
    waiting_for: tuple[str, ...]


def in_order(steps: Iterable[Step]) -> list[Step]:
    """Steps so that each comes after those it waits for; of equals the plan's order stays."""
    given = list(steps)
    places = {step.key: at for at, step in enumerate(given)}
    waits = [{places[key] for key in step.after if key in places} for step in given]
    blocks: list[list[int]] = [[] for _step in given]
    for at, before in enumerate(waits):
        for other in before:
            blocks[other].append(at)
    open_waits = [len(before) for before in waits]
    free = [at for at, count in enumerate(open_waits) if not count]
    placed: list[int] = []
    while free:
        at = heappop(free)
        placed.append(at)
        for other in blocks[at]:
            open_waits[other] -= 1
            if not open_waits[other]:
                heappush(free, other)
    rest = sorted(set(range(len(given))) - set(placed))  # those that wait for one another in a ring
    return [given[at] for at in (*placed, *rest)]


def ends(steps: list[Step], today: date, days_of: Callable[[Step], float]) -> dict[str, tuple[float, float]]:
    """Step key to its start and end as days from today, for steps in order."""
    found: dict[str, tuple[float, float]] = {}
    for step in steps:
        done, begun = _day(step.done, today), _day(step.started, today)
        before = max((found[key][1] for key in step.after if key in found), default=0.0)
        if done is not None:
            start = min(begun if begun is not None else done, done)
            found[step.key] = (start, done)
            continue
        start = begun if begun is not None else max(before, 0.0)
        end = _after(start, days_of(step), today) if step.office else start + days_of(step)
        found[step.key] = (start, max(end, before, 0.0))
    return found


def _day(text: str, today: date) -> float | None:
    try:
        return float((date.fromisoformat(text) - today).days)
    except ValueError:
        return None


def _after(start: float, work_days: float, today: date) -> float:
    """The moment after so many working days: weekends pass without counting."""
    weekday = (today.weekday() + start) % _DAYS_A_WEEK
    if weekday >= _WORK_DAYS:
        start += _DAYS_A_WEEK - weekday
        weekday = 0.0
    weeks, rest = divmod(weekday + work_days, _WORK_DAYS)
    if not rest and work_days and weeks:  # it ends on Friday evening
        weeks, rest = weeks - 1, float(_WORK_DAYS)
    return start - weekday + weeks * _DAYS_A_WEEK + rest


def chart(steps: Iterable[Step], today: date, seed: int = 1) -> Chart:
    """The chart of the steps."""
    order = in_order(steps)
    if not order:
        return Chart(today, (), None, ())
    likely = ends(order, today, lambda step: step.likely)
    slack = slacks(order, likely)
    waits = {step.key for step in order if not step.done}
    bars = tuple(
        Bar(
            step,
            *likely[step.key],
            slack[step.key],
            slack[step.key] < 1e-6 and not step.done,
            bool(step.done),
            not step.done and not waits & set(step.after),
        )
        for step in order
    )
    return Chart(
        today,
        bars,
        forecast(order, today, seed),
        tuple(bar.step.name for bar in bars if bar.ready and bar.step.waiting),
    )


def slacks(order: list[Step], times: Mapping[str, tuple[float, float]]) -> dict[str, float]:
    """Step key to the days it may be later without moving the last day (weekends let through as they fall)."""
    last = max(end for _start, end in times.values())
    followers: dict[str, list[str]] = {step.key: [] for step in order}
    for step in order:
        for key in step.after:
            if key in followers:
                followers[key].append(step.key)
    found: dict[str, float] = {}
    for step in reversed(order):
        end = times[step.key][1]
        room = [max(0.0, times[key][0] - end) + found[key] for key in followers[step.key]]
        found[step.key] = min(room) if room else last - end
    return found


def forecast(order: list[Step], today: date, seed: int = 1) -> Forecast:
    """When everything is done."""
    chance = random.Random(seed)  # noqa: S311  (a simulation)
    count = max(LEAST_DRAWS, min(DRAWS, _MOST_DRAWN // len(order)))
    drawn = {step.key: _drawn(chance, step, count) for step in order}
    whole = sorted(_last(order, today, partial(_nth, drawn, at)) for at in range(count))

    def at(share: float) -> date:
        return today + timedelta(days=whole[min(int(share * count), count - 1)])

    plain = (
        _last(order, today, pick) for pick in (lambda step: step.low, lambda step: step.likely, lambda step: step.high)
    )
    earliest, likely, latest = (today + timedelta(days=value) for value in plain)
    return Forecast(earliest, likely, latest, at(0.1), at(0.5), at(0.9), tuple(whole))


def _nth(drawn: Mapping[str, list[float]], at: int, step: Step) -> float:
    return drawn[step.key][at]


def _last(order: list[Step], today: date, days_of: Callable[[Step], float]) -> int:
    """The day, counted from today, on which the last step ends."""
    found = ends(order, today, days_of)
    return max(_day_of(found[step.key][1], done=bool(step.done)) for step in order)


def _day_of(end: float, *, done: bool) -> int:
    """The day on which a step ends: what ends with Friday's evening ends on Friday, not on the Saturday that begins then."""
    return int(end) if done else int(max(0.0, end - 1e-9))


def _drawn(chance: random.Random, step: Step, count: int) -> list[float]:
    """So many durations of a step, one from each of as many equally likely parts of its range, in random order.

    Drawn so (a Latin hypercube), the days hardly move with the seed.
    """
    if step.high <= step.low:
        return [step.likely] * count
    values = [_at_share(step, (at + chance.random()) / count) for at in range(count)]
    chance.shuffle(values)
    return values


def _at_share(step: Step, share: float) -> float:
    """The duration that a share of all is below, of a triangular range."""
    span, rise = step.high - step.low, min(max(step.likely, step.low), step.high) - step.low
    if share * span < rise:
        return step.low + math.sqrt(share * span * rise)
    return step.high - math.sqrt((1 - share) * span * (span - rise))


def day_words(day: date) -> str:
    """A date with its weekday, as a sentence uses it: “Thu 3 Dec 2026”."""
    return f"{day:%a} {day.day} {day:%b %Y}"
