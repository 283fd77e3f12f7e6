"""Classes of licence, as a table with its source: what one of them usually allows. The operator's own licence decides.

The table holds the steps of the Velmar Isles. Another country's are lines here; whatever is filled in can be changed afterwards.
"""

from typing import NamedTuple

from umbra_awl.core.facts.bands import Region


class LicenceClass(NamedTuple):
    """A class: its name, the IARU region it is of, the bands it reaches (none: all amateur bands), watts (0: no limit given)."""

    name: str
    region: Region
    bands: tuple[str, ...]
    max_watts: float
    source: str


_VELMAR = "Licence of the Velmar Isles, steps 1 and 2"
CLASSES = (
    LicenceClass("First", 1, ("2 m", "70 cm"), 10.0, _VELMAR),
    LicenceClass("Full", 1, (), 0.0, _VELMAR),
)


def classes_of(region: Region) -> tuple[LicenceClass, ...]:
    """The classes known in an IARU region."""
    return tuple(item for item in CLASSES if item.region == region)
