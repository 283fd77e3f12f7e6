"""Nets as iCalendar (RFC 5545), out and in: each event with its zone and its rule. What cannot be taken is told.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

from collections.abc import Iterable
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import Any, NamedTuple
from zoneinfo import ZoneInfo

from msgspec.structs import replace

from umbra_awl.core.agenda.recurrence import MOST_MINUTES, days_of, net_fault, time_of
from umbra_awl.core.agenda.trips import zone_fault
from umbra_awl.core.keep.limits import MB, read_within
from umbra_awl.core.plan.model import Every, Net

_STAMP = datetime(2026, 1, 1, tzinfo=UTC)
_DAYS = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")
_EVERY: dict[str, Every] = {"DAILY": "day", "WEEKLY": "week", "MONTHLY": "month"}
_TAKEN = frozenset({"FREQ", "INTERVAL", "BYDAY", "UNTIL", "WKST", "COUNT", "BYMONTHDAY", "BYSETPOS"})
_OWN = "-//Umbra Awl//EN"
_NEVER = -1
MOST_EVENTS = 2_000
MOST_COUNT = 10_000
CALENDAR_BYTES = 8 * MB


class Brought(NamedTuple):
    """Nets of a calendar, without keys, and the events that were not taken, each with the reason."""

    nets: tuple[Net, ...]
    faults: tuple[str, ...]


def nets_ics(nets: Iterable[Net], texts: dict[str, str] | None = None) -> bytes:
    """Nets as a calendar. `texts` says how each is reached, by its key. A net whose times cannot be worked out is left out."""
    from icalendar import Calendar

    made = Calendar()
    made.add("prodid", _OWN)
    made.add("version", "2.0")
    for net in nets:
        if not net_fault(net):
            made.add_component(_event(net, (texts or {}).get(net.key, "")))
    made.add_missing_timezones(first_date=date(2020, 1, 1), last_date=date(2038, 1, 1))
    return bytes(made.to_ical())


def _event(net: Net, text: str) -> Any:
    from icalendar import Alarm, Event

    event, zone = Event(), ZoneInfo(net.time_zone)
    at = time_of(net.at)
    assert at is not None  # noqa: S101  (a net without fault)
    start = datetime.combine(next(days_of(net)), at, zone)
    event.add("uid", f"net-{net.key}@umbra-awl.invalid")
    event.add("dtstamp", _STAMP)
    event.add("summary", net.name)
    event.add("dtstart", start)
    event.add("duration", timedelta(minutes=net.minutes))
    if net.every != "once":
        event.add("rrule", _rule(net, start))
    for day in net.skips:
        event.add("exdate", datetime.combine(date.fromisoformat(day), at, zone))
    if text:
        event.add("description", text)  # a note is one's own, and calendars are handed round
    if net.remind_minutes >= 0:
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", net.name)
        alarm.add("trigger", -timedelta(minutes=net.remind_minutes))
        event.add_component(alarm)
    return event


def _rule(net: Net, start: datetime) -> dict[str, Any]:
    words = {value: key for key, value in _EVERY.items()}
    rule: dict[str, Any] = {"freq": words[net.every], "interval": net.step}
    days = sorted(set(net.days)) or ([start.weekday()] if net.nth else [])
    if net.every == "week" and days:
        rule["byday"] = [_DAYS[day] for day in days]
    if net.every == "month" and days:
        rule["byday"] = [f"{nth or ''}{_DAYS[day]}" for day in days for nth in (net.nth or (0,))]
    if net.every == "week":
        rule["wkst"] = "MO"
    if net.until:
        last = datetime.combine(date.fromisoformat(net.until), datetime.max.time().replace(microsecond=0), start.tzinfo)
        rule["until"] = last.astimezone(UTC)
    return rule


def read_ics_file(path: Path, home: str) -> Brought:
    """The nets in a calendar's file. Raises OSError and ValueError."""
    return read_ics(read_within(path, CALENDAR_BYTES), home)


