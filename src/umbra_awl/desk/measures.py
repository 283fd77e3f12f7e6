"""How far and what o'clock is told: kilometres or miles, 24 or 12 hours, point or comma; as the desktop's locale unless chosen.

Frequencies are always megahertz with a point, as radios show them; what is typed may have either mark.
"""

from datetime import datetime
from typing import Literal, NamedTuple

from PyQt6.QtCore import QLocale

KM_PER_MILE = 1.609344
"""The international mile, exactly."""
Far = Literal["km", "mi"]
FAR_WORDS = {"km": "kilometres", "mi": "miles"}
CLOCK_WORDS = {"24": "24 hours", "12": "12 hours, am and pm"}
MARK_WORDS = {".": "point", ",": "comma"}


class Measures(NamedTuple):
    """What is chosen."""

    far: str = "km"
    clock: str = "24"
    mark: str = "."

    @property
    def km_each(self) -> float:
        """How many kilometres the unit has."""
        return KM_PER_MILE if self.far == "mi" else 1.0

    def number(self, value: float, places: int) -> str:
        """A number with so many decimals and the chosen mark; thousands parted by a narrow blank."""
        text = f"{value:,.{places}f}".replace(",", "\u202f")
        return text.replace(".", self.mark)

    def distance(self, km: float, places: int | None = None) -> str:
        """“12.4 km” or “7,7 mi”: one decimal under a hundred unless told otherwise."""
        there = km / self.km_each
        return f"{self.number(there, places if places is not None else 1 if there < 100 else 0)} {self.far}"

    def round_distance(self, km: float) -> str:
        """A round distance of a ring or a scale: no more decimals than it needs."""
        return f"{km / self.km_each:g}".replace(".", self.mark) + f" {self.far}"

    def time(self, moment: datetime) -> str:
        """Hours and minutes."""
        return f"{moment:%H:%M}" if self.clock == "24" else f"{moment:%I:%M %p}".lstrip("0").lower()


def of_locale(locale: QLocale | None = None) -> Measures:
    """What a locale asks for; the desktop's when none is given."""
    here = locale or QLocale.system()
    miles = here.measurementSystem() != QLocale.MeasurementSystem.MetricSystem
    twelve = "ap" in here.timeFormat(QLocale.FormatType.ShortFormat).lower()
    mark = here.decimalPoint()
    return Measures("mi" if miles else "km", "12" if twelve else "24", mark if mark in MARK_WORDS else ".")


def chosen(far: str, clock: str, mark: str, locale: QLocale | None = None) -> Measures:
    """What the operator chose, and the locale's where nothing was chosen."""
    usual = of_locale(locale)
    return Measures(
        far if far in FAR_WORDS else usual.far,
        clock if clock in CLOCK_WORDS else usual.clock,
        mark if mark in MARK_WORDS else usual.mark,
    )
