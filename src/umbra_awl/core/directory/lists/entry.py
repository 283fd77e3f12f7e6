"""From one row of a file to an access point: what was taken, how it was mended, or why it was refused.

Several rows of one call sign and site become one access point with several services.
"""

import re
from collections.abc import Callable
from typing import NamedTuple, TypeVar

from msgspec.structs import replace

from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.lists.row_openers import SPACED_CALL, color_of, dgid_of, fm_opened, mode_opened, module_of
from umbra_awl.core.directory.lists.values import (
    on_air,
    parse_amount,
    parse_any_hz,
    parse_day,
    parse_kind,
    says_off,
)
from umbra_awl.core.facts.callsign import tidy_call_sign
from umbra_awl.core.facts.earth import Position, PositionError, parse_angle, parse_locator, parse_position
from umbra_awl.core.facts.frequency import FrequencyError, format_mhz
from umbra_awl.core.facts.modes import ByMode, modes_in
from umbra_awl.core.facts.shift import NOTHING, Shift, ShiftError, pair_told, read_direction, read_shift
from umbra_awl.core.facts.width import NARROW_HZ, parse_width
from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.model import AccessPoint, Air, DmrAir, DstarAir, FmAir, FusionAir, Mode, Service

_LONGEST = 80
_SOME_SHIFT = frozenset(
    {"duplex", "dup", "semi-duplex", "semiduplex", "half duplex", "yes", "ja", "oui", "si", "sim", "split"}
)
_EITHER_DAY = re.compile(r"\s*(\d{1,2})[-/. ]+(\d{1,2})[-/. ]+\d{2,4}")
_Found = TypeVar("_Found")


class RefusedError(ValueError):
    """A row that cannot become an access point; the message says why."""


class Made(NamedTuple):
    """An access point with the services of one row, and how values were mended."""

    access: AccessPoint
    mended: tuple[str, ...]


