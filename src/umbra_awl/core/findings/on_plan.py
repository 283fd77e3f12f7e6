"""Rules on the plan as a whole: identity and licence, names that meet when cut, lists over a radio's limits."""

from collections.abc import Iterator, Mapping

from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.facts.dmr import radio_id_fault
from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.fit.profile import Profile
from umbra_awl.core.plan.edit_station import set_call
from umbra_awl.core.plan.edits import set_fields
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Identity, OwnedRadio, Route, Zone
from umbra_awl.core.plan.permit import guard_permit
from umbra_awl.core.routes.lists import counts_of_all, members_of_all, zones_in_force
from umbra_awl.core.routes.names import fold
from umbra_awl.core.routes.punch import set_route

BAD_CALL = Rule(
    "call-sign", "warn", "Call sign missing or malformed",
    "Every transmission is identified by the call sign, and networks refuse a malformed one.",
)  # fmt: skip
BAD_ID = Rule(
    "dmr-id", "warn", "DMR ID missing or malformed",
    "Networks know you by your ID. With a digit missing you are nobody, or somebody else.",
)  # fmt: skip
GUARD_ON = Rule(
    "guard-on", "note", "Everything is receive-only",
    "The receive-only guard keeps a radio from transmitting by accident. It stays on until the licence is granted; "
    "then it is yours to lift.",
)  # fmt: skip
NAMES_MEET = Rule(
    "names-meet", "warn", "Names meet when cut",
    "A name made by hand is cut at the end of the display. When two are the same there, nobody knows which knob position "
    "is which; the second one is told apart by a number.",
)  # fmt: skip
ZONE_LONG = Rule(
    "zone-over-limit", "note", "Zone longer than the knob",
    "A zone that does not fit the radio is split into several, in its order.",
)  # fmt: skip
SCAN_LONG = Rule(
    "scan-over-limit", "warn", "Scan list over its limit",
    "A radio scans a limited number of channels in one list; the rest is not scanned.",
)  # fmt: skip
UNKNOWN_PROFILE = Rule(
    "unknown-profile", "stop", "No profile for this radio",
    "The profile tells what a radio can hold. Without one it cannot be fitted.",
)  # fmt: skip


def check_plan(index: PlanIndex, profiles: Mapping[str, Profile]) -> Iterator[Finding]:
    """All findings that need the whole plan."""
    for identity in index.plan.station.identities:
        yield from _check_identity(index, identity)
    if not guard_permit(index.plan.station.licence).allowed:
        yield Finding(GUARD_ON, Target("licence", ""), guard_permit(index.plan.station.licence).reason)
    for radio in index.plan.radios:
        carried = index.identity_of(radio)
        if carried is not None and carried.licence is not None and not guard_permit(carried.licence).allowed:
            reason = guard_permit(carried.licence).reason
            text = f"{radio.name} is programmed for {carried.call or carried.name}. {reason}"
            yield Finding(GUARD_ON, Target("radio", radio.key), text)
    zones = zones_in_force(index) if index.plan.radios else ()
    counts = counts_of_all(index, (*zones, *index.plan.scans)) if index.plan.radios else {}
    pinned = [route for route in index.plan.routes if route.name]
    for radio in index.plan.radios:
        profile = profiles.get(radio.profile)
        if profile is None:
            text = f"“{radio.name}” wants the profile “{radio.profile}”, which is not here."
            yield Finding(UNKNOWN_PROFILE, Target("radio", radio.key), text)
            continue
        yield from _check_names(index, radio, profile, pinned)
        yield from _check_zones(radio, profile, zones, counts)
        yield from _check_scans(index, radio, profile, counts)


def _check_identity(index: PlanIndex, identity: Identity) -> Iterator[Finding]:
    target = Target("identity", identity.key)
    fault = call_sign_fault(identity.call)
    if fault:
        tidy = tidy_call_sign(identity.call)
        mends = tidy and not call_sign_fault(tidy)
        repair = Repair(f"Write {tidy}", set_call(identity.key, tidy)) if mends else None
        yield Finding(BAD_CALL, target, fault, repair)
    if identity.ids or (_carried(index, identity) and any(network.mode == "dmr" for network in index.plan.networks)):
        numbers: list[int | None] = [*(item.number for item in identity.ids)] or [None]
        faults = [text for number in numbers if (text := radio_id_fault(number))]
        if faults:
            yield Finding(BAD_ID, target, faults[0])


def _carried(index: PlanIndex, identity: Identity) -> bool:
    """Whether a radio carries an identity, or it is the owner's."""
    owner = index.plan.station.identities[0]
    return identity is owner or any(index.identity_of(radio) is identity for radio in index.plan.radios)


def _check_names(index: PlanIndex, radio: OwnedRadio, profile: Profile, pinned: list[Route]) -> Iterator[Finding]:
    rules = profile.display.rules
    first: dict[str, Route] = {}
    for route in pinned:
        cut = fold(route.name, rules)[: rules.length].strip()
        earlier = first.setdefault(cut, route)
        if earlier is route:
            continue
        text = f"“{earlier.name}” and “{route.name}” both become {cut} on {radio.name}."
        repair = Repair("Name it by rule", set_route(index, route.key, "Name by rule", name=""))
        yield Finding(NAMES_MEET, Target("route", route.key), text, repair, radio.key)


def _check_zones(
    radio: OwnedRadio, profile: Profile, zones: tuple[Zone, ...], counts: dict[str, int]
) -> Iterator[Finding]:
    most = profile.limits.zone_channels
    for zone in zones:
        count = counts[zone.key]
        if count > most and (radio.zones is None or zone.key in radio.zones):
            text = f"{zone.name} has {count} routes; {radio.name} takes {most} in a zone, so it becomes {-(-count // most)}."
            yield Finding(ZONE_LONG, Target("zone", zone.key), text, None, radio.key)


def _check_scans(index: PlanIndex, radio: OwnedRadio, profile: Profile, counts: dict[str, int]) -> Iterator[Finding]:
    most = profile.limits.scan_members
    for scan in index.plan.scans:
        if counts[scan.key] > most:
            keys = members_of_all(index, (scan,))[scan.key][:most]
            text = f"{scan.name} has {counts[scan.key]} routes; {radio.name} scans {most}."
            cut = set_fields("scans", scan.key, f"Cut {scan.name} to {most}", by="hand", members=keys)
            yield Finding(SCAN_LONG, Target("scan", scan.key), text, Repair(f"Keep the first {most}", cut), radio.key)
