"""What the inspector says of a selected crossing: what the access point says, and what the route adds.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable, Iterator
from functools import partial
from typing import Any

from umbra_awl.core.facts.modes import ByMode
from umbra_awl.core.plan.edit.edit_station import licence_of, whose_licence
from umbra_awl.core.plan.model import AccessPoint, Destination, DmrAir, OwnedRadio, Route, Service
from umbra_awl.core.plan.permit import guard_permit, in_force
from umbra_awl.core.routes.punch import set_route
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.access_fields import frequency_fields
from umbra_awl.desk.parts.cards.fields import RULE, Choice, Field
from umbra_awl.desk.parts.cards.late_choices import LateChoices
from umbra_awl.desk.parts.cards.mode_fields import HEARS_WORDS, talk_groups

ADMIT_WORDS = {"always": "always", "free": "channel free", "color": "color code free"}


def crossing_fields(bench: Workbench, access: AccessPoint, service: Service, destination: Destination) -> list[Field]:
    """The fields of a crossing: what the access point says, what the route adds, its names on each radio."""
    route = bench.route
    fields = frequency_fields(bench, access, service)
    made = _OF_MODE.get(service.mode)
    if made is not None:
        fields = made(fields, bench, access, service, destination)
    if route is None:
        return fields
    fields.append(RULE)
    fields.extend(_route_fields(bench, route, service))
    fields.append(RULE)
    fields.extend(_name_fields(bench, route))
    return fields


def _transmits_words(bench: Workbench, route: Route) -> str:
    """Whether the channel transmits, as the chosen radio would have it: under the guard none does yet."""
    if route.receive_only:
        return "only listens"
    who = whose_licence(bench.plan, bench.radio.identity) if bench.radio is not None else ""
    held = not guard_permit(in_force(licence_of(bench.plan, who), bench.clock.today())).allowed
    return "yes, once the guard is lifted" if held else "yes"


def _carried_field(bench: Workbench, service: Service, destination: Destination) -> Field:
    network = bench.index.network_of(service)
    static = [str(item.slot) for item in service.air.static if item.destination == destination.key]  # type: ignore[union-attr]
    if static:
        return Field("Network", f"always, on slot {' and '.join(static)}")
    if destination.kind == "group" and network is not None:
        quiet = f", {network.quiet_minutes} min" if network.quiet_minutes else ""
        return Field("Network", f"on demand{quiet}", tip="Joins when someone keys up, leaves after a quiet time")
    words = {"dial": "dialled by number", "local": "stays local", "echo": "answers you only"}
    return Field("Network", words.get(destination.kind, destination.kind))


def _route_fields(bench: Workbench, route: Route, service: Service) -> list[Field]:
    def one(label: str, word: str, options: list[tuple[str, str, dict[str, Any]]]) -> Field:
        choices = [
            Choice(
                text,
                partial(bench.do, set_route(bench.index, route.key, f"{label} {text}", **fields)),
                text == word,
            )
            for text, _tip, fields in options
        ]
        return Field(label, word, choices=choices, half=label not in {"Admit", "Hears"})

    powers = _power_field(bench, route)
    sends = [("yes", "", {"receive_only": False}), ("only listens", "", {"receive_only": True})]
    transmits = one("Transmits", _transmits_words(bench, route), sends)
    if not isinstance(service.air, DmrAir):
        return [transmits, powers]
    air = service.air
    slots = one("Slot", str(route.slot), [(str(slot), "", {"slot": slot}) for slot in air.slots])
    fields = [slots, transmits, powers]
    fields.append(_hears_field(bench, route, air))
    admits = [(words, "", {"admit": key}) for key, words in ADMIT_WORDS.items()]
    fields.append(one("Admit", ADMIT_WORDS[route.admit or air.admit], admits))
    if route.color_code is not None:
        own = [(f"{air.color_code} (as the access point)", "", {"color_code": None})]
        fields.append(one("Own cc", str(route.color_code), [*own, (str(route.color_code), "", {})]))
    return fields


POWER_WORDS = {"auto": "proposed", "high": "highest", "low": "lowest"}


def _power_field(bench: Workbench, route: Route) -> Field:
    """What all radios send with, and each step of the chosen radio for it alone."""
    from umbra_awl.core.fit.choices import power_on_radio

    radio, fit = bench.radio, bench.fit
    profile = bench.profiles.get(radio.profile) if radio is not None else None
    choices = [
        Choice(
            word,
            partial(bench.do, set_route(bench.index, route.key, f"Power {word}", power=value)),
            value == route.power,
        )
        for value, word in POWER_WORDS.items()
    ]
    shown = POWER_WORDS[route.power]
    if radio is None or profile is None:
        return Field("Power", shown, choices=choices)
    pinned = next((item.step for item in radio.powers if item.route == route.key), None)
    steps = [(step, f"{watts:g} W") for step, watts in enumerate(profile.power_watts)]
    choices += [
        Choice(f"{radio.name}: {word}", partial(bench.do, power_on_radio(radio, route.key, step, word)), step == pinned)
        for step, word in steps
    ]
    if pinned is not None:
        choices.append(
            Choice(
                f"{radio.name}: as the plan", partial(bench.do, power_on_radio(radio, route.key, None, "as the plan"))
            )
        )
    channel = fit.channel_of(route.key) if fit is not None else None
    watts = f", {profile.power_watts[min(channel.power, len(steps) - 1)]:g} W" if channel is not None else ""
    tip = "Proposed: the least through one's own hotspot, elsewhere the most that licence and radio allow"
    return Field("Power", f"{shown}{watts}", choices=choices, tip=tip)


def _hears_field(bench: Workbench, route: Route, air: DmrAir) -> Field:
    """What opens the speaker: the access point's rule, anything, or talk groups chosen one by one."""
    there = bench.index.destinations

    def choice(words: str, chosen: bool, **fields: Any) -> Choice:
        return Choice(words, partial(bench.do, set_route(bench.index, route.key, f"Hear {words}", **fields)), chosen)

    rule = HEARS_WORDS[air.hears]
    held = (route.destination,) if route.hears is None else route.hears

    def choices() -> Iterator[Choice]:
        by_rule = route.hears is None and not route.promiscuous
        yield choice(f"{rule} (rule of the access point)", by_rule, hears=None, promiscuous=False)
        yield choice("anything on the slot", route.promiscuous, promiscuous=True)
        for key in talk_groups(bench, route.service, air):
            on = route.hears is not None and key in held
            wanted = tuple(name for name in held if name != key) if on else (*held, key)
            yield choice(there[key].name, on, hears=wanted, promiscuous=False)

    if route.promiscuous:
        shown = "anything on the slot"
    elif route.hears is None:
        shown = rule
    else:
        shown = ", ".join(there[key].name for key in route.hears if key in there) or "nothing"
    return Field("Hears", shown, choices=LateChoices(choices), tip="The rule, or talk groups one by one")


