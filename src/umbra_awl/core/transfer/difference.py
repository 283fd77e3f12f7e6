"""The change sheet: what a write would add, change and remove, said by what a thing is and not by where it lies."""

from collections.abc import Callable, Iterator
from typing import Any, Literal, NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.modes import ByMode, of_mode
from umbra_awl.core.radio.memory import Channel, HeldSettings, Memory, MemoryList
from umbra_awl.core.transfer.compared import (
    CHANNEL,
    IDENTITY,
    LISTS,
    ROWS,
    SETTINGS,
    UNSET,
    ComparedField,
    ComparedSide,
    Rows,
    Table,
)

ChangeKind = Literal["added", "changed", "removed"]
_SIGNATURE = frozenset({"rx_hz", "tx_hz", "mode", "tone_tx", "color_code", "slot", "contact", "ur", "rpt1", "dgid_tx"})
"""What a channel is recognised by when its name has changed."""


class MemoryChange(NamedTuple):
    """One line of the change sheet. `detail` says from what to what."""

    kind: ChangeKind
    table: Table
    name: str
    detail: str = ""


class ChangeSheet(NamedTuple):
    """All changes, and how many things stay untouched in each table."""

    changes: tuple[MemoryChange, ...]
    untouched: dict[Table, int]

    def of_table(self, table: Table) -> tuple[MemoryChange, ...]:
        """The changes in one table."""
        return tuple(change for change in self.changes if change.table == table)


def difference(old: Memory, new: Memory) -> ChangeSheet:
    """The change sheet that leads from one memory to another."""
    before, after = ComparedSide(old), ComparedSide(new)
    changes: list[MemoryChange] = [
        *_scalar_changes("identity", IDENTITY, (old, before), (new, after)),
        *_setting_changes(old.settings, new.settings, (before, after)),
    ]
    untouched: dict[Table, int] = {}

    def take(table: Table, found: list[MemoryChange], count: int) -> None:
        changes.extend(found)
        untouched[table] = count - sum(change.kind != "removed" for change in found)

    moved, channel_changes = _channel_changes(before, after)
    take("channel", channel_changes, len(new.channels))
    for field, table in LISTS:
        was, now = getattr(old, field), getattr(new, field)
        found = _list_changes(table, was, now, _Moved(moved, before.names, after.names))
        take(table, list(found), len(now))
    for rows in ROWS:
        take(rows.table, list(_row_changes(rows, old, new)), len(getattr(new, rows.field)))
    return ChangeSheet(tuple(changes), untouched)


def _scalar_changes(
    table: Table, fields: tuple[ComparedField, ...], old: tuple[Any, ComparedSide], new: tuple[Any, ComparedSide]
) -> Iterator[MemoryChange]:
    for field in fields:
        was, now = field.say(*old), field.say(*new)
        if was != now or (field.field == "dmr_id" and old[0].dmr_id != new[0].dmr_id):  # the same when masked
            yield MemoryChange("changed", table, field.word, f"{was} → {now}")


def _setting_changes(
    old: HeldSettings, new: HeldSettings, sides: tuple[ComparedSide, ComparedSide]
) -> Iterator[MemoryChange]:
    """What of the whole radio's settings changes; what a memory leaves to the radio is no change."""
    for field in SETTINGS:
        was, now = getattr(old, field.field), getattr(new, field.field)
        if now != getattr(UNSET, field.field) and was != now:
            yield MemoryChange(
                "changed", "settings", field.word, f"{field.say(old, sides[0])} → {field.say(new, sides[1])}"
            )
    before = {(item.key, item.press): item.action for item in old.keys}
    for item in new.keys:
        action = before.get((item.key, item.press))
        if action != item.action:
            detail = f"{action or 'unknown'} → {item.action}"
            yield MemoryChange("changed", "settings", f"key {item.key}, {item.press}", detail)


def _sense(channel: Channel, side: ComparedSide) -> dict[str, object]:
    """A channel's values as an operator compares them."""
    return {item.field: item.say(channel, side) if channel.mode in item.modes else "" for item in CHANNEL}


