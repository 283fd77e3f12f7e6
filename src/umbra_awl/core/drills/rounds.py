"""Fields and figures: short questions made of a plan, each with its answer and the reason.

What is asked of a thing that the plan has is its plan's own; what is general comes from the program's tables.
"""

import random
from collections.abc import Callable, Iterator, Mapping
from types import MappingProxyType
from typing import NamedTuple

from umbra_awl.core.facts.frequency import format_mhz, format_offset
from umbra_awl.core.facts.habits import habit_questions
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.hotspot.pairing.devices import PairedDevice, shipped_devices
from umbra_awl.core.hotspot.pairing.machine import PairingSides, next_move, told_done
from umbra_awl.core.modes.calls import called
from umbra_awl.core.modes.dstar import computed_rpt, computed_ur
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import DstarAir, Route
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.routes.order import order_of_use
from umbra_awl.core.transfer.card.steps import steps_of

ALPHABET: Mapping[str, str] = MappingProxyType({
    "A": "Alfa", "B": "Bravo", "C": "Charlie", "D": "Delta", "E": "Echo", "F": "Foxtrot", "G": "Golf", "H": "Hotel",
    "I": "India", "J": "Juliett", "K": "Kilo", "L": "Lima", "M": "Mike", "N": "November", "O": "Oscar", "P": "Papa",
    "Q": "Quebec", "R": "Romeo", "S": "Sierra", "T": "Tango", "U": "Uniform", "V": "Victor", "W": "Whiskey", "X": "X-ray",
    "Y": "Yankee", "Z": "Zulu",
})  # fmt: skip
"""The spelling alphabet (ITU Radio Regulations, appendix 14)."""
_MOST_ORDER = 5
_MOVES = 12


class DrillQuestion(NamedTuple):
    """A question: what is asked, what is right, and why. With `choices` one is chosen; else it is typed.

    Blanks count in a field of D-STAR (`exact`), elsewhere they do not. `pieces` are to be put in order, which is the answer.
    """

    key: str
    kind: str
    ask: str
    answer: str
    why: str
    choices: tuple[str, ...] = ()
    exact: bool = False
    pieces: tuple[str, ...] = ()


class QuestionGround(NamedTuple):
    """What questions are made of."""

    plan: PlanIndex
    fits: Mapping[str, Fit]
    profiles: Mapping[str, Profile]


Asker = Callable[[QuestionGround, random.Random], Iterator[DrillQuestion]]


def _dstar_fields(ground: QuestionGround, chance: random.Random) -> Iterator[DrillQuestion]:
    index = ground.plan
    for route in _mixed(index, chance, "dstar"):
        access, service, destination = index.parts(route)
        if not isinstance(service.air, DstarAir) or not access.call:
            continue
        rpt1, rpt2 = computed_rpt(access, service.air)
        label = index.labels.of(route)
        for name, value, why in (
            (
                "UR",
                computed_ur(destination, route.slot),
                "CQCQCQ calls whoever listens; a command stands in position 8.",
            ),
            ("RPT1", rpt1, "The access point's call sign, its module in position 8."),
            ("RPT2", rpt2, "The gateway: the same call sign with G in position 8."),
        ):
            ask = f"{label}: which eight characters are {name}? Blanks count; type · or a blank for each."
            yield DrillQuestion(f"dstar {name} {route.key}", "D-STAR fields", ask, value.ljust(8), why, exact=True)


def _mixed(index: PlanIndex, chance: random.Random, mode: str = "") -> list[Route]:
    found = [item for item in index.plan.routes if not mode or index.services[item.service][1].mode == mode]
    chance.shuffle(found)
    return found


def _offsets(ground: QuestionGround, chance: random.Random) -> Iterator[DrillQuestion]:
    pairs = [(access, service) for access, service in ground.plan.services.values() if service.rx_hz != service.tx_hz]
    chance.shuffle(pairs)
    for access, service in pairs:
        offset = service.tx_hz - service.rx_hz
        heard, told = format_mhz(service.rx_hz), format_offset(offset)
        ask = f"You hear {access.by_site} on {heard} MHz, its offset is {told} MHz. On which frequency do you send?"
        why = f"{heard} {'+' if offset > 0 else '−'} {format_mhz(abs(offset))} = {format_mhz(service.tx_hz)} MHz."
        yield DrillQuestion(f"offset {service.key}", "Offsets", ask, format_mhz(service.tx_hz), why)


def _group_or_private(ground: QuestionGround, chance: random.Random) -> Iterator[DrillQuestion]:
    index, kinds = ground.plan, ("group call", "private call")
    listed = list(index.plan.destinations)
    chance.shuffle(listed)
    for item in listed:
        call = called(item, index.networks.get(item.network))
        if call is not None:
            ask = f"{item.name}, number {call.number}: is it called as a group or privately?"
            why = "A station and some echo tests are called privately, by one ID; talk groups as a group."
            yield DrillQuestion(f"call {item.key}", "Group or private", ask, f"{call.kind} call", why, kinds)


def _zone_and_knob(ground: QuestionGround, chance: random.Random) -> Iterator[DrillQuestion]:
    for route in _mixed(ground.plan, chance):
        for radio, fit in ground.fits.items():
            channel = fit.channel_of(route.key)
            zone = next((item for item in fit.memory.zones if channel and channel.number in item.members), None)
            if channel is None or zone is None or len(fit.memory.zones) < 2:
                continue
            at = f"{zone.name}, {zone.members.index(channel.number) + 1}"
            others = [
                f"{item.name}, {chance.randrange(1, max(len(item.members), 1) + 1)}" for item in fit.memory.zones
                if item is not zone
            ]  # fmt: skip
            chance.shuffle(others)
            choices = [at, *dict.fromkeys(others)][:4]
            chance.shuffle(choices)
            name = ground.plan.radios[radio].name
            ask = f"{name}: in which zone, at which place of the knob is {ground.plan.labels.of(route)}?"
            yield DrillQuestion(
                f"knob {radio} {route.key}",
                "Zone and knob",
                ask,
                at,
                f"It is called {channel.name} there.",
                tuple(choices),
            )


