"""What to do next, read from the plan: plain logic without widgets."""

from datetime import date
from typing import NamedTuple

from umbra_awl.core.facts.callsign import call_sign_fault
from umbra_awl.core.facts.dmr import radio_id_fault
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.permit import in_force


class NextStep(NamedTuple):
    """A step on the way: done or not, its words, and the stage where it is done (“finding”: the first that stops)."""

    done: bool
    words: str
    stage: str


def steps_of(plan: Plan, stops: int = 0) -> list[NextStep]:
    """The steps from an empty plan to a programmed radio, in working order; `stops` findings stop it."""
    station = plan.station
    licence = in_force(station.licence, date.today())
    owner = station.identities[0] if station.identities else None
    ids = [item.number for item in owner.ids] if owner else []
    dmr = any(service.mode == "dmr" for access in plan.access for service in access.services)
    steps = [
        NextStep(bool(owner and not call_sign_fault(owner.call)), "Give your call sign", "station"),
        NextStep(licence.granted, "Mark the licence as granted when it is", "station"),
        NextStep(station.lat is not None, "Say where you are", "station"),
        NextStep(bool(plan.access), "Take the access points around you", "access"),
        NextStep(bool(plan.destinations), "Add whom you want to reach", "routes"),
        NextStep(bool(plan.routes), "Punch the routes you use", "routes"),
        NextStep(bool(plan.radios), "Say which radios you own", "radios"),
        NextStep(
            not stops,
            f"Repair what stops: {stops} finding{'' if stops == 1 else 's'}" if stops else "Nothing stops the plan",
            "finding",
        ),
        NextStep(
            not licence.guard and licence.granted,
            "Lift the guard when you are ready to transmit",
            "station",
        ),
    ]
    if ids or dmr:
        known = bool(ids) and not any(map(radio_id_fault, ids))
        steps.insert(1, NextStep(known, "Give your DMR ID, once you have it", "station"))
    return steps
