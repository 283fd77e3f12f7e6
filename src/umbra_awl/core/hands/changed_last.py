"""“What did I change last?” over plan, radios, hotspots and the log: one dated list, the latest first.

Most faults came with the last change. The plan's dated saves say what was edited between them; the backups on a radio's shelf,
what was found in it each time it was read; a hotspot's readings, proofs and quiet days, what was done to it; the log, when
something failed.
"""

from collections.abc import Iterable, Iterator, Mapping
from itertools import pairwise
from pathlib import Path
from typing import Any, NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.hands.words import Wordings
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.plan.disk.saves import Save, list_saves
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.index import NO_DAY, PlanIndex
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.parts import PARTS, TYPES
from umbra_awl.core.transfer.errors import ShelfError
from umbra_awl.core.transfer.held import shelf_of
from umbra_awl.core.transfer.shelf import Backup, Shelf, Stored

MOST_SAVES, MOST_BACKUPS, MOST_TOLD = 12, 6, 3
_WHOLE = {
    "station": "the station",
    "names": "the style of names",
    "evening": "the evening's traffic",
    "name": "the plan's name",
}
_QUIET = frozenset({"codes", "readings", "listened", "proofs", "by_eye", "listed", "silenced"})
"""Fields that the program itself fills as it works, or that have lines of their own here."""
_PERSONAL = frozenset({"number", "ids"})


class DatedChange(NamedTuple):
    """One change: its moment as the computer's clock told it, what it was made on, and in words what it was."""

    when: str
    what: str
    words: str


def plan_changes(was: Plan, now: Plan) -> tuple[str, ...]:
    """What differs between two states of a plan, thing by thing, in words; nobody's ID is told."""
    return tuple(_of_plan(was, now))


def _of_plan(was: Plan, now: Plan) -> Iterator[str]:
    say = Wordings(now, was)
    for name in TYPES:
        part = PARTS.get(name)
        if part is None:
            if getattr(was, name) != getattr(now, name):
                yield f"{_WHOLE.get(name, name)} changed"
        elif part.keyed and part.of(was) != part.of(now):
            yield from _of_part(say, name, was, now)


def _of_part(say: Wordings, name: str, was: Plan, now: Plan) -> Iterator[str]:
    before, after = ({str(item.key): item for item in PARTS[name].of(plan)} for plan in (was, now))
    for key in after.keys() - before.keys():
        yield f"{say.thing((name, key))} added"
    for key in before.keys() - after.keys():
        yield f"{say.thing((name, key))} removed"
    for key in before.keys() & after.keys():
        told = _fields(say, (name, key), before[key], after[key])
        if told:
            yield f"{say.thing((name, key))}: {', '.join(told[:MOST_TOLD])}{' …' if len(told) > MOST_TOLD else ''}"


def _fields(say: Wordings, path: tuple[str, ...], was: Any, now: Any) -> list[str]:
    return [
        said if field in _PERSONAL else f"{said} {say.value((*path, field), one)} → {say.value((*path, field), two)}"
        for field in now.__struct_fields__
        if field not in _QUIET and (one := getattr(was, field)) != (two := getattr(now, field))
        for said in (say.field((*path, field)),)
    ]


def _saved(path: Path, plan: Plan) -> Iterator[DatedChange]:
    """What was edited from each save to the next, and since the last."""
    saves: list[Save | None] = [None, *list_saves(path)[:MOST_SAVES]]
    held: dict[str, Plan] = {}

    def read(save: Save) -> Plan | None:
        try:
            return held.setdefault(save.when, read_plan(save.path))
        except (StoreError, OSError):
            return None

    for newer, older in pairwise(saves):
        was = read(older) if older is not None else None
        now = plan if newer is None else read(newer)
        if was is None or now is None or older is None:
            continue
        when = newer.when if newer is not None else "now"
        for words in plan_changes(was, now):
            yield DatedChange(when, "plan", words)


def _in_radio(shelf: Shelf, radio: str) -> Iterator[DatedChange]:
    """What was found in a radio at each reading, against the reading before."""
    backups = shelf.backups()[:MOST_BACKUPS]
    loaded = [(item, stored) for item in backups if (stored := _load(item)) is not None]
    for (newer, now), (_older, was) in pairwise(loaded):
        yield DatedChange(newer.when, radio, _memory_words(was, now))
    if loaded:
        first, stored = loaded[-1]
        yield DatedChange(first.when, radio, f"read, {counted(len(stored.memory.channels), 'channel')}, and kept")
    if shelf.unfinished() is not None and loaded:
        yield DatedChange("now", radio, "a write began and was not proven: what it holds is not known")


def _load(backup: Backup) -> Stored | None:
    try:
        return Shelf.load(backup)
    except ShelfError:
        return None


def _memory_words(was: Stored, now: Stored) -> str:
    old = {item.number: item for item in was.memory.channels}
    new = {item.number: item for item in now.memory.channels}
    changed = [new[at].name for at in sorted(new) if at in old and old[at] != new[at]]
    told = []
    if changed:
        names = ", ".join(changed[:MOST_TOLD]) + (" …" if len(changed) > MOST_TOLD else "")
        told.append(f"{len(changed)} of its channels are others ({names})")
    for count, word in ((len(new.keys() - old.keys()), "more"), (len(old.keys() - new.keys()), "fewer")):
        if count:
            told.append(f"{count} {word}")
    if not told:
        told.append("its settings or lists are others" if was.image != now.image else "as it was")
    return f"read: {', '.join(told)}"


def _on_hotspots(index: PlanIndex) -> Iterator[DatedChange]:
    for hotspot in index.plan.hotspots:
        access = index.access.get(hotspot.access)
        where = access.by_site if access is not None else hotspot.key
        for reading in hotspot.readings:
            if reading.day:
                yield DatedChange(reading.day, where, f"offset {reading.offset_hz:+d} Hz tried, {reading.side}")
        for proof in (*hotspot.proofs, *hotspot.by_eye):
            yield DatedChange(proof.day[:16], where, f"“{proof.rung}” was seen")


def _in_log(entries: Iterable[Entry], index: PlanIndex) -> Iterator[DatedChange]:
    for entry in entries:
        if entry.grade == "failed":
            route = index.routes.get(entry.route)
            label = index.labels.of(route) if route is not None else entry.route
            yield DatedChange(
                entry.utc.replace("T", " ")[:16], "log", f"{label} failed{f': {entry.note}' if entry.note else ''}"
            )


def changed_last(
    plan: Plan, path: Path, entries: Iterable[Entry] = (), radios: Mapping[str, str] | None = None, most: int = 200
) -> tuple[DatedChange, ...]:
    """The latest changes, those since the last save first. `radios` are names by key; the plan's where none are given."""
    index = PlanIndex(plan, NO_DAY)
    named = radios or {item.key: item.name for item in plan.radios}
    found = [
        *_saved(path, plan),
        *(change for key, name in named.items() for change in _in_radio(shelf_of(path, key), name)),
        *_on_hotspots(index),
        *_in_log(entries, index),
    ]
    dated = sorted((item for item in found if item.when != "now"), key=lambda item: item.when, reverse=True)
    return tuple([item for item in found if item.when == "now"] + dated)[:most]


__all__ = ["DatedChange", "changed_last", "plan_changes"]
