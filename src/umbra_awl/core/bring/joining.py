"""What was brought in as a new plan, or as one edit of a plan."""

from msgspec.structs import replace

from umbra_awl.core.bring.recognise import RecognisedMemory
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.plan.edit.edits import Edit, fresh_key
from umbra_awl.core.plan.model import Identity, Licence, OwnedRadio, Plan, RadioId, Station, Zone
from umbra_awl.core.radio.memory import Memory


def as_plan(brought: RecognisedMemory, name: str, radio: str, profile: str) -> Plan:
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
        radios=(OwnedRadio(fresh_key(radio, ()), radio, profile, "me", powers=brought.powers),),
    )


def bring_into(brought: RecognisedMemory, radio: str = "", profile: str = "") -> Edit:
    """One edit that puts what a plan lacks into it, and the radio when its name and profile are given.

    The radio is whose its memory says: somebody the plan does not know comes along, without a licence. A zone whose name the plan
    has already by a rule stays the plan's; one made by hand takes the new members.
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
        plan, radios = _with_radio(plan, brought, radio, profile) if radio and profile else (plan, plan.radios)
        return replace(
            plan,
            access=(*plan.access, *brought.access),
            destinations=(*plan.destinations, *brought.destinations),
            routes=(*plan.routes, *brought.fresh),
            zones=tuple(zones),
            scans=(*plan.scans, *(scan for scan in brought.scans if scan.name.casefold() not in names)),
            radios=radios,
        )

    return Edit(f"Bring in {counted(count, 'route')}", apply)


def _with_radio(plan: Plan, brought: RecognisedMemory, name: str, profile: str) -> tuple[Plan, tuple[OwnedRadio, ...]]:
    """The plan with whose radio it is, and its radios with this one."""
    memory = brought.memory
    owner = _whose(plan, memory)
    if owner is None:
        owner = _stranger(plan, memory)
        station = replace(plan.station, identities=(*plan.station.identities, owner))
        plan = replace(plan, station=station)
    radio = OwnedRadio(fresh_key(name, (item.key for item in plan.radios)), name, profile, owner.key)
    radio = replace(radio, powers=brought.powers)
    return plan, (*plan.radios, radio)


def _whose(plan: Plan, memory: Memory) -> Identity | None:
    """Who of the plan has the call sign or the ID of a memory; the owner where it names nobody."""
    known = plan.station.identities
    if not memory.call.strip() and not memory.dmr_id:
        return known[0] if known else None
    call = memory.call.strip().casefold()
    by_call = [item for item in known if call and item.call.strip().casefold() == call]
    by_id = [item for item in known if not call and memory.dmr_id in {one.number for one in item.ids}]
    return next(iter(by_call or by_id), None)


def _stranger(plan: Plan, memory: Memory) -> Identity:
    """Somebody whom a radio speaks of and the plan does not know: a licence of their own, not granted."""
    call = memory.call.strip()
    ids = (RadioId(memory.dmr_id, "from the radio"),) if memory.dmr_id else ()
    key = fresh_key(call or "radio", (item.key for item in plan.station.identities))
    return Identity(key, call, ids=ids, licence=Licence(), dstar_note=memory.note, alias=memory.alias)


def _joined(zone: Zone, other: Zone) -> Zone:
    return replace(zone, members=tuple(dict.fromkeys((*zone.members, *other.members))))
