"""Find the fault: a sound copy of a plan with one to three slips in it, what the operator notices, and how an answer is judged.

Everything is a copy: the plan that is given is never changed.
"""

import random
from collections.abc import Iterable, Mapping
from datetime import date
from typing import Any, NamedTuple

from msgspec.structs import replace

from umbra_awl.core.drills.seeds import SEEDS, OfferedDrill
from umbra_awl.core.drills.slips import Slip, shipped_slips
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.findings.evaluate import Evaluator
from umbra_awl.core.findings.model import Finding
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.index import NO_DAY, PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Plan, Service
from umbra_awl.core.plan.parts import PARTS
from umbra_awl.core.radio.profile import Profile

MOST_FAULTS = 3
_MOST_TRIED = 60
_MOST_REPAIRS = 80
FindingKey = tuple[str, str, str, str]


class DrillFault(NamedTuple):
    """One slip that was seeded: what is noticed of it, and the very finding that explains it."""

    slip: Slip
    symptom: str
    finding: Finding


class Case(NamedTuple):
    """A drill: the copy with the slips, the copy without them, and the faults."""

    plan: Plan
    sound: Plan
    faults: tuple[DrillFault, ...]


class Judged(NamedTuple):
    """How an answer stands: the slips named rightly, those repaired in the copy, and what else is wrong there now.

    `intact` is false where something was taken away, made receive-only or put aside in place of being repaired.
    """

    named: frozenset[str]
    repaired: frozenset[str]
    new: tuple[Finding, ...]
    intact: bool = True

    def done(self, case: Case) -> bool:
        """Whether every fault is named and repaired, and nothing new is broken."""
        keys = {item.slip.key for item in case.faults}
        return keys <= self.named and keys <= self.repaired and not self.new


class NoCaseError(Exception):
    """No such slip can be made in this plan; the message says why."""


class Maker:
    """Makes cases of a plan. Not for two threads at once."""

    def __init__(self, plan: Plan, profiles: Mapping[str, Profile], today: date) -> None:
        self._today = today
        self._profiles = profiles
        self.sound = sound_copy(plan, profiles, today)
        self._evaluator = Evaluator(profiles)
        self._known = _keys(self._found(self.sound))

    def _found(self, plan: Plan) -> tuple[Finding, ...]:
        return self._evaluator.evaluate(PlanIndex(plan, self._today))

    def possible(self) -> list[str]:
        """The slips that can be made in this plan, by their keys."""
        chance = random.Random(1)  # noqa: S311  (a drill)
        return [key for key in SEEDS if self._seeded(self.sound, key, chance) is not None]

    def case(self, seed: int, count: int = 1, keys: Iterable[str] = ()) -> Case:
        """A case of so many slips; `keys` are the ones to choose from, the first first (none: any). Raises NoCaseError."""
        chance = random.Random(seed)  # noqa: S311  (a drill)
        wanted = [key for key in keys if key in SEEDS]
        if not wanted:
            wanted = list(SEEDS)
            chance.shuffle(wanted)
        plan, faults = self.sound, list[DrillFault]()
        for key in wanted:
            if len(faults) == min(count, MOST_FAULTS):
                break
            found = self._seeded(plan, key, chance, faults)
            if found is not None:
                plan, fault = found
                faults.append(fault)
        if not faults:
            raise NoCaseError(
                "This plan has nothing in which such a slip could be made. Punch some routes, or practise on the demo's plan."
            )
        return Case(plan, self.sound, tuple(faults))

    def _seeded(
        self, plan: Plan, key: str, chance: random.Random, others: Iterable[DrillFault] = ()
    ) -> tuple[Plan, DrillFault] | None:
        """The plan with a slip more, and the fault; None where it cannot be made so that it and the others are found."""
        slip, index = shipped_slips()[key], PlanIndex(plan, self._today)
        for tried, offered in enumerate(SEEDS[key](index, chance)):
            if tried == _MOST_TRIED:
                break
            found = self._found(offered.plan)
            keys = _keys(found)
            fresh = [item for item in found if item.key not in self._known and item.rule.name in slip.rules]
            if fresh and all(item.finding.key in keys for item in others):
                return offered.plan, DrillFault(slip, _symptom(slip, offered), fresh[0])
        return None


