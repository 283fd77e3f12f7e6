"""What was heard on a band by tuning through it."""

from umbra_awl.core.plan.air import Value


class BandHeard(Value, frozen=True):
    """Somebody, or something, heard on a frequency in hertz at a moment in UTC (ISO), in the listener's words."""

    hz: int
    utc: str
    words: str = ""
