"""From one row of a file to an access point: what was taken, how it was mended, or why it was refused.

Several rows of one call sign and site become one access point with several services.
"""

from collections.abc import Callable
from typing import NamedTuple, TypeVar

from msgspec.structs import replace

from umbra_awl.core.directory.layout import TableLayout
from umbra_awl.core.directory.values import (
    Offset,
    parse_amount,
    parse_any_hz,
    parse_day,
    parse_kind,
    parse_modes,
    parse_offset,
    parse_opens,
)
from umbra_awl.core.facts.bands import BANDS, band_at
from umbra_awl.core.facts.callsign import tidy_call_sign
from umbra_awl.core.facts.earth import Position, PositionError, parse_angle, parse_locator, parse_position
from umbra_awl.core.facts.frequency import FrequencyError, format_mhz
from umbra_awl.core.facts.tones import is_burst
from umbra_awl.core.plan.model import AccessPoint, Air, DmrAir, DstarAir, FmAir, FusionAir, Mode, Service

_WIDE_BANDS = BANDS[2]
_USUAL_2M_HZ = 600_000
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
        self._at = {field: headers.index(column) for field, column in layout.columns.items() if column in headers}

    def read(self, cells: list[str]) -> Made:
        """The access point of a row. Raises RefusedError."""
        text = {field: cells[at].strip() if at < len(cells) else "" for field, at in self._at.items()}
        mended: list[str] = []
        call, site = tidy_call_sign(text.get("call", "")), text.get("site", "")
        if not call and not site:
            raise RefusedError("It has neither a call sign nor a site, so it has no name.")
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
        return parse_day(text, day_first=self._layout.day_first)

    def _pair(self, text: dict[str, str], mended: list[str]) -> tuple[int, int]:
        """Receive and transmit in hertz."""
        rx_hz, tx_hz = _hz(text.get("rx", "")), _hz(text.get("tx", ""))
        if rx_hz is None and tx_hz is None:
            raise RefusedError("It has no frequency.")
        try:
            size, sign = parse_offset(text.get("offset", "")), parse_offset(text.get("sign", ""))
        except ValueError as error:
            raise RefusedError(str(error)) from None
        offset = _joined(size, sign)
        if rx_hz is None:
            assert tx_hz is not None  # noqa: S101  (one of the two is there)
            if offset.size_hz is None:
                raise RefusedError("It tells where the repeater listens but not where it is heard.")
            return tx_hz - (offset.sign or 0) * offset.size_hz, tx_hz
        if tx_hz is not None:
            return rx_hz, tx_hz
        return rx_hz, rx_hz + self._shift_hz(rx_hz, offset, mended)

    def _shift_hz(self, rx_hz: int, offset: Offset, mended: list[str]) -> int:
        sign, size_hz = offset
        if sign is None and size_hz is None:
            return 0
        band = band_at(_WIDE_BANDS, rx_hz)
        if size_hz is None:
            own_hz = round(self._layout.offset_70cm_mhz * 1_000_000)
            size_hz = _USUAL_2M_HZ if band and band.name == "2 m" else own_hz
            if not size_hz:
                raise RefusedError(
                    "Only the sign of its offset is told, and on this band the size varies. Set the size in the layout."
                )
            mended.append(f"offset size taken as {format_mhz(size_hz)}")
        if sign is None:
            if not size_hz:
                return 0
            lower_in, higher_in = (band_at(_WIDE_BANDS, rx_hz + step * size_hz) is band for step in (-1, 1))
            sign = 1 if higher_in and not lower_in else -1
            mended.append(f"offset without a sign taken as {'plus' if sign > 0 else 'minus'}")
        return sign * size_hz

    def _services(self, text: dict[str, str], rx_hz: int, tx_hz: int, mended: list[str]) -> tuple[Service, ...]:
        named = parse_modes(text.get("mode", "")) or parse_modes(self._layout.mode)
        modes = named or [_likely_mode(text)]
        if not named and text.get("mode"):
            mended.append(f"mode “{text['mode'][:20]}” not known, taken as {modes[0].upper()}")
        return tuple(
            Service(_service_key(mode, rx_hz, text), rx_hz, tx_hz, self._air(mode, text, "dmr" in modes, mended))
            for mode in modes
        )

    def _air(self, mode: Mode, text: dict[str, str], with_dmr: bool, mended: list[str]) -> Air:
        network = text.get("network", "")
        if mode == "fm":
            burst = any(is_burst(text.get(field, "")) for field in ("tone", "opens"))
            return FmAir("" if burst else _tone(text, with_dmr, mended), _tone_back(text, mended), _width(text), burst)
        if mode == "dmr":
            return DmrAir(_color(text, mended), network, _slots(text))
        if mode == "dstar":
            return DstarAir((text.get("module", "") or "B")[:1].upper(), True, network)
        dgid = parse_amount(text.get("dgid", ""))
        return FusionAir(("DN",), int(dgid) if dgid is not None and dgid < 100 else 0, 0, False, network)

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
        lat, lon = text.get("lat", ""), text.get("lon", "")
        if not lat and not lon:
            return None
        if not lat or not lon:
            mended.append("position left out: only one of latitude and longitude is given")
            return None
        try:
            return Position(parse_angle(lat, "lat"), parse_angle(lon, "lon"))
        except PositionError as error:
            return _swapped(lat, lon, str(error), mended)