class RowReader:
    """Reads rows by a layout."""

    def __init__(self, layout: TableLayout, headers: list[str]) -> None:
        self._layout = layout
        self._headers = headers
        self._two_ways = 0
        self._at = {field: headers.index(column) for field, column in layout.columns.items() if column in headers}

    def read(self, cells: list[str]) -> Made:
        """The access point of a row. Raises RefusedError."""
        text = {field: cells[at].strip() if at < len(cells) else "" for field, at in self._at.items()}
        mended: list[str] = []
        call, site = _call(text.get("call", "")), text.get("site", "")
        if not call and not site:
            raise RefusedError("It has neither a call sign nor a site, so it has no name.")
        if on_air(text.get("status", "")) is False:
            raise RefusedError(f"It is off the air, its list says: “{text['status'][:40]}”.")
        if says_off(text.get("note", "")):
            mended.append(f"its note says “{text['note'][:40]}”; it is taken, listen before you rely on it")
        rx_hz, tx_hz = self._pair(text, mended)
        services = self._services(text, rx_hz, tx_hz, mended)
        position = self._position(text, mended)
        kind = parse_kind(text.get("kind", ""))
        access = AccessPoint(
            key="",
            call=call,
            site=site or call,
            kind=kind,
            place=text.get("place", ""),
            services=services,
            lat=position.lat if position else None,
            lon=position.lon if position else None,
            confirmed=_mending("confirmation date left out", mended, text.get("confirmed", ""), self._day) or "",
            note=text.get("note", "")[:400],
            watts=parse_amount(text.get("watts", "")),
            height_m=parse_amount(text.get("height", "")),
        )
        return Made(access, tuple(mended))

    def _day(self, text: str) -> str:
        both = _EITHER_DAY.match(text)
        self._two_ways += bool(both and int(both[1]) <= 12 and int(both[2]) <= 12 and both[1] != both[2])
        return parse_day(text, day_first=self._layout.day_first)

    def _pair(self, text: dict[str, str], mended: list[str]) -> tuple[int, int]:
        """Receive and transmit in hertz."""
        rx_hz, tx_hz = _hz(text.get("rx", "")), _hz(text.get("tx", ""))
        if rx_hz is None and tx_hz is None:
            raise RefusedError("It has no frequency.")
        try:
            size, direction = read_shift(text.get("offset", "")), _direction(text)
            pair = pair_told(rx_hz, tx_hz, size, direction, round(self._layout.offset_70cm_mhz * 1_000_000))
        except ShiftError as error:
            raise RefusedError(str(error)) from None
        mended.extend(pair.notes)
        if size == direction == NOTHING and tx_hz is None:
            mended.extend(self._no_input(text))
        return pair.rx_hz, pair.tx_hz

    def _no_input(self, text: dict[str, str]) -> tuple[str, ...]:
        """What is said of a row that tells no input. Raises RefusedError where nobody said that it has none."""
        if self._layout.simplex or parse_kind(text.get("kind", "")) != "repeater":
            return ()
        if {"offset", "sign", "tx"} & self._at.keys():
            return ("no offset told, taken as simplex",)
        raise RefusedError(
            "Nothing tells where it listens. Choose the column of its input or offset, or say “simplex”."
        )

    def _services(self, text: dict[str, str], rx_hz: int, tx_hz: int, mended: list[str]) -> tuple[Service, ...]:
        named = modes_in(text.get("mode", "")[:_LONGEST]) or modes_in(self._layout.mode)
        if not named and text.get("mode"):
            raise RefusedError(f"Its mode “{text['mode'][:20]}” is none of FM, DMR, D-STAR and System Fusion.")
        modes = named or (mode_opened(text),)
        if not named and "mode" in self._at:
            mended.append(f"no mode told, taken as {modes[0].upper()}")
        return tuple(
            Service(_service_key(mode, rx_hz, text), rx_hz, tx_hz, self._air(mode, text, "dmr" in modes, mended))
            for mode in modes
        )

    def _air(self, mode: Mode, text: dict[str, str], with_dmr: bool, mended: list[str]) -> Air:
        network = text.get("network", "")
        made: ByMode[Callable[[], Air]] = {
            "fm": lambda: self._fm_air(text, with_dmr, mended),
            "dmr": lambda: DmrAir(color_of(text, mended), network, _slots(text)),
            "dstar": lambda: DstarAir(module_of(text, mended), True, network),
            "fusion": lambda: FusionAir(("DN",), dgid_of(text), 0, False, network),
        }
        return made[mode]()

    def _fm_air(self, text: dict[str, str], with_dmr: bool, mended: list[str]) -> FmAir:
        tone, back, burst = fm_opened(text, with_dmr, mended)
        return FmAir(tone, back, self._width(text, mended), burst)

    def _width(self, text: dict[str, str], mended: list[str]) -> int:
        """The FM width, from its own column or the mode's; where neither tells it, narrow is taken and said."""
        told = parse_width(text.get("width", "")[:_LONGEST]) or parse_width(text.get("mode", "")[:_LONGEST], mode=True)
        if told is None and "width" in self._at:
            what = f"width “{text['width'][:12]}” not understood" if text.get("width") else "no width told"
            mended.append(f"{what}, taken as narrow")
        return told or NARROW_HZ

    def unsaid(self) -> list[str]:
        """What no column of the file tells and was taken for all rows, as sentences."""
        found = []
        if "width" not in self._at:
            found.append("No column tells the width of FM channels. Narrow is taken where the mode does not tell it.")
        if "mode" not in self._at and not self._layout.mode:
            found.append("No column tells the mode. It is taken from what opens each one, FM where nothing tells.")
        return found

    def afterwards(self) -> list[str]:
        """What could have been read in two ways, counted over the rows read so far."""
        if not self._two_ways:
            return []
        order = "day" if self._layout.day_first else "month"
        return [f"{self._two_ways} dates could be read in two ways; the {order} was taken to come first."]

    def _position(self, text: dict[str, str], mended: list[str]) -> Position | None:
        for field in ("position", "locator"):
            found = _mending(
                "position left out",
                mended,
                text.get(field, ""),
                parse_position if field == "position" else parse_locator,
            )
            if found is not None:
                return found
        lat, lon = (_with_side(text, axis) for axis in ("lat", "lon"))
        if not lat and not lon:
            return None
        if not lat or not lon:
            mended.append("position left out: only one of latitude and longitude is given")
            return None
        try:
            return Position(parse_angle(lat, "lat"), parse_angle(lon, "lon"))
        except PositionError as error:
            return _swapped(lat, lon, str(error), mended)


