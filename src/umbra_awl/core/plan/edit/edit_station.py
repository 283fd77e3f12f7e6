"""Edits of the Station stage: identity, licence, guard, region."""

from typing import Any

from msgspec.structs import replace

from umbra_awl.core.facts.bands import Band, Region, bands_for
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.habits import HabitQuestion
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, add_item, swap_item
from umbra_awl.core.plan.model import Identity, Licence, Plan, RadioId
from umbra_awl.core.plan.parts import NETWORKS


def set_identity(key: str, sentence: str, **fields: Any) -> Edit:
    """Change fields of one identity."""

    def apply(plan: Plan) -> Plan:
        identities = swap_item(plan.station.identities, key, lambda item: replace(item, **fields))
        return replace(plan, station=replace(plan.station, identities=identities))

    return Edit(sentence, apply)


def set_habit(question: HabitQuestion, key: str) -> Edit:
    """Choose a way where practitioners disagree; an empty key chooses none."""
    way = question.way(key)

    def apply(plan: Plan) -> Plan:
        habits = replace(plan.station.habits, **{question.field: key})
        return replace(plan, station=replace(plan.station, habits=habits))

    return Edit(f"{question.topic}: {way.words if way else 'nothing chosen'}", apply)


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
    return set_identity(key, f"Set {counted(len(ids), 'DMR ID')}", ids=ids)


def licence_of(plan: Plan, who: str = "") -> Licence:
    """The licence of an identity's own, not granted where it has none yet; the station's when `who` is empty."""
    if not who:
        return plan.station.licence
    own = next((item.licence for item in plan.station.identities if item.key == who), None)
    return own if own is not None else Licence()


def whose_licence(plan: Plan, who: str) -> str:
    """The identity whose licence somebody transmits under; empty for the station's."""
    identities = plan.station.identities
    identity = next((item for item in identities if item.key == who), None)
    shares = identity is None or identity is identities[0] or identity.shares_licence
    return who if identity is not None and (identity.licence is not None or not shares) else ""


def _with_licence(plan: Plan, who: str, licence: Licence) -> Plan:
    if not who:
        return replace(plan, station=replace(plan.station, licence=licence))
    return set_identity(who, "", licence=licence).apply(plan)


def set_licence(sentence: str, who: str = "", **fields: Any) -> Edit:
    """Change fields of the station's licence, or of the one an identity has of its own."""
    return Edit(sentence, lambda plan: _with_licence(plan, who, replace(licence_of(plan, who), **fields)))


def own_licence(who: str, own: bool) -> Edit:
    """Give an identity a licence of its own, not yet granted, or let it transmit under the station's."""
    if own:
        sentence = "Give them a licence of their own, not granted yet"
        return set_identity(who, sentence, licence=Licence(), shares_licence=False)
    return set_identity(who, "Let them transmit under the owner's licence", licence=None, shares_licence=True)


def set_granted(granted: bool, who: str = "") -> Edit:
    """Say whether the licence is granted; taking it back puts the guard on again and lets the date go."""
    if granted:
        return set_licence("Mark the licence as granted", who, granted=True)
    return set_licence(
        "Mark the licence as not granted; the guard is on", who, granted=False, granted_on="", guard=True
    )


def set_guard(on: bool, who: str = "") -> Edit:
    """Put the receive-only guard on, or lift it. Lifting is refused while the licence is not granted."""

    def apply(plan: Plan) -> Plan:
        licence = licence_of(plan, who)
        if not on and not licence.granted:
            raise EditRefused("The guard stays on until the licence is granted. Mark the licence as granted first.")
        return _with_licence(plan, who, replace(licence, guard=on))

    return Edit("Put the receive-only guard on" if on else "Lift the receive-only guard", apply)


def set_station(sentence: str, **fields: Any) -> Edit:
    """Change fields of the station: position in degrees, place, antenna height in metres, privacy."""
    return Edit(sentence, lambda plan: replace(plan, station=replace(plan.station, **fields)))


def remove_identity(key: str, name: str) -> Edit:
    """Take an identity out. The owner stays, and so does whoever radios are programmed for.

    Their radios are not handed to the owner silently: they would transmit under another licence from then on.
    """

    def apply(plan: Plan) -> Plan:
        identities = plan.station.identities
        if not identities or identities[0].key == key:
            raise EditRefused("The first identity is the owner's and stays. Change its fields instead.")
        theirs = [radio.name for radio in plan.radios if radio.identity == key]
        if theirs:
            raise EditRefused(
                f"{', '.join(theirs)} {'is' if len(theirs) == 1 else 'are'} programmed for {name or 'them'}. Choose at Radios "
                "for whom instead, or remove the radio first."
            )
        kept = tuple(item for item in identities if item.key != key)
        return replace(plan, station=replace(plan.station, identities=kept))

    return Edit(f"Remove {name or 'the identity'}", apply)


def set_region(region: Region) -> Edit:
    """Set the IARU region; the operator's own band edges, if any, stay."""
    return Edit(f"Set IARU region {region}", lambda plan: replace(plan, station=replace(plan.station, region=region)))


def set_band_edges(band: Band) -> Edit:
    """Put the operator's own edges in place of a band's, or add a band; from then on the plan carries its whole table."""
    if band.low_hz >= band.high_hz:
        raise EditRefused(
            f"{band.name} would end at {format_mhz(band.high_hz)} before it begins. Type the lower edge first."
        )

    def apply(plan: Plan) -> Plan:
        table = bands_for(plan.station.region, plan.station.bands)
        bands = tuple(band if item.name == band.name else item for item in table)
        if band not in bands:
            bands = tuple(sorted((*bands, band), key=lambda item: item.low_hz))
        return replace(plan, station=replace(plan.station, bands=_own_or_usual(plan, bands)))

    return Edit(f"Set {band.name} to {format_mhz(band.low_hz)} to {format_mhz(band.high_hz)}", apply)


def _own_or_usual(plan: Plan, bands: tuple[Band, ...]) -> tuple[Band, ...]:
    """No own table at all when it is the region's."""
    return () if bands == bands_for(plan.station.region) else bands


def usual_band(name: str) -> Edit:
    """Go back to the region's own edges of one band; a band that the region's table has not is taken out."""

    def apply(plan: Plan) -> Plan:
        usual = {band.name: band for band in bands_for(plan.station.region)}
        table = bands_for(plan.station.region, plan.station.bands)
        bands = tuple(usual.get(name, band) if band.name == name else band for band in table)
        kept = tuple(band for band in bands if band.name != name or name in usual)
        return replace(plan, station=replace(plan.station, bands=_own_or_usual(plan, kept)))

    return Edit(f"Go back to the region's edges of {name}", apply)


def add_network(item: Any) -> Edit:
    """Add a network."""
    return add_item(NETWORKS, item, f"Add the network {item.name}")
