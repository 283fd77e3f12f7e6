"""Another's plan as far as their hand reaches into mine: what is mine alone is mine in it, and what is new in it is harmless.

Their people come as people without a licence, none of whom shares mine; their radios stay with their people.
"""

from typing import Any, NamedTuple

import msgspec
from msgspec.structs import replace

from umbra_awl.core.hands.threeway import DOUBT, KeptSide, Path
from umbra_awl.core.plan.authority import default_of, hand_of
from umbra_awl.core.plan.edit.edits import fresh_key
from umbra_awl.core.plan.model import Identity, Licence, OwnedRadio, Plan


class OfferedChange(NamedTuple):
    """The other plan as it may be merged, and in what they differ that stays mine."""

    plan: Plan
    kept: tuple[KeptSide, ...]


def offered_by(mine: Plan, theirs: Plan) -> OfferedChange:
    """The other plan with everything in it that no file may change as it is in mine."""
    theirs = _with_people(mine, theirs)
    work = _Under()
    return OfferedChange(work.struct((), mine, theirs), tuple(work.kept))


def with_doubts(base: Plan | None, mine: Plan, theirs: Plan) -> Plan | None:
    """The ancestor with a doubt in each value that only they changed and that is asked all the same."""
    return _doubting(base, mine, theirs) if base is not None else None


# people


def _with_people(mine: Plan, theirs: Plan) -> Plan:
    """Their plan with my people as they are, theirs behind them, and their radios and steps for the same people as before."""
    own = {item.key: item for item in mine.station.identities}
    taken, keys, fresh = set(own), dict[str, str](), list[Identity]()
    for item in theirs.station.identities:
        same = _same_person(item, own, mine)
        if same:
            keys[item.key] = same
            continue
        key = fresh_key(item.key, taken) if item.key in taken else item.key
        taken.add(key)
        keys[item.key] = key
        fresh.append(replace(item, key=key, licence=Licence(), shares_licence=False))
    first = theirs.station.identities[0].key if theirs.station.identities else ""
    radios = tuple(_with_owner(radio, keys, first) for radio in theirs.radios)
    steps = tuple(replace(step, who=keys.get(step.who, step.who)) for step in theirs.steps)
    station = replace(theirs.station, identities=(*mine.station.identities, *fresh))
    return replace(theirs, station=station, radios=radios, steps=steps)


def _same_person(item: Identity, own: dict[str, Identity], mine: Plan) -> str:
    """The key of my person that theirs is, by the call sign; a key alone says nothing, since anybody may have chosen it."""
    if item.key in own and own[item.key].call == item.call:
        return item.key
    return next((one.key for one in mine.station.identities if one.call and one.call == item.call), "")


def _with_owner(radio: OwnedRadio, keys: dict[str, str], first: str) -> OwnedRadio:
    """Their radio with whom it is for; one that is for nobody in particular is for their owner and never under my licence."""
    return replace(radio, identity=keys.get(radio.identity or first, radio.identity or first))


# fields


class _Under:
    """Puts back what is mine."""

    def __init__(self) -> None:
        self.kept: list[KeptSide] = []

    def struct(self, path: Path, mine: Any, theirs: Any) -> Any:
        """Their thing with my values where they are mine alone."""
        changed = {}
        for name in theirs.__struct_fields__:
            own, other = getattr(mine, name), getattr(theirs, name)
            if own == other:
                continue
            made = self._field((*path, name), hand_of(type(theirs), name), own, other)
            if made is not other:
                changed[name] = made
        return replace(theirs, **changed) if changed else theirs

    def _field(self, path: Path, hand: str, own: Any, other: Any) -> Any:
        if hand == "mine":
            self.kept.append(KeptSide(path))
            return own
        if isinstance(own, msgspec.Struct) and type(own) is type(other):
            return self.struct(path, own, other)
        if _keyed(own) and _keyed(other):
            return self._rows(path, own, other)
        return harmless(other)

    def _rows(self, path: Path, own: tuple[Any, ...], other: tuple[Any, ...]) -> tuple[Any, ...]:
        held = {item.key: item for item in own}
        made = []
        for item in other:
            before = held.get(item.key)
            same = type(before) is type(item)
            made.append(self.struct((*path, str(item.key)), before, item) if same else harmless(item))
        return tuple(made)


def _keyed(value: Any) -> bool:
    return isinstance(value, tuple) and all(hasattr(item, "key") for item in value)


def harmless(value: Any) -> Any:
    """Something new of theirs, with nothing in it that only my own hand may set; a radio stays with whom it is for."""
    if isinstance(value, tuple):
        return tuple(map(harmless, value))
    if not isinstance(value, msgspec.Struct) or isinstance(value, Identity):
        return value
    changed = {}
    for name in value.__struct_fields__:
        now = getattr(value, name)
        if hand_of(type(value), name) == "mine" and name != "identity":
            made = default_of(type(value), name)
            made = now if made is msgspec.NODEFAULT else made
        else:
            made = harmless(now)
        if made is not now:
            changed[name] = made
    return replace(value, **changed) if changed else value


# doubts


def _doubting(base: Any, mine: Any, theirs: Any) -> Any:
    changed: dict[str, Any] = {}
    for name in base.__struct_fields__:
        was, own, other = (getattr(item, name) for item in (base, mine, theirs))
        if was != own or own == other:
            continue
        hand = hand_of(type(base), name)
        inner = not isinstance(base, Plan) and hand == "asked"  # a plan's own collections are asked for row by row
        made = DOUBT if inner and _rows_differ(own, other) else _doubt(hand, was, own, other)
        if made is not was:
            changed[name] = made
    return replace(base, **changed) if changed else base


def _rows_differ(own: Any, other: Any) -> bool:
    return _keyed(own) and _keyed(other) and {item.key for item in own} != {item.key for item in other}


def _doubt(hand: str, was: Any, own: Any, other: Any) -> Any:
    if all(isinstance(item, msgspec.Struct) and type(item) is type(was) for item in (was, own, other)):
        return _doubting(was, own, other)
    if _keyed(was) and _keyed(own) and _keyed(other):
        mine, theirs = ({item.key: item for item in items} for items in (own, other))
        rows = [
            _doubting(item, mine[item.key], theirs[item.key])
            if item.key in mine and item.key in theirs and type(mine[item.key]) is type(theirs[item.key]) is type(item)
            else item
            for item in was
        ]
        same = all(one is two for one, two in zip(rows, was, strict=True))
        return was if same else tuple(rows)
    return DOUBT if hand == "asked" else was
