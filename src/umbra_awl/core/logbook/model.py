"""An entry of the log, and the grades of proof. Moments are UTC, frequencies integer hertz, rates in per cent, RSSI in dBm.

Hearing and being heard are two proofs: the repeater's signal proves the way to you, a beep or an echo the way there.
"""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Literal

import msgspec

Grade = Literal["failed", "heard-it", "own-key", "echo", "heard-by", "answered"]
By = Literal["hand", "hotspot", "simulation", "file"]
GRADE_WORDS: Mapping[Grade, str] = MappingProxyType(
    {
        "failed": "tried, and failed",
        "heard-it": "heard the repeater",
        "own-key": "own key heard",
        "echo": "echo came back",
        "heard-by": "heard by somebody",
        "answered": "answered",
    }
)
RANK: Mapping[str, int] = MappingProxyType(
    {"": 0, "failed": 0, "heard-it": 1, "own-key": 2, "echo": 3, "heard-by": 4, "answered": 5}
)
"""How far a grade reaches; “failed” proves nothing."""
SHARES: Mapping[str, float] = MappingProxyType(
    {"heard-it": 0.25, "own-key": 0.5, "echo": 0.75, "heard-by": 1.0, "answered": 1.0}
)
"""How much of its disc a grade fills; never tried is hollow, a failure is a cross."""
HEARS: frozenset[str] = frozenset({"heard-it", "echo", "answered"})
IS_HEARD: frozenset[str] = frozenset({"own-key", "echo", "heard-by", "answered"})
"""Grades that prove that one hears, and that one is heard."""


class Entry(msgspec.Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """One entry.

    `key` names it for good; `route` is a route's key where it was made by one; `call`, `name`, `place` are the other station's;
    `spot` is the place it worked from (`my_locator` where that is a place on the map), `here` from where one operates, `path`
    through what (“home hotspot over the phone”).
    `stood` are the values it stood on by their names, `more` fields of other programs that are kept as they came.
    `confirmed` says how the other side confirmed it, empty for not.
    """

    key: str
    utc: str
    grade: Grade = "answered"
    route: str = ""
    radio: str = ""
    call: str = ""
    name: str = ""
    place: str = ""
    report: str = ""
    sent: str = ""
    ber: float | None = None
    rssi_dbm: int | None = None
    mode: str = ""
    hz: int | None = None
    rx_hz: int | None = None
    spot: str = ""
    here: str = ""
    path: str = ""
    note: str = ""
    by: By = "hand"
    confirmed: str = ""
    own_call: str = ""
    locator: str = ""
    my_locator: str = ""
    stood: dict[str, str] = {}
    more: dict[str, str] = {}

    @property
    def proves(self) -> bool:
        """Whether it counts as proof: what was only simulated does not."""
        return self.by != "simulation"
