"""How fast something long goes and how long it still takes, from what was done so far."""

from typing import NamedTuple


class Pace(NamedTuple):
    """Bytes a second, and seconds left; both 0 while nothing can be said."""

    per_s: float = 0.0
    left_s: float = 0.0

    def words(self) -> str:
        """“85 KB a second, 2 min left”; empty while nothing can be said."""
        if not self.per_s:
            return ""
        left = f"{self.left_s / 60:.0f} min" if self.left_s > 90 else f"{self.left_s:.0f} s"
        return f"{self.per_s / 1000:,.0f} KB a second, {left} left"


_SOON_S = 0.5


def pace(done: int, total: int, seconds: float) -> Pace:
    """The pace after so many bytes of all in so many seconds; nothing is said in the first half second."""
    if seconds < _SOON_S or done <= 0:
        return Pace()
    per_s = done / seconds
    return Pace(per_s, max(0, total - done) / per_s)