def _meets(bench: Workbench, route: Route, name: str) -> str:
    """On which radio a name of one's own would be the same as another."""
    from umbra_awl.core.routes.names_edit import met_by

    mode = bench.index.services[route.service][1].mode
    for radio in bench.plan.radios:
        profile = bench.profiles.get(radio.profile)
        if profile is not None and mode in profile.modes:
            other = met_by(bench.plan, route, name, profile.display.rules, profile.modes)
            if other:
                return (
                    f"On {radio.name} that is cut to the same as “{other}”; one of the two is told apart by a number."
                )
    return ""


def _modes(bench: Workbench, radio: OwnedRadio) -> tuple[str, ...]:
    profile = bench.profiles.get(radio.profile)
    return profile.modes if profile is not None else ()


def _name_fields(bench: Workbench, route: Route) -> list[Field]:
    def commit(text: str) -> str:
        name = "" if text.casefold() in {"by rule", ""} else text
        met = _meets(bench, route, name) if name else ""
        if (
            bench.do(set_route(bench.index, route.key, f"Name it {name}" if name else "Name by rule", name=name))
            and met
        ):
            bench.say(met)
        return ""

    fields = [
        Field(
            "Name",
            route.name or "by rule",
            commit=commit,
            text=route.name,
            tip="A name of your own; empty for one by rule",
        )
    ]
    fresh = bench.worked.fresh
    mode = bench.index.services[route.service][1].mode
    able = [radio for radio in bench.plan.radios if mode in _modes(bench, radio)]
    if not able:
        fields.append(Field("Radios", "none of yours has this mode"))
    for radio in able:
        fit = bench.worked.results.fits.get(radio.key)
        named = fit.names.get(route.key) if fit is not None and fresh else None
        fields.append(
            Field(
                radio.name,
                named.name if named else "…" if not fresh else "not on it",
                True,
                tip=named.full if named else "",
            )
        )
    return fields


def _dmr_crossing(
    fields: list[Field], bench: Workbench, _access: AccessPoint, service: Service, destination: Destination
) -> list[Field]:
    return [*fields, _carried_field(bench, service, destination)]


def _dstar_crossing(
    fields: list[Field], bench: Workbench, access: AccessPoint, service: Service, destination: Destination
) -> list[Field]:
    from umbra_awl.desk.routes.digital_fields import dstar_fields

    return [*dstar_fields(bench, access, service, destination), *fields]


def _fusion_crossing(
    fields: list[Field], bench: Workbench, access: AccessPoint, service: Service, destination: Destination
) -> list[Field]:
    from umbra_awl.desk.routes.digital_fields import fusion_fields

    return [*fields, *fusion_fields(bench, access, service, destination)]


_Made = Callable[[list[Field], Workbench, AccessPoint, Service, Destination], list[Field]]
_OF_MODE: ByMode[_Made] = {
    "fm": lambda fields, *_given: fields,
    "dmr": _dmr_crossing,
    "dstar": _dstar_crossing,
    "fusion": _fusion_crossing,
}
"""What each mode adds to the fields of a crossing; D-STAR says from and to before the frequencies."""
