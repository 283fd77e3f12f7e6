"""Steps and trips as iCalendar (RFC 5545), so that any calendar can show them.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

from datetime import UTC, date, datetime, timedelta
from typing import Any

from umbra_awl.core.agenda.lead import Chart
from umbra_awl.core.plan.model import Trip

_STAMP = datetime(2026, 1, 1, tzinfo=UTC)


def _event(uid: str, words: str, begins: date, ends: date, text: str) -> Any:
    from icalendar import Event

    event = Event()
    event.add("uid", f"{uid}@umbra-awl.invalid")
    event.add("dtstamp", _STAMP)
    event.add("summary", words)
    event.add("dtstart", begins)
    event.add("dtend", ends + timedelta(days=1))
    if text:
        event.add("description", text)
    return event


def _calendar() -> Any:
    from icalendar import Calendar

    made = Calendar()
    made.add("prodid", "-//Umbra Awl//EN")
    made.add("version", "2.0")
    return made


def chart_ics(chart: Chart) -> bytes:
    """Every step that is not done as an event of whole days, and the likely day on the air."""
    made = _calendar()
    for bar in chart.bars:
        if not bar.done:
            begins, ends = (
                chart.today + timedelta(days=int(value)) for value in (bar.start, max(bar.start, bar.end - 1e-9))
            )
            made.add_component(_event(f"step-{bar.step.key}", bar.step.name, begins, ends, bar.step.needs))
    if chart.forecast is not None:
        likely = chart.forecast.p50
        text = f"Between {chart.forecast.p10} and {chart.forecast.p90} in eight of ten simulated runs. An estimate."
        made.add_component(_event("on-the-air", "On the air (likely)", likely, likely, text))
    return bytes(made.to_ical())


def trip_ics(trip: Trip) -> bytes:
    """A trip and its reminders. Raises ValueError when it has no dates."""
    begins, ends = date.fromisoformat(trip.begins), date.fromisoformat(trip.ends or trip.begins)
    made = _calendar()
    made.add_component(_event(f"trip-{trip.key}", f"Trip: {trip.name}", begins, ends, ""))
    for at, reminder in enumerate(trip.reminders):
        day = begins - timedelta(days=reminder.days_before)
        if not reminder.done:
            made.add_component(_event(f"trip-{trip.key}-{at}", reminder.text, day, day, f"For the trip {trip.name}"))
    return bytes(made.to_ical())
