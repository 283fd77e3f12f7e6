"""Merging in words: which thing, which of its values, what each side has. Never lines of a file."""

from collections.abc import Iterable, Iterator, Mapping
from types import MappingProxyType
from typing import Any

import msgspec

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.hands.merge import GONE, ORDER, KeptSide, MergeTaken, Path, Question
from umbra_awl.core.plan.index import NO_DAY, PlanIndex
from umbra_awl.core.plan.model import Plan, Service
from umbra_awl.core.plan.parts import PARTS

_WHOLE = {
    "name": "the plan",
    "station": "the station",
    "names": "the style of names",
    "evening": "the evening's traffic",
}
_FIELDS: Mapping[str, str] = MappingProxyType({
    "rx_hz": "receive frequency", "tx_hz": "transmit frequency", "width_hz": "width", "receive_hz": "receive frequency",
    "transmit_hz": "transmit frequency", "tone_tx": "tone", "tone_rx": "tone on receive", "dgid_tx": "DG-ID",
    "dgid_rx": "DG-ID on receive", "lat": "latitude", "lon": "longitude", "hears": "receive group list", "ur": "UR",
    "rpt1": "RPT1", "rpt2": "RPT2", "members": "routes", "at": "hour", "begins": "first day", "ends": "last day",
    "until": "last day", "dstar_call": "D-STAR call sign", "by": "rule", "of": "group", "low": "shortest days",
    "likely": "likely days", "high": "longest days", "after": "what it waits for",
})  # fmt: skip
"""Fields whose names are not words already."""
_OWN: Mapping[str, str] = MappingProxyType({
    "licence": "licence and guard", "bands": "band edges", "region": "region", "identity": "whom a radio is for", "lat": "place",
    "lon": "place", "place": "place", "height_m": "antenna height", "privacy": "privacy", "phone": "phone", "home_wifi": "Wi-Fi",
    "wifi": "Wi-Fi", "neighbours": "neighbours", "rx_correction_hz": "corrections", "tx_correction_hz": "corrections",
    "identities": "people", "trips": "trips", "silenced": "findings put aside", "readings": "readings",
    "listened": "what was heard",
    "proofs": "proofs", "by_eye": "steps seen by eye", "locked": "passwords", "id_label": "IDs", "version": "", "format": "",
})  # fmt: skip
"""What is changed by one's own hand alone, in words."""
_MOST = 60
_SIDES = {"mine": "yours", "theirs": "theirs"}
_WHAT = {
    "added": "added", "changed": "changed", "removed": "removed", "order": "put in another order",
    "put back": "put back, for something new needs it",
}  # fmt: skip


