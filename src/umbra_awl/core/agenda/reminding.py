"""Which nets are to be reminded of just now."""

from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import NamedTuple

from umbra_awl.core.agenda.recurrence import next_meeting, until_words
from umbra_awl.core.plan.model import Net


class Due(NamedTuple):
    """A net that begins soon."""

    net: Net
    start: datetime

    def words(self, now: datetime) -> str:
        """The reminder."""
        return f"{self.net.name} begins {until_words(self.start, now)}. Log, Nets says how to reach it."


def due(nets: Iterable[Net], now: datetime) -> list[Due]:
    """The nets whose time of reminding has come and which have not begun."""
    found = []
    for net in nets:
        meeting = next_meeting(net, now) if net.remind_minutes >= 0 else None
        if meeting is not None and now < meeting.start <= now + timedelta(minutes=net.remind_minutes):
            found.append(Due(net, meeting.start))
    return found