def _with_side(text: dict[str, str], axis: str) -> str:
    """A coordinate with the hemisphere that stands in a column of its own."""
    angle, side = text.get(axis, ""), text.get(f"{axis}_side", "").strip().upper()
    return f"{angle} {side}" if angle and side and not re.search(r"[A-Za-z+\-−]", angle) else angle


def _swapped(lat: str, lon: str, fault: str, mended: list[str]) -> Position | None:
    """A latitude beyond 90° that is a good longitude: the columns are swapped."""
    try:
        found = Position(parse_angle(lon, "lat"), parse_angle(lat, "lon"))
    except PositionError:
        mended.append(f"position left out: {fault}")
        return None
    mended.append("latitude and longitude were swapped")
    return found


def _direction(text: dict[str, str]) -> Shift:
    """The direction beside an offset; “duplex” alone says that there is a shift, and no more. Raises ShiftError."""
    plain = text.get("sign", "")
    if plain.strip().casefold().rstrip(".") in _SOME_SHIFT and (text.get("offset") or text.get("tx")):
        return NOTHING
    return read_direction(plain)


def _hz(text: str) -> int | None:
    if not text or text in {"-", "–"}:
        return None
    try:
        hz = parse_any_hz(text)
    except FrequencyError as error:
        raise RefusedError(str(error)) from None
    return hz


def _mending(words: str, mended: list[str], text: str, read: Callable[[str], _Found]) -> _Found | None:
    """What a text reads as; when it does not, that is noted and left out."""
    if not text:
        return None
    try:
        return read(text)
    except ValueError as error:
        mended.append(f"{words}: {error}")
        return None


def _service_key(mode: Mode, rx_hz: int, text: dict[str, str]) -> str:
    if mode == "dstar":
        return f"dstar-{module_of(text, []).lower() or rx_hz // 1_000_000}"
    return f"{mode}-{rx_hz // 1_000_000}"


def _call(text: str) -> str:
    """The call sign without the module's letter that some write behind it in eight characters."""
    plain = text.strip().upper()
    spaced = SPACED_CALL.fullmatch(plain)
    return spaced[1] if spaced else tidy_call_sign(plain)


def _slots(text: dict[str, str]) -> tuple[int, ...]:
    plain = text.get("slots", "")
    found = tuple(slot for slot in (1, 2) if str(slot) in plain)
    return found or (1, 2)


def told_twice(one: AccessPoint, other: AccessPoint) -> str:
    """How two rows of the same call sign and site contradict each other, in words; empty where they do not."""
    held = {service.key: service for service in one.services}
    for service in other.services:
        before = held.get(service.key)
        if before is not None and before != service:
            kept, left = (other, one) if other.confirmed > one.confirmed else (one, other)
            words = f"of {kept.confirmed}" if kept.confirmed != left.confirmed else "that came first"
            return f"{_difference(before, service)} in two lines; the line {words} was kept, look which is right"
    return ""


def _difference(one: Service, other: Service) -> str:
    if (one.rx_hz, one.tx_hz) != (other.rx_hz, other.tx_hz):
        return (
            f"{format_mhz(one.rx_hz)}/{format_mhz(one.tx_hz)} and {format_mhz(other.rx_hz)}/{format_mhz(other.tx_hz)}"
        )
    mode = mode_of(one)
    values = [mode.opener(item.air) or f"no {mode.opened_by}" for item in (one, other)]
    return f"{mode.opened_by} {values[0]} and {values[1]}" if values[0] != values[1] else "different settings"


def join(one: AccessPoint, other: AccessPoint) -> AccessPoint:
    """Two rows of the same call sign and site as one: the second adds its services and fills what the first left open."""
    if told_twice(one, other) and other.confirmed > one.confirmed:
        one, other = other, one
    keys = {service.key for service in one.services}
    fresh = tuple(service for service in other.services if service.key not in keys)
    return replace(
        one,
        services=(*one.services, *fresh),
        lat=one.lat if one.lat is not None else other.lat,
        lon=one.lon if one.lon is not None else other.lon,
        place=one.place or other.place,
        confirmed=one.confirmed if told_twice(one, other) else max(one.confirmed, other.confirmed),
        note=one.note or other.note,
        watts=one.watts or other.watts,
        height_m=one.height_m or other.height_m,
    )
