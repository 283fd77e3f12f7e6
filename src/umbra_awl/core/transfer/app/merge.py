"""A plan's list and the one that the phone holds, made into one: own entries stay, and what goes is said."""

from collections.abc import Hashable, Iterator
from typing import Any, Literal, NamedTuple

from msgspec.structs import replace

from umbra_awl.core.facts.dstar import shown
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.radio.memory import AccessEntry, CallSign, Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import App, AppPart
from umbra_awl.core.transfer.app.form import AppList, AppSettings

Fate = Literal["added", "changed", "same", "own, stays", "goes"]
_PARTS: dict[str, AppPart] = {
    "call": "identity",
    "note": "identity",
    "message": "message",
    "power": "power",
    "data": "data",
    "fast_data": "fast data",
    "position": "position",
    "units": "units",
}
_WORDS = {"call": "call sign", "note": "note", "fast_data": "fast data"}


class AppLine(NamedTuple):
    """What happens to one thing of the phone's list: its fate, in which table, its name, what it is."""

    fate: Fate
    table: str
    name: str
    detail: str = ""


class AppMerge(NamedTuple):
    """The list as it would be, and what happens to everything in it. `missing` are parts the app cannot carry."""

    made: AppList
    lines: tuple[AppLine, ...]
    missing: tuple[str, ...] = ()

    @property
    def changes(self) -> int:
        """How many things would not stay as they are."""
        return sum(line.fate in {"added", "changed", "goes"} for line in self.lines)


def key_of(row: AccessEntry | CallSign) -> Hashable:
    """What a row is known by, whatever it is called."""
    return (row.rpt1, row.rx_hz, row.tx_hz) if isinstance(row, AccessEntry) else row.ur


def merged(
    present: AppList,
    memory: Memory,
    settings: AppSettings,
    profile: Profile,
    app: App,
    sent: frozenset[Hashable] = frozenset(),
) -> AppMerge:
    """The plan's rows first, then the phone's own; `sent` are keys that came from the plan before and may go with it."""
    lines: list[AppLine] = []
    rows: dict[str, Any] = {}
    missing: list[str] = []
    for table, field, part, room in (
        ("access list", "access_list", "access list", profile.limits.access_list),
        ("call signs", "call_signs", "call signs", profile.limits.call_signs),
    ):
        have, wanted = getattr(present, field), getattr(memory, field)
        if part not in app.carries:
            rows[field] = have
            missing += [table] if wanted else []
            continue
        rows[field] = _rows(table, have, wanted, (room, sent), lines)
    made, more, not_carried = _settings(present.settings, settings, app)
    return AppMerge(AppList(profile.key, settings=made, **rows), (*lines, *more), (*missing, *not_carried))


def _rows(
    table: str,
    have: tuple[Any, ...],
    wanted: tuple[Any, ...],
    limits: tuple[int, frozenset[Hashable]],
    lines: list[AppLine],
) -> tuple[Any, ...]:
    room, sent = limits
    before = {key_of(row): row for row in have}
    keys = {key_of(row) for row in wanted}
    for row in wanted[:room]:
        was = before.get(key_of(row))
        change = _changed(was, row) if was is not None else ""
        fate: Fate = "added" if was is None else "changed" if change else "same"
        lines.append(AppLine(fate, table, row.name, change or _said(row)))
    lines += [AppLine("goes", table, row.name, f"{_said(row)}, no room: {table} holds {room}") for row in wanted[room:]]
    own = [row for row in have if key_of(row) not in keys]
    left = max(0, room - len(wanted))
    kept = [row for row in own if key_of(row) not in sent][:left]
    for row in own:
        stays = row in kept
        why = "" if stays else ", no longer in the plan" if key_of(row) in sent else f", no room: {table} holds {room}"
        lines.append(AppLine("own, stays" if stays else "goes", table, row.name, f"{_said(row)}{why}"))
    return tuple(replace(row, number=at) for at, row in enumerate((*wanted[:room], *kept), 1))


def _changed(was: AccessEntry | CallSign, row: AccessEntry | CallSign) -> str:
    """What a row of the phone's becomes, as “was …”; empty where all of it stays."""
    told = []
    for field in row.__struct_fields__:
        one, other = getattr(was, field), getattr(row, field)
        if field != "number" and one != other:
            told.append(
                str(one) if field == "name" else f"{field.upper()} {shown(one) if isinstance(one, str) else one}"
            )
    return f"was {', '.join(told)}" if told else ""


def _said(row: AccessEntry | CallSign) -> str:
    return f"{shown(row.rpt1)} {format_mhz(row.rx_hz)}" if isinstance(row, AccessEntry) else shown(row.ur)


def _settings(present: AppSettings, wanted: AppSettings, app: App) -> tuple[AppSettings, list[AppLine], list[str]]:
    changes: dict[str, Any] = {}
    missing: list[str] = []
    lines: list[AppLine] = []
    for field, was, now in _pairs(present, wanted):
        if _PARTS[field] not in app.carries:
            missing.append(_WORDS.get(field, field))
            continue
        fate: Fate = "same" if was == now else "changed"
        detail = f"{_value(now)}" if was == now else f"{_value(was)} → {_value(now)}"
        lines.append(AppLine(fate, "settings", _WORDS.get(field, field), detail))
        changes[field] = now
    return replace(present, **changes), lines, missing


def _pairs(present: AppSettings, wanted: AppSettings) -> Iterator[tuple[str, Any, Any]]:
    for field in AppSettings.__struct_fields__:
        now = getattr(wanted, field)
        if now not in {"", None}:
            yield field, getattr(present, field), now


def _value(value: Any) -> str:
    return {True: "on", False: "off"}.get(value, str(value)) if isinstance(value, bool) else str(value or "–")