class Wordings:
    """Says things of three plans by the names that they have there."""

    def __init__(self, mine: Plan, theirs: Plan, base: Plan | None = None) -> None:
        self._plans = [PlanIndex(plan, NO_DAY) for plan in (mine, theirs, base) if plan is not None]

    def thing(self, path: Path) -> str:
        """The thing that a path leads to: “the route Q0BLK slot 2 to Isles-wide”."""
        part = PARTS.get(path[0])
        if part is None:
            return self._within(_WHOLE.get(path[0], path[0]), path[1:])
        if len(path) < 2 or path[1] == ORDER:
            return f"the {part.word}s"
        for index in self._plans:
            item = next((item for item in part.of(index.plan) if str(item.key) == path[1]), None)
            if item is not None:
                return self._within(f"the {part.word} {self._name(index, path[0], item)}", path[2:], item)
        return f"the {part.word} {path[1]}"

    @staticmethod
    def _name(index: PlanIndex, part: str, item: Any) -> str:
        if part == "routes":
            return index.labels.of(item) if item.key in index.routes else item.key
        if part == "hotspots":
            access = index.access.get(item.access)
            return access.by_site if access is not None else item.key
        return str(getattr(item, "by_site", "") or getattr(item, "name", "") or getattr(item, "rule", "") or item.key)

    @staticmethod
    def _within(name: str, rest: Path, item: Any = None) -> str:
        """The same with the inner thing that a path goes on to: its DMR service, an ID."""
        if len(rest) > 1 and rest[0] == "services":
            service = next((one for one in getattr(item, "services", ()) if one.key == rest[1]), None)
            return f"{name}, {MODE_WORDS[service.mode]}" if isinstance(service, Service) else name
        if len(rest) > 1 and rest[0] == "identities":
            return f"{name}, {rest[1]}"
        return name

    @staticmethod
    def field(path: Path) -> str:
        """What of the thing a path means: “color code”; empty where it is the whole thing."""
        last = path[-1]
        if last == ORDER:
            return "order"
        whole = len(path) == 1 if path[0] not in PARTS else len(path) == 2
        inner = len(path) > 2 and path[-2] in {"services", "identities", "ids"}
        if whole and path[0] == "name":
            return "name"
        return "" if whole or inner else _FIELDS.get(last, last.replace("_", " "))

    def value(self, path: Path, value: Any) -> str:
        """What a side has there, in words."""
        if value is GONE:
            return "not there"
        if isinstance(value, msgspec.Struct):
            return self._struct(path, value)
        return self._cut(self._row(path, value) if isinstance(value, tuple) else self._plain(path, value))

    def _row(self, path: Path, value: tuple[Any, ...]) -> str:
        if path[-1] == ORDER:
            return ", ".join(self._called(path[0], key) for key in value)
        return ", ".join(self.value((*path, "-"), item) for item in value) or "none"

    def _plain(self, path: Path, value: Any) -> str:
        if path[-1].endswith("_hz") and isinstance(value, int):
            return f"{format_mhz(value)} MHz"
        if isinstance(value, bool):
            return "yes" if value else "no"
        return "none" if value in ("", None) else self._named(path, str(value))

    def _called(self, part: str, key: Any) -> str:
        return self.thing((part, str(key))).removeprefix(f"the {PARTS[part].word} ") if part in PARTS else str(key)

    def _named(self, path: Path, text: str) -> str:
        """A key that a field points to, as the name of what it names."""
        kinds = {"destination": "destinations", "hears": "destinations", "network": "networks", "members": "routes",
                 "route": "routes", "access": "access", "zone": "zones", "zones": "zones"}  # fmt: skip
        name = path[-2] if path[-1] == "-" else path[-1]
        return self._called(kinds[name], text) if name in kinds and text else text

    def _struct(self, path: Path, value: msgspec.Struct) -> str:
        if len(path) == 2 and path[0] in PARTS:
            return "there, changed"
        held = [
            f"{_FIELDS.get(name, name.replace('_', ' '))} {self.value((*path, name), getattr(value, name))}"
            for name in value.__struct_fields__
            if name != "key" and getattr(value, name) not in ("", None, ())
        ]
        return self._cut(", ".join(held))

    @staticmethod
    def _cut(text: str) -> str:
        return text if len(text) <= _MOST else f"{text[: _MOST - 1]}…"

    def question(self, item: Question) -> tuple[str, str, str, str]:
        """A question in four cells: the thing, what of it, mine, theirs."""
        thing = self.thing(item.path)
        return (
            thing,
            self.field(item.path) or "the whole",
            self.value(item.path, item.mine),
            self.value(item.path, item.theirs),
        )

    def taken(self, item: MergeTaken) -> str:
        """What came by itself, as a sentence, with what changed in it."""
        field = self.field(item.path)
        changes = self._changes(item) if item.what == "changed" and len(item.path) == 2 else ""
        end = f": {changes}" if changes else ""
        return f"{_SIDES[item.side]}: {self.thing(item.path)}{f', {field},' if field else ''} {_WHAT[item.what]}{end}"

    def _changes(self, item: MergeTaken) -> str:
        """What of a whole thing is another now: “number 99905 → 99906”."""
        sides = {"mine": 0, "theirs": 1}
        if item.path[0] not in PARTS or len(self._plans) < len(("mine", "theirs", "base")):
            return ""
        now, was = (self._item(self._plans[at].plan, item.path) for at in (sides[item.side], 2))
        if now is None or was is None:
            return ""
        told = [
            f"{self.field(path)} {self.value(path, one)} → {self.value(path, two)}"
            for path, one, two in _differences(item.path, was, now)
        ]
        return ", ".join(told[:3]) + (" …" if len(told) > 3 else "")

    @staticmethod
    def _item(plan: Plan, path: Path) -> Any:
        return next((one for one in PARTS[path[0]].of(plan) if str(one.key) == path[1]), None)

    def kept(self, kept: Iterable[KeptSide]) -> str:
        """What the other side has otherwise and no file changes, with where it is set; empty for nothing."""
        told = dict.fromkeys(
            _OWN.get(item.path[-1]) or _OWN.get(item.path[0]) or self.field(item.path) for item in kept
        )
        said = ", ".join(filter(None, told))
        return (
            f" Yours alone, whatever theirs says: {said}. No file changes these; you do, where they stand."
            if said
            else ""
        )

    def summary(self, taken: Iterable[MergeTaken], side: str) -> str:
        """What came from one side, counted by kind: “12 routes added, 1 station changed”."""
        counts: dict[tuple[str, str], set[str]] = {}
        for item in taken:
            if item.side == side:
                part = PARTS.get(item.path[0])
                word = part.word if part is not None else _WHOLE.get(item.path[0], item.path[0])
                counts.setdefault((word, item.what), set()).add("/".join(item.path[:2]))
        told = [_counted(word, len(keys), what) for (word, what), keys in counts.items()]
        return ", ".join(told) or "nothing"


def _counted(word: str, count: int, what: str) -> str:
    return f"{word} {_WHAT[what]}" if word in _WHOLE.values() else f"{counted(count, word)} {_WHAT[what]}"


def _differences(path: Path, was: Any, now: Any) -> Iterator[tuple[Path, Any, Any]]:
    """The single values in which two things differ, with where they are."""
    if isinstance(was, msgspec.Struct) and type(was) is type(now):
        for name in now.__struct_fields__:
            if getattr(was, name) != getattr(now, name):
                yield from _differences((*path, name), getattr(was, name), getattr(now, name))
        return
    keyed = isinstance(was, tuple) and isinstance(now, tuple) and all(hasattr(item, "key") for item in (*was, *now))
    if keyed and [item.key for item in was] == [item.key for item in now]:
        for one, two in zip(was, now, strict=True):
            if one != two:
                yield from _differences((*path, str(two.key)), one, two)
        return
    yield path, was, now
