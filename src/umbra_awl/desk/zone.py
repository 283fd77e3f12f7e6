"""The time zone that this computer is set to."""

from PyQt6.QtCore import QTimeZone

from umbra_awl.core.agenda.trips import zone_fault


def home_zone() -> str:
    """The time zone of this computer by its name in the time zone database; UTC where it has none."""
    name = bytes(QTimeZone.systemTimeZoneId().data()).decode(errors="replace")
    return "Etc/UTC" if not name or zone_fault(name) else name