def _swapped(lat: str, lon: str, fault: str, mended: list[str]) -> Position | None:
    """A latitude beyond 90° that is a good longitude: the columns are swapped."""
    try:
        found = Position(parse_angle(lon, "lat"), parse_angle(lat, "lon"))
    except PositionError:
        mended.append(f"position left out: {fault}")
        return None
    mended.append("latitude and longitude were swapped")
    return found


def _hz(text: str) -> int | None:
    if not text or text in {"-", "–"}:
        return None
    try:
        hz = parse_any_hz(text)
    except FrequencyError as error:
        raise RefusedError(str(error)) from None
    return hz


def _joined(size: Offset, sign: Offset) -> Offset:
    """The two columns as one: the sign column tells the sign, the other the size."""
    if sign.sign is None:
        return size
    if sign.sign == 0:
        return Offset(0, 0)
    return Offset(sign.sign, size.size_hz or sign.size_hz)


def _mending(words: str, mended: list[str], text: str, read: Callable[[str], _Found]) -> _Found | None:
    """What a text reads as; when it does not, that is noted and left out."""
    if not text:
        return None
    try:
        return read(text)
    except ValueError as error:
        mended.append(f"{words}: {error}")
        return None


def _likely_mode(text: dict[str, str]) -> Mode:
    if text.get("color_code") or text.get("opens", "").lower().startswith("cc"):
        return "dmr"
    return "dstar" if text.get("module") else "fusion" if text.get("dgid") else "fm"


def _service_key(mode: Mode, rx_hz: int, text: dict[str, str]) -> str:
    if mode == "dstar":
        return f"dstar-{(text.get('module', '') or 'B')[:1].lower()}"
    return f"{mode}-{rx_hz // 1_000_000}"


def _width(text: dict[str, str]) -> int:
    amount = parse_amount(text.get("width", ""))
    return 25_000 if amount is not None and (15 < amount < 100 or amount > 15_000) else 12_500


def _tone(text: dict[str, str], with_dmr: bool, mended: list[str]) -> str:
    for field in ("tone", "opens"):
        plain = text.get(field, "")
        try:
            found = parse_opens(plain, dmr=with_dmr and field == "opens")
        except ValueError as error:
            mended.append(f"tone kept as it stands: {error}")
            return plain[:12].replace(",", ".")
        if found.tone is not None:
            return found.tone
    return ""


def _tone_back(text: dict[str, str], mended: list[str]) -> str:
    try:
        return parse_opens(text.get("tone_rx", ""), dmr=False).tone or ""
    except ValueError as error:
        mended.append(f"tone sent back left out: {error}")
        return ""


def _color(text: dict[str, str], mended: list[str]) -> int:
    for field in ("color_code", "opens", "tone"):
        plain = text.get(field, "")
        try:
            found = parse_opens(plain, dmr=True) if plain else None
        except ValueError:
            continue
        if found is not None and found.color_code is not None:
            return found.color_code
    mended.append("no color code given, taken as 1")
    return 1


def _slots(text: dict[str, str]) -> tuple[int, ...]:
    plain = text.get("slots", "")
    found = tuple(slot for slot in (1, 2) if str(slot) in plain)
    return found or (1, 2)


def join(one: AccessPoint, other: AccessPoint) -> AccessPoint:
    """Two rows of the same call sign and site as one: the second adds its services and fills what the first left open."""
    keys = {service.key for service in one.services}
    fresh = tuple(service for service in other.services if service.key not in keys)
    return replace(
        one,
        services=(*one.services, *fresh),
        lat=one.lat if one.lat is not None else other.lat,
        lon=one.lon if one.lon is not None else other.lon,
        place=one.place or other.place,
        confirmed=max(one.confirmed, other.confirmed),
        note=one.note or other.note,
        watts=one.watts or other.watts,
        height_m=one.height_m or other.height_m,
    )
