"""Edits of the Station stage: identity, licence, guard, region."""

from typing import Any

from msgspec.structs import replace

from umbra_awl.core.facts.bands import Band, Region, bands_for
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.plan.edits import Edit, EditRefused, add_item, swap_item
from umbra_awl.core.plan.model import Identity, Licence, Plan, RadioId


def set_identity(key: str, sentence: str, **fields: Any) -> Edit:
    """Change fields of one identity."""

    def apply(plan: Plan) -> Plan:
        identities = swap_item(plan.station.identities, key, lambda item: replace(item, **fields))
        return replace(plan, station=replace(plan.station, identities=identities))

    return Edit(sentence, apply)


def add_identity(identity: Identity) -> Edit:
    """Add an identity; the first one is the owner's."""

    def apply(plan: Plan) -> Plan:
        if any(item.key == identity.key for item in plan.station.identities):
            raise EditRefused(f"There is already an identity “{identity.key}”.")
        return replace(plan, station=replace(plan.station, identities=(*plan.station.identities, identity)))

    return Edit(f"Add {identity.call or 'an identity'}", apply)


def set_call(key: str, call: str) -> Edit:
    """Set an identity's call sign."""
    return set_identity(key, f"Set the call sign to {call or 'none'}", call=call)


def set_ids(key: str, ids: tuple[RadioId, ...]) -> Edit:
    """Set an identity's DMR IDs. The sentence keeps the numbers masked."""
    return set_identity(key, f"Set {len(ids)} DMR ID{'' if len(ids) == 1 else 's'}", ids=ids)


def set_licence(sentence: str, **fields: Any) -> Edit:
    """Change fields of the licence."""

    def apply(plan: Plan) -> Plan:
        licence: Licence = replace(plan.station.licence, **fields)
        return replace(plan, station=replace(plan.station, licence=licence))

    return Edit(sentence, apply)


def set_granted(granted: bool) -> Edit:
    """Say whether the licence is granted; taking it back puts the guard on again."""
    if granted:
        return set_licence("Mark the licence as granted", granted=True)
    return set_licence("Mark the licence as not granted; the guard is on", granted=False, guard=True)


def set_guard(on: bool) -> Edit:
    """Put the receive-only guard on, or lift it. Lifting is refused while the licence is not granted."""

    def apply(plan: Plan) -> Plan:
        licence = plan.station.licence
        if not on and not licence.granted:
            raise EditRefused("The guard stays on until the licence is granted. Mark the licence as granted first.")
        return replace(plan, station=replace(plan.station, licence=replace(licence, guard=on)))

    return Edit("Put the receive-only guard on" if on else "Lift the receive-only guard", apply)


def set_region(region: Region) -> Edit:
    """Set the IARU region; the operator's own band edges, if any, stay."""
    return Edit(f"Set IARU region {region}", lambda plan: replace(plan, station=replace(plan.station, region=region)))


def set_band_edges(band: Band) -> Edit:
    """Put the operator's own edges in place of a band's; from then on the plan carries its whole table."""
    if band.low_hz >= band.high_hz:
        raise EditRefused(
            f"{band.name} would end at {format_mhz(band.high_hz)} before it begins. Type the lower edge first."
        )

    def apply(plan: Plan) -> Plan:
        table = bands_for(plan.station.region, plan.station.bands)
        bands = tuple(band if item.name == band.name else item for item in table)
        return replace(plan, station=replace(plan.station, bands=bands))

    return Edit(f"Set {band.name} to {format_mhz(band.low_hz)} to {format_mhz(band.high_hz)}", apply)


def usual_bands() -> Edit:
    """Go back to the region's own band table."""
    return Edit(
        "Go back to the region's band edges", lambda plan: replace(plan, station=replace(plan.station, bands=()))
    )


def add_network(item: Any) -> Edit:
    """Add a network."""
    return add_item("networks", item, f"Add the network {item.name}")
