"""The ten minutes before a net: what is known to be in order, what is not, and what only a person can look at."""

from collections.abc import Iterator, Mapping, Sequence
from datetime import datetime
from typing import Literal, NamedTuple

from umbra_awl.core.agenda.kit import hours_on_a_charge
from umbra_awl.core.agenda.next_steps import Where
from umbra_awl.core.agenda.recurrence import next_meeting, until_words
from umbra_awl.core.agenda.way_there import way_there
from umbra_awl.core.facts.earth import Position
from umbra_awl.core.findings.model import Finding
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.logbook.proof import RouteProof
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Net, OwnedRadio
from umbra_awl.core.plan.permit import guard_permit
from umbra_awl.core.radio.profile import Profile

State = Literal["ok", "look", "ask"]


class NetCheck(NamedTuple):
    """One check: what it is about, how it stands (“ask”: only a person can say), in words, and where it is put right."""

    title: str
    state: State
    words: str
    where: Where | None = None


class NetKnown(NamedTuple):
    """What is known at the moment: fits by radio, profiles, findings, proofs by route, and the radios that hold the plan."""

    fits: Mapping[str, Fit]
    profiles: Mapping[str, Profile]
    findings: Sequence[Finding] = ()
    proofs: Mapping[str, RouteProof] = {}
    holding: frozenset[str] = frozenset()


def ten_minutes(
    index: PlanIndex, known: NetKnown, net: Net, now: datetime, here: Position | None = None
) -> tuple[NetCheck, ...]:
    """The checks before a net, those that are not in order first, those only a person can look at last."""
    way = way_there(index, known.fits, net, here)
    radio = _radio_on(index, known, way.route)
    made = [
        _when(net, now),
        NetCheck(
            "Way there",
            "look" if way.missing or not way.route else "ok",
            way.missing or way.words,
            Where("log", "nets"),
        ),
        *_of_radio(index, known, radio, net),
        *_of_route(index, known, way.route),
        *_by_hand(way.route),
    ]
    places = {"look": 0, "ok": 1, "ask": 2}
    return tuple(sorted(made, key=lambda item: places[item.state]))


def _when(net: Net, now: datetime) -> NetCheck:
    meeting = next_meeting(net, now)
    if meeting is None:
        return NetCheck("Time", "look", "No day of this net is coming: look at its rule.", Where("log", "nets"))
    return NetCheck("Time", "ok", f"{net.name} begins {until_words(meeting.start, now)}, {net.minutes} minutes long.")


def _radio_on(index: PlanIndex, known: NetKnown, route: str) -> OwnedRadio | None:
    """The radio that the way there names: the one that may send on it."""
    sends = [
        key
        for key, fit in known.fits.items()
        if any(channel.route == route and not channel.receive_only for channel in fit.memory.channels)
    ]
    return index.radios.get(sends[-1]) if sends else None


def _of_radio(index: PlanIndex, known: NetKnown, radio: OwnedRadio | None, net: Net) -> Iterator[NetCheck]:
    if radio is None:
        return
    station = index.owners.station_of(radio)
    guard = guard_permit(station.licence)
    yield NetCheck(
        "Licence", "ok" if guard.allowed else "look", "You may transmit." if guard.allowed else f"Listen only: {guard.reason}",
        Where("station", "licence", "Granted"),
    )  # fmt: skip
    holds = radio.key in known.holding
    words = (
        f"The {radio.name} holds the plan as it is."
        if holds
        else f"The {radio.name} was not seen to hold the plan as it is."
    )
    yield NetCheck("Memory", "ok" if holds else "look", words, Where("transfer", "cable"))
    profile = known.profiles.get(radio.profile)
    hours = hours_on_a_charge(profile) if profile is not None else 0.0
    if not hours:
        yield NetCheck("Battery", "ask", f"Is the {radio.name} charged, or on its supply?")
        return
    words = f"A full charge lasts about {hours:.0f} h; the net takes {net.minutes} minutes. Is it charged?"
    yield NetCheck("Battery", "look" if hours < net.minutes / 60 * 1.5 else "ask", words)


def _of_route(index: PlanIndex, known: NetKnown, route: str) -> Iterator[NetCheck]:
    if not route:
        return
    service = index.routes[route].service
    stops = [item for item in known.findings if item.severity == "stop" and item.target.key in {route, service}]
    if stops:
        yield NetCheck("Findings", "look", stops[0].text, Where("routes", "sheet"))
    proof = known.proofs.get(route)
    if proof is None or not proof.rank:
        yield NetCheck(
            "Proof",
            "look",
            "Nobody was worked on this route yet: call the echo, or a friend, before it begins.",
        )
    else:
        age = f", {proof.age}" if proof.age else ""
        changed = f" Since then changed: {', '.join(proof.changed)}." if proof.changed else ""
        state: State = "look" if proof.changed or proof.failed else "ok"
        failed = f" It failed since: {proof.failed}." if proof.failed else ""
        yield NetCheck("Proof", state, f"{proof.grade.capitalize()}{age}.{changed}{failed}", Where("log", "proof"))


def _by_hand(route: str) -> Iterator[NetCheck]:
    yield NetCheck("Listen", "ask", "Do you hear the channel: squelch, volume, the right slot or room?")
    yield NetCheck(
        "Quiet place",
        "ask",
        "Antenna away from screen, computer and chargers: a noise that goes with one is theirs.",
    )
    yield NetCheck("Sound", "ask", "No second receiver or stream in the room: it comes back as an echo of yourself.")
    yield NetCheck("Paper", "ask", "Pen, paper and the log open: calls are written down as they check in.")
    if route:
        yield NetCheck("First over", "ask", "Know what you say: who you are, from where, and that you wait your turn.")