def read_ics(data: bytes, home: str) -> Brought:
    """The nets in a calendar; `home` is the zone of events that name none. Raises ValueError for what is no calendar."""
    from icalendar import Calendar

    try:
        found = Calendar.from_ical(data)
        events = found.walk("VEVENT")
    except (ValueError, KeyError, IndexError, TypeError, AttributeError, RecursionError, OSError) as error:
        raise ValueError(
            f"This is no calendar that can be read ({str(error)[:120] or type(error).__name__})."
        ) from None
    never = str(found.get("prodid", "")) == _OWN
    nets: list[Net] = []
    faults: list[str] = []
    for event in events[:MOST_EVENTS]:
        name = str(event.get("summary", "without a name"))[:60]
        try:
            nets.append(_reminded(_net(event, home), event, never=never))
            if told := _at_other_hours(event, nets[-1]):
                faults.append(f"“{name}”: {told}")
        except CalendarError as error:
            faults.append(f"“{name}”: {error}")
        except (ValueError, KeyError, IndexError, TypeError, AttributeError, OverflowError, OSError) as error:
            faults.append(f"“{name}”: it cannot be read ({str(error)[:80] or type(error).__name__})")
    if len(events) > MOST_EVENTS:
        faults.append(f"Only the first {MOST_EVENTS:,} events were looked at.")
    return Brought(tuple(nets), tuple(faults))


class CalendarError(ValueError):
    """An event that is no net; the message says why."""


def _reminded(net: Net, event: Any, *, never: bool) -> Net:
    """A net with its event's alarm before the start; without one never, where it was written so, else as is usual here."""
    for alarm in event.walk("VALARM"):
        trigger = alarm.get("trigger")
        if (
            trigger is not None
            and isinstance(trigger.dt, timedelta)
            and trigger.params.get("RELATED", "START") == "START"
        ):
            minutes = round(-trigger.dt.total_seconds() / 60)
            if 0 <= minutes <= MOST_MINUTES:
                return replace(net, remind_minutes=minutes)
    return replace(net, remind_minutes=_NEVER) if never else net


def _net(event: Any, home: str) -> Net:
    """The net of an event. Raises NotTakenError where there is none."""
    if str(event.get("status", "")).upper() == "CANCELLED":
        raise CalendarError("it is cancelled")
    start = event["dtstart"].dt
    if not isinstance(start, datetime):
        raise CalendarError("it has no hour")
    told = str(getattr(start.tzinfo, "key", "") or event["dtstart"].params.get("TZID", ""))
    zone = told if start.tzinfo is not None or told else home
    if start.tzinfo is not None and (start.tzinfo is UTC or zone in {"UTC", ""}):
        zone, start = "Etc/UTC", start.astimezone(UTC)
    if zone_fault(zone):
        raise CalendarError(f"its time zone “{zone[:40]}” is not known here")
    rule = event.get("rrule")
    if isinstance(rule, list):
        raise CalendarError("it has several rules; give it one net for each")
    if event.get("exrule") is not None:
        raise CalendarError("it has a rule of exceptions (EXRULE), which is not taken")
    if event.get("rdate") is not None or event.get("recurrence-id") is not None:
        raise CalendarError("it has single dates beside its rule")
    net = Net(
        "",
        str(event.get("summary", "")).strip()[:120] or "Net",
        time_zone=zone,
        begins=start.date().isoformat(),
        at=f"{start:%H:%M}",
        minutes=_minutes(event, start),
        skips=_skips(event, start, zone),
        note=str(event.get("description", "")).strip()[:2_000],
        **(_by_rule({name.upper(): value for name, value in rule.items()}, start, zone) if rule is not None else _ONCE),
    )
    fault = net_fault(net)
    if fault:
        raise CalendarError(fault)
    return net


_ONCE: dict[str, Any] = {"every": "once"}


def _by_rule(rule: dict[str, list[Any]], start: datetime, zone: str) -> dict[str, Any]:
    """The fields of a net that a rule gives. Raises NotTakenError where it gives none."""
    if rule.keys() - _TAKEN:
        raise CalendarError(f"its rule has {', '.join(sorted(rule.keys() - _TAKEN))}, which is not taken")
    every = _EVERY.get(str(rule["FREQ"][0]).upper())
    if every is None:
        raise CalendarError(f"it comes again {str(rule['FREQ'][0]).lower()}, which is not taken")
    step = int(rule.get("INTERVAL", [1])[0])
    month_days = [int(item) for item in rule.get("BYMONTHDAY", [])]
    if month_days and (every != "month" or month_days != [start.day]):
        raise CalendarError("its rule has days of the month, which are taken only where it is the first one's")
    days, nth = _by_day([str(item) for item in rule.get("BYDAY", [])])
    if "BYSETPOS" in rule:
        nth = _of_month(every, days, nth, [int(item) for item in rule["BYSETPOS"]])
    if days and every == "day":
        if step != 1:
            raise CalendarError("it comes every few days, but on some days of the week only, which is not taken")
        every = "week"
    if step > 1 and every == "week" and str(rule.get("WKST", ["MO"])[0]).upper() != "MO":
        raise CalendarError("its weeks do not begin on a Monday, which is not taken")
    fields: dict[str, Any] = {"every": every, "step": step, "days": days, "nth": nth}
    if "UNTIL" in rule:
        fields["until"] = _last_day(rule["UNTIL"][0], start, zone).isoformat()
    if "COUNT" in rule:
        fields["until"] = _last_of(fields, start, int(rule["COUNT"][0]))
    return fields


