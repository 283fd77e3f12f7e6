"""Who uses which frequency around a place: hertz, width, distance and level of each, as columns that can be reckoned with."""

from collections.abc import Iterable
from typing import TYPE_CHECKING, NamedTuple

from umbra_awl.core.estimate.reach import site_end
from umbra_awl.core.facts.earth import EARTH_KM, Position
from umbra_awl.core.facts.emissions import emission
from umbra_awl.core.facts.repeaters import HOTSPOT_HEIGHT_M, HOTSPOT_WATTS
from umbra_awl.core.modes.table import sent_by
from umbra_awl.core.plan.model import AccessPoint, FmAir, Neighbour, Plan, Service

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

_NEIGHBOUR_KM, _OWN_KM = 0.2, 0.02
_NEIGHBOUR_HZ = 12_500
UNPLACED_KM = 15.0
"""Something whose place is not known may be close by."""


class User(NamedTuple):
    """One frequency in use: what for, in a few words (“Q0BLK output”); own ones belong to the operator's plan."""

    hz: int
    width_hz: int
    words: str
    lat: float | None = None
    lon: float | None = None
    km: float | None = None
    watts: float = 25.0
    height_m: float = 60.0
    sends: bool = True
    own: bool = False


class Occupied(NamedTuple):
    """The users around a place as columns of the same length, sorted by frequency: hertz, half widths, km, levels in dBm.

    The level is Egli's median at the place, of what is sent there; where only a receiver stands, of what its users must put up
    with. `words` are told only when asked for.
    """

    hz: "npt.NDArray[np.int64]"
    half_hz: "npt.NDArray[np.int64]"
    km: "npt.NDArray[np.float64]"
    level_dbm: "npt.NDArray[np.float64]"
    sends: "npt.NDArray[np.bool_]"
    own: "npt.NDArray[np.bool_]"
    words: tuple[str, ...]


def users_of(access: AccessPoint, km: float | None = None, *, own: bool = False) -> list[User]:
    """The frequencies of an access point: its outputs and its inputs."""
    made: list[User] = []
    for service in access.services:
        width = _width(service)
        end = site_end(service.mode, access.kind, access.watts, access.height_m)
        given = (access.lat, access.lon, km, end.watts, end.height_m)
        said = access.by_site if own else access.by_call
        if service.rx_hz == service.tx_hz:
            made.append(User(service.rx_hz, width, f"{said} simplex", *given, own=own))
            continue
        made.append(User(service.rx_hz, width, f"{said} output", *given, own=own))
        made.append(User(service.tx_hz, width, f"{said} input", *given, sends=False, own=own))
    return made


def _width(service: Service) -> int:
    if isinstance(service.air, FmAir):
        return emission("fm", service.rx_hz, service.air.width_hz).width_hz
    return sent_by(service).width_hz


def neighbour_users(neighbours: Iterable[Neighbour]) -> list[User]:
    """The frequencies of other people's hotspots close by."""
    made: list[User] = []
    for item in neighbours:
        said = item.note or "a neighbour's hotspot"
        given = (said, None, None, _NEIGHBOUR_KM, HOTSPOT_WATTS, HOTSPOT_HEIGHT_M)
        made += [User(hz, _NEIGHBOUR_HZ, *given) for hz in {item.hz, item.other_hz or item.hz}]
    return made


def own_users(plan: Plan, without: str) -> list[User]:
    """What the plan itself uses, but for one access point (by key): hotspots and repeaters, each with its words."""
    made: list[User] = []
    for access in plan.access:
        if access.key != without and access.kind != "receive":
            hotspot = access.kind == "hotspot"
            made += users_of(access, _OWN_KM if hotspot else None, own=hotspot)
    return made


def occupied(users: Iterable[User], place: Position | None) -> Occupied:
    """Columns of what is in use around a place."""
    import numpy as np

    held = sorted(set(users))
    lats = np.array([item.lat if item.lat is not None else np.nan for item in held], float)
    lons = np.array([item.lon if item.lon is not None else np.nan for item in held], float)
    given = np.array([item.km if item.km is not None else np.nan for item in held], float)
    km = np.where(np.isnan(given), distances_km(place, lats, lons), given)
    hz = np.array([item.hz for item in held], np.int64)
    watts = np.array([item.watts for item in held], float)
    height = np.array([item.height_m for item in held], float)
    return Occupied(
        hz,
        np.array([item.width_hz // 2 for item in held], np.int64),
        km,
        levels_dbm(hz, km, watts, height),
        np.array([item.sends for item in held], bool),
        np.array([item.own for item in held], bool),
        tuple(item.words for item in held),
    )


def distances_km(
    place: Position | None, lats: "npt.NDArray[np.float64]", lons: "npt.NDArray[np.float64]"
) -> "npt.NDArray[np.float64]":
    """Great-circle distances in km from a place to positions in degrees; what has none may be close by."""
    import numpy as np

    if place is None:
        return np.full(len(lats), UNPLACED_KM)
    lat, lon = np.radians(lats), np.radians(lons)
    here = np.radians(place.lat)
    square = np.sin((lat - here) / 2) ** 2 + np.cos(here) * np.cos(lat) * np.sin((lon - np.radians(place.lon)) / 2) ** 2
    km = 2 * EARTH_KM * np.arcsin(np.sqrt(np.clip(square, 0, 1)))
    return np.where(np.isnan(km), UNPLACED_KM, km)


def levels_dbm(
    hz: "npt.NDArray[np.int64]",
    km: "npt.NDArray[np.float64]",
    watts: "npt.NDArray[np.float64]",
    height_m: "npt.NDArray[np.float64]",
) -> "npt.NDArray[np.float64]":
    """Egli's median level with its free-space floor (see `estimate/reach.py`) at a hotspot's height, in dBm."""
    import numpy as np

    far, mhz = np.maximum(km, 0.02), hz / 1e6
    free = 32.45 + 20 * np.log10(far) + 20 * np.log10(np.maximum(mhz, 1.0))
    low = 76.3 - 10 * np.log10(np.minimum(height_m, HOTSPOT_HEIGHT_M).clip(1))
    egli = 20 * np.log10(np.maximum(mhz, 1.0)) + 40 * np.log10(far) - 20 * np.log10(height_m.clip(1)) + low
    loss: npt.NDArray[np.float64] = np.maximum(free, egli)
    made: npt.NDArray[np.float64] = 10 * np.log10(np.maximum(watts, 1e-6)) + 30 + 3.0 - loss
    return made
