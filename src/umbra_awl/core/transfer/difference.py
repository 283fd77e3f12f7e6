"""The change sheet: what a write would add, change and remove, said by what a thing is and not by where it lies."""

from collections.abc import Callable, Iterator
from typing import Literal, NamedTuple

from umbra_awl.core.facts.dmr import mask_id
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.width import width_word
from umbra_awl.core.fit.memory import Channel, Memory, MemoryList, Settings

Kind = Literal["added", "changed", "removed"]
Table = Literal["identity", "settings", "channel", "contact", "receive group list", "zone", "scan list"]
TABLES: tuple[Table, ...] = ("identity", "settings", "channel", "zone", "scan list", "contact", "receive group list")


class Change(NamedTuple):
    """One line of the change sheet. `detail` says from what to what."""

    kind: Kind
    table: Table
    name: str
    detail: str = ""


class ChangeSheet(NamedTuple):
    """All changes, and how many things stay untouched in each table."""

    changes: tuple[Change, ...]
    untouched: dict[Table, int]

    def of_table(self, table: Table) -> tuple[Change, ...]:
        """The changes in one table."""
        return tuple(change for change in self.changes if change.table == table)


class _Side:
    """One memory with its numbers resolved to what they stand for."""

    def __init__(self, memory: Memory) -> None:
        self.memory = memory
        self.calls = {item.number: (item.call, item.kind) for item in memory.contacts}
        self.groups = {
            item.number: frozenset(self.calls.get(member) for member in item.members) for item in memory.group_lists
        }
        self.names = {item.number: item.name for item in memory.channels}

    def sense(self, channel: Channel) -> dict[str, object]:
        """A channel's values as an operator compares them."""
        dmr = channel.mode == "dmr"
        call = self.calls.get(channel.contact) if dmr else None
        return {
            "receive": format_mhz(channel.rx_hz),
            "transmit": format_mhz(channel.tx_hz),
            "mode": channel.mode.upper(),
            "receive-only": "yes" if channel.receive_only else "no",
            "tone": channel.tone_tx or "none",
            "receive tone": channel.tone_rx or "none",
            "width": "" if dmr else width_word(channel.width_hz),
            "power": f"step {channel.power + 1}",
            "color code": channel.color_code if dmr else "",
            "slot": channel.slot if dmr else "",
            "calls": f"{call[0]} {call[1]}" if call else "nobody",
            "hears": _hears_words(self.groups.get(channel.group_list, frozenset())) if dmr else "",
            "admit": channel.admit,
            "promiscuous": "on" if channel.promiscuous else "off",
            "encryption": "on" if channel.encrypted else "off",
        }


def _hears_words(calls: frozenset[tuple[int, str] | None]) -> str:
    numbers = sorted(call[0] for call in calls if call)
    return " ".join(map(str, numbers)) or "its contact only"


def difference(old: Memory, new: Memory) -> ChangeSheet:
    """The change sheet that leads from one memory to another."""
    before, after = _Side(old), _Side(new)
    changes: list[Change] = [*_identity_changes(old, new), *_setting_changes(old.settings, new.settings)]
    untouched: dict[Table, int] = {}
    moved, channel_changes = _channel_changes(before, after)
    changes.extend(channel_changes)
    touched = sum(change.kind != "removed" for change in channel_changes)
    untouched["channel"] = len(new.channels) - touched
    said: dict[Table, tuple[tuple[MemoryList, ...], tuple[MemoryList, ...]]] = {
        "zone": (old.zones, new.zones),
        "scan list": (old.scans, new.scans),
    }
    for table, (was, now) in said.items():
        found = list(
            _list_changes(table, was, now, lambda number: moved.get(number, -number), after.names, before.names)
        )
        changes.extend(found)
        untouched[table] = len(now) - sum(change.kind != "removed" for change in found)
    changes.extend(_contact_changes(old, new, untouched))
    return ChangeSheet(tuple(changes), untouched)


def _identity_changes(old: Memory, new: Memory) -> Iterator[Change]:
    if old.call != new.call:
        yield Change("changed", "identity", "call sign", f"{old.call or 'none'} → {new.call or 'none'}")
    if old.dmr_id != new.dmr_id:
        yield Change("changed", "identity", "DMR ID", f"{mask_id(old.dmr_id or None)} → {mask_id(new.dmr_id or None)}")


