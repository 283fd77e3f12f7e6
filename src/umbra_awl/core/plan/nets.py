"""Nets: gatherings at set times, each with its rule of recurrence in its own time zone. Part of the plan's model."""

from typing import ClassVar, Literal

from umbra_awl.core.plan.air import Value

Every = Literal["once", "day", "week", "month"]


class Net(Value, frozen=True):
    """A net: whom one meets there, and when.

    `destination` is whom one calls and `route` the way one prefers; either may be empty. It begins on the day `begins` (an ISO
    date) at the hour `at` (“19:30”) of its `time_zone`, lasts `minutes`, and comes again `every` so many (`step`) days, weeks or
    months: on the `days` (0 is Monday; none for that of the first one), in a month on the `nth` of them (-1 is the last; none for
    the same day of the month). `until` is the last day, `skips` are days on which there is none. `remind_minutes` before it one
    is reminded; a negative number for never.
    """

    called: ClassVar[str] = "net"
    target: ClassVar[str] = "net"

    key: str
    name: str
    destination: str = ""
    route: str = ""
    time_zone: str = "Etc/UTC"
    begins: str = ""
    at: str = "19:30"
    minutes: int = 60
    every: Every = "week"
    step: int = 1
    days: tuple[int, ...] = ()
    nth: tuple[int, ...] = ()
    until: str = ""
    skips: tuple[str, ...] = ()
    remind_minutes: int = 15
    note: str = ""