def sound_copy(plan: Plan, profiles: Mapping[str, Profile], today: date) -> Plan:
    """The plan with every repair that its findings offer done; what has none is left."""
    evaluator = Evaluator(profiles)
    for _round in range(_MOST_REPAIRS):
        found = evaluator.evaluate(PlanIndex(plan, today))
        mended = next(
            (made for item in found if item.repair is not None and (made := _done(plan, item)) is not None), None
        )
        if mended is None:
            return plan
        plan = mended
    return plan


def _done(plan: Plan, finding: Finding) -> Plan | None:
    """The plan after a finding's repair; None where that is refused or changes nothing, and where it would put a guard on."""
    if finding.repair is None or finding.severity == "note":
        return None
    try:
        made = finding.repair.edit.apply(plan)
    except EditRefused:
        return None
    return None if made == plan else made


def _intact(sound: Plan, present: Plan) -> bool:
    """Whether everything of the sound plan is still there, sends as it did, and nothing was put aside to look sound."""
    return (
        all(_kept(part.of(sound)) <= _kept(part.of(present)) for part in PARTS.values())
        and {item.key for item in present.routes if item.receive_only}
        <= {item.key for item in sound.routes if item.receive_only}
        and {service.key for access in sound.access for service in access.services}
        <= {service.key for access in present.access for service in access.services}
    )


def _kept(row: Iterable[Any]) -> set[str]:
    return {item.key for item in row}


def _keys(found: Iterable[Finding]) -> frozenset[FindingKey]:
    return frozenset(item.key for item in found)


def _symptom(slip: Slip, offered: OfferedDrill) -> str:
    """What is noticed, with the names of this plan."""
    index = PlanIndex(offered.plan, NO_DAY)
    route = index.routes.get(offered.route)
    whom = index.destinations.get(offered.destination or (route.destination if route is not None else ""))
    access = index.access.get(offered.access) or (index.parts(route)[0] if route is not None else None)
    radio = index.radios.get(offered.radio)
    return slip.symptom.format(
        route=index.labels.of(route) if route is not None else "a channel",
        site=_site(access, index.services[route.service][1] if route is not None else None),
        name=whom.name if whom is not None else "somebody",
        radio=radio.name if radio is not None else "a radio",
    )


def _site(access: AccessPoint | None, service: Service | None) -> str:
    """An access point, with the mode that is meant where it has several."""
    if access is None:
        return "the hotspot"
    several = service in access.services and len({item.mode for item in access.services}) > 1
    return f"{access.by_site} on {MODE_WORDS[service.mode]}" if service is not None and several else access.by_site


def judge(case: Case, present: Plan, named: Iterable[str], profiles: Mapping[str, Profile], today: date) -> Judged:
    """How the answer stands: which slips are named rightly, which are repaired in the copy as it is now, what is newly wrong.

    Whoever takes away what is wrong, makes it receive-only or puts the finding aside has repaired nothing.
    """
    evaluate = Evaluator(profiles).evaluate
    heeded = replace(present, silenced=case.sound.silenced)
    now, before = evaluate(PlanIndex(heeded, today)), _keys(evaluate(PlanIndex(case.sound, today)))
    intact = _intact(case.sound, present)
    there = _keys(now)
    seeded = {item.finding.key for item in case.faults}
    keys = {item.slip.key for item in case.faults}
    rules = {rule for item in case.faults for rule in item.slip.rules}
    repaired = {
        item.slip.key
        for item in case.faults
        if intact
        and item.finding.key not in there
        and not any(found.rule.name in item.slip.rules and found.key not in before for found in now)
    }
    new = [
        item
        for item in now
        if item.severity == "stop" and item.key not in before and item.key not in seeded and item.rule.name not in rules
    ]
    return Judged(frozenset(named) & keys, frozenset(repaired), tuple(new), intact)