def _setting_changes(old: Settings, new: Settings) -> Iterator[Change]:
    """What of the whole radio's settings changes; what a memory leaves to the radio is no change."""
    if new.startup is not None and old.startup != new.startup:
        yield Change("changed", "settings", "start-up text", f"{old.startup or 'none'} → {new.startup or 'none'}")
    if new.position is not None and old.position != new.position:
        yield Change("changed", "settings", "position", f"{old.position or 'unknown'} → {new.position}")
    if new.time_out_s and old.time_out_s != new.time_out_s:
        yield Change("changed", "settings", "time-out timer", f"{old.time_out_s or '?'} s → {new.time_out_s} s")
    if new.quick_texts and old.quick_texts != new.quick_texts:
        yield Change("changed", "settings", "quick texts", f"{len(old.quick_texts)} → {len(new.quick_texts)}")
    if new.free_tuning is not None and old.free_tuning != new.free_tuning:
        yield Change("changed", "settings", "free tuning", f"{_FREE[old.free_tuning]} → {_FREE[new.free_tuning]}")
    was = {(item.key, item.press): item.action for item in old.keys}
    for item in new.keys:
        before = was.get((item.key, item.press))
        if before != item.action:
            yield Change(
                "changed", "settings", f"key {item.key}, {item.press}", f"{before or 'unknown'} → {item.action}"
            )


_FREE = {True: "sends", False: "listens only", None: "unknown"}


def _channel_changes(before: _Side, after: _Side) -> tuple[dict[int, int], list[Change]]:
    """Channels matched by name, then by what they do. Gives old number to new number, and the changes."""
    by_name = {channel.name: channel for channel in before.memory.channels}
    left = dict(by_name)
    moved: dict[int, int] = {}
    changes: list[Change] = []
    fresh: list[Channel] = []
    for channel in after.memory.channels:
        was = left.pop(channel.name, None)
        if was is None:
            fresh.append(channel)
            continue
        moved[was.number] = channel.number
        detail = _sense_words(before.sense(was), after.sense(channel))
        if detail:
            changes.append(Change("changed", "channel", channel.name, detail))
    by_sense = {_signature(before.sense(channel)): channel for channel in left.values()}
    for channel in fresh:
        was = by_sense.pop(_signature(after.sense(channel)), None)
        if was is None:
            changes.append(Change("added", "channel", channel.name, _short(after.sense(channel))))
            continue
        left.pop(was.name, None)
        moved[was.number] = channel.number
        changes.append(Change("changed", "channel", channel.name, f"name {was.name} → {channel.name}"))
    changes.extend(Change("removed", "channel", name, _short(before.sense(channel))) for name, channel in left.items())
    return moved, changes


def _signature(sense: dict[str, object]) -> tuple[object, ...]:
    return tuple(sense[field] for field in ("receive", "transmit", "mode", "tone", "color code", "slot", "calls"))


def _sense_words(was: dict[str, object], now: dict[str, object]) -> str:
    return ", ".join(f"{field} {was[field]} → {value}" for field, value in now.items() if was[field] != value)


def _short(sense: dict[str, object]) -> str:
    if sense["mode"] == "DMR":
        return f"{sense['receive']} cc {sense['color code']} slot {sense['slot']}, calls {sense['calls']}"
    tone = f" tone {sense['tone']}" if sense["tone"] != "none" else ""
    return f"{sense['receive']} FM{tone}"


def _list_changes(
    table: Table,
    was: tuple[MemoryList, ...],
    now: tuple[MemoryList, ...],
    place: Callable[[int], int],
    names: dict[int, str],
    old_names: dict[int, str],
) -> Iterator[Change]:
    left = {item.name: item for item in was}
    for item in now:
        old = left.pop(item.name, None)
        if old is None:
            yield Change("added", table, item.name, f"{len(item.members)} channels")
            continue
        held = [place(number) for number in old.members]
        if held == list(item.members):
            continue
        gained = [names.get(number, f"channel {number}") for number in item.members if number not in held]
        lost = [old_names.get(number, str(number)) for number in old.members if place(number) not in item.members]
        words = [f"+ {name}" for name in gained] + [f"− {name}" for name in lost]
        yield Change("changed", table, item.name, ", ".join(words) or "another order")
    for item in left.values():
        yield Change("removed", table, item.name, f"{len(item.members)} channels")


def _contact_changes(old: Memory, new: Memory, untouched: dict[Table, int]) -> Iterator[Change]:
    was = {(item.call, item.kind): item for item in old.contacts}
    same = 0
    for item in new.contacts:
        before = was.pop((item.call, item.kind), None)
        if before is None:
            yield Change("added", "contact", item.name, f"{item.call} {item.kind}")
        elif before.name != item.name:
            yield Change("changed", "contact", item.name, f"name {before.name} → {item.name}")
        else:
            same += 1
    for item in was.values():
        yield Change("removed", "contact", item.name, f"{item.call} {item.kind}")
    untouched["contact"] = same
