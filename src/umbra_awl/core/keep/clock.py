"""The one clock. Whoever needs today or now asks a clock that was handed to them; only this module reads the computer's."""

from collections.abc import Mapping
from datetime import UTC, date, datetime

NOW = "UMBRA_AWL_NOW"
"""The environment variable that sets the clock: a moment in ISO 8601, as 2026-11-24T15:30:00Z; the clock stands there."""


class Clock:
    """Tells the day and the moment. One that is given a moment stands at it; one that is given none runs with the computer's."""

    def __init__(self, stands_at: datetime | None = None) -> None:
        """Raises ValueError for a moment without a zone."""
        if stands_at is not None and stands_at.tzinfo is None:
            raise ValueError("a moment needs its distance from UTC, as in 2026-11-24T15:30:00Z")
        self._stands_at = stands_at

    def utc(self) -> datetime:
        """The moment, in UTC and aware of it."""
        return (self._stands_at or datetime.now(UTC)).astimezone(UTC)

    def local(self) -> datetime:
        """The moment as the clocks of this computer's time zone show it, without a zone: for names and marks of files."""
        return self.utc().astimezone().replace(tzinfo=None)

    def today(self) -> date:
        """The day by the clocks of this computer's time zone."""
        return self.local().date()


RUNNING = Clock()
"""The computer's own."""


def clock_of(environment: Mapping[str, str]) -> Clock:
    """The clock of a process: standing where its environment says, else running. Raises ValueError for what is no moment."""
    said = environment.get(NOW, "")
    if not said:
        return RUNNING
    try:
        return Clock(datetime.fromisoformat(said))
    except ValueError as error:
        raise ValueError(f"{NOW} is “{said}”: {error}") from None
