"""The moment at which tests run: the calendar alone never turns one red."""

import os
from datetime import UTC, datetime, timedelta

from umbra_awl.core.keep.clock import NOW, Clock, clock_of
from umbra_awl.demo.told_of import TOLD_OF

os.environ.setdefault(
    NOW, f"{datetime(TOLD_OF.year, TOLD_OF.month, TOLD_OF.day, 15, 30, tzinfo=UTC):%Y-%m-%dT%H:%M:%SZ}"
)
CLOCK: Clock = clock_of(os.environ)
"""Stands at the demo's own day in the afternoon, or where the environment says; processes that tests start stand there too."""
TODAY = CLOCK.today()
MOMENT = CLOCK.utc()
LOCAL = CLOCK.local()


def ago(days: float) -> str:
    """A moment so many days back, as entries of the log write it."""
    return f"{MOMENT - timedelta(days=days):%Y-%m-%dT%H:%M:%SZ}"
