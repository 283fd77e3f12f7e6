"""The clock on the wall: now, and the zone that this computer is set to."""

from datetime import UTC, datetime

from PyQt6.QtCore import QTimeZone

from umbra_awl.core.agenda.trips import zone_fault


def now_utc() -> datetime:
    """The moment, aware of its zone."""
    return datetime.now(UTC)


def home_zone() -> str:
    """The time zone of this computer by its name in the time zone database; UTC where it has none."""
    name = bytes(QTimeZone.systemTimeZoneId().data()).decode(errors="replace")
    return "Etc/UTC" if not name or zone_fault(name) else name
