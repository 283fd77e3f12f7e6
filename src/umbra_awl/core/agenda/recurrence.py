"""When a net is: its rule of recurrence worked out in its own time zone, daylight saving and all.

An hour that a clock change leaves out is taken with the offset before the change, one that comes twice is the first (RFC 5545).
"""

import calendar
from collections.abc import Iterable, Iterator
from datetime import UTC, date, datetime, time, timedelta
from typing import NamedTuple
from zoneinfo import ZoneInfo

from umbra_awl.core.agenda.trips import zone_fault
from umbra_awl.core.plan.model import Net

WEEK = 7
MOST_STEP, MOST_MINUTES = 366, 24 * 60
_FAR = date(2200, 1, 1)
DAY_WORDS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
_NTH_WORDS = {1: "first", 2: "second", 3: "third", 4: "fourth", 5: "fifth", -1: "last", -2: "last but one"}


class Meeting(NamedTuple):
    """One time that a net meets: its key, and from when to when, in UTC."""

    net: str
    start: datetime
    end: datetime


def day_of(text: str) -> date | None:
    """The day in an ISO text; None where it is none."""
    try:
        return date.fromisoformat(text)
    except ValueError:
        return None


def time_of(text: str) -> time | None:
    """The hour in a text such as “19:30”; None where it is none."""
    hours, _, minutes = text.strip().partition(":")
    if not (hours.isascii() and hours.isdigit() and minutes.isascii() and minutes.isdigit() and len(minutes) == 2):
        return None
    return time(int(hours), int(minutes)) if int(hours) < 24 and int(minutes) < 60 else None


def net_fault(net: Net) -> str:
    """Why a net's times cannot be worked out, with what to write; empty when they can."""
    return next(_faults(net), "")


def _faults(net: Net) -> Iterator[str]:
    if not net.name.strip():
        yield "A net needs a name."
    yield from filter(None, (zone_fault(net.time_zone),))
    if day_of(net.begins) is None:
        yield "Give the day of the first one, such as 2026-12-01."
    if time_of(net.at) is None:
        yield f"“{net.at}” is no hour. Write it as on a clock of 24 hours: 19:30."
    if not 1 <= net.minutes <= MOST_MINUTES:
        yield "A net lasts from one minute to a day."
    if not 1 <= net.step <= MOST_STEP:
        yield f"It comes again after 1 to {MOST_STEP} days, weeks or months."
    if net.remind_minutes > MOST_MINUTES:
        yield "One is reminded a day before at the earliest."
    if net.until and (day_of(net.until) is None or net.until < net.begins):
        yield "The last day is a date, not before the first."
    if not (set(net.days) <= set(range(WEEK)) and set(net.nth) <= _NTH_WORDS.keys()):
        yield "The days are those of the week, in a month the first to the fifth of them or the last."
    if next(days_of(net), None) is None:
        yield "By this rule it never meets."


def days_of(net: Net, first: date | None = None) -> Iterator[date]:
    """The days of a net in its own zone, from a day on. The rule must have a day to begin with."""
    begins = day_of(net.begins)
    if begins is None:
        return
    last = day_of(net.until) or _FAR
    skips = frozenset(net.skips)
    low = max(begins, first or begins)
    for day in _by_rule(net, begins, low):
        if day > last:
            return
        if day >= low and day.isoformat() not in skips:
            yield day