def _channel_changes(before: ComparedSide, after: ComparedSide) -> tuple[dict[int, int], list[MemoryChange]]:
    """Channels matched by name, then by what they do. Gives old number to new number, and the changes."""
    left = {channel.name: channel for channel in before.memory.channels}
    moved: dict[int, int] = {}
    changes: list[MemoryChange] = []
    fresh: list[Channel] = []
    for channel in after.memory.channels:
        was = left.pop(channel.name, None)
        if was is None:
            fresh.append(channel)
            continue
        moved[was.number] = channel.number
        detail = _sense_words(_sense(was, before), _sense(channel, after))
        if detail:
            changes.append(MemoryChange("changed", "channel", channel.name, detail))
    by_sense = {_signature(_sense(channel, before)): channel for channel in left.values()}
    for channel in fresh:
        sense = _sense(channel, after)
        was = by_sense.pop(_signature(sense), None)
        if was is None:
            changes.append(MemoryChange("added", "channel", channel.name, _short(channel.mode, sense)))
            continue
        left.pop(was.name, None)
        moved[was.number] = channel.number
        other = _sense_words(_sense(was, before), sense)
        detail = f"name {was.name} → {channel.name}" + (f", {other}" if other else "")
        changes.append(MemoryChange("changed", "channel", channel.name, detail))
    changes.extend(
        MemoryChange("removed", "channel", name, _short(channel.mode, _sense(channel, before)))
        for name, channel in left.items()
    )
    return moved, changes


def _signature(sense: dict[str, object]) -> tuple[object, ...]:
    return tuple(value for field, value in sense.items() if field in _SIGNATURE)


def _sense_words(was: dict[str, object], now: dict[str, object]) -> str:
    differing = [item for item in CHANNEL if was[item.field] != now[item.field]]
    return ", ".join(f"{item.word} {_said(was[item.field])} → {_said(now[item.field])}" for item in differing)


def _said(value: object) -> object:
    return "–" if value == "" else value


def _short(mode: str, sense: dict[str, object]) -> str:
    """A channel in a few words."""
    return f"{sense['rx_hz']} {of_mode(_SHORT, mode)(sense)}"


_SHORT: ByMode[Callable[[dict[str, object]], str]] = {
    "fm": lambda sense: "FM" + (f" tone {sense['tone_tx']}" if sense["tone_tx"] != "none" else ""),
    "dmr": lambda sense: f"cc {sense['color_code']} slot {sense['slot']}, calls {sense['contact']}",
    "dstar": lambda sense: f"UR {sense['ur']} RPT1 {sense['rpt1']}",
    "fusion": lambda sense: f"{sense['way']}, DG-ID {sense['dgid_tx']}",
}


class _Moved(NamedTuple):
    """Old channel numbers as new ones, and the names on both sides."""

    numbers: dict[int, int]
    old_names: dict[int, str]
    names: dict[int, str]

    def place(self, number: int) -> int:
        """The new number of an old one; a negative one where it is gone."""
        return self.numbers.get(number, -number)


def _list_changes(
    table: Table, was: tuple[MemoryList, ...], now: tuple[MemoryList, ...], moved: _Moved
) -> Iterator[MemoryChange]:
    left = {item.name: item for item in was}
    for item in now:
        old = left.pop(item.name, None)
        if old is None:
            yield MemoryChange("added", table, item.name, _count(item))
            continue
        words = [*_member_words(old, item, moved), *_scan_words(old, item, moved)]
        if words:
            yield MemoryChange("changed", table, item.name, ", ".join(words))
    for item in left.values():
        yield MemoryChange("removed", table, item.name, _count(item))


def _count(item: MemoryList) -> str:
    return counted(len(item.members), "channel")


def _member_words(old: MemoryList, new: MemoryList, moved: _Moved) -> list[str]:
    held = [moved.place(number) for number in old.members]
    if held == list(new.members):
        return []
    gained = [moved.names.get(number, f"channel {number}") for number in new.members if number not in held]
    lost = [
        moved.old_names.get(number, str(number)) for number in old.members if moved.place(number) not in new.members
    ]
    return [f"+ {name}" for name in gained] + [f"− {name}" for name in lost] or ["another order"]


def _scan_words(old: MemoryList, new: MemoryList, moved: _Moved) -> Iterator[str]:
    """How a scan list's priority channel and its waiting differ."""
    if (moved.place(old.priority) if old.priority else 0) != new.priority:
        was, now = moved.old_names.get(old.priority, "none"), moved.names.get(new.priority, "none")
        yield f"priority {was} → {now}"
    if old.hang_ms != new.hang_ms:
        yield f"waits {old.hang_ms / 1000:g} s → {new.hang_ms / 1000:g} s"


def _row_changes(rows: Rows, old: Memory, new: Memory) -> Iterator[MemoryChange]:
    """Rows matched by what they are; one that is the same under another name is renamed."""
    left: dict[object, Any] = {rows.known(item): item for item in getattr(old, rows.field)}
    for item in getattr(new, rows.field):
        was = left.pop(rows.known(item), None)
        if was is None:
            yield MemoryChange("added", rows.table, item.name, rows.say(item))
        elif was.name != item.name:
            yield MemoryChange("changed", rows.table, item.name, f"name {was.name} → {item.name}")
    for item in left.values():
        yield MemoryChange("removed", rows.table, item.name, rows.say(item))
