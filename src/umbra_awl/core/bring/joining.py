"""What was brought in as a new plan, or as one edit of a plan."""

from msgspec.structs import replace

from umbra_awl.core.bring.recognise import Brought
from umbra_awl.core.plan.edits import Edit, fresh_key
from umbra_awl.core.plan.model import Identity, OwnedRadio, Plan, RadioId, Station, Zone


def as_plan(brought: Brought, name: str, radio: str, profile: str) -> Plan:
    """A new plan of what a memory holds, with its radio; nothing may transmit until the licence is entered."""
    memory = brought.memory
    ids = (RadioId(memory.dmr_id, "from the radio"),) if memory.dmr_id else ()
    identity = Identity("me", memory.call, ids=ids, dstar_note=memory.note, alias=memory.alias)
    return Plan(
        name=name,
        station=Station((identity,)),
        access=brought.access,
        destinations=brought.destinations,
        routes=brought.fresh,
        zones=brought.zones,
        scans=brought.scans,
        radios=(OwnedRadio(fresh_key(radio, ()), radio, profile, "me"),),
    )


def bring_into(brought: Brought, radio: str = "", profile: str = "") -> Edit:
    """One edit that puts what a plan lacks into it, and the radio when its name and profile are given.

    A zone whose name the plan has already by a rule stays the plan's; one made by hand takes the new members.
    """
    count = len(brought.fresh)

    def apply(plan: Plan) -> Plan:
        zones = list(plan.zones)
        for zone in brought.zones:
            at = next((place for place, item in enumerate(zones) if item.name.casefold() == zone.name.casefold()), -1)
            if at < 0:
                zones.append(zone)
            elif zones[at].by == "hand":
                zones[at] = _joined(zones[at], zone)
        names = {scan.name.casefold() for scan in plan.scans}
        radios = plan.radios
        if radio and profile:
            radios = (*radios, OwnedRadio(fresh_key(radio, (item.key for item in radios)), radio, profile))
        return replace(
            plan,
            access=(*plan.access, *brought.access),
            destinations=(*plan.destinations, *brought.destinations),
            routes=(*plan.routes, *brought.fresh),
            zones=tuple(zones),
            scans=(*plan.scans, *(scan for scan in brought.scans if scan.name.casefold() not in names)),
            radios=radios,
        )

    return Edit(f"Bring in {count} route{'' if count == 1 else 's'}", apply)


def _joined(zone: Zone, other: Zone) -> Zone:
    return replace(zone, members=tuple(dict.fromkeys((*zone.members, *other.members))))