def _spelling(ground: QuestionGround, chance: random.Random) -> Iterator[DrillQuestion]:
    calls = [item.call for item in ground.plan.plan.station.identities if item.call]
    calls += [item.call for item in ground.plan.plan.access if item.call]
    found = list(dict.fromkeys(calls))
    chance.shuffle(found)
    for call in found:
        words = " ".join(ALPHABET.get(char, char) for char in call.upper())
        ask = f"Spell {call} as on the air, word by word, digits as digits."
        yield DrillQuestion(f"spell {call}", "Spelling", ask, words, "The spelling alphabet of the Radio Regulations.")


def _orders_of_linking(ground: QuestionGround, chance: random.Random) -> Iterator[DrillQuestion]:
    for route in _mixed(ground.plan, chance):
        steps = order_of_use(ground.plan, route)[:_MOST_ORDER]
        if len(steps) > 1 and len(set(steps)) == len(steps):
            ask = f"{ground.plan.labels.of(route)}: put the steps in order."
            why = "Link before you talk, put the field back, and unlink when you are done."
            yield _ordered(f"link {route.key}", "Order of linking", ask, steps, why, chance)


def _ordered(key: str, kind: str, ask: str, steps: tuple[str, ...], why: str, chance: random.Random) -> DrillQuestion:
    pieces = list(steps)
    while tuple(pieces) == steps:
        chance.shuffle(pieces)
    return DrillQuestion(key, kind, ask, "\n".join(steps), why, pieces=tuple(pieces))


def _orders_of_pairing(_ground: QuestionGround, chance: random.Random) -> Iterator[DrillQuestion]:
    for device in shipped_devices().device:
        steps = _pairing(device)[:_MOST_ORDER]
        if len(steps) > 1:
            ask = f"{device.name}: put the steps of pairing in order."
            yield _ordered(
                f"pair {device.key}", "Order of pairing", ask, steps, "Paired in the wrong place it gets stuck.", chance
            )


def _pairing(device: PairedDevice) -> tuple[str, ...]:
    """The steps of pairing a device from the beginning, as they follow from one another."""
    sides, steps = PairingSides({}, wireless=False), list[str]()
    for _move in range(_MOVES):
        move = next_move(device, sides)
        if move is None or move.words in steps:
            break
        steps.append(move.words)
        sides = told_done(sides, move)
    return tuple(steps)


def _orders_of_card(ground: QuestionGround, chance: random.Random) -> Iterator[DrillQuestion]:
    for profile in ground.profiles.values():
        steps = tuple(dict.fromkeys(item.title for item in steps_of(profile)))
        if len(steps) >= _MOST_ORDER:
            start = chance.randrange(len(steps) - _MOST_ORDER + 1)
            ask = f"{profile.name} by memory card: put these steps in order."
            why = "Off before the card is pulled; what is only kept on the shelf is not on the card."
            yield _ordered(
                f"card {profile.key}", "Order of the card", ask, steps[start : start + _MOST_ORDER], why, chance
            )


def _habits(ground: QuestionGround, chance: random.Random) -> Iterator[DrillQuestion]:
    """On what one chose where practitioners disagree: the reason of the one's own way, not of the other."""
    for question in habit_questions():
        way = question.way(getattr(ground.plan.plan.station.habits, question.field))
        if way is not None:
            reasons = [item.why for item in question.ways]
            chance.shuffle(reasons)
            ask = f"{question.topic}: you keep to “{way.words}”. What for?"
            why = "The other reason is that of the other way; both are kept to by good operators."
            yield DrillQuestion(
                f"habit {question.field} {way.key}", "What you keep to", ask, way.why, why, tuple(reasons)
            )


KINDS: Mapping[str, Asker] = MappingProxyType({
    "D-STAR fields": _dstar_fields,
    "Offsets": _offsets,
    "Group or private": _group_or_private,
    "Zone and knob": _zone_and_knob,
    "Spelling": _spelling,
    "Order of linking": _orders_of_linking,
    "Order of pairing": _orders_of_pairing,
    "Order of the card": _orders_of_card,
    "What you keep to": _habits,
})  # fmt: skip
"""The kinds of questions, and how they are made."""


def questions(ground: QuestionGround, seed: int, most_each: int = 12) -> dict[str, DrillQuestion]:
    """Questions of every kind by their keys, at most so many of each; the same for the same seed."""
    found: dict[str, DrillQuestion] = {}
    for at, asker in enumerate(KINDS.values()):
        chance = random.Random(seed * 100 + at)  # noqa: S311  (a drill)
        for count, item in enumerate(asker(ground, chance)):
            if count == most_each:
                break
            found[item.key] = item
    return found


def is_right(question: DrillQuestion, typed: str) -> bool:
    """Whether an answer is right."""
    if question.exact:
        return typed.replace("·", " ").upper().ljust(8) == question.answer.upper()
    if question.kind == "Offsets":
        return _number(typed) == _number(question.answer)
    return _plain(typed) == _plain(question.answer)


def _number(text: str) -> float | None:
    try:
        return round(float(text.strip().lower().removesuffix("mhz").strip().replace(",", ".")), 6)
    except ValueError:
        return None


def _plain(text: str) -> str:
    return " ".join(text.replace("-", "").casefold().split())