def _by_rule(net: Net, begins: date, low: date) -> Iterator[date]:
    """The days of a rule in their order, from somewhere not after `low` on."""
    step = max(1, net.step)
    if net.every == "once":
        yield begins
    elif net.every == "day":
        past = max(0, (low - begins).days // step)
        day = begins + timedelta(days=past * step)
        while day < _FAR:
            yield day
            day += timedelta(days=step)
    elif net.every == "week":
        yield from _weekly(net, begins, low, step)
    else:
        yield from _monthly(net, begins, low, step)


def _weekly(net: Net, begins: date, low: date, step: int) -> Iterator[date]:
    monday = begins - timedelta(days=begins.weekday())
    past = max(0, (low - monday).days // (WEEK * step))
    monday += timedelta(days=past * WEEK * step)
    days = sorted(set(net.days)) or [begins.weekday()]
    while monday < _FAR:
        yield from (monday + timedelta(days=day) for day in days)
        monday += timedelta(days=WEEK * step)


def _monthly(net: Net, begins: date, low: date, step: int) -> Iterator[date]:
    months = begins.year * 12 + begins.month - 1
    past = max(0, (low.year * 12 + low.month - 1 - months) // step)
    months += past * step
    while months < _FAR.year * 12:
        year, month = divmod(months, 12)
        yield from sorted(set(_in_month(net, begins, year, month + 1)))
        months += step


def _in_month(net: Net, begins: date, year: int, month: int) -> Iterator[date]:
    first_weekday, count = calendar.monthrange(year, month)
    if not net.nth and not net.days:
        if begins.day <= count:
            yield date(year, month, begins.day)
        return
    for weekday in sorted(set(net.days)) or [begins.weekday()]:
        fitting = list(range(1 + (weekday - first_weekday) % WEEK, count + 1, WEEK))
        for nth in net.nth or tuple(range(1, len(fitting) + 1)):
            at = nth - 1 if nth > 0 else len(fitting) + nth
            if 0 <= at < len(fitting):
                yield date(year, month, fitting[at])


def meetings(net: Net, since: datetime, until: datetime) -> Iterator[Meeting]:
    """The times a net meets that are not over at `since` and begin before `until`; none where its times cannot be worked out.

    Both moments are aware of their zone.
    """
    at = time_of(net.at)
    if at is None or zone_fault(net.time_zone):
        return
    zone = ZoneInfo(net.time_zone)
    lasts = timedelta(minutes=net.minutes)
    first = (since - lasts).astimezone(zone).date() - timedelta(days=1)
    for day in days_of(net, first):
        start = datetime.combine(day, at, zone).astimezone(UTC)
        if start >= until.astimezone(UTC):
            return
        if start + lasts > since:
            yield Meeting(net.key, start, start + lasts)


def next_meeting(net: Net, now: datetime) -> Meeting | None:
    """The meeting that is on, or else the next one; None where there is none any more within ten years."""
    return next(meetings(net, now, now + timedelta(days=3660)), None)


def in_order(nets: tuple[Net, ...], since: datetime, until: datetime) -> list[Meeting]:
    """Every meeting of some nets in a span, by its start."""
    return sorted(
        (item for net in nets for item in meetings(net, since, until)), key=lambda item: (item.start, item.net)
    )


_MOST_AT_ONCE = 8


class Clash(NamedTuple):
    """Two meetings that overlap, and how often within the span that was looked at."""

    one: Meeting
    other: Meeting
    times: int


def clashes(nets: tuple[Net, ...], since: datetime, days: int = 28) -> list[Clash]:
    """Nets that meet at the same time within some days, each pair once, by its first time.

    Of dozens that run at once only some are compared with each other: nobody reads thousands of pairs.
    """
    found: dict[frozenset[str], Clash] = {}
    for other, item in overlapping(in_order(nets, since, since + timedelta(days=days))):
        pair = frozenset((item.net, other.net))
        before = found.get(pair)
        found[pair] = before._replace(times=before.times + 1) if before else Clash(other, item, 1)
    return list(found.values())


def overlapping(meetings: Iterable[Meeting]) -> Iterator[tuple[Meeting, Meeting]]:
    """Pairs of meetings of two nets that overlap, out of some in the order of their start; the earlier one first."""
    running: list[Meeting] = []
    for item in meetings:
        running = [other for other in running[-_MOST_AT_ONCE:] if other.end > item.start]
        yield from ((other, item) for other in running if other.net != item.net)
        running.append(item)


def rule_words(net: Net) -> str:
    """A net's rule as people say it: “every second Tuesday, 19:30, 60 minutes, Atlantic/Azores”."""
    return f"{_when_words(net)}, {net.at} for {net.minutes} min, {net.time_zone}"


def _when_words(net: Net) -> str:
    if net.every == "once":
        return f"once, on {net.begins}"
    begins = day_of(net.begins)
    days = [DAY_WORDS[day] for day in sorted(set(net.days)) if 0 <= day < WEEK]
    if net.every == "month":
        if not (days or net.nth):
            return f"day {begins.day if begins else '?'} of {_every('month', net.step)}"
        days = days or ([DAY_WORDS[begins.weekday()]] if begins else [])
        nth = [_NTH_WORDS[item] for item in net.nth if item in _NTH_WORDS] or ["every"]
        return f"{' and '.join(nth)} {' and '.join(days)} of {_every('month', net.step)}"
    if net.every == "day":
        return _every("day", net.step)
    days = days or ([DAY_WORDS[begins.weekday()]] if begins else [])
    plain = " and ".join(days)
    return f"every {plain}" if net.step == 1 else f"{plain} of {_every('week', net.step)}"


def _every(unit: str, step: int) -> str:
    return f"every {unit}" if step == 1 else f"every second {unit}" if step == 2 else f"every {step} {unit}s"


def until_words(start: datetime, now: datetime) -> str:
    """How long it is until something begins: “in 2 h 15 min”, “on now” when it has begun."""
    minutes = int((start - now).total_seconds() // 60)
    if minutes < 0:
        return "on now"
    days, rest = divmod(minutes, 24 * 60)
    hours, left = divmod(rest, 60)
    if days:
        return f"in {days} d {hours} h"
    return f"in {hours} h {left} min" if hours else f"in {left} min"
