"""Nets added, changed and taken out, and their rules as they are typed."""

import re
from collections.abc import Callable, Iterable
from typing import Any

from msgspec.structs import replace

from umbra_awl.core.agenda.recurrence import DAY_WORDS, net_fault
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, add_item, drop_item, fresh_key, fresh_keys, swap_item
from umbra_awl.core.plan.model import Net, Plan
from umbra_awl.core.plan.parts import NETS

_ORDER = {"first": 1, "second": 2, "third": 3, "fourth": 4, "fifth": 5, "last": -1}
_SHORTEST = 2


def days_typed(text: str) -> tuple[int, ...]:
    """The days of the week in a text such as “Tue, Thu”. Raises EditRefused for a word that is none."""
    return tuple(sorted({_day(word) for word in re.split(r"[\s,;]+", text.strip()) if word}))


def _day(word: str) -> int:
    found = [at for at, name in enumerate(DAY_WORDS) if name.casefold().startswith(word.casefold())]
    if len(found) != 1 or len(word) < _SHORTEST:
        raise EditRefused(f"“{word}” is no day of the week. Write it as Mon, Tue, Wed, Thu, Fri, Sat or Sun.")
    return found[0]


def days_words(days: tuple[int, ...]) -> str:
    """Days of the week as they are typed."""
    return ", ".join(DAY_WORDS[day][:3] for day in days if 0 <= day < len(DAY_WORDS))


def nth_typed(text: str) -> tuple[int, ...]:
    """Which of a month's days, of a text such as “first, last”. Raises EditRefused for a word that is none."""
    found = []
    for word in re.split(r"[\s,;]+", text.strip().casefold()):
        if word and word not in _ORDER:
            raise EditRefused(f"“{word}” is none of first, second, third, fourth, fifth, last.")
        if word:
            found.append(_ORDER[word])
    return tuple(dict.fromkeys(found))


def nth_words(nth: tuple[int, ...]) -> str:
    """Which of a month's days, as it is typed."""
    words = {number: word for word, number in _ORDER.items()}
    return ", ".join(words[item] for item in nth if item in words)


def add_net(plan: Plan, net: Net) -> Edit:
    """Add a net under a key of its own; its `key` is not looked at. Refused where its times cannot be."""
    fault = net_fault(net)
    if fault:
        raise EditRefused(fault)
    made = replace(net, key=fresh_key(net.name, (item.key for item in plan.nets)))
    return add_item(NETS, made, f"Add the net {net.name}")


def add_nets(nets: Iterable[Net], sentence: str) -> Edit:
    """Add several nets under keys of their own, as one edit. Refused where the times of one cannot be."""

    def apply(plan: Plan) -> Plan:
        fresh = tuple(nets)
        fault = next((fault for net in fresh if (fault := net_fault(net))), "")
        if fault:
            raise EditRefused(fault)
        keys = fresh_keys((net.name for net in fresh), (item.key for item in plan.nets))
        made = tuple(replace(net, key=key) for net, key in zip(fresh, keys, strict=True))
        return replace(plan, nets=(*plan.nets, *made))

    return Edit(sentence, apply)


def set_net(net: Net, sentence: str, **fields: Any) -> Edit:
    """Change fields of a net. Refused where its times cannot be."""

    def apply(plan: Plan) -> Plan:
        return replace(plan, nets=swap_item(plan.nets, net.key, _changed(fields)))

    return Edit(sentence, apply)


def _changed(fields: dict[str, Any]) -> Callable[[Net], Net]:
    def change(net: Net) -> Net:
        made = replace(net, **fields)
        fault = net_fault(made)
        if fault:
            raise EditRefused(fault)
        return made

    return change


def skip_day(net: Net, day: str) -> Edit:
    """There is no meeting on one day, given in the net's own zone."""
    return set_net(net, f"No {net.name} on {day}", skips=tuple(sorted({*net.skips, day})))


def remove_net(net: Net) -> Edit:
    """Take a net out."""
    return drop_item(NETS, net.key, f"Remove the net {net.name}")