def _of_month(every: Every, days: tuple[int, ...], nth: tuple[int, ...], places: list[int]) -> tuple[int, ...]:
    """Which of a month's weekdays, told as places among them. Raises NotTakenError where it is not that."""
    if every != "month" or len(days) != 1 or nth:
        raise CalendarError("its rule has BYSETPOS, which is taken for one day of the week in a month only")
    return tuple(places)


def _day_in(moment: date | datetime, zone: str) -> date:
    """The day of a moment in a zone; a date, and a moment without a zone, is taken as it stands."""
    if not isinstance(moment, datetime):
        return moment
    return (moment.astimezone(ZoneInfo(zone)) if moment.tzinfo is not None else moment).date()


def _last_day(until: date | datetime, start: datetime, zone: str) -> date:
    """The last day on which it may begin: UNTIL is a moment, and what begins later on its day is no more (RFC 5545, 3.3.10)."""
    day = _day_in(until, zone)
    if not isinstance(until, datetime):
        return day
    told = until.astimezone(ZoneInfo(zone)) if until.tzinfo is not None else until
    return day if told.time() >= start.time() else day - timedelta(days=1)


def _by_day(words: list[str]) -> tuple[tuple[int, ...], tuple[int, ...]]:
    """Days of the week, and which of a month's. Raises ValueError where they do not belong together."""
    pairs = [(int(word[:-2] or 0), _DAYS.index(word[-2:].upper())) for word in words]
    days, nth = sorted({day for _n, day in pairs}), list(dict.fromkeys(n for n, _day in pairs))
    if len(pairs) != len(days) * len(nth):
        raise ValueError("its rule mixes days of different weeks")
    return tuple(days), tuple(n for n in nth if n)


def _last_of(fields: dict[str, Any], start: datetime, count: int) -> str:
    if not 1 <= count <= MOST_COUNT:
        raise ValueError(f"it is to come {count} times")
    net = Net("", "-", begins=start.date().isoformat(), **fields)
    last = start.date()
    for at, day in enumerate(days_of(net), 1):
        last = day
        if at == count:
            break
    return last.isoformat()


def _minutes(event: Any, start: datetime) -> int:
    lasts = timedelta(hours=1)
    if event.get("duration") is not None:
        lasts = event["duration"].dt
    elif event.get("dtend") is not None and isinstance(event["dtend"].dt, datetime):
        end = event["dtend"].dt
        if (end.tzinfo is None) == (start.tzinfo is None):
            lasts = end - start
    return max(1, min(24 * 60, round(lasts.total_seconds() / 60)))


def _exceptions(event: Any) -> list[date | datetime]:
    found = event.get("exdate")
    lists = found if isinstance(found, list) else [found] if found is not None else []
    return [one.dt for item in lists for one in item.dts]


def _is_of(moment: date | datetime, start: datetime, zone: str) -> bool:
    """Whether an exception is one of a net's own times: a whole day is, and a moment at the hour at which the net begins."""
    if not isinstance(moment, datetime):
        return True
    told = moment.astimezone(ZoneInfo(zone)) if moment.tzinfo is not None else moment
    return (told.hour, told.minute) == (start.hour, start.minute)


def _skips(event: Any, start: datetime, zone: str) -> tuple[str, ...]:
    own = {_day_in(moment, zone).isoformat() for moment in _exceptions(event) if _is_of(moment, start, zone)}
    return tuple(sorted(own))


def _at_other_hours(event: Any, net: Net) -> str:
    """What is to be said of exceptions that are no time of the net; empty where there are none."""
    at = time_of(net.at)
    assert at is not None  # noqa: S101  (a net without fault)
    start = datetime.combine(date.fromisoformat(net.begins), at)
    strange = sum(not _is_of(moment, start, net.time_zone) for moment in _exceptions(event))
    many = f"{strange} exceptions are" if strange > 1 else "an exception is"
    return f"taken, but {many} at another hour than {net.at}, and takes no meeting away" if strange else ""
